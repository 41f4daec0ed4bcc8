"""Arcs followed to their end, one after the other; protection/opening tells what is done here, and why."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from spinel.core.compiled import compiled
from spinel.core.compiled.currents import Scratch, Stage, device_at, find_inside, is_open, scratch, stage, trunk_a
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


@compiled
def is_held(places: PlaceTable, corner: int, branch: int, row: int, k: int, moved: bool) -> bool:
    """Zone interlock at the start of an arc; from the first opening on whoever is not held counts as held."""
    h = places.held_row[branch]
    return moved or h < 0 or bool(places.held[corner, h, row, k])


@compiled
def counted(past: int, band: int) -> int:
    """The bands by which an element has counted, with the one of another stage where it is another one; 0 where it does
    not count now. The last band stands in the lowest bits."""
    if band <= 0:
        return 0
    if past & ((1 << BAND_BITS) - 1) == band:
        return past
    return (((past >> BAND_BITS) * MIXED + band) << BAND_BITS) + band


@compiled
def chain_first(
    places: PlaceTable, bands: BandTable, f: Stage, corner: int, k: int, row: int, moved: bool, s: Scratch, c: Counts
) -> tuple[float, int, int]:  # fmt: skip
    """Of the devices of the lateral: how long until the first gets there, which step, by which bands."""
    for step in range(places.depth[k]):
        device = places.device[k, step]
        c.own_s[:] = np.inf
        c.own_band[:] = 0
        if device >= 0 and s.least[step] >= max(bands.lowest[device], NOTHING_A):
            held = is_held(places, corner, places.branch[k, step], row, k, moved)
            device_s(bands, device, s.timed[step], s.least[step], places.box[k], held, c.own_s, c.own_band)
        for e in range(ELEMENTS):
            time = c.own_s[e]
            c.time[e, step] = time
            c.past[e, step] = counted(c.past[e, step], c.own_band[e])
            if np.isinf(time):
                # below pickup an element starts again
                c.done[e, step], c.rest[e, step] = 0.0, np.inf
            else:
                c.rest[e, step] = max((1 - c.done[e, step]) * time, 0.0)
    first, at, past = np.inf, -1, 0
    for e in range(ELEMENTS):
        for step in range(places.depth[k]):
            if c.rest[e, step] < first:
                first, at, past = c.rest[e, step], step, c.past[e, step]
    return first, at, past


@compiled
def trunk_first(
    net: NetTable, places: PlaceTable, bands: BandTable, f: Stage, corner: int, k: int, row: int, moved: bool, turn: int,
    s: Scratch, c: Counts,
) -> tuple[float, int]:  # fmt: skip
    """Of the devices of the core: how long until the first gets there, and how many count (``active``)."""
    first, many = np.inf, 0
    for w in range(len(places.trunk_joint)):
        device = device_at(places, k, w)
        if device < 0 or is_open(s, places.trunk_joint[w]):
            continue
        timed, least = trunk_a(net, places, k, w, f, s, places.trunk_lowest[w])
        if not least > 0:
            continue
        held = is_held(places, corner, places.trunk_branch[w], row, k, moved)
        device_s(bands, device, timed, least, places.box[k], held, c.own_s, c.own_band)
        again = c.turn[w] == turn - 1
        for e in range(ELEMENTS):
            time = c.own_s[e]
            c.trunk_time[e, w] = time
            c.trunk_past[e, w] = counted(c.trunk_past[e, w] if again else 0, c.own_band[e])
            if np.isinf(time):
                c.trunk_done[e, w], c.trunk_rest[e, w] = 0.0, np.inf
            else:
                c.trunk_done[e, w] = c.trunk_done[e, w] if again else 0.0
                c.trunk_rest[e, w] = max((1 - c.trunk_done[e, w]) * time, 0.0)
                first = min(first, c.trunk_rest[e, w])
        c.turn[w] = turn
        c.active[many] = w
        many += 1
    return first, many


@compiled
def soonest(c: Counts, w: int) -> tuple[float, int]:
    """How long until a device of the core gets there, by which bands."""
    first, past = np.inf, c.trunk_past[0, w]
    for e in range(ELEMENTS):
        if c.trunk_rest[e, w] < first:
            first, past = c.trunk_rest[e, w], c.trunk_past[e, w]
    return first, past


@compiled
def feeding(phases: PhaseTable, s: Scratch, phase: int) -> bool:
    """Does any source that has not ceased feed still?"""
    for q in range(len(s.inside)):
        if s.inside[q] and phases.alive[phase, q]:
            return True
    return False


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
    for e in range(ELEMENTS):
        for step in range(places.depth[k]):
            if not np.isinf(c.time[e, step]):
                c.done[e, step] += wait / c.time[e, step]
        for n in range(active):
            w = c.active[n]
            if not np.isinf(c.trunk_time[e, w]):
                c.trunk_done[e, w] += wait / c.trunk_time[e, w]


@compiled
def who_opens(places: PlaceTable, k: int, c: Counts, active: int, wait: float, first: float, at: int, past: int
              ) -> tuple[int, int]:  # fmt: skip
    """What opens first, if anything does before the phase ends (else -1), and by which bands it has counted."""
    if first <= wait:
        return places.branch[k, at], past
    for n in range(active):
        soon, own = soonest(c, c.active[n])
        if soon <= wait:
            return places.trunk_branch[c.active[n]], own
    return -1, 0


@compiled
def open_those(places: PlaceTable, c: Counts, s: Scratch, active: int, wait: float) -> bool:
    """Open devices of the core that get there together, if any do; joints stand in order of number."""
    before = count = s.count[0]
    for n in range(active):
        if soonest(c, c.active[n])[0] <= wait * (1 + TOGETHER):
            joint, at = places.trunk_joint[c.active[n]], count
            while at and s.opened[at - 1] > joint:
                s.opened[at] = s.opened[at - 1]
                at -= 1
            s.opened[at] = joint
            count += 1
    s.count[0] = count
    return bool(count > before)


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
        s.count[0] = 0
        c.done[:] = 0
        c.past[:] = 0
        turn += 1
        find_inside(net, places.root[k], s)
        while True:
            turn += 1
            f = stage(net, phases, places, arcs, corner[i], k, row, phase, s, strength)
            after = phases.after[phase, places.component[k]]
            rest = phases.starts[after] - elapsed
            first, step, past = chain_first(places, bands, f, corner[i], k, row, moved, s, c)
            soon, active = np.inf, 0
            # nothing of the core opens before its quickest device could
            if elapsed != 0 or first > min(places.trunk_quickest, rest):
                soon, active = trunk_first(net, places, bands, f, corner[i], k, row, moved, turn, s, c)
            wait = min(first, soon, rest)
            never, until = np.isinf(wait), elapsed + wait
            opener, opener_past = -1, 0
            if not never:
                opener, opener_past = who_opens(places, k, c, active, wait, first, step, past)
                if opener == -1 and rest <= wait:
                    opener = ceasing(phases, s, phase, after)
            log_arc, log_by = put(log_arc, logged, i), put(log_by, logged, opener)
            log_from, log_until = put(log_from, logged, elapsed), put(log_until, logged, until)
            log_ka, log_part = put(log_ka, logged, f.bolted), put(log_part, logged, f.part)
            logged += 1
            late = not until <= until_s
            # the end of a phase moves nothing by a jump
            if opener >= 0 or never or until > until_s:
                mine = -1 if late else opener
                band = 0 if late or opener == -1 else opener_past
                sign[i] = (sign[i] * MIXED + (mine + sources + 3)) * MIXED + band
            if never:
                for q in range(sources):
                    left[i, q] = s.inside[q] and phases.alive[phase, q]
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
