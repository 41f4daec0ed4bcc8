"""Arc-flash figures of places in all situations of a study, as arrays: bolted to arcing current, clearing, energy.

Any one of them with all that made it is in ``explained``. Columns are the corners of each family of situations and
the ways between them. Where no method covers it the reason is kept, never another method silently.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash.between import ArcsAt, Way, steps_between
from spinel.core.arcflash.places import Place, Places
from spinel.core.errors import InputError
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.scenes import Family
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Network
from spinel.core.protection.opening import Ended, Opening
from spinel.core.protection.trusted import Trusted
from spinel.core.said import Sayable, say

CURRENTS = ("full", "reduced")


@dataclass(frozen=True)
class Column:
    """A corner of a family (``path`` None) or a way between two of its corners."""

    family: int
    circuit: Circuit
    path: int | None = None


@dataclass(frozen=True)
class At:
    """A value of an array of figures and where it stands."""

    value: float
    column: int
    row: int
    place: int


class Figures:
    """Figures of places. Arrays are (columns, currents, places), NaN where there is no figure.

    ``setting``: of each place, at which of several settings a device is tried there (Trusted.with_settings).
    ``why``: (column, place) to the reason; a place that nothing sustained feeds there is in neither.
    """

    def __init__(
        self, network: Network, trusted: Trusted, cap_s: float, places: Sequence[Place],
        setting: np.ndarray | None = None,
    ):  # fmt: skip
        self.network, self.trusted, self.cap_s, self.places = network, trusted, cap_s, places
        self.of = Places(network, trusted.grid, places, setting)
        self.families: Sequence[Family] = trusted.families
        self.columns: list[Column] = []
        self.first: list[int] = []
        for f, family in enumerate(self.families):
            self.first.append(len(self.columns))
            self.columns += [Column(f, c) for c in family.corners]
            self.columns += [Column(f, family.corners[path.high], p) for p, path in enumerate(family.paths)]
        shape = (len(self.columns), len(CURRENTS), len(places))
        self.energy_j_cm2, self.boundary_mm = np.full(shape, np.nan), np.full(shape, np.nan)
        self.duration_s, self.arcing_ka = np.full(shape, np.nan), np.full(shape, np.nan)
        self.bolted_ka = np.full(shape, np.nan)
        self.capped = np.zeros(shape, dtype=bool)
        #: branch of the grid that ends the arc, -1 nothing, -2 - n the source n of the model
        self.by = np.full(shape, -1, dtype=np.intp)
        #: where on its way the figure of a path stands, for the energy and for the boundary
        self.at, self.at_boundary = np.full(shape, np.nan), np.full(shape, np.nan)
        self.why: dict[tuple[int, int], Sayable] = {}
        self.seen = np.zeros((len(self.columns), len(places)), dtype=bool)
        #: steps between strongest and weakest that were found and evaluated
        self.steps = 0
        self._openings: dict[int, Opening] = {}
        #: what ``explained`` has worked out
        self.explained: dict[tuple[int, int, int, bool, float | None], Any] = {}
        self._run()

    # Many at once ----------------------------------------------------------------------------------------

    def _run(self) -> None:
        for f, family in enumerate(self.families):
            asked = np.ones(len(self.places), dtype=bool)
            if family.only is not None:
                asked = np.array([p.node_id in family.only for p in self.places], dtype=bool)
            if asked.any():
                self._family(f, family, asked)
                self.trusted.stacks(f).forget()

    def _family(self, f: int, family: Family, asked: np.ndarray) -> None:
        """A case: its corners, and the ways between them."""
        at = np.full((len(family.corners), 2, len(self.places)), -1, dtype=np.intp)
        each = [self._asked_of(f, n, family, asked) for n in range(len(family.corners))]
        corner = np.concatenate([np.full(2 * len(k), n) for n, k in enumerate(each)])
        k = np.concatenate([np.tile(w, 2) for w in each])
        row = np.concatenate([np.repeat([0, 1], len(w)) for w in each])
        if not len(k):
            return
        found = self.opening(f).follow(corner, k, row, None)
        self._keep(self.first[f] + corner, k, row, found, None, np.zeros(len(k)))
        at[corner, row, k] = np.arange(len(k))
        ended = ArcsAt.of(found)
        for high in dict.fromkeys(p.high for p in family.paths):
            self._between(f, family, high, at, ended)

    def _asked_of(self, f: int, n: int, family: Family, asked: np.ndarray) -> np.ndarray:
        """Places whose arcs are followed in a corner; why there is no figure for others that it feeds."""
        c, model = self.first[f] + n, self.trusted.model(f, n)
        for i in np.flatnonzero(asked & ~self.of.free):
            if self._speaks(model, int(i)):
                self.why[c, int(i)] = self.of.never[i] or ""
        which = self._in_range(c, f, n, model, np.flatnonzero(asked & self.of.free), family)
        self.seen[c, which] = True
        return which

    def _between(self, f: int, family: Family, high: int, at: np.ndarray, ended: ArcsAt) -> None:
        """The worst on the ways from one corner to others."""
        paths = [n for n, p in enumerate(family.paths) if p.high == high]
        low = np.array([family.paths[n].low for n in paths])
        p, row, k = np.nonzero((at[high][None] >= 0) & (at[low] >= 0))
        if not len(k):
            return
        both = ended.only(at[high][row, k]), ended.only(at[low[p], row, k])
        opening, way = self.opening(f), Way(self.trusted.stacks(f), [family.paths[n] for n in paths])
        tried, steps = steps_between(way, opening, p, k, row, both)
        self.steps += steps
        column = self.first[f] + len(family.corners) + np.array(paths)
        for t in tried:
            self._keep(column[t.p], t.k, t.row, t.ended, way, t.at)

    def way(self, f: int, path: int) -> Way:
        return Way(self.trusted.stacks(f), [self.families[f].paths[path]])

    def _keep(
        self, c: np.ndarray, k: np.ndarray, row: np.ndarray, ended: Ended, way: Way | None, at: np.ndarray
    ) -> None:  # fmt: skip
        """Energies of arcs into the arrays, where they are the worst yet, or why there is none."""
        late = ~(ended.time_s <= self.cap_s)
        escape = self.of.escape[k]
        for i in np.flatnonzero(late & ~escape).tolist():
            if (int(c[i]), int(k[i])) not in self.why:
                self.why[int(c[i]), int(k[i])] = self._too_slow(int(c[i]), int(i), ended)
        good = np.flatnonzero(~late | escape)
        if not len(good):
            return
        energy, boundary, bolted, arcing = self._energies(k, row, ended, good)
        by = ended.by[good]
        model = self.trusted.model(self.columns[c[0]].family, 0)
        if len(model.branches):
            by = np.where(by >= 0, model.branches[np.maximum(by, 0)], by)
        duration = np.minimum(ended.time_s[good], self.cap_s)
        columns = (energy, at[good], duration, late[good], by, bolted, arcing)
        kept = (self.energy_j_cm2, self.at, self.duration_s, self.capped, self.by, self.bolted_ka, self.arcing_ka)
        of = c[good]
        _worst_into(self.energy_j_cm2, of, row[good], k[good], energy, list(zip(kept, columns, strict=True)))
        widest = [(self.boundary_mm, boundary), (self.at_boundary, at[good])]
        _worst_into(self.boundary_mm, of, row[good], k[good], boundary, widest)

    def _energies(
        self, k: np.ndarray, row: np.ndarray, ended: Ended, good: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """Energy, boundary, first bolted and arcing current of the arcs ``good``, over all their stages."""
        s = ended.stages
        place = np.full(len(k), -1, dtype=np.intp)
        place[good] = np.arange(len(good))
        until = np.minimum(s.until_s, self.cap_s)
        used = self.of.used(k[s.arc], s.bolted_ka)
        keep = np.flatnonzero((place[s.arc] >= 0) & (until > s.from_s))
        of, own = s.arc[keep], place[s.arc[keep]]
        ms = (until[keep] - s.from_s[keep]) * 1000
        prepared = self.of.prepared
        joule, sums, current = np.zeros(len(good)), np.zeros((3, len(good))), np.full(len(good), np.nan)
        energy, between, arcing = prepared.energy(k[of], row[of], used[keep], ms)
        np.add.at(joule, own, energy)
        for total, part in zip(sums, between, strict=True):
            np.add.at(total, own, part)
        first = s.from_s[keep] == 0
        current[own[first]] = arcing[first]
        boundary = prepared.boundary_mm(k[good], sums)
        bolted = np.full(len(good), np.nan)
        start = np.flatnonzero((s.from_s == 0) & (place[s.arc] >= 0))
        bolted[place[s.arc[start]]] = s.bolted_ka[start]
        return joule, boundary, bolted, current

    def opening(self, f: int) -> Opening:
        """Arcs of these places in a family."""
        if f not in self._openings:
            self._openings[f] = self.trusted.opening(f, self.of.sites, self.of.prepared)
        return self._openings[f]

    # Places ----------------------------------------------------------------------------------------------

    def _speaks(self, model: NodalModel, i: int) -> bool:
        """Kinds of circuit that no method covers are said always; what is wrong with a place, only where it is fed."""
        node = self.network.node[self.places[i].node_id]
        return node.current == "dc" or node.phases != 3 or model.fault_is_sustained(node.id)

    def _in_range(
        self, c: int, f: int, n: int, model: NodalModel, candidates: np.ndarray, family: Family
    ) -> np.ndarray:  # fmt: skip
        """Places that something sustained feeds with a current that the method covers; keeps the reason when not."""
        if family.unknown:
            known = np.array([self.places[i].node_id not in family.unknown for i in candidates], dtype=bool)
            for i in candidates[~known].tolist():
                name = self.columns[c].circuit.name
                self.why[c, i] = say("arcflash-figures-in-case", why=family.unknown[self.places[i].node_id], name=name)
            candidates = candidates[known]
        candidates = candidates[model.sustained[self.of.nodes[candidates]]]
        if not len(candidates):
            return candidates
        bolted = self.opening(f).bolted_ka(n, candidates)
        good = (bolted >= self.of.least[candidates]) & (bolted <= self.of.most[candidates])
        for i, ka in zip(candidates[~good].tolist(), bolted[~good], strict=True):
            try:
                ieee.check(self.of.situations[i], float(ka))
            except InputError as error:
                self.why[c, i] = say("arcflash-figures-no-method-covers-it-case", error=error, name=model.circuit.name)
                self.seen[c, i] = True
        given: np.ndarray = candidates[good]
        return given

    # Reasons ---------------------------------------------------------------------------------------------

    def _too_slow(self, c: int, arc: int, ended: Ended) -> Sayable:
        column = self.columns[c]
        model, case = self.trusted.model(column.family, 0), column.circuit.name
        lost = self.families[column.family].decay.lost
        left = [model.injections[i].element for i in sources_of(model)[np.flatnonzero(ended.left[arc])]]
        if any(e.id in lost for e in left):
            tags = ", ".join(sorted(e.tag for e in left if e.id in lost))
            return say("arcflash-figures-how-the-current-of-falls-is-not", tags=tags, name=case)
        if math.isinf(ended.time_s[arc]):
            what = say("arcflash-figures-nothing-clears", tags=", ".join(sorted(e.tag for e in left))
                       or say("arcflash-figures-it"))  # fmt: skip
        else:
            tag = tag_of(model, int(ended.by[arc]))
            what = say(
                "arcflash-figures-nothing-clears-it-before-opens-after-s",
                tag=tag or say("arcflash-figures-a-device"),
                arc=ended.time_s[arc],
            )
        between = say("arcflash-figures-between-strongest-and-weakest") if self.columns[c].path is not None else ""
        allowed = say("arcflash-figures-and-no-clear-way-of-escape-is", cap_s=self.cap_s)
        return say("arcflash-figures-case", what=what, case=case, between=between, allowed=allowed)

    def clears(self, c: int, row: int, i: int) -> str:
        """Tag of what ends the arc. Empty when nothing does."""
        by = int(self.by[c, row, i])
        if by >= 0:
            return self.trusted.grid.elements[by].tag
        return tag_of(self.trusted.model(self.columns[c].family, 0), by)

    def case_name(self, c: int) -> Sayable:
        """How a column is called: case, strength, and for a way that it lies between."""
        column = self.columns[c]
        if column.path is None:
            return column.circuit.name
        return self.families[column.family].paths[column.path].name

    def why_not(self, which: Sequence[int]) -> Sayable:
        """Why some places together have no figure; empty when they have. The first situation speaks."""
        found = [(c, i) for i in which for c in self._lacking.get(i, ())]
        return self.why[min(found)] if found else ""

    @cached_property
    def _lacking(self) -> dict[int, list[int]]:
        """Columns in which each place has no figure."""
        found: dict[int, list[int]] = {}
        for c, i in self.why:
            found.setdefault(i, []).append(c)
        return found

    def seen_in(self, which: Sequence[int]) -> tuple[Sayable, ...]:
        """Cases that feed any of some places."""
        columns = np.flatnonzero(self.seen[:, list(which)].any(axis=1)).tolist()
        return tuple(dict.fromkeys(self.families[self.columns[c].family].case for c in columns))

    def worst(self, which: Sequence[int], of: np.ndarray) -> list[At]:
        """The few highest values at some places, highest first."""
        values = of[:, :, list(which)]
        flat = np.nan_to_num(values, nan=-1.0).ravel()
        best = [int(b) for b in np.argsort(-flat, kind="stable")[:4] if flat[b] >= 0]
        where = [tuple(int(x) for x in np.unravel_index(b, values.shape)) for b in best]
        return [At(float(flat[b]), c, row, which[i]) for b, (c, row, i) in zip(best, where, strict=True)]

    def same_point(self, c: int, row: int, i: int) -> bool:
        """On a way between corners: do energy and boundary stand at one point of it?"""
        return self.columns[c].path is None or self.at[c, row, i] == self.at_boundary[c, row, i]


def sources_of(model: NodalModel) -> np.ndarray:
    """Which injections of a model last, by the numbers that arcs know them by."""
    return np.flatnonzero(model.lasting)


def tag_of(model: NodalModel, by: int) -> str:
    """Tag of a branch of a model, or of a source counted down from -2; empty for nothing."""
    if by >= 0:
        given: str = model.grid.elements[model.branches[by]].tag
        return given
    return "" if by == -1 else model.injections[sources_of(model)[-2 - by]].element.tag


def _worst_into(
    best: np.ndarray,
    c: np.ndarray,
    row: np.ndarray,
    k: np.ndarray,
    value: np.ndarray,
    columns: Sequence[tuple[np.ndarray, np.ndarray]],
) -> None:
    """Write columns where their value is above the best yet; of several arcs of one place the highest is written."""
    order = np.argsort(value, kind="stable")
    better = order[~(best[c[order], row[order], k[order]] >= value[order])]
    for into, values in columns:
        into[c[better], row[better], k[better]] = values[better]
