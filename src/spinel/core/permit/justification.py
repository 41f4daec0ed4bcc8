"""What may and what may never justify live work. Own wording.

Source: NFPA 70E-2021 110.4 and 29 CFR 1910.333(a)(1), from memory. Production, convenience, cost and ignorance
of what a circuit feeds are never justifications.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import NotFound


@dataclass(frozen=True)
class Justification:
    """``accepted``: may it justify at all? ``reason``: read aloud with the decision. ``questions``: what must be
    answered for it, keys of QUESTIONS. ``only``: what a task must do for the claim to fit it; empty: anything."""

    id: str
    claim: str
    accepted: bool
    reason: str
    questions: tuple[str, ...] = ()
    only: tuple[str, ...] = ()


@dataclass(frozen=True)
class Question:
    """``kind``: yes_no, text, or choice, with its ``choices``. ``short``: how the answer is headed on a permit."""

    text: str
    kind: str
    short: str
    choices: tuple[tuple[str, str], ...] = ()


#: Hazards that switching off could add to somebody, and losses that are none.
HAZARDS = (
    ("flooding", "Water rises or floods"), ("fire", "Fire, explosion or a gas that gathers"),
    ("trapped", "People are trapped or cannot get out"), ("fall", "Something falls, moves or loses its brake"),
    ("breathing", "People lose air, heat or care that keeps them alive"),
    ("warning", "A warning or protection of people goes out"), ("other", "Another hazard to somebody"),
)  # fmt: skip
LOSSES = (
    ("output", "Output or service is lost"), ("cost", "It costs money"), ("comfort", "People are put out"),
    ("schedule", "A date is missed"),
)  # fmt: skip

QUESTIONS = {
    "hazard_kind": Question("What happens when it is switched off?", "choice", "Added hazard", (*HAZARDS, *LOSSES)),
    "hazard_named": Question("Name that hazard, at this place", "text", "At this place"),
    "who_hurt": Question("Who would be hurt?", "text", "Hurt"),
    "no_other_supply": Question("Was another supply looked for, and there is none?", "yes_no", "No other supply"),
    "no_other_time": Question("Was another time looked for, and there is none?", "yes_no", "No other time"),
    "no_temporary_supply": Question(
        "Was a temporary supply looked for, and there is none?", "yes_no", "No temporary supply"
    ),
    "confirmed_by": Question("Who confirmed that there is no alternative?", "text", "Confirmed by"),
    "design_named": Question("What in the equipment's design makes it infeasible dead?", "text", "In its design"),
    "design_confirmed": Question(
        "Do its maker's instructions or a qualified engineer say so?", "yes_no", "Maker or engineer say so"
    ),
}


JUSTIFICATIONS = {
    j.id: j
    for j in (
        Justification("none", "No reason to work live", False, "nobody claims that it must be live"),
        Justification(
            "added_hazard", "De-energizing adds a hazard or raises a risk", True,
            "de-energizing would add a hazard or raise a risk",
            ("hazard_kind", "hazard_named", "who_hurt", "no_other_supply", "no_other_time", "no_temporary_supply",
             "confirmed_by"),
        ),
        Justification(
            "infeasible", "The equipment's design makes it infeasible dead", True,
            "the equipment's design makes the work infeasible while it is de-energized",
            ("design_named", "design_confirmed", "confirmed_by"),
        ),
        Justification(
            "needs_voltage", "The task itself needs voltage", True, "the task cannot be done without voltage",
            only=("measures", "inspects"),
        ),
        Justification(
            "production", "Production or service would stop", False,
            "a stop of production or service is an inconvenience, not a hazard to anybody",
        ),
        Justification("convenience", "It would take longer or another shift", False, "convenience never justifies"),
        Justification("cost", "A shutdown would cost too much", False, "cost never justifies"),
        Justification(
            "unknown_load", "We do not know what it feeds", False,
            "not knowing what a circuit feeds is a reason to find out, not to work live",
        ),
    )
}  # fmt: skip


def justification(justification_id: str) -> Justification:
    """The justification with this id, or NotFound."""
    try:
        return JUSTIFICATIONS[justification_id]
    except KeyError:
        raise NotFound("justification", justification_id) from None
