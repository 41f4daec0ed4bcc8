"""Studies that were run, each with its result by the hash of its content; what was assigned of their findings; and the
labels that were printed or found, with what happened to each. A result, and what happened to a label, is never
changed."""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
_MAYBE = "CHECK ({0} = '' OR {0} GLOB '????-??-??T??:??:??Z')"
TABLES = (
    """CREATE TABLE study_result (
        hash TEXT PRIMARY KEY CHECK (length(hash) = 64), content TEXT NOT NULL CHECK (json_valid(content))) STRICT""",
    f"""CREATE TABLE study_run (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, revision INTEGER NOT NULL DEFAULT 0,
        draft TEXT NOT NULL DEFAULT '', document_hash TEXT NOT NULL CHECK (length(document_hash) = 64),
        document TEXT NOT NULL DEFAULT '', ceiling_cal_cm2 REAL NOT NULL, method TEXT NOT NULL,
        state TEXT NOT NULL DEFAULT 'asked' CHECK (state IN ('asked', 'done', 'cancelled', 'failed')),
        result_hash TEXT NOT NULL DEFAULT '', because TEXT NOT NULL DEFAULT '',
        asked_at TEXT NOT NULL {_UTC.format("asked_at")}, asked_by TEXT NOT NULL,
        done_at TEXT NOT NULL DEFAULT '' {_MAYBE.format("done_at")},
        signed_at TEXT NOT NULL DEFAULT '' {_MAYBE.format("signed_at")}, signed_by TEXT NOT NULL DEFAULT '',
        licence TEXT NOT NULL DEFAULT '', version INTEGER NOT NULL DEFAULT 1,
        CHECK ((state = 'done') = (result_hash <> '')), CHECK (signed_at = '' OR state = 'done')) STRICT""",
    f"""CREATE TABLE finding (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, name TEXT NOT NULL UNIQUE,
        content TEXT NOT NULL CHECK (json_valid(content)), owner_id INTEGER NOT NULL REFERENCES person(id),
        due TEXT NOT NULL CHECK (due GLOB '????-??-??'),
        state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'mended', 'accepted')),
        closed_in TEXT NOT NULL DEFAULT '', energy_cal_cm2 REAL, note TEXT NOT NULL DEFAULT '',
        version INTEGER NOT NULL DEFAULT 1, created_at TEXT NOT NULL {_UTC.format("created_at")},
        changed_at TEXT NOT NULL {_UTC.format("changed_at")}, changed_by TEXT NOT NULL) STRICT""",
    f"""CREATE TABLE label (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, element_id TEXT NOT NULL, touches TEXT NOT NULL,
        origin TEXT NOT NULL CHECK (origin IN ('printed', 'found')),
        state TEXT NOT NULL CHECK (state IN ('printed', 'hung', 'removed')),
        place TEXT NOT NULL DEFAULT '', content TEXT NOT NULL CHECK (json_valid(content)),
        content_hash TEXT NOT NULL CHECK (length(content_hash) = 64), replaced_by TEXT NOT NULL DEFAULT '',
        version INTEGER NOT NULL DEFAULT 1, created_at TEXT NOT NULL {_UTC.format("created_at")},
        created_by TEXT NOT NULL) STRICT""",
    "CREATE INDEX label_element ON label (element_id, id)",
    f"""CREATE TABLE label_event (
        id INTEGER PRIMARY KEY, label_id INTEGER NOT NULL REFERENCES label(id),
        kind TEXT NOT NULL CHECK (kind IN ('printed', 'found', 'hung', 'seen', 'not_seen', 'removed')),
        at TEXT NOT NULL {_UTC.format("at")}, by TEXT NOT NULL, place TEXT NOT NULL DEFAULT '',
        note TEXT NOT NULL DEFAULT '', picture TEXT NOT NULL DEFAULT '') STRICT""",
    "CREATE INDEX label_event_of ON label_event (label_id, id)",
)
#: What names a row, and its columns in the order of their names.
NOTED = {
    "study_result": ("hash", "content hash"),
    "study_run": ("id", "asked_at asked_by because ceiling_cal_cm2 document document_hash done_at draft id licence "
                  "method number result_hash revision signed_at signed_by state version"),
    "finding": ("id", "changed_at changed_by closed_in content created_at due energy_cal_cm2 id name note number "
                "owner_id state version"),
    "label": ("id", "content content_hash created_at created_by element_id id number origin place replaced_by state "
              "touches version"),
    "label_event": ("id", "at by id kind label_id note picture place"),
}  # fmt: skip
FIXED = {"study_result": "the result of a study", "label_event": "what happened to a label"}
_RUN = """INSERT INTO findable (kind, key, title, detail)
    SELECT 'study', number, number, CASE WHEN draft = '' THEN 'revision ' || revision ELSE draft END
    FROM study_run WHERE id = NEW.id"""
_LABEL = """INSERT INTO findable (kind, key, title, detail)
    SELECT 'label', number, number, content ->> '$.tag' FROM label WHERE id = NEW.id"""


def _note(table: str, key: str, row: str, before: str) -> str:
    there = f"SELECT 1 FROM touched WHERE table_name = '{table}' AND row_key = {row}.{key}"
    return f"INSERT INTO touched SELECT '{table}', {row}.{key}, {before} WHERE NOT EXISTS ({there})"


def up(migrator: Any, db: Any) -> None:
    for statement in TABLES:
        db.execute_sql(statement)
    for table, (key, names) in NOTED.items():
        old = f"json_array({', '.join(f'OLD.{column}' for column in names.split())})"
        for name, change, row, before in (
            ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
        ):  # fmt: skip
            note = _note(table, key, row, before)
            db.execute_sql(f"CREATE TRIGGER {table}_noted_{name} AFTER {change} ON {table} BEGIN {note}; END")
    for table, what in FIXED.items():
        for change in ("UPDATE", "DELETE"):
            db.execute_sql(
                f"CREATE TRIGGER {table}_no_{change.lower()} BEFORE {change} ON {table} "
                f"BEGIN SELECT RAISE(ABORT, '{what} is fixed'); END"
            )
    # what a signature covers stays
    db.execute_sql(
        "CREATE TRIGGER study_run_signed BEFORE UPDATE OF result_hash, signed_at, signed_by, licence ON study_run "
        "WHEN OLD.signed_at <> '' BEGIN SELECT RAISE(ABORT, 'a study that was signed is fixed'); END"
    )
    db.execute_sql(
        "CREATE TRIGGER label_says BEFORE UPDATE OF content, content_hash, element_id, touches, origin ON label "
        "BEGIN SELECT RAISE(ABORT, 'what a label says is fixed'); END"
    )
    db.execute_sql(f"CREATE TRIGGER findable_study AFTER INSERT ON study_run BEGIN {_RUN}; END")
    db.execute_sql(f"CREATE TRIGGER findable_label AFTER INSERT ON label BEGIN {_LABEL}; END")
