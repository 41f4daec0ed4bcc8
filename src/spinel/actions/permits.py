"""Preparing and reading energized work permits: prefilled content, edits, and the view that pages and papers use.

What moves a permit through its life is in permit_moves; what the world does to it is in review and expiry.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any

from spinel.actions import assessing, job_plan, jobs, people, signed
from spinel.actions.acting import Act, Unit, utc_moment, utc_text, work
from spinel.actions.equipment import also_inside, equipment_class
from spinel.actions.keeping import keep, save
from spinel.actions.permit_prefill import here_still, set_steps, window
from spinel.actions.signed import Record, Signed
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.hazard import Hazard
from spinel.core.isolation.reenergizing import reenergizing
from spinel.core.network.document import Element
from spinel.core.permit.decision import never_dead
from spinel.core.permit.justification import QUESTIONS
from spinel.core.permit.life import ENDED, SIGNED, check_move, expired
from spinel.core.profile import spoken_in
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.said import Sayable, say
from spinel.core.tables.forms import Justification
from spinel.store import permits as store
from spinel.store.models import Job, Permit, PermitRecord
from spinel.store.numbering import next_number

#: What a task asks beside energy and voltage, as a permit keeps it.
TASK_NEEDS = ("instruments", "tools", "wear", "place", "hazards")
#: Records that a device was set for a permit, and put back.
SET, PUT_BACK = "device set", "device put back"


@dataclass(frozen=True, kw_only=True)
class Plan:
    """What a person may write into a permit; everything else is filled in from network, task and job."""

    steps: tuple[Sayable, ...]
    practices: tuple[Sayable, ...]
    workers: tuple[int, ...]
    in_charge: int | None
    attendants: tuple[int, ...]
    keep_out: Sayable
    special: str
    window_start: datetime
    window_end: datetime
    working_distance_mm: float | None = None
    distance_reason: str = ""


@dataclass(frozen=True, kw_only=True)
class PermitView(Signed):
    number: str
    job: str
    state: str
    shown_state: str
    draft: int
    version: int
    content: Mapping[str, Any]
    content_hash: str
    window_start: datetime
    window_end: datetime
    suspended_because: str
    requested_by: int
    requester: str
    changed_by: str
    changed_at: str
    records: tuple[Record, ...]

    @property
    def roster(self) -> dict[int, str]:
        """Everybody who works on it: planned workers, and those briefed later."""
        found = {w["id"]: w["name"] for w in self.content["people"]["workers"]}
        for r in self.valid("briefed"):
            found |= {p["id"]: p["name"] for p in r.detail.get("joined", ())}
        return found

    @property
    def everybody(self) -> frozenset[int]:
        """Whoever works on it, leads it or watches."""
        in_charge = self.content["people"]["in_charge"]
        watching = {a["id"] for a in self.content["access"]["attendants"]}
        return frozenset({*self.roster, *watching, *([in_charge["id"]] if in_charge else ())})

    @property
    def positions_signed(self) -> dict[str, Record]:
        """Who signed this content for which position of the site, by its title."""
        return {r.detail["position"]: r for r in self.valid("signed")}

    @property
    def to_set(self) -> tuple[str, ...]:
        """Tags of devices that its conditions have set for the work."""
        return tuple(tag for c in self.content.get("conditions", ()) for tag in c["sets"])

    @property
    def set_now(self) -> frozenset[str]:
        """Tags of devices that are set for it and not put back: whatever became of its content, they are so."""
        found: set[str] = set()
        for r in self.records:
            if r.kind == SET:
                found.add(r.detail["tag"])
            elif r.kind == PUT_BACK:
                found.discard(r.detail["tag"])
        return frozenset(found)

    def stated(self, person_id: int) -> bool:
        return any(r.person_id == person_id for r in self.valid("stated"))

    def owes_attendance(self) -> dict[int, str]:
        """Who watches and has not signed that they were briefed, also whoever was not there. Workers sign by their
        statements, whoever leads by accepting, whoever held it by recording it."""
        return {
            a["id"]: a["name"] for a in self.content["access"]["attendants"]
            if not self.by("attended", a["id"]) and not self.by("briefed", a["id"])
        }  # fmt: skip

    @property
    def tools_in(self) -> int | None:
        """So many tools and loose parts went in when it was last accepted; None where nobody counted."""
        accepted = [r for r in self.records if r.kind == "accepted"]
        found = accepted[-1].detail.get("tools_in") if accepted else None
        return int(found) if found is not None else None

    def briefed(self) -> set[int]:
        return {p for r in self.valid("briefed") for p in r.detail.get("attended", ())}

    def parts_of(self, person_id: int | None) -> frozenset[str]:
        """What a person already is on this permit; separation of duties reads it."""
        parts = set()
        # whoever wrote any part of it, ever, whatever became of that part
        wrote = (r.person_id for r in self.records if r.kind in ("edited", "submitted"))
        if person_id == self.requested_by or person_id in wrote:
            parts.add("requester")
        if any(r.person_id == person_id for r in self.valid("approved")):
            parts.add("approver")
        if any(r.person_id == person_id for r in self.valid("signed")):
            parts.add("signatory")
        if any(r.person_id == person_id for r in self.valid("issued")):
            parts.add("issuer")
        if person_id in self.roster:
            parts.add("worker")
        return frozenset(parts)


@on_site
def view(site: Site, number: str, now: datetime) -> PermitView:
    """The permit as it is, or NotFound. Expiry is computed, never stored."""
    return as_view(site, stored(number), now)


@on_site
def as_view(site: Site, p: Permit, now: datetime) -> PermitView:
    """A stored permit."""
    return _view(p, now, store.records(p.id), site.names())


def _view(p: Permit, now: datetime, rows: Sequence[PermitRecord], names: Mapping[int, str]) -> PermitView:
    start, end = utc_moment(p.window_start), utc_moment(p.window_end)
    shown = "expired" if expired(p.state, end, now, over=bool(p.over)) else p.state
    records = signed.read("permit record", rows, p.content_hash)
    return PermitView(
        number=p.number,
        job=p.job.number,
        state=p.state,
        shown_state=shown,
        draft=p.draft,
        version=p.version,
        content=shapes.content("permit", p.content),
        content_hash=p.content_hash,
        window_start=start,
        window_end=end,
        suspended_because=p.suspended_because,
        requested_by=p.requested_by_id,
        requester=names[p.requested_by_id],
        changed_by=p.changed_by,
        changed_at=p.changed_at,
        records=records,
    )


@on_site
def in_states(site: Site, states: Iterable[str], now: datetime) -> list[PermitView]:
    """All permits in these states, their records read at once."""
    found = store.permits_in(states)
    rows = store.records_of(p.id for p in found)
    names = site.names()
    return [_view(p, now, rows[p.id], names) for p in found]


@on_site
def draft(act: Act, job_number: str) -> str:
    """A permit for a job that is decided live with a permit, prefilled. Returns its number."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number)
        running = [p.number for p in store.permits_of(job.id) if p.state not in ENDED]
        if running:
            raise Refusal(
                say("act-permits-one-permit-at-a-time"),
                say("act-permits-of-this-job-has-not-ended", running=running[0]),
                say("act-permits-continue-with-it"),
            )
        chosen, planned = jobs.task_of(unit.site, job), here_still(unit.site, job_plan.of_job(unit.site, job.number))
        asked = assessing.conditions(unit.site, job)
        start, end = window(act.now, planned, float(unit.site.as_it_is().settings["longest_window_h"]))
        plan = Plan(
            steps=(*set_steps(asked, "permit-step-set"), *chosen.steps, *set_steps(asked, "permit-step-put-back")),
            practices=chosen.practices,
            workers=planned.workers,
            in_charge=planned.in_charge,
            attendants=planned.attendants,
            keep_out=unit.site.as_it_is().profile.keep_out,
            special=planned.remarks,
            window_start=start,
            window_end=end,
        )
        return _insert(unit, job, plan)


