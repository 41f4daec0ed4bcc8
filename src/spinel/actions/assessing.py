"""The risk of a job: several people asked, each alone; what they saw side by side; what they agree.

Nobody reads another's opinion before their own is given, and whoever is not asked reads none before all are: neither
here nor in the ledger, which keeps the hash of an opinion alone. The figures are frozen as they were asked about.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from spinel.actions import jobs, task_library
from spinel.actions.acting import Act, Actor, work
from spinel.actions.permit_review import FIGURES
from spinel.actions.site import Site, SiteNow, on_site
from spinel.actions.standing import REFUSED
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.isolation.reenergizing import reenergizing
from spinel.core.permit.life import exceeds
from spinel.core.risk.opinions import (
    Agreed,
    HazardMark,
    Opinion,
    SideBySide,
    as_data,
    check_agreed,
    checked,
    of_data,
    side_by_side,
)
from spinel.core.risk.scales import ARC, LIKELIHOOD, SEVERITY, STEPS
from spinel.core.said import Sayable, say
from spinel.core.stored import parsed
from spinel.store import assessments as store
from spinel.store import settings
from spinel.store.models import Assessment, Job
from spinel.store.numbering import next_number

#: What is assessed of a job: its work, and putting the voltage back after it, which is a task of its own.
WORK, BACK = "work", "reenergizing"
SUBJECTS = (WORK, BACK)
OPEN, OPENED, AGREED = "open", "opened", "agreed"
#: Key of the site's own words for its scales.
WORDS = "risk_words"
#: Key of whether a permit waits for an agreement on the risk of its job.
RULE = "risk_rule"
#: So many people are asked: one alone sees what one sees.
LEAST, MOST = 2, 12


@dataclass(frozen=True, kw_only=True)
class Assessing:
    """``asked``, ``given``: names, of those who were asked and of those who have answered. ``rows``: None while this
    reader may not see them. ``worse``: the figures of the place are worse by now, or other terminals are reached."""

    number: str
    job: str
    state: str
    version: int
    content: Mapping[str, Any]
    asked: Mapping[int, str]
    given: tuple[str, ...]
    mine: tuple[HazardMark, ...] | None
    i_am_asked: bool
    rows: tuple[SideBySide, ...] | None
    agreed: Mapping[str, Mapping[str, Any]]
    agreed_by: str
    agreed_at: str
    because: Sayable
    worse: bool
    changed_by: str
    changed_at: str

    @property
    def subject(self) -> str:
        return str(self.content.get("subject", WORK))

    @property
    def waiting(self) -> tuple[str, ...]:
        return tuple(name for name in self.asked.values() if name not in self.given)

    @property
    def open_points(self) -> tuple[str, ...]:
        """Hazards on which there is no agreement."""
        return tuple(h for h, a in self.agreed.items() if not a["agreed"])


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", "person_in_charge", what=say("act-risk-ask-for-opinions"))


@on_site
def ask(act: Act, job_number: str, people: Sequence[int], subject: str = WORK) -> str:
    """Ask people for what they see, each alone, about the job as it stands now. One that is not finished is left: its
    opinions stay. The number."""
    may(act)
    wanted = tuple(dict.fromkeys(people))
    if not LEAST <= len(wanted) <= MOST:
        raise InputError("people", len(wanted), say("risk-so-many-people", least=LEAST, most=MOST))
    known = {p.id for p in act.site.register() if p.active}
    if not set(wanted) <= known:
        raise InputError("people", "", say("permit-moves-the-registered-people-who-were-there"))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number)
        before = store.latest(job.id, subject)
        if before is not None and before.state in (OPEN, OPENED):
            store.change(before, act.at, act.actor.name, state="left")
        number = next_number(Assessment, "RA")
        content = _frozen(unit.site.as_it_is(), job, subject)
        text = canonical(content)
        store.insert(number, job.id, text, digest(text), wanted, act.actor.id, act.at, act.actor.name)
        names = unit.site.names()
        unit.record("opinions asked", f"job:{job.number}", {"assessment": number, "asked": [names[i] for i in wanted],
                                                           "content_hash": digest(text)})  # fmt: skip
    return number


def _frozen(here: SiteNow, job: Job, subject: str) -> dict[str, Any]:
    """What they are asked about. Of putting the voltage back: the device at which it can hurt most. Refusal where
    nothing is closed again."""
    element, touches = here.network.get(job.element_id), jobs.reach_of(here, job).code
    task, version = job.task_id, job.task_version
    hazard = here.study.hazard(element.id, touches)
    if subject == BACK:
        again = reenergizing(here.study, element)
        if again.worst is None:
            raise Refusal(say("risk-of-what-is-closed-again"), again.why_not or say("reenergizing-nothing"),
                          say("risk-ask-about-the-work"))  # fmt: skip
        element, hazard, touches = again.worst.element, again.worst.hazard, again.worst.hazard.touches
        task, version = "operate", task_library.kept(here.site, "operate").version
    return {
        "subject": subject,
        "element_id": element.id, "tag": element.tag, "touches": touches, "task": task,
        "task_version": version, "title": job.title, "revision": here.number,
        "energy_cal_cm2": hazard.energy_cal_cm2, "no_figure": hazard.no_figure, "boundary_mm": hazard.boundary_mm,
        "voltage_v": hazard.voltage_v, "current": hazard.current, "working_distance_mm": hazard.working_distance_mm,
    }  # fmt: skip


@on_site
def of_job(site: Site, job_number: str, reader: Actor | None, subject: str = WORK) -> Assessing | None:
    """The last assessment of a job as somebody may see it; None where there is none."""
    row = store.latest(jobs.stored(job_number).id, subject)
    return _view(site, row, reader) if row is not None else None


def _view(site: Site, row: Assessment, reader: Actor | None) -> Assessing:
    # a name is one person's for ever: papers and the ledger go by it
    names, given = site.names(), store.opinions(row.id)
    asked = {i: names[i] for i in json.loads(row.asked)}
    own = next((o for o in given if reader is not None and o.person_id == reader.id), None)
    may_see = row.state != OPEN or own is not None
    opinions = [Opinion(o.person_id, asked[o.person_id], of_data(json.loads(o.marks))) for o in given]
    content = parsed(row.content)
    job = row.job
    return Assessing(
        number=row.number, job=job.number, state=row.state, version=row.version, content=content, asked=asked,
        given=tuple(asked[o.person_id] for o in given), mine=of_data(json.loads(own.marks)) if own else None,
        i_am_asked=reader is not None and reader.id in asked,
        rows=side_by_side(opinions, content["energy_cal_cm2"]) if may_see and opinions else None,
        agreed={a["hazard"]: a for a in parsed(row.agreed)}, agreed_by=row.agreed_by, agreed_at=row.agreed_at,
        because=row.because, worse=_worse(site.as_it_is(), job, content), changed_by=row.changed_by,
        changed_at=row.changed_at,
    )  # fmt: skip


def _worse(here: SiteNow, job: Job, content: Mapping[str, Any]) -> bool:
    """Is what they were asked about no longer what is there?"""
    if job.element_id not in here.network.element:
        return True
    try:
        now = _frozen(here, job, content.get("subject", WORK))
    except Refusal:
        return True
    if any(now[key] != content[key] for key in ("element_id", "touches", "task")):
        return True
    return bool(exceeds({key: content[key] for key in FIGURES}, {key: now[key] for key in FIGURES}))


@on_site
def seal(act: Act, number: str, marks: Sequence[HazardMark]) -> None:
    """One's own opinion, given and fixed. The last one opens them all."""
    mine = checked([_said(m) for m in marks])
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        asked = json.loads(row.asked)
        if act.actor.id not in asked:
            raise NotAllowed(
                say("risk-who-is-asked-answers"),
                say("risk-you-were-not-asked", number=number),
                say("risk-ask-to-be-asked"),
            )
        given = {o.person_id for o in store.opinions(row.id)}
        if row.state != OPEN or act.actor.id in given:
            raise Refusal(
                say("risk-an-opinion-is-given-once"), say("risk-it-is-given-or-over", number=number),
                say("risk-say-it-when-agreeing"),
            )  # fmt: skip
        text = canonical(as_data(mine))
        store.add_opinion(row.id, int(act.actor.id or 0), act.actor.name, text, act.at)
        # what they saw is in no entry that others could read before their own
        unit.record("opinion given", f"job:{row.job.number}", {"assessment": number, "hash": digest(text)})
        if given | {act.actor.id} >= set(asked):
            store.change(row, act.at, act.actor.name, state=OPENED)
            unit.record_by_system("opinions opened", f"job:{row.job.number}", {"assessment": number})


