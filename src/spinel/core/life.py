"""What the lives of permits and programs share: a move, who may make it, and from which states."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from spinel.core.errors import NotAllowed, Refusal
from spinel.core.people import any_of


@dataclass(frozen=True)
class Move:
    """``source``: states from which. ``target`` empty: the state stays. ``roles``: any of them may.

    ``says``: the act in words, as in "may *approve a permit*". ``password``: asked again.
    """

    source: tuple[str, ...]
    target: str
    roles: tuple[str, ...]
    says: str
    password: bool = False


def check(
    move: Move, thing: str, state: str, roles: Collection[str], parts: Collection[str], apart: Collection[str],
    names: Mapping[str, str],
) -> Move:  # fmt: skip
    """The move, or a Refusal: wrong role, a duty that must be somebody else's, or the wrong state.

    ``parts``: what the person already is on this record; ``apart``: those of them that forbid the move.
    """
    if not set(roles) & set(move.roles):
        raise NotAllowed("who may", f"Only {any_of(move.roles)} may {move.says}.", "Ask somebody with that role.")
    clash = next((p for p in apart if p in parts), None)
    if clash:
        raise NotAllowed(
            "separation of duties", f"You are the {clash} of this {thing} and so may not {move.says}.",
            "Somebody else with the role must do it.",
        )  # fmt: skip
    if state not in move.source:
        allowed = ", ".join(names[s].lower() for s in move.source)
        raise Refusal(
            f"life of a {thing}", f"It is {names[state].lower()}; to {move.says}, it must be {allowed}.",
            f"Open the {thing} again: somebody may have acted meanwhile.",
        )  # fmt: skip
    return move
