"""What is joined to what, as arrays: the components of a network for any positions of its devices.

Built once a network; a circuit is then two masks over its joints (a pair of nodes that an element joins): all that
conduct, and those that conduct for certain. One operation changes a few entries, and the components follow anew in a
millisecond on thousands of switches.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from spinel.core.network.circuit import Circuit, standing
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import FEEDS
from spinel.core.network.now import DeviceNow
from spinel.core.parts import parts


class Topology:
    """``index`` of nodes; joints as parallel arrays, those of element number i at ``start[i]`` to ``start[i + 1]``."""

    def __init__(self, network: Network):
        self.index = network.node_place
        pairs = [(a, b) for e in network.elements for a, b in e.pairs]
        self.a = np.array([self.index[a] for a, _ in pairs], dtype=np.intp)
        self.b = np.array([self.index[b] for _, b in pairs], dtype=np.intp)
        self.start = np.cumsum([0, *(len(e.pairs) for e in network.elements)])
        self.place = {e.id: i for i, e in enumerate(network.elements)}
        ends = [[self.index[n] for n in e.ends] for e in network.elements]
        self.ends = np.array([n for row in ends for n in row], dtype=np.intp)
        self.first_end = np.cumsum([0, *(len(row) for row in ends[:-1])])
        self._always = np.ones(len(pairs), dtype=bool)
        for e in network.switches:
            self._always[self._joints(e)] = False
        self._switches = network.switches
        self._suppliers(network)

    def _suppliers(self, network: Network) -> None:
        """Elements that may supply, in the order of ``network.may_supply``: their ends, and what they always do."""
        some = network.may_supply
        self.supply = {e.id: i for i, e in enumerate(some)}
        self.supply_tags = [e.tag for e in some]
        self.supply_owner = np.array([i for i, e in enumerate(some) for _ in e.ends], dtype=np.intp)
        self.supply_ends = np.array([self.index[n] for e in some for n in e.ends], dtype=np.intp)
        self.always_feeds = np.array([e.row.supplies == FEEDS for e in some], dtype=bool)
        self.may_feed = np.array([e.row.supplies != FEEDS for e in some], dtype=bool)
        self.generators = [i for i, e in enumerate(some) if e.kind == "generator"]

    def _joints(self, e: Element) -> slice:
        i = self.place[e.id]
        return slice(int(self.start[i]), int(self.start[i + 1]))

    def masks(self, circuit: Circuit) -> tuple[np.ndarray, np.ndarray]:
        """Joints that conduct, and that conduct for certain, in a circuit."""
        known = circuit.__dict__.get("_masks")
        if known is None or known[0] is not self:
            known = (self, *self._read(circuit))
            circuit.__dict__["_masks"] = known
        return known[1], known[2]

    def _read(self, circuit: Circuit) -> tuple[np.ndarray, np.ndarray]:
        conducts, certain = self._always.copy(), self._always.copy()
        for e in self._switches:
            self._set(conducts, certain, circuit, e)
        return conducts, certain

    def _set(self, conducts: np.ndarray, certain: np.ndarray, circuit: Circuit, e: Element) -> None:
        joined, here = circuit.closed[e.id], self._joints(e)
        conducts[here] = [p in joined for p in e.pairs]
        certain[here] = conducts[here] if e.id not in circuit.uncertain else False

    def operated(self, before: Circuit, after: Circuit, e: Element) -> Circuit:
        """``after``, which differs from ``before`` in one element only, with its masks made from the old ones."""
        conducts, certain = (mask.copy() for mask in self.masks(before))
        self._set(conducts, certain, after, e)
        after.__dict__["_masks"] = (self, conducts, certain)
        return after

    def components(self, mask: np.ndarray) -> np.ndarray:
        """The number of each node's component when the joints of a mask conduct."""
        return parts(len(self.index), self.a[mask], self.b[mask])


def topology(network: Network) -> Topology:
    """The network's topology, built when first asked."""
    kept = network.__dict__
    if "_topology" not in kept:
        kept["_topology"] = Topology(network)
    found: Topology = kept["_topology"]
    return found


def operated(network: Network, before: Circuit, e: Element, device: DeviceNow) -> Circuit:
    """The present circuit after one switch has been operated or found: the same as ``at_present`` made anew."""
    pairs, sure = standing(e, device)
    uncertain = before.uncertain - {e.id} if sure else before.uncertain | {e.id}
    after = replace(before, closed={**before.closed, e.id: pairs}, uncertain=uncertain)
    return topology(network).operated(before, after, e)
