"""The life of a permit, who may do what, and what changes do to it."""

import copy
import json

import pytest
from peewee import IntegrityError

from demo_acts import DESIGN, HAZARD, MOMENT, PASSWORD, act, actor, element_id, person, the_site
from saying import en
from spinel.actions import (
    board,
    jobs,
    network,
    people,
    permit_approval,
    permit_moves,
    permits,
    qualifying,
    records,
    task_library,
)
from spinel.actions.expiry import note_expired
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.permit.life import STATES
from spinel.core.permit.place import PLACE, check_place
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.site import document
from spinel.store.database import database

pytestmark = pytest.mark.usefixtures("open_db")
WHY = "The ramp sinks on to the deck while passengers are aboard"
ALL = list(NORTH_AMERICAN.briefing)
READY = dict.fromkeys(PLACE, "yes")


def view(number):
    return permits.view(the_site(), number, MOMENT)


def make_draft(element="MC1", task="retorque", workers=("wanda",), **changes):
    job = jobs.start(act("maren"), element_id(element), task, "Tighten a joint", "bus")
    jobs.answer(act("maren"), job, jobs.view(the_site(), job).version, HAZARD, "added_hazard", WHY, "bus")
    number = permits.draft(act("maren"), job)
    plan = permits.plan_of(view(number))
    values = {
        **vars(plan), "workers": tuple(w if isinstance(w, int) else person(w) for w in workers), "in_charge": person("sorcha"),
        "attendants": (person("jory"),), "window_start": MOMENT, "window_end": act("maren", hours=3).now, **changes,
    }  # fmt: skip
    permits.edit(act("maren"), number, view(number).version, permits.Plan(**values))
    return number


def go(number, move, who, *more, **later):
    getattr(permit_approval if hasattr(permit_approval, move) else permit_moves, move)(
        act(who, **later), number, view(number).version, *more
    )


def signed(number, until="accept", workers=("wanda",)):
    """Every step by the right person, up to and including ``until``."""
    content = view(number).content_hash
    window = view(number).window_start, view(number).window_end
    steps = [
        ("submit", "maren", ()), ("approve", "ruth", (content, PASSWORD)), ("issue", "tavi", (content, PASSWORD, *window)),
        ("brief", "sorcha", (ALL, [person(w) for w in (*workers, "jory", "sorcha")], "Nothing unusual")),
        *[("state", w, (list(NORTH_AMERICAN.statements),)) for w in workers],
        ("attend", "jory", ()), ("vouch", "piet", ()), ("accept", "sorcha", (content, READY, "4")),
    ]  # fmt: skip
    for move, who, more in steps:
        go(number, move, who, *more)
        if move == until:
            break
    return number


def test_from_draft_to_closed_every_step_in_the_ledger():
    number = signed(make_draft())
    assert view(number).state == "in_force"
    go(number, "hand_back", "sorcha", "Covers on", "4")
    go(number, "close", "maren", "yes", "Use longer clips")
    acts = [e.act for e in reversed(records.entries(the_site(), subject=f"permit:{number}"))]
    assert acts == [
        "permit drafted", "permit edited", "permit submitted", "permit approved", "permit issued", "permit briefed",
        "permit stated", "permit attended", "permit vouched", "permit accepted", "permit handed back", "permit closed",
    ]  # fmt: skip
    assert records.verify(the_site()).broken_at is None


