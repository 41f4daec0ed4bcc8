"""Items of gear are found by their number, their kind and where they lie, as everything else that has a number."""

from typing import Any

_GEAR = """INSERT INTO findable (kind, key, title, detail)
    SELECT 'gear', number, number, kind || ', ' || place FROM gear WHERE {which} ORDER BY id"""
TRIGGERS = (
    f"CREATE TRIGGER findable_gear AFTER INSERT ON gear BEGIN {_GEAR.format(which='id = NEW.id')}; END",
    """CREATE TRIGGER findable_gear_place AFTER UPDATE OF place ON gear WHEN OLD.place <> NEW.place BEGIN
        UPDATE findable SET detail = NEW.kind || ', ' || NEW.place WHERE kind = 'gear' AND key = NEW.number; END""",
)


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(_GEAR.format(which="1"))
    for trigger in TRIGGERS:
        db.execute_sql(trigger)
