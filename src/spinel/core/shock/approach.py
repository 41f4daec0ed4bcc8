"""Limited and restricted approach boundaries, and the class of rubber insulating gloves, by a practice's rules.

The tables and their sources are in ``core/tables``; which of them hold, the site's profile says.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import InputError, OutOfRange
from spinel.core.quantities import NOMINAL_VOLTAGE_V
from spinel.core.said import Sayable, say
from spinel.core.tables.forms import ApproachRow, GloveClass, ShockRules


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
    source: Sayable


def approach(voltage_v: float, current: str, rules: ShockRules) -> Approach:
    """Approach boundaries for a nominal voltage between conductors (AC rms or DC), V.

    Below the threshold there is none. Raises InputError for an unusable voltage or current kind and OutOfRange above
    the last row.

    >>> from spinel.core.tables.nfpa70e_shock import RULES
    >>> approach(480, "ac", RULES).restricted_mm
    300
    """
    NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v")
    rows = _rows(current, rules)
    if not rules.threshold.reached(voltage_v, current):
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
            source=rules.source,
        )
    row = next((r for r in rows if voltage_v <= r.upper_v), None)
    if row is None:
        raise OutOfRange("voltage_v", voltage_v, say("approach-the-table-ends-at-v", upper_v=rows[-1].upper_v))
    avoid = row.restricted_mm == 0
    return Approach(
        voltage_v=voltage_v,
        current=current,
        limited_movable_mm=row.limited_movable_mm,
        limited_fixed_mm=row.limited_fixed_mm,
        restricted_mm=None if avoid else row.restricted_mm,
        limited_movable_in=row.limited_movable_in,
        limited_fixed_in=row.limited_fixed_in,
        restricted_in=None if avoid else row.restricted_in,
        avoid_contact=avoid,
        source=rules.source,
    )


def _rows(current: str, rules: ShockRules) -> tuple[ApproachRow, ...]:
    if current == "ac":
        return rules.ac
    if current == "dc":
        return rules.dc
    raise InputError("current", current, say("approach-ac-or-dc"))


def glove_class(voltage_v: float, current: str, rules: ShockRules) -> GloveClass:
    """The lightest class whose highest use voltage is at or above the voltage. OutOfRange beyond the last.

    >>> from spinel.core.tables.nfpa70e_shock import RULES
    >>> [glove_class(v, c, RULES).name for v, c in ((480, "ac"), (12470, "ac"), (760, "dc"))]
    ['00', '2', '0']
    """
    NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v")
    _rows(current, rules)
    found = next((g for g in rules.gloves if voltage_v <= g.highest_v(current)), None)
    if found is None:
        last = rules.gloves[-1].highest_v(current)
        raise OutOfRange(
            "voltage_v", voltage_v, say("approach-glove-classes-end-at-v-work-with", last=last, current=current)
        )
    return found


@dataclass(frozen=True)
class Shock:
    """One voltage that a person may be exposed to, with its own boundaries and glove class."""

    voltage_v: float
    current: str
    approach: Approach
    glove: str | None


def shock_of(voltage_v: float, current: str, rules: ShockRules) -> Shock:
    """A voltage with its boundaries and gloves; no gloves below the threshold or where no class covers it.

    >>> from spinel.core.tables.nfpa70e_shock import RULES
    >>> shock_of(250, "dc", RULES).approach.avoid_contact
    True
    """
    glove = None
    if rules.threshold.reached(voltage_v, current):
        try:
            glove = glove_class(voltage_v, current, rules).name
        except OutOfRange:
            glove = None
    return Shock(voltage_v, current, approach(voltage_v, current, rules), glove)
