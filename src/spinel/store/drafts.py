"""Network documents that are looked at before they are published, beside the database: they are no record."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from spinel.store.beside import reading, writing

#: So many are kept; the oldest goes for one more.
KEPT = 20


@dataclass(frozen=True)
class LookedAt:
    hash: str
    person_id: int
    made_at: str
    document: str


def put(beside: Path, draft: LookedAt) -> None:
    with writing(beside) as own:
        row = (draft.hash, draft.person_id, draft.made_at, draft.document)
        own.execute("INSERT OR REPLACE INTO draft VALUES (?, ?, ?, ?)", row)
        own.execute(
            "DELETE FROM draft WHERE hash NOT IN (SELECT hash FROM draft ORDER BY made_at DESC, rowid DESC LIMIT ?)",
            (KEPT,),
        )


def one(beside: Path, name: str) -> LookedAt | None:
    found = _found(beside, "WHERE hash = ?", name)
    return found[0] if found else None


def every(beside: Path) -> list[LookedAt]:
    """The latest first."""
    return _found(beside, "ORDER BY made_at DESC, rowid DESC")


def _found(beside: Path, which: str, *values: str) -> list[LookedAt]:
    with reading(beside) as own:
        if own is None:
            return []
        query = f"SELECT hash, person_id, made_at, document FROM draft {which}"
        return [LookedAt(*row) for row in own.execute(query, values)]


def remove(beside: Path, name: str) -> None:
    with writing(beside) as own:
        own.execute("DELETE FROM draft WHERE hash = ?", (name,))
