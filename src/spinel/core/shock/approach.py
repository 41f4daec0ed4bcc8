"""Limited and restricted approach boundaries, and the class of rubber insulating gloves.

Sources: NFPA 70E-2021 tables 130.4(E)(a), (b); 29 CFR 1910.137 table I-4 and ASTM D120 for gloves, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import InputError, OutOfRange
from spinel.core.quantities import NOMINAL_VOLTAGE_V
from spinel.core.tables import nfpa70e_shock as table

SOURCE = table.EDITION
GLOVE_SOURCE = "ASTM D120, 29 CFR 1910.137 table I-4 (DC: ASTM D120 only), from memory"

#: Class, highest AC use voltage, highest DC use voltage.
GLOVE_CLASSES = (
    ("00", 500, 750),
    ("0", 1_000, 1_500),
    ("1", 7_500, 11_250),
    ("2", 17_000, 25_500),
    ("3", 26_500, 39_750),
    ("4", 36_000, 54_000),
)


@dataclass(frozen=True, kw_only=True)
class Approach:
    """Boundaries in mm and inches; None below the threshold. ``avoid_contact``: restricted is "do not touch"."""

    voltage_v: float
    current: str
    limited_movable_mm: float | None
    limited_fixed_mm: float | None
    restricted_mm: float | None
    limited_movable_in: float | None
    limited_fixed_in: float | None
    restricted_in: float | None
    avoid_contact: bool
    source: str = SOURCE


def approach(voltage_v: float, current: str, threshold_v: float = 50) -> Approach:
    """Approach boundaries for a nominal voltage between conductors (AC rms or DC), V.

    Below ``threshold_v`` there is none. Raises InputError for an unusable voltage or current kind and
    OutOfRange above the last row (800 kV).

    >>> approach(480, "ac").restricted_mm
    300
    """
    NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v")
    rows = _table(current)
    if voltage_v < threshold_v:
        return Approach(
            voltage_v=voltage_v,
            current=current,
            limited_movable_mm=None,
            limited_fixed_mm=None,
            restricted_mm=None,
            limited_movable_in=None,
            limited_fixed_in=None,
            restricted_in=None,
            avoid_contact=False,
        )
    for upper, movable, fixed, restricted, movable_in, fixed_in, restricted_in in rows:
        if voltage_v <= upper:
            avoid = restricted == 0
            return Approach(
                voltage_v=voltage_v,
                current=current,
                limited_movable_mm=movable,
                limited_fixed_mm=fixed,
                restricted_mm=None if avoid else restricted,
                limited_movable_in=movable_in,
                limited_fixed_in=fixed_in,
                restricted_in=None if avoid else restricted_in,
                avoid_contact=avoid,
            )
    raise OutOfRange("voltage_v", voltage_v, f"the table ends at {rows[-1][0]:g} V")


def _table(current: str) -> tuple[table.Row, ...]:
    if current == "ac":
        return table.AC
    if current == "dc":
        return table.DC
    raise InputError("current", current, "ac or dc")


def glove_class(voltage_v: float, current: str) -> str:
    """The lowest class whose highest use voltage is at or above the voltage. OutOfRange beyond class 4.

    >>> glove_class(480, "ac"), glove_class(12470, "ac"), glove_class(760, "dc")
    ('00', '2', '0')
    """
    NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v")
    _table(current)
    for name, ac, dc in GLOVE_CLASSES:
        if voltage_v <= (ac if current == "ac" else dc):
            return name
    last = GLOVE_CLASSES[-1][1 if current == "ac" else 2]
    raise OutOfRange("voltage_v", voltage_v, f"glove classes end at {last:,} V {current}: work with other means")


@dataclass(frozen=True)
class Shock:
    """One voltage that a person may be exposed to, with its own boundaries and glove class."""

    voltage_v: float
    current: str
    approach: Approach
    glove: str | None


def shock_of(voltage_v: float, current: str, threshold_v: float = 50) -> Shock:
    """A voltage with its boundaries and gloves; no gloves below the threshold or where no class covers it.

    >>> shock_of(250, "dc").approach.avoid_contact
    True
    """
    glove = None
    if voltage_v >= threshold_v:
        try:
            glove = glove_class(voltage_v, current)
        except OutOfRange:
            glove = None
    return Shock(voltage_v, current, approach(voltage_v, current, threshold_v), glove)
