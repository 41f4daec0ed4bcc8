"""Who tried to sign in, or to sign, from where: kept for all processes, and no part of the record."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from spinel.store.beside import reading, writing


def add(beside: Path, login: str, address: str, succeeded: bool, at: str) -> None:
    with writing(beside) as own:
        query = "INSERT INTO attempt (login, address, succeeded, at) VALUES (?, ?, ?, ?)"
        own.execute(query, (login[:80], address, int(succeeded), at))


def failures(beside: Path, login: str, address: str, since: str) -> list[str]:
    """When an address failed at an account after its last success there, not before ``since``; the latest first."""
    query = """SELECT at FROM attempt WHERE login = ? AND address = ? AND at >= ? AND id > (
        SELECT coalesce(max(id), 0) FROM attempt WHERE login = ? AND address = ? AND succeeded = 1)
        ORDER BY id DESC"""
    return [at for (at,) in _asked(beside, query, login, address, since, login, address)]


def failures_everywhere(beside: Path, login: str, since: str) -> int:
    """How many attempts at an account failed, from wherever, not before ``since``."""
    return len(_asked(beside, "SELECT 1 FROM attempt WHERE login = ? AND succeeded = 0 AND at >= ?", login, since))


def failures_from(beside: Path, address: str, since: str) -> int:
    """How many attempts from an address failed, at whatever account, not before ``since``."""
    return len(_asked(beside, "SELECT 1 FROM attempt WHERE address = ? AND succeeded = 0 AND at >= ?", address, since))


def has_signed_in(beside: Path, login: str, address: str) -> bool:
    """Did the account ever sign in from an address?"""
    query = "SELECT 1 FROM attempt WHERE login = ? AND address = ? AND succeeded = 1 LIMIT 1"
    return bool(_asked(beside, query, login, address))


def _asked(beside: Path, query: str, *values: object) -> list[tuple[Any, ...]]:
    with reading(beside) as own:
        return [] if own is None else own.execute(query, values).fetchall()
