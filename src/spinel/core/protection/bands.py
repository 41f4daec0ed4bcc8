"""The curves of many devices as arrays, so that the times of any devices at any currents are read in one pass.

Every part of a curve is a band: from its pickup on, time = max(floor, a / (x^p - q) + b), x = min(I / ref, cap). The
bands of a device stand in the order in which they are tried; each belongs to an element that keeps its own count of
how far it has come (instantaneous, short time, long time or inverse, relay of a zone). Total clearing, slow edge: the
same times as ``times`` gives, which the tests hold against each other.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from spinel.core.curves.relays import inverse
from spinel.core.curves.shapes import (
    Curve,
    FixedTime,
    FuseCurve,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.protection.believed import Device

if TYPE_CHECKING:
    from spinel.core.compiled.tables import BandTable

#: Elements of a device: three of its own curve, in order of priority, and the relay of its zone.
FIRST, SECOND, THIRD, ZONE = 0, 1, 2, 3
ELEMENTS = 4
#: A short time with zone interlock has two bands: which applies depends on being held.
ALWAYS, HELD, FREE = 0, 1, 2


@dataclass(frozen=True, kw_only=True)
class _Band:
    element: int
    pickup: float
    b: float
    a: float = 0.0
    p: float = 1.0
    q: float = 0.0
    ref: float = 1.0
    floor: float = 0.0
    cap: float = math.inf
    when: int = ALWAYS


def _bands_of(curve: Curve) -> list[_Band]:
    if isinstance(curve, TripCurve):
        return _trip(curve)
    if isinstance(curve, RelayCurve):
        return _relay(curve)
    if isinstance(curve, ThermalMagneticCurve):
        return _thermal(curve)
    if isinstance(curve, FuseCurve):
        return _fuse(curve)
    if isinstance(curve, UnitCurve):
        return [
            _Band(
                element=FIRST, pickup=curve.pickup_a * _slow(curve.tolerance_pct), b=curve.operating_s + curve.breaker_s
            )
        ]
    assert isinstance(curve, FixedTime)
    return [_Band(element=FIRST, pickup=0.0, b=curve.clearing_s)]


def _slow(tolerance_pct: float) -> float:
    return 1 + tolerance_pct / 100


def _trip(c: TripCurve) -> list[_Band]:
    slow, found = _slow(c.tolerance_pct), []
    if c.instantaneous_a is not None:
        found.append(_Band(element=FIRST, pickup=c.instantaneous_a * slow, b=c.instantaneous_clearing_s))
    if c.short_pickup_a is not None and c.short_delay_s is not None:
        pickup, flat = c.short_pickup_a * slow, c.short_delay_s * slow
        ramp = flat * (10 * c.long_pickup_a) ** 2 if c.short_i2t else 0.0
        own = _Band(element=SECOND, pickup=pickup, b=0.0 if ramp else flat, a=ramp, p=2.0, floor=flat if ramp else 0.0)
        if c.interlock_delay_s is None:
            found.append(own)
        else:
            found.append(_Band(element=SECOND, pickup=pickup, b=c.interlock_delay_s * slow, when=FREE))
            found.append(_Band(**{**own.__dict__, "when": HELD}))
    long = c.long_delay_s * (6 * c.long_pickup_a) ** 2 * slow
    found.append(
        _Band(element=THIRD, pickup=c.long_pickup_a * slow, b=0.0, a=long, p=2.0, floor=c.instantaneous_clearing_s)
    )
    return found


def _relay(c: RelayCurve) -> list[_Band]:
    slow, found = _slow(c.tolerance_pct), []
    if c.instantaneous_a is not None:
        found.append(_Band(element=FIRST, pickup=c.instantaneous_a * slow, b=c.instantaneous_s + c.breaker_s))
    how, pickup = inverse(c.standard, c.curve), c.pickup_a * slow
    part = c.dial * slow
    found.append(
        _Band(
            element=SECOND,
            pickup=math.nextafter(pickup, math.inf),
            b=how.b * part + c.breaker_s,
            a=how.a * part,
            p=how.p,
            q=1.0,
            ref=pickup,
            cap=c.flat_above,
        )
    )
    return found


def _thermal(c: ThermalMagneticCurve) -> list[_Band]:
    slow = _slow(c.tolerance_pct)
    pickup = c.rated_a * slow
    return [
        _Band(element=FIRST, pickup=c.magnetic_a * slow, b=c.magnetic_clearing_s),
        _Band(
            element=SECOND,
            pickup=math.nextafter(pickup, math.inf),
            b=0.0,
            a=c.seconds_at_3x * 8,
            p=2.0,
            q=1.0,
            ref=pickup,
            floor=c.magnetic_clearing_s,
        ),
    ]


def _fuse(c: FuseCurve) -> list[_Band]:
    """One element whose bands are the stretches between points, the highest currents first."""
    last = c.points[-1]
    found = [_Band(element=FIRST, pickup=last[0], b=last[1])]
    for (i1, t1), (i2, t2) in reversed(list(zip(c.points, c.points[1:], strict=False))):
        slope = math.log(t1 / t2) / math.log(i2 / i1)
        found.append(_Band(element=FIRST, pickup=i1, b=0.0, a=t1, p=slope, ref=i1, floor=last[1]))
    return found


class Bands:
    """The bands of devices; ``times`` reads them. ``boxes``: how many enclosures there are, for relays of zones.
    ``instead``: of a device, by number, others that stand in its place where it is set otherwise."""

    def __init__(self, devices: Sequence[Device], boxes: int, instead: Mapping[int, Sequence[int]] | None = None):
        rows: list[_Band] = []
        start, count = [], []
        for d in devices:
            own = list(_bands_of(d.curve)) if d.curve is not None else []
            if d.zone_curve is not None:
                own += [_Band(**{**b.__dict__, "element": ZONE}) for b in _bands_of(d.zone_curve)]
            start.append(len(rows))
            count.append(len(own))
            rows += own
        self.instead = {n: np.array(others, dtype=np.intp) for n, others in (instead or {}).items()}
        self.start, self.count = np.array(start, dtype=np.intp), np.array(count, dtype=np.intp)
        names = ("pickup", "a", "b", "p", "q", "ref", "floor", "cap")
        self._of = {n: np.array([getattr(r, n) for r in rows], dtype=float) for n in names}
        self._of |= {n: np.array([getattr(r, n) for r in rows], dtype=np.int64) for n in ("element", "when")}
        #: does the relay of its zone look at arcs in each enclosure? Column 0: no enclosure.
        self.zone_of = {i: np.isin(np.arange(-1, boxes), list(d.zone)) for i, d in enumerate(devices) if d.zone_curve}
        self.interlocked = np.array([d.interlocked for d in devices], dtype=bool)
        #: the current from which a device does anything, however it is set
        self.lowest = np.array([
            min((r.pickup for r in rows[i : i + n]), default=math.inf) for i, n in zip(start, count, strict=True)
        ])  # fmt: skip
        for number, others in self.instead.items():
            self.lowest[number] = min(self.lowest[number], self.lowest[others].min(initial=math.inf))

    def times(self, device: np.ndarray, amps: np.ndarray, box: np.ndarray, held: np.ndarray) -> np.ndarray:
        """Total clearing times (elements, entries) in s; infinite where an element does not pick up.

        ``device`` -1: none. No element of a lower priority is quicker than one above it that has picked up.
        """
        from spinel.core.compiled.times import many_s

        whole = [np.ascontiguousarray(x, dtype=np.int64) for x in (device, box)]
        amps = np.ascontiguousarray(amps, dtype=float)
        return many_s(self.table, whole[0], amps, amps, whole[1], np.ascontiguousarray(held, dtype=bool))[0]

    def quickest(self, device: np.ndarray) -> np.ndarray:
        """The shortest time of each device at any current, however it is set of the ways that there are."""
        every, huge = np.arange(len(self.count)), np.full(len(self.count), 1e9)
        own: np.ndarray = np.full(len(every), np.inf)
        for box in {-1, *(int(np.flatnonzero(seen)[0]) - 1 for seen in self.zone_of.values() if seen.any())}:
            found = self.times(every, huge, np.full(len(every), box), np.zeros(len(every), dtype=bool))
            own = np.minimum(own, found.min(axis=0, initial=np.inf))
        for number, others in self.instead.items():
            own[number] = min(own[number], own[others].min(initial=np.inf))
        given: np.ndarray = own[device]
        return given

    @cached_property
    def table(self) -> BandTable:
        """For compiled/times, which reads it."""
        from spinel.core.compiled.tables import BAND, DEVICE, BandTable

        rows, devices = np.zeros(len(self._of["pickup"]), dtype=BAND), np.zeros(len(self.start), dtype=DEVICE)
        for name, column in self._of.items():
            rows[name] = column
        devices["start"], devices["count"], devices["lowest"] = self.start, self.count, self.lowest
        devices["zone_row"] = -1
        devices["zone_row"][list(self.zone_of)] = np.arange(len(self.zone_of))
        zoned = np.array([*self.zone_of.values()], dtype=bool) if self.zone_of else np.zeros((0, 1), dtype=bool)
        return BandTable(rows, devices, zoned)
