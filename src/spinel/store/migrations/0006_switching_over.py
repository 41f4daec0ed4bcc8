"""A program may also switch from one state to another: one more value in the CHECK of its purpose.

SQLite cannot alter a CHECK; its manual allows the text of the table to be rewritten where nothing stored changes, as
here, where all that was allowed before still is. (https://www.sqlite.org/lang_altertable.html, 7)
"""

from typing import Any

BEFORE, AFTER = "(purpose IN ('isolation', 'restoration'))", "(purpose IN ('isolation', 'restoration', 'switching'))"


def up(migrator: Any, db: Any) -> None:
    version = db.execute_sql("PRAGMA schema_version").fetchone()[0]
    db.execute_sql("PRAGMA writable_schema = ON")
    db.execute_sql(
        "UPDATE sqlite_schema SET sql = replace(sql, ?, ?) WHERE type = 'table' AND name = 'program'", (BEFORE, AFTER)
    )
    db.execute_sql(f"PRAGMA schema_version = {version + 1}")
    db.execute_sql("PRAGMA writable_schema = OFF")
