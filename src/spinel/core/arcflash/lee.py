"""Lee's method for an arc in open air above 15 kV. Never a fallback for anything else.

Source: R. Lee, "The other electrical hazard: electric arc blast burns", IEEE Trans. Industry Applications,
1982, in the metric form of IEEE 1584-2002; constant from memory.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from spinel.core.errors import OutOfRange
from spinel.core.quantities import (
    BOLTED_FAULT_CURRENT_KA,
    BOUNDARY_ENERGY_J_CM2,
    CAL_PER_J,
    DURATION_MS,
    NOMINAL_VOLTAGE_V,
    WORKING_DISTANCE_MM,
)
from spinel.core.said import say

SOURCE = "Lee 1982 (metric form, from memory)"


@dataclass(frozen=True)
class LeeEnergy:
    """Energy in J/cm² and cal/cm², boundary in mm. Lee has no arcing current below the bolted one."""

    incident_energy_j_cm2: float
    incident_energy_cal_cm2: float
    arc_flash_boundary_mm: float


def energy(
    voltage_v: float, bolted_fault_current_ka: float, duration_ms: float, working_distance_mm: float
) -> LeeEnergy:
    """E = 2.142e6 V I t / D², V in kV, I in kA, t in s, D in mm, J/cm².

    Raises OutOfRange at and below 15 kV, InputError on unusable numbers.

    >>> round(energy(34_500, 10, 100, 1000).incident_energy_j_cm2, 1)
    73.9
    """
    if not NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v") > 15_000:
        raise OutOfRange("voltage_v", voltage_v, say("lee-lees-method-is-for-open-air-above"))
    current = BOLTED_FAULT_CURRENT_KA.check(bolted_fault_current_ka)
    seconds = DURATION_MS.check(duration_ms) / 1000
    distance = WORKING_DISTANCE_MM.check(working_distance_mm)
    numerator = 2.142e6 * voltage_v / 1000 * current * seconds
    joule = numerator / distance**2
    return LeeEnergy(joule, joule * CAL_PER_J, math.sqrt(numerator / BOUNDARY_ENERGY_J_CM2))
