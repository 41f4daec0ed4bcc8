"""May somebody be put to work on a task at a class of equipment on a day: the lines that must hold together, the first
of them to end, and the refusal where one does not hold.

The qualification holds always, and for others' people the hazards are exchanged. Whether what everybody exposed attends
is asked too, or named only, is a setting of the site.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from spinel.actions.site import SiteNow
from spinel.core.errors import Refusal
from spinel.core.people import OWN, TASK, Course, Qualification, attended
from spinel.core.permit.tasks import skill
from spinel.core.said import say
from spinel.store import exchanges, training
from spinel.store import people as store
from spinel.store.people import Registered

CONTRACT = "exchange"
#: What a site does with a course that somebody lacks.
NAMED, REFUSED = "named", "refused"


@dataclass(frozen=True)
class Line:
    """One of the things that must hold: the task, a course, or the exchange of hazards. ``since``: None where it never
    began, or where its beginning was not kept. ``until``: its last day, None where it never held. ``must``: without it
    nobody is put to work."""

    what: str
    since: date | None
    until: date | None
    must: bool = True

    def holds(self, on: date) -> bool:
        return self.until is not None and (self.since is None or self.since <= on) and on <= self.until


@dataclass(frozen=True)
class Standing:
    """The lines of one person for one task and class of equipment."""

    lines: tuple[Line, ...]

    def may(self, on: date) -> bool:
        return all(line.holds(on) for line in self.lines if line.must)

    def lacking(self, on: date) -> tuple[Line, ...]:
        """What does not hold on the day, what must first."""
        return tuple(sorted((line for line in self.lines if not line.holds(on)), key=lambda line: not line.must))

    def first_to_end(self, on: date) -> Line | None:
        """Of what holds on the day that which ends first."""
        held = [line for line in self.lines if line.until is not None and line.holds(on)]
        return min(held, key=lambda line: line.until or date.max, default=None)


@dataclass(frozen=True, kw_only=True)
class Shown:
    """What the lines of people are drawn from: what each holds, attended, and the hazards exchanged with them."""

    held: Mapping[int, Sequence[Qualification]]
    courses: Mapping[int, Sequence[Course]]
    exchanged: Mapping[int, Sequence[tuple[date, date]]]


def shown_by_all() -> Shown:
    return Shown(held=store.qualifications(), courses=training.by_person(), exchanged=exchanges.signed())


def _shown_by(person: Registered) -> Shown:
    return Shown(
        held={person.id: store.held_by(person.id)}, courses={person.id: training.of_person(person.id)},
        exchanged={} if person.employer == OWN else exchanges.signed(),
    )  # fmt: skip


def standing(
    here: SiteNow, person: Registered, shown: Shown, task_id: str, kinds: Sequence[str], on: date
) -> Standing:  # fmt: skip
    """``kinds``: classes of equipment, at each of which it must be held. ``on``: the day that is asked for; of several
    lines of one kind that which holds then, else the last."""
    held = shown.held.get(person.id, ())
    lines = [of_task(held, task_id, worst_kind(held, task_id, kinds))]
    if person.employer != OWN:
        lines.append(_of_exchange(shown.exchanged.get(person.id, ()), on))
    must = here.settings["training_rule"] == REFUSED
    for course in here.profile.training.each:
        lines.append(Line(course, *_of_course(shown.courses.get(person.id, ()), course, on), must))
    return Standing(tuple(lines))


def worst_kind(held: Iterable[Qualification], task_id: str, kinds: Sequence[str]) -> str:
    """Of several classes of equipment that at which the task is not held, or ends first."""
    own = list(held)
    return min(kinds, key=lambda kind: of_task(own, task_id, kind).until or date.min)


def of_task(held: Iterable[Qualification], task_id: str, equipment_class: str) -> Line:
    own = next((q for q in held if q.task_id == task_id and q.equipment_class == equipment_class), None)
    return Line(TASK, own.since, own.until) if own else Line(TASK, None, None)


def _of_exchange(exchanged: Iterable[tuple[date, date]], on: date) -> Line:
    spans = sorted(exchanged, key=lambda span: (span[0] <= on <= span[1], span[1]))
    return Line(CONTRACT, *spans[-1]) if spans else Line(CONTRACT, None, None)


def _of_course(courses: Iterable[Course], course: str, on: date) -> tuple[date | None, date | None]:
    mine = [c for c in courses if c.course == course and c.until is not None]
    last = attended(mine, course, on)
    return min((c.day for c in mine if c.until == last), default=None), last


def need(here: SiteNow, person_id: int, name: str, task_id: str, equipment_class: str, on: date) -> None:
    """Refusal unless the person may be put to the task on the class of equipment on that day."""
    person = next((p for p in here.site.register() if p.id == person_id), None)
    if person is None:
        raise _unqualified(name, task_id, equipment_class, on)
    if not person.active:
        raise Refusal(
            say("standing-who-is-here"), say("standing-has-left", name=name), say("standing-choose-somebody-else"),
            field="workers",
        )  # fmt: skip
    found = standing(here, person, _shown_by(person), task_id, (equipment_class,), on)
    for line in found.lacking(on):
        if not line.must:
            continue
        if line.what == TASK:
            raise _unqualified(name, task_id, equipment_class, on)
        code = "standing-no-hazards-exchanged" if line.what == CONTRACT else "standing-course-not-attended"
        course = say("none") if line.what == CONTRACT else say(f"course-{line.what.replace('_', '-')}")
        raise Refusal(
            say("standing-hazards-are-exchanged") if line.what == CONTRACT else say("standing-courses-in-date"),
            say(code, name=name, on=on.isoformat(), course=course),
            say("standing-exchange-them") if line.what == CONTRACT else say("standing-have-it-taught"),
            field="workers",
        )


def _unqualified(name: str, task_id: str, equipment_class: str, on: date) -> Refusal:
    return Refusal(
        say("act-people-qualified-per-task-and-equipment-class"),
        say(
            "act-people-has-no-qualification-in-date-on-for", name=name, on=on.isoformat(), task=skill(task_id).name,
            equipment_class=equipment_class,
        ),
        say("act-people-choose-somebody-qualified-or-have-the"),
        field="workers",
    )  # fmt: skip
