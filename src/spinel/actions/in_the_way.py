"""Permits that a switching step would meet: it operates their equipment, changes whether or from where it is fed, or
raises the figures that they were issued for.

Such a step waits until the permit is handed back, or suspended and its place seen empty. What the same job does at its
own equipment is its own task.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from spinel.actions.permit_moves import CLEARED
from spinel.actions.permit_review import raised_by
from spinel.actions.program_view import ProgramView
from spinel.actions.signed import Record, read
from spinel.actions.site import SiteNow
from spinel.core import stored as shapes
from spinel.core.errors import Refusal
from spinel.core.network.document import Element
from spinel.core.network.field import Field, once_seen
from spinel.core.permit.life import NAMES, WITH_WINDOW
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.order import SWITCHED, Order
from spinel.core.switching.steps import OPERATES, Step, take
from spinel.store import permits, programs
from spinel.store.models import Permit


def need_nobody(here: SiteNow, seen: ProgramView, only_next: bool = False) -> None:
    """Refusal naming step and permit when a step still to come, or the next one alone, meets a permit with a place."""
    steps = seen.steps[seen.done : seen.done + 1] if only_next else seen.steps[seen.done :]
    if seen.practice or not any(_operates(s) for s in steps):
        return
    _nobody_elses(seen, steps)
    waiting = [p for p in permits.permits_in(WITH_WINDOW) if not _cleared(p)]
    if not waiting:
        return
    now = seen.now
    for i, step in enumerate(steps, seen.done + 1):
        if _operates(step):
            _meets(here, seen, i, step, now, waiting)
        now = take(seen.order, now, step)


def _nobody_elses(seen: ProgramView, steps: Sequence[Step]) -> None:
    """What an isolation that is under way opens and locks is no business of a switching, nor the other way round."""
    moves = {s.element_id: s.identity for s in steps if _operates(s)}
    for other in programs.programs_in(("executing", "stopped")):
        if other.hold == seen.hold or SWITCHED not in (other.purpose, seen.purpose):
            continue
        theirs = {s["element_id"] for s in shapes.content("program", other.content)["steps"] if s["kind"] == "operate"}
        if shared := [tag for i, tag in moves.items() if i in theirs]:
            raise Refusal(
                say("in-the-way-what-a-program-moves-is-moved-by-no-other"),
                say("in-the-way-moves-it-too", number=other.number, tags=tuple(shared)),
                say("in-the-way-execute-or-abandon-that-one-first"),
            )


def met_by_next(here: SiteNow, seen: ProgramView) -> Refusal | None:
    """Why the next step may not be done as things stand: the rule it breaks, or the permit that it meets. The last one
    ends the program: then nothing may be left of what it is for."""
    if seen.state != "executing" or seen.current is None:
        return None
    broken = seen.verdicts[seen.done]
    if broken is None and seen.done + 1 == len(seen.steps):
        broken = next(iter(seen.lacks), None)
    if broken is not None:
        return broken.refusal()
    try:
        need_nobody(here, seen, only_next=True)
    except Refusal as met:
        return met
    return None


def _operates(step: Step) -> bool:
    return bool(set(step.acts) & set(OPERATES))


def _cleared(permit: Permit) -> bool:
    """Was its place seen empty since it was last suspended?"""
    if permit.state != "suspended":
        return False
    records: Sequence[Record] = read("permit record", permits.records(permit.id), permit.content_hash)
    # suspended once more nobody came back; only after a resumption may somebody have
    told = [r.kind for r in records if r.kind in (CLEARED, "resumed")]
    return bool(told) and told[-1] == CLEARED


def nobody_in_the_way(here: SiteNow, order: Order, step: Step) -> None:
    """The same for one operation outside a program."""
    waiting = [p for p in permits.permits_in(WITH_WINDOW) if not _cleared(p)]
    met = _met(here, order, "", step, here.field, waiting)
    if met is not None:
        raise _refusal(met.of_operation(step))


def _meets(here: SiteNow, seen: ProgramView, i: int, step: Step, now: Field, waiting: Sequence[Permit]) -> None:
    met = _met(here, seen.order, seen.job, step, now, waiting)
    if met is not None:
        raise _refusal(met.of_step(i, step))


def _refusal(why: Sayable) -> Refusal:
    return Refusal(
        say("in-the-way-nothing-is-switched-where-people-are-on-a-permit"),
        why,
        say("in-the-way-hand-it-back-or-suspend-it-and-see-it-empty"),
    )


@dataclass(frozen=True)
class _Met:
    """A permit that a step meets: at its equipment, or by what it would raise of its figures."""

    permit: Permit
    tag: str
    raised: tuple[Said, ...] = ()

    def of_step(self, i: int, step: Step) -> Said:
        if self.raised:
            return say("in-the-way-step-raises-the-permit", i=i, identity=step.identity, number=self.permit.number,
                       raised=self.raised)  # fmt: skip
        return say("in-the-way-step-meets-the-permit", i=i, identity=step.identity, number=self.permit.number,
                   tag=self.tag, state=NAMES[self.permit.state])  # fmt: skip

    def of_operation(self, step: Step) -> Said:
        if self.raised:
            return say("in-the-way-operation-raises-the-permit", identity=step.identity, number=self.permit.number,
                       raised=self.raised)  # fmt: skip
        return say("in-the-way-operation-meets-the-permit", identity=step.identity, number=self.permit.number,
                   tag=self.tag, state=NAMES[self.permit.state])  # fmt: skip


def _met(here: SiteNow, order: Order, job: str, step: Step, now: Field, waiting: Sequence[Permit]) -> _Met | None:
    """The first permit that a step meets. ``job``: whose own task it is no matter."""
    after_it = take(order, now, step)
    before, moved = here.seen_with(now), here.seen_with(after_it)
    after = here.seen_with(once_seen(here.network, after_it, step.element_id))
    for permit in waiting:
        content = shapes.content("permit", permit.content)
        element = here.network.element.get(content["equipment"]["id"])
        if element is None:
            continue
        if permit.job.number == job and element.id == step.element_id:
            continue
        if element.id == step.element_id or _fed(before, element) != _fed(after, element):
            return _Met(permit, element.tag)
        raised = raised_by(before, moved, content) or raised_by(before, after, content)
        if raised:
            return _Met(permit, element.tag, tuple(raised))
    return None


def _fed(here: SiteNow, element: Element) -> list[tuple[frozenset[str], str]]:
    """What feeds each end, and how it stands: one end may lose its supply while the other keeps the same."""
    return [(frozenset(here.liveness.feeding[end]), here.liveness.nodes[end]) for end in element.ends]
