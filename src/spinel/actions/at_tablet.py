"""What the first page of a shared tablet says of people: who is on something now, and what waits for each."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from spinel.actions import exchanges, permits, rosters
from spinel.actions.site import Site, on_site
from spinel.core.said import Sayable, say
from spinel.store.people import Registered


@dataclass(frozen=True, kw_only=True)
class Tile:
    """``waits``: what they have to sign or account for, the most urgent, empty where nothing does; ``late``: it is
    overdue. ``on``: where that is, or what they are on. ``goes_to``: kind and number of where they are taken.
    ``lock``: theirs hangs somewhere."""

    person: Registered
    waits: Sayable
    late: bool
    on: Sayable
    goes_to: tuple[str, str]
    lock: bool


@on_site
def tiles(site: Site, now: datetime) -> tuple[list[Tile], list[Registered]]:
    """Those who are on something or whose lock hangs, the most urgent first; and everybody else by name."""
    if not site.published():
        return [], [p for p in site.register() if p.active]
    on_duty, hanging = rosters.duties(site, now), rosters.locks(site)
    unsigned = _unsigned(site, now)
    offered = {e.guest_id: e for e in exchanges.everything(site, site.as_it_is().day(now)) if e.state == "offered"}
    found, others = [], []
    for p in site.register():
        if not p.active:
            continue
        waits: Sayable = ""
        late, goes_to = False, ("", "")
        on: Sayable = ""
        duties = on_duty.get(p.id, [])
        over = next((d for d in duties if d.late), None)
        if over is not None:
            leads = over.part == "person_in_charge"
            waits = say("tile-account-for") if leads else say("tile-ran-out")
            late, goes_to = True, ("permit", over.number)
        elif p.id in unsigned:
            waits, goes_to = say("tile-statements"), ("permit", unsigned[p.id])
        elif p.id in offered:
            waits, goes_to = say("tile-exchange"), ("exchange", offered[p.id].number)
        elif duties:
            goes_to = (duties[0].kind, duties[0].number)
        if duties:
            on = say("tile-on", part=say(f"tile-part-{duties[0].part.replace('_', '-')}"), number=duties[0].number)
        elif p.id in hanging:
            on, goes_to = say("tile-lock-on", number=hanging[p.id][0]), goes_to if waits else ("hold", hanging[p.id][0])
        if waits or duties or p.id in hanging:
            found.append(
                Tile(person=p, waits=waits, late=late, on=on, goes_to=goes_to, lock=p.id in hanging)
            )  # fmt: skip
        else:
            others.append(p)
    found.sort(key=lambda t: (not t.late, not t.waits, t.person.name))
    return found, others


def _unsigned(site: Site, now: datetime) -> dict[int, str]:
    """Workers whose statements a permit waits for, with its number."""
    found: dict[int, str] = {}
    for seen in permits.in_states(site, ("issued", "in_force", "suspended"), now):
        if seen.shown_state != "expired":
            for person_id in seen.roster:
                if person_id in seen.briefed() and not seen.stated(person_id):
                    found.setdefault(person_id, seen.number)
    return found
