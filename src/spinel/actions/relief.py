"""Relief in the middle: whoever directs, operates or is in charge hands over to somebody else, and both sign.

The first half names who takes over, the second is signed by them. Isolation locks go with an operator: the new one's
lock hangs beside the old before that comes off, so that there is no gap.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from spinel.actions import people
from spinel.actions.acting import Act, Unit, work
from spinel.actions.keeping import keep, save
from spinel.actions.locks import equipment_of, hand_over_locks, isolation_locks, lock_numbers, state_of
from spinel.actions.program_moves import need_qualified_for
from spinel.actions.program_view import ProgramView, as_view, stored, word
from spinel.actions.signed import Record
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.said import say
from spinel.core.switching.order import ISOLATION
from spinel.store import holds
from spinel.store.models import Hung, Program

DIRECTOR, OPERATOR, IN_CHARGE = "director", "operator", "in_charge"
PARTS = (DIRECTOR, OPERATOR, IN_CHARGE)
#: The role that a person must have for it.
ROLE = {DIRECTOR: "director", OPERATOR: "operator", IN_CHARGE: "person_in_charge"}


@dataclass(frozen=True, kw_only=True)
class Relief:
    """``part``: what is handed over. ``locks``: tags of devices whose isolation lock goes with it. ``locks_only``: its
    giver was replaced as operator before, and has nothing else to hand on."""

    part: str
    by_id: int
    by: str
    to_id: int
    to: str
    at: str
    locks: tuple[str, ...]
    locks_only: bool = False


def _holders(seen: ProgramView) -> dict[str, frozenset[int | None]]:
    """Who holds each part now; nobody, where it is over. An operator who was replaced may still have locks there."""
    under_way = seen.state in ("executing", "stopped")
    box = state_of(seen.hold) if seen.purpose == ISOLATION and not seen.practice else None
    owners = {row.person_id for row in _locks(seen)}
    return {
        DIRECTOR: frozenset({seen.director_id} if under_way else ()),
        OPERATOR: frozenset(owners | ({seen.operator_id} if under_way else set())),
        IN_CHARGE: frozenset({box.in_charge_id} if box and box.taken_by and not box.complete else ()),
    }


def _locks(seen: ProgramView) -> list[Hung]:
    """The isolation locks of the hold."""
    return [] if seen.practice else isolation_locks(seen.hold)


def _own_locks(seen: ProgramView, person_id: int | None) -> tuple[str, ...]:
    """Tags of the devices on which a person's isolation locks of this hold hang."""
    element = seen.order.network.element
    return tuple(dict.fromkeys(element[row.element_id].tag for row in _locks(seen) if row.person_id == person_id))


@on_site
def parts_of(site: Site, seen: ProgramView, person_id: int) -> tuple[str, ...]:
    """What a person holds of a program and could hand over."""
    holders = _holders(seen)
    return tuple(part for part in PARTS if person_id in holders[part])


@on_site
def waiting(site: Site, seen: ProgramView) -> Relief | None:
    """The half that is signed and waits for the other; None when there is none, or it no longer holds."""
    last = next(
        (r for r in reversed(seen.records) if r.kind in ("relief offered", "relieved", "relief withdrawn")), None
    )
    if last is None or last.kind != "relief offered" or last.person_id not in _holders(seen)[last.detail["part"]]:
        return None
    # it was offered with what its giver was then
    if last.detail.get("operates", True) != _operates(seen, last.detail["part"], last.person_id):
        return None
    return _relief(site, seen, last)


def _relief(site: Site, seen: ProgramView, offered: Record) -> Relief:
    part, to_id = offered.detail["part"], offered.detail["to"]
    by_id = offered.person_id or 0
    locks = _own_locks(seen, by_id) if part == OPERATOR else ()
    only = not _operates(seen, part, by_id)
    return Relief(
        part=part, by_id=by_id, by=offered.name, to_id=to_id, to=site.names().get(to_id, ""), at=offered.at,
        locks=locks, locks_only=only,
    )  # fmt: skip


@on_site
def locks_only(site: Site, seen: ProgramView, person_id: int | None) -> bool:
    """Has somebody nothing of the operator's part but locks of the own, having been replaced?"""
    return not _operates(seen, OPERATOR, person_id)


def _operates(seen: ProgramView, part: str, person_id: int | None) -> bool:
    """False for whoever was replaced as operator and hands on the own locks, nothing else."""
    return part != OPERATOR or seen.operator_id == person_id


