"""The last one-time code that each person used: none counts twice, in whichever process."""

from __future__ import annotations

from pathlib import Path

from spinel.store.beside import writing


def use(beside: Path, person_id: int, counter: int) -> bool:
    """False for one that was used before, or is older than one that was."""
    query = """INSERT INTO used_code VALUES (?, ?) ON CONFLICT (person_id) DO UPDATE SET counter = excluded.counter
        WHERE excluded.counter > used_code.counter"""
    with writing(beside) as own:
        return own.execute(query, (person_id, counter)).rowcount == 1
