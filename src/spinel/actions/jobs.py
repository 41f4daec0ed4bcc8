"""Jobs: the folder that binds equipment, task, facts, decision, permits and what was learnt."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass

from spinel.actions import box, network
from spinel.actions.acting import Act, Actor, work
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.hazard import Hazard
from spinel.core.isolation.around import around
from spinel.core.network.document import Element
from spinel.core.network.sides import Reach
from spinel.core.permit.decision import Decision, check_answers, decide, never_dead, required_facts
from spinel.core.permit.justification import Justification, justification
from spinel.core.permit.life import ENDED
from spinel.core.permit.tasks import Task, effective_reach, reaches_for, task
from spinel.core.protection.duty import Duty
from spinel.core.switching.life import ENDED as PROGRAM_ENDED
from spinel.core.switching.order import ISOLATION, RESTORATION
from spinel.store import permits as store
from spinel.store import programs
from spinel.store.models import Job, Permit, Program

#: What may be done to a job: the roles for it, and how it is said.
_MAY = {
    "start": (("coordinator", "person_in_charge"), "start a job"),
    "answer": (("coordinator", "person_in_charge"), "answer for a job"),
    "permit": (("coordinator", "person_in_charge"), "prepare a permit"),
    "isolate": (("coordinator", "person_in_charge"), "write a program"),
    "close": (("coordinator",), "close a job"),
    "cancel": (("coordinator",), "cancel a job"),
}


@dataclass(frozen=True)
class Stage:
    """``state``: done, open, waiting (its turn has not come), blocked (the first cause) or skipped."""

    name: str
    state: str
    says: str


@dataclass(frozen=True)
class JobLine:
    """A job in a list."""

    number: str
    title: str
    state: str
    element: Element | None
    task: Task
    outcome: str
    permits: tuple[tuple[str, str], ...]
    requested_by: str
    changed_at: str


@dataclass(frozen=True)
class JobView:
    """A job with its decision as the figures are now. ``reach``: what its task reaches; ``sides``: what it may choose
    from, the worst first, each with its figures; ``worst``: the figures where nothing better is chosen. ``isolable``:
    can the equipment be made dead at all?"""

    number: str
    title: str
    state: str
    version: int
    element: Element | None
    task: Task
    touches: str
    reach: Reach | None
    sides: tuple[Hazard, ...]
    worst: Hazard | None
    isolable: bool
    facts: Mapping[str, str]
    questions: tuple[str, ...]
    claim: Justification
    statement: str
    hazard: Hazard | None
    duty: Duty | None
    decision: Decision | None
    permits: tuple[tuple[str, str], ...]
    programs: tuple[tuple[str, str, str, bool], ...]
    stages: tuple[Stage, ...]
    requested_by: str
    changed_by: str
    changed_at: str
    learnt: str
    circuit_changed: str


def start(act: Act, element_id: str, task_id: str, title: str, touches: str) -> str:
    """Open a job on an element with a shipped task. Returns its number."""
    _need(act.actor, "start")
    element = network.site().network.get(element_id)
    chosen = task(task_id)
    title = _title(title)
    touches = effective_reach(chosen, element, touches).code
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        number = store.next_number(Job, "J")
        Job.insert(
            number=number, title=title, element_id=element_id, task_id=chosen.id, touches=touches,
            requested_by=act.actor.id, created_at=act.at, changed_at=act.at, changed_by=act.actor.name,
        ).execute()  # fmt: skip
        decision = decision_of(_job(number))[0]
        _save(act, _job(number), 1, outcome=decision.outcome)
        unit.record("job started", f"job:{number}", {"element": element_id, "task": task_id, "title": title})
    return number


def _need(actor: Actor, what: str) -> None:
    roles, words = _MAY[what]
    actor.needs(*roles, what=words)


def why_not(actor: Actor) -> dict[str, str]:
    """For everything that may be done to a job: why this person may not. Pages show it in place of the button."""
    reasons = {}
    for what in _MAY:
        try:
            _need(actor, what)
        except NotAllowed as refusal:
            reasons[what] = refusal.why
    return reasons


def _title(text: str) -> str:
    text = " ".join(text.split())
    if not 4 <= len(text) <= 120:
        raise InputError("title", text, "what is to be done, in 4 to 120 characters")
    return text


def answer(
    act: Act, number: str, version: int, facts: Mapping[str, str], claim_id: str, statement: str, touches: str
) -> Decision:  # fmt: skip
    """Answer the facts and claim a justification; returns the decision that follows."""
    _need(act.actor, "answer")
    check_answers(facts)
    justification(claim_id)
    if len(statement) > 2000:
        raise InputError("statement", statement, "at most 2000 characters")
    with work(act) as unit:
        job = open_job(number)
        if unit.done is None:
            if any(p.state not in (*ENDED, "draft") for p in store.permits_of(job.id)):
                raise Refusal(
                    "permits freeze what they were signed on", "A permit of this job is signed or in force.",
                    "Cancel that permit first; then the facts can be answered anew.",
                )  # fmt: skip
            kept = {k: v.strip() for k, v in facts.items() if v.strip()}
            element = network.site().network.get(job.element_id)
            touches = effective_reach(task(job.task_id), element, touches).code
            _save(
                act, job, version, facts=canonical(kept), justification=claim_id, statement=statement.strip(),
                touches=touches,
            )  # fmt: skip
            decision = _view(_job(number)).decision
            assert decision is not None
            _save(act, _job(number), version + 1, outcome=decision.outcome)
            payload = {"facts": kept, "justification": claim_id, "statement": statement, "outcome": decision.outcome}
            unit.record("job decided", f"job:{number}", payload)
    decision = view(number).decision
    assert decision is not None
    return decision


def close(act: Act, number: str, version: int, circuit_changed: str, learnt: str) -> None:
    """Close a job: every permit ended, and said whether the circuit was changed."""
    _need(act.actor, "close")
    if circuit_changed not in ("yes", "no"):
        raise InputError("circuit_changed", circuit_changed, "yes or no")
    _finish(act, number, version, "closed", circuit_changed=circuit_changed, learnt=learnt.strip()[:2000])


def cancel(act: Act, number: str, version: int, reason: str) -> None:
    """Cancel a job that is not done; its permits must have ended."""
    _need(act.actor, "cancel")
    if len(reason.strip()) < 4:
        raise InputError("reason", reason, "why, in 4 characters or more")
    _finish(act, number, version, "cancelled", learnt=reason.strip()[:2000])


def _finish(act: Act, number: str, version: int, state: str, **changes: str) -> None:
    with work(act) as unit:
        if unit.done:
            return
        job = open_job(number)
        still = [p.number for p in store.permits_of(job.id) if p.state not in ENDED]
        if still:
            raise Refusal(
                "a job closes after its permits", f"{', '.join(still)} has not ended.", "Close or cancel it first."
            )
        _isolations_over(job)
        _save(act, job, version, state=state, **changes)
        unit.record(f"job {state}", f"job:{number}", dict(changes))


def _isolations_over(job: Job) -> None:
    """Refusal while a program has not ended, or a lock, tag, ground or person of the job is still there."""
    own = [p for p in programs.programs_of(job.id) if not p.practice]
    still = [p for p in own if p.state not in PROGRAM_ENDED]
    if still:
        raise Refusal(
            "a job closes after its programs", f"{still[0].number} is {still[0].state}.", "Execute or abandon it first."
        )
    left = [p.hold for p in own if box.anything_left(p.hold)]
    if left:
        raise Refusal(
            "a job closes when nothing hangs", f"Locks, tags, grounds or people of {left[0]} are still there.",
            "Execute the restoration.",
        )  # fmt: skip


def view(number: str) -> JobView:
    """The job with its present decision, or NotFound."""
    return _view(_job(number))


def lines(state: str | None = None) -> list[JobLine]:
    """All jobs, newest first."""
    by_job = store.permits_by_job()
    known = network.site().network.element
    return [
        JobLine(
            j.number, j.title, j.state, known.get(j.element_id), task(j.task_id), j.outcome,
            _permit_lines(by_job.get(j.id, [])), j.requested_by.name, j.changed_at,
        )
        for j in store.jobs(state)
    ]  # fmt: skip


def decision_of(job: Job, distance_mm: float | None = None) -> tuple[Decision, Hazard, Duty | None]:
    """Decision, hazard and duty check of a stored job as the figures are now."""
    here = network.site()
    chosen = task(job.task_id)
    element = here.network.get(job.element_id)
    hazard = here.study.hazard(element.id, reach_of(here, job).code, distance_mm)
    duty = here.study.duty.get(element.id)
    claim = justification(job.justification)
    near = around(here.network, element) if never_dead(element) else None
    decision = decide(chosen, hazard, json.loads(job.facts), claim, job.statement, here.profile, duty, near)
    return decision, hazard, duty


def reach_of(here: network.Site, job: Job) -> Reach:
    """What the task of a job reaches at its equipment; an end that a revision took away counts as not chosen."""
    element = here.network.get(job.element_id)
    try:
        return effective_reach(task(job.task_id), element, job.touches)
    except InputError:
        return effective_reach(task(job.task_id), element, "")


def _job(number: str) -> Job:
    job = store.job(number)
    if job is None:
        raise NotFound("job", number)
    return job


def open_job(number: str) -> Job:
    """The stored job, or a Refusal when it has ended."""
    job = _job(number)
    if job.state != "open":
        raise Refusal("life of a job", f"{number} is {job.state}.", "Start a new job.")
    return job


def _save(act: Act, job: Job, version: int, **changes: object) -> None:
    if not store.save(job, version, changed_at=act.at, changed_by=act.actor.name, **changes):
        raise Stale("job", job.number, job.changed_by, job.changed_at)


def _view(job: Job) -> JobView:
    here = network.site()
    element = here.network.element.get(job.element_id)
    chosen, claim = task(job.task_id), justification(job.justification)
    facts = json.loads(job.facts)
    decision = hazard = duty = reach = worst = None
    sides: tuple[Hazard, ...] = ()
    if element is not None:
        decision, hazard, duty = decision_of(job)
        reach = reach_of(here, job)
        allowed = {r.code for r in reaches_for(chosen, element)}
        sides = tuple(h for h in here.study.sides(element.id) if h.touches in allowed)
        worst = here.study.hazard(element.id) if len(sides) > 1 else None
    permits = store.permits_of(job.id)
    return JobView(
        job.number, job.title, job.state, job.version, element, chosen, job.touches, reach, sides, worst,
        element is not None and not never_dead(element), facts,
        required_facts(chosen, hazard) if hazard else (), claim, job.statement, hazard, duty, decision,
        _permit_lines(permits), _program_lines(job), _stages(job, element, decision, permits),
        job.requested_by.name, job.changed_by, job.changed_at, job.learnt, job.circuit_changed,
    )  # fmt: skip


def _permit_lines(permits: list[Permit]) -> tuple[tuple[str, str], ...]:
    return tuple((p.number, p.state) for p in permits)


def _program_lines(job: Job) -> tuple[tuple[str, str, str, bool], ...]:
    """Number, purpose, state and practice of each program."""
    return tuple((p.number, p.purpose, p.state, bool(p.practice)) for p in programs.programs_of(job.id))


def _stages(job: Job, element: Element | None, decision: Decision | None, permits: list[Permit]) -> tuple[Stage, ...]:
    """All stages at once: what is done, what is open, what waits, and the first cause where one is blocked."""
    stages = [Stage("Scope", "done", f"{task(job.task_id).name}")]
    if decision is None:
        stages.append(Stage("Decision", "blocked", "The equipment is no longer in the network"))
    elif decision.outcome == "facts_missing":
        stages.append(Stage("Decision", "open", f"{len(decision.missing)} questions not answered"))
    else:
        stages.append(Stage("Decision", "done", decision.title))
    own = [p for p in programs.programs_of(job.id) if not p.practice]
    stages += _program_stages(own) if own and not permits else _permit_stages(decision, permits, element)
    ended = all(p.state in ENDED for p in permits) and all(p.state in PROGRAM_ENDED for p in own)
    if job.state != "open":
        stages.append(Stage("Close", "done", job.state.capitalize()))
    elif ended and decision and decision.outcome not in ("facts_missing",):
        stages.append(Stage("Close", "open", "Was the circuit changed? What was learnt?"))
    else:
        stages.append(Stage("Close", "waiting", "When every permit and program has ended"))
    return tuple(stages)


def _program_stages(own: list[Program]) -> list[Stage]:
    isolation = next(p for p in reversed(own) if p.purpose == ISOLATION)
    restoration = next((p for p in reversed(own) if p.purpose == RESTORATION), None)
    says = {"stopped": f"stopped at step {isolation.step + 1}", "executing": f"at step {isolation.step + 1}"}
    words = f"{isolation.number} {says.get(isolation.state, isolation.state)}"
    held = box.view(isolation.hold)
    if held is None:
        state = "blocked" if isolation.state == "stopped" else "open"
        first = Stage("Isolation", state if isolation.state != "abandoned" else "blocked", words)
        work = Stage("Work", "waiting", "After the handover")
    elif held.unsound and not held.complete:
        first = Stage("Isolation", "done", words)
        work = Stage("Work", "blocked", held.unsound[0].why)
    else:
        first = Stage("Isolation", "done", words)
        people = f"{len(held.locks)} on the box" if held.locks else "Nobody's lock on the box"
        work = Stage("Work", "done", "Complete") if held.complete else Stage("Work", "open", people)
    if restoration is None:
        last = Stage("Restoration", "waiting", "Not drafted yet")
    elif restoration.state == "done":
        last = Stage("Restoration", "done", restoration.number)
    else:
        ready = held is None or held.complete
        last = Stage("Restoration", "open" if ready and isolation.state in PROGRAM_ENDED else "waiting",
                     f"{restoration.number} {restoration.state}")  # fmt: skip
    return [first, work, last]


def _permit_stages(decision: Decision | None, permits: list[Permit], element: Element | None) -> list[Stage]:
    current = next((p for p in reversed(permits) if p.state != "cancelled"), None)
    if current is None:
        if decision and decision.permit:
            return [Stage("Permit", "open", "Prepare it"), Stage("Work", "waiting", "After the permit is in force")]
        if decision and decision.live:
            how = "With its practices and all PPE" if decision.outcome == "exempt" else "As decided"
            return [Stage("Permit", "skipped", "Not needed"), Stage("Work", "open", how)]
        if decision is None or decision.outcome == "facts_missing":
            return [Stage("Permit", "waiting", "After the decision"), Stage("Work", "waiting", "After the decision")]
        if element is not None and never_dead(element):
            return [
                Stage("Permit", "blocked", "It cannot be switched off, and has no figures or justification yet"),
                Stage("Work", "waiting", "Needs a permit"),
            ]
        return [
            Stage("Isolation", "open", "Draft the switching program"),
            Stage("Work", "waiting", "Behind the isolation, each with a lock on its box"),
            Stage("Restoration", "waiting", "When the work is complete and all locks are off"),
        ]
    state = current.state
    if state == "refused":
        return [Stage("Permit", "blocked", f"{current.number} was refused"), Stage("Work", "waiting", "Needs a permit")]
    if state in ("draft", "submitted", "approved", "issued"):
        return [
            Stage("Permit", "open", f"{current.number} {state}"),
            Stage("Work", "waiting", "After briefing and acceptance"),
        ]
    if state == "suspended":
        return [Stage("Permit", "done", current.number), Stage("Work", "blocked", current.suspended_because)]
    if state == "in_force":
        return [Stage("Permit", "done", current.number), Stage("Work", "open", "In force")]
    return [Stage("Permit", "done", current.number), Stage("Work", "done", state.replace("_", " ").capitalize())]
