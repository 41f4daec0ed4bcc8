"""A switching program as pages, papers and moves see it: its steps judged against the field as it is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache
from typing import Any

from spinel.actions import signed
from spinel.actions.acting import Unit, utc_moment
from spinel.actions.crews import crews
from spinel.actions.locks import BoxState, states
from spinel.actions.signed import Record, Signed
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core.errors import NotFound
from spinel.core.isolation.points import target_of
from spinel.core.network.field import Field, fold_field
from spinel.core.network.now import FieldEvent
from spinel.core.said import Sayable
from spinel.core.switching.life import ENDED, SIGNED
from spinel.core.switching.order import ISOLATION, RESTORATION, Broken, Order
from spinel.core.switching.rules import Judged, judge
from spinel.core.switching.steps import Step, from_data, take
from spinel.store import network as events
from spinel.store import programs as store
from spinel.store.models import Program


@dataclass(frozen=True, kw_only=True)
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
        # whoever wrote any part of it, ever, whatever became of that part
        if person_id == self.requested_by or any(r.person_id == person_id for r in self.records if r.kind == "edited"):
            parts.add("writer")
        for part, kind in (("checker", "checked"), ("releaser", "released")):
            if any(r.person_id == person_id for r in self.valid(kind)):
                parts.add(part)
        if person_id is not None and person_id == self.director_id:
            parts.add("director")
        if person_id is not None and person_id == self.operator_id:
            parts.add("operator")
        return frozenset(parts)


def renamed(start: Field, hold: str, own: str) -> Field:
    """The field with what hangs under one hold hanging under another."""

    def swap(names: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(own if n == hold else n for n in names)

    def own_name(name: str) -> str:
        return own if name == hold else name

    devices = {
        k: replace(
            d, locks=swap(d.locks), tags=swap(d.tags), moved_by=own_name(d.moved_by), run_by=own_name(d.run_by),
            blocks=frozenset((what, own_name(h)) for what, h in d.blocks),
        )
        for k, d in start.devices.items()
    }  # fmt: skip
    grounds = tuple(replace(g, hold=own) if g.hold == hold else g for g in start.grounds)
    proofs = tuple(replace(p, hold=own) if p.hold == hold else p for p in start.proofs)
    return replace(start, devices=devices, grounds=grounds, proofs=proofs)


def stored(number: str) -> Program:
    found = store.program(number)
    if found is None:
        raise NotFound("switching program", number)
    return found


@on_site
def view(site: Site, number: str) -> ProgramView:
    """The program as it is, judged against the field as it is; or NotFound."""
    return as_view(stored(number), site.as_it_is())


@on_site
def version_of(site: Site, number: str) -> tuple[int, str]:
    """The version, and a mark of all that was done since: what an open console asks again and again."""
    version = store.version_of(number)
    if version is None:
        raise NotFound("switching program", number)
    return version


def field_of(program: Program, here: SiteNow) -> Field:
    """The field that the program acts on: the record, or the practice's own."""
    if not program.practice:
        return here.field
    return fold_field(here.network, events.practice_events(program.id), _base(program, here))


def _base(program: Program, here: SiteNow) -> Field:
    """The field when the program was started; a practice starts with what its program's hold has as its own."""
    base = here.field_as_of(program.base_event)
    if not program.practice:
        return base
    return renamed(base, shapes.content("program", program.content)["of_hold"], program.hold)


def order_of(p: Program, here: SiteNow) -> Order:
    """What the program is for, on the network as it is now; NotFound when its equipment has gone."""
    content = shapes.content("program", p.content)
    equipment = content["equipment"]
    element = here.network.element.get(equipment["id"])
    if element is None:
        raise NotFound("equipment", equipment["tag"])
    origin, study = here.field_as_of(p.origin_event), here.study_as_of(p.origin_event)
    target, drafted_in = target_of(here.network, element), content.get("drafted_in", 6)
    goal = {g["id"]: g["to"] for g in content["goal"]}
    if p.practice:
        return Order(
            purpose=p.purpose, hold=p.hold, target=target, study=study, origin=origin, drafted_in=drafted_in, goal=goal
        )
    boxes = states()
    hung = tuple(lock.name for lock in boxes.get(p.hold, BoxState()).locks)
    return Order(
        purpose=p.purpose, hold=p.hold, target=target, study=study, origin=origin, personal_locks=hung,
        crews=crews(here, boxes, p.hold), drafted_in=drafted_in, goal=goal,
    )  # fmt: skip


