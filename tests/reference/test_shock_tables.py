"""Approach boundaries and glove classes against the published tables, written out here a second time.

Sources: NFPA 70E-2021 tables 130.4(E)(a) and (b); ASTM D120 and 29 CFR 1910.137 table I-4. From memory in both
places: this guards against slips of the fingers, not of memory (docs/sources.md says so).
"""

import math

import pytest

from spinel.core.errors import InputError, OutOfRange
from spinel.core.shock.approach import approach, glove_class
from spinel.core.tables.nfpa70e_shock import RULES

#: V, limited movable m, limited fixed m, restricted m (0: avoid contact)
AC = [
    (50, 3.0, 1.0, 0), (120, 3.0, 1.0, 0), (150, 3.0, 1.0, 0), (151, 3.0, 1.0, 0.3), (480, 3.0, 1.0, 0.3),
    (750, 3.0, 1.0, 0.3), (751, 3.0, 1.5, 0.7), (12_470, 3.0, 1.5, 0.7), (15_000, 3.0, 1.5, 0.7),
    (15_100, 3.0, 1.8, 0.8), (36_000, 3.0, 1.8, 0.8), (46_000, 3.0, 2.5, 0.8), (72_500, 3.0, 2.5, 1.0),
    (121_000, 3.3, 2.5, 1.0), (138_000, 3.4, 3.0, 1.2), (161_000, 3.6, 3.6, 1.3), (230_000, 4.0, 4.0, 1.7),
    (345_000, 4.7, 4.7, 2.8), (500_000, 5.8, 5.8, 3.6), (765_000, 7.2, 7.2, 4.9),
    # in a gap of the rows: the next higher row
    (130_000, 3.4, 3.0, 1.2), (150_000, 3.6, 3.6, 1.3), (200_000, 4.0, 4.0, 1.7),
]  # fmt: skip
DC = [
    (50, 3.0, 1.0, 0), (300, 3.0, 1.0, 0), (301, 3.0, 1.0, 0.3), (750, 3.0, 1.0, 0.3), (1_000, 3.0, 1.0, 0.3),
    (1_100, 3.0, 1.5, 0.5), (5_000, 3.0, 1.5, 0.7), (15_000, 3.0, 1.5, 0.7), (15_100, 3.0, 2.5, 0.8),
    (45_100, 3.0, 2.5, 1.0), (75_100, 3.3, 3.0, 1.2), (250_000, 3.6, 3.6, 1.6), (500_000, 6.0, 6.0, 3.5),
    (800_000, 8.0, 8.0, 5.0),
]  # fmt: skip


@pytest.mark.parametrize(("current", "row"), [*(("ac", r) for r in AC), *(("dc", r) for r in DC)])
def test_metric_boundaries(current, row):
    voltage, movable, fixed, restricted = row
    found = approach(voltage, current, RULES)
    assert (found.limited_movable_mm, found.limited_fixed_mm) == (movable * 1000, fixed * 1000)
    assert found.avoid_contact == (restricted == 0)
    assert found.restricted_mm == (restricted * 1000 or None)


@pytest.mark.parametrize(
    ("voltage", "current", "fixed_in", "restricted_in"),
    [(480, "ac", 42, 12), (12_470, "ac", 60, 26), (36_000, "ac", 72, 33), (72_500, "ac", 96, 42),
     (145_000, "ac", 120, 46), (242_000, "ac", 156, 68), (750, "dc", 42, 12), (4_000, "dc", 60, 17)],
)  # fmt: skip
def test_the_inch_column_is_its_own(voltage, current, fixed_in, restricted_in):
    found = approach(voltage, current, RULES)
    assert (found.limited_fixed_in, found.restricted_in) == (fixed_in, restricted_in)


def test_below_50_v_there_is_no_boundary_and_no_error():
    found = approach(49.9, "ac", RULES)
    assert found.limited_fixed_mm is None and found.restricted_mm is None and not found.avoid_contact


@pytest.mark.parametrize(
    ("voltage", "current", "glove"),
    [(500, "ac", "00"), (501, "ac", "0"), (1_000, "ac", "0"), (7_500, "ac", "1"), (17_000, "ac", "2"),
     (26_500, "ac", "3"), (36_000, "ac", "4"), (750, "dc", "00"), (1_500, "dc", "0"), (11_250, "dc", "1"),
     (25_500, "dc", "2"), (39_750, "dc", "3"), (54_000, "dc", "4")],
)  # fmt: skip
def test_glove_classes(voltage, current, glove):
    assert glove_class(voltage, current, RULES).name == glove


def test_beyond_class_4_there_are_no_gloves():
    with pytest.raises(OutOfRange, match="glove classes end"):
        glove_class(36_001, "ac", RULES)


@pytest.mark.parametrize(
    ("voltage", "current"), [(math.nan, "ac"), (0, "ac"), (-5, "dc"), (math.inf, "ac"), (480, "hz")]
)
def test_unusable_input_is_refused(voltage, current):
    with pytest.raises(InputError):
        approach(voltage, current, RULES)
    with pytest.raises(InputError):
        glove_class(voltage, current, RULES)


def test_distances_never_fall_as_voltage_rises():
    for current in ("ac", "dc"):
        rows = [approach(v, current, RULES) for v in range(50, 800_000, 450)]
        for name in ("limited_movable_mm", "limited_fixed_mm", "restricted_mm", "limited_fixed_in", "restricted_in"):
            values = [getattr(r, name) or 0 for r in rows]
            assert values == sorted(values), (current, name)
