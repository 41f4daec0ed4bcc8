"""Line-to-line and line-to-ground bolted faults, by sequence networks.

Negative sequence: as positive, but machines by their X2 where recorded. Zero sequence only where every element on the
way has recorded what it needs; otherwise the line-to-ground current is refused and the first lack is named. Currents
are rms symmetrical; load and line capacitance are left out, so an ungrounded system has no ground-fault current here.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from spinel.core.errors import InputError
from spinel.core.fault.grid import Grid
from spinel.core.fault.impedance import (
    CLOSED_PU,
    base_ohm,
    of_reactance,
    per_kva,
    ratio,
    star_legs,
    star_node,
    zero_sequence_pu,
)
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.solution import Passive, Solution
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import CONVERTERS, SERIES
from spinel.core.network.windings import Winding, windings
from spinel.core.parts import parts
from spinel.core.said import Said, Sayable, say

SOURCE = "symmetrical components, Thevenin, prefault 1.0 per unit"


@dataclass(frozen=True)
class Unbalanced:
    """Bolted currents at a node in kA. ``line_to_ground_ka`` None: ``lacking`` says why there is no figure.

    ``z1_pu``, ``z2_pu``, ``z0_pu``: sequence impedances on 100 MVA, ``z0_pu`` None where none is known or none exists.
    """

    line_to_line_ka: float
    line_to_ground_ka: float | None
    z1_pu: complex
    z2_pu: complex
    z0_pu: complex | None
    lacking: Sayable = ""


class _Lacking(Exception):
    """What zero-sequence data is not recorded, in words."""

    def __init__(self, said: Said):
        self.said = said
        super().__init__(str(said))


class SequenceModel:
    """The negative and zero sequence beside a circuit's positive one."""

    def __init__(self, model: NodalModel):
        self.model, self.network = model, model.network
        self._negative: Solution | None = None

    def unbalanced(self, node_id: str) -> Unbalanced:
        """Currents of unbalanced faults at an energized AC node; InputError elsewhere."""
        at = self.model.at(node_id)
        base = float(self.model.grid.base_ka[at])
        z1 = complex(1 / self.model.solution.drive[at])
        z2 = complex(1 / self._negative_solution().drive[at])
        line = math.sqrt(3) * base / abs(z1 + z2)
        try:
            zero = _ZeroNetwork(self.model, at)
            z0 = zero.impedance()
        except _Lacking as lack:
            return Unbalanced(line, None, z1, z2, None, lack.said)
        if z0 is None and zero.magnetized():
            tags = ", ".join(zero.magnetized())
            why = say("unbalanced-zero-sequence-passes-only-by-the-magnetizing", tags=tags)
            return Unbalanced(line, None, z1, z2, None, why)
        if z0 is None:
            return Unbalanced(line, 0.0, z1, z2, None, say("unbalanced-no-path-to-ground-an-ungrounded-system"))
        return Unbalanced(line, 3 * base / abs(z1 + z2 + z0), z1, z2, z0)

    def _negative_solution(self) -> Solution:
        """The positive network with the machines' X2; a machine without one has X2 as X''."""
        if self._negative is None:
            positive = self.model.solution.passive
            shunt = positive.shunt.copy()
            for i, at in zip(self.model.injections, self.model.injected, strict=True):
                if i.element.x2_pu is not None:
                    z2 = of_reactance(i.element.x2_pu * per_kva(i.element), i.element.x_r or 0)
                    shunt[at] += 1 / z2 - 1 / i.z_pu
            same = (positive.size, positive.a, positive.b, positive.z, positive.ratio)
            self._negative = Solution(Passive(*same, shunt, positive.present), np.zeros(positive.size, dtype=bool))
        return self._negative


