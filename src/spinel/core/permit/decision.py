"""May it be done live? The first rule that applies decides, and says which fact made it so.

Order and outcomes: design of the project, after NFPA 70E-2021 110.4 and 130.2 (own wording, from memory).
Fails safe: an unanswered fact never leads to an exemption, "unknown" counts as "no", and a low likelihood never
lowers the PPE.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from spinel.core.errors import InputError
from spinel.core.hazard import Hazard
from spinel.core.network.document import Element
from spinel.core.permit.justification import LOSSES, QUESTIONS, Justification
from spinel.core.permit.tasks import FACTS, NORMAL_CONDITIONS, Task
from spinel.core.profile import Profile
from spinel.core.protection.duty import Duty
from spinel.core.quantities import shown_above

ANSWERS = ("yes", "no", "unknown")

OUTCOMES = {
    "facts_missing": "Facts are missing",
    "below_50": "Below the shock threshold",
    "normal_operation": "Normal operation",
    "not_assessed": "Not assessed",
    "beyond_ppe": "Beyond any PPE",
    "exempt": "Exempt from a permit",
    "live_with_permit": "Live, with a permit",
    "not_justified": "Not justified",
    "work_dead": "Work dead",
}


@dataclass(frozen=True, kw_only=True)
class Decision:
    """``rule`` names the rule, ``because`` the facts behind it, ``remedy`` what would change it."""

    outcome: str
    sentence: str
    rule: str
    because: tuple[str, ...]
    remedy: str = ""
    missing: tuple[str, ...] = ()
    live: bool = False
    permit: bool = False

    @property
    def title(self) -> str:
        return OUTCOMES[self.outcome]


def required_facts(task: Task, hazard: Hazard) -> tuple[str, ...]:
    """The questions that this task at this place raises, in order."""
    below = ("no_increased_exposure",) if hazard.below_threshold else ()
    return (*below, *task.fact_keys)


def check_answers(facts: Mapping[str, str]) -> None:
    """InputError for an unknown question or answer."""
    for key, answer in facts.items():
        asked = QUESTIONS.get(key)
        if asked is None and key not in FACTS:
            raise InputError(key, answer, "not a question of this task")
        if asked is not None and asked.kind == "text":
            if len(answer) > 500 or any(not c.isprintable() for c in answer.replace("\n", " ")):
                raise InputError(key, answer, "at most 500 characters")
        elif asked is not None and asked.kind == "choice":
            if answer and answer not in dict(asked.choices):
                raise InputError(key, answer, "one of " + ", ".join(dict(asked.choices)))
        elif answer not in (*ANSWERS, ""):
            raise InputError(key, answer, "yes, no or unknown")


def never_dead(element: Element) -> bool:
    """Is it a source that nobody at the site can switch off: a battery, or the utility's own terminals?"""
    return element.row.never_dead


def decide(
    task: Task, hazard: Hazard, facts: Mapping[str, str], claim: Justification, statement: str, profile: Profile,
    duty: Duty | None, around: tuple[str, ...] | None = None,
) -> Decision:  # fmt: skip
    """The decision for one task at one place.

    ``duty`` is the duty check of the device that is operated; None when it is no device that can have one. ``around``:
    for a source that cannot be switched off, what around it can be made dead; None for everything else.
    """
    check_answers(facts)
    missing = tuple(k for k in required_facts(task, hazard) if not facts.get(k))
    if missing:
        return _missing(missing)
    exempted = _below(hazard, facts, profile) or _normal(task, hazard, facts, duty, profile)
    if exempted:
        return exempted
    decision = (
        _no_figure(hazard)
        or _beyond(hazard)
        or _exempt(task, facts, profile)
        or _claimed(task, claim, facts, statement, profile)
    )
    if around is not None and not decision.live and decision.outcome != "facts_missing":
        decision = _not_dead(decision, around)
    if duty is not None and not duty.adequate and task.acts != "operates":
        decision = replace(decision, because=(*decision.because, f"it fails its duty check: {duty.reason}"))
    if task.acts == "operates":
        why = normal_operation_failures(facts, duty)
        decision = replace(decision, because=(*decision.because, *(f"no normal operation: {w}" for w in why)))
    return decision


def _missing(keys: tuple[str, ...]) -> Decision:
    count = "One question is" if len(keys) == 1 else f"{len(keys)} questions are"
    words = tuple(FACTS[k] if k in FACTS else QUESTIONS[k].text for k in keys)
    return Decision(
        outcome="facts_missing",
        sentence=f"No decision yet: {count} not answered.",
        rule="every fact is answered, none assumed",
        because=words,
        remedy="Answer each: yes, no or unknown, or in words where it asks for them.",
        missing=keys,
    )


def _not_dead(decision: Decision, around: tuple[str, ...]) -> Decision:
    """Nobody is told to work dead on what cannot be switched off."""
    what = f"What can be made dead around it: {', '.join(around)}." if around else "Nothing around it can be made dead."
    outcome = "not_assessed" if decision.outcome == "work_dead" else decision.outcome
    sentence = decision.sentence
    if decision.outcome == "work_dead":
        sentence = "It cannot be switched off, and no reason is claimed for working on it: no work yet."
    return replace(
        decision, outcome=outcome, sentence=sentence,
        because=(*decision.because, "a source that cannot be switched off is always live"),
        remedy=f"{what} The work on the source itself needs figures, a justification and a permit of its own.",
    )  # fmt: skip


