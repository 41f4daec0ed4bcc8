"""Live, unknown, grounded, proved dead or dead: what every node is, from what feeds and what may feed. Fails safe.

A path from something that feeds through devices known to be closed makes a node live. Anything that may feed
(a stopped generator, an inverter, a ship, a motor whose shaft is not blocked, a capacitor not discharged), or a
path through a device of unknown position, makes it unknown: treat as live. Transformers and converters pass
both ways; anti-islanding and automatic transfer are never credited. What is live or unknown is shown as that, whatever
hangs there: live and grounded is an alarm.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from spinel.core.network.circuit import Circuit
from spinel.core.network.cut import holds_charge
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import FEEDS, STAND_BY
from spinel.core.network.now import DeviceNow
from spinel.core.network.topology import Topology, topology
from spinel.core.network.ways import perhaps_joined, zone

LIVE, UNKNOWN, DEAD, PROVED, GROUNDED = "live", "unknown", "dead", "proved", "grounded"
#: An element takes the worst of its ends.
RANK = {LIVE: 4, UNKNOWN: 3, DEAD: 2, PROVED: 1, GROUNDED: 0}


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
    joints = topology(network)
    conducts, certain = joints.masks(circuit)
    part = joints.components(conducts)
    sure_part = part if np.array_equal(conducts, certain) else joints.components(certain)
    feeding, maybe = _supplying(network, circuit, now)
    live, perhaps = _Marks(joints, sure_part, feeding), _Marks(joints, part, feeding | maybe)
    rank = np.where(live.at_nodes(), RANK[LIVE], np.where(perhaps.at_nodes(), RANK[UNKNOWN], RANK[DEAD]))
    alarm: tuple[str, ...] = ()
    if field is not None:
        alarm = _in_the_field(network, now, field, rank)
    states = _ByPlace(joints.index, _NAMES[rank].tolist())
    elements = _ByPlace(joints.place, _worst(joints, rank))
    return Liveness(states, elements, _Feeding(joints, live, None), _Feeding(joints, perhaps, live), alarm)


_NAMES = np.array([GROUNDED, PROVED, DEAD, UNKNOWN, LIVE], dtype=object)


def _worst(joints: Topology, rank: np.ndarray) -> list[str]:
    """An element takes the worst of its ends."""
    found: list[str] = _NAMES[np.maximum.reduceat(rank[joints.ends], joints.first_end)].tolist()
    return found


def _in_the_field(network: Network, now: Mapping[str, DeviceNow], field: Field, rank: np.ndarray) -> tuple[str, ...]:
    """Lower the rank of what is grounded or proved, raise it where voltage was read; what is live and grounded."""
    place = network.node_place
    grounded = {n for g in field.grounds if g.node_id in network.node for n in zone(network, now, g.node_id)}
    alarm = tuple(sorted(n for n in grounded if rank[place[n]] == RANK[LIVE]))
    for n in {n for v in field.voltage if v in network.node for n in perhaps_joined(network, now, v)}:
        if rank[place[n]] == RANK[DEAD]:
            rank[place[n]] = RANK[UNKNOWN]
    proved = {n for proof in field.proofs if not proof.grounding_only for n in proof.nodes if n in place}
    for n in grounded | proved:
        if rank[place[n]] == RANK[DEAD]:
            rank[place[n]] = RANK[GROUNDED if n in grounded else PROVED]
    return alarm


def _supplying(
    network: Network, circuit: Circuit, now: Mapping[str, DeviceNow]
) -> tuple[np.ndarray, np.ndarray]:  # fmt: skip
    """Which of the elements that may supply feed now, and which may (in the order of ``network.may_supply``)."""
    joints = topology(network)
    feeding, maybe = joints.always_feeds.copy(), joints.may_feed.copy()
    for i in joints.generators:
        feeding[i] = feeds(network.may_supply[i], circuit)
    for element_id in now.keys() & joints.supply.keys():
        i = joints.supply[element_id]
        maybe[i] = may_feed(network.may_supply[i], now[element_id])
    return feeding, maybe


class _Marks:
    """Which components are fed, by those of the elements that may supply which are chosen."""

    def __init__(self, joints: Topology, part: np.ndarray, chosen: np.ndarray):
        self.joints, self.part = joints, part
        at = chosen[joints.supply_owner]
        self._owner, self._fed = joints.supply_owner[at], part[joints.supply_ends[at]]

    def at_nodes(self) -> np.ndarray:
        marked = np.zeros(int(self.part.max(initial=0)) + 1, dtype=bool)
        marked[self._fed] = True
        given: np.ndarray = marked[self.part]
        return given

    @cached_property
    def _tags(self) -> dict[int, dict[str, None]]:
        found: dict[int, dict[str, None]] = {}
        for owner, component in zip(self._owner.tolist(), self._fed.tolist(), strict=True):
            found.setdefault(component, {})[self.joints.supply_tags[owner]] = None
        return found

    def of(self, node: int) -> dict[str, None]:
        return self._tags.get(int(self.part[node]), {})


class _ByPlace(Mapping[str, str]):
    """States by id, read off a list: a site of thousands changes with every operation, and few are looked at."""

    def __init__(self, place: Mapping[str, int], values: list[str]):
        self._place, self._values = place, values

    def __getitem__(self, key: str) -> str:
        return self._values[self._place[key]]

    def __iter__(self) -> Iterator[str]:
        return iter(self._place)

    def __len__(self) -> int:
        return len(self._values)


class _Feeding(Mapping[str, tuple[str, ...]]):
    """Tags by node, read off the components when asked; without those of ``but``."""

    def __init__(self, joints: Topology, marks: _Marks, but: _Marks | None):
        self._joints, self._marks, self._but = joints, marks, but

    def __getitem__(self, node: str) -> tuple[str, ...]:
        at = self._joints.index[node]
        already = self._but.of(at) if self._but else {}
        return tuple(t for t in self._marks.of(at) if t not in already)

    def __iter__(self) -> Iterator[str]:
        return iter(self._joints.index)

    def __len__(self) -> int:
        return len(self._joints.index)


def feeds(e: Element, circuit: Circuit) -> bool:
    """Does it supply energy now? Utility, battery and UPS always; a generator while it runs."""
    if e.row.supplies == FEEDS:
        return True
    return e.kind == "generator" and e.id in circuit.running


def may_feed(e: Element, device: DeviceNow) -> bool:
    """Could it supply energy, whatever its automatics promise?"""
    if e.row.supplies == STAND_BY:
        return True
    if e.kind == "motor":
        return not device.blocked
    return holds_charge(e) and not device.discharged


def around(network: Network, circuit: Circuit, element: Element) -> frozenset[str]:
    """Ids of all elements in the island of an element: joined to it with every unknown taken as closed, and
    with the element itself taken as closed."""
    joints = topology(network)
    conducts = joints.masks(circuit)[0].copy()
    i = joints.place[element.id]
    conducts[joints.start[i] : joints.start[i + 1]] = True
    part = joints.components(conducts)
    mine = part[joints.index[element.ends[0]]]
    return frozenset(e.id for e in network.elements if any(part[joints.index[n]] == mine for n in e.ends))
