"""Queries about network revisions and field events."""

from __future__ import annotations

from spinel.core.network.now import FieldEvent as Event
from spinel.store.models import FieldEvent, Revision


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


def events() -> list[Event]:
    rows = FieldEvent.select().order_by(FieldEvent.id)
    return [Event(r.id, r.at, r.actor, r.kind, r.element_id, r.value) for r in rows]


def add_event(at: str, actor: str, kind: str, element_id: str, value: str, note: str) -> None:
    FieldEvent.insert(at=at, actor=actor, kind=kind, element_id=element_id, value=value, note=note).execute()


def last_walk_down() -> tuple[str, str] | None:
    row = FieldEvent.select().where(FieldEvent.note == "walk-down").order_by(FieldEvent.id.desc()).first()
    return (row.at, row.actor) if row else None
