"""Clearing times on the slow edge, and who clears what."""

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from saying import en
from spinel.core.curves.checks import check_curve
from spinel.core.curves.files import read_csv, read_curve, write_csv, write_curve
from spinel.core.curves.relays import relay_time_s
from spinel.core.curves.shapes import (
    FixedTime,
    FuseCurve,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.curves.times import clearing, ground_clearing, times_s
from spinel.core.errors import InputError

FUSE = FuseCurve(((100, 10), (1000, 0.1)))
TRIP = TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=2000, short_delay_s=0.3, instantaneous_a=8000)


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
    assert en(found.how).startswith(band)
    assert found.time_s is None if time is None else found.time_s == pytest.approx(time)


def test_no_long_time_slope_is_faster_than_the_mechanism():
    assert clearing(TripCurve(long_pickup_a=100, long_delay_s=2), 100_000).time_s == 0.05


def test_i2t_short_time_never_beats_its_flat_delay():
    ramp = TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=2000, short_delay_s=0.3, short_i2t=True)
    assert clearing(ramp, 2200).time_s == pytest.approx(0.3 * (4000 / 2200) ** 2 * 1.1)
    assert clearing(ramp, 40_000).time_s == pytest.approx(0.33)


def test_a_relay_adds_breaker_time_and_works_at_its_pickup_plus_tolerance():
    relay = RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.083, instantaneous_a=1000)
    assert clearing(relay, 105).time_s is None
    assert clearing(relay, 525).time_s == pytest.approx(relay_time_s("VI", 5, 1) * 1.05 + 0.083)
    assert clearing(relay, 1050).time_s == pytest.approx(0.103)


THERMAL = ThermalMagneticCurve(100, 30, 1000)
UNIT = UnitCurve("definite", 200, 0.02, 0.083)
INTERLOCKED = TripCurve(
    long_pickup_a=400,
    long_delay_s=8,
    short_pickup_a=2000,
    short_delay_s=0.3,
    interlock_delay_s=0.05,
    ground_pickup_a=300,
    ground_delay_s=0.2,
    ground_i2t=True,
)
MELTING = FuseCurve(((100, 10), (1000, 0.1)), ((80, 8), (1000, 0.05)))
EVERY = [FUSE, MELTING, TRIP, INTERLOCKED, THERMAL, UNIT, RelayCurve(curve="EI", pickup_a=100, dial=1, breaker_s=0.08), FixedTime(0.1),
         RelayCurve(curve="SI", pickup_a=100, dial=0.2, breaker_s=0.08, standard="iec", instantaneous_a=2000)]  # fmt: skip


@pytest.mark.long
@pytest.mark.parametrize("curve", EVERY)
@given(amps=st.lists(st.floats(0, 1e6), min_size=1, max_size=20))
def test_many_currents_at_once_are_each_alone_and_the_fast_edge_is_never_slower(curve, amps):
    for restrained in (True, False):
        together = times_s(curve, np.array(amps), restrained=restrained)
        fast = times_s(curve, np.array(amps), restrained=restrained, edge="fast")
        for one, found, early in zip(amps, together, fast, strict=True):
            alone = clearing(curve, one, restrained=restrained).time_s
            assert found == (math.inf if alone is None else pytest.approx(alone, rel=1e-12))
            assert early <= found
    mixed = times_s(curve, np.array(amps), restrained=np.arange(len(amps)) % 2 == 0)
    assert mixed[0] == times_s(curve, np.array(amps[:1]))[0]


@pytest.mark.parametrize(
    ("curve", "current", "time"),
    [
        # thermal by hand: 30 s at three times 100 A gives 240 / ((I / 125)² - 1) on the slow edge of 25 %
        (THERMAL, 375, 30.0), (THERMAL, 125, None), (THERMAL, 126, 240 / ((126 / 125) ** 2 - 1)), (THERMAL, 1250, 0.025),
        (UNIT, 209, None), (UNIT, 210, 0.103), (INTERLOCKED, 5000, 0.33),
        # flat above 20 times pickup: the multiple that counts is 20
        (RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, tolerance_pct=0), 9000, 19.61 / 399 + 0.491 + 0.08),
        (RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, tolerance_pct=0, flat_above=100), 9000, 19.61 / (8100 - 1) + 0.491 + 0.08),
    ],
)  # fmt: skip
def test_other_devices_by_hand(curve, current, time):
    found = clearing(curve, current).time_s
    assert found is None if time is None else found == pytest.approx(time)


