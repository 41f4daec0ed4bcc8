"""Switching programs: drafted from a job with everything that feeds it, and the view that pages and papers use.

What moves a program through its life is in program_moves and console; its box of personal locks is in box.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from spinel.actions import box, jobs, network, signed
from spinel.actions.acting import Act, Unit, work
from spinel.actions.network import Site
from spinel.actions.signed import Record, Signed
from spinel.core.canonical import canonical, content_hash
from spinel.core.errors import NotFound, Refusal, Stale
from spinel.core.isolation.points import target_of
from spinel.core.network.document import Element
from spinel.core.network.field import Field, fold_field
from spinel.core.network.now import FieldEvent
from spinel.core.network.ways import touching
from spinel.core.permit.life import WITH_WINDOW
from spinel.core.switching import load
from spinel.core.switching.draft import Draft, draft_isolation
from spinel.core.switching.life import ENDED, SIGNED, check_move
from spinel.core.switching.order import ISOLATION, RESTORATION, Broken, Order
from spinel.core.switching.restore import draft_restoration, left_as_it_is
from spinel.core.switching.rules import Judged, judge, take
from spinel.core.switching.steps import Step, as_data, from_data, shown_voltage
from spinel.store import network as events_store
from spinel.store import permits as numbers
from spinel.store import programs as store
from spinel.store.models import Job, Program


@dataclass(frozen=True)
class ProgramView(Signed):
    """``done``: steps confirmed. ``verdicts``: for each step still to come the rule it breaks, or None.

    ``fields``: the field before the first step and after each. ``lacks``: what the program as a whole lacks.
    """

    number: str
    job: str
    purpose: str
    hold: str
    practice: bool
    follows: str
    state: str
    version: int
    content: Mapping[str, Any]
    content_hash: str
    steps: tuple[Step, ...]
    done: int
    verdicts: tuple[Broken | None, ...]
    lacks: tuple[Broken, ...]
    fields: tuple[Field, ...]
    order: Order
    director_id: int | None
    director: str
    operator_id: int | None
    operator: str
    in_charge_id: int | None
    in_charge: str
    stopped_because: str
    faults: tuple[Mapping[str, str], ...]
    requested_by: int
    requester: str
    changed_by: str
    changed_at: str
    records: tuple[Record, ...]

    @property
    def now(self) -> Field:
        return self.fields[self.done]

    @property
    def current(self) -> Step | None:
        return self.steps[self.done] if self.done < len(self.steps) else None

    @property
    def safe(self) -> bool:
        return not self.lacks and not any(self.verdicts)

    @property
    def first_broken(self) -> Broken | None:
        return next((b for b in self.verdicts if b is not None), self.lacks[0] if self.lacks else None)

    def parts_of(self, person_id: int | None) -> frozenset[str]:
        """What a person already is on this program; separation of duties reads it."""
        parts = set()
        if person_id == self.requested_by or any(r.person_id == person_id for r in self.valid("edited")):
            parts.add("writer")
        for part, kind in (("checker", "checked"), ("releaser", "released")):
            if any(r.person_id == person_id for r in self.valid(kind)):
                parts.add(part)
        if person_id is not None and person_id == self.director_id:
            parts.add("director")
        if person_id is not None and person_id == self.operator_id:
            parts.add("operator")
        return frozenset(parts)


def draft(act: Act, job_number: str) -> str:
    """The isolation for a job that is done dead, and the restoration linked to it. Returns the isolation's number."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number)
        running = [p.number for p in store.programs_of(job.id) if p.state not in ENDED and not p.practice]
        if running:
            raise Refusal("one isolation at a time", f"{running[0]} of this job has not ended.", "Continue with it.")
        kept = [p.hold for p in store.programs_of(job.id) if not p.practice and box.anything_left(p.hold)]
        if kept:
            raise Refusal(
                "one isolation at a time", f"Locks, grounds or people of {kept[0]} are still there.",
                "Draft its successor or its restoration.",
            )  # fmt: skip
        here = network.site()
        number = numbers.next_number(Program, here.profile.terms["program_prefix"])
        made = draft_isolation(here.study, here.field, here.network.get(job.element_id), number)
        content = content_of(here, made.order, job, here.field, made.steps, made)
        insert(unit, job, number, number, ISOLATION, content, "")
        redraft_restoration(unit, number)
    return number