@on_site
def copy(act: Act, number: str) -> str:
    """A new draft from a permit that has ended or expired: what is issued is never edited."""
    check_move("edit", "draft", act.actor.roles, ())
    old = as_view(act.site, stored(number), act.now)
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        if old.state not in ENDED:
            raise Refusal(
                say("act-permits-cancel-and-copy"),
                say("act-permits-has-not-ended", number=number),
                say("act-permits-cancel-it-first"),
            )
        job = jobs.open_job(old.job)
        running = [p.number for p in store.permits_of(job.id) if p.state not in ENDED]
        if running:
            raise Refusal(
                say("act-permits-one-permit-at-a-time"),
                say("act-permits-of-this-job-has-not-ended", running=running[0]),
                say("act-permits-continue-with-it"),
            )
        plan = plan_of(old)
        length = plan.window_end - plan.window_start
        start = act.now.replace(second=0, microsecond=0) + timedelta(minutes=60 - act.now.minute % 60)
        return _insert(unit, job, replace(plan, window_start=start, window_end=start + length))


def _insert(unit: Unit, job: Job, plan: Plan) -> str:
    here = unit.site.as_it_is()
    number = next_number(Permit, here.profile.prefixes["permit"])
    content = shapes.write("permit", _content(here, job, plan, 1))
    store.insert(
        number,
        job.id,
        content.text,
        content.hash,
        utc_text(plan.window_start),
        utc_text(plan.window_end),
        unit.act.actor.id,
        unit.act.at,
        unit.act.actor.name,
    )
    unit.record("permit drafted", f"permit:{number}", {"job": job.number, "content_hash": content.hash})
    return number


