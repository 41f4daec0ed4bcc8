"""When does an arc end, and what feeds it until then? One device opens after the other, as it would happen.

From the start of the arc every believed device that carries a share of it counts, each element of its own, towards
its total clearing time at that share. The first that gets there opens; currents are computed anew; what the others
have counted stays as a part of their time, and one whose share has dropped below pickup starts again. What feeds the
arc dies away in phases (fault/decay). The arc is over when nothing that lasts reaches it. docs/methods/clearing.md
tells the rules; compiled/following carries them out.

An arc is a place, a corner of a case, a current (full or reduced) and, where they lie between strongest and weakest,
the strengths of its sources.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING, Protocol, TypeVar

import numpy as np

from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.stacks import Stack, Stacks
from spinel.core.fault.topology import Ways
from spinel.core.protection.bands import Bands
from spinel.core.protection.believed import Believed

if TYPE_CHECKING:
    from spinel.core.compiled.following import Found
    from spinel.core.compiled.tables import ArcTable, PlaceTable, WayTable

#: From so many arcs on they are followed on all cores, in portions of so many.
MANY, PORTION = 2000, 500


class ArcModel(Protocol):
    """What arcs are made of at the places: the table of a method (IEEE 1584-2018)."""

    @property
    def table(self) -> ArcTable: ...

    def part(self, k: np.ndarray, row: np.ndarray, bolted: np.ndarray) -> np.ndarray: ...


@dataclass
class Sites:
    """Places as arcs need them. ``at``: grid position of the node; ``doubt``: number of the set of branches that never
    clear it; ``keys``: all sets, a sorted array of number times ``size`` plus the branch's place in the grid."""

    at: np.ndarray
    doubt: np.ndarray
    keys: np.ndarray
    size: int
    #: which places a method may cover at all
    covered: np.ndarray
    #: with which of several settings of a device each place is asked (bands.instead); None: as it is set
    setting: np.ndarray | None = None


@dataclass
class Stages:
    """All stages of all arcs, in order of time within each: which arc, from and until (s), bolted kA, part arcing, and
    what ends it: a branch, -1 nothing that opens, -2 - n the source n that ceased."""

    arc: np.ndarray
    from_s: np.ndarray
    until_s: np.ndarray
    bolted_ka: np.ndarray
    part: np.ndarray
    ends_by: np.ndarray


@dataclass
class Ended:
    """``time_s`` (infinite: never). ``by``: the branch that ended it, -1 nothing, -2 - n the source n that ceased.
    ``sign``: a number that differs where other elements opened or in another order."""

    time_s: np.ndarray
    by: np.ndarray
    sign: np.ndarray
    stages: Stages
    #: of arcs that never end: which sources go on feeding them (arcs, sources)
    left: np.ndarray


