"""What is no part of the record lives in a file of its own beside the database: who is signed in where, who tried to
sign in, and what the server last did to look after the record. It can be deleted: everybody signs in again.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from spinel.core.errors import NotKept

_TABLES = (
    """CREATE TABLE IF NOT EXISTS session (
        id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, person_id INTEGER NOT NULL, device TEXT NOT NULL,
        made_at TEXT NOT NULL, seen_at TEXT NOT NULL, ended_at TEXT) STRICT""",
    """CREATE TABLE IF NOT EXISTS attempt (
        id INTEGER PRIMARY KEY, login TEXT NOT NULL, address TEXT NOT NULL,
        succeeded INTEGER NOT NULL CHECK (succeeded IN (0, 1)), at TEXT NOT NULL) STRICT""",
    "CREATE INDEX IF NOT EXISTS attempt_login ON attempt (login, at)",
    "CREATE INDEX IF NOT EXISTS attempt_address ON attempt (address, at)",
    "CREATE TABLE IF NOT EXISTS kept (name TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT",
    """CREATE TABLE IF NOT EXISTS calendar (
        person_id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, made_at TEXT NOT NULL) STRICT""",
    """CREATE TABLE IF NOT EXISTS invitation (
        person_id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, until TEXT NOT NULL) STRICT""",
    """CREATE TABLE IF NOT EXISTS draft (
        hash TEXT PRIMARY KEY, person_id INTEGER NOT NULL, made_at TEXT NOT NULL, document TEXT NOT NULL) STRICT""",
    "CREATE TABLE IF NOT EXISTS used_code (person_id INTEGER PRIMARY KEY, counter INTEGER NOT NULL) STRICT",
)
#: Columns that sessions have since the second form of the file.
_LATER = (("short", "INTEGER NOT NULL DEFAULT 0 CHECK (short IN (0, 1))"), ("tablet_id", "INTEGER"))
#: The form that the file has now.
_FORM = 3


def file(beside: str | Path) -> Path:
    return Path(f"{beside}.beside")


@contextmanager
def reading(beside: Path) -> Iterator[sqlite3.Connection | None]:
    """The file, or None where there is none yet, or a damaged one: nothing is made for a look. NotKept for one that
    cannot be read just now."""
    if not file(beside).exists():
        yield None
        return
    try:
        with _open(beside) as own:
            sound = _sound(own)
            if not sound or _is_of_this_form(own):
                yield own if sound else None
                return
        # a file of an earlier version gets what it lacks before it is looked into
        with writing(beside):
            pass
        with _open(beside) as own:
            yield own
    except sqlite3.DatabaseError as error:
        raise NotKept(str(error)) from error


@contextmanager
def writing(beside: Path) -> Iterator[sqlite3.Connection]:
    """The file, made where there is none yet: readable by its owner alone from the first moment on. A damaged one is
    put aside. NotKept where nothing can be written."""
    try:
        with _open(_made(beside)) as own:
            if not _is_of_this_form(own):
                own.execute("PRAGMA journal_mode = WAL")
                for table in _TABLES:
                    own.execute(table)
                known = {row[1] for row in own.execute("PRAGMA table_info(session)")}
                for column, kind in _LATER:
                    if column not in known:
                        own.execute(f"ALTER TABLE session ADD COLUMN {column} {kind}")
                own.execute(f"PRAGMA user_version = {_FORM}")
            yield own
    except (OSError, sqlite3.DatabaseError) as error:
        raise NotKept(str(error)) from error


def _is_of_this_form(own: sqlite3.Connection) -> bool:
    return int(own.execute("PRAGMA user_version").fetchone()[0]) >= _FORM


def _made(beside: Path) -> Path:
    path = file(beside)
    if path.exists():
        with _open(beside) as own:
            sound = _sound(own)
        if not sound:
            path.replace(f"{path}.damaged")
    if not path.exists():
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
    return beside


def _sound(own: sqlite3.Connection) -> bool:
    """Is it a database at all? One that is only locked is."""
    try:
        own.execute("SELECT 1 FROM sqlite_master")
    except sqlite3.OperationalError:
        return True
    except sqlite3.DatabaseError:
        return False
    return True


@contextmanager
def _open(beside: Path) -> Iterator[sqlite3.Connection]:
    own = sqlite3.connect(file(beside), timeout=10, isolation_level=None)
    try:
        yield own
    finally:
        own.close()


def keep(beside: Path, name: str, value: str) -> None:
    """Keep a value under a name, in place of the one before."""
    with writing(beside) as own:
        own.execute("INSERT OR REPLACE INTO kept VALUES (?, ?)", (name, value))


def kept(beside: Path, name: str) -> str | None:
    """What was last kept under a name."""
    with reading(beside) as own:
        if own is None:
            return None
        row = own.execute("SELECT value FROM kept WHERE name = ?", (name,)).fetchone()
    return str(row[0]) if row else None
