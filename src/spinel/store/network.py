"""Queries about network revisions and field events."""

from __future__ import annotations

import json

from spinel.core.network.now import FieldEvent as Event
from spinel.store.models import FieldEvent, PracticeEvent, Revision


def latest() -> Revision | None:
    return Revision.select().order_by(Revision.number.desc()).first()


def latest_key() -> tuple[str, int, str, str] | None:
    """Hash, number, time and publisher of the latest revision, without its document."""
    row = (
        Revision.select(Revision.hash, Revision.number, Revision.published_at, Revision.published_by)
        .order_by(Revision.number.desc())
        .tuples()
        .first()
    )
    return tuple(row) if row else None


def document_of(revision_hash: str) -> str | None:
    row = Revision.get_or_none(Revision.hash == revision_hash)
    return row.document if row else None


def last_event_id() -> int:
    row = FieldEvent.select(FieldEvent.id).order_by(FieldEvent.id.desc()).first()
    return int(row.id) if row else 0


_COLUMNS = ("id", "at", "actor", "kind", "element_id", "value", "hold", "node_id", "detail")


def events(until: int | None = None) -> list[Event]:
    """Field events in order, up to and with an id."""
    query = FieldEvent.select(*(getattr(FieldEvent, c) for c in _COLUMNS)).order_by(FieldEvent.id)
    return [as_event(*row) for row in (query.where(FieldEvent.id <= until) if until is not None else query).tuples()]


def practice_events(program_id: int) -> list[Event]:
    """What was done in a practice run: apart from the record, never folded into it."""
    query = PracticeEvent.select(*(getattr(PracticeEvent, c) for c in _COLUMNS)).order_by(PracticeEvent.id)
    return [as_event(*row) for row in query.where(PracticeEvent.program == program_id).tuples()]


def as_event(
    number: int, at: str, actor: str, kind: str, element_id: str, value: str, hold: str, node_id: str, detail: str
) -> Event:  # fmt: skip
    more = json.loads(detail) if detail != "{}" else {}
    pairs, named = tuple(more.get("pairs", ())), more.get("digest", "")
    return Event(number, at, actor, kind, element_id, value, hold, node_id, pairs, named)


def last_actor(element_id: str) -> str | None:
    """Who made the last entry on an element."""
    row = FieldEvent.select().where(FieldEvent.element_id == element_id).order_by(FieldEvent.id.desc()).first()
    return row.actor if row else None


def add_event(
    at: str, actor: str, kind: str, element_id: str, value: str, note: str, *, hold: str = "", node_id: str = "",
    detail: str = "{}",
) -> None:  # fmt: skip
    FieldEvent.insert(
        at=at, actor=actor, kind=kind, element_id=element_id, value=value, note=note, hold=hold, node_id=node_id,
        detail=detail,
    ).execute()  # fmt: skip


def add_practice_event(program_id: int, at: str, actor: str, event: Event, note: str, detail: str) -> None:
    PracticeEvent.insert(
        program=program_id, at=at, actor=actor, kind=event.kind, element_id=event.element_id, value=event.value,
        note=note, hold=event.hold, node_id=event.node_id, detail=detail,
    ).execute()  # fmt: skip


def last_walk_down() -> tuple[str, str] | None:
    row = FieldEvent.select().where(FieldEvent.note == "walk-down").order_by(FieldEvent.id.desc()).first()
    return (row.at, row.actor) if row else None
