"""Currents of faults while a network changes under them: devices of the core opened, sources gone or weaker.

A model is solved once with everything in. Here the core is solved anew for each set of opened devices, sources are
weakened or taken out by the matrix inversion lemma on their few columns, and the way from the core down to a fault is a
ladder of known elements. Exact, like ``solution``, and many faults at once, each with sources of its own strength.
"""

from __future__ import annotations

import copy
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from spinel.core.fault.nodal import NodalModel
from spinel.core.parts import parts


@dataclass
class Seen:
    """Faults as they are seen: admittance at each (per unit), the drop at its root when it drops 1 itself, amperes of
    every element of its lateral for the bolted fault (steps, faults), and what the core needs to go on: the fault's
    core, what the root draws, and how much the column of each source counts in it."""

    drive: np.ndarray
    at_root: np.ndarray
    amps: np.ndarray
    root: np.ndarray
    root_drive: np.ndarray
    weights: np.ndarray | None
    cores: list[tuple[Core, np.ndarray]]

    def worth(self, ladder: Ladder, strength: np.ndarray | None) -> np.ndarray:
        """The part of each fault's current that each source gives (faults, sources)."""
        drop = np.zeros((len(self.root), len(ladder.sources)), dtype=complex)
        for core, g in self.cores:
            names, back = np.unique(self.root[g], return_inverse=True)
            drop[g] = core.columns(names)[ladder.source_core][:, back].T
            if self.weights is not None:
                drop[g] -= self.weights[g] @ core.source_columns[ladder.source_core].T
        found = np.abs(drop * ladder.source_y[None, :] * (self.root_drive * self.at_root / self.drive)[:, None])
        given: np.ndarray = found if strength is None else found * np.abs(strength)
        return given


class Ways:
    """The laterals of some nodes: ``nodes`` (steps, nodes), from each node up to the core, -1 beyond its end."""

    def __init__(self, model: NodalModel, at: np.ndarray):
        solution = model.solution
        laterals = solution.laterals
        rows, node = [], at.copy()
        while True:
            low = (node >= 0) & (laterals.parent[np.maximum(node, 0)] >= 0)
            if not low.any():
                break
            rows.append(np.where(low, node, -1))
            node = np.where(low, laterals.parent[np.maximum(node, 0)], -1)
        self.nodes = np.array(rows, dtype=np.intp).reshape(len(rows), len(at))
        self.branch = np.where(self.nodes >= 0, laterals.branch[np.maximum(self.nodes, 0)], -1)
        self.depth = (self.nodes >= 0).sum(axis=0)
        self.root = solution.core_place[solution.root[at]]


class Core:
    """The core of a model with some of its branches open. Columns of its impedance matrix are solved when asked."""

    def __init__(self, model: NodalModel, opened: frozenset[int], sources: np.ndarray):
        solution = model.solution
        p, core = solution.passive, solution.laterals.core
        inside = solution.inside
        if opened:
            inside = inside[~np.isin(inside, list(opened))]
        place, size = solution.core_place, len(core)
        a, b, y, t = place[p.a[inside]], place[p.b[inside]], 1 / p.z[inside], p.ratio[inside]
        #: which nodes hang together
        self.part: np.ndarray = parts(size, a, b)
        self.sources = sources
        self._branches, self._size = (a, b, y, t), size
        self._shunt = solution.y_below[core]
        self._of: dict[int, int] = {}
        self._store = np.zeros((size, 0), dtype=complex)

    @cached_property
    def _factors(self) -> Any:
        a, b, y, t = self._branches
        shunt = self._shunt.copy()
        held = np.bincount(self.part, weights=np.abs(shunt), minlength=self._size) > 0
        # a part that nothing holds to the reference is dead: it is never asked, but must not make the matrix singular
        shunt[~held[self.part]] = 1.0
        diagonal = np.arange(self._size)
        rows, columns = np.concatenate([a, b, a, b, diagonal]), np.concatenate([a, b, b, a, diagonal])
        values = np.concatenate([y / t**2, y, -y / t, -y / t, shunt])
        # loaded where it is needed: signing in, records and most commands do without
        from scipy.sparse import coo_matrix, csc_matrix
        from scipy.sparse.linalg import splu

        return splu(
            csc_matrix(coo_matrix((values, (rows, columns)), shape=(self._size, self._size))),
            permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True},
        )  # fmt: skip

    @cached_property
    def source_columns(self) -> np.ndarray:
        return self.columns(self.sources)

    def columns(self, nodes: np.ndarray) -> np.ndarray:
        """Columns of the impedance matrix at core nodes (core, nodes)."""
        new = [n for n in dict.fromkeys(nodes.tolist()) if n not in self._of]
        if new:
            unit = np.zeros((self._size, len(new)), dtype=complex)
            unit[new, np.arange(len(new))] = 1
            self._of |= {n: self._store.shape[1] + i for i, n in enumerate(new)}
            self._store = np.concatenate([self._store, self._factors.solve(unit)], axis=1)
        return self._store[:, [self._of[n] for n in nodes.tolist()]]


