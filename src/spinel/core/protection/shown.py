"""The clearing of one arc as it is shown: each device on the way, its share and time, and who was passed over."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from spinel.core.fault.nodal import Fault
from spinel.core.protection.believed import Device
from spinel.core.protection.clearing import Clearing, Places
from spinel.core.protection.times import clearing as time_of

#: A device that carries less than this part of the fault is not shown.
LEAST = 1e-6


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


def show_clearing(
    clearing: Clearing, place: Places, fault: Fault, row: int, time_s: float, by: str, uncleared: tuple[str, ...]
) -> ArcClearing:
    """``place``: one place; ``row``: full or reduced current; the rest as the computation found it."""
    part = float(place.part[row, 0])
    devices, passed = [], []
    for branch, amps in _on_the_way(clearing, place, fault):
        e = clearing.model.grid.elements[clearing.model.branches[branch]]
        reason = clearing.trusted.reasons.get(branch)
        if clearing.doubts(np.array([branch]), place.doubted)[0]:
            passed.append((e.tag, "in the enclosure of the arc, line terminals not separated"))
        elif reason is not None:
            passed.append((e.tag, reason))
        else:
            held = _held(clearing, place, branch, row)
            devices.append(_timed(clearing.trusted.devices[branch], amps * part, int(_box(clearing, place)), held))
    for i, number in enumerate(clearing.sources):
        e = clearing.model.injections[number].element
        if math.isfinite(clearing.cease_s[i]):
            ka = next(c for s, c in fault.contributions if s.id == e.id)
            how = "ceases to feed, maker's certificate"
            devices.append(DeviceTime(e.tag, e.id, ka * 1000 * part, float(clearing.cease_s[i]), how))
    devices.sort(key=lambda d: (d.time_s is None, d.time_s or 0.0))
    last = next((d for d in devices if d.tag == by), None)
    end = time_s if math.isfinite(time_s) else None
    return ArcClearing(end, last if end is not None else None, uncleared, tuple(devices), tuple(passed))


def _on_the_way(clearing: Clearing, place: Places, fault: Fault) -> Iterator[tuple[int, float]]:
    """Protective devices between the place and sources, with their share of the bolted current in A."""
    model, solution = clearing.model, clearing.model.solution
    steps, _ = solution.climb(place.at)
    least = fault.bolted_fault_current_ka * LEAST
    way = [int(solution.laterals.branch[node[0]]) for _, node, _ in steps]
    core = [int(j) for j in solution.inside]
    for branch in (*way, *core):
        if branch in clearing.trusted.devices or branch in clearing.trusted.reasons:
            ka = fault.shares[model.grid.elements[model.branches[branch]].id].current_ka
            if ka > least:
                yield branch, ka * 1000


def _held(clearing: Clearing, place: Places, branch: int, row: int) -> bool:
    device = clearing.trusted.devices[branch]
    return not device.interlocked or bool(clearing.restrained(device, place, np.array([0]))[row, 0])


def _box(clearing: Clearing, place: Places) -> int:
    return int(clearing.model.grid.box[place.at[0]])


def _timed(device: Device, amps: float, box: int, held: bool) -> DeviceTime:
    """The quicker of the device's own curve and the relay of its zone."""
    found = [time_of(device.curve, amps, restrained=held)] if device.curve is not None else []
    if device.zone_curve is not None and box in device.zone:
        found.append(time_of(device.zone_curve, amps))
    if not found:
        return DeviceTime(device.element.tag, device.element.id, amps, None, "its relay does not cover this enclosure")
    best = min(found, key=lambda c: math.inf if c.time_s is None else c.time_s)
    return DeviceTime(device.element.tag, device.element.id, amps, best.time_s, best.how)
