"""What a change of the network or the field does to switching programs, and to people whose locks hang behind one."""

from __future__ import annotations

from spinel.actions import stopping
from spinel.actions.acting import Unit
from spinel.actions.locks import locks_on
from spinel.actions.program_view import ProgramView, as_view
from spinel.actions.site import SiteNow
from spinel.core import stored as shapes
from spinel.core.errors import NotFound
from spinel.core.isolation.able import Figures, by_stick, exceeds, figures
from spinel.core.network.document import Element
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.rules import FIGURES_COVER, SAYS_WHAT_THE_NETWORK_SAYS
from spinel.core.switching.steps import Step
from spinel.store import programs
from spinel.store.models import Program


def worse(seen: ProgramView) -> list[Said]:
    """Steps whose frozen figures no longer cover the present, in words."""
    found = []
    for i, step in enumerate(seen.steps[seen.done :], seen.done + 1):
        element = seen.order.network.element.get(step.element_id)
        was = step.figures
        if element is None:
            found.append(say("program-review-step-is-no-longer-in-the-network", i=i, identity=step.identity))
        elif was is not None and (now := _said_of(seen, step, element)) is not None and exceeds(now, was):
            found.append(say("program-review-step-has-worse-figures-than-the-program", i=i, identity=step.identity))
    return found


def _said_of(seen: ProgramView, step: Step, element: Element) -> Figures | None:
    """What a step would say of its equipment now; a test from the distance of a stick, of that. None: it needs no such
    distance any more."""
    return by_stick(seen.order.study, element) if step.stick else figures(seen.order.study, element)


def _no_longer_so(seen: ProgramView) -> list[Sayable]:
    """Steps that no longer say what is: a tag, a place, a voltage has changed, or what feeds their equipment."""
    return [b.why for b in seen.verdicts if b is not None and b.rule in (SAYS_WHAT_THE_NETWORK_SAYS, FIGURES_COVER)]


def exceeded(here: SiteNow) -> list[tuple[Program, list[Sayable]]]:
    """Every program that a state's figures exceed, or that no longer says what is in it, with what is the matter."""
    found: list[tuple[Program, list[Sayable]]] = []
    for program in programs.programs_in(("checked", "released", "executing")):
        try:
            seen = as_view(program, here)
            found.append((program, [*worse(seen), *_no_longer_so(seen)]))
        except NotFound as gone:
            found.append((program, [gone.said]))
    return [(program, what) for program, what in found if what]


def after_change(unit: Unit, here: SiteNow, cause: Sayable) -> list[str]:
    """A program whose figures no longer cover the present, or whose equipment has gone: stopped, or its check void."""
    touched = []
    for program, found in exceeded(here):
        end = stopping.stop if program.state == "executing" else stopping.void_check
        end(unit, program, say("permit-review-cause-and-found", cause=cause, found=found[0]))
        touched.append(program.number)
    return touched


def after_found(unit: Unit, element: Element, island: frozenset[str], reason: Sayable) -> list[str]:
    """Every program under way in the island stops; people behind an isolation there are warned."""
    touched = []
    for program in programs.programs_in(("executing", "done")):
        content = shapes.content("program", program.content)
        near = {content["equipment"]["id"], *(s["element_id"] for s in content["steps"])}
        if element.id not in near and content["equipment"]["id"] not in island:
            continue
        if program.state == "executing":
            stopping.stop(unit, program, reason)
            touched.append(program.number)
        elif locks := locks_on(program.hold):
            stopping.warn(unit, program, reason, [lock.name for lock in locks])
    return touched
