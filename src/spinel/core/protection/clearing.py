"""When does an arcing fault end? The last sustained source must be cut off, each device timed at its own share.

Currents are those at the start of the arc: the share of a device is its bolted share times arcing over bolted
current, at its own voltage. Devices drop out in the order of their times until no sustained source reaches the
fault; the full current is taken to last that long (conservative; staged clearing may refine it later).
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass

import networkx as nx

from spinel.core.fault.nodal import Fault, NodalModel
from spinel.core.network.document import PROTECTIVE, Element
from spinel.core.protection.curves import Curve
from spinel.core.protection.curves import clearing as curve_clearing
from spinel.core.protection.duty import Duty


@dataclass(frozen=True)
class DeviceTime:
    """One device on the way: its share of the arcing current (A) and its total clearing time (s, None: never)."""

    tag: str
    element_id: str
    share_a: float
    time_s: float | None
    how: str


@dataclass(frozen=True)
class ArcClearing:
    """The device that ends the fault and when. ``time_s`` None: something keeps feeding for ever."""

    time_s: float | None
    device: DeviceTime | None
    uncleared: tuple[str, ...]
    devices: tuple[DeviceTime, ...]
    passed_over: tuple[tuple[str, str], ...]


def clear(
    model: NodalModel, fault: Fault, arcing_current_ka: float, duty: Mapping[str, Duty], not_credited: Collection[str]
) -> ArcClearing:
    """Clearing of an arc of ``arcing_current_ka`` at the fault's node.

    ``not_credited``: ids of devices inside the enclosure of the arc, which it may destroy or bypass.
    """
    ratio = arcing_current_ka / fault.bolted_fault_current_ka
    devices: list[DeviceTime] = []
    passed: list[tuple[str, str]] = []
    for e, share_ka in _credible(model, fault):
        if e.id in not_credited:
            passed.append((e.tag, "in the enclosure of the arc, line terminals not separated"))
        elif not duty[e.id].adequate:
            passed.append((e.tag, duty[e.id].reason))
        elif (curve := _curve(model, e)) is None:
            passed.append((e.tag, "no curve recorded"))
        else:
            found = curve_clearing(curve, share_ka * 1000 * ratio)
            devices.append(DeviceTime(e.tag, e.id, share_ka * 1000 * ratio, found.time_s, found.how))
    for injection in model.injections:
        if injection.sustained and injection.element.fault_cease_s is not None:
            e = injection.element
            share = next(c for s, c in fault.contributions if s.id == e.id)
            devices.append(
                DeviceTime(e.tag, e.id, share * 1000 * ratio, e.fault_cease_s, "ceases to feed, maker's certificate")
            )
    return _cut_off(model, fault, devices, tuple(passed))


def _credible(model: NodalModel, fault: Fault) -> list[tuple[Element, float]]:
    """Protective devices that carry current to this fault, with their share in kA at their own voltage."""
    least = fault.bolted_fault_current_ka * 1e-6
    return [
        (s.element, s.current_ka)
        for s in fault.shares.values()
        if s.element.kind in PROTECTIVE and s.current_ka > least
    ]


def _curve(model: NodalModel, e: Element) -> Curve | None:
    return e.maintenance_curve if e.id in model.circuit.maintenance else e.curve


def _cut_off(
    model: NodalModel, fault: Fault, devices: list[DeviceTime], passed: tuple[tuple[str, str], ...]
) -> ArcClearing:
    """Remove devices in the order of their times until no sustained source reaches the fault."""
    gone: set[str] = set()
    last: DeviceTime | None = None
    feeding = _feeding(model, fault.node.id, gone)
    for device in sorted((d for d in devices if d.time_s is not None), key=lambda d: d.time_s or 0.0):
        if not feeding:
            break
        gone.add(device.element_id)
        still = _feeding(model, fault.node.id, gone)
        if still != feeding:
            feeding, last = still, device
    devices.sort(key=lambda d: (d.time_s is None, d.time_s or 0.0))
    time = last.time_s if last and not feeding else None
    return ArcClearing(time, last if not feeding else None, tuple(sorted(feeding)), tuple(devices), passed)


def _feeding(model: NodalModel, node: str, gone: set[str]) -> set[str]:
    """Tags of the sustained sources that still reach the node."""
    graph: nx.Graph = nx.Graph()
    graph.add_node(node)
    graph.add_edges_from((b.a, b.b) for b in model.branches if b.element.id not in gone)
    reached = nx.node_connected_component(graph, node)
    return {i.element.tag for i in model.injections if i.sustained and i.element.id not in gone and i.node in reached}
