"""When does an arcing fault end? Every sustained source must be cut off, each device timed at its own share.

Currents are those at the start of the arc: the share of a device is its bolted share times arcing over bolted
current, at its own voltage. A source is cut off when, on every way from it to the arc, some device has opened: the
largest over ways of the smallest time on a way. The arc ends when the last source is cut off. Many places at once;
a place is a node with, perhaps, an enclosure whose devices are not believed because the arc may destroy or bypass
them. docs/methods/clearing.md tells the rules.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components

from spinel.core.fault.nodal import BLOCK, NodalModel
from spinel.core.fault.solution import Solution
from spinel.core.protection.believed import Believed, Device

#: What ended the arc, instead of a branch: nothing, or the source with this number (counted down from -2) ceasing.
NOTHING = -1
#: Fault levels for which a lower bound of the times in the core is kept, and the slack of the currents there.
LEVELS, LEVEL_SLACK = 24, 1.25


@dataclass
class Places:
    """Faults of one circuit: nodes (grid positions), enclosures not believed (-1: all are), currents over bolted.

    ``part``: arcing over bolted current, a row a current (full, reduced) and a column a place.
    """

    at: np.ndarray
    doubted: np.ndarray
    part: np.ndarray


@dataclass
class Ends:
    """When the arc ends at each place (rows: full, reduced; s, infinite: never), by which branch; every source's time.

    ``source_s``: (currents, sources, places), 0 for a source that does not reach the place.
    """

    time_s: np.ndarray
    by: np.ndarray
    source_s: np.ndarray


@dataclass(frozen=True)
class _Step:
    """One element further up from each of some places: the branch, and amperes through it for the bolted fault."""

    places: np.ndarray
    branch: np.ndarray
    amps: np.ndarray


class Clearing:
    """Clears places of one circuit. Made once a circuit; ``chain`` and ``finish`` are the two halves of a run."""

    def __init__(self, model: NodalModel, trusted: Believed):
        self.model, self.trusted = model, trusted
        solution = model.solution
        self.sources = np.flatnonzero(model.lasting)
        self.source_at = model.injected[self.sources]
        ceases = [model.injections[i].element.fault_cease_s for i in self.sources]
        self.cease_s = np.array([np.inf if c is None else c for c in ceases])
        self._zones(solution)

    def _zones(self, solution: Solution) -> None:
        """Parts of the core between believed devices, and a time that no way from them to a source can beat."""
        inside, place = solution.inside, solution.core_place
        self.trunk = inside[self.trusted.mask[inside]]
        plain = inside[~self.trusted.mask[inside]]
        size = len(solution.laterals.core)
        a, b = place[solution.passive.a], place[solution.passive.b]
        graph = coo_matrix((np.ones(len(plain), dtype=np.int8), (a[plain], b[plain])), shape=(size, size))
        self.zones, self.zone = connected_components(graph, directed=False)
        self.edge_a, self.edge_b = self.zone[a[self.trunk]], self.zone[b[self.trunk]]
        self.source_zone = self.zone[place[self.source_at]] if len(self.sources) else np.zeros(0, dtype=np.intp)
        self._lower_bound()

    def _lower_bound(self) -> None:
        """``surely_s`` (zones, levels): no way to the zone from its best source is cut sooner, up to a fault level.

        No device carries more than the fault itself, referred to its voltage; ``LEVEL_SLACK`` allows for angles.
        """
        model, p = self.model, self.model.solution.passive
        strengths = np.abs(model.solution.drive[model.fed])
        most = float(strengths.max(initial=1.0))
        self.levels = np.geomspace(max(float(strengths.min(initial=1.0)), most * 1e-6), most, LEVELS)
        amps = self.levels * LEVEL_SLACK * 1000
        base = model.grid.base_ka[p.a[self.trunk]]
        devices = [self.trusted.devices[int(j)] for j in self.trunk]
        fastest = [d.fastest_s(amps * b) for d, b in zip(devices, base, strict=True)]
        endless = np.flatnonzero(np.isinf(self.cease_s))
        times = np.repeat(np.array(fastest).reshape(len(self.trunk), LEVELS), len(endless), axis=1)
        reach = widest(self.zones, self.edge_a, self.edge_b, times, np.tile(self.source_zone[endless], LEVELS))
        self.surely_s = reach.reshape(self.zones, LEVELS, len(endless)).max(axis=2, initial=0.0)

    # First half: the devices on the lateral of each place ------------------------------------------------

    def chain(self, places: Places) -> tuple[list[_Step], np.ndarray]:
        """Steps from each place up its lateral, believed devices only, and the drop at its root in the core."""
        solution, grid = self.model.solution, self.model.grid
        steps, at_root = solution.climb(places.at)
        found = []
        for which, node, drop in steps:
            branch = solution.laterals.branch[node]
            amps = np.abs(solution.y_up[node] * drop) * grid.base_ka[node] * 1000
            keep = self.trusted.mask[branch] & ~self.doubts(branch, places.doubted[which])
            found.append(_Step(which[keep], branch[keep], amps[keep]))
        return found, at_root

    def doubts(self, branch: np.ndarray, doubted: np.ndarray) -> np.ndarray:
        """Is the branch's device in the enclosure that is not believed?"""
        box, p = self.model.grid.box, self.model.solution.passive
        return (doubted >= 0) & ((box[p.a[branch]] == doubted) | (box[p.b[branch]] == doubted))

    def source_drops(self, at: np.ndarray) -> np.ndarray:
        """Drop at each sustained source for a fault at each of some nodes: (sources, faults)."""
        solution = self.model.solution
        _, at_root = solution.climb(at)
        root, place = solution.core_place[solution.root[at]], solution.core_place[self.source_at]
        return solution.core_z[np.ix_(place, root)] / np.diagonal(solution.core_z)[root] * at_root

    # Second half: sources, trunk, ends ------------------------------------------------------------------

    def finish(self, places: Places, steps: Sequence[_Step], times: Sequence[np.ndarray], at_root: np.ndarray) -> Ends:
        """``times``: of the devices of each step, (currents, entries)."""
        shape = places.part.shape
        chain_s, chain_by = np.full(shape, np.inf), np.full(shape, NOTHING, dtype=np.intp)
        for step, found in zip(steps, times, strict=True):
            sooner = found < chain_s[:, step.places]
            chain_s[:, step.places] = np.where(sooner, found, chain_s[:, step.places])
            chain_by[:, step.places] = np.where(sooner, step.branch, chain_by[:, step.places])
        reached = self._reached(places)
        cut = np.minimum(chain_s[:, None, :], self.cease_s[None, :, None])
        trunk_s = np.full((shape[0], 0, shape[1]), np.inf)
        root_zone = self.zone[self.model.solution.core_place[self.model.solution.root[places.at]]]
        level = np.searchsorted(self.levels, np.abs(self.model.solution.drive[places.at])).clip(max=LEVELS - 1)
        open_ = np.flatnonzero((chain_s > self.surely_s[root_zone, level]).any(axis=0))
        if len(open_) and len(self.trunk):
            trunk_s = self._trunk_times(places, open_, at_root)
            for row in range(shape[0]):
                # where no device of the core is quicker than the lateral's own, the lateral has the say
                some = np.flatnonzero((trunk_s[row] < chain_s[row, open_]).any(axis=0))
                at = open_[some]
                reach = widest(self.zones, self.edge_a, self.edge_b, trunk_s[row][:, some], root_zone[at])
                cut[row][:, at] = np.minimum(cut[row][:, at], reach[self.source_zone])
        source_s = np.where(reached, cut, 0.0)
        return self._ends(source_s, chain_s, chain_by, trunk_s, open_)

    def _reached(self, places: Places) -> np.ndarray:
        """Which sources are in one piece with each place: (sources, places)."""
        part = self.model.part
        return part[self.source_at][:, None] == part[places.at][None, :]

    def _trunk_times(self, places: Places, open_: np.ndarray, at_root: np.ndarray) -> np.ndarray:
        """Times of the devices of the core for the places that need them: (currents, trunk, places)."""
        solution, grid = self.model.solution, self.model.grid
        p, place = solution.passive, solution.core_place
        roots, back = np.unique(place[solution.root[places.at[open_]]], return_inverse=True)
        a, b, t = place[p.a[self.trunk]], place[p.b[self.trunk]], p.ratio[self.trunk][:, None]
        columns = solution.core_z[:, roots]
        own = columns[roots, np.arange(len(roots))]
        current = np.abs((columns[a] / t - columns[b]) / p.z[self.trunk][:, None] / own)
        amps = current * grid.base_ka[p.a[self.trunk]][:, None] * 1000
        boxes, doubted = grid.box[places.at[open_]], places.doubted[open_]
        factor = np.abs(at_root[open_]) * places.part[:, open_]
        found = np.empty((places.part.shape[0], len(self.trunk), len(open_)))
        for row, branch in enumerate(self.trunk):
            device = self.trusted.devices[int(branch)]
            through = amps[row][back] * factor
            held = self.restrained(device, places, open_) if device.interlocked else np.ones(through.shape, dtype=bool)
            times = device.times_s(through, np.broadcast_to(boxes, through.shape), held)
            found[:, row] = np.where(self.doubts(np.full(len(open_), branch), doubted), np.inf, times)
        return found

    def _ends(
        self, source_s: np.ndarray, chain_s: np.ndarray, chain_by: np.ndarray, trunk_s: np.ndarray, open_: np.ndarray
    ) -> Ends:
        time = source_s.max(axis=1, initial=0.0)
        by = np.where(time == chain_s, chain_by, NOTHING)
        if trunk_s.shape[1] and len(open_):
            same = trunk_s == time[:, None, open_]
            first = np.where(same.any(axis=1), self.trunk[same.argmax(axis=1)], NOTHING)
            by[:, open_] = np.where(by[:, open_] == NOTHING, first, by[:, open_])
        ceased = (self.cease_s[None, :, None] == time[:, None, :]) & (source_s == time[:, None, :])
        number = np.where(ceased.any(axis=1), -2 - ceased.argmax(axis=1), NOTHING) if len(self.sources) else by
        by = np.where(by == NOTHING, number, by)
        return Ends(time, np.where(np.isfinite(time), by, NOTHING), source_s)

    def restrained(self, device: Device, places: Places, which: np.ndarray) -> np.ndarray:
        """Is an interlocked device held back, at each current and place? Unknown restrainers always do."""
        everything = np.ones((places.part.shape[0], len(which)), dtype=bool)
        if not device.element.restrained_by:
            return everything
        positions = [self._positions(tag) for tag in device.element.restrained_by]
        held = ~everything
        for start in range(0, len(which), BLOCK):
            block = which[start : start + BLOCK]
            drops = self.model.solution.drops(places.at[block])
            for tag_positions in positions:
                for position in tag_positions:
                    held[:, start : start + BLOCK] |= self._sends(position, drops, places.part[:, block])
        return held

    def _positions(self, tag: str) -> list[int]:
        element = self.model.network.by_tag[tag]
        return [i for i, k in enumerate(self.model.branches) if self.model.grid.elements[k] is element]

    def _sends(self, position: int, drops: np.ndarray, part: np.ndarray) -> np.ndarray:
        """Does the device at a branch see enough of these faults to hold back what is upstream?"""
        current, _ = self.model.solution.branch_currents(drops, np.array([position]))
        base = self.model.grid.base_ka[self.model.solution.passive.a[position]] * 1000
        device = self.trusted.devices.get(position)
        pickup = device.restrains_from_a() if device else 0.0
        return np.abs(current[0]) * base * part >= max(pickup, 1.0)


