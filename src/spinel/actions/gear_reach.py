"""Whom an item touches that goes out of use: who has it, and every proof made with it since its last good look."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions import program_review, stopping
from spinel.actions.acting import Unit
from spinel.actions.program_view import write
from spinel.actions.site import Site, on_site
from spinel.core.isolation.instruments import CONTACT, DETECTOR
from spinel.core.network.circuit import at_present
from spinel.core.network.field import VOID, Proof
from spinel.core.network.liveness import around
from spinel.core.network.now import FieldEvent
from spinel.core.said import Sayable, say
from spinel.core.switching.order import ISOLATION
from spinel.store import gear as store
from spinel.store import permits, programs


@dataclass(frozen=True)
class Touched:
    """``holder``: who has it, for what. ``proofs``: programs whose proofs are over. ``stopped``: programs stopped and
    permits suspended."""

    holder: str = ""
    held_for: str = ""
    proofs: tuple[str, ...] = ()
    stopped: tuple[str, ...] = ()


@on_site
def proved_with(site: Site, number: str, after: int) -> list[tuple[str, str, Proof]]:
    """Proofs in force of every hold that used an instrument after a record: program, hold, and the proof. By the order
    of what was recorded, never by the clock; such a hold counts with all that this kind of instrument proved for it."""
    row = store.one(number)
    kinds: tuple[str, ...] = ("", DETECTOR) if row is not None and row.kind == DETECTOR else ("", CONTACT)
    if row is not None and row.kind == "proving_unit":
        # either kind is proved on one
        kinds = ("", DETECTOR, CONTACT)
    standing = site.as_it_is().field.proofs if site.published() else ()
    standing = tuple(p for p in standing if p.instrument in kinds)
    found = []
    for program, hold in programs.used(number, after):
        found += [(program, hold, p) for p in standing if p.hold == hold]
    return found


def taken_out(unit: Unit, number: str, after: int, why: Sayable) -> Touched:
    """End what was proved with it, stop what relies on that, and say who has it."""
    row = store.one(number)
    assert row is not None
    suspended = _permit_of(unit, row.held_for, say("gear-out-of-use-for", number=number, why=why))
    holder = unit.site.names().get(row.holder_id or 0, "")
    over, stopped, done = list[str](), list[str](), set[tuple[str, str]]()
    for number_of, hold, proof in proved_with(unit.site, number, after):
        if (hold, proof.point) in done:
            continue
        done.add((hold, proof.point))
        program = programs.latest(hold, ISOLATION) or programs.of_hold(hold)[-1]
        here = unit.site.as_it_is()
        reason = say("gear-proof-is-over", number=number, why=why)
        element = next(iter(here.network.at_node.get(proof.point, ())), None)
        element_id = element.id if element else program.job.element_id
        event = FieldEvent(
            sequence=0, at="", actor="", kind="tested", element_id=element_id, value=VOID, hold=hold,
            node_id=proof.point,
        )  # fmt: skip
        write(unit, program, reason, (event, {"instrument": number}))
        over.append(number_of)
        target = here.network.element.get(program.job.element_id)
        if target is not None:
            island = around(here.network, at_present(here.network, here.now), target)
            stopped += program_review.after_found(unit, target, island, reason)
    return Touched(holder, row.held_for, tuple(dict.fromkeys(over)), (*suspended, *dict.fromkeys(stopped)))


def _permit_of(unit: Unit, number: str, reason: Sayable) -> tuple[str, ...]:
    """The permit that it was issued for, suspended where work on it may be going on."""
    permit = permits.permit(number) if number else None
    if permit is None or permit.state not in ("issued", "in_force"):
        return ()
    stopping.suspend(unit, permit, reason)
    return (permit.number,)
