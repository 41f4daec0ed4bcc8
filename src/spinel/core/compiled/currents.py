"""Currents of one fault (fault/states): at its place, in its lateral, in the devices of the core."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from spinel.core.compiled import compiled, inlined
from spinel.core.compiled.arcing import arcing_part
from spinel.core.compiled.tables import ArcTable, NetTable, PhaseTable, PlaceTable

#: A device that carries less than this part of what it could is cut off already: opening it changes nothing.
CUT = 1e-9
#: Where a current falls evenly through a phase, devices are timed by so much of its beginning, the rest of its end: a
#: little less than the average, so that none is timed too fast.
AVERAGE = 0.4


class Changes(NamedTuple):
    """What is changed in a state for a fault, and how much each change counts."""

    ports: np.ndarray
    weights: np.ndarray


class Scratch(NamedTuple):
    """Room to work in, for the deepest lateral, all joints and sources. ``opened``: joints that are, so many as
    ``many_opened[0]`` says; ``inside``: which sources are in one part with the fault; ``of_high``, ``of_low``:
    changes of either state."""

    many_opened: np.ndarray
    opened: np.ndarray
    inside: np.ndarray
    reached: np.ndarray
    queue: np.ndarray
    of_high: Changes
    of_low: Changes
    system: np.ndarray
    own: np.ndarray
    scale: np.ndarray
    y_up: np.ndarray
    up: np.ndarray
    amps: np.ndarray
    timed: np.ndarray
    least: np.ndarray
    between: np.ndarray
    trunk_high: np.ndarray
    trunk_low: np.ndarray


@compiled
def scratch(net: NetTable, places: PlaceTable) -> Scratch:
    joints, sources = len(net.joint_base_a), len(net.source_core)
    most, steps, nodes = joints + sources, places.node.shape[1], len(net.first) - 1
    c = np.complex128
    return Scratch(
        np.zeros(1, np.int64), np.zeros(joints, np.int64), np.zeros(sources, np.bool_), np.zeros(nodes, np.bool_),
        np.zeros(nodes, np.int64), Changes(np.zeros(most, np.int64), np.zeros(most, c)),
        Changes(np.zeros(most, np.int64), np.zeros(most, c)), np.zeros((most, most), c), np.zeros(most, c),
        np.zeros(most),
        np.zeros(steps, c), np.zeros(steps, c), np.zeros(steps), np.zeros(steps), np.zeros(steps), np.zeros(3),
        np.zeros(len(places.trunk_joint)), np.zeros(len(places.trunk_joint)),
    )  # fmt: skip


@inlined
def is_out(s: Scratch, joint: int) -> bool:
    """Is a joint among those that are opened?"""
    found = False
    for n in range(s.many_opened[0]):
        found = found or s.opened[n] == joint
    return found


@compiled
def find_inside(net: NetTable, root: int, s: Scratch) -> None:
    """Which sources are in one part with a core node, with the joints opened that are."""
    s.reached[:] = False
    s.reached[root] = True
    s.queue[0] = root
    end, at = 1, 0
    while at < end:
        node = s.queue[at]
        at += 1
        for e in range(net.first[node], net.first[node + 1]):
            other, joint = net.neighbour[e], net.by_joint[e]
            if s.reached[other] or (joint >= 0 and is_out(s, joint)):
                continue
            s.reached[other] = True
            s.queue[end] = other
            end += 1
    for q in range(len(net.source_core)):
        s.inside[q] = s.reached[net.source_core[q]]


@compiled
def eliminate(s: Scratch, of: Changes, many: int) -> None:
    """What each change counts, so that all their conditions hold together; one that another has seen to already (a
    device in series with one that is open) is passed over."""
    for j in range(many):
        pivot = s.system[j, j]
        if not abs(pivot) > CUT * s.scale[j]:
            of.ports[j] = -1
            continue
        inverse = 1 / pivot
        for i in range(many):
            factor = s.system[i, j] * inverse
            if i == j or factor == 0:
                continue
            for m in range(many):
                s.system[i, m] -= factor * s.system[j, m]
            s.own[i] -= factor * s.own[j]
    for j in range(many):
        of.weights[j] = s.own[j] / s.system[j, j] if of.ports[j] >= 0 else 0
        of.ports[j] = max(of.ports[j], 0)


@compiled
def solve(net: NetTable, state: int, root: int, s: Scratch, of: Changes, strength: np.ndarray) -> tuple[complex, int]:
    """Impedance seen from a core node with joints opened and sources weakened, and how many changes that makes; what
    they are into ``of``. ``strength`` of each source, or none: all as they are."""
    count, weak = s.many_opened[0], len(strength) > 0
    if not count and not weak:
        return net.between[state, root, root], 0
    nodes, b = len(net.first) - 1, net.between[state]
    ports, many = of.ports, count
    for n in range(count):
        ports[n] = nodes + s.opened[n]
    for q in range(len(net.source_core) if weak else 0):
        # a source in another part has no say, and left in would only blur
        if s.inside[q] and net.source_y[state, q] * (strength[q] - 1) != 0:
            ports[many] = net.source_core[q]
            many += 1
    if not many:
        return b[root, root], 0
    for i in range(many):
        s.own[i] = b[ports[i], root]
        for j in range(many):
            s.system[i, j] = b[ports[i], ports[j]]
        s.scale[i] = abs(s.system[i, i])
    at = count
    for q in range(len(net.source_core) if weak else 0):
        delta = net.source_y[state, q] * (strength[q] - 1)
        if s.inside[q] and delta != 0:
            s.system[at, at] += 1 / delta
            at += 1
    eliminate(s, of, many)
    z = b[root, root]
    for j in range(many):
        z -= b[ports[j], root] * of.weights[j]
    return z, many


@compiled
def lateral(
    net: NetTable, state: int, places: PlaceTable, k: int, root_y: complex, s: Scratch
) -> tuple[complex, float]:
    """Admittance at a place, and what its root draws; amperes of the lateral's elements into ``amps``."""
    drive, depth = root_y, places.depth[k]
    nodes, seen_of, base_a, part = places.node, net.seen, net.base_a, net.seen_from_parent
    z, below, y_up, up, amps = net.z_child, net.y_below, s.y_up, s.up, s.amps
    for step in range(depth - 1, -1, -1):
        node = nodes[k, step]
        seen = seen_of[node]
        above = (drive - part[state, node]) / seen**2
        grown = 1 + z[node] * above
        y_up[step], up[step] = above / grown, 1 / (seen * grown)
        drive = below[state, node] + y_up[step]
    drop = 1.0 + 0.0j
    for step in range(depth):
        own = y_up[step] * drop
        amps[step] = math.sqrt(own.real**2 + own.imag**2) * base_a[nodes[k, step]]
        drop *= up[step]
    return drive, abs(root_y * drop)


