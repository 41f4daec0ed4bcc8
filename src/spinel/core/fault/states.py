"""Currents of faults in many states of one topology, and while devices open and sources weaken.

A state is a set of impedances: a strength, a temperature, a moment. Laterals are folded into admittances, all states
at once; the core is solved once a state, with the currents of its devices as unknowns of their own, so that opening a
device is one more condition (its current is nothing) and not a difference of two huge numbers. A weaker source and an
opened device are then both a change of rank one, for any number of faults in closed form. Exact, like ``solution``.

Everything per unit; a fault at a node is a drop of 1 there.
"""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from spinel.core.fault.topology import ClosedBranches

if TYPE_CHECKING:
    from spinel.core.compiled.tables import NetTable


class States:
    """``z``: impedances of the branches; ``shunt``: admittances of what feeds (states, nodes);
    ``source_y``: admittance of each lasting source (states, sources)."""

    def __init__(self, topology: ClosedBranches, z: np.ndarray, shunt: np.ndarray, source_y: np.ndarray):
        self.topology, self.source_y = topology, source_y
        t = topology
        self.z_child = np.zeros(shunt.shape[1], dtype=complex)
        peeled = np.flatnonzero(t.parent >= 0)
        self.z_child[peeled] = z[t.edge[peeled]] * t.on_own_side[peeled]
        self.y_below = shunt.astype(complex)
        self.seen_from_parent = np.zeros(shunt.shape, dtype=complex)
        for r in t.rounds:
            below = self.y_below[:, r.child]
            y = below / (1 + self.z_child[r.child] * below) * t.seen[r.child] ** 2
            self.seen_from_parent[:, r.child] = y
            self.y_below[:, r.parents] += np.add.reduceat(y, r.starts, axis=1)
        # ports: every core node, then every joint; a lasting source stands at a core node
        self.nodes = len(t.core)
        size = self.nodes + len(t.joints)
        self.between = np.empty((len(shunt), size, size), dtype=complex)
        for s in range(len(shunt)):
            self.between[s] = self._core(z, self.y_below[s, t.core])

    def _core(self, z: np.ndarray, shunt: np.ndarray) -> np.ndarray:
        """What each port does to each: volts at core nodes and current in joints, for a current drawn at a node or a
        voltage put in series with a joint. Symmetrical."""
        t, n = self.topology, self.nodes
        size = n + len(t.joints)
        if not size:
            return np.zeros((0, 0), dtype=complex)
        # loaded where it is needed: signing in, records and most commands do without
        from scipy.sparse import coo_matrix, csc_matrix
        from scipy.sparse.linalg import splu

        place, ratio, y = t.core_place, t.ratio[t.lines], 1 / z[t.lines]
        a, b = place[t.a[t.lines]], place[t.b[t.lines]]
        ja, jb, j, every = place[t.a[t.joints]], place[t.b[t.joints]], np.arange(n, size), np.arange(n)
        one = np.ones(len(j))
        rows = np.concatenate([a, b, a, b, every, ja, j, jb, j, j])
        columns = np.concatenate([a, b, b, a, every, j, ja, j, jb, j])
        values = np.concatenate([y / ratio**2, y, -y / ratio, -y / ratio, shunt, one, one, -one, -one, -z[t.joints]])
        factors = splu(csc_matrix(coo_matrix((values, (rows, columns)), shape=(size, size))))
        found: np.ndarray = factors.solve(np.eye(size, dtype=complex))
        return found

    @cached_property
    def table(self) -> NetTable:
        """For compiled/currents, which follows faults through it."""
        from spinel.core.compiled.tables import NetTable

        t = self.topology
        base_a = t.model.grid.base_ka * 1000
        first, neighbour, by_joint = t.neighbours
        joint_base_a = base_a[t.a[t.joints]]
        alone_a = np.abs(self.between[:, : self.nodes, self.nodes :]) * joint_base_a
        return NetTable(
            z_child=self.z_child, y_below=self.y_below, seen_from_parent=self.seen_from_parent, between=self.between,
            source_y=self.source_y, seen=t.seen, base_a=base_a, source_core=t.source_core.astype(np.int64),
            joint_base_a=joint_base_a, alone_a=alone_a, first=first, neighbour=neighbour, by_joint=by_joint,
        )  # fmt: skip
