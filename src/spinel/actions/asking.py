"""Questions to the network that change nothing: from where a place could be live, and what an operation would do.

A trial chain is acts tried one after the other on the record as it stands, each as if it were done and looked at. The
rules are asked of each as if it were ordered then; nothing is operated, recorded or kept.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from spinel.actions import operation
from spinel.actions.site import Site, SiteNow, on_site
from spinel.actions.source_ways import ways_of
from spinel.core.errors import InputError, Refusal
from spinel.core.network.document import Element
from spinel.core.network.field import Field, apply
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.liveness import DEAD, GROUNDED, LIVE, PROVED, UNKNOWN
from spinel.core.network.losing import fed, lost, told, without_supply
from spinel.core.network.now import FieldEvent, position_words
from spinel.core.network.sources_of import SourceWay
from spinel.core.network.ways import as_stands, reach
from spinel.core.said import say
from spinel.core.switching.load import joins_sources, opens_under_load, side

#: So many acts of one chain: what takes more is a program.
MOST_ACTS = 20


@dataclass(frozen=True, kw_only=True)
class TriedAct:
    """One act of a chain. ``refused``: the rule that it would break. ``lost``: what is without supply then, ``told``:
    whom to tell; ``dead``, ``alive``: equipment that comes to be dead, or live; ``backwards``: transformers that are
    fed from their other side then; ``loop``: it joins what is joined already; ``joins``: two sources that it joins;
    ``breaks_load``: it interrupts load, and may do so or not. ``chosen``: what the chosen place has become."""

    element: Element
    to: str
    refused: Refusal | None
    lost: tuple[Element, ...]
    told: tuple[str, ...]
    dead: tuple[Element, ...]
    alive: tuple[Element, ...]
    backwards: tuple[Element, ...]
    loop: bool
    joins: tuple[str, str] | None
    breaks_load: bool
    chosen: str


@dataclass(frozen=True, kw_only=True)
class Chain:
    """``after``: the site as it would stand; ``still``: ways by which the chosen place is or may be fed then."""

    acts: tuple[TriedAct, ...]
    after: SiteNow
    chosen: Element | None
    before: str
    still: tuple[SourceWay, ...]
    goal: tuple[tuple[str, str], ...]


@on_site
def tried(site: Site, acts: Sequence[tuple[str, str]], chosen_id: str = "") -> Chain:
    """What acts would do, by element id and position, one after the other. InputError for what cannot be asked of an
    element, or too many."""
    here = site.as_it_is()
    if len(acts) > MOST_ACTS:
        raise InputError("acts", len(acts), say("asking-at-most", most=MOST_ACTS))
    chosen = here.network.get(chosen_id) if chosen_id else None
    before = here.state_of(chosen) if chosen else ""
    found: list[TriedAct] = []
    goal: dict[str, str] = {}
    for element_id, to in acts:
        e = here.network.get(element_id)
        if e.kind not in SWITCHING or to not in _positions(e):
            raise InputError("to", to, say("one-of", options=tuple(position_words(p) for p in _positions(e))))
        after = here.seen_with(_done(here, e, to))
        found.append(_judged(here, after, e, to, chosen))
        here, goal[e.id] = after, to
    still: tuple[SourceWay, ...] = ()
    if chosen is not None:
        still = tuple(w for w in ways_of(here, chosen).found.ways if w.state in ("live", "may"))
    return Chain(acts=tuple(found), after=here, chosen=chosen, before=before, still=still, goal=tuple(goal.items()))


def _positions(e: Element) -> tuple[str, ...]:
    if e.kind == "transfer_switch":
        return ("normal", "emergency", "off")
    return ("open", "closed", "withdrawn") if e.withdrawable else ("open", "closed")


def positions(e: Element) -> tuple[str, ...]:
    """What can be tried of an element."""
    return _positions(e) if e.kind in SWITCHING else ()


def _done(here: SiteNow, e: Element, to: str) -> Field:
    """As if it were done, and somebody had looked."""
    kind = {"open": "opened", "off": "opened", "withdrawn": "withdrawn"}.get(to, "closed")
    moved = apply(here.network, here.field, _event(kind, e, to))
    return apply(here.network, moved, _event("checked", e, ""))


def _event(kind: str, e: Element, value: str) -> FieldEvent:
    return FieldEvent(sequence=0, at="", actor="", kind=kind, element_id=e.id, value=value)


def _judged(here: SiteNow, after: SiteNow, e: Element, to: str, chosen: Element | None) -> TriedAct:
    opening = to in ("open", "off", "withdrawn")
    lost = without_supply(here.network, here.now, {e.id}) if opening else _lost_otherwise(here, after)
    dead, alive = _changed(here, after)
    return TriedAct(
        element=e, to=to, refused=_refused(here, e, to), lost=tuple(lost), told=told(lost), dead=dead, alive=alive,
        backwards=_backwards(after), loop=not opening and _joined_already(here, e),
        joins=None if opening else joins_sources(here.network, here.field, e, to),
        breaks_load=_leaves(here, e, to) and opens_under_load(here.network, here.field, e),
        chosen=after.state_of(chosen) if chosen else "",
    )  # fmt: skip


def _leaves(here: SiteNow, e: Element, to: str) -> bool:
    """Does it part what is joined, or may be? A transfer switch does, whichever side it is set over to."""
    return to in ("open", "off", "withdrawn") or (e.kind == "transfer_switch" and here.device(e).position != to)


def _lost_otherwise(here: SiteNow, after: SiteNow) -> list[Element]:
    """A transfer switch that is set over takes its load from one side to the other."""
    return lost(here.network, fed(here.network, here.now), fed(after.network, after.now))


def _refused(here: SiteNow, e: Element, to: str) -> Refusal | None:
    if e.operated_by:
        return Refusal(
            say("asking-others-move-it"), say("asking-it-is-moved-by", tag=e.tag, by=e.operated_by),
            say("asking-ask-them"),
        )  # fmt: skip
    if here.device(e).position == to:
        return None
    return operation.refused(here, e, to)


def _changed(here: SiteNow, after: SiteNow) -> tuple[tuple[Element, ...], tuple[Element, ...]]:
    was, now = here.liveness.elements, after.liveness.elements
    hot, cold = (LIVE, UNKNOWN), (DEAD, PROVED, GROUNDED)
    elements = here.network.elements
    return (
        tuple(e for e in elements if was[e.id] in hot and now[e.id] in cold),
        tuple(e for e in elements if was[e.id] in cold and now[e.id] in hot),
    )


def _backwards(after: SiteNow) -> tuple[Element, ...]:
    """Transformers whose primary has no supply of its own while their secondary has one."""
    network = after.network
    found = []
    for e in network.elements:
        if e.kind != "transformer":
            continue
        primary = max(e.ends, key=lambda n: network.node[n].nominal_voltage_v)
        others = [n for n in e.ends if n != primary]
        one = side(network, after.now, e, primary)
        if not one.supplied and any(side(network, after.now, e, n).supplied for n in others):
            found.append(e)
    return tuple(found)


def _joined_already(here: SiteNow, e: Element) -> bool:
    """Would closing it make a loop: are its ends joined already by another way?"""
    stands = as_stands(here.now)
    return any(b in reach(here.network, [a], lambda x: () if x.id == e.id else stands(x)) for a, b in e.pairs)
