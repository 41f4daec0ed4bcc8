"""Arcing current, incident energy and arc-flash boundary by IEEE Std 1584-2018.

Source: IEEE Std 1584-2018, clauses 4.3 to 4.10; coefficients from memory (see core/tables/ieee1584_2018).
Three-phase AC, 208 V to 15 kV, 50 or 60 Hz. Outside its range the model refuses; it never extrapolates.
Every number may be an array (``arrays``): the same formulas run over each configuration and voltage class at once.
docs/methods/ieee1584-2018.md describes range, limits and how it was checked.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from spinel.core.arcflash.ieee1584_2018 import arrays, formulas
from spinel.core.arcflash.ieee1584_2018.formulas import MODEL_VOLTAGES
from spinel.core.arcflash.ieee1584_2018.prepared import Prepared
from spinel.core.arcflash.ieee1584_2018.situation import (
    IN_A_BOX,
    LEAST_KA,
    MOST_KA,
    ArcCurrents,
    Correction,
    Enclosure,
    Energy,
    Number,
    Situation,
    check,
)
from spinel.core.quantities import CAL_PER_J, DURATION_MS
from spinel.core.tables.ieee1584_2018 import CONFIGURATIONS

SOURCE = "IEEE 1584-2018, coefficients from memory"
__all__ = [
    "CONFIGURATIONS", "IN_A_BOX", "LEAST_KA", "MODEL_VOLTAGES", "MOST_KA", "SOURCE", "ArcCurrents", "Correction",
    "Enclosure", "Energy", "Prepared", "Situation",
    "arc_currents", "boundary_mm", "check", "correction", "energy", "total",
]  # fmt: skip


def correction(situation: Situation) -> Correction:
    """Enclosure size correction factor, clause 4.8, equations 11 to 15 and table 6. 1 in open air."""
    if arrays.are_many(situation):
        return arrays.correction(situation)
    s, box = situation, situation.enclosure
    if s.electrode_configuration not in IN_A_BOX or box is None:
        return Correction(1.0, "open", None, None, None)
    depth = math.nan if box.depth_mm is None else box.depth_mm
    factor, shallow, width, height = formulas.box_factor(
        s.electrode_configuration, s.voltage_v, box.height_mm, box.width_mm, depth
    )
    return Correction(factor, "shallow" if shallow else "typical", width, height, (height + width) / 2)


def arc_currents(situation: Situation, bolted_fault_current_ka: Number) -> ArcCurrents:
    """Arcing current, equations 1, 16 to 25, and its reduced value, equation 2.

    Returns currents in kA. Raises as ``check`` does; for arrays at the first situation that is not covered.
    """
    if arrays.are_many(situation, bolted_fault_current_ka):
        return arrays.arc_currents(situation, bolted_fault_current_ka)
    check(situation, bolted_fault_current_ka)
    s = situation
    found = formulas.arcing(
        s.electrode_configuration, s.voltage_v > 600, s.voltage_v, s.gap_mm, bolted_fault_current_ka
    )
    return ArcCurrents(*found)


def energy(
    situation: Situation, bolted_fault_current_ka: Number, duration_ms: Number, *, reduced: bool = False
) -> Energy:
    """Incident energy (equations 3 to 6) and arc-flash boundary (7 to 10) at full or reduced current.

    Above 600 V the reduced case reduces all three intermediate currents, also inside the fraction; at and
    below 600 V only the final current: the reading that reproduces the published examples.
    Returns J/cm², cal/cm² and mm. Raises as ``check`` does.
    """
    if arrays.are_many(situation, bolted_fault_current_ka, duration_ms):
        return arrays.energy(situation, bolted_fault_current_ka, duration_ms, reduced)
    DURATION_MS.check(duration_ms)
    s = situation
    currents = arc_currents(s, bolted_fault_current_ka)
    fraction = currents.reduced_fraction if reduced else 1.0
    energies, boundaries = formulas.energies(
        s.electrode_configuration, s.voltage_v > 600, s.gap_mm, s.working_distance_mm, correction(s).factor,
        bolted_fault_current_ka, currents.intermediate_ka, currents.arcing_current_ka, fraction, duration_ms,
    )  # fmt: skip
    joule, boundary = (formulas.at_voltage(v, s.voltage_v) for v in (energies, boundaries))
    return Energy(currents.arcing_current_ka * fraction, duration_ms, energies, joule, joule * CAL_PER_J, boundary)


def total(situation: Situation, parts: Sequence[Energy]) -> Energy:
    """Energies of one place over successive stages, added; the boundary is where the whole leaves 5.0208 J/cm².

    Current and duration are those of the first stage and of all stages. Single situations only.
    """
    first = parts[0]
    if len(parts) == 1:
        return first
    s = situation
    energies = {v: sum(p.intermediate_j_cm2[v] for p in parts) for v in first.intermediate_j_cm2}
    joule, time = formulas.at_voltage(energies, s.voltage_v), sum(p.duration_ms for p in parts)
    return Energy(first.arcing_current_ka, time, energies, joule, joule * CAL_PER_J, boundary_mm(s, energies))


def boundary_mm(situation: Situation, intermediate_j_cm2: dict[int, Number]) -> Number:
    """Arc-flash boundary from the intermediate energies at the working distance, in mm; single or arrays."""
    if arrays.are_many(situation):
        return arrays.boundary_mm(situation, intermediate_j_cm2)
    s = situation
    kind, distance = s.electrode_configuration, s.working_distance_mm
    found = {v: formulas.distance_of(kind, v, joule, distance) for v, joule in intermediate_j_cm2.items()}
    return formulas.at_voltage(found, s.voltage_v)
