"""What falls due: qualifications, courses and exchanges that end within some days, and the same as a calendar."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from spinel.actions import gear
from spinel.actions.acting import Act, utc_text
from spinel.actions.site import Site, on_site
from spinel.actions.standing import CONTRACT, shown_by_all
from spinel.core.errors import NotAllowed, NotFound
from spinel.core.people import OWN, TASK
from spinel.core.said import say
from spinel.store import calendars
from spinel.store.people import Registered

#: Days ahead of which the page speaks, the nearest first.
STAGES = (30, 60, 90)
#: What has run out is named for so long; later only where somebody asks for the person.
BEHIND = timedelta(days=90)


@dataclass(frozen=True)
class FallsDue:
    """``what``: TASK, a course, or an exchange. ``tasks``: pairs of task and class that end on that day."""

    person: Registered
    what: str
    on: date
    tasks: tuple[tuple[str, str], ...] = ()

    def stage(self, today: date) -> int:
        """0 for what has run out, else within how many days it does; one above the last stage beyond."""
        if self.on < today:
            return 0
        left = (self.on - today).days
        return next((stage for stage in STAGES if left <= stage), STAGES[-1] + 1)


@on_site
def listed(site: Site, today: date, within: int = STAGES[-1]) -> list[FallsDue]:
    """Of everybody here, the first to end first. What was renewed since is not among it."""
    shown, found = shown_by_all(), list[FallsDue]()
    for person in site.register():
        if not person.active:
            continue
        by_day: dict[date, list[tuple[str, str]]] = {}
        for q in shown.held.get(person.id, ()):
            by_day.setdefault(q.until, []).append((q.task_id, q.equipment_class))
        found += [FallsDue(person, TASK, day, tuple(sorted(pairs))) for day, pairs in by_day.items()]
        last: dict[str, date] = {}
        for c in shown.courses.get(person.id, ()):
            if c.until is not None and c.course != TASK:
                last[c.course] = max(c.until, last.get(c.course, c.until))
        found += [FallsDue(person, course, day) for course, day in last.items()]
        if person.employer != OWN and (spans := shown.exchanged.get(person.id)):
            found.append(FallsDue(person, CONTRACT, max(end for _, end in spans)))
    near = [d for d in found if today - BEHIND <= d.on <= today + timedelta(days=within)]
    return sorted(near, key=lambda d: (d.on, d.person.name, d.what))


@on_site
def new_address(act: Act) -> str:
    """A secret address of one's own for a calendar; the one before is worth nothing from then on."""
    if act.actor.short or act.actor.id is None:
        raise NotAllowed(say("acting-a-short-code"), say("acting-it-signs-ones-own"), say("acting-sign-in-in-full"))
    token = secrets.token_urlsafe(24)
    calendars.put(act.site.path, act.actor.id, token, utc_text(act.now))
    return token


@on_site
def has_address(site: Site, person_id: int) -> bool:
    return calendars.has(site.path, person_id)


@on_site
def calendar(site: Site, token: str, now: datetime) -> tuple[Registered, list[FallsDue]]:
    """For whom an address was made, and what falls due: everybody's for a coordinator, one's own for others. NotFound
    for an address that nobody was given, or whose owner has left."""
    owner = calendars.owner(site.path, token)
    person = next((p for p in site.register() if p.id == owner and p.active), None)
    if person is None:
        raise NotFound("calendar", "")
    today = site.as_it_is().day(now)
    everybody = listed(site, today, within=400)
    return person, [d for d in everybody if "coordinator" in person.roles or d.person.id == person.id]


@on_site
def gear_of(site: Site, person: Registered, now: datetime) -> list[gear.GearDue]:
    """Gear whose test falls due: all of it for a coordinator, what they own or have for others."""
    found = gear.falling_due(site, site.as_it_is().day(now), 400)
    return [d for d in found if "coordinator" in person.roles or person.id in (d.item.owner_id, d.item.holder_id)]
