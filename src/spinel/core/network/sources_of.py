"""From where could it be live: every way by which energy could come to what is opened, and what would cut them.

A way goes from something that supplies, or may, through everything in whatever position, to the first node of the
target: backwards through transformers, transfer switches, converters, and from control supplies of other places. What a
way is now follows from the record; a position that nobody knows counts as closed.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import chain, pairwise
from typing import Any

import networkx as nx

from spinel.core.network.circuit import Circuit, standing
from spinel.core.network.cut import can_isolate
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.liveness import feeds, may_feed
from spinel.core.network.losing import without_supply
from spinel.core.network.now import DeviceNow
from spinel.core.network.ways import Auxiliary, everything, reach

LIVE, MAY, OPEN, BLOCKED = "live", "may", "open", "blocked"
#: So many ways of one supply are drawn, and in all, unless there are more supplies; that there are more is told.
EACH, MOST = 4, 40
#: So many paths of one end are looked through for ways that differ.
LOOKED = 50
#: A device that cannot be opened to isolate is never chosen to cut.
_NEVER = 10**9


@dataclass(frozen=True)
class SourceWay:
    """``source``: what feeds or may; ``through``: from it to the target. ``state``: live now, may feed, open at some
    device (``at``: its tag), or blocked at the source."""

    source: Element
    through: tuple[Element, ...]
    state: str
    at: str = ""


@dataclass(frozen=True)
class Cut:
    """Devices that would cut every way that can be cut, and what loses its supply by it."""

    devices: tuple[Element, ...]
    dark: tuple[Element, ...]


@dataclass(frozen=True, kw_only=True)
class SourcesOf:
    """``columns``: in which column a device stands, counted from the target. ``singles``: each alone would cut all.
    ``smallest``: fewest devices, that keep most else on. ``inside``: what feeds with nothing between that isolates it.
    ``unrecorded``: auxiliary supplies of which nothing is recorded that cuts them. ``more``: ways not drawn."""

    ways: tuple[SourceWay, ...]
    columns: Mapping[str, int]
    singles: tuple[Element, ...]
    smallest: Cut | None
    inside: tuple[Element, ...]
    unrecorded: tuple[Auxiliary, ...]
    more: bool


def sources_of(
    network: Network, circuit: Circuit, now: Field, element: Element, target: Sequence[str],
    supplies: Sequence[Auxiliary], unfit: Mapping[str, object],
) -> SourcesOf:  # fmt: skip
    """``target``: nodes that are opened; ``supplies``: the auxiliary supplies there. ``unfit``: devices that may not be
    used to isolate, by id."""
    graph = _graph(network, target, supplies)
    suppliers = [e for e in network.may_supply if e.id != element.id or e.row.supplies]
    ways, more = _ways(network, graph, circuit, now, suppliers)

    def usable(e: Element) -> bool:
        return can_isolate(e) and e.id not in unfit and e.id != element.id

    starts = [*target, *(a.isolator.ends[-1] for a in supplies if a.isolator is not None)]
    near = reach(network, target, lambda e: () if usable(e) else everything(e))
    inside = tuple(
        s for s in suppliers if s.id != element.id and any(end in near for end in s.ends) and not _at_far(s, near)
    )
    left = [s for s in suppliers if s not in inside]
    return SourcesOf(
        ways=tuple(ways), columns=_columns(ways),
        singles=_singles(network, starts, left, (e for e in network.elements if usable(e))),
        smallest=_smallest(network, now, graph, left, usable_ids={e.id for e in network.elements if usable(e)}),
        inside=inside, unrecorded=tuple(a for a in supplies if a.isolator is None), more=more,
    )  # fmt: skip


def _at_far(s: Element, near: Mapping[str, object]) -> bool:
    """A UPS feeds at its output alone."""
    return s.row.converts and s.row.supplies != "" and s.ends[-1] not in near


_TARGET = "target"


def _graph(network: Network, target: Sequence[str], supplies: Sequence[Auxiliary]) -> nx.DiGraph[Any]:
    """Nodes, and a vertex for every pair that an element could join. Nothing leads on from the target: a way ends where
    it comes to it first."""
    graph: nx.DiGraph[Any] = nx.DiGraph()
    there = set(target)
    for e in network.elements:
        for i, (a, b) in enumerate(e.pairs):
            vertex = (e.id, i)
            for one, other in ((a, b), (b, a)):
                if one not in there:
                    graph.add_edge(one, vertex)
                    graph.add_edge(vertex, other)
    for n in target:
        graph.add_edge(n, _TARGET)
    for s in supplies:
        if s.isolator is not None:
            graph.add_edge(s.isolator.ends[-1], _TARGET)
    return graph


def _ways(
    network: Network, graph: nx.DiGraph[Any], circuit: Circuit, now: Field, suppliers: Iterable[Element]
) -> tuple[list[SourceWay], bool]:
    """Of each supply the shortest way that is not known to be open, then the shortest of the others: what is live never
    hides behind shorter ways that are open. Ways over nodes of the target itself end at the first of them."""
    closed = graph.copy()
    closed.remove_nodes_from([v for v in graph if isinstance(v, tuple) and _apart(network, now, v)])
    found: list[SourceWay] = []
    more = False
    for s in suppliers:
        ends = s.ends[-1:] if s.row.converts and s.row.supplies else s.ends
        own: list[SourceWay] = []
        for steps in chain.from_iterable(_paths(g, end) for g in (closed, graph) for end in ends):
            if steps is None:
                more = True
                continue
            # a transfer switch from one input over its load to the other is one device on the way
            way = tuple(network.element[i] for i in dict.fromkeys(v[0] for v in steps))
            if s in way or any(w.through == way for w in own):
                continue
            if len(own) == EACH:
                more = True
                break
            own.append(SourceWay(s, way, *_state(network, circuit, now, s, steps)))
        found += own
    first = {w.source.id: w for w in reversed(sorted(found, key=_rank))}
    rest = [w for w in sorted(found, key=_rank) if w is not first[w.source.id]]
    # so many that it could no longer be read are cut short, but every supply is there with the worst of its ways
    kept = [*first.values(), *rest[: max(0, MOST - len(first))]]
    return sorted(kept, key=_rank), more or len(kept) < len(found)


def _rank(w: SourceWay) -> tuple[int, int, str]:
    return ((LIVE, MAY, OPEN, BLOCKED).index(w.state), len(w.through), w.source.tag)


def _paths(graph: nx.DiGraph[Any], end: str) -> Iterator[list[tuple[str, int]] | None]:
    """Vertices of devices, the shortest path first. After :data:`LOOKED` None says that there are more: a mesh
    has more than anybody could wait for."""
    if end not in graph or not nx.has_path(graph, end, _TARGET):
        return
    for i, path in enumerate(nx.shortest_simple_paths(graph, end, _TARGET)):
        if i == LOOKED:
            yield None
            return
        yield [v for v in path if isinstance(v, tuple)]


def _apart(network: Network, now: Field, vertex: tuple[str, int]) -> bool:
    """Whether this pair of a device is known not to be joined."""
    e = network.element[vertex[0]]
    if e.kind not in SWITCHING:
        return False
    pairs, known = standing(e, now.device(e.id))
    return known and e.pairs[vertex[1]] not in pairs


def _state(
    network: Network, circuit: Circuit, now: Field, s: Element, steps: Sequence[tuple[str, int]]
) -> tuple[str, str]:
    device = now.device(s.id)
    if not feeds(s, circuit) and not may_feed(s, device):
        return BLOCKED, ""
    sure = True
    for element_id, i in steps:
        e = network.element[element_id]
        if _apart(network, now, (element_id, i)):
            return OPEN, e.tag
        sure = sure and (e.kind not in SWITCHING or standing(e, now.device(e.id))[1])
    return (LIVE, "") if sure and feeds(s, circuit) else (MAY, "")


def _columns(ways: Sequence[SourceWay]) -> dict[str, int]:
    """A shared device stands in one column, as far from the target as on its longest way; 1 is nearest."""
    order: nx.DiGraph[str] = nx.DiGraph()
    for w in ways:
        back = [e.id for e in reversed(w.through)]
        order.add_nodes_from(back)
        order.add_edges_from(pairwise(back))
    if nx.is_directed_acyclic_graph(order):
        found: dict[str, int] = {}
        for v in nx.topological_sort(order):
            found[v] = 1 + max((found[u] for u in order.predecessors(v)), default=0)
        return found
    # round a mesh one device may stand before another on one way and behind it on the next: by its place, as it comes
    found = {}
    for w in ways:
        for i, e in enumerate(reversed(w.through), 1):
            found[e.id] = max(found.get(e.id, 0), i)
    return found


def _singles(
    network: Network, starts: Sequence[str], suppliers: Sequence[Element], usable: Iterable[Element]
) -> tuple[Element, ...]:  # fmt: skip
    """Devices each of which alone cuts every supply that can be cut."""
    if not suppliers:
        return ()
    ends = {s.ends[-1] if s.row.converts and s.row.supplies else n for s in suppliers for n in s.ends}
    if not ends & set(reach(network, starts, everything)):
        return ()
    found = []
    for device in usable:
        got = reach(network, starts, lambda e, d=device: () if e.id == d.id else everything(e))  # type: ignore[misc]
        if not any(n in got for n in ends):
            found.append(device)
    return tuple(found)


def _smallest(
    network: Network, now: Field, graph: nx.DiGraph[Any], suppliers: Sequence[Element], usable_ids: set[str]
) -> Cut | None:
    """Fewest devices between every supply and the target; among those the one set by which least goes dark, as far as
    each alone tells. None where no set does it."""
    flow: nx.DiGraph[Any] = nx.DiGraph()
    for v in graph:
        cost = _NEVER
        if isinstance(v, tuple) and v[0] in usable_ids:
            e = network.element[v[0]]
            cost = 1_000 + len(without_supply(network, now.devices, {e.id}))
        flow.add_edge((v, "in"), (v, "out"), capacity=cost)
    for a, b in graph.edges:
        flow.add_edge((a, "out"), (b, "in"), capacity=_NEVER)
    any_source = False
    for s in suppliers:
        for end in s.ends[-1:] if s.row.converts and s.row.supplies else s.ends:
            if end in graph:
                flow.add_edge("every supply", (end, "in"), capacity=_NEVER)
                any_source = True
    if not any_source or (_TARGET, "in") not in flow:
        return None
    value, (near, _) = nx.minimum_cut(flow, "every supply", (_TARGET, "out"))
    if value >= _NEVER:
        return None
    if value == 0:
        return None
    cut = {v[0][0] for v in near if isinstance(v, tuple) and v[1] == "in" and (v[0], "out") not in near}
    devices = tuple(e for e in network.elements if e.id in cut)
    return Cut(devices, tuple(without_supply(network, now.devices, {e.id for e in devices})))


def goes_dark(network: Network, devices: Mapping[str, DeviceNow], opened: Iterable[Element]) -> tuple[Element, ...]:
    """What loses its supply when all of these open."""
    return tuple(without_supply(network, devices, {e.id for e in opened}))
