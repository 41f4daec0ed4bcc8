"""Steps of a switching program: what is read out, what it records, and the state expected before and after.

Every step states in full, every time: number, location, equipment type, identity, voltage, action.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any

from spinel.core.isolation.able import Figures
from spinel.core.network.document import Network
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL, Field, apply
from spinel.core.network.now import SHAFT, FieldEvent, position_words
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say
from spinel.core.stored import only_known
from spinel.core.switching.order import Order

#: Kinds and the events that each may make.
KINDS: Mapping[str, tuple[str, ...]] = {
    "notify": ("notified",),
    "operate": ("opened", "closed", "withdrawn", "inserted", "started", "stopped"),
    "check": ("checked",),
    "lock": ("locked", "tagged", "unlocked", "untagged"),
    "block": ("blocked", "unblocked", "released"),
    "discharge": ("discharged",),
    "try": ("tried",),
    "test": ("tested",),
    "ground": ("grounded", "ungrounded"),
    "inspect": (),
    "barricade": (),
    "access": (),
    "handover": (),
}
OPERATES = KINDS["operate"]
REACHED = {"opened": "open", "closed": "closed", "withdrawn": "withdrawn", "inserted": "open"}
#: Values of a barricade and of a door or cover.
UP, DOWN, OPENED, SHUT = "up", "down", "opened", "shut"
#: What people are told at the end of a restoration: it is live again.
LIVE = "live"
#: Whether conductors are joined as they were is looked at, before what was worked on is closed again.
PHASING = "phasing"
SPOKEN = ("location", "equipment_type", "identity", "voltage", "action")


@dataclass(frozen=True, kw_only=True)
class Step:
    """``acts``: the events it makes, all of them or none. ``value``: a throw, what is blocked, which test.

    ``node_id``: where a test or a ground is made. ``instrument``: the kind that a test is made with.
    ``stick``: tested at built-in points, with everything closed, from the distance of a stick.
    ``others``: whom it is asked of, where a device is not the site's to move: none of its people is there.
    ``names``: who is told by name; ``critical``: what needs a watch or a substitute before its supply goes.
    ``remark``: what somebody added by hand.
    ``before``, ``after``: the state of what it acts on, as recorded.
    """

    kind: str
    acts: tuple[str, ...]
    element_id: str
    location: Sayable
    equipment_type: Sayable
    identity: str
    voltage: Sayable
    action: Sayable
    stand: Sayable
    before: Sayable
    after: Sayable
    value: str = ""
    node_id: str = ""
    pairs: tuple[str, ...] = ()
    instrument: str = ""
    stick: bool = False
    names: tuple[str, ...] = ()
    critical: tuple[str, ...] = ()
    remote: bool = False
    others: str = ""
    figures: Figures | None = None
    remark: Sayable = ""

    @property
    def on_a_source(self) -> bool:
        """Is an instrument proved, away from the equipment?"""
        return self.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER)

    @property
    def at_equipment(self) -> bool:
        """Is it done where the equipment can hurt somebody, so that its live figures belong to it?"""
        away = self.kind in ("notify", "inspect", "handover", "barricade") or self.on_a_source
        return not away and not self.others

    @property
    def key(self) -> tuple[str, ...]:
        """What the step does, apart from how it is worded."""
        return (self.kind, *self.acts, self.element_id, self.value, self.node_id, self.instrument)


#: Kinds of step that others do at a device of theirs.
ASKED_OF_OTHERS = ("operate", "check", "lock")


_LISTS = ("acts", "pairs", "names", "critical")


def as_data(step: Step) -> dict[str, Any]:
    """Plain JSON data, as a program keeps it."""
    data = {f.name: getattr(step, f.name) for f in fields(step)}
    for name in _LISTS:
        data[name] = list(getattr(step, name))
    data["figures"] = step.figures.as_data() if step.figures else None
    return data


def from_data(data: Mapping[str, Any]) -> Step:
    """The step that ``as_data`` wrote."""
    values = dict(data)
    values |= {name: tuple(values[name]) for name in _LISTS if name in values}
    values["figures"] = only_known(Figures, values["figures"]) if values["figures"] else None
    return only_known(Step, values)


def events(step: Step, hold: str) -> list[FieldEvent]:
    """The field events that the step makes when it is confirmed, all readings good."""
    return [
        FieldEvent(
            sequence=0,
            at="",
            actor="",
            kind=act,
            element_id=step.element_id,
            value=step.value,
            hold=hold,
            node_id=step.node_id,
            pairs=step.pairs,
            instrument=step.instrument,
        )
        for act in step.acts
    ]


def take(order: Order, now: Field, step: Step) -> Field:
    """The field once the step is done, all readings good."""
    if step.element_id not in order.network.element:
        return now
    for event in events(step, order.hold):
        now = apply(order.network, now, event)
    return now


def condition(now: Field, step: Step, hold: str) -> Sayable:
    """The state of what a step acts on, in words: only that, so that other steps may come before or after it."""
    device = now.device(step.element_id)
    if step.kind == "operate" and step.acts[0] in ("started", "stopped"):
        return position_words(None if device.running is None else "running" if device.running else "stopped")
    if step.kind in ("operate", "check"):
        position = position_words(device.position)
        sure = device.known or device.position is None
        return position if sure else say("switching-steps-not-checked", position=position)
    if step.kind == "lock":
        code = "state-locked" if hold in device.locks else "state-not-locked"
        return say(code, position=position_words(device.position))
    if step.kind == "block":
        if "released" in step.acts:
            done = (hold, step.element_id, step.value) in now.released
            return say("state-released") if done else say("switching-steps-not-released")
        return (
            say("state-blocked")
            if (step.value or SHAFT) in device.blocked_for(hold)
            else say("switching-steps-not-blocked")
        )
    if step.kind == "discharge":
        return say("state-discharged") if device.discharged else say("switching-steps-may-be-charged")
    if step.kind == "ground":
        hangs = any(g.node_id == step.node_id and g.hold == hold for g in now.grounds)
        return say("state-grounded") if hangs else say("switching-steps-not-grounded")
    return say("switching-steps-as-it-stands")


def stamped(now_before: Field, now_after: Field, step: Step, hold: str) -> Step:
    """The step with the states before and after it filled in."""
    return replace(step, before=condition(now_before, step, hold), after=condition(now_after, step, hold))


def missing_fields(step: Step) -> list[str]:
    """Spoken fields that are empty."""
    return [name for name in SPOKEN if _blank(getattr(step, name))]


def _blank(value: Sayable) -> bool:
    return not (value.strip() if isinstance(value, str) else value)


TESTS = {INSTRUMENT_BEFORE: "before", PROOF: "proof", INSTRUMENT_AFTER: "after", RESIDUAL: "residual"}


def voltage_of(network: Network, element_id: str) -> Sayable:
    element = network.element[element_id]
    node = max((network.node[n] for n in element.ends), key=lambda n: n.nominal_voltage_v)
    return volts(node.nominal_voltage_v, node.current)
