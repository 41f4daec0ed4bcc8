"""The form of a practice's tables: rows with names, whatever school they are from."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class ApproachRow:
    """Boundaries up to a voltage between conductors, that voltage included. ``restricted_mm`` 0: avoid contact.

    Millimetres and inches are both as printed; neither is converted from the other.
    """

    upper_v: float
    limited_movable_mm: float
    limited_fixed_mm: float
    restricted_mm: float
    limited_movable_in: float
    limited_fixed_in: float
    restricted_in: float


@dataclass(frozen=True)
class GloveClass:
    """A class and the highest voltages at which it is used, V. Classes stand in order, the lightest first."""

    name: str
    ac_v: float
    dc_v: float

    def highest_v(self, current: str) -> float:
        return self.ac_v if current == "ac" else self.dc_v


@dataclass(frozen=True, kw_only=True)
class ShockRules:
    """``threshold_v``: below it no boundary and no gloves, V."""

    threshold_v: float
    ac: tuple[ApproachRow, ...]
    dc: tuple[ApproachRow, ...]
    gloves: tuple[GloveClass, ...]
    source: str
    glove_source: str


@dataclass(frozen=True, kw_only=True)
class Level:
    """What is worn up to an energy (None: whatever is above the level before it), that energy included or not."""

    upper_cal_cm2: float | None
    inclusive: bool
    arc_rated: bool
    name: str
    items: tuple[str, ...]
    reason: str

    def covers(self, energy_cal_cm2: float) -> bool:
        if self.upper_cal_cm2 is None:
            return True
        return energy_cal_cm2 < self.upper_cal_cm2 or (self.inclusive and energy_cal_cm2 == self.upper_cal_cm2)


@dataclass(frozen=True)
class Clothing:
    """The levels of a practice, the lightest first; the last has no upper end."""

    levels: tuple[Level, ...]
    source: str