def _said(m: HazardMark) -> HazardMark:
    return HazardMark(hazard=m.hazard, severity=m.severity, likelihood=m.likelihood, rungs=m.rungs,
                note=texts.PLAN.check(m.note, "note"))  # fmt: skip


@on_site
def open_early(act: Act, number: str, reason: str) -> None:
    """Opened though somebody has not answered: who, stays named. At least two have."""
    may(act)
    why = texts.REASON.check(reason)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        given = store.opinions(row.id)
        if row.state != OPEN or len(given) < LEAST:
            raise Refusal(
                say("risk-opened-once-with-two"), say("risk-so-many-have-answered", count=len(given)),
                say("risk-wait-for-another"),
            )  # fmt: skip
        names = unit.site.names()
        missing = [names[i] for i in json.loads(row.asked) if i not in {o.person_id for o in given}]
        store.change(row, act.at, act.actor.name, state=OPENED, because=why)
        unit.record("opinions opened", f"job:{row.job.number}", {"assessment": number, "because": why,
                                                                "missing": missing})  # fmt: skip


@on_site
def agree(
    act: Act,
    number: str,
    version: int,
    agreed: Sequence[Agreed],
    energy_after_cal_cm2: float | None,
    by: Sayable = "",
    condition: Mapping[str, Any] | None = None,
) -> None:
    """What they agree, hazard by hazard; what is not agreed is named. ``energy_after_cal_cm2``: what is left with the
    inherent control ``by``; as it is, where there is none. ``condition``: what that asks of the permit: ``holds``, and
    the tags of devices that it ``sets``."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        if row.state not in (OPENED, AGREED):
            raise Refusal(
                say("risk-agreed-when-all-have-answered"), say("risk-it-is-not-open", number=number),
                say("risk-wait-for-another"),
            )  # fmt: skip
        if row.version != version:
            raise Stale("assessment", row.number, row.changed_by, row.changed_at)
        seen = _view(unit.site, row, act.actor)
        if seen.subject == BACK and condition and condition["sets"]:
            # no permit or program would hold anybody to it
            raise InputError("option", row.number, say("risk-an-option-that-was-computed"))
        after = energy_after_cal_cm2 if by else seen.content["energy_cal_cm2"]
        if seen.worse:
            raise Refusal(say("risk-agreed-about-what-is"), say("verdict-risk-worse"), say("risk-ask-and-agree"))
        check_agreed(seen.rows or (), agreed, after)
        kept = [{**asdict(a), "controls": {k: texts.PLAN.check(v, k) for k, v in a.controls.items() if v.strip()},
                 "note": texts.PLAN.check(a.note, "note")} for a in agreed]  # fmt: skip
        for a in kept:
            if a["hazard"] == ARC:
                a |= {"energy_after": after, "by": by, "condition": dict(condition or {})}
        whole = all(a.agreed for a in agreed)
        store.change(
            row, act.at, act.actor.name, agreed=canonical(kept), agreed_by=act.actor.name, agreed_at=act.at,
            state=AGREED if whole else OPENED,
        )  # fmt: skip
        known = {"assessment": number, "agreed": kept, "whole": whole, "energy_after_cal_cm2": after, "by": by}
        unit.record("risk agreed", f"job:{row.job.number}", known)


def _row(number: str) -> Assessment:
    found = store.one(number)
    if found is None:
        raise NotFound("assessment", number)
    return found


@on_site
def may_word(act: Act) -> None:
    act.actor.needs("coordinator", what=say("setup-change-settings"))


@on_site
def change_words(act: Act, own: Mapping[str, Sequence[str]], reason: str) -> None:
    """The steps of both scales in the site's own words, the least first; no words for a scale: as it ships."""
    may_word(act)
    why = texts.REASON.check(reason)
    kept = {}
    for scale in (SEVERITY, LIKELIHOOD):
        lines = [texts.SCALE_STEP.check(line, scale) for line in own.get(scale, ())]
        if lines and (len(lines) != len(STEPS) or len({line.casefold() for line in lines}) != len(STEPS)):
            raise InputError(scale, len(lines), say("risk-a-word-for-each-step", count=len(STEPS)))
        if lines:
            kept[scale] = lines
    with work(act) as unit:
        if not unit.done:
            settings.put(WORDS, kept)
            unit.record("setting changed", f"setting:{WORDS}", {"value": kept, "because": why})


