"""Where the currents of devices come to a pickup on the way between two corners (arcflash/between)."""

from __future__ import annotations

import numpy as np

from spinel.core.compiled import compiled
from spinel.core.compiled.currents import (
    Scratch,
    device_at,
    find_inside,
    joints_a,
    lateral,
    scratch,
    solve,
    stage,
    trunk_currents,
)
from spinel.core.compiled.following import put
from spinel.core.compiled.tables import ArcTable, BandTable, NetTable, PhaseTable, PlaceTable, WayTable
from spinel.core.compiled.times import band_s

#: How near a current comes to what is looked for (part of it), and in how many rounds at most.
NEAR, ROUNDS = 1e-9, 60


@compiled
def strength_at(way: WayTable, p: int, t: float, found: np.ndarray) -> None:
    """By what each source's admittance is multiplied at a point of a way."""
    for q in range(len(found)):
        found[q] = np.exp(way.log_ratio[p, q] * min(t, 1.0) + way.further[p, q] * max(t - 1, 0.0))


@compiled
def least_carried(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, strength: np.ndarray, k: int, row: int,
    phase: int, s: Scratch, chain: np.ndarray, trunk: np.ndarray,
) -> None:  # fmt: skip
    """What each device carries at a corner, by which it picks up, before anything has opened."""
    find_inside(net, places.root[k], s)
    f = stage(net, phases, places, arcs, k, row, phase, s, strength)
    chain[: places.depth[k]] = s.least[: places.depth[k]]
    trunk_currents(net, places, k, f, s)
    np.minimum(s.trunk_high, s.trunk_low, trunk)


