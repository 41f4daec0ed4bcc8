"""The worst between two corners of a case: the strength of supply just past each step at which other devices clear.

Energy as a function of strength is smooth and has its worst at an end, as long as the same elements open in the same
order. Where a band of a device that carries the arc begins is such a step: it is solved for where the current comes to
it, and the energy taken on both sides. Where two neighbours among the ends and these steps differ still in what opens,
as after another device has opened, the change between them is closed in on.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from spinel.core.fault.scenes import Path
from spinel.core.fault.stacks import Stacks
from spinel.core.protection.opening import Ended, Opening

if TYPE_CHECKING:
    from spinel.core.compiled.tables import WayTable

#: A stretch of the way from strongest (0) to weakest (1) is cut into this many, this often: few arcs in fewer rounds.
#: What is left of it moves an energy by less than a thousandth of a percent or so.
FEW, PIECES, CUTS, PIECES_OF_MANY, CUTS_OF_MANY = 500, 4, 8, 2, 13
#: How far past a step the energy is taken, of the whole way: past any rounding, too near to matter.
PAST = 2e-6
#: A stretch this short is smooth where an arc's worth changes by no more than this over it and those beside it: a peak
#: inside, where time reaches two seconds or elements change places, then stands out by no more than that.
SHORT, SMOOTH = 1 / 16, 1e-3
#: Beyond the weakest source, what stands for hotter conductors and impedances above nominal: all weaker by this factor.
BEYOND, FURTHEST = 4.0, 6.0
#: A step of an element that takes longer than this, times as long as the arc lasts at either end, opens nothing.
SLOWER = 1.5


@dataclass
class Tried:
    """Arcs as they were tried: way, place, row, where on the way, and how they ended."""

    p: np.ndarray
    k: np.ndarray
    row: np.ndarray
    at: np.ndarray
    ended: Ended


class Way:
    """Ways from one corner to others for the arcs of a case, each ending at its own weakest current. An arc names its
    way by number, ``p``."""

    def __init__(self, stacks: Stacks, paths: Sequence[Path]):
        self.stacks, self.high, self.low = stacks, paths[0].high, np.array([p.low for p in paths])
        injections = stacks.models[0].injections
        of = [injections[i].element for i in stacks.topology.sources]
        self.ids = [e.id for e in of]
        self.log_ratio = np.array([[-np.log(complex(p.ratio.get(i, 1.0))) for i in self.ids] for p in paths])
        every = sum(1 for e in of if e.kind == "source")
        self.further = np.array([
            [len(p.ratio) == every or i in p.ratio for i in self.ids] for p in paths
        ]) * -np.log(BEYOND)  # fmt: skip
        level = stacks.models[self.high].circuit.level
        #: nothing but the sources differs between the corners: the way ends where they do
        self.exact = np.array([stacks.models[p.low].circuit.level == level for p in paths])

    def strength(self, p: np.ndarray, t: np.ndarray) -> np.ndarray:
        """By what each source's admittance is multiplied at some points of ways: (points, sources)."""
        within, beyond = np.minimum(t, 1.0)[:, None], np.maximum(t - 1, 0.0)[:, None]
        given: np.ndarray = np.exp(self.log_ratio[p] * within + self.further[p] * beyond)
        return given

    def factors(self, p: int, t: float) -> dict[str, complex]:
        """By what each source's impedance is multiplied at a point."""
        found = 1 / self.strength(np.array([p]), np.array([t]))[0]
        return {i: complex(f) for i, f in zip(self.ids, found, strict=True) if abs(f - 1) > 1e-12}

    def ends(self, opening: Opening, k: np.ndarray, p: np.ndarray) -> np.ndarray:
        """Where the current at each place has come down to that of the weaker corner."""
        found = np.ones(len(k))
        some = np.flatnonzero(~self.exact[p])
        if not len(some):
            return found
        k, p = k[some], p[some]
        weakest = np.zeros(len(k))
        for low in np.unique(self.low[p]).tolist():
            mine = np.flatnonzero(self.low[p] == low)
            weakest[mine] = opening.drive(low, k[mine], None)
        found[some] = opening.ends(self.table, self.high, p, k, weakest, FURTHEST, PAST / 4)
        return found

    @cached_property
    def table(self) -> WayTable:
        from spinel.core.compiled.tables import WayTable

        return WayTable(self.log_ratio.astype(complex), self.further.astype(complex))


