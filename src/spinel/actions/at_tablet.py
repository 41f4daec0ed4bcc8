"""What the first page of a shared tablet says of people: who is on something now, and what waits for each."""

from __future__ import annotations

from collections.abc import Sequence
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
        duties = on_duty.get(p.id, [])
        waits, late, goes_to = _waits(duties, unsigned.get(p.id), offered.get(p.id))
        shown = next((d for d in duties if d.number == goes_to[1]), duties[0] if duties and not waits else None)
        on: Sayable = ""
        if shown is not None:
            on = say("tile-on", part=say(f"tile-part-{shown.part.replace('_', '-')}"), number=shown.number)
            goes_to = (shown.kind, shown.number)
        elif not waits and p.id in hanging:
            on, goes_to = say("tile-lock-on", number=hanging[p.id][0]), ("hold", hanging[p.id][0])
        if waits or duties or p.id in hanging:
            found.append(
                Tile(person=p, waits=waits, late=late, on=on, goes_to=goes_to, lock=p.id in hanging)
            )  # fmt: skip
        else:
            others.append(p)
    found.sort(key=lambda t: (not t.late, not t.waits, t.person.name))
    return found, others


def _waits(
    duties: Sequence[rosters.OnRoster], unsigned: str | None, offered: exchanges.Exchanged | None
) -> tuple[Sayable, bool, tuple[str, str]]:
    """What waits for somebody, whether it is late, and where: kind and number."""
    over = next((d for d in duties if d.late), None)
    if over is not None:
        leads = over.part == "person_in_charge"
        return say("tile-account-for") if leads else say("tile-ran-out"), True, ("permit", over.number)
    if unsigned is not None:
        return say("tile-statements"), False, ("permit", unsigned)
    if offered is not None:
        return say("tile-exchange"), False, ("exchange", offered.number)
    return "", False, ("", "")


def _unsigned(site: Site, now: datetime) -> dict[int, str]:
    """Workers whose statements, and attendants whose signature for the briefing a permit waits for, with its number."""
    found: dict[int, str] = {}
    for seen in permits.in_states(site, ("issued", "in_force", "suspended"), now):
        if seen.shown_state != "expired":
            owes = [i for i in seen.roster if i in seen.briefed() and not seen.stated(i)]
            for person_id in (*owes, *(i for i in seen.owes_attendance() if i in seen.briefed())):
                found.setdefault(person_id, seen.number)
    return found
