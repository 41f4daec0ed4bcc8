"""Queries about jobs."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from peewee import ModelSelect

from spinel.store.database import marks
from spinel.store.models import Job


def job(number: str) -> Job | None:
    return next(iter(Job.raw("SELECT * FROM job WHERE number = ?", number)), None)


def with_jobs(records: Iterable[Any]) -> list[Any]:
    """Permits or programs, each with its job: two queries, however many there are."""
    found = list(records)
    ids = tuple({record.job_id for record in found})
    jobs = {job.id: job for job in Job.raw(f"SELECT * FROM job WHERE id IN ({marks(ids)})", *ids)} if ids else {}
    for record in found:
        record.job = jobs[record.job_id]
    return found


def _in(state: str | None) -> ModelSelect:
    return Job.select().where(Job.state == state) if state else Job.select()


def count(state: str | None) -> int:
    return int(_in(state).count())


def jobs(state: str | None = None, first: int = 0, at_most: int | None = None) -> list[Job]:
    """Newest first, from one of them on, so many."""
    return list(_in(state).order_by(Job.id.desc()).limit(at_most).offset(first))


def insert(
    number: str, title: str, element_id: str, task_id: str, touches: str, requested_by: int | None, at: str, name: str
) -> None:  # fmt: skip
    Job.insert(
        number=number, title=title, element_id=element_id, task_id=task_id, touches=touches,
        requested_by=requested_by, created_at=at, changed_at=at, changed_by=name,
    ).execute()  # fmt: skip
