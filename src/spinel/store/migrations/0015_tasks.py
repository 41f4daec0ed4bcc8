"""The task library of a site: its own words for shipped tasks, tasks of its own, and which may be done live; each in
versions, of which a job keeps the one that it used."""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
TABLE = f"""CREATE TABLE task_version (
    id INTEGER PRIMARY KEY, task_id TEXT NOT NULL, number INTEGER NOT NULL CHECK (number > 0), like TEXT NOT NULL,
    content TEXT NOT NULL CHECK (json_valid(content)), live INTEGER NOT NULL CHECK (live IN (0, 1)),
    at TEXT NOT NULL {_UTC.format("at")}, by TEXT NOT NULL, because TEXT NOT NULL, UNIQUE (task_id, number)) STRICT"""
#: What names a row, and its columns in the order of their names.
NOTED = {
    "task_version": "at because by content id like live number task_id",
    "job": "changed_at changed_by circuit_changed created_at element_id facts id justification learnt not_planned "
    "number outcome requested_by state statement task_id task_version title touches version",
}


def _note(table: str, row: str, before: str) -> str:
    there = f"SELECT 1 FROM touched WHERE table_name = '{table}' AND row_key = {row}.id"
    return f"INSERT INTO touched SELECT '{table}', {row}.id, {before} WHERE NOT EXISTS ({there})"


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    db.execute_sql("ALTER TABLE job ADD COLUMN task_version INTEGER NOT NULL DEFAULT 0 CHECK (task_version >= 0)")
    # what was found otherwise than planned, until the job is answered anew
    db.execute_sql("ALTER TABLE job ADD COLUMN not_planned TEXT NOT NULL DEFAULT ''")
    for table, names in NOTED.items():
        for change in ("new", "changed", "gone"):
            db.execute_sql(f"DROP TRIGGER IF EXISTS {table}_noted_{change}")
        old = f"json_array({', '.join(f'OLD.{column}' for column in names.split())})"
        for name, change, row, before in (
            ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
        ):  # fmt: skip
            db.execute_sql(
                f"CREATE TRIGGER {table}_noted_{name} AFTER {change} ON {table} BEGIN {_note(table, row, before)}; END"
            )
    for change in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER task_version_no_{change.lower()} BEFORE {change} ON task_version "
            "BEGIN SELECT RAISE(ABORT, 'a version of a task is fixed'); END"
        )