def _below(hazard: Hazard, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not hazard.below_threshold or facts.get("no_increased_exposure") != "yes":
        return None
    return Decision(
        outcome="below_50",
        sentence=f"Live is acceptable: every voltage here is below {profile.threshold_v:g} V and nothing adds to "
        "the exposure.",
        rule=f"below {profile.threshold_v:g} V without increased exposure",
        because=(
            f"highest voltage exposed: {hazard.voltage_v:g} V {hazard.current.upper()}",
            "answered yes: " + FACTS["no_increased_exposure"],
        ),
        live=True,
    )


def _normal(
    task: Task, hazard: Hazard, facts: Mapping[str, str], duty: Duty | None, profile: Profile
) -> Decision | None:
    if task.acts != "operates":
        return None
    if any(facts.get(k) != "yes" for k in NORMAL_CONDITIONS) or duty is None or not duty.adequate:
        return None
    return Decision(
        outcome="normal_operation",
        sentence="Operate it: every condition of normal operation holds. No permit, no arc-flash PPE.",
        rule="normal operation, every condition answered",
        because=("all seven questions answered yes", f"rated for the available fault current: {duty.reason}"),
        live=True,
    )


def normal_operation_failures(facts: Mapping[str, str], duty: Duty | None) -> tuple[str, ...]:
    """Why an operation is not a normal one: conditions not answered yes, and the duty check."""
    failed = [f"not answered yes: {FACTS[k]}" for k in NORMAL_CONDITIONS if facts.get(k) != "yes"]
    if duty is None:
        failed.append("no duty check: it is no device whose rating is recorded")
    elif not duty.adequate:
        failed.append(f"duty check failed: {duty.reason}")
    return tuple(failed)


def _no_figure(hazard: Hazard) -> Decision | None:
    if not hazard.no_figure:
        return None
    return Decision(
        outcome="not_assessed",
        sentence="No permit: this place has no arc-flash figure.",
        rule="no live work without an assessment",
        because=(hazard.no_figure,),
        remedy="Work dead, or have it studied by a qualified engineer.",
    )


def _beyond(hazard: Hazard) -> Decision | None:
    if not hazard.beyond_ceiling or hazard.energy_cal_cm2 is None:
        return None
    return Decision(
        outcome="beyond_ppe",
        sentence="Nobody works on this live, and nobody tests it either: the energy is above the site's ceiling.",
        rule="beyond any PPE, testing too",
        because=(
            f"{shown_above(hazard.energy_cal_cm2, hazard.ceiling_cal_cm2)} cal/cm² "
            f"at {hazard.working_distance_mm:g} mm",
            f"site ceiling {hazard.ceiling_cal_cm2:g} cal/cm²",
        ),
        remedy="Work dead, isolated upstream; or lower the energy (clearing time, remote operation) and have it "
        "studied.",
    )


def _exempt(task: Task, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not task.exemption or any(facts.get(k) != "yes" for k in task.fact_keys):
        return None
    return Decision(
        outcome="exempt",
        sentence=f"Live without a permit: {task.exemption}. Qualified people, practices and all PPE apply.",
        rule=f"exemption: {task.exemption} ({profile.sources['permit']})",
        because=tuple("answered yes: " + FACTS[k] for k in task.fact_keys),
        live=True,
    )


def _claimed(task: Task, claim: Justification, facts: Mapping[str, str], statement: str, profile: Profile) -> Decision:
    alters = task.alters or facts.get("circuit_unaltered", "yes") != "yes"
    because = [f"the task {task.acts} the circuit" if task.alters else f"the task {task.acts}"]
    if claim.id == "none":
        return Decision(
            outcome="work_dead",
            sentence="Work dead. No reason is claimed that would make live work acceptable.",
            rule="de-energize unless justified",
            because=tuple(because),
            remedy="Isolate, lock, and prove absence of voltage; or claim a justification that stands.",
        )
    if not claim.accepted:
        said = (*because, f"claimed: {claim.claim}")
        return _refused(claim.reason, f"never a justification: {claim.claim.lower()}", said)
    if claim.only and (task.acts not in claim.only or alters):
        return _refused(
            "that claim is only for a task that measures or looks, and leaves the circuit as it is",
            "a justification fits its task", (*because, f"claimed: {claim.claim}"),
        )  # fmt: skip
    missing = tuple(k for k in claim.questions if not facts.get(k, "").strip())
    if missing:
        return _missing(missing)
    said = tuple(f"{QUESTIONS[k].text} {_answer(k, facts[k])}" for k in claim.questions)
    loss = dict(LOSSES).get(facts.get("hazard_kind", "")) if "hazard_kind" in claim.questions else None
    if loss is not None:
        return _refused(
            f"{loss[0].lower()}{loss[1:]}, and that is no hazard to anybody",
            "lost output, cost, comfort or schedule never justifies", (*because, *said),
        )  # fmt: skip
    open_ = [k for k in claim.questions if QUESTIONS[k].kind == "yes_no" and facts[k] != "yes"]
    if open_:
        return _refused(
            "an alternative has not been ruled out", "live work only where there is no alternative",
            tuple(f"not answered yes: {QUESTIONS[k].text}" for k in open_),
        )  # fmt: skip
    stated = (f"stated: {statement}",) if statement else ()
    return Decision(
        outcome="live_with_permit", sentence=f"Live, by permit: {claim.reason}.",
        rule=f"energized work is justified and permitted ({profile.sources['justification']})",
        because=(*because, f"claimed: {claim.claim}", *said, *stated), live=True, permit=True,
    )  # fmt: skip


def _answer(key: str, answer: str) -> str:
    """An answer as it is read: a choice by its words."""
    return dict(QUESTIONS[key].choices).get(answer, answer)


def _refused(why: str, rule: str, because: tuple[str, ...]) -> Decision:
    return Decision(
        outcome="not_justified", sentence=f"Refused: {why}.", rule=rule, because=because,
        remedy="Work dead. Only an added hazard, infeasibility by design or a task that needs voltage can justify.",
    )  # fmt: skip
