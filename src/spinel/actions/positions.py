"""Which positions of the site sign a permit before it is approved, in which order, and who holds each."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from spinel.actions.acting import Act, work
from spinel.actions.permits import PermitView
from spinel.actions.site import Site, on_site
from spinel.actions.site_settings import CHANGED
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.permit.positions import Position, unsigned
from spinel.core.said import say
from spinel.store import settings

#: The setting, and so many at most.
KEY, MOST = "positions", 6


@on_site
def of_site(site: Site) -> tuple[Position, ...]:
    """In the order in which they sign."""
    return of_settings(site.settings_now())


def of_settings(known: Mapping[str, Any]) -> tuple[Position, ...]:
    return tuple(Position(p["title"], tuple(p["people"])) for p in known[KEY])


@on_site
def lacking(site: Site, seen: PermitView) -> tuple[Position, ...]:
    """Those that have not signed the content as it is, the next one first."""
    return unsigned(of_site(site), seen.positions_signed)


@on_site
def holders(site: Site, position: Position) -> tuple[str, ...]:
    """Names of those who hold it and are here."""
    return tuple(p.name for p in site.register() if p.id in position.people and p.active)


@on_site
def waited_for(site: Site, seen: PermitView) -> dict[str, tuple[str, ...]]:
    """The titles that have not signed, in their order, with the names of those who may."""
    return {p.title: holders(site, p) for p in lacking(site, seen)}


@on_site
def not_theirs(site: Site, position: Position) -> Refusal:
    """What is said to whoever does not hold the position whose turn it is."""
    return Refusal(
        say("permit-approval-each-position-by-who-holds-it"),
        say("permit-approval-it-is-the-turn-of", title=position.title, holders=holders(site, position)),
        say("permit-approval-they-sign"),
    )


@on_site
def change(act: Act, wanted: Sequence[tuple[str, Sequence[int]]], reason: str) -> None:
    """From now on these sign, in this order. ``wanted``: titles with the ids of who holds them. What was approved and
    not issued yet waits for a position that is new."""
    act.actor.needs("coordinator", what=say("setup-change-settings"))
    here = {p.id: p.name for p in act.site.register() if p.active}
    found = [_checked(title, people, here) for title, people in wanted]
    if len(found) > MOST:
        raise InputError(KEY, str(len(found)), say("positions-at-most", most=MOST))
    if len({p.title.casefold() for p in found}) < len(found):
        raise InputError(KEY, found[-1].title, say("positions-each-title-once"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        stored = [{"title": p.title, "people": list(p.people)} for p in found]
        if settings.get(KEY) == stored:
            raise InputError(KEY, "", say("setup-another-value-than-now"))
        settings.put(KEY, stored)
        told = [{"title": p.title, "people": [here[i] for i in p.people]} for p in found]
        unit.record(CHANGED, f"setting:{KEY}", {"value": told, "because": text})


def _checked(title: str, people: Sequence[int], here: Mapping[int, str]) -> Position:
    position = Position(texts.POSITION.check(title, KEY), tuple(dict.fromkeys(people)))
    if not position.people or any(i not in here for i in position.people):
        raise InputError(KEY, position.title, say("positions-somebody-who-is-here", title=position.title))
    return position
