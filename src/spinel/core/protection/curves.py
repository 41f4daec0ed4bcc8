"""Total clearing time of fuses, trip units and relays at a current. Generic curves, no maker's data.

Every function returns seconds on the slow (total clearing) edge, or None where the device does not trip.
Sources: relay equation IEEE C37.112-2018, constants from memory; the rest is a description of settings.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from spinel.core.errors import InputError
from spinel.core.quantities import MULTIPLE, RATED_A, SECONDS

#: IEEE C37.112 inverse curves: A, B, p of t = dial (A / (M^p - 1) + B).
IEEE_CURVES = {"MI": (0.0515, 0.1140, 0.02), "VI": (19.61, 0.491, 2.0), "EI": (28.2, 0.1217, 2.0)}


@dataclass(frozen=True)
class FuseCurve:
    """Total-clearing points (amperes, seconds), currents rising, times falling; straight on log-log axes."""

    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class TripCurve:
    """Electronic trip. Each pickup in amperes; the slow edge is used: pickup and delay plus tolerance.

    Long time: I²t through (6 x pickup, delay). Short time: flat delay, or I²t up to its flat delay.
    """

    long_pickup_a: float
    long_delay_s: float
    short_pickup_a: float | None = None
    short_delay_s: float | None = None
    short_i2t: bool = False
    instantaneous_a: float | None = None
    instantaneous_clearing_s: float = 0.05
    tolerance_pct: float = 10.0


@dataclass(frozen=True)
class RelayCurve:
    """Inverse-time relay (IEEE C37.112) plus breaker interrupting time; optional instantaneous element."""

    curve: str
    pickup_a: float
    dial: float
    breaker_s: float
    instantaneous_a: float | None = None
    instantaneous_s: float = 0.02
    tolerance_pct: float = 5.0


@dataclass(frozen=True)
class FixedTime:
    """A device of which only a fixed clearing time is known (a converter that ceases to feed a fault)."""

    clearing_s: float


Curve = FuseCurve | TripCurve | RelayCurve | FixedTime


@dataclass(frozen=True)
class Clearing:
    """Time on the slow edge and the part of the characteristic that gives it. ``time_s`` None: never."""

    time_s: float | None
    how: str


def clearing(curve: Curve, current_a: float) -> Clearing:
    """Total clearing time at ``current_a`` (rms symmetrical amperes at the device).

    >>> clearing(TripCurve(400, 10, 2000, 0.3), 5000)
    Clearing(time_s=0.33, how='short time, 2000 A + 10 %, 0.3 s + 10 %')
    """
    if not (math.isfinite(current_a) and current_a >= 0):
        raise InputError("current_a", current_a, "a number from 0 A")
    if isinstance(curve, FuseCurve):
        return _fuse(curve, current_a)
    if isinstance(curve, TripCurve):
        return _trip(curve, current_a)
    if isinstance(curve, RelayCurve):
        return _relay(curve, current_a)
    return Clearing(curve.clearing_s, "fixed time from its certificate")


def _fuse(curve: FuseCurve, current: float) -> Clearing:
    points = curve.points
    if current < points[0][0]:
        return Clearing(None, f"below {points[0][0]:g} A, where its total-clearing curve begins")
    if current >= points[-1][0]:
        return Clearing(points[-1][1], f"total clearing at and beyond the last point, {points[-1][0]:g} A")
    for (i1, t1), (i2, t2) in pairwise(points):
        if i1 <= current <= i2:
            share = math.log(current / i1) / math.log(i2 / i1)
            time = math.exp(math.log(t1) + share * (math.log(t2) - math.log(t1)))
            return Clearing(time, f"total clearing between {i1:g} and {i2:g} A, log-log")
    raise AssertionError("points are checked to rise")


def _trip(c: TripCurve, current: float) -> Clearing:
    """The band that the current is surely in. A slower band is never bettered by another band's slope."""
    slow = 1 + c.tolerance_pct / 100
    margin = f"+ {c.tolerance_pct:g} %"
    if c.instantaneous_a is not None and current >= c.instantaneous_a * slow:
        return Clearing(c.instantaneous_clearing_s, f"instantaneous, {c.instantaneous_a:g} A {margin}")
    if c.short_pickup_a is not None and c.short_delay_s is not None and current >= c.short_pickup_a * slow:
        delay, kind = c.short_delay_s, "short time"
        if c.short_i2t:
            # I²t ramp through ten times the long pickup, never faster than the flat delay.
            delay, kind = max(delay, delay * (10 * c.long_pickup_a / current) ** 2), "short time, I²t"
        return Clearing(delay * slow, f"{kind}, {c.short_pickup_a:g} A {margin}, {c.short_delay_s:g} s {margin}")
    if current >= c.long_pickup_a * slow:
        time = max(c.long_delay_s * (6 * c.long_pickup_a / current) ** 2 * slow, c.instantaneous_clearing_s)
        return Clearing(time, f"long time, {c.long_pickup_a:g} A {margin}, I²t")
    return Clearing(None, f"below its long-time pickup, {c.long_pickup_a:g} A {margin}")


