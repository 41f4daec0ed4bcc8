"""Currents of faults in many states of one topology, and while devices open and sources weaken.

A state is a set of impedances: a strength, a temperature, a moment. Laterals are folded into admittances, all states
at once; the core is solved once a state, with the currents of its devices as unknowns of their own, so that opening a
device is one more condition (its current is nothing) and not a difference of two huge numbers. A weaker source and an
opened device are then both a change of rank one, for any number of faults in closed form. Exact, like ``solution``.

Everything per unit; a fault at a node is a drop of 1 there.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from spinel.core.fault.topology import ClosedBranches, Ways

#: A device that carries less than this part of what it could is cut off already: opening it changes nothing.
CUT = 1e-9


@dataclass
class Seen:
    """Faults: admittance at each, its drop at its root, amperes of every element of its lateral for the bolted fault
    (steps, faults), what its root draws, and which combination of root and changes it belongs to."""

    drive: np.ndarray
    at_root: np.ndarray
    amps: np.ndarray
    root_drive: np.ndarray
    combination: np.ndarray
    of: Combinations


@dataclass
class Combinations:
    """Roots with what is changed for them: ``ports`` (combinations, changes) and how much each of them counts."""

    state: np.ndarray
    root: np.ndarray
    ports: np.ndarray
    weights: np.ndarray
    z: np.ndarray


class States:
    """``z``: impedances of the branches (states, branches); ``shunt``: admittances of what feeds (states, nodes);
    ``source_y``: admittance of each lasting source (states, sources)."""

    def __init__(self, topology: ClosedBranches, z: np.ndarray, shunt: np.ndarray, source_y: np.ndarray):
        self.topology, self.source_y = topology, source_y
        t = topology
        self.z_child = np.zeros(shunt.shape, dtype=complex)
        peeled = np.flatnonzero(t.parent >= 0)
        self.z_child[:, peeled] = z[:, t.edge[peeled]] * t.on_own_side[peeled]
        self.y_below = shunt.astype(complex)
        self.seen_from_parent = np.zeros(shunt.shape, dtype=complex)
        for r in t.rounds:
            below = self.y_below[:, r.child]
            y = below / (1 + self.z_child[:, r.child] * below) * t.seen[r.child] ** 2
            self.seen_from_parent[:, r.child] = y
            self.y_below[:, r.parents] += np.add.reduceat(y, r.starts, axis=1)
        # ports: every core node, then every joint; a lasting source stands at a core node
        self.nodes = len(t.core)
        self.between = np.stack([self._core(z[s], self.y_below[s, t.core]) for s in range(len(z))])

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

    # Faults ----------------------------------------------------------------------------------------------------

    def see(
        self, ways: Ways, state: np.ndarray, k: np.ndarray, opened: np.ndarray, strength: np.ndarray | None
    ) -> Seen:
        """Faults at the nodes ``k`` of ``ways``, each in a state and with a set of joints opened. ``strength`` (faults,
        sources): by what each source's admittance is multiplied; None: all as they are."""
        if strength is None:
            # arcs that differ in their current alone see the same
            key = (state * (len(self.topology.opened) + 1) + opened) * len(ways.root) + k
            first, back = np.unique(key, return_index=True, return_inverse=True)[1:]
            if len(first) < len(k):
                found = self._see(ways, state[first], k[first], opened[first], None)
                back = back.ravel()
                return Seen(found.drive[back], found.at_root[back], found.amps[:, back], found.root_drive[back],
                            found.combination[back], found.of)  # fmt: skip
        return self._see(ways, state, k, opened, strength)

    def _see(
        self, ways: Ways, state: np.ndarray, k: np.ndarray, opened: np.ndarray, strength: np.ndarray | None
    ) -> Seen:
        t = self.topology
        combinations, of = self._combinations(state, ways.root[k], opened, strength)
        root_drive = 1 / combinations.z[of]
        nodes = ways.nodes[: ways.depth[k].max(initial=0), k]
        on, at = nodes >= 0, np.maximum(nodes, 0)
        z, below, part = (x[state, at] for x in (self.z_child, self.y_below, self.seen_from_parent))
        seen, drive = t.seen[at], root_drive
        y_up, up = np.zeros(nodes.shape, dtype=complex), np.ones(nodes.shape, dtype=complex)
        for step in range(len(nodes) - 1, -1, -1):
            above = (drive - part[step]) / seen[step] ** 2
            grown = 1 + z[step] * above
            y_up[step], up[step] = above / grown, 1 / (seen[step] * grown)
            drive = np.where(on[step], below[step] + y_up[step], drive)
        up[~on] = 1
        drop = np.cumprod(np.concatenate([np.ones((1, len(k))), up]), axis=0)
        amps = np.where(on, np.abs(y_up * drop[:-1]) * t.model.grid.base_ka[at] * 1000, 0.0)
        return Seen(drive, drop[-1], amps, root_drive, of, combinations)

    def _combinations(
        self, state: np.ndarray, root: np.ndarray, opened: np.ndarray, strength: np.ndarray | None
    ) -> tuple[Combinations, np.ndarray]:
        """Distinct combinations, and which each fault belongs to."""
        if strength is None:
            key = (state * self.nodes + root) * len(self.topology.opened) + opened
            first, back = np.unique(key, return_index=True, return_inverse=True)[1:]
            back = back.ravel()
        else:
            first = back = np.arange(len(root))
        state, root, opened = state[first], root[first], opened[first]
        if strength is None and not opened.any():
            # nothing is changed
            none = np.zeros((len(state), 0))
            return Combinations(state, root, none.astype(np.intp), none, self.between[state, root, root]), back
        ports, soft = self._ports(state, root, opened, strength)
        s, r = state[:, None], root[:, None]
        system = self.between[state[:, None, None], ports[:, :, None], ports[:, None, :]]
        index = np.arange(ports.shape[1])
        scale = np.abs(system[:, index, index])
        system[:, index, index] += np.where(np.isfinite(soft), soft, 0)
        own = self.between[s, ports, r]
        weights = _conditions(system, own.copy(), scale, np.isfinite(soft))
        z = self.between[state, root, root] - (own * weights).sum(axis=1)
        return Combinations(state, root, ports, weights, z), back

    def _ports(
        self, state: np.ndarray, root: np.ndarray, opened: np.ndarray, strength: np.ndarray | None
    ) -> tuple[np.ndarray, np.ndarray]:
        """What is changed for each combination: ports, and what is added to what each does to itself (0 for an opened
        joint, infinite for none)."""
        t = self.topology
        numbers, back = np.unique(opened, return_inverse=True)
        sets = [t.opened[o] for o in numbers.tolist()]
        counts = np.array([len(s) for s in sets], dtype=np.intp)
        most = int(counts.max(initial=0))
        table = np.array([[*(j + self.nodes for j in s), *[0] * (most - len(s))] for s in sets], dtype=np.intp)
        ports = table.reshape(len(sets), most)[back.ravel()]
        soft = np.where(np.arange(most)[None, :] < counts[back.ravel()][:, None], 0.0, np.inf).astype(complex)
        if strength is None:
            return ports, soft
        delta = self.source_y[state] * (strength - 1)
        changed = np.flatnonzero((delta != 0).any(axis=0))
        with np.errstate(divide="ignore", invalid="ignore"):
            more = np.where(delta[:, changed] != 0, 1 / delta[:, changed], np.inf)
        # a source in another part has no say, and left in would only blur
        for i, o in enumerate(numbers.tolist()):
            label, mine = t.reached(o), np.flatnonzero(back.ravel() == i)
            apart = label[t.source_core[changed]][None, :] != label[root[mine]][:, None]
            more[mine] = np.where(apart, np.inf, more[mine])
        places = np.broadcast_to(t.source_core[changed], (len(state), len(changed)))
        return np.concatenate([ports, places], axis=1), np.concatenate([soft, more], axis=1)

    def joint_amps(self, of: Combinations, which: np.ndarray, joint: np.ndarray | None = None) -> np.ndarray:
        """Amperes of joints for what each root draws of one per unit: all of them (joints, combinations), or one each
        (combinations). ``which``: combinations."""
        t, n = self.topology, self.nodes
        state, ports, weights, root = of.state[which], of.ports[which], of.weights[which], of.root[which]
        if joint is not None:
            found = self.between[state, n + joint, root]
            found = found - (self.between[state[:, None], (n + joint)[:, None], ports] * weights).sum(axis=1)
            one: np.ndarray = np.abs(found) * t.model.grid.base_ka[t.a[t.joints[joint]]] * 1000
            return one
        current = self.between[state, n:, root].T
        for m in range(ports.shape[1]):
            some = np.flatnonzero(weights[:, m])
            if len(some):
                current[:, some] -= self.between[state[some], n:, ports[some, m]].T * weights[some, m]
        given: np.ndarray = np.abs(current) * (t.model.grid.base_ka[t.a[t.joints]] * 1000)[:, None]
        return given


def _conditions(system: np.ndarray, own: np.ndarray, scale: np.ndarray, asked: np.ndarray) -> np.ndarray:
    """What each change counts, so that all their conditions hold together: elimination of many small systems, in which
    one that another has seen to already (a device in series with one that is open) is passed over."""
    many = system.shape[1]
    done = np.zeros(asked.shape, dtype=bool)
    for j in range(many):
        pivot = system[:, j, j]
        good = asked[:, j] & (np.abs(pivot) > CUT * scale[:, j])
        done[:, j] = good
        inverse = np.where(good, 1 / np.where(good, pivot, 1), 0)
        row = system[:, j, :] * inverse[:, None]
        right = own[:, j] * inverse
        factor = system[:, :, j].copy()
        factor[:, j] = 0
        factor[~good] = 0
        system -= factor[:, :, None] * row[:, None, :]
        own -= factor * right[:, None]
    index = np.arange(many)
    pivots = np.where(done, system[:, index, index], 1)
    given: np.ndarray = np.where(done, own / pivots, 0)
    return given
