"""Queries about the instruments that prove absence of voltage."""

from __future__ import annotations

from spinel.core.isolation.instruments import Instrument
from spinel.core.said import Sayable
from spinel.store.models import Instrument as Row


def everything() -> list[Row]:
    return list(Row.raw("SELECT * FROM instrument ORDER BY number"))


def one(number: str) -> Row | None:
    return next(iter(Row.raw("SELECT * FROM instrument WHERE number = ?", number)), None)


def insert(made: Instrument, at: str, by: str) -> None:
    Row.insert(
        number=made.number, kind=made.kind, low_v=made.low_v, high_v=made.high_v, category=made.category,
        ac=int(made.ac), dc=int(made.dc), changed_at=at, changed_by=by,
    ).execute()  # fmt: skip


def set_barred(number: str, barred: Sayable, at: str, by: str) -> None:
    Row.update(barred=barred, changed_at=at, changed_by=by, version=Row.version + 1).where(
        Row.number == number
    ).execute()
