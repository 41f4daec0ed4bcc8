"""How each kind of step is worded: the six fields that are read out, and where to stand.

No "ditto": every step says where, what kind of thing, which one, at what voltage, and what to do.
"""

from __future__ import annotations

from collections.abc import Sequence

from spinel.core.isolation.able import figures
from spinel.core.isolation.absence import Zone
from spinel.core.network.document import Element
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL
from spinel.core.network.now import SHAFT, position_words
from spinel.core.network.ways import auxiliary
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say
from spinel.core.switching.order import Order
from spinel.core.switching.steps import Step, voltage_of

ASIDE = say("wording-to-the-side-of-it-face-away")
REMOTE = say("wording-at-the-remote-control-nobody-inside-the")
FRONT = say("wording-at-its-front-doors-closed-nothing-opened")
OPENED = say("wording-at-its-opened-side-gloves-and-arc")
AWAY = say("wording-where-those-affected-are-reached-outside-every")

_BLOCKED = {
    SHAFT: say("wording-the-shaft-so-that-it-cannot-turn"),
    "gravity": say("wording-what-can-fall-or-sink"),
    "spring": say("wording-the-spring"),
    "pressure": say("wording-the-pressure"),
}


def _step(
    order: Order,
    e: Element,
    kind: str,
    acts: Sequence[str],
    action: Sayable,
    stand: Sayable,
    *,
    value: str = "",
    node_id: str = "",
    pairs: Sequence[str] = (),
    remote: bool = False,
    voltage: Sayable = "",
) -> Step:
    return Step(
        kind=kind,
        acts=tuple(acts),
        element_id=e.id,
        location=place_of(order, e),
        equipment_type=e.kind_name,
        identity=e.tag,
        voltage=voltage or voltage_of(order.network, e.id),
        action=action,
        stand=stand,
        before="",
        after="",
        value=value,
        node_id=node_id,
        pairs=tuple(pairs),
        remote=remote,
        figures=figures(order.study, e),
    )


def place_of(order: Order, e: Element) -> Sayable:
    """Where the equipment is, as it is read out."""
    boxes = order.network.enclosures_of(e)
    return e.location or (boxes[0].name if boxes else say("wording-location-not-recorded"))


def spoken_voltage(order: Order, step: Step) -> Sayable:
    """The voltage that a step names: that of the point where it tests or grounds, else the highest of its equipment."""
    if step.value == RESIDUAL or not step.node_id or "ungrounded" in step.acts:
        return voltage_of(order.network, step.element_id)
    supply = auxiliary(order.network, step.node_id)
    if supply is not None:
        return volts(supply.supply.voltage_v, supply.supply.current)
    node = order.network.node.get(step.node_id)
    return volts(node.nominal_voltage_v, node.current) if node else ""


def notify(order: Order, element: Element | None = None) -> Step:
    what = say("wording-will-be-isolated") if order.purpose == "isolation" else say("wording-will-be-made-live-again")
    e = element or order.target.element
    return _step(order, e, "notify", ["notified"], say("wording-tell-everybody-affected-that-it", what=what), AWAY)


def operate(order: Order, e: Element, act: str, value: str = "") -> Step:
    words = say("step-set-to", value=position_words(value)) if value else say(f"step-{act}")
    words = say("step-by-remote", what=words) if e.remote else words
    return _step(order, e, "operate", [act], words, REMOTE if e.remote else ASIDE, value=value, remote=e.remote)


def check(order: Order, e: Element, position: str) -> Step:
    seen = {"open": say("wording-open-every-blade"), "withdrawn": say("wording-withdrawn-shutters-closed")}
    value = "automatic" if position == "automatic" else ""
    return _step(
        order,
        e,
        "check",
        ["checked"],
        say("wording-check-that-it-is", seen=seen.get(position) or position_words(position)),
        FRONT,
        value=value,
    )


def lock(order: Order, e: Element, position: str) -> Step:
    return _step(
        order, e, "lock", ["locked", "tagged"], say("wording-lock-and-tag-it", position=position_words(position)), FRONT
    )


