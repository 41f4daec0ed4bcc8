"""Queries about jobs."""

from __future__ import annotations

from peewee import ModelSelect

from spinel.store.models import Job


def job(number: str) -> Job | None:
    found: Job | None = Job.get_or_none(Job.number == number)
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
