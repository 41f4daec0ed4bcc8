"""What would lower a risk at its source, kept until it is done or declined; and a setting of a device that somebody
sets for their work and puts back.

SQLite cannot alter a CHECK; its manual allows the text of the table to be rewritten where nothing stored changes, as
here, where all that was allowed before still is. (https://www.sqlite.org/lang_altertable.html, 7)
"""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
TABLE = f"""CREATE TABLE improvement (
    id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, element_id TEXT NOT NULL, content TEXT NOT NULL
    CHECK (json_valid(content)), job TEXT NOT NULL DEFAULT '', cost TEXT NOT NULL,
    owner_id INTEGER NOT NULL REFERENCES person(id), due TEXT NOT NULL CHECK (due GLOB '????-??-??'),
    state TEXT NOT NULL DEFAULT 'proposed' CHECK (state IN ('proposed', 'accepted', 'declined', 'done')),
    because TEXT NOT NULL DEFAULT '', version INTEGER NOT NULL DEFAULT 1,
    created_at TEXT NOT NULL {_UTC.format("created_at")}, changed_at TEXT NOT NULL {_UTC.format("changed_at")},
    changed_by TEXT NOT NULL) STRICT"""
#: Its columns in the order of their names.
NOTED = (
    "because changed_at changed_by content cost created_at due element_id id job number owner_id state version"
)  # fmt: skip
BEFORE, AFTER = "'found', 'corrected')", "'found', 'corrected', 'set')"


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    there = "SELECT 1 FROM touched WHERE table_name = 'improvement' AND row_key = {0}.id"
    old = f"json_array({', '.join(f'OLD.{column}' for column in NOTED.split())})"
    for name, change, row, before in (
        ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
    ):  # fmt: skip
        note = f"INSERT INTO touched SELECT 'improvement', {row}.id, {before} WHERE NOT EXISTS ({there.format(row)})"
        db.execute_sql(f"CREATE TRIGGER improvement_noted_{name} AFTER {change} ON improvement BEGIN {note}; END")
    version = db.execute_sql("PRAGMA schema_version").fetchone()[0]
    db.execute_sql("PRAGMA writable_schema = ON")
    db.execute_sql(
        "UPDATE sqlite_schema SET sql = replace(sql, ?, ?) WHERE type = 'table' AND name LIKE '%\\_event' ESCAPE '\\'",
        (BEFORE, AFTER),
    )
    db.execute_sql(f"PRAGMA schema_version = {version + 1}")
    db.execute_sql("PRAGMA writable_schema = OFF")
