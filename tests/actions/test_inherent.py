"""What was agreed on at the source: as conditions of a permit, set and put back; and as proposals of the site."""

from dataclasses import replace
from datetime import timedelta

import pytest

from demo_acts import HAZARD, MOMENT, PASSWORD, act, element_id, person, the_site
from saying import en
from spinel.actions import (
    assessing,
    gear,
    gear_intervals,
    improvements,
    jobs,
    permit_approval,
    permit_moves,
    permits,
    run_out,
    standing,
    waiting,
)  # fmt: skip
from spinel.actions.board import board
from spinel.actions.expiry import note_expired
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.gear.items import why_not
from spinel.core.permit.place import PLACE
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.risk.opinions import Agreed, HazardMark
from spinel.core.said import say

pytestmark = pytest.mark.usefixtures("open_db")


@pytest.fixture(autouse=True)
def first_look():
    """Each test is the first to look on its day."""
    run_out._LOOKED.clear()


WHY = "The ramp sinks on to the deck while passengers are aboard"
FASTER = say("risk-option-short-delay", tag="F-A1", seconds=0.1)
CONDITION = {"holds": [say("risk-holds-faster")], "sets": ["F-A1"]}
READY = dict.fromkeys(PLACE, "yes")


def agreed_job(title="Tighten a joint"):
    """A job at MC1 of which two people agreed that F-A1 is set faster."""
    job = jobs.start(act("maren"), element_id("MC1"), "retorque", title, "bus")
    jobs.answer(act("maren"), job, jobs.view(the_site(), job).version, HAZARD, "added_hazard", WHY, "bus")
    agree_on(job)
    return job


def agree_on(job):
    asked = assessing.ask(act("maren"), job, [person("wanda"), person("nils")])
    for who in ("wanda", "nils"):
        marks = tuple(HazardMark(hazard=h, severity=3, likelihood=3) for h in ("shock", "arc"))
        assessing.seal(act(who), asked, marks)
    kept = [Agreed(hazard="shock", severity=4, likelihood=3, controls={}, agreed=True, note=""),
            Agreed(hazard="arc", severity=3, likelihood=3, controls={}, agreed=True, note="")]  # fmt: skip
    version = assessing.of_job(the_site(), job, act("maren").actor).version
    assessing.agree(act("maren"), asked, version, kept, 2.13, FASTER, CONDITION)


def view(number):
    return permits.view(the_site(), number, MOMENT)


def go(number, move, who, *more):
    getattr(permit_approval if hasattr(permit_approval, move) else permit_moves, move)(
        act(who), number, view(number).version, *more
    )


def issued(title="Tighten a joint", worker="wanda"):
    number = permits.draft(act("maren"), agreed_job(title))
    plan = {**vars(permits.plan_of(view(number))), "workers": (person(worker),), "in_charge": person("sorcha"),
            "attendants": (person("jory"),), "window_start": MOMENT, "window_end": act("maren", hours=2).now}  # fmt: skip
    permits.edit(act("maren"), number, view(number).version, permits.Plan(**plan))
    go(number, "submit", "maren")
    content = view(number).content_hash
    go(number, "approve", "ruth", content, PASSWORD)
    go(number, "issue", "tavi", content, PASSWORD, MOMENT, act("maren", hours=2).now)
    there = [person(w) for w in (worker, "jory", "sorcha")]
    go(number, "brief", "sorcha", list(NORTH_AMERICAN.briefing), there, "Nothing unusual")
    go(number, "state", worker, list(NORTH_AMERICAN.statements))
    go(number, "attend", "jory")
    go(number, "vouch", "piet")
    return number


def accept(number):
    go(number, "accept", "sorcha", view(number).content_hash, READY, "4")


def device():
    here = the_site().as_it_is()
    return here.device(here.network.by_tag["F-A1"])


