"""The week: what is planned and permitted on each day, who is on two things at once, and for whom the site owns too
little to be dressed."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from spinel.actions import gear, job_plan, jobs, kit, permits, rosters
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.gear.items import Item
from spinel.core.gear.matching import most_dressed
from spinel.store import jobs as store

DAYS = 7


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """``kind``: job or permit. ``people``: names; ``twice``: of those, who is on something else then, with its number.
    ``late``: it ran out."""

    kind: str
    number: str
    title: str
    tags: tuple[str, ...]
    start: datetime
    end: datetime
    people: tuple[str, ...]
    twice: Mapping[str, str]
    state: str
    late: bool = False


@dataclass(frozen=True, kw_only=True)
class Short:
    """``people``: so many need something for a zone that day; ``dressed``: so many of them the site can dress at once.
    ``jobs``: for which."""

    zone: str
    people: int
    dressed: int
    jobs: tuple[str, ...]


@dataclass(frozen=True)
class Day:
    on: date
    stretches: tuple[Stretch, ...]
    short: tuple[Short, ...] = field(default=())


@on_site
def week(site: Site, first: date, now: datetime) -> tuple[Day, ...]:
    """Seven days from one on, at the site."""
    here, zone = site.as_it_is(), ZoneInfo(site.as_it_is().network.site.time_zone)
    each = _stretches(here, now)
    days = []
    for offset in range(DAYS):
        on = first + timedelta(days=offset)
        begins = datetime.combine(on, time(), zone)
        ends = datetime.combine(on + timedelta(days=1), time(), zone)
        there = tuple(s for s in each if s.start < ends and begins < s.end)
        days.append(Day(on, there, _short(here, there, on)))
    return tuple(days)


def _stretches(here: SiteNow, now: datetime) -> list[Stretch]:
    names, duties = here.site.names(), rosters.duties(here.site, now)

    def twice(people: Iterable[int], number: str, start: datetime, end: datetime) -> dict[str, str]:
        found = {}
        for i in people:
            for d in duties.get(i, ()):
                if d.number != number and rosters.clashes(d, start, end, now):
                    found[names[i]] = d.number
        return found

    found = []
    for seen in permits.in_states(here.site, rosters.PUT_TO_WORK, now):
        found.append(Stretch(
            kind="permit", number=seen.number, title=seen.content["title"], tags=(seen.content["equipment"]["tag"],),
            start=seen.window_start, end=seen.window_end, people=tuple(sorted(names[i] for i in seen.everybody)),
            twice=twice(seen.everybody, seen.number, seen.window_start, seen.window_end), state=seen.shown_state,
            late=seen.shown_state == "expired",
        ))  # fmt: skip
    under_permit = rosters.jobs_put_to_work(here.site)
    for job in store.planned():
        planned = job_plan.read(job)
        if job.number in under_permit or planned.start is None or planned.end is None:
            continue
        parts = job_plan.together(here.site, job.number)
        element = here.network.element.get(job.element_id)
        tags = tuple(dict.fromkeys(p.tag for p in parts)) or ((element.tag,) if element else ())
        found.append(Stretch(
            kind="job", number=job.number, title=job.title, tags=tags, start=planned.start, end=planned.end,
            people=tuple(sorted(names[i] for i in planned.everybody)), state=job.state,
            twice=twice(planned.everybody, job.number, planned.start, planned.end),
        ))  # fmt: skip
    return sorted(found, key=lambda s: (s.start, s.number))


def _short(here: SiteNow, there: Iterable[Stretch], on: date) -> tuple[Short, ...]:
    """By zone, whether everybody of the day can be dressed at once in what the site owns. One person on two jobs of a
    day is dressed for the worse of them."""
    asked: dict[str, dict[int, tuple[Item, ...]]] = {}
    by: dict[str, set[str]] = {}
    items = gear.everything(here.site)
    for stretch in there:
        for number, wearer in _wearers(here, stretch, items, on):
            for offer in wearer.offers:
                if offer.need.rating_cal_cm2 is None and not offer.need.glove_class:
                    continue
                zone = asked.setdefault(offer.need.zone, {})
                fits = (*offer.fits, *offer.heavier)
                before = zone.get(wearer.id)
                zone[wearer.id] = fits if before is None else tuple(i for i in before if i in fits)
                by.setdefault(offer.need.zone, set()).add(number)
    found = []
    for zone_id, wearers in asked.items():
        dressed = most_dressed({i: [item.number for item in fits] for i, fits in wearers.items()})
        if dressed < len(wearers):
            found.append(Short(zone=zone_id, people=len(wearers), dressed=dressed, jobs=tuple(sorted(by[zone_id]))))
    return tuple(found)


def _wearers(
    here: SiteNow, stretch: Stretch, items: list[Item], on: date
) -> Iterator[tuple[str, kit.Wearer]]:  # fmt: skip
    """Whoever works on it, with what fits them at the figures of each of its parts. A place without a figure dresses
    nobody: that it has none is said elsewhere."""
    for number, hazard, roster in _at(here, stretch):
        if hazard["energy_cal_cm2"] is not None:
            for wearer in kit.wearers(here, hazard, roster, items, on)[1]:
                yield number, wearer


def _at(here: SiteNow, stretch: Stretch) -> Iterator[tuple[str, Mapping[str, Any], Mapping[int, str]]]:
    """Each part with its figures, and who works there by name."""
    if stretch.kind == "permit":
        seen = permits.as_view(here.site, permits.stored(stretch.number), stretch.start)
        yield seen.number, seen.content["hazard"], seen.roster
        return
    names = here.site.names()
    workers = {i: names[i] for i in job_plan.of_job(here.site, stretch.number).workers}
    for number in [p.number for p in job_plan.together(here.site, stretch.number)] or [stretch.number]:
        part = jobs.view_of(here, jobs.stored(number))
        # what is done dead asks nobody to dress for an arc
        if part.state == "open" and part.hazard is not None and part.decision is not None and part.decision.live:
            yield number, part.hazard.data, workers
