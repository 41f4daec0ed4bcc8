"""What the people of a permit put on, of what the site owns, at the figures of the permit."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from spinel.actions import gear, permits
from spinel.actions.acting import Act
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.gear.items import Item, as_instrument
from spinel.core.gear.kinds import HANDS, INSTRUMENTS, TRUNK
from spinel.core.gear.wearing import Need, Offer, needs, offers
from spinel.core.isolation.instruments import place_at, unfit
from spinel.core.said import say
from spinel.store import permits as permits_store


@dataclass(frozen=True)
class Wearer:
    """``size``: by zone, as their own things tell. ``missing``: zones for which nothing fits."""

    id: int
    name: str
    login: str
    offers: tuple[Offer, ...]

    @property
    def missing(self) -> tuple[Offer, ...]:
        asked = (o for o in self.offers if o.need.rating_cal_cm2 is not None or o.need.glove_class)
        return tuple(o for o in asked if not o.fits)


@on_site
def for_permit(site: Site, number: str, now: datetime) -> tuple[tuple[Need, ...], tuple[Wearer, ...]]:
    """What each zone asks at the figures of a permit, and each of its workers with what fits them on that day. Refusal
    without a figure: nobody is dressed for what nobody knows."""
    seen = permits.view(site, number, now)
    hazard = seen.content["hazard"]
    if hazard["energy_cal_cm2"] is None:
        raise Refusal(
            say("kit-nobody-is-dressed-for-the-unknown"), say("kit-no-figure", number=number),
            say("decision-work-dead-or-have-it-studied-by"),
        )  # fmt: skip
    here = site.as_it_is()
    # in date to the end of the work, not only when it begins
    day: date = here.day(max(now, seen.window_end))
    return wearers(here, hazard, seen.roster, gear.everything(site), day)


def wearers(
    here: SiteNow, hazard: Mapping[str, Any], roster: Mapping[int, str], items: Sequence[Item], day: date
) -> tuple[tuple[Need, ...], tuple[Wearer, ...]]:
    """What each zone asks at figures as a permit keeps them, and each of some people with what fits them on a day."""
    rules = here.profile.shock
    # gloves answer to every voltage that is exposed, not to the highest number alone
    exposed = [(v["voltage_v"], v["current"]) for v in hazard.get("voltages", ())]
    voltages = exposed or [(hazard["voltage_v"], hazard["current"])]
    needed = needs(hazard["energy_cal_cm2"], voltages, rules)
    logins = {p.id: p.login for p in here.site.register()}
    return needed, tuple(
        Wearer(i, name, logins[i], offers(needed, items, _sizes(items, i), i, rules, voltages, day))
        for i, name in roster.items()
    )


@on_site
def take(act: Act, number: str, login: str, item: str, why: str) -> None:
    """Give an item to somebody for a permit: what fits them there; what is more than a step heavier than asked only
    with the reason for it (people bypass what is needlessly heavy). Refusal, with why, for anything else."""
    _, wearers = for_permit(act.site, number, act.now)
    wearer = next((w for w in wearers if w.login == login), None)
    if wearer is None:
        raise InputError("person", login, say("kit-somebody-on-the-permit"))
    offered = [o for o in wearer.offers if any(i.number == item for i in (*o.fits, *o.heavier))]
    if not offered:
        short = next((why for o in wearer.offers for i, why in o.short if i.number == item), say("kit-not-of-this"))
        raise Refusal(say("kit-only-what-fits-is-given"), short, say("gear-take-another"))
    heavy = all(any(i.number == item for i in o.heavier) for o in offered)
    reason = texts.REASON.check(why, "why") if heavy else ""
    gear.issue(act, item, login, number, reason)


@on_site
def issue(act: Act, number: str, login: str, held_for: str) -> None:
    """Give an item to somebody, for a permit where one is named: an instrument only where it does for a voltage that is
    exposed there. Refusal with why for one that does for none."""
    item = gear.one(act.site, number)
    known = permits_store.permit(held_for.strip().upper())
    if known is not None and item.kind_id in INSTRUMENTS:
        _need_fit(act.site, item, permits.as_view(act.site, known, act.now))
    gear.issue(act, number, login, held_for)


def _need_fit(site: Site, item: Item, seen: permits.PermitView) -> None:
    here = site.as_it_is()
    element = here.network.element.get(seen.content["equipment"]["id"])
    hazard = seen.content["hazard"]
    exposed = [(v["voltage_v"], v["current"]) for v in hazard.get("voltages", ())]
    instrument = as_instrument(item, here.day(seen.window_end))
    ends = element.ends if element is not None else ()
    whys = [
        unfit(instrument, place_at(here.network, ends, volts, current), here.profile)
        for volts, current in exposed or [(hazard["voltage_v"], hazard["current"])]
    ]  # fmt: skip
    if all(whys):
        raise Refusal(say("kit-only-what-fits-is-given"), whys[0], say("gear-take-another"))


def _sizes(items: Sequence[Item], person_id: int) -> dict[str, str]:
    """Somebody's own gloves and shirt tell their sizes; nothing of theirs: any size is offered."""
    own = [i for i in items if i.owner_id == person_id and i.size and not i.retired]
    found = {}
    for zone, kinds in ((HANDS, ("gloves", "protectors")), (TRUNK, ("arc_shirt", "arc_coverall"))):
        size = next((i.size for i in own if i.kind_id in kinds), "")
        if size:
            found[zone] = size
    return found
