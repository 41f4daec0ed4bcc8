"""Staged clearing: the bolted fault current that is left while sources drop off one after the other.

A source that is cut off is taken out of the network as it feeds; everything else stays, so what is left is never too
small. A source that gives under ``SMALL`` of the fault is kept to the end: taking it out would lower the energy by
less than that. Devices keep the times of their first share, which the later, larger one could only shorten.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from spinel.core.protection.clearing import Clearing, Ends

SMALL = 0.005


@dataclass(frozen=True)
class Stage:
    """From one moment to another (s), what bolted current feeds the arc (kA), and the tags cut off at its end."""

    from_s: float
    until_s: float
    bolted_fault_current_ka: float
    then_off: tuple[str, ...] = ()


class Staging:
    """The stages of arcs at many nodes of one circuit (grid positions ``at``), cleared as ``ends`` says."""

    def __init__(self, clearing: Clearing, at: np.ndarray, ends: Ends, cap_s: float):
        self.clearing, self.at, self.ends = clearing, at, ends
        self.until_s = np.minimum(ends.time_s, cap_s)
        #: drop at each sustained source for each fault, and its part of the fault (magnitudes)
        self.drops = clearing.source_drops(at)
        injections = [clearing.model.injections[i] for i in clearing.sources]
        self._z = np.array([i.z_pu for i in injections], dtype=complex)
        self.worth = np.abs(self.drops / self._z[:, None]) / np.abs(clearing.model.solution.drive[at]) >= SMALL
        self._tags = [i.element.tag for i in injections]
        early = (ends.source_s > 0) & (ends.source_s < self.until_s[:, None, :])
        #: (currents, places): does it lose a source worth speaking of before its end?
        self.staged = (early & self.worth).any(axis=1)

    def stages(self, wanted: list[tuple[int, int]]) -> list[tuple[Stage, ...]]:
        """The stages of each wanted (current, place)."""
        cuts = [self._cuts(row, k) for row, k in wanted]
        asked: dict[tuple[int, ...], list[int]] = defaultdict(list)
        for (_, k), found in zip(wanted, cuts, strict=True):
            for off, _ in found:
                asked[off].append(k)
        left = {off: dict(zip(ks, self._remaining(off, np.array(ks)), strict=True)) for off, ks in asked.items()}
        return [self._named(row, k, found, left) for (row, k), found in zip(wanted, cuts, strict=True)]

    def _cuts(self, row: int, k: int) -> list[tuple[tuple[int, ...], float]]:
        """Each stage: the sources that are off during it, and when it ends."""
        times, end = self.ends.source_s[row, :, k], float(self.until_s[row, k])
        mine = np.flatnonzero(self.worth[:, k] & (times > 0) & (times < end))
        moments = sorted(set(times[mine].tolist()))
        off = [tuple(mine[times[mine] < t].tolist()) for t in (*moments, end)]
        return list(zip(off, (*moments, end), strict=True))

    def _named(
        self, row: int, k: int, cuts: list[tuple[tuple[int, ...], float]], left: dict[tuple[int, ...], dict[int, float]]
    ) -> tuple[Stage, ...]:
        found, start = [], 0.0
        for i, (off, until) in enumerate(cuts):
            after = cuts[i + 1][0] if i + 1 < len(cuts) else self._off_at_end(row, k)
            tags = tuple(self._tags[s] for s in after if s not in off)
            found.append(Stage(start, until, left[off][k], tags))
            start = until
        return tuple(found)

    def _off_at_end(self, row: int, k: int) -> tuple[int, ...]:
        times = self.ends.source_s[row, :, k]
        return tuple(np.flatnonzero(self.worth[:, k] & (times > 0) & (times <= self.until_s[row, k])).tolist())

    def _remaining(self, off: tuple[int, ...], ks: np.ndarray) -> list[float]:
        """Bolted fault current at places with some sources taken out, kA; never above the whole."""
        model, solution = self.clearing.model, self.clearing.model.solution
        at = self.at[ks]
        whole = model.bolted[at]
        if not off:
            return [float(x) for x in whole]
        which = np.array(off)
        place = solution.core_place[self.clearing.source_at[which]]
        z_kk = 1 / solution.drive[at]
        z_ks = self.drops[np.ix_(which, ks)] * z_kk
        matrix = np.diag(self._z[which]) - solution.core_z[np.ix_(place, place)]
        z = z_kk + (z_ks * np.linalg.solve(matrix, z_ks)).sum(axis=0)
        return [float(x) for x in np.minimum(model.grid.base_ka[at] / np.abs(z), whole)]
