"""What the ledger knows of every other row: each entry carries digests of the rows that its act wrote, as they were
before and as they are after it.

Triggers note which rows an act touches, whatever code does it; at its end the digests go into the entry, in the same
transaction. So every row has a chain of its own through the ledger: what changed it outside of an act breaks it, then
and for ever, also when a later act writes the row again. The tables could have been rebuilt from the entries instead:
then every act would be written twice, in its own words and as a change of rows, and a slip in either would read as
tampering.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from functools import cache
from typing import Any

from spinel.core.canonical import canonical, digest
from spinel.store import models
from spinel.store.database import database, rows

#: Every table of the record but the ledger itself, with what names a row of it.
KEYS = {
    "person": ("id",),
    "person_role": ("person_id", "role"),
    "qualification": ("id",),
    "training": ("id",),
    "tablet": ("id",),
    "exchange": ("id",),
    "setting": ("key",),
    "revision": ("hash",),
    "network_draft": ("id",),
    "draft_step": ("id",),
    "attachment": ("id",),
    "maintenance": ("id",),
    "field_event": ("id",),
    "job": ("id",),
    "permit": ("id",),
    "permit_record": ("id",),
    "program": ("id",),
    "program_record": ("id",),
    "practice_event": ("id",),
    "task_version": ("id",),
    "assessment": ("id",),
    "opinion": ("id",),
    "emergency_plan": ("id",),
    "improvement": ("id",),
    "procedure": ("id",),
    "gear": ("id",),
    "gear_event": ("id",),
    "box": ("hold",),
    "hung": ("id",),
    "study_result": ("hash",),
    "study_run": ("id",),
    "finding": ("id",),
    "label": ("id",),
    "label_event": ("id",),
}
#: What an act left of a row: digests before and after it, None where there was none.
Wrote = dict[str, tuple[str | None, str | None]]


@cache
def columns(table: str) -> tuple[str, ...]:
    """The columns of a table, by name, as the models have them."""
    return tuple(sorted(field.column_name for field in _models()[table]._meta.sorted_fields))


@cache
def _models() -> dict[str, Any]:
    return {m._meta.table_name: m for m in vars(models).values() if isinstance(m, type) and hasattr(m, "_meta")}


@cache
def _touched() -> str:
    """One query for all tables: what was touched, what stood there, and the row as it is, filled to the same width."""
    width = max(len(columns(table)) for table in KEYS)
    parts = []
    for table in KEYS:
        key = _key(table, "r.")
        filled = ", ".join([*(f"r.{column}" for column in columns(table)), *["NULL"] * (width - len(columns(table)))])
        parts.append(
            f"SELECT t.table_name, t.row_key, t.before, {key} IS NOT NULL, {filled} FROM touched t "
            f"LEFT JOIN {table} r ON {key} = t.row_key WHERE t.table_name = '{table}'"
        )
    return " UNION ALL ".join(parts)


def _key(table: str, alias: str = "") -> str:
    return " || ' ' || ".join(f"{alias}{part}" for part in KEYS[table])


def written() -> Wrote:
    """What this act touched so far. A row put in and taken out again is left out."""
    found: Wrote = {}
    for table, key, before, there, *values in rows(_touched()):
        old = of_row(table, json.loads(before)) if before is not None else None
        new = of_row(table, values[: len(columns(table))]) if there else None
        if old != new:
            found[f"{table} {key}"] = (old, new)
    return found


def of_row(table: str, values: Sequence[object]) -> str:
    """The digest of a row: its table, and its columns by name. Of a number with a fraction twelve digits count, as many
    as come back from JSON whatever wrote it."""
    plain = [format(v, ".12g") if isinstance(v, float) else v for v in values]
    return digest(canonical([table, dict(zip(columns(table), plain, strict=True))]))


def everything() -> Iterator[tuple[str, str]]:
    """Every row of the record, with its digest."""
    for table in KEYS:
        for name, *values in rows(f"SELECT {_key(table)}, {', '.join(columns(table))} FROM {table}"):
            yield f"{table} {name}", of_row(table, values)


def touch_all() -> None:
    """Every row of the record counts as written: after its tables were changed by an upgrade."""
    for table in KEYS:
        database.execute_sql(f"INSERT OR IGNORE INTO touched SELECT '{table}', {_key(table)}, NULL FROM {table}")


def left() -> list[str]:
    """Rows that were written outside of an act: their notes still stand."""
    return [f"{table} {key}" for table, key in rows("SELECT table_name, row_key FROM touched ORDER BY 1, 2")]


def forget() -> None:
    database.execute_sql("DELETE FROM touched")
