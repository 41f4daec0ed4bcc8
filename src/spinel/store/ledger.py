"""The append-only, hash-chained ledger: one row an act, in the same transaction as the change.

A row's hash covers the stored text of every other column of the row, the previous hash included.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from peewee import ModelSelect

from spinel.core import stored as shapes
from spinel.core.canonical import canonical, digest
from spinel.core.said import Sayable, say
from spinel.store.database import in_transaction, rows
from spinel.store.models import Ledger

GENESIS = "0" * 64


@dataclass(frozen=True, kw_only=True)
class Entry:
    seq: int
    at: str
    actor: str
    act: str
    subject: str
    payload: str
    request_id: str | None
    previous_hash: str
    hash: str


@dataclass(frozen=True)
class Verdict:
    """``broken_at``: sequence of the first row that does not fit, or None."""

    count: int
    head: str
    broken_at: int | None
    reason: Sayable


def append(at: Sayable, actor: str, act: str, subject: str, payload: dict[str, Any], request_id: str | None) -> int:
    """Add one row after the last; must run inside a write transaction. Returns its sequence."""
    if not in_transaction():
        raise RuntimeError("a ledger row belongs in the transaction of its act")
    last, previous = head()
    seq = last + 1
    text = shapes.write("act", payload).text
    own = row_hash((seq, at, actor, act, subject, text, request_id, previous))
    Ledger.insert(
        seq=seq, at=at, actor=actor, act=act, subject=subject, payload=text, request_id=request_id,
        previous_hash=previous, hash=own,
    ).execute()  # fmt: skip
    return seq


def row_hash(columns: Iterable[object]) -> str:
    """SHA-256 over the columns as a canonical JSON list."""
    return digest(canonical(list(columns)))


def head() -> tuple[int, str]:
    """Number of rows and hash of the last."""
    last = rows("SELECT seq, hash FROM ledger ORDER BY seq DESC LIMIT 1")
    return (last[0][0], last[0][1]) if last else (0, GENESIS)


def answered(request_id: str | None, actor: str) -> str | None:
    """The subject of the act that this request of this actor already did, or None."""
    if not request_id:
        return None
    same = (Ledger.request_id == request_id) & (Ledger.actor == actor)
    row = Ledger.select(Ledger.subject).where(same).first()
    return row.subject if row else None


def verify(known_head: str | None = None, known_count: int | None = None) -> Verdict:
    """Walk the chain from the first row. A known head and count (from a printed paper) show a cut tail."""
    previous, count, seen = GENESIS, 0, None
    for row in Ledger.select().order_by(Ledger.seq).tuples().iterator():
        seq, *_, stored_previous, stored = row
        count += 1
        if seq != count:
            return Verdict(count - 1, previous, seq, say("ledger-row-missing", row=count))
        if stored_previous != previous:
            return Verdict(count - 1, previous, seq, say("ledger-row-does-not-follow"))
        if row_hash(row[:-1]) != stored:
            return Verdict(count - 1, previous, seq, say("ledger-row-was-changed"))
        previous = stored
        if count == known_count:
            seen = stored
    if known_count is not None and (count < known_count or (known_head and seen != known_head)):
        return Verdict(count, previous, known_count, say("ledger-tail-was-cut"))
    if known_head and known_count is None and not Ledger.select().where(Ledger.hash == known_head).exists():
        return Verdict(count, previous, count, say("ledger-head-not-here"))
    return Verdict(count, previous, None, "")


def search(
    subject: str = "", actor: str = "", act: str = "", before: int | None = None, limit: int = 100
) -> list[Entry]:
    """Rows newest first, filtered; ``subject`` matches its beginning or that of the number in it."""
    query = _that(Ledger.select(), subject, actor, act).order_by(Ledger.seq.desc()).limit(limit)
    if before is not None:
        query = query.where(Ledger.seq < before)
    return [Entry(**row) for row in query.dicts()]


def count(subject: str = "", actor: str = "", act: str = "") -> int:
    """How many rows a search finds in all."""
    return int(_that(Ledger.select(), subject, actor, act).count())


def _that(query: ModelSelect, subject: str, actor: str, act: str) -> ModelSelect:
    if subject:
        query = query.where(Ledger.subject.startswith(subject) | Ledger.subject.contains(f":{subject}"))
    if actor:
        query = query.where(Ledger.actor == actor)
    return query.where(Ledger.act == act) if act else query


def after(seq: int, passing_over: str) -> list[Entry]:
    """Rows later than a sequence, newest first, at most 100, without one kind of act."""
    later = (Ledger.seq > seq) & (Ledger.act != passing_over)
    query = Ledger.select().where(later).order_by(Ledger.seq.desc()).limit(100)
    return [Entry(**row) for row in query.dicts()]


def distinct(column: str) -> list[str]:
    """All actors or acts that occur, sorted."""
    field = {"actor": Ledger.actor, "act": Ledger.act}[column]
    return [r[0] for r in Ledger.select(field).distinct().order_by(field).tuples()]


def last(act: str) -> tuple[str, str] | None:
    """When and by whom this was last done."""
    query = Ledger.select(Ledger.at, Ledger.actor).where(Ledger.act == act).order_by(Ledger.seq.desc())
    row = query.tuples().first()
    return (row[0], row[1]) if row else None
