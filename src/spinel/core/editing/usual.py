"""What is put where nobody has read the plate yet, and between what it may really lie.

Values by class of equipment: common practice, from memory, no source; the plate, the letter and the drawing govern.
Each is marked as assumed where it is used, and what the figures would be at either end of its range is computed
(``editing/reach``). Where no value is safer than another, none is put: a device without a curve is never counted on to
clear, which gives the higher figure.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError
from spinel.core.tables.conductors import IEC_60228, NEC_TABLE_9
from spinel.core.tables.equipment import Typical, typical


@dataclass(frozen=True)
class Usual:
    """``others``: what it may be instead: both ends of its range, or the other choices."""

    value: Any
    others: tuple[Any, ...]


Record = Mapping[str, Any]
#: A usual value from the record and the highest voltage at its ends, V.
Rule = Callable[[Record, float], Usual]


def _fixed(value: float | str, *others: float | str) -> Rule:
    return lambda record, volts: Usual(value, others)


def _stepped(by: str, *steps: tuple[float, float, float, float]) -> Rule:
    """Steps of (up to so much, value, low, high) of another field of the record."""

    def rule(record: Record, volts: float) -> Usual:
        size = float(record.get(by) or 0)
        _, value, low, high = next((s for s in steps if size <= s[0]), steps[-1])
        return Usual(value, (low, high))

    return rule


def _by_voltage(low_voltage: Usual, medium: Usual) -> Rule:
    return lambda record, volts: low_voltage if volts <= 1000 else medium


def _weakest(record: Record, volts: float) -> Usual:
    """The weakest supply, from the strongest: between a third of it and all of it."""
    most = float(record.get("fault_mva_max") or 250)
    return Usual(round(most * 0.6, 3), (round(most * 0.3, 3), most))


#: Copper at 75 °C that usually carries so many amperes, and how many of it a phase (NEC table 310.16, from memory).
CONDUCTORS: tuple[tuple[float, str, int], ...] = (
    (50, "8", 1), (85, "4", 1), (115, "2", 1), (150, "1/0", 1), (200, "3/0", 1), (255, "250", 1), (310, "350", 1),
    (380, "500", 1), (510, "250", 2), (620, "350", 2), (760, "500", 2), (1140, "500", 3), (1520, "500", 4),
    (2280, "500", 6),
)  # fmt: skip


def conductor_for(rated_a: float) -> tuple[str, int]:
    """Size and number a phase behind a device of a rating, A; the largest for more.

    >>> conductor_for(400), conductor_for(60)
    (('250', 2), ('4', 1))
    """
    _, size, count = next((c for c in CONDUCTORS if rated_a <= c[0]), CONDUCTORS[-1])
    return size, count


def _sizes_beside(record: Record, volts: float) -> Usual:
    """The size that is there, or a common one; else two steps thicker or thinner."""
    size = str(record.get("conductor_size") or "2")
    known = list(NEC_TABLE_9) if size in NEC_TABLE_9 else [f"{s}mm2" for s in IEC_60228]
    if size.replace(" ", "") not in known:
        return Usual(size, ())
    at = known.index(size.replace(" ", ""))
    return Usual(size, tuple(known[i] for i in (max(at - 2, 0), min(at + 2, len(known) - 1)) if i != at))


_RATED = _by_voltage(Usual(600, ()), Usual(15_000, ()))
_MACHINE_X_R = _stepped("rated_kva", (30, 4, 2, 8), (100, 7, 4, 12), (500, 15, 8, 25), (1e9, 25, 15, 40))

#: By kind and field.
ELEMENTS: Mapping[str, Mapping[str, Rule]] = {
    "source": {
        "fault_mva_max": _by_voltage(Usual(30, (10, 75)), Usual(250, (100, 750))), "x_r_max": _fixed(10, 4, 25),
        "fault_mva_min": _weakest, "x_r_min": _fixed(8, 3, 20),
    },
    "transformer": {
        "rated_kva": _fixed(1000, 500, 2000),
        "impedance_pct": _stepped("rated_kva", (112.5, 3, 1.5, 5), (500, 4, 2, 6), (5000, 5.75, 5, 7.5),
                                  (1e9, 8, 6, 11)),
        "x_r": _stepped("rated_kva", (112.5, 1.5, 0.8, 3), (500, 3, 1.5, 5.5), (2500, 6.5, 4, 9), (1e9, 14, 8, 30)),
    },
    "motor": {"rated_kva": _fixed(50, 25, 100), "xd_subtransient_pu": _fixed(0.17, 0.12, 0.25), "x_r": _MACHINE_X_R},
    "generator": {
        "rated_kva": _fixed(500, 250, 1000), "xd_subtransient_pu": _fixed(0.15, 0.09, 0.25),
        "x_r": _fixed(15, 8, 40), "normal_state": _fixed("stopped"),
    },
    "inverter": {
        "rated_kva": _fixed(100, 50, 200), "fault_multiple": _fixed(1.2, 1.0, 2.0), "fault_cease_s": _fixed(0.16, 2.0),
        "normal_state": _fixed("running"),
    },
    "shore_connection": {
        "rated_kva": _fixed(250, 100, 600), "fault_multiple": _fixed(1.2, 1.0, 3.0), "fault_cease_s": _fixed(0.5, 2.0),
        "normal_state": _fixed("stopped"),
    },
    "ups": {
        "rated_kva": _fixed(100, 50, 200), "fault_multiple": _fixed(2, 1.2, 3), "fault_for_s": _fixed(0.5, 2.0),
        "normal_state": _fixed("inverter"),
    },
    "cable": {
        "length_m": _fixed(30, 5, 120), "conductor_size": _sizes_beside,
        "conduit": _fixed("steel", "pvc"), "conductor": _fixed("copper", "aluminum"),
    },
    "busway": {"resistance_ohm": _fixed(0.001, 0.0003, 0.003), "reactance_ohm": _fixed(0.001, 0.0003, 0.003)},
    "reactor": {"reactance_ohm": _fixed(0.01, 0.003, 0.03)},
    "breaker": {"normal_position": _fixed("closed"), "rated_voltage_v": _RATED},
    "fuse": {"normal_position": _fixed("closed"), "rated_voltage_v": _RATED},
    "contactor": {"normal_position": _fixed("closed"), "rated_voltage_v": _RATED},
    "switch": {"normal_position": _fixed("closed"), "rated_voltage_v": _RATED},
    "disconnector": {"normal_position": _fixed("closed"), "rated_voltage_v": _RATED},
    "transfer_switch": {"normal_position": _fixed("normal"), "rated_voltage_v": _RATED},
}  # fmt: skip

#: Classes that the table of typical values lacks, by the one that they are nearest to.
_LIKE = {
    "transformer": ("switchboard", "medium-voltage switchgear"),
    "generator terminal box": ("switchboard", "medium-voltage switchgear"),
    "outdoor terminal": ("switchboard", "medium-voltage switchgear"),
    "converter": ("panelboard", "medium-voltage switchgear"),
}
_BOX = ("electrode_configuration", "gap_mm", "height_mm", "width_mm", "depth_mm", "working_distance_mm")


def of_element(kind: str, field: str, record: Record, volts: float) -> Usual | None:
    """The usual value of an element's field; None where none is better than none."""
    rule = ELEMENTS.get(kind, {}).get(field)
    return rule(record, volts) if rule is not None else None


def of_enclosure(equipment_class: str, field: str, volts: float) -> Usual | None:
    """The usual value of an enclosure's field at the highest voltage in it; None where no class is like it.

    >>> of_enclosure("panelboard", "electrode_configuration", 480)
    Usual(value='VCB', others=('VCBB', 'HCB'))
    """
    found = _typical(equipment_class, volts)
    if found is None or field not in _BOX:
        return None
    value = getattr(found, field)
    if field == "electrode_configuration":
        return Usual(value, ("VCBB", "HCB"))
    if field == "working_distance_mm":
        return Usual(value, (max(305.0, value * 0.75),))
    if field == "gap_mm":
        return Usual(value, (value * 0.75, value * 1.5))
    return Usual(value, (value * 0.7, value * 1.5))


def _typical(equipment_class: str, volts: float) -> Typical | None:
    like = _LIKE.get(equipment_class, (equipment_class, equipment_class))[volts > 600]
    try:
        return typical(like, volts)
    except InputError:
        return None
