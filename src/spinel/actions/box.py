"""The box of an isolation: taken over by the person in charge, one personal lock a worker, work declared complete.

Only the person who hung a lock removes it; for somebody absent a coordinator and the person in charge do it together,
each signed in, with what was done to reach the owner.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions.acting import Act, Unit, work
from spinel.actions.keeping import keep
from spinel.actions.locks import (
    BoxState,
    PersonalLock,
    absent_of,
    equipment_of,
    isolation_locks,
    said_absent,
    state_of,
)
from spinel.actions.program_view import order_of
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.people import role_name
from spinel.core.said import say
from spinel.core.switching.life import ENDED
from spinel.core.switching.order import ISOLATION, Broken
from spinel.core.switching.step_rules import unproved
from spinel.store import holds
from spinel.store import programs as store
from spinel.store.holds import PERSONAL, Place
from spinel.store.models import Program


@dataclass(frozen=True)
class Box(BoxState):
    """``unsound``: why nobody may work behind it now, however it was left."""

    hold: str = ""
    unsound: tuple[Broken, ...] = ()


@on_site
def view(site: Site, hold: str) -> Box | None:
    """The box once an isolation was handed over, else None."""
    return box_of(site.as_it_is(), hold)


def box_of(here: SiteNow, hold: str) -> Box | None:
    program = store.latest(hold, ISOLATION)
    if program is None or program.state != "done":
        return None
    return Box(**vars(state_of(hold)), hold=hold, unsound=unsound(here, program))


def unsound(here: SiteNow, program: Program) -> tuple[Broken, ...]:
    """What the isolation lacks as the field stands: a lock, a proof, a ground that has gone since the handover."""
    return tuple(unproved(order_of(program, here), here.field))


@on_site
def operators_locks(site: Site, hold: str) -> tuple[PersonalLock, ...]:
    """The isolation locks of each operator, one a person, for the absent-owner procedure."""
    element = site.as_it_is().network.element
    owners = {row.person_id: row for row in isolation_locks(hold) if not row.freed}
    return tuple(
        PersonalLock(person, row.owner, say("box-isolation-lock-on", tag=element[row.element_id].tag), "")
        for person, row in owners.items()
    )


def _handed_over(unit: Unit, hold: str) -> tuple[Program, Box]:
    program, box = store.latest(hold, ISOLATION), box_of(unit.site.as_it_is(), hold)
    if program is None:
        raise NotFound("isolation", hold)
    if box is None:
        raise Refusal(
            say("box-the-box-follows-the-handover"),
            say("box-is-not-handed-over", number=program.number),
            say("box-execute-it-to-its-end"),
        )
    return program, box


@on_site
def take(act: Act, hold: str) -> None:
    """The person in charge who was named at the handover takes the isolation and its box over."""
    act.actor.needs("person_in_charge", what=say("box-take-over-an-isolation"))
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(unit, hold)
        if box.taken_by and not box.complete:
            raise Refusal(
                say("box-one-person-in-charge"),
                say("box-has-the-box", taken_by=box.taken_by),
                say("box-it-is-already-taken-over"),
            )
        if program.in_charge_id != act.actor.id:
            name = act.site.names().get(program.in_charge_id or 0, "nobody")
            raise Refusal(
                say("box-one-person-in-charge"),
                say("box-it-was-handed-over-to", name=name),
                say("box-they-take-it-over"),
            )
        released = [r for r in store.records(program.id) if r.kind == "released"]
        if any(r.person_id == act.actor.id for r in released):
            raise Refusal(
                say("box-separation-of-duties"),
                say("box-you-released-this-program"),
                say("box-hand-it-over-to-somebody-else"),
            )
        _need_sound(box)
        assert act.actor.id is not None
        holds.take_box(hold, equipment_of(program), act.actor.id, act.actor.name, act.at)
        keep(unit, program, "box taken", {})
        unit.record("box taken", f"program:{program.number}", {"hold": hold})


def _need_sound(box: Box) -> None:
    if box.unsound:
        raise box.unsound[0].refusal()


@on_site
def hang(act: Act, hold: str, lock: str) -> None:
    """Anybody exposed behind the isolation hangs the own lock on its box, whatever their role or qualification."""
    number = texts.LOCK.check(lock)
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(unit, hold)
        if not box.taken_by or box.complete:
            why = say("box-work-is-declared-complete") if box.complete else say("box-nobody-has-taken-over-the-box-yet")
            raise Refusal(
                say("box-locks-hang-on-a-box-somebody-has"), why, say("box-the-person-in-charge-takes-it-over")
            )
        _need_sound(box)
        if any(p.person_id == act.actor.id for p in box.locks):
            raise Refusal(
                say("box-one-lock-a-person"),
                say("box-your-lock-hangs-there-already"),
                say("box-leave-it-until-you-are-out"),
            )
        if any(p.lock == number for p in box.locks):
            raise InputError("lock", number, say("box-a-lock-that-does-not-hang-there"))
        assert act.actor.id is not None
        holds.hang(Place(hold, PERSONAL), number, act.actor.id, act.actor.name, act.at, practice=False)
        keep(unit, program, "lock hung", {"lock": number})
        unit.record("personal lock hung", f"program:{program.number}", {"hold": hold, "lock": number})


@on_site
def remove(act: Act, hold: str) -> None:
    """Whoever hung it takes it off; nobody else."""
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(unit, hold)
        own = next((p for p in box.locks if p.person_id == act.actor.id), None)
        if own is None:
            raise Refusal(
                say("box-a-lock-is-removed-by-whoever-hung"),
                say("box-no-lock-of-yours-hangs-there"),
                say("box-leave-the-others"),
            )
        holds.take_off(Place(hold, PERSONAL), act.at, act.actor.name, own.person_id)
        keep(unit, program, "lock removed", {"lock": own.lock})
        unit.record("personal lock removed", f"program:{program.number}", {"hold": hold, "lock": own.lock})


@on_site
def absent(act: Act, hold: str, owner: int, reason: str) -> bool:
    """The absent-owner procedure, one half at a time: a coordinator and the person in charge, two people.

    True when this was the second half: a personal lock is off, isolation locks may be taken off by another operator.
    """
    act.actor.needs("coordinator", "person_in_charge", what=say("box-remove-the-lock-of-somebody-absent"))
    text = texts.ABSENT.check(reason)
    with work(act) as unit:
        if unit.done:
            return False
        program, box = _of_absent(unit, hold)
        lock = next((p for p in box.locks if p.person_id == owner), None) or _operators_lock(unit, hold, owner)
        if lock is None:
            raise NotFound("lock of person", owner)
        hers = any(p.person_id == owner for p in box.locks)
        if owner == act.actor.id:
            raise Refusal(
                say("box-a-lock-is-removed-by-whoever-hung"), say("box-it-is-your-own"), say("box-take-it-off-yourself")
            )
        own_half = _half(act, box, owner)
        first = lock.absent
        if first is None:
            kind = "owner absent" if hers else "operator absent"
            half = {"owner": owner, "reason": text, "half": own_half}
            said_absent(unit, hold, hers, owner, half)
            keep(unit, program, kind, half)
            unit.record("owner absent", f"program:{program.number}", {"owner": lock.name, "reason": text})
            return False
        if first["by_id"] == act.actor.id or first["half"] == own_half:
            raise Refusal(
                say("box-an-absent-owners-lock-needs-two"),
                say("box-gave-the-s-half", by=first["by"], half=role_name(first["half"])),
                say("box-the-other-half-is-the-person-in"),
            )
        if hers:
            holds.take_off(Place(hold, PERSONAL), act.at, act.actor.name, owner)
        else:
            holds.free(hold, owner)
        kind = "absent lock removed" if hers else "isolation locks freed"
        keep(unit, program, kind, {"owner": owner, "reason": text, "with": first["by"]})
        unit.record(
            "absent owner's lock removed",
            f"program:{program.number}",
            {"owner": lock.name, "lock": lock.lock, "with": first["by"], "reason": text},
        )
    return True


def _operators_lock(unit: Unit, hold: str, owner: int) -> PersonalLock | None:
    """The isolation locks of an operator who is absent, as one lock: two people may free them for another operator."""
    row = next((r for r in isolation_locks(hold) if r.person_id == owner and not r.freed), None)
    if row is None:
        return None
    tag = unit.site.as_it_is().network.element[row.element_id].tag
    return PersonalLock(owner, row.owner, tag, row.since, absent_of(row))


def _of_absent(unit: Unit, hold: str) -> tuple[Program, BoxState]:
    """The isolation with its box as it is, whatever became of it: an operator's locks may hang before any handover."""
    program = store.latest(hold, ISOLATION)
    if program is None:
        raise NotFound("isolation", hold)
    return program, state_of(hold)