@compiled
def met(
    nets: tuple[NetTable, NetTable], phases: tuple[PhaseTable, PhaseTable], places: PlaceTable, arcs: ArcTable,
    bands: BandTable, first: np.ndarray, others: np.ndarray, at_place: np.ndarray, rows: np.ndarray,
    other: np.ndarray, phase: int, latest_s: np.ndarray,
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:  # fmt: skip
    """Beginnings of bands between what devices carry at one corner and at another, where they open in time: which
    arc, its device (step of the lateral, or -1 - n of the core's), and A. Where a slope meets its floor energy is
    least, not most, so that is no step. Strengths of the sources at the first corner, and at each other: which of them
    an arc goes to says ``other``. Arcs of one place and current stand side by side."""
    room = max(2 * len(at_place), 16)
    arc, device, amps, many = np.empty(room, np.int64), np.empty(room, np.int64), np.empty(room), 0
    steps, trunks = places.node.shape[1], len(places.trunk_joint)
    chain, trunk = np.zeros((2, steps)), np.zeros((2, trunks))
    rooms = scratch(nets[0], places), scratch(nets[1], places)
    rows_of, devices, device_of, trunk_device, swapped = (
        bands.rows, bands.devices, places.device, places.trunk_device, places.swapped,
    )  # fmt: skip
    for i in range(len(at_place)):
        k, row = at_place[i], rows[i]
        if i == 0 or k != at_place[i - 1] or row != rows[i - 1]:
            least_carried(nets[0], phases[0], places, arcs, first, k, row, phase, rooms[0], chain[0], trunk[0])
        strength = others[other[i]]
        least_carried(nets[1], phases[1], places, arcs, strength, k, row, phase, rooms[1], chain[1], trunk[1])
        doubt, instead = places.doubt[k], places.swapped_for[places.setting[k]]
        for n in range(-trunks, places.depth[k]):
            own = device_of[k, max(n, 0)] if n >= 0 else device_at(trunk_device[doubt, -1 - n], swapped, instead)
            if own < 0:
                continue
            one, last = (chain[0, n], chain[1, n]) if n >= 0 else (trunk[0, -1 - n], trunk[1, -1 - n])
            low, high = min(one, last), max(one, last)
            if not high >= devices[own].lowest:
                continue
            for r in range(devices[own].start, devices[own].start + devices[own].count):
                pickup = rows_of[r].pickup
                if low < pickup <= high and band_s(rows_of, r, pickup) <= latest_s[i]:
                    arc, device, amps = put(arc, many, i), put(device, many, n), put(amps, many, pickup)
                    many += 1
    return arc[:many], device[:many], amps[:many]


@compiled
def over_pickup(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, k: int, row: int, phase: int, s: Scratch,
    strength: np.ndarray, device: int, amps: float,
) -> float:  # fmt: skip
    """Logarithm of what one device carries, by which it picks up, over some amperes."""
    f = stage(net, phases, places, arcs, k, row, phase, s, strength)
    if device >= 0:
        least = s.least[device]
    else:
        joint = places.trunk_joint[-1 - device : -device]
        joints_a(net, f.high, places.root[k], joint, s.of_high, f.high_many, f.high_drawn, s.trunk_high)
        of = s.of_high if f.low == f.high else s.of_low
        joints_a(net, f.low, places.root[k], joint, of, f.low_many, f.low_drawn, s.trunk_low)
        least = min(s.trunk_high[0], s.trunk_low[0])
    return float(np.log(max(least, 1e-9) / amps))


@compiled
def illinois(low: float, high: float, at_low: float, at_high: float, stays: int, middle: float, found: float
             ) -> tuple[float, float, float, float, int]:  # fmt: skip
    """One round of false position, where an end that stays twice counts half, so that both close in."""
    if found >= 0:
        return middle, high, found, at_high / 2 if stays > 0 else at_high, 1
    return low, middle, at_low / 2 if stays < 0 else at_low, found, -1


@compiled
def middle_of(low: float, high: float, at_low: float, at_high: float) -> float:
    part = at_low / max(at_low - at_high, 1e-300)
    return low + (high - low) * min(max(part, 1e-9), 1 - 1e-9)


@compiled
def solved(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, way: WayTable, p: np.ndarray,
    at_place: np.ndarray, rows: np.ndarray, end: np.ndarray, device: np.ndarray, phase: np.ndarray, amps: np.ndarray,
    close: float,
) -> np.ndarray:  # fmt: skip
    """Where on its way (part of it) each device's current comes to ``amps``, or just beyond; 1 where it does not."""
    found = np.empty(len(at_place))
    s, strength = scratch(net, places), np.empty(len(net.source_core), np.complex128)
    for i in range(len(at_place)):
        k, row = at_place[i], rows[i]
        find_inside(net, places.root[k], s)
        strength_at(way, p[i], 0.0, strength)
        first = over_pickup(net, phases, places, arcs, k, row, phase[i], s, strength, device[i], amps[i])
        sign = 1.0 if first >= 0 else -1.0
        strength_at(way, p[i], end[i], strength)
        last = sign * over_pickup(net, phases, places, arcs, k, row, phase[i], s, strength, device[i], amps[i])
        low, high, at_low, at_high, stays = 0.0, 1.0, abs(first), last, 0
        for _ in range(ROUNDS):
            middle = middle_of(low, high, at_low, at_high)
            strength_at(way, p[i], middle * end[i], strength)
            here = sign * over_pickup(net, phases, places, arcs, k, row, phase[i], s, strength, device[i],
                                      amps[i])  # fmt: skip
            if abs(here) < NEAR:
                high = middle
                break
            low, high, at_low, at_high, stays = illinois(low, high, at_low, at_high, stays, middle, here)
            if high - low < close:
                break
        found[i] = high
    return found


@compiled
def drives(
    net: NetTable, phases: PhaseTable, places: PlaceTable, at_place: np.ndarray, strengths: np.ndarray
) -> np.ndarray:  # fmt: skip
    """Admittances seen from places at the first instant of a corner; ``strengths`` (places, sources), or none."""
    found, s, weak = np.empty(len(at_place)), scratch(net, places), len(strengths) > 0
    none, state = np.zeros(0, np.complex128), phases.high[0]
    for i in range(len(at_place)):
        find_inside(net, places.root[at_place[i]], s)
        z, _ = solve(net, state, places.root[at_place[i]], s, s.of_high, strengths[i] if weak else none)
        found[i] = abs(lateral(net, state, places, at_place[i], 1 / z, s)[0])
    return found


@compiled
def ends(
    net: NetTable, phases: PhaseTable, places: PlaceTable, way: WayTable, p: np.ndarray,
    at_place: np.ndarray, weakest: np.ndarray, furthest: float, close: float,
) -> np.ndarray:  # fmt: skip
    """Where on its way the admittance at each place has come down to ``weakest``, or just beyond."""
    found, s, state = np.empty(len(at_place)), scratch(net, places), phases.high[0]
    strength = np.empty(len(net.source_core), np.complex128)
    for i in range(len(at_place)):
        k = at_place[i]
        root = places.root[k]
        find_inside(net, root, s)
        low, high, at_low, at_high, stays, middle = 0.0, furthest, 0.0, 0.0, 0, 0.0
        for n in range(-2, ROUNDS):
            middle = 0.0 if n == -2 else furthest if n == -1 else middle_of(low, high, at_low, at_high)
            strength_at(way, p[i], middle, strength)
            z, _ = solve(net, state, root, s, s.of_high, strength)
            here = float(np.log(abs(lateral(net, state, places, k, 1 / z, s)[0]) / weakest[i]))
            if n == -2:
                at_low = here
            elif n == -1:
                at_high = here
            elif abs(here) < NEAR:
                high = middle
                break
            else:
                low, high, at_low, at_high, stays = illinois(low, high, at_low, at_high, stays, middle, here)
            if high - low < close:
                break
        found[i] = high
    return found


@compiled
def timed_at(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, k: int, row: int, phase: int,
    strength: np.ndarray,
) -> tuple[np.ndarray, np.ndarray]:  # fmt: skip
    """What one arc's devices may count on at the start of a phase, A: of the lateral, of the core."""
    s, trunk = scratch(net, places), np.zeros(len(places.trunk_joint))
    find_inside(net, places.root[k], s)
    f = stage(net, phases, places, arcs, k, row, phase, s, strength)
    trunk_currents(net, places, k, f, s)
    for w in range(len(trunk)):
        trunk[w] = min(s.trunk_high[w], s.trunk_low[w])
    return s.timed[: places.depth[k]].copy(), trunk