def widest(zones: int, a: np.ndarray, b: np.ndarray, times: np.ndarray, start: np.ndarray) -> np.ndarray:
    """For each column, from its start zone to every zone: the largest over ways of the smallest time on the way.

    ``times``: (edges, columns). 0 where there is no way, infinite in the start zone itself.
    """
    columns = np.arange(len(start))
    reach = np.zeros((zones, len(start)))
    reach[start, columns] = np.inf
    if not len(start):
        return reach
    edges = list(zip([reach[u] for u in a], [reach[v] for v in b], times, strict=True))
    through = np.empty(len(start))
    while True:
        before = reach.copy()
        for here, there, time in edges:
            np.minimum(here, time, out=through)
            np.maximum(there, through, out=there)
            np.minimum(there, time, out=through)
            np.maximum(here, through, out=here)
        if np.array_equal(before, reach):
            return reach
        edges.reverse()


def clear_all(runs: Iterable[tuple[Clearing, Places]]) -> list[Ends]:
    """Clear places of several circuits together, so that each device's curve is read once."""
    prepared = [(clearing, places, *clearing.chain(places)) for clearing, places in runs]
    times = _chain_times(prepared)
    return [c.finish(places, steps, times[i], root) for i, (c, places, steps, root) in enumerate(prepared)]


