"""Who may do a task on a class of equipment on a day, until when, who of them is free; and of the others, what is in
the way first and what would change it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from spinel.actions import task_library
from spinel.actions.acting import utc_moment
from spinel.actions.equipment import equipment_class
from spinel.actions.rosters import OnRoster, at_once, duties
from spinel.actions.site import Site, on_site
from spinel.actions.standing import CONTRACT, Line, Shown, Standing, shown_by_all, standing, worst_kind
from spinel.core.people import TASK, months_after
from spinel.core.permit.tasks import SKILLS
from spinel.core.said import Said, say
from spinel.store import jobs, permits
from spinel.store.people import Registered

#: Whoever has one of these roles can be put to a task; to operating also these.
WORKS, SWITCHES = frozenset(("worker",)), frozenset(("operator", "director"))


@dataclass(frozen=True, kw_only=True)
class Lane:
    """One person for one task. ``first``: of what holds, the line that ends first. ``in_the_way``, ``would_do``: the
    first thing that keeps them from it and what would change it, None for whoever may. ``named``: lines that do not
    hold and are only named. ``duties``: what they are on; ``twice``: two of these at once. ``done``: when permits last
    saw them at it; ``out_of_practice``: nothing tells that they did or learnt it within the time of the practice."""

    person: Registered
    standing: Standing
    first: Line | None
    in_the_way: Said | None
    would_do: Said | None
    named: tuple[Line, ...]
    duties: tuple[OnRoster, ...]
    twice: bool
    done: date | None
    out_of_practice: bool

    @property
    def may(self) -> bool:
        return self.in_the_way is None

    def busy(self, at: datetime) -> OnRoster | None:
        """What they are at just then, as far as it is known. What is only asked for keeps nobody."""
        return next((d for d in self.duties if not d.asked and (d.meets(at, at) or (d.start <= at and d.late))), None)


@dataclass(frozen=True, kw_only=True)
class WhoMay:
    """``may``: whoever is free first, then who may longest. ``may_not``: whoever lacks least first. ``others``: how
    many hold nothing at all and learn nothing."""

    may: tuple[Lane, ...]
    may_not: tuple[Lane, ...]
    others: int


@on_site
def asked_first(site: Site) -> tuple[str, str, str]:
    """What is asked of where nobody said: the task, the equipment and its class of the latest open job, one that is
    done live before others; else a test at the first place of the network."""
    network = site.as_it_is().network
    open_ = [j for j in jobs.jobs("open") if j.element_id in network.element]
    for job in sorted(open_, key=lambda j: j.outcome != "live_with_permit"):
        element, skill = network.element[job.element_id], task_library.of(site, job.task_id, job.task_version).skill
        if skill not in SKILLS:
            continue
        return skill, element.tag, equipment_class(network, element, job.touches)
    return "test", network.elements[0].tag, ""


@on_site
def who_may(site: Site, task_id: str, kinds: Sequence[str], on: date, now: datetime) -> WhoMay:
    """``kinds``: classes of equipment, at each of which somebody must hold the task."""
    here, shown, on_duty = site.as_it_is(), shown_by_all(), duties(site, now)
    twice, done_at = at_once(on_duty), {kind: permits.last_done(task_id, kind) for kind in kinds}
    since = months_after(on, -here.profile.training.practised)
    lanes, others = [], 0
    for person in site.register():
        if not person.active:
            continue
        lines = standing(here, person, shown, task_id, kinds, on)
        if _nothing(shown, person):
            others += 1
            continue
        kind = worst_kind(shown.held.get(person.id, ()), task_id, kinds)
        why, would = _in_the_way(lines, shown, person, (task_id, kind), on)
        done = done_at[kind]
        lanes.append(Lane(
            person=person, standing=lines, first=lines.first_to_end(on), in_the_way=why, would_do=would,
            named=tuple(line for line in lines.lacking(on) if not line.must),
            duties=tuple(on_duty.get(person.id, ())), twice=person.id in twice,
            done=here.day(utc_moment(done[person.id])) if person.id in done else None,
            out_of_practice=why is None and _rusty(shown, person, task_id, lines.lines[0].since, since, done),
        ))  # fmt: skip
    may = sorted((x for x in lanes if x.may), key=lambda x: (x.busy(now) is not None, -_ends(x).toordinal()))
    may_not = sorted((x for x in lanes if not x.may), key=lambda x: (_far(x, task_id, shown), x.person.name))
    return WhoMay(may=tuple(may), may_not=tuple(may_not), others=others)


def _rusty(
    shown: Shown, person: Registered, task_id: str, began: date | None, since: date, done: Mapping[int, str]
) -> bool:  # fmt: skip
    """Where the beginning of what is held was not kept, nothing is said of it."""
    if began is None or began >= since or done.get(person.id, "")[:10] >= since.isoformat():
        return False
    return not any(c.task_id == task_id and c.day >= since for c in shown.courses.get(person.id, ()))


def _ends(lane: Lane) -> date:
    return (lane.first.until if lane.first else None) or date.min


def _nothing(shown: Shown, person: Registered) -> bool:
    return not shown.held.get(person.id) and not any(c.course == TASK for c in shown.courses.get(person.id, ()))


def _far(lane: Lane, task_id: str, shown: Shown) -> int:
    """Whoever held it, then whoever learns it, then whoever does it elsewhere."""
    own = lane.standing.lines[0]
    if own.until is not None:
        return 0
    if any(c.task_id == task_id for c in shown.courses.get(lane.person.id, ())):
        return 1
    return 2 if any(q.task_id == task_id for q in shown.held.get(lane.person.id, ())) else 3


def _in_the_way(
    lines: Standing, shown: Shown, person: Registered, task: tuple[str, str], on: date
) -> tuple[Said, Said] | tuple[None, None]:
    """The first thing that keeps somebody from it on the day, and what would change it."""
    lacking = [line for line in lines.lacking(on) if line.must]
    wanted = WORKS | SWITCHES if task[0] == "operate" else WORKS
    if not lacking:
        if wanted & person.roles:
            return None, None
        return say("may-not-role"), say("would-do-role")
    line = lacking[0]
    if line.what == TASK:
        return _of_task(line, shown, person, task, on)
    if line.what == CONTRACT:
        ran_out = line.until is not None and line.until < on
        why = say("may-not-exchange-ran-out", day=_iso(line.until)) if ran_out else say("may-not-exchange")
        return why, say("would-do-exchange")
    course = say(f"course-{line.what.replace('_', '-')}")
    if line.until is None:
        return say("may-not-course", course=course), say("would-do-course", course=course)
    return say("may-not-course-ran-out", course=course, day=_iso(line.until)), say("would-do-course", course=course)


def _of_task(line: Line, shown: Shown, person: Registered, task: tuple[str, str], on: date) -> tuple[Said, Said]:
    task_id, kind = task
    if line.until is not None and line.until < on:
        return say("may-not-ran-out", day=_iso(line.until), days=(on - line.until).days), say("would-do-look")
    if line.since is not None and line.since > on:
        return say("may-not-yet", day=_iso(line.since)), say("would-do-wait")
    learnt = [c for c in shown.courses.get(person.id, ()) if c.task_id == task_id and c.equipment_class == kind]
    seen = sum(c.how == "supervised" for c in learnt)
    if learnt:
        return say("may-not-learning", seen=seen), say("would-do-observed")
    elsewhere = _classes(shown, person, task_id, on)
    if elsewhere:
        return say("may-not-other-classes", classes=tuple(elsewhere[:2]), more=len(elsewhere[2:])), say(
            "would-do-taught"
        )
    return say("may-not-never"), say("would-do-taught")


def _classes(shown: Shown, person: Registered, task_id: str, on: date) -> Sequence[str]:
    return sorted({q.equipment_class for q in shown.held.get(person.id, ()) if q.task_id == task_id and q.holds(on)})


def _iso(day: date | None) -> str:
    return day.isoformat() if day else ""
