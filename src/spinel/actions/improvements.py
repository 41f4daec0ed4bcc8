"""The site's list of inherent improvements: what would lower a risk at its source, by how much, whose it is to see to,
by when, and what became of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from spinel.actions import jobs
from spinel.actions.acting import Act, work
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.said import Sayable, say
from spinel.core.stored import parsed
from spinel.store import improvements as store
from spinel.store.models import Improvement
from spinel.store.numbering import next_number

PROPOSED, ACCEPTED, DECLINED, DONE = "proposed", "accepted", "declined", "done"
#: What it may become from each state.
NEXT = {PROPOSED: (ACCEPTED, DECLINED), ACCEPTED: (DONE, DECLINED), DECLINED: (), DONE: ()}


@dataclass(frozen=True, kw_only=True)
class Better:
    """``before``, ``after``: incident energy at the place as it was computed when it was proposed, cal/cm²."""

    number: str
    tag: str
    element_id: str
    what: Sayable
    holds: tuple[Sayable, ...]
    before: float | None
    after: float | None
    revision: int
    job: str
    cost: str
    owner: str
    owner_id: int
    due: date
    state: str
    because: str
    version: int
    changed_by: str
    changed_at: str

    @property
    def saved(self) -> float | None:
        """By how much, cal/cm²; None where one of the two has no figure."""
        return None if self.before is None or self.after is None else self.before - self.after

    def late(self, today: date) -> bool:
        return self.state in (PROPOSED, ACCEPTED) and self.due < today


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", "person_in_charge", "authoriser", what=say("act-improvements-propose"))


@on_site
def propose(
    act: Act, job_number: str, what: Sayable, holds: Sequence[Sayable], before: float | None, after: float | None,
    cost: str, owner: int, due: date, at: str = "",
) -> str:  # fmt: skip
    """Put what was computed for a job's place, or for another piece of equipment ``at`` (without a job, a trial of the
    study), on the list. InputError beside the field for an owner who is not here, for a day that is over, and without
    words for what it costs. Its number."""
    may(act)
    cost = texts.COST.check(cost)
    here = act.site.as_it_is()
    if owner not in {p.id for p in act.site.register() if p.active}:
        raise InputError("owner", owner, say("permit-moves-the-registered-people-who-were-there"))
    if due < here.day(act.now):
        raise InputError("due", due.isoformat(), say("improvement-not-before-today"))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number) if job_number else None
        element = here.network.get(at or (job.element_id if job else ""))
        number = next_number(Improvement, "II")
        content = {
            "tag": element.tag, "what": what, "holds": list(holds), "before": before, "after": after,
            "revision": here.number,
        }  # fmt: skip
        store.insert(
            number=number, element_id=element.id, content=canonical(content), job=job_number, cost=cost, owner_id=owner,
            due=due.isoformat(), created_at=act.at, changed_at=act.at, changed_by=act.actor.name,
        )  # fmt: skip
        told = {**content, "job": job_number, "cost": cost, "owner": unit.site.names()[owner], "due": due.isoformat()}
        unit.record("improvement proposed", f"improvement:{number}", told)
    return number


@on_site
def decide(act: Act, number: str, version: int, state: str, because: str) -> None:
    """What became of it, and why: by a coordinator, or by whose it is to see to."""
    why = texts.REASON.check(because)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        if "coordinator" not in act.actor.roles and row.owner_id != act.actor.id:
            raise NotAllowed(
                say("improvement-who-decides"), say("improvement-owner-or-coordinator"),
                say("acting-ask-somebody-with-that-role"),
            )  # fmt: skip
        if row.version != version:
            raise Stale("improvement", row.number, row.changed_by, row.changed_at)
        if state not in NEXT[row.state]:
            raise Refusal(
                say("improvement-life"), say("improvement-is", state=say(f"improvement-state-{row.state}")),
                say("improvement-propose-anew"),
            )  # fmt: skip
        store.change(row, act.at, act.actor.name, state=state, because=why)
        unit.record(f"improvement {state}", f"improvement:{number}", {"because": why})


def _row(number: str) -> Improvement:
    found = store.one(number)
    if found is None:
        raise NotFound("improvement", number)
    return found


@on_site
def listed(site: Site) -> list[Better]:
    """What is open first, and of that what saves most; an improvement without a figure is not worth less."""
    names = site.names()
    found = [_view(row, names[row.owner_id]) for row in store.everything()]
    open_ = (PROPOSED, ACCEPTED)
    return sorted(found, key=lambda b: (b.state not in open_, -(b.saved if b.saved is not None else float("inf"))))


@on_site
def owned(site: Site, person_id: int) -> list[Better]:
    """What somebody has to see to, the first due first."""
    return [_view(row, site.names()[person_id]) for row in store.of_owner(person_id)]


def _view(row: Improvement, owner: str) -> Better:
    told = parsed(row.content)
    return Better(
        number=row.number, tag=told["tag"], element_id=row.element_id, what=told["what"], holds=tuple(told["holds"]),
        before=told["before"], after=told["after"], revision=told["revision"], job=row.job, cost=row.cost, owner=owner,
        owner_id=row.owner_id, due=date.fromisoformat(row.due), state=row.state, because=row.because,
        version=row.version, changed_by=row.changed_by, changed_at=row.changed_at,
    )  # fmt: skip