@pytest.mark.parametrize(
    ("until", "move", "who", "more", "rule"),
    [
        (None, "submit", "edda", (), "who may"),
        ("submit", "approve", "maren", ("HASH", PASSWORD), "who may"),
        ("submit", "approve", "ruth", ("HASH", "wrong password"), "password"),
        ("submit", "approve", "ruth", ("0" * 64, PASSWORD), "a signature covers what was seen"),
        ("submit", "issue", "tavi", ("HASH", PASSWORD, "START", "END"), "life of a permit"),
        ("approve", "issue", "ruth", ("HASH", PASSWORD, "START", "END"), "who may"),
        ("approve", "issue", "tavi", ("HASH", PASSWORD, "START", "LATER"), "issuing may only narrow the window"),
        ("issue", "accept", "sorcha", ("HASH", READY, "4"), "before acceptance"),
        ("issue", "state", "wanda", (list(NORTH_AMERICAN.statements),), "briefing before work"),
        ("issue", "vouch", "piet", (), "briefing before work"),
        ("brief", "state", "nils", (list(NORTH_AMERICAN.statements),), "own statements"),
        ("brief", "accept", "sorcha", ("HASH", READY, "4"), "before acceptance"),
        ("state", "accept", "sorcha", ("HASH", READY, "4"), "before acceptance"),
        ("state", "state", "wanda", (list(NORTH_AMERICAN.statements),), "own statements"),
        ("vouch", "accept", "nils", ("HASH", READY, "4"), "who may"),
        ("accept", "hand_back", "maren", ("left",), "who may"),
        ("accept", "close", "maren", ("no", "nothing"), "life of a permit"),
        ("accept", "cancel", "maren", ("no longer",), "life of a permit"),
        ("accept", "resume", "maren", ("fine again",), "life of a permit"),
    ],
)  # fmt: skip
def test_a_wrong_move_is_refused_by_a_named_rule_and_changes_nothing(until, move, who, more, rule):
    number = make_draft()
    if until:
        signed(number, until)
    before = view(number)
    swap = {"HASH": before.content_hash, "START": before.window_start, "END": before.window_end,
            "LATER": act("maren", hours=4).now}  # fmt: skip
    with pytest.raises(Refusal) as refused:
        go(number, move, who, *[swap.get(m, m) if isinstance(m, str) else m for m in more])
    assert en(refused.value.rule) == rule and refused.value.remedy
    assert view(number) == before


def test_duties_stay_apart():
    """One person with every role may still not approve their own request, issue what they approved, or vouch at work."""
    everything = ["coordinator", "authoriser", "person_in_charge", "worker"]
    people.add_person(act("maren"), "omni", "Omni Everywhere", PASSWORD, everything)
    for task in ("retorque", "test"):
        qualifying.from_elsewhere(
            act("maren"), "omni", [(task, "motor control center")], act("maren", days=30).now.date()
        )
    number = make_draft(workers=("wanda",))
    go(number, "submit", "maren")
    go(number, "approve", "omni", view(number).content_hash, PASSWORD)
    with pytest.raises(NotAllowed, match="approver"):
        go(
            number,
            "issue",
            "omni",
            view(number).content_hash,
            PASSWORD,
            view(number).window_start,
            view(number).window_end,
        )
    worker = make_draft("MC2", workers=("omni",))
    go(worker, "submit", "maren")
    for move, more in (("approve", (view(worker).content_hash, PASSWORD)), ("refuse", ("not safe",))):
        with pytest.raises(NotAllowed, match="worker"):
            go(worker, move, "omni", *more)
    job = jobs.start(act("omni"), element_id("MC1-2B"), "retorque", "Tighten a lug", "bus")
    jobs.answer(act("omni"), job, jobs.view(the_site(), job).version, HAZARD, "added_hazard", WHY, "bus")
    mine = permits.draft(act("omni"), job)
    plan = vars(permits.plan_of(view(mine))) | {"workers": (person("wanda"),), "in_charge": person("sorcha"),
                                                "attendants": (person("jory"),)}  # fmt: skip
    permits.edit(act("omni"), mine, view(mine).version, permits.Plan(**plan))
    go(mine, "submit", "omni")
    with pytest.raises(NotAllowed, match="requester"):
        go(mine, "approve", "omni", view(mine).content_hash, PASSWORD)


def test_qualification_is_per_task_and_class_and_in_date():
    lapsed = make_draft(workers=("bram",))
    with pytest.raises(Refusal, match="Bram Castel has no qualification in date"):
        go(lapsed, "submit", "maren")
    qualifying.from_elsewhere(
        act("maren"), "bram", [("retorque", "motor control center")], act("maren", days=1).now.date()
    )
    go(lapsed, "submit", "maren")


