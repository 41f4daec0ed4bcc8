"""Queries about labels and what happened to them."""

from __future__ import annotations

from typing import Any

from spinel.store.models import LabelEvent, StoredLabel
from spinel.store.numbering import next_number


def insert(**values: Any) -> StoredLabel:
    made: StoredLabel = StoredLabel.create(number=next_number(StoredLabel, "L"), **values)
    return made


def one(number: str) -> StoredLabel | None:
    return next(iter(StoredLabel.raw("SELECT * FROM label WHERE number = ?", number)), None)


def everything() -> list[StoredLabel]:
    """In the order in which they were printed or found."""
    return list(StoredLabel.raw("SELECT * FROM label ORDER BY id"))


def hanging_at(element_id: str, touches: str) -> list[StoredLabel]:
    query = "SELECT * FROM label WHERE element_id = ? AND touches = ? AND state = 'hung' ORDER BY id"
    return list(StoredLabel.raw(query, element_id, touches))


def change(row: StoredLabel, **values: Any) -> None:
    StoredLabel.update(**values, version=StoredLabel.version + 1).where(StoredLabel.id == row.id).execute()


def add_event(label_id: int, kind: str, at: str, by: str, **values: str) -> None:
    LabelEvent.insert(label_id=label_id, kind=kind, at=at, by=by, **values).execute()


def events() -> dict[int, list[LabelEvent]]:
    """Of every label, in their order."""
    found: dict[int, list[LabelEvent]] = {}
    for event in LabelEvent.raw("SELECT * FROM label_event ORDER BY id"):
        found.setdefault(event.label_id, []).append(event)
    return found
