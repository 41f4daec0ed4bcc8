"""Queries about jobs and permits."""

from __future__ import annotations

from collections.abc import Iterable

from spinel.store.models import Job, Permit, PermitRecord, Program


def job(number: str) -> Job | None:
    return Job.get_or_none(Job.number == number)


def permit(number: str) -> Permit | None:
    return Permit.get_or_none(Permit.number == number)


def next_number(model: type[Job] | type[Permit] | type[Program], prefix: str) -> str:
    """The next number of the series; called inside the write transaction, so no two are the same."""
    last = model.select(model.id).order_by(model.id.desc()).first()
    return f"{prefix}-{(last.id if last else 0) + 1:04d}"


def permits_of(job_id: int) -> list[Permit]:
    return list(Permit.select().where(Permit.job == job_id).order_by(Permit.id))


def permits_in(states: Iterable[str]) -> list[Permit]:
    return list(Permit.select().where(Permit.state.in_(list(states))).order_by(Permit.window_end))


def records(permit_id: int) -> list[PermitRecord]:
    return list(PermitRecord.select().where(PermitRecord.permit == permit_id).order_by(PermitRecord.id))


def jobs(state: str | None = None) -> list[Job]:
    query = Job.select().order_by(Job.id.desc())
    return list(query.where(Job.state == state) if state else query)


def permits_by_job() -> dict[int, list[Permit]]:
    found: dict[int, list[Permit]] = {}
    for p in Permit.select().order_by(Permit.id):
        found.setdefault(p.job_id, []).append(p)
    return found


def save(record: Job | Permit | Program, version: int, **changes: object) -> bool:
    """Write the changes if the record still has this version; False when somebody was faster."""
    model = type(record)
    count = (
        model.update(version=version + 1, **changes)
        .where((model.id == record.id) & (model.version == version))
        .execute()
    )
    return bool(count == 1)
