"""The first tables: people, network revisions, field events, jobs, permits and the ledger.

Hand-written SQL: peewee's table helpers lose STRICT and triggers when they rebuild a table. Append-only tables
refuse update and delete by trigger, so that no later code can change a record quietly.

A migration stands on its own: what it allowed is written here and never changes, whatever the code allows later.
"""

from typing import Any

EVENT_KINDS = (
    "opened", "closed", "withdrawn", "inserted", "checked", "locked", "unlocked", "tagged", "untagged", "tested",
    "tried", "grounded", "ungrounded", "discharged", "blocked", "unblocked", "released", "notified", "started",
    "stopped", "found", "corrected",
)  # fmt: skip
ROLES = (
    "coordinator", "authoriser", "person_in_charge", "director", "operator", "worker", "attendant", "reader",
)  # fmt: skip
JUSTIFICATIONS = (
    "none", "added_hazard", "infeasible", "needs_voltage", "production", "convenience", "cost", "unknown_load",
)  # fmt: skip
STATES = (
    "draft", "submitted", "approved", "issued", "in_force", "suspended", "handed_back", "closed", "refused",
    "cancelled",
)  # fmt: skip


def _one_of(column: str, values: tuple[str, ...]) -> str:
    return f"CHECK ({column} IN ({', '.join(repr(v) for v in values)}))"


_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"


def _utc(column: str, null: bool = False) -> str:
    return f"{column} TEXT {'' if null else 'NOT NULL '}{_UTC.format(column)}"