@pytest.mark.parametrize(
    ("changes", "field"),
    [({"workers": ()}, "workers"), ({"in_charge": None}, "in_charge"), ({"keep_out": ""}, "keep_out"),
     ({"practices": ()}, "practices"), ({"workers": ("sorcha",), "attendants": ()}, "attendants")],
)  # fmt: skip
def test_an_incomplete_permit_is_not_submitted(changes, field):
    with pytest.raises(Refusal) as refused:
        go(make_draft(**changes), "submit", "maren")
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("changes", "field"),
    [({"steps": ()}, "steps"), ({"window_end": MOMENT}, "window_end"), ({"workers": (99,)}, "workers"),
     ({"working_distance_mm": 610.0}, "distance_reason"), ({"attendants": "WANDA"}, "attendants"),
     ({"window_end": None}, "window_end")],
)  # fmt: skip
def test_what_cannot_be_kept_is_refused_beside_its_field(changes, field):
    if changes.get("attendants") == "WANDA":
        changes = {"attendants": (person("wanda"),)}
    if changes.get("window_end", 0) is None:
        changes = {"window_end": act("maren", hours=13).now}
    with pytest.raises(InputError) as refused:
        make_draft(**changes)
    assert refused.value.field == field


def test_a_changed_distance_changes_energy_and_needs_a_reason():
    number = make_draft(working_distance_mm=610.0, distance_reason="The lug is behind a deep trough")
    h = view(number).content["hazard"]
    assert h["working_distance_mm"] == 610 and h["standard_distance_mm"] == 455
    assert h["energy_cal_cm2"] < the_site().as_it_is().study.hazard(element_id("MC1")).energy_cal_cm2


def test_changed_content_voids_signatures_and_reverting_does_not_revive_them():
    number = signed(make_draft(), "approve")
    first = view(number)
    plan = permits.plan_of(first)
    assert permits.edit(act("maren"), number, first.version, plan) is True
    after = view(number)
    assert after.state == "draft" and after.content_hash != first.content_hash
    assert not after.valid("approved") and [r.kind for r in after.records][-1] == "voided"
    with pytest.raises(Refusal, match="The content changed"):
        go(number, "submit", "maren")
        go(number, "approve", "ruth", first.content_hash, PASSWORD)


def test_an_issued_permit_is_never_edited_not_even_in_the_database():
    from peewee import IntegrityError

    from spinel.store.database import database

    number = signed(make_draft(), "issue")
    with pytest.raises(Refusal, match="to edit a permit"):
        permits.edit(act("maren"), number, view(number).version, permits.plan_of(view(number)))
    with pytest.raises(IntegrityError, match="never edited"):
        database.execute_sql("UPDATE permit SET content = '{}' WHERE number = ?", (number,))


def test_two_people_on_one_permit_the_second_is_told_and_nothing_is_lost():
    number = make_draft()
    version = view(number).version
    plan = permits.plan_of(view(number))
    permits.edit(act("maren"), number, version, plan)
    with pytest.raises(Stale, match="Maren Oduya"):
        permits.edit(act("tavi"), number, version, plan)


def test_a_repeated_request_is_done_once():
    number = make_draft()
    version = view(number).version
    for _ in range(3):
        permit_approval.submit(act("maren", request_id="0123456789abcdef"), number, version)
    assert [r.kind for r in view(number).records].count("submitted") == 1
    job = jobs.start(act("maren", request_id="fedcba9876543210"), element_id("MC1"), "test", "Look twice", "bus")
    assert (
        jobs.start(act("maren", request_id="fedcba9876543210"), element_id("MC1"), "test", "Look twice", "bus") == job
    )


def test_an_approval_whose_answer_was_lost_may_be_sent_again():
    number = signed(make_draft(), "submit")
    seen = view(number)
    for _ in range(2):
        again = act("ruth", request_id="lost-answer-approve")
        permit_approval.approve(again, number, seen.version, seen.content_hash, PASSWORD)
    window = seen.window_start, seen.window_end
    for _ in range(2):
        again = act("tavi", request_id="lost-answer-issue00")
        permit_approval.issue(again, number, seen.version + 1, seen.content_hash, PASSWORD, *window)
    assert [r.kind for r in view(number).records][-2:] == ["approved", "issued"]


