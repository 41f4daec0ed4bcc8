"""Live, unknown, grounded, proved dead or dead: what every node is, from what feeds and what may feed. Fails safe.

A path from something that feeds through devices known to be closed makes a node live. Anything that may feed
(a stopped generator, an inverter, a ship, a motor whose shaft is not blocked, a capacitor not discharged), or a
path through a device of unknown position, makes it unknown: treat as live. Transformers and converters pass
both ways; anti-islanding and automatic transfer are never credited. What is live or unknown is shown as that, whatever
hangs there: live and grounded is an alarm.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import networkx as nx

from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.now import NEVER_SEEN, DeviceNow
from spinel.core.network.ways import zone

LIVE, UNKNOWN, DEAD, PROVED, GROUNDED = "live", "unknown", "dead", "proved", "grounded"
#: An element takes the worst of its ends.
RANK = {LIVE: 4, UNKNOWN: 3, DEAD: 2, PROVED: 1, GROUNDED: 0}
_FEEDS = ("source", "battery", "ups")
_MAY_FEED = ("generator", "inverter", "shore_connection")


@dataclass(frozen=True)
class Liveness:
    """State of nodes and elements, and why: tags of what feeds a node now, and of what may feed it.

    ``alarm``: nodes that are live and grounded.
    """

    nodes: Mapping[str, str]
    elements: Mapping[str, str]
    feeding: Mapping[str, tuple[str, ...]]
    may_feed: Mapping[str, tuple[str, ...]]
    alarm: tuple[str, ...] = ()

    def sources_of(self, element: Element) -> tuple[tuple[str, ...], tuple[str, ...]]:
        """Tags that feed any end of the element now, and the others that may."""
        now = tuple(dict.fromkeys(t for end in element.ends for t in self.feeding[end]))
        maybe = dict.fromkeys(t for end in element.ends for t in self.may_feed[end])
        return now, tuple(t for t in maybe if t not in now)


def liveness(network: Network, circuit: Circuit, now: Mapping[str, DeviceNow], field: Field | None = None) -> Liveness:
    """The state of every node and element with the circuit as it is. ``field``: what is proved and grounded."""
    certain, possible = _graph(network, circuit, False), _graph(network, circuit, True)
    live: dict[str, list[str]] = {}
    maybe: dict[str, list[str]] = {}
    for e in network.elements:
        if feeds(e, circuit):
            _mark(certain, e, live)
            _mark(possible, e, maybe)
        elif may_feed(e, now.get(e.id, NEVER_SEEN)):
            _mark(possible, e, maybe)
    states = {n: LIVE if n in live else UNKNOWN if n in maybe else DEAD for n in network.node}
    feeding = {n: tuple(live.get(n, ())) for n in network.node}
    could = {n: tuple(t for t in maybe.get(n, ()) if t not in feeding[n]) for n in network.node}
    alarm: tuple[str, ...] = ()
    if field is not None:
        grounded = {n for g in field.grounds if g.node_id in network.node for n in zone(network, now, g.node_id)}
        alarm = tuple(sorted(n for n in grounded if states[n] == LIVE))
        read = {n for v in field.voltage if v in network.node for n in zone(network, now, v)}
        states |= dict.fromkeys((n for n in read if states[n] == DEAD), UNKNOWN)
        dead = [n for n, state in states.items() if state == DEAD]
        states |= {n: GROUNDED if n in grounded else PROVED for n in dead if n in grounded or field.proved(n)}
    elements = {e.id: max((states[n] for n in e.ends), key=RANK.__getitem__) for e in network.elements}
    return Liveness(states, elements, feeding, could, alarm)


def feeds(e: Element, circuit: Circuit) -> bool:
    """Does it supply energy now? Utility, battery and UPS always; a generator while it runs."""
    if e.kind in _FEEDS:
        return True
    return e.kind in _MAY_FEED and e.kind == "generator" and e.id in circuit.running


def may_feed(e: Element, device: DeviceNow) -> bool:
    """Could it supply energy, whatever its automatics promise?"""
    if e.kind in _MAY_FEED:
        return True
    if e.kind == "motor":
        return not device.blocked
    return holds_charge(e) and not device.discharged


def holds_charge(e: Element) -> bool:
    """Does it keep electrical energy when cut off: a capacitor, a rectifier's DC link, or where it is recorded?"""
    return e.kind in ("capacitor", "rectifier") or "electrical" in e.stored_energy


def _graph(network: Network, circuit: Circuit, with_unknown: bool) -> nx.Graph:
    graph: nx.Graph = nx.Graph()
    graph.add_nodes_from(network.node)
    for element_id, pairs in circuit.closed.items():
        if with_unknown or element_id not in circuit.uncertain:
            graph.add_edges_from(pairs)
    return graph


def _mark(graph: nx.Graph, e: Element, reached: dict[str, list[str]]) -> None:
    for end in e.ends:
        for node in nx.node_connected_component(graph, end):
            tags = reached.setdefault(node, [])
            if e.tag not in tags:
                tags.append(e.tag)


def around(network: Network, circuit: Circuit, element: Element) -> frozenset[str]:
    """Ids of all elements in the island of an element: joined to it with every unknown taken as closed, and
    with the element itself taken as closed."""
    graph = _graph(network, circuit, True)
    nx.add_path(graph, element.ends)
    nodes = nx.node_connected_component(graph, element.ends[0])
    return frozenset(e.id for e in network.elements if any(n in nodes for n in e.ends))