@on_site
def edit(act: Act, number: str, version: int, plan: Plan) -> bool:
    """Write the plan into the permit. After submission this returns it to draft and voids signatures.

    Returns True when signatures were voided.
    """
    with work(act) as unit:
        if unit.done:
            return False
        permit = stored(number)
        check_move("edit", permit.state, act.actor.roles, ())
        _check_plan(plan, float(unit.site.as_it_is().settings["longest_window_h"]))
        voids = permit.state in SIGNED
        draft_number = permit.draft + 1 if voids else permit.draft
        content = shapes.write("permit", _content(unit.site.as_it_is(), permit.job, plan, draft_number))
        save(
            act,
            permit,
            version,
            state="draft",
            draft=draft_number,
            content=content.text,
            content_hash=content.hash,
            window_start=utc_text(plan.window_start),
            window_end=utc_text(plan.window_end),
        )
        unit.record("permit edited", f"permit:{number}", {"content_hash": content.hash, "voided": voids})
        keep(unit, permit, "edited", {}, signed_hash=content.hash)
        if voids:
            keep(unit, permit, "voided", {"because": say("act-permits-edited-by", name=act.actor.name)})
    return voids


@on_site
def preview(site: Site, number: str, working_distance_mm: float) -> Hazard:
    """The hazard of a permit's place at another working distance; nothing is saved."""
    permit = stored(number)
    content = shapes.content("permit", permit.content)
    return site.as_it_is().study.hazard(
        content["equipment"]["id"], content["touches"], WORKING_DISTANCE_MM.check(working_distance_mm)
    )


def _check_plan(plan: Plan, longest: float) -> None:
    """InputError beside the field for what cannot be kept at all; completeness is asked at submission."""
    if not plan.steps:
        raise InputError("steps", "", say("act-permits-at-least-one-step-one-a-line"))
    if plan.window_end <= plan.window_start:
        raise InputError("window_end", "", say("act-permits-after-the-start-of-the-window"))
    if plan.window_end - plan.window_start > timedelta(hours=longest):
        raise InputError("window_end", "", say("act-permits-at-most-hours-after-the-start-site", longest=longest))
    if len(set(plan.workers)) < len(plan.workers):
        raise InputError("workers", "", say("act-permits-each-person-once"))
    both = set(plan.workers) & set(plan.attendants)
    if both:
        raise InputError("attendants", "", say("act-permits-an-attendant-has-no-other-duty-not"))
    for name in ("keep_out", "special", "distance_reason"):
        if isinstance(text := getattr(plan, name), str):
            texts.PLAN.check(text, name)


