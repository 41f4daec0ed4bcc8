"""One SQLite database in WAL mode. Every write transaction is BEGIN IMMEDIATE; a confirmed act survives power loss."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from peewee import DatabaseProxy, SqliteDatabase
from playhouse.migrations import Runner

database: DatabaseProxy = DatabaseProxy()
MIGRATIONS = Path(__file__).with_name("migrations")


def connect(path: str | Path) -> SqliteDatabase:
    """Bind all models to the database file (made with its folder when absent). No ``:memory:``: each of its
    connections would be a database of its own."""
    Path(path).parent.mkdir(parents=True, exist_ok=True)
    real = SqliteDatabase(
        str(path),
        lock_type="IMMEDIATE",
        timeout=10,
        pragmas={"journal_mode": "wal", "synchronous": "full", "foreign_keys": 1, "busy_timeout": 10_000},
    )
    database.initialize(real)
    return real


def migrate() -> list[str]:
    """Bring the schema up to date; names of the migrations that ran."""
    return list(Runner(database.obj, str(MIGRATIONS)).up())


@contextmanager
def transaction() -> Iterator[None]:
    """All or nothing. Readers are not blocked; a second writer waits."""
    with database.atomic():
        yield


@contextmanager
def connection() -> Iterator[None]:
    """A connection for the length of a request or a command; inside another one it is the same."""
    opened = database.connect(reuse_if_open=True)
    try:
        yield
    finally:
        if opened:
            database.close()
