"""One SQLite database a site, in WAL mode. Every write is BEGIN IMMEDIATE; a confirmed act survives power loss.

The models belong to no database of their own: within ``using`` they are those of the database named there, in that
thread alone. So two sites in one process never see each other.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterator, Sized
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from peewee import DatabaseError as DatabaseError
from peewee import DatabaseProxy, OperationalError, SqliteDatabase

from spinel.core.errors import NotKept

MIGRATIONS = Path(__file__).with_name("migrations")

#: So long an act waits for another one to end, ms.
PATIENCE_MS = 10_000

_current: ContextVar[SqliteDatabase | None] = ContextVar("current database", default=None)


class _Current(DatabaseProxy):  # type: ignore[misc]  # peewee is untyped
    """Stands in the models for whatever database is in use."""

    @property
    def obj(self) -> SqliteDatabase | None:
        return _current.get()

    @obj.setter
    def obj(self, value: Any) -> None:
        """Peewee clears it when a proxy is made; nothing else sets it."""


database: DatabaseProxy = _Current()


def opened(path: str | Path) -> SqliteDatabase:
    """The database in a file, made with its folder when absent, readable by its owner alone. No ``:memory:``: each of
    its connections would be a database of its own."""
    Path(path).parent.mkdir(parents=True, exist_ok=True)
    if not Path(path).exists():
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, 0o600))
    return SqliteDatabase(
        str(path),
        lock_type="IMMEDIATE",
        timeout=PATIENCE_MS / 1000,
        pragmas={
            "journal_mode": "wal",
            "synchronous": "full",
            "foreign_keys": 1,
            "busy_timeout": PATIENCE_MS,
            # what REPLACE takes out is asked for, and noted, like any deletion
            "recursive_triggers": 1,
        },
    )


@contextmanager
def using(real: SqliteDatabase) -> Iterator[None]:
    """The models are those of this database, with a connection; inside another ``using`` of it, it is the same."""
    before = _current.get()
    _current.set(real)
    connected = real.connect(reuse_if_open=True)
    try:
        yield
    finally:
        if connected:
            real.close()
        _current.set(before)


def path_in_use() -> str:
    """The file of the database in use."""
    return str(database.obj.database)


def rows(sql: str, *values: object) -> list[tuple[Any, ...]]:
    """What a query finds, for what every page asks: written out, it is not composed anew each time."""
    return list(database.execute_sql(sql, values).fetchall())


def marks(values: Sized) -> str:
    """As many question marks as there are values, for a list in a query."""
    return ", ".join("?" * len(values))


def migrate(until: str | None = None) -> list[str]:
    """Bring the schema up to date, or up to one migration; names of the migrations that ran."""
    return list(_runner().up(until))


def _runner() -> Any:
    # only to migrate: a server that starts on a database of its own version does without
    from playhouse.migrations import Runner

    return Runner(database.obj, str(MIGRATIONS))


@dataclass(frozen=True)
class Schema:
    """Which migrations a database lacks, and which it has that this version does not know. ``empty``: it has none."""

    empty: bool
    lacks: tuple[str, ...]
    unknown: tuple[str, ...]


def schema() -> Schema:
    """How the database in use stands to this version; asks only, changes nothing."""
    table = "SELECT count(*) FROM sqlite_master WHERE name = 'schema_migration'"
    if not database.execute_sql(table).fetchone()[0]:
        known: set[str] = set()
    else:
        known = {row[0] for row in database.execute_sql("SELECT name FROM schema_migration")}
    own = sorted(path.stem for path in MIGRATIONS.glob("[0-9]*.py"))
    return Schema(not known, tuple(n for n in own if n not in known), tuple(sorted(known - set(own))))


def schema_texts() -> dict[str, str]:
    """The statement that made each table, trigger and index of the database in use."""
    return dict(rows("SELECT name, sql FROM sqlite_master WHERE sql IS NOT NULL"))


def has_column(table: str, column: str) -> bool:
    return bool(rows("SELECT 1 FROM pragma_table_info(?) WHERE name = ?", table, column))


def holds_setting(path: str | Path, key: str, value: str) -> bool:
    """Has a database file a setting of this value? The file is only read; False for one that cannot be."""
    try:
        own = sqlite3.connect(f"{Path(path).absolute().as_uri()}?mode=ro", uri=True)
    except sqlite3.Error:
        return False
    try:
        found = own.execute("SELECT value FROM setting WHERE key = ?", (key,)).fetchone()
    except sqlite3.Error:
        return False
    finally:
        own.close()
    return bool(found is not None and found[0] == value)


def copy_to(path: Path) -> None:
    """A whole copy of the database in use, taken while others go on working; refuses to overwrite."""
    if path.exists():
        raise FileExistsError(path)
    target = sqlite3.connect(path)
    try:
        database.connection().backup(target)
    finally:
        target.close()


def copied_whole(source: Path, to: Path) -> str:
    """Copy a database file into another, while others may work on it; what SQLite finds wrong with either, empty when
    nothing is."""
    try:
        own, copy = sqlite3.connect(f"{source.absolute().as_uri()}?mode=ro", uri=True), sqlite3.connect(to)
        try:
            own.backup(copy)
            found = [str(row[0]) for row in copy.execute("PRAGMA integrity_check(3)")]
            found += [f"{row[0]} {row[1]}" for row in copy.execute("PRAGMA foreign_key_check")][:3]
        finally:
            own.close()
            copy.close()
    except sqlite3.Error as error:
        return str(error)
    return "" if found == ["ok"] else "; ".join(found)


def settle(path: Path) -> None:
    """One file, and on the disk: nothing of it waits in another."""
    own = sqlite3.connect(path)
    try:
        own.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        own.execute("PRAGMA journal_mode = DELETE")
    finally:
        own.close()
    with path.open("rb") as file:
        os.fsync(file.fileno())


@contextmanager
def transaction(patience_ms: int | None = None) -> Iterator[None]:
    """All or nothing. Readers are not blocked; a second writer waits, as long as this connection does or for so long.
    NotKept where nothing could be written: nothing of it is there then."""
    try:
        with _patience(patience_ms), database.atomic():
            yield
    except OperationalError as error:
        raise NotKept(str(error)) from error


@contextmanager
def _patience(wanted_ms: int | None) -> Iterator[None]:
    if wanted_ms is None:
        yield
        return
    ((before,),) = rows("PRAGMA busy_timeout")
    database.execute_sql(f"PRAGMA busy_timeout = {wanted_ms}")
    try:
        yield
    finally:
        database.execute_sql(f"PRAGMA busy_timeout = {before}")


@contextmanager
def snapshot() -> Iterator[None]:
    """Everything read meanwhile is of one moment; nothing is written."""
    with database.transaction("DEFERRED"):
        yield


def takes_entries() -> bool:
    """Within a transaction that is rolled back or changes nothing: does a write pass?"""
    database.execute_sql("DELETE FROM touched WHERE table_name = ''")
    return True


def changes() -> int:
    """Rows changed on this connection so far: grows with every write of one's own."""
    return int(database.connection().total_changes)


def in_transaction() -> bool:
    return bool(database.in_transaction())
