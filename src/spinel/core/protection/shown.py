"""The clearing of one arc as it is shown: each device on the way, its share and time at the start, who was not."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.curves.times import clearing as time_of
from spinel.core.fault.impedance import inputs
from spinel.core.fault.nodal import Fault, NodalModel
from spinel.core.network.kinds import PROTECTIVE, SERIES
from spinel.core.protection.believed import Device
from spinel.core.protection.opening import Opening
from spinel.core.said import Sayable, say

#: A device that carries less than this part of the fault is not shown.
LEAST = 1e-6


@dataclass(frozen=True)
class DeviceTime:
    """One device on the way: its share of the arcing current at the start (A), its total clearing time at that share
    (s, None: never)."""

    tag: str
    element_id: str
    share_a: float
    time_s: float | None
    how: Sayable


@dataclass(frozen=True)
class ArcClearing:
    """The device that ends the fault and when. ``time_s`` None: something keeps feeding for ever."""

    time_s: float | None
    device: DeviceTime | None
    uncleared: tuple[str, ...]
    devices: tuple[DeviceTime, ...]
    passed_over: tuple[tuple[str, Sayable], ...]


def show_clearing(
    opening: Opening, corner: int, i: int, fault: Fault, row: int, carried: Mapping[int, float], part: float,
    time_s: float, by: int, uncleared: tuple[str, ...],
) -> ArcClearing:  # fmt: skip
    """``i``: the place; ``row``: full or reduced current; ``carried``: amperes of the arcing current that each branch
    may count on at the start; ``part``: arcing over bolted current then; ``by``: branch of the model, or source counted
    down from -2."""
    model = opening.model
    devices: list[DeviceTime] = []
    passed: list[tuple[str, Sayable]] = []
    last: DeviceTime | None = None
    for branch in _on_the_way(opening, i, fault):
        e = model.grid.elements[model.branches[branch]]
        reason = opening.trusted.reasons.get(branch)
        if opening.is_doubted(i, branch):
            passed.append((e.tag, say("protection-shown-worked-on-or-in-a-compartment-that")))
        elif reason is not None:
            passed.append((e.tag, reason))
        else:
            held = opening.is_held(corner, i, row, branch)
            amps = carried.get(branch, 0.0)
            devices.append(_timed(opening.trusted.devices[branch], amps, int(opening.box[i]), held))
            last = devices[-1] if branch == by else last
    for n, (e, cease_s) in enumerate(opening.stacks.lasting):
        if math.isfinite(cease_s):
            ka = next((c for s, c in fault.contributions if s.id == e.id), 0.0)
            if ka > fault.bolted_fault_current_ka * LEAST:
                how = say("protection-shown-ceases-to-feed-makers-certificate")
                devices.append(DeviceTime(e.tag, e.id, ka * 1000 * part, cease_s, how))
                last = devices[-1] if by == -2 - n else last
    devices.sort(key=lambda d: (d.time_s is None, d.time_s or 0.0))
    end = time_s if math.isfinite(time_s) else None
    return ArcClearing(end, last if end is not None else None, uncleared, tuple(devices), tuple(passed))


def _on_the_way(opening: Opening, i: int, fault: Fault) -> Iterator[int]:
    """Protective devices between the place and sources."""
    model = opening.model
    least = fault.bolted_fault_current_ka * LEAST
    way = [int(b) for b in opening.ways.branch[:, i] if b >= 0]
    for branch in (*way, *opening.topology.joints.tolist()):
        e = model.grid.elements[model.branches[branch]]
        if e.kind in PROTECTIVE and fault.shares[e.id].current_ka > least:
            yield branch


def _timed(device: Device, amps: float, box: int, held: bool) -> DeviceTime:
    """The quicker of the device's own curve and the relay of its zone."""
    found = [time_of(device.curve, amps, restrained=held)] if device.curve is not None else []
    if device.zone_curve is not None and box in device.zone:
        found.append(time_of(device.zone_curve, amps))
    if not found:
        return DeviceTime(
            device.element.tag,
            device.element.id,
            amps,
            None,
            say("protection-shown-its-relay-does-not-cover-this-enclosure"),
        )
    best = min(found, key=lambda c: math.inf if c.time_s is None else c.time_s)
    return DeviceTime(device.element.tag, device.element.id, amps, best.time_s, best.how)


def fault_working(model: NodalModel, fault: Fault) -> dict[str, Any]:
    """What the working shows of the fault: impedance, X/R, who contributes and on which way, with their data."""
    shown = sorted(((e.tag, ka) for e, ka in fault.contributions), key=lambda c: -c[1])
    fed = {e.tag: e for e, _ in fault.contributions}
    network, circuit = model.network, model.circuit
    least = 0.02 * fault.bolted_fault_current_ka * fault.node.nominal_voltage_v
    return {
        "bolted_fault_current_ka": fault.bolted_fault_current_ka,
        "voltage_v": fault.node.nominal_voltage_v,
        "resistance_pu": fault.z_pu.real,
        "reactance_pu": fault.z_pu.imag,
        "x_r": fault.x_r if math.isfinite(fault.x_r) else None,
        "contributions_ka": {tag: ka for tag, ka in shown if ka > 1e-6},
        "source_data": {tag: inputs(network, fed[tag], circuit) for tag, ka in shown if ka > 1e-6},
        "path": [
            {
                "tag": s.element.tag,
                "share_ka": s.current_ka,
                "at_voltage_v": s.at_voltage_v,
                "data": inputs(network, s.element, circuit) if s.element.kind in ("transformer", *SERIES) else {},
            }
            for s in sorted(fault.shares.values(), key=lambda s: -s.current_ka * s.at_voltage_v)
            if s.current_ka * s.at_voltage_v > least
        ],
    }
