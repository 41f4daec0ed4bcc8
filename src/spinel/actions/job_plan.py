"""When a job is to be done, by whom, and what is said of it at the briefing; which jobs are done together, as parts of
one; and a job that is begun as an earlier one was.

A plan promises nothing and allows nothing: decision, permit and program each ask anew. Parts share the plan of the one
that leads; each keeps its own decision, permit and figures.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from spinel.actions import jobs, standing
from spinel.actions.acting import Act, utc_moment, utc_text, work
from spinel.actions.equipment import equipment_class, equipment_classes
from spinel.actions.keeping import save
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.permit.justification import QUESTIONS
from spinel.core.said import Sayable, say
from spinel.store import jobs as store
from spinel.store.models import Job

#: Nothing is planned as one stretch for longer.
LONGEST = timedelta(days=31)
#: What is taken from an earlier job: what was named then. Whatever was answered yes or no is asked each time.
NAMED = tuple(key for key, q in QUESTIONS.items() if q.kind != "yes_no" and key != "confirmed_by")


@dataclass(frozen=True, kw_only=True)
class Planned:
    """``start``, ``end``: None while nothing is planned. People by their ids."""

    start: datetime | None = None
    end: datetime | None = None
    in_charge: int | None = None
    workers: tuple[int, ...] = ()
    attendants: tuple[int, ...] = ()
    remarks: str = ""

    @property
    def everybody(self) -> dict[int, str]:
        """By person, what each is on it; who leads or works is that before they only watch."""
        found = dict.fromkeys(self.attendants, "attendant") | dict.fromkeys(self.workers, "worker")
        return found | ({self.in_charge: "person_in_charge"} if self.in_charge is not None else {})


@dataclass(frozen=True, kw_only=True)
class Together:
    """A job of those that are done together; ``leads``: the one whose plan they share."""

    number: str
    title: str
    tag: str
    state: str
    leads: bool


@dataclass(frozen=True, kw_only=True)
class Earlier:
    """A job that another may be begun like."""

    number: str
    title: str
    tag: str
    on: str
    learnt: str


def read(job: Job) -> Planned:
    """The plan that a stored job holds itself."""
    told = json.loads(job.plan)
    if not told:
        return Planned()
    return Planned(
        start=utc_moment(told["start"]), end=utc_moment(told["end"]), in_charge=told["in_charge"],
        workers=tuple(told["workers"]), attendants=tuple(told["attendants"]), remarks=told["remarks"],
    )  # fmt: skip


def leading(job: Job) -> Job:
    """The job that leads those done together; itself where it is alone."""
    return (store.job(job.part_of) or job) if job.part_of else job


@on_site
def of_job(site: Site, number: str) -> Planned:
    """The plan of a job, which is that of the one that leads it."""
    return read(leading(jobs.stored(number)))


@on_site
def may(act: Act) -> None:
    jobs.need(act.actor, "plan")


@on_site
def plan(act: Act, number: str, version: int, planned: Planned) -> None:
    """Plan a job. InputError beside the field for a stretch that ends before it begins, is over, or is too long, and
    for people who are not here or are put on it twice."""
    may(act)
    remarks = texts.PLAN.check(planned.remarks, "remarks")
    start, end = planned.start, planned.end
    if start is None or end is None or end <= start:
        raise InputError("end", "", say("act-permits-after-the-start-of-the-window"))
    if end <= act.now:
        raise InputError("end", "", say("plan-is-over-already"))
    if end - start > LONGEST:
        raise InputError("end", "", say("plan-at-most-days", days=LONGEST.days))
    here = {p.id: p.roles for p in act.site.register() if p.active}
    for field, role, chosen in (
        ("workers", "worker", planned.workers), ("attendants", "", planned.attendants),
        ("in_charge", "person_in_charge", (planned.in_charge,) if planned.in_charge is not None else ()),
    ):  # fmt: skip
        for person_id in chosen:
            if person_id not in here or (role and role not in here[person_id]):
                raise InputError(field, person_id, say("act-permits-a-registered-person-with-the-role-for"))
    if set(planned.workers) & set(planned.attendants):
        raise InputError("attendants", "", say("act-permits-an-attendant-has-no-other-duty-not"))
    content = {
        "start": utc_text(start), "end": utc_text(end), "in_charge": planned.in_charge, "remarks": remarks,
        "workers": list(dict.fromkeys(planned.workers)), "attendants": list(dict.fromkeys(planned.attendants)),
    }  # fmt: skip
    with work(act) as unit:
        if unit.done:
            return
        job = jobs.open_job(number)
        if job.part_of:
            raise Refusal(
                say("plan-parts-share-one"), say("plan-it-is-led-by", number=job.part_of), say("plan-plan-that-one")
            )
        save(act, job, version, plan=canonical(content))
        names = unit.site.names()
        told = {"from": content["start"], "until": content["end"], "people": [names[i] for i in planned.everybody]}
        unit.record("job planned", f"job:{number}", told)


@on_site
def start(
    act: Act, element_id: str, task_id: str, title: str, touches: str, *, part_of: str = "", as_in: str = ""
) -> str:
    """Open a job as a part of another that is open, or as an earlier one was. InputError where that one is no such."""
    ties: dict[str, str] = {}
    if part_of:
        other = _known(part_of, "part_of")
        if other.state != "open" or leading(other).state != "open":
            raise InputError("part_of", part_of, say("plan-an-open-job"))
        ties["part_of"] = leading(other).number
    if as_in:
        ties |= _taken(act.site.as_it_is(), as_in, element_id, task_id)
    return jobs.start(act, element_id, task_id, title, touches, ties)


def _known(number: str, field: str) -> Job:
    try:
        return jobs.stored(number)
    except NotFound:
        raise InputError(field, number, say("plan-a-job-of-this-site")) from None


def _taken(here: SiteNow, as_in: str, element_id: str, task_id: str) -> dict[str, str]:
    old = _known(as_in, "as_in")
    if old.task_id != task_id or not _alike(here, old, element_id):
        raise InputError("as_in", as_in, say("plan-the-same-task-at-such-equipment"))
    facts = {k: v for k, v in shapes.read("facts", old.facts).items() if k in NAMED}
    # the claim itself is made anew: nothing is decided by what somebody answered another time
    return {"as_in": old.number, "facts": shapes.write("facts", facts).text, "statement": old.statement}


def _alike(here: SiteNow, old: Job, element_id: str) -> bool:
    if old.element_id == element_id:
        return True
    network = here.network
    if old.element_id not in network.element or element_id not in network.element:
        return False
    was, now = network.get(old.element_id), network.get(element_id)
    return bool(set(equipment_classes(network, was)) & set(equipment_classes(network, now)))


@on_site
def earlier(site: Site, element_id: str, task_id: str, at_most: int = 5) -> list[Earlier]:
    """Jobs that one with this task at this equipment may be begun like, those at the same piece and the last first."""
    here = site.as_it_is()
    found = [j for j in store.of_task(task_id) if j.state != "cancelled" and _alike(here, j, element_id)]
    found.sort(key=lambda j: (j.element_id == element_id, j.id), reverse=True)
    return [
        Earlier(number=j.number, title=j.title, tag=_tag(here, j), on=j.changed_at, learnt=j.learnt)
        for j in found[:at_most]
    ]


def _tag(here: SiteNow, job: Job) -> str:
    element = here.network.element.get(job.element_id)
    return element.tag if element else job.element_id


@dataclass(frozen=True)
class Ahead:
    """A job that is planned and not over."""

    number: str
    title: str
    tag: str
    start: datetime
    end: datetime


@on_site
def ahead(site: Site, person_id: int, everybody: bool, now: datetime) -> list[Ahead]:
    """Of one person, or all; the first to begin first. A part is with the one that leads it."""
    here, found = site.as_it_is(), []
    for job in store.planned():
        planned = read(job)
        mine = everybody or person_id in planned.everybody
        if mine and planned.start is not None and planned.end is not None and planned.end > now:
            found.append(Ahead(job.number, job.title, _tag(here, job), planned.start, planned.end))
    return sorted(found, key=lambda a: (a.start, a.number))


@on_site
def together(site: Site, number: str) -> list[Together]:
    """The jobs that are done together with one, it among them, the one that leads first; nothing for one alone."""
    here, lead = site.as_it_is(), leading(jobs.stored(number))
    parts = store.parts_of(lead.number)
    if not parts:
        return []
    return [
        Together(number=j.number, title=j.title, tag=_tag(here, j), state=j.state, leads=j.id == lead.id)
        for j in (lead, *parts)
    ]


@on_site
def since(site: Site, number: str) -> Iterator[Sayable]:
    """What is otherwise than in the earlier job that this one was begun like: for each, one sentence."""
    job = jobs.stored(number)
    old = store.job(job.as_in) if job.as_in else None
    if old is None:
        return
    here = site.as_it_is()
    claim = here.profile.kept_claim(old.justification)
    yield say("since-claimed", number=old.number, claim=claim.claim)
    if old.learnt:
        yield say("since-learnt", text=old.learnt)
    if old.circuit_changed == "yes":
        yield say("since-circuit-changed", number=old.number)
    if old.element_id != job.element_id:
        yield say("since-other-equipment", was=_tag(here, old), now=_tag(here, job))
    if old.task_version != job.task_version:
        yield say("since-task-changed")
    yield from _figures_since(here, old, job)


def _figures_since(here: SiteNow, old: Job, job: Job) -> Iterator[Sayable]:
    """The energy on the last permit of the earlier job against what it is now."""
    from spinel.store import permits

    frozen = [shapes.content("permit", p.content) for p in permits.permits_of(old.id)]
    now = jobs.view_of(here, job).hazard
    if not frozen or now is None:
        yield say("since-no-figure-then")
        return
    was: Mapping[str, float | None] = frozen[-1]["hazard"]
    for key, code in (("energy_cal_cm2", "since-energy"), ("voltage_v", "since-voltage")):
        before, present = was[key], getattr(now, key)
        if before is None or present is None:
            if before is not present:
                yield say("since-figure-gone" if present is None else "since-figure-new")
        elif abs(present - before) > 1e-3 * max(abs(before), 1e-9):
            yield say(code, was=before, now=present)


@on_site
def unfit(site: Site, number: str) -> Iterator[Sayable]:
    """Of those planned: why somebody may not be put to it on one of its days."""
    here, job = site.as_it_is(), jobs.stored(number)
    planned, element = read(leading(job)), here.network.element.get(job.element_id)
    if planned.start is None or planned.end is None or element is None:
        return
    names, skill = site.names(), jobs.task_of(site, job).skill
    kind = equipment_class(here.network, element, jobs.reach_of(here, job).code)
    for person_id in planned.workers:
        for day in sorted({here.day(planned.start), here.day(planned.end)}):
            try:
                standing.need(here, person_id, names[person_id], skill, kind, day)
            except Refusal as refusal:
                yield refusal.why
                break
