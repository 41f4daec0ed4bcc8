"""Drafts of the network that people build in the browser: every state that one was in, so that undo has no end. A draft
that ended keeps its last state alone. What belongs to a piece of equipment: pictures, documents, links, upkeep.
"""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
TABLES = (
    f"""CREATE TABLE network_draft (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, base TEXT NOT NULL DEFAULT '',
        at_step INTEGER NOT NULL CHECK (at_step >= 0),
        state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'published', 'discarded')),
        answers TEXT NOT NULL DEFAULT '{{}}' CHECK (json_valid(answers)),
        faults TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(faults)),
        made_by_id INTEGER NOT NULL REFERENCES person(id), made_at TEXT NOT NULL {_UTC.format("made_at")},
        version INTEGER NOT NULL DEFAULT 1, changed_at TEXT NOT NULL {_UTC.format("changed_at")},
        changed_by TEXT NOT NULL) STRICT""",
    f"""CREATE TABLE draft_step (
        id INTEGER PRIMARY KEY, draft_id INTEGER NOT NULL REFERENCES network_draft(id),
        number INTEGER NOT NULL CHECK (number >= 0), what TEXT NOT NULL, by TEXT NOT NULL,
        at TEXT NOT NULL {_UTC.format("at")}, hash TEXT NOT NULL CHECK (length(hash) = 64), document TEXT NOT NULL,
        UNIQUE (draft_id, number)) STRICT""",
    f"""CREATE TABLE attachment (
        id INTEGER PRIMARY KEY, element_id TEXT NOT NULL, title TEXT NOT NULL, file TEXT NOT NULL DEFAULT '',
        link TEXT NOT NULL DEFAULT '', at TEXT NOT NULL {_UTC.format("at")}, by TEXT NOT NULL,
        gone INTEGER NOT NULL DEFAULT 0 CHECK (gone IN (0, 1)), CHECK ((file = '') <> (link = ''))) STRICT""",
    "CREATE INDEX attachment_element ON attachment (element_id)",
    f"""CREATE TABLE maintenance (
        id INTEGER PRIMARY KEY, element_id TEXT NOT NULL, day TEXT NOT NULL CHECK (day GLOB '????-??-??'),
        what TEXT NOT NULL, done_by TEXT NOT NULL, result TEXT NOT NULL
        CHECK (result IN ('good', 'minor', 'failed')), due TEXT NOT NULL DEFAULT ''
        CHECK (due = '' OR due GLOB '????-??-??'), note TEXT NOT NULL DEFAULT '',
        at TEXT NOT NULL {_UTC.format("at")}, by TEXT NOT NULL) STRICT""",
    "CREATE INDEX maintenance_element ON maintenance (element_id, day)",
)
#: What names a row, and its columns in the order of their names.
NOTED = {
    "network_draft": "answers at_step base changed_at changed_by faults id made_at made_by_id number state version",
    "draft_step": "at by document draft_id hash id number what",
    "attachment": "at by element_id file gone id link title",
    "maintenance": "at by day done_by due element_id id note result what",
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
            f"CREATE TRIGGER maintenance_no_{change.lower()} BEFORE {change} ON maintenance "
            "BEGIN SELECT RAISE(ABORT, 'maintenance is append-only'); END"
        )
