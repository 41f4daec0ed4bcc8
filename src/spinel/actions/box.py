"""The box of an isolation: taken over by the person in charge, one personal lock a worker, work declared complete.

Only the person who hung a lock removes it; for somebody absent a coordinator and the person in charge do it together,
each signed in, with what was done to reach the owner.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from spinel.actions import network, people
from spinel.actions.acting import Act, work
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.switching.life import ENDED
from spinel.core.switching.order import ISOLATION, Broken
from spinel.core.switching.step_rules import unproved
from spinel.store import programs as store
from spinel.store.models import Program

_KINDS = ("box taken", "lock hung", "lock removed", "owner absent", "absent lock removed", "work complete",
          "operator absent", "isolation locks freed")  # fmt: skip


@dataclass(frozen=True)
class PersonalLock:
    """``absent``: who first said that its owner cannot be reached, and what was tried."""

    person_id: int
    name: str
    lock: str
    at: str
    absent: Mapping[str, Any] | None = None


@dataclass(frozen=True)
class Box:
    """``unsound``: why nobody may work behind it now, however it was left."""

    hold: str
    taken_by: str
    taken_at: str
    in_charge_id: int | None
    locks: tuple[PersonalLock, ...]
    complete: bool
    completed_by: str
    unsound: tuple[Broken, ...]


def locks_on(hold: str) -> tuple[PersonalLock, ...]:
    """Personal locks that hang on the box of a hold."""
    return _fold(hold)[1]


def _fold(hold: str) -> tuple[dict[str, Any], tuple[PersonalLock, ...]]:
    state: dict[str, Any] = {
        "taken_by": "",
        "taken_at": "",
        "in_charge_id": None,
        "complete": False,
        "completed_by": "",
    }
    hung: dict[int, PersonalLock] = {}
    for r in store.box_records(hold, _KINDS):
        detail = json.loads(r.detail)
        if r.kind == "box taken":
            state |= {"taken_by": r.person_name, "taken_at": r.at, "in_charge_id": r.person_id, "complete": False}
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
            state |= {"complete": True, "completed_by": r.person_name}
    return state, tuple(hung.values())


@dataclass(frozen=True)
class Hung:
    """Who hung an isolation lock. ``freed``: the absent-owner procedure lets another operator take it off."""

    person_id: int
    name: str
    freed: bool


def isolation_locks(hold: str) -> dict[str, Hung]:
    """Who hung each isolation lock of a hold, by the tag of the device."""
    freed = {json.loads(r.detail)["owner"] for r in store.box_records(hold, ["isolation locks freed"])}
    found = {}
    for r in store.box_records(hold, ["confirmed"]):
        detail = json.loads(r.detail)
        if "locked" in detail["acts"]:
            owner = detail["operator_id"]
            found[detail["identity"]] = Hung(owner, detail["operator"], owner in freed)
        elif "unlocked" in detail["acts"]:
            found.pop(detail["identity"], None)
    return found


def anything_left(hold: str) -> bool:
    """Does anything hang under the hold: isolation locks, tags, grounds, personal locks?"""
    field = network.site().field
    hangs = any(hold in (*d.locks, *d.tags) for d in field.devices.values())
    return hangs or any(g.hold == hold for g in field.grounds) or bool(locks_on(hold))


def view(hold: str) -> Box | None:
    """The box once an isolation was handed over, else None."""
    program = _isolation(hold)
    if program is None or program.state != "done":
        return None
    state, locks = _fold(hold)
    return Box(hold, state["taken_by"], state["taken_at"], state["in_charge_id"], locks, state["complete"],
               state["completed_by"], unsound(program))  # fmt: skip


def unsound(program: Program) -> tuple[Broken, ...]:
    """What the isolation lacks as the field stands: a lock, a proof, a ground that has gone since the handover."""
    from spinel.actions import programs

    return tuple(unproved(programs.order_of(program), network.site().field))


def _isolation(hold: str) -> Program | None:
    """The isolation that stands under a hold: its latest that is not a practice."""
    found = [p for p in store.of_hold(hold) if p.purpose == ISOLATION and not p.practice]
    return found[-1] if found else None


def _handed_over(hold: str) -> tuple[Program, Box]:
    program, box = _isolation(hold), view(hold)
    if program is None:
        raise NotFound("isolation", hold)
    if box is None:
        raise Refusal("the box follows the handover", f"{program.number} is not handed over.", "Execute it to its end.")
    return program, box


def _record(act: Act, program: Program, kind: str, detail: dict[str, Any]) -> None:
    store.add_record(
        program.id, kind, act.actor.id, act.actor.name, program.content_hash, canonical(detail), act.at
    )  # fmt: skip


def take(act: Act, hold: str) -> None:
    """The person in charge who was named at the handover takes the isolation and its box over."""
    act.actor.needs("person_in_charge", what="take over an isolation")
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(hold)
        if box.taken_by and not box.complete:
            raise Refusal("one person in charge", f"{box.taken_by} has the box.", "It is already taken over.")
        if program.in_charge_id != act.actor.id:
            name = program.in_charge.name if program.in_charge else "nobody"
            raise Refusal("one person in charge", f"It was handed over to {name}.", "They take it over.")
        released = [r for r in store.records(program.id) if r.kind == "released"]
        if any(r.person_id == act.actor.id for r in released):
            raise Refusal("separation of duties", "You released this program.", "Hand it over to somebody else.")
        _need_sound(box)
        _record(act, program, "box taken", {})
        unit.record("box taken", f"program:{program.number}", {"hold": hold})


def _need_sound(box: Box) -> None:
    if box.unsound:
        raise box.unsound[0].refusal()


def hang(act: Act, hold: str, lock: str) -> None:
    """A worker hangs the own lock on the box before starting to work behind it."""
    act.actor.needs("worker", "person_in_charge", what="hang a personal lock")
    number = " ".join(lock.split())
    if not 1 <= len(number) <= 20:
        raise InputError("lock", lock, "the number on your lock, 1 to 20 characters")
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(hold)
        if not box.taken_by or box.complete:
            why = "Work is declared complete." if box.complete else "Nobody has taken over the box yet."
            raise Refusal("locks hang on a box somebody has", why, "The person in charge takes it over first.")
        _need_sound(box)
        if any(p.person_id == act.actor.id for p in box.locks):
            raise Refusal("one lock a person", "Your lock hangs there already.", "Leave it until you are out.")
        if any(p.lock == number for p in box.locks):
            raise InputError("lock", number, "a lock that does not hang there already")
        if act.actor.id is not None:
            kind = network.equipment_class(*_place(program))
            day = network.site_day(act.now)
            people.need_qualified(act.actor.id, act.actor.name, program.job.task_id, kind, day)
        _record(act, program, "lock hung", {"lock": number})
        unit.record("personal lock hung", f"program:{program.number}", {"hold": hold, "lock": number})


def _place(program: Program) -> tuple[Any, Any, str]:
    here = network.site()
    return here.network, here.network.get(program.job.element_id), program.job.touches


def remove(act: Act, hold: str) -> None:
    """Whoever hung it takes it off; nobody else."""
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(hold)
        own = next((p for p in box.locks if p.person_id == act.actor.id), None)
        if own is None:
            raise Refusal("a lock is removed by whoever hung it", "No lock of yours hangs there.", "Leave the others.")
        _record(act, program, "lock removed", {"lock": own.lock})
        unit.record("personal lock removed", f"program:{program.number}", {"hold": hold, "lock": own.lock})


def absent(act: Act, hold: str, owner: int, reason: str) -> bool:
    """The absent-owner procedure, one half at a time: a coordinator and the person in charge, two people.

    True when this was the second half: a personal lock is off, isolation locks may be taken off by another operator.
    """
    act.actor.needs("coordinator", "person_in_charge", what="remove the lock of somebody absent")
    text = reason.strip()
    if not 10 <= len(text) <= 500:
        raise InputError("reason", reason, "what was done to reach the owner, and that they are not there: 10 to 500")
    with work(act) as unit:
        if unit.done:
            return False
        program, box = _handed_over(hold)
        lock = next((p for p in box.locks if p.person_id == owner), None) or _operators_lock(hold, owner)
        if lock is None:
            raise NotFound("lock of person", owner)
        hers = any(p.person_id == owner for p in box.locks)
        if owner == act.actor.id:
            raise Refusal("a lock is removed by whoever hung it", "It is your own.", "Take it off yourself.")
        own_half = _half(act, box)
        first = lock.absent
        if first is None:
            kind = "owner absent" if hers else "operator absent"
            _record(act, program, kind, {"owner": owner, "reason": text, "half": own_half})
            unit.record("owner absent", f"program:{program.number}", {"owner": lock.name, "reason": text})
            return False
        if first["by_id"] == act.actor.id or first["half"] == own_half:
            raise Refusal(
                "an absent owner's lock needs two", f"{first['by']} gave the {first['half'].replace('_', ' ')}'s half.",
                "The other half is the person in charge's or a coordinator's, somebody else.",
            )  # fmt: skip
        kind = "absent lock removed" if hers else "isolation locks freed"
        _record(act, program, kind, {"owner": owner, "reason": text, "with": first["by"]})
        unit.record("absent owner's lock removed", f"program:{program.number}",
                    {"owner": lock.name, "lock": lock.lock, "with": first["by"], "reason": text})  # fmt: skip
    return True


def _operators_lock(hold: str, owner: int) -> PersonalLock | None:
    """The isolation locks of an operator who is absent, as one lock: two people may free them for another operator."""
    tag = next((t for t, hung in isolation_locks(hold).items() if hung.person_id == owner and not hung.freed), None)
    if tag is None:
        return None
    said = None
    for r in store.box_records(hold, ["operator absent"]):
        detail = json.loads(r.detail)
        if detail["owner"] == owner:
            said = {**detail, "by": r.person_name, "by_id": r.person_id, "at": r.at}
    return PersonalLock(owner, isolation_locks(hold)[tag].name, tag, "", said)


def _half(act: Act, box: Box) -> str:
    if act.actor.id == box.in_charge_id:
        return "person_in_charge"
    if "coordinator" in act.actor.roles:
        return "coordinator"
    raise Refusal(
        "an absent owner's lock needs two", f"{box.taken_by} is in charge of this box.", "They and a coordinator."
    )


def complete(act: Act, hold: str) -> None:
    """The person in charge: the work is done, tools and people are out, every personal lock is off."""
    act.actor.needs("person_in_charge", what="declare work complete")
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(hold)
        if box.in_charge_id != act.actor.id:
            who = box.taken_by or "Nobody"
            raise Refusal("one person in charge", f"{who} has the box.", "They declare it complete.")
        if box.locks:
            names = ", ".join(p.name for p in box.locks)
            raise Refusal("personal locks come off first", f"Still on the box: {names}.", "Each takes off their own.")
        if box.complete:
            raise Refusal("declared once", "It is declared complete.", "Go on with the restoration.")
        _record(act, program, "work complete", {})
        unit.record("work complete", f"program:{program.number}", {"hold": hold})


def may_restore(hold: str) -> None:
    """Refusal unless a restoration of the hold may be released: complete and all personal locks off."""
    program = _isolation(hold)
    state, locks = _fold(hold)
    if locks:
        names = ", ".join(p.name for p in locks)
        raise Refusal("personal locks come off first", f"Still on the box: {names}.", "Each takes off their own.")
    if program is None or program.state not in ENDED:
        raise Refusal(
            "restoration follows its isolation", "The isolation has not ended.", "Execute or abandon it first."
        )
    if program.state == "done" and not state["complete"]:
        raise Refusal(
            "restoration follows the work", "Work is not declared complete.", "The person in charge declares it."
        )
