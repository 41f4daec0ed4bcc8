"""The register tells whose people they are and how a qualification was shown; shared tablets, short and one-time
codes, and the hazards exchanged with others who come.

What was shown is only ever added to. A short code and the secret of one-time codes are empty until they are made.
"""

from typing import Any

PERSON = (
    "employer TEXT NOT NULL DEFAULT 'own' CHECK (employer IN ('own', 'contractor', 'visitor'))",
    "company TEXT NOT NULL DEFAULT ''",
    "trade TEXT NOT NULL DEFAULT ''",
    "languages TEXT NOT NULL DEFAULT ''",
    "code_hash TEXT NOT NULL DEFAULT ''",
    "otp TEXT NOT NULL DEFAULT ''",
)
_DAY = "CHECK ({0} GLOB '????-??-??')"
_DAY_OR_NONE = "DEFAULT '' CHECK ({0} = '' OR {0} GLOB '????-??-??')"
_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
TABLES = (
    f"""CREATE TABLE training (
        id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES person(id), course TEXT NOT NULL,
        task_id TEXT NOT NULL DEFAULT '', equipment_class TEXT NOT NULL DEFAULT '', how TEXT NOT NULL
        CHECK (how IN ('trained', 'supervised', 'observed', 'tested')), day TEXT NOT NULL {_DAY.format("day")},
        until TEXT NOT NULL {_DAY_OR_NONE.format("until")}, seen_by TEXT NOT NULL, note TEXT NOT NULL DEFAULT '',
        evidence TEXT NOT NULL DEFAULT '', at TEXT NOT NULL {_UTC.format("at")}) STRICT""",
    "CREATE INDEX training_person ON training (person_id, course)",
    f"""CREATE TABLE tablet (
        id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE CHECK (length(name) BETWEEN 2 AND 80),
        token_hash TEXT NOT NULL UNIQUE, made_at TEXT NOT NULL {_UTC.format("made_at")},
        ended_at TEXT CHECK (ended_at IS NULL OR ended_at GLOB '????-??-??T??:??:??Z')) STRICT""",
    f"""CREATE TABLE exchange (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, company TEXT NOT NULL, work TEXT NOT NULL,
        job TEXT NOT NULL DEFAULT '', told TEXT NOT NULL, heard TEXT NOT NULL DEFAULT '',
        bring TEXT NOT NULL DEFAULT '',
        from_day TEXT NOT NULL {_DAY.format("from_day")}, until TEXT NOT NULL {_DAY.format("until")},
        host_id INTEGER NOT NULL REFERENCES person(id), guest_id INTEGER NOT NULL REFERENCES person(id),
        state TEXT NOT NULL DEFAULT 'offered' CHECK (state IN ('offered', 'signed', 'ended')),
        signed_at TEXT CHECK (signed_at IS NULL OR signed_at GLOB '????-??-??T??:??:??Z'),
        version INTEGER NOT NULL DEFAULT 1, changed_at TEXT NOT NULL {_UTC.format("changed_at")},
        changed_by TEXT NOT NULL, CHECK (host_id <> guest_id)) STRICT""",
)
#: What names a row, and its columns in the order of their names.
NOTED = {
    "person": "active code_hash company created_at employer id languages login must_change name otp password_hash phone"
    " trade",
    "qualification": "equipment_class id person_id since task_id until",
    "training": "at course day equipment_class evidence how id note person_id seen_by task_id until",
    "tablet": "ended_at id made_at name token_hash",
    "exchange": "bring changed_at changed_by company from_day guest_id heard host_id id job number signed_at state told"
    " until version work",
}  # fmt: skip


def _note(table: str, row: str, before: str) -> str:
    there = f"SELECT 1 FROM touched WHERE table_name = '{table}' AND row_key = {row}.id"
    return f"INSERT INTO touched SELECT '{table}', {row}.id, {before} WHERE NOT EXISTS ({there})"


def _noted(db: Any, table: str, columns: list[str]) -> None:
    for change in ("new", "changed", "gone"):
        db.execute_sql(f"DROP TRIGGER IF EXISTS {table}_noted_{change}")
    old = f"json_array({', '.join(f'OLD.{column}' for column in columns)})"
    for name, change, row, before in (
        ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
    ):  # fmt: skip
        db.execute_sql(
            f"CREATE TRIGGER {table}_noted_{name} AFTER {change} ON {table} BEGIN {_note(table, row, before)}; END"
        )


def up(migrator: Any, db: Any) -> None:
    for column in PERSON:
        db.execute_sql(f"ALTER TABLE person ADD COLUMN {column}")
    db.execute_sql(f"ALTER TABLE qualification ADD COLUMN since TEXT NOT NULL {_DAY_OR_NONE.format('since')}")
    for statement in TABLES:
        db.execute_sql(statement)
    for change in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER training_no_{change.lower()} BEFORE {change} ON training "
            "BEGIN SELECT RAISE(ABORT, 'training is append-only'); END"
        )
    db.execute_sql(
        "CREATE TRIGGER training_no_replace BEFORE INSERT ON training "
        "WHEN EXISTS (SELECT 1 FROM training WHERE id = NEW.id) "
        "BEGIN SELECT RAISE(ABORT, 'training is append-only'); END"
    )
    for table, columns in NOTED.items():
        _noted(db, table, columns.split())
