"""The situations over which a figure is the worst: cases and the present, strengths, decay, what a UPS does, and what
is closed only when somebody closes it. docs/methods/situations.md tells the rules; model.md settles them.

A ``Family`` is one case with its sources between strongest and weakest: corners, which are circuits, and paths between
two corners, along which steps of devices are looked for.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import zip_longest

import numpy as np

from spinel.core.fault.decay import Decay, decay
from spinel.core.fault.grid import Grid
from spinel.core.fault.impedance import MAXIMUM, MINIMUM, split
from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Case, Element, Network
from spinel.core.network.kinds import STAND_BY, SWITCHING
from spinel.core.parts import parts
from spinel.core.said import Sayable, joined, say

STEP = say("scenes-just-past-a-step-of-a-device")


@dataclass(frozen=True)
class Path:
    """From corner ``high`` to corner ``low``: by what the impedance of each source grows on the way, and its name."""

    high: int
    low: int
    ratio: Mapping[str, complex]
    name: Sayable


@dataclass(frozen=True, kw_only=True)
class Family:
    """``decay``: how what feeds dies away. ``only``: nodes that it speaks of (None: all). ``unknown``: node to why
    nothing can be said there. ``document``: is it of a case of the document?"""

    case: Sayable
    corners: tuple[Circuit, ...]
    decay: Decay
    paths: tuple[Path, ...] = ()
    only: frozenset[str] | None = None
    unknown: Mapping[str, Sayable] = field(default_factory=dict)
    document: bool = True


def families(network: Network, present: Circuit | None, grid: Grid) -> tuple[Family, ...]:
    """Every family of the document, or, where that is given, of the field as it stands."""
    found: list[Family] = []
    if present is not None:
        found += _of_case(network, present, None, grid)
        if present.uncertain:
            # what nobody knows the position of counts as closed, and as open
            opened = {i: () if i in present.uncertain else pairs for i, pairs in present.closed.items()}
            other = replace(present, name=say("scenes-unknown-positions-open", name=present.name), closed=opened)
            found += _of_case(network, other, None, grid)
        return tuple(found)
    bases = [(in_case(network, case), case) for case in network.cases]
    for base, case in bases:
        found += _of_case(network, base, case, grid)
    for circuit, only in _closed_ways(network, [b for b, _ in bases], grid):
        found += _of_case(network, circuit, None, grid, only)
    return tuple(found)


def _of_case(
    network: Network, base: Circuit, case: Case | None, grid: Grid, only: frozenset[str] | None = None
) -> Iterator[Family]:
    for circuit in _ups_states(network, base, case):
        corners, paths = _strengths(network, circuit, case)
        yield Family(
            case=circuit.case, corners=corners, paths=paths, decay=decay(network, circuit, case), only=only,
            document=case is not None, unknown=_unknown_ups(network, circuit, grid),
        )  # fmt: skip


# Strengths ---------------------------------------------------------------------------------------------------


def _strengths(network: Network, base: Circuit, case: Case | None) -> tuple[tuple[Circuit, ...], tuple[Path, ...]]:
    """Corners, the strongest with cold conductors first, and paths between them. What a case pins stays as it pins it.

    Strength and temperature are free of each other: over a tie, a strong source with hot conductors may be the worse.
    A path leads from the strongest to where the current is that of the weakest with hot conductors; the cold one so
    meets every current that lies between.
    """
    said = case.sources if case else {}
    sources = [e for e in network.elements if e.kind == "source"]
    free = [e for e in sources if "strength" not in said.get(e.tag, {})]
    pinned = (case.impedances if case else "") or ""
    make = _Corners(base, pinned, frozenset(e.id for e in free), bool(sources) and not free)
    levels = [pinned] if pinned else [MAXIMUM, MINIMUM]
    whom: Sayable = free[0].tag if len(free) == 1 else say("scenes-every-source") if free else ""
    ratios = {e.id: _ratio(e) for e in free}
    if not free:
        corners = [make.corner("", frozenset(), level) for level in levels]
        name = make.named(say("scenes-between-and", whom=say("scenes-conductors"), strongest=say("scenes-cold"),
                              weakest=say("scenes-hot"), step=STEP))  # fmt: skip
        return tuple(corners), tuple(Path(0, 1, {}, name) for _ in corners[1:])
    strong, weak = say("scenes-at-its-strongest", whom=whom), say("scenes-at-its-weakest", whom=whom)
    every = frozenset(ratios)
    corners = [make.corner(strong, frozenset(), levels[0]), make.corner(weak, every, levels[-1])]
    corners += [make.corner(strong, frozenset(), MINIMUM, True), make.corner(weak, every, MAXIMUM, True)] * (not pinned)
    between = say("scenes-between-and", whom=whom, strongest=say("scenes-strongest"), weakest=say("scenes-weakest"),
                  step=STEP)  # fmt: skip
    starts = [0] if pinned else [0, 2]
    paths = [Path(high, 1, ratios, make.named(between, MINIMUM if high else "")) for high in starts]
    for e in free if len(free) > 1 else ():
        name = say("scenes-the-others", tag=e.tag)
        low = len(corners)
        corners.append(make.corner(name, frozenset({e.id}), levels[-1]))
        if not pinned:
            corners.append(make.corner(name, frozenset({e.id}), MAXIMUM, True))
        way = say("scenes-between-and-the-others", tag=e.tag, step=STEP)
        paths += [Path(high, low, {e.id: ratios[e.id]}, make.named(way, MINIMUM if high else "")) for high in starts]
    return tuple(corners), tuple(paths)


@dataclass(frozen=True)
class _Corners:
    """Makes the corners of a case. ``set``: are there sources, and the strengths of all of them pinned?"""

    base: Circuit
    pinned: str
    free: frozenset[str]
    set: bool

    def corner(self, words: Sayable, weak: frozenset[str], level: str, warm: bool = False) -> Circuit:
        """``warm``: say the conductors too, for they are not as is usual with that strength."""
        name = self.named(words, level if warm or not words else "")
        return replace(self.base, name=name, weak=(self.base.weak - self.free) | weak, level=level)

    def named(self, words: Sayable, level: str = "") -> Sayable:
        kinds: dict[str, Sayable] = {
            "": "",
            MAXIMUM: say("scenes-cold-conductors"),
            MINIMUM: say("scenes-hot-conductors"),
            "nominal": say("scenes-nominal-impedances"),
        }
        base = say("scenes-supply-as-the-case-sets-it", name=self.base.name) if self.set else self.base.name
        if self.pinned:
            pinned = say("scenes-impedances-as-the-case-sets-them", pinned=self.pinned)
            return joined(*(w for w in (base, words, pinned) if w), between=", ")
        return joined(*(w for w in (base, words, kinds[level]) if w), between=", ")


def _ratio(e: Element) -> complex:
    strong = split(100 / (e.fault_mva_max or math.inf), e.x_r_max or 0)
    weak = split(100 / (e.fault_mva_min or e.fault_mva_max or math.inf), e.x_r_min or 0)
    return weak / strong


# UPS ---------------------------------------------------------------------------------------------------------


def _ups_states(network: Network, base: Circuit, case: Case | None) -> Iterator[Circuit]:
    """What each UPS does: as the case says, and where it says nothing both on its inverter and on its bypass."""
    said = case.sources if case else {}
    free = {e.id for e in network.elements if e.kind == "ups" and "state" not in said.get(e.tag, {})}
    if not free:
        yield base
        return
    tags = ", ".join(network.element[i].tag for i in sorted(free))
    for words, bypass in (("inverter", base.bypass - free), ("bypass", base.bypass | free)):
        yield replace(base, name=say("scenes-on", name=base.name, tags=tags, words=words), bypass=bypass)


def _unknown_ups(network: Network, circuit: Circuit, grid: Grid) -> dict[str, Sayable]:
    """Nodes behind a UPS on its inverter of which nobody recorded what that can deliver."""
    lacking = [
        e
        for e in network.elements
        if e.kind == "ups"
        and e.id not in circuit.bypass
        and e.ends[-1] in grid.index
        and not (e.rated_kva and e.fault_multiple)
    ]
    if not lacking:
        return {}
    part = _parts(grid, circuit)
    found: dict[str, Sayable] = {}
    for e in lacking:
        why = say("scenes-what-delivers-to-a-fault-on-its", tag=e.tag)
        found |= {n: why for n, i in grid.index.items() if part[i] == part[grid.index[e.ends[-1]]]}
    return found


# What no case feeds ------------------------------------------------------------------------------------------


def _parts(grid: Grid, circuit: Circuit) -> np.ndarray:
    closed = np.flatnonzero(grid.closed(circuit))
    return parts(len(grid.names), grid.a[closed], grid.b[closed])


def fed_nodes(network: Network, grid: Grid, circuit: Circuit) -> np.ndarray:
    """Which nodes of the grid something that lasts feeds in a circuit."""
    part = _parts(grid, circuit)
    lasting = [e for e in grid.feeders if e.kind != "motor" and _feeds(e, circuit)]
    ends = [n for e in lasting for n in (e.ends[-1:] if e.kind == "ups" else e.ends) if n in grid.index]
    fed = np.zeros(int(part.max(initial=0)) + 1, dtype=bool)
    fed[[part[grid.index[n]] for n in ends]] = True
    given: np.ndarray = fed[part]
    return given


def _feeds(e: Element, circuit: Circuit) -> bool:
    return e.kind == "source" or (e.id in circuit.running and (e.kind != "ups" or e.id not in circuit.bypass))


def _closed_ways(network: Network, bases: Sequence[Circuit], grid: Grid) -> Iterator[tuple[Circuit, frozenset[str]]]:
    """Circuits in which what no case feeds is fed: by each open device around it in turn, with all inside closed."""
    fed = [fed_nodes(network, grid, c) for c in bases]
    dead = ~np.logical_or.reduce(fed) if fed else np.zeros(0, dtype=bool)
    for base, live in zip(bases, fed, strict=True):
        pockets = _pockets(network, grid, base, live, dead)
        for turn in zip_longest(*[p.ways for p in pockets]):
            chosen = [(p, way) for p, way in zip(pockets, turn, strict=True) if way is not None]
            closed, running, tags = dict(base.closed), set(base.running), []
            for pocket, (e, pairs) in chosen:
                for inner in pocket.inside:
                    closed[inner.id] = inner.pairs
                if e.kind in SWITCHING:
                    closed[e.id] = pairs
                    tags.append(say("scenes-closed", tag=e.tag))
                else:
                    running.add(e.id)
                    tags.append(say("scenes-running", tag=e.tag))
            only = frozenset(n for p, _ in chosen for n in p.nodes)
            words = joined(*tags, between=", ") if len(tags) <= 3 else say("scenes-what-is-open-on-the-way-closed")
            name = say("scenes-though-no-case-feeds-it", name=base.name, words=words)
            yield replace(base, name=name, case=name, closed=closed, running=frozenset(running)), only
        for p in pockets:
            if p.ways:
                dead = dead & ~np.isin(np.arange(len(dead)), [grid.index[n] for n in p.nodes])


@dataclass(frozen=True)
class _Pocket:
    """Nodes without a feed that hang together, the switches inside, and the ways in: a device or a stopped source."""

    nodes: tuple[str, ...]
    inside: tuple[Element, ...]
    ways: tuple[tuple[Element, tuple[tuple[str, str], ...]], ...]


def _pockets(network: Network, grid: Grid, base: Circuit, live: np.ndarray, dead: np.ndarray) -> list[_Pocket]:
    inner = dead[grid.a] & dead[grid.b]
    edges = np.flatnonzero(inner)
    part = parts(len(grid.names), grid.a[edges], grid.b[edges])
    names: dict[int, list[str]] = {}
    for i in np.flatnonzero(dead):
        names.setdefault(int(part[i]), []).append(grid.names[i])
    inside: dict[int, dict[str, Element]] = {}
    ways: dict[int, list[tuple[Element, tuple[tuple[str, str], ...]]]] = {}
    for j, e in enumerate(grid.elements):
        if e.kind not in SWITCHING:
            continue
        a, b = int(grid.a[j]), int(grid.b[j])
        if inner[j]:
            inside.setdefault(int(part[a]), {})[e.id] = e
        elif (dead[a] and live[b]) or (dead[b] and live[a]):
            pair = (grid.names[a], grid.names[b])
            ways.setdefault(int(part[a if dead[a] else b]), []).append((e, (pair,)))
    for e in grid.feeders:
        ends = [grid.index[n] for n in e.ends if n in grid.index]
        may = e.row.supplies == STAND_BY and e.id not in base.running
        if may and ends and dead[ends[0]]:
            ways.setdefault(int(part[ends[0]]), []).append((e, ()))
    return [_Pocket(tuple(n), tuple(inside.get(i, {}).values()), tuple(ways.get(i, ()))) for i, n in names.items()]
