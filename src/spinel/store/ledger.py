"""The append-only, hash-chained ledger: one row an act, in the same transaction as the change.

A row's hash covers the stored text of every other column of the row, the previous hash included. Its ``mac`` is keyed:
whoever recomputes the chain without the key is found. Entries of before 0.10 have neither ``wrote`` nor ``mac``.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from hmac import compare_digest
from typing import Any

from peewee import ModelSelect

from spinel.core import stored as shapes
from spinel.core.canonical import canonical, digest
from spinel.core.errors import NotKept
from spinel.core.said import Sayable, say
from spinel.store import keys
from spinel.store.database import in_transaction, marks, path_in_use, rows
from spinel.store.keys import Keys
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
    wrote: str | None = None
    mac: str | None = None


@dataclass(frozen=True)
class Verdict:
    """``broken_at``: sequence of the first row that does not fit, or None."""

    count: int
    head: str
    broken_at: int | None
    reason: Sayable


@dataclass(frozen=True)
class Head:
    """Number of rows, and hash of the last."""

    count: int
    hash: str


@dataclass(frozen=True)
class Stands:
    """What an act begins from. ``answered``: the subject of the act that this request of this actor already did, or
    None. ``noted``: rows were written outside of an act. ``at``: when the last entry was made, empty for none."""

    head: Head
    at: str
    answered: str | None
    noted: bool


def stands(request_id: str | None, actor: str) -> Stands:
    """All of it in one query: every act asks."""
    query = """SELECT (SELECT subject FROM ledger WHERE request_id = ? AND actor = ?),
        EXISTS (SELECT 1 FROM touched), seq, hash, at
        FROM (SELECT 1) LEFT JOIN (SELECT seq, hash, at FROM ledger ORDER BY seq DESC LIMIT 1)"""
    ((answered, noted, seq, last, at),) = rows(query, request_id or None, actor)
    return Stands(Head(seq or 0, last or GENESIS), at or "", answered, bool(noted))


@dataclass(frozen=True)
class Since:
    """``found``: one of some acts was done after the last of another. ``at``: when the last entry was made."""

    found: bool
    at: str


def since_last(acts: tuple[str, ...], last: str) -> Since:
    query = f"""SELECT coalesce((SELECT max(seq) FROM ledger WHERE act IN ({marks(acts)})), 0)
        > coalesce((SELECT max(seq) FROM ledger WHERE act = ?), 0),
        coalesce((SELECT at FROM ledger ORDER BY seq DESC LIMIT 1), '')"""
    ((found, at),) = rows(query, *acts, last)
    return Since(bool(found), at)


def append(
    after: Head, at: Sayable, actor: str, act: str, subject: str, payload: dict[str, Any], request_id: str | None,
    wrote: Mapping[str, object],
) -> Head:  # fmt: skip
    """Add one row after the last; must run inside a write transaction. ``wrote``: digests of the rows that the act
    wrote, before and after. It closes the notes of them, by a trigger."""
    if not in_transaction():
        raise RuntimeError("a ledger row belongs in the transaction of its act")
    seq = after.count + 1
    text, rows_text = shapes.write("act", payload).text, canonical(wrote)
    own = row_hash((seq, at, actor, act, subject, text, request_id, after.hash, rows_text))
    known = keys.of(path_in_use())
    if known is None:
        # an entry without its code would read as forged for ever
        raise NotKept("the keys of this database are not there")
    Ledger.insert(
        seq=seq, at=at, actor=actor, act=act, subject=subject, payload=text, request_id=request_id,
        previous_hash=after.hash, hash=own, wrote=rows_text, mac=known.mac(own),
    ).execute()  # fmt: skip
    return Head(seq, own)


def row_hash(columns: Iterable[object]) -> str:
    """SHA-256 over the columns as a canonical JSON list; what a row of before 0.10 lacks does not count."""
    return digest(canonical([c for i, c in enumerate(columns) if i < 8 or c is not None]))


def head() -> tuple[int, str]:
    """Number of rows and hash of the last."""
    last = rows("SELECT seq, hash FROM ledger ORDER BY seq DESC LIMIT 1")
    return (last[0][0], last[0][1]) if last else (0, GENESIS)


def last_at() -> str:
    """When the last row was written; before any was, a day long ago."""
    last = rows("SELECT at FROM ledger ORDER BY seq DESC LIMIT 1")
    return str(last[0][0]) if last else "2000-01-01T00:00:00Z"


def verify(known_head: str | None = None, known_count: int | None = None, known: Keys | None = None) -> Verdict:
    """Walk the chain from the first row. A known head and count (from a printed paper) show a cut tail; ``known``: the
    keys of the site, of which an entry that was made without them is found."""
    return _walked(rows(_CHAIN.format("wrote, mac")), known_head, known_count, known)


def verify_old(known_head: str | None = None, known_count: int | None = None) -> Verdict:
    """The same for a database of before 0.10."""
    return _walked(rows(_CHAIN.format("NULL, NULL")), known_head, known_count, None)


def _walked(
    found: Iterable[tuple[Any, ...]], known_head: str | None, known_count: int | None, known: Keys | None
) -> Verdict:
    previous, count, seen, keyed, head_seen = GENESIS, 0, None, False, False
    for *columns, stored, wrote, mac in found:
        count += 1
        if columns[0] != count:
            return Verdict(count - 1, previous, columns[0], say("ledger-row-missing", row=count))
        if columns[7] != previous:
            return Verdict(count - 1, previous, count, say("ledger-row-does-not-follow"))
        if row_hash((*columns, wrote)) != stored:
            return Verdict(count - 1, previous, count, say("ledger-row-was-changed"))
        keyed = keyed or mac is not None
        if keyed and not _made_here(known, count, stored, mac):
            return Verdict(count - 1, previous, count, say("ledger-row-was-made-without-the-key"))
        previous, head_seen = stored, head_seen or stored == known_head
        if count == known_count:
            seen = stored
    if known_count is not None and (count < known_count or (known_head and seen != known_head)):
        return Verdict(count, previous, known_count, say("ledger-tail-was-cut"))
    if known_head and known_count is None and not head_seen:
        return Verdict(count, previous, count, say("ledger-head-not-here"))
    return Verdict(count, previous, None, "")


_CHAIN = """SELECT seq, at, actor, act, subject, payload, request_id, previous_hash, hash, {0}
    FROM ledger ORDER BY seq"""


def _made_here(known: Keys | None, seq: int, row: str, mac: str | None) -> bool:
    """Was an entry made with the key that is here? One of before there was that key cannot be told from a good one."""
    if mac is None:
        return False
    return known is None or seq <= known.first or compare_digest(mac, known.mac(row))


def keys_used() -> list[tuple[str, int, int]]:
    """Names of the keys that entries were made with, empty for none, with the first and the last entry of each."""
    query = """SELECT coalesce(substr(mac, 1, instr(mac, ':') - 1), ''), min(seq), max(seq) FROM ledger
        GROUP BY 1 ORDER BY 2"""
    return [(name, first, last) for name, first, last in rows(query)]


def writings() -> Iterator[tuple[int, str, dict[str, tuple[str | None, str | None]]]]:
    """What each entry says of the rows that its act wrote: sequence, act, and digests before and after by row."""
    for seq, act, wrote in rows("SELECT seq, act, wrote FROM ledger WHERE wrote <> '{}' ORDER BY seq"):
        yield seq, act, {row: (before, after) for row, (before, after) in json.loads(wrote).items()}


def hash_of(seq: int) -> str | None:
    """The hash of one row, or None where there is none."""
    found = rows("SELECT hash FROM ledger WHERE seq = ?", seq)
    return str(found[0][0]) if found else None


def hashes() -> dict[int, str]:
    return dict(rows("SELECT seq, hash FROM ledger"))


def search(
    subject: str = "", actor: str = "", act: str = "", before: int | None = None, limit: int = 100
) -> list[Entry]:
    """Rows newest first, filtered; ``subject`` matches its beginning or that of the number in it."""
    query = _that(Ledger.select(), subject, actor, act).order_by(Ledger.seq.desc()).limit(limit)
    if before is not None:
        query = query.where(Ledger.seq < before)
    return [Entry(**row) for row in query.dicts()]


def of_act(subject: str, act: str) -> list[Entry]:
    """All rows of one act on this very subject, newest first."""
    query = Ledger.select().where((Ledger.subject == subject) & (Ledger.act == act)).order_by(Ledger.seq.desc())
    return [Entry(**row) for row in query.dicts()]


def of_subjects(subjects: Sequence[str]) -> list[Entry]:
    """All rows on these subjects, oldest first."""
    query = Ledger.select().where(Ledger.subject.in_(list(subjects))).order_by(Ledger.seq)
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