class Ladder:
    """Sees faults of one model. ``sources``: positions of what feeds until it is cut, among the injections."""

    def __init__(self, model: NodalModel):
        self.model = model
        self.sources = np.flatnonzero(model.lasting)
        self.source_core = model.solution.core_place[model.injected[self.sources]]
        self.source_y = 1 / np.array([model.injections[i].z_pu for i in self.sources], dtype=complex)
        self._cores: dict[frozenset[int], Core] = {}
        #: what those who follow arcs through this model have found of it
        self.kept: dict[str, Any] = {}

    def anew(self) -> Ladder:
        """The same currents, for other devices: nothing that was found of arcs."""
        other = copy.copy(self)
        other.kept = {}
        return other

    def core(self, opened: frozenset[int]) -> Core:
        if opened not in self._cores:
            if len(self._cores) > 4000:
                self._cores.clear()
            self._cores[opened] = Core(self.model, opened, self.source_core)
        return self._cores[opened]

    def see(
        self, cores: list[tuple[Core, np.ndarray]], ways: Ways, k: np.ndarray, strength: np.ndarray | None
    ) -> Seen:  # fmt: skip
        """Faults at the nodes ``k`` of ``ways``, each in the core that lists it. ``strength`` (faults, sources): by
        what each source's admittance is multiplied, 0 for one that is gone; None: all as they are."""
        solution, grid = self.model.solution, self.model.grid
        root = ways.root[k]
        z_rr = np.empty(len(k), dtype=complex)
        changed = np.zeros(0, dtype=np.intp)
        if strength is not None:
            strength = strength.copy()
            for core, g in cores:
                # a source in another part has no say, and taken out of a part of its own would leave no reference
                strength[g] = np.where(
                    core.part[self.source_core][None, :] == core.part[root[g]][:, None], strength[g], 1
                )
            changed = np.flatnonzero((strength != 1).any(axis=0))
        z_sr = np.empty((len(k), len(changed)), dtype=complex)
        z_ss = np.empty((len(k), len(changed), len(changed)), dtype=complex)
        at_sources = self.source_core[changed]
        for core, g in cores:
            names, back = np.unique(root[g], return_inverse=True)
            own = core.columns(names)
            z_rr[g] = own[names, np.arange(len(names))][back]
            if len(changed):
                z_sr[g] = own[at_sources][:, back].T
                z_ss[g] = core.source_columns[at_sources][:, changed]
        weights = None
        if len(changed) and strength is not None:
            delta = self.source_y[changed] * (strength[:, changed] - 1)
            if len(changed) == 1:
                part = delta * z_sr / (1 + z_ss[:, :, 0] * delta)
            else:
                system = np.eye(len(changed))[None] + z_ss * delta[:, None, :]
                part = delta * np.linalg.solve(system, z_sr[:, :, None])[:, :, 0]
            z_rr = z_rr - (z_sr * part).sum(axis=1)
            weights = np.zeros((len(k), len(self.sources)), dtype=complex)
            weights[:, changed] = part
        root_drive = 1 / z_rr
        nodes = ways.nodes[: ways.depth[k].max(initial=0), k]
        drive, drop = root_drive.copy(), np.ones(len(k), dtype=complex)
        y_up, up = np.zeros(nodes.shape, dtype=complex), np.ones(nodes.shape, dtype=complex)
        amps = np.zeros(nodes.shape)
        there = [np.flatnonzero(row >= 0) for row in nodes]
        for step in range(len(nodes) - 1, -1, -1):
            at = there[step]
            n = nodes[step, at]
            above = (drive[at] - solution.seen_from_parent[n]) / solution.seen[n] ** 2
            grown = 1 + solution.z_child[n] * above
            y_up[step, at], up[step, at] = above / grown, 1 / (solution.seen[n] * grown)
            drive[at] = solution.y_below[n] + y_up[step, at]
        for step, at in enumerate(there):
            n = nodes[step, at]
            amps[step, at] = np.abs(y_up[step, at] * drop[at]) * grid.base_ka[n] * 1000
            drop[at] *= up[step, at]
        return Seen(drive, drop, amps, root, root_drive, weights, cores)

    def trunk_amps(self, seen: Seen, trunk: np.ndarray) -> np.ndarray:
        """Amperes through branches of the core, some for each of the bolted faults (branches, faults); -1: none."""
        solution, grid = self.model.solution, self.model.grid
        p, place = solution.passive, solution.core_place
        safe = np.maximum(trunk, 0)
        a, b, t, z = place[p.a[safe]], place[p.b[safe]], p.ratio[safe], p.z[safe]
        across = np.empty(trunk.shape, dtype=complex)
        for core, g in seen.cores:
            names, back = np.unique(seen.root[g], return_inverse=True)
            own = core.columns(names)
            across[:, g] = own[a[:, g], back] / t[:, g] - own[b[:, g], back]
            if seen.weights is not None:
                source = core.source_columns
                used = np.flatnonzero((seen.weights[g] != 0).any(axis=0))
                if len(used):
                    some = source[:, used]
                    for s in range(len(used)):
                        column = some[:, s]
                        across[:, g] -= (column[a[:, g]] / t[:, g] - column[b[:, g]]) * seen.weights[g, used[s]]
        base = grid.base_ka[p.a[safe]] * 1000
        found: np.ndarray = np.where(trunk >= 0, np.abs(across / z * seen.root_drive * seen.at_root) * base, 0.0)
        return found