def as_view(p: Program, here: SiteNow) -> ProgramView:
    """A stored program with its steps judged against the field as it is."""
    order, content, steps = order_of(p, here), shapes.content("program", p.content), _steps(p.content)
    fields, judged = _known_states(p, here, order, steps)
    names = here.site.names()
    records = signed.read("program record", store.records(p.id), p.content_hash)
    return ProgramView(
        number=p.number, job=p.job.number, purpose=p.purpose, hold=p.hold, practice=bool(p.practice),
        follows=p.follows, state=p.state, version=p.version, content=content, content_hash=p.content_hash,
        steps=steps, done=p.step, verdicts=(*(None,) * p.step, *judged.steps), lacks=judged.whole, fields=fields,
        order=order, director_id=p.director_id, director=names.get(p.director_id or 0, ""),
        operator_id=p.operator_id, operator=names.get(p.operator_id or 0, ""), in_charge_id=p.in_charge_id,
        in_charge=names.get(p.in_charge_id or 0, ""),
        stopped_because=p.stopped_because, faults=tuple(shapes.read("faults", p.faults)["faults"]),
        requested_by=p.requested_by_id, requester=names[p.requested_by_id], changed_by=p.changed_by,
        changed_at=p.changed_at, records=records,
    )  # fmt: skip


@lru_cache(maxsize=64)
def _steps(content: str) -> tuple[Step, ...]:
    """The steps of a program's content as it is kept."""
    return tuple(from_data(s) for s in shapes.content("program", content)["steps"])


def _known_states(
    p: Program, here: SiteNow, order: Order, steps: Sequence[Step]
) -> tuple[tuple[Field, ...], Judged]:  # fmt: skip
    """The same for everybody who asks while nothing changes; a practice has a field of its own, and a restoration
    before its isolation is over waits for another program."""
    if p.practice or (p.purpose == RESTORATION and p.state in ("draft", *SIGNED)):
        return _states(p, here, order, steps)
    key = (
        p.content, p.purpose, p.hold, p.state, p.step, p.origin_event, p.base_event, order.personal_locks, order.crews
    )  # fmt: skip
    if key not in here.judged:
        here.judged[key] = _states(p, here, order, steps)
    found: tuple[tuple[Field, ...], Judged] = here.judged[key]
    return found


def _states(p: Program, here: SiteNow, order: Order, steps: Sequence[Step]) -> tuple[tuple[Field, ...], Judged]:
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


def _when_isolated(p: Program, here: SiteNow) -> Field | None:
    """A restoration whose isolation is not over is judged on how that will end."""
    isolation = store.latest(p.hold, ISOLATION)
    if isolation is None or isolation.state in ENDED:
        return None
    return as_view(isolation, here).fields[-1]


def stands_too_long(here: SiteNow, state: str, changed_at: str, now: datetime) -> int:
    """For how many minutes a program has stood at its step, when that is longer than the site wants; else 0."""
    if state != "executing":
        return 0
    minutes = int((now - utc_moment(changed_at)).total_seconds() // 60)
    return minutes if minutes > float(here.settings["longest_stand_min"]) else 0


def word(program: Program, what: str) -> str:
    """How the ledger names an act on a program: practice is told apart from the first word on."""
    return ("practice " if program.practice else "program ") + what


def write(unit: Unit, program: Program, note: Sayable, *done: tuple[FieldEvent, Mapping[str, Any]]) -> None:
    """Field events with their details, or for a practice events of its own that never reach the field."""
    kept = []
    for event, detail in done:
        kind = {"instrument_kind": event.instrument} if event.instrument else {}
        kept.append((event, shapes.write("field event", {**detail, **kind}).text))
    at, actor = unit.act.at, unit.act.actor.name
    if program.practice:
        events.add_practice_events(program.id, at, actor, note, kept)
    else:
        events.add_events(at, actor, note, kept)
