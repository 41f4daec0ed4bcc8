"""It is not as planned: one act by anybody stops what the job has under way, and opens its decision again."""

import pytest

from demo_acts import HAZARD, act, person, the_site
from saying import en
from spinel.actions import assessing, jobs, permit_moves, permits, program_moves, program_view, programs
from spinel.actions.verifying import verify
from spinel.core.errors import Refusal
from switching_acts import start_job, under_way


def at(number):
    return permits.view(the_site(), number, act("maren").now)


@pytest.mark.parametrize("login", ["jory", "edda", "nils", "maren"])
def test_anybody_stops_a_job_that_is_not_as_planned(open_db, login):
    permit = permits.in_states(the_site(), ("in_force",), act("maren").now)[0]
    job = permit.job
    assessing.ask(act("maren"), job, [person(p) for p in ("wanda", "nils")])
    assert permit.number in jobs.not_as_planned(act(login), job, "There is a second feed behind the trim")
    seen = jobs.view(the_site(), job)
    assert at(permit.number).state == "suspended" and "second feed" in en(at(permit.number).suspended_because)
    assert (seen.not_planned, dict(seen.facts), seen.decision.permit) == (
        "There is a second feed behind the trim",
        {},
        False,
    )
    assert assessing.of_job(the_site(), job, None).state == "left"
    assert verify(the_site().path).found == ()


def test_it_goes_on_only_once_it_is_answered_anew(open_db):
    permit = permits.in_states(the_site(), ("in_force",), act("maren").now)[0]
    jobs.not_as_planned(act("jory"), permit.job, "There is a second feed behind the trim")
    with pytest.raises(Refusal):
        permit_moves.resume(act("maren"), permit.number, at(permit.number).version, "It was only a neutral")
    seen = jobs.view(the_site(), permit.job)
    with pytest.raises(Refusal):
        jobs.answer(act("maren"), permit.job, seen.version, HAZARD, "added_hazard", "", seen.touches)
    assert jobs.view(the_site(), permit.job).not_planned, (
        "what a signed permit was about is answered after it has ended"
    )


def test_a_signed_permit_falls_back(open_db):
    waiting = permits.in_states(the_site(), ("submitted", "approved"), act("maren").now)[0]
    assert waiting.number in jobs.not_as_planned(act("wanda"), waiting.job, "It is another panel altogether")
    assert at(waiting.number).state == "draft"


def test_a_program_that_only_waits_is_checked_anew(open_db):
    number = programs.draft(act("maren"), start_job("CTL-1"))
    seen = program_view.view(the_site(), number)
    program_moves.check(act("ivo"), number, seen.version, seen.content_hash)
    assert jobs.not_as_planned(act("jory"), seen.job, "The drawing shows another box") == [number]
    assert program_view.view(the_site(), number).state == "draft"


def test_a_program_under_way_stops(open_db):
    number = under_way("CTL-1", until="start")
    job = program_view.view(the_site(), number).job
    assert jobs.not_as_planned(act("jory"), job, "The drawing shows another box") == [number]
    seen = program_view.view(the_site(), number)
    assert seen.state == "stopped" and "another box" in en(seen.stopped_because)
