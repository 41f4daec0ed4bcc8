"""When does an arc end, and what feeds it until then? One device opens after the other, as it would happen.

From the start of the arc every believed device that carries a share of it counts, each element of its own, towards
its total clearing time at that share. The first that gets there opens; currents are computed anew; what the others
have counted stays as a part of their time, and one whose share has dropped below pickup starts again. What feeds the
arc dies away in phases (fault/decay). The arc is over when nothing that lasts reaches it. docs/methods/clearing.md
tells the rules.

An arc is a place, a corner of a case, a current (full or reduced) and, where they lie between strongest and weakest,
the strengths of its sources. Many are followed at once, stage by stage.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.stacks import Stacks
from spinel.core.fault.states import Seen, States
from spinel.core.fault.topology import Ways
from spinel.core.protection.bands import ELEMENTS, Bands
from spinel.core.protection.believed import Believed

#: Arcs that are followed together: bounds the memory of what every device has counted.
BLOCK = 4096
#: Devices that get there within this part of one another open together.
TOGETHER = 1e-9
#: Where a current falls evenly through a phase, devices are timed by so much of its beginning, the rest of its end: a
#: little less than the average, so that none is timed too fast.
AVERAGE = 0.4
#: Nothing counts at less than this, A, whatever its curve says.
NOTHING_A = 1e-3
#: Bands are numbered in so many bits.
BAND_BITS = 24
BAND_MASK = (1 << BAND_BITS) - 1

#: Arcing over bolted current of arcs: places, rows (0 full, 1 reduced), bolted kA in; parts of it out.
Arcing = Callable[[np.ndarray, np.ndarray, np.ndarray], np.ndarray]


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
    #: of arcs that never end: numbers of the sources that go on feeding them
    left: dict[int, tuple[int, ...]]


@dataclass
class _Log:
    columns: list[tuple[np.ndarray, ...]] = field(default_factory=list)

    def add(self, *columns: np.ndarray) -> None:
        self.columns.append(columns)

    def done(self) -> Stages:
        kinds = (np.intp, float, float, float, float, np.intp)
        whole = [np.concatenate([np.zeros(0, dtype=k), *(c[i] for c in self.columns)]) for i, k in enumerate(kinds)]
        order = np.lexsort((whole[1], whole[0]))
        return Stages(*(column[order] for column in whole))


@dataclass(kw_only=True)
class _Arcs:
    """Arcs that are followed together, and what they have come to. Counts are (elements, steps of the lateral, arcs)
    and, of devices of the core, (elements, pairs) with ``pair`` the arc times the number of such devices plus which."""

    number: np.ndarray
    corner: np.ndarray
    k: np.ndarray
    row: np.ndarray
    strength: np.ndarray | None
    elapsed: np.ndarray
    phase: np.ndarray
    opened: np.ndarray
    #: has any device opened?
    moved: np.ndarray
    chain_done: np.ndarray
    #: by which bands each element has counted, stage after stage since it last started
    chain_past: np.ndarray
    pair: np.ndarray
    pair_done: np.ndarray
    pair_past: np.ndarray


@dataclass(kw_only=True)
class Flow:
    """What flows in a stage: bolted kA and part arcing at the place, and of the devices of the lateral amperes by which
    they are timed and by which they pick up; ``low``: the other state, for the arcs ``falls`` in which it differs."""

    states: States
    seen: Seen
    bolted: np.ndarray
    part: np.ndarray
    timed: np.ndarray
    least: np.ndarray
    low: Seen | None
    falls: np.ndarray
    low_part: np.ndarray
    even: np.ndarray


@dataclass(kw_only=True)
class _Pairs:
    """Devices of the core that count in a stage: position among the stage's arcs, device of the core, and times."""

    arc: np.ndarray
    which: np.ndarray
    times: np.ndarray
    bands: np.ndarray


