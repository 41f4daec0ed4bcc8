"""Queries about gear: the items of a site, and what happened to each."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from spinel.core.canonical import canonical
from spinel.core.gear.items import Item
from spinel.core.said import Sayable
from spinel.store.models import Gear, GearEvent


def everything() -> list[Gear]:
    """By number, those that were retired too."""
    return list(Gear.raw("SELECT * FROM gear ORDER BY number COLLATE NOCASE"))


def one(number: str) -> Gear | None:
    return next(iter(Gear.raw("SELECT * FROM gear WHERE number = ?", number)), None)


def insert(made: Item, owner_id: int | None, at: str, by: str) -> int:
    rating = asdict(made.rating)
    found = Gear.create(
        **{**rating, "ac": int(rating["ac"]), "dc": int(rating["dc"])},
        number=made.number, kind=made.kind_id, size=made.size, place=made.place, owner=owner_id,
        bought=made.bought.isoformat() if made.bought else "",
        in_service=made.in_service.isoformat() if made.in_service else "",
        tested=made.tested.isoformat() if made.tested else "", certificate=made.certificate,
        element_id=made.element_id, changed_at=at, changed_by=by,
    )  # fmt: skip
    return int(found.id)


def change(row: Gear, at: str, by: str, **values: Any) -> None:
    Gear.update(**values, changed_at=at, changed_by=by, version=Gear.version + 1).where(Gear.id == row.id).execute()


def add_event(
    gear_id: int, kind: str, at: str, by: str, *, day: str = "", good: bool | None = None, note: Sayable = "",
    detail: Mapping[str, Any] | None = None,
) -> None:  # fmt: skip
    GearEvent.insert(
        gear=gear_id, kind=kind, at=at, by=by, day=day, good=None if good is None else int(good), note=note,
        detail=canonical(dict(detail or {})),
    ).execute()  # fmt: skip


def events(gear_id: int) -> list[GearEvent]:
    """The latest first."""
    return list(GearEvent.select().where(GearEvent.gear == gear_id).order_by(GearEvent.id.desc()))


def last_good(gear_id: int) -> tuple[str, int]:
    """When it was last tested or looked at and found good, and what was the last record on any program then; empty and
    0 where it never was."""
    found = GearEvent.select(GearEvent.at, GearEvent.detail).where(
        (GearEvent.gear == gear_id) & (GearEvent.kind.in_(("tested", "inspected"))) & (GearEvent.good == 1)
    )
    # a test that somebody enters late says nothing of what was done since it was made
    known = [(int(json.loads(e.detail).get("records", 0)), str(e.at)) for e in found]
    after, at = max(known, default=(0, ""))
    return at, after
