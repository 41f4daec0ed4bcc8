"""The worst between two corners of a case: the strength of supply just past each step at which other devices clear.

Energy as a function of strength is smooth and has its worst at an end, as long as the same elements open in the same
order. Where the two ends of a stretch differ in that, the place of the change is halved down to, and the energy taken
on both sides of it. So a figure includes the current just below a pickup that lies inside the range of supply.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from spinel.core.fault.ladder import Core, Ladder, Ways
from spinel.core.network.scenes import Path
from spinel.core.protection.opening import Ended

#: A stretch of the way from strongest (0) to weakest (1) is cut into this many, this often: few arcs in fewer rounds.
#: What is left of it moves an energy by less than a thousandth of a percent or so.
FEW, PIECES, CUTS, PIECES_OF_MANY, CUTS_OF_MANY = 500, 4, 8, 2, 13
#: How far past a step the energy is taken, of the whole way: past any rounding, too near to matter.
PAST = 2e-6
#: Points between the ends at which arcs of several stages are tried as well.
INNER: tuple[float, ...] = ()
#: Beyond the weakest source, what stands for hotter conductors and impedances above nominal: all weaker by this factor.
BEYOND, FURTHEST = 4.0, 6.0

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
        return np.exp(self.log_ratio[None, :] * within + self.further[None, :] * beyond)

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
        for turn in range(12):
            # false position, and a plain halving every third time lest one end stays where it is
            part = at_low / np.maximum(at_low - at_high, 1e-300)
            middle = low + (high - low) * (np.clip(part, 0.02, 0.98) if turn % 3 != 2 else 0.5)
            found = self._over(core, every, ways, k, middle, weakest)
            strong = found >= 0
            low, at_low = np.where(strong, middle, low), np.where(strong, found, at_low)
            high, at_high = np.where(strong, high, middle), np.where(strong, at_high, found)
        return low

    def _over(
        self, core: Core, every: np.ndarray, ways: Ways, k: np.ndarray, t: np.ndarray, weakest: np.ndarray
    ) -> np.ndarray:  # fmt: skip
        """How far the current is above the weakest, as a logarithm."""
        seen = self.ladder.see([(core, every)], ways, k, self.strength(t))
        found: np.ndarray = np.log(np.abs(seen.drive) / weakest)
        return found


def steps_between(
    way: Way, ways: Ways, follow: Follow, k: np.ndarray, row: np.ndarray, weakest: np.ndarray, signs: np.ndarray,
    several: np.ndarray,
) -> tuple[list[Tried], int]:  # fmt: skip
    """Arcs on both sides of every change between the ends of the way, and at inner points where they have stages.

    ``weakest``: admittance at the place at the far end; ``signs`` (2, arcs): what opened at either end. Returns what
    was tried, and how many steps were found.
    """
    tried: list[Tried] = []
    where = np.flatnonzero((signs[0] != signs[1]) | several)
    if not len(where):
        return tried, 0
    _, index, back = np.unique(k[where], return_index=True, return_inverse=True)
    end = way.ends(ways, k[where][index], weakest[where][index])[back.ravel()]
    k, row, signs, several = k[where], row[where], signs[:, where], several[where]
    arc, a, b = np.arange(len(k)), np.zeros(len(k)), np.ones(len(k))
    sign_a, sign_b = signs

    def evaluate(which: np.ndarray, u: np.ndarray, keep: bool) -> np.ndarray:
        t = u * end[which]
        ended = follow(k[which], row[which], way.strength(t))
        if keep:
            tried.append(Tried(k[which], row[which], t, ended))
        return ended.sign

    pieces = [(arc, a, b, sign_a, sign_b)]
    some = np.flatnonzero(several)
    if len(some):
        points = [0.0, *INNER, 1.0]
        inner = [evaluate(some, np.full(len(some), u), True) for u in INNER]
        at = [sign_a[some], *inner, sign_b[some]]
        plain = np.flatnonzero(~several)
        pieces = [(arc[plain], a[plain], b[plain], sign_a[plain], sign_b[plain])]
        for i in range(len(points) - 1):
            ends = np.full(len(some), points[i]), np.full(len(some), points[i + 1])
            pieces.append((arc[some], *ends, at[i], at[i + 1]))
    arc, a, b, sign_a, sign_b = (np.concatenate(c) for c in zip(*pieces, strict=True))
    pieces_of, cuts = (PIECES, CUTS) if len(arc) <= FEW else (PIECES_OF_MANY, CUTS_OF_MANY)
    for _ in range(cuts):
        differ = sign_a != sign_b
        arc, a, b, sign_a, sign_b = arc[differ], a[differ], b[differ], sign_a[differ], sign_b[differ]
        if not len(arc):
            break
        inner = [a + (b - a) * n / pieces_of for n in range(1, pieces_of)]
        found = evaluate(np.tile(arc, pieces_of - 1), np.concatenate(inner), False).reshape(pieces_of - 1, len(arc))
        at, seen = [a, *inner, b], [sign_a, *found, sign_b]
        arc = np.tile(arc, pieces_of)
        a, b = np.concatenate(at[:-1]), np.concatenate(at[1:])
        sign_a, sign_b = np.concatenate(seen[:-1]), np.concatenate(seen[1:])
    differ = sign_a != sign_b
    arc, a, b = arc[differ], a[differ], b[differ]
    if len(arc):
        evaluate(arc, np.minimum(b + PAST, 1.0), True)
        evaluate(arc, np.maximum(a - PAST, 0.0), True)
    return tried, len(arc)
