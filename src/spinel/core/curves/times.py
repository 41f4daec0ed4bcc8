"""The time that a curve gives at a current, on either edge of its band. Numbers or arrays.

A curve is a list of bands in the order in which they are tried; the first that applies gives the time. On the slow
edge (total clearing, the one for hazards) a band applies only past pickup plus tolerance; on the fast edge
(minimum melting, the one for selectivity) from pickup less tolerance. Where none applies it never trips: infinite.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from spinel.core.curves.relays import inverse, operating_s
from spinel.core.curves.shapes import (
    Curve,
    FixedTime,
    FuseCurve,
    Points,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.errors import InputError
from spinel.core.said import Sayable, say

SLOW, FAST = "slow", "fast"


@dataclass(frozen=True)
class Clearing:
    """Time on the asked edge and the part of the characteristic that gives it. ``time_s`` None: never."""

    time_s: float | None
    how: Sayable


@dataclass(frozen=True)
class Band:
    """Where ``applies``, the time is ``time_s``; both of the shape of the current. ``how`` is worded when asked."""

    applies: Any
    time_s: Any
    how: Callable[[], Sayable]


def clearing(curve: Curve, current_a: float, *, restrained: bool = True, edge: str = SLOW) -> Clearing:
    """Total clearing time (``edge`` fast: earliest trip) at ``current_a``, rms symmetrical amperes at the device.

    ``restrained``: does a device downstream hold its zone interlock? Assumed unless known otherwise.

    >>> clearing(TripCurve(long_pickup_a=400, long_delay_s=10, short_pickup_a=2000, short_delay_s=0.3), 5000).time_s
    0.33
    """
    if isinstance(current_a, bool) or not (math.isfinite(current_a) and current_a >= 0):
        raise InputError("current_a", current_a, say("curves-times-a-number-from-0-a"))
    amps = np.asarray(float(current_a))
    for band in _bands(curve, amps, restrained, edge):
        if band.applies:
            return Clearing(float(band.time_s), band.how())
    return Clearing(None, _silent(curve, edge))


def times_s(curve: Curve, currents_a: Any, *, restrained: Any = True, edge: str = SLOW) -> Any:
    """Times at many currents (an array of amperes), in seconds; infinite where the curve never trips.

    ``restrained`` may be an array too. The same as ``clearing`` at each.
    """
    amps = np.asarray(currents_a, dtype=float)
    if isinstance(restrained, np.ndarray) and not restrained.all() and restrained.any():
        free = times_s(curve, amps, restrained=False, edge=edge)
        return np.where(restrained, times_s(curve, amps, restrained=True, edge=edge), free)
    bands = _bands(curve, amps, bool(np.all(restrained)), edge)
    found = np.full(amps.shape, math.inf)
    for band in reversed(bands):
        np.copyto(found, band.time_s, where=band.applies)
    return found


def ground_clearing(curve: Curve, ground_current_a: float) -> Clearing:
    """Slow-edge time of the ground element at a ground-fault current; never where there is none.

    >>> trip = TripCurve(long_pickup_a=400, long_delay_s=10, ground_pickup_a=200, ground_delay_s=0.2)
    >>> round(ground_clearing(trip, 1000).time_s, 3)
    0.22
    """
    if not (math.isfinite(ground_current_a) and ground_current_a >= 0):
        raise InputError("ground_current_a", ground_current_a, say("curves-times-a-number-from-0-a"))
    if not isinstance(curve, TripCurve | RelayCurve) or curve.ground_pickup_a is None or curve.ground_delay_s is None:
        return Clearing(None, say("curves-times-no-ground-element"))
    slow = 1 + curve.tolerance_pct / 100
    if ground_current_a < curve.ground_pickup_a * slow:
        return Clearing(
            None,
            say(
                "curves-times-below-its-ground-pickup-a",
                ground_pickup_a=curve.ground_pickup_a,
                tolerance_pct=curve.tolerance_pct,
            ),
        )
    delay = curve.ground_delay_s
    if isinstance(curve, TripCurve) and curve.ground_i2t:
        delay = max(delay, delay * (5 * curve.ground_pickup_a / ground_current_a) ** 2)
    time = delay * slow + (curve.breaker_s if isinstance(curve, RelayCurve) else 0.0)
    return Clearing(
        time, say("curves-times-ground-a-s", ground_pickup_a=curve.ground_pickup_a, ground_delay_s=curve.ground_delay_s)
    )


def quickest_s(curve: Curve) -> float:
    """The shortest total clearing time that a curve gives at any current, s."""
    return float(times_s(curve, 1e9, restrained=False))


def along(points: Points, current: Any) -> Any:
    """Time on a line of points, straight on log-log axes; infinite below the first, the last time beyond the last."""
    amps = np.asarray(current, dtype=float)
    logs = np.log(np.asarray(points, dtype=float))
    with np.errstate(divide="ignore"):
        times = np.exp(np.interp(np.log(amps), logs[:, 0], logs[:, 1]))
    return np.where(amps < points[0][0], math.inf, np.maximum(times, points[-1][1]))


def _bands(curve: Curve, amps: Any, restrained: bool, edge: str) -> list[Band]:
    if edge not in (SLOW, FAST):
        raise InputError("edge", edge, say("curves-times-or", slow=SLOW, fast=FAST))
    if isinstance(curve, TripCurve):
        return _trip(curve, amps, restrained, edge)
    return _BANDS[type(curve)](curve, amps, edge)


def _margin(tolerance_pct: float, edge: str) -> tuple[float, str]:
    sign = "+" if edge == SLOW else "-"
    return 1 + (tolerance_pct if edge == SLOW else -tolerance_pct) / 100, f"{sign} {tolerance_pct:g} %"


def _fuse(c: FuseCurve, amps: Any, edge: str) -> list[Band]:
    points, name = c.points, say("curves-times-total-clearing")
    if edge == FAST:
        # without melting points it may melt at once
        if not c.melting:
            return [Band(amps >= 0, 0.0, lambda: say("curves-times-no-minimum-melting-points-at-once"))]
        points, name = c.melting, say("curves-times-minimum-melting")
    last = points[-1]
    beyond = Band(
        amps >= last[0], last[1], lambda: say("curves-times-at-and-beyond-the-last-point-a", name=name, last=last[0])
    )
    between = Band(
        amps >= points[0][0],
        along(points, amps),
        lambda: say("curves-times-between-points-log-log", name=name, neighbours=_neighbours(points, float(amps))),
    )
    return [beyond, between]


def _neighbours(points: Points, amps: float) -> Sayable:
    below = [i for i, _ in points if i <= amps]
    above = [i for i, _ in points if i > amps]
    return say("curves-times-and-a", what=below[-1], above=above[0]) if below and above else ""


def _trip(c: TripCurve, amps: Any, restrained: bool, edge: str) -> list[Band]:
    """A slower band is never bettered by another band's slope."""
    factor, margin = _margin(c.tolerance_pct, edge)
    bands = []
    if c.instantaneous_a is not None:
        time = c.instantaneous_clearing_s if edge == SLOW else 0.0
        bands.append(
            Band(
                amps >= c.instantaneous_a * factor,
                time,
                lambda: say("curves-times-instantaneous-a", instantaneous_a=c.instantaneous_a, margin=margin),
            )
        )
    if c.short_pickup_a is not None and c.short_delay_s is not None:
        bands.append(_short(c, amps, restrained, factor, margin))
    with np.errstate(divide="ignore"):
        slope = c.long_delay_s * (6 * c.long_pickup_a / np.maximum(amps, 1e-9)) ** 2 * factor
    floor = c.instantaneous_clearing_s if edge == SLOW else 0.0
    bands.append(
        Band(
            amps >= c.long_pickup_a * factor,
            np.maximum(slope, floor),
            lambda: say("curves-times-long-time-a-i-t", long_pickup_a=c.long_pickup_a, margin=margin),
        )
    )
    return bands


