"""Switching programs: drafted from a job with everything that feeds it, each isolation with its restoration.

What moves a program through its life is in program_moves and console; its box of personal locks is in box.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.actions import jobs
from spinel.actions.acting import Act, Unit, work
from spinel.actions.crews import crews
from spinel.actions.keeping import save
from spinel.actions.locks import anything_left
from spinel.actions.program_view import as_view, stored
from spinel.actions.site import Site, SiteNow, on_site
from spinel.actions.source_ways import all_but_the_fewest
from spinel.core import stored as shapes
from spinel.core.errors import NotFound, Refusal
from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.network.losing import by_themselves
from spinel.core.network.ways import touching
from spinel.core.permit.life import NAMES as PERMIT_NAMES
from spinel.core.permit.life import WITH_WINDOW
from spinel.core.profile import spoken_in
from spinel.core.quantities import volts
from spinel.core.said import Said, Sayable, say
from spinel.core.switching import load
from spinel.core.switching.between import draft_switching, off_on_the_way
from spinel.core.switching.draft import Draft, draft_isolation
from spinel.core.switching.goal import wanted_of
from spinel.core.switching.life import ENDED, NAMES, SIGNED, check_move
from spinel.core.switching.order import ISOLATION, RESTORATION, SWITCHED, Order
from spinel.core.switching.restore import draft_restoration, left_as_it_is
from spinel.core.switching.steps import Step, as_data, take
from spinel.store import permits
from spinel.store import programs as store
from spinel.store.models import Job, Program
from spinel.store.numbering import next_number


@on_site
def draft(act: Act, job_number: str, fewest: bool = False) -> str:
    """The isolation for a job that is done dead, and the restoration linked to it. Returns the isolation's number.
    ``fewest``: by the fewest devices that keep most else on, not the nearest on each way; the rules are the same."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number)
        here = unit.site.as_it_is()
        own = [p for p in store.programs_of(job.id) if p.purpose != SWITCHED and not p.practice]
        running = [p.number for p in own if p.state not in ENDED]
        if running:
            raise Refusal(
                say("act-programs-one-isolation-at-a-time"),
                say("act-programs-of-this-job-has-not-ended", running=running[0]),
                say("act-programs-continue-with-it"),
            )
        kept = [p.hold for p in own if anything_left(p.hold, here.field)]
        if kept:
            raise Refusal(
                say("act-programs-one-isolation-at-a-time"),
                say("act-programs-locks-grounds-or-people-of-are-still", kept=kept[0]),
                say("act-programs-draft-its-successor-or-its-restoration"),
            )
        number = next_number(Program, here.profile.prefixes["program"])
        element = here.network.get(job.element_id)
        left = all_but_the_fewest(here, element) if fewest else {}
        made = draft_isolation(here.study, here.field, element, number, crews=crews(here), left_alone=left)
        content = content_of(here, made.order, job, here.field, made.steps, made)
        insert(unit, job, number, number, ISOLATION, content, "")
        redraft_restoration(unit, number)
    return number


def _others(here: SiteNow, made: Draft, job: Job) -> list[Said]:
    """Permits and programs of other jobs that this one touches: two crews on one circuit warn each other."""
    inside = touching(here.network, made.isolation.region)
    found = []
    for permit in permits.permits_in(WITH_WINDOW):
        at = shapes.content("permit", permit.content)["equipment"]
        if at["id"] in inside:
            found.append(
                say(
                    "act-programs-at-is-this-cuts-it-off-tell",
                    number=permit.number,
                    tag=at["tag"],
                    state=PERMIT_NAMES[permit.state],
                )
            )
    own = {s.element_id for s in made.steps}
    for other in store.programs_in(("checked", "released", "executing", "stopped", "done")):
        steps = shapes.content("program", other.content)["steps"]
        ended = other.state == "done" and not anything_left(other.hold, here.field)
        if other.job_id != job.id and not ended and own & {s["element_id"] for s in steps if s["kind"] == "operate"}:
            found.append(say("act-programs-operates-devices-of-this-program-too-settle", number=other.number))
    return found


