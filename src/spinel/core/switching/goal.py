"""The state that a switching is to reach: what can be asked of an element, and what the end still lacks of it."""

from __future__ import annotations

from collections.abc import Iterator

from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.network.kinds import STAND_BY, SWITCHING
from spinel.core.network.now import position_words
from spinel.core.said import say
from spinel.core.switching.order import Broken, Order


def choices(e: Element) -> tuple[str, ...]:
    """The positions that can be asked of an element; empty for what is no device and no machine that can be started."""
    if e.kind == "transfer_switch":
        return ("normal", "emergency", "off", "automatic")
    if e.kind in SWITCHING:
        return ("open", "closed", "withdrawn") if e.withdrawable else ("open", "closed")
    return ("running", "stopped") if e.row.supplies == STAND_BY and e.row.own_voltage else ()


def stands(now: Field, e: Element) -> str | None:
    """Where it is, in the words of ``choices``; None where nobody knows."""
    device = now.device(e.id)
    if e.kind in SWITCHING:
        return device.position
    return None if device.running is None else "running" if device.running else "stopped"


def wanted_of(order: Order) -> Iterator[tuple[Element, str]]:
    """Each element of the goal with the position wanted; what a revision took away is none."""
    for element_id, wanted in order.goal.items():
        if element_id in order.network.element:
            yield order.network.element[element_id], wanted


def reached(order: Order, now: Field) -> Iterator[Broken]:
    """What the end of a switching lacks: a device of its goal elsewhere or unchecked, or another one left moved."""
    for e, wanted in wanted_of(order):
        device = now.device(e.id)
        sure = e.kind not in SWITCHING or device.known_or_automatic
        if stands(now, e) != wanted or not sure:
            yield Broken(
                say("switching-between-it-ends-in-the-state-asked-for"),
                say("switching-between-ends-wanted", tag=e.tag, ends=position_words(stands(now, e)),
                    wanted=position_words(wanted)),
                say("switching-between-operate-and-check-it"),
            )  # fmt: skip
    for element_id, device in now.devices.items():
        e = order.network.element[element_id]
        if element_id in order.goal or e.kind not in SWITCHING or device.moved_by != order.hold:
            continue
        if device.was is not None and device.position != device.was:
            yield Broken(
                say("switching-between-nothing-else-is-left-moved"),
                say("switching-between-ends-wanted", tag=e.tag, ends=position_words(device.position),
                    wanted=position_words(device.was)),
                say("switching-between-bring-it-back-or-ask-for-it"),
            )  # fmt: skip
