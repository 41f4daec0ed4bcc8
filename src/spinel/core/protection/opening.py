"""When does an arc end, and what feeds it until then? One device opens after the other, as it would happen.

From the start of the arc every believed device that carries a share of it counts, each element of its own, towards
its total clearing time at that share. The first that gets there opens; currents are computed anew; what the others
have counted stays as a part of their time, and one whose share has dropped below pickup starts again. A source may
cease of itself. The arc is over when nothing that lasts reaches it. docs/methods/clearing.md tells the rules.

An arc is a place, a current (full or reduced) and, where they lie between strongest and weakest, the strengths of its
sources. Many arcs at once; those that a single device ends, nearly all, never leave the first pass.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from spinel.core.fault.ladder import Core, Ladder, Seen, Ways
from spinel.core.protection.bands import ELEMENTS, Bands
from spinel.core.protection.believed import Believed

#: Arcs that are followed through several stages together: bounds the memory of what every device has counted.
BLOCK = 500
#: Devices that get there within this part of one another open together.
TOGETHER = 1e-9
#: Levels of fault current, a step apart, for which it is known how soon any device of the core could open.
LEVEL = 1.5
#: The share of a device may grow when another source is weaker: allowance in the bound for such arcs. And what passes
#: through a device is never above what a fault at its own terminals draws through it, angles apart.
SHARE_SLACK, NEAR_SLACK = 2.0, 1.2
#: A source that gives less than this part of an arc, with all others as small, may cease without a stage of its own.
SMALL = 0.0005
_NONE: frozenset[int] = frozenset()

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
    """All stages of all arcs, in order of time within each: which arc, from and until (s), bolted kA, part arcing."""

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
    arc: list[np.ndarray] = field(default_factory=list)
    from_s: list[np.ndarray] = field(default_factory=list)
    until_s: list[np.ndarray] = field(default_factory=list)
    bolted_ka: list[np.ndarray] = field(default_factory=list)
    part: list[np.ndarray] = field(default_factory=list)
    ends_by: list[np.ndarray] = field(default_factory=list)

    def add(self, *columns: np.ndarray) -> None:
        for name, column in zip(_COLUMNS, columns, strict=True):
            getattr(self, name).append(column)

    def done(self) -> Stages:
        kinds = (np.intp, float, float, float, float, np.intp)
        whole = [
            np.concatenate(getattr(self, n)) if getattr(self, n) else np.zeros(0, dtype=k)
            for n, k in zip(_COLUMNS, kinds, strict=True)
        ]
        order = np.lexsort((whole[1], whole[0]))
        return Stages(*(column[order] for column in whole))


_COLUMNS = ("arc", "from_s", "until_s", "bolted_ka", "part", "ends_by")


class Opening:
    """Arcs of one circuit. ``device_of``: number among the ``bands`` of each branch of the model, -1 for none.

    ``until_s``: nobody asks what happens later; an arc that outlasts it is followed to the first opening after it.
    """

    def __init__(
        self, ladder: Ladder, trusted: Believed, bands: Bands, numbers: dict[int, int], sites: Sites,
        cease_s: np.ndarray, until_s: float,
    ):  # fmt: skip
        self.ladder, self.model, self.bands, self.sites = ladder, ladder.model, bands, sites
        self.trusted = trusted
        self.device_of = np.full(len(self.model.branches), -1, dtype=np.intp)
        for branch, device in trusted.devices.items():
            self.device_of[branch] = numbers[id(device)]
        self.ways = Ways(self.model, sites.at)
        self.box = self.model.grid.box[sites.at]
        inside = self.model.solution.inside
        #: believed devices of the core
        self.trunk = inside[self.device_of[inside] >= 0]
        self.cease_s, self.until_s = cease_s, until_s
        every = np.broadcast_to(np.arange(len(sites.at)), self.ways.branch.shape)
        self.chain = self._as_set(self._believed(self.ways.branch, sites.doubt[None, :]), every)
        # what follows from the model alone is found once, whatever places are asked
        shared = ladder.kept
        if "picks" not in shared:
            shared |= {"picks": self._picks(), "lists": {}, "bound": {}}
        self._may_pick: np.ndarray = shared["picks"]
        self._lists: dict[tuple[int, int], np.ndarray] = shared["lists"]
        self._bound: dict[tuple[int, int, bool], float] = shared["bound"]
        #: does each interlocked device stand held at a place, by (row, place); absent: held
        self.held: dict[int, np.ndarray] = {}

    def _believed(self, branch: np.ndarray, doubt: np.ndarray) -> np.ndarray:
        """Device numbers of branches for arcs of these doubts; -1 where there is none or it is not believed."""
        device = np.where(branch >= 0, self.device_of[np.maximum(branch, 0)], -1)
        key = doubt * self.sites.size + self.model.branches[np.maximum(branch, 0)]
        keys = self.sites.keys
        if not len(keys):
            return device
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

    def is_held(self, i: int, row: int, branch: int) -> bool:
        """Is the device at a branch held back by its zone interlock at the start of an arc?"""
        return branch not in self.held or bool(self.held[branch][row, i])

    # Following arcs --------------------------------------------------------------------------------------

    def follow(self, k: np.ndarray, row: np.ndarray, strength: np.ndarray | None, arcing: Arcing) -> Ended:
        """Follow arcs at the places ``k``, with the current of ``row``, until nothing feeds them."""
        n = len(k)
        end = Ended(
            np.full(n, np.inf), np.full(n, -1, dtype=np.intp), np.zeros(n, dtype=np.int64), _Log().done(), {}
        )  # fmt: skip
        log = _Log()
        core = self.ladder.core(_NONE)
        seen = self.ladder.see([(core, np.arange(n))], self.ways, k, strength)
        bolted = np.abs(seen.drive) * self.model.grid.base_ka[self.sites.at[k]]
        part = arcing(k, row, bolted)
        time, band = self._chain_times(seen, k, row, part, True)
        quickest = time.min(axis=(0, 1), initial=np.inf)
        other = self._other(core, seen, part, strength)
        alone = (quickest <= other) | (np.minimum(quickest, other) > self.until_s)
        at = np.flatnonzero(alone)
        self._finish(end, at, quickest[at], time[:, :, at], band[:, :, at], k[at])
        for i in at[np.isinf(quickest[at])]:
            reached = core.part[self.ladder.source_core] == core.part[seen.root[i]]
            end.left[int(i)] = tuple(np.flatnonzero(reached).tolist())
        log.add(at, np.zeros(len(at)), quickest[at], bolted[at], part[at], end.by[at])
        rest = np.flatnonzero(~alone)
        level = self._levels(seen, part)
        lists = [self._list(r, v) for r, v in zip(seen.root[rest].tolist(), level[rest].tolist(), strict=True)]
        lengths = np.array([len(x) for x in lists], dtype=np.intp)
        order = np.lexsort((self.ways.depth[k[rest]], lengths))
        for start in range(0, len(rest), BLOCK):
            some = order[start : start + BLOCK]
            trunk = np.full((lengths[some].max(initial=0), len(some)), -1, dtype=np.intp)
            for column, i in enumerate(some.tolist()):
                trunk[: lengths[i], column] = lists[i]
            self._step_by_step(end, log, rest[some], trunk, k, row, strength, arcing)
        end.stages = log.done()
        return end

    def _finish(
        self, end: Ended, at: np.ndarray, time_s: np.ndarray, times: np.ndarray, bands: np.ndarray, k: np.ndarray
    ) -> None:
        """The arcs ``at`` end by the first device of their lateral, or never. ``times`` (elements, steps, arcs)."""
        steps = times.shape[1]
        if not len(at) or not steps:
            return
        flat = times.reshape(-1, len(at)).argmin(axis=0)
        end.time_s[at] = time_s
        end.by[at] = np.where(np.isinf(time_s), -1, self.ways.branch[flat % steps, k])
        band = bands.reshape(-1, len(at))[flat, np.arange(len(at))]
        end.sign[at] = self._signed(end.sign[at], end.by[at], band, time_s)

    def _signed(self, sign: np.ndarray, by: np.ndarray, band: np.ndarray, until_s: np.ndarray) -> np.ndarray:
        """What opened next, by which band of its curve (or bands, stage after stage), added to what opened before.
        Too late, all are alike."""
        late = ~(until_s <= self.until_s)
        by, band = np.where(late, -1, by), np.where(late | (by == -1), 0, band)
        found: np.ndarray = (sign * 1_000_003 + (by + len(self.cease_s) + 3)) * 1_000_003 + band
        return found

    def _chain_times(
        self, seen: Seen, k: np.ndarray, row: np.ndarray, part: np.ndarray, first: bool
    ) -> tuple[np.ndarray, np.ndarray]:
        """Times of the devices of the laterals (elements, steps, arcs), and the bands that give them."""
        device = self.chain[: len(seen.amps), k]
        found, bands = np.full((ELEMENTS, *device.shape), np.inf), np.zeros((ELEMENTS, *device.shape), dtype=np.int32)
        step, arc = np.nonzero(device >= 0)
        if len(step):
            held = np.ones(len(step), dtype=bool)
            if first and self.held:
                held = self._held(self.ways.branch[step, k[arc]], row[arc], k[arc])
            amps = seen.amps[step, arc] * part[arc]
            found[:, step, arc], bands[:, step, arc] = self.bands.times_and_bands(
                device[step, arc], amps, self.box[k[arc]], held
            )
        return found, bands

    def _held(self, branch: np.ndarray, row: np.ndarray, k: np.ndarray) -> np.ndarray:
        """Zone interlock at the start of an arc; from then on whoever is not held counts as held."""
        found = np.ones(len(branch), dtype=bool)
        for b, known in self.held.items():
            mine = branch == b
            found[mine] = known[row[mine], k[mine]]
        return found

    def _other(self, core: Core, seen: Seen, part: np.ndarray, strength: np.ndarray | None) -> np.ndarray:
        """A time before which nothing in the core opens and no source ceases, for each arc."""
        least = np.full(len(part), np.inf)
        if np.isfinite(self.cease_s).any():
            reached = core.part[self.ladder.source_core][None, :] == core.part[seen.root][:, None]
            big = reached & ~_small(seen.worth(self.ladder, strength))
            least = np.where(big, self.cease_s[None, :], np.inf).min(axis=1)
        if not len(self.trunk):
            return least
        slack = strength is not None
        pairs, back = np.unique(np.stack([seen.root, self._levels(seen, part)]), axis=1, return_inverse=True)
        new = [(int(r), int(v)) for r, v in pairs.T if (int(r), int(v), slack) not in self._bound]
        if new:
            roots = np.array([r for r, _ in new], dtype=np.intp)
            amps = self._share(core, self.trunk, roots) * LEVEL ** np.array([v for _, v in new], dtype=float)[None, :]
            device = np.repeat(self.device_of[self.trunk], len(new))
            flow = (amps * (SHARE_SLACK if slack else 1 + 1e-9)).ravel()
            times = np.full(len(flow), np.inf)
            for box in self._zone_boxes:
                times = np.minimum(times, self.bands.soonest(device, flow, np.full(len(flow), box)))
            bound = times.reshape(len(self.trunk), len(new)).min(axis=0, initial=np.inf)
            self._bound |= {(r, v, slack): float(b) for (r, v), b in zip(new, bound, strict=True)}
        known = np.array([self._bound[int(r), int(v), slack] for r, v in pairs.T])
        given: np.ndarray = np.minimum(least, known[back.ravel()])
        return given

    @staticmethod
    def _levels(seen: Seen, part: np.ndarray) -> np.ndarray:
        """How much each arc draws at its root, per unit, as a power of ``LEVEL``, rounded up."""
        drawn = np.maximum(np.abs(seen.root_drive * seen.at_root) * part, 1e-12)
        given: np.ndarray = np.ceil(np.log(drawn) / np.log(LEVEL)).astype(np.intp)
        return given

    def _list(self, root: int, level: int) -> np.ndarray:
        """Devices of the core that could open in time for an arc of a level below a root, carried they all of it."""
        part = self.ladder.core(_NONE).part
        key = int(part[root]), level
        if key not in self._lists:
            p, place = self.model.solution.passive, self.model.solution.core_place
            amps = LEVEL**level * NEAR_SLACK * self.model.grid.base_ka[p.a[self.trunk]] * 1000
            quick = np.zeros(len(self.trunk), dtype=bool)
            for box in self._zone_boxes:
                found = self.bands.soonest(self.device_of[self.trunk], amps, np.full(len(amps), box))
                quick |= found <= self.until_s
            mine = part[place[p.a[self.trunk]]] == part[root]
            self._lists[key] = self.trunk[quick & mine & self._may_pick]
        return self._lists[key]

    @property
    def _zone_boxes(self) -> list[int]:
        """An enclosure of every relay's zone, and none: wherever the arc is, one of these is as bad for a bound."""
        found = {int(np.flatnonzero(seen)[0]) - 1 for seen in self.bands.zone_of.values() if seen.any()}
        return [-1, *sorted(found)]

    def _share(self, core: Core, trunk: np.ndarray, roots: np.ndarray) -> np.ndarray:
        """Amperes of devices (trunk, roots) for a fault at each root of the core that draws one per unit."""
        n = len(roots)
        one = np.ones(n)
        seen = Seen(one, one, np.zeros((0, n)), roots, one, None, [(core, np.arange(n))])
        return self.ladder.trunk_amps(seen, np.broadcast_to(trunk[:, None], (len(trunk), n)))

    def _picks(self) -> np.ndarray:
        """Which devices of the core could ever pick up, wherever the arc is.

        None carries more than a fault at either of its own ends draws through it, from whichever side it comes.
        """
        picks = np.zeros(len(self.trunk), dtype=bool)
        if not len(self.trunk):
            return picks
        p, place = self.model.solution.passive, self.model.solution.core_place
        core, device = self.ladder.core(_NONE), self.device_of[self.trunk]
        for ends in (place[p.a[self.trunk]], place[p.b[self.trunk]]):
            z = np.abs(core.columns(ends)[ends, np.arange(len(ends))])
            own = np.diagonal(self._share(core, self.trunk, ends))
            for box in self._zone_boxes:
                found = self.bands.soonest(device, own / z * NEAR_SLACK, np.full(len(own), box))
                picks |= np.isfinite(found)
        return picks

    # Several stages --------------------------------------------------------------------------------------

    def _step_by_step(
        self, end: Ended, log: _Log, arcs: np.ndarray, trunk: np.ndarray, k: np.ndarray, row: np.ndarray,
        strength: np.ndarray | None, arcing: Arcing,
    ) -> None:  # fmt: skip
        """``trunk``: devices of the core that may open in time for each arc (devices, arcs); -1 fills up."""
        sources = len(self.ladder.sources)
        alive = np.ones((len(arcs), sources), dtype=complex) if strength is None else strength[arcs].copy()
        steps = self.ways.depth[k[arcs]].max(initial=0)
        state = _State(
            elapsed=np.zeros(len(arcs)),
            alive=alive,
            chain_done=np.zeros((ELEMENTS, steps, len(arcs))),
            trunk=trunk,
            trunk_done=np.zeros((ELEMENTS, *trunk.shape)),
            gone=np.zeros(trunk.shape, dtype=bool),
            opened=[_NONE] * len(arcs),
            chain_past=np.zeros((ELEMENTS, steps, len(arcs)), dtype=np.int64),
            trunk_past=np.zeros((ELEMENTS, *trunk.shape), dtype=np.int64),
        )
        going, first = np.arange(len(arcs)), True
        while len(going):
            going = self._stage(end, log, state, arcs, going, k, row, arcing, first)
            first = False

    def _grouped(self, state: _State, g: np.ndarray) -> list[tuple[Core, np.ndarray]]:
        """Arcs by what is open for them: a core, and positions in ``g``."""
        groups: dict[frozenset[int], list[int]] = {}
        for n, i in enumerate(g.tolist()):
            groups.setdefault(state.opened[i], []).append(n)
        return [(self.ladder.core(opened), np.array(members)) for opened, members in groups.items()]

    def _stage(
        self,
        end: Ended,
        log: _Log,
        state: _State,
        arcs: np.ndarray,
        g: np.ndarray,
        k: np.ndarray,
        row: np.ndarray,
        arcing: Arcing,
        first: bool,
    ) -> np.ndarray:
        """The next stage of the arcs ``g``; returns those that go on after it."""
        arc = arcs[g]
        at, cores = k[arc], self._grouped(state, g)
        seen = self.ladder.see(cores, self.ways, at, state.alive[g])
        bolted = np.abs(seen.drive) * self.model.grid.base_ka[self.sites.at[at]]
        part = arcing(at, row[arc], bolted)
        chain, chain_band = self._chain_times(seen, at, row[arc], part, first)
        trunk, trunk_band = self._trunk_times(seen, at, row[arc], part, state.trunk[:, g], state.gone[:, g], first)
        steps = chain.shape[1]
        past_c = _counted(state.chain_past[:, :steps, g], chain_band)
        past_t = _counted(state.trunk_past[:, :, g], trunk_band)
        state.chain_past[:, :steps, g], state.trunk_past[:, :, g] = past_c, past_t
        rest_c, done_c = _remaining(chain, state.chain_done[:, :steps, g])
        rest_t, done_t = _remaining(trunk, state.trunk_done[:, :, g])
        reached = self._reached(cores, seen.root, state.alive[g])
        rest_s = np.where(reached, self.cease_s[None, :], np.inf) - state.elapsed[g][:, None]
        if np.isfinite(self.cease_s).any():
            # while something bigger feeds the arc, the small cease unnoticed, late rather than early
            small = _small(seen.worth(self.ladder, state.alive[g]))
            small &= (reached & ~small).any(axis=1)[:, None]
            rest_s = np.where(small, np.inf, rest_s).clip(min=0)
        first_c, first_t = rest_c.min(axis=(0, 1), initial=np.inf), rest_t.min(axis=(0, 1), initial=np.inf)
        first_s = rest_s.min(axis=1, initial=np.inf)
        wait = np.minimum(np.minimum(first_c, first_t), first_s)
        until = state.elapsed[g] + wait
        by, past, one = np.full(len(g), -1, dtype=np.intp), np.zeros(len(g), dtype=np.int64), np.arange(len(g))
        if rest_s.shape[1]:
            by = np.where(first_s <= wait, -2 - rest_s.argmin(axis=1), by)
        for rest, whose, pasts, soonest in (
            (rest_t, state.trunk[:, g], past_t, first_t),
            (rest_c, self.ways.branch[:steps, at], past_c, first_c),
        ):  # fmt: skip
            if rest.shape[1]:
                flat = rest.reshape(-1, len(g)).argmin(axis=0)
                mine = soonest <= wait
                by = np.where(mine, whose[flat % rest.shape[1], one], by)
                past = np.where(mine, pasts.reshape(-1, len(g))[flat, one], past)
        never = np.isinf(wait)
        by[never] = -1
        log.add(arc, state.elapsed[g].copy(), until, bolted, part, by)
        end.sign[arc] = self._signed(end.sign[arc], by, past, until)
        for i in np.flatnonzero(never).tolist():
            end.left[int(arc[i])] = tuple(np.flatnonzero(reached[i]).tolist())
        state.elapsed[g] = until
        some = np.where(never, 0.0, wait)
        state.chain_done[:, :steps, g] = done_c + some / chain
        state.trunk_done[:, :, g] = done_t + some / trunk
        over = never | (first_c <= wait * (1 + TOGETHER)) | (until > self.until_s)
        left = np.flatnonzero(~over)
        soon = wait[left] * (1 + TOGETHER)
        opens = rest_t[:, :, left].min(axis=0, initial=np.inf) <= soon
        state.gone[:, g[left]] |= opens
        # those that ceased unnoticed too
        ceased = self.cease_s[None, :] <= until[left][:, None] * (1 + TOGETHER)
        state.alive[g[left]] = np.where(ceased, 0, state.alive[g[left]])
        for n in np.flatnonzero(opens.any(axis=0)).tolist():
            i = int(g[left[n]])
            state.opened[i] = state.opened[i] | set(state.trunk[opens[:, n], i].tolist())
        if len(left):
            after = self._grouped(state, g[left])
            over[left] = ~self._reached(after, seen.root[left], state.alive[g[left]]).any(axis=1)
        ended = np.flatnonzero(over & ~never)
        end.time_s[arc[ended]], end.by[arc[ended]] = until[ended], by[ended]
        given: np.ndarray = g[~over]
        return given

    def _reached(self, cores: list[tuple[Core, np.ndarray]], root: np.ndarray, alive: np.ndarray) -> np.ndarray:
        """Which sources feed each arc still (arcs, sources)."""
        found: np.ndarray = alive != 0
        for core, g in cores:
            found[g] &= core.part[self.ladder.source_core][None, :] == core.part[root[g]][:, None]
        return found

    def _trunk_times(
        self, seen: Seen, at: np.ndarray, row: np.ndarray, part: np.ndarray, trunk: np.ndarray, gone: np.ndarray,
        first: bool,
    ) -> tuple[np.ndarray, np.ndarray]:  # fmt: skip
        """Times of the devices of the core (elements, devices, arcs), and the bands that give them."""
        shape = trunk.shape
        found, bands = np.full((ELEMENTS, *shape), np.inf), np.zeros((ELEMENTS, *shape), dtype=np.int32)
        device = np.where(gone, -1, self._believed(trunk, np.broadcast_to(self.sites.doubt[at], shape)))
        device = self._as_set(device, np.broadcast_to(at, shape))
        step, arc = np.nonzero(device >= 0)
        if not len(step):
            return found, bands
        amps = self.ladder.trunk_amps(seen, trunk)[step, arc] * part[arc]
        held = np.ones(len(step), dtype=bool)
        if first and self.held:
            held = self._held(trunk[step, arc], row[arc], at[arc])
        found[:, step, arc], bands[:, step, arc] = self.bands.times_and_bands(
            device[step, arc], amps, self.box[at[arc]], held
        )
        return found, bands


