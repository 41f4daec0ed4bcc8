"""What is asked of whoever claims that work must be live. The claims themselves are the practice's: core/profile."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class Question:
    """``kind``: yes_no, text, or choice, with its ``choices``. ``short``: how the answer is headed on a permit."""

    text: Sayable
    kind: str
    short: Sayable
    choices: tuple[tuple[str, Sayable], ...] = ()


#: Hazards that switching off could add to somebody, and losses that are none.
HAZARDS = (
    ("flooding", say("justification-water-rises-or-floods")),
    ("fire", say("justification-fire-explosion-or-a-gas-that-gathers")),
    ("trapped", say("justification-people-are-trapped-or-cannot-get-out")),
    ("fall", say("justification-something-falls-moves-or-loses-its-brake")),
    ("breathing", say("justification-people-lose-air-heat-or-care-that")),
    ("warning", say("justification-a-warning-or-protection-of-people-goes")),
    ("other", say("justification-another-hazard-to-somebody")),
)
LOSSES = (
    ("output", say("justification-output-or-service-is-lost")),
    ("cost", say("justification-it-costs-money")),
    ("comfort", say("justification-people-are-put-out")),
    ("schedule", say("justification-a-date-is-missed")),
)

QUESTIONS = {
    "hazard_kind": Question(
        say("justification-what-happens-when-it-is-switched-off"),
        "choice",
        say("justification-added-hazard"),
        (*HAZARDS, *LOSSES),
    ),
    "hazard_named": Question(
        say("justification-name-that-hazard-at-this-place"), "text", say("justification-at-this-place")
    ),
    "who_hurt": Question(say("justification-who-would-be-hurt"), "text", "Hurt"),
    "no_other_supply": Question(
        say("justification-was-another-supply-looked-for-and-there"), "yes_no", say("justification-no-other-supply")
    ),
    "no_other_time": Question(
        say("justification-was-another-time-looked-for-and-there"), "yes_no", say("justification-no-other-time")
    ),
    "no_temporary_supply": Question(
        say("justification-was-a-temporary-supply-looked-for-and"), "yes_no", say("justification-no-temporary-supply")
    ),
    "confirmed_by": Question(
        say("justification-who-confirmed-that-there-is-no-alternative"), "text", say("justification-confirmed-by")
    ),
    "design_named": Question(
        say("justification-what-in-the-equipments-design-makes-it"), "text", say("justification-in-its-design")
    ),
    "design_confirmed": Question(
        say("justification-do-its-makers-instructions-or-a-qualified"),
        "yes_no",
        say("justification-maker-or-engineer-say-so"),
    ),
}