def test_interlock_ground_and_melting():
    assert clearing(INTERLOCKED, 5000, restrained=False).time_s == pytest.approx(0.055)
    assert [ground_clearing(INTERLOCKED, a).time_s for a in (329, 3000)] == [None, pytest.approx(0.22)]
    # I²t through five times the ground pickup: at 600 A (1500 / 600)² x 0.2 s + 10 %
    assert ground_clearing(INTERLOCKED, 600).time_s == pytest.approx(0.2 * 6.25 * 1.1)
    relay = RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, ground_pickup_a=20, ground_delay_s=0.1)
    assert ground_clearing(relay, 100).time_s == pytest.approx(0.185) and ground_clearing(FUSE, 500).time_s is None
    assert clearing(MELTING, 1000, edge="fast").time_s == pytest.approx(0.05) and clearing(MELTING, 90).time_s is None


@pytest.mark.parametrize("curve", EVERY)
def test_a_curve_survives_its_json_form_and_points_survive_csv(curve):
    assert read_curve(json.loads(json.dumps(write_curve(curve)))) == curve
    if isinstance(curve, FuseCurve):
        assert read_csv(write_csv(curve)) == curve
    else:
        sampled = write_csv(curve, [50, 500, 5000, 50_000]).splitlines()
        assert sampled[0] == "current_a,melting_s,clearing_s" and len(sampled) == 5


@pytest.mark.parametrize(
    ("text", "field"),
    [
        ("amps,seconds\n1,2\n", "columns"), ("current_a,clearing_s\n100,1\n", "points"),
        ("current_a,clearing_s\n100,1\n200,2\n", "points (time)"), ("current_a,clearing_s\n200,1\n100,0.5\n", "points (current)"),
        ("current_a,clearing_s\n100,x\n", "line 2, clearing_s"), ("current_a,clearing_s\n-1,1\n", "line 2, current_a"),
        ("current_a,clearing_s\nnan,1\n", "line 2, current_a"),
        ("current_a,melting_s,clearing_s\n100,5,1\n200,0.2,0.5\n", "melting (time)"),
        ("current_a,melting_s,clearing_s\n100,,1\n200,0.2,0.5\n300,0.1,0.2\n", "melting (current)"),
    ],
)  # fmt: skip
def test_csv_that_is_no_curve_is_refused_by_line(text, field):
    with pytest.raises(InputError) as refused:
        read_csv(text)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("data", "field"),
    [
        ({"type": "magic"}, "curve.type"), ({}, "curve.type"), ([], "curve"), ({"type": "fixed"}, "curve"),
        ({"type": "fixed", "clearing_s": 1, "maker": "x"}, "curve.maker"), ({"type": "fuse", "points": 7}, "curve.points"),
    ],
)  # fmt: skip
def test_json_that_is_no_curve_is_refused(data, field):
    with pytest.raises(InputError) as refused:
        read_curve(data)
    assert refused.value.field == field


@pytest.mark.parametrize("curve", EVERY)
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
        FuseCurve(((0, 10), (100, 1))), TripCurve(long_pickup_a=0, long_delay_s=8), TripCurve(long_pickup_a=400, long_delay_s=math.nan), TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=300, short_delay_s=0.1),
        TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=2000), TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=2000, short_delay_s=0.3, instantaneous_a=1000), RelayCurve(curve="XX", pickup_a=100, dial=1, breaker_s=0.08),
        RelayCurve(curve="VI", pickup_a=100, dial=0, breaker_s=0.08), RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, instantaneous_a=50), FixedTime(0),
        TripCurve(long_pickup_a=400, long_delay_s=8, tolerance_pct=60), TripCurve(long_pickup_a=400, long_delay_s=8, short_pickup_a=2000, short_delay_s=0.3, interlock_delay_s=0.4),
        TripCurve(long_pickup_a=400, long_delay_s=8, interlock_delay_s=0.1), TripCurve(long_pickup_a=400, long_delay_s=8, ground_pickup_a=100), UnitCurve("magic", 100, 0.02, 0.08),
        UnitCurve("light", 0, 0.02, 0.08), ThermalMagneticCurve(100, 30, 150), ThermalMagneticCurve(100, math.inf, 1000),
        RelayCurve(curve="SI", pickup_a=100, dial=1, breaker_s=0.08), RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, flat_above=1), RelayCurve(curve="VI", pickup_a=100, dial=1, breaker_s=0.08, standard="x"),
        FuseCurve(((100, 10), (1000, 0.1)), ((80, 20), (1000, 0.2))), FuseCurve(((100, 10), (1000, 0.1)), ((120, 2), (1000, 0.05))),
    ],
)  # fmt: skip
def test_a_curve_that_cannot_be_right_is_refused(curve):
    with pytest.raises(InputError):
        check_curve(curve)
