"""What waits for one person is what they may do next, and nothing that they may not."""

import pytest

from demo_acts import MOMENT, PASSWORD, act, actor, permits_of, person, the_site
from spinel.actions import board, permit_approval, permit_moves, program_moves, program_view, programs, waiting
from spinel.core.profile import NORTH_AMERICAN


def of(login):
    return [
        (w.number, w.what)
        for w in waiting.for_person(the_site(), actor(login), board.board(the_site(), MOMENT), MOMENT.date())
    ]


def test_a_permit_waits_for_each_in_turn(database):
    number = "EWP-0005"
    assert (number, "approve") in of("ruth") and not any(n == number for n, _ in of("maren"))
    seen = permits_of(number)
    permit_approval.approve(act("ruth"), number, seen.version, seen.content_hash, PASSWORD)
    # who approved does not issue
    assert (number, "issue") in of("tavi") and not any(n == number for n, _ in of("ruth"))
    seen = permits_of(number)
    permit_approval.issue(
        act("tavi"), number, seen.version, seen.content_hash, PASSWORD, seen.window_start, seen.window_end
    )
    assert (number, "brief") in of("sorcha") and (number, "state") not in of("nils")
    there = [person(p) for p in ("nils", "wanda", "sorcha", "jory")]
    permit_moves.brief(
        act("sorcha"), number, permits_of(number).version, list(NORTH_AMERICAN.briefing), there, "Wet floor"
    )
    assert (number, "vouch") in of("piet") and (number, "accept") not in of("sorcha")
    for worker in ("nils", "wanda"):
        assert (number, "state") in of(worker)
        permit_moves.state(act(worker), number, permits_of(number).version, list(NORTH_AMERICAN.statements))
        assert (number, "state") not in of(worker)
    assert (number, "attend") in of("jory") and (number, "accept") not in of("sorcha")
    permit_moves.attend(act("jory"), number, permits_of(number).version)
    assert (number, "attend") not in of("jory")
    permit_moves.vouch(act("piet"), number, permits_of(number).version)
    assert (number, "accept") in of("sorcha") and not any(n == number for n, _ in of("piet"))


def test_what_has_run_out_comes_first_and_waits_for_who_is_in_charge():
    assert of("sorcha")[0] == ("EWP-0002", "hand_back")
    assert not any(n == "EWP-0002" for login in ("maren", "ruth", "nils") for n, _ in of(login))


def test_a_reader_and_the_system_have_nothing_waiting():
    assert of("edda") == []


@pytest.mark.parametrize("login", ["maren", "ruth", "tavi", "sorcha", "ivo", "bram", "nils", "wanda", "piet", "jory"])
def test_whatever_waits_of_programs_is_theirs_by_the_rules(login):
    for number, what in of(login):
        if number.startswith("SP-"):
            seen = program_view.view(the_site(), number)
            assert what not in program_moves.why_not(actor(login), seen), (number, what)
    assert len(programs.lines(the_site())) > 5


def test_a_check_waits_only_for_who_is_qualified_to_operate():
    assert ("SP-0007", "check") in of("ivo") and not any(what == "check" for _, what in of("maren"))


def test_the_board_says_it_to_each(sign_in):
    assert "Waits for you" in sign_in("ruth").get("/").text
    assert "Waits for you" not in sign_in("edda").get("/").text
