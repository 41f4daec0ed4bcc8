"""What ran out under a permit that is issued or in force: a qualification or a course of somebody on it, or the test of
an item that was given for it. Looked at once an hour, and whenever an interval is shortened; such a permit is
suspended, with the reason."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, datetime

from spinel.actions import gear, standing, stopping
from spinel.actions.acting import SYSTEM, Act, Unit, work
from spinel.actions.expiry import PATIENCE_MS
from spinel.actions.permits import PermitView, as_view
from spinel.actions.site import Site, on_site
from spinel.core.errors import Refusal, SpinelError
from spinel.core.gear.items import OVERDUE, UNTESTED, state
from spinel.core.said import Sayable, say
from spinel.store import permits as store

#: The hour in which this process looked last, by the database.
_LOOKED: dict[str, datetime] = {}


@on_site
def note_run_out(site: Site, now: datetime) -> list[str]:
    """Suspend what something ran out under by now. Numbers of the permits; none of them where nothing can be
    written just now: the next request looks again."""
    hour, key = now.replace(minute=0, second=0, microsecond=0), str(site.path)
    if _LOOKED.get(key) == hour:
        return []
    try:
        if not site.published():
            return []
        found = list(_each(site, now, site.as_it_is().day(now)))
        if found:
            with work(Act(site, SYSTEM, now), patience_ms=PATIENCE_MS) as unit:
                _suspend(unit, dict(found))
    except SpinelError:
        # nothing can be written just now, or the network is none any more: work is stopped by hand, as everywhere then
        return []
    _LOOKED[key] = hour
    return [number for number, _ in found]


def review(unit: Unit) -> list[str]:
    """The same within an act that changed what is in date."""
    site, now = unit.site, unit.act.now
    found = dict(_each(site, now, site.as_it_is().day(now))) if site.published() else {}
    _suspend(unit, found)
    return list(found)


def _suspend(unit: Unit, found: dict[str, Sayable]) -> None:
    for number, why in found.items():
        permit = store.permit(number)
        if permit is not None and permit.state in ("issued", "in_force"):
            stopping.suspend(unit, permit, why)


def _each(site: Site, now: datetime, day: date) -> Iterator[tuple[str, Sayable]]:
    """Permit and the first reason, for each under which something has run out on a day."""
    given: dict[str, list[str]] = {}
    for item in gear.everything(site):
        if item.held_for and not item.retired and state(item, day) in (OVERDUE, UNTESTED):
            given.setdefault(item.held_for, []).append(item.number)
    for permit in store.permits_in(("issued", "in_force")):
        seen = as_view(site, permit, now)
        if seen.shown_state == "expired":
            continue
        if number := next(iter(given.get(seen.number, ())), ""):
            yield seen.number, say("run-out-gear", number=number)
        elif (why := _unqualified(site, seen, max(day, site.as_it_is().day(seen.window_start)))) is not None:
            yield seen.number, say("run-out-person", why=why)


def _unqualified(site: Site, seen: PermitView, day: date) -> Sayable | None:
    """Why somebody on it may not do it on a day; of work that has not begun, on the day on which it begins."""
    here = site.as_it_is()
    task, kind = seen.content["task"]["skill"], seen.content["equipment"]["equipment_class"]
    for person_id, name in seen.roster.items():
        try:
            standing.need(here, person_id, name, task, kind, day)
        except Refusal as refusal:
            return refusal.why
    return None
