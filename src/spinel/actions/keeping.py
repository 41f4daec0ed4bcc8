"""Writing what is kept of a thing: its new state if nobody was faster, and an append-only record beside it.

By whom: the actor of the unit, or the system where no person did it.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from spinel.actions.acting import SYSTEM, Act, Actor, Unit
from spinel.core import stored as shapes
from spinel.core.errors import Stale
from spinel.store import numbering, permits, programs
from spinel.store.models import Exchange, Job, Permit, Program

_KIND = {Job: "job", Permit: "permit", Program: "program", Exchange: "exchange"}


def save(act: Act, record: Job | Permit | Program | Exchange, version: int, **changes: object) -> None:
    """Write changes if nobody was faster, else Stale."""
    _write(act, act.actor, record, version, changes)


def save_by_system(act: Act, record: Permit | Program, **changes: object) -> None:
    """The system changes what it has just read in this transaction."""
    _write(act, SYSTEM, record, record.version, changes)


def _write(
    act: Act, by: Actor, record: Job | Permit | Program | Exchange, version: int, changes: Mapping[str, object]
) -> None:  # fmt: skip
    if not numbering.save(record, version, changed_at=act.at, changed_by=by.name, **changes):
        raise Stale(_KIND[type(record)], record.number, record.changed_by, record.changed_at)


def keep(
    unit: Unit, record: Permit | Program, kind: str, detail: Mapping[str, Any], *, signed_hash: str = "",
    by: Actor | None = None,
) -> None:  # fmt: skip
    """One append-only record on a permit or a program, citing the hash of the content that it was made for."""
    actor = by or unit.act.actor
    add = permits.add_record if isinstance(record, Permit) else programs.add_record
    text = shapes.write(f"{_KIND[type(record)]} record", detail).text
    named = signed_hash or record.content_hash
    add(record.id, kind, actor.id, actor.name, named, text, unit.act.at)