def test_what_was_agreed_is_a_condition_and_lowers_no_figure():
    number = issued()
    content = view(number).content
    assert [en(c["what"]) for c in content["conditions"]] == ["F-A1 with 0.1 s short-time delay"]
    assert "Set F-A1" in en(content["steps"][0]) and "Put F-A1 back" in en(content["steps"][-1])
    assert content["hazard"]["energy_cal_cm2"] > 2.13
    # and what would be closed again, with the figures of whoever stands there
    again = {r["tag"]: r["energy_cal_cm2"] for r in content["reenergizing"]}
    assert again["F-A1"] == the_site().as_it_is().study.hazard(element_id("F-A1")).energy_cal_cm2


def test_nothing_begins_before_it_is_set_and_nothing_is_over_before_it_is_put_back():
    number = issued()
    with pytest.raises(Refusal, match="F-A1 is not set"):
        accept(number)
    for seen_by, how in ((None, "Read on its display"), (person("bram"), "Read on its display"), (9999, "Read on it")):
        with pytest.raises(InputError) as error:
            go(number, "set_device", "bram", "F-A1", seen_by, how)
        assert error.value.field == "seen_by"
    with pytest.raises(InputError, match="tag"):
        go(number, "set_device", "bram", "F-A2", person("ivo"), "Read on its display")
    with pytest.raises(NotAllowed):
        go(number, "set_device", "wanda", "F-A1", person("ivo"), "Read on its display")
    before = device()
    go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    assert device().set_for == number and device().position == before.position and device().since == before.since
    accept(number)
    # not while somebody works under it
    with pytest.raises(Refusal, match="life of a permit"):
        go(number, "put_back", "bram", "F-A1", person("ivo"), "0.3 s again")
    go(number, "hand_back", "sorcha", "Covers on", "4")
    with pytest.raises(Refusal, match="still set"):
        go(number, "close", "maren", "no", "Nothing new")
    go(number, "put_back", "bram", "F-A1", person("ivo"), "0.3 s read on its display")
    assert device().set_for == ""
    go(number, "close", "maren", "no", "Nothing new")
    assert view(number).state == "closed"


