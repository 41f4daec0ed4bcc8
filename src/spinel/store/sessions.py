"""Who is signed in where: a file of its own beside the database, since none of it is part of the record.

What the browser holds is kept as a hash: nobody becomes somebody else by reading the file.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from hashlib import sha256
from pathlib import Path

from spinel.core.people import Kept

_TABLE = """CREATE TABLE IF NOT EXISTS session (
    id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, person_id INTEGER NOT NULL, device TEXT NOT NULL,
    made_at TEXT NOT NULL, seen_at TEXT NOT NULL, ended_at TEXT) STRICT"""


def _file(beside: Path) -> Path:
    return Path(f"{beside}.sessions")


@contextmanager
def _open(beside: Path) -> Iterator[sqlite3.Connection]:
    own = sqlite3.connect(_file(beside), timeout=10, isolation_level=None)
    try:
        yield own
    finally:
        own.close()


def _made(beside: Path) -> None:
    """The file, where there is none yet: readable by its owner alone from the first moment on."""
    path = _file(beside)
    if not path.exists():
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
    with _open(beside) as own:
        own.execute("PRAGMA journal_mode = WAL")
        own.execute(_TABLE)


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


_COLUMNS = "id, person_id, device, made_at, seen_at"


def begin(beside: Path, token: str, person_id: int, device: str, at: str) -> None:
    _made(beside)
    with _open(beside) as own:
        own.execute(
            "INSERT INTO session (token_hash, person_id, device, made_at, seen_at) VALUES (?, ?, ?, ?, ?)",
            (_hash(token), person_id, device, at, at),
        )


def kept(beside: Path, token: str) -> Kept | None:
    """The session of a token, or None where there is none or it was ended. Nothing is written for it."""
    if not _file(beside).exists():
        return None
    with _open(beside) as own:
        query = f"SELECT {_COLUMNS} FROM session WHERE token_hash = ? AND ended_at IS NULL"
        row = own.execute(query, (_hash(token),)).fetchone()
    return Kept(*row) if row else None


def seen(beside: Path, session_id: int, at: str) -> None:
    """A sign of life. Where it cannot be written nobody is kept from what they came for."""
    with suppress(sqlite3.Error), _open(beside) as own:
        own.execute("UPDATE session SET seen_at = ? WHERE id = ? AND seen_at < ?", (at, session_id, at))


def of_person(beside: Path, person_id: int) -> list[Kept]:
    """The sessions of somebody, the last one used first."""
    if not _file(beside).exists():
        return []
    with _open(beside) as own:
        query = (
            f"SELECT {_COLUMNS} FROM session WHERE person_id = ? AND ended_at IS NULL ORDER BY seen_at DESC, id DESC"
        )
        return [Kept(*row) for row in own.execute(query, (person_id,))]


def end(beside: Path, person_id: int, at: str, session_id: int | None = None, but: int | None = None) -> int:
    """End one session of a person, or all, or all but one: how many."""
    if not _file(beside).exists():
        return 0
    with _open(beside) as own:
        query = """UPDATE session SET ended_at = ? WHERE person_id = ? AND ended_at IS NULL
            AND (? IS NULL OR id = ?) AND (? IS NULL OR id <> ?)"""
        return own.execute(query, (at, person_id, session_id, session_id, but, but)).rowcount