class Currents(NamedTuple):
    """What flows at the start of a stage: bolted kA and part arcing; of the high and the low state (the same where
    they do not differ) the number, changes, and amperes of the arc that the root draws, per unit."""

    bolted: float
    part: float
    high: int
    high_many: int
    high_drawn: float
    low: int
    low_many: int
    low_drawn: float
    even: bool


@inlined
def counted_on(high: float, low: float, even: bool) -> tuple[float, float]:
    """Amperes by which a device is timed, and by which it picks up, while a current changes from one to the other."""
    least = min(high, low)
    return (low * (high / low) ** AVERAGE if even and high != low and least > 0 else least), least


@compiled
def stage(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, k: int, row: int, phase: int, s: Scratch,
    strength: np.ndarray,
) -> Currents:  # fmt: skip
    """What flows; amperes of the lateral's devices into ``timed`` and ``least``."""
    root, depth = places.root[k], places.depth[k]
    high, low = phases.high[phase], phases.low[phase]
    z, many = solve(net, high, root, s, s.of_high, strength)
    drive, drawn = lateral(net, high, places, k, 1 / z, s)
    bolted = abs(drive) * arcs.base_ka[k]
    part = arcing_part(arcs, k, row, bolted, s.between)
    even, amps, timed, least, device = bool(phases.even[phase]), s.amps, s.timed, s.least, places.device
    for step in range(depth):
        timed[step] = least[step] = amps[step] * part
    if low == high or not phases.differ[phase, places.component[k]]:
        return Currents(bolted, part, high, many, drawn * part, high, many, drawn * part, even)
    low_z, low_many = solve(net, low, root, s, s.of_low, strength)
    low_drive, low_drawn = lateral(net, low, places, k, 1 / low_z, s)
    low_part = arcing_part(arcs, k, row, abs(low_drive) * arcs.base_ka[k], s.between)
    for step in range(depth):
        if device[k, step] >= 0:
            timed[step], least[step] = counted_on(timed[step], amps[step] * low_part, even)
    return Currents(bolted, part, high, many, drawn * part, low, low_many, low_drawn * low_part, even)


@compiled
def joints_a(net: NetTable, state: int, root: int, joints: np.ndarray, of: Changes, many: int, drawn: float,
             found: np.ndarray) -> None:  # fmt: skip
    """Amperes of joints for what the root draws."""
    if not many:
        alone = net.alone_a
        for w in range(len(joints)):
            found[w] = alone[state, root, joints[w]] * drawn
        return
    between, base_a, ports, weights, nodes = net.between, net.joint_base_a, of.ports, of.weights, len(net.first) - 1
    for w in range(len(joints)):
        at = nodes + joints[w]
        own = between[state, root, at]
        for j in range(many):
            own -= between[state, ports[j], at] * weights[j]
        found[w] = math.sqrt(own.real**2 + own.imag**2) * base_a[joints[w]] * drawn


@compiled
def trunk_currents(net: NetTable, places: PlaceTable, k: int, f: Currents, s: Scratch) -> None:
    """Amperes of the devices of the core into ``trunk_high`` and ``trunk_low``: between them they lie in a stage."""
    root, joints = places.root[k], places.trunk_joint
    joints_a(net, f.high, root, joints, s.of_high, f.high_many, f.high_drawn, s.trunk_high)
    if f.low == f.high:
        s.trunk_low[:] = s.trunk_high
    else:
        joints_a(net, f.low, root, joints, s.of_low, f.low_many, f.low_drawn, s.trunk_low)


@inlined
def device_at(device: int, swapped: int, instead: int) -> int:
    """The device that is believed for an arc, by the setting at which its place is asked."""
    return instead if device >= 0 and device == swapped else device
