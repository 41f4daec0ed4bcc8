"""The life of a switching program: draft > checked > released > executing <> stopped, then done; end: abandoned.

Resuming is at the same step with nothing deviated. A deviation abandons it; a successor is drafted from the state as
it is. An edit after the check returns it to draft and voids the check.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping

from spinel.core.life import Move, check
from spinel.core.people import ROLES
from spinel.core.said import Sayable, say

STATES = ("draft", "checked", "released", "executing", "stopped", "done", "abandoned")
ENDED = ("done", "abandoned")
SIGNED = ("checked", "released")
NAMES: Mapping[str, Sayable] = {state: say(f"program-state-{state}") for state in STATES}

_WRITERS = ("coordinator", "person_in_charge")

MOVES: Mapping[str, Move] = {
    "edit": Move(("draft", "checked", "released"), "draft", _WRITERS, say("switching-life-edit-a-program")),
    "check": Move(("draft",), "checked", ("director", "coordinator"), say("switching-life-check-a-program")),
    "release": Move(("checked",), "released", ("coordinator",), say("switching-life-release-a-program")),
    "start": Move(("released",), "executing", ("director",), say("switching-life-start-a-program")),
    "confirm": Move(("executing",), "", ("director",), say("switching-life-confirm-a-step")),
    "operator": Move(("executing", "stopped"), "", ("director",), say("switching-life-name-another-operator")),
    "stop": Move(("executing",), "stopped", tuple(ROLES), say("switching-life-stop-a-program")),
    "resume": Move(("stopped",), "executing", ("director",), say("switching-life-resume-a-program")),
    "deviate": Move(
        ("executing", "stopped"), "abandoned", ("director", "coordinator"), say("switching-life-record-a-deviation")
    ),
    "abandon": Move(
        ("draft", "checked", "released", "stopped"),
        "abandoned",
        ("coordinator", "director"),
        say("switching-life-abandon-a-program"),
    ),
}

#: Who did what before decides who may not do this: act -> past parts that forbid it.
DUTIES_APART: Mapping[str, tuple[str, ...]] = {
    "check": ("writer",),
    "release": ("checker",),
    "confirm": ("operator",),
}


def check_move(act: str, state: str, roles: Collection[str], parts: Collection[str]) -> Move:
    """The move, or a Refusal. ``parts``: what the person already is on this program (writer, checker, releaser,
    director, operator)."""
    return check(MOVES[act], "program", state, roles, parts, DUTIES_APART.get(act, ()), NAMES)
