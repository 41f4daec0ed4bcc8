"""The equations of IEEE Std 1584-2018 for one electrode configuration and one voltage class, numbers or arrays.

Nothing is checked here. Source: IEEE Std 1584-2018, clauses 4.3 to 4.10; coefficients from memory
(core/tables/ieee1584_2018).
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from spinel.core.quantities import BOUNDARY_ENERGY_J_CM2
from spinel.core.tables import ieee1584_2018 as table

MODEL_VOLTAGES = (600, 2700, 14300)
#: The model's own factor from millimetres to inches, clause 4.8.
INCH = 0.03937
Number = Any


def log10(x: Number) -> Number:
    """Of a number or an array."""
    return np.log10(x) if isinstance(x, np.ndarray) else math.log10(x)


def pick(condition: Any, this: Number, that: Number) -> Number:
    """``this`` where the condition holds, else ``that``."""
    return np.where(condition, this, that) if isinstance(condition, np.ndarray) else (this if condition else that)


def polynomial(coefficients: tuple[float, ...], x: Number) -> Number:
    """Highest power first; leading zeros cost nothing."""
    first = next((i for i, c in enumerate(coefficients) if c), len(coefficients) - 1)
    total: Number = coefficients[first]
    for c in coefficients[first + 1 :]:
        total = total * x + c
    return total


def arcing(configuration: str, high: bool, voltage_v: Number, gap_mm: Number, ibf: Number) -> tuple[Any, ...]:
    """Equations 1, 2 and 16 to 25: intermediate currents, final one, variation, reduced fraction, reduced current."""
    kv = voltage_v / 1000
    log_ibf, log_gap = log10(ibf), log10(gap_mm)
    intermediate = {}
    for v in MODEL_VOLTAGES if high else MODEL_VOLTAGES[:1]:
        k = table.ARCING_CURRENT[configuration][v]
        intermediate[v] = 10 ** (k[0] + k[1] * log_ibf + k[2] * log_gap) * polynomial(k[3:], ibf)
    final = interpolate(intermediate, kv) if high else low_voltage_current(intermediate[600], ibf, kv)
    variation = polynomial(table.VARIATION[configuration], kv)
    fraction = 1 - 0.5 * variation
    return intermediate, final, variation, fraction, final * fraction


def low_voltage_current(i600: Number, ibf: Number, kv: Number) -> Number:
    """Equation 25, at and below 600 V."""
    return ((0.6 / kv) ** 2 * (1 / i600**2 - (0.36 - kv**2) / (0.36 * ibf**2))) ** -0.5


def interpolate(at: dict[int, Number], kv: Number) -> Number:
    """Equations 16 to 24: between 600 and 2700 V two lines blended, above 2700 V one line."""
    upper = (at[14300] - at[2700]) / 11.6 * (kv - 14.3) + at[14300]
    lower = (at[2700] - at[600]) / 2.1 * (kv - 2.7) + at[2700]
    return pick(kv > 2.7, upper, lower * (2.7 - kv) / 2.1 + upper * (kv - 0.6) / 2.1)


def at_voltage(at: dict[int, Number], voltage_v: Number) -> Number:
    """A quantity at the system voltage from its values at the model's voltages (one at and below 600 V)."""
    return at[600] if len(at) == 1 else interpolate(at, voltage_v / 1000)


def box_factor(configuration: str, voltage_v: Number, height: Number, width: Number, depth: Number) -> tuple[Any, ...]:
    """Clause 4.8 and tables 6 and 7: correction factor, whether shallow, equivalent width and height in inches.

    An unknown depth is NaN: typical.
    """
    shallow = (voltage_v < 600) & (height < 508) & (width < 508) & (depth <= 203.2)
    wide = _equivalent_side(width, configuration, voltage_v, shallow, formula_above=True)
    high = _equivalent_side(height, configuration, voltage_v, shallow, formula_above=configuration != "VCB")
    size = (high + wide) / 2
    typical, flat = (polynomial(table.BOX[kind][configuration], size) for kind in ("typical", "shallow"))
    return pick(shallow, 1 / flat, typical), shallow, wide, high


def _equivalent_side(side: Number, configuration: str, voltage_v: Number, shallow: Any, formula_above: bool) -> Number:
    """Equivalent width or height in inches (table 6). A vertical box uses its height as it is, to 49 in."""
    capped = np.minimum(side, 1244.6) if isinstance(side, np.ndarray) else min(side, 1244.6)
    if formula_above:
        a, b = table.BOX_EQUIVALENT[configuration]
        above = (660.4 + (capped - 660.4) * (voltage_v / 1000 + a) / b) / 25.4
    else:
        above = pick(side <= 1244.6, INCH * capped, 49.0)
    return pick(side < 508, pick(shallow, INCH * side, 20.0), pick(side <= 660.4, INCH * side, above))


def energies(
    configuration: str, high: bool, gap_mm: Number, distance_mm: Number, factor: Number, ibf: Number,
    intermediate: dict[int, Number], final: Number, fraction: Number, duration_ms: Number,
) -> tuple[dict[int, Number], dict[int, Number]]:  # fmt: skip
    """Equations 3 to 10: energy in J/cm² and boundary in mm at each of the model's voltages."""
    log_ibf, log_gap, log_factor = log10(ibf), log10(gap_mm), log10(factor)
    log_distance, log_time = log10(distance_mm), log10(duration_ms)
    joule, boundary = {}, {}
    for v, current in intermediate.items():
        k = table.ENERGY[configuration][v]
        # at and below 600 V the fraction keeps the full intermediate current, the logarithm takes the reduced final
        inside = current * fraction if high else current
        outside = inside if high else final * fraction
        exponent = (
            k[0] + k[1] * log_gap + k[2] * inside / (polynomial(k[3:10], ibf) * ibf)
            + k[10] * log_ibf + k[12] * log10(outside) - log_factor
        )  # fmt: skip
        joule[v] = 12.552 / 50 * 10 ** (exponent + log_time + k[11] * log_distance)
        boundary[v] = 10 ** ((exponent + log_time - _LOG_20) / -k[11])
    return joule, boundary


def distance_of(configuration: str, v: int, joule: Number, at_mm: Number) -> Number:
    """Where an intermediate energy that is ``joule`` at ``at_mm`` has fallen to the threshold, 5.0208 J/cm²."""
    return at_mm * (joule / BOUNDARY_ENERGY_J_CM2) ** (1 / -table.ENERGY[configuration][v][11])


_LOG_20 = math.log10(20)