def test_people_are_put_to_work_only_in_their_roles():
    for changes in ({"workers": ("jory",), "attendants": ()}, {"in_charge": person("maren")}):
        with pytest.raises(InputError, match="role for it"):
            make_draft(**changes)
    number = signed(make_draft())
    with pytest.raises(InputError, match="workers who join"):
        go(number, "brief", "sorcha", ALL, [person("edda")], "a visitor")


def test_expiry_is_computed_seen_once_and_never_extended():
    accepted, waiting = signed(make_draft()), signed(make_draft("MC2"), "issue")
    later = act("maren", hours=4).now
    assert permits.view(the_site(), accepted, later).shown_state == "expired" and view(accepted).state == "in_force"
    assert {accepted, waiting} <= set(note_expired(the_site(), later))
    assert note_expired(the_site(), later) == []
    # a clock that is set back revives nothing: not on its page, in the strip, on the board, or in what is found
    assert view(accepted).shown_state == "expired" and note_expired(the_site(), MOMENT) == []
    assert next(t for t in board.strip(the_site(), MOMENT).taps if t.number == accepted).late
    assert next(d for d in board.board(the_site(), MOMENT).due if d.permit.number == accepted).late
    assert "expired" in en(records.find(the_site(), accepted, MOMENT)[0][0].detail).lower()
    with pytest.raises(IntegrityError, match="never runs again"):
        database.execute_sql("UPDATE permit SET over = 0 WHERE number = ?", (accepted,))
    assert view(waiting).state == "cancelled" and view(accepted).state == "in_force"
    assert [e.actor for e in records.entries(the_site(), subject=f"permit:{accepted}", act="permit expired")] == [
        "system"
    ]
    for move, more in (("suspend", ("late",)), ("brief", (ALL, [person("wanda")], "again"))):
        if move == "brief":
            with pytest.raises(Refusal, match="run out"):
                go(accepted, move, "sorcha", *more, hours=4)
    go(accepted, "hand_back", "sorcha", "Everybody out", "4", hours=4)


def test_suspended_work_resumes_only_with_acceptance_anew():
    number = signed(make_draft())
    go(number, "suspend", "edda", "smell of burning")
    assert view(number).suspended_because == "smell of burning"
    with pytest.raises(Refusal):
        go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
    with pytest.raises(Refusal, match="People worked under"):
        go(number, "cancel", "maren", "never mind")
    go(number, "resume", "maren", "a heater nearby, switched off")
    assert view(number).state == "issued"
    go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
    assert view(number).state == "in_force"


def test_a_worker_who_comes_later_is_briefed_signs_and_is_vouched_for():
    number = signed(make_draft())
    go(number, "brief", "sorcha", ALL, [person("nils")], "joins for the last bolt")
    seen = view(number)
    assert person("nils") in seen.roster and not seen.stated(person("nils"))
    assert len(permit_moves.waiting_for(seen)) == 2
    go(number, "state", "nils", list(NORTH_AMERICAN.statements))
    go(number, "vouch", "piet")
    assert permit_moves.waiting_for(view(number)) == []
    with pytest.raises(Refusal, match="no qualification"):
        go(number, "brief", "sorcha", ALL, [person("bram")], "joins too")


def slower():
    doc = copy.deepcopy(document())
    feeder = next(e for e in doc["elements"] if e["tag"] == "F-A1")
    feeder["curve"]["short_delay_s"] = 0.5
    return json.dumps(doc)


def test_a_revision_that_makes_figures_worse_suspends_and_says_why():
    force, draft_only, approved = signed(make_draft()), make_draft("MC1-4A"), signed(make_draft("MC1-2B"), "approve")
    elsewhere = signed(make_draft("MC2", workers=("nils",)), workers=("nils",))
    number, touched = network.publish(act("maren"), slower())
    assert {force, approved} <= set(touched) and elsewhere not in touched and draft_only not in touched
    assert view(force).state == "suspended" and "incident energy: was" in en(view(force).suspended_because)
    assert f"network revision {number}" in en(view(force).suspended_because)
    assert view(approved).state == "draft" and not view(approved).valid("approved")
    assert view(elsewhere).state == "in_force"
    with pytest.raises(Refusal, match="Incident energy"):
        go(force, "resume", "maren", "it will be fine")


