"""The worst between two corners of a case: the strength of supply just past each step at which other devices clear.

Energy as a function of strength is smooth and has its worst at an end, as long as the same elements open in the same
order. Where the two ends of a stretch differ in that, the place of the change is halved down to, and the energy taken
on both sides of it. So a figure includes the current just below a pickup that lies inside the range of supply.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields

import numpy as np

from spinel.core.fault.ladder import Core, Ladder, Ways
from spinel.core.fault.scenes import Path
from spinel.core.protection.opening import Ended

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
#: How near the current comes to its weakest at the end of a way (part of it), and in how many rounds at most.
NEAR, ROUNDS = 1e-9, 60

Follow = Callable[[np.ndarray, np.ndarray, np.ndarray], Ended]


@dataclass
class Tried:
    """Arcs as they were tried: place, row, strengths, and how they ended."""

    k: np.ndarray
    row: np.ndarray
    at: np.ndarray
    ended: Ended


class Way:
    """The way from strongest to weakest for some places of a circuit, each ending at its own weakest current."""

    def __init__(self, ladder: Ladder, path: Path):
        self.ladder = ladder
        ids = [ladder.model.injections[i].element.id for i in ladder.sources]
        self.log_ratio = np.array([-np.log(complex(path.ratio.get(i, 1.0))) for i in ids])
        whole = len(path.ratio) == sum(1 for i in ladder.sources if ladder.model.injections[i].element.kind == "source")
        self.further = np.array([whole or i in path.ratio for i in ids]) * -np.log(BEYOND)

    def strength(self, t: np.ndarray) -> np.ndarray:
        """By what each source's admittance is multiplied at some points of the way: (points, sources)."""
        within, beyond = np.minimum(t, 1.0)[:, None], np.maximum(t - 1, 0.0)[:, None]
        given: np.ndarray = np.exp(self.log_ratio[None, :] * within + self.further[None, :] * beyond)
        return given

    def factors(self, t: float) -> dict[str, complex]:
        """By what each source's impedance is multiplied at a point."""
        found = 1 / self.strength(np.array([t]))[0]
        ids = [self.ladder.model.injections[i].element.id for i in self.ladder.sources]
        return {i: complex(f) for i, f in zip(ids, found, strict=True) if abs(f - 1) > 1e-12}

    def ends(self, ways: Ways, k: np.ndarray, weakest: np.ndarray) -> np.ndarray:
        """Where the current at each place has come down to its weakest (per unit)."""
        low, high = np.zeros(len(k)), np.full(len(k), FURTHEST)
        core, every = self.ladder.core(frozenset()), np.arange(len(k))
        at_low, at_high = (
            self._over(core, every, ways, k, low, weakest),
            self._over(core, every, ways, k, high, weakest),
        )
        stays = np.zeros(len(k))
        for _ in range(ROUNDS):
            # false position, where an end that stays twice counts half (Illinois), so that both close in
            part = at_low / np.maximum(at_low - at_high, 1e-300)
            middle = low + (high - low) * np.clip(part, 1e-9, 1 - 1e-9)
            found = self._over(core, every, ways, k, middle, weakest)
            strong, near = found >= 0, np.abs(found) < NEAR
            at_low, at_high = (
                np.where(strong, found, np.where(stays < 0, at_low / 2, at_low)),
                np.where(strong, np.where(stays > 0, at_high / 2, at_high), found),
            )
            low, high = np.where(strong | near, middle, low), np.where(strong & ~near, high, middle)
            stays = np.where(strong, 1, -1)
            if near.all() or (high - low).max(initial=0.0) < PAST:
                break
        return high

    def _over(
        self, core: Core, every: np.ndarray, ways: Ways, k: np.ndarray, t: np.ndarray, weakest: np.ndarray
    ) -> np.ndarray:  # fmt: skip
        """How far the current is above the weakest, as a logarithm."""
        seen = self.ladder.see([(core, every)], ways, k, self.strength(t))
        found: np.ndarray = np.log(np.abs(seen.drive) / weakest)
        return found


def steps_between(
    way: Way, ways: Ways, follow: Follow, k: np.ndarray, row: np.ndarray, weakest: np.ndarray,
    ends: tuple[Ended, Ended], at: tuple[np.ndarray, np.ndarray],
) -> tuple[list[Tried], int]:  # fmt: skip
    """Arcs on both sides of every change between the ends of the way.

    ``weakest``: admittance at the place at the far end; ``ends``: the arcs of either end, ``at``: their numbers there.
    Returns what was tried, and how many steps were found.
    """
    signs, worths = (
        [e.sign[n] for e, n in zip(ends, at, strict=True)],
        [_worth(e)[n] for e, n in zip(ends, at, strict=True)],
    )
    where = np.flatnonzero(signs[0] != signs[1])
    if not len(where):
        return [], 0
    _, index, back = np.unique(k[where], return_index=True, return_inverse=True)
    end = way.ends(ways, k[where][index], weakest[where][index])[back.ravel()]
    k, row = k[where], row[where]

    def evaluate(which: np.ndarray, u: np.ndarray) -> tuple[np.ndarray, Ended]:
        t = u * end[which]
        return t, follow(k[which], row[which], way.strength(t))

    found: list[_Stretches] = []
    sign_a, sign_b, worth_a, worth_b = (column[where] for column in (*signs, *worths))
    every, zero = np.arange(len(k)), np.zeros(len(k))
    now = _Stretches(
        arc=every,
        a=zero,
        b=zero + 1,
        sign_a=sign_a,
        sign_b=sign_b,
        worth_a=worth_a,
        worth_b=worth_b,
        spread=zero + np.inf,
    )
    pieces, cuts = (PIECES, CUTS) if len(k) <= FEW else (PIECES_OF_MANY, CUTS_OF_MANY)
    for _ in range(cuts):
        now = now.only(now.sign_a != now.sign_b)
        # where elements merely change places, energy runs on without a jump: there is nothing to come closer to
        smooth = (now.spread <= SMOOTH * now.worth_a) & (now.b - now.a <= SHORT)
        found.append(now.only(smooth))
        now = now.only(~smooth)
        if not len(now.arc):
            break
        inner = [now.a + (now.b - now.a) * n / pieces for n in range(1, pieces)]
        _, ended = evaluate(np.tile(now.arc, pieces - 1), np.concatenate(inner))
        now = now.cut(inner, np.split(ended.sign, pieces - 1), np.split(_worth(ended), pieces - 1))
    found.append(now.only(now.sign_a != now.sign_b))
    arc, a, b = (np.concatenate([getattr(f, n) for f in found]) for n in ("arc", "a", "b"))
    tried = []
    for u in (np.minimum(b + PAST, 1.0), np.maximum(a - PAST, 0.0)) if len(arc) else ():
        t, ended = evaluate(arc, u)
        tried.append(Tried(k[arc], row[arc], t, ended))
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
            arc=np.tile(self.arc, len(at) + 1),
            a=a,
            b=b,
            sign_a=sign_a,
            sign_b=sign_b,
            worth_a=worth_a,
            worth_b=worth_b,
            spread=spread,
        )
