"""Conductors by size: NEC chapter 9 table 9 (ohm to neutral per 1000 ft, 75 °C, 60 Hz, single conductors in conduit)
and IEC 60228 class 2 (DC ohm/km at 20 °C). All from memory; docs/sources.md tells how each was checked.

``resistance`` turns either into the AC resistance at a conductor temperature.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.said import say

SOURCE_NEC = "NEC chapter 9 table 9, from memory"
SOURCE_IEC = "IEC 60228 class 2, skin effect IEC 60287-1-1; 0.08 ohm/km reactance: common practice, no source"
FEET_PER_M = 3.280839895
KM_PER_1000_FT = 0.3048
NEC_C, IEC_C = 75.0, 20.0
CONDUITS = ("pvc", "aluminum", "steel")
METALS = ("copper", "aluminum")
#: Zero of resistance on a straight line through the tables' own temperature, °C. Copper 234.5, aluminum 228.1
#: (common practice); NEC chapter 9 table 8 gives 0.00323 and 0.00330 a kelvin at 75 °C, the same to three digits.
INFERRED_ZERO_C = {"copper": 234.5, "aluminum": 228.1}
METRIC_REACTANCE_OHM_KM = 0.08

#: Size: X in PVC or aluminum, X in steel; copper R in PVC, aluminum, steel; aluminum R in PVC, aluminum, steel.
NEC_TABLE_9: dict[str, tuple[float | None, ...]] = {
    "14": (0.058, 0.073, 3.1, 3.1, 3.1, None, None, None),
    "12": (0.054, 0.068, 2.0, 2.0, 2.0, 3.2, 3.2, 3.2),
    "10": (0.050, 0.063, 1.2, 1.2, 1.2, 2.0, 2.0, 2.0),
    "8": (0.052, 0.065, 0.78, 0.78, 0.78, 1.3, 1.3, 1.3),
    "6": (0.051, 0.064, 0.49, 0.49, 0.49, 0.81, 0.81, 0.81),
    "4": (0.048, 0.060, 0.31, 0.31, 0.31, 0.51, 0.51, 0.51),
    "3": (0.047, 0.059, 0.25, 0.25, 0.25, 0.40, 0.41, 0.40),
    "2": (0.045, 0.057, 0.19, 0.20, 0.20, 0.32, 0.32, 0.32),
    "1": (0.046, 0.057, 0.15, 0.16, 0.16, 0.25, 0.26, 0.25),
    "1/0": (0.044, 0.055, 0.12, 0.13, 0.12, 0.20, 0.21, 0.20),
    "2/0": (0.043, 0.054, 0.10, 0.10, 0.10, 0.16, 0.16, 0.16),
    "3/0": (0.042, 0.052, 0.077, 0.082, 0.079, 0.13, 0.13, 0.13),
    "4/0": (0.041, 0.051, 0.062, 0.067, 0.063, 0.10, 0.11, 0.10),
    "250": (0.041, 0.052, 0.052, 0.057, 0.054, 0.085, 0.090, 0.086),
    "300": (0.041, 0.051, 0.044, 0.049, 0.045, 0.071, 0.076, 0.072),
    "350": (0.040, 0.050, 0.038, 0.043, 0.039, 0.061, 0.066, 0.063),
    "400": (0.040, 0.049, 0.033, 0.038, 0.035, 0.054, 0.059, 0.055),
    "500": (0.039, 0.048, 0.027, 0.032, 0.029, 0.043, 0.048, 0.045),
    "600": (0.039, 0.048, 0.023, 0.028, 0.025, 0.036, 0.041, 0.038),
    "750": (0.038, 0.048, 0.019, 0.024, 0.021, 0.029, 0.034, 0.031),
    "1000": (0.037, 0.046, 0.015, 0.019, 0.018, 0.023, 0.027, 0.025),
}

#: mm²: copper, aluminum.
IEC_60228: dict[str, tuple[float, float | None]] = {
    "1.5": (12.1, None),
    "2.5": (7.41, None),
    "4": (4.61, None),
    "6": (3.08, None),
    "10": (1.83, 3.08),
    "16": (1.15, 1.91),
    "25": (0.727, 1.20),
    "35": (0.524, 0.868),
    "50": (0.387, 0.641),
    "70": (0.268, 0.443),
    "95": (0.193, 0.320),
    "120": (0.153, 0.253),
    "150": (0.124, 0.206),
    "185": (0.0991, 0.164),
    "240": (0.0754, 0.125),
    "300": (0.0601, 0.100),
    "400": (0.0470, 0.0778),
    "500": (0.0366, 0.0605),
    "630": (0.0283, 0.0469),
}


@dataclass(frozen=True)
class Conductor:
    """Ohm per km of one conductor at ``at_c``, with where it comes from."""

    resistance_ohm_km: float
    reactance_ohm_km: float
    at_c: float
    source: str


def nec_ohm_per_1000_ft(size: str, metal: str = "copper", conduit: str = "steel") -> tuple[float, float]:
    """Resistance and reactance to neutral, ohm per 1000 ft at 75 °C; InputError names the column that is wrong.

    >>> nec_ohm_per_1000_ft("500")
    (0.029, 0.048)
    """
    row = NEC_TABLE_9.get(size)
    if row is None:
        raise InputError("conductor_size", size, say("one-of", options=tuple(NEC_TABLE_9)))
    if conduit not in CONDUITS:
        raise InputError("conduit", conduit, say("one-of", options=tuple(CONDUITS)))
    if metal not in METALS:
        raise InputError("conductor", metal, say("one-of", options=tuple(METALS)))
    resistance = row[2 + CONDUITS.index(conduit) + (3 if metal == "aluminum" else 0)]
    reactance = row[1 if conduit == "steel" else 0]
    if resistance is None or reactance is None:
        raise InputError("conductor_size", size, say("conductors-no-aluminum-conductor-of-this-size-in"))
    return resistance, reactance


def conductor(size: str, metal: str, conduit: str, frequency_hz: float) -> Conductor:
    """A size of either table: ``500`` or ``4/0`` (AWG, kcmil), ``95 mm2`` (metric). InputError for an unknown one."""
    if size.endswith("mm2"):
        return _metric(size, metal, frequency_hz)
    r, x = nec_ohm_per_1000_ft(size, metal, conduit)
    return Conductor(r / KM_PER_1000_FT, x / KM_PER_1000_FT * frequency_hz / 60, NEC_C, SOURCE_NEC)


def _metric(size: str, metal: str, frequency_hz: float) -> Conductor:
    row = IEC_60228.get(size.removesuffix("mm2").strip())
    if row is None:
        raise InputError("conductor_size", size, say("one-of", options=tuple(f"{s} mm2" for s in IEC_60228)))
    if metal not in METALS:
        raise InputError("conductor", metal, say("one-of", options=tuple(METALS)))
    dc = row[METALS.index(metal)]
    if dc is None:
        raise InputError("conductor_size", size, say("conductors-no-aluminum-conductor-of-this-size-in"))
    return Conductor(dc * skin_effect(dc, frequency_hz), METRIC_REACTANCE_OHM_KM * frequency_hz / 50, IEC_C, SOURCE_IEC)


def skin_effect(dc_ohm_km: float, frequency_hz: float) -> float:
    """AC over DC resistance of a round stranded conductor, IEC 60287-1-1 2.1.2 (k_s = 1), for x up to 2.8.

    >>> round(skin_effect(0.0470, 50), 3)
    1.036
    """
    x4 = (8 * math.pi * frequency_hz / (dc_ohm_km / 1000) * 1e-7) ** 2
    return 1 + x4 / (192 + 0.8 * x4)


def at_temperature(resistance: float, metal: str, from_c: float, to_c: float) -> float:
    """A resistance moved from one conductor temperature to another, °C, linear.

    >>> round(at_temperature(1, "copper", 75, 25), 3)
    0.838
    """
    zero = INFERRED_ZERO_C[metal]
    return resistance * (zero + to_c) / (zero + from_c)
