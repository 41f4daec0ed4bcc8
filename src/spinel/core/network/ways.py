"""Ways through a network: what is reached from where, through what, with the way kept.

The one walk under zones, islands, isolation and load. Auxiliary supplies of enclosures are nodes of their own,
``aux:<enclosure>:<n>``, fed one way: from the load side of the element that isolates them into the enclosure.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass

from spinel.core.network.circuit import joined
from spinel.core.network.document import AuxiliarySupply, Element, Enclosure, Network
from spinel.core.network.kinds import CONVERTERS, SWITCHING
from spinel.core.network.now import NEVER_SEEN, DeviceNow

#: Pairs of nodes that an element joins for the question asked; empty where it is cut.
Passes = Callable[[Element], tuple[tuple[str, str], ...]]


@dataclass(frozen=True)
class Auxiliary:
    """An auxiliary supply of an enclosure as a node. ``isolator`` None: nothing is recorded that cuts it."""

    id: str
    enclosure: Enclosure
    supply: AuxiliarySupply
    isolator: Element | None


def auxiliaries(network: Network, enclosure_ids: Iterable[str]) -> list[Auxiliary]:
    """The auxiliary supplies of these enclosures."""
    found = []
    for enclosure_id in enclosure_ids:
        box = network.enclosure[enclosure_id]
        for i, supply in enumerate(box.auxiliary_supplies):
            isolator = network.by_tag.get(supply.isolated_by or "")
            found.append(Auxiliary(f"aux:{enclosure_id}:{i}", box, supply, isolator))
    return found


def auxiliary(network: Network, node_id: str) -> Auxiliary | None:
    """The auxiliary supply that a node id stands for, if it is one."""
    if not node_id.startswith("aux:"):
        return None
    enclosure_id = node_id[4:].rpartition(":")[0]
    if enclosure_id not in network.enclosure:
        return None
    return next((a for a in auxiliaries(network, [enclosure_id]) if a.id == node_id), None)


#: node reached -> the element it was reached through and the node before; None at a start
Reached = dict[str, tuple[Element, str] | None]


def reach(network: Network, starts: Iterable[str], passes: Passes) -> Reached:
    """Every node reached from the starts, breadth first."""
    found: Reached = dict.fromkeys(starts)
    queue = deque(found)
    while queue:
        node = queue.popleft()
        supply = auxiliary(network, node) if node.startswith("aux:") else None
        if supply is not None:
            if supply.isolator is not None and supply.isolator.ends[-1] not in found:
                found[supply.isolator.ends[-1]] = (supply.isolator, node)
                queue.append(supply.isolator.ends[-1])
            continue
        for e in network.at_node[node]:
            for a, b in passes(e):
                other = b if a == node else a if b == node else None
                if other is not None and other not in found:
                    found[other] = (e, node)
                    queue.append(other)
    return found


def way_to(found: Reached, node: str) -> tuple[Element, ...]:
    """The elements on the way from a start to the node."""
    way = []
    step = found[node]
    while step is not None:
        way.append(step[0])
        step = found[step[1]]
    return tuple(reversed(way))


def everything(e: Element) -> tuple[tuple[str, str], ...]:
    """Passes: whatever its position, every element joins its ends."""
    return e.pairs


def as_stands(devices: Mapping[str, DeviceNow]) -> Passes:
    """Passes: positions as recorded; unknown and automatic count as closed."""

    def passes(e: Element) -> tuple[tuple[str, str], ...]:
        if e.kind not in SWITCHING:
            return e.pairs
        device = devices.get(e.id, NEVER_SEEN)
        if not device.known or device.position == "automatic":
            return e.pairs
        return joined(e, device.position)

    return passes


#: Closed, and yet no way that a test or a ground may be trusted through: a pole may be blown, a coil dropped out.
NEVER_SURE = ("fuse", "contactor", "transfer_switch")


def surely(devices: Mapping[str, DeviceNow]) -> Passes:
    """Passes: conductors, and devices seen to be closed on the spot; unknown and automatic count as open."""

    def passes(e: Element) -> tuple[tuple[str, str], ...]:
        if e.kind not in SWITCHING:
            return e.pairs
        device = devices.get(e.id, NEVER_SEEN)
        if e.kind in NEVER_SURE or not device.looked_at or device.position == "automatic":
            return ()
        return joined(e, device.position)

    return passes


def zone(network: Network, devices: Mapping[str, DeviceNow], node: str) -> frozenset[str]:
    """Nodes joined to one for certain, at one voltage: what a test or a ground over there says something of."""
    return _at_one_voltage(network, surely(devices), node)


def perhaps_joined(network: Network, devices: Mapping[str, DeviceNow], node: str) -> frozenset[str]:
    """Nodes that may be joined to one at one voltage: where a voltage that was read may stand too."""
    return _at_one_voltage(network, as_stands(devices), node)


def _at_one_voltage(network: Network, passes: Passes, node: str) -> frozenset[str]:
    if node.startswith("aux:"):
        return frozenset((node,))
    return frozenset(reach(network, [node], lambda e: () if _changes_voltage(e) else passes(e)))


def island(network: Network, devices: Mapping[str, DeviceNow], node: str) -> frozenset[str]:
    """A zone with all that is joined to it through transformers and converters."""
    return frozenset(reach(network, [node], as_stands(devices)))


def _changes_voltage(e: Element) -> bool:
    return e.kind == "transformer" or e.kind in CONVERTERS


def touching(network: Network, nodes: Iterable[str]) -> dict[str, Element]:
    """Elements with an end in the nodes, by id."""
    return {e.id: e for n in nodes if n in network.at_node for e in network.at_node[n]}
