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
from spinel.core.permit.justification import LOSSES, QUESTIONS
from spinel.core.permit.tasks import FACTS, NORMAL_CONDITIONS, Task
from spinel.core.profile import Profile
from spinel.core.protection.duty import Duty
from spinel.core.said import Sayable, say
from spinel.core.tables.forms import Justification
from spinel.core.texts import ANSWER

ANSWERS = ("yes", "no", "unknown")

OUTCOMES = {
    "facts_missing": say("decision-facts-are-missing"),
    "below_50": say("decision-below-the-shock-threshold"),
    "normal_operation": say("decision-normal-operation"),
    "not_assessed": say("decision-not-assessed"),
    "beyond_ppe": say("decision-beyond-any-ppe"),
    "exempt": say("decision-exempt-from-a-permit"),
    "live_with_permit": say("decision-live-with-a-permit"),
    "not_justified": say("decision-not-justified"),
    "work_dead": say("decision-work-dead"),
}


@dataclass(frozen=True, kw_only=True)
class Decision:
    """``rule`` names the rule, ``because`` the facts behind it, ``remedy`` what would change it."""

    outcome: str
    sentence: Sayable
    rule: Sayable
    because: tuple[Sayable, ...]
    remedy: Sayable = ""
    missing: tuple[str, ...] = ()
    live: bool = False
    permit: bool = False

    @property
    def title(self) -> Sayable:
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
            raise InputError(key, answer, say("decision-not-a-question-of-this-task"))
        if asked is not None and asked.kind == "text":
            ANSWER.check(answer, key)
        elif asked is not None and asked.kind == "choice":
            if answer and answer not in dict(asked.choices):
                raise InputError(key, answer, say("one-of", options=tuple(dict(asked.choices))))
        elif answer not in (*ANSWERS, ""):
            raise InputError(key, answer, say("decision-yes-no-or-unknown"))


def never_dead(element: Element) -> bool:
    """Is it a source that nobody at the site can switch off: a battery, or the utility's own terminals?"""
    return element.row.never_dead


def decide(
    task: Task,
    hazard: Hazard,
    facts: Mapping[str, str],
    claim: Justification,
    statement: str,
    profile: Profile,
    duty: Duty | None,
    around: tuple[str, ...] | None = None,
    may_add: tuple[str, ...] | None = None,
) -> Decision:
    """The decision for one task at one place.

    ``duty`` is the duty check of the device that is operated; None when it is no device that can have one. ``around``:
    for a source that cannot be switched off, what around it can be made dead; None for everything else. ``may_add``:
    names of those who may put the task on the site's list of live tasks; None where it is on it.
    """
    check_answers(facts)
    if not task.electrical:
        behind = _never_live(task)
        return behind if around is None else _not_dead(behind, around)
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
    if decision.live and may_add is not None:
        decision = _not_on_the_list(decision, may_add)
    if around is not None and not decision.live and decision.outcome != "facts_missing":
        decision = _not_dead(decision, around)
    if duty is not None and not duty.adequate and task.acts != "operates":
        decision = replace(
            decision, because=(*decision.because, say("decision-it-fails-its-duty-check", reason=duty.reason))
        )
    if task.acts == "operates":
        why = normal_operation_failures(facts, duty)
        decision = replace(
            decision, because=(*decision.because, *(say("decision-no-normal-operation", w=w) for w in why))
        )
    return decision


def _never_live(task: Task) -> Decision:
    """Work that is no electrical work has no reason to be near anything live."""
    return Decision(
        outcome="work_dead",
        sentence=say("decision-work-behind-an-isolation"),
        rule=say("decision-de-energize-unless-justified"),
        because=(say("decision-no-electrical-work", name=task.name),),
        remedy=say("decision-isolate-lock-and-prove-absence-of-voltage"),
    )


