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
from spinel.core.arcflash.between import Way, steps_between
from spinel.core.arcflash.places import Place, Places
from spinel.core.errors import InputError
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.scenes import Family
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Network
from spinel.core.protection.opening import Ended, Opening, joined
from spinel.core.protection.trusted import Trusted
from spinel.core.said import Sayable, say

CURRENTS = ("full", "reduced")
#: Arcs followed together.
BLOCK = 20_000


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
            self.columns += [Column(f, family.corners[0], p) for p in range(len(family.paths))]
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
            asked = self._considered(f, family)
            ended = [self._corner(self.first[f] + n, f, asked) for n in range(len(family.corners))]
            for p, path in enumerate(family.paths):
                self._between(self.first[f] + len(family.corners) + p, f, path.low, ended)

    def _considered(self, f: int, family: Family) -> np.ndarray:
        """Places that a family speaks of: all, or those it is confined to, where the one before it lasts too long."""
        found = np.ones(len(self.places), dtype=bool)
        if family.only is not None:
            found &= np.array([p.node_id in family.only for p in self.places], dtype=bool)
        if family.after is not None:
            before = self.families[family.after]
            first = self.first[family.after]
            columns = range(first, first + len(before.corners) + len(before.paths))
            longer = np.zeros(len(self.places), dtype=bool)
            for c in columns:
                with np.errstate(invalid="ignore"):
                    longer |= (self.duration_s[c] > family.after_s).any(axis=0)
                if self.columns[c].path is not None:
                    # of a way only the worst is kept, which need not be what lasts longest
                    longer |= ~np.isnan(self.energy_j_cm2[c]).all(axis=0)
                longer[[i for (column, i) in self.why if column == c]] = True
            found &= longer
        return found

    def _corner(self, c: int, f: int, asked: np.ndarray) -> tuple[np.ndarray, Ended] | None:
        """One corner of a family: figures of every place asked that it feeds. Arcs are rows of full, then reduced."""
        model = self.trusted.model(f, c - self.first[f])
        family = self.families[f]
        for i in np.flatnonzero(asked & ~self.of.free):
            if self._speaks(model, int(i)):
                self.why[c, int(i)] = self.of.never[i] or ""
        which = self._in_range(c, model, np.flatnonzero(asked & self.of.free), family)
        self.seen[c, which] = True
        if family.lost:
            self._nobody_knows(c, f, which, family)
            return None
        if not len(which):
            return which, joined([])
        opening = self.opening(f, c - self.first[f])
        k, row = np.tile(which, 2), np.repeat([0, 1], len(which))
        ended = self._follow(opening, k, row, None)
        self._keep(c, model, k, row, ended, None, np.zeros(len(k)))
        return which, ended

    def _between(self, c: int, f: int, low: int, ended: Sequence[tuple[np.ndarray, Ended] | None]) -> None:
        """The worst on the way from the strongest corner to another."""
        if ended[0] is None or ended[low] is None:
            return
        (which, strong), (others, weak) = ended[0], ended[low]  # type: ignore[misc]
        both, at, there = np.intersect1d(which, others, return_indices=True)
        if not len(both):
            return
        rows = np.repeat([0, 1], len(both))
        k = np.tile(both, 2)
        first, last = np.concatenate([at, at + len(which)]), np.concatenate([there, there + len(others)])
        opening, way = self.opening(f, 0), self.way(f, low)
        model, weaker = self.trusted.model(f, 0), self.trusted.model(f, low)
        node = self.of.nodes[k]
        weakest = np.minimum(np.abs(weaker.solution.drive[node]), np.abs(model.solution.drive[node]))
        tried, steps = steps_between(
            way,
            opening.ways,
            lambda k, row, s: self._follow(opening, k, row, s),
            k,
            rows,
            weakest,
            (strong, weak),
            (first, last),
        )
        self.steps += steps
        for t in tried:
            self._keep(c, model, t.k, t.row, t.ended, way, t.at)

    def way(self, f: int, low: int) -> Way:
        path = next(p for p in self.families[f].paths if p.low == low)
        return Way(self.trusted.ladder(f, 0), path)

    def _follow(self, opening: Opening, k: np.ndarray, row: np.ndarray, strength: np.ndarray | None) -> Ended:
        """In blocks, so that memory stays bounded whatever the size of the site."""
        if len(k) <= BLOCK:
            return opening.follow(k, row, strength, self.of.part)
        parts = []
        for start in range(0, len(k), BLOCK):
            some = slice(start, start + BLOCK)
            parts.append(opening.follow(k[some], row[some], None if strength is None else strength[some], self.of.part))
        return joined(parts)

    def _keep(
        self, c: int, model: NodalModel, k: np.ndarray, row: np.ndarray, ended: Ended, way: Way | None, at: np.ndarray
    ) -> None:
        """Energies of arcs into the arrays, where they are the worst yet, or why there is none."""
        late = ~(ended.time_s <= self.cap_s)
        escape = self.of.escape[k]
        for i in np.flatnonzero(late & ~escape):
            if (c, int(k[i])) not in self.why:
                self.why[c, int(k[i])] = self._too_slow(c, model, int(i), ended)
        good = np.flatnonzero(~late | escape)
        if not len(good):
            return
        energy, boundary, bolted, arcing = self._energies(k, row, ended, good)
        by = ended.by[good]
        if len(model.branches):
            by = np.where(by >= 0, model.branches[np.maximum(by, 0)], by)
        duration = np.minimum(ended.time_s[good], self.cap_s)
        columns = (energy, at[good], duration, late[good], by, bolted, arcing)
        kept = (self.energy_j_cm2, self.at, self.duration_s, self.capped, self.by, self.bolted_ka, self.arcing_ka)
        _worst_into(self.energy_j_cm2, c, row[good], k[good], energy, list(zip(kept, columns, strict=True)))
        widest = [(self.boundary_mm, boundary), (self.at_boundary, at[good])]
        _worst_into(self.boundary_mm, c, row[good], k[good], boundary, widest)

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
        sums = {v: np.zeros(len(good)) for v in ieee.MODEL_VOLTAGES}
        joule, current = np.zeros(len(good)), np.full(len(good), np.nan)
        for r in range(len(CURRENTS)):
            mine = np.flatnonzero(row[of] == r)
            if not len(mine):
                continue
            found = ieee.energy(self.of.many(k[of[mine]]), used[keep[mine]], ms[mine], reduced=r == 1)
            np.add.at(joule, own[mine], found.incident_energy_j_cm2)
            for v, values in found.intermediate_j_cm2.items():
                np.add.at(sums[v], own[mine], values)
            first = s.from_s[keep[mine]] == 0
            current[own[mine][first]] = found.arcing_current_ka[first]
        boundary = ieee.boundary_mm(self.of.many(k[good]), sums)
        bolted = np.full(len(good), np.nan)
        start = np.flatnonzero((s.from_s == 0) & (place[s.arc] >= 0))
        bolted[place[s.arc[start]]] = s.bolted_ka[start]
        return joule, boundary, bolted, current

    def _nobody_knows(self, c: int, f: int, which: np.ndarray, family: Family) -> None:
        """A generator's current has fallen to nobody knows what: two seconds at what it was, where escape is clear."""
        assert family.after is not None
        tags = ", ".join(family.lost)
        for i in which.tolist():
            if not self.of.escape[i]:
                self.why[c, i] = say(
                    "arcflash-figures-how-the-current-of-falls-is-not", tags=tags, name=self.columns[c].circuit.name
                )
        some = which[self.of.escape[which]]
        if not len(some):
            return
        model = self.trusted.model(family.after, 0)
        bolted = model.bolted[self.of.nodes[some]]
        inside = (bolted >= self.of.least[some]) & (bolted <= self.of.most[some])
        some, bolted = some[inside], bolted[inside]
        for r in range(len(CURRENTS)) if len(some) else ():
            found = ieee.energy(self.of.many(some), bolted, np.full(len(some), self.cap_s * 1000), reduced=r == 1)
            self.energy_j_cm2[c, r, some], self.boundary_mm[c, r, some] = (
                found.incident_energy_j_cm2,
                found.arc_flash_boundary_mm,
            )
            self.duration_s[c, r, some], self.capped[c, r, some] = self.cap_s, True
            self.bolted_ka[c, r, some], self.arcing_ka[c, r, some] = bolted, found.arcing_current_ka

    def opening(self, f: int, n: int) -> Opening:
        """Arcs of these places in one corner of a family."""
        key = self.first[f] + n
        if key not in self._openings:
            self._openings[key] = self.trusted.opening(f, n, self.of.sites, self.of.part)
        return self._openings[key]

    # Places ----------------------------------------------------------------------------------------------

    def _speaks(self, model: NodalModel, i: int) -> bool:
        """Kinds of circuit that no method covers are said always; what is wrong with a place, only where it is fed."""
        node = self.network.node[self.places[i].node_id]
        return node.current == "dc" or node.phases != 3 or model.fault_is_sustained(node.id)

    def _in_range(self, c: int, model: NodalModel, candidates: np.ndarray, family: Family) -> np.ndarray:
        """Places that something sustained feeds with a current that the method covers; keeps the reason when not."""
        if family.unknown:
            known = np.array([self.places[i].node_id not in family.unknown for i in candidates], dtype=bool)
            for i in candidates[~known].tolist():
                name = self.columns[c].circuit.name
                self.why[c, i] = say("arcflash-figures-in-case", why=family.unknown[self.places[i].node_id], name=name)
            candidates = candidates[known]
        at = self.of.nodes[candidates]
        sustained = model.sustained[at]
        candidates, at = candidates[sustained], at[sustained]
        if family.lost or not len(at):
            return candidates
        bolted = model.bolted[at]
        good = (bolted >= self.of.least[candidates]) & (bolted <= self.of.most[candidates])
        if family.after is not None:
            # an arc that began in the method's range and is fed with less by now: taken at its least current
            good |= bolted < self.of.least[candidates]
        for i, ka in zip(candidates[~good].tolist(), bolted[~good], strict=True):
            try:
                ieee.check(self.of.situations[i], float(ka))
            except InputError as error:
                self.why[c, i] = say("arcflash-figures-no-method-covers-it-case", error=error, name=model.circuit.name)
                self.seen[c, i] = True
        given: np.ndarray = candidates[good]
        return given

    # Reasons ---------------------------------------------------------------------------------------------

    def _too_slow(self, c: int, model: NodalModel, arc: int, ended: Ended) -> Sayable:
        case = self.columns[c].circuit.name
        if math.isinf(ended.time_s[arc]):
            ladder = self.trusted.ladder_of(model)
            tags = sorted(model.injections[ladder.sources[n]].element.tag for n in ended.left.get(arc, ()))
            what = say("arcflash-figures-nothing-clears", tags=", ".join(tags) or say("arcflash-figures-it"))
        else:
            tag = tag_of(model, int(ended.by[arc]), self.trusted)
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
        column = self.columns[c]
        n = 0 if column.path is not None else c - self.first[column.family]
        return tag_of(self.trusted.model(column.family, n), by, self.trusted)

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


def tag_of(model: NodalModel, by: int, trusted: Trusted) -> str:
    """Tag of a branch of a model, or of a source counted down from -2; empty for nothing."""
    if by >= 0:
        given: str = model.grid.elements[model.branches[by]].tag
        return given
    return "" if by == -1 else model.injections[trusted.ladder_of(model).sources[-2 - by]].element.tag


def _worst_into(
    best: np.ndarray,
    c: int,
    row: np.ndarray,
    k: np.ndarray,
    value: np.ndarray,
    columns: Sequence[tuple[np.ndarray, np.ndarray]],
) -> None:
    """Write columns where their value is above the best yet; of several arcs of one place the highest is written."""
    order = np.argsort(value, kind="stable")
    better = order[~(best[c, row[order], k[order]] >= value[order])]
    for into, values in columns:
        into[c, row[better], k[better]] = values[better]
