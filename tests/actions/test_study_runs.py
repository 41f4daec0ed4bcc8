"""Studies asked for, kept, cancelled and signed; and what becomes of their findings."""

import json
from dataclasses import replace
from datetime import date, timedelta

import pytest

from demo_acts import MOMENT, act, element_id, person, the_site
from saying import en
from spinel.actions import draft_publishing, drafting, network, site_settings, study_findings, study_runs, waiting
from spinel.actions.acting import SYSTEM, Act
from spinel.actions.board import board
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.study_result import energy_of
from spinel.demo.site import document
from spinel.store.database import database
from spinel.web.study_running import as_content

pytestmark = pytest.mark.usefixtures("open_db")
DUE = date(2026, 12, 24)


def system(**later):
    return Act(the_site(), SYSTEM, MOMENT + timedelta(**later))


def computed(number):
    run = study_runs.run(the_site(), number)
    text = study_runs.document_of(the_site(), number)
    return as_content(lambda stage: None, text, run.document_hash, run.ceiling_cal_cm2).decode()


def done(draft=""):
    number = study_runs.ask(act("maren"), draft)
    study_runs.keep(system(), number, computed(number))
    return number


def published(change):
    data = document()
    change({e["tag"]: e for e in data["elements"]})
    network.publish(act("maren"), json.dumps(data))


def listed():
    return study_findings.listed(the_site(), act("maren").at)


def test_a_study_belongs_to_its_document_and_says_when_it_is_out_of_date():
    first = study_runs.latest(the_site())
    assert first.current and first.signed_by == "Tavi Lindgren"
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    assert study_runs.latest(the_site()).outdated == ("network",)
    assert [f.kind for f in listed() if f.kind == "outdated"] == ["outdated"]
    number = done()
    latest = study_runs.latest(the_site())
    assert latest.number == number and latest.current and not [f for f in listed() if f.kind == "outdated"]
    assert study_runs.before(the_site(), number).number == first.number
    # the old result stays, and says what it said
    old, new = (study_runs.result(the_site(), r.result_hash) for r in (first, latest))
    worst = [max(energy_of(r) or 0 for r in x.rows) for x in (old, new)]
    assert worst[0] > 51 > 38 > worst[1]
    site_settings.change(act("maren"), "ceiling_cal_cm2", "8", "Our suits are rated 8")
    assert study_runs.latest(the_site()).outdated == ("ceiling",)


def test_the_same_asked_twice_is_one_and_the_queue_has_an_end(monkeypatch):
    monkeypatch.setattr(study_runs, "MOST_ASKED", 1)
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    number = study_runs.ask(act("maren"))
    assert study_runs.ask(act("tavi")) == number
    published(lambda t: t["52-T2"]["curve"].update(dial=0.9))
    with pytest.raises(Refusal):
        study_runs.ask(act("maren"))
    study_runs.cancel(act("maren"), number, 1)
    assert study_runs.run(the_site(), number).state == "cancelled"
    with pytest.raises(Refusal):
        study_runs.cancel(act("maren"), number, 2)
    # what comes late for it is not kept
    assert study_runs.latest(the_site()).number != number
    study_runs.keep(system(), number, computed(number))
    assert study_runs.run(the_site(), number).state == "cancelled"


def test_a_result_of_another_document_is_never_kept_for_it():
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    number = study_runs.ask(act("maren"))
    with pytest.raises(ValueError, match="another study"):
        study_runs.keep(system(), number, study_text())
    assert study_runs.run(the_site(), number).state == "asked"
    study_runs.fail(system(), number, "out of memory")
    assert study_runs.run(the_site(), number).because == "out of memory"


def study_text():
    from spinel.store import studies

    with the_site().connection():
        return studies.result(study_runs.latest(the_site()).result_hash)