@on_site
def offer(act: Act, number: str, part: str, to_id: int) -> None:
    """The first half: who holds a part says who takes it over."""
    with work(act) as unit:
        if unit.done:
            return
        seen = as_view(stored(number), unit.site.as_it_is())
        if part not in PARTS:
            raise InputError("part", part, say("one-of", options=PARTS))
        if act.actor.id is None or act.actor.id not in _holders(seen)[part]:
            raise Refusal(
                say("relief-each-hands-over-their-own"), say("relief-you-are-not-it", part=say(f"relief-part-{part}")),
                say("relief-whoever-is-it-hands-it-over"), "part",
            )  # fmt: skip
        _may_take(act, seen, part, act.actor.id, to_id)
        known = {"part": part, "to": to_id, "operates": _operates(seen, part, act.actor.id)}
        program = stored(number)
        keep(unit, program, "relief offered", known)
        unit.record(word(program, "relief offered"), f"program:{number}", known)


@on_site
def withdraw(act: Act, number: str) -> None:
    """Whoever offered it, or was asked, takes it back."""
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        offered = _open(unit, program)
        if act.actor.id not in (offered.by_id, offered.to_id):
            raise Refusal(
                say("relief-each-hands-over-their-own"), say("relief-it-is-between", by=offered.by, to=offered.to),
                say("relief-leave-it-to-them"),
            )  # fmt: skip
        keep(unit, program, "relief withdrawn", {"part": offered.part})
        unit.record(word(program, "relief withdrawn"), f"program:{number}", {"part": offered.part})


@on_site
def take_over(act: Act, number: str, version: int, said: Mapping[str, str]) -> None:
    """The second half, by whoever was named. ``said``: for an operator ``lock_0``, ``lock_1`` ...: the numbers of the
    own locks that hang beside those of the one before, in the order of ``Relief.locks``."""
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        offered = _open(unit, program)
        if act.actor.id != offered.to_id:
            raise Refusal(
                say("relief-each-hands-over-their-own"), say("relief-it-is-between", by=offered.by, to=offered.to),
                say("relief-leave-it-to-them"),
            )  # fmt: skip
        seen = as_view(program, unit.site.as_it_is())
        _may_take(act, seen, offered.part, offered.by_id, offered.to_id)
        column = {DIRECTOR: "director_id", OPERATOR: "operator_id", IN_CHARGE: "in_charge_id"}[offered.part]
        handed = _locks_beside(seen, offered, said)
        gives = _operates(seen, offered.part, offered.by_id)
        save(act, program, version, **({column: act.actor.id} if gives else {}))
        for tag, lock in handed.items():
            hand_over_locks(unit, seen.hold, seen.order.network.by_tag[tag], offered.by_id, lock)
        known = {"part": offered.part, "from": offered.by, "from_id": offered.by_id, "locks": handed}
        keep(unit, program, "relieved", known)
        if offered.part == IN_CHARGE:
            holds.take_box(seen.hold, equipment_of(program), act.actor.id, act.actor.name, act.at)
            keep(unit, program, "box taken", {"from": offered.by})
        unit.record(word(program, "relieved"), f"program:{number}", known)


def _open(unit: Unit, program: Program) -> Relief:
    offered = waiting(unit.site, as_view(program, unit.site.as_it_is()))
    if offered is None:
        raise NotFound("relief on", program.number)
    return offered


def _locks_beside(seen: ProgramView, offered: Relief, said: Mapping[str, str]) -> dict[str, str]:
    """The number of the new lock on each device, or InputError beside its field."""
    taken, found = lock_numbers(seen.hold, seen.practice), dict[str, str]()
    for i, tag in enumerate(offered.locks):
        number = texts.LOCK.check(said.get(f"lock_{i}", ""), f"lock_{i}")
        if seen.order.network.by_tag[tag].operated_by:
            # the paper of others is signed over, by its number or a new one, and may be for several devices
            found[tag] = number
            continue
        if number in taken or number in found.values():
            raise InputError(f"lock_{i}", number, say("console-a-lock-that-hangs-nowhere-else"))
        found[tag] = number
    return found


def _may_take(act: Act, seen: ProgramView, part: str, by_id: int, to_id: int) -> None:
    """The role, the qualification, and none of the duties that stand against it."""
    person = next((p for p in people.everybody(act.site) if p.id == to_id), None)
    if person is None or ROLE[part] not in person.roles or to_id == by_id:
        raise InputError("to", to_id, say(f"relief-somebody-who-may-{part.replace('_', '-')}"))
    released = any(r.person_id == to_id for r in seen.valid("released"))
    against = {
        DIRECTOR: to_id == seen.operator_id,
        OPERATOR: to_id == seen.director_id or released,
        IN_CHARGE: released,
    }
    if against[part]:
        raise Refusal(
            say("console-separation-of-duties"), say("relief-has-another-part", name=person.name),
            say("relief-name-somebody-else"), "to",
        )  # fmt: skip
    if part == OPERATOR:
        need_qualified_for(act, seen, to_id, person.name, "operate", ("operate", "lock"))
        need_qualified_for(act, seen, to_id, person.name, "test", ("test", "ground", "discharge"))