def _chain_times(prepared: list[tuple[Clearing, Places, list[_Step], np.ndarray]]) -> list[list[np.ndarray]]:
    """Times of all entries of all steps of all runs, grouped by device."""
    devices: dict[int, Device] = {}
    keys, amps, boxes, held = [], [], [], []
    for clearing, places, steps, _ in prepared:
        for step in steps:
            known = clearing.trusted.devices
            unique, back = np.unique(step.branch, return_inverse=True)
            numbers = np.array([id(known[int(j)]) for j in unique], dtype=np.int64)
            devices |= {id(known[int(j)]): known[int(j)] for j in unique}
            keys.append(numbers[back] if len(unique) else np.zeros(0, dtype=np.int64))
            amps.append(step.amps * places.part[:, step.places])
            boxes.append(clearing.model.grid.box[places.at[step.places]])
            held.append(_held(clearing, places, step, unique))
    if not keys:
        return [[] for _ in prepared]
    key, flow = np.concatenate(keys), np.concatenate(amps, axis=1)
    box, hold = np.concatenate(boxes), np.concatenate(held, axis=1)
    found = np.empty(flow.shape)
    order = np.argsort(key, kind="stable")
    starts = np.flatnonzero(np.diff(key[order], prepend=-1)).tolist()
    for start, end in pairwise([*starts, len(order)]):
        at = order[start:end]
        some = flow[:, at]
        found[:, at] = devices[int(key[at[0]])].times_s(some, np.broadcast_to(box[at], some.shape), hold[:, at])
    lengths = [k.shape[0] for k in keys]
    pieces = iter(np.split(found, np.cumsum(lengths)[:-1], axis=1))
    return [[next(pieces) for _ in steps] for _, _, steps, _ in prepared]


def _held(clearing: Clearing, places: Places, step: _Step, unique: np.ndarray) -> np.ndarray:
    """Zone interlock of the entries of a step; true where there is none to speak of."""
    held = np.ones((places.part.shape[0], len(step.places)), dtype=bool)
    for j in unique:
        device = clearing.trusted.devices[int(j)]
        if device.interlocked:
            at = np.flatnonzero(step.branch == j)
            held[:, at] = clearing.restrained(device, places, step.places[at])
    return held
