"""Staged clearing: the bolted fault current that is left while sources drop off one after the other.

A source that is cut off is taken out of the network as it feeds; everything else stays, so what is left is never too
small. A source that gives under ``SMALL`` of the fault is kept to the end: taking it out would lower the energy by
less than that. Devices keep the times of their first share, which the later, larger one could only shorten.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from spinel.core.protection.clearing import Clearing

SMALL = 0.005


@dataclass(frozen=True)
class Stage:
    """From one moment to another (s), what bolted current feeds the arc (kA), and the tags cut off at its end."""

    from_s: float
    until_s: float
    bolted_fault_current_ka: float
    then_off: tuple[str, ...] = ()


def has_stages(clearing: Clearing, at: np.ndarray, source_s: np.ndarray, ends: np.ndarray) -> np.ndarray:
    """Which places lose a source worth speaking of before the end: (currents, places)."""
    early = (source_s > 0) & (source_s < ends[:, None, :])
    some = early.any(axis=(0, 1))
    found = np.zeros(ends.shape, dtype=bool)
    for column in np.flatnonzero(some):
        worth = contributions(clearing, int(at[column])) >= SMALL
        found[:, column] = (early[:, :, column] & worth).any(axis=1)
    return found


def contributions(clearing: Clearing, at: int) -> np.ndarray:
    """Each sustained source's part of the bolted fault current at a node, as a fraction (magnitudes)."""
    solution = clearing.model.solution
    return np.abs(_drops(clearing, at) * _admittances(clearing)) / abs(solution.drive[at])


def stages(clearing: Clearing, at: int, source_s: np.ndarray, end_s: float) -> tuple[Stage, ...]:
    """The stages of an arc at a node until ``end_s``; ``source_s``: when each sustained source is cut off."""
    model = clearing.model
    worth = contributions(clearing, at) >= SMALL
    times = sorted({float(t) for t, w in zip(source_s, worth, strict=True) if w and 0 < t < end_s})
    found, start, off = [], 0.0, np.zeros(len(source_s), dtype=bool)
    for until in [*times, end_s]:
        left = remaining_ka(clearing, at, np.flatnonzero(off))
        # what is cut off now; sources that reach the place only, each once
        now = worth & (source_s <= until) & (source_s > 0) & ~off
        tags = tuple(model.injections[clearing.sources[i]].element.tag for i in np.flatnonzero(now))
        found.append(Stage(start, until, left, tags))
        start, off = until, off | now
    return tuple(found)


def remaining_ka(clearing: Clearing, at: int, off: np.ndarray) -> float:
    """Bolted fault current at a node with some sustained sources taken out, kA; never above the whole."""
    model, solution = clearing.model, clearing.model.solution
    whole = float(model.bolted[at])
    if not len(off):
        return whole
    place = solution.core_place[clearing.source_at[off]]
    z_kk = 1 / solution.drive[at]
    z_ks = _drops(clearing, at)[off] * z_kk
    behind = np.diag(1 / _admittances(clearing)[off])
    z = z_kk + z_ks @ np.linalg.solve(behind - solution.core_z[np.ix_(place, place)], z_ks)
    return min(float(model.grid.base_ka[at] / abs(z)), whole)


def _drops(clearing: Clearing, at: int) -> np.ndarray:
    """Drop at each sustained source for a fault at a node."""
    solution = clearing.model.solution
    _, at_root = solution.climb(np.array([at]))
    root = solution.core_place[solution.root[at]]
    place = solution.core_place[clearing.source_at]
    return solution.core_z[place, root] / solution.core_z[root, root] * at_root[0]


def _admittances(clearing: Clearing) -> np.ndarray:
    return 1 / np.array([clearing.model.injections[i].z_pu for i in clearing.sources], dtype=complex)
