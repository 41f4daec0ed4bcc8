"""What a walk-down found is marked as such: a report of what somebody found no longer counts as checked.

Earlier versions took both alike. The act of the walk-down, its moment and its actor stand in the ledger.
"""

from typing import Any

MARK = """UPDATE field_event SET detail = '{"shape":2,"walked":true}' WHERE kind = 'found' AND note = 'walk-down'
    AND (at, actor) IN (SELECT at, actor FROM ledger WHERE act = 'walk-down recorded')"""
TRIGGER = (
    "CREATE TRIGGER field_event_no_update BEFORE UPDATE ON field_event "
    "BEGIN SELECT RAISE(ABORT, 'field_event is append-only'); END"
)


def up(migrator: Any, db: Any) -> None:
    db.execute_sql("DROP TRIGGER field_event_no_update")
    db.execute_sql(MARK)
    db.execute_sql(TRIGGER)
