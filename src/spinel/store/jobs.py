"""Queries about jobs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, TypeVar

from peewee import ModelSelect

from spinel.store.database import rows
from spinel.store.models import Job, Permit, Program

Made = TypeVar("Made", Job, Permit, Program)
Record = TypeVar("Record", Permit, Program)


def job(number: str) -> Job | None:
    return next(iter(Job.raw("SELECT * FROM job WHERE number = ?", number)), None)


def with_jobs(model: type[Record], where: str, *values: object) -> list[Record]:
    """Permits or programs, each with its job, in one query. ``where``: what follows it, the record named r."""
    own, of_job = model._meta.sorted_fields, Job._meta.sorted_fields
    columns = ", ".join([f"r.{f.column_name}" for f in own] + [f"j.{f.column_name}" for f in of_job])
    query = f"SELECT {columns} FROM {model._meta.table_name} r JOIN job j ON j.id = r.job_id WHERE {where}"
    found = []
    for row in rows(query, *values):
        record = _made(model, row)
        record.job = _made(Job, row[len(own) :])
        found.append(record)
    return found


def _made(model: type[Made], row: Sequence[Any]) -> Made:
    return model(**{f.name: f.python_value(value) for f, value in zip(model._meta.sorted_fields, row, strict=False)})


def _in(state: str | None) -> ModelSelect:
    return Job.select().where(Job.state == state) if state else Job.select()


def count(state: str | None) -> int:
    return int(_in(state).count())


def jobs(state: str | None = None, first: int = 0, at_most: int | None = None) -> list[Job]:
    """Newest first, from one of them on, so many."""
    return list(_in(state).order_by(Job.id.desc()).limit(at_most).offset(first))


def of_task(task_id: str) -> list[Job]:
    return list(Job.raw("SELECT * FROM job WHERE task_id = ? ORDER BY id", task_id))


def parts_of(number: str) -> list[Job]:
    """Jobs that are done as parts of one."""
    return list(Job.raw("SELECT * FROM job WHERE part_of = ? ORDER BY id", number))


def planned() -> list[Job]:
    """Open jobs with a plan of their own."""
    return list(Job.raw("SELECT * FROM job WHERE state = 'open' AND plan != '{}' ORDER BY id"))


def insert(
    number: str, title: str, element_id: str, task_id: str, task_version: int, touches: str,
    requested_by: int | None, at: str, name: str, ties: Mapping[str, str],
) -> None:  # fmt: skip
    Job.insert(
        number=number, title=title, element_id=element_id, task_id=task_id, task_version=task_version, touches=touches,
        requested_by=requested_by, created_at=at, changed_at=at, changed_by=name,
        **ties,
    ).execute()  # fmt: skip
