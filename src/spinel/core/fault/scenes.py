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

from spinel.core.fault.grid import Grid
from spinel.core.fault.impedance import UNKNOWN_PU, split
from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Case, Element, Network
from spinel.core.network.kinds import STAND_BY, SWITCHING
from spinel.core.parts import parts
from spinel.core.said import Sayable, joined, say

STEP = say("scenes-just-past-a-step-of-a-device")
#: Moments of a generator's decay, in seconds, at which its reactance is taken anew.
MOMENTS_S = (0.15, 0.5, 1.5)


@dataclass(frozen=True)
class Path:
    """From the first corner to corner ``low``: by what the impedance of each source grows on the way, and its name."""

    low: int
    ratio: Mapping[str, complex]
    name: Sayable


@dataclass(frozen=True, kw_only=True)
class Family:
    """``after``: the family that holds until ``after_s`` seconds into a fault; this one is of what lasts longer there.
    ``only``: nodes that it speaks of (None: all). ``lost``: tags of generators whose current nobody knows by now.
    ``unknown``: node to why nothing can be said there. ``document``: is it of a case of the document?"""

    case: Sayable
    corners: tuple[Circuit, ...]
    paths: tuple[Path, ...] = ()
    after: int | None = None
    after_s: float = 0.0
    only: frozenset[str] | None = None
    lost: tuple[str, ...] = ()
    unknown: Mapping[str, Sayable] = field(default_factory=dict)
    document: bool = True


def families(network: Network, present: Circuit | None, grid: Grid) -> tuple[Family, ...]:
    """Every family of the document, or, where that is given, of the field as it stands."""
    found: list[Family] = []
    if present is not None:
        found += _of_case(network, present, None, 0, grid)
        if present.uncertain:
            # what nobody knows the position of counts as closed, and as open
            opened = {i: () if i in present.uncertain else pairs for i, pairs in present.closed.items()}
            other = replace(present, name=say("scenes-unknown-positions-open", name=present.name), closed=opened)
            found += _of_case(network, other, None, len(found), grid)
        return tuple(found)
    bases = [(in_case(network, case), case) for case in network.cases]
    for base, case in bases:
        found += _of_case(network, base, case, len(found), grid)
    for circuit, only in _closed_ways(network, [b for b, _ in bases], grid):
        found += _of_case(network, circuit, None, len(found), grid, only)
    return tuple(found)


def _of_case(
    network: Network, base: Circuit, case: Case | None, first: int, grid: Grid, only: frozenset[str] | None = None
) -> Iterator[Family]:
    document = case is not None
    for circuit in _ups_states(network, base, case):
        corners, paths = _strengths(network, circuit, case)
        family = Family(
            case=circuit.case,
            corners=corners,
            paths=paths,
            only=only,
            document=document,
            unknown=_unknown_ups(network, circuit, grid),
        )
        yield family
        own = first
        first += 1
        for moment in _decay(network, circuit, case):
            last = own if moment.steps == 1 else first - 1
            late = replace(circuit, name=joined(circuit.name, moment.words, between=", "), reactance=moment.reactance)
            corners, paths = _strengths(network, late, case)
            yield replace(
                family,
                corners=corners,
                paths=paths,
                after=last,
                after_s=moment.after_s,
                lost=moment.lost,
                only=_around(network, grid, circuit, moment.reactance, only),
            )
            first += 1


# Strengths ---------------------------------------------------------------------------------------------------


def _strengths(network: Network, base: Circuit, case: Case | None) -> tuple[tuple[Circuit, ...], tuple[Path, ...]]:
    """Corners, the strongest first, and the paths from it. What a case pins stays as it pins it."""
    said = case.sources if case else {}
    sources = [e for e in network.elements if e.kind == "source"]
    free = [e for e in sources if "strength" not in said.get(e.tag, {})]
    if sources and not free:
        return (replace(base, name=say("scenes-supply-as-the-case-sets-it", name=base.name)),), ()
    level = case.impedances if case else ""
    strong_level, weak_level = level or "maximum", level or "minimum"
    whom = free[0].tag if len(free) == 1 else say("scenes-every-source") if free else ""
    fixed = frozenset(base.weak - {e.id for e in free})
    kinds = {
        "maximum": say("scenes-cold-conductors"),
        "minimum": say("scenes-hot-conductors"),
        "nominal": say("scenes-nominal-impedances"),
    }
    strong = replace(
        base,
        name=_named(base, whom and say("scenes-at-its-strongest", whom=whom), level, kinds[strong_level], bool(free)),
        weak=fixed,
        level=strong_level,
    )
    weak = replace(
        base,
        name=_named(base, whom and say("scenes-at-its-weakest", whom=whom), level, kinds[weak_level], bool(free)),
        weak=fixed | {e.id for e in free},
        level=weak_level,
    )
    if not free and level:
        return (strong,), ()
    ratios = {e.id: _ratio(e) for e in free}
    between = say(
        "scenes-between-and",
        whom=whom or say("scenes-conductors"),
        strongest=say("scenes-strongest") if free else say("scenes-cold"),
        weakest=say("scenes-weakest") if free else say("scenes-hot"),
        step=STEP,
    )
    corners, paths = [strong, weak], [Path(1, ratios, _named(base, between, level, between, True))]
    for e in free if len(free) > 1 else ():
        name = _named(base, say("scenes-the-others", tag=e.tag), level, "", True)
        corners.append(replace(weak, name=name, weak=fixed | {e.id}))
        name = _named(
            base,
            say("scenes-between-and-the-others", tag=e.tag, step=STEP),
            level,
            "",
            True,
        )
        paths.append(Path(len(corners) - 1, {e.id: ratios[e.id]}, name))
    return tuple(corners), tuple(paths)