def _short(c: TripCurve, amps: Any, restrained: bool, factor: float, margin: str) -> Band:
    pickup, flat, kind = c.short_pickup_a or 0.0, c.short_delay_s or 0.0, say("curves-times-short-time")
    delay: Any = flat
    if c.interlock_delay_s is not None and not restrained:
        flat = delay = c.interlock_delay_s
        kind = say("curves-times-short-time-zone-interlock-not-restrained")
    elif c.short_i2t:
        # I²t ramp through ten times the long pickup, never faster than the flat delay.
        delay = np.maximum(flat, flat * (10 * c.long_pickup_a / np.maximum(amps, 1e-9)) ** 2)
        kind = say("curves-times-short-time-i-t")
    return Band(
        amps >= pickup * factor,
        delay * factor,
        lambda: say("curves-times-a-s", kind=kind, pickup=pickup, margin=margin, flat=flat),
    )


def _thermal(c: ThermalMagneticCurve, amps: Any, edge: str) -> list[Band]:
    factor, margin = _margin(c.tolerance_pct, edge)
    multiple = amps / (c.rated_a * factor)
    with np.errstate(divide="ignore", invalid="ignore"):
        time = np.where(multiple > 1, c.seconds_at_3x * 8 / (np.maximum(multiple, 1 + 1e-12) ** 2 - 1), math.inf)
    floor = c.magnetic_clearing_s if edge == SLOW else 0.0
    return [
        Band(
            amps >= c.magnetic_a * factor,
            floor,
            lambda: say("curves-times-magnetic-a", magnetic_a=c.magnetic_a, margin=margin),
        ),
        Band(
            multiple > 1,
            np.maximum(time, floor),
            lambda: say("curves-times-thermal-a", rated_a=c.rated_a, margin=margin),
        ),
    ]


