"""Words, forms and citations of North American practice. Own wording, from memory of NFPA 70E-2021 and 29 CFR 1910."""

from __future__ import annotations

from spinel.core.said import say
from spinel.core.tables.forms import Courses, Interval, Justification, Term

TERMS = {
    "live_paper": Term("energized work permit", "energized work permits"),
    "permit": Term("permit", "permits", verb="permit", done="permitted"),
    "switching_program": Term("switching program", "switching programs"),
    "program": Term("program", "programs"),
    "isolation": Term("isolation", "isolations", verb="isolate", done="isolated"),
    "switching": Term("switching", "switchings", verb="switch over", done="switched over"),
    "restoration": Term("restoration", "restorations", verb="restore", done="restored"),
    "director": Term("switching director", "switching directors"),
    "operator": Term("switching operator", "switching operators"),
    "in_charge": Term("person in charge", "persons in charge"),
    "authorizer": Term("authorizer", "authorizers"),
    "attendant": Term("attendant", "attendants"),
    "ground": Term("ground", "grounds", verb="ground", done="grounded"),
    "deenergize": Term("de-energizing", verb="de-energize", done="de-energized"),
    "energize": Term("energizing", verb="energize", done="energized"),
    "reenergize": Term("re-energizing", verb="re-energize", done="re-energized"),
    "safe_state": Term("electrically safe work condition"),
    "lockout": Term("lockout"),
    "one_line": Term("one-line", "one-lines"),
    "one_line_diagram": Term("one-line diagram"),
    "absence": Term("absence of voltage", verb="test for absence of voltage"),
    "qualification": Term("qualification", "qualifications", done="qualified"),
    "arc_flash_boundary": Term("arc-flash boundary"),
    "limited": Term("limited approach"),
    "restricted": Term("restricted approach"),
    "barricade": Term("barricade"),
    "over_gloves": Term("leather protectors"),
    "state_live": Term("LIVE"),
    "state_unknown": Term("UNKNOWN"),
    "state_dead": Term("DEAD, not proved"),
    "state_proved": Term("PROVED DEAD"),
    "state_grounded": Term("GROUNDED"),
}

EQUIPMENT_CLASSES = {
    name: name
    for name in (
        "medium-voltage switchgear", "low-voltage switchgear", "switchboard", "panelboard", "motor control center",
        "transformer", "cable junction box", "generator terminal box", "converter", "battery", "control panel",
        "outdoor terminal",
    )
}  # fmt: skip

#: Retraining of work practices at least every 3 years, and before a task that was not done for over a year; contact
#: release and first aid with resuscitation verified every year; lockout every 3 years (NFPA 70E-2021 110.6, from
#: memory). The rules of a site once a year: common practice, without source.
TRAINING = Courses(
    months={"task": 36, "lockout": 36, "release": 12, "first_aid": 12, "cpr": 12, "site": 12},
    each=("release", "lockout"), crew=("first_aid", "cpr"), practised=12,
)  # fmt: skip

STATEMENTS = {name: say(f"statement-{name}") for name in ("safe", "qualified", "briefed")}

BRIEFING = {
    name: say(f"briefing-{name}")
    for name in ("hazards", "special", "sources", "conditions", "covers", "escape", "place")
}

CAUTIONS = {name: say(f"caution-{name}") for name in ("permit", "program")}

SOURCES = {
    "permit": "NFPA 70E-2021 130.2, own wording, from memory",
    "normal operation": "NFPA 70E-2021 110.4(D), own wording, from memory",
    "justification": "NFPA 70E-2021 110.4, own wording, from memory",
    "clearing cap": "IEEE 1584-2018 informative text, common practice: two seconds where a person can get clear",
}

#: What may and what may never justify live work. Production, convenience, cost and ignorance of what a circuit feeds
#: never do. NFPA 70E-2021 110.4 and 29 CFR 1910.333(a)(1), from memory.
CLAIMS = {
    j.id: j
    for j in (
        Justification(
            "none",
            say("justification-no-reason-to-work-live"),
            False,
            say("justification-nobody-claims-that-it-must-be-live"),
        ),
        Justification(
            "added_hazard",
            say("justification-de-energizing-adds-a-hazard-or-raises"),
            True,
            say("justification-de-energizing-would-add-a-hazard-or"),
            (
                "hazard_kind",
                "hazard_named",
                "who_hurt",
                "no_other_supply",
                "no_other_time",
                "no_temporary_supply",
                "confirmed_by",
            ),
        ),
        Justification(
            "infeasible",
            say("justification-the-equipments-design-makes-it-infeasible-dead"),
            True,
            say("justification-the-equipments-design-makes-the-work"),
            ("design_named", "design_confirmed", "confirmed_by"),
        ),
        Justification(
            "needs_voltage",
            say("justification-the-task-itself-needs-voltage"),
            True,
            say("justification-the-task-cannot-be-done-without-voltage"),
            only=("measures", "inspects"),
        ),
        Justification(
            "production",
            say("justification-production-or-service-would-stop"),
            False,
            say("justification-a-stop-of-production-or-service-is"),
        ),
        Justification(
            "convenience",
            say("justification-it-would-take-longer-or-another-shift"),
            False,
            say("justification-convenience-never-justifies"),
        ),
        Justification(
            "cost",
            say("justification-a-shutdown-would-cost-too-much"),
            False,
            say("justification-cost-never-justifies"),
        ),
        Justification(
            "unknown_load",
            say("justification-we-do-not-know-what-it-feeds"),
            False,
            say("justification-not-knowing-what-a-circuit-feeds-is"),
        ),
    )
}

_TABLE_I5 = "29 CFR 1910.137 table I-5, from memory"
_STICKS = "29 CFR 1910.269(j)(2)(iii), from memory"
_COMMON = "common practice"
#: How often gear is tested, by kind. What is not here has no test: each use begins with looking at it.
INTERVALS = {
    "gloves": Interval(6, _TABLE_I5, 12),
    "sleeves": Interval(12, _TABLE_I5, 12),
    "blanket": Interval(12, _TABLE_I5, 12),
    "hot_stick": Interval(24, _STICKS),
    "rescue_hook": Interval(24, _STICKS),
    **{
        kind: Interval(12, _COMMON)
        for kind in ("mat", "contact", "low_impedance", "detector", "leads", "proving_unit", "fixed_tester", "grounds",
                     "insulated_tools")
    },
}  # fmt: skip
