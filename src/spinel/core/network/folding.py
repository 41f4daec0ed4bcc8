"""A board folded into one plate: what hangs only on it is not drawn, and stands there as a comb, one tooth a feeder, so
that nothing off normal can hide in a fold."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import FEEDS
from spinel.core.network.ways import everything, reach


@dataclass(frozen=True)
class Folded:
    """``network``: what is still drawn. ``teeth``: of each folded board, what hangs at it, in the document's order.
    ``hidden``: elements that are not drawn, with the board that they are folded into."""

    network: Network
    teeth: Mapping[str, tuple[Element, ...]]
    hidden: Mapping[str, str]

    @cached_property
    def below(self) -> dict[str, tuple[str, ...]]:
        """Hidden elements by board."""
        found: dict[str, list[str]] = {}
        for element_id, board in self.hidden.items():
            found.setdefault(board, []).append(element_id)
        return {board: tuple(ids) for board, ids in found.items()}


def foldable(network: Network) -> tuple[Element, ...]:
    """Boards at which something hangs that hangs nowhere else."""
    return tuple(e for e in network.elements if e.kind == "bus" and _below(network, e))


def folded(network: Network, boards: Collection[str]) -> Folded:
    """The network with these boards folded, by element id; one inside another goes with it. What is none is left."""
    hidden: dict[str, str] = {}
    teeth: dict[str, tuple[Element, ...]] = {}
    # the largest first: a board that hangs on another folded one is no plate of its own
    wanted = [e for e in network.elements if e.id in boards and e.kind == "bus"]
    below = {e.id: _below(network, e) for e in wanted}
    for board in sorted(wanted, key=lambda e: -len(below[e.id])):
        if board.id in hidden or not below[board.id]:
            continue
        own = [e for e in network.elements if e.id in below[board.id]]
        teeth[board.id] = tuple(e for e in own if board.ends[0] in e.ends)
        hidden |= {e.id: board.id for e in own}
    teeth = {i: t for i, t in teeth.items() if i not in hidden}
    elements = tuple(e for e in network.elements if e.id not in hidden)
    used = {n for e in elements for n in e.ends}
    drawn = replace(network, elements=elements, nodes=tuple(n for n in network.nodes if n.id in used), cases=())
    return Folded(drawn, teeth, hidden)


def _below(network: Network, board: Element) -> frozenset[str]:
    """Ids of what has no way to anything that feeds but over this board."""
    node = board.ends[0]
    feeding = [e for e in network.elements if e.kind == "source"]
    feeding = feeding or [e for e in network.elements if e.row.supplies == FEEDS]
    starts = [n for e in feeding for n in e.ends if n != node]
    kept = set(reach(network, starts, lambda e: () if node in e.ends else everything(e))) - {node}
    # an element at the board that leads to what is fed otherwise stays: its main, a tie
    return frozenset(
        e.id for e in network.elements
        if e.id != board.id and not any(n in kept for n in e.ends) and e not in feeding
        and not (e.kind == "bus" and e.ends[0] == node)
    )  # fmt: skip
