"""The life of a switching program: draft > checked > released > executing <> stopped, then done; end: abandoned.

Resuming is at the same step with nothing deviated. A deviation abandons it; a successor is drafted from the state as
it is. An edit after the check returns it to draft and voids the check.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from spinel.core.errors import NotAllowed, Refusal
from spinel.core.people import ROLES, any_of

STATES = ("draft", "checked", "released", "executing", "stopped", "done", "abandoned")
ENDED = ("done", "abandoned")
SIGNED = ("checked", "released")
NAMES = {
    "draft": "Draft", "checked": "Checked", "released": "Released", "executing": "Executing", "stopped": "Stopped",
    "done": "Done", "abandoned": "Abandoned",
}  # fmt: skip


@dataclass(frozen=True)
class Move:
    """``roles``: any of them may. ``source``: states from which. ``target`` empty: the state stays."""

    source: tuple[str, ...]
    target: str
    roles: tuple[str, ...]
    says: str


_WRITERS = ("coordinator", "person_in_charge")

MOVES: Mapping[str, Move] = {
    "edit": Move(("draft", "checked", "released"), "draft", _WRITERS, "edit a program"),
    "check": Move(("draft",), "checked", ("director", "coordinator"), "check a program"),
    "release": Move(("checked",), "released", ("coordinator",), "release a program"),
    "start": Move(("released",), "executing", ("director",), "start a program"),
    "confirm": Move(("executing",), "", ("director",), "confirm a step"),
    "operator": Move(("executing", "stopped"), "", ("director",), "name another operator"),
    "stop": Move(("executing",), "stopped", tuple(ROLES), "stop a program"),
    "resume": Move(("stopped",), "executing", ("director",), "resume a program"),
    "deviate": Move(("executing", "stopped"), "abandoned", ("director", "coordinator"), "record a deviation"),
    "abandon": Move(("draft", "checked", "released", "stopped"), "abandoned", ("coordinator", "director"),
                    "abandon a program"),
}  # fmt: skip

#: Who did what before decides who may not do this: act -> past parts that forbid it.
DUTIES_APART: Mapping[str, tuple[str, ...]] = {
    "check": ("writer",),
    "release": ("checker",),
    "confirm": ("operator",),
}


def check_move(act: str, state: str, roles: Collection[str], parts: Collection[str]) -> Move:
    """The move, or a Refusal: wrong role, a duty that must be somebody else's, or the wrong state.

    ``parts``: what the person already is on this program (writer, checker, releaser, director, operator).
    """
    move = MOVES[act]
    if not set(roles) & set(move.roles):
        raise NotAllowed("who may", f"Only {any_of(move.roles)} may {move.says}.", "Ask somebody with that role.")
    clash = next((p for p in DUTIES_APART.get(act, ()) if p in parts), None)
    if clash:
        raise NotAllowed(
            "separation of duties", f"You are the {clash} of this program and so may not {move.says}.",
            "Somebody else with the role must do it.",
        )  # fmt: skip
    if state not in move.source:
        allowed = ", ".join(NAMES[s].lower() for s in move.source)
        raise Refusal(
            "life of a program", f"It is {NAMES[state].lower()}; to {move.says}, it must be {allowed}.",
            "Open the program again: somebody may have acted meanwhile.",
        )  # fmt: skip
    return move
