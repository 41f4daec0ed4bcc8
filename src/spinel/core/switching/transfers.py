"""Transfers that keep more on while something is isolated: a tie that is closed, a transfer switch set over, a stand-by
generator started. Each is a switching of its own, drafted by the same rules; which to take is for people to say."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.network.circuit import joined
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field, apply
from spinel.core.network.kinds import STAND_BY, SWITCHING
from spinel.core.network.losing import fed, lost
from spinel.core.network.now import FieldEvent
from spinel.core.network.ways import as_stands, reach
from spinel.core.switching.between import Switched, draft_switching
from spinel.core.switching.order import Crews


@dataclass(frozen=True)
class Transfer:
    """A way to keep more on. ``goal``: position by element id. ``made`` None: ``refused`` says why the rules allow
    none. ``stays``: what keeps its supply by it while the isolation stands; ``dark``: what does not."""

    goal: Mapping[str, str]
    made: Switched | None
    refused: Refusal | None
    stays: tuple[Element, ...]
    dark: tuple[Element, ...]


def transfers(
    study: Study, now: Field, element: Element, points: Sequence[Element], region: frozenset[str], crews: Crews
) -> list[Transfer]:
    """Every single transfer that keeps more on than none, the one that keeps most first.

    ``points``: what the isolation opens; ``region``: what it makes dead, into which nothing is closed.
    """
    network = study.network
    was = fed(network, now.devices)
    opened = _with(network, now, {p.id: "open" for p in points})
    base = lost(network, was, fed(network, opened.devices))
    found = []
    for goal in _candidates(network, now, points, region):
        dark = lost(network, was, fed(network, _with(network, opened, goal).devices))
        if not _weight(dark) < _weight(base):
            continue
        left = {e.id for e in dark}
        stays = tuple(e for e in base if e.id not in left)
        found.append(_drafted(study, now, element, points, goal, crews, stays, tuple(dark)))
    return sorted(found, key=lambda t: (t.made is None, _weight(t.dark), _interrupted(t)))


def _weight(dark: Sequence[Element]) -> int:
    return sum(10 if e.critical else 1 for e in dark)


def _interrupted(t: Transfer) -> int:
    return _weight([o.element for o in t.made.off]) if t.made else 0


def _with(network: Network, now: Field, goal: Mapping[str, str]) -> Field:
    """The field with elements where they are wanted, each seen there."""
    for element_id, to in goal.items():
        e = network.element[element_id]
        if e.kind in SWITCHING:
            kind = "opened" if to in ("open", "off") else "closed"
            value = to if e.kind == "transfer_switch" else ""
        else:
            kind, value = ("started" if to == "running" else "stopped"), ""
        for act in (kind, "checked"):
            event = FieldEvent(sequence=0, at="", actor="", kind=act, element_id=element_id, value=value)
            now = apply(network, now, event)
    return now


def _candidates(
    network: Network, now: Field, points: Sequence[Element], region: frozenset[str]
) -> Iterator[dict[str, str]]:
    """What could be closed or set over: known to be open, held by nobody, not tripped, not into what is isolated."""
    cut = {p.id for p in points}
    for e in network.elements:
        device = now.device(e.id)
        free = not (device.locks or device.tags or device.tripped) and e.id not in cut
        if e.kind not in SWITCHING or e.operated_by or not free or not device.known_or_automatic:
            continue
        if e.kind == "transfer_switch":
            for throw in ("normal", "emergency"):
                ends = {n for pair in joined(e, throw) for n in pair}
                if device.position != throw and ends.isdisjoint(region):
                    yield {e.id: throw}
                    yield from ({g.id: "running", e.id: throw} for g in _stand_by(network, now, joined(e, throw)[0][0]))
        elif device.position == "open" and region.isdisjoint(e.ends):
            yield {e.id: "closed"}


def _stand_by(network: Network, now: Field, node: str) -> list[Element]:
    """Generators that stand still and would feed a node as things are."""
    nodes = reach(network, [node], as_stands(now.devices))
    return [
        g for g in network.elements
        if g.row.supplies == STAND_BY and g.kind == "generator" and now.device(g.id).running is False
        and any(n in nodes for n in g.ends)
    ]  # fmt: skip


def _drafted(
    study: Study, now: Field, element: Element, points: Sequence[Element], goal: Mapping[str, str], crews: Crews,
    stays: tuple[Element, ...], dark: tuple[Element, ...],
) -> Transfer:  # fmt: skip
    """The transfer by itself; where the rules want a source cut first, with the points of the isolation that do it."""
    closed = [p for p in points if now.device(p.id).position == "closed"]
    wanted = [dict(goal), *({**goal, p.id: "open"} for p in closed), {**goal, **{p.id: "open" for p in closed}}]
    why: Refusal | None = None
    best: Switched | None = None
    for aim in wanted:
        try:
            made = draft_switching(study, now, element, "?", aim, crews=crews)
        except Refusal as refused:
            why = why or refused
            continue
        if best is None or _weight([o.element for o in made.off]) < _weight([o.element for o in best.off]):
            best = made
        if not made.off:
            break
    return Transfer(best.order.goal if best else goal, best, None if best else why, stays, dark)
