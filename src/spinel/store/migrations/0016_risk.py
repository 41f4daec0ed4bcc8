"""Assessments of a job's risk: what several people saw, each alone, and what they agreed. An opinion that was given is
never changed."""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
TABLES = (
    f"""CREATE TABLE assessment (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, job_id INTEGER NOT NULL REFERENCES job(id),
        state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'opened', 'agreed', 'left')),
        content TEXT NOT NULL CHECK (json_valid(content)), content_hash TEXT NOT NULL CHECK (length(content_hash) = 64),
        asked TEXT NOT NULL CHECK (json_valid(asked)), because TEXT NOT NULL DEFAULT '',
        agreed TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(agreed)),
        agreed_by TEXT NOT NULL DEFAULT '', agreed_at TEXT NOT NULL DEFAULT '',
        requested_by INTEGER NOT NULL REFERENCES person(id), version INTEGER NOT NULL DEFAULT 1,
        changed_at TEXT NOT NULL {_UTC.format("changed_at")}, changed_by TEXT NOT NULL) STRICT""",
    "CREATE INDEX assessment_job ON assessment (job_id, id)",
    f"""CREATE TABLE opinion (
        id INTEGER PRIMARY KEY, assessment_id INTEGER NOT NULL REFERENCES assessment(id),
        person_id INTEGER NOT NULL REFERENCES person(id), person_name TEXT NOT NULL,
        marks TEXT NOT NULL CHECK (json_valid(marks)), at TEXT NOT NULL {_UTC.format("at")},
        UNIQUE (assessment_id, person_id)) STRICT""",
)
#: What names a row, and its columns in the order of their names.
NOTED = {
    "assessment": "agreed agreed_at agreed_by asked because changed_at changed_by content content_hash id job_id "
    "number requested_by state version",
    "opinion": "assessment_id at id marks person_id person_name",
}


def _note(table: str, row: str, before: str) -> str:
    there = f"SELECT 1 FROM touched WHERE table_name = '{table}' AND row_key = {row}.id"
    return f"INSERT INTO touched SELECT '{table}', {row}.id, {before} WHERE NOT EXISTS ({there})"


def up(migrator: Any, db: Any) -> None:
    for statement in TABLES:
        db.execute_sql(statement)
    for table, names in NOTED.items():
        old = f"json_array({', '.join(f'OLD.{column}' for column in names.split())})"
        for name, change, row, before in (
            ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
        ):  # fmt: skip
            db.execute_sql(
                f"CREATE TRIGGER {table}_noted_{name} AFTER {change} ON {table} BEGIN {_note(table, row, before)}; END"
            )
    for change in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER opinion_no_{change.lower()} BEFORE {change} ON opinion "
            "BEGIN SELECT RAISE(ABORT, 'an opinion that was given is fixed'); END"
        )
