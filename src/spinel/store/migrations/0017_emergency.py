"""What is done in an emergency, by place: who is called, where things are. Each change is another row; the last
counts."""

from typing import Any

TABLE = """CREATE TABLE emergency_plan (
    id INTEGER PRIMARY KEY, location TEXT NOT NULL, content TEXT NOT NULL CHECK (json_valid(content)),
    at TEXT NOT NULL CHECK (at GLOB '????-??-??T??:??:??Z'), by TEXT NOT NULL) STRICT"""
#: Its columns in the order of their names.
NOTED = "at by content id location"


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    db.execute_sql("CREATE INDEX emergency_plan_location ON emergency_plan (location, id)")
    there = "SELECT 1 FROM touched WHERE table_name = 'emergency_plan' AND row_key = {0}.id"
    old = f"json_array({', '.join(f'OLD.{column}' for column in NOTED.split())})"
    for name, change, row, before in (
        ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
    ):  # fmt: skip
        note = f"INSERT INTO touched SELECT 'emergency_plan', {row}.id, {before} WHERE NOT EXISTS ({there.format(row)})"
        db.execute_sql(f"CREATE TRIGGER emergency_plan_noted_{name} AFTER {change} ON emergency_plan BEGIN {note}; END")
    for change in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER emergency_plan_no_{change.lower()} BEFORE {change} ON emergency_plan "
            "BEGIN SELECT RAISE(ABORT, 'emergency_plan is append-only'); END"
        )
