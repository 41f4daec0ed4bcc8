"""Instruments that prove absence of voltage: number, kind, range, category, and why one is out of use."""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"

TABLE = f"""CREATE TABLE instrument (
    id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(number) BETWEEN 2 AND 40),
    kind TEXT NOT NULL CHECK (kind IN ('contact', 'low_impedance', 'detector')),
    low_v REAL NOT NULL CHECK (low_v > 0), high_v REAL NOT NULL CHECK (high_v >= low_v),
    category INTEGER NOT NULL CHECK (category IN (2, 3, 4)),
    ac INTEGER NOT NULL CHECK (ac IN (0, 1)), dc INTEGER NOT NULL CHECK (dc IN (0, 1)),
    barred TEXT NOT NULL DEFAULT '', version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
    changed_at TEXT NOT NULL {_UTC.format("changed_at")}, changed_by TEXT NOT NULL, CHECK (ac + dc > 0)) STRICT"""


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    db.execute_sql(
        "CREATE TRIGGER instrument_no_delete BEFORE DELETE ON instrument "
        "BEGIN SELECT RAISE(ABORT, 'an instrument is barred, never deleted'); END"
    )
    db.execute_sql(
        "CREATE TRIGGER instrument_fixed BEFORE UPDATE OF number, kind, low_v, high_v, category, ac, dc ON instrument "
        "BEGIN SELECT RAISE(ABORT, 'what an instrument is made for is fixed when it is added'); END"
    )
