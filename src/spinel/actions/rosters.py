"""Who is put to work on what, from when until when: permits and programs, as they stand."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime

from spinel.actions import job_plan, permits
from spinel.actions.acting import utc_moment
from spinel.actions.site import Site, on_site
from spinel.store import holds, jobs, programs
from spinel.store import permits as permits_store

#: Permits that somebody has been put on, and programs that somebody has to go on with.
PUT_TO_WORK = ("submitted", "approved", "issued", "in_force", "suspended")
UNDER_WAY = ("executing", "stopped")


@dataclass(frozen=True)
class OnRoster:
    """``kind``: permit, program, or job, of which the plan is meant. ``part``: what somebody is on it. ``end``: None
    of a program, which ends when it is done; ``late``: a permit that ran out and was not handed back. ``asked``: not
    issued yet."""

    kind: str
    number: str
    part: str
    start: datetime
    end: datetime | None
    late: bool = False
    asked: bool = False

    def meets(self, start: datetime, end: datetime | None) -> bool:
        """Is it at the same time as something else? What is late, or has no end, is until it is over."""
        own = None if self.late else self.end
        return (end is None or self.start < end) and (own is None or start < own)


def clashes(duty: OnRoster, start: datetime, end: datetime, now: datetime) -> bool:
    """Is somebody on a roster while they are to be on something? What is late is over before something later begins,
    or that one is late too."""
    return duty.meets(start, end) and not (duty.late and start > now)


@on_site
def duties(site: Site, now: datetime) -> dict[int, list[OnRoster]]:
    """By person, the first to begin first."""
    found: dict[int, list[OnRoster]] = {}
    for seen in permits.in_states(site, PUT_TO_WORK, now):
        late = seen.shown_state == "expired" and seen.state != "issued"
        asked = seen.state in ("submitted", "approved")
        if seen.shown_state == "expired" and not late:
            continue
        for person_id, part in _on(seen).items():
            duty = OnRoster("permit", seen.number, part, seen.window_start, seen.window_end, late, asked)
            found.setdefault(person_id, []).append(duty)
    taken = jobs_put_to_work(site)
    for job in jobs.planned():
        planned = job_plan.read(job)
        # once its permit is asked for, that is what they are put on
        if job.number in taken or planned.start is None or planned.end is None or planned.end <= now:
            continue
        for person_id, part in planned.everybody.items():
            duty = OnRoster("job", job.number, part, planned.start, planned.end, asked=True)
            found.setdefault(person_id, []).append(duty)
    began = programs.begun()
    for p in programs.programs_in(UNDER_WAY):
        for person_id, part in ((p.director_id, "director"), (p.operator_id, "operator")):
            if person_id is not None:
                since = utc_moment(began.get(p.number, p.changed_at))
                found.setdefault(person_id, []).append(OnRoster("program", p.number, part, since, None))
    return {person_id: sorted(each, key=lambda d: d.start) for person_id, each in found.items()}


@on_site
def jobs_put_to_work(site: Site) -> frozenset[str]:
    """Jobs whose permit somebody has asked for, and that is not over."""
    return frozenset(p.job.number for p in permits_store.permits_in(PUT_TO_WORK))


def _on(seen: permits.PermitView) -> dict[int, str]:
    """Everybody on a permit, by what they are on it; who leads or works is that before they only watch."""
    found = {a["id"]: "attendant" for a in seen.content["access"]["attendants"]}
    found |= dict.fromkeys(seen.roster, "worker")
    in_charge = seen.content["people"]["in_charge"]
    return found | ({in_charge["id"]: "person_in_charge"} if in_charge else {})


@on_site
def locks(site: Site) -> dict[int, list[str]]:
    """Holds whose box or device somebody's lock hangs on."""
    found: dict[int, list[str]] = {}
    for row in holds.everything():
        if row.hold not in found.setdefault(row.person_id, []):
            found[row.person_id].append(row.hold)
    return found


def at_once(each: Mapping[int, Iterable[OnRoster]]) -> dict[int, list[tuple[OnRoster, OnRoster]]]:
    """Who is on two rosters at the same time. An operator or a director of a hold may stand on the permit that it is
    for: warned of, and not refused."""
    found = {}
    for person_id, duties_of in each.items():
        own = list(duties_of)
        pairs = [
            (a, b) for i, a in enumerate(own) for b in own[i + 1 :] if a.number != b.number and a.meets(b.start, b.end)
        ]
        if pairs:
            found[person_id] = pairs
    return found


@on_site
def elsewhere(
    site: Site, number: str, people: Iterable[int], window: tuple[datetime, datetime], now: datetime
) -> dict[int, OnRoster]:  # fmt: skip
    """Of those who are to be on something in a window, what else each is on then, the first to begin."""
    each = duties(site, now)
    found = {}
    for person_id in people:
        other = next((d for d in each.get(person_id, ()) if d.number != number and clashes(d, *window, now)), None)
        if other is not None:
            found[person_id] = other
    return found
