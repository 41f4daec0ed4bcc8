"""What runs after every field event and revision: nothing that people rely on goes on silently.

A module joins by standing in ``REVIEWS``; whoever changes the field or the network calls this, and no module by name.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from spinel.actions import permit_review, program_review
from spinel.actions.acting import Unit
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.network.circuit import at_present
from spinel.core.network.document import Element
from spinel.core.network.field import fold_field
from spinel.core.network.liveness import around
from spinel.core.network.now import FieldEvent
from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class Review:
    """``after_change``: the figures may have moved. ``after_found``: something was found in the island given. Both
    return the numbers of what they stopped. ``exceeded``: what the first of them asks of a state, and writes nothing.
    """

    exceeded: Callable[[SiteNow], object]
    after_change: Callable[[Unit, SiteNow, Sayable], list[str]]
    after_found: Callable[[Unit, Element, frozenset[str], Sayable], list[str]]


REVIEWS = (
    # programs first: whoever is switching hears it before whoever works
    Review(program_review.exceeded, program_review.after_change, program_review.after_found),
    Review(permit_review.exceeded, permit_review.after_change, permit_review.after_found),
)


@on_site
def foresee(site: Site, *events: FieldEvent) -> None:
    """Compute what the reviews will ask once these events are recorded, before anybody has to wait for it.

    An act calls it ahead of its transaction: the figures of a state are remembered, and nothing heavy is computed
    while others wait to write. Should the state be another one by then, they are computed there as ever.
    """
    here = site.as_it_is()
    after = here.seen_with(fold_field(here.network, events, here.field))
    for review in REVIEWS:
        review.exceeded(after)


def foreseen(kind: str, element_id: str, value: str = "") -> FieldEvent:
    """An event that is going to be recorded, as far as figures go."""
    return FieldEvent(sequence=0, at="", actor="", kind=kind, element_id=element_id, value=value)


def after_change(unit: Unit, cause: Sayable) -> list[str]:
    """Everything signed or issued against the figures as they are now. Numbers of what was touched."""
    here = unit.site.as_it_is()
    return [number for review in REVIEWS for number in review.after_change(unit, here, cause)]


def after_found(unit: Unit, element: Element, value: Sayable, island_before: frozenset[str] = frozenset()) -> list[str]:
    """Something was found: every issued permit and program in the island around it, before and after, is stopped.

    Whoever has a lock on a box there is named in the record, so that the board can warn them.
    """
    island = island_of(unit.site.as_it_is(), element) | island_before
    reason = say("reviews-was-found-reported-by", tag=element.tag, value=value, name=unit.act.actor.name)
    return [number for review in REVIEWS for number in review.after_found(unit, element, island, reason)]


def island_of(here: SiteNow, element: Element) -> frozenset[str]:
    """Ids of everything in the island around an element, as it stands."""
    return around(here.network, at_present(here.network, here.now), element)
