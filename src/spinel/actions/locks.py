"""What hangs under a hold, folded from what is recorded on its box: personal locks, and who hung isolation locks."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from spinel.core import stored as shapes
from spinel.core.network.field import Field
from spinel.core.said import Sayable
from spinel.store import programs as store
from spinel.store.models import ProgramRecord

_KINDS = ("box taken", "lock hung", "lock removed", "owner absent", "absent lock removed", "work complete")


@dataclass(frozen=True)
class PersonalLock:
    """``absent``: who first said that its owner cannot be reached, and what was tried."""

    person_id: int
    name: str
    lock: Sayable
    at: str
    absent: Mapping[str, Any] | None = None


@dataclass(frozen=True)
class BoxState:
    """Who has the box, what hangs on it, and whether the work behind it is declared complete. ``equipment_id``: what
    the hold isolates, where all boxes were asked for."""

    taken_by: str = ""
    taken_at: str = ""
    in_charge_id: int | None = None
    complete: bool = False
    completed_by: str = ""
    locks: tuple[PersonalLock, ...] = ()
    equipment_id: str = ""


def locks_on(hold: str) -> tuple[PersonalLock, ...]:
    """Personal locks that hang on the box of a hold."""
    return state_of(hold).locks


def state_of(hold: str) -> BoxState:
    """The box of a hold as its records leave it."""
    return _folded(store.box_records(hold, _KINDS))


def states() -> dict[str, BoxState]:
    """The boxes of all holds that are handed over and not restored."""
    found: dict[str, list[ProgramRecord]] = {}
    about: dict[str, str] = {}
    for hold, equipment_id, record in store.open_box_records(_KINDS):
        found.setdefault(hold, []).append(record)
        about[hold] = equipment_id
    return {hold: replace(_folded(records), equipment_id=about[hold]) for hold, records in found.items()}


def _folded(records: Iterable[ProgramRecord]) -> BoxState:
    state = BoxState()
    hung: dict[int, PersonalLock] = {}
    for r in records:
        detail = shapes.read("program record", r.detail)
        if r.kind == "box taken":
            state = replace(state, taken_by=r.person_name, taken_at=r.at, in_charge_id=r.person_id, complete=False)
        elif r.kind == "lock hung" and r.person_id is not None:
            hung[r.person_id] = PersonalLock(r.person_id, r.person_name, detail["lock"], r.at)
        elif r.kind == "lock removed" and r.person_id is not None:
            hung.pop(r.person_id, None)
        elif r.kind == "owner absent" and detail["owner"] in hung:
            lock = hung[detail["owner"]]
            said = {**detail, "by": r.person_name, "by_id": r.person_id, "at": r.at}
            hung[detail["owner"]] = PersonalLock(lock.person_id, lock.name, lock.lock, lock.at, said)
        elif r.kind == "absent lock removed":
            hung.pop(detail["owner"], None)
        elif r.kind == "work complete":
            state = replace(state, complete=True, completed_by=r.person_name)
    return replace(state, locks=tuple(hung.values()))


@dataclass(frozen=True)
class Hung:
    """Who hung an isolation lock. ``freed``: the absent-owner procedure lets another operator take it off."""

    person_id: int
    name: str
    freed: bool


def isolation_locks(hold: str) -> dict[str, Hung]:
    """Who hung each isolation lock of a hold, by the tag of the device."""
    freed = {
        shapes.read("program record", r.detail)["owner"] for r in store.box_records(hold, ["isolation locks freed"])
    }
    found: dict[str, Hung] = {}
    for r in store.box_records(hold, ["confirmed", "relieved"]):
        detail = shapes.read("program record", r.detail)
        if r.kind == "relieved":
            # the new operator's locks hang beside, then in place of, those of the one before
            found |= {tag: Hung(r.person_id or 0, r.person_name, False) for tag in detail["locks"] if tag in found}
        elif "locked" in detail["acts"]:
            owner = detail["operator_id"]
            found[detail["identity"]] = Hung(owner, detail["operator"], owner in freed)
        elif "unlocked" in detail["acts"]:
            found.pop(detail["identity"], None)
    return found


def lock_numbers(hold: str, practice: bool = False) -> set[str]:
    """The numbers of the isolation locks that hang anywhere on the site; in a practice run, in that run."""
    kinds = ["confirmed", "relieved"]
    records = [(hold, r) for r in store.box_records(hold, kinds)] if practice else [
        (of, r) for of, _, r in store.open_box_records(kinds)
    ]  # fmt: skip
    found: dict[tuple[str, str], str] = {}
    for of, r in records:
        if r.kind == "relieved":
            found |= {(of, tag): lock for tag, lock in shapes.read("program record", r.detail)["locks"].items()}
            continue
        if '"unlocked"' not in r.detail and '"locked"' not in r.detail:
            continue
        detail = shapes.read("program record", r.detail)
        if "locked" in detail["acts"]:
            found[of, detail["identity"]] = detail.get("lock", "")
        else:
            found.pop((of, detail["identity"]), None)
    return set(found.values())


def anything_left(hold: str, field: Field) -> bool:
    """Does anything hang under the hold, locks, tags, blocks, grounds, personal locks, or stand as it left it?"""
    hangs = any(hold in (*d.locks, *d.tags) or d.blocked_for(hold) for d in field.devices.values())
    moved = any(d.moved_by == hold and d.was not in (None, d.position) for d in field.devices.values())
    return hangs or moved or any(g.hold == hold for g in field.grounds) or bool(locks_on(hold))
