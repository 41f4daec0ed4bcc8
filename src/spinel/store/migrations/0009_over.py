"""That a permit has run out is written down when it is first seen, and stays: a clock set back revives nothing."""

from typing import Any

COLUMN = "over INTEGER NOT NULL DEFAULT 0 CHECK (over IN (0, 1))"
SEEN = """UPDATE permit SET over = 1
    WHERE EXISTS (SELECT 1 FROM ledger WHERE act = 'permit expired' AND subject = 'permit:' || number)"""
STAYS = """CREATE TRIGGER permit_over BEFORE UPDATE OF over ON permit WHEN OLD.over = 1 AND NEW.over = 0
    BEGIN SELECT RAISE(ABORT, 'what has run out never runs again'); END"""


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(f"ALTER TABLE permit ADD COLUMN {COLUMN}")
    db.execute_sql(SEEN)
    db.execute_sql(STAYS)
