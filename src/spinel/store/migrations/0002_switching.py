"""Switching programs, what is recorded on them, and the events of practice runs, which live apart.

Field events learn the hold, the test or grounding point, and their detail. Columns are added, no table is rebuilt.
"""

from typing import Any

EVENT_KINDS = (
    "opened", "closed", "withdrawn", "inserted", "checked", "locked", "unlocked", "tagged", "untagged", "tested",
    "tried", "grounded", "ungrounded", "discharged", "blocked", "unblocked", "released", "notified", "started",
    "stopped", "found", "corrected",
)  # fmt: skip
STATES = ("draft", "checked", "released", "executing", "stopped", "done", "abandoned")

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"


def _one_of(column: str, values: tuple[str, ...]) -> str:
    return f"CHECK ({column} IN ({', '.join(repr(v) for v in values)}))"


def _utc(column: str) -> str:
    return f"{column} TEXT NOT NULL {_UTC.format(column)}"


EVENT_COLUMNS = (
    "hold TEXT NOT NULL DEFAULT ''",
    "node_id TEXT NOT NULL DEFAULT ''",
    "detail TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(detail))",
)

TABLES = [
    f"""CREATE TABLE program (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, job_id INTEGER NOT NULL REFERENCES job(id),
        purpose TEXT NOT NULL CHECK (purpose IN ('isolation', 'restoration')), hold TEXT NOT NULL,
        practice INTEGER NOT NULL DEFAULT 0 CHECK (practice IN (0, 1)), follows TEXT NOT NULL DEFAULT '',
        state TEXT NOT NULL DEFAULT 'draft' {_one_of("state", STATES)},
        content TEXT NOT NULL CHECK (json_valid(content)), content_hash TEXT NOT NULL CHECK (length(content_hash) = 64),
        origin_event INTEGER NOT NULL CHECK (origin_event >= 0), base_event INTEGER NOT NULL CHECK (base_event >= 0),
        step INTEGER NOT NULL DEFAULT 0 CHECK (step >= 0), director_id INTEGER REFERENCES person(id),
        operator_id INTEGER REFERENCES person(id), in_charge_id INTEGER REFERENCES person(id),
        stopped_because TEXT NOT NULL DEFAULT '', faults TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(faults)),
        version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0), requested_by INTEGER NOT NULL REFERENCES person(id),
        {_utc("created_at")}, {_utc("changed_at")}, changed_by TEXT NOT NULL,
        CHECK (state <> 'stopped' OR stopped_because <> ''),
        CHECK (state <> 'executing' OR (director_id IS NOT NULL AND operator_id IS NOT NULL))) STRICT""",
    "CREATE INDEX program_state ON program (state)",
    "CREATE INDEX program_hold ON program (hold)",
    "CREATE INDEX program_job ON program (job_id)",
    f"""CREATE TABLE program_record (
        id INTEGER PRIMARY KEY, program_id INTEGER NOT NULL REFERENCES program(id),
        kind TEXT NOT NULL, person_id INTEGER REFERENCES person(id), person_name TEXT NOT NULL,
        content_hash TEXT NOT NULL, detail TEXT NOT NULL DEFAULT '{{}}' CHECK (json_valid(detail)),
        {_utc("at")}) STRICT""",
    "CREATE INDEX program_record_program ON program_record (program_id)",
    "CREATE INDEX program_record_kind ON program_record (kind)",
    f"""CREATE TABLE practice_event (
        id INTEGER PRIMARY KEY, program_id INTEGER NOT NULL REFERENCES program(id), {_utc("at")}, actor TEXT NOT NULL,
        kind TEXT NOT NULL {_one_of("kind", EVENT_KINDS)}, element_id TEXT NOT NULL, value TEXT NOT NULL DEFAULT '',
        note TEXT NOT NULL DEFAULT '', {", ".join(EVENT_COLUMNS)}) STRICT""",
    "CREATE INDEX practice_event_program ON practice_event (program_id)",
]
#: What was released keeps its steps for ever; practice, purpose and hold are fixed when it is drafted.
FROZEN = """CREATE TRIGGER program_frozen BEFORE UPDATE OF content, content_hash ON program
    WHEN OLD.state IN ('executing', 'stopped', 'done', 'abandoned')
         AND (OLD.content <> NEW.content OR OLD.content_hash <> NEW.content_hash)
    BEGIN SELECT RAISE(ABORT, 'a program that was started is never edited'); END"""
FIXED = """CREATE TRIGGER program_fixed BEFORE UPDATE OF practice, purpose, hold, number, job_id ON program
    WHEN OLD.practice <> NEW.practice OR OLD.purpose <> NEW.purpose OR OLD.hold <> NEW.hold
         OR OLD.number <> NEW.number OR OLD.job_id <> NEW.job_id
    BEGIN SELECT RAISE(ABORT, 'fixed when the program was drafted'); END"""


def up(migrator: Any, db: Any) -> None:
    for column in EVENT_COLUMNS:
        db.execute_sql(f"ALTER TABLE field_event ADD COLUMN {column}")
    for statement in (*TABLES, FROZEN, FIXED):
        db.execute_sql(statement)
    for table in ("program_record", "practice_event"):
        for change in ("UPDATE", "DELETE"):
            db.execute_sql(
                f"CREATE TRIGGER {table}_no_{change.lower()} BEFORE {change} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
            )
    db.execute_sql(
        "CREATE TRIGGER program_no_delete BEFORE DELETE ON program "
        "BEGIN SELECT RAISE(ABORT, 'a program is never deleted'); END"
    )
