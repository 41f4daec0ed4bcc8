"""What an operation does to the circuit: breaks load, joins sources, energizes, closes onto a ground.

Answered on the state as it stands; unknown positions count as closed, doubtful grounds as hanging.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from itertools import product

from spinel.core.hazard import Study
from spinel.core.isolation.able import passed_over, strong
from spinel.core.network.circuit import joined
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import CONVERTERS, FEEDS, STAND_BY, SUPPLIES, SWITCHING
from spinel.core.network.now import DeviceNow
from spinel.core.network.ways import as_stands, reach, surely, touching

#: What takes or gives current when it is joined to a source.
LOADS = ("load", "motor", "transformer", "capacitor", *CONVERTERS, *SUPPLIES)


@dataclass(frozen=True)
class Side:
    """What one end of a device reaches, not through the device."""

    nodes: frozenset[str]
    elements: tuple[Element, ...]

    @property
    def supplied(self) -> bool:
        return any(e.kind in SUPPLIES for e in self.elements)

    @property
    def loaded(self) -> bool:
        return any(e.kind in LOADS for e in self.elements)


def side(network: Network, devices: Mapping[str, DeviceNow], e: Element, end: str) -> Side:
    stands = as_stands(devices)
    nodes = reach(network, [end], lambda x: () if x.id == e.id else stands(x))
    return Side(frozenset(nodes), tuple(x for x in touching(network, nodes).values() if x.id != e.id))


def _joins_now(e: Element, device: DeviceNow) -> set[tuple[str, str]]:
    if not device.known or device.position == "automatic":
        return set(e.pairs)
    return set(joined(e, device.position))


def _would_join(e: Element, position: str) -> set[tuple[str, str]]:
    return set(e.pairs) if position == "automatic" else set(joined(e, position))


def opens_under_load(network: Network, now: Field, e: Element) -> bool:
    """Would opening it break load? One side reaches a source and the other something that takes or gives current."""
    return _carries(network, now, e, _joins_now(e, now.device(e.id)))


def closes_under_load(network: Network, now: Field, e: Element, position: str) -> bool:
    """Would closing it make load?"""
    return _carries(network, now, e, _would_join(e, position))


def _carries(network: Network, now: Field, e: Element, pairs: Iterable[tuple[str, str]]) -> bool:
    for a, b in pairs:
        one, other = side(network, now.devices, e, a), side(network, now.devices, e, b)
        if (one.supplied and other.loaded) or (other.supplied and one.loaded):
            return True
    return False


def running_sources(network: Network, now: Field, e: Element, end: str) -> frozenset[str]:
    """Tags of what feeds an end of a device with a frequency of its own, not through it nor through converters.

    An inverter follows the network that it is joined to and is not among them (docs/decisions/007).
    """
    stands = as_stands(now.devices)
    nodes = reach(network, [end], lambda x: () if x.id == e.id or x.kind in CONVERTERS else stands(x))
    found = set()
    for x in touching(network, nodes).values():
        if x.id == e.id:
            continue
        if (x.row.supplies == FEEDS and (not x.row.converts or x.ends[-1] in nodes)) or (
            x.row.supplies == STAND_BY and x.row.own_voltage and _runs(now, x)
        ):
            found.add(x.tag)
    return frozenset(found)


def _runs(now: Field, x: Element) -> bool:
    """Nobody knows counts as running."""
    return now.device(x.id).running is not False


def joins_sources(network: Network, now: Field, e: Element, position: str) -> tuple[str, str] | None:
    """Two sources that closing would join, or might, and that are not declared to run in parallel; None when there are
    none. That they are joined already excuses it only where that is certain."""
    for a, b in _would_join(e, position):
        one, other = running_sources(network, now, e, a), running_sources(network, now, e, b)
        for x, y in product(sorted(one), sorted(other)):
            left, right = network.by_tag[x], network.by_tag[y]
            declared = x == y or y in left.runs_parallel_with or x in right.runs_parallel_with
            if not declared and not _joined_already(network, now, e, left, right):
                return x, y
    return None


def _joined_already(network: Network, now: Field, e: Element, left: Element, right: Element) -> bool:
    """Are two sources joined for certain, not through the device nor through converters?"""
    sure = surely(now.devices)
    nodes = reach(network, left.ends, lambda x: () if x.id == e.id or x.kind in CONVERTERS else sure(x))
    return any(end in nodes for end in right.ends)


def closes_onto_ground(network: Network, now: Field, e: Element, position: str) -> str | None:
    """A node with a ground that hangs, or may hang, in an island that closing would join."""
    for a, b in _would_join(e, position):
        for end in (a, b):
            ground = now.grounded(side(network, now.devices, e, end).nodes, maybe=True)
            if ground is not None:
                return ground.node_id
    return None


def energizes(network: Network, now: Field, e: Element, position: str, nodes: Iterable[str]) -> bool:
    """Would closing it bring a source to any of the nodes that has none now? What it joins already, where that is
    known, has one: a transfer switch set from one of its sides to automatic brings nothing new."""
    wanted = set(nodes) - _fed_through(network, now, e)
    for a, b in _would_join(e, position):
        one, other = side(network, now.devices, e, a), side(network, now.devices, e, b)
        if one.supplied and not other.supplied and wanted & other.nodes:
            return True
        if other.supplied and not one.supplied and wanted & one.nodes:
            return True
    return False


def _fed_through(network: Network, now: Field, e: Element) -> set[str]:
    """Nodes that a device feeds as it stands."""
    device = now.device(e.id)
    if not device.known_or_automatic:
        return set()
    found: set[str] = set()
    for a, b in _joins_now(e, device):
        one, other = side(network, now.devices, e, a), side(network, now.devices, e, b)
        if one.supplied or other.supplied:
            found |= one.nodes | other.nodes
    return found


def companions(study: Study, now: Field, point: Element, region: frozenset[str]) -> list[Element] | None:
    """What must be open on the far side of a point that cannot break load or make onto a fault itself.

    Devices that can do both, next to it on every way from which a source could come, and fit to be operated; those
    that are closed or unknown now are returned. None when there is no such set.
    """
    network = study.network
    fit: dict[str, bool] = {}

    def stops(e: Element) -> bool:
        if e.kind not in SWITCHING or e.kind == "transfer_switch" or e.id == point.id or not strong(e) or e.operated_by:
            return False
        if e.id not in fit:
            fit[e.id] = not passed_over(study, e)
        return fit[e.id]

    stands = as_stands(now.devices)
    starts = [end for end in point.ends if end not in region]
    found = reach(network, starts, lambda e: () if e.id == point.id or stops(e) else stands(e))
    near = [e for e in touching(network, found).values() if e.id != point.id]
    if any(e.kind in SUPPLIES for e in near):
        return None
    edge = [e for e in near if stops(e) and not all(end in found for end in e.ends)]
    return [e for e in edge if _joins_now(e, now.device(e.id))]
