"""Gear: everything that is measured, protected and worked with, the instruments among it, and what happened to each.

Instruments move in; nobody has recorded when they were tested, so each is refused until somebody does.
"""

from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"
_DAY = "TEXT NOT NULL DEFAULT '' CHECK ({0} = '' OR {0} GLOB '????-??-??')"
KINDS = (
    "contact", "low_impedance", "detector", "leads", "proving_unit", "fixed_tester", "gloves", "sleeves", "protectors",
    "blanket", "mat", "arc_shirt", "arc_trousers", "arc_coverall", "arc_jacket", "arc_bib", "arc_shield", "arc_hood",
    "arc_gloves", "grounds", "insulated_tools", "hot_stick", "rescue_hook", "lock", "barricade", "light",
)  # fmt: skip
EVENTS = ("added", "tested", "inspected", "barred", "cleared", "issued", "returned", "moved", "retired", "mispressed")
_ONE = "CHECK ({0} IN ({1}))"
TABLES = (
    f"""CREATE TABLE gear (
        id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE COLLATE NOCASE CHECK (length(number) BETWEEN 2 AND 40),
        kind TEXT NOT NULL {_ONE.format("kind", ", ".join(f"'{k}'" for k in KINDS))},
        low_v REAL CHECK (low_v > 0), high_v REAL CHECK (high_v >= coalesce(low_v, 0) AND high_v > 0),
        category INTEGER CHECK (category IN (2, 3, 4)),
        ac INTEGER NOT NULL DEFAULT 0 CHECK (ac IN (0, 1)), dc INTEGER NOT NULL DEFAULT 0 CHECK (dc IN (0, 1)),
        glove_class TEXT NOT NULL DEFAULT '', arc_rating_cal_cm2 REAL CHECK (arc_rating_cal_cm2 > 0),
        withstand_ka REAL CHECK (withstand_ka > 0), withstand_s REAL CHECK (withstand_s > 0),
        size TEXT NOT NULL DEFAULT '', place TEXT NOT NULL DEFAULT '', owner_id INTEGER REFERENCES person(id),
        bought {_DAY.format("bought")}, in_service {_DAY.format("in_service")}, tested {_DAY.format("tested")},
        certificate TEXT NOT NULL DEFAULT '', holder_id INTEGER REFERENCES person(id),
        held_since TEXT NOT NULL DEFAULT '', held_for TEXT NOT NULL DEFAULT '', element_id TEXT NOT NULL DEFAULT '',
        barred TEXT NOT NULL DEFAULT '', retired INTEGER NOT NULL DEFAULT 0 CHECK (retired IN (0, 1)),
        version INTEGER NOT NULL DEFAULT 1 CHECK (version > 0),
        changed_at TEXT NOT NULL {_UTC.format("changed_at")}, changed_by TEXT NOT NULL) STRICT""",
    f"""CREATE TABLE gear_event (
        id INTEGER PRIMARY KEY, gear_id INTEGER NOT NULL REFERENCES gear(id),
        kind TEXT NOT NULL {_ONE.format("kind", ", ".join(f"'{k}'" for k in EVENTS))},
        at TEXT NOT NULL {_UTC.format("at")}, by TEXT NOT NULL, day {_DAY.format("day")},
        good INTEGER CHECK (good IN (0, 1)), note TEXT NOT NULL DEFAULT '',
        detail TEXT NOT NULL DEFAULT '{{}}' CHECK (json_valid(detail))) STRICT""",
    "CREATE INDEX gear_event_gear ON gear_event (gear_id, id)",
    """INSERT INTO gear (number, kind, low_v, high_v, category, ac, dc, barred, version, changed_at, changed_by)
        SELECT number, kind, low_v, high_v, category, ac, dc, barred, version, changed_at, changed_by FROM instrument
        ORDER BY id""",
    """INSERT INTO gear_event (gear_id, kind, at, by) SELECT g.id, 'added', g.changed_at, g.changed_by FROM gear g""",
    "DROP TABLE instrument",
)
#: What names a row, and its columns in the order of their names.
NOTED = {
    "gear": "ac arc_rating_cal_cm2 barred bought category certificate changed_at changed_by dc element_id glove_class "
    "held_for held_since high_v holder_id id in_service kind low_v number owner_id place retired size tested version "
    "withstand_ka withstand_s",
    "gear_event": "at by day detail gear_id good id kind note",
}
#: What an item is made for is fixed when it is added; another rating is another item.
FIXED = (
    "number, kind, low_v, high_v, category, ac, dc, glove_class, arc_rating_cal_cm2, withstand_ka, withstand_s, size, "
    "element_id"
)


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
            f"CREATE TRIGGER gear_event_no_{change.lower()} BEFORE {change} ON gear_event "
            "BEGIN SELECT RAISE(ABORT, 'gear_event is append-only'); END"
        )
    db.execute_sql(
        "CREATE TRIGGER gear_no_delete BEFORE DELETE ON gear "
        "BEGIN SELECT RAISE(ABORT, 'an item of gear is retired, never deleted'); END"
    )
    db.execute_sql(
        f"CREATE TRIGGER gear_fixed BEFORE UPDATE OF {FIXED} ON gear "
        "BEGIN SELECT RAISE(ABORT, 'what an item is made for is fixed when it is added'); END"
    )
