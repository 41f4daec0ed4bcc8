"""What hands and tools reach at a piece of equipment, and what an arc there reaches and destroys.

An arc at a reached end reaches every other end of a device and every node of the compartment opened, unless a barrier
is recorded there. The device that is worked on, and every device whose body is in an opened compartment, never clears
it. One exception: at the terminals of one end alone, with barriers to all its other terminals, the device itself may.
What clears nothing (transformer, cable, converter) simply has its ends. docs/decisions/012-sides.md gives reasons.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.network.document import Element, Enclosure, Network
from spinel.core.network.kinds import CONVERTERS, SERIES, SWITCHING
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say

TERMINALS, BUS, RACKING = "terminals", "bus", "racking"
HOWS = (TERMINALS, BUS, RACKING)
#: How a job of an earlier version said where it touches.
_EARLIER = {"line_side": 0, "feeder": -1}


@dataclass(frozen=True)
class Reach:
    """``ends``: node ids of the ends that are reached, none: nothing chosen yet. ``how``: one of HOWS."""

    ends: tuple[str, ...] = ()
    how: str = TERMINALS

    @property
    def code(self) -> str:
        """As it is stored and sent: ``terminals:n1``, ``bus``, ``racking``, or empty where nothing is chosen."""
        if self.how != TERMINALS:
            return self.how
        return f"{TERMINALS}:{'+'.join(self.ends)}" if self.ends else ""


NOT_CHOSEN = Reach()


@dataclass(frozen=True)
class Exposed:
    """``nodes``: where the arc may be. ``opened``: nodes in the opened compartments, for their voltages. ``doubted``:
    ids of the devices that never clear it. ``behind``: nodes that only a recorded barrier keeps out."""

    nodes: tuple[str, ...]
    opened: tuple[str, ...]
    doubted: frozenset[str]
    behind: tuple[str, ...]


def is_device(e: Element) -> bool:
    """Does it open and close, so that an arc at one of its ends reaches the others?"""
    return e.kind in SWITCHING


def read_reach(e: Element, code: str) -> Reach:
    """The reach that a code names at an element; InputError when it fits nothing there. Earlier codes are read."""
    if code in _EARLIER:
        return Reach((e.ends[_EARLIER[code]],))
    if not code:
        return NOT_CHOSEN
    how, _, names = code.partition(":")
    ends = tuple(n for n in names.split("+") if n)
    if how not in HOWS or any(n not in e.ends for n in ends) or (how == TERMINALS) != bool(ends):
        raise InputError("touches", code, say("one-of", options=tuple(r.code for r in reaches(e))))
    if how != TERMINALS and not is_device(e):
        return NOT_CHOSEN
    return Reach(ends, how)


def reaches(e: Element) -> tuple[Reach, ...]:
    """Every way of reaching an element: each end's terminals, and for a device all of it."""
    single = tuple(Reach((n,)) for n in dict.fromkeys(e.ends))
    if not is_device(e):
        return single
    return (*single, Reach((), BUS), *((Reach((), RACKING),) if e.withdrawable else ()))


def reached_ends(e: Element, reach: Reach) -> tuple[str, ...]:
    """The ends that hands or tools reach: those chosen, and all of a device that is racked, altered or removed."""
    if not reach.ends or (reach.how != TERMINALS and is_device(e)):
        return tuple(dict.fromkeys(e.ends))
    return reach.ends


def exposed(network: Network, e: Element, reach: Reach) -> Exposed:
    """Where an arc may be when an element is reached so, and which devices it puts out of action."""
    ends = reached_ends(e, reach)
    nodes, spaces = dict.fromkeys(ends), _spaces(network, ends)
    others = [n for n in dict.fromkeys(e.ends) if n not in ends] if is_device(e) else []
    behind = [n for n in others if all(separated(network, end, n) for end in ends)]
    nodes |= dict.fromkeys(n for n in others if n not in behind)
    inside = {n: None for box, rooms in spaces.items() for n in _nodes_in(network, network.enclosure[box], rooms)}
    nodes |= inside
    doubted = {d.id for box, rooms in spaces.items() for d in _bodies(network, network.enclosure[box], rooms)}
    if is_device(e):
        alone = reach.how == TERMINALS and len(ends) == 1 and len(others) > 0 and len(behind) == len(others)
        doubted = doubted - {e.id} if alone else doubted | {e.id}
    opened = dict.fromkeys((*ends, *inside))
    return Exposed(tuple(nodes), tuple(opened), frozenset(doubted), tuple(behind))


