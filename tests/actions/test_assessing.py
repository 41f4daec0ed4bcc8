"""Opinions given alone: who sees what when, what is fixed, and what an agreement is about."""

import json

import pytest

from demo_acts import act, element_id, person, the_site
from spinel.actions import assessing, jobs, permits, records, site_settings, waiting
from spinel.actions.board import board
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.risk.opinions import Agreed, HazardMark
from spinel.store import database

PEOPLE = ("sorcha", "wanda", "nils")
SECRET = "Water drips from the lamp above the third column"


def marks(likelihood=3, *more):
    return (HazardMark(hazard="shock", severity=4, likelihood=likelihood), HazardMark(hazard="arc", severity=1, likelihood=likelihood),
            *more)  # fmt: skip


@pytest.fixture
def job(open_db):
    return jobs.start(act("maren"), element_id("MC1"), "retorque", "Tighten column 3", "")


@pytest.fixture
def asked(job):
    return assessing.ask(act("maren"), job, [person(p) for p in PEOPLE])


def seen_by(job, login):
    return assessing.of_job(the_site(), job, act(login).actor)


def give(asked, login, *more, likelihood=3):
    assessing.seal(act(login), asked, marks(likelihood, *more))


DAMP = HazardMark(hazard="damp", severity=4, likelihood=4, rungs=("eliminate",), note=SECRET)


def test_nobody_reads_anothers_before_their_own_and_whoever_is_not_asked_reads_none_before_all(job, asked):
    give(asked, "wanda", DAMP)
    assert (
        seen_by(job, "nils").rows is None and seen_by(job, "maren").rows is None and seen_by(job, "edda").rows is None
    )
    assert seen_by(job, "maren").given == ("Wanda Keogh",) and seen_by(job, "maren").waiting == (
        "Sorcha Maddern",
        "Nils Abara",
    )
    assert [r.hazard for r in seen_by(job, "wanda").rows] == ["shock", "arc", "damp"]
    # nor out of the ledger, which everybody may read
    for entry in records.entries(the_site(), subject=f"job:{job}"):
        assert SECRET not in entry.payload and "damp" not in entry.payload
    give(asked, "nils")
    assert seen_by(job, "nils").rows is not None and seen_by(job, "sorcha").rows is None
    give(asked, "sorcha")
    assert seen_by(job, "maren").state == "opened"
    assert {r.hazard: r.alone for r in seen_by(job, "edda").rows}["damp"] == "Wanda Keogh"
    assert verify(the_site().path).found == ()


def test_an_opinion_is_given_once_by_those_who_were_asked(job, asked):
    give(asked, "wanda")
    with pytest.raises(Refusal):
        give(asked, "wanda")
    for login in ("maren", "tavi", "ivo"):
        with pytest.raises(NotAllowed):
            give(asked, login)
    with pytest.raises(InputError):
        assessing.seal(act("nils"), asked, marks()[:1])
    with the_site().connection(), pytest.raises(database.DatabaseError, match="fixed"):
        database.database.execute_sql("UPDATE opinion SET marks = '[]'")


@pytest.mark.parametrize("login", ["ivo", "nils", "edda", "ruth"])
def test_who_leads_asks_opens_and_records(job, asked, login):
    for do in (
        lambda: assessing.ask(act(login), job, [person(p) for p in PEOPLE]),
        lambda: assessing.open_early(act(login), asked, "They went home"),
        lambda: assessing.agree(act(login), asked, 1, [], None),
        lambda: assessing.change_words(act(login), {}, "because"),
    ):
        with pytest.raises(NotAllowed):
            do()


def test_one_alone_is_not_asked_and_one_alone_does_not_open(job, asked):
    for who in ([], ["wanda"], ["wanda", "wanda"]):
        with pytest.raises(InputError):
            assessing.ask(act("maren"), job, [person(p) for p in who])
    give(asked, "wanda")
    with pytest.raises(Refusal):
        assessing.open_early(act("maren"), asked, "Nobody else is here today")
    give(asked, "nils")
    assessing.open_early(act("maren"), asked, "Sorcha is at sea until Monday")
    assert seen_by(job, "maren").state == "opened" and seen_by(job, "maren").waiting == ("Sorcha Maddern",)
    with pytest.raises(Refusal):
        give(asked, "sorcha")


def agreed(job, **more):
    found = []
    for r in seen_by(job, "maren").rows:
        known = {"hazard": r.hazard, "severity": r.worst_severity, "likelihood": r.worst_likelihood, "controls": {},
                 "agreed": True}  # fmt: skip
        found.append(Agreed(**(known | more.get(r.hazard, {}))))
    return found


def test_what_is_agreed_is_about_what_was_seen(job, asked):
    for login in PEOPLE:
        give(asked, login, *([DAMP] if login == "wanda" else []))
    seen = seen_by(job, "maren")
    after = seen.content["energy_cal_cm2"]
    with pytest.raises(InputError):
        assessing.agree(act("maren"), asked, seen.version, agreed(job, damp={"severity": 1}), after)
    with pytest.raises(InputError):
        # a smaller figure without naming what gives it is none
        assessing.agree(act("maren"), asked, seen.version, agreed(job, arc={"severity": 2}), 0.5)
    assessing.agree(
        act("maren"), asked, seen.version, agreed(job, damp={"agreed": False, "note": "seal it or wait?"}), after
    )
    assert seen_by(job, "maren").state == "opened" and seen_by(job, "maren").open_points == ("damp",)
    with pytest.raises(Stale):
        assessing.agree(act("sorcha"), asked, seen.version, agreed(job), after)
    again = seen_by(job, "maren").version
    assessing.agree(act("sorcha"), asked, again, agreed(job), after)
    assert seen_by(job, "edda").state == "agreed" and verify(the_site().path).found == ()


