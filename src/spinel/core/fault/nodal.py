"""Three-phase bolted fault currents by nodal solution, with the current through every element.

Positive sequence, rms symmetrical, prefault voltage 1.0 per unit, no load flow, tap at nominal: the Thevenin
(classical) method, not IEC 60909's factors. Motors and converters are voltages behind a reactance, so a
converter's current is limited at its terminals to its declared multiple of rated current.
Per unit on 100 MVA and the nodes' nominal voltages. docs/methods/fault-current.md tells range and checks.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import networkx as nx
import numpy as np

from spinel.core.errors import InputError
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import CONVERTERS, Element, Network, Node

BASE_MVA = 100.0
#: A closed device, per unit on 100 MVA: far below any cable, far above rounding (current error below 1e-5).
CLOSED_PU = 1e-7j
SOURCE = "Thevenin nodal solution, prefault 1.0 per unit"


@dataclass(frozen=True)
class Injection:
    """A source or motor at a node. ``sustained``: it feeds until cleared (a motor's share dies away)."""

    element: Element
    node: str
    z_pu: complex
    sustained: bool


@dataclass(frozen=True)
class Branch:
    """An element that carries current between two nodes."""

    element: Element
    a: str
    b: str
    z_pu: complex


@dataclass(frozen=True)
class Share:
    """Current through an element during a fault, kA at the voltage of the node at its end nearer the fault."""

    element: Element
    current_ka: float
    at_voltage_v: float


@dataclass(frozen=True)
class Fault:
    """A bolted three-phase fault. ``z_pu`` is the driving-point impedance on 100 MVA."""

    node: Node
    bolted_fault_current_ka: float
    z_pu: complex
    x_r: float
    shares: Mapping[str, Share]
    contributions: tuple[tuple[Element, float], ...]


class NodalModel:
    """Admittances of one circuit, solved once and asked for faults at any of its energised AC nodes."""

    def __init__(self, network: Network, circuit: Circuit):
        self.network, self.circuit = network, circuit
        self.branches = _branches(network, circuit)
        self.injections = _injections(network, circuit)
        self._z, self._index = self._solve()

    def _solve(self) -> tuple[np.ndarray, dict[str, int]]:
        fed: nx.Graph = nx.Graph()
        fed.add_edges_from((b.a, b.b) for b in self.branches)
        fed.add_nodes_from(i.node for i in self.injections)
        reached: set[str] = set()
        for injection in self.injections:
            if injection.node not in reached:
                reached |= nx.node_connected_component(fed, injection.node)
        index = {n: k for k, n in enumerate(sorted(reached))}
        y = np.zeros((len(index), len(index)), dtype=complex)
        for b in self.branches:
            if b.a in index:
                i, j = index[b.a], index[b.b]
                y[i, i] += 1 / b.z_pu
                y[j, j] += 1 / b.z_pu
                y[i, j] -= 1 / b.z_pu
                y[j, i] -= 1 / b.z_pu
        for injection in self.injections:
            i = index[injection.node]
            y[i, i] += 1 / injection.z_pu
        return (np.linalg.inv(y) if index else y), index

    def energised(self, node_id: str) -> bool:
        """Is there any source or motor to feed a fault at the node?"""
        return node_id in self._index

    def fault_is_sustained(self, node_id: str) -> bool:
        """Does anything but motors reach the node?"""
        graph: nx.Graph = nx.Graph()
        graph.add_node(node_id)
        graph.add_edges_from((b.a, b.b) for b in self.branches)
        reached = nx.node_connected_component(graph, node_id)
        return any(i.sustained and i.node in reached for i in self.injections)

    def fault(self, node_id: str) -> Fault:
        """The fault at an energised AC node; InputError elsewhere."""
        if not self.energised(node_id):
            raise InputError("node", node_id, "an AC node that a source or motor feeds in this case")
        k = self._index[node_id]
        z = complex(self._z[k, k])
        voltages = 1 - self._z[:, k] / z
        node = self.network.node[node_id]
        shares = {}
        for b in self.branches:
            if b.a in self._index:
                va, vb = voltages[self._index[b.a]], voltages[self._index[b.b]]
                nearer = b.a if abs(va) < abs(vb) else b.b
                volts = self.network.node[nearer].nominal_voltage_v
                shares[b.element.id] = Share(b.element, float(abs((va - vb) / b.z_pu)) * base_ka(volts), volts)
        contributions = []
        for i in self.injections:
            amount = abs((1 - voltages[self._index[i.node]]) / i.z_pu)
            contributions.append((i.element, float(amount * base_ka(node.nominal_voltage_v))))
        # exact zero resistance happens only in made-up data
        x_r = abs(z.imag / z.real) if z.real else math.inf
        return Fault(node, float(base_ka(node.nominal_voltage_v) / abs(z)), z, float(x_r), shares, tuple(contributions))


def base_ka(voltage_v: float) -> float:
    """Base current in kA at a nominal voltage."""
    return BASE_MVA / (math.sqrt(3) * voltage_v / 1000)


def _branches(network: Network, circuit: Circuit) -> list[Branch]:
    branches = []
    for e in network.elements:
        if e.kind in CONVERTERS:
            continue
        for a, b in circuit.closed[e.id]:
            if network.node[a].current == "ac":
                branches.append(Branch(e, a, b, _series_pu(network, e)))
    return branches


def _series_pu(network: Network, e: Element) -> complex:
    if e.kind == "transformer":
        return _split((e.impedance_pct or 0) / 100 * BASE_MVA * 1000 / (e.rated_kva or 0), e.x_r or 0)
    if e.kind == "cable":
        base_ohm = (network.node[e.ends[0]].nominal_voltage_v / 1000) ** 2 / BASE_MVA
        return complex(e.resistance_ohm or 0, e.reactance_ohm or 0) / base_ohm
    return CLOSED_PU


def _injections(network: Network, circuit: Circuit) -> list[Injection]:
    found = []
    for e in network.elements:
        z, sustained = _source_pu(e, circuit)
        node = next((n for n in e.ends if network.node[n].current == "ac"), None)
        if z is not None and node is not None:
            found.append(Injection(e, node, z, sustained))
    return found


def _source_pu(e: Element, circuit: Circuit) -> tuple[complex | None, bool]:
    """Impedance behind which the element feeds a fault, or None when it does not."""
    per_kva = BASE_MVA * 1000 / (e.rated_kva or math.inf)
    if e.kind == "source":
        weak = e.id in circuit.weak
        mva, x_r = (e.fault_mva_min, e.x_r_min) if weak else (e.fault_mva_max, e.x_r_max)
        return _split(BASE_MVA / (mva or math.inf), x_r or 0), True
    if e.id not in circuit.running:
        return None, True
    if e.kind == "generator":
        slow = e.id in circuit.transient and e.xd_transient_pu
        reactance = e.xd_transient_pu if slow else e.xd_subtransient_pu
        return _of_reactance((reactance or 0) * per_kva, e.x_r or 0), True
    if e.kind == "motor":
        return _of_reactance((e.xd_subtransient_pu or 0) * per_kva, e.x_r or 0), False
    if e.kind in ("inverter", "shore_connection"):
        return complex(0, per_kva / (e.fault_multiple or math.inf)), True
    return None, True


def inputs(e: Element, circuit: Circuit) -> dict[str, float]:
    """The document's numbers from which this element's impedance was made in this circuit, by field name."""
    names: tuple[str, ...] = {
        "source": ("fault_mva_min", "x_r_min") if e.id in circuit.weak else ("fault_mva_max", "x_r_max"),
        "generator": (
            "rated_kva", "xd_transient_pu" if e.id in circuit.transient else "xd_subtransient_pu", "x_r"
        ),
        "transformer": ("rated_kva", "impedance_pct", "x_r"),
        "cable": ("resistance_ohm", "reactance_ohm"),
        "motor": ("rated_kva", "xd_subtransient_pu", "x_r"),
    }.get(e.kind, ("rated_kva", "fault_multiple"))  # fmt: skip
    return {n: getattr(e, n) for n in names if getattr(e, n) is not None}


def _split(z: float, x_r: float) -> complex:
    """An impedance of magnitude z with the given X/R."""
    r = z / math.sqrt(1 + x_r**2)
    return complex(r, r * x_r)


def _of_reactance(x: float, x_r: float) -> complex:
    """A reactance x with the resistance that its X/R gives."""
    return complex(x / x_r if x_r else 0, x)
