"""Links with which somebody sets a first password: kept as hashes beside the database, one a person, used once."""

from __future__ import annotations

from hashlib import sha256
from pathlib import Path

from spinel.store.beside import reading, writing


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def put(beside: Path, person_id: int, token: str, until: str) -> None:
    with writing(beside) as own:
        own.execute("INSERT OR REPLACE INTO invitation VALUES (?, ?, ?)", (person_id, _hash(token), until))


def guest(beside: Path, token: str, at: str) -> int | None:
    """For whom a link is that was not used, and is not over."""
    with reading(beside) as own:
        if own is None:
            return None
        query = "SELECT person_id FROM invitation WHERE token_hash = ? AND until >= ?"
        row = own.execute(query, (_hash(token), at)).fetchone()
    return int(row[0]) if row else None


def take(beside: Path, token: str, at: str) -> bool:
    """Use it up: True for the first who does, while it lasts."""
    with writing(beside) as own:
        return (
            own.execute("DELETE FROM invitation WHERE token_hash = ? AND until >= ?", (_hash(token), at)).rowcount == 1
        )


def withdraw(beside: Path, person_id: int) -> None:
    with writing(beside) as own:
        own.execute("DELETE FROM invitation WHERE person_id = ?", (person_id,))
