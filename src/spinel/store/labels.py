"""Queries about labels and what happened to them."""

from __future__ import annotations

from typing import Any

from spinel.store.models import Label, LabelEvent
from spinel.store.numbering import next_number


def insert(**values: Any) -> Label:
    made: Label = Label.create(number=next_number(Label, "L"), **values)
    return made


def one(number: str) -> Label | None:
    return next(iter(Label.raw("SELECT * FROM label WHERE number = ?", number)), None)


def everything() -> list[Label]:
    """In the order in which they were printed or found."""
    return list(Label.raw("SELECT * FROM label ORDER BY id"))


def hanging_at(element_id: str, touches: str) -> list[Label]:
    query = "SELECT * FROM label WHERE element_id = ? AND touches = ? AND state = 'hung' ORDER BY id"
    return list(Label.raw(query, element_id, touches))


def change(row: Label, **values: Any) -> None:
    Label.update(**values, version=Label.version + 1).where(Label.id == row.id).execute()


def add_event(label_id: int, kind: str, at: str, by: str, **values: str) -> None:
    LabelEvent.insert(label_id=label_id, kind=kind, at=at, by=by, **values).execute()


def events() -> dict[int, list[LabelEvent]]:
    """Of every label, in their order."""
    found: dict[int, list[LabelEvent]] = {}
    for event in LabelEvent.raw("SELECT * FROM label_event ORDER BY id"):
        found.setdefault(event.label_id, []).append(event)
    return found
