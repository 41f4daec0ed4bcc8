"""Arcing current and incident energy of IEEE 1584-2018, one place after the other.

The same numbers as ``arcflash/ieee1584_2018/formulas`` gives, which the tests hold against these.
"""

from __future__ import annotations

import math

import numpy as np

from spinel.core.compiled import compiled
from spinel.core.compiled.tables import ArcTable


@compiled
def intermediate_ka(t: ArcTable, k: int, j: int, ibf: float, log_ibf: float) -> float:
    """Equation 1 at one of the model's voltages."""
    c = t.current[k, j]
    total = c[3]
    for n in range(4, 10):
        total = total * ibf + c[n]
    return float(10.0 ** (c[0] + c[1] * log_ibf + c[2] * t.log_gap[k]) * total)


@compiled
def at_voltage(t: ArcTable, k: int, v: np.ndarray) -> float:
    """Equations 16 to 24: a quantity at the voltage of a place, from those at the model's."""
    if not t.high[k]:
        return float(v[0])
    kv = t.kv[k]
    upper = (v[2] - v[1]) / 11.6 * (kv - 14.3) + v[2]
    if kv > 2.7:
        return float(upper)
    lower = (v[1] - v[0]) / 2.1 * (kv - 2.7) + v[1]
    return float(lower * (2.7 - kv) / 2.1 + upper * (kv - 0.6) / 2.1)


@compiled
def arcing_ka(t: ArcTable, k: int, ibf: float, between: np.ndarray) -> float:
    """Full arcing current at a place, kA; the intermediate ones into ``between``, NaN where the model has none."""
    log_ibf = math.log10(ibf)
    between[:] = np.nan
    between[0] = intermediate_ka(t, k, 0, ibf, log_ibf)
    if t.high[k]:
        for j in range(1, len(between)):
            between[j] = intermediate_ka(t, k, j, ibf, log_ibf)
        return at_voltage(t, k, between)
    kv = t.kv[k]
    # equation 25
    return float(((0.6 / kv) ** 2 * (1 / between[0] ** 2 - (0.36 - kv**2) / (0.36 * ibf**2))) ** -0.5)


@compiled
def arcing_part(t: ArcTable, k: int, row: int, bolted_ka: float, between: np.ndarray) -> float:
    """Arcing over bolted current, full (row 0) or reduced (1). Below the range of the method as at its lower end."""
    used = min(max(bolted_ka, t.least_ka[k]), t.most_ka[k])
    found = arcing_ka(t, k, used, between) / used
    return float(found if row == 0 else found * t.fraction[k])


@compiled
def arcing_parts(t: ArcTable, k: np.ndarray, row: np.ndarray, bolted_ka: np.ndarray) -> np.ndarray:
    """The same of many."""
    found, between = np.empty(len(k)), np.empty(3)
    for i in range(len(k)):
        found[i] = arcing_part(t, k[i], row[i], bolted_ka[i], between)
    return found


@compiled
def energies(
    t: ArcTable, k: np.ndarray, row: np.ndarray, ibf: np.ndarray, duration_ms: np.ndarray
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Equations 3 to 6: J/cm² of each entry, its intermediate values (model voltages, entries), NaN where the model has
    none, and arcing current, kA."""
    n = len(k)
    joule, found, current = np.empty(n), np.full((3, n), np.nan), np.empty(n)
    between, own = np.empty(3), np.empty(3)
    for i in range(n):
        at, high = k[i], t.high[k[i]]
        final = arcing_ka(t, at, ibf[i], between)
        fraction = 1.0 if row[i] == 0 else t.fraction[at]
        log_ibf, log_time = math.log10(ibf[i]), math.log10(duration_ms[i])
        for j in range(3 if high else 1):
            c = t.energy[at, j]
            # at and below 600 V the fraction keeps the full intermediate current, the logarithm takes the reduced final
            inside = between[j] * fraction if high else between[j]
            outside = inside if high else final * fraction
            total = c[3]
            for m in range(4, 10):
                total = total * ibf[i] + c[m]
            exponent = (
                c[0] + c[1] * t.log_gap[at] + c[2] * inside / (total * ibf[i])
                + c[10] * log_ibf + c[12] * math.log10(outside) - t.log_factor[at]
            )  # fmt: skip
            own[j] = 12.552 / 50 * 10.0 ** (exponent + log_time + c[11] * t.log_distance[at])
            found[j, i] = own[j]
        joule[i] = at_voltage(t, at, own)
        current[i] = final * fraction
    return joule, found, current