class Opening:
    """Arcs in all corners of a case. ``numbers``: of devices among the ``bands`` by their identity; ``held``: does each
    interlocked device stand held, by corner and branch, (rows, places). ``until_s``: nobody asks what happens later; an
    arc that outlasts it is followed to the first opening after it."""

    def __init__(
        self, stacks: Stacks, trusted: Believed, bands: Bands, numbers: Mapping[int, int], sites: Sites,
        until_s: float, held: Callable[[Opening, int], Mapping[int, np.ndarray]],
    ):  # fmt: skip
        self.stacks, self.topology, self.bands, self.sites = stacks, stacks.topology, bands, sites
        self.model: NodalModel = stacks.topology.model
        self.trusted, self.until_s = trusted, until_s
        topology, grid = self.topology, self.model.grid
        self.device_of = np.full(len(self.model.branches), -1, dtype=np.intp)
        for branch, device in trusted.devices.items():
            self.device_of[branch] = numbers[id(device)]
        self.ways = Ways(topology, sites.at)
        self.box, self.base_ka = grid.box[sites.at], grid.base_ka[sites.at]
        self.component = stacks.component[sites.at]
        #: believed devices of the core: which joints, and of each the least current at which it does anything
        own = self.device_of[topology.joints]
        self.trunk = np.flatnonzero(own >= 0)
        self.trunk_branch = topology.joints[self.trunk]
        self.trunk_lowest = np.maximum(bands.lowest[own[self.trunk]], NOTHING_A) if len(own) else np.zeros(0)
        self.trunk_quickest = float(bands.quickest(own[self.trunk]).min(initial=np.inf))
        every = np.broadcast_to(np.arange(len(sites.at)), self.ways.branch.shape)
        self.chain = self._as_set(self._believed(self.ways.branch, sites.doubt[None, :]), every)
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

    def _as_set(self, device: np.ndarray, at: np.ndarray) -> np.ndarray:
        """Numbers of devices as each stands set for the places ``at``."""
        if self.sites.setting is not None:
            for number, others in self.bands.instead.items():
                device = np.where(device == number, others[self.sites.setting[at]], device)
        return device

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

    # Following arcs --------------------------------------------------------------------------------------

    def follow(
        self, corner: np.ndarray, k: np.ndarray, row: np.ndarray, strength: np.ndarray | None, arcing: Arcing
    ) -> Ended:
        """Follow arcs at the places ``k``, with the current of ``row``, until nothing feeds them. ``strength`` (arcs,
        lasting sources): by what each source's admittance is multiplied."""
        n = len(k)
        end = Ended(
            np.full(n, np.inf), np.full(n, -1, dtype=np.intp), np.zeros(n, dtype=np.int64), _Log().done(), {}
        )  # fmt: skip
        log = _Log()
        bundle = self.stacks.bundle_of[corner]
        for b in np.unique(bundle).tolist():
            mine = np.flatnonzero(bundle == b)
            # what is equally deep together, for there are as many steps as the deepest has
            mine = mine[np.argsort(self.ways.depth[k[mine]], kind="stable")]
            for start in range(0, len(mine), BLOCK):
                some = mine[start : start + BLOCK]
                self._block(end, log, some, corner[some], k[some], row[some],
                            None if strength is None else strength[some], arcing)  # fmt: skip
        end.stages = log.done()
        return end

    def _block(
        self, end: Ended, log: _Log, number: np.ndarray, corner: np.ndarray, k: np.ndarray, row: np.ndarray,
        strength: np.ndarray | None, arcing: Arcing,
    ) -> None:  # fmt: skip
        n, steps = len(k), int(self.ways.depth[k].max(initial=0))
        none = np.zeros(0, dtype=np.int64)
        arcs = _Arcs(
            number=number, corner=corner, k=k, row=row, strength=strength, elapsed=np.zeros(n),
            phase=np.zeros(n, dtype=np.intp), opened=np.zeros(n, dtype=np.intp), moved=np.zeros(n, dtype=bool),
            chain_done=np.zeros((ELEMENTS, steps, n)), chain_past=np.zeros((ELEMENTS, steps, n), dtype=np.int64),
            pair=none, pair_done=np.zeros((ELEMENTS, 0)), pair_past=np.zeros((ELEMENTS, 0), dtype=np.int64),
        )  # fmt: skip
        going = np.arange(n)
        while len(going):
            going = self._stage(end, log, arcs, going, arcing)

    def bolted_ka(self, corner: int, k: np.ndarray) -> np.ndarray:
        """Bolted fault current at places at the first instant of a corner."""
        stack = self.stacks.at(int(self.stacks.bundle_of[corner]))
        state, none = np.full(len(k), stack.high[corner - stack.first, 0]), np.zeros(len(k), dtype=np.intp)
        found: np.ndarray = np.abs(stack.states.see(self.ways, state, k, none, None).drive) * self.base_ka[k]
        return found

    def counted_on(
        self, corner: int, i: int, row: int, strength: np.ndarray | None, arcing: Arcing
    ) -> dict[int, float]:  # fmt: skip
        """Amperes that the devices on the way of one arc may count on at its start, by branch."""
        k, none = np.array([i]), np.zeros(1, dtype=np.intp)
        flow = self.flow(np.array([corner]), k, np.array([row]), strength, none, none, arcing)
        found = {int(b): float(a) for b, a in zip(self.ways.branch[:, i], flow.timed[:, 0], strict=False) if b >= 0}
        every = np.arange(len(self.trunk))
        for w, amps in zip(every, self.carried_by(flow, np.zeros_like(every), every), strict=True):
            found[int(self.trunk_branch[w])] = float(amps)
        return found

    def flow(
        self, corner: np.ndarray, k: np.ndarray, row: np.ndarray, strength: np.ndarray | None, phase: np.ndarray,
        opened: np.ndarray, arcing: Arcing,
    ) -> Flow:  # fmt: skip
        """What flows at the start of a stage."""
        stack = self.stacks.at(int(self.stacks.bundle_of[corner[0]]))
        component = self.component[k]
        high = stack.high[corner - stack.first, phase]
        low = np.where(self.stacks.differ[phase, component], stack.low[corner - stack.first, phase], high)
        seen = stack.states.see(self.ways, high, k, opened, strength)
        bolted = np.abs(seen.drive) * self.base_ka[k]
        part = arcing(k, row, bolted)
        timed = seen.amps * part
        least, falls, below = timed, np.flatnonzero(low != high), None
        low_part, even = np.zeros(0), self.stacks.even[phase[falls]]
        if len(falls):
            some = k[falls]
            below = stack.states.see(
                self.ways, low[falls], some, opened[falls], None if strength is None else strength[falls]
            )
            low_part = arcing(some, row[falls], np.abs(below.drive) * self.base_ka[some])
            under = np.zeros((len(timed), len(falls)))
            under[: len(below.amps)] = below.amps * low_part
            timed, least = timed.copy(), timed.copy()
            timed[:, falls], least[:, falls] = _counted_on(timed[:, falls], under, even)
        return Flow(
            states=stack.states, seen=seen, bolted=bolted, part=part, timed=timed, least=least, low=below, falls=falls,
            low_part=low_part, even=even,
        )  # fmt: skip

    def _stage(self, end: Ended, log: _Log, arcs: _Arcs, g: np.ndarray, arcing: Arcing) -> np.ndarray:
        """The next stage of the arcs ``g``; returns those that go on after it."""
        k, phase, component = arcs.k[g], arcs.phase[g], self.component[arcs.k[g]]
        flow = self.flow(arcs.corner[g], k, arcs.row[g], None if arcs.strength is None else arcs.strength[g], phase,
                         arcs.opened[g], arcing)  # fmt: skip
        after = self.stacks.after[phase, component]
        rest_p = self.stacks.starts[after] - arcs.elapsed[g]
        steps = len(flow.timed)
        chain, chain_band = self._chain_times(flow, arcs, g)
        past_c = _counted(arcs.chain_past[:, :steps, g], chain_band)
        rest_c, done_c = _remaining(chain, arcs.chain_done[:, :steps, g])
        first_c = rest_c.min(axis=(0, 1), initial=np.inf)
        # nothing of the core opens before its quickest device could
        asked = np.flatnonzero(~((arcs.elapsed[g] == 0) & (first_c <= np.minimum(self.trunk_quickest, rest_p))))
        pairs = self._pairs(flow, arcs, g, asked)
        done_t, past_t = _before(arcs, g[pairs.arc] * len(self.trunk) + pairs.which)
        past_t = _counted(past_t, pairs.bands)
        rest_t, done_t = _remaining(pairs.times, done_t)
        soon = rest_t.min(axis=0, initial=np.inf)
        first_t = np.full(len(g), np.inf)
        np.minimum.at(first_t, pairs.arc, soon)
        wait = np.minimum(np.minimum(first_c, first_t), rest_p)
        until = arcs.elapsed[g] + wait
        never = np.isinf(wait)
        by, past = self._first(g, k, wait, rest_c, past_c, first_c, soon, rest_t, past_t, pairs)
        ended_by = self._ceasing(arcs, g, phase, after, rest_p <= wait) if self.stacks.ceasing else by
        by = np.where((by == -1) & ~never, ended_by, by)
        log.add(arcs.number[g], arcs.elapsed[g].copy(), until, flow.bolted, flow.part, by)
        # the end of a phase moves nothing by a jump
        opened = np.flatnonzero((by >= 0) | never | (until > self.until_s))
        who = arcs.number[g[opened]]
        end.sign[who] = self._signed(end.sign[who], by[opened], past[opened], until[opened])
        if never.any():
            lasts = self._reached(arcs, g[never])
            names, back = np.unique(lasts, axis=0, return_inverse=True)
            each = [tuple(np.flatnonzero(n).tolist()) for n in names]
            end.left |= {int(i): each[b] for i, b in zip(arcs.number[g[never]], back.ravel().tolist(), strict=True)}
        arcs.elapsed[g] = until
        some = np.where(never, 0.0, wait)
        arcs.chain_done[:, :steps, g], arcs.chain_past[:, :steps, g] = done_c + some / chain, past_c
        over = never | (first_c <= wait * (1 + TOGETHER)) | (until > self.until_s)
        on = ~over[pairs.arc]
        arcs.pair = g[pairs.arc[on]] * len(self.trunk) + pairs.which[on]
        arcs.pair_done, arcs.pair_past = (done_t + some[pairs.arc] / pairs.times)[:, on], past_t[:, on]
        turned = ~over & (rest_p <= wait * (1 + TOGETHER))
        arcs.phase[g[turned]] = after[turned]
        opens = on & (soon <= wait[pairs.arc] * (1 + TOGETHER))
        changed = self._opened(arcs, g, pairs, opens)
        looked = np.flatnonzero(changed | (turned & self.stacks.ceasing))
        over[looked[~self._reached(arcs, g[looked]).any(axis=1)]] = True
        ended = np.flatnonzero(over & ~never)
        end.time_s[arcs.number[g[ended]]], end.by[arcs.number[g[ended]]] = until[ended], by[ended]
        given: np.ndarray = g[~over]
        return given

    def _first(
        self, g: np.ndarray, k: np.ndarray, wait: np.ndarray, rest_c: np.ndarray, past_c: np.ndarray,
        first_c: np.ndarray, soon: np.ndarray, rest_t: np.ndarray, past_t: np.ndarray, pairs: _Pairs,
    ) -> tuple[np.ndarray, np.ndarray]:  # fmt: skip
        """What opens first, if anything does before the phase ends, and by which bands it has counted."""
        by, past = np.full(len(g), -1, dtype=np.intp), np.zeros(len(g), dtype=np.int64)
        mine = np.flatnonzero(np.isfinite(wait[pairs.arc]) & (soon <= wait[pairs.arc]))[::-1]
        by[pairs.arc[mine]] = self.trunk_branch[pairs.which[mine]]
        past[pairs.arc[mine]] = past_t[rest_t[:, mine].argmin(axis=0), mine]
        steps = rest_c.shape[1]
        chain = np.flatnonzero(np.isfinite(wait) & (first_c <= wait)) if steps else np.zeros(0, dtype=np.intp)
        if len(chain):
            flat = rest_c[:, :, chain].reshape(-1, len(chain)).argmin(axis=0)
            by[chain] = self.ways.branch[flat % steps, k[chain]]
            past[chain] = past_c[:, :, chain].reshape(-1, len(chain))[flat, np.arange(len(chain))]
        return by, past

    def _ceasing(
        self, arcs: _Arcs, g: np.ndarray, phase: np.ndarray, after: np.ndarray, turns: np.ndarray
    ) -> np.ndarray:
        """Of arcs whose phase ends: the first of the sources that cease with it and feed them, as -2 - n."""
        found = np.full(len(g), -1, dtype=np.intp)
        at = np.flatnonzero(turns & np.isfinite(self.stacks.starts[after]))
        if len(at):
            alive = self.stacks.alive
            ceases = self._reached(arcs, g[at]) & alive[phase[at]] & ~alive[after[at]]
            found[at] = np.where(ceases.any(axis=1), -2 - ceases.argmax(axis=1), -1)
        return found

    def _opened(self, arcs: _Arcs, g: np.ndarray, pairs: _Pairs, opens: np.ndarray) -> np.ndarray:
        """Open devices of the core for their arcs; which arcs are changed by it."""
        changed = np.zeros(len(g), dtype=bool)
        at = np.flatnonzero(opens)
        if not len(at):
            return changed
        own, starts = np.unique(pairs.arc[at], return_index=True)
        known: dict[tuple[int, tuple[int, ...]], int] = {}
        joints = self.trunk[pairs.which[at]].tolist()
        for arc, first, last in zip(own.tolist(), starts.tolist(), [*starts[1:].tolist(), len(at)], strict=True):
            key = (int(arcs.opened[g[arc]]), tuple(joints[first:last]))
            if key not in known:
                known[key] = self.topology.with_opened(*key)
            arcs.opened[g[arc]] = known[key]
        changed[own] = True
        arcs.moved[g[own]] = True
        return changed

    def _reached(self, arcs: _Arcs, g: np.ndarray) -> np.ndarray:
        """Which sources that have not ceased feed each arc still (arcs, sources)."""
        found: np.ndarray = self.stacks.alive[arcs.phase[g]].copy()
        root, opened = self.ways.root[arcs.k[g]], arcs.opened[g]
        for o in np.unique(opened).tolist():
            label, mine = self.topology.reached(o), np.flatnonzero(opened == o)
            found[mine] &= label[self.topology.source_core][None, :] == label[root[mine]][:, None]
        return found

    def _signed(self, sign: np.ndarray, by: np.ndarray, band: np.ndarray, until_s: np.ndarray) -> np.ndarray:
        """What opened next, by which band of its curve (or bands, stage after stage), added to what opened before.
        Too late, all are alike."""
        late = ~(until_s <= self.until_s)
        by, band = np.where(late, -1, by), np.where(late | (by == -1), 0, band)
        found: np.ndarray = (sign * 1_000_003 + (by + len(self.topology.sources) + 3)) * 1_000_003 + band
        return found

    # Times -----------------------------------------------------------------------------------------------

    def _chain_times(self, flow: Flow, arcs: _Arcs, g: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Times of the devices of the laterals (elements, steps, arcs), and the bands that give them."""
        k = arcs.k[g]
        device = self.chain[: len(flow.timed), k]
        found, bands = np.full((ELEMENTS, *device.shape), np.inf), np.zeros((ELEMENTS, *device.shape), dtype=np.int32)
        if not len(self.bands.lowest):
            return found, bands
        step, arc = np.nonzero((device >= 0) & (flow.least >= np.maximum(self.bands.lowest[device], NOTHING_A)))
        if len(step):
            held = self._held_back(arcs, g[arc], self.ways.branch[step, k[arc]])
            found[:, step, arc], bands[:, step, arc] = self.bands.times_and_bands(
                device[step, arc], flow.timed[step, arc], self.box[k[arc]], held, flow.least[step, arc]
            )
        return found, bands

    def _held_back(self, arcs: _Arcs, a: np.ndarray, branch: np.ndarray) -> np.ndarray:
        """Zone interlock at the start of an arc; from the first opening on whoever is not held counts as held."""
        found = np.ones(len(branch), dtype=bool)
        for corner in np.unique(arcs.corner).tolist() if self.bands.interlocked.any() else ():
            for b, known in self.held(corner).items():
                mine = np.flatnonzero((branch == b) & (arcs.corner[a] == corner) & ~arcs.moved[a])
                found[mine] = known[arcs.row[a[mine]], arcs.k[a[mine]]]
        return found

    def _pairs(self, flow: Flow, arcs: _Arcs, g: np.ndarray, asked: np.ndarray) -> _Pairs:
        """Devices of the core that have picked up for the arcs ``asked`` of a stage, in order of arc and device."""
        arc, which, timed, least = self.carried(flow, asked)
        k = arcs.k[g[arc]]
        device = self.core_devices(which, k)
        good = np.flatnonzero(device >= 0)
        arc, which, k, device = arc[good], which[good], k[good], device[good]
        held = self._held_back(arcs, g[arc], self.trunk_branch[which])
        times, bands = self.bands.times_and_bands(device, timed[good], self.box[k], held, least[good])
        return _Pairs(arc=arc, which=which, times=times, bands=bands)

    def carried(
        self, flow: Flow, asked: np.ndarray, least_part: float = 1.0
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """Devices of the core that carry as much as they pick up at (or a part of it): arcs of ``asked``, devices,
        amperes by which they are timed and by which they pick up."""
        none = np.zeros(0, dtype=np.intp)
        if not len(self.trunk) or not len(asked):
            return none, none, np.zeros(0), np.zeros(0)
        drawn = np.abs(flow.seen.root_drive * flow.seen.at_root)[asked] * flow.part[asked]
        names, back = np.unique(flow.seen.combination[asked], return_inverse=True)
        back = back.ravel()
        each = self._joint_amps(flow, flow.seen, names)
        most = np.zeros(len(names))
        np.maximum.at(most, back, drawn)
        lowest = self.trunk_lowest * least_part
        of, which = np.nonzero((each * most >= lowest[:, None]).T)
        counts = np.bincount(of, minlength=len(names))
        starts = np.concatenate([[0], np.cumsum(counts)])
        lengths = counts[back]
        arc = np.repeat(np.arange(len(asked)), lengths)
        within = np.arange(len(arc)) - np.repeat(np.cumsum(lengths) - lengths, lengths)
        which = which[starts[back[arc]] + within] if len(arc) else none
        timed = each[which, back[arc]] * drawn[arc]
        good = np.flatnonzero(timed >= lowest[which])
        arc, which, timed = arc[good], which[good], timed[good]
        least = timed
        if flow.low is not None and len(arc):
            timed, least = self._falling(flow, asked[arc], which, timed)
            good = np.flatnonzero(least >= lowest[which])
            arc, which, timed, least = arc[good], which[good], timed[good], least[good]
        return asked[arc], which, timed, least

    def core_devices(self, which: np.ndarray, k: np.ndarray) -> np.ndarray:
        """Numbers of devices of the core, each for an arc at a place; -1 where it is not believed there."""
        return self._as_set(self._believed(self.trunk_branch[which], self.sites.doubt[k]), k)

    def carried_by(self, flow: Flow, arc: np.ndarray, which: np.ndarray) -> np.ndarray:
        """Amperes of one device of the core for each of some arcs, by which it picks up."""
        joint = self.trunk[which]

        def own(seen: Seen, at: np.ndarray, part: np.ndarray, joint: np.ndarray) -> np.ndarray:
            drawn = np.abs(seen.root_drive * seen.at_root)[at] * part
            amps: np.ndarray = flow.states.joint_amps(seen.of, seen.combination[at], joint) * drawn
            return amps

        found = own(flow.seen, arc, flow.part[arc], joint)
        if flow.low is not None:
            place = np.full(len(flow.bolted), -1, dtype=np.intp)
            place[flow.falls] = np.arange(len(flow.falls))
            mine = np.flatnonzero(place[arc] >= 0)
            low = place[arc[mine]]
            found[mine] = np.minimum(found[mine], own(flow.low, low, flow.low_part[low], joint[mine]))
        return found

    def _falling(
        self, flow: Flow, arc: np.ndarray, which: np.ndarray, timed: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray]:
        """The same for arcs whose current falls within the stage."""
        assert flow.low is not None
        place = np.full(len(flow.bolted), -1, dtype=np.intp)
        place[flow.falls] = np.arange(len(flow.falls))
        own = place[arc]
        mine = np.flatnonzero(own >= 0)
        low, own = flow.low, own[mine]
        names, back = np.unique(low.combination[own], return_inverse=True)
        each = self._joint_amps(flow, low, names)
        drawn = np.abs(low.root_drive * low.at_root)[own] * flow.low_part[own]
        under = each[which[mine], back.ravel()] * drawn
        timed, least = timed.copy(), timed.copy()
        timed[mine], least[mine] = _counted_on(timed[mine], under, flow.even[own])
        return timed, least

    def _joint_amps(self, flow: Flow, seen: Seen, names: np.ndarray) -> np.ndarray:
        """Amperes of the devices of the core for one per unit drawn at the root, by combination."""
        given: np.ndarray = flow.states.joint_amps(seen.of, names)[self.trunk]
        return given


def _counted_on(high: np.ndarray, low: np.ndarray, even: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Amperes by which devices are timed, and by which they pick up, while a current changes from one to the other."""
    least = np.minimum(high, low)
    return np.where(even, high**AVERAGE * low ** (1 - AVERAGE), least), least


def _counted(past: np.ndarray, bands: np.ndarray) -> np.ndarray:
    """The bands by which elements have counted, with the one of another stage where it is another one; 0 where an
    element does not count now. The last band stands in the lowest bits."""
    more = ((past >> BAND_BITS) * 1_000_003 + bands << BAND_BITS) + bands
    return np.where(bands > 0, np.where(past & BAND_MASK == bands, past, more), 0)


def _remaining(times: np.ndarray, done: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What is left of each time, and what has been counted; below pickup an element starts again."""
    picked = np.isfinite(times)
    counted = np.where(picked, done, 0.0)
    rest = np.full(times.shape, np.inf)
    rest[picked] = ((1 - counted[picked]) * times[picked]).clip(min=0)
    return rest, counted


def _before(arcs: _Arcs, pair: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What pairs have counted so far, and by which bands; nothing where they have not."""
    shape = (ELEMENTS, len(pair))
    if not len(arcs.pair):
        return np.zeros(shape), np.zeros(shape, dtype=np.int64)
    at = np.searchsorted(arcs.pair, pair).clip(max=len(arcs.pair) - 1)
    known = arcs.pair[at] == pair
    return np.where(known, arcs.pair_done[:, at], 0.0), np.where(known, arcs.pair_past[:, at], 0)


def doubt_keys(doubts: Sequence[np.ndarray], size: int) -> np.ndarray:
    """Doubt and branch in one number, sorted, to look many pairs up at once. ``doubts``: branches by grid position."""
    found = [number * size + branches for number, branches in enumerate(doubts) if len(branches)]
    return np.unique(np.concatenate(found)) if found else np.zeros(0, dtype=np.intp)