def test_asking_anew_leaves_the_former_with_its_opinions(job, asked):
    give(asked, "wanda", DAMP)
    second = assessing.ask(act("maren"), job, [person(p) for p in ("wanda", "nils")])
    assert second != asked and seen_by(job, "wanda").rows is None
    with pytest.raises(Refusal):
        give(asked, "nils")


def test_worse_figures_than_those_that_they_were_asked_about_are_told(job, asked):
    from spinel.actions import network

    assert not seen_by(job, "maren").worse
    row = json.loads(json.dumps(dict(seen_by(job, "maren").content)))
    assert row["energy_cal_cm2"] is not None
    network.report_found(act("ivo"), element_id("52-TIE"), "closed", "It stands closed")
    now = the_site().as_it_is().study.hazard(element_id("MC1"), row["touches"]).energy_cal_cm2
    assert seen_by(job, "maren").worse is (now is None or now > row["energy_cal_cm2"] * (1 + 1e-9))


def test_it_waits_on_the_board_of_whoever_is_asked_and_of_nobody_else(job, asked):
    def waits(login):
        a = act(login)
        now = board(the_site(), a.now)
        return [w.number for w in waiting.for_person(the_site(), a.actor, now, a.now.date()) if w.kind == "opinion"]

    with the_site().connection():
        assert job in waits("wanda") and job not in waits("maren")
    give(asked, "wanda")
    with the_site().connection():
        assert job not in waits("wanda")


def test_nothing_is_agreed_about_a_job_that_is_another_by_now(job, asked):
    for login in PEOPLE:
        give(asked, login)
    seen = seen_by(job, "maren")
    jobs.not_as_planned(act("nils"), job, "There is a second feed behind the trim")
    with pytest.raises(Refusal):
        assessing.agree(act("maren"), asked, seen.version, agreed(job), seen.content["energy_cal_cm2"])


def test_the_site_words_its_scales(job, asked):
    with pytest.raises(InputError):
        assessing.change_words(act("maren"), {"severity": ["a", "b"]}, "Our own words")
    with pytest.raises(InputError):
        assessing.change_words(act("maren"), {"severity": ["same"] * 5}, "Our own words")
    own = ["first aid", "a week", "a season", "for life", "more than one"]
    assessing.change_words(act("maren"), {"severity": own}, "Our own words")
    assert the_site().setting("risk_words") == {"severity": own}


def test_where_the_site_wants_it_no_permit_goes_on_without_an_agreement(open_db):
    """Asked at submission and once more at issue; as it ships it is only shown."""
    a = act("maren")
    waiting = permits.in_states(the_site(), ("submitted",), a.now)[0]
    site_settings.change(a, "risk_rule", "refused", "After the last audit")
    with the_site().connection(), pytest.raises(Refusal, match="agreed"):
        assessing.need_agreed(the_site(), waiting.job)
    asked = assessing.ask(a, waiting.job, [person("wanda"), person("nils")])
    for login in ("wanda", "nils"):
        give(asked, login)
    with the_site().connection(), pytest.raises(Refusal, match="agreed"):
        assessing.need_agreed(the_site(), waiting.job)
    seen = seen_by(waiting.job, "maren")
    assessing.agree(a, asked, seen.version, agreed(waiting.job), seen.content["energy_cal_cm2"])
    with the_site().connection():
        assessing.need_agreed(the_site(), waiting.job)
        site_settings.change(a, "risk_rule", "named", "Back to showing it")
        assessing.need_agreed(the_site(), "J-0001")


def test_putting_the_voltage_back_is_assessed_by_itself(job, asked):
    """Its own people, its own figure: the device at which whoever closes it can be hurt most."""
    give(asked, "wanda", DAMP)
    again = assessing.ask(act("maren"), job, [person("nils"), person("jory")], assessing.BACK)
    work, back = seen_by(job, "maren"), assessing.of_job(the_site(), job, act("maren").actor, assessing.BACK)
    assert (work.number, back.number) == (asked, again) and work.state == back.state == "open"
    assert back.content["tag"] == "F-A1" and back.content["task"] == "operate"
    here = the_site().as_it_is()
    assert back.content["energy_cal_cm2"] == here.study.hazard(element_id("F-A1")).energy_cal_cm2
    give(again, "nils")
    give(again, "jory")
    assert assessing.of_job(the_site(), job, act("maren").actor, assessing.BACK).state == "opened"
    # what is agreed on the one is nothing of the other
    assert seen_by(job, "maren").state == "open" and work.given == ("Wanda Keogh",)
    assert assessing.conditions(the_site(), jobs.stored(job)) == []


def test_what_is_never_made_dead_has_nothing_to_put_back(open_db):
    battery = jobs.start(act("maren"), element_id("BB-1"), "test", "Measure a cell", "")
    with pytest.raises(Refusal, match="closed again"):
        assessing.ask(act("maren"), battery, [person("nils"), person("jory")], assessing.BACK)


def test_a_setting_is_not_agreed_on_for_putting_the_voltage_back(job):
    again = assessing.ask(act("maren"), job, [person("nils"), person("jory")], assessing.BACK)
    give(again, "nils")
    give(again, "jory")
    seen = assessing.of_job(the_site(), job, act("maren").actor, assessing.BACK)
    kept = [Agreed(hazard=h, severity=5 if h == "shock" else 3, likelihood=5, controls={}, agreed=True, note="")
            for h in ("shock", "arc")]  # fmt: skip
    with pytest.raises(InputError, match="option"):
        assessing.agree(act("maren"), again, seen.version, kept, 2.0, "faster", {"holds": [], "sets": ["F-A1"]})