class Opening:
    """Arcs in all corners of a case. ``numbers``: of devices among the ``bands`` by their identity; ``held``: does each
    interlocked device stand held, by corner and branch, (rows, places). ``until_s``: nobody asks what happens later; an
    arc that outlasts it is followed to the first opening after it."""

    def __init__(
        self, stacks: Stacks, trusted: Believed, bands: Bands, numbers: Mapping[int, int], sites: Sites,
        until_s: float, held: Callable[[Opening, int], Mapping[int, np.ndarray]], model: ArcModel,
    ):  # fmt: skip
        self.stacks, self.topology, self.bands, self.sites = stacks, stacks.topology, bands, sites
        self.model: NodalModel = stacks.topology.model
        self.trusted, self.until_s, self.arcs = trusted, until_s, model
        topology, grid = self.topology, self.model.grid
        self.device_of = np.full(len(self.model.branches), -1, dtype=np.intp)
        for branch, device in trusted.devices.items():
            self.device_of[branch] = numbers[id(device)]
        self.ways = Ways(topology, sites.at)
        self.box = grid.box[sites.at]
        #: believed devices of the core: which joints, and of each the least current at which it does anything
        own = self.device_of[topology.joints]
        self.trunk = np.flatnonzero(own >= 0)
        self.trunk_branch = topology.joints[self.trunk]
        self._hold, self._held = held, dict[int, Mapping[int, np.ndarray]]()

    def _believed(self, branch: np.ndarray, doubt: np.ndarray) -> np.ndarray:
        """Device numbers of branches for arcs of these doubts; -1 where there is none or it is not believed."""
        device = np.where(branch >= 0, self.device_of[np.maximum(branch, 0)], -1)
        keys = self.sites.keys
        if not len(keys):
            return device
        key = doubt * self.sites.size + self.model.branches[np.maximum(branch, 0)]
        known = keys[np.searchsorted(keys, key).clip(max=len(keys) - 1)] == key
        return np.where(known, -1, device)

    def is_doubted(self, i: int, branch: int) -> bool:
        """Does an arc at a place put the device at this branch out of action?"""
        key = int(self.sites.doubt[i]) * self.sites.size + int(self.model.branches[branch])
        return bool(np.isin(key, self.sites.keys))

    def held(self, corner: int) -> Mapping[int, np.ndarray]:
        if corner not in self._held:
            self._held[corner] = self._hold(self, corner)
        return self._held[corner]

    def is_held(self, corner: int, i: int, row: int, branch: int) -> bool:
        """Is the device at a branch held back by its zone interlock at the start of an arc?"""
        held = self.held(corner)
        return branch not in held or bool(held[branch][row, i])

    # Tables ----------------------------------------------------------------------------------------------

    @cached_property
    def _table(self) -> PlaceTable:
        """Of all corners, but for who stands held."""
        from spinel.core.compiled.following import NOTHING_A
        from spinel.core.compiled.tables import PlaceTable

        sites, ways, bands = self.sites, self.ways, self.bands
        own = self.device_of[self.trunk_branch]
        chain = self._believed(ways.branch, sites.doubt[None, :])
        swapped, setting, swapped_for = -1, np.zeros(len(sites.at), dtype=np.int64), np.zeros(1, dtype=np.int64)
        if sites.setting is not None and bands.instead:
            ((swapped, swapped_for),) = bands.instead.items()
            setting = sites.setting.astype(np.int64)
            chain = np.where(chain == swapped, swapped_for[setting][None, :], chain)
        doubts = np.arange(int(sites.doubt.max(initial=-1)) + 1)
        return PlaceTable(
            node=_whole(ways.nodes.T), branch=_whole(ways.branch.T), device=_whole(chain.T), depth=_whole(ways.depth),
            root=_whole(ways.root), component=_whole(self.stacks.component[sites.at]), box=_whole(self.box),
            trunk_joint=_whole(self.trunk), trunk_branch=_whole(self.trunk_branch),
            trunk_lowest=np.maximum(bands.lowest[own], NOTHING_A) if len(own) else np.zeros(0),
            trunk_device=_whole(self._believed(self.trunk_branch[None, :], doubts[:, None])),
            trunk_quickest=float(bands.quickest(own).min(initial=np.inf)), doubt=_whole(sites.doubt),
            swapped=swapped, setting=setting, swapped_for=swapped_for.astype(np.int64),
            held_row=np.full(len(self.model.branches), -1, dtype=np.int64), held=np.ones((1, 1, 1, 1), dtype=bool),
        )  # fmt: skip

    @cached_property
    def _places(self) -> PlaceTable:
        """With who stands held in every corner."""
        table = self._table
        if not self.bands.interlocked.any():
            return table
        each = [self.held(c) for c in range(len(self.stacks.models))]
        branches = sorted({b for e in each for b in e})
        row = table.held_row.copy()
        row[branches] = np.arange(len(branches))
        held = np.ones((len(each), max(len(branches), 1), 2, len(self.sites.at)), dtype=bool)
        for c, e in enumerate(each):
            for n, b in enumerate(branches):
                held[c, n] = e[b]
        return table._replace(held_row=row, held=held)

    # Following arcs --------------------------------------------------------------------------------------

    def follow(self, corner: np.ndarray, k: np.ndarray, row: np.ndarray, strength: np.ndarray | None) -> Ended:
        """Follow arcs at the places ``k``, with the current of ``row``, until nothing feeds them. ``strength`` (arcs,
        lasting sources): by what each source's admittance is multiplied."""
        from spinel.core.compiled.following import follow

        n, sources = len(k), len(self.topology.sources)
        base = self.stacks.base_of[corner]
        found: list[tuple[np.ndarray, Found]] = []
        for b in np.unique(base).tolist():
            mine, stack = np.flatnonzero(base == b), self.stacks.at(b)
            # where everything is as it is in the base, nothing need be changed
            same = (corner[mine] == b) & (strength is None)
            for which, changed in ((mine[same], False), (mine[~same], True)):
                weak = np.zeros((0, sources), dtype=complex)
                if changed:
                    weak = self.stacks.strength[corner[which]] * (1 if strength is None else strength[which])

                def one(at: slice, which: np.ndarray = which, weak: np.ndarray = weak, stack: Stack = stack) -> Found:
                    some = which[at]
                    return follow(
                        stack.states.table, stack.phases, self._places, self.arcs.table, self.bands.table,
                        _whole(corner[some]), _whole(k[some]), _whole(row[some]), _whole(weak[at], complex),
                        self.until_s,
                    )  # fmt: skip

                found += _in_portions(which, one)
        return _together(n, sources, found)

    def bolted_ka(self, corner: int, k: np.ndarray) -> np.ndarray:
        """Bolted fault current at places at the first instant of a corner."""
        found: np.ndarray = self.drive(corner, k, None) * self.model.grid.base_ka[self.sites.at[k]]
        return found

    def drive(self, corner: int, k: np.ndarray, strength: np.ndarray | None) -> np.ndarray:
        """Admittance seen from places at the first instant of a corner, per unit."""
        from spinel.core.compiled.steps import drives

        stack, own = self.stacks.at(corner), self.stacks.strength_of(corner)
        if strength is None:
            strength = np.tile(own, (len(k), 1)) if len(own) else np.zeros((0, len(self.topology.sources)))
        found: np.ndarray = drives(stack.states.table, stack.phases, self._table, _whole(k), _whole(strength, complex))
        return found

    def counted_on(self, corner: int, i: int, row: int, strength: np.ndarray | None) -> dict[int, float]:
        """Amperes that the devices on the way of one arc may count on at its start, by branch."""
        from spinel.core.compiled.steps import timed_at

        stack = self.stacks.at(corner)
        own = self.stacks.strength_of(corner) if strength is None else _whole(strength[0], complex)
        chain, trunk = timed_at(stack.states.table, stack.phases, self._table, self.arcs.table, i, row, 0, own)
        found = {int(b): float(a) for b, a in zip(self.ways.branch[:, i], chain, strict=False) if b >= 0}
        return found | dict(zip(self.trunk_branch.tolist(), trunk.tolist(), strict=True))

    # Ways ------------------------------------------------------------------------------------------------

    def met(
        self, first: int, last: np.ndarray, k: np.ndarray, row: np.ndarray, phase: int, latest_s: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Beginnings of bands between what devices carry at a corner and, for each arc, at another, where they open in
        time: which arc, its device (step of the lateral, or -1 - n of the core's), A."""
        from spinel.core.compiled.steps import met

        one, base = self.stacks.at(first), self.stacks.base_of[last]
        found: list[tuple[np.ndarray, ...]] = []
        for b in np.unique(base).tolist():
            other = self.stacks.at(b)
            mine = np.flatnonzero(base == b)
            mine = mine[np.lexsort((row[mine], k[mine]))]

            def part(at: slice, mine: np.ndarray = mine, other: Stack = other) -> tuple[np.ndarray, ...]:
                some = mine[at]
                arc, device, amps = met(
                    (one.states.table, other.states.table), (one.phases, other.phases), self._table, self.arcs.table,
                    self.bands.table, self.stacks.strength_of(first), self.stacks.strength, _whole(k[some]),
                    _whole(row[some]), _whole(last[some]), phase, _whole(latest_s[some], float),
                )  # fmt: skip
                return some[arc], device, amps

            found += [f for _, f in _in_portions(mine, part)]
        return tuple(np.concatenate([np.zeros(0, dtype=t), *(f[i] for f in found)])
                     for i, t in enumerate((np.intp, np.int64, float)))  # type: ignore[return-value]  # fmt: skip

    def solved(
        self, way: WayTable, corner: int, p: np.ndarray, k: np.ndarray, row: np.ndarray, end: np.ndarray,
        device: np.ndarray, phase: np.ndarray, amps: np.ndarray, close: float,
    ) -> np.ndarray:  # fmt: skip
        """Where on its way (part of it) each device's current comes to ``amps``, or just beyond."""
        from spinel.core.compiled.steps import solved

        stack = self.stacks.at(corner)
        found: np.ndarray = solved(
            stack.states.table, stack.phases, self._table, self.arcs.table, way, _whole(p), _whole(k), _whole(row),
            _whole(end, float), _whole(device), _whole(phase), _whole(amps, float), close,
        )  # fmt: skip
        return found

    def ends(
        self, way: WayTable, corner: int, p: np.ndarray, k: np.ndarray, weakest: np.ndarray, furthest: float,
        close: float,
    ) -> np.ndarray:  # fmt: skip
        """Where on its way the admittance at each place has come down to ``weakest``, or just beyond."""
        from spinel.core.compiled.steps import ends

        stack = self.stacks.at(corner)
        found: np.ndarray = ends(stack.states.table, stack.phases, self._table, way, _whole(p), _whole(k),
                                 _whole(weakest, float), furthest, close)  # fmt: skip
        return found


T = TypeVar("T")


def _in_portions(which: np.ndarray, one: Callable[[slice], T]) -> list[tuple[np.ndarray, T]]:
    """Many arcs on all cores: what each portion gives, in order."""
    if len(which) < MANY:
        return [(which, one(slice(None)))] if len(which) else []
    portions = [slice(i, i + PORTION) for i in range(0, len(which), PORTION)]
    # the first alone: what is made once is made before others ask for it
    first = one(portions[0])
    with ThreadPoolExecutor() as pool:
        return list(zip([which[p] for p in portions], [first, *pool.map(one, portions[1:])], strict=True))


def _together(n: int, sources: int, found: Sequence[tuple[np.ndarray, Found]]) -> Ended:
    """What portions gave, in the order in which it was asked."""
    end = Ended(np.full(n, np.inf), np.full(n, -1, dtype=np.intp), np.zeros(n, dtype=np.int64),
                Stages(*(np.zeros(0, dtype=t) for t in (np.intp, float, float, float, float, np.intp))),
                np.zeros((n, sources), dtype=bool))  # fmt: skip
    if not found:
        return end
    for which, f in found:
        end.time_s[which], end.by[which], end.sign[which], end.left[which] = f.time_s, f.by, f.sign, f.left
    columns = [np.concatenate([which[f.arc] for which, f in found])]
    columns += [np.concatenate([x[n] for x in ([f.from_s, f.until_s, f.bolted_ka, f.part, f.ends_by]
                                               for _, f in found)]) for n in range(5)]  # fmt: skip
    if len(found) > 1:
        order = np.lexsort((columns[1], columns[0]))
        columns = [c[order] for c in columns]
    end.stages = Stages(*columns)
    return end


def _whole(values: np.ndarray, kind: type = np.int64) -> np.ndarray:
    """As compiled loops take them: one after the other, of one type."""
    return np.ascontiguousarray(values, dtype=kind)


def doubt_keys(doubts: Sequence[np.ndarray], size: int) -> np.ndarray:
    """Doubt and branch in one number, sorted, to look many pairs up at once. ``doubts``: branches by grid position."""
    found = [number * size + branches for number, branches in enumerate(doubts) if len(branches)]
    return np.unique(np.concatenate(found)) if found else np.zeros(0, dtype=np.intp)