def content_of(
    here: SiteNow, order: Order, job: Job, start: Field, steps: Sequence[Step], made: Draft | None = None
) -> dict[str, Any]:
    """Everything that is checked and released: what a signature on a program covers."""
    e = order.target.element
    node = max((here.network.node[n] for n in e.ends), key=lambda n: n.nominal_voltage_v)
    left = list(left_as_it_is(order, _end(order, start, steps))) if order.purpose == RESTORATION else []
    if order.purpose == SWITCHED:
        opened = {s.element_id for s in steps if s.acts[:1] == ("opened",)}
        moving = by_themselves(order.network, start.devices, opened)
        left = [say("switching-draft-moves-by-itself", tag=x.tag) for x in moving]
    return {
        "purpose": order.purpose,
        "hold": order.hold,
        "job": job.number,
        "title": job.title,
        "equipment": {
            "id": e.id,
            "tag": e.tag,
            "name": e.name,
            "location": e.location,
            "kind": e.kind_name,
            "voltage_v": node.nominal_voltage_v,
            "current": node.current,
        },
        "steps": [as_data(s) for s in steps],
        "notes": [*made.notes, *_others(here, made, job)] if made else left,
        "cut": [{"tag": s.tag, "kind": s.kind_name} for s in made.isolation.cut_off] if made else [],
        "points": [_point(here, p, made) for p in made.isolation.points] if made else [],
        "dark": [_dark(d) for d in made.dark] if made else _off(order, start, steps),
        "goal": [{"id": e.id, "tag": e.tag, "to": to} for e, to in wanted_of(order)],
        "inside": [
            say(
                "act-programs-isolated-by",
                name=s.supply.name,
                voltage_v=volts(s.supply.voltage_v, s.supply.current),
                isolated_by=s.supply.isolated_by or say("act-programs-nothing-recorded"),
            )
            for s in order.target.supplies
        ],
        "energizing": energizing(order, start, steps),
        "revision": {"number": here.number, "hash": here.hash},
        "profile": here.profile.id,
        "words": spoken_in(here.profile),
    }


def _dark(e: Element) -> dict[str, Any]:
    """What loses its supply, and whose it is."""
    what = e.serves or e.name
    return {"tag": e.tag, "what": what, "notify": e.notify, "critical": e.critical, "tolerates_min": e.tolerates_min}


def _off(order: Order, start: Field, steps: Sequence[Step]) -> list[dict[str, Any]]:
    """The same of a switching, with the steps between which it is off."""
    if order.purpose != SWITCHED:
        return []
    off = off_on_the_way(order, start, steps)
    return [{**_dark(o.element), "from_step": o.from_step, "until_step": o.until_step} for o in off]


def _point(here: SiteNow, e: Element, made: Draft) -> dict[str, Any]:
    return {"tag": e.tag, "way": [w.tag for w in made.isolation.ways.get(e.id, ())]}


def _end(order: Order, start: Field, steps: Sequence[Step]) -> Field:
    for step in steps:
        start = take(order, start, step)
    return start


def energizing(order: Order, start: Field, steps: Sequence[Step]) -> int | None:
    """Which step of a restoration first brings voltage back to where people worked: a task of its own."""
    now = start
    if order.purpose != RESTORATION:
        return None
    for i, step in enumerate(steps):
        e = order.network.element[step.element_id]
        if step.acts[:1] == ("closed",) and load.energizes(
            order.network, now, e, step.value or "closed", order.target.nodes
        ):
            return i
        now = take(order, now, step)
    return None


def insert(
    unit: Unit,
    job: Job,
    number: str,
    hold: str,
    purpose: str,
    content: dict[str, Any],
    follows: str,
    *,
    practice: bool = False,
    origin: int | None = None,
    state: str = "draft",
    base: int | None = None,
) -> int:
    last, kept = unit.site.as_it_is().event_id, shapes.write("program", content)
    made = store.insert(
        number,
        job.id,
        purpose,
        hold,
        follows,
        state,
        kept.text,
        kept.hash,
        practice=practice,
        origin_event=last if origin is None else origin,
        base_event=last if base is None else base,
        requested_by=unit.act.actor.id,
        at=unit.act.at,
        name=unit.act.actor.name,
    )
    what = "practice drafted" if practice else "program drafted"
    unit.record(
        what, f"program:{number}", {"job": job.number, "hold": hold, "purpose": purpose, "content_hash": kept.hash}
    )
    return made


def redraft_restoration(unit: Unit, hold: str) -> str:
    """The restoration of a hold, drafted anew from how its isolation ends, or from the field when that is over.

    A restoration that was checked falls back to draft, and says so. Returns its number, or empty when the rules
    allow none yet: the reason is recorded.
    """
    programs = [p for p in store.of_hold(hold) if not p.practice]
    current = next((p for p in reversed(programs) if p.purpose == ISOLATION), None)
    if current is None:
        raise NotFound("hold", hold)
    here = unit.site.as_it_is()
    seen = as_view(current, here)
    waiting = next((p for p in programs if p.purpose == RESTORATION and p.state not in ENDED), None)
    start = here.field if current.state in ENDED else seen.fields[-1]
    try:
        order, steps, _ = draft_restoration(
            seen.order.study, start, seen.order.target.element, hold, seen.order.origin, seen.order.crews
        )
    except Refusal as why:
        unit.record("restoration not drafted", f"program:{current.number}", {"rule": why.rule, "why": why.why})
        return ""
    content = content_of(here, order, current.job, start, steps)
    if waiting is None:
        number = next_number(Program, here.profile.prefixes["program"])
        insert(unit, current.job, number, hold, RESTORATION, content, current.number, origin=current.origin_event)
        return number
    kept = shapes.write("program", content)
    same = shapes.write("program", shapes.content("program", waiting.content)) == kept
    if not same and waiting.state in ("draft", *SIGNED):
        voided = waiting.state in SIGNED
        save(unit.act, waiting, waiting.version, state="draft", content=kept.text, content_hash=kept.hash)
        unit.record("program drafted anew", f"program:{waiting.number}", {"content_hash": kept.hash, "voided": voided})
    return str(waiting.number)


