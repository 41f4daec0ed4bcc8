"""A confirmation that came for a state which is no longer that one: refused as a step, and kept as what was found."""

from __future__ import annotations

from spinel.actions import locks, reviews
from spinel.actions.acting import Unit
from spinel.actions.keeping import keep, save
from spinel.actions.program_view import ProgramView, stored, word, write
from spinel.core.errors import Refusal
from spinel.core.network.now import UNSURE_BLOCK, UNSURE_GROUND, UNSURE_LOCK, UNSURE_POSITION, FieldEvent
from spinel.core.said import Sayable, say
from spinel.store.models import Program


class Moved(Refusal):
    """The state has moved since the confirmation was made; what it says was done is kept as found."""


_UNSURE = {
    "operate": UNSURE_POSITION,
    "lock": UNSURE_LOCK,
    "ground": UNSURE_GROUND,
    "block": UNSURE_BLOCK,
    "discharge": UNSURE_BLOCK,
}


def keep_as_found(unit: Unit, program: Program, seen: ProgramView, step: int, why: Sayable) -> Moved:
    """Whatever was done is not a step of this program, but it was done: the record stops knowing that thing."""
    done = seen.steps[step - 1]
    already = step <= program.step
    hung = done.kind == "lock" and "locked" in done.acts
    if done.kind in _UNSURE and not already and not hung:
        note = say("console-said-to-be-done-as-step-of", step=step, number=program.number, action=done.action)
        event = FieldEvent(
            sequence=0,
            at="",
            actor="",
            kind="found",
            element_id=done.element_id,
            value=_UNSURE[done.kind],
            hold=program.hold,
            node_id=done.node_id,
        )
        write(unit, program, note, (event, {}))
        locks.no_longer_sure(unit, program, done, seen.operator)
        if not program.practice:
            element = unit.site.as_it_is().network.element[done.element_id]
            reviews.after_found(unit, element, say("console-as-nobody-recorded-it"))
    reason = say("console-step-was-confirmed-for-a-state-that", step=step, why=why)
    fresh = stored(program.number)
    if fresh.state == "executing":
        save(unit.act, fresh, fresh.version, state="stopped", stopped_because=reason)
        keep(unit, fresh, "stopped", {"because": reason})
    unit.record(
        word(program, "confirmation refused"),
        f"program:{program.number}",
        {"step": step, "said": done.action, "why": why},
    )
    return Moved(
        say("console-a-confirmation-is-for-the-state-it"),
        reason,
        say("console-what-was-done-is-kept-as-found"),
    )
