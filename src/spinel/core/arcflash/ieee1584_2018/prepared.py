"""IEEE 1584-2018 for places that are asked again and again at other currents: everything that follows from the place
alone is worked out once, and the coefficients stand beside each place, so that any mixture is one pass.

The same numbers as ``arrays`` and ``formulas`` give. The caller keeps currents within the model's range.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from spinel.core.arcflash.ieee1584_2018 import formulas
from spinel.core.arcflash.ieee1584_2018.situation import IN_A_BOX
from spinel.core.quantities import BOUNDARY_ENERGY_J_CM2
from spinel.core.tables import ieee1584_2018 as table

_VOLTS = formulas.MODEL_VOLTAGES


class Prepared:
    """``columns``: voltage (V), configuration, gap, working distance, height, width and depth (mm) of the places; NaN,
    or no configuration, where the model does not cover one, which is never asked."""

    def __init__(self, columns: Sequence[np.ndarray]):
        volts, kinds, gap, distance, *sides = columns
        n = len(volts)
        self.volts, self.kv, self.high = volts, volts / 1000, volts > 600
        with np.errstate(invalid="ignore"):
            self.log_gap, self.log_distance, self.distance = np.log10(gap), np.log10(distance), distance
        self.fraction, factor = np.ones(n), np.ones(n)
        #: coefficients of equations 1 and 3 to 6, by model voltage: (coefficients, places)
        self._arc = np.zeros((len(_VOLTS), 10, n))
        self._energy = np.zeros((len(_VOLTS), 13, n))
        for kind in table.CONFIGURATIONS:
            mine = np.flatnonzero(kinds == kind)
            if not len(mine):
                continue
            self.fraction[mine] = 1 - 0.5 * formulas.polynomial(table.VARIATION[kind], self.kv[mine])
            for j, v in enumerate(_VOLTS):
                self._arc[j][:, mine] = np.array(table.ARCING_CURRENT[kind][v])[:, None]
                self._energy[j][:, mine] = np.array(table.ENERGY[kind][v])[:, None]
            if kind in IN_A_BOX:
                factor[mine] = formulas.box_factor(kind, volts[mine], *(s[mine] for s in sides))[0]
        with np.errstate(invalid="ignore"):
            self.log_factor = np.log10(factor)

    def arcing(self, k: np.ndarray, ibf: np.ndarray) -> np.ndarray:
        """Full arcing current of places at bolted fault currents, both kA (equations 1, 2, 16 to 25)."""
        return self._arcing(k, ibf)[1]

    def _arcing(self, k: np.ndarray, ibf: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Intermediate currents (model voltages, entries) and the final one."""
        log_ibf, high = np.log10(ibf), np.flatnonzero(self.high[k])
        between = np.full((len(_VOLTS), len(k)), np.nan)
        between[0] = _intermediate(self._arc[0][:, k], log_ibf, self.log_gap[k], ibf)
        for j in range(1, len(_VOLTS)) if len(high) else ():
            some = k[high]
            between[j, high] = _intermediate(self._arc[j][:, some], log_ibf[high], self.log_gap[some], ibf[high])
        kv = self.kv[k]
        with np.errstate(invalid="ignore"):
            final: np.ndarray = formulas.low_voltage_current(between[0], ibf, kv)
        if len(high):
            final[high] = formulas.interpolate(_by_voltage(between[:, high]), kv[high])
        return between, final

    def energy(
        self, k: np.ndarray, row: np.ndarray, ibf: np.ndarray, duration_ms: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Incident energy in J/cm² over a duration at full (row 0) or reduced (1) arcing current; its intermediate
        values (model voltages, entries), NaN where the model has none; and the arcing current, kA."""
        between, final = self._arcing(k, ibf)
        fraction = np.where(row == 0, 1.0, self.fraction[k])
        log_ibf, log_time, high = np.log10(ibf), np.log10(duration_ms), self.high[k]
        found = np.full(between.shape, np.nan)
        for j in range(len(_VOLTS)):
            some = np.arange(len(k)) if j == 0 else np.flatnonzero(high)
            if not len(some):
                continue
            at, c, current, part = k[some], self._energy[j][:, k[some]], between[j, some], fraction[some]
            # at and below 600 V the fraction keeps the full intermediate current, the logarithm takes the reduced final
            inside = np.where(high[some], current * part, current)
            outside = np.where(high[some], inside, final[some] * part)
            exponent = (
                c[0] + c[1] * self.log_gap[at] + c[2] * inside / (_polynomial(c[3:10], ibf[some]) * ibf[some])
                + c[10] * log_ibf[some] + c[12] * np.log10(outside) - self.log_factor[at]
            )  # fmt: skip
            found[j, some] = 12.552 / 50 * 10 ** (exponent + log_time[some] + c[11] * self.log_distance[at])
        return self._at_voltage(k, found), found, final * fraction

    def boundary_mm(self, k: np.ndarray, intermediate_j_cm2: np.ndarray) -> np.ndarray:
        """Arc-flash boundary from intermediate energies at the working distance (equations 7 to 10)."""
        steep = 1 / -self._energy[:, 11][:, k]
        return self._at_voltage(k, self.distance[k] * (intermediate_j_cm2 / BOUNDARY_ENERGY_J_CM2) ** steep)

    def _at_voltage(self, k: np.ndarray, values: np.ndarray) -> np.ndarray:
        found: np.ndarray = values[0].copy()
        high = np.flatnonzero(self.high[k])
        if len(high):
            found[high] = formulas.interpolate(_by_voltage(values[:, high]), self.kv[k[high]])
        return found


def _by_voltage(values: np.ndarray) -> dict[int, np.ndarray]:
    return dict(zip(_VOLTS, values, strict=True))


def _intermediate(c: np.ndarray, log_ibf: np.ndarray, log_gap: np.ndarray, ibf: np.ndarray) -> np.ndarray:
    found: np.ndarray = 10 ** (c[0] + c[1] * log_ibf + c[2] * log_gap) * _polynomial(c[3:], ibf)
    return found


def _polynomial(c: np.ndarray, x: np.ndarray) -> np.ndarray:
    """Highest power first; coefficients (powers, entries)."""
    total: np.ndarray = c[0] * x + c[1]
    for row in c[2:]:
        total = total * x + row
    return total
