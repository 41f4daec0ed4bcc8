"""What an isolation is about: its target, the sources, the points that cut them, what holds energy behind them.

Walk outward from the target through everything, whatever its position, to the first device on each way that is
able to isolate and fit to be used. A way that reaches a source without one refuses the isolation, naming both.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from spinel.core.errors import Refusal
from spinel.core.hazard import Study, opened_nodes
from spinel.core.isolation.able import passed_over
from spinel.core.network.cut import can_isolate, holds_charge
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SUPPLIES, SWITCHING
from spinel.core.network.ways import Auxiliary, Reached, auxiliaries, everything, reach, touching, way_to
from spinel.core.said import Sayable, say

MECHANICAL = ("spring", "pressure", "gravity")


@dataclass(frozen=True)
class Target:
    """Every end of the equipment, every node in the enclosures that are opened, their auxiliary supplies."""

    element: Element
    nodes: tuple[str, ...]
    supplies: tuple[Auxiliary, ...]

    @property
    def all_nodes(self) -> tuple[str, ...]:
        return (*self.nodes, *(s.id for s in self.supplies))


@dataclass(frozen=True, kw_only=True)
class Isolation:
    """``region``: nodes that the target can't be cut from. ``way``: how each point is reached from the target."""

    target: Target
    region: frozenset[str]
    points: tuple[Element, ...]
    ways: Mapping[str, tuple[Element, ...]]
    motors: tuple[Element, ...]
    charged: tuple[Element, ...]
    mechanical: tuple[tuple[Element, str], ...]
    cut_off: tuple[Element, ...]
    passed: tuple[Sayable, ...]


def target_of(network: Network, element: Element) -> Target:
    """The target of isolating an element."""
    nodes = opened_nodes(network, element)
    boxes = dict.fromkeys(n.enclosure for n in nodes if n.enclosure is not None)
    return Target(element, tuple(n.id for n in nodes), tuple(auxiliaries(network, boxes)))


def isolation(study: Study, element: Element, unfit: Mapping[str, Sayable] | None = None) -> Isolation:
    """Points and region for an element. ``unfit``: devices not to be used, by id, with the reason in words.

    Refusal naming source and way when a source cannot be cut from the target.
    """
    network = study.network
    target = target_of(network, element)
    reasons = dict(unfit or {})

    def usable(e: Element) -> bool:
        """Asked only of what the walk comes to: figures take time."""
        if can_isolate(e) and e.id not in reasons:
            reasons[e.id] = passed_over(study, e)
        return can_isolate(e) and not reasons[e.id]

    found = reach(network, target.all_nodes, lambda e: () if usable(e) else everything(e))
    inside = touching(network, found)
    passed = {i: reasons[i] for i in inside if reasons.get(i) and can_isolate(inside[i])}
    _refuse_if_fed(target, found, inside.values(), passed)
    edge = [e for e in inside.values() if usable(e) and not all(end in found for end in e.ends)]
    points = {e.id: e for e in edge if _leads_to_energy(network, found, e)}
    # a way at whose end nothing feeds and nothing may feed needs no point: it belongs to the region
    found = reach(network, target.all_nodes, lambda e: () if e.id in points else everything(e))
    inside = touching(network, found)
    behind = [e for e in inside.values() if all(end in found for end in e.ends)]
    return Isolation(
        target=target,
        region=frozenset(found),
        points=tuple(points.values()),
        ways=_ways(network, found, points.values()),
        motors=tuple(e for e in behind if e.kind == "motor"),
        charged=tuple(e for e in behind if holds_charge(e)),
        mechanical=tuple(
            (e, what) for e in behind if concerns(target, e) for what in e.stored_energy if what in MECHANICAL
        ),
        cut_off=_beyond(network, found, points.values()),
        passed=tuple(passed.values()),
    )


def concerns(target: Target, e: Element) -> bool:
    """Is mechanical energy in the element the isolation's concern? A spring in a switching device that nobody opens
    is not."""
    return e.kind not in SWITCHING or any(end in target.nodes for end in e.ends)


def _leads_to_energy(network: Network, found: Reached, point: Element) -> bool:
    """Does anything beyond the point feed, or could it?"""
    starts = [end for end in point.ends if end not in found]
    beyond = touching(network, reach(network, starts, lambda e: _outside(e, found)))
    return any(e.kind in SUPPLIES or e.kind == "motor" or holds_charge(e) for e in beyond.values() if e.id != point.id)


def _outside(e: Element, found: Reached) -> tuple[tuple[str, str], ...]:
    return tuple(p for p in everything(e) if p[0] not in found and p[1] not in found)


class NoCut(Refusal):
    """A source that no device fit to isolate cuts from the target. ``passed``: reasons by element id."""

    def __init__(
        self, target: Element, source: str, kind: Sayable, way: tuple[Element, ...], passed: Mapping[str, Sayable]
    ):
        on = {e.id for e in way}
        over = [why for i, why in passed.items() if i in on]
        through = (
            say("isolation-points-on-the-way", tags=tuple(e.tag for e in way))
            if way
            else say("isolation-points-directly-at-it")
        )
        because = say("isolation-points-passed-over-there", overs=tuple(over)) if over else "none"
        super().__init__(
            say("isolation-points-every-source-is-cut-by-a-device"),
            say(
                "isolation-points-cannot-be-cut-from-no-device-fit",
                source=source,
                kind=kind,
                tag=target.tag,
                through=through,
                because=because,
            ),
            say("isolation-points-have-a-lockable-isolating-device-fitted-there"),
            source,
        )
        self.source, self.way, self.passed = source, way, passed


def _refuse_if_fed(target: Target, found: Reached, inside: Iterable[Element], passed: Mapping[str, Sayable]) -> None:
    for e in inside:
        end = next((n for n in e.ends if n in found), None)
        if e.kind in SUPPLIES and end is not None:  # its own terminals, or reached without a point between
            way = tuple(w for w in way_to(found, end) if w.id != e.id)
            raise NoCut(target.element, e.tag, e.kind_name, way, passed)
    for s in target.supplies:
        if s.isolator is None:
            name = say(
                "isolation-points-v-in",
                name=s.supply.name,
                voltage_v=s.supply.voltage_v,
                current=s.supply.current,
                name_2=s.enclosure.name,
            )
            raise NoCut(target.element, s.supply.source, name, (), passed)


def _ways(network: Network, found: Reached, points: Iterable[Element]) -> dict[str, tuple[Element, ...]]:
    ways = {}
    for e in points:
        end = next((n for n in e.ends if n in found), None)
        ways[e.id] = way_to(found, end) if end is not None else ()
    return ways


def _beyond(network: Network, found: Reached, points: Iterable[Element]) -> tuple[Element, ...]:
    """Sources that the points cut off: what stands beyond them and feeds or may feed."""
    starts = [end for e in points for end in e.ends if end not in found]
    outside = touching(network, reach(network, starts, lambda e: _outside(e, found)))
    return tuple(e for e in outside.values() if e.kind in SUPPLIES)