def _others(here: Site, made: Draft, job: Job) -> list[str]:
    """Permits and programs of other jobs that this one touches: two crews on one circuit warn each other."""
    inside = touching(here.network, made.isolation.region)
    found = []
    for permit in numbers.permits_in(WITH_WINDOW):
        at = json.loads(permit.content)["equipment"]
        if at["id"] in inside:
            state = permit.state.replace("_", " ")
            found.append(f"{permit.number} at {at['tag']} is {state}: this cuts it off. Tell them.")
    own = {s.element_id for s in made.steps}
    for other in store.programs_in(("checked", "released", "executing", "stopped", "done")):
        steps = json.loads(other.content)["steps"]
        ended = other.state == "done" and not box.anything_left(other.hold)
        if other.job_id != job.id and not ended and own & {s["element_id"] for s in steps if s["kind"] == "operate"}:
            found.append(f"{other.number} operates devices of this program too. Settle with them who is first.")
    return found


def content_of(
    here: Site, order: Order, job: Job, start: Field, steps: Sequence[Step], made: Draft | None = None
) -> dict[str, Any]:
    """Everything that is checked and released: what a signature on a program covers."""
    e = order.target.element
    node = max((here.network.node[n] for n in e.ends), key=lambda n: n.nominal_voltage_v)
    left = list(left_as_it_is(order, _end(order, start, steps))) if order.purpose == RESTORATION else []
    return {
        "purpose": order.purpose,
        "hold": order.hold,
        "job": job.number,
        "title": job.title,
        "equipment": {
            "id": e.id, "tag": e.tag, "name": e.name, "location": e.location, "kind": e.kind_name,
            "voltage_v": node.nominal_voltage_v, "current": node.current,
        },
        "steps": [as_data(s) for s in steps],
        "notes": [*made.notes, *_others(here, made, job)] if made else left,
        "cut": [{"tag": s.tag, "kind": s.kind_name} for s in made.isolation.cut_off] if made else [],
        "points": [_point(here, p, made) for p in made.isolation.points] if made else [],
        "inside": [f"{s.supply.name}, {shown_voltage(s.supply.voltage_v, s.supply.current)}, isolated by "
                   f"{s.supply.isolated_by or 'nothing recorded'}" for s in order.target.supplies],
        "energizing": energizing(order, start, steps),
        "revision": {"number": here.number, "hash": here.hash},
        "profile": here.profile.id,
    }  # fmt: skip


def _point(here: Site, e: Element, made: Draft) -> dict[str, Any]:
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
    unit: Unit, job: Job, number: str, hold: str, purpose: str, content: dict[str, Any], follows: str,
    *, practice: bool = False, origin: int | None = None, state: str = "draft", base: int | None = None,
) -> int:  # fmt: skip
    last = events_store.last_event_id()
    Program.insert(
        number=number, job=job.id, purpose=purpose, hold=hold, practice=int(practice), follows=follows, state=state,
        content=canonical(content), content_hash=content_hash(content),
        origin_event=last if origin is None else origin, base_event=last if base is None else base,
        requested_by=unit.act.actor.id, created_at=unit.act.at, changed_at=unit.act.at,
        changed_by=unit.act.actor.name,
    ).execute()  # fmt: skip
    what = "practice drafted" if practice else "program drafted"
    unit.record(what, f"program:{number}", {"job": job.number, "hold": hold, "purpose": purpose,
                                            "content_hash": content_hash(content)})  # fmt: skip
    made = store.program(number)
    assert made is not None
    return int(made.id)


