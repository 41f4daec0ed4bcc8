"""What somebody reads off a plate, in the units of the plate, as the number that the document holds.

A field of the document has one unit, told by its name. Beside it stand the others in which it is found on plates,
drawings and letters. A conversion that needs more than the number (a power factor, the voltage) is told what it needs.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.quantities import MM_PER_INCH, Quantity
from spinel.core.said import Sayable, say

#: What a horsepower is, kW: 550 foot-pounds a second. Common knowledge; IEC plates give kW of shaft power.
KW_PER_HP = 0.745699872
M_PER_FOOT = 0.3048
#: Taken where the plate tells neither; common practice, without source.
POWER_FACTOR, EFFICIENCY = 0.86, 0.92


@dataclass(frozen=True, kw_only=True)
class Beside:
    """What else is known where a number is typed. ``voltage_v``: of the place; ``power_factor``, ``efficiency``: of the
    machine, 0 to 1."""

    voltage_v: float = 0.0
    frequency_hz: float = 60.0
    power_factor: float = POWER_FACTOR
    efficiency: float = EFFICIENCY


@dataclass(frozen=True)
class PlateUnit:
    """``to``: the document's number for one typed in this unit."""

    id: str
    to: Callable[[float, Beside], float]


def _times(factor: float) -> Callable[[float, Beside], float]:
    return lambda value, beside: value * factor


def _shaft(kw: float) -> Callable[[float, Beside], float]:
    """Apparent power taken from the supply for a power at the shaft."""
    return lambda value, beside: value * kw / (beside.power_factor * beside.efficiency)


def _from_amperes(per: float) -> Callable[[float, Beside], float]:
    """Three-phase apparent power of a current at the place's own voltage, in the unit that ``per`` VA make one of."""

    def to(value: float, beside: Beside) -> float:
        return math.sqrt(3) * beside.voltage_v * value / per

    return to


_FACTORS: Mapping[str, tuple[PlateUnit, ...]] = {
    "kVA": (
        PlateUnit("kVA", _times(1)), PlateUnit("MVA", _times(1000)), PlateUnit("kW", lambda v, b: v / b.power_factor),
        PlateUnit("A", _from_amperes(1000)),
    ),
    "MVA": (PlateUnit("MVA", _times(1)), PlateUnit("kA", _from_amperes(1000)), PlateUnit("kVA", _times(0.001))),
    "m": (PlateUnit("m", _times(1)), PlateUnit("ft", _times(M_PER_FOOT))),
    "mm": (PlateUnit("mm", _times(1)), PlateUnit("in", _times(MM_PER_INCH)), PlateUnit("cm", _times(10))),
    "V": (PlateUnit("V", _times(1)), PlateUnit("kV", _times(1000))),
    "A": (PlateUnit("A", _times(1)), PlateUnit("kA", _times(1000))),
    "kA": (PlateUnit("kA", _times(1)), PlateUnit("A", _times(0.001))),
    "s": (
        PlateUnit("s", _times(1)), PlateUnit("ms", _times(0.001)),
        PlateUnit("cycles", lambda v, b: v / b.frequency_hz),
    ),
    "ohm": (PlateUnit("ohm", _times(1)), PlateUnit("mohm", _times(0.001))),
    "per unit": (PlateUnit("per unit", _times(1)), PlateUnit("%", _times(0.01))),
    "%": (PlateUnit("%", _times(1)), PlateUnit("per unit", _times(100))),
    "min": (PlateUnit("min", _times(1)), PlateUnit("h", _times(60))),
    "°C": (PlateUnit("°C", _times(1)), PlateUnit("°F", lambda v, b: (v - 32) / 1.8)),
}  # fmt: skip
#: A motor's plate tells its power at the shaft.
MOTOR = (
    PlateUnit("hp", _shaft(KW_PER_HP)), PlateUnit("kW", _shaft(1)), PlateUnit("A", _from_amperes(1000)),
    PlateUnit("kVA", _times(1)),
)  # fmt: skip


def units(kind: str, field: str, quantity: Quantity) -> tuple[PlateUnit, ...]:
    """In which units a field may be typed; the document's own among them. One without a name where it is a bare
    number."""
    if kind == "motor" and field == "rated_kva":
        return MOTOR
    own = str(quantity.unit)
    return _FACTORS.get(own, (PlateUnit(own, _times(1)),))


def typed(text: str, unit_id: str, allowed: tuple[PlateUnit, ...], quantity: Quantity, beside: Beside) -> float:
    """The document's number for what was typed in a unit; InputError for one that is no number, has no such unit, or is
    out of range once it is converted.

    >>> from spinel.core import quantities as q
    >>> feet = units("cable", "length_m", q.LENGTH_M)
    >>> round(typed("142", "ft", feet, q.LENGTH_M, Beside()), 2)
    43.28
    """
    unit = next((u for u in allowed if u.id == unit_id), None)
    if unit is None:
        raise InputError(quantity.name, unit_id, say("one-of", options=tuple(u.id for u in allowed)))
    number = plain(text, quantity.name, quantity.allowed)
    if unit.id == "A" and len(allowed) > 2 and beside.voltage_v <= 0:
        raise InputError(quantity.name, unit_id, say("editing-units-needs-the-voltage"))
    return quantity.check(tidy(unit.to(number, beside)))


def plain(text: str, field: str, allowed: Sayable) -> float:
    """A finite number in plain ASCII; a comma between thousands is refused, for it may be a decimal one."""
    cleaned = text.strip()
    try:
        number = float(cleaned) if cleaned.isascii() and "_" not in cleaned else math.nan
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise InputError(field, text, allowed)
    return number


def tidy(number: float) -> float:
    """Ten digits: what conversions leave behind a decimal point is no part of the plate."""
    found = float(f"{number:.10g}")
    return int(found) if found.is_integer() and abs(found) < 1e15 else found
