"""How each kind of step is worded: the six fields that are read out, and where to stand.

No "ditto": every step says where, what kind of thing, which one, at what voltage, and what to do.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from spinel.core.isolation.able import by_stick, figures
from spinel.core.isolation.absence import Zone
from spinel.core.isolation.instruments import DETECTOR, kind_for
from spinel.core.network.document import Element
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL
from spinel.core.network.losing import told
from spinel.core.network.now import REMOTE as BY_REMOTE
from spinel.core.network.now import SHAFT, position_words
from spinel.core.network.ways import auxiliary
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say
from spinel.core.switching.order import ISOLATION, RESTORATION, SWITCHED, Order
from spinel.core.switching.steps import DOWN, LIVE, OPENED, PHASING, UP, Step, voltage_of

ASIDE = say("wording-to-the-side-of-it-face-away")
REMOTE = say("wording-at-the-remote-control-nobody-inside-the")
FRONT = say("wording-at-its-front-doors-closed-nothing-opened")
BESIDE = say("wording-to-the-side-of-what-is-opened")
AT_OPENED = say("wording-at-its-opened-side-gloves-and-arc")
AT_POINTS = say("wording-at-its-built-in-test-points-everything-closed")
AT_SOURCE = say("wording-at-the-known-source-outside-every-boundary")
AT_CONTROL = say("wording-at-its-control-doors-closed")
AT_SHAFT = say("wording-at-the-machine-clear-of-what-turns")
AT_WORK = say("wording-where-the-work-was-hands-off-conductors")
AT_EDGE = say("wording-outside-the-boundary")
AT_BOX = say("wording-at-the-box-with-the-person-in-charge")
BY_TELEPHONE = say("wording-at-the-telephone-or-radio")
AWAY = say("wording-where-those-affected-are-reached-outside-every")

_BLOCKED = {
    SHAFT: say("wording-the-shaft-so-that-it-cannot-turn"),
    "gravity": say("wording-what-can-fall-or-sink"),
    "spring": say("wording-the-spring"),
    "pressure": say("wording-the-pressure"),
}
#: The same where a block is on it already.
_HELD = {**_BLOCKED, SHAFT: say("wording-the-shaft")}


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
    instrument: str = "",
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
        instrument=instrument,
        remote=remote,
        figures=figures(order.study, e),
    )


def _asked(order: Order, e: Element, kind: str, acts: Sequence[str], action: Sayable, value: str = "") -> Step:
    """The same of a device that others move: they are asked, and say when it is done."""
    words = say("wording-ask-them", others=e.operated_by, what=action)
    return replace(_step(order, e, kind, acts, words, BY_TELEPHONE, value=value), others=e.operated_by, figures=None)


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


#: What people are told, before and at the end.
_TELLS = {
    ISOLATION: ("wording-will-be-isolated", "wording-is-isolated"),
    RESTORATION: ("wording-will-be-made-live-again", "wording-is-live-again"),
    SWITCHED: ("wording-will-be-switched", "wording-is-switched"),
}


def notify(
    order: Order, element: Element | None = None, affected: Sequence[Element] = (), *, is_live: bool = False
) -> Step:
    """``affected``: what loses its supply, or gets it back: whoever is recorded for it is told by name. ``is_live``:
    told at the end, not before."""
    names = told(affected)
    before, after = _TELLS[order.purpose]
    what = say(after if is_live else before)
    words = say("wording-tell-everybody-affected-that-it", what=what)
    words = say("wording-tell-by-name", names=names, what=what) if names else words
    critical = tuple(e.tag for e in affected if e.critical) if order.purpose != RESTORATION and not is_live else ()
    e = element or order.target.element
    step = _step(order, e, "notify", ["notified"], words, AWAY, value=LIVE if is_live else "")
    return replace(step, names=names, critical=critical)


def operate(order: Order, e: Element, act: str, value: str = "") -> Step:
    words = say("step-set-to", value=position_words(value)) if value else say(f"step-{act}")
    if e.kind == "fuse" and act in ("withdrawn", "inserted"):
        words = say(f"step-fuse-{act}")
    if e.operated_by:
        return _asked(order, e, "operate", [act], words, value)
    if act in ("started", "stopped") and not e.remote:
        return _step(order, e, "operate", [act], say(f"step-{act}-at-its-control"), AT_CONTROL)
    words = say("step-by-remote", what=words) if e.remote else words
    return _step(order, e, "operate", [act], words, REMOTE if e.remote else ASIDE, value=value, remote=e.remote)


def check(order: Order, e: Element, position: str, *, by_remote: bool = False) -> Step:
    """It is looked at as it can be: blades where they are seen, shutters where it is out, else its indicator.
    ``by_remote``: by the indication at its remote control, where nobody may stand at it."""
    seen = position_words(position)
    if e.operated_by:
        value = "automatic" if position == "automatic" else ""
        return _asked(order, e, "check", ["checked"], say("wording-looked-that-it-is", seen=seen), value)
    if by_remote:
        words = say("wording-check-by-remote-that-it-is", seen=seen)
        return _step(order, e, "check", ["checked"], words, REMOTE, value=BY_REMOTE, remote=True)
    if position == "withdrawn":
        seen = say("wording-taken-out-every-pole") if e.kind == "fuse" else say("wording-withdrawn-shutters-closed")
    elif position in ("open", "closed"):
        code = "every-blade" if e.visible_break else "by-its-indicator"
        seen = say(f"wording-{position}-{code}")
    value = "automatic" if position == "automatic" else ""
    return _step(order, e, "check", ["checked"], say("wording-check-that-it-is", seen=seen), FRONT, value=value)


def lock(order: Order, e: Element, position: str) -> Step:
    """``position``: where it stays: a device that isolates open or withdrawn, a ground switch closed."""
    if e.operated_by:
        words = say("wording-locked-for-us", position=position_words(position))
        return _asked(order, e, "lock", ["locked", "tagged"], words)
    return _step(
        order, e, "lock", ["locked", "tagged"], say("wording-lock-and-tag-it", position=position_words(position)), FRONT
    )


def unlock(order: Order, e: Element, position: str) -> Step:
    if e.operated_by:
        return _asked(order, e, "lock", ["unlocked", "untagged"], say("wording-given-back"))
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
    return _step(order, e, "block", ["blocked"], words, AT_SHAFT, value=what)


def release(order: Order, e: Element, what: str) -> Step:
    return _step(order, e, "block", ["released"], say("wording-release", what=_BLOCKED[what]), AT_SHAFT, value=what)


def unblock(order: Order, e: Element, what: str, others: Sequence[str] = ()) -> Step:
    """``others``: holds that keep it blocked."""
    words = say("wording-leave-the-block", what=_HELD[what], others=tuple(others))
    words = words if others else say("wording-take-off-the-block-from", what=_HELD[what])
    return _step(order, e, "block", ["unblocked"], words, AT_SHAFT, value=what)


def discharge(order: Order, e: Element) -> Step:
    words = say("wording-bleed-it-through-a-rated-resistor-below")
    return _step(order, e, "discharge", ["discharged"], words, AT_OPENED)


def try_start(order: Order, e: Element) -> Step:
    return _step(order, e, "try", ["tried"], say("wording-try-to-start-it-doors-closed-then"), AT_CONTROL)


def barricade(order: Order, value: str) -> Step:
    e = order.target.element
    here = figures(order.study, e)
    words = say("wording-take-the-barricade-down") if value == DOWN else say("wording-set-the-barricade")
    if value == UP and here.boundary_mm is not None:
        far = max(here.boundary_mm, here.limited_mm or 0)
        words = say("wording-set-the-barricade-at", boundary_mm=far)
    return _step(order, e, "barricade", [], words, AT_EDGE, value=value)


def access(order: Order, value: str) -> Step:
    """The door or cover of the target, opened with the clothing on, or shut again."""
    e = order.target.element
    boxed = bool(order.network.enclosures_of(e))
    what = say("wording-its-door-or-cover") if boxed else say("wording-its-terminal-cover")
    words = say("wording-open-from-the-side" if value == OPENED else "wording-look-once-more-and-close", what=what)
    return _step(order, e, "access", [], words, BESIDE if value == OPENED else AT_OPENED, value=value)


def prove_instrument(order: Order, kind: str, *, again: bool = False) -> Step:
    """On a known source that it must show: by hand for a contact instrument, the proving unit of a detector."""
    code = f"wording-prove-{'detector' if kind == DETECTOR else 'contact-instrument'}{'-again' if again else ''}"
    what = INSTRUMENT_AFTER if again else INSTRUMENT_BEFORE
    e = order.target.element
    return _step(order, e, "test", ["tested"], say(code), AT_SOURCE, value=what, instrument=kind)


def test(order: Order, z: Zone) -> Step:
    """Absence of voltage at a zone of the target, on every pair of conductors."""
    detects = z.instrument == DETECTOR
    how = say("wording-each-conductor-with-the-high-voltage-detector") if detects else say("wording-every-pair")
    words = say("wording-test-for-absence-of-voltage", how=how)
    supply = auxiliary(order.network, z.point) if z.point.startswith("aux:") else None
    if supply is not None:
        words = say("wording-test-the-terminals-of-for-absence-of", name=supply.supply.name)
    shown, far = volts(z.voltage_v, z.current), by_stick(order.study, z.at)
    words, stand = (say("wording-test-at-built-in-points", how=how), AT_POINTS) if far else (words, AT_OPENED)
    step = _step(
        order, z.at, "test", ["tested"], words, stand, value=PROOF, node_id=z.point, pairs=z.pairs,
        instrument=z.instrument, voltage=shown,
    )  # fmt: skip
    return replace(step, stick=True, figures=far) if far else step


def residual(order: Order, e: Element) -> Step:
    """Two readings of what may still be charged, its discharge time waited."""
    node = order.network.node[e.ends[-1]]
    kind = kind_for(node.nominal_voltage_v, node.current, order.study.profile)
    words = say("wording-wait-until-discharged-read-twice")
    if e.discharge_min is not None:
        words = say("wording-wait-minutes-read-twice", minutes=e.discharge_min)
    return _step(
        order, e, "test", ["tested"], words, AT_OPENED, value=RESIDUAL, node_id=node.id, pairs=("first", "second"),
        instrument=kind,
    )  # fmt: skip


def ground(order: Order, e: Element, node_id: str, zone: Zone, *, whose: str = "") -> Step:
    """``whose``: the hold whose ground hangs there already."""
    built_in = e.kind == "ground_switch"
    words = (
        say("wording-close-the-ground-switch") if built_in else say("wording-ground-and-short-circuit-it-ground-end")
    )
    words = say("wording-tag-the-ground", whose=whose) if whose else words
    shown = volts(zone.voltage_v, zone.current)
    return _step(order, e, "ground", ["grounded"], words, AT_OPENED, node_id=node_id, voltage=shown)


def unground(order: Order, e: Element, node_id: str, others: Sequence[str] = ()) -> Step:
    """``others``: holds that keep the ground."""
    built_in = e.kind == "ground_switch"
    words = (
        say("wording-open-the-ground-switch") if built_in else say("wording-take-the-ground-off-phases-first-ground")
    )
    words = say("wording-leave-the-ground", others=tuple(others)) if others else words
    return _step(order, e, "ground", ["ungrounded"], words, AT_OPENED, node_id=node_id)


def inspect(order: Order) -> Step:
    words = say("wording-inspect-tools-counted-people-out")
    return _step(order, order.target.element, "inspect", [], words, AT_WORK)


def phasing(order: Order) -> Step:
    """Marks, phasing and direction of rotation, while nothing is live."""
    return _step(order, order.target.element, "inspect", [], say("wording-check-phasing"), AT_WORK, value=PHASING)


def handover(order: Order) -> Step:
    words = say("wording-hand-over-proved-dead-clothing-may-come-off")
    return _step(order, order.target.element, "handover", [], words, AT_BOX)