def redraft_restoration(unit: Unit, hold: str) -> str:
    """The restoration of a hold, drafted anew from how its isolation ends, or from the field when that is over.

    A restoration that was checked falls back to draft, and says so. Returns its number, or empty when the rules
    allow none yet: the reason is recorded.
    """
    programs = [p for p in store.of_hold(hold) if not p.practice]
    current = next((p for p in reversed(programs) if p.purpose == ISOLATION), None)
    if current is None:
        raise NotFound("hold", hold)
    seen = as_view(current)
    waiting = next((p for p in programs if p.purpose == RESTORATION and p.state not in ENDED), None)
    here = network.site()
    start = here.field if current.state in ENDED else seen.fields[-1]
    try:
        order, steps, _ = draft_restoration(seen.order.study, start, seen.order.target.element, hold, seen.order.origin)
    except Refusal as why:
        unit.record("restoration not drafted", f"program:{current.number}", {"rule": why.rule, "why": why.why})
        return ""
    content = content_of(here, order, current.job, start, steps)
    if waiting is None:
        number = numbers.next_number(Program, here.profile.terms["program_prefix"])
        insert(unit, current.job, number, hold, RESTORATION, content, current.number, origin=current.origin_event)
        return number
    if waiting.content_hash != content_hash(content) and waiting.state in ("draft", *SIGNED):
        voided = waiting.state in SIGNED
        save(unit.act, waiting, waiting.version, state="draft", content=canonical(content),
             content_hash=content_hash(content))  # fmt: skip
        unit.record("program drafted anew", f"program:{waiting.number}",
                    {"content_hash": content_hash(content), "voided": voided})  # fmt: skip
    return str(waiting.number)


def draft_successor(act: Act, number: str) -> tuple[str, str]:
    """The successor of a program that was abandoned, when someone asks for it later."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return "", ""
        program = stored(number)
        latest = [p for p in store.of_hold(program.hold) if p.purpose == program.purpose and not p.practice][-1:]
        if program.state != "abandoned" or program.practice or latest != [program]:
            raise Refusal("a successor follows what was abandoned", f"{number} is {program.state}.", "Go on with it.")
        return succeed(unit, program)


def succeed(unit: Unit, program: Program) -> tuple[str, str]:
    """The successor of a program that was abandoned, from the state as it is: its number, and why there is none."""
    here = network.site()
    seen = as_view(program)
    try:
        if program.purpose == RESTORATION:
            return redraft_restoration(unit, program.hold), ""
        element = here.network.get(seen.order.target.element.id)
        made = draft_isolation(seen.order.study, here.field, element, program.hold, seen.order.origin)
    except Refusal as why:
        unit.record("no successor", f"program:{program.number}", {"rule": why.rule, "why": why.why})
        return "", f"{why.why} {why.remedy}"
    number = numbers.next_number(Program, here.profile.terms["program_prefix"])
    content = content_of(here, made.order, program.job, here.field, made.steps, made)
    insert(unit, program.job, number, program.hold, ISOLATION, content, program.number, origin=program.origin_event)
    redraft_restoration(unit, program.hold)
    return number, ""


def renamed(start: Field, hold: str, own: str) -> Field:
    """The field with what hangs under one hold hanging under another."""

    def swap(names: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(own if n == hold else n for n in names)

    devices = {k: replace(d, locks=swap(d.locks), tags=swap(d.tags)) for k, d in start.devices.items()}
    grounds = tuple(replace(g, hold=own) if g.hold == hold else g for g in start.grounds)
    proofs = tuple(replace(p, hold=own) if p.hold == hold else p for p in start.proofs)
    return replace(start, devices=devices, grounds=grounds, proofs=proofs)


def stored(number: str) -> Program:
    found = store.program(number)
    if found is None:
        raise NotFound("switching program", number)
    return found


def view(number: str) -> ProgramView:
    """The program as it is, judged against the field as it is; or NotFound."""
    return as_view(stored(number))


def field_of(program: Program, here: Site) -> Field:
    """The field that the program acts on: the record, or the practice's own."""
    if not program.practice:
        return here.field
    return fold_field(here.network, events_store.practice_events(program.id), _base(program, here))


def _base(program: Program, here: Site) -> Field:
    """The field when the program was started; a practice starts with what its program's hold has as its own."""
    base = network.field_as_of(program.base_event)
    if not program.practice:
        return base
    return renamed(base, json.loads(program.content)["of_hold"], program.hold)


