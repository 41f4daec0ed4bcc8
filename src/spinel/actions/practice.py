"""Practice runs: a program's steps on a field of their own, a simulated plant with faults, a detector that reads it.

Nothing of a practice run is ever in the record of the field, and no job or permit is satisfied by one.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from random import Random

from spinel.actions.acting import Act, Unit, work
from spinel.actions.keeping import save
from spinel.actions.program_view import ProgramView, as_view, renamed, stored
from spinel.actions.programs import insert
from spinel.actions.site import on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.isolation import absence
from spinel.core.isolation.instruments import DETECTOR
from spinel.core.network.cut import can_isolate
from spinel.core.network.document import Network
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from spinel.core.said import Sayable, say
from spinel.core.switching import plant
from spinel.core.switching.order import ISOLATION, NOBODY_ELSE, RESTORATION
from spinel.core.switching.rules import judge
from spinel.core.switching.steps import Step, events
from spinel.store import network as events_store
from spinel.store import programs as store
from spinel.store.models import Program
from spinel.store.numbering import next_number


@on_site
def practise(act: Act, number: str) -> str:
    """A practice run of a program: its steps, a field of its own, nothing of it ever in the record."""
    act.actor.needs("coordinator", "person_in_charge", "director", what=say("practice-start-a-practice-run"))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        program = stored(number)
        here = unit.site.as_it_is()
        seen = as_view(program, here)
        if seen.practice:
            raise Refusal(
                say("practice-practice-of-a-program"),
                say("practice-is-itself-a-practice-run", number=number),
                say("practice-practise-the-program"),
            )
        own = next_number(Program, here.profile.prefixes["practice"])
        order = replace(seen.order, hold=own, personal_locks=(), crews=NOBODY_ELSE)
        rest = judge(order, renamed(seen.fields[0], seen.hold, own), seen.steps)
        if rest.first is not None:
            raise rest.first.refusal()
        content = {**seen.content, "hold": own, "of": number, "of_hold": seen.hold}
        made = insert(
            unit,
            program.job,
            own,
            own,
            seen.purpose,
            content,
            number,
            practice=True,
            state="released",
            origin=program.origin_event,
            base=here.event_id,
        )
        if seen.purpose == RESTORATION:
            _play_isolation(made, unit, seen, own)
    return own


def _play_isolation(program_id: int, unit: Unit, seen: ProgramView, own: str) -> None:
    """A practice of a restoration begins where its isolation ends: that is played first."""
    isolation = store.latest(seen.hold, ISOLATION)
    assert isolation is not None
    played = []
    for step in as_view(isolation, unit.site.as_it_is()).steps:
        for event in events(step, own):
            known = {"pairs": list(event.pairs), "instrument_kind": event.instrument}
            played.append((event, shapes.write("field event", {name: v for name, v in known.items() if v}).text))
    events_store.add_practice_events(program_id, unit.act.at, "practice", "as isolated", played)


@on_site
def put_fault(act: Act, number: str, kind: str, tag: str) -> None:
    """A trainer puts a fault into the simulated plant of a practice run, or takes all of them out (no kind)."""
    act.actor.needs("coordinator", "director", what=say("practice-put-a-fault-into-a-practice-run"))
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        if not program.practice:
            raise Refusal(
                say("practice-faults-are-for-practice-only"),
                say("practice-is-not-a-practice-run", number=number),
                say("practice-start-a-practice-run-2"),
            )
        faults = (
            []
            if not kind
            else [*shapes.read("faults", program.faults)["faults"], _fault(unit.site.as_it_is().network, kind, tag)]
        )
        save(act, program, program.version, faults=shapes.write("faults", {"faults": faults}).text)
        unit.record("practice fault", f"program:{number}", {"kind": kind or "all taken out", "tag": tag})


def _fault(network: Network, kind: str, tag: str) -> dict[str, str]:
    if kind not in plant.FAULTS:
        raise InputError("kind", kind, say("one-of", options=tuple(plant.FAULTS)))
    element = network.by_tag.get(tag)
    if kind == "dead_meter":
        return {"kind": kind, "element_id": "", "tag": ""}
    if element is None:
        raise InputError("tag", tag, say("practice-the-tag-of-equipment-in-the-network"))
    if kind == "stuck_blade" and not can_isolate(element):
        raise InputError("tag", tag, say("practice-a-device-that-isolates"))
    return {"kind": kind, "element_id": element.id, "tag": element.tag}


def false_reading(seen: ProgramView, typed: Mapping[str, float | str]) -> Sayable:
    """What was typed for the present step where the simulated instrument shows the opposite; empty when they agree.

    They agree when both say the same: absent or present, the instrument works or not, the residual falls or not.
    """
    step, shown = seen.current, detector(seen)
    if step is None or not shown:
        return ""
    if step.instrument == DETECTOR:
        said = typed if step.value not in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER) else {UNIT: typed["indicates"]}
        wrong = next((p for p in shown if shown[p] != said[p]), None)
        code = "practice-false-indication"
        return say(code, pair=wrong, shown=say(f"detector-{shown[wrong]}"), identity=step.identity) if wrong else ""
    return _false_volts(seen, step, _numbers(shown), _numbers(typed))


def _numbers(readings: Mapping[str, float | str]) -> dict[str, float]:
    return {name: float(v) for name, v in readings.items() if not isinstance(v, str)}


def _false_volts(seen: ProgramView, step: Step, shown: Mapping[str, float], typed: Mapping[str, float]) -> Sayable:
    by = seen.order.study.profile.instruments
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        reads, says = shown[SOURCE], typed["reading_v"]
        # what the simulated source gives is the voltage that was named for it
        works = [absence.instrument_works(reads, plant.KNOWN_SOURCE_V, by),
                 absence.instrument_works(says, typed["source_v"], by)]  # fmt: skip
        wrong = [(SOURCE, reads, says)] if works[0] != works[1] else []
    elif step.value == RESIDUAL:
        e = seen.order.network.element[step.element_id]
        at_v = max(seen.order.network.node[n].nominal_voltage_v for n in e.ends)
        falls = [absence.residual_falls(r["first"], r["second"], by, at_v, e.discharge_min) for r in (shown, typed)]
        wrong = [("second", shown["second"], typed["second"])] if falls[0] != falls[1] else []
    else:
        wrong = [(p, shown[p], typed[p]) for p in shown if (shown[p] > by.absent_v) != (typed[p] > by.absent_v)]
    if not wrong:
        return ""
    pair, reads, says = wrong[0]
    return say("practice-false-reading", pair=pair, shown=reads, typed=says, identity=step.identity)


#: What the simulated instruments are proved on.
SOURCE, UNIT = "known source", "proving unit"


def missed(seen: ProgramView) -> Sayable:
    """The faults that are still in the plant at the end of a run, and that nobody met."""
    if not seen.faults:
        return ""
    return say("practice-a-fault-was-missed", faults=tuple(plant.EVERYTHING[f["kind"]] for f in seen.faults))


def met_here(seen: ProgramView) -> Sayable:
    """What is seen at the present step of a run that is not as written, beside what instruments show; else empty."""
    step = seen.current
    if not seen.practice or step is None:
        return ""
    for f in seen.faults:
        if f["kind"] in plant.SCENES and int(f["step"]) == seen.done + 1:
            return say(f"practice-scene-{f['kind']}", tag=f["tag"], identity=step.identity)
        here = f["kind"] == "stuck_blade" and step.kind == "check" and step.element_id == f["element_id"]
        if here and seen.now.device(step.element_id).position in ("open", "withdrawn") and _blades_are_seen(seen, step):
            return say("practice-scene-stuck_blade", identity=step.identity)
    return ""


def _blades_are_seen(seen: ProgramView, step: Step) -> bool:
    return seen.order.network.element[step.element_id].visible_break


@on_site
def draw(act: Act, number: str, seed: str) -> None:
    """A scenario for a run, drawn from a seed: the same program and the same seed give the same one. What it is, is
    told at the end."""
    act.actor.needs("coordinator", "director", what=say("practice-put-a-fault-into-a-practice-run"))
    text = texts.SEED.check(seed)
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        if not program.practice or seen.done:
            raise Refusal(
                say("practice-faults-are-for-practice-only"),
                say("practice-has-begun-or-is-none", number=number),
                say("practice-start-a-practice-run-2"),
            )
        drawn = {**_drawn(seen, text), "drawn": text}
        save(act, program, program.version, faults=shapes.write("faults", {"faults": [drawn]}).text)
        unit.record("practice scenario drawn", f"program:{number}", {"seed": text})


def shelf(seen: ProgramView) -> list[dict[str, str]]:
    """Every scenario that can be met in a program: each at one of its steps or devices."""
    network, found = seen.order.network, list[dict[str, str]]()

    def at(kind: str, element_id: str, tag: str, step: int = 0) -> None:
        found.append({"kind": kind, "element_id": element_id, "tag": tag, "step": str(step)})

    for i, s in enumerate(seen.steps, 1):
        e = network.element[s.element_id]
        if s.acts == ("opened",) and can_isolate(e):
            at("stuck_blade", e.id, e.tag)
            at("others_lock", e.id, e.tag, i)
        if s.kind == "operate" and s.acts[0] in ("opened", "closed"):
            beside = sorted(x.tag for x in network.elements if x.kind == e.kind and x.id != e.id
                            and x.location == e.location)  # fmt: skip
            if beside:
                at("wrong_cubicle", e.id, beside[0], i)
        if s.kind == "notify" and not s.value:
            at("no_answer", e.id, s.names[0] if s.names else e.tag, i)
        if s.value == RESIDUAL:
            at("rising_residual", e.id, e.tag)
        if s.value == INSTRUMENT_AFTER:
            at("dead_meter", "", "")
    target = seen.order.target.element
    if any(s.value == "proof" for s in seen.steps):
        at("back_feed", target.id, target.tag)
    return found


def _drawn(seen: ProgramView, seed: str) -> dict[str, str]:
    """First the kind, then the place: a program with many devices is not all about one of them."""
    dice = Random(f"{seed}:{seen.content['of']}:{len(seen.steps)}")
    known = shelf(seen)
    kind = dice.choice(sorted({s["kind"] for s in known}))
    return dice.choice([s for s in known if s["kind"] == kind])


@dataclass(frozen=True)
class Debriefed:
    """One step of a run: what its instruments showed, what was recorded, and what was not as written there."""

    step: int
    identity: str
    action: Sayable
    shown: Mapping[str, float | str]
    recorded: Mapping[str, float | str]
    scene: Sayable
    outcome: str


def debrief(seen: ProgramView) -> list[Debriefed]:
    """Every step that was confirmed, or at which the run ended, once it is over."""
    if not seen.practice or seen.state not in ("done", "abandoned"):
        return []
    found = []
    for r in seen.records:
        if r.kind not in ("confirmed", "failed", "stopped") or "step" not in r.detail:
            continue
        step = seen.steps[r.detail["step"] - 1]
        typed = {**(r.detail.get("readings_v") or {}), **(r.detail.get("indications") or {})}
        if "reading_v" in r.detail:
            typed = {SOURCE: r.detail["reading_v"]}
        if "indicates" in r.detail:
            typed = {UNIT: r.detail["indicates"]}
        scene = r.detail.get("scene", "")
        found.append(
            Debriefed(r.detail["step"], step.identity, step.action, r.detail.get("shown") or {}, typed, scene, r.kind)
        )
    return found


def detector(seen: ProgramView) -> dict[str, float | str]:
    """What the simulated instruments of a practice run show for its present step, by what is touched: V, or whether
    a detector indicates."""
    step = seen.current
    if not seen.practice or step is None or step.kind != "test":
        return {}
    faults = tuple(plant.Fault(f["kind"], f["element_id"]) for f in seen.faults if f["kind"] in plant.FAULTS)
    site_now = plant.Plant(seen.order.network, seen.now, faults)
    after, detects = step.value == INSTRUMENT_AFTER, step.instrument == DETECTOR
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        known = plant.read_known_source(site_now, after)
        return {UNIT: _indicated(known)} if detects else {SOURCE: known}
    shown = plant.read(site_now, step.node_id, step.pairs)
    if step.value == RESIDUAL:
        shown = dict(zip(step.pairs, plant.residual(site_now, step.element_id), strict=True))
    return {pair: _indicated(v) for pair, v in shown.items()} if detects else {**shown}


def _indicated(volts: float) -> str:
    return absence.INDICATES if volts > plant.DETECTED_V else absence.DOES_NOT
