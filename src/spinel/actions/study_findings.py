"""What the last study, and the record beside it, find that somebody has to see to: whose it is, by when, and how it was
closed. A finding that was closed as mended and is found by a later study is open again; one that was accepted is open
again as soon as its energy is higher than what was accepted."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from spinel.actions import drafting, kept_up, study_runs
from spinel.actions.acting import Act, utc_moment, work
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import texts
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.network.case_words import case_gaps
from spinel.core.said import Sayable, say
from spinel.core.study import located
from spinel.core.study_compare import SAME
from spinel.core.study_findings import KINDS as STUDY_KINDS
from spinel.core.study_result import name_of
from spinel.store import findings as store
from spinel.store.models import AssignedFinding

#: What the record adds to what a study finds, behind it in gravity.
RECORD_KINDS = ("uncased", "outdated", "old", "letter", "walk", "unmaintained")
KINDS = (*STUDY_KINDS[:-1], *RECORD_KINDS, STUDY_KINDS[-1])
OPEN, MENDED, ACCEPTED = "open", "mended", "accepted"
HOW = (MENDED, ACCEPTED)
#: How old a letter may be that a source's strength comes from, days: with the study it is reviewed every five years.
LETTER_DAYS = 365 * study_runs.REVIEW_YEARS + 1


@dataclass(frozen=True, kw_only=True)
class FindingSeen:
    """``name``: the same in every study. ``number``, ``owner``: empty where nobody was given it. ``again``: it was
    closed, and is found again, or worse than it was accepted."""

    name: str
    kind: str
    element_id: str
    tag: str
    side: Sayable
    says: Sayable
    energy_cal_cm2: float | None
    number: str = ""
    owner: str = ""
    owner_id: int = 0
    due: date | None = None
    state: str = OPEN
    note: str = ""
    again: bool = False
    version: int = 0
    changed_by: str = ""
    changed_at: str = ""

    @property
    def to_do(self) -> Sayable:
        return say(f"finding-do-{self.kind.replace('_', '-')}")

    @property
    def open(self) -> bool:
        return self.state == OPEN

    def late(self, today: date) -> bool:
        return self.open and self.due is not None and self.due < today


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", what=say("act-finding-give"))


@on_site
def listed(site: Site, now_at: str) -> list[FindingSeen]:
    """What is open first, the gravest kind first and of that the highest energy; then what was closed and is found
    still. ``now_at``: UTC, by which what is old is old."""
    here = site.as_it_is()
    rows, names = store.by_name(), site.names()
    last = study_runs.latest(site)
    found = [_seen(f, rows.get(f.name), names, last) for f in _all(site, here, now_at)]

    def rank(f: FindingSeen) -> tuple[bool, int, bool, float, str]:
        energy = f.energy_cal_cm2
        return not f.open, KINDS.index(f.kind), energy is not None, -(energy or 0.0), f.tag

    return sorted(found, key=rank)


def _all(site: Site, here: SiteNow, now_at: str) -> Iterator[FindingSeen]:
    last = study_runs.latest(site)
    if last is not None:
        for f in study_runs.result(site, last.result_hash).found:
            yield FindingSeen(
                name=name_of(f), kind=f["kind"], element_id=f["element_id"], tag=f["tag"], side=f["side"],
                says=f["says"], energy_cal_cm2=f["energy_cal_cm2"],
            )  # fmt: skip
    yield from _of_record(site, here, last, now_at)


def _of_record(
    site: Site, here: SiteNow, last: study_runs.StudyAsked | None, now_at: str
) -> Iterator[FindingSeen]:  # fmt: skip
    today = here.day(utc_moment(now_at))

    def one(kind: str, says: Sayable, element_id: str = "", tag: str = "", more: str = "") -> FindingSeen:
        name = " ".join(x for x in (kind, element_id, more) if x)
        return FindingSeen(
            name=name, kind=kind, element_id=element_id, tag=tag, side="", says=says, energy_cal_cm2=None
        )

    for gap in case_gaps(here.network):
        e = gap.element
        yield one("uncased", gap.says, e.id if e else "", e.tag if e else "", gap.key)
    if last is None:
        yield one("outdated", say("finding-never-studied"))
    else:
        if last.outdated:
            what = tuple(say(f"study-outdated-{o}") for o in last.outdated)
            yield one("outdated", say("finding-outdated-says", number=last.number, what=what))
        done = here.day(utc_moment(last.done_at))
        if (today - done).days > 365 * study_runs.REVIEW_YEARS:
            yield one("old", say("finding-study-old", number=last.number, day=last.done_at[:10]))
    for e in here.network.elements:
        told = e.basis.get("fault_mva_max")
        if told is not None and told.on and today - date.fromisoformat(told.on) > timedelta(days=LETTER_DAYS):
            yield one("letter", say("finding-letter-old", day=told.on), e.id, e.tag)
    for draft in drafting.drafts(site):
        if getattr(drafting.steps(site, draft.number)[0].what, "code", "") == "walking-begun":
            yield one("walk", say("finding-walk-says", number=draft.number), more=draft.number)
    places = {e.id: e for e in located(here.network)}
    for element_id, kept in kept_up.of_each(here, places).items():
        if kept.properly is False:
            yield one("unmaintained", say("finding-not-kept-up", what=kept.what), element_id, places[element_id].tag)


def _seen(
    f: FindingSeen, row: AssignedFinding | None, names: Mapping[int, str], last: study_runs.StudyAsked | None
) -> FindingSeen:  # fmt: skip
    if row is None:
        return f
    again = _again(row, f.energy_cal_cm2, last)
    return FindingSeen(
        name=f.name, kind=f.kind, element_id=f.element_id, tag=f.tag, side=f.side, says=f.says,
        energy_cal_cm2=f.energy_cal_cm2, number=row.number, owner=names.get(row.owner_id, ""), owner_id=row.owner_id,
        due=date.fromisoformat(row.due), state=OPEN if again else row.state, note=row.note, again=again,
        version=row.version, changed_by=row.changed_by, changed_at=row.changed_at,
    )  # fmt: skip


def _again(row: AssignedFinding, energy: float | None, last: study_runs.StudyAsked | None) -> bool:
    """Is it open again? ``closed_in``: number and result of the study that it was closed after."""
    number, _, result = row.closed_in.partition(" ")
    if row.state == MENDED:
        # a later study finds it still, be its figures the same to the digit
        return last is not None and last.number != number
    if row.state == ACCEPTED:
        if row.energy_cal_cm2 is None or energy is None:
            # without a figure nobody can tell whether it is worse than what was accepted
            return last is not None and last.result_hash != result
        return bool(energy > row.energy_cal_cm2 * (1 + SAME))
    return False


@on_site
def give(act: Act, name: str, version: int, owner: int, due: date) -> str:
    """A finding becomes somebody's to see to, by a day. ``version`` 0: nobody had it. Its number."""
    may(act)
    here = act.site.as_it_is()
    if owner not in {p.id for p in act.site.register() if p.active}:
        raise InputError("owner", owner, say("permit-moves-the-registered-people-who-were-there"))
    if due < here.day(act.now):
        raise InputError("due", due.isoformat(), say("improvement-not-before-today"))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        found = _found(act.site, name, act.at)
        row = store.of_name(name)
        told: dict[str, Any] = {"kind": found.kind, "tag": found.tag, "says": found.says}
        if row is None:
            number = store.insert(
                name=name, content=canonical(told), owner_id=owner, due=due.isoformat(), created_at=act.at,
                changed_at=act.at, changed_by=act.actor.name,
            )  # fmt: skip
        else:
            number = row.number
            if row.version != version:
                raise Stale("finding", number, row.changed_by, row.changed_at)
            store.change(row, act.at, act.actor.name, owner_id=owner, due=due.isoformat(), state=OPEN)
        unit.record("finding given", f"finding:{number}", {**told, "owner": unit.site.names()[owner],
                                                           "due": due.isoformat()})  # fmt: skip
    return number