def test_a_draft_is_studied_as_it_stood():
    number = drafting.begin(act("maren"))

    def faster(sheet):
        next(e for e in sheet.document["elements"] if e["tag"] == "52-T2")["curve"]["dial"] = 0.8
        return "dial"

    drafting.edit(act("maren"), number, 0, faster)
    asked = study_runs.ask(act("maren"), number)
    text = study_runs.document_of(the_site(), asked)
    drafting.edit(
        act("maren"),
        number,
        1,
        lambda s: next(e for e in s.document["elements"] if e["tag"] == "52-T2")["curve"].update(dial=0.5) or "d",
    )
    assert study_runs.document_of(the_site(), asked) == text and '"dial":0.8' in text.replace(" ", "")
    study_runs.keep(system(), asked, computed(asked))
    run = study_runs.run(the_site(), asked)
    assert run.draft == number and run.revision == 0 and study_runs.latest(the_site()).number != asked
    with pytest.raises(Refusal):
        study_runs.sign(act("tavi"), asked, run.version, run.result_hash, "PE 1")
    with pytest.raises(NotFound):
        study_runs.ask(act("maren"), "ND-9999")
    assert draft_publishing.differs(the_site(), number)


def test_who_signs_answers_for_the_content_and_nothing_of_it_changes_then():
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    number = done()
    run = study_runs.run(the_site(), number)
    with pytest.raises(NotAllowed):
        study_runs.sign(act("nils"), number, run.version, run.result_hash, "PE 1")
    with pytest.raises(Stale):
        study_runs.sign(act("tavi"), number, run.version, "0" * 64, "PE 1")
    with pytest.raises(InputError):
        study_runs.sign(act("tavi"), number, run.version, run.result_hash, " ")
    study_runs.sign(act("tavi"), number, run.version, run.result_hash, "PE 40-1187")
    again = study_runs.run(the_site(), number)
    assert (again.signed_by, again.licence) == ("Tavi Lindgren", "PE 40-1187")
    with pytest.raises(Refusal):
        study_runs.sign(act("maren"), number, again.version, run.result_hash, "PE 2")
    with the_site().connection():
        for statement in ("UPDATE study_run SET licence = 'x' WHERE signed_at <> ''",
                          "UPDATE study_run SET result_hash = '' WHERE signed_at <> ''",
                          "UPDATE study_result SET content = '{}'", "DELETE FROM study_result"):  # fmt: skip
            with pytest.raises(Exception, match=r"fixed|CHECK"):
                database.execute_sql(statement)
    assert verify(the_site().path).found == ()


@pytest.mark.parametrize("login", ["nils", "ivo", "edda", "sorcha"])
def test_whoever_is_no_coordinator_runs_and_cancels_none(login):
    with pytest.raises(NotAllowed):
        study_runs.ask(act(login))
    with pytest.raises(NotAllowed):
        study_runs.cancel(act(login), "S-0001", 1)


def test_a_finding_is_given_closed_and_found_again():
    found = next(f for f in listed() if f.kind == "order" and not f.number)
    number = study_findings.give(act("maren"), found.name, 0, person("bram"), DUE)
    assert (number, DUE) in study_findings.owned(the_site(), person("bram"))
    now = board(the_site(), MOMENT)
    from spinel.actions import people

    me = people.actor(the_site(), person("bram"))
    assert any(
        w.kind == "finding" and w.number == number for w in waiting.for_person(the_site(), me, now, MOMENT.date())
    )
    with pytest.raises(NotAllowed):
        study_findings.close(act("nils"), number, 1, "mended", "We set it otherwise")
    study_findings.close(act("bram"), number, 1, "mended", "We set it otherwise")
    seen = next(f for f in listed() if f.number == number)
    assert not seen.open and seen.note == "We set it otherwise"
    with pytest.raises(Refusal):
        study_findings.close(act("maren"), number, 2, "mended", "Once more please")
    # a later study that finds it still opens it again
    published(lambda t: t["P-21"].update(name="Pump of the gate"))
    done()
    published(lambda t: t["MC1-2B"].update(rated_a=160))
    done()
    again = next(f for f in listed() if f.number == number)
    assert again.open and again.again
    study_findings.give(act("maren"), found.name, again.version, person("nils"), DUE)
    assert next(f for f in listed() if f.number == number).owner == "Nils Abara"


