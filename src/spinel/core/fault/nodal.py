"""Three-phase bolted fault currents by nodal solution, with the current through every element.

Positive sequence, rms symmetrical, prefault voltage 1.0 per unit, no load flow: the Thevenin (classical) method,
not IEC 60909's factors. Motors and converters are voltages behind a reactance, so a converter's current is limited
at its terminals to its declared multiple of rated current. docs/methods/fault-current.md tells range and checks.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from spinel.core.errors import InputError
from spinel.core.fault.grid import Grid
from spinel.core.fault.impedance import Injection, injections
from spinel.core.fault.solution import Passive, Solution
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network, Node
from spinel.core.parts import parts
from spinel.core.said import say

SOURCE = "Thevenin nodal solution, prefault 1.0 per unit"
#: Faults taken at once: bounds the memory of the currents through a whole network.
BLOCK = 128


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


@dataclass(frozen=True)
class Faults:
    """Faults at many nodes, a column each: kA symmetrical, magnitudes.

    ``branch_ka``: through each chosen branch, at the voltage of its end ``a`` where ``at_a`` (that end is nearer the
    fault), else ``b``. ``source_ka``: of each injection, at the voltage of the fault.
    """

    nodes: tuple[str, ...]
    bolted_ka: np.ndarray
    z_pu: np.ndarray
    branch_ka: np.ndarray
    at_a: np.ndarray
    source_ka: np.ndarray


class NodalModel:
    """One circuit, solved once and asked for faults at any of its energized AC nodes."""

    def __init__(self, network: Network, circuit: Circuit, grid: Grid | None = None):
        self.network, self.circuit = network, circuit
        self.grid = grid or Grid(network)
        #: candidates of the grid that conduct here
        self.closed = np.flatnonzero(self.grid.closed(circuit))
        self.injections: list[Injection] = injections(network, circuit, self.grid.feeders)
        self.injected = np.array([self.grid.index[i.node] for i in self.injections], dtype=np.intp)
        self.part = self._parts()
        lasting = np.array([i.sustained for i in self.injections], dtype=bool)
        parts = int(self.part.max(initial=-1)) + 1
        fed, self._lasting = np.zeros(parts, dtype=bool), np.zeros(parts, dtype=bool)
        fed[self.part[self.injected]] = True
        self._lasting[self.part[self.injected[lasting]]] = True
        #: nodes that something feeds
        self.fed = fed[self.part]
        self.branches = self.closed[self.fed[self.grid.a[self.closed]]]
        self.lasting = lasting

    def _parts(self) -> np.ndarray:
        return parts(len(self.grid.names), self.grid.a[self.closed], self.grid.b[self.closed])

    @cached_property
    def solution(self) -> Solution:
        """Solved when first asked, for the nodes that something feeds."""
        grid, size = self.grid, len(self.grid.names)
        shunt = np.zeros(size, dtype=complex)
        np.add.at(shunt, self.injected, 1 / np.array([i.z_pu for i in self.injections], dtype=complex))
        z = grid.z_pu(self.circuit)[self.branches]
        passive = Passive(
            size, grid.a[self.branches], grid.b[self.branches], z, grid.ratio[self.branches], shunt, self.fed
        )
        keep = np.zeros(size, dtype=bool)
        keep[self.injected[self.lasting]] = True
        return Solution(passive, keep)

    def energised(self, node_id: str) -> bool:
        """Is there any source or motor to feed a fault at the node?"""
        at = self.grid.index.get(node_id)
        return at is not None and bool(self.fed[at])

    def fault_is_sustained(self, node_id: str) -> bool:
        """Does anything but motors reach the node?"""
        at = self.grid.index.get(node_id)
        return at is not None and bool(self._lasting[self.part[at]])

    @cached_property
    def sustained(self) -> np.ndarray:
        """Which nodes anything but motors reaches, in the order of the grid."""
        given: np.ndarray = self._lasting[self.part]
        return given

    @cached_property
    def bolted(self) -> np.ndarray:
        """Bolted fault current of every node in kA, in the order of the grid; 0 where nothing feeds it."""
        return np.where(self.fed, self.grid.base_ka * np.abs(self.solution.drive), 0.0)

    @cached_property
    def x_r(self) -> np.ndarray:
        """X/R of what a fault at every node sees, in the order of the grid; infinite without resistance."""
        z = 1 / np.where(self.solution.drive == 0, 1, self.solution.drive)
        with np.errstate(divide="ignore"):
            return np.abs(z.imag / z.real)

    def bolted_ka(self, node_id: str) -> float:
        """Bolted three-phase fault current at an energized node, kA; InputError elsewhere."""
        return float(self.bolted[self.at(node_id)])

    def at(self, node_id: str) -> int:
        """Index in the grid of an energized AC node; InputError elsewhere."""
        if not self.energised(node_id):
            raise InputError("node", node_id, say("nodal-an-ac-node-that-a-source-or"))
        return self.grid.index[node_id]

    def faults(self, node_ids: Sequence[str], branches: np.ndarray | None = None) -> Faults:
        """Faults at many energized nodes with the current through branches (default: all) and of every source.

        ``branches``: positions in ``self.branches``.
        """
        at = np.array([self.at(n) for n in node_ids], dtype=np.intp)
        chosen = np.arange(len(self.branches)) if branches is None else branches
        parts = [self._block(at[i : i + BLOCK], chosen) for i in range(0, len(at), BLOCK)]
        branch, at_a, source = (np.concatenate(p, axis=1) for p in zip(*parts, strict=True))
        z = 1 / self.solution.drive[at]
        return Faults(tuple(node_ids), self.bolted[at], z, branch, at_a, source)

    def _block(self, at: np.ndarray, chosen: np.ndarray) -> tuple[np.ndarray, ...]:
        """Currents for some faults; a drop of 1 at the fault is the fault itself."""
        grid, solution = self.grid, self.solution
        drops = solution.drops(at)
        current, at_a = solution.branch_currents(drops, chosen)
        which = self.branches[chosen]
        base_a, base_b = grid.base_ka[grid.a[which]] / grid.ratio[which], grid.base_ka[grid.b[which]]
        branch = np.abs(current) * np.where(at_a, base_a[:, None], base_b[:, None])
        feeds = 1 / np.array([i.z_pu for i in self.injections], dtype=complex)
        source = np.abs(drops[self.injected] * feeds[:, None]) * grid.base_ka[at]
        return branch, at_a, source

    def fault(self, node_id: str) -> Fault:
        """The fault at an energized AC node; InputError elsewhere."""
        found = self.faults([node_id])
        shares: dict[str, Share] = {}
        for i, ka, at_a in zip(self.branches, found.branch_ka[:, 0], found.at_a[:, 0], strict=True):
            element = self.grid.elements[i]
            known = shares.get(element.id)
            if known is None or known.current_ka < ka:
                volts = float(self.grid.volts[self.grid.a[i] if at_a else self.grid.b[i]])
                shares[element.id] = Share(element, float(ka), volts)
        z = complex(found.z_pu[0])
        # exact zero resistance happens only in made-up data
        x_r = abs(z.imag / z.real) if z.real else math.inf
        fed = zip(self.injections, found.source_ka[:, 0], strict=True)
        contributions = tuple((i.element, float(ka)) for i, ka in fed)
        return Fault(self.network.node[node_id], float(found.bolted_ka[0]), z, float(x_r), shares, contributions)
