"""A clock that was set back or moved lets nobody approve, issue, accept or resume until a coordinator has looked at it;
whoever stops work or reports something is heard at any time."""

import pytest

from demo_acts import MOMENT, PASSWORD, act, element_id, the_site
from spinel.actions import clock, network, permit_approval, permit_moves, permits
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.store import ledger
from spinel.web.clockwatch import ClockWatch


def acts():
    with the_site().connection():
        return [e.act for e in reversed(ledger.search(limit=6))]


def approve(**when):
    seen = permits.view(the_site(), "EWP-0005", MOMENT)
    permit_approval.approve(act("ruth", **when), "EWP-0005", seen.version, seen.content_hash, PASSWORD)


def report(**when):
    network.report_found(act("edda", **when), element_id("F-B2"), "closed", "Seen closed")


def test_the_demo_is_in_the_order_of_time(built, open_db):
    with the_site().connection():
        times = [e.at for e in reversed(ledger.search(limit=10_000))]
    assert times == sorted(times) and len(times) > 300
    assert clock.doubt(the_site(), MOMENT) is None
    assert clock.doubt(the_site(), act("edda", minutes=-20).now).values == {"minutes": 20}


def test_a_clock_set_back_stops_what_depends_on_it_and_nothing_else(database):
    with pytest.raises(Refusal, match="clock was moved") as refused:
        approve(minutes=-20)
    assert refused.value.rule.code == "clock-rule"
    # heard all the same, and the ledger says what was the matter
    seen = permits.view(the_site(), "EWP-0003", MOMENT)
    permit_moves.suspend(act("edda", minutes=-20), "EWP-0003", seen.version, "Smoke at the door")
    assert acts()[-2:] == ["clock went back", "permit suspended"]
    # said once, not at every act at that time; and it stands although the clock is right again
    report(minutes=-19)
    assert "found" in acts() and acts().count("clock went back") == 1
    for minutes in (-18, 5):
        with pytest.raises(Refusal, match="clock"):
            approve(minutes=minutes)
    with pytest.raises(NotAllowed):
        clock.acknowledge(act("edda", minutes=5), "By the clock of the quay")
    with pytest.raises(InputError):
        clock.acknowledge(act("maren", minutes=5), " ")
    clock.acknowledge(act("maren", minutes=5), "By the clock of the quay")
    approve(minutes=6)
    assert permits.view(the_site(), "EWP-0005", MOMENT).state == "approved"
    with pytest.raises(InputError, match="it is not"):
        clock.acknowledge(act("maren", minutes=7), "Once more")


def test_entries_far_ahead_keep_it_in_doubt_until_somebody_has_looked(database):
    """The clock was 400 days ahead, somebody reported something, and it was set right."""
    report(days=400)
    with pytest.raises(Refusal, match="clock was moved"):
        approve()
    clock.acknowledge(act("maren"), "By the clock of the quay")
    approve(minutes=1)


def test_acts_that_waited_for_each_other_are_no_matter(database):
    report()
    report(seconds=-90)
    assert "clock went back" not in acts()
    assert clock.doubt(the_site(), MOMENT) is None


class TestWatch:
    def test_a_jump_is_entered_once_for_all_workers(self, database):
        one, two = ClockWatch(the_site()), ClockWatch(the_site())
        one.look(MOMENT, 1000.0)
        two.look(act("edda", seconds=60).now, 1060.4)
        assert clock.doubt(the_site(), MOMENT) is None
        later = act("edda", days=30).now
        for watch in (two, one, two):
            watch.look(later, 1100.0)
        assert acts().count("clock jumped") == 1
        with pytest.raises(Refusal, match="moved by more than it runs"):
            approve(days=30)
        clock.acknowledge(act("maren", days=30), "By the clock of the quay")
        assert clock.doubt(the_site(), later) is None

    def test_a_machine_started_anew_counts_anew(self, database):
        watch = ClockWatch(the_site())
        watch.look(MOMENT, 1000.0)
        watch._boot = "another start"
        watch.look(act("edda", days=3).now, 12.0)
        assert clock.doubt(the_site(), MOMENT) is None

    def test_a_real_server_watches(self, database):
        from spinel.web.app import create_app

        app = create_app(str(database))
        app.test_client().post("/sign-in", data={"login": "maren", "password": "no"})
        assert clock.kept(the_site(), "clock").count(" ") == 1


def test_the_board_says_it_to_everybody_and_a_coordinator_answers_there(sign_in, clock):
    clock.forward(minutes=-30)
    edda, maren = sign_in("edda"), sign_in("maren")
    assert "clock was set back" in edda.get("/").text or "moved" in edda.get("/").text
    assert "The clock is right now" not in edda.get("/").text
    assert edda.post("/clock", {"reason": "By the clock of the quay"}).status_code == 403
    refused = maren.post("/clock", {"reason": ""})
    assert (refused.status_code == 422 and "Refused" in refused.text) or "Not saved" in refused.text
    assert maren.post("/clock", {"reason": "By the clock of the quay"}).status_code == 302
    assert 'id="clock"' not in maren.get("/").text