@on_site
def need_agreed(site: Site, job_number: str) -> None:
    """Where the site wants it: Refusal for a job whose risk several people have not agreed on as it stands now."""
    if settings.get(RULE) != REFUSED:
        return
    found = of_job(site, job_number, None)
    if found is None or found.state != AGREED or found.worse:
        why = say("risk-nobody-agreed-on-it") if found is None or found.state != AGREED else say("verdict-risk-worse")
        raise Refusal(say("risk-agreed-before-a-permit"), why, say("risk-ask-and-agree"))


@on_site
def conditions(site: Site, job: Job) -> list[dict[str, Any]]:
    """What the inherent control that was agreed on asks of a permit, whether or not the figures moved since: one
    condition more makes nothing worse."""
    row = store.agreed(job.id, WORK)
    if row is None:
        return []
    arc: dict[str, Any] = next((a for a in parsed(row.agreed) if a["hazard"] == ARC), {})
    asked = arc.get("condition") or {}
    if not arc.get("by"):
        return []
    return [{"what": arc["by"], "holds": list(asked.get("holds", ())), "sets": list(asked.get("sets", ()))}]


@on_site
def waits_for(site: Site, person_id: int) -> list[tuple[str, str]]:
    """Assessment and job for which somebody's own opinion is still to be given."""
    return store.waiting_for(person_id)
