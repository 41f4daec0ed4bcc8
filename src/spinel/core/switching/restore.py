"""Drafts the restoration that belongs to an isolation: it undoes what its own hold did, in the settled order, and
nothing else. The first energizing is a task of its own, with the larger figure of that task.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from spinel.core.hazard import Study
from spinel.core.isolation.able import strong
from spinel.core.isolation.points import target_of
from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.network.kinds import GROUND_SWITCH, SWITCHING
from spinel.core.network.losing import coming_back
from spinel.core.network.now import position_words
from spinel.core.network.ways import as_stands, reach, touching
from spinel.core.said import Sayable, say
from spinel.core.switching import wording
from spinel.core.switching.draft import Writer
from spinel.core.switching.order import NOBODY_ELSE, RESTORATION, Broken, Crews, Order
from spinel.core.switching.rules import Judged, judge, judge_step
from spinel.core.switching.steps import DOWN, SHUT, Step, condition


def draft_restoration(
    study: Study, now: Field, element: Element, hold: str, origin: Field, crews: Crews = NOBODY_ELSE
) -> tuple[Order, tuple[Step, ...], Judged]:
    """The restoration of a hold from the field as it is; Refusal when a rule forbids it. Where a program was called
    off half way it begins its closing with a check of whatever was operated and not checked."""
    target = target_of(study.network, element)
    order = Order(purpose=RESTORATION, hold=hold, target=target, study=study, origin=origin, crews=crews)
    pen = Writer(order, now)
    back = coming_back(study.network, now.devices, origin.devices)
    pen.add(wording.notify(order, affected=back))
    pen.add(wording.inspect(order))
    for e in _held(pen):
        device = pen.now.device(e.id)
        if device.position is not None and not device.checked:
            # reported since, or never checked: nothing comes off behind it before somebody has looked
            pen.add(wording.check(order, e, device.position))
    if element.row.phased:
        pen.add(wording.phasing(order))
    _take_off(pen)
    pen.add(wording.access(order, SHUT))
    for e in _held(pen):
        pen.add(wording.unlock(order, e, pen.now.device(e.id).position or "open"))
    _bring_back(pen)
    pen.add(wording.barricade(order, DOWN))
    pen.add(wording.notify(order, affected=back, is_live=True))
    judged = judge(order, now, pen.steps)
    if judged.first is not None:
        raise judged.first.refusal()
    return order, tuple(pen.steps), judged


def left_as_it_is(order: Order, ends: Field) -> tuple[Sayable, ...]:
    """What the restoration does not bring back, in words: unknown before, held by somebody else's lock, or operated or
    reported by others since."""
    notes = []
    near = touching(order.network, reach(order.network, order.target.nodes, as_stands(order.origin.devices)))
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
        elif e.id in near and e.kind in SWITCHING and is_now.position != was.position and is_now.moved_by != order.hold:
            notes.append(say("switching-restore-not-this-holds", tag=e.tag, position=position_words(is_now.position)))
        elif e.kind in SWITCHING and is_now.moved_by == order.hold and is_now.was is None:
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
    hold = pen.order.hold
    for e in _elements(pen.order, pen.now.devices):
        for what in sorted(pen.now.device(e.id).blocked_for(hold)):
            others = [h for h in pen.now.device(e.id).holding(what) if h != hold]
            pen.add(wording.unblock(pen.order, e, what, others))
    for ground in reversed([g for g in pen.now.grounds if g.hold == hold]):
        others = [g.hold for g in pen.now.grounds if g.node_id == ground.node_id and g.hold != hold]
        at = pen.order.network.element[ground.element_id]
        if hold in pen.now.device(at.id).locks:
            pen.add(wording.unlock(pen.order, at, "closed"))
        pen.add(wording.unground(pen.order, at, ground.node_id, others))
        if at.kind == GROUND_SWITCH and not others:
            pen.add(wording.check(pen.order, at, "open"))


def _held(pen: Writer) -> list[Element]:
    hold = pen.order.hold
    held = _elements(pen.order, [i for i, d in pen.now.devices.items() if hold in d.locks or hold in d.tags])
    return [e for e in held if e.kind != GROUND_SWITCH]


def _bring_back(pen: Writer) -> None:
    """Insert, then close: off-load devices first. Whatever can be closed by the rules is closed next."""
    for e in _elements(pen.order, pen.now.devices):
        device = pen.now.device(e.id)
        if _own(pen, e) and device.position is not None and not device.known_or_automatic:
            pen.look(e, device.position)
    waiting = [e for e in _elements(pen.order, pen.now.devices) if _differs(pen, e)]
    for e in waiting:
        if pen.now.device(e.id).position == "withdrawn" and pen.now.device(e.id).was != "withdrawn":
            pen.add(wording.operate(pen.order, e, "inserted"))
            pen.look(e, "open")
    waiting = [e for e in waiting if _differs(pen, e)]
    while waiting:
        waiting.sort(key=lambda e: _rank(pen, e))
        chosen = next((e for e in waiting if _broken(pen, e) is None), waiting[0])
        step = _closing(pen, chosen)
        pen.add(step)
        pen.look(chosen, step.value or "closed" if step.acts[0] == "closed" else "open")
        # a transfer switch comes again: from the side that it joins now to automatic
        if step.value != "normal" or not _differs(pen, chosen):
            waiting.remove(chosen)


def _own(pen: Writer, e: Element) -> bool:
    """Did this hold operate it, or is it left to it, and does nobody else keep it?"""
    device, hold = pen.now.device(e.id), pen.order.hold
    foreign = any(h != hold for h in (*device.locks, *device.tags))
    left_to_it = device.moved_by in pen.order.crews.over and any(
        s.element_id == e.id and "unlocked" in s.acts for s in pen.steps
    )
    return e.kind in SWITCHING and (device.moved_by == hold or left_to_it) and not foreign


def _differs(pen: Writer, e: Element) -> bool:
    device = pen.now.device(e.id)
    return _own(pen, e) and device.was is not None and device.position != device.was


def _rank(pen: Writer, e: Element) -> tuple[bool, bool]:
    """Automatic modes last; what cannot make load or make onto a fault first, what fails its duty check among it, so
    a transfer switch that joins one of its sides before that is energized."""
    duty = pen.order.study.duty.get(e.id)
    fit = strong(e) and (duty is None or duty.adequate or e.remote)
    return (e.kind == "transfer_switch" and _throw(pen, e) == "automatic", fit)


def _throw(pen: Writer, e: Element) -> str:
    """Where a transfer switch goes next: to automatic only from one of its sides."""
    device = pen.now.device(e.id)
    automatic = device.was == "automatic" and device.position not in ("normal", "emergency")
    return "normal" if automatic else device.was or ""


def _closing(pen: Writer, e: Element) -> Step:
    was = pen.now.device(e.id).was or ""
    throw = _throw(pen, e) if e.kind == "transfer_switch" else ""
    act = "opened" if was in ("open", "off") else "closed"
    return wording.operate(pen.order, e, act, throw)


def _broken(pen: Writer, e: Element) -> Broken | None:
    step = _closing(pen, e)
    return judge_step(pen.order, pen.now, pen.steps, replace(step, before=condition(pen.now, step, pen.order.hold)))
