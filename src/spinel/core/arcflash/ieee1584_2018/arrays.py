"""IEEE 1584-2018 over many situations at once: sorted by configuration and voltage class, computed in blocks.

Called by the functions of ieee1584_2018 when any of their numbers is an array; they say what is returned.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from spinel.core.arcflash.ieee1584_2018 import formulas
from spinel.core.arcflash.ieee1584_2018 import situation as model
from spinel.core.quantities import CAL_PER_J, DURATION_MS
from spinel.core.tables.ieee1584_2018 import CONFIGURATIONS

#: Situations computed together: small enough to stay in the processor's cache.
BLOCK = 8192
_IN_BOX = set(model.IN_A_BOX)


def are_many(s: model.Situation, *numbers: Any) -> bool:
    """Is any number of the question an array?"""
    box = s.enclosure
    sides = () if box is None else (box.height_mm, box.width_mm, box.depth_mm)
    asked = (s.voltage_v, s.electrode_configuration, s.gap_mm, s.working_distance_mm, *sides, *numbers)
    return any(isinstance(n, np.ndarray) for n in asked)


class _Many:
    """The columns of a question, broadcast to one length, and the groups that share coefficients."""

    def __init__(self, s: model.Situation, *numbers: Any):
        box = s.enclosure or model.Enclosure(np.nan, np.nan, np.nan)
        depth = np.nan if box.depth_mm is None else box.depth_mm
        columns = (s.voltage_v, s.gap_mm, s.working_distance_mm, box.height_mm, box.width_mm, depth, *numbers)
        kinds = np.asarray(s.electrode_configuration)
        shape = np.broadcast_shapes(*(np.shape(c) for c in columns), kinds.shape)
        self.size = int(np.prod(shape))
        self.columns = [np.broadcast_to(np.asarray(c, dtype=float), shape).ravel() for c in columns]
        self.shape, self.kinds = shape, np.broadcast_to(kinds, shape).ravel()
        #: position of each configuration in the list of them; text is slow to compare
        self.codes = np.full(self.size, -1, dtype=np.int8)
        for code, name in enumerate(CONFIGURATIONS):
            self.codes[self.kinds == name] = code

    def checked(self, with_current: bool) -> _Many:
        """Itself; the first situation that the model does not cover raises as it would alone."""
        v, gap, distance, height, width, _, *rest = self.columns
        low = v <= 600
        good = (self.codes >= 0) & (v >= 208) & (v <= 15_000) & (distance >= 305) & np.isfinite(distance)
        good &= np.where(low, (gap >= 6.35) & (gap <= 76.2), (gap >= 19.05) & (gap <= 254))
        good &= (self.codes >= len(model.IN_A_BOX)) | ((height > 0) & (width > 0))
        if with_current:
            ibf = rest[0]
            good &= np.where(low, (ibf >= 0.5) & (ibf <= 106), (ibf >= 0.2) & (ibf <= 65))
        for i in np.flatnonzero(~good)[:1]:
            model.check(self.one(int(i)), float(rest[0][i]) if with_current else 1.0)
        return self

    def one(self, i: int) -> model.Situation:
        v, gap, distance, height, width, depth = (float(c[i]) for c in self.columns[:6])
        box = None if np.isnan(height) else model.Enclosure(height, width, None if np.isnan(depth) else depth)
        return model.Situation(v, str(self.kinds[i]), gap, distance, box)

    def blocks(self) -> Iterator[tuple[str, bool, np.ndarray, list[np.ndarray]]]:
        """Configuration, above 600 V or not, positions, and the columns there."""
        high = self.columns[0] > 600
        for code, kind in enumerate(CONFIGURATIONS):
            for above in (False, True):
                where = np.flatnonzero((self.codes == code) & (high == above))
                for start in range(0, len(where), BLOCK):
                    at = where[start : start + BLOCK]
                    yield kind, above, at, [c[at] for c in self.columns]

    def empty(self) -> np.ndarray:
        return np.full(self.size, np.nan)


def _factor(kind: str, v: Any, height: Any, width: Any, depth: Any) -> Any:
    return formulas.box_factor(kind, v, height, width, depth)[0] if kind in _IN_BOX else np.ones(len(v))


def correction(s: model.Situation) -> model.Correction:
    many = _Many(s).checked(with_current=False)
    factor, wide, high = np.ones(many.size), many.empty(), many.empty()
    box = np.full(many.size, "open", dtype="U7")
    for kind, _, at, (v, _, _, height, width, depth) in many.blocks():
        if kind in _IN_BOX:
            factor[at], shallow, wide[at], high[at] = formulas.box_factor(kind, v, height, width, depth)
            box[at] = np.where(shallow, "shallow", "typical")
    shape = many.shape
    return model.Correction(*(x.reshape(shape) for x in (factor, box, wide, high, (wide + high) / 2)))


def arc_currents(s: model.Situation, ibf: Any) -> model.ArcCurrents:
    many = _Many(s, ibf).checked(with_current=True)
    intermediate = {v: many.empty() for v in formulas.MODEL_VOLTAGES}
    rest = [many.empty() for _ in range(4)]
    for kind, high, at, (v, gap, _, _, _, _, current) in many.blocks():
        between, *found = formulas.arcing(kind, high, v, gap, current)
        for voltage, ka in between.items():
            intermediate[voltage][at] = ka
        for column, values in zip(rest, found, strict=True):
            column[at] = values
    shaped = {v: ka.reshape(many.shape) for v, ka in intermediate.items()}
    return model.ArcCurrents(shaped, *(c.reshape(many.shape) for c in rest))


def energy(s: model.Situation, ibf: Any, duration_ms: Any, reduced: bool) -> model.Energy:
    DURATION_MS.check_all(duration_ms)
    many = _Many(s, ibf, duration_ms).checked(with_current=True)
    intermediate = {v: many.empty() for v in formulas.MODEL_VOLTAGES}
    current, joule, boundary = many.empty(), many.empty(), many.empty()
    for kind, high, at, (v, gap, distance, height, width, depth, bolted, ms) in many.blocks():
        between, final, _, fraction, _ = formulas.arcing(kind, high, v, gap, bolted)
        part = fraction if reduced else 1.0
        factor = _factor(kind, v, height, width, depth)
        energies, boundaries = formulas.energies(kind, high, gap, distance, factor, bolted, between, final, part, ms)
        for voltage, value in energies.items():
            intermediate[voltage][at] = value
        current[at] = final * part
        joule[at], boundary[at] = formulas.at_voltage(energies, v), formulas.at_voltage(boundaries, v)
    shape = many.shape
    shaped = {v: e.reshape(shape) for v, e in intermediate.items()}
    ms = many.columns[-1].reshape(shape)
    joule = joule.reshape(shape)
    return model.Energy(current.reshape(shape), ms, shaped, joule, joule * CAL_PER_J, boundary.reshape(shape))


def boundary_mm(s: model.Situation, intermediate: dict[int, Any]) -> Any:
    many = _Many(s, *intermediate.values())
    found = many.empty()
    for kind, high, at, (v, _, distance, _, _, _, *joules) in many.blocks():
        used = dict(zip(intermediate, joules, strict=True)) if high else {600: joules[list(intermediate).index(600)]}
        where = {voltage: formulas.distance_of(kind, voltage, joule, distance) for voltage, joule in used.items()}
        found[at] = formulas.at_voltage(where, v)
    return found.reshape(many.shape)
