"""Arcing current, incident energy and arc-flash boundary by IEEE Std 1584-2018.

Source: IEEE Std 1584-2018, clauses 4.3 to 4.10; coefficients from memory (see core/tables/ieee1584_2018).
Three-phase AC, 208 V to 15 kV, 50 or 60 Hz. Outside its range the model refuses; it never extrapolates.
docs/methods/ieee1584-2018.md describes range, limits and how it was checked.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from spinel.core.errors import InputError, OutOfRange
from spinel.core.quantities import (
    BOLTED_FAULT_CURRENT_KA,
    CAL_PER_J,
    DURATION_MS,
    ENCLOSURE_SIDE_MM,
    GAP_MM,
    NOMINAL_VOLTAGE_V,
)
from spinel.core.tables import ieee1584_2018 as table

CONFIGURATIONS = ("VCB", "VCBB", "HCB", "VOA", "HOA")
IN_A_BOX = ("VCB", "VCBB", "HCB")
SOURCE = "IEEE 1584-2018, coefficients from memory"
MODEL_VOLTAGES = (600, 2700, 14300)
_INCH = 0.03937  # the model's own factor from millimetres, clause 4.8


@dataclass(frozen=True)
class Enclosure:
    """Inside dimensions of the box around the electrodes, mm."""

    height_mm: float
    width_mm: float
    depth_mm: float | None = None


@dataclass(frozen=True)
class Situation:
    """What the model needs to know of a location; everything but current and time."""

    voltage_v: float
    electrode_configuration: str
    gap_mm: float
    working_distance_mm: float
    enclosure: Enclosure | None = None


@dataclass(frozen=True)
class Correction:
    """Enclosure size correction (clause 4.8): divide energy by ``factor``."""

    factor: float
    box: str
    equivalent_width_in: float | None
    equivalent_height_in: float | None
    equivalent_size_in: float | None


@dataclass(frozen=True)
class ArcCurrents:
    """Intermediate (600, 2700, 14300 V) and final arcing currents, full and reduced, kA."""

    intermediate_ka: dict[int, float]
    arcing_current_ka: float
    variation_factor: float
    reduced_fraction: float
    reduced_arcing_current_ka: float


@dataclass(frozen=True)
class Energy:
    """Energy and boundary of one arcing current over one duration, with the intermediate energies."""

    arcing_current_ka: float
    duration_ms: float
    intermediate_j_cm2: dict[int, float]
    incident_energy_j_cm2: float
    incident_energy_cal_cm2: float
    arc_flash_boundary_mm: float


def check(situation: Situation, bolted_fault_current_ka: float) -> list[str]:
    """Refuse what the model does not cover (OutOfRange, InputError); return what it warns about.

    >>> check(Situation(480, "VCB", 32, 455, Enclosure(600, 600, 300)), 20)
    []
    """
    s = situation
    if s.electrode_configuration not in CONFIGURATIONS:
        raise InputError("electrode_configuration", s.electrode_configuration, "one of " + ", ".join(CONFIGURATIONS))
    low = NOMINAL_VOLTAGE_V.check(s.voltage_v, "voltage_v") <= 600
    _within("voltage_v", s.voltage_v, 208, 15_000, "V")
    BOLTED_FAULT_CURRENT_KA.check(bolted_fault_current_ka)
    least_ka, most_ka = (0.5, 106.0) if low else (0.2, 65.0)
    _within("bolted_fault_current_ka", bolted_fault_current_ka, least_ka, most_ka, "kA")
    GAP_MM.check(s.gap_mm)
    least_mm, most_mm = (6.35, 76.2) if low else (19.05, 254.0)
    _within("gap_mm", s.gap_mm, least_mm, most_mm, "mm")
    # The model knows a shortest working distance only; what a permit may ask for is limited elsewhere.
    if not (s.working_distance_mm >= 305 and math.isfinite(s.working_distance_mm)):
        raise OutOfRange("working_distance_mm", s.working_distance_mm, "IEEE 1584-2018 covers 305 mm and more")
    if s.electrode_configuration not in IN_A_BOX:
        return []
    if s.enclosure is None:
        raise InputError("enclosure_width_mm", None, f"{s.electrode_configuration} is in a box: give its dimensions")
    return _box_warnings(s.enclosure, s.gap_mm)


def _within(field: str, value: float, low: float, high: float, unit: str) -> None:
    if not low <= value <= high:
        raise OutOfRange(field, value, f"IEEE 1584-2018 covers {low:g} to {high:g} {unit}")


def _box_warnings(box: Enclosure, gap_mm: float) -> list[str]:
    for name, side in (("height", box.height_mm), ("width", box.width_mm), ("depth", box.depth_mm)):
        if side is not None:
            ENCLOSURE_SIDE_MM.check(side, f"enclosure_{name}_mm")
    warnings = []
    if max(box.height_mm, box.width_mm) > 1244.6:
        warnings.append("an enclosure side is over 1244.6 mm: the model caps it there")
    if box.height_mm * box.width_mm > 1.549e6:
        warnings.append("the enclosure opening is over 1.549 m²")
    if box.width_mm <= 4 * gap_mm:
        warnings.append("the enclosure is not wider than four gaps")
    return warnings


def correction(situation: Situation) -> Correction:
    """Enclosure size correction factor, clause 4.8, equations 11 to 15 and table 6. 1 in open air."""
    s, box = situation, situation.enclosure
    if s.electrode_configuration not in IN_A_BOX or box is None:
        return Correction(1.0, "open", None, None, None)
    shallow = (
        s.voltage_v < 600
        and box.height_mm < 508
        and box.width_mm < 508
        and box.depth_mm is not None
        and box.depth_mm <= 203.2
    )
    kind = "shallow" if shallow else "typical"
    width = _equivalent_side(box.width_mm, s, shallow, formula_above=True)
    height = _equivalent_side(box.height_mm, s, shallow, formula_above=s.electrode_configuration != "VCB")
    size = (height + width) / 2
    b1, b2, b3 = table.BOX[kind][s.electrode_configuration]
    polynomial = b1 * size**2 + b2 * size + b3
    factor = 1 / polynomial if shallow else polynomial
    return Correction(factor, kind, width, height, size)


def _equivalent_side(side_mm: float, s: Situation, shallow: bool, formula_above: bool) -> float:
    """Equivalent width or height in inches (table 6). A vertical box uses its height as it is, to 49 in."""
    if side_mm < 508:
        return _INCH * side_mm if shallow else 20.0
    if side_mm <= 660.4:
        return _INCH * side_mm
    capped = min(side_mm, 1244.6)
    if not formula_above:
        return _INCH * capped if side_mm <= 1244.6 else 49.0
    a, b = table.BOX_EQUIVALENT[s.electrode_configuration]
    return (660.4 + (capped - 660.4) * (s.voltage_v / 1000 + a) / b) / 25.4


def arc_currents(situation: Situation, bolted_fault_current_ka: float) -> ArcCurrents:
    """Arcing current, equations 1, 16 to 25, and its reduced value, equation 2.

    Returns currents in kA. Raises as ``check`` does.
    """
    check(situation, bolted_fault_current_ka)
    s = situation
    kv = s.voltage_v / 1000
    used = (600,) if s.voltage_v <= 600 else MODEL_VOLTAGES
    intermediate = {v: _intermediate_current(s, bolted_fault_current_ka, v) for v in used}
    if s.voltage_v <= 600:
        final = _low_voltage_current(intermediate[600], bolted_fault_current_ka, kv)
    else:
        final = _interpolate(intermediate, kv)
    variation = _polynomial(table.VARIATION[s.electrode_configuration], kv)
    fraction = 1 - 0.5 * variation
    return ArcCurrents(intermediate, final, variation, fraction, final * fraction)


def _intermediate_current(s: Situation, ibf: float, voltage: int) -> float:
    k = table.ARCING_CURRENT[s.electrode_configuration][voltage]
    return 10 ** (k[0] + k[1] * math.log10(ibf) + k[2] * math.log10(s.gap_mm)) * _polynomial(k[3:], ibf)


def _polynomial(coefficients: tuple[float, ...], x: float) -> float:
    """Highest power first."""
    total = 0.0
    for c in coefficients:
        total = total * x + c
    return total


def _low_voltage_current(i600: float, ibf: float, kv: float) -> float:
    """Equation 25, at and below 600 V."""
    return 1 / math.sqrt((0.6 / kv) ** 2 * (1 / i600**2 - (0.36 - kv**2) / (0.36 * ibf**2)))


def _interpolate(at: dict[int, float], kv: float) -> float:
    """Equations 16 to 24: between 600 and 2700 V two lines blended, above 2700 V one line."""
    upper = (at[14300] - at[2700]) / 11.6 * (kv - 14.3) + at[14300]
    if kv > 2.7:
        return upper
    lower = (at[2700] - at[600]) / 2.1 * (kv - 2.7) + at[2700]
    return lower * (2.7 - kv) / 2.1 + upper * (kv - 0.6) / 2.1


def energy(
    situation: Situation, bolted_fault_current_ka: float, duration_ms: float, *, reduced: bool = False
) -> Energy:
    """Incident energy (equations 3 to 6) and arc-flash boundary (7 to 10) at full or reduced current.

    Above 600 V the reduced case reduces all three intermediate currents, also inside the fraction; at and
    below 600 V only the final current: the reading that reproduces the published examples.
    Returns J/cm², cal/cm² and mm. Raises as ``check`` does.
    """
    DURATION_MS.check(duration_ms)
    s, kv = situation, situation.voltage_v / 1000
    currents = arc_currents(s, bolted_fault_current_ka)
    fraction = currents.reduced_fraction if reduced else 1.0
    factor = correction(s).factor
    exponents = {}
    for v, i600 in currents.intermediate_ka.items():
        if s.voltage_v <= 600:
            inside, outside = i600, currents.arcing_current_ka * fraction
        else:
            inside = outside = i600 * fraction
        exponents[v] = _energy_exponent(s, bolted_fault_current_ka, v, inside, outside, factor)
    energies = {v: 12.552 / 50 * duration_ms * 10**e * _distance(s, v) for v, e in exponents.items()}
    boundaries = {v: _boundary(s, v, e, duration_ms) for v, e in exponents.items()}
    if s.voltage_v <= 600:
        joule, boundary = energies[600], boundaries[600]
    else:
        joule, boundary = _interpolate(energies, kv), _interpolate(boundaries, kv)
    return Energy(currents.arcing_current_ka * fraction, duration_ms, energies, joule, joule * CAL_PER_J, boundary)


def _energy_exponent(s: Situation, ibf: float, v: int, inside: float, outside: float, factor: float) -> float:
    k = table.ENERGY[s.electrode_configuration][v]
    fraction = k[2] * inside / (_polynomial(k[3:10], ibf) * ibf)
    return (
        k[0] + k[1] * math.log10(s.gap_mm) + fraction
        + k[10] * math.log10(ibf) + k[12] * math.log10(outside) - math.log10(factor)
    )  # fmt: skip


def _distance(s: Situation, v: int) -> float:
    return s.working_distance_mm ** table.ENERGY[s.electrode_configuration][v][11]


def _boundary(s: Situation, v: int, exponent: float, duration_ms: float) -> float:
    """The distance at which this intermediate energy is 5.0208 J/cm² (1.2 cal/cm²)."""
    slope = -table.ENERGY[s.electrode_configuration][v][11]
    return 10 ** ((exponent - math.log10(20 / duration_ms)) / slope)
