"""What a cable or a transformer withstands while a fault flows through it, as points of a time-current curve.

Cables: insulated conductors, ICEA P-32-382: (I / A)² t = c log10((T2 + z) / (T1 + z)). Transformers: through-fault,
liquid-filled, IEEE C57.109: thermal I²t = 1250 (times rated current), and for frequent faults of categories II and III
a mechanical part, I²t as at the highest current for 2 s, from 70 or 50 per cent of that current. Constants from memory
(docs/sources.md). Where the standard allows more, at long times, the stricter line is drawn.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from spinel.core.network.document import Element
from spinel.core.quantities import Quantity
from spinel.core.said import Sayable, say

SOURCE_CABLE = "ICEA P-32-382, from memory"
SOURCE_TRANSFORMER = "IEEE C57.109, from memory"
#: Circular mils in a square millimetre, and the resistance of a metal of one square millimetre and a metre at 20 °C.
CMIL_PER_MM2 = 1973.525
OHM_MM2_M = {"copper": 0.017241, "aluminum": 0.028264}
#: Of each metal: the constant of the equation, and the zero of its resistance, °C.
METAL = {"copper": (0.0297, 234.0), "aluminum": (0.0125, 228.0)}
#: The conductor before the fault, and what thermoplastic insulation bears for a short time, °C: what it is insulated
#: with is not recorded, and cross-linked insulation (90 to 250 °C) bears nearly twice as long.
BEFORE_C, BEARS_C = 75.0, 150.0
#: Times over which a cable's line is drawn, s: beyond, heat leaves it meanwhile.
CABLE_S = (0.01, 10.0)
THERMAL, LONGEST_S = 1250.0, 2000.0
#: Rated kVA up to which a three-phase transformer is of a category, and from which part of its highest through-fault
#: current the mechanical part counts; None: it has none.
CATEGORIES = ((500.0, "I", None), (5000.0, "II", 0.7), (30_000.0, "III", 0.5))

AREA_MM2 = Quantity("area_mm2", "mm²", 0, 10_000, low_exclusive=True)
FAULT_A = Quantity("current_a", "A", 0, 1e7, low_exclusive=True)
Curve = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Withstand:
    """``points``: amperes at the voltage of ``at_node``, seconds; straight on log-log axes. ``why_none``: why there are
    none."""

    element: Element
    at_node: str
    points: Curve
    source: str
    why_none: Sayable = ""


def cable_s(area_mm2: float, current_a: float, metal: str = "copper", before_c: float = BEFORE_C,
            bears_c: float = BEARS_C) -> float:  # fmt: skip
    """How long a conductor of ``area_mm2`` bears a current, s. InputError for what is not above zero.

    >>> round(cable_s(253.354, 30_000, "copper", 90, 250), 2), round(cable_s(253.354, 30_000), 2)  # 500 kcmil
    (1.44, 0.78)
    """
    c, zero = METAL[metal]
    cmil = AREA_MM2.check(area_mm2) * CMIL_PER_MM2
    heat = c * math.log10((bears_c + zero) / (before_c + zero))
    return heat * (cmil / FAULT_A.check(current_a)) ** 2


def transformer_s(rated_kva: float, impedance_pct: float, multiple: float) -> float:
    """How long a three-phase transformer bears a multiple of its rated current, s; infinite up to twice of it, 0 above
    what its own impedance lets through.

    >>> transformer_s(2000, 5.75, 10), round(transformer_s(2000, 5.75, 100 / 5.75), 6)
    (12.5, 2.0)
    """
    most = 100.0 / impedance_pct
    if multiple <= 2:
        return math.inf
    if multiple > most * (1 + 1e-9):
        return 0.0
    part = _mechanical(rated_kva)
    thermal = THERMAL / multiple**2
    if part is not None and multiple >= part * most:
        return min(thermal, 2.0 * (most / multiple) ** 2)
    return thermal


def _mechanical(rated_kva: float) -> float | None:
    return next((part for kva, _, part in CATEGORIES if rated_kva <= kva), 0.5)


def withstand(e: Element, volts_of: dict[str, float]) -> Withstand | None:
    """The curve of a cable or a two-winding transformer, in amperes at the node of its last end; None for other kinds.

    ``volts_of``: nominal voltage of each of its nodes.
    """
    if e.kind == "cable":
        area = conductor_mm2(e)
        if area is None:
            return Withstand(e, e.ends[-1], (), SOURCE_CABLE, say("withstand-no-size"))
        metal = e.conductor if e.conductor in METAL else "copper"
        k = cable_s(area, 1.0, metal)
        return Withstand(e, e.ends[-1], tuple(((k / t) ** 0.5, t) for t in reversed(CABLE_S)), SOURCE_CABLE)
    if e.kind != "transformer" or len(e.ends) != 2 or not e.rated_kva or not e.impedance_pct:
        return None
    if e.rated_kva > CATEGORIES[-1][0]:
        return Withstand(e, e.ends[-1], (), SOURCE_TRANSFORMER, say("withstand-category-iv"))
    base = e.rated_kva * 1000 / (math.sqrt(3) * volts_of[e.ends[-1]])
    return Withstand(e, e.ends[-1], _transformer_points(e.rated_kva, e.impedance_pct, base), SOURCE_TRANSFORMER)


def _transformer_points(rated_kva: float, impedance_pct: float, base_a: float) -> Curve:
    most, part = 100.0 / impedance_pct, _mechanical(rated_kva)
    least = max(2.0, (THERMAL / LONGEST_S) ** 0.5)
    bend = part * most if part is not None else most
    found = [(least, THERMAL / least**2)]
    if bend > least:
        found.append((bend, THERMAL / bend**2))
    if part is not None and 2.0 / part**2 < THERMAL / bend**2:
        found += [(bend, 2.0 / part**2), (most, 2.0)]
    elif bend < most:
        found.append((most, min(THERMAL / most**2, 2.0)))
    return tuple((m * base_a, t) for m, t in found)


def conductor_mm2(e: Element) -> float | None:
    """Cross-section of all conductors of a phase, mm²: by the recorded size, or by length and resistance, which gives
    rather less; None where neither is recorded."""
    if e.conductor_size and (one := size_mm2(e.conductor_size)):
        return one * e.per_phase
    if (told := re.match(r"(\d+) x (\S+)", e.size)) and (one := size_mm2(told[2])):
        return one * int(told[1])
    if e.length_m and e.resistance_ohm:
        return OHM_MM2_M.get(e.conductor, OHM_MM2_M["copper"]) * e.length_m / e.resistance_ohm
    return None


def size_mm2(size: str) -> float | None:
    """Area of a conductor by its size: kcmil from 250, AWG below, or mm² where it says so.

    >>> round(size_mm2("4/0"), 1), round(size_mm2("500"), 1), size_mm2("95 mm2"), size_mm2("thick")
    (107.2, 253.4, 95.0, None)
    """
    metric = re.fullmatch(r"(\d+(?:\.\d+)?) ?mm[2²]", size.strip())
    if metric:
        return float(metric[1])
    naught = re.fullmatch(r"(\d)/0", size.strip())
    if not naught and not re.fullmatch(r"\d{1,4}", size.strip()):
        return None
    number = 1 - int(naught[1]) if naught else int(size)
    if not naught and number >= 250:
        return number * 1000 / CMIL_PER_MM2
    if number > 40:
        return None
    mils = float(5.0 * 92 ** ((36 - number) / 39))
    return mils**2 / CMIL_PER_MM2
