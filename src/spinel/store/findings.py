"""Queries about findings of studies that somebody was given."""

from __future__ import annotations

from typing import Any

from spinel.store.models import AssignedFinding
from spinel.store.numbering import next_number


def by_name() -> dict[str, AssignedFinding]:
    return {f.name: f for f in AssignedFinding.raw("SELECT * FROM finding ORDER BY id")}


def one(number: str) -> AssignedFinding | None:
    return next(iter(AssignedFinding.raw("SELECT * FROM finding WHERE number = ?", number)), None)


def of_name(name: str) -> AssignedFinding | None:
    return next(iter(AssignedFinding.raw("SELECT * FROM finding WHERE name = ?", name)), None)


def of_owner(person_id: int) -> list[AssignedFinding]:
    """What somebody has to see to and has not yet."""
    query = "SELECT * FROM finding WHERE owner_id = ? AND state = 'open' ORDER BY due, id"
    return list(AssignedFinding.raw(query, person_id))


def insert(**values: Any) -> str:
    number = next_number(AssignedFinding, "F")
    AssignedFinding.insert(number=number, **values).execute()
    return number


def change(row: AssignedFinding, at: str, by: str, **values: Any) -> None:
    AssignedFinding.update(**values, changed_at=at, changed_by=by, version=AssignedFinding.version + 1).where(
        AssignedFinding.id == row.id
    ).execute()
