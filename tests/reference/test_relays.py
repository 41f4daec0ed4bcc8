"""Relay equations against published points and second writings of the constants.

Sources: IEC 60255-151:2009 table A.1 constants and IEEE C37.112-2018 table 1, from memory; the times of the IEC curves
at 2, 5 and 10 times setting with TMS 1 are those of common handbook tables (from memory). The US family: common
practice, no source.
"""

import numpy as np
import pytest

from spinel.core.curves.relays import RELAYS, relay_time_s, reset_s
from spinel.core.errors import InputError


@pytest.mark.parametrize(
    ("curve", "multiple", "seconds"),
    [
        ("SI", 2, 10.03), ("SI", 5, 4.28), ("SI", 10, 2.97), ("VI", 2, 13.50), ("VI", 5, 3.38), ("VI", 10, 1.50),
        ("EI", 2, 26.67), ("EI", 5, 3.33), ("EI", 10, 0.81), ("LTI", 2, 120.0), ("LTI", 5, 30.0), ("LTI", 10, 13.33),
    ],
)  # fmt: skip
def test_iec_times_of_the_handbooks(curve, multiple, seconds):
    assert relay_time_s(curve, multiple, 1.0, "iec") == pytest.approx(seconds, abs=0.006)


@pytest.mark.parametrize(
    ("standard", "curve", "a", "b", "p"),
    [
        ("ieee", "MI", 0.0515, 0.1140, 0.02), ("ieee", "VI", 19.61, 0.491, 2), ("ieee", "EI", 28.2, 0.1217, 2),
        ("us", "MI", 0.0104, 0.0226, 0.02), ("us", "I", 5.95, 0.180, 2), ("us", "VI", 3.88, 0.0963, 2),
        ("us", "EI", 5.67, 0.0352, 2), ("us", "STI", 0.00342, 0.00262, 0.02),
    ],
)  # fmt: skip
@pytest.mark.parametrize("multiple", [1.5, 4, 20])
def test_equation_by_hand_for_numbers_and_arrays(standard, curve, a, b, p, multiple):
    by_hand = 3 * (a / (multiple**p - 1) + b)
    assert relay_time_s(curve, multiple, 3, standard) == pytest.approx(by_hand, rel=1e-12)
    assert relay_time_s(curve, np.array([2.0, multiple]), 3, standard)[1] == pytest.approx(by_hand, rel=1e-12)


def test_every_curve_falls_with_current_and_the_steeper_kind_falls_more():
    """Common practice, no source: an extremely inverse relay is slower at low and quicker at high currents."""
    for standard, family in RELAYS.items():
        for curve in family:
            times = [relay_time_s(curve, m, 1.0, standard) for m in (1.1, 2, 5, 10, 30)]
            assert times == sorted(times, reverse=True), (standard, curve)
    assert relay_time_s("EI", 1.5, 1, "ieee") > relay_time_s("VI", 1.5, 1, "ieee")
    assert relay_time_s("EI", 20, 1, "ieee") < relay_time_s("VI", 20, 1, "ieee")


def test_reset_by_hand():
    """IEEE C37.112-2018: t = dial x tr / (1 - M^2); very inverse 21.6 s, at half of pickup 21.6 / 0.75 (from memory)."""
    assert reset_s("VI", 0.5, 1) == pytest.approx(28.8)


@pytest.mark.parametrize(
    ("standard", "curve", "multiple", "dial", "field"),
    [
        ("iec", "MI", 5, 1, "curve"), ("ieee", "SI", 5, 1, "curve"), ("ansi", "VI", 5, 1, "standard"),
        ("ieee", "VI", 1, 1, "multiple"), ("ieee", "VI", 0, 1, "multiple"), ("ieee", "VI", -5, 1, "multiple"),
        ("ieee", "VI", float("nan"), 1, "multiple"), ("ieee", "VI", float("inf"), 1, "multiple"),
        ("ieee", "VI", True, 1, "multiple"), ("ieee", "VI", "5", 1, "multiple"),
        ("ieee", "VI", np.array([2.0, 1.0]), 1, "multiple"), ("ieee", "VI", 5, 0, "dial"),
        ("ieee", "VI", 5, float("nan"), "dial"), ("ieee", "VI", 5, 1000, "dial"),
    ],
)  # fmt: skip
def test_what_no_relay_has_is_refused(standard, curve, multiple, dial, field):
    with pytest.raises(InputError) as refused:
        relay_time_s(curve, multiple, dial, standard)
    assert refused.value.field == field
