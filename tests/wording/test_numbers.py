"""No energy, boundary, time or duty that is shown is below the one computed, and none is left out."""

import re
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from saying import en
from spinel.core.said import say

#: A sentence with a figure of consequence, the value it is made from, and how much of it is one shown unit.
FIGURES = {
    "energy": (lambda v: say("energy-amount", energy_cal_cm2=v), 1),
    "answer of a card": (lambda v: say("verdict-energy", energy_cal_cm2=v, distance_mm=0.01), 1),
    "energy in the working": (
        lambda v: say("working-j-cm-cal", incident_energy_j_cm2=v, incident_energy_cal_cm2=v), 1),
    "boundary": (lambda v: say("job-worst-boundary", boundary_mm=v), 1000),
    "boundary in the working": (lambda v: say("working-mm-4", arc_flash_boundary_mm=v), 1),
    "shock boundary": (lambda v: say("shock-metres", mm=v), 1000),
    "shock boundary on the plan": (lambda v: say("network-pages-m-restricted-shock", restricted_mm=v), 1000),
    "inside the restricted boundary": (lambda v: say("card-inside", distance_mm=0.01, restricted_mm=v), 1000),
    "clearing time": (lambda v: say("working-s", time_s=v), 1),
}  # fmt: skip


@pytest.mark.parametrize("figure", FIGURES)
@given(value=st.floats(min_value=0.02, max_value=9e4))
def test_what_is_shown_is_never_below_what_was_computed(figure, value):
    """The oracle reads the digits in the sentence; a millionth of the last digit is noise of the computation."""
    make, unit = FIGURES[figure]
    sentence = en(make(value)).replace(",", "")
    # the distance beside it is smaller than any of them
    shown = [Decimal(n) for n in re.findall(r"\d+(?:\.\d+)?", sentence)]
    assert max(shown) * unit >= Decimal(value) - Decimal("0.000002") * unit, sentence


@pytest.mark.parametrize("available_ka", [25.04, 25.0004, 31.2])
def test_a_device_above_its_rating_never_reads_as_at_it(available_ka):
    failing = {"does": "to interrupt", "rating": 25.0, "available_ka": available_ka, "case": "normal"}
    for code, more in (
        ("protection-duty-rated-ka-where-ka-is-available", {}),
        ("protection-duty-rated-ka-at-x-r-where-ka", {"test": 4.9, "x_r": 12.0, "required_ka": available_ka}),
    ):
        numbers = [float(n) for n in re.findall(r"([\d.]+) kA", en(say(code, **failing, **more)))]
        assert numbers[0] == 25.0 < numbers[-1]


@pytest.mark.parametrize("value", [None, float("nan"), "", float("inf")])
def test_a_figure_that_is_not_there_is_never_a_blank_before_its_unit(value):
    for code, name in (("energy-amount", "energy_cal_cm2"), ("job-worst-boundary", "boundary_mm")):
        with pytest.raises(LookupError, match=code):
            en(say(code, **{name: value}))


def test_what_is_equal_in_python_but_not_in_words_is_said_apart():
    """Sentences are remembered: 1, 1.0 and yes must not share one."""
    said = [en(say("one-of", options=(v,))) for v in (1, True, "1", 1)]
    assert said[0] == said[2] == said[3] and said[1] != said[0]
