"""Queries about what would lower a risk at its source."""

from __future__ import annotations

from typing import Any

from spinel.store.models import Improvement


def one(number: str) -> Improvement | None:
    return next(iter(Improvement.raw("SELECT * FROM improvement WHERE number = ?", number)), None)


def everything() -> list[Improvement]:
    """In the order in which they were proposed."""
    return list(Improvement.raw("SELECT * FROM improvement ORDER BY id"))


def of_owner(person_id: int) -> list[Improvement]:
    """What somebody has to see to and has not yet."""
    query = "SELECT * FROM improvement WHERE owner_id = ? AND state IN ('proposed', 'accepted') ORDER BY due, id"
    return list(Improvement.raw(query, person_id))


def insert(**values: Any) -> None:
    Improvement.insert(**values).execute()


def change(row: Improvement, at: str, by: str, **values: Any) -> None:
    Improvement.update(**values, changed_at=at, changed_by=by, version=Improvement.version + 1).where(
        Improvement.id == row.id
    ).execute()
