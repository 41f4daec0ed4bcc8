"""Queries about how this site goes about equipment: by class, and by piece."""

from __future__ import annotations

from spinel.store.database import rows
from spinel.store.models import Procedure


def latest(subject: str) -> Procedure | None:
    query = "SELECT * FROM procedure WHERE subject = ? ORDER BY id DESC LIMIT 1"
    return next(iter(Procedure.raw(query, subject)), None)


def insert(subject: str, content: str, at: str, by: str, because: str) -> None:
    Procedure.insert(subject=subject, content=content, at=at, by=by, because=because).execute()


def isolated_since(element_id: str, at: str) -> bool:
    """Was it isolated, to the end of the program, by one that was drafted after a moment? Practice counts for none."""
    query = """SELECT 1 FROM program p JOIN job j ON j.id = p.job_id WHERE j.element_id = ? AND p.purpose = 'isolation'
        AND p.state = 'done' AND p.practice = 0 AND p.created_at >= ? LIMIT 1"""
    return bool(rows(query, element_id, at))
