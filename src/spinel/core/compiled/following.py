"""Arcs followed to their end, one after the other; protection/opening tells what is done here, and why."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from spinel.core.compiled import compiled, inlined
from spinel.core.compiled.currents import (
    Currents,
    Scratch,
    counted_on,
    device_at,
    find_inside,
    scratch,
    stage,
    trunk_currents,
)
from spinel.core.compiled.tables import ArcTable, BandTable, NetTable, PhaseTable, PlaceTable
from spinel.core.compiled.times import device_s

#: Elements of a device (protection/bands).
ELEMENTS = 4
#: Devices that get there within this part of one another open together.
TOGETHER = 1e-9
#: Nothing counts at less than this, A, whatever its curve says.
NOTHING_A = 1e-3
#: Bands are numbered in so many bits; what opened after what is one number by this factor.
BAND_BITS = 24
MIXED = 1_000_003


class Counts(NamedTuple):
    """What devices have counted: of the lateral (elements, steps), of the core (elements, devices). ``past``: by which
    bands, stage after stage since the element last started; ``turn``: at which stage a device of the core last counted;
    ``active``: those that count now."""

    done: np.ndarray
    past: np.ndarray
    time: np.ndarray
    rest: np.ndarray
    trunk_done: np.ndarray
    trunk_past: np.ndarray
    trunk_time: np.ndarray
    trunk_rest: np.ndarray
    turn: np.ndarray
    active: np.ndarray
    own_s: np.ndarray
    own_band: np.ndarray


class Found(NamedTuple):
    """How arcs ended: when (infinite: never), by what, the number of what opened in which order, which sources go on
    feeding those that never end; and all stages: arc, from, until, bolted kA, part arcing, what ends it."""

    time_s: np.ndarray
    by: np.ndarray
    sign: np.ndarray
    left: np.ndarray
    arc: np.ndarray
    from_s: np.ndarray
    until_s: np.ndarray
    bolted_ka: np.ndarray
    part: np.ndarray
    ends_by: np.ndarray


@compiled
def counts(places: PlaceTable) -> Counts:
    steps, many = places.node.shape[1], len(places.trunk_joint)
    return Counts(
        np.zeros((ELEMENTS, steps)), np.zeros((ELEMENTS, steps), np.int64), np.zeros((ELEMENTS, steps)),
        np.zeros((ELEMENTS, steps)), np.zeros((ELEMENTS, many)), np.zeros((ELEMENTS, many), np.int64),
        np.zeros((ELEMENTS, many)), np.zeros((ELEMENTS, many)), np.zeros(many, np.int64), np.zeros(many, np.int64),
        np.zeros(ELEMENTS), np.zeros(ELEMENTS, np.int64),
    )  # fmt: skip


@inlined
def is_held(held_row: np.ndarray, held: np.ndarray, corner: int, branch: int, row: int, k: int, moved: bool) -> bool:
    """Zone interlock at the start of an arc; from the first opening on whoever is not held counts as held."""
    h = held_row[branch]
    return moved or h < 0 or held[corner, max(h, 0), row, k]


@inlined
def counted(past: int, band: int) -> int:
    """The bands by which an element has counted, with the one of another stage where it is another one; 0 where it does
    not count now. The last band stands in the lowest bits."""
    found = 0
    if band > 0:
        same = past & ((1 << BAND_BITS) - 1) == band
        found = past if same else (((past >> BAND_BITS) * MIXED + band) << BAND_BITS) + band
    return found


@compiled
def chain_first(
    places: PlaceTable, bands: BandTable, f: Currents, corner: int, k: int, row: int, moved: bool, s: Scratch, c: Counts
) -> float:  # fmt: skip
    """Of the devices of the lateral: how long until the first gets there."""
    depth, box, device_of, branch, held_row, held_of = (
        places.depth[k], places.box[k], places.device, places.branch, places.held_row, places.held,
    )  # fmt: skip
    rows, devices, zoned, timed, least = bands.rows, bands.devices, bands.zoned, s.timed, s.least
    own_s, own_band, times, pasts, done, rest = c.own_s, c.own_band, c.time, c.past, c.done, c.rest
    for step in range(depth):
        device = device_of[k, step]
        picked = device >= 0 and least[step] >= max(devices[max(device, 0)].lowest, NOTHING_A)
        if picked:
            held = is_held(held_row, held_of, corner, branch[k, step], row, k, moved)
            device_s(rows, devices, zoned, device, timed[step], least[step], box, held, own_s, own_band)
        for e in range(ELEMENTS):
            time = own_s[e] if picked else np.inf
            times[e, step] = time
            pasts[e, step] = counted(pasts[e, step], own_band[e] if picked else 0)
            # below pickup an element starts again
            done[e, step] = 0.0 if np.isinf(time) else done[e, step]
            rest[e, step] = np.inf if np.isinf(time) else max((1 - done[e, step]) * time, 0.0)
    first = np.inf
    for e in range(ELEMENTS):
        for step in range(depth):
            first = min(first, rest[e, step])
    return first


@compiled
def trunk_first(
    net: NetTable, places: PlaceTable, bands: BandTable, f: Currents, corner: int, k: int, row: int, moved: bool,
    turn: int, s: Scratch, c: Counts,
) -> tuple[float, int]:  # fmt: skip
    """Of the devices of the core: how long until the first gets there, and how many count (``active``)."""
    first, many, even = np.inf, 0, f.even
    trunk_currents(net, places, k, f, s)
    doubt, box, swapped, instead = places.doubt[k], places.box[k], places.swapped, places.swapped_for[places.setting[k]]
    device_of, joints, branch, lowest = (
        places.trunk_device,
        places.trunk_joint,
        places.trunk_branch,
        places.trunk_lowest,
    )
    held_row, held_of, high, low = places.held_row, places.held, s.trunk_high, s.trunk_low
    rows, devices, zoned, own_s, own_band = bands.rows, bands.devices, bands.zoned, c.own_s, c.own_band
    times, pasts, done, rest, turns, active = c.trunk_time, c.trunk_past, c.trunk_done, c.trunk_rest, c.turn, c.active
    opened, count = s.opened, s.many_opened[0]
    for w in range(len(joints)):
        device = device_at(device_of[doubt, w], swapped, instead)
        if device < 0 or not (high[w] >= lowest[w] and low[w] >= lowest[w]):
            continue
        out = False
        for n in range(count):
            out = out or opened[n] == joints[w]
        if out:
            continue
        timed, least = counted_on(high[w], low[w], even)
        held = is_held(held_row, held_of, corner, branch[w], row, k, moved)
        device_s(rows, devices, zoned, device, timed, least, box, held, own_s, own_band)
        again = turns[w] == turn - 1
        for e in range(ELEMENTS):
            time = own_s[e]
            times[e, w] = time
            pasts[e, w] = counted(pasts[e, w] if again else 0, own_band[e])
            done[e, w] = done[e, w] if again and not np.isinf(time) else 0.0
            rest[e, w] = np.inf if np.isinf(time) else max((1 - done[e, w]) * time, 0.0)
            first = min(first, rest[e, w])
        turns[w] = turn
        active[many] = w
        many += 1
    return first, many


@compiled
def feeding(phases: PhaseTable, s: Scratch, phase: int) -> bool:
    """Does any source that has not ceased feed still?"""
    found = False
    for q in range(len(s.inside)):
        found = found or (s.inside[q] and phases.alive[phase, q])
    return found


@compiled
def ceasing(phases: PhaseTable, s: Scratch, phase: int, after: int) -> int:
    """The first of the sources that feed and cease with the end of a phase, as -2 - n; else -1."""
    if not np.isinf(phases.starts[after]):
        for q in range(len(s.inside)):
            if s.inside[q] and phases.alive[phase, q] and not phases.alive[after, q]:
                return -2 - q
    return -1


@compiled
def count_on(places: PlaceTable, k: int, c: Counts, active: int, wait: float) -> None:
    """Time goes on for all that count."""
    depth, done, time, trunk_done, trunk_time, which = (
        places.depth[k], c.done, c.time, c.trunk_done, c.trunk_time, c.active,
    )  # fmt: skip
    for e in range(ELEMENTS):
        for step in range(depth):
            if not np.isinf(time[e, step]):
                done[e, step] += wait / time[e, step]
        for n in range(active):
            w = which[n]
            if not np.isinf(trunk_time[e, w]):
                trunk_done[e, w] += wait / trunk_time[e, w]


@compiled
def who_opens(places: PlaceTable, k: int, c: Counts, active: int, wait: float) -> tuple[int, int]:
    """What opens first, if anything does before the phase ends (else -1), and by which bands it has counted. Of those
    that get there together always the same one, whatever rounding says."""
    depth, branch, trunk_branch, soon = places.depth[k], places.branch, places.trunk_branch, wait * (1 + TOGETHER)
    rest, pasts, trunk_rest, trunk_pasts, which = c.rest, c.past, c.trunk_rest, c.trunk_past, c.active
    for e in range(ELEMENTS):
        for step in range(depth):
            if rest[e, step] <= soon:
                return branch[k, step], pasts[e, step]
    for n in range(active):
        for e in range(ELEMENTS):
            if trunk_rest[e, which[n]] <= soon:
                return trunk_branch[which[n]], trunk_pasts[e, which[n]]
    return -1, 0


@compiled
def open_those(places: PlaceTable, c: Counts, s: Scratch, active: int, wait: float) -> bool:
    """Open devices of the core that get there together, if any do; joints stand in order of number."""
    before = count = s.many_opened[0]
    rest, which, opened, joints = c.trunk_rest, c.active, s.opened, places.trunk_joint
    for n in range(active):
        soon = np.inf
        for e in range(ELEMENTS):
            soon = min(soon, rest[e, which[n]])
        if soon <= wait * (1 + TOGETHER):
            joint, at = joints[which[n]], count
            while at and opened[at - 1] > joint:
                opened[at] = opened[at - 1]
                at -= 1
            opened[at] = joint
            count += 1
    s.many_opened[0] = count
    return bool(count > before)


@compiled
def signed(sign: int, by: int, past: int, sources: int, in_time: bool) -> int:
    """What opened next, by which band of its curve (or bands, stage after stage), added to what opened before. Too
    late, all are alike."""
    by, band = (by, past) if in_time else (-1, 0)
    return (sign * MIXED + (by + sources + 3)) * MIXED + (0 if by == -1 else band)


@compiled
def put(column: np.ndarray, at: int, value: float) -> np.ndarray:
    """A column with a value at the end, in twice the room where there is none."""
    if at == len(column):
        more = np.empty(2 * at, column.dtype)
        more[:at] = column
        column = more
    column[at] = value
    return column


@compiled
def follow(
    net: NetTable, phases: PhaseTable, places: PlaceTable, arcs: ArcTable, bands: BandTable, corner: np.ndarray,
    at_place: np.ndarray, rows: np.ndarray, strengths: np.ndarray, until_s: float,
) -> Found:  # fmt: skip
    """Follow arcs; ``strengths`` (arcs, sources), or none of them: all as they are."""
    n, sources = len(at_place), len(net.source_core)
    time_s, by, sign = np.full(n, np.inf), np.full(n, -1, np.int64), np.zeros(n, np.int64)
    left = np.zeros((n, sources), np.bool_)
    room = max(4 * n, 16)
    log_arc, log_by = np.empty(room, np.int64), np.empty(room, np.int64)
    log_from, log_until, log_ka, log_part = np.empty(room), np.empty(room), np.empty(room), np.empty(room)
    logged = 0
    s, c = scratch(net, places), counts(places)
    weak, none = len(strengths) > 0, np.zeros(0, np.complex128)
    turn = 1
    for i in range(n):
        k, row, strength = at_place[i], rows[i], strengths[i] if weak else none
        elapsed, phase, moved = 0.0, 0, False
        s.many_opened[0] = 0
        c.done[:] = 0
        c.past[:] = 0
        turn += 1
        find_inside(net, places.root[k], s)
        while True:
            turn += 1
            f = stage(net, phases, places, arcs, k, row, phase, s, strength)
            after = phases.after[phase, places.component[k]]
            rest = phases.starts[after] - elapsed
            first = chain_first(places, bands, f, corner[i], k, row, moved, s, c)
            soon, active = np.inf, 0
            # nothing of the core opens before its quickest device could
            if elapsed != 0 or first > min(places.trunk_quickest, rest):
                soon, active = trunk_first(net, places, bands, f, corner[i], k, row, moved, turn, s, c)
            wait = min(first, soon, rest)
            never, until = np.isinf(wait), elapsed + wait
            opener, opener_past = -1, 0
            if not never:
                opener, opener_past = who_opens(places, k, c, active, wait)
                if opener == -1 and rest <= wait:
                    opener = ceasing(phases, s, phase, after)
            log_arc, log_by = put(log_arc, logged, i), put(log_by, logged, opener)
            log_from, log_until = put(log_from, logged, elapsed), put(log_until, logged, until)
            log_ka, log_part = put(log_ka, logged, f.bolted), put(log_part, logged, f.part)
            logged += 1
            # the end of a phase moves nothing by a jump
            if opener >= 0 or not until <= until_s:
                sign[i] = signed(sign[i], opener, opener_past, sources, until <= until_s)
            if never:
                left[i] = s.inside & phases.alive[phase]
                break
            over = first <= wait * (1 + TOGETHER) or until > until_s
            if not over:
                count_on(places, k, c, active, wait)
                elapsed = until
                turned = rest <= wait * (1 + TOGETHER)
                if turned:
                    phase = after
                if open_those(places, c, s, active, wait):
                    moved = True
                    find_inside(net, places.root[k], s)
                over = (moved or turned) and not feeding(phases, s, phase)
            if over:
                time_s[i], by[i] = until, opener
                break
    return Found(
        time_s, by, sign, left, log_arc[:logged], log_from[:logged], log_until[:logged], log_ka[:logged],
        log_part[:logged], log_by[:logged],
    )  # fmt: skip
