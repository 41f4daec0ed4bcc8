"""Queries about jobs."""

from __future__ import annotations

from spinel.store.models import Job


def job(number: str) -> Job | None:
    found: Job | None = Job.get_or_none(Job.number == number)
    return found


def jobs(state: str | None = None) -> list[Job]:
    """Newest first."""
    query = Job.select().order_by(Job.id.desc())
    return list(query.where(Job.state == state) if state else query)


def insert(
    number: str, title: str, element_id: str, task_id: str, touches: str, requested_by: int | None, at: str, name: str
) -> None:  # fmt: skip
    Job.insert(
        number=number, title=title, element_id=element_id, task_id=task_id, touches=touches,
        requested_by=requested_by, created_at=at, changed_at=at, changed_by=name,
    ).execute()  # fmt: skip