def _content(here: SiteNow, job: Job, plan: Plan, draft_number: int) -> dict[str, Any]:
    """Everything a permit holds, from the job, the network as it is now, and the plan: this is what is signed."""
    element = here.network.get(job.element_id)
    chosen = jobs.task_of(here.site, job)
    reach = jobs.reach_of(here, job)
    standard = here.study.hazard(element.id, reach.code).standard_distance_mm
    distance = plan.working_distance_mm if plan.working_distance_mm != standard else None
    decision, hazard, duty = jobs.decision_of(here, job, distance)
    if not decision.permit:
        remedy = decision.remedy or say("act-permits-no-permit-is-needed")
        raise Refusal(say("act-permits-decision", title=decision.title), decision.sentence, remedy)
    if distance is not None and len(plan.distance_reason.split()) < 3:
        raise InputError(
            "distance_reason",
            plan.distance_reason,
            say("act-permits-why-the-working-distance-is-not-the", standard=standard or 0),
        )
    everybody = people.everybody(here.site)
    workers = {p.id: p.name for p in everybody if "worker" in p.roles}
    leaders = {p.id: p.name for p in everybody if "person_in_charge" in p.roles}
    names = {p.id: p.name for p in everybody}
    fed_by, may_feed = here.liveness.sources_of(element)
    claim = here.profile.kept_claim(job.justification)
    return {
        "draft": draft_number,
        "job": job.number,
        "title": job.title,
        "equipment": {
            "id": element.id,
            "tag": element.tag,
            "name": element.name,
            "location": element.location,
            "kind": element.kind_name,
            "voltage_v": hazard.voltage_v,
            "current": hazard.current,
            "equipment_class": equipment_class(here.network, element, reach.code),
        },
        "fed_by": list(fed_by),
        "may_feed": list(may_feed),
        "inside": list(also_inside(here.network, element)),
        "stored_energy": list(element.stored_energy),
        "state": here.state_of(element),
        "touches": reach.code,
        "reach": hazard.reach,
        "worst_side": _worst_side(here.study.hazard(element.id, "", distance), hazard),
        "duty": {"adequate": duty.adequate, "reason": duty.reason} if duty else None,
        "task": {
            "id": chosen.id,
            "name": chosen.name,
            "doors": chosen.doors,
            "skill": chosen.skill,
            "version": job.task_version,
            **{name: list(getattr(chosen, name)) for name in TASK_NEEDS},
        },
        "facts": shapes.read("facts", job.facts),
        "conditions": assessing.conditions(here.site, job),
        "reenergizing": _closed_again(here, element),
        "steps": list(plan.steps),
        "practices": list(plan.practices),
        "justification": {
            "id": claim.id,
            "claim": claim.claim,
            "statement": job.statement,
            "answers": [[QUESTIONS[k].short, said] for k, said in _claimed(job, claim)],
        },
        "decision": {
            "outcome": decision.outcome,
            "sentence": decision.sentence,
            "rule": decision.rule,
            "because": list(decision.because),
        },
        "hazard": hazard.data,
        "distance_reason": plan.distance_reason.strip() if distance is not None else "",
        "access": {
            "barricade_mm": hazard.barricade_mm,
            "barricade_in": hazard.barricade_in,
            "keep_out": plan.keep_out,
            "attendants": [_named(i, names, "attendants") for i in plan.attendants],
        },
        "people": {
            "in_charge": _named(plan.in_charge, leaders, "in_charge") if plan.in_charge else None,
            "workers": [_named(i, workers, "workers") for i in plan.workers],
        },
        "special": plan.special.strip(),
        "window": {"start": utc_text(plan.window_start), "end": utc_text(plan.window_end)},
        "revision": {"number": here.number, "hash": here.hash},
        "profile": here.profile.id,
        "words": spoken_in(here.profile),
    }


def _closed_again(here: SiteNow, element: Element) -> list[dict[str, Any]]:
    """What is closed again should it be made dead after all, each with the figures of whoever stands at it."""
    devices = () if never_dead(element) else reenergizing(here.study, element).devices
    return [
        {
            "tag": c.element.tag, "energy_cal_cm2": c.hazard.energy_cal_cm2, "no_figure": c.hazard.no_figure,
            "boundary_mm": c.hazard.boundary_mm, "working_distance_mm": c.hazard.working_distance_mm,
        }
        for c in devices
    ]  # fmt: skip


def _worst_side(worst: Hazard, chosen: Hazard) -> dict[str, Any] | None:
    """The figures where nothing better were chosen, kept beside those of the side that was; None: alike."""
    if worst.energy_cal_cm2 == chosen.energy_cal_cm2 and not worst.no_figure:
        return None
    return {
        "energy_cal_cm2": worst.energy_cal_cm2,
        "boundary_mm": worst.boundary_mm,
        "no_figure": worst.no_figure,
        "case": worst.energy.case if worst.energy else "",
        "needs": list(chosen.needs),
    }


def _claimed(job: Job, claim: Justification) -> list[tuple[str, str]]:
    """The answers behind a claim, a choice by its words."""
    facts = shapes.read("facts", job.facts)
    return [(k, dict(QUESTIONS[k].choices).get(facts[k], facts[k])) for k in claim.questions if k in facts]


def _named(person_id: int, names: Mapping[int, str], name: str) -> dict[str, Any]:
    if person_id not in names:
        raise InputError(name, person_id, say("act-permits-a-registered-person-with-the-role-for"))
    return {"id": person_id, "name": names[person_id]}


def plan_of(permit: PermitView) -> Plan:
    """The plan that a permit's content holds, to fill its form."""
    c = permit.content
    in_charge = c["people"]["in_charge"]
    return Plan(
        steps=tuple(c["steps"]),
        practices=tuple(c["practices"]),
        workers=tuple(w["id"] for w in c["people"]["workers"]),
        in_charge=in_charge["id"] if in_charge else None,
        attendants=tuple(a["id"] for a in c["access"]["attendants"]),
        keep_out=c["access"]["keep_out"],
        special=c["special"],
        window_start=utc_moment(c["window"]["start"]),
        window_end=utc_moment(c["window"]["end"]),
        working_distance_mm=c["hazard"]["working_distance_mm"],
        distance_reason=c["distance_reason"],
    )


def stored(number: str) -> Permit:
    """The stored permit, or NotFound."""
    permit = store.permit(number)
    if permit is None:
        raise NotFound("permit", number)
    return permit
