"""What somebody was taught and showed, and the qualification that comes of it.

A qualification is made of what was done and of who saw it: its last day follows from the day on which it was shown and
from the practice, and can only be set earlier.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime

from spinel.actions import people
from spinel.actions.acting import Act, utc_moment, work
from spinel.actions.site import SiteNow, on_site
from spinel.actions.taking_off import Doing, taken_off
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.network.schema import EQUIPMENT_CLASSES
from spinel.core.people import COURSES, GRANTING, HOW, TASK, Course, months_after
from spinel.core.permit.tasks import SKILLS, skill
from spinel.core.said import say
from spinel.store import ledger, training
from spinel.store import people as store
from spinel.store.people import Registered

#: Nothing that was shown longer ago says anything of today: our choice.
OLDEST_YEARS = 10
#: Somebody may do something no longer.
WITHDRAWN = "qualification withdrawn"


@dataclass(frozen=True, kw_only=True)
class Learnt:
    """What a coordinator puts down: ``course`` one of COURSES, or TASK with a task and its classes of equipment.
    ``until``: earlier than the practice says, or None. ``evidence``: a file that was kept before."""

    course: str
    how: str
    day: date
    seen_by: str
    task_id: str = ""
    classes: Sequence[str] = field(default=())
    until: date | None = None
    note: str = ""
    evidence: str = ""


@on_site
def record(act: Act, login: str, learnt: Learnt) -> date | None:
    """The last day on which it counts, or None where it grants nothing by itself."""
    act.actor.needs("coordinator", what=say("act-people-record-qualifications"))
    here = act.site.as_it_is()
    seen_by, note = texts.NAME.check(learnt.seen_by, "seen_by"), texts.PLAN.check(learnt.note, "note")
    _is_known(learnt)
    _day_fits(here, act, learnt)
    until = _until(here, learnt)
    with work(act) as unit:
        person = people.here(login)
        if unit.done:
            return until
        if seen_by.casefold() == person.name.casefold():
            raise InputError("seen_by", seen_by, say("qualifying-somebody-else"))
        if learnt.course == TASK and until is not None:
            _taught_before(person, learnt)
            for kind in learnt.classes:
                _need_since_withdrawn(here, person, learnt.task_id, kind, learnt.day)
        for kind in learnt.classes or ("",):
            training.add(person.id, Course(
                course=learnt.course, how=learnt.how, day=learnt.day, seen_by=seen_by, until=until,
                task_id=learnt.task_id, equipment_class=kind, note=note, evidence=learnt.evidence,
            ), act.at)  # fmt: skip
            if learnt.course == TASK and until is not None:
                _grant(person, learnt.task_id, kind, learnt.day, until)
        unit.record("training recorded", f"person:{login}", {
            "course": learnt.course, "how": learnt.how, "day": learnt.day.isoformat(), "seen_by": seen_by,
            "task": learnt.task_id, "equipment_classes": list(learnt.classes), "note": note,
            "until": until.isoformat() if until else "", "evidence": learnt.evidence,
        })  # fmt: skip
    return until


def _is_known(learnt: Learnt) -> None:
    if learnt.course not in (*COURSES, TASK):
        raise InputError("course", learnt.course, say("one-of", options=(*COURSES, TASK)))
    if learnt.how not in HOW:
        raise InputError("how", learnt.how, say("one-of", options=HOW))
    if learnt.course != TASK:
        return
    if learnt.task_id not in SKILLS:
        raise InputError("task_id", learnt.task_id, say("one-of", options=tuple(SKILLS)))
    unknown = [kind for kind in learnt.classes if kind not in EQUIPMENT_CLASSES]
    if unknown or not learnt.classes:
        raise InputError("classes", ", ".join(unknown), say("one-of", options=tuple(EQUIPMENT_CLASSES)))


def _day_fits(here: SiteNow, act: Act, learnt: Learnt) -> None:
    today = here.day(act.now)
    if not months_after(today, -12 * OLDEST_YEARS) <= learnt.day <= today:
        raise InputError("day", learnt.day.isoformat(), say("qualifying-a-day-until-today", years=OLDEST_YEARS))


def _until(here: SiteNow, learnt: Learnt) -> date | None:
    grants = learnt.how in GRANTING if learnt.course == TASK else learnt.how != "supervised"
    if not grants:
        if learnt.until is not None:
            raise InputError("until", learnt.until.isoformat(), say("qualifying-nothing-this-grants-nothing"))
        return None
    most = months_after(learnt.day, here.profile.training.months[learnt.course])
    if learnt.until is None:
        return most
    if not learnt.day <= learnt.until:
        raise InputError("until", learnt.until.isoformat(), say("qualifying-not-before-it-was-shown"))
    if learnt.until > most:
        raise Refusal(
            say("qualifying-no-longer-than-the-practice-says"),
            say("qualifying-it-counts-until", day=most.isoformat()),
            say("qualifying-show-it-again-then"),
            field="until",
        )
    return learnt.until


def _taught_before(person: Registered, learnt: Learnt) -> None:
    """Nobody is qualified by one look: they were taught the task at each class before, or hold it already."""
    taught = {
        c.equipment_class for c in training.of_person(person.id)
        if c.task_id == learnt.task_id and c.how in ("trained", "supervised") and c.day <= learnt.day
    }  # fmt: skip
    held = {q.equipment_class for q in store.held_by(person.id) if q.task_id == learnt.task_id}
    if not set(learnt.classes) <= taught | held:
        raise Refusal(
            say("qualifying-taught-first-then-shown"),
            say("qualifying-was-never-taught", name=person.name, task=skill(learnt.task_id).name),
            say("qualifying-record-what-they-were-taught"),
            field="how",
        )


def _grant(person: Registered, task_id: str, kind: str, day: date, until: date) -> None:
    """Never shorter than what stands: a look that counts for less takes nothing away."""
    own = (q for q in store.held_by(person.id) if q.task_id == task_id and q.equipment_class == kind)
    before = next(own, None)
    since = day
    if before is not None:
        # what has run out begins anew
        unbroken = before.until >= day
        since = min(before.since, day) if unbroken and before.since else day
        if unbroken and before.since is None:
            store.put_qualification(person.id, task_id, kind, max(until, before.until).isoformat())
            return
        until = max(until, before.until)
    store.put_qualification(person.id, task_id, kind, until.isoformat(), since.isoformat())


@on_site
def from_elsewhere(
    act: Act, login: str, on: Iterable[tuple[str, str]], until: date, since: date | None = None
) -> None:  # fmt: skip
    """Record that a person is qualified until a day (that day included), as was shown elsewhere. ``on``: each task with
    its class of equipment; all are recorded, or none. No longer than for something shown today; what was withdrawn here
    only where it was shown since."""
    act.actor.needs("coordinator", what=say("act-people-record-qualifications"))
    with work(act) as unit:
        person = people.registered(login)
        if act.site.published():
            _no_longer_than_shown_today(act.site.as_it_is(), act.now, until)
        for task_id, equipment_class in on:
            skill(task_id)
            if equipment_class not in EQUIPMENT_CLASSES:
                raise InputError("equipment_class", equipment_class, say("one-of", options=tuple(EQUIPMENT_CLASSES)))
            if act.site.published():
                _need_since_withdrawn(act.site.as_it_is(), person, task_id, equipment_class, since)
            first = since.isoformat() if since else ""
            store.put_qualification(person.id, task_id, equipment_class, until.isoformat(), first)
            unit.record(
                "qualification recorded",
                f"person:{login}",
                {"task": task_id, "equipment_class": equipment_class, "until": until.isoformat()},
            )


def _no_longer_than_shown_today(here: SiteNow, now: datetime, until: date) -> None:
    most = months_after(here.day(now), here.profile.training.months[TASK])
    if until > most:
        raise Refusal(
            say("qualifying-no-longer-than-the-practice-says"),
            say("qualifying-it-counts-until", day=most.isoformat()),
            say("qualifying-show-it-again-then"),
            field="until",
        )


def _need_since_withdrawn(here: SiteNow, person: Registered, task_id: str, kind: str, shown: date | None) -> None:
    """What was withdrawn comes back only by what was shown on that day or later: neither an older look brings it back,
    nor a table that went out before."""
    for entry in ledger.of_act(f"person:{person.login}", WITHDRAWN):
        data = shapes.read("act", entry.payload)
        if (data["task"], data["equipment_class"]) == (task_id, kind):
            day = here.day(utc_moment(entry.at))
            if shown is None or shown < day:
                raise Refusal(
                    say("qualifying-what-was-withdrawn-is-shown-anew"),
                    say("qualifying-was-withdrawn", name=person.name, day=day.isoformat(), because=data["because"]),
                    say("qualifying-have-it-shown-since"),
                    field="day",
                )
            return


@on_site
def withdraw(act: Act, login: str, task_id: str, equipment_class: str, reason: str) -> list[str]:
    """From now on somebody may not do it. Permits under which they work at it are suspended, and programs that they
    operate or direct stopped: their numbers."""
    act.actor.needs("coordinator", what=say("act-people-record-qualifications"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return []
        person = people.here(login)
        if not store.take_qualification(person.id, task_id, equipment_class):
            raise InputError("task_id", task_id, say("qualifying-one-that-they-hold"))
        unit.record(
            WITHDRAWN,
            f"person:{login}",
            {"task": task_id, "equipment_class": equipment_class, "because": text},
        )
        because = say("qualifying-is-no-longer-qualified", name=person.name)
        return list(taken_off(unit, person.id, because, Doing(task_id, equipment_class)))