def test_what_another_works_by_stays_set_and_what_is_put_back_is_so_for_everybody():
    first, second = issued(), issued("Another joint", worker="nils")
    for number in (first, second):
        go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
        accept(number)
    go(first, "hand_back", "sorcha", "Covers on", "4")
    with pytest.raises(Refusal, match=f"set for {second} too"):
        go(first, "put_back", "bram", "F-A1", person("ivo"), "0.3 s again")
    # ran out, and nobody has said that its people are back
    late = act("bram", hours=3)
    assert permits.view(the_site(), second, late.now).shown_state == "expired"
    with pytest.raises(Refusal, match=f"set for {second} too"):
        permit_moves.put_back(late, first, view(first).version, "F-A1", person("ivo"), "0.3 s again")
    go(second, "suspend", "edda", "Water is coming in")
    go(first, "put_back", "bram", "F-A1", person("ivo"), "0.3 s read on its display")
    assert device().set_for == "" and view(second).set_now == frozenset()
    # the second goes on only once it is set for it anew
    go(second, "resume", "maren", "A hose, now closed")
    with pytest.raises(Refusal, match="F-A1 is not set"):
        accept(second)
    go(second, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    accept(second)
    go(second, "hand_back", "sorcha", "Covers on", "4")
    with pytest.raises(Refusal, match="still set"):
        go(second, "close", "maren", "no", "Nothing new")
    assert verify(the_site().path).found == ()


def test_of_a_suspended_permit_nothing_is_put_back_while_somebody_may_stand_there():
    number = issued()
    go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    accept(number)
    go(number, "suspend", "edda", "Smoke at the door")
    with pytest.raises(Refusal, match="nobody has said that its place is empty"):
        go(number, "put_back", "bram", "F-A1", person("ivo"), "0.3 s again")
    go(number, "clear", "sorcha", "All out, covers on")
    go(number, "put_back", "bram", "F-A1", person("ivo"), "0.3 s again")
    assert device().set_for == ""


def test_asking_anew_takes_no_condition_back_and_one_agreed_later_is_not_passed_over():
    number = issued()
    job = view(number).job
    assessing.ask(act("maren"), job, [person("wanda"), person("nils")])
    assert assessing.conditions(the_site(), jobs.stored(job))
    # a permit that was written before anybody agreed on a setting
    early = jobs.start(act("maren"), element_id("MC1"), "retorque", "Tighten one more", "bus")
    jobs.answer(act("maren"), early, jobs.view(the_site(), early).version, HAZARD, "added_hazard", WHY, "bus")
    permit = permits.draft(act("maren"), early)
    plan = {**vars(permits.plan_of(view(permit))), "workers": (person("wanda"),), "in_charge": person("sorcha"),
            "attendants": (person("jory"),), "window_start": MOMENT, "window_end": act("maren", hours=2).now}  # fmt: skip
    permits.edit(act("maren"), permit, view(permit).version, permits.Plan(**plan))
    agree_on(early)
    with pytest.raises(Refusal, match="after it was written"):
        go(permit, "submit", "maren")
    permits.edit(act("maren"), permit, view(permit).version, permits.plan_of(view(permit)))
    go(permit, "submit", "maren")
    assert view(permit).to_set == ("F-A1",)


def test_a_permit_that_was_suspended_while_set_still_owes_the_way_back():
    number = issued()
    go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    go(number, "suspend", "edda", "Smoke at the door")
    with pytest.raises(Refusal, match="still set"):
        go(number, "cancel", "maren", "No longer needed")
    go(number, "put_back", "tavi", "F-A1", person("ivo"), "0.3 s read on its display")
    go(number, "cancel", "maren", "No longer needed")


def test_a_permit_that_ran_out_before_anybody_accepted_it_still_owes_the_way_back():
    """It is cancelled by itself; what was set for it is set all the same, is on the board, and can be put back."""
    number = issued()
    go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    late = MOMENT + timedelta(hours=3)
    assert number in note_expired(the_site(), late)
    assert permits.view(the_site(), number, late).state == "cancelled"
    assert [(e.tag, n) for e, n in board(the_site(), late).set_for] == [("F-A1", number)]
    permit_moves.put_back(
        act("bram", hours=3), number, view(number).version, "F-A1", person("ivo"), "0.3 s read on its display"
    )
    assert board(the_site(), late).set_for == ()
    with pytest.raises(InputError):
        permit_moves.put_back(act("bram", hours=3), number, view(number).version, "F-A1", person("ivo"), "Once more")


def test_what_a_setting_is_says_nothing_of_where_a_device_stands():
    """The rules of switching see the same device before and after: known as it was, checked as it was."""
    number, before = issued(), device()
    proofs = the_site().as_it_is().field.proofs
    go(number, "set_device", "bram", "F-A1", person("ivo"), "0.1 s read on its display")
    after = device()
    assert replace(after, set_for="") == before and the_site().as_it_is().field.proofs == proofs


def propose(job="J-0015", owner="ruth", days=10, cost="A day's wage", **changes):
    due = the_site().as_it_is().day(MOMENT) + timedelta(days=days)
    given = {"before": 8.0, "after": 2.0, **changes}
    return improvements.propose(act("maren"), job, FASTER, CONDITION["holds"], given["before"], given["after"], cost,
                             person(owner), due)  # fmt: skip


def test_an_improvement_has_an_owner_a_day_and_an_end():
    number = propose()
    found = next(b for b in improvements.listed(the_site()) if b.number == number)
    assert (found.saved, found.owner, found.state) == (6.0, the_site().names()[person("ruth")], "proposed")
    mine = waiting.for_person(the_site(), act("ruth").actor, board(the_site(), MOMENT), MOMENT.date())
    assert ("improvement", number) in [(w.kind, w.number) for w in mine]
    with pytest.raises(NotAllowed):
        improvements.decide(act("wanda"), number, 1, "accepted", "We want it")
    with pytest.raises(Refusal, match="life of an improvement"):
        improvements.decide(act("ruth"), number, 1, "done", "Already so")
    improvements.decide(act("ruth"), number, 1, "accepted", "Ordered for spring")
    with pytest.raises(Stale):
        improvements.decide(act("maren"), number, 1, "done", "Set by the maker")
    improvements.decide(act("maren"), number, 2, "done", "Set by the maker")
    mine = waiting.for_person(the_site(), act("ruth").actor, board(the_site(), MOMENT), MOMENT.date())
    assert number not in [w.number for w in mine]


def test_what_cannot_be_proposed():
    for field, change in (("due", {"days": -1}), ("cost", {"cost": ""})):
        with pytest.raises(InputError) as error:
            propose(**change)
        assert error.value.field == field
    with pytest.raises(NotAllowed):
        improvements.propose(act("wanda"), "J-0015", FASTER, [], 8.0, 2.0, "Nothing", person("ruth"), MOMENT.date())
    unknown = propose(before=None)
    assert next(b for b in improvements.listed(the_site()) if b.number == unknown).saved is None


def test_an_interval_made_shorter_suspends_what_an_item_was_given_for():
    number = issued()
    day = the_site().as_it_is().day(MOMENT)
    worn = next(
        i for i in gear.everything(the_site())
        if i.kind_id == "gloves" and not i.holder and not i.owner and i.tested and not why_not(i, day)
        and (day - i.tested).days > 31
    )  # fmt: skip
    gear.issue(act("maren"), worn.number, "wanda", number, "")
    assert run_out.note_run_out(the_site(), MOMENT) == [] and view(number).state == "issued"
    gear_intervals.shorten(act("maren"), "gloves", 1, "Salt air")
    assert view(number).state == "suspended" and worn.number in en(view(number).suspended_because)


def test_somebody_who_may_not_any_more_stops_the_permit_at_the_first_look_of_the_hour(monkeypatch):
    number = issued()
    assert run_out.note_run_out(the_site(), MOMENT) == []
    known = standing.need

    def over(here, person_id, *rest):
        if person_id == person("wanda"):
            raise Refusal("qualified", "Wanda Keogh held it until yesterday", "Ask somebody else")
        known(here, person_id, *rest)

    monkeypatch.setattr(standing, "need", over)
    # whatever withdraws it sooner does so in its own act
    assert run_out.note_run_out(the_site(), MOMENT) == []
    assert number in run_out.note_run_out(the_site(), MOMENT + timedelta(hours=1))
    assert view(number).state == "suspended" and "Wanda Keogh" in en(view(number).suspended_because)


def test_work_that_begins_later_is_asked_about_on_its_own_day(monkeypatch):
    """Somebody who may only from tomorrow on is no reason to stop today what begins tomorrow."""
    number = issued()
    known = standing.need
    asked = []

    def noted(here, person_id, name, task, kind, day):
        asked.append(day)
        known(here, person_id, name, task, kind, day)

    monkeypatch.setattr(standing, "need", noted)
    begins = the_site().as_it_is().day(view(number).window_start)
    run_out.note_run_out(the_site(), MOMENT - timedelta(days=3))
    assert begins in asked and all(day >= the_site().as_it_is().day(MOMENT - timedelta(days=3)) for day in asked)
    assert view(number).state == "issued"


def test_what_is_proposed_stands_at_the_place_that_was_computed():
    """Figures of a device that is closed again are the device's, not those of the equipment that comes alive."""
    due = the_site().as_it_is().day(MOMENT) + timedelta(days=9)
    number = improvements.propose(
        act("maren"), "J-0015", FASTER, [], 28.0, 9.0, "Nothing", person("ruth"), due, element_id("F-A1")
    )
    found = next(b for b in improvements.listed(the_site()) if b.number == number)
    assert (found.tag, found.element_id, found.job) == ("F-A1", element_id("F-A1"), "J-0015")
