"""Time-current curves: what a fuse, a trip unit or a relay is set to.

Generic descriptions of our own making, no maker's data. Whether one can be right is in ``checks``, times at a current
in ``times``, relay equations in ``relays``, files in ``files``.
"""

from __future__ import annotations

from dataclasses import dataclass

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class FuseCurve:
    """Total-clearing points (amperes, seconds), currents rising, times not; straight on log-log axes.

    ``melting``: minimum-melting points, where recorded; nowhere slower than total clearing.
    """

    points: Points
    melting: Points = ()


@dataclass(frozen=True, kw_only=True)
class TripCurve:
    """Electronic trip. Each pickup in amperes; the slow edge is pickup and delay plus tolerance.

    Long time: I²t through (6 x pickup, delay). Short time: flat delay, or I²t down to its flat delay.
    ``interlock_delay_s``: short-time delay when no device downstream restrains it (zone interlock).
    Ground: flat, or I²t through the ground pickup down to its flat delay; used for ground faults only.
    """

    long_pickup_a: float
    long_delay_s: float
    short_pickup_a: float | None = None
    short_delay_s: float | None = None
    short_i2t: bool = False
    interlock_delay_s: float | None = None
    instantaneous_a: float | None = None
    instantaneous_clearing_s: float = 0.05
    ground_pickup_a: float | None = None
    ground_delay_s: float | None = None
    ground_i2t: bool = False
    tolerance_pct: float = 10.0


@dataclass(frozen=True)
class ThermalMagneticCurve:
    """Molded-case trip: t = seconds_at_3x (3² - 1) / ((I / rated)² - 1), and a magnetic part with a wide band."""

    rated_a: float
    seconds_at_3x: float
    magnetic_a: float
    magnetic_clearing_s: float = 0.025
    tolerance_pct: float = 25.0


@dataclass(frozen=True, kw_only=True)
class RelayCurve:
    """Inverse-time relay plus breaker interrupting time; optional instantaneous and ground elements.

    Above ``flat_above`` times pickup the time stays as it is there: many relays do so between 20 and 30.
    """

    curve: str
    pickup_a: float
    dial: float
    breaker_s: float
    standard: str = "ieee"
    instantaneous_a: float | None = None
    instantaneous_s: float = 0.02
    ground_pickup_a: float | None = None
    ground_delay_s: float | None = None
    flat_above: float = 20.0
    tolerance_pct: float = 5.0


@dataclass(frozen=True)
class UnitCurve:
    """A relay of one fixed time above its pickup: ``differential``, ``light`` (light-detecting) or ``definite``.

    Differential and light-detecting relays see only their own zone, so they stand as a ``zone_curve``.
    """

    principle: str
    pickup_a: float
    operating_s: float
    breaker_s: float
    tolerance_pct: float = 5.0


@dataclass(frozen=True)
class FixedTime:
    """A device of which only a fixed clearing time is known (a converter that ceases to feed a fault)."""

    clearing_s: float


PRINCIPLES = ("differential", "light", "definite")
Curve = FuseCurve | TripCurve | ThermalMagneticCurve | RelayCurve | UnitCurve | FixedTime