TABLES = [
    f"""CREATE TABLE person (
        id INTEGER PRIMARY KEY, login TEXT NOT NULL UNIQUE CHECK (length(login) BETWEEN 2 AND 40),
        name TEXT NOT NULL CHECK (length(name) BETWEEN 2 AND 80), phone TEXT NOT NULL DEFAULT '',
        password_hash TEXT NOT NULL, active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1)),
        {_utc("created_at")}) STRICT""",
    f"""CREATE TABLE person_role (
        person_id INTEGER NOT NULL REFERENCES person(id), role TEXT NOT NULL {_one_of("role", ROLES)},
        PRIMARY KEY (person_id, role)) STRICT""",
    """CREATE TABLE qualification (
        id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES person(id), task_id TEXT NOT NULL,
        equipment_class TEXT NOT NULL, until TEXT NOT NULL CHECK (until GLOB '????-??-??'),
        UNIQUE (person_id, task_id, equipment_class)) STRICT""",
    f"""CREATE TABLE sign_in_attempt (
        id INTEGER PRIMARY KEY, login TEXT NOT NULL, address TEXT NOT NULL,
        succeeded INTEGER NOT NULL CHECK (succeeded IN (0, 1)), {_utc("at")}) STRICT""",
    "CREATE INDEX sign_in_attempt_login ON sign_in_attempt (login, at)",
    "CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL CHECK (json_valid(value))) STRICT",
    f"""CREATE TABLE revision (
        hash TEXT PRIMARY KEY CHECK (length(hash) = 64), number INTEGER NOT NULL UNIQUE CHECK (number > 0),
        document TEXT NOT NULL CHECK (json_valid(document)), published_by TEXT NOT NULL,
        {_utc("published_at")}) STRICT""",
    f"""CREATE TABLE field_event (
        id INTEGER PRIMARY KEY, {_utc("at")}, actor TEXT NOT NULL,
        kind TEXT NOT NULL {_one_of("kind", EVENT_KINDS)}, element_id TEXT NOT NULL, value TEXT NOT NULL DEFAULT '',
        note TEXT NOT NULL DEFAULT '') STRICT""",
    f"""CREATE TABLE job (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE,
        title TEXT NOT NULL CHECK (length(title) BETWEEN 4 AND 120),
        element_id TEXT NOT NULL, task_id TEXT NOT NULL, touches TEXT NOT NULL,
        facts TEXT NOT NULL DEFAULT '{{}}' CHECK (json_valid(facts)),
        justification TEXT NOT NULL DEFAULT 'none' {_one_of("justification", JUSTIFICATIONS)},
        statement TEXT NOT NULL DEFAULT '' CHECK (length(statement) <= 2000),
        state TEXT NOT NULL DEFAULT 'open' {_one_of("state", ("open", "closed", "cancelled"))},
        outcome TEXT NOT NULL DEFAULT '', learnt TEXT NOT NULL DEFAULT '',
        circuit_changed TEXT NOT NULL DEFAULT '' {_one_of("circuit_changed", ("", "yes", "no"))},
        version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0), requested_by INTEGER NOT NULL REFERENCES person(id),
        {_utc("created_at")}, {_utc("changed_at")}, changed_by TEXT NOT NULL) STRICT""",
    f"""CREATE TABLE permit (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, job_id INTEGER NOT NULL REFERENCES job(id),
        state TEXT NOT NULL DEFAULT 'draft' {_one_of("state", STATES)},
        draft INTEGER NOT NULL DEFAULT 1 CHECK (draft > 0), content TEXT NOT NULL CHECK (json_valid(content)),
        content_hash TEXT NOT NULL CHECK (length(content_hash) = 64),
        {_utc("window_start")}, {_utc("window_end")}, suspended_because TEXT NOT NULL DEFAULT '',
        version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0), requested_by INTEGER NOT NULL REFERENCES person(id),
        {_utc("created_at")}, {_utc("changed_at")}, changed_by TEXT NOT NULL,
        CHECK (window_end > window_start),
        CHECK (state <> 'suspended' OR suspended_because <> '')) STRICT""",
    "CREATE INDEX permit_state ON permit (state)",
    f"""CREATE TABLE permit_record (
        id INTEGER PRIMARY KEY, permit_id INTEGER NOT NULL REFERENCES permit(id),
        kind TEXT NOT NULL, person_id INTEGER REFERENCES person(id), person_name TEXT NOT NULL,
        content_hash TEXT NOT NULL, detail TEXT NOT NULL DEFAULT '{{}}' CHECK (json_valid(detail)),
        {_utc("at")}) STRICT""",
    "CREATE INDEX permit_record_permit ON permit_record (permit_id)",
    f"""CREATE TABLE ledger (
        seq INTEGER PRIMARY KEY CHECK (seq > 0), {_utc("at")}, actor TEXT NOT NULL, act TEXT NOT NULL,
        subject TEXT NOT NULL, payload TEXT NOT NULL CHECK (json_valid(payload)),
        request_id TEXT UNIQUE, previous_hash TEXT NOT NULL, hash TEXT NOT NULL UNIQUE) STRICT""",
    "CREATE INDEX ledger_subject ON ledger (subject)",
    "CREATE INDEX ledger_act ON ledger (act)",
]

APPEND_ONLY = ("ledger", "field_event", "revision", "permit_record")
#: A permit that has been issued keeps its content for ever.
FROZEN = """CREATE TRIGGER permit_frozen BEFORE UPDATE OF content, content_hash, draft ON permit
    WHEN OLD.state NOT IN ('draft', 'submitted', 'approved')
         AND (OLD.content <> NEW.content OR OLD.content_hash <> NEW.content_hash OR OLD.draft <> NEW.draft)
    BEGIN SELECT RAISE(ABORT, 'an issued permit is never edited'); END"""


def up(migrator: Any, db: Any) -> None:
    for statement in TABLES:
        db.execute_sql(statement)
    for table in APPEND_ONLY:
        for change in ("UPDATE", "DELETE"):
            db.execute_sql(
                f"CREATE TRIGGER {table}_no_{change.lower()} BEFORE {change} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{table} is append-only'); END"
            )
    db.execute_sql(FROZEN)
    db.execute_sql(
        "CREATE TRIGGER permit_no_delete BEFORE DELETE ON permit "
        "BEGIN SELECT RAISE(ABORT, 'a permit is never deleted'); END"
    )
