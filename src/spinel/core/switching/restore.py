"""Drafts the restoration that belongs to an isolation: everything that hangs under its hold, back to the field at
drafting, in the settled order. The first energizing is a task of its own, with the larger figure of that task.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from spinel.core.hazard import Study
from spinel.core.isolation.able import strong
from spinel.core.isolation.points import target_of
from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import SHAFT, DeviceNow, position_words
from spinel.core.said import Sayable, say
from spinel.core.switching import wording
from spinel.core.switching.draft import Writer
from spinel.core.switching.order import RESTORATION, Broken, Order
from spinel.core.switching.rules import Judged, judge, judge_step
from spinel.core.switching.steps import Step, condition


def draft_restoration(
    study: Study, now: Field, element: Element, hold: str, origin: Field
) -> tuple[Order, tuple[Step, ...], Judged]:
    """The restoration of a hold from the field as it is to the field at drafting; Refusal when a rule forbids it."""
    order = Order(RESTORATION, hold, target_of(study.network, element), study, origin)
    pen = Writer(order, now)
    pen.add(wording.notify(order))
    pen.add(wording.inspect(order))
    _take_off(pen)
    for e in _held(pen):
        pen.add(wording.unlock(order, e, pen.now.device(e.id).position or "open"))
    _bring_back(pen)
    judged = judge(order, now, pen.steps)
    if judged.first is not None:
        raise judged.first.refusal()
    return order, tuple(pen.steps), judged


def left_as_it_is(order: Order, ends: Field) -> tuple[Sayable, ...]:
    """What the restoration does not bring back, in words: unknown at drafting, or held by somebody else's lock."""
    notes = []
    for e in _elements(order, ends.devices):
        was, is_now = order.origin.device(e.id), ends.device(e.id)
        others = [h for h in (*is_now.locks, *is_now.tags) if h != order.hold]
        if others:
            notes.append(
                say(
                    "switching-restore-stays-holds-it",
                    tag=e.tag,
                    position=position_words(is_now.position),
                    others=tuple(dict.fromkeys(others)),
                )
            )
        elif e.kind in SWITCHING and not was.known_or_automatic and is_now.position != was.position:
            notes.append(
                say(
                    "switching-restore-stays-nobody-had-recorded-its-position-when",
                    tag=e.tag,
                    position=position_words(is_now.position),
                )
            )
    return tuple(notes)


def _elements(order: Order, ids: Iterable[str]) -> list[Element]:
    return [order.network.element[i] for i in ids if i in order.network.element]


def _take_off(pen: Writer) -> None:
    """Blocks and grounds off while the isolation locks hold; grounds in reverse of how they went on."""
    for e in _elements(pen.order, pen.now.devices):
        for what in sorted(pen.now.device(e.id).blocks - pen.order.origin.device(e.id).blocks):
            pen.add(wording.unblock(pen.order, e, what or SHAFT))
    for ground in reversed([g for g in pen.now.grounds if g.hold == pen.order.hold]):
        pen.add(wording.unground(pen.order, pen.order.network.element[ground.element_id], ground.node_id))


def _held(pen: Writer) -> list[Element]:
    hold = pen.order.hold
    return _elements(pen.order, [i for i, d in pen.now.devices.items() if hold in d.locks or hold in d.tags])


def _bring_back(pen: Writer) -> None:
    """Insert, then close: off-load devices first. Whatever can be closed by the rules is closed next."""
    waiting = [e for e in _elements(pen.order, pen.now.devices) if _differs(pen, e)]
    for e in waiting:
        if pen.now.device(e.id).position == "withdrawn" and pen.order.origin.device(e.id).position != "withdrawn":
            pen.add(wording.operate(pen.order, e, "inserted"))
            pen.add(wording.check(pen.order, e, "open"))
    waiting = sorted((e for e in waiting if _differs(pen, e)), key=_rank)
    while waiting:
        chosen = next((e for e in waiting if _broken(pen, e) is None), waiting[0])
        waiting.remove(chosen)
        step = _closing(pen, chosen)
        pen.add(step)
        pen.add(wording.check(pen.order, chosen, step.value or "closed"))


def _differs(pen: Writer, e: Element) -> bool:
    ends, was = pen.now.device(e.id), pen.order.origin.device(e.id)
    foreign = any(h != pen.order.hold for h in (*ends.locks, *ends.tags))
    return e.kind in SWITCHING and was.known_or_automatic and ends.position != was.position and not foreign


def _rank(e: Element) -> tuple[bool, bool]:
    """Transfer switches last; what cannot make load or make onto a fault first."""
    return (e.kind == "transfer_switch", strong(e))


def _closing(pen: Writer, e: Element) -> Step:
    was: DeviceNow = pen.order.origin.device(e.id)
    throw = was.position or "" if e.kind == "transfer_switch" else ""
    act = "opened" if was.position in ("open", "off") else "closed"
    return wording.operate(pen.order, e, act, throw)


def _broken(pen: Writer, e: Element) -> Broken | None:
    step = _closing(pen, e)
    return judge_step(pen.order, pen.now, pen.steps, replace(step, before=condition(pen.now, step, pen.order.hold)))
