"""What the lives of permits and programs share: a move, who may make it, and from which states."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from spinel.core.errors import NotAllowed, Refusal
from spinel.core.people import any_of
from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class Move:
    """``source``: states from which. ``target`` empty: the state stays. ``roles``: any of them may.

    ``says``: the act in words, as in "may *approve a permit*". ``password``: asked again.
    """

    source: tuple[str, ...]
    target: str
    roles: tuple[str, ...]
    says: Sayable
    password: bool = False


def check(
    move: Move,
    thing: str,
    state: str,
    roles: Collection[str],
    parts: Collection[str],
    apart: Collection[str],
    names: Mapping[str, Sayable],
) -> Move:
    """The move, or a Refusal: wrong role, a duty that must be somebody else's, or the wrong state.

    ``parts``: what the person already is on this record; ``apart``: those of them that forbid the move.
    """
    if not set(roles) & set(move.roles):
        raise NotAllowed(
            say("core-life-who-may"),
            say("core-life-only-may", any_of=any_of(move.roles), says=move.says),
            say("core-life-ask-somebody-with-that-role"),
        )
    clash = next((p for p in apart if p in parts), None)
    if clash:
        raise NotAllowed(
            say("core-life-separation-of-duties"),
            say(
                "core-life-you-are-the-of-this-and-so",
                clash=say(f"part-{clash}"),
                thing=say(f"kind-of-record-{thing}"),
                says=move.says,
            ),
            say("core-life-somebody-else-with-the-role-must-do"),
        )
    if state not in move.source:
        allowed = tuple(names[s] for s in move.source)
        raise Refusal(
            say("core-life-life-of-a", thing=say(f"kind-of-record-{thing}")),
            say("core-life-it-is-to-it-must-be", state=names[state], says=move.says, allowed=allowed),
            say("core-life-open-the-again-somebody-may-have-acted", thing=say(f"kind-of-record-{thing}")),
        )
    return move
