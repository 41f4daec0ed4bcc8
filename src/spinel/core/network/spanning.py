"""From a network to a forest that can be drawn: what hangs under what, and which elements join two branches.

A ``Junction`` is a node as drawn; a ``Hang`` is an element hanging from it, with the junction under it, if any.
Elements that would close a loop (ties, second ends of transfer switches) become ``Tie``s.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass, field

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import ROWS


@dataclass
class Hang:
    """An element below a junction. ``upward``: the chain that stands above a transfer switch's second input."""

    element: Element
    entry: str
    below: Junction | None = None
    also_below: Junction | None = None
    upward: list[Hang] = field(default_factory=list)


@dataclass
class Junction:
    """A node as drawn. ``bus`` is the bus element at it, if any; ``stubs`` are ties that end here."""

    node: str
    bus: Element | None = None
    hangs: list[Hang] = field(default_factory=list)
    stubs: list[Tie] = field(default_factory=list)

    @property
    def branching(self) -> bool:
        return self.bus is not None or len(self.hangs) + len(self.stubs) != 1


@dataclass
class Tie:
    """An element between two junctions that are both already in the forest; it hangs at the first.

    ``switch_end``: the tie stands for the second input of a transfer switch, drawn with the switch.
    """

    element: Element
    at: str
    to: str
    switch_end: bool = False


@dataclass
class Forest:
    roots: list[Junction]
    junctions: dict[str, Junction]
    ties: list[Tie]
    parent: dict[str, str]


def forest(network: Network) -> Forest:
    """Breadth first from all utilities at once, then from whatever they do not reach, so that parallel feeders end
    at equal depth and every utility stands on top of what is nearest to it."""
    f = Forest([], {}, [], {})
    done: set[str] = set()
    _grow(network, f, done, [e.ends[0] for e in network.elements if e.kind == "source"])
    for root in _roots(network):
        _grow(network, f, done, [root])
    return f


def _roots(network: Network) -> list[str]:
    rank = {k.id: k.root for k in ROWS if k.root is not None}
    order = sorted((e for e in network.elements if e.kind in rank), key=lambda e: rank[e.kind])
    return [e.ends[0] for e in order] + [n.id for n in network.nodes]


def _grow(network: Network, f: Forest, done: set[str], roots: list[str]) -> None:
    """Make a tree from each root that is not drawn yet; ``done`` holds the elements that have their place."""
    queue: deque[Junction] = deque()
    for root in dict.fromkeys(roots):
        if root not in f.junctions:
            f.junctions[root] = Junction(root)
            f.roots.append(f.junctions[root])
            queue.append(f.junctions[root])
    while queue:
        junction = queue.popleft()
        for e in network.at_node[junction.node]:
            if e.id in done:
                continue
            done.add(e.id)
            if e.kind == "bus" and junction.bus is None:
                junction.bus = e
            else:
                queue.extend(_hang(network, f, junction, e, done))


def _hang(network: Network, f: Forest, junction: Junction, e: Element, done: set[str]) -> list[Junction]:
    others = [end for end in e.ends if end != junction.node]
    fresh = [end for end in others if end not in f.junctions]
    if others and not fresh:
        tie = Tie(e, junction.node, others[0])
        f.ties.append(tie)
        f.junctions[others[0]].stubs.append(tie)
        # A second loop through the same switch is one more stub of it.
        for extra in others[1:]:
            more = Tie(e, junction.node, extra, switch_end=True)
            f.ties.append(more)
            f.junctions[extra].stubs.append(more)
        junction.hangs.append(Hang(e, junction.node))
        return []
    hang = Hang(e, junction.node)
    junction.hangs.append(hang)
    grown = []
    if e.kind == "transfer_switch":
        grown = _hang_switch(network, f, hang, others, done)
    else:
        if fresh:
            hang.below = _child(f, junction.node, fresh[0])
            grown.append(hang.below)
        # the third winding of a transformer
        if len(fresh) > 1:
            hang.also_below = _child(f, junction.node, fresh[1])
            grown.append(hang.also_below)
    return grown


