"""What the model of IEEE 1584-2018 is asked and answers, and the range in which it holds.

Every number of a ``Situation`` may be an array, so that one holds many; ``check`` looks at a single one.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError, OutOfRange
from spinel.core.quantities import BOLTED_FAULT_CURRENT_KA, ENCLOSURE_SIDE_MM, GAP_MM, NOMINAL_VOLTAGE_V
from spinel.core.said import Said, say
from spinel.core.tables.ieee1584_2018 import CONFIGURATIONS

IN_A_BOX = ("VCB", "VCBB", "HCB")


#: A number, or an array of them when many situations are asked at once.
Number = Any


@dataclass(frozen=True)
class Enclosure:
    """Inside dimensions of the box around the electrodes, mm. In an array an unknown depth is NaN."""

    height_mm: Number
    width_mm: Number
    depth_mm: Number = None


@dataclass(frozen=True)
class Situation:
    """What the model needs to know of a location; everything but current and time."""

    voltage_v: Number
    electrode_configuration: Any
    gap_mm: Number
    working_distance_mm: Number
    enclosure: Enclosure | None = None


@dataclass(frozen=True)
class Correction:
    """Enclosure size correction (clause 4.8): divide energy by ``factor``."""

    factor: Number
    box: Any
    equivalent_width_in: Number
    equivalent_height_in: Number
    equivalent_size_in: Number


@dataclass(frozen=True)
class ArcCurrents:
    """Intermediate (600, 2700, 14300 V) and final arcing currents, full and reduced, kA."""

    intermediate_ka: dict[int, Number]
    arcing_current_ka: Number
    variation_factor: Number
    reduced_fraction: Number
    reduced_arcing_current_ka: Number


#: Bolted fault currents that the model covers, by: is it at or below 600 V?
LEAST_KA, MOST_KA = {True: 0.5, False: 0.2}, {True: 106.0, False: 65.0}


@dataclass(frozen=True)
class Energy:
    """Energy and boundary of one arcing current over one duration, with the intermediate energies."""

    arcing_current_ka: Number
    duration_ms: Number
    intermediate_j_cm2: dict[int, Number]
    incident_energy_j_cm2: Number
    incident_energy_cal_cm2: Number
    arc_flash_boundary_mm: Number


def check(situation: Situation, bolted_fault_current_ka: float) -> list[Said]:
    """Refuse what the model does not cover (OutOfRange, InputError); return what it warns about. One situation.

    >>> check(Situation(480, "VCB", 32, 455, Enclosure(600, 600, 300)), 20)
    []
    """
    s = situation
    if s.electrode_configuration not in CONFIGURATIONS:
        raise InputError(
            "electrode_configuration", s.electrode_configuration, say("one-of", options=tuple(CONFIGURATIONS))
        )
    low = NOMINAL_VOLTAGE_V.check(s.voltage_v, "voltage_v") <= 600
    _within("voltage_v", s.voltage_v, 208, 15_000, "V")
    BOLTED_FAULT_CURRENT_KA.check(bolted_fault_current_ka)
    _within("bolted_fault_current_ka", bolted_fault_current_ka, LEAST_KA[low], MOST_KA[low], "kA")
    GAP_MM.check(s.gap_mm)
    least_mm, most_mm = (6.35, 76.2) if low else (19.05, 254.0)
    _within("gap_mm", s.gap_mm, least_mm, most_mm, "mm")
    # The model knows a shortest working distance only; what a permit may ask for is limited elsewhere.
    if not (s.working_distance_mm >= 305 and math.isfinite(s.working_distance_mm)):
        raise OutOfRange(
            "working_distance_mm", s.working_distance_mm, say("arcflash-situation-ieee-1584-2018-covers-305-mm-and")
        )
    if s.electrode_configuration not in IN_A_BOX:
        return []
    if s.enclosure is None:
        raise InputError(
            "enclosure_width_mm",
            None,
            say(
                "arcflash-situation-is-in-a-box-give-its-dimensions", electrode_configuration=s.electrode_configuration
            ),
        )
    return _box_warnings(s.enclosure, s.gap_mm)


def _within(field: str, value: float, low: float, high: float, unit: str) -> None:
    if not low <= value <= high:
        raise OutOfRange(
            field, value, say("arcflash-situation-ieee-1584-2018-covers-to", low=low, high=high, unit=unit)
        )


def _box_warnings(box: Enclosure, gap_mm: float) -> list[Said]:
    for name, side in (("height", box.height_mm), ("width", box.width_mm), ("depth", box.depth_mm)):
        if side is not None:
            ENCLOSURE_SIDE_MM.check(side, f"enclosure_{name}_mm")
    warnings = []
    if max(box.height_mm, box.width_mm) > 1244.6:
        warnings.append(say("arcflash-situation-an-enclosure-side-is-over-1244-6"))
    if box.height_mm * box.width_mm > 1.549e6:
        warnings.append(say("arcflash-situation-the-enclosure-opening-is-over-1-549"))
    if box.width_mm <= 4 * gap_mm:
        warnings.append(say("arcflash-situation-the-enclosure-is-not-wider-than-four"))
    return warnings
