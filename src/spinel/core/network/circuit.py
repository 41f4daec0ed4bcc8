"""Which elements conduct and which sources run: the document in one source case, or as the field stands.

A ``Circuit`` is what fault currents and liveness are computed on. Pairs in ``joined`` are node ids.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from spinel.core.network.document import Case, Element, Network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import NEVER_SEEN, DeviceNow
from spinel.core.said import Sayable, say


@dataclass(frozen=True, kw_only=True)
class Circuit:
    """``closed``: element id to the pairs of its nodes that it joins. ``uncertain``: joined only because unknown.

    ``level``: impedances taken for a maximum, minimum or nominal fault level (core/fault/impedance). ``scaled``: by
    what the impedance of a source is multiplied, where it lies between strongest and weakest. ``reactance``: of a
    generator at a moment of its decay, per unit. ``bypass``: UPS on their bypass; the others feed by their inverter.
    ``case``: the document's case, whose strengths and moments have names of their own.
    """

    name: Sayable
    closed: Mapping[str, tuple[tuple[str, str], ...]]
    running: frozenset[str]
    weak: frozenset[str] = frozenset()
    transient: frozenset[str] = frozenset()
    maintenance: frozenset[str] = frozenset()
    level: str = "maximum"
    uncertain: frozenset[str] = frozenset()
    scaled: Mapping[str, complex] = field(default_factory=dict)
    reactance: Mapping[str, float] = field(default_factory=dict)
    bypass: frozenset[str] = frozenset()
    case: Sayable = ""
    note: Sayable = field(default="", compare=False)


def in_case(network: Network, case: Case) -> Circuit:
    """The document's normal positions and states, changed as the case says."""
    closed = dict(network.always_joined)
    for e in network.switches:
        closed[e.id] = joined(e, case.positions.get(e.tag, e.normal_position))
    running, weak, transient = set(network.normally_running), set(), set()
    bypass = {e.id for e in network.elements if e.kind == "ups" and e.normal_state == "bypass"}
    for tag, said in case.sources.items():
        e = network.by_tag[tag]
        if "state" in said:
            (running.discard if said["state"] == "stopped" else running.add)(e.id)
        if e.kind == "ups" and "state" in said:
            (bypass.add if said["state"] == "bypass" else bypass.discard)(e.id)
        if said.get("strength") == "minimum":
            weak.add(e.id)
        if said.get("reactance") == "transient":
            transient.add(e.id)
    maintenance = {network.by_tag[tag].id for tag, said in case.settings.items() if said == "maintenance"}
    level = case.impedances or ("minimum" if weak else "maximum")
    return Circuit(
        name=case.name,
        closed=closed,
        running=frozenset(running),
        weak=frozenset(weak),
        transient=frozenset(transient),
        maintenance=frozenset(maintenance),
        level=level,
        bypass=frozenset(bypass),
        case=case.name,
    )


def at_present(network: Network, now: Mapping[str, DeviceNow]) -> Circuit:
    """As the field stands: unknown positions count closed, a transfer switch in automatic joins both sides.

    Stopped sources may feed, but only running ones give fault current. A source that nobody has recorded as
    stopped counts as in its normal state.
    """
    closed, uncertain = dict(network.always_joined), set()
    for e in network.switches:
        closed[e.id], sure = standing(e, now.get(e.id, NEVER_SEEN))
        if not sure:
            uncertain.add(e.id)
    running = set(network.normally_running)
    for element_id, device in now.items():
        if device.running is not None:
            (running.add if device.running else running.discard)(element_id)
    bypass = frozenset(e.id for e in network.elements if e.kind == "ups" and e.normal_state == "bypass")
    return Circuit(
        name=say("as-found-now"),
        closed=closed,
        running=frozenset(running),
        uncertain=frozenset(uncertain),
        bypass=bypass,
        case=say("as-found-now"),
    )


def standing(e: Element, device: DeviceNow) -> tuple[tuple[tuple[str, str], ...], bool]:
    """Pairs of nodes that a switch must be taken to join, and whether that is known."""
    if not device.known or device.position in (None, "automatic"):
        return e.pairs, False
    return joined(e, device.position), True


def joined(e: Element, position: str | None) -> tuple[tuple[str, str], ...]:
    """Pairs of nodes that the element joins in a position; elements that are no switches always join."""
    if e.kind == "transfer_switch":
        normal, emergency, load = e.ends
        if position == "normal":
            return ((normal, load),)
        return ((emergency, load),) if position == "emergency" else ()
    if e.kind in SWITCHING and position != "closed":
        return ()
    return e.pairs