def _relay(c: RelayCurve, current: float) -> Clearing:
    if c.instantaneous_a is not None and current >= c.instantaneous_a * (1 + c.tolerance_pct / 100):
        return Clearing(
            c.instantaneous_s + c.breaker_s,
            f"instantaneous, {c.instantaneous_a:g} A + {c.tolerance_pct:g} %, + breaker {c.breaker_s:g} s",
        )
    multiple = current / (c.pickup_a * (1 + c.tolerance_pct / 100))
    if multiple <= 1:
        return Clearing(None, f"below its pickup, {c.pickup_a:g} A + {c.tolerance_pct:g} %")
    time = relay_time_s(c.curve, multiple, c.dial) * (1 + c.tolerance_pct / 100) + c.breaker_s
    return Clearing(
        time, f"IEEE {c.curve}, {multiple:.3g} x pickup, dial {c.dial:g}, + {c.tolerance_pct:g} %, + breaker "
        f"{c.breaker_s:g} s",
    )  # fmt: skip


def relay_time_s(curve: str, multiple: float, dial: float) -> float:
    """IEEE C37.112: t = dial (A / (M^p - 1) + B), seconds, for a multiple of pickup above 1.

    >>> round(relay_time_s("VI", 5, 1), 3)
    1.308
    """
    if curve not in IEEE_CURVES:
        raise InputError("curve", curve, "one of " + ", ".join(IEEE_CURVES))
    if not multiple > 1 or not math.isfinite(multiple):
        raise InputError("multiple", multiple, "above 1: at or below its pickup a relay does not operate")
    SECONDS.check(dial, "dial")
    a, b, p = IEEE_CURVES[curve]
    return dial * (a / (multiple**p - 1) + b)


def check_curve(curve: Curve) -> None:
    """InputError naming field, value and what is allowed, for a curve that cannot be right."""
    if isinstance(curve, FuseCurve):
        _check_fuse(curve)
    elif isinstance(curve, TripCurve):
        _check_trip(curve)
    elif isinstance(curve, RelayCurve):
        _check_relay(curve)
    else:
        SECONDS.check(curve.clearing_s, "clearing_s")


def _check_fuse(curve: FuseCurve) -> None:
    if len(curve.points) < 2:
        raise InputError("points", len(curve.points), "at least two points of current and time")
    for current, time in curve.points:
        RATED_A.check(current, "points (current)")
        SECONDS.check(time, "points (time)")
    for (i1, t1), (i2, t2) in pairwise(curve.points):
        if not i2 > i1:
            raise InputError("points (current)", i2, f"currents must rise: above {i1:g} A")
        if not t2 <= t1:
            raise InputError("points (time)", t2, f"times must not rise with current: at most {t1:g} s")


def _check_trip(c: TripCurve) -> None:
    RATED_A.check(c.long_pickup_a, "long_pickup_a")
    SECONDS.check(c.long_delay_s, "long_delay_s")
    if (c.short_pickup_a is None) != (c.short_delay_s is None):
        raise InputError("short_delay_s", c.short_delay_s, "short pickup and short delay come together")
    if c.short_pickup_a is not None and not c.short_pickup_a >= c.long_pickup_a:
        raise InputError("short_pickup_a", c.short_pickup_a, f"at or above the long pickup, {c.long_pickup_a:g} A")
    if c.short_delay_s is not None:
        SECONDS.check(c.short_delay_s, "short_delay_s")
    if c.instantaneous_a is not None and not c.instantaneous_a >= (c.short_pickup_a or c.long_pickup_a):
        raise InputError("instantaneous_a", c.instantaneous_a, "at or above the other pickups")
    SECONDS.check(c.instantaneous_clearing_s, "instantaneous_clearing_s")
    _check_tolerance(c.tolerance_pct)


def _check_relay(c: RelayCurve) -> None:
    RATED_A.check(c.pickup_a, "pickup_a")
    SECONDS.check(c.breaker_s, "breaker_s")
    MULTIPLE.check(c.dial, "dial")
    if c.instantaneous_a is not None and not c.instantaneous_a >= c.pickup_a:
        raise InputError("instantaneous_a", c.instantaneous_a, f"at or above the pickup, {c.pickup_a:g} A")
    relay_time_s(c.curve, 2.0, c.dial)
    _check_tolerance(c.tolerance_pct)


def _check_tolerance(percent: float) -> None:
    if not 0 <= percent <= 50:
        raise InputError("tolerance_pct", percent, "from 0 to 50 %")
