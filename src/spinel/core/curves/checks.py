"""Whether a time-current curve can be right: each field, and what must hold between them."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from spinel.core.curves.relays import inverse
from spinel.core.curves.shapes import (
    PRINCIPLES,
    Curve,
    FixedTime,
    FuseCurve,
    Points,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.curves.times import along
from spinel.core.errors import InputError
from spinel.core.quantities import MULTIPLE, RATED_A, SECONDS, SHORT_DELAY_S
from spinel.core.said import say


def check_curve(curve: Curve) -> None:
    """InputError naming field, value and what is allowed, for a curve that cannot be right."""
    _CHECKS[type(curve)](curve)


def _check_fuse(curve: FuseCurve) -> None:
    _check_points(curve.points, "points", 2)
    if curve.melting:
        _check_points(curve.melting, "melting", 2)
        _check_melting(curve)


def _check_points(points: Points, name: str, least: int) -> None:
    if len(points) < least:
        raise InputError(name, len(points), say("curves-checks-at-least-two-points-of-current-and"))
    for current, time in points:
        RATED_A.check(current, f"{name} (current)")
        SECONDS.check(time, f"{name} (time)")
    for (i1, t1), (i2, t2) in pairwise(points):
        if not i2 > i1:
            raise InputError(f"{name} (current)", i2, say("curves-checks-currents-must-rise-above-a", i1=i1))
        if not t2 <= t1:
            raise InputError(f"{name} (time)", t2, say("curves-checks-times-must-not-rise-with-current-at", t1=t1))


def _check_melting(curve: FuseCurve) -> None:
    """A fuse melts before it has cleared, and at lower currents. At every point of either line."""
    if curve.melting[0][0] > curve.points[0][0]:
        first = curve.points[0][0]
        raise InputError(
            "melting (current)",
            curve.melting[0][0],
            say("curves-checks-begins-at-or-below-a-as-total", first=first),
        )
    for current, _ in (*curve.points, *curve.melting):
        melts, clears = float(along(curve.melting, current)), float(along(curve.points, current))
        if melts > clears * (1 + 1e-9):
            raise InputError(
                "melting (time)",
                melts,
                say("curves-checks-at-a-at-most-its-total-clearing", current=current, clears=clears),
            )


def _check_trip(c: TripCurve) -> None:
    RATED_A.check(c.long_pickup_a, "long_pickup_a")
    SECONDS.check(c.long_delay_s, "long_delay_s")
    _together(c.short_pickup_a, c.short_delay_s, "short")
    _together(c.ground_pickup_a, c.ground_delay_s, "ground")
    if c.short_pickup_a is not None and not c.short_pickup_a >= c.long_pickup_a:
        raise InputError(
            "short_pickup_a",
            c.short_pickup_a,
            say("curves-checks-at-or-above-the-long-pickup-a", long_pickup_a=c.long_pickup_a),
        )
    if c.short_delay_s is not None:
        SHORT_DELAY_S.check(c.short_delay_s, "short_delay_s")
    if c.interlock_delay_s is not None and not (c.short_delay_s and 0 < c.interlock_delay_s <= c.short_delay_s):
        raise InputError("interlock_delay_s", c.interlock_delay_s, say("curves-checks-above-0-s-at-most-the-short"))
    if c.instantaneous_a is not None and not c.instantaneous_a >= (c.short_pickup_a or c.long_pickup_a):
        raise InputError("instantaneous_a", c.instantaneous_a, say("curves-checks-at-or-above-the-other-pickups"))
    SECONDS.check(c.instantaneous_clearing_s, "instantaneous_clearing_s")
    _check_tolerance(c.tolerance_pct)


def _together(pickup: float | None, delay: float | None, name: str) -> None:
    if (pickup is None) != (delay is None):
        raise InputError(f"{name}_delay_s", delay, say("curves-checks-pickup-and-delay-come-together", name=name))
    if pickup is not None:
        RATED_A.check(pickup, f"{name}_pickup_a")
        SHORT_DELAY_S.check(delay, f"{name}_delay_s")


def _check_thermal(c: ThermalMagneticCurve) -> None:
    RATED_A.check(c.rated_a, "rated_a")
    SECONDS.check(c.seconds_at_3x, "seconds_at_3x")
    RATED_A.check(c.magnetic_a, "magnetic_a")
    if not c.magnetic_a >= 2 * c.rated_a:
        raise InputError(
            "magnetic_a", c.magnetic_a, say("curves-checks-at-or-above-twice-the-rating-a", what=2 * c.rated_a)
        )
    SECONDS.check(c.magnetic_clearing_s, "magnetic_clearing_s")
    _check_tolerance(c.tolerance_pct)


def _check_relay(c: RelayCurve) -> None:
    RATED_A.check(c.pickup_a, "pickup_a")
    SECONDS.check(c.breaker_s, "breaker_s")
    MULTIPLE.check(c.dial, "dial")
    inverse(c.standard, c.curve)
    _together(c.ground_pickup_a, c.ground_delay_s, "ground")
    if c.instantaneous_a is not None and not c.instantaneous_a >= c.pickup_a:
        raise InputError(
            "instantaneous_a", c.instantaneous_a, say("curves-checks-at-or-above-the-pickup-a", pickup_a=c.pickup_a)
        )
    SECONDS.check(c.instantaneous_s, "instantaneous_s")
    if not 2 <= c.flat_above <= 100:
        raise InputError("flat_above", c.flat_above, say("curves-checks-from-2-to-100-times-pickup"))
    _check_tolerance(c.tolerance_pct)


def _check_unit(c: UnitCurve) -> None:
    if c.principle not in PRINCIPLES:
        raise InputError("principle", c.principle, say("one-of", options=tuple(PRINCIPLES)))
    RATED_A.check(c.pickup_a, "pickup_a")
    SECONDS.check(c.operating_s, "operating_s")
    SECONDS.check(c.breaker_s, "breaker_s")
    _check_tolerance(c.tolerance_pct)


def _check_fixed(c: FixedTime) -> None:
    SECONDS.check(c.clearing_s, "clearing_s")


def _check_tolerance(percent: float) -> None:
    if not 0 <= percent <= 50:
        raise InputError("tolerance_pct", percent, say("curves-checks-from-0-to-50"))


_CHECKS: dict[type, Callable[..., None]] = {
    FuseCurve: _check_fuse,
    TripCurve: _check_trip,
    ThermalMagneticCurve: _check_thermal,
    RelayCurve: _check_relay,
    UnitCurve: _check_unit,
    FixedTime: _check_fixed,
}