def steps_between(
    way: Way, opening: Opening, p: np.ndarray, k: np.ndarray, row: np.ndarray,
    ends: tuple[ArcsAt, ArcsAt],
) -> tuple[list[Tried], int]:  # fmt: skip
    """Arcs on both sides of every change between the ends of their ways. ``ends``: the arcs at either end. Returns what
    was tried, and how many steps were found."""
    lasting = np.minimum(np.maximum(ends[0].time_s, ends[1].time_s), opening.until_s)
    met = _met(way, opening, p, k, row, SLOWER * lasting)
    where = np.flatnonzero((ends[0].sign != ends[1].sign) | np.isin(np.arange(len(k)), met.arc))
    if not len(where):
        return [], 0
    names, back = np.unique(p[where] * (k.max() + 1) + k[where], return_inverse=True)
    end = np.zeros(len(k))
    end[where] = way.ends(opening, names % (k.max() + 1), names // (k.max() + 1))[back.ravel()]
    asked = _ArcsOnWays(p, k, row, end, way, opening)
    steps = _solved(asked, met)
    tried, beside = asked.both_sides(steps)
    # points of each arc in order: its ends, and either side of each step
    every = np.concatenate([where, where, *(b.arc for b in beside)])
    u = np.concatenate([np.zeros(len(where)), np.ones(len(where)), *(b.u for b in beside)])
    sign = np.concatenate([ends[0].sign[where], ends[1].sign[where], *(b.sign for b in beside)])
    worth = np.concatenate([ends[0].worth[where], ends[1].worth[where], *(b.worth for b in beside)])
    more, found = _closed_in(asked, _stretches(every, u, sign, worth))
    return tried + more, len(steps.arc) + found


@dataclass(frozen=True)
class ArcsAt:
    """How arcs ended: when, by what, and about how much they are worth."""

    time_s: np.ndarray
    sign: np.ndarray
    worth: np.ndarray

    def only(self, which: np.ndarray) -> ArcsAt:
        return ArcsAt(self.time_s[which], self.sign[which], self.worth[which])

    @staticmethod
    def of(ended: Ended) -> ArcsAt:
        return ArcsAt(ended.time_s, ended.sign, _worth(ended))


# Steps that are met ------------------------------------------------------------------------------------------


@dataclass
class _Steps:
    """Currents of devices that are met on the way: arc, its device (step of the lateral, or -1 - n of the core's), in
    which phase, how many amperes; ``u`` once it is known where."""

    arc: np.ndarray
    device: np.ndarray
    phase: np.ndarray
    amps: np.ndarray
    u: np.ndarray


@dataclass
class _Beside:
    arc: np.ndarray
    u: np.ndarray
    sign: np.ndarray
    worth: np.ndarray


def _met(way: Way, opening: Opening, p: np.ndarray, k: np.ndarray, row: np.ndarray, latest_s: np.ndarray) -> _Steps:
    """Beginnings of bands between what devices carry at one end of the way and at the other, before anything has
    opened: in the first phase, and when all that dies away has."""
    found: list[tuple[np.ndarray, ...]] = []
    stacks = way.stacks
    last = len(stacks.phases) - 1
    # a phase in which nothing differs from the one looked at already adds nothing
    for phase in dict.fromkeys((0, last)):
        asked = stacks.after[0, stacks.component[opening.sites.at[k]]] <= last if phase else np.ones(len(k), dtype=bool)
        mine = np.flatnonzero(asked)
        arc, device, amps = opening.met(way.high, way.low[p[mine]], k[mine], row[mine], phase, latest_s[mine])
        found.append((mine[arc], device, np.full(len(arc), phase), amps))
    arc, device, phases, amps = (np.concatenate([f[i] for f in found]) if found else np.zeros(0) for i in range(4))
    whole = [x.astype(np.intp) for x in (arc, device, phases)]
    return _Steps(whole[0], whole[1], whole[2], amps, np.zeros(len(arc)))


def _solved(asked: _ArcsOnWays, met: _Steps) -> _Steps:
    """Where on the way each current is met."""
    way, arc = asked.way, met.arc
    if len(arc):
        met.u = asked.opening.solved(way.table, way.high, asked.p[arc], asked.k[arc], asked.row[arc], asked.end[arc],
                                     met.device, met.phase, met.amps, PAST / 4)  # fmt: skip
    # what is not met before the end is that of the corner itself
    good = met.u < 1
    found = _Steps(*(getattr(met, f.name)[good] for f in fields(met)))
    order = np.lexsort((found.u, found.arc))
    found = _Steps(*(getattr(found, f.name)[order] for f in fields(found)))
    apart = np.ones(len(found.arc), dtype=bool)
    apart[1:] = (np.diff(found.arc) != 0) | (np.diff(found.u) > PAST / 2)
    return _Steps(*(getattr(found, f.name)[apart] for f in fields(found)))


# Closing in --------------------------------------------------------------------------------------------------


@dataclass
class _ArcsOnWays:
    """The arcs of a way, and where it ends for each."""

    p: np.ndarray
    k: np.ndarray
    row: np.ndarray
    end: np.ndarray
    way: Way
    opening: Opening

    def evaluate(self, arc: np.ndarray, u: np.ndarray) -> tuple[np.ndarray, Ended]:
        t = u * self.end[arc]
        strength, corner = self.way.strength(self.p[arc], t), np.full(len(arc), self.way.high)
        return t, self.opening.follow(corner, self.k[arc], self.row[arc], strength)

    def tried(self, arc: np.ndarray, t: np.ndarray, ended: Ended) -> Tried:
        return Tried(self.p[arc], self.k[arc], self.row[arc], t, ended)

    def both_sides(self, steps: _Steps) -> tuple[list[Tried], list[_Beside]]:
        tried, beside = [], []
        for u in (np.maximum(steps.u - PAST, 0.0), np.minimum(steps.u + PAST, 1.0)) if len(steps.arc) else ():
            t, ended = self.evaluate(steps.arc, u)
            tried.append(self.tried(steps.arc, t, ended))
            beside.append(_Beside(steps.arc, u, ended.sign, _worth(ended)))
        return tried, beside


def _stretches(arc: np.ndarray, u: np.ndarray, sign: np.ndarray, worth: np.ndarray) -> _Stretches:
    """The stretches between neighbouring points of the same arc, but for those across a step."""
    order = np.lexsort((u, arc))
    arc, u, sign, worth = arc[order], u[order], sign[order], worth[order]
    a = np.flatnonzero((arc[:-1] == arc[1:]) & (u[1:] - u[:-1] > 4 * PAST))
    b = a + 1
    return _Stretches(
        arc=arc[a], a=u[a], b=u[b], sign_a=sign[a], sign_b=sign[b], worth_a=worth[a], worth_b=worth[b],
        spread=np.full(len(a), np.inf),
    )  # fmt: skip


def _closed_in(asked: _ArcsOnWays, now: _Stretches) -> tuple[list[Tried], int]:
    """Changes between points that differ in what opens."""
    found: list[_Stretches] = []
    now = now.only(now.sign_a != now.sign_b)
    pieces, cuts = (PIECES, CUTS) if len(now.arc) <= FEW else (PIECES_OF_MANY, CUTS_OF_MANY)
    for _ in range(cuts):
        now = now.only(now.sign_a != now.sign_b)
        # where elements merely change places, energy runs on without a jump: there is nothing to come closer to
        smooth = (now.spread <= SMOOTH * now.worth_a) & (now.b - now.a <= SHORT)
        found.append(now.only(smooth))
        now = now.only(~smooth)
        if not len(now.arc):
            break
        inner = [now.a + (now.b - now.a) * n / pieces for n in range(1, pieces)]
        _, ended = asked.evaluate(np.tile(now.arc, pieces - 1), np.concatenate(inner))
        now = now.cut(inner, np.split(ended.sign, pieces - 1), np.split(_worth(ended), pieces - 1))
    found.append(now.only(now.sign_a != now.sign_b))
    arc, a, b = (np.concatenate([getattr(f, n) for f in found]) for n in ("arc", "a", "b"))
    tried = []
    for u in (np.minimum(b + PAST, 1.0), np.maximum(a - PAST, 0.0)) if len(arc) else ():
        t, ended = asked.evaluate(arc, u)
        tried.append(asked.tried(arc, t, ended))
    return tried, len(arc)


def _worth(ended: Ended) -> np.ndarray:
    """About how much an arc is worth: current times time of its stages, for two seconds at most."""
    s = ended.stages
    lasting = (np.minimum(s.until_s, 2.0) - s.from_s).clip(min=0)
    return np.bincount(s.arc, weights=lasting * s.bolted_ka, minlength=len(ended.sign))


@dataclass(kw_only=True)
class _Stretches:
    """Parts of the way of some arcs: from ``a`` to ``b``, what opened at either end, what the arc is worth there."""

    arc: np.ndarray
    a: np.ndarray
    b: np.ndarray
    sign_a: np.ndarray
    sign_b: np.ndarray
    worth_a: np.ndarray
    worth_b: np.ndarray
    #: how much the worth changes over this stretch and those it was cut off from
    spread: np.ndarray

    def only(self, which: np.ndarray) -> _Stretches:
        return _Stretches(**{f.name: getattr(self, f.name)[which] for f in fields(self)})

    def cut(self, at: list[np.ndarray], signs: list[np.ndarray], worths: list[np.ndarray]) -> _Stretches:
        """The stretches between points inside them."""
        columns = [[self.a, *at, self.b], [self.sign_a, *signs, self.sign_b], [self.worth_a, *worths, self.worth_b]]
        halves = [(np.concatenate(c[:-1]), np.concatenate(c[1:])) for c in columns]
        (a, b), (sign_a, sign_b), (worth_a, worth_b) = halves
        seen = np.stack(columns[2])
        spread = np.tile(seen.max(axis=0) - seen.min(axis=0), len(at) + 1)
        return _Stretches(
            arc=np.tile(self.arc, len(at) + 1), a=a, b=b, sign_a=sign_a, sign_b=sign_b, worth_a=worth_a,
            worth_b=worth_b, spread=spread,
        )  # fmt: skip
