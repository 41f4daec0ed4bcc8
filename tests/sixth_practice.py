"""An invented practice in which every table and threshold differs from the shipped one. No school works like this."""

from __future__ import annotations

from dataclasses import replace

from spinel.core.profile import NORTH_AMERICAN, Profile
from spinel.core.tables.forms import ApproachRow, Clothing, GloveClass, Level, ShockRules


def row(upper_v: float, scale: float) -> ApproachRow:
    return ApproachRow(
        upper_v=upper_v, limited_movable_mm=3111 * scale, limited_fixed_mm=1111 * scale, restricted_mm=333 * scale,
        limited_movable_in=123 * scale, limited_fixed_in=44 * scale, restricted_in=13 * scale,
    )  # fmt: skip


SIX: Profile = replace(
    NORTH_AMERICAN,
    id="six",
    name="Six",
    terms={k: f"six {v}" for k, v in NORTH_AMERICAN.terms.items()},
    shock=ShockRules(
        threshold_v=41,
        ac=(row(777, 1), row(7_777, 2), row(77_777, 3)),
        dc=(row(7_777, 4), row(77_777, 5)),
        gloves=(GloveClass("A", 222, 333), GloveClass("B", 2_222, 3_333), GloveClass("C", 22_222, 33_333)),
        source="Sixth code 9",
        glove_source="Sixth code 10",
    ),
    clothing=Clothing(
        levels=(
            Level(
                upper_cal_cm2=0.9, inclusive=True, arc_rated=False, name="P0", items=("smock",), reason="light"
            ),
            Level(upper_cal_cm2=5, inclusive=False, arc_rated=True, name="P1", items=("robe",), reason="some"),
            Level(upper_cal_cm2=None, inclusive=True, arc_rated=True, name="P2", items=("bell",), reason="much"),
        ),
        source="Sixth code 11",
    ),
    clearing_cap_s=3.0,
    ceiling_cal_cm2=33.0,
    absence_limit_v=2.0,
    grounds_above_v=333.0,
    sources={k: "Sixth code" for k in NORTH_AMERICAN.sources},
)  # fmt: skip
