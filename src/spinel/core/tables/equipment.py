"""Typical gap, enclosure and working distance of equipment classes.

Source: IEEE 1584-2018 tables 8 and 10, from memory, high confidence. The electrode configuration is a judgement of the
equipment (table 9 tells how to see it); where none is given VCB is assumed, and said so: HCB, where conductors point at
the worker, and VCBB, where they end in a barrier, give more.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.said import say

SOURCE = "IEEE 1584-2018 tables 8 and 10, from memory"


@dataclass(frozen=True)
class Typical:
    """mm, height x width x depth; ``to_v`` is the highest voltage of the class."""

    to_v: float
    gap_mm: float
    height_mm: float
    width_mm: float
    depth_mm: float
    working_distance_mm: float
    electrode_configuration: str = "VCB"


#: Rows of a class in the order of their voltage. A shallow panelboard or MCC is taken: it is the usual one.
TYPICAL: dict[str, tuple[Typical, ...]] = {
    "medium-voltage switchgear": (
        Typical(5_000, 104, 914.4, 914.4, 914.4, 914.4),
        Typical(15_000, 152, 1143, 762, 762, 914.4),
    ),
    "medium-voltage motor control center": (
        Typical(5_000, 104, 660.4, 660.4, 660.4, 914.4),
        Typical(15_000, 152, 914.4, 914.4, 914.4, 914.4),
    ),
    "low-voltage switchgear": (Typical(600, 32, 508, 508, 508, 609.6),),
    "switchboard": (Typical(600, 32, 508, 508, 508, 609.6),),
    "motor control center": (Typical(600, 25, 355.6, 304.8, 203.2, 457.2),),
    "panelboard": (Typical(600, 25, 355.6, 304.8, 203.2, 457.2),),
    "cable junction box": (Typical(600, 13, 355.6, 304.8, 203.2, 457.2),),
}


def typical(equipment_class: str, voltage_v: float) -> Typical:
    """The typical values of a class at a voltage; InputError where the tables have none.

    >>> typical("panelboard", 480).gap_mm, typical("medium-voltage switchgear", 12_470).gap_mm
    (25, 152)
    """
    rows = TYPICAL.get(equipment_class)
    if rows is None:
        raise InputError(
            "equipment_class", equipment_class, say("equipment-one-with-typical-values", typicals=tuple(TYPICAL))
        )
    for row in rows:
        if voltage_v <= row.to_v and (row.to_v <= 600 or voltage_v > 600):
            return row
    allowed = say("equipment-a-class-that-has-typical-values-at", voltage_v=voltage_v)
    raise InputError("equipment_class", equipment_class, allowed)