def _counted(past: np.ndarray, bands: np.ndarray) -> np.ndarray:
    """The bands by which elements have counted, with those of one more stage; 0 where one does not count now."""
    return np.where(bands > 0, past * 1_000_003 + bands, 0)


def _small(worth: np.ndarray) -> np.ndarray:
    """Which sources, the smallest first, give together less than ``SMALL`` of each arc."""
    order = np.argsort(worth, axis=1)
    summed = np.cumsum(np.take_along_axis(worth, order, axis=1), axis=1)
    found = np.zeros(worth.shape, dtype=bool)
    np.put_along_axis(found, order, summed < SMALL, axis=1)
    return found


def _remaining(times: np.ndarray, done: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What is left of each time, and what has been counted; below pickup an element starts again."""
    picked = np.isfinite(times)
    counted = np.where(picked, done, 0.0)
    rest = np.full(times.shape, np.inf)
    rest[picked] = ((1 - counted[picked]) * times[picked]).clip(min=0)
    return rest, counted


@dataclass(kw_only=True)
class _State:
    """What arcs that are followed step by step have come to; counts are (elements, devices, arcs)."""

    elapsed: np.ndarray
    alive: np.ndarray
    chain_done: np.ndarray
    trunk: np.ndarray
    trunk_done: np.ndarray
    gone: np.ndarray
    opened: list[frozenset[int]]
    #: by which bands each element has counted, stage after stage since it last started
    chain_past: np.ndarray
    trunk_past: np.ndarray


def doubt_keys(doubts: Sequence[np.ndarray], size: int) -> np.ndarray:
    """Doubt and branch in one number, sorted, to look many pairs up at once. ``doubts``: branches by grid position."""
    found = [number * size + branches for number, branches in enumerate(doubts) if len(branches)]
    return np.unique(np.concatenate(found)) if found else np.zeros(0, dtype=np.intp)


def joined(parts: Sequence[Ended]) -> Ended:
    """Several runs as one, their arcs numbered on."""
    log, first = _Log(), 0
    left: dict[int, tuple[int, ...]] = {}
    for p in parts:
        log.add(p.stages.arc + first, *(getattr(p.stages, n) for n in _COLUMNS[1:]))
        left |= {arc + first: who for arc, who in p.left.items()}
        first += len(p.time_s)
    empty = np.zeros(0)
    time, by, sign = (
        np.concatenate([getattr(p, n) for p in parts]) if parts else empty.astype(kind)
        for n, kind in (("time_s", float), ("by", np.intp), ("sign", np.int64))
    )
    return Ended(time, by, sign, log.done(), left)