def unlock(order: Order, e: Element, position: str) -> Step:
    return _step(
        order,
        e,
        "lock",
        ["unlocked", "untagged"],
        say("wording-take-off-lock-and-tag-leave-it", position=position_words(position)),
        FRONT,
    )


def block(order: Order, e: Element, what: str, others: Sequence[str] = ()) -> Step:
    """``others``: holds whose block is on it already."""
    words = say("wording-tag-the-block", what=_BLOCKED[what], others=tuple(others))
    words = words if others else say("wording-block", what=_BLOCKED[what])
    return _step(order, e, "block", ["blocked"], words, FRONT, value=what)


def release(order: Order, e: Element, what: str) -> Step:
    return _step(order, e, "block", ["released"], say("wording-release", what=_BLOCKED[what]), FRONT, value=what)


def unblock(order: Order, e: Element, what: str, others: Sequence[str] = ()) -> Step:
    """``others``: holds that keep it blocked."""
    words = say("wording-leave-the-block", what=_BLOCKED[what], others=tuple(others))
    words = words if others else say("wording-take-off-the-block-from", what=_BLOCKED[what])
    return _step(order, e, "block", ["unblocked"], words, FRONT, value=what)


def discharge(order: Order, e: Element) -> Step:
    return _step(order, e, "discharge", ["discharged"], say("wording-bleed-it-through-a-rated-resistor-below"), OPENED)


def try_start(order: Order, e: Element) -> Step:
    return _step(order, e, "try", ["tried"], say("wording-try-to-start-it-doors-closed-then"), FRONT)


def test(
    order: Order,
    e: Element,
    node_id: str,
    what: str,
    pairs: Sequence[str] = (),
    voltage: tuple[float, str] | None = None,
) -> Step:
    shown = volts(*voltage) if voltage else ""
    high = voltage is not None and voltage[0] > order.study.profile.high_voltage_v
    how = say("wording-each-conductor-with-the-high-voltage-detector") if high else say("wording-every-pair")
    words = {
        INSTRUMENT_BEFORE: say("wording-prove-the-instrument-on-a-known-source"),
        PROOF: say("wording-test-for-absence-of-voltage", how=how),
        INSTRUMENT_AFTER: say("wording-prove-the-instrument-again-on-a-known"),
        RESIDUAL: say("wording-wait-its-discharge-time-read-the-residual"),
    }[what]
    supply = auxiliary(order.network, node_id) if node_id.startswith("aux:") else None
    if supply is not None:
        words = say("wording-test-the-terminals-of-for-absence-of", name=supply.supply.name)
    return _step(order, e, "test", ["tested"], words, OPENED, value=what, node_id=node_id, pairs=pairs, voltage=shown)


def ground(order: Order, e: Element, node_id: str, zone: Zone, *, whose: str = "") -> Step:
    """``whose``: the hold whose ground hangs there already."""
    built_in = e.kind == "ground_switch"
    words = (
        say("wording-close-the-ground-switch") if built_in else say("wording-ground-and-short-circuit-it-ground-end")
    )
    words = say("wording-tag-the-ground", whose=whose) if whose else words
    shown = volts(zone.voltage_v, zone.current)
    return _step(order, e, "ground", ["grounded"], words, OPENED, node_id=node_id, voltage=shown)


def unground(order: Order, e: Element, node_id: str, others: Sequence[str] = ()) -> Step:
    """``others``: holds that keep the ground."""
    built_in = e.kind == "ground_switch"
    words = (
        say("wording-open-the-ground-switch") if built_in else say("wording-take-the-ground-off-phases-first-ground")
    )
    words = say("wording-leave-the-ground", others=tuple(others)) if others else words
    return _step(order, e, "ground", ["ungrounded"], words, OPENED, node_id=node_id)


def inspect(order: Order) -> Step:
    words = say("wording-inspect-tools-and-people-out-covers-on")
    return _step(order, order.target.element, "inspect", [], words, FRONT)


def handover(order: Order) -> Step:
    words = say("wording-hand-over-the-isolation-to-the-person")
    return _step(order, order.target.element, "handover", [], words, AWAY)