def _not_on_the_list(decision: Decision, may_add: tuple[str, ...]) -> Decision:
    """What would be live by the rules, and is not what this site does live."""
    found = _refused(
        say("decision-this-site-does-not-do-it-live"), say("decision-only-tasks-on-the-list-are-live"), decision.because
    )
    return replace(found, remedy=say("decision-may-put-it-on-the-list", names=may_add))


def _missing(keys: tuple[str, ...]) -> Decision:
    count = say("decision-one-question-is") if len(keys) == 1 else say("decision-questions-are", count=len(keys))
    words = tuple(FACTS[k] if k in FACTS else QUESTIONS[k].text for k in keys)
    return Decision(
        outcome="facts_missing",
        sentence=say("decision-no-decision-yet-not-answered", count=count),
        rule=say("decision-every-fact-is-answered-none-assumed"),
        because=words,
        remedy=say("decision-answer-each-yes-no-or-unknown-or"),
        missing=keys,
    )


def _not_dead(decision: Decision, around: tuple[str, ...]) -> Decision:
    """Nobody is told to work dead on what cannot be switched off."""
    what = (
        say("decision-what-can-be-made-dead-around-it", arounds=tuple(around))
        if around
        else say("decision-nothing-around-it-can-be-made-dead")
    )
    outcome = "not_assessed" if decision.outcome == "work_dead" else decision.outcome
    sentence = decision.sentence
    if decision.outcome == "work_dead":
        sentence = say("decision-it-cannot-be-switched-off-and-no")
    return replace(
        decision,
        outcome=outcome,
        sentence=sentence,
        because=(*decision.because, say("decision-a-source-that-cannot-be-switched-off")),
        remedy=say("decision-the-work-on-the-source-itself-needs", what=what),
    )


