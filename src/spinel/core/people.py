"""Roles, and what it takes to be put to work: a qualification per task and equipment class, in date, and the courses
that everybody exposed has attended."""

from __future__ import annotations

from calendar import monthrange
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from spinel.core.said import Said, Sayable, say

ROLES = ("coordinator", "authoriser", "person_in_charge", "director", "operator", "worker", "attendant", "reader")
#: Whose people there are.
OWN = "own"
EMPLOYERS = (OWN, "contractor", "visitor")
#: What somebody is taught, besides tasks.
COURSES = ("release", "first_aid", "cpr", "lockout", "site")
TASK = "task"
#: How something was shown. A task is granted by being seen to do it, and by nothing else: a test shows what is known.
HOW = ("trained", "supervised", "observed", "tested")
GRANTING = ("observed",)


def role_name(role: str) -> Said:
    """What a role is called in the site's practice."""
    return say(f"role-{role}")


def any_of(roles: Iterable[str]) -> Said:
    """Any of these roles, each with its article: an authorizer or a person in charge."""
    return say("any-of", roles=tuple(role_name(r) for r in roles))


@dataclass(frozen=True)
class Kept:
    """A session that was not ended. ``device``: what the browser says it is. Moments as they are stored, UTC.
    ``short``: begun with a short code at a shared tablet."""

    id: int
    person_id: int
    device: str
    made_at: str
    seen_at: str
    short: bool = False
    tablet_id: int | None = None


@dataclass(frozen=True)
class Qualification:
    """``since``: its first day, None where that was not kept. The last day, ``until``, counts."""

    task_id: str
    equipment_class: str
    until: date
    since: date | None = None

    def holds(self, on: date) -> bool:
        return (self.since is None or self.since <= on) and on <= self.until


@dataclass(frozen=True, kw_only=True)
class Course:
    """What was taught or shown on a day, and who saw it. ``course``: one of COURSES, or TASK. ``until``: the last day
    on which it counts, None for what grants nothing by itself. ``evidence``: a kept file."""

    course: str
    how: str
    day: date
    seen_by: str
    until: date | None = None
    task_id: str = ""
    equipment_class: str = ""
    note: str = ""
    evidence: str = ""


def qualified(held: Iterable[Qualification], task_id: str, equipment_class: Sayable, on: date) -> bool:
    """Is the person qualified for this task on this class of equipment on that day (the last day counts)?

    >>> qualified([Qualification("test", "switchboard", date(2026, 1, 2))], "test", "switchboard", date(2026, 1, 2))
    True
    >>> qualified([Qualification("test", "switchboard", date(2026, 1, 2), date(2026, 1, 2))], "test", "switchboard",
    ...           date(2026, 1, 1))
    False
    """
    return any(q.task_id == task_id and q.equipment_class == equipment_class and q.holds(on) for q in held)


def months_after(day: date, months: int) -> date:
    """The same day so many months later, or the last of a month that is too short.

    >>> months_after(date(2024, 2, 29), 12).isoformat()
    '2025-02-28'
    """
    year, month = divmod(day.year * 12 + day.month - 1 + months, 12)
    return date(year, month + 1, min(day.day, monthrange(year, month + 1)[1]))


def attended(shown: Iterable[Course], course: str, on: date) -> date | None:
    """The last day on which a course that was attended by then counts, also one that is over; None where it never was
    attended.

    >>> first = Course(course="cpr", how="trained", day=date(2026, 1, 1), seen_by="x", until=date(2026, 6, 1))
    >>> attended([first], "cpr", date(2026, 9, 1)).isoformat(), attended([first], "cpr", date(2025, 9, 1))
    ('2026-06-01', None)
    """
    return max((c.until for c in shown if c.course == course and c.until is not None and c.day <= on), default=None)
