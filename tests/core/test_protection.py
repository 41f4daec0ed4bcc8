"""Clearing times on the slow edge, and who clears what."""

import math

import pytest

from spinel.core.errors import InputError
from spinel.core.protection.curves import FixedTime, FuseCurve, RelayCurve, TripCurve, check_curve
from spinel.core.protection.relays import relay_time_s
from spinel.core.protection.times import clearing

FUSE = FuseCurve(((100, 10), (1000, 0.1)))
TRIP = TripCurve(400, 8, 2000, 0.3, instantaneous_a=8000)


@pytest.mark.parametrize(
    ("curve", "multiple", "expected"),
    [
        ("MI", 5, 0.0515 / (5**0.02 - 1) + 0.1140), ("VI", 5, 19.61 / 24 + 0.491), ("EI", 5, 28.2 / 24 + 0.1217),
        ("VI", 2, 19.61 / 3 + 0.491), ("EI", 10, 28.2 / 99 + 0.1217),
    ],
)  # fmt: skip
def test_relay_equation(curve, multiple, expected):
    """IEEE C37.112-2018, table 1 constants and equation, from memory."""
    assert relay_time_s(curve, multiple, 2.0) == pytest.approx(2 * expected, rel=1e-9)


@pytest.mark.parametrize(
    ("current", "time"),
    [(99, None), (100, 10), (316.2278, 1.0), (1000, 0.1), (5000, 0.1)],
)
def test_a_fuse_is_straight_on_log_log_axes_and_silent_below_its_curve(current, time):
    found = clearing(FUSE, current).time_s
    assert found is None if time is None else found == pytest.approx(time, rel=1e-4)


@pytest.mark.parametrize(
    ("current", "time", "band"),
    [
        (439, None, "below its long-time pickup"),
        (2199, 8 * (2400 / 2199) ** 2 * 1.1, "long time"),
        (2200, 0.33, "short time"),
        (8799, 0.33, "short time"),
        (8800, 0.05, "instantaneous"),
    ],
)
def test_a_trip_unit_is_believed_only_past_pickup_and_tolerance(current, time, band):
    found = clearing(TRIP, current)
    assert found.how.startswith(band)
    assert found.time_s is None if time is None else found.time_s == pytest.approx(time)


def test_no_long_time_slope_is_faster_than_the_mechanism():
    assert clearing(TripCurve(100, 2), 100_000).time_s == 0.05


def test_i2t_short_time_never_beats_its_flat_delay():
    ramp = TripCurve(400, 8, 2000, 0.3, short_i2t=True)
    assert clearing(ramp, 2200).time_s == pytest.approx(0.3 * (4000 / 2200) ** 2 * 1.1)
    assert clearing(ramp, 40_000).time_s == pytest.approx(0.33)


def test_a_relay_adds_breaker_time_and_works_at_its_pickup_plus_tolerance():
    relay = RelayCurve("VI", 100, 1, breaker_s=0.083, instantaneous_a=1000)
    assert clearing(relay, 105).time_s is None
    assert clearing(relay, 525).time_s == pytest.approx(relay_time_s("VI", 5, 1) * 1.05 + 0.083)
    assert clearing(relay, 1050).time_s == pytest.approx(0.103)


@pytest.mark.parametrize("curve", [FUSE, TRIP, RelayCurve("EI", 100, 1, 0.08), FixedTime(0.1)])
def test_more_current_never_takes_longer(curve):
    times = [clearing(curve, amps).time_s for amps in range(110, 60_000, 37)]
    known = [t for t in times if t is not None]
    assert known == sorted(known, reverse=True)
    assert None not in times[len(times) - len(known) :]


@pytest.mark.parametrize("current", [-1, math.nan, math.inf])
def test_an_impossible_current_is_refused(current):
    with pytest.raises(InputError, match="current_a"):
        clearing(FUSE, current)


@pytest.mark.parametrize(
    "curve",
    [
        FuseCurve(((100, 10),)), FuseCurve(((100, 10), (100, 1))), FuseCurve(((100, 1), (200, 2))),
        FuseCurve(((0, 10), (100, 1))), TripCurve(0, 8), TripCurve(400, math.nan), TripCurve(400, 8, 300, 0.1),
        TripCurve(400, 8, 2000), TripCurve(400, 8, 2000, 0.3, instantaneous_a=1000), RelayCurve("XX", 100, 1, 0.08),
        RelayCurve("VI", 100, 0, 0.08), RelayCurve("VI", 100, 1, 0.08, instantaneous_a=50), FixedTime(0),
        TripCurve(400, 8, tolerance_pct=60),
    ],
)  # fmt: skip
def test_a_curve_that_cannot_be_right_is_refused(curve):
    with pytest.raises(InputError):
        check_curve(curve)