@on_site
def draft_successor(act: Act, number: str) -> tuple[str, Sayable]:
    """The successor of a program that was abandoned, when someone asks for it later."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return "", ""
        program = stored(number)
        latest = store.latest(program.hold, program.purpose)
        if program.state != "abandoned" or program.practice or latest != program:
            raise Refusal(
                say("act-programs-a-successor-follows-what-was-abandoned"),
                say("act-programs-is", number=number, state=NAMES[program.state]),
                say("act-programs-go-on-with-it"),
            )
        return succeed(unit, program)


def succeed(unit: Unit, program: Program) -> tuple[str, Sayable]:
    """The successor of a program that was abandoned, from the state as it is: its number, and why there is none."""
    here = unit.site.as_it_is()
    seen = as_view(program, here)
    try:
        if program.purpose == RESTORATION:
            return redraft_restoration(unit, program.hold), ""
        if program.purpose == SWITCHED:
            element = here.network.get(seen.order.target.element.id)
            return insert_switching(unit, program.job, element, seen.order.goal, program), ""
        element = here.network.get(seen.order.target.element.id)
        made = draft_isolation(seen.order.study, here.field, element, program.hold, seen.order.origin, seen.order.crews)
    except Refusal as why:
        unit.record("no successor", f"program:{program.number}", {"rule": why.rule, "why": why.why})
        return "", say("act-programs-why-not", why=why.why, remedy=why.remedy)
    number = next_number(Program, here.profile.prefixes["program"])
    content = content_of(here, made.order, program.job, here.field, made.steps, made)
    insert(unit, program.job, number, program.hold, ISOLATION, content, program.number, origin=program.origin_event)
    redraft_restoration(unit, program.hold)
    return number, ""


def insert_switching(
    unit: Unit, job: Job, element: Element, goal: Mapping[str, str], follows: Program | None = None
) -> str:  # fmt: skip
    """A switching to a goal, drafted from the state as it is. ``follows``: what it goes on from, under its hold."""
    here = unit.site.as_it_is()
    number = next_number(Program, here.profile.prefixes["program"])
    hold = follows.hold if follows else number
    made = draft_switching(here.study, here.field, element, hold, goal, crews=crews(here, own=hold))
    content = content_of(here, made.order, job, here.field, made.steps)
    insert(unit, job, number, hold, SWITCHED, content, follows.number if follows else "")
    return number


@dataclass(frozen=True, kw_only=True)
class ProgramLine:
    """A program in a list. ``step``: the next one, counted from 1."""

    number: str
    purpose: str
    hold: str
    practice: bool
    follows: str
    state: str
    job: str
    title: str
    tag: str
    name: str
    voltage_v: float
    step: int
    steps: int
    changed_at: str
    changed_by: str


@on_site
def count(site: Site, ended: bool | None = None) -> int:
    """How many programs there are: all, those that have ended, or those that have not."""
    return store.count(ended)


@on_site
def stopped(site: Site) -> int:
    """How many programs are stopped now; practice runs are none of them."""
    return len(store.places(("stopped",)))


@on_site
def lines(site: Site, ended: bool | None = None, first: int = 0, at_most: int | None = None) -> list[ProgramLine]:
    """Programs, newest first; all, or so many from one of them on."""
    return [_line(p, shapes.content("program", p.content)) for p in store.everything(ended, first, at_most)]


@on_site
def linked(site: Site, hold: str, number: str) -> list[ProgramLine]:
    """The programs under a hold, and the practice runs of one program, oldest first."""
    return [_line(p, shapes.content("program", p.content)) for p in store.linked(hold, number)]


def _line(p: Program, content: Mapping[str, Any]) -> ProgramLine:
    equipment = content["equipment"]
    return ProgramLine(
        number=p.number,
        purpose=p.purpose,
        hold=p.hold,
        practice=bool(p.practice),
        follows=p.follows,
        state=p.state,
        job=content["job"],
        title=content["title"],
        tag=equipment["tag"],
        name=equipment["name"],
        voltage_v=equipment["voltage_v"],
        step=p.step + 1,
        steps=len(content["steps"]),
        changed_at=p.changed_at,
        changed_by=p.changed_by,
    )
