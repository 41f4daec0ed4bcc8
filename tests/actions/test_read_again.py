"""A voltage that a contact instrument shows is read once more with one of low impedance, or it stands."""

import json
import os

import pytest

import played
from demo_acts import act, the_site
from saying import en
from spinel.actions import console, gear, network, program_view, programs
from spinel.core.errors import InputError
from spinel.demo.site import document
from switching_acts import confirm, readings, ready, run, start_job, under_way

pytestmark = [pytest.mark.usefixtures("open_db"), pytest.mark.long]


def view(number):
    return program_view.view(the_site(), number)


@pytest.fixture
def number():
    return under_way("MC2-1D", until="proof")


def typed(number, high="38", low="0.4", **more):
    """The first pair reads high; read again it is as given."""
    step = view(number).current
    first = {f"reading_{i}": high if i == 0 else "0.2" for i in range(len(step.pairs))}
    again = {"low_instrument": "L-5", "low_source_v": "120", "low_before_v": "119", "low_after_v": "120", "low_0": low}
    return first | again | more


def say(number, said):
    seen = view(number)
    return console.confirm(act("ivo"), number, seen.done + 1, seen.version, said)


def test_the_first_reading_is_kept_at_once_and_the_step_is_not_done(number):
    seen = view(number)
    high = {**readings(seen.current), "reading_0": "38"}
    with pytest.raises(console.ReadAgain):
        say(number, high)
    now = view(number)
    assert (now.done, now.state) == (seen.done, "executing")
    kept = now.records[-1]
    assert kept.kind == "read high" and kept.detail["readings_v"][seen.current.pairs[0]] == 38


def test_what_low_impedance_brings_down_was_coupled_and_both_are_recorded(number):
    before = view(number).done
    assert say(number, typed(number)) == "confirmed"
    seen = view(number)
    assert seen.done == before + 1
    detail = seen.valid("confirmed")[-1].detail
    assert detail["low"]["instrument"] == "L-5" and 38 in detail["readings_v"].values()
    assert list(detail["low"]["readings_v"].values()) == [0.4]


@pytest.mark.parametrize("low", ["3.1", "38", "480"])
def test_what_it_still_shows_is_a_voltage(number, low):
    assert say(number, typed(number, low=low)) == "stopped"
    seen = view(number)
    assert seen.state == "stopped" and "Voltage is present" in en(seen.stopped_because)


def test_it_may_stand_without_a_second_reading(number):
    assert say(number, {**typed(number), "low_instrument": "", "low": "stands"}) == "stopped"


@pytest.mark.parametrize("check", ["low_before_v", "low_after_v"])
def test_a_second_instrument_that_fails_its_check_lets_the_voltage_stand_and_is_out_of_use(number, check):
    assert say(number, typed(number, **{check: "60"})) == "stopped"
    assert gear.one(the_site(), "L-5").barred


@pytest.mark.parametrize(
    ("more", "field"),
    [
        ({"low_instrument": "M-12"}, "low_instrument"),
        ({"low_instrument": "nothing"}, "low_instrument"),
        ({"low_source_v": "5"}, "low_source_v"),
        ({"low_source_v": "nan"}, "low_source_v"),
        ({"low_before_v": ""}, "low_before_v"),
        ({"low_0": ""}, "low_0"),
        ({"low_0": "-1"}, "low_0"),
    ],
)
def test_every_field_of_it_is_asked_for(number, more, field):
    done = view(number).done
    with pytest.raises(InputError) as refused:
        say(number, typed(number, **more))
    assert refused.value.field == field and view(number).done == done


def test_the_console_shows_what_is_asked_and_keeps_what_was_typed(number, sign_in):
    seen = view(number)
    high = {**readings(seen.current), "reading_0": "38", "step": str(seen.done + 1), "version": str(seen.version)}
    answer = sign_in("ivo").post(f"/switching/{number}/confirm", data=high)
    assert answer.status_code == 422
    assert "Instrument of low impedance" in answer.text and "L-5" in answer.text and 'value="38"' in answer.text


def test_nothing_is_asked_where_nothing_was_read(number):
    assert confirm(number) == "confirmed"


@pytest.fixture
def beside_another():
    """The cable of P-31 runs beside another line."""
    return played.once(_beside_another)


def _beside_another():
    data = document()
    next(e for e in data["elements"] if e["tag"] == "W-P31")["induced_voltage"] = True
    network.publish(act("maren"), json.dumps(data))
    made = programs.draft(act("maren"), start_job("W-P31"))
    ready(made)
    run(made, until="proof")
    return made


def test_a_steady_voltage_that_a_parallel_line_induces_may_be_grounded_and_is_tested_again(beside_another):
    number = beside_another
    while view(number).current.value == "proof":
        assert say(number, typed(number, high="18", low="16")) == "confirmed"
    seen = view(number)
    assert seen.valid("confirmed")[-1].detail["induced"] is True
    run(number, until="ground")
    here = the_site().as_it_is()
    point = view(number).current.node_id
    assert here.field.proved(point, number) is None and here.field.may_be_grounded(point, number)
    assert here.liveness.nodes[point] not in ("proved", "grounded")
    run(number, until="proof")  # grounded, and before the second test
    # once it is grounded nothing is induced any more
    assert say(number, typed(number, high="18", low="16")) == "stopped"


@pytest.mark.parametrize(
    ("high", "low"), [("29", "29"), ("18", "19"), ("480", "16")] if os.environ.get("SOAK") else [("29", "29")]
)
def test_too_much_or_rising_is_a_voltage_all_the_same(beside_another, high, low):
    assert say(beside_another, typed(beside_another, high=high, low=low)) == "stopped"


def test_a_second_instrument_that_failed_shows_nothing_induced(beside_another):
    assert say(beside_another, typed(beside_another, high="18", low="16", low_after_v="60")) == "stopped"


def test_tested_again_and_absent_it_is_handed_over(beside_another):
    while view(beside_another).current.value == "proof":
        say(beside_another, typed(beside_another, high="18", low="16"))
    assert run(beside_another).state == "done"