def _below(hazard: Hazard, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not hazard.below_threshold or facts.get("no_increased_exposure") != "yes":
        return None
    return Decision(
        outcome="below_50",
        sentence=say("decision-live-is-acceptable-every-voltage-here-is", limit=profile.threshold.said(hazard.current)),
        rule=say("decision-below-v-without-increased-exposure", limit=profile.threshold.said(hazard.current)),
        because=(
            say("decision-highest-voltage-exposed-v", voltage_v=hazard.voltage_v, current=hazard.current),
            say("decision-answered-yes", no_increased_exposure=FACTS["no_increased_exposure"]),
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
        sentence=say("decision-operate-it-every-condition-of-normal-operation"),
        rule=say("decision-normal-operation-every-condition-answered"),
        because=(
            say("decision-all-seven-questions-answered-yes"),
            say("decision-rated-for-the-available-fault-current", reason=duty.reason),
        ),
        live=True,
    )


def normal_operation_failures(facts: Mapping[str, str], duty: Duty | None) -> tuple[Sayable, ...]:
    """Why an operation is not a normal one: conditions not answered yes, and the duty check."""
    failed = [say("decision-not-answered-yes", k=FACTS[k]) for k in NORMAL_CONDITIONS if facts.get(k) != "yes"]
    if duty is None:
        failed.append(say("decision-no-duty-check-it-is-no-device"))
    elif not duty.adequate:
        failed.append(say("decision-duty-check-failed", reason=duty.reason))
    return tuple(failed)


def _no_figure(hazard: Hazard) -> Decision | None:
    if not hazard.no_figure:
        return None
    return Decision(
        outcome="not_assessed",
        sentence=say("decision-no-permit-this-place-has-no-arc"),
        rule=say("decision-no-live-work-without-an-assessment"),
        because=(hazard.no_figure,),
        remedy=say("decision-work-dead-or-have-it-studied-by"),
    )


def _beyond(hazard: Hazard) -> Decision | None:
    if not hazard.beyond_ceiling or hazard.energy_cal_cm2 is None:
        return None
    return Decision(
        outcome="beyond_ppe",
        sentence=say("decision-nobody-works-on-this-live-and-nobody"),
        rule=say("decision-beyond-any-ppe-testing-too"),
        because=(
            say(
                "decision-cal-at-mm",
                energy_cal_cm2=hazard.energy_cal_cm2,
                ceiling_cal_cm2=hazard.ceiling_cal_cm2,
                working_distance_mm=hazard.working_distance_mm,
            ),
            say("decision-site-ceiling-cal", ceiling_cal_cm2=hazard.ceiling_cal_cm2),
        ),
        remedy=say("decision-work-dead-isolated-upstream-or-lower-the"),
    )


def _exempt(task: Task, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not task.exemption or any(facts.get(k) != "yes" for k in task.fact_keys):
        return None
    return Decision(
        outcome="exempt",
        sentence=say("decision-live-without-a-permit-qualified-people", exemption=task.exemption),
        rule=say("decision-exemption", exemption=task.exemption, permit=profile.sources["permit"]),
        because=tuple(say("decision-answered-yes-2", k=FACTS[k]) for k in task.fact_keys),
        live=True,
    )


def _claimed(task: Task, claim: Justification, facts: Mapping[str, str], statement: str, profile: Profile) -> Decision:
    alters = task.alters or facts.get("circuit_unaltered", "yes") != "yes"
    because = [
        say("decision-the-task-the-circuit", acts=say(f"task-acts-{task.acts}"))
        if task.alters
        else say("decision-the-task", acts=say(f"task-acts-{task.acts}"))
    ]
    if claim.id == "none":
        return Decision(
            outcome="work_dead",
            sentence=say("decision-work-dead-no-reason-is-claimed-that"),
            rule=say("decision-de-energize-unless-justified"),
            because=tuple(because),
            remedy=say("decision-isolate-lock-and-prove-absence-of-voltage"),
        )
    if not claim.accepted:
        said = (*because, say("decision-claimed", claim=claim.claim))
        return _refused(claim.reason, say("decision-never-a-justification", claim=claim.claim), said)
    if claim.only and (task.acts not in claim.only or alters):
        return _refused(
            say("decision-that-claim-is-only-for-a-task"),
            say("decision-a-justification-fits-its-task"),
            (*because, say("decision-claimed", claim=claim.claim)),
        )
    missing = tuple(k for k in claim.questions if not facts.get(k, "").strip())
    if missing:
        return _missing(missing)
    said = tuple(
        say("decision-answered", question=QUESTIONS[k].text, answer=_answer(k, facts[k])) for k in claim.questions
    )
    loss = dict(LOSSES).get(facts.get("hazard_kind", "")) if "hazard_kind" in claim.questions else None
    if loss is not None:
        return _refused(
            say("decision-and-that-is-no-hazard-to-anybody", loss=loss),
            say("decision-lost-output-cost-comfort-or-schedule-never"),
            (*because, *said),
        )
    open_ = [k for k in claim.questions if QUESTIONS[k].kind == "yes_no" and facts[k] != "yes"]
    if open_:
        return _refused(
            say("decision-an-alternative-has-not-been-ruled-out"),
            say("decision-live-work-only-where-there-is-no"),
            tuple(say("decision-not-answered-yes-2", text=QUESTIONS[k].text) for k in open_),
        )
    stated = (say("decision-stated", statement=statement),) if statement else ()
    return Decision(
        outcome="live_with_permit",
        sentence=say("decision-live-by-permit", reason=claim.reason),
        rule=say("decision-energized-work-is-justified-and-permitted", justification=profile.sources["justification"]),
        because=(*because, say("decision-claimed", claim=claim.claim), *said, *stated),
        live=True,
        permit=True,
    )


def _answer(key: str, answer: str) -> Sayable:
    """An answer as it is read: a choice by its words."""
    return dict(QUESTIONS[key].choices).get(answer, answer)


def _refused(why: Sayable, rule: Sayable, because: tuple[Sayable, ...]) -> Decision:
    return Decision(
        outcome="not_justified",
        sentence=say("decision-refused", why=why),
        rule=rule,
        because=because,
        remedy=say("decision-work-dead-only-an-added-hazard-infeasibility"),
    )