def _child(f: Forest, parent: str, node: str) -> Junction:
    f.junctions[node] = Junction(node)
    f.parent[node] = parent
    return f.junctions[node]


def _hang_switch(network: Network, f: Forest, hang: Hang, others: list[str], done: set[str]) -> list[Junction]:
    """A transfer switch: its load below; its other input as a chain upward, a tie, or a second branch below."""
    load = hang.element.ends[2]
    below = load if load in others and load not in f.junctions else next(n for n in others if n not in f.junctions)
    hang.below = _child(f, hang.entry, below)
    grown = [hang.below]
    for end in others:
        if end == below:
            continue
        if end in f.junctions:
            tie = Tie(hang.element, hang.entry, end, switch_end=True)
            f.ties.append(tie)
            f.junctions[end].stubs.append(tie)
        elif chain := _chain_up(network, f, end, hang.element):
            hang.upward = chain
            for link in chain:
                done.add(link.element.id)
                f.junctions[link.entry] = Junction(link.entry)
        else:
            hang.also_below = _child(f, hang.entry, end)
            grown.append(hang.also_below)
    return grown


def _chain_up(network: Network, f: Forest, node: str, switch: Element) -> list[Hang]:
    """The simple chain from a switch input up to a single source, or nothing when it branches or loops."""
    chain: list[Hang] = []
    came = switch
    while True:
        onward = [e for e in network.at_node[node] if e.id != came.id]
        if len(onward) != 1 or node in f.junctions or onward[0].kind in ("bus", "transfer_switch"):
            return []
        e = onward[0]
        chain.append(Hang(e, node))
        if len(e.ends) == 1:
            return chain
        came, node = e, next(n for n in e.ends if n != node)
        if any(link.entry == node for link in chain):
            return []


def straighten(f: Forest) -> set[str]:
    """Bring the two buses of a tie side by side where plain chains lead to both; returns those ties' ids."""
    straight: set[str] = set()
    for tie in f.ties:
        if tie.switch_end or straight or not _both_end_on_buses(f, tie):
            continue
        common = _common(f, tie)
        if common is None:
            continue
        hangs = common.hangs
        lanes = [(_chain_end(h), h) for h in hangs]
        a = next((h for end, h in lanes if end == tie.at), None)
        b = next((h for end, h in lanes if end == tie.to), None)
        if a is None or b is None or _chain_kinds(a) != _chain_kinds(b):
            continue
        hangs.remove(b)
        hangs.insert(hangs.index(a) + 1, b)
        own = f.junctions[tie.at].hangs
        mine = next(h for h in own if h.element.id == tie.element.id)
        own.remove(mine)
        own.append(mine)
        straight.add(tie.element.id)
    return straight


def _both_end_on_buses(f: Forest, tie: Tie) -> bool:
    return all(f.junctions[n].branching and f.junctions[n].bus is not None for n in (tie.at, tie.to))


def _common(f: Forest, tie: Tie) -> Junction | None:
    """The lowest junction from which both ends of the tie descend."""
    above_a, above_b = _ancestors(f, tie.at), _ancestors(f, tie.to)
    return next((f.junctions[n] for n in above_a if n in above_b), None)


def _ancestors(f: Forest, node: str) -> list[str]:
    found = []
    while node in f.parent:
        node = f.parent[node]
        found.append(node)
    return found


def _chain_end(hang: Hang) -> str | None:
    """The node of the first branching junction below, along a plain chain."""
    link: Hang | None = hang
    while link is not None and link.below is not None and not link.upward:
        if link.below.branching:
            return link.below.node
        link = link.below.hangs[0] if link.below.hangs else None
    return None


def _chain_kinds(hang: Hang) -> list[str]:
    kinds: list[str] = []
    link: Hang | None = hang
    while link is not None:
        kinds.append(link.element.kind)
        link = link.below.hangs[0] if link.below is not None and not link.below.branching and link.below.hangs else None
    return kinds