def _half(act: Act, box: BoxState, owner: int) -> str:
    """Which half somebody is: the person in charge, or, where nobody is or it is the owner, another of that role."""
    if act.actor.id == box.in_charge_id:
        return "person_in_charge"
    if box.in_charge_id in (None, owner) and "coordinator" not in act.actor.roles:
        return "person_in_charge"
    if "coordinator" in act.actor.roles:
        return "coordinator"
    raise Refusal(
        say("box-an-absent-owners-lock-needs-two"),
        say("box-is-in-charge-of-this-box", taken_by=box.taken_by),
        say("box-they-and-a-coordinator"),
    )


@on_site
def complete(act: Act, hold: str) -> None:
    """The person in charge: the work is done, tools and people are out, every personal lock is off."""
    act.actor.needs("person_in_charge", what=say("box-declare-work-complete"))
    with work(act) as unit:
        if unit.done:
            return
        program, box = _handed_over(unit, hold)
        if box.in_charge_id != act.actor.id:
            who = box.taken_by or "Nobody"
            raise Refusal(
                say("box-one-person-in-charge"), say("box-has-the-box-2", who=who), say("box-they-declare-it-complete")
            )
        if box.locks:
            names = ", ".join(p.name for p in box.locks)
            raise Refusal(
                say("box-personal-locks-come-off-first"),
                say("box-still-on-the-box", names=names),
                say("box-each-takes-off-their-own"),
            )
        if box.complete:
            raise Refusal(
                say("box-declared-once"), say("box-it-is-declared-complete"), say("box-go-on-with-the-restoration")
            )
        holds.complete_box(hold, act.actor.name)
        keep(unit, program, "work complete", {})
        unit.record("work complete", f"program:{program.number}", {"hold": hold})


def may_restore(hold: str) -> None:
    """Refusal unless a restoration of the hold may be released: complete and all personal locks off."""
    program, state = store.latest(hold, ISOLATION), state_of(hold)
    if state.locks:
        names = ", ".join(p.name for p in state.locks)
        raise Refusal(
            say("box-personal-locks-come-off-first"),
            say("box-still-on-the-box", names=names),
            say("box-each-takes-off-their-own"),
        )
    if program is None or program.state not in ENDED:
        raise Refusal(
            say("box-restoration-follows-its-isolation"),
            say("box-the-isolation-has-not-ended"),
            say("box-execute-or-abandon-it-first"),
        )
    if program.state == "done" and not state.complete:
        raise Refusal(
            say("box-restoration-follows-the-work"),
            say("box-work-is-not-declared-complete"),
            say("box-the-person-in-charge-declares-it"),
        )
