"""Entries of the ledger carry digests of the rows that their act wrote, and a keyed code; nothing takes a row's place.

Triggers note each row that is written, with what stood in it before. ``wrote`` and ``mac`` are empty for what was
entered before. The key that signed sessions leaves the database, and so does who tried to sign in: neither is part of
the record.
"""

from typing import Any

#: Every table of the record: what names a row, and its columns in the order of their names.
TABLES = {
    "person": ("id", "active created_at id login must_change name password_hash phone"),
    "person_role": ("person_id || ' ' || role", "person_id role"),
    "qualification": ("id", "equipment_class id person_id task_id until"),
    "setting": ("key", "key value"),
    "revision": ("hash", "document hash number published_at published_by"),
    "field_event": ("id", "actor at detail element_id hold id kind node_id note value"),
    "job": (
        "id",
        "changed_at changed_by circuit_changed created_at element_id facts id justification learnt number outcome"
        " requested_by state statement task_id title touches version",
    ),
    "permit": (
        "id",
        "changed_at changed_by content content_hash created_at draft id job_id number over requested_by state"
        " suspended_because version window_end window_start",
    ),
    "permit_record": ("id", "at content_hash detail id kind permit_id person_id person_name"),
    "program": (
        "id",
        "base_event changed_at changed_by content content_hash created_at director_id faults follows hold id"
        " in_charge_id job_id number operator_id origin_event practice purpose requested_by state step stopped_because"
        " version",
    ),
    "program_record": ("id", "at content_hash detail id kind person_id person_name program_id"),
    "practice_event": ("id", "actor at detail element_id hold id kind node_id note program_id value"),
    "instrument": ("id", "ac barred category changed_at changed_by dc high_v id kind low_v number version"),
    "box": ("hold", "complete completed_by element_id hold in_charge_id taken_at taken_by"),
    "hung": (
        "id",
        "absent element_id freed gone_at gone_by hold id kind node_id number others owner part person_id practice since"
        " unsure",
    ),
}
#: What is only ever added to, and what makes a row the same: `INSERT OR REPLACE` asks no trigger that forbids deleting.
ADDED_ONLY = {
    "ledger": ("seq", "hash", "request_id"), "field_event": ("id",), "revision": ("hash", "number"),
    "permit_record": ("id",), "program_record": ("id",), "practice_event": ("id",), "permit": ("id", "number"),
    "program": ("id", "number"),
}  # fmt: skip
TOUCHED = """CREATE TABLE touched (table_name TEXT NOT NULL, row_key TEXT NOT NULL, before TEXT,
    PRIMARY KEY (table_name, row_key)) WITHOUT ROWID, STRICT"""


def _noted(table: str, key: str, columns: list[str]) -> list[str]:
    def named(row: str) -> str:
        return " || ' ' || ".join(f"{row}.{part}" for part in key.split(" || ' ' || "))

    old = f"json_array({', '.join(f'OLD.{column}' for column in columns)})"

    def note(row: str, before: str) -> str:
        # not INSERT OR IGNORE: what the statement that fires a trigger does on a conflict, its own statements do too
        there = f"SELECT 1 FROM touched WHERE table_name = '{table}' AND row_key = {named(row)}"
        return f"INSERT INTO touched SELECT '{table}', {named(row)}, {before} WHERE NOT EXISTS ({there})"

    moved = f"{note('NEW', 'NULL')};" if key != "id" else ""
    return [
        f"CREATE TRIGGER {table}_noted_new AFTER INSERT ON {table} BEGIN {note('NEW', 'NULL')}; END",
        f"CREATE TRIGGER {table}_noted_changed AFTER UPDATE ON {table} BEGIN {note('OLD', old)}; {moved} END",
        f"CREATE TRIGGER {table}_noted_gone AFTER DELETE ON {table} BEGIN {note('OLD', old)}; END",
    ]


def up(migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE ledger ADD COLUMN wrote TEXT CHECK (wrote IS NULL OR json_valid(wrote))")
    db.execute_sql("ALTER TABLE ledger ADD COLUMN mac TEXT")
    db.execute_sql("CREATE INDEX ledger_at ON ledger (at)")
    db.execute_sql("DROP TABLE sign_in_attempt")
    db.execute_sql("DELETE FROM setting WHERE key = 'session_key'")
    db.execute_sql(TOUCHED)
    db.execute_sql("CREATE TRIGGER ledger_closes_notes AFTER INSERT ON ledger BEGIN DELETE FROM touched; END")
    for table, unique in ADDED_ONLY.items():
        same = " OR ".join(f"{column} = NEW.{column}" for column in unique)
        db.execute_sql(
            f"CREATE TRIGGER {table}_no_replace BEFORE INSERT ON {table} "
            f"WHEN EXISTS (SELECT 1 FROM {table} WHERE {same}) BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
        )
    for table, (key, columns) in TABLES.items():
        for trigger in _noted(table, key, columns.split()):
            db.execute_sql(trigger)
