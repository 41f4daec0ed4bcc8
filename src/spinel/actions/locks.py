"""What hangs under a hold: personal locks on its box, isolation locks with their owners, grounds and blocks."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.actions.acting import Unit
from spinel.core import stored as shapes
from spinel.core.canonical import canonical
from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.network.now import SHAFT
from spinel.core.said import Sayable
from spinel.core.switching.steps import Step
from spinel.store import holds as store
from spinel.store.holds import BLOCK, GROUND, LOCK, PERSONAL, Place
from spinel.store.models import Box, Hung, Program


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
    the hold isolates."""

    taken_by: str = ""
    taken_at: str = ""
    in_charge_id: int | None = None
    complete: bool = False
    completed_by: str = ""
    locks: tuple[PersonalLock, ...] = ()
    equipment_id: str = ""


def locks_on(hold: str) -> tuple[PersonalLock, ...]:
    """Personal locks that hang on the box of a hold."""
    return tuple(map(_personal, store.of_hold(hold, PERSONAL)))


def state_of(hold: str) -> BoxState:
    """The box of a hold as it stands; nobody's, where nobody took it over."""
    box = store.box(hold)
    return _state(box, store.of_hold(hold, PERSONAL)) if box is not None else BoxState()


def states() -> dict[str, BoxState]:
    """The boxes of all holds that are taken over and not restored."""
    return {box.hold: _state(box, hung) for box, hung in store.boxes()}


def _state(box: Box, hung: Iterable[Hung]) -> BoxState:
    return BoxState(
        box.taken_by, box.taken_at, box.in_charge_id, bool(box.complete), box.completed_by,
        tuple(map(_personal, hung)), box.element_id,
    )  # fmt: skip


def _personal(row: Hung) -> PersonalLock:
    return PersonalLock(row.person_id, row.owner, row.number, row.since, absent_of(row))


def absent_of(row: Hung) -> Mapping[str, Any] | None:
    """The half that was signed of the absent-owner procedure on a lock."""
    return json.loads(row.absent) if row.absent else None


def isolation_locks(hold: str) -> list[Hung]:
    """The isolation locks of a hold, oldest first; several may hang on one device."""
    return store.of_hold(hold, LOCK)


def lock_numbers(hold: str, practice: bool = False) -> set[str]:
    """The numbers of the isolation locks that hang anywhere on the site; in a practice run, in that run."""
    return store.numbers(hold if practice else "")


def anything_left(hold: str, now: Field) -> bool:
    """Does anything hang under the hold, locks, tags, blocks, grounds, personal locks, or stand as it left it?"""
    hangs = any(hold in (*d.locks, *d.tags) or d.blocked_for(hold) for d in now.devices.values())
    moved = any(d.moved_by == hold and d.was not in (None, d.position) for d in now.devices.values())
    return hangs or moved or any(g.hold == hold for g in now.grounds) or bool(locks_on(hold))


_HANGS = {"locked": LOCK, "grounded": GROUND, "blocked": BLOCK}
_COMES_OFF = {"unlocked": LOCK, "ungrounded": GROUND, "unblocked": BLOCK}


def after_step(unit: Unit, program: Program, step: Step, operator: str, number: str) -> None:
    """A confirmed step hangs something for its hold, by its operator, or takes it off."""
    for act in step.acts:
        kind = _HANGS.get(act) or _COMES_OFF.get(act)
        if kind is None:
            continue
        place = _place(program.hold, kind, step.element_id, step.node_id, step.value)
        if act in _COMES_OFF or kind != LOCK:
            store.take_off(place, unit.act.at, operator)
        if act in _HANGS:
            # a further lock hangs beside the first
            owner = program.operator_id
            practice = bool(program.practice)
            store.hang(place, number, owner, operator, unit.act.at, practice=practice, others=step.others)


def _place(hold: str, kind: str, element_id: str, node_id: str, value: str) -> Place:
    node = node_id if kind == GROUND else ""
    return Place(hold, kind, element_id, node, (value or SHAFT) if kind == BLOCK else "")


_TOUCHES = {"lock": LOCK, "ground": GROUND, "block": BLOCK, "discharge": BLOCK}


def no_longer_sure(unit: Unit, program: Program, step: Step, operator: str) -> None:
    """Somebody says that the step was done, and the record could not follow: what it hangs or takes off may hang."""
    kind = _TOUCHES.get(step.kind)
    if kind is None or program.practice:
        return
    place = _place(program.hold, kind, step.element_id, step.node_id, step.value)
    if not store.no_longer_sure(place) and any(act in _HANGS for act in step.acts):
        store.hang(place, "", program.operator_id, operator, unit.act.at, practice=False, unsure=True)


def hand_over_locks(unit: Unit, hold: str, e: Element, giver: int, number: str) -> None:
    """The new operator's lock hangs beside, then in place of, all that the one before had on a device; or the paper of
    others is theirs now."""
    place, act = Place(hold, LOCK, e.id), unit.act
    assert act.actor.id is not None
    store.take_off(place, act.at, act.actor.name, giver)
    store.hang(place, number, act.actor.id, act.actor.name, act.at, practice=False, others=e.operated_by)


def said_absent(unit: Unit, hold: str, personal: bool, owner: int, detail: Mapping[str, Any]) -> None:
    """The first half of the absent-owner procedure, kept with each lock that it is about."""
    by = {"by": unit.act.actor.name, "by_id": unit.act.actor.id, "at": unit.act.at}
    store.owner_absent(hold, PERSONAL if personal else LOCK, owner, canonical({**detail, **by}))


def equipment_of(program: Program) -> str:
    """The id of what a program isolates."""
    return str(shapes.content("program", program.content)["equipment"]["id"])
