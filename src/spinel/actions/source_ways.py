"""From where a place could be live, and two choices of cutting it: as an isolation is drafted, and by the fewest."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.errors import Refusal
from spinel.core.isolation.able import passed_over
from spinel.core.isolation.points import isolation, target_of
from spinel.core.network.circuit import at_present
from spinel.core.network.cut import can_isolate
from spinel.core.network.document import Element
from spinel.core.network.sources_of import Cut, SourcesOf, goes_dark, sources_of
from spinel.core.said import Said, say


@dataclass(frozen=True, kw_only=True)
class Sources:
    """``usual``: what an isolation drafted for it would open, None where the rules allow none, with why."""

    element: Element
    found: SourcesOf
    usual: Cut | None
    refused: Refusal | None


@on_site
def sources(site: Site, element_id: str) -> Sources:
    """Every way by which a piece of equipment, opened, could be live."""
    here = site.as_it_is()
    return ways_of(here, here.network.get(element_id))


def ways_of(here: SiteNow, element: Element) -> Sources:
    """The same on a site as it is given: now, or as it would stand."""
    network, target = here.network, target_of(here.network, element)
    unfit = {e.id: why for e in network.elements if can_isolate(e) and (why := passed_over(here.study, e))}
    found = sources_of(
        network, at_present(network, here.now), here.field, element, target.nodes, target.supplies, unfit
    )  # fmt: skip
    try:
        points = isolation(here.study, element).points
    except Refusal as why:
        return Sources(element=element, found=found, usual=None, refused=why)
    usual = Cut(points, goes_dark(network, here.now, points))
    return Sources(element=element, found=found, usual=usual, refused=None)


def all_but_the_fewest(here: SiteNow, element: Element) -> dict[str, Said]:
    """Devices that an isolation by the fewest leaves alone, by id, with why; Refusal where no set cuts everything."""
    smallest = ways_of(here, element).found.smallest
    if smallest is None:
        raise Refusal(
            say("isolation-points-every-source-is-cut-by-a-device"), say("source-ways-no-set", tag=element.tag),
            say("source-ways-draft-the-usual"),
        )  # fmt: skip
    chosen = {e.id for e in smallest.devices}
    others = (e for e in here.network.elements if can_isolate(e) and e.id not in chosen)
    return {e.id: say("source-ways-another-choice", tag=e.tag) for e in others}
