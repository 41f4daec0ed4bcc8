"""A network as arrays: nodes, and every branch that some circuit could close, with its impedance at each fault level.

Built once a network and shared by the models of all its circuits.
"""

from __future__ import annotations

import numpy as np

from spinel.core.fault.impedance import Branch, base_ka, branches_of
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import CONVERTERS, SWITCHING


class Grid:
    """``names`` and ``index`` of nodes (middles of three-winding transformers too); branches as parallel arrays."""

    def __init__(self, network: Network):
        self.network = network
        self.names: list[str] = [n.id for n in network.nodes if n.current == "ac"]
        volts = [n.nominal_voltage_v for n in network.nodes if n.current == "ac"]
        self.index: dict[str, int] = {n: i for i, n in enumerate(self.names)}
        found: list[Branch] = []
        for e in network.elements:
            if e.kind not in CONVERTERS or e.kind == "ups":
                found += [b for b in branches_of(network, "nominal", e) if b.a in self.index and _whole(network, e)]
        for branch in found:
            if branch.b not in self.index:
                # the middle of a three-winding transformer, at the voltage of its second winding
                self.index[branch.b] = len(self.names)
                self.names.append(branch.b)
                volts.append(network.node[branch.element.ends[1]].nominal_voltage_v)
        self.elements: list[Element] = [b.element for b in found]
        #: elements that could feed a fault
        self.feeders = [e for e in network.elements if e.row.fault_source]
        self.a = np.array([self.index[b.a] for b in found], dtype=np.intp)
        self.b = np.array([self.index[b.b] for b in found], dtype=np.intp)
        self.ratio = np.array([b.ratio for b in found])
        self.volts = np.array(volts)
        self.base_ka = np.array([base_ka(v) for v in volts])
        boxes = {e.id: i for i, e in enumerate(network.enclosures)}
        #: the enclosure of each node, by its place in the network's list; -1 for none
        self.box = np.array([boxes.get(_enclosure(network, n), -1) for n in self.names], dtype=np.intp)
        self._switches = [(i, b) for i, b in enumerate(found) if b.element.kind in SWITCHING]
        self._bypasses = [(i, b.element.id) for i, b in enumerate(found) if b.element.kind == "ups"]
        self._z: dict[str, np.ndarray] = {"nominal": np.array([b.z_pu for b in found], dtype=complex)}

    def closed(self, circuit: Circuit) -> np.ndarray:
        """Which branches conduct in the circuit."""
        conducts = np.ones(len(self.elements), dtype=bool)
        for i, branch in self._switches:
            joined = circuit.closed[branch.element.id]
            conducts[i] = bool(joined) and (branch.a, branch.b) in joined
        for i, element_id in self._bypasses:
            conducts[i] = element_id in circuit.bypass
        return conducts

    def z_pu(self, circuit: Circuit) -> np.ndarray:
        """Impedances at the circuit's fault level, per unit on 100 MVA."""
        if circuit.level not in self._z:
            level = [b.z_pu for e in self._distinct() for b in branches_of(self.network, circuit.level, e)
                     if b.a in self.index]  # fmt: skip
            self._z[circuit.level] = np.array(level, dtype=complex)
        return self._z[circuit.level]

    def _distinct(self) -> list[Element]:
        return list({e.id: e for e in self.elements}.values())


def _whole(network: Network, e: Element) -> bool:
    """A UPS has a bypass only between AC nodes of one voltage."""
    kinds = {(network.node[n].nominal_voltage_v, network.node[n].current) for n in e.ends}
    return e.kind != "ups" or (len(kinds) == 1 and len(e.ends) == 2)


def _enclosure(network: Network, name: str) -> str:
    node = network.node.get(name)
    return (node.enclosure or "") if node else ""
