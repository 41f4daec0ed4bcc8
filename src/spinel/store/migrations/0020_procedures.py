"""How this site goes about a class of equipment, and about one piece of it: each change is another row, the last
counts."""

from typing import Any

TABLE = """CREATE TABLE procedure (
    id INTEGER PRIMARY KEY, subject TEXT NOT NULL, content TEXT NOT NULL CHECK (json_valid(content)),
    at TEXT NOT NULL CHECK (at GLOB '????-??-??T??:??:??Z'), by TEXT NOT NULL, because TEXT NOT NULL) STRICT"""
#: Its columns in the order of their names.
NOTED = "at because by content id subject"


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    db.execute_sql("CREATE INDEX procedure_subject ON procedure (subject, id)")
    there = "SELECT 1 FROM touched WHERE table_name = 'procedure' AND row_key = {0}.id"
    old = f"json_array({', '.join(f'OLD.{column}' for column in NOTED.split())})"
    for name, change, row, before in (
        ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
    ):  # fmt: skip
        note = f"INSERT INTO touched SELECT 'procedure', {row}.id, {before} WHERE NOT EXISTS ({there.format(row)})"
        db.execute_sql(f"CREATE TRIGGER procedure_noted_{name} AFTER {change} ON procedure BEGIN {note}; END")
    for change in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER procedure_no_{change.lower()} BEFORE {change} ON procedure "
            "BEGIN SELECT RAISE(ABORT, 'procedure is append-only'); END"
        )
