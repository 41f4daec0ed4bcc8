"""Full-text index over equipment, jobs, permits, programs and people: three letters in a row, wherever they stand.

Triggers keep it, so that no code can forget to. It holds nothing of its own: it can be made anew from the tables.
"""

from typing import Any

TABLE = "CREATE VIRTUAL TABLE findable USING fts5(kind UNINDEXED, key UNINDEXED, title, detail, tokenize = 'trigram')"

_EQUIPMENT = """INSERT INTO findable (kind, key, title, detail)
    SELECT 'equipment', e.value ->> '$.id', e.value ->> '$.tag',
        coalesce(e.value ->> '$.name', '') || ', ' || coalesce(e.value ->> '$.location', '')
    FROM json_each({document}, '$.elements') e WHERE e.value ->> '$.tag' IS NOT NULL"""
_NUMBERED = """INSERT INTO findable (kind, key, title, detail)
    SELECT '{table}', r.number, r.number, j.title FROM {table} r JOIN job j ON j.id = r.{job} WHERE {which}
    ORDER BY r.id"""
_PEOPLE = """INSERT INTO findable (kind, key, title, detail)
    SELECT 'person', login, name, login FROM person WHERE {which} ORDER BY id"""
#: Kinds with a number, and the column that names their job.
NUMBERED = {"job": "id", "permit": "job_id", "program": "job_id"}

TRIGGERS = [
    f"""CREATE TRIGGER findable_equipment AFTER INSERT ON revision BEGIN
        DELETE FROM findable WHERE kind = 'equipment';
        {_EQUIPMENT.format(document="NEW.document")}; END""",
    *(
        f"""CREATE TRIGGER findable_{table} AFTER INSERT ON {table} BEGIN
        {_NUMBERED.format(table=table, job=job, which="r.id = NEW.id")}; END"""
        for table, job in NUMBERED.items()
    ),
    """CREATE TRIGGER findable_job_title AFTER UPDATE OF title ON job WHEN OLD.title <> NEW.title BEGIN
        UPDATE findable SET detail = NEW.title WHERE (kind = 'job' AND key = NEW.number)
            OR (kind = 'permit' AND key IN (SELECT number FROM permit WHERE job_id = NEW.id))
            OR (kind = 'program' AND key IN (SELECT number FROM program WHERE job_id = NEW.id)); END""",
    f"""CREATE TRIGGER findable_person AFTER INSERT ON person BEGIN
        {_PEOPLE.format(which="id = NEW.id")}; END""",
    """CREATE TRIGGER findable_person_name AFTER UPDATE OF name ON person WHEN OLD.name <> NEW.name BEGIN
        UPDATE findable SET title = NEW.name WHERE kind = 'person' AND key = NEW.login; END""",
]


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(TABLE)
    latest = "(SELECT document FROM revision ORDER BY number DESC LIMIT 1)"
    db.execute_sql(_EQUIPMENT.format(document=latest))
    for table, job in NUMBERED.items():
        db.execute_sql(_NUMBERED.format(table=table, job=job, which="1"))
    db.execute_sql(_PEOPLE.format(which="1"))
    for trigger in TRIGGERS:
        db.execute_sql(trigger)