def test_a_revision_that_makes_figures_better_leaves_permits_alone():
    number = signed(make_draft())
    doc = copy.deepcopy(document())
    next(e for e in doc["elements"] if e["tag"] == "F-A1")["curve"]["short_delay_s"] = 0.1
    frozen = view(number).content
    network.publish(act("maren"), json.dumps(doc))
    assert view(number).state == "in_force" and view(number).content == frozen
    new = make_draft("MC1-2B")
    assert view(new).content["hazard"]["energy_cal_cm2"] < frozen["hazard"]["energy_cal_cm2"]


def test_equipment_that_vanishes_suspends_its_permit():
    number = signed(make_draft("MC2-2B"))
    doc = copy.deepcopy(document())
    gone = {"MC2-2B", "W-P32", "P-32"}
    doc["elements"] = [e for e in doc["elements"] if e["tag"] not in gone]
    doc["nodes"] = [n for n in doc["nodes"] if n["id"] not in ("n-22b", "n-p32")]
    network.publish(act("maren"), json.dumps(doc))
    assert "no longer in the network" in en(view(number).suspended_because)


def test_anyone_may_report_what_they_found_and_permits_around_it_stop():
    number = signed(make_draft())
    touched = network.report_found(act("edda"), element_id("MC1-4A"), "open", "It stands open")
    assert number in touched and "MC1-4A was found open, reported by Edda Quist" in en(view(number).suspended_because)
    assert the_site().as_it_is().device(the_site().as_it_is().network.by_tag["MC1-4A"]).position == "open"
    with pytest.raises(InputError):
        network.report_found(act("edda"), element_id("MC1"), "open", "A bus cannot be open")


def test_after_facts_are_answered_anew_an_old_draft_is_not_submitted():
    number = make_draft()
    job = view(number).job
    jobs.answer(act("maren"), job, jobs.view(the_site(), job).version, DESIGN, "infeasible", WHY, "bus")
    with pytest.raises(Refusal, match="answered anew"):
        go(number, "submit", "maren")


def test_a_job_closes_only_after_its_permits():
    number = make_draft()
    job = view(number).job
    with pytest.raises(Refusal, match="has not ended"):
        jobs.close(act("maren"), job, jobs.view(the_site(), job).version, "no", "")
    go(number, "cancel", "maren", "rain")
    with pytest.raises(InputError, match="circuit_changed"):
        jobs.close(act("maren"), job, jobs.view(the_site(), job).version, "", "")
    jobs.close(act("maren"), job, jobs.view(the_site(), job).version, "no", "")
    assert jobs.view(the_site(), job).state == "closed"


def test_copying_an_ended_permit_makes_a_new_draft():
    number = make_draft()
    go(number, "cancel", "maren", "rain")
    new = permits.copy(act("maren"), number)
    assert view(new).state == "draft" and view(new).content["steps"] == view(number).content["steps"]


def test_no_permit_where_the_decision_gives_none():
    job = jobs.start(act("maren"), element_id("T2"), "retorque", "Tighten the bushings", "bus")
    jobs.answer(act("maren"), job, jobs.view(the_site(), job).version, HAZARD, "added_hazard", WHY, "bus")
    with pytest.raises(Refusal, match="ceiling"):
        permits.draft(act("maren"), job)


def test_the_demo_has_a_job_for_every_outcome_and_a_permit_in_many_states():
    outcomes = {j.outcome for j in jobs.lines(the_site())}
    from spinel.core.permit.decision import OUTCOMES

    assert outcomes == set(OUTCOMES)
    shown = {permits.view(the_site(), n, MOMENT).shown_state for j in jobs.lines(the_site()) for n, _ in j.permits}
    assert {"closed", "expired", "in_force", "submitted", "issued"} <= shown
    assert set(STATES) > {s for j in jobs.lines(the_site()) for _, s in j.permits}
    assert actor("edda").roles == {"reader"}


