"""Jobs: the folder that binds equipment, task, facts, decision, permits and what was learnt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from spinel.actions import stopping, task_library
from spinel.actions.acting import Act, Actor, work
from spinel.actions.equipment import equipment_classes
from spinel.actions.job_stages import Stage, stages_of
from spinel.actions.keeping import save
from spinel.actions.kept_up import of_each, with_upkeep
from spinel.actions.locks import anything_left
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.hazard import Hazard
from spinel.core.isolation.around import around
from spinel.core.network.document import Element
from spinel.core.network.sides import Reach
from spinel.core.permit.decision import OUTCOMES, Decision, check_answers, decide, never_dead, required_facts
from spinel.core.permit.life import ENDED, SIGNED, WITH_WINDOW
from spinel.core.permit.tasks import Task, effective_reach, fits, reaches_for
from spinel.core.protection.duty import Duty
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.life import ENDED as PROGRAM_ENDED
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.core.switching.order import SWITCHED
from spinel.core.tables.forms import Justification
from spinel.core.upkeep import KeptUp
from spinel.store import assessments, programs
from spinel.store import jobs as store
from spinel.store import permits as permits_store
from spinel.store.models import Job, Permit, Program
from spinel.store.numbering import next_number

#: What may be done to a job: the roles for it, and how it is said.
_MAY = {
    "start": (("coordinator", "person_in_charge"), say("act-jobs-start-a-job")),
    "plan": (("coordinator", "person_in_charge"), say("act-jobs-plan-a-job")),
    "answer": (("coordinator", "person_in_charge"), say("act-jobs-answer-for-a-job")),
    "permit": (("coordinator", "person_in_charge"), say("act-jobs-prepare-a-permit")),
    "isolate": (("coordinator", "person_in_charge"), say("act-jobs-write-a-program")),
    "close": (("coordinator",), say("act-jobs-close-a-job")),
    "cancel": (("coordinator",), say("act-jobs-cancel-a-job")),
}

NO_TIES: Mapping[str, str] = {}


@dataclass(frozen=True, kw_only=True)
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

    @property
    def outcome_title(self) -> Said:
        return OUTCOMES[self.outcome or "facts_missing"]


@dataclass(frozen=True, kw_only=True)
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
    #: how many times the task was changed since
    newer: int
    touches: str
    reach: Reach | None
    sides: tuple[Hazard, ...]
    worst: Hazard | None
    isolable: bool
    facts: Mapping[str, str]
    #: what the record of its upkeep says; it answers one of the questions
    upkeep: KeptUp | None
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
    #: what was found otherwise than planned, until it is answered anew
    not_planned: str
    #: the earlier job that it was begun like, empty for none
    as_in: str

    @property
    def isolating(self) -> bool:
        """Is an isolation of it, or its restoration, not over yet? Then no other is drafted."""
        return any(
            purpose != SWITCHED and state not in PROGRAM_ENDED and not practice
            for _, purpose, state, practice in self.programs
        )


@on_site
def start(act: Act, element_id: str, task_id: str, title: str, touches: str, ties: Mapping[str, str] = NO_TIES) -> str:
    """Open a job on an element with a task. ``ties``: what job_plan has it take from others. Returns its number."""
    need(act.actor, "start")
    element = act.site.as_it_is().network.get(element_id)
    known = task_library.kept(act.site, task_id)
    chosen = known.task
    if not fits(chosen, element, equipment_classes(act.site.as_it_is().network, element)):
        raise InputError("task", task_id, say("act-jobs-a-task-for-this-equipment"))
    title = texts.TITLE.check(title)
    touches = effective_reach(chosen, element, touches).code
    # its figures are known, and remembered, before anybody waits for this act
    act.site.as_it_is().study.hazard(element.id, touches)
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        number = next_number(Job, "J")
        store.insert(number, title, element_id, chosen.id, known.version, touches, act.actor.id, act.at, act.actor.name,
                     ties)  # fmt: skip
        decision = decision_of(unit.site.as_it_is(), stored(number))[0]
        save(act, stored(number), 1, outcome=decision.outcome)
        unit.record("job started", f"job:{number}", {"element": element_id, "task": task_id, "title": title,
                    **{tie: ties[tie] for tie in ("part_of", "as_in") if tie in ties}})  # fmt: skip
    return number


def need(actor: Actor, what: str) -> None:
    """NotAllowed unless the actor may do it to a job."""
    roles, words = _MAY[what]
    actor.needs(*roles, what=words)


def why_not(actor: Actor) -> dict[str, Sayable]:
    """For everything that may be done to a job: why this person may not. Pages show it in place of the button."""
    reasons = {}
    for what in _MAY:
        try:
            need(actor, what)
        except NotAllowed as refusal:
            reasons[what] = refusal.why
    return reasons


@on_site
def answer(
    act: Act, number: str, version: int, facts: Mapping[str, str], claim_id: str, statement: str, touches: str
) -> Decision:
    """Answer the facts and claim a justification; returns the decision that follows."""
    need(act.actor, "answer")
    check_answers(facts)
    act.site.as_it_is().profile.claim(claim_id)
    statement = texts.STATEMENT.check(statement, "statement")
    with work(act) as unit:
        job = open_job(number)
        if unit.done is None:
            _need_unsigned(job)
            kept = {k: v.strip() for k, v in facts.items() if v.strip()}
            element = unit.site.as_it_is().network.get(job.element_id)
            touches = effective_reach(task_of(unit.site, job), element, touches).code
            save(
                act,
                job,
                version,
                facts=shapes.write("facts", kept).text,
                justification=claim_id,
                statement=statement,
                touches=touches,
                not_planned="",
            )
            decision = decision_of(unit.site.as_it_is(), stored(number))[0]
            save(act, stored(number), version + 1, outcome=decision.outcome)
            payload = {"facts": kept, "justification": claim_id, "statement": statement, "outcome": decision.outcome}
            unit.record("job decided", f"job:{number}", payload)
        return decision_of(unit.site.as_it_is(), stored(number))[0]


@on_site
def not_as_planned(act: Act, number: str, found: str) -> list[str]:
    """It is otherwise than planned: by anybody. The job's permits are suspended or fall back to draft, its programs
    under way stop, what was asked about its risk is left, and its decision is open again until somebody answers anew.
    Numbers of what was stopped."""
    text = texts.REASON.check(found, "found")
    with work(act) as unit:
        if unit.done:
            return []
        job = open_job(number)
        reason = say("act-jobs-not-as-planned", text=text, name=act.actor.name)
        save(act, job, job.version, not_planned=text, facts=shapes.write("facts", {}).text, justification="none",
             outcome="facts_missing")  # fmt: skip
        unit.record("job not as planned", f"job:{number}", {"found": text})
        stopped = []
        for permit in permits_store.permits_of(job.id):
            if permit.state in SIGNED:
                stopping.back_to_draft(unit, permit, shapes.content("permit", permit.content), reason)
            elif permit.state in WITH_WINDOW:
                stopping.suspend(unit, permit, reason)
            else:
                continue
            stopped.append(permit.number)
        for program in programs.programs_of(job.id):
            if program.practice or program.state not in ("executing", "checked", "released"):
                continue
            # what only waits is looked at anew by whoever checks it
            (stopping.stop if program.state == "executing" else stopping.void_check)(unit, program, reason)
            stopped.append(program.number)
        assessments.leave(job.id, act.at, act.actor.name)
    return stopped


@on_site
def renew_task(act: Act, number: str, version: int) -> None:
    """The job takes its task as it stands now; not while a permit is signed on what it was."""
    need(act.actor, "answer")
    with work(act) as unit:
        if unit.done:
            return
        job = open_job(number)
        _need_unsigned(job)
        latest = task_library.kept(act.site, job.task_id).version
        save(act, job, version, task_version=latest)
        unit.record("job task renewed", f"job:{number}", {"task": job.task_id, "version": latest})


def _need_unsigned(job: Job) -> None:
    if any(p.state not in (*ENDED, "draft") for p in permits_store.permits_of(job.id)):
        raise Refusal(
            say("act-jobs-permits-freeze-what-they-were-signed-on"),
            say("act-jobs-a-permit-of-this-job-is-signed"),
            say("act-jobs-cancel-that-permit-first-then-the-facts"),
        )


@on_site
def close(act: Act, number: str, version: int, circuit_changed: str, learnt: str) -> None:
    """Close a job: every permit ended, and said whether the circuit was changed."""
    need(act.actor, "close")
    if circuit_changed not in ("yes", "no"):
        raise InputError("circuit_changed", circuit_changed, say("yes-or-no"))
    _finish(act, number, version, "closed", circuit_changed=circuit_changed, learnt=texts.LEARNT.check(learnt))


@on_site
def cancel(act: Act, number: str, version: int, reason: str) -> None:
    """Cancel a job that is not done; its permits must have ended."""
    need(act.actor, "cancel")
    _finish(act, number, version, "cancelled", learnt=texts.REASON.check(reason))


def _finish(act: Act, number: str, version: int, state: str, **changes: str) -> None:
    with work(act) as unit:
        if unit.done:
            return
        job = open_job(number)
        still = [p.number for p in permits_store.permits_of(job.id) if p.state not in ENDED]
        if still:
            raise Refusal(
                say("act-jobs-a-job-closes-after-its-permits"),
                say("act-jobs-has-not-ended", stills=tuple(still)),
                say("act-jobs-close-or-cancel-it-first"),
            )
        parts = [j.number for j in store.parts_of(number) if j.state == "open"]
        if parts:
            raise Refusal(
                say("act-jobs-a-job-closes-after-its-parts"),
                say("act-jobs-has-not-ended", stills=tuple(parts)),
                say("act-jobs-close-or-cancel-it-first"),
            )
        _isolations_over(unit.site.as_it_is(), job)
        save(act, job, version, state=state, **changes)
        unit.record(f"job {state}", f"job:{number}", dict(changes))


def _isolations_over(here: SiteNow, job: Job) -> None:
    """Refusal while a program has not ended, or a lock, tag, ground or person of the job is still there."""
    own = [p for p in programs.programs_of(job.id) if not p.practice]
    still = [p for p in own if p.state not in PROGRAM_ENDED]
    if still:
        raise Refusal(
            say("act-jobs-a-job-closes-after-its-programs"),
            say("act-jobs-is", number=still[0].number, state=PROGRAM_NAMES[still[0].state]),
            say("act-jobs-execute-or-abandon-it-first"),
        )
    left = [p.hold for p in own if p.purpose != SWITCHED and anything_left(p.hold, here.field)]
    if left:
        raise Refusal(
            say("act-jobs-a-job-closes-when-nothing-hangs"),
            say("act-jobs-locks-tags-grounds-or-people-of-are", left=left[0]),
            say("act-jobs-execute-the-restoration"),
        )


@on_site
def view(site: Site, number: str) -> JobView:
    """The job with its present decision, or NotFound."""
    return view_of(site.as_it_is(), stored(number))


@on_site
def count(site: Site, state: str | None = None) -> int:
    """How many jobs there are, in one state or in all."""
    return store.count(state)


@on_site
def lines(site: Site, state: str | None = None, first: int = 0, at_most: int | None = None) -> list[JobLine]:
    """Jobs, newest first; all, or so many from one of them on."""
    by_job = permits_store.permits_by_job()
    known, names = site.as_it_is().network.element, site.names()
    return [
        JobLine(
            number=j.number,
            title=j.title,
            state=j.state,
            element=known.get(j.element_id),
            task=task_of(site, j),
            outcome=j.outcome,
            permits=_permit_lines(by_job.get(j.id, [])),
            requested_by=names[j.requested_by_id],
            changed_at=j.changed_at,
        )
        for j in store.jobs(state, first, at_most)
    ]


def decision_of(here: SiteNow, job: Job, distance_mm: float | None = None) -> tuple[Decision, Hazard, Duty | None]:
    """Decision, hazard and duty check of a stored job as the figures are now."""
    chosen = task_of(here.site, job)
    element = here.network.get(job.element_id)
    hazard = here.study.hazard(element.id, reach_of(here, job).code, distance_mm)
    duty = here.study.duty.get(element.id)
    claim = here.profile.kept_claim(job.justification)
    near = around(here.network, element) if never_dead(element) else None
    facts = with_upkeep(here, element.id, shapes.read("facts", job.facts))
    may_add = task_library.who_may_add(here.site, job.task_id)
    decision = decide(chosen, hazard, facts, claim, job.statement, here.profile, duty, near, may_add)
    return decision, hazard, duty


@on_site
def task_of(site: Site, job: Job) -> Task:
    """The task of a job in the version that it was started with."""
    return task_library.of(site, job.task_id, job.task_version)


def reach_of(here: SiteNow, job: Job) -> Reach:
    """What the task of a job reaches at its equipment; an end that a revision took away counts as not chosen."""
    element = here.network.get(job.element_id)
    try:
        return effective_reach(task_of(here.site, job), element, job.touches)
    except InputError:
        return effective_reach(task_of(here.site, job), element, "")


def stored(number: str) -> Job:
    """The stored job, or NotFound."""
    job = store.job(number)
    if job is None:
        raise NotFound("job", number)
    return job


def open_job(number: str) -> Job:
    """The stored job, or a Refusal when it has ended."""
    job = stored(number)
    if job.state != "open":
        raise Refusal(
            say("act-jobs-life-of-a-job"),
            say("act-jobs-is", number=number, state=say(f"job-state-{job.state}")),
            say("act-jobs-start-a-new-job"),
        )
    return job


def view_of(here: SiteNow, job: Job) -> JobView:
    """A stored job with its decision as the figures are now."""
    element = here.network.element.get(job.element_id)
    chosen, claim = task_of(here.site, job), here.profile.kept_claim(job.justification)
    facts = shapes.read("facts", job.facts)
    decision = hazard = duty = reach = worst = None
    sides: tuple[Hazard, ...] = ()
    if element is not None:
        decision, hazard, duty = decision_of(here, job)
        reach = reach_of(here, job)
        allowed = {r.code for r in reaches_for(chosen, element)}
        sides = tuple(h for h in here.study.sides(element.id) if h.touches in allowed)
        worst = here.study.hazard(element.id) if len(sides) > 1 else None
    permits = permits_store.permits_of(job.id)
    own = programs.programs_of(job.id)
    return JobView(
        number=job.number,
        title=job.title,
        state=job.state,
        version=job.version,
        element=element,
        task=chosen,
        newer=task_library.kept(here.site, job.task_id).version - job.task_version,
        touches=job.touches,
        reach=reach,
        sides=sides,
        worst=worst,
        isolable=element is not None and not never_dead(element),
        facts=facts,
        upkeep=of_each(here, [element.id])[element.id] if element is not None else None,
        questions=required_facts(chosen, hazard) if hazard and chosen.electrical else (),
        claim=claim,
        statement=job.statement,
        hazard=hazard,
        duty=duty,
        decision=decision,
        permits=_permit_lines(permits),
        programs=_program_lines(own),
        stages=stages_of(here, job, element, decision, permits, [p for p in own if not p.practice]),
        requested_by=here.site.names()[job.requested_by_id],
        changed_by=job.changed_by,
        changed_at=job.changed_at,
        learnt=job.learnt,
        circuit_changed=job.circuit_changed,
        not_planned=job.not_planned,
        as_in=job.as_in,
    )


def _permit_lines(permits: list[Permit]) -> tuple[tuple[str, str], ...]:
    return tuple((p.number, p.state) for p in permits)


def _program_lines(own: list[Program]) -> tuple[tuple[str, str, str, bool], ...]:
    """Number, purpose, state and practice of each program."""
    return tuple((p.number, p.purpose, p.state, bool(p.practice)) for p in own)