class _ZeroNetwork:
    """The zero-sequence network that a node reaches: grown from it, so that only what matters must be recorded."""

    def __init__(self, model: NodalModel, at: int):
        self.model, self.grid = model, model.grid
        self.network: Network = model.network
        self.feeding = {i.element.id: i for i in model.injections}
        self.a: list[int] = []
        self.b: list[int] = []
        self.z: list[complex] = []
        self.ratio: list[float] = []
        self.shunt: dict[int, complex] = {}
        #: grounded stars that face an open star: zero sequence passes by their magnetizing impedance alone
        self.magnetizing: dict[int, str] = {}
        self.index = {at: 0}
        self.nodes = [at]
        self._grow(self.grid)

    def _grow(self, grid: Grid) -> None:
        touching = _by_node(self.model)
        done: set[str] = set()
        position = 0
        while position < len(self.nodes):
            name = grid.names[self.nodes[position]]
            position += 1
            if name.startswith("star:"):
                continue
            for e in self.network.at_node[name]:
                if e.id in done:
                    continue
                done.add(e.id)
                self._element(e, touching.get(e.id, ()))

    def _element(self, e: Element, joined: tuple[tuple[int, int], ...]) -> None:
        if e.kind == "transformer":
            self._transformer(e)
        elif e.kind in SERIES:
            if e.r0_ohm is None or e.x0_ohm is None:
                raise _Lacking(say("unbalanced-r0-ohm-and-x0-ohm-are-not", tag=e.tag))
            base = base_ohm(self.network.node[e.ends[0]].nominal_voltage_v)
            self._branches(joined, complex(e.r0_ohm, e.x0_ohm) / base)
        elif e.id in self.feeding:
            self._machine(e)
        elif e.kind not in CONVERTERS or joined:
            self._branches(joined, CLOSED_PU)

    def _branches(self, joined: tuple[tuple[int, int], ...], z: complex) -> None:
        for a, b in joined:
            self._branch(a, b, z, 1.0)

    def _branch(self, a: int, b: int, z: complex, turns: float) -> None:
        for n in (a, b):
            if n not in self.index:
                self.index[n] = len(self.nodes)
                self.nodes.append(n)
        self.a.append(self.index[a])
        self.b.append(self.index[b])
        self.z.append(z)
        self.ratio.append(turns)

    def _ground(self, n: int, z: complex) -> None:
        self.shunt[n] = self.shunt.get(n, 0) + 1 / z

    def _machine(self, e: Element) -> None:
        at = self.grid.index[e.ends[0]]
        if e.kind == "source":
            if e.z0_z1 is None:
                raise _Lacking(say("unbalanced-z0-z1-is-not-recorded", tag=e.tag))
            self._ground(at, self.feeding[e.id].z_pu * e.z0_z1)
        elif e.kind == "generator" and e.neutral_grounded:
            if e.x0_pu is None:
                raise _Lacking(say("unbalanced-x0-pu-is-not-recorded", tag=e.tag))
            z = of_reactance(e.x0_pu * per_kva(e), e.x_r or 0)
            self._ground(at, z + 3 * e.neutral_ohm / base_ohm(self.network.node[e.ends[0]].nominal_voltage_v))
        # motors, inverters and ships: their neutrals are not grounded (common practice)

    def _transformer(self, e: Element) -> None:
        """Through where both windings are grounded stars, to ground from one that faces a delta, else nothing."""
        if not e.vector_group:
            raise _Lacking(say("unbalanced-vector-group-is-not-recorded", tag=e.tag))
        found = windings(e.vector_group)
        if len(e.ends) == 3:
            self._three_windings(e, found)
            return
        ends = [self.grid.index[n] for n in e.ends]
        one, two = found
        z = zero_sequence_pu(self.network, self.model.circuit.level, e)
        for k, (this, other) in enumerate(((one, two), (two, one))):
            if this.grounded and (other.connection == "delta" or this.connection == "zigzag"):
                self._ground(ends[k], z * self._seen(e, k) + self._neutral(e, k))
            elif this.grounded and this.connection == other.connection == "star" and not other.grounded:
                self.magnetizing[ends[k]] = e.tag
        if one.grounded and two.grounded and one.connection == two.connection == "star":
            self._branch(ends[0], ends[1], z + self._neutral(e, 1), ratio(self.network, e, 0, 1))

    def _seen(self, e: Element, end: int) -> float:
        """The impedance is at the second winding; from the first it is seen through the turns."""
        return ratio(self.network, e, 0, 1) ** 2 if end == 0 else 1.0

    def _neutral(self, e: Element, end: int) -> float:
        return 3 * e.neutral_ohm / base_ohm(self.network.node[e.ends[end]].nominal_voltage_v)

    def _three_windings(self, e: Element, found: tuple[Winding, ...]) -> None:
        """The equivalent star: grounded stars reach its middle, deltas ground it, open stars leave it."""
        star = self.grid.index[star_node(e)]
        legs = star_legs(self.network, self.model.circuit.level, e)
        if not any(w.grounded for w in found):
            return
        for end, winding, z in zip(e.ends, found, legs, strict=True):
            if winding.connection == "delta":
                if star not in self.index:
                    self.index[star] = len(self.nodes)
                    self.nodes.append(star)
                self._ground(star, z)
            elif winding.grounded:
                neutral = self._neutral(e, e.ends.index(end))
                turns = ratio(self.network, e, e.ends.index(end), 1)
                self._branch(self.grid.index[end], star, z + neutral, turns)

    def impedance(self) -> complex | None:
        """Driving-point impedance at the node that the network was grown from; None without a path to ground."""
        reached = self._reached()
        # what grounds the far side of a delta, or stands behind one, is recorded too and out of reach
        place = {n: i for i, n in enumerate(reached)}
        shunts = {place[self.index[n]]: y for n, y in self.shunt.items() if self.index.get(n) in place}
        if not shunts:
            return None
        y = np.zeros((len(reached), len(reached)), dtype=complex)
        for a, b, z, t in zip(self.a, self.b, self.z, self.ratio, strict=True):
            if a in place:
                i, j = place[a], place[b]
                y[i, i] += 1 / z / t**2
                y[j, j] += 1 / z
                y[i, j] -= 1 / z / t
                y[j, i] -= 1 / z / t
        for node, admittance in shunts.items():
            y[node, node] += admittance
        unit = np.zeros(len(reached), dtype=complex)
        unit[0] = 1
        return complex(np.linalg.solve(y, unit)[0])

    def magnetized(self) -> list[str]:
        """Transformers within reach whose magnetizing impedance is the only way to ground."""
        reached = set(self._reached())
        return [tag for n, tag in self.magnetizing.items() if n in self.index and self.index[n] in reached]

    def _reached(self) -> list[int]:
        """Nodes joined to the first by branches that pass zero sequence, the first leading."""
        part = parts(len(self.nodes), np.array(self.a, dtype=np.intp), np.array(self.b, dtype=np.intp))
        return [int(i) for i in np.flatnonzero(part == part[0])]


def _by_node(model: NodalModel) -> dict[str, tuple[tuple[int, int], ...]]:
    """Pairs of nodes that each element joins in the circuit."""
    found: dict[str, list[tuple[int, int]]] = {}
    for i in model.branches:
        pair = (int(model.grid.a[i]), int(model.grid.b[i]))
        found.setdefault(model.grid.elements[i].id, []).append(pair)
    return {k: tuple(v) for k, v in found.items()}


def fault_currents(model: NodalModel, node_id: str) -> Unbalanced:
    """Unbalanced faults at one node of a circuit. InputError for a node that nothing feeds."""
    if node_id not in model.network.node:
        raise InputError("node", node_id, say("unbalanced-the-id-of-a-node"))
    return SequenceModel(model).unbalanced(node_id)
