"""A password that somebody else has set is changed before anything else is done with the account."""

from typing import Any


def up(migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE person ADD COLUMN must_change INTEGER NOT NULL DEFAULT 0 CHECK (must_change IN (0, 1))")