def order_of(p: Program) -> Order:
    """What the program is for, on the network as it is now; NotFound when its equipment has gone."""
    here, equipment = network.site(), json.loads(p.content)["equipment"]
    element = here.network.element.get(equipment["id"])
    if element is None:
        raise NotFound("equipment", equipment["tag"])
    origin, study = network.field_as_of(p.origin_event), network.study_as_of(p.origin_event)
    locks = tuple(lock.name for lock in box.locks_on(p.hold)) if not p.practice else ()
    return Order(p.purpose, p.hold, target_of(here.network, element), study, origin, locks)


def as_view(p: Program) -> ProgramView:
    here, order, content = network.site(), order_of(p), json.loads(p.content)
    steps = tuple(from_data(s) for s in content["steps"])
    fields, judged = _states(p, here, order, steps)
    records = signed.read(store.records(p.id), p.content_hash)
    return ProgramView(
        p.number, p.job.number, p.purpose, p.hold, bool(p.practice), p.follows, p.state, p.version, content,
        p.content_hash, steps, p.step, (*(None,) * p.step, *judged.steps), judged.whole, fields, order,
        p.director_id, p.director.name if p.director else "", p.operator_id, p.operator.name if p.operator else "",
        p.in_charge_id, p.in_charge.name if p.in_charge else "", p.stopped_because, tuple(json.loads(p.faults)),
        p.requested_by_id, p.requested_by.name, p.changed_by, p.changed_at, records,
    )  # fmt: skip


def _states(p: Program, here: Site, order: Order, steps: Sequence[Step]) -> tuple[tuple[Field, ...], Judged]:
    """The field around every step: as it was replayed for those done, as it stands and would be for the others."""
    now = field_of(p, here)
    if p.state in ("draft", *SIGNED) and p.purpose == RESTORATION and not p.practice:
        now = _when_isolated(p, here) or now
    if p.state in ENDED:
        past = [_base(p, here)]
        for step in steps:
            past.append(take(order, past[-1], step))
        return tuple(past), Judged((None,) * (len(steps) - p.step), (), ())
    judged = judge(order, now, steps[p.step :], steps[: p.step])
    past = [_base(p, here)] if p.step else []
    for step in steps[: max(p.step - 1, 0)]:
        past.append(take(order, past[-1], step))
    return (*past, *judged.fields), judged


def _when_isolated(p: Program, here: Site) -> Field | None:
    """A restoration whose isolation is not over is judged on how that will end."""
    isolation = next((x for x in reversed(store.of_hold(p.hold)) if x.purpose == ISOLATION and not x.practice), None)
    if isolation is None or isolation.state in ENDED:
        return None
    return as_view(isolation).fields[-1]


def lines() -> list[Program]:
    """All programs, newest first."""
    return store.everything()


def save(act: Act, program: Program, version: int, **changes: object) -> None:
    """Write changes if nobody was faster, else Stale."""
    if not numbers.save(program, version, changed_at=act.at, changed_by=act.actor.name, **changes):
        raise Stale("program", program.number, program.changed_by, program.changed_at)


def keep(unit: Unit, program: Program, kind: str, detail: Mapping[str, Any], signed_hash: str) -> None:
    """One append-only record on the program, citing the hash of the content it was made for."""
    actor = unit.act.actor
    store.add_record(
        program.id, kind, actor.id, actor.name, signed_hash, canonical(dict(detail)), unit.act.at
    )  # fmt: skip


def word(program: Program, what: str) -> str:
    """How the ledger names an act on a program: practice is told apart from the first word on."""
    return ("practice " if program.practice else "program ") + what


def write(unit: Unit, program: Program, event: FieldEvent, note: str, detail: Mapping[str, Any]) -> None:
    """A field event, or for a practice an event of its own that never reaches the field."""
    text = canonical(dict(detail)) if detail else "{}"
    at, actor = unit.act.at, unit.act.actor.name
    if program.practice:
        events_store.add_practice_event(program.id, at, actor, event, note, text)
        return
    events_store.add_event(
        at, actor, event.kind, event.element_id, event.value, note, hold=event.hold, node_id=event.node_id, detail=text
    )
