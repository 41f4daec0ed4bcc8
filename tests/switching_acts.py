"""Acts on switching programs by the demo's people, for tests that go straight to the actions."""

from __future__ import annotations

import uuid

import played
from demo_acts import act, element_id, person, the_site
from spinel.actions import console, jobs, permit_moves, permits, program_moves, program_view, programs
from spinel.core.isolation.absence import DOES_NOT, INDICATES
from spinel.core.isolation.instruments import DETECTOR
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from spinel.core.switching.steps import PHASING
from spinel.store import permits as store


def start_job(tag="T1", task="inspect", touches="bus"):
    return jobs.start(act("maren"), element_id(tag), task, f"Look into {tag}", touches)


def readings(step, voltage=None, meter=120.0):
    """What a good test types; ``voltage`` in its place on the first pair."""
    if step.kind == "handover":
        return {"in_charge": str(person("sorcha"))}
    if step.value == PHASING:
        return {"phased": "as_before", "phased_how": "Marks read at both ends; phase to phase by the meter"}
    said = {"said_by": "R. Aune"} if step.others else {}
    if "locked" in step.acts:
        return {**said, "lock": f"R-{uuid.uuid4().hex[:8]}"}
    if step.others:
        return said
    if step.kind == "notify":
        asked = {f"told_{i}": "Duty officer" for i in range(len(step.names))}
        return asked | {f"watch_{i}": "A portable pump stands by" for i in range(len(step.critical))}
    if step.instrument == DETECTOR and step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return {"instrument": "D-3", "indicates": INDICATES if meter else DOES_NOT}
    if step.instrument == DETECTOR:
        first = INDICATES if voltage else DOES_NOT
        return {f"reading_{i}": first if i == 0 else DOES_NOT for i in range(len(step.pairs))}
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return {"instrument": "M-12", "source_v": "120", "reading_v": str(meter)}
    if step.value == RESIDUAL:
        return {"reading_0": "40", "reading_1": str(voltage or 12)}
    typed = {f"reading_{i}": str(voltage or 0.3) if i == 0 else "0.3" for i in range(len(step.pairs))}
    # nobody reads it once more: the voltage stands
    return typed | ({"low": "stands"} if voltage else {})


def nobody_there(act_=act):
    """Every permit with a place is suspended, and its person in charge says that the place is empty."""
    with the_site().connection():
        waiting = store.permits_in(("issued", "in_force", "suspended"))
    for permit in waiting:
        if permit.state != "suspended":
            permit_moves.suspend(act_("edda"), permit.number, permit.version, "Switching begins")
        seen = permits.view(the_site(), permit.number, act_("edda").now)
        permit_moves.clear(act_("sorcha"), permit.number, seen.version, "Out, covers on")


def ready(number, act_=act, operator="bram"):
    nobody_there(act_)
    seen = program_view.view(the_site(), number)
    program_moves.check(act_("ivo"), number, seen.version, seen.content_hash)
    seen = program_view.view(the_site(), number)
    program_moves.release(act_("tavi"), number, seen.version, seen.content_hash)
    console.start(act_("ivo"), number, program_view.view(the_site(), number).version, person(operator))


def confirm(number, login="ivo", act_=act, **typed):
    seen = program_view.view(the_site(), number)
    said = {**readings(seen.current), **typed}
    return console.confirm(act_(login), number, seen.done + 1, seen.version, said)


def run(number, until=None, act_=act):
    """Confirm steps to the end, or until the next is of that kind."""
    while (seen := program_view.view(the_site(), number)).state == "executing":
        if until and until in (seen.current.kind, seen.current.value):
            return seen
        confirm(number, act_=act_)
    return program_view.view(the_site(), number)


def under_way(tag="T1", until=None, task="inspect"):
    """The number of an isolation that was drafted and started, and stands where ``run`` leaves it; ``until`` "start":
    at its first step. The way there is gone once."""
    return played.once(_under_way, tag, until, task)


def _under_way(tag, until, task):
    number = programs.draft(act("maren"), start_job(tag, task))
    ready(number)
    if until != "start":
        run(number, until)
    return number
