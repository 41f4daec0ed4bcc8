"""The instruments of a site that prove absence of voltage: which one fits what. The register is in actions/gear."""

from __future__ import annotations

from datetime import date

from spinel.actions import gear
from spinel.actions.program_view import ProgramView
from spinel.actions.site import Site, on_site
from spinel.core.errors import NotFound
from spinel.core.gear.items import Item, as_instrument
from spinel.core.gear.kinds import INSTRUMENTS
from spinel.core.isolation.instruments import (
    CONTACT,
    DETECTOR,
    LOW_IMPEDANCE,
    ROMAN,
    Instrument,
    Place,
    place_at,
    unfit,
)
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE
from spinel.core.network.ways import auxiliary, zone
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say
from spinel.core.switching.steps import Step


@on_site
def everything(site: Site, day: date) -> list[Instrument]:
    """All of them by number, those out of use or out of date on a day too; not those that were retired."""
    return [as_instrument(i, day) for i in gear.everything(site) if i.kind_id in INSTRUMENTS and not i.retired]


@on_site
def one(site: Site, number: str, day: date) -> Instrument:
    """The instrument of a number as it is on a day, or NotFound."""
    found = gear.one(site, number)
    if found.kind_id not in INSTRUMENTS:
        raise NotFound("instrument", number)
    return as_instrument(found, day)


def fits(seen: ProgramView, step: Step, one: Instrument) -> Sayable:
    """Why an instrument does not do for everything that is tested with its kind after a check; empty when it does."""
    wanted = (DETECTOR,) if step.instrument == DETECTOR else (CONTACT, LOW_IMPEDANCE)
    if one.kind not in wanted:
        return say("instruments-not-the-kind", number=one.number, kind=say(f"instrument-{step.instrument}"))
    practice = seen.order.study.profile
    return next((why for p in _places(seen, step) if (why := unfit(one, p, practice))), one.barred)


def fits_beside(seen: ProgramView, step: Step, item: Item) -> Sayable:
    """Why leads do not do for everything that is tested after a check; empty when they do, and for anything else: a
    proving unit is at no place of a test."""
    if item.kind_id != "leads":
        return ""
    most, category = item.rating.high_v or 0.0, item.rating.category or 0
    for place in _places(seen, step):
        if place.voltage_v > most:
            return say("instruments-out-of-range", number=item.number, at=volts(place.voltage_v, place.current),
                       low_v=0.0, high_v=most)  # fmt: skip
        if category < place.category:
            return say("instruments-category", number=item.number, has=ROMAN.get(category, "-"),
                       needs=ROMAN[place.category])  # fmt: skip
    return ""


def _places(seen: ProgramView, step: Step) -> list[Place]:
    """Where the steps of a program test with the kind of instrument that this one proves."""
    network, devices = seen.order.network, seen.now.devices
    found = []
    for s in seen.steps:
        if s.kind != "test" or s.instrument != step.instrument or s.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
            continue
        supply = auxiliary(network, s.node_id)
        if supply is not None:
            found.append(Place(supply.supply.voltage_v, supply.supply.current, 3))
        elif s.node_id in network.node:
            node, nodes = network.node[s.node_id], zone(network, devices, s.node_id)
            # where a converter joins it, AC and DC are both looked for
            both = [c for c in ("ac", "dc") if any(p.endswith(f" {c.upper()}") for p in s.pairs)]
            found += [place_at(network, nodes, node.nominal_voltage_v, c) for c in both or [node.current]]
    return found


@on_site
def to_choose(site: Site, seen: ProgramView, step: Step, day: date) -> list[tuple[Instrument, Sayable]]:
    """Every instrument of a kind that could be meant, with why it does not do; those that do come first."""
    known = [(one, fits(seen, step, one)) for one in everything(site, day)]
    of_kind = [(one, why) for one, why in known if (one.kind == DETECTOR) == (step.instrument == DETECTOR)]
    return sorted(of_kind, key=lambda pair: (bool(pair[1]), pair[0].number))
