"""Before the first closing after work on what may be joined otherwise than it was, somebody says how it was checked."""

import pytest

import played
from demo_acts import act, the_site
from saying import en
from spinel.actions import box, console, program_moves, program_view, programs
from spinel.core.errors import InputError, Refusal
from switching_acts import confirm, ready, run, under_way

pytestmark = pytest.mark.usefixtures("open_db")


def view(number):
    return program_view.view(the_site(), number)


@pytest.fixture
def restoration():
    """Of the cable to P-31."""
    return played.once(_restoration)


def _restoration():
    number = under_way("W-P31")
    box.take(act("sorcha"), number)
    box.complete(act("sorcha"), number)
    made = next(p.number for p in programs.lines(the_site()) if (p.hold, p.purpose) == (number, "restoration"))
    return made


def at_its_check(number):
    ready(number)
    while view(number).current.value != "phasing":
        confirm(number)


def test_it_cannot_be_left_out_and_a_motor_asks_for_none(restoration):
    at = next(i for i, s in enumerate(view(restoration).steps, 1) if s.value == "phasing")
    with pytest.raises(Refusal, match="phasing is checked before"):
        program_moves.remove_step(act("maren"), restoration, view(restoration).version, at)
    assert all(s.value != "phasing" for s in view("SP-0004").steps)  # P-21


@pytest.mark.parametrize(
    ("said", "field"),
    [
        ({}, "phased"),
        ({"phased": "perhaps"}, "phased"),
        ({"phased": "as_before"}, "phased_how"),
        ({"phased": "as_before", "phased_how": "  x "}, "phased_how"),
    ],
)
def test_both_what_was_found_and_how_are_asked_for(restoration, said, field):
    at_its_check(restoration)
    seen = view(restoration)
    with pytest.raises(InputError) as refused:
        console.confirm(act("ivo"), restoration, seen.done + 1, seen.version, said)
    assert refused.value.field == field and view(restoration).done == seen.done


def test_not_as_they_were_stops_it_and_nothing_is_closed(restoration):
    at_its_check(restoration)
    seen = view(restoration)
    said = {"phased": "otherwise", "phased_how": "Rotation meter turns left"}
    assert console.confirm(act("ivo"), restoration, seen.done + 1, seen.version, said) == "stopped"
    assert "Rotation meter turns left" in en(view(restoration).stopped_because)
    here, points = the_site().as_it_is(), view(view(restoration).hold).content["points"]
    assert points and all(here.device(here.network.by_tag[p["tag"]]).position != "closed" for p in points)


def test_what_was_not_taken_apart_goes_on_and_says_so(restoration):
    at_its_check(restoration)
    seen = view(restoration)
    said = {"phased": "not_taken_apart", "phased_how": "Only the gland was changed"}
    assert console.confirm(act("ivo"), restoration, seen.done + 1, seen.version, said) == "confirmed"
    assert view(restoration).valid("confirmed")[-1].detail["phased"] == "not_taken_apart"
    assert run(restoration).state == "done"