def opened_boxes(network: Network, e: Element, reach: Reach) -> list[Enclosure]:
    """The enclosures that are opened."""
    ids = dict.fromkeys(network.node[n].enclosure for n in reached_ends(e, reach))
    return [network.enclosure[i] for i in ids if i is not None]


def separated(network: Network, a: str, b: str) -> bool:
    """Is a barrier recorded between the compartments of two nodes, on every way between them?"""
    box = network.enclosure.get(network.node[a].enclosure or "")
    if box is None or network.node[b].enclosure != box.id:
        return False
    one, other = _room(box, a), _room(box, b)
    return one is not None and other is not None and other not in _open_to(box, one)


def _spaces(network: Network, ends: tuple[str, ...]) -> dict[str, set[str]]:
    """Opened enclosures, each with the compartments that are open to one another from the reached ends."""
    found: dict[str, set[str]] = {}
    for n in ends:
        box = network.enclosure.get(network.node[n].enclosure or "")
        if box is not None:
            room = _room(box, n)
            rooms = {c.id for c in box.compartments} if room is None else _open_to(box, room)
            found.setdefault(box.id, set()).update(rooms)
    return found


def _room(box: Enclosure, node: str) -> str | None:
    return next((c.id for c in box.compartments if node in c.nodes), None)


def _open_to(box: Enclosure, room: str) -> set[str]:
    """Compartments that an arc in one of them spreads to: all that no barrier shuts off."""
    found, queue = {room}, [room]
    while queue:
        here = queue.pop()
        for c in box.compartments:
            if c.id not in found and not any(here in group and c.id in group for group in box.barriers):
                found.add(c.id)
                queue.append(c.id)
    return found


def _nodes_in(network: Network, box: Enclosure, rooms: set[str]) -> list[str]:
    """Nodes of the opened compartments; one that no compartment lists is in all of them."""
    return [n.id for n in network.in_enclosure[box.id] if _room(box, n.id) in (None, *rooms)]


def _bodies(network: Network, box: Enclosure, rooms: set[str]) -> list[Element]:
    """Devices with their body in the opened compartments; one that none lists is wherever it has an end."""
    listed = {tag: c.id for c in box.compartments for tag in c.devices}
    inside = _nodes_in(network, box, rooms)
    found = {}
    for n in network.in_enclosure[box.id]:
        for d in network.at_node[n.id]:
            if is_device(d):
                home = listed.get(d.tag)
                if home in rooms if home is not None else any(end in inside for end in d.ends):
                    found[d.id] = d
    return list(found.values())


# In words ------------------------------------------------------------------------------------------------


def end_words(network: Network, e: Element, node: str) -> Sayable:
    """An end by what hangs there: "the SWB-A end", "the cable to MC1"."""
    others = [o for o in network.at_node[node] if o.id != e.id]
    bus = next((o for o in others if o.kind == "bus"), None)
    if bus is not None:
        return say("network-sides-the-end", tag=bus.tag)
    cable = next((o for o in others if o.kind in SERIES), None)
    if cable is not None:
        far = next((n for n in cable.ends if n != node), node)
        return say("network-sides-the-to", kind=say(f"kind-{cable.kind}"), far=_far(network, cable, far))
    return say("network-sides-the-end", tag=others[0].tag) if others else say("network-sides-the-end-at", node=node)


def _far(network: Network, cable: Element, node: str) -> str:
    beyond = [o for o in network.at_node[node] if o.id != cable.id]
    best = next((o for o in beyond if o.kind == "bus"), beyond[0] if beyond else None)
    return best.tag if best is not None else cable.tag


def reach_words(network: Network, e: Element, reach: Reach) -> Sayable:
    """What a choice reaches, in a few words."""
    if reach == NOT_CHOSEN:
        return say("network-sides-not-chosen-the-worst-of-all-sides")
    if reach.how == RACKING:
        return say("network-sides-all-of-it-racking-inserting-withdrawing")
    if reach.how == BUS:
        return say("network-sides-all-of-it-at-the-bus-or")
    if len(e.ends) == 1:
        return say("network-sides-itself", tag=e.tag)
    if e.kind in CONVERTERS or e.kind == "transformer":
        return say(
            "network-sides-ends-of-voltages",
            ends=tuple(end_words(network, e, n) for n in reach.ends),
            volts=tuple(volts(network.node[n].nominal_voltage_v) for n in reach.ends),
        )
    return say("network-sides-terminals-at", end_words=tuple(end_words(network, e, n) for n in reach.ends))
