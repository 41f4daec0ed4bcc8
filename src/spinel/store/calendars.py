"""Secret addresses of calendars: kept as hashes beside the database, one a person."""

from __future__ import annotations

from hashlib import sha256
from pathlib import Path

from spinel.store.beside import reading, writing


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def put(beside: Path, person_id: int, token: str, at: str) -> None:
    with writing(beside) as own:
        own.execute("INSERT OR REPLACE INTO calendar VALUES (?, ?, ?)", (person_id, _hash(token), at))


def has(beside: Path, person_id: int) -> bool:
    with reading(beside) as own:
        return bool(own and own.execute("SELECT 1 FROM calendar WHERE person_id = ?", (person_id,)).fetchone())


def owner(beside: Path, token: str) -> int | None:
    with reading(beside) as own:
        if own is None:
            return None
        row = own.execute("SELECT person_id FROM calendar WHERE token_hash = ?", (_hash(token),)).fetchone()
    return int(row[0]) if row else None
