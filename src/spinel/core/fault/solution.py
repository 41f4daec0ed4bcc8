"""Voltages and currents of a passive network when one node is shorted: a ladder on its laterals, a matrix in its core.

Most of a site is radial. Such parts are peeled off leaf by leaf and folded into equivalent admittances; what is
left, meshes and the ways between sources, is the core and is inverted. Going back out, every node gets its
driving-point admittance, and two ratios: of its drop in voltage to its parent's when the fault is above it (``down``)
and of its parent's to its own when the fault is at it or below (``up``). This is exact, not an approximation, and
takes time proportional to the number of nodes besides the core.

Everything in per unit; a fault at node k is a drop of 1 there. A branch's ratio is off-nominal turns at its end a.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np


@dataclass(frozen=True)
class Passive:
    """A network of ``size`` nodes: branches (ends, impedance, ratio) and admittances to the reference.

    ``present``: nodes that are part of it; the others have no branch and are never asked for.
    """

    size: int
    a: np.ndarray
    b: np.ndarray
    z: np.ndarray
    ratio: np.ndarray
    shunt: np.ndarray
    present: np.ndarray


@dataclass(frozen=True)
class Laterals:
    """The peeled forest: ``rounds`` of nodes, leaves first; ``parent`` and ``branch`` of each (-1 in the core)."""

    parent: np.ndarray
    branch: np.ndarray
    rounds: tuple[np.ndarray, ...]
    core: np.ndarray


def peel(size: int, a: np.ndarray, b: np.ndarray, keep: np.ndarray, present: np.ndarray) -> Laterals:
    """Take off nodes with a single branch until none is left but those to ``keep`` and those in meshes."""
    degree = np.bincount(np.concatenate([a, b]), minlength=size)
    parent, branch = np.full(size, -1, dtype=np.intp), np.full(size, -1, dtype=np.intp)
    alive = np.arange(len(a))
    rounds = []
    while len(alive):
        leaf = (degree == 1) & ~keep
        at_a = leaf[a[alive]]
        at_b = leaf[b[alive]] & ~at_a
        taken = at_a | at_b
        if not taken.any():
            break
        edges = alive[taken]
        child = np.where(at_a[taken], a[edges], b[edges])
        parent[child], branch[child] = np.where(at_a[taken], b[edges], a[edges]), edges
        degree -= np.bincount(np.concatenate([a[edges], b[edges]]), minlength=size)
        rounds.append(child)
        alive = alive[~taken]
    return Laterals(parent, branch, tuple(rounds), np.flatnonzero((parent < 0) & present))


class Solution:
    """Every fault of a passive network whose nodes all reach some admittance to the reference.

    ``keep``: nodes that stay in the core whatever hangs there (its sources, so that ways to them are in it).
    """

    def __init__(self, passive: Passive, keep: np.ndarray):
        self.passive = p = passive
        self.laterals = found = peel(p.size, p.a, p.b, keep, p.present)
        peeled = np.flatnonzero(found.parent >= 0)
        edge = found.branch[peeled]
        at_a = p.a[edge] == peeled
        # on the child's side: impedance, and how the parent's voltage is seen from there
        self.z_child = np.zeros(p.size, dtype=complex)
        self.z_child[peeled] = np.where(at_a, p.z[edge] * p.ratio[edge] ** 2, p.z[edge])
        self.seen = np.ones(p.size)
        self.seen[peeled] = np.where(at_a, p.ratio[edge], 1 / p.ratio[edge])
        self.y_below = p.shunt.astype(complex)
        self.y_up = np.zeros(p.size, dtype=complex)
        self.up = np.ones(p.size, dtype=complex)
        self._fold()
        self._unfold()

    def _fold(self) -> None:
        """Admittance of what hangs below each node, itself included, leaves first."""
        parent = self.laterals.parent
        self.seen_from_parent = np.zeros(self.passive.size, dtype=complex)
        for child in self.laterals.rounds:
            y = self.y_below[child] / (1 + self.z_child[child] * self.y_below[child]) * self.seen[child] ** 2
            self.seen_from_parent[child] = y
            np.add.at(self.y_below, parent[child], y)

    @cached_property
    def inside(self) -> np.ndarray:
        """Branches of the core."""
        every = np.arange(len(self.passive.a))
        taken = self.laterals.branch
        return np.flatnonzero((taken[self.passive.a] != every) & (taken[self.passive.b] != every))

    @cached_property
    def core_z(self) -> np.ndarray:
        """Impedance matrix of the core, in the order of ``laterals.core``."""
        p, core = self.passive, self.laterals.core
        inside = self.inside
        place = np.full(p.size, -1, dtype=np.intp)
        place[core] = np.arange(len(core))
        a, b, y, t = place[p.a[inside]], place[p.b[inside]], 1 / p.z[inside], p.ratio[inside]
        diagonal = np.arange(len(core))
        rows, columns = np.concatenate([a, b, a, b, diagonal]), np.concatenate([a, b, b, a, diagonal])
        values = np.concatenate([y / t**2, y, -y / t, -y / t, self.y_below[core]])
        # loaded where it is needed: signing in, records and most commands do without
        from scipy.sparse import coo_matrix, csc_matrix
        from scipy.sparse.linalg import splu

        matrix = csc_matrix(coo_matrix((values, (rows, columns)), shape=(len(core), len(core))))
        if not len(core):
            return np.zeros((0, 0), dtype=complex)
        factors = splu(matrix, permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True})
        given: np.ndarray = factors.solve(np.eye(len(core), dtype=complex))
        return given

    def _unfold(self) -> None:
        """Driving-point admittance of every node, the core first."""
        parent, core = self.laterals.parent, self.laterals.core
        self.drive = np.zeros(self.passive.size, dtype=complex)
        self.drive[core] = 1 / np.diagonal(self.core_z)
        self.root = np.arange(self.passive.size)
        for child in reversed(self.laterals.rounds):
            above = (self.drive[parent[child]] - self.seen_from_parent[child]) / self.seen[child] ** 2
            grown = 1 + self.z_child[child] * above
            self.y_up[child] = above / grown
            self.up[child] = 1 / (self.seen[child] * grown)
            self.drive[child] = self.y_below[child] + self.y_up[child]
            self.root[child] = self.root[parent[child]]
        self.down = self.seen / (1 + self.z_child * self.y_below)
        self.core_place = np.full(self.passive.size, -1, dtype=np.intp)
        self.core_place[core] = np.arange(len(core))

    def climb(self, at: np.ndarray) -> tuple[list[tuple[np.ndarray, np.ndarray, np.ndarray]], np.ndarray]:
        """Ways from faults up to the core: steps of (which faults, node, drop there), and the drop at each root."""
        node, drop, which = at.copy(), np.ones(len(at), dtype=complex), np.arange(len(at))
        steps: list[tuple[np.ndarray, np.ndarray, np.ndarray]] = []
        at_root = np.ones(len(at), dtype=complex)
        while True:
            low = self.laterals.parent[node] >= 0
            at_root[which[~low]] = drop[~low]
            node, drop, which = node[low], drop[low], which[low]
            if not len(which):
                return steps, at_root
            steps.append((which, node, drop))
            drop, node = drop * self.up[node], self.laterals.parent[node]

    def drops(self, at: np.ndarray) -> np.ndarray:
        """Drop of every node (rows) for a fault at each of ``at`` (columns)."""
        found = np.zeros((self.passive.size, len(at)), dtype=complex)
        steps, at_root = self.climb(at)
        root = self.core_place[self.root[at]]
        core = self.core_z[:, root]
        found[self.laterals.core] = core * (at_root / core[root, np.arange(len(at))])
        on_way = [(np.concatenate([s[k] for s in steps]) if steps else np.zeros(0, dtype=np.intp)) for k in range(3)]
        which, node, drop = (np.asarray(x) for x in on_way)
        round_of = np.full(self.passive.size, -1)
        for i, child in enumerate(self.laterals.rounds):
            round_of[child] = i
        order = np.argsort(round_of[node], kind="stable")
        bounds = np.searchsorted(round_of[node][order], np.arange(len(self.laterals.rounds) + 1))
        for i in range(len(self.laterals.rounds) - 1, -1, -1):
            child = self.laterals.rounds[i]
            found[child] = self.down[child][:, None] * found[self.laterals.parent[child]]
            here = order[bounds[i] : bounds[i + 1]]
            found[node[here], which[here]] = drop[here]
        return found

    def branch_currents(self, drops: np.ndarray, branches: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Currents (complex per unit, at end b) through chosen branches, and whether end a is nearer the fault."""
        p = self.passive
        a, b, t = p.a[branches], p.b[branches], p.ratio[branches][:, None]
        current = (drops[a] / t - drops[b]) / p.z[branches][:, None]
        return current, np.abs(1 - drops[a]) < np.abs(1 - drops[b])
