"""How each kind of step is worded: the six fields that are read out, and where to stand.

No "ditto": every step says where, what kind of thing, which one, at what voltage, and what to do.
"""

from __future__ import annotations

from collections.abc import Sequence

from spinel.core.isolation.able import figures
from spinel.core.isolation.absence import HIGH_VOLTAGE_V, Zone
from spinel.core.network.document import Element
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL
from spinel.core.network.now import SHAFT
from spinel.core.network.ways import auxiliary
from spinel.core.switching.order import Order
from spinel.core.switching.steps import Step, shown_voltage, voltage_of

ASIDE = "To the side of it, face away, doors closed, nobody in front"
REMOTE = "At the remote control, nobody inside the boundary"
FRONT = "At its front, doors closed, nothing opened"
OPENED = "At its opened side, gloves and arc-rated clothing on, others behind the barricade"
AWAY = "Where those affected are reached, outside every boundary"

_OPERATE = {"opened": "OPEN", "closed": "CLOSE", "withdrawn": "WITHDRAW", "inserted": "INSERT", "started": "START",
            "stopped": "STOP"}  # fmt: skip
_BLOCKED = {SHAFT: "the shaft so that it cannot turn", "gravity": "what can fall or sink",
            "spring": "the spring", "pressure": "the pressure"}  # fmt: skip


def _step(
    order: Order, e: Element, kind: str, acts: Sequence[str], action: str, stand: str, *, value: str = "",
    node_id: str = "", pairs: Sequence[str] = (), remote: bool = False, voltage: str = "",
) -> Step:  # fmt: skip
    return Step(
        kind=kind,
        acts=tuple(acts),
        element_id=e.id,
        location=e.location or _enclosure(order, e),
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


def _enclosure(order: Order, e: Element) -> str:
    boxes = order.network.enclosures_of(e)
    return boxes[0].name if boxes else "location not recorded"


def notify(order: Order, element: Element | None = None) -> Step:
    what = "will be isolated" if order.purpose == "isolation" else "will be made live again"
    e = element or order.target.element
    return _step(order, e, "notify", ["notified"], f"TELL everybody affected that it {what}", AWAY)


def operate(order: Order, e: Element, act: str, value: str = "") -> Step:
    throw = f" to {value}" if value else ""
    how = " by remote" if e.remote else ""
    words = f"{_OPERATE[act] if not value else 'SET'}{throw.upper()}{how}"
    return _step(order, e, "operate", [act], words, REMOTE if e.remote else ASIDE, value=value, remote=e.remote)


def check(order: Order, e: Element, position: str) -> Step:
    seen = {"open": "open, every blade", "withdrawn": "withdrawn, shutters closed", "closed": "closed"}
    value = "automatic" if position == "automatic" else ""
    return _step(order, e, "check", ["checked"], f"CHECK that it is {seen.get(position, position)}", FRONT, value=value)


def lock(order: Order, e: Element, position: str) -> Step:
    return _step(order, e, "lock", ["locked", "tagged"], f"LOCK AND TAG it {position}", FRONT)


def unlock(order: Order, e: Element, position: str) -> Step:
    return _step(order, e, "lock", ["unlocked", "untagged"], f"TAKE OFF LOCK AND TAG, leave it {position}", FRONT)


def block(order: Order, e: Element, what: str) -> Step:
    return _step(order, e, "block", ["blocked"], f"BLOCK {_BLOCKED[what]}", FRONT, value=what)


def release(order: Order, e: Element, what: str) -> Step:
    return _step(order, e, "block", ["released"], f"RELEASE {_BLOCKED[what]}", FRONT, value=what)


def unblock(order: Order, e: Element, what: str) -> Step:
    return _step(order, e, "block", ["unblocked"], f"TAKE OFF THE BLOCK from {_BLOCKED[what]}", FRONT, value=what)


def discharge(order: Order, e: Element) -> Step:
    return _step(order, e, "discharge", ["discharged"], "BLEED it through a rated resistor, below the limit", OPENED)


def try_start(order: Order, e: Element) -> Step:
    return _step(order, e, "try", ["tried"], "TRY TO START it, doors closed, then control back to off", FRONT)


def test(
    order: Order, e: Element, node_id: str, what: str, pairs: Sequence[str] = (),
    voltage: tuple[float, str] | None = None,
) -> Step:  # fmt: skip
    volts = shown_voltage(*voltage) if voltage else ""
    high = voltage is not None and voltage[0] > HIGH_VOLTAGE_V
    how = "each conductor with the high-voltage detector" if high else "every pair"
    words = {
        INSTRUMENT_BEFORE: "PROVE THE INSTRUMENT on a known source",
        PROOF: f"TEST {how} for absence of voltage",
        INSTRUMENT_AFTER: "PROVE THE INSTRUMENT AGAIN on a known source",
        RESIDUAL: "WAIT its discharge time, READ the residual voltage twice",
    }[what]
    supply = auxiliary(order.network, node_id) if node_id.startswith("aux:") else None
    if supply is not None:
        words = f"TEST the terminals of {supply.supply.name.lower()} for absence of voltage"
    return _step(order, e, "test", ["tested"], words, OPENED, value=what, node_id=node_id, pairs=pairs, voltage=volts)


def ground(order: Order, e: Element, node_id: str, zone: Zone, *, built_in: bool) -> Step:
    words = "CLOSE THE GROUND SWITCH" if built_in else "GROUND AND SHORT-CIRCUIT it: ground end first, phases after"
    volts = shown_voltage(zone.voltage_v, zone.current)
    return _step(order, e, "ground", ["grounded"], words, OPENED, node_id=node_id, voltage=volts)


def unground(order: Order, e: Element, node_id: str) -> Step:
    built_in = e.kind == "ground_switch"
    words = "OPEN THE GROUND SWITCH" if built_in else "TAKE THE GROUND OFF: phases first, ground end last"
    return _step(order, e, "ground", ["ungrounded"], words, OPENED, node_id=node_id)


def inspect(order: Order) -> Step:
    words = "INSPECT: tools and people out, covers on, settings back"
    return _step(order, order.target.element, "inspect", [], words, FRONT)


def handover(order: Order) -> Step:
    words = "HAND OVER the isolation to the person in charge"
    return _step(order, order.target.element, "handover", [], words, AWAY)