def _found(site: Site, name: str, at: str) -> FindingSeen:
    found = next((f for f in listed(site, at) if f.name == name), None)
    if found is None:
        raise NotFound("finding", name)
    return found


@on_site
def close(act: Act, number: str, version: int, how: str, note: str) -> None:
    """As mended, until a study finds it still; or accepted as it is, until it is worse: by a coordinator, or by whose
    it is. What fails its duty, has no figure or lies above the ceiling is not accepted: it is mended."""
    said = texts.REASON.check(note, "note")
    if how not in HOW:
        raise InputError("how", how, say("one-of", options=HOW))
    with work(act) as unit:
        row = store.one(number)
        if row is None:
            raise NotFound("finding", number)
        if unit.done:
            return
        if "coordinator" not in act.actor.roles and row.owner_id != act.actor.id:
            raise NotAllowed(
                say("finding-who-closes"), say("improvement-owner-or-coordinator"),
                say("acting-ask-somebody-with-that-role"),
            )  # fmt: skip
        if row.version != version:
            raise Stale("finding", number, row.changed_by, row.changed_at)
        found = _found(act.site, row.name, act.at)
        if not found.open:
            raise Refusal(say("finding-life"), say("finding-is-closed"), say("finding-give-again"))
        if how == ACCEPTED and found.kind in ("duty", "no_figure", "ceiling"):
            raise Refusal(say("finding-life"), say("finding-not-accepted"), say("finding-mend"))
        last = study_runs.latest(act.site)
        store.change(
            row, act.at, act.actor.name, state=how, note=said,
            closed_in=f"{last.number} {last.result_hash}" if last else "",
            energy_cal_cm2=found.energy_cal_cm2,
        )  # fmt: skip
        unit.record("finding closed", f"finding:{number}", {"how": how, "because": said})


@on_site
def owned(site: Site, person_id: int) -> list[tuple[str, date]]:
    """Numbers of what somebody has to see to, the first due first. What was closed and found again waits on the page of
    the findings until it is given anew."""
    return [(row.number, date.fromisoformat(row.due)) for row in store.of_owner(person_id)]
