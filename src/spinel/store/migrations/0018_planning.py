"""When a job is to be done and by whom; with which other it is done together; and which earlier one it is like."""

from typing import Any

#: The columns of a job in the order of their names.
NOTED = (
    "as_in changed_at changed_by circuit_changed created_at element_id facts id justification learnt not_planned "
    "number outcome part_of plan requested_by state statement task_id task_version title touches version"
)


def _note(row: str, before: str) -> str:
    there = f"SELECT 1 FROM touched WHERE table_name = 'job' AND row_key = {row}.id"
    return f"INSERT INTO touched SELECT 'job', {row}.id, {before} WHERE NOT EXISTS ({there})"


def up(migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE job ADD COLUMN plan TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(plan))")
    # numbers of jobs
    db.execute_sql("ALTER TABLE job ADD COLUMN part_of TEXT NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE job ADD COLUMN as_in TEXT NOT NULL DEFAULT ''")
    for change in ("new", "changed", "gone"):
        db.execute_sql(f"DROP TRIGGER IF EXISTS job_noted_{change}")
    old = f"json_array({', '.join(f'OLD.{column}' for column in NOTED.split())})"
    for name, change, row, before in (
        ("new", "INSERT", "NEW", "NULL"), ("changed", "UPDATE", "OLD", old), ("gone", "DELETE", "OLD", old)
    ):  # fmt: skip
        db.execute_sql(f"CREATE TRIGGER job_noted_{name} AFTER {change} ON job BEGIN {_note(row, before)}; END")
