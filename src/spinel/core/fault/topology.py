"""What hangs on what in one set of closed branches, whatever the impedances are: the laterals that are peeled off, the
core that is left.

Found once and shared by every strength, temperature and moment of a case (``states``).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from spinel.core.fault.impedance import CLOSED_PU
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.solution import peel


@dataclass(frozen=True)
class Round:
    """Nodes peeled off together, those of one parent side by side; ``starts`` of each parent's."""

    child: np.ndarray
    parents: np.ndarray
    starts: np.ndarray


class ClosedBranches:
    """``model``: any of the circuits with these branches closed. Positions of branches are the model's; those of core
    nodes their place in ``core``."""

    def __init__(self, model: NodalModel):
        grid = model.grid
        self.model, self.size = model, len(grid.names)
        self.a, self.b = grid.a[model.branches], grid.b[model.branches]
        self.ratio = grid.ratio[model.branches]
        keep = np.zeros(self.size, dtype=bool)
        keep[model.injected[model.lasting]] = True
        found = peel(self.size, self.a, self.b, keep, model.fed)
        self.parent, self.edge, self.core = found.parent, found.branch, found.core
        self.rounds = [_round(child, self.parent[child]) for child in found.rounds]
        peeled = np.flatnonzero(self.parent >= 0)
        at_a = self.a[self.edge[peeled]] == peeled
        #: how the parent's voltage is seen from a node, and by what its branch's impedance counts on its own side
        self.seen, self.on_own_side = np.ones(self.size), np.ones(self.size)
        self.seen[peeled] = np.where(at_a, self.ratio[self.edge[peeled]], 1 / self.ratio[self.edge[peeled]])
        self.on_own_side[peeled] = np.where(at_a, self.ratio[self.edge[peeled]] ** 2, 1.0)
        self.core_place = np.full(self.size, -1, dtype=np.intp)
        self.core_place[self.core] = np.arange(len(self.core))
        root = np.arange(self.size)
        for r in reversed(self.rounds):
            root[r.child] = root[self.parent[r.child]]
        #: the core node that each node hangs on
        self.root = self.core_place[root]
        every = np.arange(len(self.a))
        inside = np.flatnonzero((self.edge[self.a] != every) & (self.edge[self.b] != every))
        z = grid.z_pu(model.circuit)[model.branches[inside]]
        #: branches of the core: what is next to zero impedance (its current is an unknown of its own), and the rest
        self.joints, self.lines = inside[z == CLOSED_PU], inside[z != CLOSED_PU]
        #: injections that feed until they are cut or cease
        self.sources = np.flatnonzero(model.lasting)
        self.source_core = self.core_place[model.injected[self.sources]]

    @cached_property
    def neighbours(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Neighbours of core nodes one after the other: where each node's begin, which, by which joint (-1: a line)."""
        closed = np.concatenate([self.joints, self.lines])
        joint = np.concatenate([np.arange(len(self.joints)), np.full(len(self.lines), -1)])
        a, b = self.core_place[self.a[closed]], self.core_place[self.b[closed]]
        own, other = np.concatenate([a, b]), np.concatenate([b, a])
        order = np.argsort(own, kind="stable")
        first = np.searchsorted(own[order], np.arange(len(self.core) + 1)).astype(np.int64)
        return first, other[order].astype(np.int64), np.tile(joint, 2)[order].astype(np.int64)

    def same_branches(self, model: NodalModel) -> bool:
        """Is it a topology of this model too?"""
        return (
            np.array_equal(self.model.branches, model.branches)
            and np.array_equal(self.model.injected, model.injected)
            and np.array_equal(self.model.lasting, model.lasting)
        )


def _round(child: np.ndarray, parent: np.ndarray) -> Round:
    order = np.argsort(parent, kind="stable")
    parents, starts = np.unique(parent[order], return_index=True)
    return Round(child[order], parents, starts)


class Ways:
    """The laterals of some nodes: ``nodes`` (steps, nodes), from each node up to the core, -1 beyond its end; likewise
    ``branch``; ``depth`` and core ``root`` of each."""

    def __init__(self, topology: ClosedBranches, at: np.ndarray):
        rows, node = [], at.copy()
        while True:
            low = (node >= 0) & (topology.parent[np.maximum(node, 0)] >= 0)
            if not low.any():
                break
            rows.append(np.where(low, node, -1))
            node = np.where(low, topology.parent[np.maximum(node, 0)], -1)
        self.nodes = np.array(rows, dtype=np.intp).reshape(len(rows), len(at))
        self.branch = np.where(self.nodes >= 0, topology.edge[np.maximum(self.nodes, 0)], -1)
        self.depth = (self.nodes >= 0).sum(axis=0)
        self.root = topology.root[at]
