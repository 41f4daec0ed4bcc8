"""IEEE 1584-2018 for places that are asked again and again at other currents: everything that follows from the place
alone is worked out once, the rest is compiled (compiled/arcing).

The same numbers as ``arrays`` and ``formulas`` give. The caller keeps currents within the model's range.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np

from spinel.core.arcflash.ieee1584_2018 import formulas
from spinel.core.arcflash.ieee1584_2018.situation import IN_A_BOX
from spinel.core.quantities import BOUNDARY_ENERGY_J_CM2
from spinel.core.tables import ieee1584_2018 as table

if TYPE_CHECKING:
    from spinel.core.compiled.tables import ArcTable

_VOLTS = formulas.MODEL_VOLTAGES


class Prepared:
    """``columns``: voltage (V), configuration, gap, working distance, height, width and depth (mm) of the places; NaN,
    or no configuration, where the model does not cover one, which is never asked. ``base_ka``, and between which bolted
    currents the model speaks, kA: of each place."""

    def __init__(
        self, columns: Sequence[np.ndarray], base_ka: np.ndarray, least_ka: np.ndarray, most_ka: np.ndarray
    ):  # fmt: skip
        # loaded where it is needed: signing in, records and most commands do without
        from spinel.core.compiled.tables import ArcTable

        volts, kinds, gap, distance, *sides = columns
        n = len(volts)
        kv, self.distance = volts / 1000, distance
        fraction, factor = np.ones(n), np.ones(n)
        current, energy = np.zeros((n, len(_VOLTS), 10)), np.zeros((n, len(_VOLTS), 13))
        for kind in table.CONFIGURATIONS:
            mine = np.flatnonzero(kinds == kind)
            if not len(mine):
                continue
            fraction[mine] = 1 - 0.5 * formulas.polynomial(table.VARIATION[kind], kv[mine])
            for j, v in enumerate(_VOLTS):
                current[mine, j] = table.ARCING_CURRENT[kind][v]
                energy[mine, j] = table.ENERGY[kind][v]
            if kind in IN_A_BOX:
                factor[mine] = formulas.box_factor(kind, volts[mine], *(s[mine] for s in sides))[0]
        with np.errstate(invalid="ignore"):
            logs = [np.log10(x) for x in (gap, distance, factor)]
        self.table: ArcTable = ArcTable(
            high=volts > 600, kv=kv, base_ka=base_ka, log_gap=logs[0], log_distance=logs[1], log_factor=logs[2],
            fraction=fraction, least_ka=least_ka, most_ka=most_ka, current=current, energy=energy,
        )  # fmt: skip

    def part(self, k: np.ndarray, row: np.ndarray, bolted_ka: np.ndarray) -> np.ndarray:
        """Arcing over bolted current of places, full (row 0) or reduced (1) (equations 1, 2, 16 to 25)."""
        from spinel.core.compiled.arcing import arcing_parts

        return arcing_parts(self.table, k, row, bolted_ka)

    def energy(
        self, k: np.ndarray, row: np.ndarray, ibf: np.ndarray, duration_ms: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Incident energy in J/cm² over a duration at full (row 0) or reduced (1) arcing current; its intermediate
        values (model voltages, entries), NaN where the model has none; and the arcing current, kA."""
        from spinel.core.compiled.arcing import energies

        return energies(self.table, k, row, ibf, duration_ms)

    def boundary_mm(self, k: np.ndarray, intermediate_j_cm2: np.ndarray) -> np.ndarray:
        """Arc-flash boundary from intermediate energies at the working distance (equations 7 to 10)."""
        steep = 1 / -self.table.energy[k, :, 11].T
        values = self.distance[k] * (intermediate_j_cm2 / BOUNDARY_ENERGY_J_CM2) ** steep
        found: np.ndarray = values[0].copy()
        high = np.flatnonzero(self.table.high[k])
        if len(high):
            at = dict(zip(_VOLTS, values[:, high], strict=True))
            found[high] = formulas.interpolate(at, self.table.kv[k[high]])
        return found
