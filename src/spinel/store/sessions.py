"""Who is signed in where.

What the browser holds is kept as a hash: nobody becomes somebody else by reading the file.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from hashlib import sha256
from pathlib import Path
from typing import Any

from spinel.core.errors import NotKept
from spinel.core.people import Kept
from spinel.store.beside import reading, writing

_COLUMNS = "id, person_id, device, made_at, seen_at, short, tablet_id"


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def begin(
    beside: Path, token: str, person_id: int, device: str, at: str, *, short: bool = False, tablet_id: int | None = None
) -> None:  # fmt: skip
    query = """INSERT INTO session (token_hash, person_id, device, made_at, seen_at, short, tablet_id)
        VALUES (?, ?, ?, ?, ?, ?, ?)"""
    with writing(beside) as own:
        own.execute(query, (_hash(token), person_id, device, at, at, int(short), tablet_id))


def kept(beside: Path, token: str) -> Kept | None:
    """The session of a token, or None where there is none or it was ended. Nothing is written for it."""
    with reading(beside) as own:
        if own is None:
            return None
        query = f"SELECT {_COLUMNS} FROM session WHERE token_hash = ? AND ended_at IS NULL"
        row = own.execute(query, (_hash(token),)).fetchone()
    return _kept(row) if row else None


def _kept(row: Sequence[Any]) -> Kept:
    number, person_id, device, made_at, seen_at, short, tablet_id = row
    return Kept(number, person_id, device, made_at, seen_at, bool(short), tablet_id)


def seen(beside: Path, session_id: int, at: str) -> None:
    """A sign of life. Where it cannot be written nobody is kept from what they came for."""
    with suppress(NotKept), writing(beside) as own:
        own.execute("UPDATE session SET seen_at = ? WHERE id = ? AND seen_at < ?", (at, session_id, at))


def of_person(beside: Path, person_id: int) -> list[Kept]:
    """The sessions of somebody, the last one used first."""
    with reading(beside) as own:
        if own is None:
            return []
        query = (
            f"SELECT {_COLUMNS} FROM session WHERE person_id = ? AND ended_at IS NULL ORDER BY seen_at DESC, id DESC"
        )
        return [_kept(row) for row in own.execute(query, (person_id,))]


def end_on(beside: Path, tablet_id: int, at: str) -> None:
    """Nobody is signed in at a tablet any more."""
    with writing(beside) as own:
        own.execute("UPDATE session SET ended_at = ? WHERE tablet_id = ? AND ended_at IS NULL", (at, tablet_id))


def end(beside: Path, person_id: int, at: str, session_id: int | None = None, but: int | None = None) -> int:
    """End one session of a person, or all, or all but one: how many."""
    with writing(beside) as own:
        query = """UPDATE session SET ended_at = ? WHERE person_id = ? AND ended_at IS NULL
            AND (? IS NULL OR id = ?) AND (? IS NULL OR id <> ?)"""
        return own.execute(query, (at, person_id, session_id, session_id, but, but)).rowcount