def test_nobody_accepts_a_place_that_is_not_ready():
    """Nothing but yes to every question: a place that is not ready is made so first."""
    number = make_draft()
    signed(number, "vouch")
    for missing in PLACE:
        for answer in ("", "no", "unknown", "Yes"):
            with pytest.raises(InputError) as error:
                go(number, "accept", "sorcha", view(number).content_hash, READY | {missing: answer}, "4")
            assert error.value.field == f"place_{missing}" and view(number).state == "issued"
    go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
    assert view(number).last("accepted").detail["place"] == READY


def test_what_went_in_is_counted_out():
    """Common practice, without source: tools and loose parts are counted in and out, and a difference is explained."""
    number = make_draft()
    signed(number, "vouch")
    for typed in ("", "-1", "4.5", "1000", "٤", "nan", "four"):
        with pytest.raises(InputError) as error:
            go(number, "accept", "sorcha", view(number).content_hash, READY, typed)
        assert error.value.field == "tools_in" and view(number).state == "issued"
    go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
    for out, why, field in (
        ("", "", "tools_out"),
        ("x", "", "tools_out"),
        ("3", "", "tools_why"),
        ("5", "one more", "tools_why"),
    ):
        with pytest.raises(InputError) as error:
            go(number, "hand_back", "sorcha", "Covers on", out, why)
        assert error.value.field == field and view(number).state == "in_force"
    # counted anew when it goes on: what went in the second time is what comes out
    go(number, "suspend", "edda", "Water is coming in")
    go(number, "resume", "maren", "A hose, now closed")
    go(number, "accept", "sorcha", view(number).content_hash, READY, "6")
    go(number, "hand_back", "sorcha", "Covers on", "5", "One lug was built in")
    detail = view(number).last("handed back").detail
    assert (detail["tools_in"], detail["tools_out"], detail["tools_why"]) == (6, 5, "One lug was built in")


def test_whoever_watches_signs_the_briefing_and_nobody_for_them():
    number = make_draft()
    signed(number, "brief")
    assert view(number).owes_attendance() == {person("jory"): "Jory Pell"}
    for who in ("maren", "sorcha", "wanda", "edda"):
        with pytest.raises(Refusal):
            go(number, "attend", who)
    assert any("Jory Pell" in en(said) for said in permit_moves.waiting_for(view(number)))
    go(number, "attend", "jory")
    assert view(number).owes_attendance() == {}
    with pytest.raises(Refusal):
        go(number, "attend", "jory")


def test_what_the_task_asks_of_the_place_is_answered_too():
    """A task with needs of its own keeps them on the permit, and the place is not ready before they are there."""
    number = make_draft()
    needs = view(number).content["task"]
    known = task_library.kept(the_site(), "retorque").task
    assert tuple(needs["place"]) == known.place and tuple(needs["wear"]) == known.wear
    for answers in (READY, READY | {"task": "no"}, READY | {"task": ""}):
        with pytest.raises(InputError, match="place_task"):
            check_place(answers, task_asks=True)
    assert check_place(READY | {"task": "yes"}, task_asks=True)["task"] == "yes"


def test_whoever_is_to_watch_and_was_not_briefed_is_not_passed_over():
    """An attendant who was not at the briefing signs nothing, and without their signature nothing begins."""
    number = make_draft()
    signed(number, "issue")
    go(number, "brief", "sorcha", ALL, [person("wanda"), person("sorcha")], "Nothing unusual")
    go(number, "state", "wanda", list(NORTH_AMERICAN.statements))
    go(number, "vouch", "piet")
    with pytest.raises(Refusal):
        go(number, "attend", "jory")
    with pytest.raises(Refusal, match="Jory Pell"):
        go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
    go(number, "brief", "sorcha", ALL, [person("jory")], "Once more for Jory")
    go(number, "attend", "jory")
    go(number, "accept", "sorcha", view(number).content_hash, READY, "4")
