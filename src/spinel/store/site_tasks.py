"""Queries about the task library of a site: versions of tasks, only ever added to."""

from __future__ import annotations

from spinel.store.database import rows
from spinel.store.models import TaskVersion


def version(task_id: str, number: int) -> TaskVersion | None:
    query = "SELECT * FROM task_version WHERE task_id = ? AND number = ?"
    return next(iter(TaskVersion.raw(query, task_id, number)), None)


def latest() -> list[TaskVersion]:
    """The last version of each task that the site changed or made."""
    query = """SELECT * FROM task_version WHERE id IN (SELECT max(id) FROM task_version GROUP BY task_id)
        ORDER BY task_id"""
    return list(TaskVersion.raw(query))


def latest_of(task_id: str) -> TaskVersion | None:
    query = "SELECT * FROM task_version WHERE task_id = ? ORDER BY number DESC LIMIT 1"
    return next(iter(TaskVersion.raw(query, task_id)), None)


def versions(task_id: str) -> list[TaskVersion]:
    """The latest first."""
    return list(TaskVersion.raw("SELECT * FROM task_version WHERE task_id = ? ORDER BY number DESC", task_id))


def own() -> int:
    """How many tasks of its own a site ever made."""
    return int(rows("SELECT count(DISTINCT task_id) FROM task_version WHERE task_id LIKE 'own-%'")[0][0])


def insert(task_id: str, number: int, like: str, content: str, live: bool, at: str, by: str, because: str) -> None:
    TaskVersion.insert(
        task_id=task_id, number=number, like=like, content=content, live=int(live), at=at, by=by, because=because
    ).execute()
