"""Shared devices that were registered. What their browsers hold is kept as a hash."""

from __future__ import annotations

from dataclasses import dataclass
from hashlib import sha256

from spinel.store.database import rows
from spinel.store.models import Tablet


@dataclass(frozen=True)
class SharedTablet:
    """``ended_at``: when it was taken out of use, None while it is in use."""

    id: int
    name: str
    made_at: str
    ended_at: str | None


def _hash(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def add(name: str, token: str, at: str) -> int:
    return int(Tablet.insert(name=name, token_hash=_hash(token), made_at=at).execute())


def of_token(token: str) -> SharedTablet | None:
    """The tablet in use whose browser holds this."""
    query = "SELECT id, name, made_at, ended_at FROM tablet WHERE token_hash = ? AND ended_at IS NULL"
    return next((SharedTablet(*row) for row in rows(query, _hash(token))), None)


def everything() -> list[SharedTablet]:
    """All that ever were registered, those in use first."""
    query = "SELECT id, name, made_at, ended_at FROM tablet ORDER BY ended_at IS NOT NULL, name"
    return [SharedTablet(*row) for row in rows(query)]


def end(tablet_id: int, at: str) -> None:
    Tablet.update(ended_at=at).where(Tablet.id == tablet_id).execute()