def _relay(c: RelayCurve, amps: Any, edge: str) -> list[Band]:
    factor, margin = _margin(c.tolerance_pct, edge)
    # the fast edge is the relay alone: when it has operated the breaker can no longer be held
    breaker = c.breaker_s if edge == SLOW else 0.0
    added = say("curves-times-breaker-s", breaker_s=c.breaker_s) if edge == SLOW else say("curves-times-relay-alone")
    bands = []
    if c.instantaneous_a is not None:
        time = c.instantaneous_s + breaker if edge == SLOW else 0.0
        bands.append(
            Band(
                amps >= c.instantaneous_a * factor,
                time,
                lambda: say(
                    "curves-times-instantaneous-a-2", instantaneous_a=c.instantaneous_a, margin=margin, added=added
                ),
            )
        )
    multiple = amps / (c.pickup_a * factor)
    found = inverse(c.standard, c.curve)
    # just above pickup the equation is near infinite: kept finite there, since the band applies
    used = np.clip(multiple, 1 + 1e-9, c.flat_above)

    def how() -> Sayable:
        flat = say("curves-times-flat-above", flat_above=c.flat_above) if multiple > c.flat_above else ""
        name = f"{c.standard.upper()} {c.curve}"
        return say(
            "curves-times-x-pickup-dial",
            name=name,
            multiple=float(multiple),
            flat=flat,
            dial=c.dial,
            margin=margin,
            added=added,
        )

    bands.append(Band(multiple > 1, operating_s(found, used, c.dial) * factor + breaker, how))
    return bands


def _unit(c: UnitCurve, amps: Any, edge: str) -> list[Band]:
    factor, margin = _margin(c.tolerance_pct, edge)
    time = c.operating_s + c.breaker_s if edge == SLOW else 0.0
    names = {
        "differential": say("curves-times-differential-relay"),
        "light": say("curves-times-light-detecting-relay"),
        "definite": say("curves-times-definite-time"),
    }
    fixed = say("curves-times-s-breaker-s", operating_s=c.operating_s, breaker_s=c.breaker_s)
    return [
        Band(
            amps >= c.pickup_a * factor,
            time,
            lambda: say(
                "curves-times-a", principle=names[c.principle], pickup_a=c.pickup_a, margin=margin, fixed=fixed
            ),
        )
    ]


def _fixed(c: FixedTime, amps: Any, edge: str) -> list[Band]:
    time = c.clearing_s if edge == SLOW else 0.0
    return [Band(amps >= 0, time, lambda: say("curves-times-fixed-time-from-its-certificate"))]


_BANDS: dict[type, Callable[[Any, Any, str], list[Band]]] = {
    FuseCurve: _fuse,
    ThermalMagneticCurve: _thermal,
    RelayCurve: _relay,
    UnitCurve: _unit,
    FixedTime: _fixed,
}


def _silent(curve: Curve, edge: str) -> Sayable:
    """Why it never trips at this current."""
    if isinstance(curve, FuseCurve):
        first = (curve.points if edge == SLOW else curve.melting)[0][0]
        return say(
            "curves-times-below-a-where-its-curve-begins",
            first=first,
            what=say("curves-times-total-clearing-2") if edge == SLOW else say("curves-times-melting"),
        )
    pickup = next((getattr(curve, n) for n in ("long_pickup_a", "rated_a", "pickup_a") if hasattr(curve, n)), 0.0)
    tolerance = getattr(curve, "tolerance_pct", 0.0)
    what = say("curves-times-long-time-pickup") if isinstance(curve, TripCurve) else "pickup"
    return say(
        "curves-times-below-its-a", what=what, pickup=pickup, what_2="+" if edge == SLOW else "-", tolerance=tolerance
    )
