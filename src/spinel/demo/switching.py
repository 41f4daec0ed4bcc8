"""The demo's switching: a pair of programs that is over, an isolation that stands, one under way, one to be checked.

Played through the same actions that people use, by the people whose acts they are.
"""

from __future__ import annotations

from spinel.actions import box, console, jobs, practice, program_moves, program_view, programs
from spinel.core.isolation.absence import DOES_NOT, INDICATES
from spinel.core.isolation.instruments import DETECTOR
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from spinel.core.switching.order import RESTORATION
from spinel.core.switching.steps import PHASING, Step
from spinel.demo.history import Demo
from spinel.demo.site import element_id

#: A minute in hours: steps follow each other at about this pace.
MINUTE = 1 / 60


def _job(demo: Demo, hours: float, tag: str, task: str, title: str) -> str:
    return jobs.start(demo.act("maren", hours), element_id(tag), task, title, "bus")


def _sign(demo: Demo, hours: float, number: str) -> None:
    seen = program_view.view(demo.site, number)
    program_moves.check(demo.act("ivo", hours), number, seen.version, seen.content_hash)
    seen = program_view.view(demo.site, number)
    program_moves.release(demo.act("tavi", hours + 5 * MINUTE), number, seen.version, seen.content_hash)


def _start(demo: Demo, hours: float, number: str) -> None:
    console.start(demo.act("ivo", hours), number, program_view.view(demo.site, number).version, demo.person("bram"))


def typed(step: Step, in_charge: int) -> dict[str, str]:
    """What is typed for a step when everything is as it should be."""
    if step.kind == "handover":
        return {"in_charge": str(in_charge)}
    if step.value == PHASING:
        return {"phased": "as_before", "phased_how": "Marks at both ends; phase to phase with M-12"}
    said = {"said_by": "R. Aune, control room"} if step.others else {}
    if "locked" in step.acts:
        return {**said, "lock": f"R-{int(step.element_id[:4], 16) % 90 + 10}"}
    if step.kind == "notify":
        answered = {f"told_{i}": "Duty officer" for i in range(len(step.names))}
        return answered | {f"watch_{i}": "Portable pump on the quay, manned" for i in range(len(step.critical))}
    if step.instrument == DETECTOR:
        return detected(step)
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return {"instrument": "M-12", "source_v": "120", "reading_v": "119.6"}
    if step.others:
        return said
    if step.value == RESIDUAL:
        return {"reading_0": "44", "reading_1": "9"}
    return {f"reading_{i}": f"{0.1 * (1 + i % 4):.1f}" for i in range(len(step.pairs))}


def detected(step: Step) -> dict[str, str]:
    """What is recorded of a detector: it indicates on its proving unit, and nowhere else."""
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return {"instrument": "D-3", "indicates": INDICATES}
    return {f"reading_{i}": DOES_NOT for i in range(len(step.pairs))}


def _run(demo: Demo, hours: float, number: str, until: int | None = None) -> float:
    """Confirm steps from a moment on, a minute and a half each; to a step or to the end. The moment after."""
    while (seen := program_view.view(demo.site, number)).state == "executing" and seen.done != until:
        step = seen.current
        assert step is not None
        said = typed(step, demo.person("sorcha"))
        console.confirm(demo.act("ivo", hours), number, seen.done + 1, seen.version, said)
        hours += 1.5 * MINUTE
    return hours


def _restoration_of(demo: Demo, number: str) -> str:
    return next(p.number for p in programs.lines(demo.site) if p.hold == number and p.purpose == RESTORATION)


def _over(demo: Demo) -> None:
    """Yesterday: pump P-31 isolated, worked on, restored; its job closed with what was learnt."""
    job = _job(demo, -30, "P-31", "replace", "Replace the coupling guard of P-31")
    number = programs.draft(demo.act("maren", -29.8), job)
    _sign(demo, -29, number)
    _start(demo, -28.5, number)
    end = _run(demo, -28.5, number)
    box.take(demo.act("sorcha", end + 0.1), number)
    box.hang(demo.act("nils", end + 0.2), number, "N-07")
    box.remove(demo.act("nils", end + 2), number)
    box.complete(demo.act("sorcha", end + 2.1), number)
    back = _restoration_of(demo, number)
    _sign(demo, end + 2.3, back)
    _start(demo, end + 2.6, back)
    after = _run(demo, end + 2.6, back)
    version = jobs.view(demo.site, job).version
    jobs.close(demo.act("maren", after + 0.5), job, version, "no", "The guard's bolts are metric: carry both sets")


def _standing(demo: Demo) -> None:
    """P-21 is isolated. Wanda works behind it; Nils went home with his lock on the box."""
    job = _job(demo, -21, "P-21", "replace", "Replace the mechanical seal of P-21")
    number = programs.draft(demo.act("sorcha", -20.8), job)
    _sign(demo, -20, number)
    _start(demo, -19.5, number)
    end = _run(demo, -19.5, number)
    box.take(demo.act("sorcha", end + 0.1), number)
    box.hang(demo.act("nils", end + 0.2), number, "N-07")
    box.hang(demo.act("wanda", -1.2), number, "W-03")
    why = "Called 555 0150 twice, no answer; gate log: left at 13:40; not in the gallery"
    box.absent(demo.act("maren", -0.3), number, demo.person("nils"), why)


def _under_way(demo: Demo) -> None:
    """FP-1 is being isolated just now: the breaker is open and checked, its lock is the next step."""
    job = _job(demo, -4, "FP-1", "retorque", "Remake the terminals of fire pump FP-1")
    number = programs.draft(demo.act("maren", -3.8), job)
    _sign(demo, -2, number)
    _start(demo, -6 * MINUTE, number)
    _run(demo, -5 * MINUTE, number, until=4)


def _to_be_checked(demo: Demo) -> None:
    """T1's isolation waits for its check, and is being practised with a blade that stays closed."""
    job = _job(demo, -2, "T1", "retorque", "Tighten the low-voltage bushings of T1")
    number = programs.draft(demo.act("maren", -1.5), job)
    run = practice.practise(demo.act("ivo", -1), number)
    practice.put_fault(demo.act("tavi", -0.9), run, "stuck_blade", "52-A")
    _start(demo, -0.8, run)
    _run(demo, -0.8, run, until=5)


#: One a program: over, standing, under way, and to be checked.
STORIES = (_over, _standing, _under_way, _to_be_checked)
