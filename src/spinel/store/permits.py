"""Queries about permits and what is recorded on them. Each comes with its job."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from spinel.core.permit.life import WITH_WINDOW
from spinel.store.database import marks, rows
from spinel.store.jobs import with_jobs
from spinel.store.models import Permit, PermitRecord


def permit(number: str) -> Permit | None:
    return next(iter(_those("r.number = ?", number)), None)


def permits_of(job_id: int) -> list[Permit]:
    return _those("r.job_id = ? ORDER BY r.id", job_id)


def permits_in(states: Iterable[str]) -> list[Permit]:
    wanted = tuple(states)
    return _those(f"r.state IN ({marks(wanted)}) ORDER BY r.window_end", *wanted)


def _those(where: str, *values: object) -> list[Permit]:
    return with_jobs(Permit, where, *values)


@dataclass(frozen=True)
class Window:
    """A permit with a running or overrun window, without its content."""

    number: str
    state: str
    window_end: str
    over: int


def windows(states: Iterable[str]) -> list[Window]:
    wanted = tuple(states)
    query = f"SELECT number, state, window_end, over FROM permit WHERE state IN ({marks(wanted)}) ORDER BY window_end"
    return [Window(*row) for row in rows(query, *wanted)]


_NEWLY_OVER = f"SELECT number FROM permit WHERE state IN ({marks(WITH_WINDOW)}) AND window_end <= ? AND over = 0"


def last_done(skill: str, equipment_class: str) -> dict[int, str]:
    """Until when each person was last at work on tasks that ask for a skill on a class of equipment, as far as permits
    that were handed back tell: who signed the statements."""
    query = """SELECT r.person_id, max(p.window_end) FROM permit p
        JOIN permit_record r ON r.permit_id = p.id AND r.kind = 'stated'
        WHERE p.state IN ('handed_back', 'closed')
        AND coalesce(json_extract(p.content, '$.task.skill'), json_extract(p.content, '$.task.id')) = ?
        AND json_extract(p.content, '$.equipment.equipment_class') = ? GROUP BY r.person_id"""
    return dict(rows(query, skill, equipment_class))


def newly_over(at: str) -> list[str]:
    """Numbers of permits whose window has ended by a moment and that the ledger does not say so of yet."""
    return [row[0] for row in rows(_NEWLY_OVER, *WITH_WINDOW, at)]


def note_over(number: str) -> None:
    """Seen to have run out: from now on it has, whatever a clock says. The version stays: nobody did anything."""
    Permit.update(over=1).where(Permit.number == number).execute()


def permits_by_job() -> dict[int, list[Permit]]:
    found: dict[int, list[Permit]] = {}
    for p in Permit.select(Permit.job, Permit.number, Permit.state).order_by(Permit.id):
        found.setdefault(p.job_id, []).append(p)
    return found


def records(permit_id: int) -> list[PermitRecord]:
    return list(PermitRecord.raw("SELECT * FROM permit_record WHERE permit_id = ? ORDER BY id", permit_id))


def records_of(permit_ids: Iterable[int]) -> dict[int, list[PermitRecord]]:
    """The records of several permits at once."""
    found: dict[int, list[PermitRecord]] = {i: [] for i in permit_ids}
    query = f"SELECT * FROM permit_record WHERE permit_id IN ({marks(found)}) ORDER BY id"
    for r in PermitRecord.raw(query, *found):
        found[r.permit_id].append(r)
    return found


def insert(
    number: str, job_id: int, content: str, content_hash: str, window_start: str, window_end: str,
    requested_by: int | None, at: str, name: str,
) -> None:  # fmt: skip
    Permit.insert(
        number=number, job=job_id, content=content, content_hash=content_hash, window_start=window_start,
        window_end=window_end, requested_by=requested_by, created_at=at, changed_at=at, changed_by=name,
    ).execute()  # fmt: skip


def add_record(
    permit_id: int, kind: str, person_id: int | None, name: str, content_hash: str, detail: str, at: str
) -> None:  # fmt: skip
    PermitRecord.insert(
        permit=permit_id, kind=kind, person=person_id, person_name=name, content_hash=content_hash, detail=detail,
        at=at,
    ).execute()  # fmt: skip
