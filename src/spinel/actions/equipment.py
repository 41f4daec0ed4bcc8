"""One piece of equipment as it is now: its hazard card, what else is live inside, what can be found on it."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions.kept_up import of_each
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.errors import InputError
from spinel.core.hazard import Hazard
from spinel.core.network.basis import ASSUMED, Bases
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import FOUND_POSITIONS, FOUND_STATES, FOUND_THROWS, TRIPPED, DeviceNow
from spinel.core.network.sides import reached_ends, reaches, read_reach
from spinel.core.protection.duty import Duty
from spinel.core.said import Sayable, say
from spinel.core.upkeep import KeptUp


@dataclass(frozen=True, kw_only=True)
class Card:
    """What the hazard card says of one element. ``sides``: every way of reaching it, the worst first."""

    element: Element
    hazard: Hazard
    sides: tuple[Hazard, ...]
    state: str
    fed_by: tuple[str, ...]
    may_feed: tuple[str, ...]
    inside: tuple[Sayable, ...]
    device: DeviceNow
    duty: Duty | None
    #: upkeep of the piece itself and of what clears an arc there, by tag, where it is not as it should be
    not_kept: tuple[tuple[str, KeptUp], ...]
    #: how many values of the network nobody has confirmed, and how many of them are of this piece and its enclosures
    assumed: tuple[int, int]


@on_site
def card(site: Site, element_id: str, touches: str = "", working_distance_mm: float | None = None) -> Card:
    """The hazard card of an element; where nothing is chosen, the worst over all its sides."""
    here = site.as_it_is()
    element = here.network.get(element_id)
    fed_by, may_feed = here.liveness.sources_of(element)
    hazard = here.study.hazard(element_id, touches, working_distance_mm)
    return Card(
        element=element,
        hazard=hazard,
        not_kept=_not_kept(here, element, hazard),
        assumed=_assumed(here.network, element),
        sides=tuple(here.study.sides(element_id, working_distance_mm)),
        state=here.state_of(element),
        fed_by=fed_by,
        may_feed=may_feed,
        inside=also_inside(here.network, element),
        device=here.device(element),
        duty=here.study.duty.get(element.id),
    )


def _not_kept(here: SiteNow, element: Element, hazard: Hazard) -> tuple[tuple[str, KeptUp], ...]:
    """The piece itself and the devices by whose clearing its figures stand, those that are overdue or failed."""
    figures = [f for f in (hazard.energy, hazard.boundary) if f is not None]
    tags = dict.fromkeys((element.tag, *(f.clearing.device.tag for f in figures if f.clearing.device is not None)))
    known = {here.network.by_tag[t].id: t for t in tags if t in here.network.by_tag}
    return tuple((known[i], k) for i, k in of_each(here, known).items() if k.properly is False)


def _assumed(network: Network, element: Element) -> tuple[int, int]:
    nodes = [network.node[n] for n in dict.fromkeys(element.ends)]
    own = [element.basis, *(n.basis for n in nodes), *(b.basis for b in network.enclosures_of(element))]
    every = [e.basis for e in network.elements] + [n.basis for n in network.nodes]
    return _count(every + [b.basis for b in network.enclosures]), _count(own)


def _count(bases: list[Bases]) -> int:
    return sum(b.origin == ASSUMED for each in bases for b in each.values())


def also_inside(network: Network, element: Element) -> tuple[Sayable, ...]:
    """Other supplies in the enclosures of an element, in words: they stay live when it is off."""
    return tuple(
        say(
            "act-equipment-also-inside",
            voltage_v=s.voltage_v,
            current=s.current,
            name=s.name,
            source=s.source,
            box=box.name,
        )
        for box in network.enclosures_of(element)
        for s in box.auxiliary_supplies
    )


def equipment_class(network: Network, element: Element, touches: str) -> str:
    """Class of the enclosure that is opened; qualifications are held per class."""
    node = network.node[reached_ends(element, read_reach(element, touches))[-1]]
    box = network.enclosure.get(node.enclosure or "")
    return box.equipment_class if box else "control panel"


def equipment_classes(network: Network, element: Element, touches: str = "") -> tuple[str, ...]:
    """The class that is opened at what is touched; where that is not chosen every one that may be, whichever of its
    ends is worked at."""
    codes = (touches,) if touches else ("", *(reach.code for reach in reaches(element)))
    return tuple(dict.fromkeys(equipment_class(network, element, code) for code in codes))


def findable(element: Element) -> tuple[str, ...]:
    """What can be found on this element."""
    if element.kind == "transfer_switch":
        return FOUND_THROWS
    if element.kind in SWITCHING:
        by_itself = (TRIPPED[element.kind == "fuse"],) if element.row.interrupts else ()
        return (*(FOUND_POSITIONS if element.withdrawable else FOUND_POSITIONS[:2]), *by_itself)
    return FOUND_STATES if element.row.may_turn else ()


def stands_otherwise(device: DeviceNow, value: str) -> bool:
    """Is what was found another state than the one that the record had?"""
    if value in FOUND_STATES:
        return device.running is not None and device.running != (value == "running")
    return device.position is not None and device.position != value


def check_found(element: Element, value: str) -> None:
    """InputError unless this can be found on the element."""
    choices = findable(element)
    if value not in choices:
        allowed = (
            say("one-of", options=tuple(choices))
            if choices
            else say("act-equipment-nothing-a-has-no-state", kind_name=element.kind_name)
        )
        raise InputError("value", value, allowed)
