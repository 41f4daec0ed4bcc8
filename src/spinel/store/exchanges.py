"""Hazards exchanged with those who come from elsewhere."""

from __future__ import annotations

from datetime import date

from spinel.store.database import rows
from spinel.store.models import Exchange
from spinel.store.numbering import next_number


def insert(host_id: int, guest_id: int, at: str, by: str, **said: str) -> str:
    """The number of the new exchange."""
    number = next_number(Exchange, "HX")
    Exchange.insert(number=number, host=host_id, guest=guest_id, changed_at=at, changed_by=by, **said).execute()
    return number


def exchange(number: str) -> Exchange | None:
    return next(iter(Exchange.select().where(Exchange.number == number)), None)


def everything() -> list[Exchange]:
    """The latest first."""
    return list(Exchange.select().order_by(Exchange.id.desc()))


def signed() -> dict[int, list[tuple[date, date]]]:
    """From which day to which hazards are exchanged, signed by both and not ended, by the person who came."""
    found: dict[int, list[tuple[date, date]]] = {}
    for guest, start, end in rows("SELECT guest_id, from_day, until FROM exchange WHERE state = 'signed'"):
        found.setdefault(guest, []).append((date.fromisoformat(start), date.fromisoformat(end)))
    return found
