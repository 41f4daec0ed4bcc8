"""Queries about network revisions and field events."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from spinel.core import stored as shapes
from spinel.core.network.now import FieldEvent as Event
from spinel.core.said import Sayable
from spinel.store.database import database, rows
from spinel.store.models import FieldEvent, PracticeEvent, Revision


@dataclass(frozen=True)
class RevisionKey:
    """The latest revision, without its document."""

    hash: str
    number: int
    published_at: str
    published_by: str


@dataclass(frozen=True)
class EventKey:
    """The last field event, as it reads: two histories that end in the same number are still told apart."""

    id: int = 0
    at: str = ""
    actor: str = ""
    kind: str = ""
    element_id: str = ""
    value: str = ""
    hold: str = ""


@dataclass(frozen=True)
class Present:
    """What a site's present state follows from."""

    revision: RevisionKey | None
    event: EventKey
    #: What was set, as one JSON object; the key that signs sessions is none of it.
    settings: str


_PRESENT = """SELECT r.hash, r.number, r.published_at, r.published_by,
    e.id, e.at, e.actor, e.kind, e.element_id, e.value, e.hold,
    (SELECT json_group_object(key, json(value)) FROM setting)
FROM (SELECT 1) LEFT JOIN (SELECT * FROM revision ORDER BY number DESC LIMIT 1) r
    LEFT JOIN (SELECT * FROM field_event ORDER BY id DESC LIMIT 1) e"""


def present() -> Present:
    """In one query: every page and every act asks for it, several times."""
    row = database.execute_sql(_PRESENT).fetchone()
    revision = RevisionKey(*row[:4]) if row[0] is not None else None
    event = EventKey(*row[4:11]) if row[4] is not None else EventKey()
    return Present(revision, event, row[11])


def latest_key() -> RevisionKey | None:
    return present().revision


def exists(revision_hash: str) -> bool:
    return bool(Revision.select().where(Revision.hash == revision_hash).exists())


def insert(name: str, number: int, document: str, at: str, by: str) -> None:
    Revision.insert(hash=name, number=number, document=document, published_at=at, published_by=by).execute()


def document_of(revision_hash: str) -> str | None:
    row = Revision.get_or_none(Revision.hash == revision_hash)
    return row.document if row else None


def revisions() -> list[RevisionKey]:
    """All that were published, the latest first, without their documents."""
    columns = (Revision.hash, Revision.number, Revision.published_at, Revision.published_by)
    return [RevisionKey(*row) for row in Revision.select(*columns).order_by(Revision.number.desc()).tuples()]


_COLUMNS = ("id", "at", "actor", "kind", "element_id", "value", "hold", "node_id", "detail")


def events(after: int, until: int) -> list[Event]:
    """Field events in order, later than an id, up to and with another."""
    query = FieldEvent.select(*(getattr(FieldEvent, c) for c in _COLUMNS)).order_by(FieldEvent.id)
    return [as_event(*row) for row in query.where((FieldEvent.id > after) & (FieldEvent.id <= until)).tuples()]


def events_since(known: EventKey, until: int) -> list[Event] | None:
    """Field events later than one, up to and with another; None where that one is not in the record as it is known."""
    found = events(known.id - 1, until)
    if known.id == 0:
        return found
    if not found or _key(found[0]) != known:
        return None
    return found[1:]


def _key(event: Event) -> EventKey:
    return EventKey(event.sequence, event.at, event.actor, event.kind, event.element_id, event.value, event.hold)


def practice_events(program_id: int) -> list[Event]:
    """What was done in a practice run: apart from the record, never folded into it."""
    query = PracticeEvent.select(*(getattr(PracticeEvent, c) for c in _COLUMNS)).order_by(PracticeEvent.id)
    return [as_event(*row) for row in query.where(PracticeEvent.program == program_id).tuples()]


def as_event(
    number: int, at: str, actor: str, kind: str, element_id: str, value: str, hold: str, node_id: str, detail: str
) -> Event:  # fmt: skip
    more = shapes.read("field event", detail) if detail != "{}" else {}
    return Event(
        sequence=number,
        at=at,
        actor=actor,
        kind=kind,
        element_id=element_id,
        value=value,
        hold=hold,
        node_id=node_id,
        pairs=tuple(more.get("pairs", ())),
        digest=more.get("digest", ""),
        region=more.get("region", ""),
        # before 0.7 one instrument did for every voltage
        instrument=more.get("instrument_kind", "contact" if kind == "tested" else ""),
        walked=more.get("walked", False),
    )


def last_actor(element_id: str) -> str | None:
    """Who made the last entry on an element."""
    row = FieldEvent.select().where(FieldEvent.element_id == element_id).order_by(FieldEvent.id.desc()).first()
    return row.actor if row else None


def last_at(element_id: str) -> str | None:
    """When the last entry on an element was made."""
    found = rows("SELECT at FROM field_event WHERE element_id = ? ORDER BY id DESC LIMIT 1", element_id)
    return str(found[0][0]) if found else None


def add_event(
    at: str,
    actor: str,
    kind: str,
    element_id: str,
    value: str,
    note: Sayable,
    *,
    hold: str = "",
    node_id: str = "",
    detail: str = "{}",
) -> None:
    FieldEvent.insert(
        at=at, actor=actor, kind=kind, element_id=element_id, value=value, note=note, hold=hold, node_id=node_id,
        detail=detail,
    ).execute()  # fmt: skip


def add_events(at: str, actor: str, note: Sayable, done: Sequence[tuple[Event, str]]) -> None:
    """Several at once, each with its detail as it is kept."""
    if done:
        FieldEvent.insert_many([_row(at, actor, note, event, detail) for event, detail in done]).execute()


def add_practice_events(program_id: int, at: str, actor: str, note: Sayable, done: Sequence[tuple[Event, str]]) -> None:
    made = [{"program": program_id, **_row(at, actor, note, event, detail)} for event, detail in done]
    if made:
        PracticeEvent.insert_many(made).execute()


def _row(at: str, actor: str, note: Sayable, event: Event, detail: str) -> dict[str, object]:
    return {
        "at": at, "actor": actor, "kind": event.kind, "element_id": event.element_id, "value": event.value,
        "note": note, "hold": event.hold, "node_id": event.node_id, "detail": detail,
    }  # fmt: skip
