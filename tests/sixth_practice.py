"""An invented practice that differs from the shipped one in every word, table, threshold and form. No school works so."""

from __future__ import annotations

from spinel.core.people import COURSES
from spinel.core.profile import NORTH_AMERICAN, Profile
from spinel.core.tables.forms import (
    ApproachRow,
    Clothing,
    Conductors,
    Courses,
    GloveClass,
    Instruments,
    Interval,
    Justification,
    Level,
    ShockRules,
    Term,
    Threshold,
    Writing,
)


def row(upper_v: float, scale: float) -> ApproachRow:
    return ApproachRow(
        upper_v=upper_v, limited_movable_mm=3111 * scale, limited_fixed_mm=1111 * scale, restricted_mm=333 * scale,
        limited_movable_in=123 * scale, limited_fixed_in=44 * scale, restricted_in=13 * scale,
    )  # fmt: skip


#: Word stems that no page under this practice may show, because it has its own for them.
STEMS = {
    "live_paper": "slip for lively labour", "permit": "slip", "switching_program": "throwing list", "program": "list",
    "isolation": "parting", "restoration": "mending", "switching": "shunting", "director": "thrower in chief", "operator": "thrower",
    "in_charge": "keyholder", "authorizer": "nodder", "attendant": "onlooker", "ground": "peg",
    "deenergize": "hush", "energize": "rouse", "reenergize": "wake", "safe_state": "hushed and pegged", "lockout": "bolting",
    "one_line": "thread", "one_line_diagram": "thread drawing", "absence": "stillness", "qualification": "token",
    "arc_flash_boundary": "flare edge", "limited": "outer ring", "restricted": "inner ring", "barricade": "rope", "over_gloves": "straw",
    "state_live": "ROUSED", "state_unknown": "WHO KNOWS", "state_dead": "QUIET", "state_proved": "STILL",
    "state_grounded": "PEGGED",
}  # fmt: skip

SIX = Profile(
    id="six",
    edition="9",
    name="Six",
    terms={k: Term(v, f"{v}s", v, f"{v}-done") if v.islower() else Term(v) for k, v in STEMS.items()},
    prefixes={"permit": "ZQ", "program": "ZL", "practice": "ZP"},
    shock=ShockRules(
        threshold=Threshold(ac_v=41, dc_v=77, inclusive=False),
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
    equipment_classes={k: f"hutch {i}" for i, k in enumerate(NORTH_AMERICAN.equipment_classes)},
    conductors=Conductors(lines=("U", "V", "W"), single="S", neutral="pink", ground="peg", plus="up", minus="down"),
    instruments=Instruments(absent_v=2.0, tolerance=0.05, least_source_v=22.0, residual_fall=0.6, induced_share=0.2),
    training=Courses(months={"task": 7, **dict.fromkeys(COURSES, 8)}, each=("site",), crew=("lockout",), practised=5),
    gear={k: Interval(5, "Sixth code 17") for k in NORTH_AMERICAN.gear},
    stick_mm=1710.0,
    high_voltage_v=777.0,
    grounds_above_v=333.0,
    made_safe=("bleed", "try", "hold"),
    clearing_cap_s=3.0,
    ceiling_cal_cm2=33.0,
    claims={
        "none": Justification("none", "nobody says so", False, "it was not said"),
        "infeasible": Justification(
            "infeasible", "It cannot be hushed", True, "it cannot be hushed", ("design_named", "design_confirmed"),
        ),
    },
    statements={"willing": "I am willing.", "rested": "I have slept."},
    briefing={"bell": "Where the bell hangs", "door": "Which door opens"},
    keep_out="Violet rope all around",
    cautions={"permit": "Ask the sixth house first.", "program": "Ask the sixth house before each throw."},
    written=Writing(day="%Y.%d.%b", date="%Y.%d.%b", time="%Hh%M", seconds="%Hh%M%S", decimal="·", group="'", paper="a4"),
    sources={k: "Sixth code" for k in NORTH_AMERICAN.sources},
)  # fmt: skip
