"""Whoever edited a permit is one of its writers for ever, and approves nothing of it; until now only the ledger knew.

Its entries name people, not accounts: where two have had the name, both count.
"""

from typing import Any

EDITED = """INSERT INTO permit_record (permit_id, kind, person_id, person_name, content_hash, detail, at)
    SELECT m.id, 'edited', p.id, l.actor, l.payload ->> '$.content_hash', '{}', l.at
    FROM ledger l JOIN permit m ON l.subject = 'permit:' || m.number JOIN person p ON p.name = l.actor
    WHERE l.act = 'permit edited' ORDER BY l.seq, p.id"""


def up(migrator: Any, db: Any) -> None:
    db.execute_sql(EDITED)