def test_what_was_accepted_opens_again_when_it_is_worse():
    found = next(f for f in listed() if f.kind == "slow")
    number = study_findings.give(act("maren"), found.name, 0, person("maren"), DUE)
    study_findings.close(act("maren"), number, 1, "accepted", "The utility clears it, its letter is due")
    assert not next(f for f in listed() if f.number == number).open
    published(lambda t: t["U-1"].update(fault_mva_max=500))
    done()
    worse = next(f for f in listed() if f.number == number)
    assert worse.energy_cal_cm2 > found.energy_cal_cm2 and worse.open and worse.again


@pytest.mark.parametrize("kind", ["no_figure", "ceiling"])
def test_what_may_hurt_is_mended_and_never_accepted(kind):
    found = next(f for f in listed() if f.kind == kind and not f.number)
    number = study_findings.give(act("maren"), found.name, 0, person("maren"), DUE)
    with pytest.raises(Refusal):
        study_findings.close(act("maren"), number, 1, "accepted", "We live with it")
    assert next(f for f in listed() if f.number == number).open


def test_giving_is_refused_for_what_is_not_found_for_nobody_and_for_yesterday():
    found = next(f for f in listed() if not f.number)
    with pytest.raises(NotFound):
        study_findings.give(act("maren"), "ceiling nothing", 0, person("maren"), DUE)
    with pytest.raises(InputError):
        study_findings.give(act("maren"), found.name, 0, 9999, DUE)
    with pytest.raises(InputError):
        study_findings.give(act("maren"), found.name, 0, person("maren"), date(2026, 11, 1))
    with pytest.raises(NotAllowed):
        study_findings.give(act("ivo"), found.name, 0, person("maren"), DUE)
    number = study_findings.give(act("maren"), found.name, 0, person("maren"), DUE)
    with pytest.raises(Stale):
        study_findings.give(act("maren"), found.name, 0, person("nils"), DUE)
    with pytest.raises(InputError):
        study_findings.close(act("maren"), number, 1, "gone", "It went away by itself")


def test_the_record_finds_what_a_study_cannot():
    """Five years later by the clock alone; a supply's letter; what is overdue; a walk-down that waits."""
    later = replace(act("maren"), now=MOMENT + timedelta(days=5 * 365 + 3))
    kinds = {f.kind for f in study_findings.listed(the_site(), later.at)}
    assert "old" in kinds and "old" not in {f.kind for f in listed()}
    published(lambda t: t["U-1"].update(basis={"fault_mva_max": {"from": "letter", "on": "2019-03-01"}}))
    assert any(f.kind == "letter" and f.tag == "U-1" for f in listed())
    drafting.begin_for_walk(act("ivo"))
    assert any(f.kind == "walk" for f in listed())
    assert all(en(f.says) and en(f.to_do) for f in listed())
    assert element_id("U-1") in {f.element_id for f in listed()}


def test_what_was_called_mended_and_was_not_is_open_again_by_the_same_study_run_anew():
    """Found by asking what a study says that finds exactly what the last one did."""
    found = next(f for f in listed() if f.kind == "ceiling" and not f.number)
    number = study_findings.give(act("maren"), found.name, 0, person("maren"), DUE)
    study_findings.close(act("maren"), number, 1, "mended", "Somebody says it is set")
    assert not next(f for f in listed() if f.number == number).open
    before = study_runs.latest(the_site()).result_hash
    done()
    assert study_runs.latest(the_site()).result_hash == before
    assert next(f for f in listed() if f.number == number).again
