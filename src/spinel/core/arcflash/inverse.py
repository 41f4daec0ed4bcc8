"""Questions asked backwards, and how much each input matters (IEEE 1584-2018).

How long may the arc last, how far must one stand, how large may the fault current be, for the energy to stay at or
below a target? All at the full or the reduced arcing current, whichever is worse at the same duration.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import brentq

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError, OutOfRange
from spinel.core.quantities import DURATION_MS, Quantity
from spinel.core.said import say

TARGET_CAL_CM2 = Quantity("target_cal_cm2", "cal/cm²", 0, 1000, low_exclusive=True)
#: Nobody stands further away than this to work.
FURTHEST_MM = 100_000.0
#: Fault currents that are looked at; energy does not strictly rise with current, so the first crossing is looked for.
STEPS = 400
_CAL = 4.184


def worse_energy(situation: ieee.Situation, bolted_fault_current_ka: float, duration_ms: float) -> float:
    """The worse of full and reduced energy in J/cm² at one duration; raises as ieee1584_2018.check."""
    both = (ieee.energy(situation, bolted_fault_current_ka, duration_ms, reduced=r) for r in (False, True))
    given: float = max(e.incident_energy_j_cm2 for e in both)
    return given


def longest_ms(situation: ieee.Situation, bolted_fault_current_ka: float, target_cal_cm2: float) -> float:
    """The arc duration in ms at which the energy is exactly the target (energy is proportional to time).

    >>> box = ieee.Enclosure(508, 508, 508)
    >>> round(longest_ms(ieee.Situation(480, "VCB", 32, 610, box), 30, 8))
    226
    """
    target = TARGET_CAL_CM2.check(target_cal_cm2)
    return target * _CAL / worse_energy(situation, bolted_fault_current_ka, 1.0)


def nearest_mm(
    situation: ieee.Situation, bolted_fault_current_ka: float, duration_ms: float, target_cal_cm2: float
) -> float:
    """The working distance in mm at which the energy is the target; 305 where it is below it even there.

    OutOfRange where 100 m is not far enough.
    """
    target = TARGET_CAL_CM2.check(target_cal_cm2) * _CAL

    def above(distance: float) -> float:
        there = replace(situation, working_distance_mm=distance)
        return math.log(worse_energy(there, bolted_fault_current_ka, duration_ms) / target)

    if above(305.0) <= 0:
        return 305.0
    if above(FURTHEST_MM) > 0:
        raise OutOfRange(
            "target_cal_cm2", target_cal_cm2, say("arcflash-inverse-not-reached-within-mm", furthest_mm=FURTHEST_MM)
        )
    return float(brentq(above, 305.0, FURTHEST_MM, xtol=1e-6, rtol=1e-12))


def highest_ka(situation: ieee.Situation, duration_ms: float, target_cal_cm2: float) -> float:
    """The bolted fault current in kA up to which the energy stays at or below the target at this duration.

    The top of the method's range where it always does; OutOfRange where it is above the target even at the bottom.
    """
    target = TARGET_CAL_CM2.check(target_cal_cm2) * _CAL
    low, high = (0.5, 106.0) if situation.voltage_v <= 600 else (0.2, 65.0)

    def above(current: float) -> float:
        return math.log(worse_energy(situation, current, duration_ms) / target)

    currents = np.geomspace(low, high, STEPS)
    currents[0], currents[-1] = low, high
    if above(low) > 0:
        raise OutOfRange("target_cal_cm2", target_cal_cm2, say("arcflash-inverse-exceeded-even-at-ka", low=low))
    both = [ieee.energy(situation, currents, duration_ms, reduced=r).incident_energy_j_cm2 for r in (False, True)]
    over = np.flatnonzero(np.maximum(*both) > target)
    if not len(over):
        return high
    first = int(over[0])
    return float(brentq(above, currents[first - 1], currents[first], xtol=1e-9))


@dataclass(frozen=True)
class Sensitivity:
    """What the energy does when one input moves by ``part`` up and down; None where the method does not cover that.

    ``exponent``: per cent of energy for one per cent of the input, at the value itself.
    """

    name: str
    value: float
    unit: str
    down_j_cm2: float | None
    up_j_cm2: float | None
    exponent: float | None


def sensitivities(
    situation: ieee.Situation, bolted_fault_current_ka: float, duration_ms: float, part: float = 0.1
) -> tuple[Sensitivity, ...]:
    """Each input moved alone by ``part`` (above 0 up to 0.5), strongest first."""
    if not 0 < part <= 0.5:
        raise InputError("part", part, say("arcflash-inverse-above-0-up-to-0-5"))
    worse_energy(situation, bolted_fault_current_ka, DURATION_MS.check(duration_ms))
    found = [
        _moved(name, value, unit, ask, part)
        for name, value, unit, ask in _inputs(situation, bolted_fault_current_ka, duration_ms)
    ]
    return tuple(sorted(found, key=lambda s: -abs(s.exponent or 0)))


Ask = Callable[[float], float]


def _inputs(s: ieee.Situation, ibf: float, ms: float) -> list[tuple[str, float, str, Ask]]:
    asked: list[tuple[str, float, str, Ask]] = [
        ("bolted_fault_current_ka", ibf, "kA", lambda x: worse_energy(s, x, ms)),
        ("duration_ms", ms, "ms", lambda x: worse_energy(s, ibf, x)),
    ]
    for name, unit in (("voltage_v", "V"), ("gap_mm", "mm"), ("working_distance_mm", "mm")):
        asked.append((name, getattr(s, name), unit, _of_situation(s, ibf, ms, name)))
    box = s.enclosure
    if box is not None and s.electrode_configuration in ieee.IN_A_BOX:
        for name in ("height_mm", "width_mm", "depth_mm"):
            if getattr(box, name) is not None:
                asked.append(
                    (
                        f"enclosure_{name}",
                        getattr(box, name),
                        "mm",
                        _of_box(s, box, ibf, ms, name),
                    )
                )
    return asked


def _of_situation(s: ieee.Situation, ibf: float, ms: float, name: str) -> Ask:
    return lambda x: worse_energy(replace(s, **{name: x}), ibf, ms)  # type: ignore[arg-type]


def _of_box(s: ieee.Situation, box: ieee.Enclosure, ibf: float, ms: float, name: str) -> Ask:
    return lambda x: worse_energy(replace(s, enclosure=replace(box, **{name: x})), ibf, ms)


def _moved(name: str, value: float, unit: str, ask: Ask, part: float) -> Sensitivity:
    def at(factor: float) -> float | None:
        try:
            return ask(value * factor)
        except InputError:
            return None

    step = 1e-4
    up, down = at(1 + step), at(1 - step)
    exponent = math.log(up / down) / math.log((1 + step) / (1 - step)) if up and down else None
    return Sensitivity(name, value, unit, at(1 - part), at(1 + part), exponent)