def _named(base: Circuit, strength: Sayable, pinned: str, temperature: Sayable, free: bool) -> Sayable:
    words = [base.name, strength if free else temperature]
    if pinned:
        words.append(say("scenes-impedances-as-the-case-sets-them", pinned=pinned))
    return joined(*words, between=", ")


def _ratio(e: Element) -> complex:
    strong = split(100 / (e.fault_mva_max or math.inf), e.x_r_max or 0)
    weak = split(100 / (e.fault_mva_min or e.fault_mva_max or math.inf), e.x_r_min or 0)
    return weak / strong


# Generators --------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Moment:
    """A moment of decay: ``steps`` after the start (1: from the first instant on)."""

    steps: int
    words: Sayable
    after_s: float
    reactance: Mapping[str, float]
    lost: tuple[str, ...]


def _decay(network: Network, circuit: Circuit, case: Case | None) -> Iterator[_Moment]:
    """The reactances of running generators as their current falls; one that a case pins stays."""
    said = case.sources if case else {}
    running = [e for e in network.elements if e.kind == "generator" and e.id in circuit.running]
    falling = [e for e in running if "reactance" not in said.get(e.tag, {})]
    if not falling:
        return
    quickest = min(e.td_subtransient_s or 0.0 for e in falling)
    lost = tuple(e.tag for e in falling if e.xd_transient_pu is None)
    yield _Moment(
        1,
        say("scenes-generators-at-their-transient-reactance"),
        quickest,
        {e.id: e.xd_transient_pu or UNKNOWN_PU for e in falling},
        lost,
    )
    if lost:
        return
    before, steps = 0.0, 2
    if all(e.td_transient_s is not None and _lasting_pu(e) is not None for e in falling):
        for moment in MOMENTS_S:
            yield _Moment(
                steps,
                say("scenes-generators-after-s", moment=moment),
                before,
                {e.id: reactance_after(e, moment) for e in falling},
                (),
            )
            before, steps = moment, steps + 1
    lost = tuple(e.tag for e in falling if _lasting_pu(e) is None)
    lasting = {e.id: _lasting_pu(e) or UNKNOWN_PU for e in falling}
    yield _Moment(steps, say("scenes-generators-at-what-they-sustain"), before, lasting, lost)
    supported = [e for e in falling if e.excitation_support_multiple]
    if supported and not lost:
        ends = min(e.excitation_support_s or 0.0 for e in supported)
        gone = tuple(e.tag for e in supported if e.xd_sync_pu is None)
        reactance = {e.id: e.xd_sync_pu or UNKNOWN_PU for e in falling}
        yield _Moment(
            steps + 1, say("scenes-generators-when-excitation-support-has-ended"), max(ends, before), reactance, gone
        )


def _lasting_pu(e: Element) -> float | None:
    """The reactance that stands for what a generator sustains: by excitation support, else synchronous."""
    if e.excitation_support_multiple:
        return max(1 / e.excitation_support_multiple, e.xd_transient_pu or 0.0)
    return e.xd_sync_pu


def reactance_after(e: Element, seconds: float) -> float:
    """The reactance that gives a generator's current some seconds into a fault at its terminals, per unit.

    I(t) = (1/X'' - 1/X') exp(-t/T''d) + (1/X' - 1/X) exp(-t/T'd) + 1/X, any textbook on machines. The subtransient part
    is left out: it is over before the first moment that is asked for, and without it the current is the smaller.
    """
    lasting, transient = _lasting_pu(e), e.xd_transient_pu
    assert lasting is not None and transient is not None and e.td_transient_s is not None
    return 1 / ((1 / transient - 1 / lasting) * math.exp(-seconds / e.td_transient_s) + 1 / lasting)


def _around(
    network: Network, grid: Grid, circuit: Circuit, machines: Mapping[str, float], only: frozenset[str] | None
) -> frozenset[str]:
    """Nodes in one piece with these machines."""
    part = _parts(grid, circuit)
    own = {part[grid.index[network.element[i].ends[0]]] for i in machines if network.element[i].ends[0] in grid.index}
    found = frozenset(n for n, i in grid.index.items() if part[i] in own)
    return found if only is None else found & only


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
