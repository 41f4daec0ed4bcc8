"""What people were taught and showed: only ever added to."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from spinel.core.people import Course
from spinel.store.database import rows
from spinel.store.models import Training

_COLUMNS = "course, how, day, seen_by, until, task_id, equipment_class, note, evidence"


def add(person_id: int, what: Course, at: str) -> int:
    made = Training.insert(
        person=person_id, course=what.course, task_id=what.task_id, equipment_class=what.equipment_class, how=what.how,
        day=what.day.isoformat(), until=what.until.isoformat() if what.until else "", seen_by=what.seen_by,
        note=what.note, evidence=what.evidence, at=at,
    )  # fmt: skip
    return int(made.execute())


def of_person(person_id: int) -> list[Course]:
    """The latest day first."""
    query = f"SELECT {_COLUMNS} FROM training WHERE person_id = ? ORDER BY day DESC, id DESC"
    return [_course(row) for row in rows(query, person_id)]


def by_person() -> dict[int, list[Course]]:
    """Of everybody, the latest day first."""
    found: dict[int, list[Course]] = {}
    for person_id, *row in rows(f"SELECT person_id, {_COLUMNS} FROM training ORDER BY day DESC, id DESC"):
        found.setdefault(person_id, []).append(_course(row))
    return found


def evidence() -> set[str]:
    """Every file that something refers to."""
    return {row[0] for row in rows("SELECT DISTINCT evidence FROM training WHERE evidence <> ''")}


def _course(row: Sequence[str]) -> Course:
    course, how, day, seen_by, until, task_id, equipment_class, note, file = row
    return Course(
        course=course, how=how, day=date.fromisoformat(day), seen_by=seen_by,
        until=date.fromisoformat(until) if until else None, task_id=task_id, equipment_class=equipment_class,
        note=note, evidence=file,
    )  # fmt: skip
