"""A program from the job to the job's end by the people whose acts they are; and everything that must be refused."""

import pytest

from demo_acts import act, element_id, person, the_site
from saying import en
from spinel.actions import (
    board,
    box,
    console,
    gear,
    jobs,
    keeping,
    network,
    practice,
    program_moves,
    program_view,
    programs,
    records,
)
from spinel.actions.as_found import Moved
from spinel.actions.locks import lock_numbers, locks_on
from spinel.core import stored as shapes
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from switching_acts import confirm, nobody_there, readings, ready, run, start_job, under_way

pytestmark = pytest.mark.usefixtures("open_db")


@pytest.fixture
def isolated():
    number = under_way()
    seen = program_view.view(the_site(), number)
    assert seen.state == "done"
    return seen.job, number


def test_the_whole_walk_from_the_job_to_its_end(isolated):
    job, number = isolated
    site = the_site().as_it_is()
    assert {site.state_of(site.network.by_tag[t]) for t in ("T1",)} == {"proved"}
    # the state of the worse end is shown; the primary is grounded
    assert site.liveness.nodes["n-t1p"] == "grounded" and site.liveness.nodes["n-t1s"] == "proved"
    assert site.device(site.network.by_tag["52-A"]).locks == (number,)
    with pytest.raises(Refusal, match="of this job has not ended"):
        programs.draft(act("maren"), job)
    with pytest.raises(Refusal, match="Nobody has taken over"):
        box.hang(act("nils"), number, "N-7")
    with pytest.raises(NotAllowed):
        box.take(act("nils"), number)
    box.take(act("sorcha"), number)
    box.hang(act("nils"), number, "N-7")
    with pytest.raises(InputError, match="does not hang there"):
        box.hang(act("sorcha"), number, "N-7")
    # whoever is exposed hangs a lock, qualified or not, whatever their role
    for login, lock in (("wanda", "W-3"), ("edda", "E-1")):
        box.hang(act(login), number, lock)
        box.remove(act(login), number)
    with pytest.raises(Refusal, match="Still on the box"):
        box.complete(act("sorcha"), number)
    restoration = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    seen = program_view.view(the_site(), restoration)
    # the lock on the box stands in the way of every ground, block and lock
    assert en(seen.first_broken.rule) == "personal locks come off first"
    with pytest.raises(Refusal, match="is draft"):
        jobs.close(act("maren"), job, jobs.view(the_site(), job).version, "no", "nothing")
    box.remove(act("nils"), number)
    with pytest.raises(Refusal, match="not declared complete"):
        program_moves.check(act("ivo"), restoration, seen.version, seen.content_hash)
        fresh = program_view.view(the_site(), restoration)
        program_moves.release(act("tavi"), restoration, fresh.version, fresh.content_hash)
    box.complete(act("sorcha"), number)
    fresh = program_view.view(the_site(), restoration)
    program_moves.release(act("tavi"), restoration, fresh.version, fresh.content_hash)
    console.start(act("ivo"), restoration, program_view.view(the_site(), restoration).version, person("bram"))
    assert run(restoration).state == "done"
    after = the_site().as_it_is()
    assert after.state_of(after.network.by_tag["T1"]) == "live" and not after.field.grounds
    assert not any(number in (*d.locks, *d.tags) for d in after.now.values())
    jobs.close(act("maren"), job, jobs.view(the_site(), job).version, "no", "Bay 1 needs a light")
    assert jobs.view(the_site(), job).state == "closed" and records.verify(the_site()).broken_at is None


def test_duties_are_apart_and_qualification_is_asked_for():
    number = programs.draft(act("tavi"), start_job())
    seen = program_view.view(the_site(), number)
    with pytest.raises(NotAllowed, match="writer"):
        program_moves.check(act("tavi"), number, seen.version, seen.content_hash)
    with pytest.raises(Refusal, match="no qualification"):
        program_moves.check(act("maren"), number, seen.version, seen.content_hash)
    with pytest.raises(Refusal, match="changed after you opened"):
        program_moves.check(act("ivo"), number, seen.version, "0" * 64)
    program_moves.check(act("ivo"), number, seen.version, seen.content_hash)
    for login in ("ivo", "sorcha"):
        with pytest.raises(NotAllowed):
            program_moves.release(act(login), number, 2, seen.content_hash)
    nobody_there()
    program_moves.release(act("tavi"), number, 2, seen.content_hash)
    for operator, why in (("nils", "a switching operator"), ("ivo", "a switching operator")):
        with pytest.raises(InputError, match=why):
            console.start(act("ivo"), number, 3, person(operator))
    with pytest.raises(NotAllowed):
        console.start(act("maren"), number, 3, person("bram"))
    console.start(act("ivo"), number, 3, person("bram"))
    with pytest.raises(NotAllowed, match="directs this program"):
        confirm(number, "tavi")


def test_an_edit_is_judged_at_once_and_voids_the_check():
    number = programs.draft(act("maren"), start_job("MC2"))
    steps = program_view.view(the_site(), number).steps
    lock = next(i for i, s in enumerate(steps) if s.kind == "lock") + 1
    before = records.head(the_site())
    for change, rule in (
        (lambda v: program_moves.remove_step(act("maren"), number, v, lock), "isolated: every way"),
        (lambda v: program_moves.remove_step(act("maren"), number, v, 1), "people are told first"),
        (lambda v: program_moves.move_step(act("maren"), number, v, lock, lock - 1), "checked device only"),
        (lambda v: program_moves.add_step(act("maren"), number, v, 3, "opened", "52-TIE"), None),
    ):
        if rule is None:
            assert change(1) is False
            continue
        with pytest.raises(Refusal) as refused:
            change(1)
        assert rule in en(refused.value.rule) and records.head(the_site()) == before
    assert en(program_view.view(the_site(), number).first_broken.rule) == "no operation without its check"
    seen = program_view.view(the_site(), number)
    with pytest.raises(Refusal, match="never checked"):
        program_moves.check(act("ivo"), number, seen.version, seen.content_hash)
    at = next(i for i, s in enumerate(seen.steps) if s.identity == "52-TIE") + 2
    program_moves.add_step(act("maren"), number, seen.version, at, "checked", "52-TIE")
    seen = program_view.view(the_site(), number)
    assert seen.safe
    program_moves.check(act("ivo"), number, seen.version, seen.content_hash)
    words = [(s.location, s.action, s.stand) for s in seen.steps]
    assert program_moves.remark_step(act("maren"), number, seen.version + 1, 2, "The handle is stiff") is True
    again = program_view.view(the_site(), number)
    assert again.state == "draft" and again.steps[1].remark == "The handle is stiff"
    assert [(s.location, s.action, s.stand) for s in again.steps] == words
    with pytest.raises(Stale):
        program_moves.redraft(act("maren"), number, 1)
    program_moves.redraft(act("maren"), number, again.version)
    assert [s.key for s in program_view.view(the_site(), number).steps] == [s.key for s in steps]
    assert [p["tag"] for p in program_view.view(the_site(), number).content["points"]] == ["F-B1"]


def test_the_first_energizing_is_found_anew_after_an_edit():
    """52-A feeds T1 backward as well as 52-T1 does forward: whichever is closed first brings the voltage back."""
    number = programs.draft(act("maren"), start_job())
    back = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    seen = program_view.view(the_site(), back)
    closing = [i for i, s in enumerate(seen.steps) if s.acts == ("closed",)]
    assert seen.content["energizing"] == closing[0]
    program_moves.move_step(act("maren"), back, seen.version, closing[1] + 1, closing[0] + 1)
    again = program_view.view(the_site(), back)
    assert again.content["energizing"] == closing[0]
    assert again.steps[closing[0]].identity == seen.steps[closing[1]].identity


def test_a_confirmation_counts_once_and_only_for_its_state():
    number = under_way(until="start")
    seen = program_view.view(the_site(), number)
    again = act("ivo", request_id="c" * 36)
    assert console.confirm(again, number, 1, seen.version, readings(seen.current)) == "confirmed"
    assert console.confirm(again, number, 1, seen.version, {}) == "already"
    assert program_view.view(the_site(), number).done == 1
    device = program_view.view(the_site(), number).current.element_id
    # somebody stops it while the director's tablet is without a connection; then "was opened" arrives
    made_for = program_view.view(the_site(), number).version
    console.stop(act("jory"), number, "Somebody is in the bay")
    with pytest.raises(Moved, match="kept as found"):
        console.confirm(act("ivo"), number, 2, made_for, {})
    seen = program_view.view(the_site(), number)
    assert seen.state == "stopped" and seen.done == 1 and not the_site().as_it_is().now[device].known
    # it was opened: the program cannot go on as written, its successor begins by opening and checking
    with pytest.raises(Refusal, match="can't go on as written"):
        console.resume(act("ivo"), number, seen.version, "Nobody there")
    successor, none = console.deviate(act("ivo"), number, seen.version, "", "", "Opened while it was stopped")
    assert none == "" and program_view.view(the_site(), number).state == "abandoned"
    first = program_view.view(the_site(), successor)
    assert first.hold == number and [s.kind for s in first.steps[:3]] == ["notify", "operate", "check"]


def test_voltage_where_none_should_be_stops_everything():
    number = under_way(until="start")
    at = run(number, until="proof").current
    assert confirm(number, reading_0="indicates" if at.instrument == "detector" else "277") == "stopped"
    seen = program_view.view(the_site(), number)
    said = "T1: L1 indicates" if at.instrument == "detector" else "T1: L1-L2 277 V"
    assert f"Voltage is present at {said}" in en(seen.stopped_because)
    assert number not in {p.hold for p in the_site().as_it_is().field.proofs}
    assert the_site().as_it_is().liveness.nodes[seen.current.node_id] == "unknown"
    with pytest.raises(Refusal, match="can't go on"):
        console.resume(act("ivo"), number, seen.version, "Perhaps it was static")


@pytest.mark.parametrize(("reading", "word"), [("-1", "from 0"), ("", "from 0"), ("nan", "from 0"), ("4e9", "up to")])
def test_a_reading_that_is_no_voltage_is_refused_beside_its_field(reading, word):
    number = under_way("CTL-1", until="proof")
    with pytest.raises(InputError, match=word) as refused:
        confirm(number, reading_2=reading)
    assert refused.value.field == "reading_2" and program_view.view(the_site(), number).state == "executing"


def test_an_instrument_that_fails_voids_its_tests():
    number = under_way(until="start")
    at = run(number, until=INSTRUMENT_BEFORE).done
    with pytest.raises(console.Barred, match="M-12 failed"):
        confirm(number, reading_v="0")
    # it is out of use at once, here and everywhere, until somebody cleared it
    assert program_view.view(the_site(), number).done == at
    with pytest.raises(InputError, match=r"M-12 is out of use: .* read 0.V on a source of 120.V"):
        confirm(number)
    with pytest.raises(NotAllowed):
        gear.test(act("ivo"), "M-12", act("ivo").now.date(), "", "Ivo Tanaka", good=True)
    with pytest.raises(InputError, match="D-3 is no contact instrument"):
        confirm(number, instrument="D-3")
    with pytest.raises(InputError, match="an instrument of the site's list"):
        confirm(number, instrument="Tester of Bram")
    with pytest.raises(InputError, match="source in the range of M-14"):
        confirm(number, instrument="M-14", source_v="11", reading_v="11")
    confirm(number, instrument="M-14")
    run(number, until=INSTRUMENT_AFTER)
    with pytest.raises(InputError, match="M-14"):
        confirm(number, instrument="L-5")
    assert confirm(number, instrument="M-14", reading_v="3") == "repeat"
    seen = program_view.view(the_site(), number)
    assert (seen.state, seen.done) == ("stopped", at) and "every test since is void" in en(seen.stopped_because)
    with pytest.raises(Refusal, match="a test alone"):
        gear.clear(act("maren"), "M-12", "Flat battery; a new one in, proved on three sources")
    gear.test(act("maren"), "M-12", act("maren").now.date(), "QT 9", "Carrow Relay Bureau", good=True)
    console.resume(act("ivo"), number, seen.version, "Meter M-12 taken, cleared by Maren")
    assert run(number).state == "done" and records.verify(the_site()).broken_at is None


def test_an_instrument_taken_out_of_use_while_it_is_used_voids_its_tests():
    number = under_way("CTL-1", until="proof")
    run(number, until=INSTRUMENT_AFTER)
    gear.bar(act("jory"), "M-12", "I dropped it this morning")
    assert confirm(number) == "repeat" and number not in {p.hold for p in the_site().as_it_is().field.proofs}


def test_a_machine_that_was_stopped_for_an_isolation_may_run_after_it():
    """Its own control starts it and records nothing: the next isolation stops it again before its shaft is blocked."""
    number = under_way("P-31")
    assert program_view.view(the_site(), number).state == "done"
    assert the_site().as_it_is().now[element_id("P-31")].running is False
    box.take(act("sorcha"), number)
    box.complete(act("sorcha"), number)
    back = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    ready(back)
    assert run(back).state == "done"
    assert the_site().as_it_is().now[element_id("P-31")].running is None
    again = programs.draft(act("maren"), start_job("P-31"))
    assert any(s.acts == ("stopped",) for s in program_view.view(the_site(), again).steps)


def test_each_voltage_has_its_instrument_and_a_high_one_is_indicated_not_measured():
    """A meter proved on 120 V proves nothing at 12.47 kV; nobody types volts for a detector."""
    number = programs.draft(act("maren"), start_job())
    steps = program_view.view(the_site(), number).steps
    kinds = [(s.instrument, s.value, s.node_id) for s in steps if s.kind == "test"]
    assert kinds == [
        ("contact", "instrument_before", ""), ("detector", "instrument_before", ""),
        ("detector", "proof", "n-t1p"), ("contact", "proof", "n-t1s"),
        ("contact", "instrument_after", ""), ("detector", "instrument_after", ""),
    ]  # fmt: skip
    ready(number)
    run(number, until=INSTRUMENT_BEFORE)
    confirm(number)
    with pytest.raises(InputError, match="M-12 is no high-voltage detector"):
        confirm(number, instrument="M-12")
    with pytest.raises(InputError, match="whether it indicates"):
        confirm(number, indicates="7200")
    confirm(number)
    with pytest.raises(InputError, match="whether it indicates"):
        confirm(number, reading_1="0.3")
    assert run(number).state == "done"
    contents = str([r.detail for r in program_view.view(the_site(), number).records])
    assert "does_not" in contents and "'L1': 0.3" not in contents


def test_a_lock_has_a_number_that_hangs_once_and_those_named_are_told():
    number = under_way("SWB-A", task="inspect", until="start")
    first = program_view.view(the_site(), number).current
    assert {"Berth master", "Gate crew", "Tide watch"} <= set(first.names) and first.critical == ("EDP-1",)
    with pytest.raises(InputError) as refused:
        confirm(number, told_1="")
    assert refused.value.field == "told_1"
    with pytest.raises(InputError) as refused:
        confirm(number, watch_0=" ")
    assert refused.value.field == "watch_0"
    confirm(number, told_1="Ann, 22:31")
    assert program_view.view(the_site(), number).last("confirmed").detail["answered"][first.names[1]] == "Ann, 22:31"
    run(number, until="lock")
    with pytest.raises(InputError, match="the number on your lock"):
        confirm(number, lock="")
    confirm(number, lock="R-7")
    run(number, until="lock")
    with pytest.raises(InputError, match="hangs nowhere else"):
        confirm(number, lock="R-7")
    # nor does it hang on a device of somebody else's isolation
    theirs = next(n for n in lock_numbers("SP-0003") if n)
    with pytest.raises(InputError, match="hangs nowhere else"):
        confirm(number, lock=theirs)
    confirm(number, lock="R-8")


def test_a_steady_residual_is_a_source():
    number = under_way("CTL-1", until=RESIDUAL)
    assert confirm(number, reading_0="40", reading_1="40") == "stopped"
    assert "a source is still connected" in en(program_view.view(the_site(), number).stopped_because)


def test_what_is_found_stops_programs_ends_proofs_and_warns(isolated):
    _, number = isolated
    box.take(act("sorcha"), number)
    box.hang(act("nils"), number, "N-7")
    other = programs.draft(act("maren"), start_job("MC2"))
    ready(other)
    touched = network.report_found(act("edda"), element_id("F-B1"), "open", "The handle is down")
    assert other in touched and program_view.view(the_site(), other).state == "stopped"
    assert box.view(the_site(), number).unsound == ()
    network.report_found(act("edda"), element_id("52-A"), "withdrawn", "Somebody worked on its shutter")
    # what is only reported is of unknown position: it isolates nobody, and the proof is over
    assert {en(b.rule) for b in box.view(the_site(), number).unsound} == {
        "isolated: every way from every source is open, checked and locked", "no handover without proof"}  # fmt: skip
    assert program_view.view(the_site(), number).last("warned").detail["people"] == ["Nils Abara"]
    assert [w[0] for w in board.warnings_for(the_site(), person("nils"))] == [number] and board.warnings_for(
        the_site(), person("wanda")
    ) == []
    with pytest.raises(Refusal, match="still reaches the target"):
        box.hang(act("sorcha"), number, "S-1")


def test_a_wrong_entry_is_corrected_by_a_second_person():
    network.report_found(act("ivo"), element_id("F-A4"), "closed", "Handle looks up")
    with pytest.raises(NotAllowed, match="You recorded"):
        network.correct(act("ivo"), element_id("F-A4"), "open", "I looked at the wrong one")
    with pytest.raises(NotAllowed):
        network.correct(act("nils"), element_id("F-A4"), "open", "It is open")
    network.correct(act("tavi"), element_id("F-A4"), "open", "It was the handle beside it")
    device = the_site().as_it_is().now[element_id("F-A4")]
    assert device.position == "open" and not device.checked and not device.known


def test_the_lock_of_somebody_absent_takes_two(isolated):
    _, number = isolated
    box.take(act("sorcha"), number)
    box.hang(act("nils"), number, "N-7")
    why = "Called twice, his car is gone, gate log says left 16:10"
    with pytest.raises(Refusal, match="No lock of yours"):
        box.remove(act("sorcha"), number)
    assert box.absent(act("maren"), number, person("nils"), why) is False
    for login in ("maren", "tavi"):
        with pytest.raises(Refusal, match="needs two"):
            box.absent(act(login), number, person("nils"), why)
    assert box.absent(act("sorcha"), number, person("nils"), why) is True
    assert locks_on(number) == () and records.verify(the_site()).broken_at is None


def test_an_isolation_lock_is_taken_off_by_the_operator_who_hung_it(isolated):
    from spinel.actions import people, qualifying

    _, number = isolated
    box.take(act("sorcha"), number)
    box.complete(act("sorcha"), number)
    people.add_person(act("maren"), "olga", "Olga Berg", "a long password", ["operator"])
    for task in ("operate", "test"):
        for kind in ("medium-voltage switchgear", "switchboard", "transformer"):
            qualifying.from_elsewhere(act("maren"), "olga", [(task, kind)], act("ivo").now.date())
    restoration = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    ready(restoration, operator="olga")
    run(restoration, until="lock")
    with pytest.raises(Refusal, match="Bram Castel hung the lock"):
        confirm(restoration)
    why = "He was called away to the hospital; spoken to by phone"
    assert box.absent(act("maren"), number, person("bram"), why) is False
    assert box.absent(act("sorcha"), number, person("bram"), why) is True
    assert run(restoration).state == "done"


def test_what_was_abandoned_has_a_successor_that_goes_on_from_the_state_as_it_is():
    number = under_way("MC2", until="block")
    console.stop(act("ivo"), number, "The shift ends")
    program_moves.abandon(act("tavi"), number, program_view.view(the_site(), number).version, "Goes on tomorrow")
    back = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    kinds = [s.kind for s in program_view.view(the_site(), back).steps]
    assert kinds == ["notify", "inspect", "access", "lock", "operate", "check", "barricade", "notify"]
    successor, none = programs.draft_successor(act("maren"), number)
    assert none == ""
    # every machine is seen to stand still again, by this program, before its shaft is blocked
    acts = [s.acts[0] for s in program_view.view(the_site(), successor).steps[:5]]
    assert acts == ["notified", "stopped", "stopped", "blocked", "blocked"]
    with pytest.raises(Refusal, match="follows what was abandoned"):
        programs.draft_successor(act("maren"), number)
    # the successor waits, so the way back does not start; and never both at once
    with pytest.raises(Refusal, match="has not ended"):
        ready(back)
    ready(successor)
    assert program_view.view(the_site(), successor).state == "executing"


def test_a_practice_run_leaves_no_trace_in_the_field():
    real = programs.draft(act("maren"), start_job())
    before, events = the_site().as_it_is().field, the_site().as_it_is().event_id
    number = practice.practise(act("ivo"), real)
    practice.put_fault(act("tavi"), number, "stuck_blade", "52-A")
    console.start(act("ivo"), number, program_view.view(the_site(), number).version, person("bram"))
    run(number, until="proof")
    # one blade of 52-A stayed closed: the roof's inverter feeds the transformer backward on one phase
    shown = practice.detector(program_view.view(the_site(), number))
    assert shown == {"L1": "indicates", "L2": "does_not", "L3": "does_not"}
    seen = program_view.view(the_site(), number)
    typed = {f"reading_{i}": str(v) for i, v in enumerate(shown.values())}
    assert console.confirm(act("ivo"), number, seen.done + 1, seen.version, typed) == "stopped"
    assert the_site().as_it_is().field == before and the_site().as_it_is().event_id == events
    with pytest.raises(NotFound):
        box.take(act("sorcha"), number)
    restoration = next(p.number for p in programs.lines(the_site()) if p.hold == real and p.purpose == "restoration")
    back = practice.practise(act("ivo"), restoration)
    console.start(act("ivo"), back, program_view.view(the_site(), back).version, person("bram"))
    assert run(back).state == "done" and the_site().as_it_is().field == before


def test_no_revision_takes_out_what_is_locked_or_about_to_be_operated(isolated):
    import json

    from spinel.demo.site import document

    for tag, why in (("P-21", "SP-0004 is draft"), ("52-A", "works on it|a lock of")):
        data = document()
        there = next(e for e in data["elements"] if e["tag"] == tag)
        there |= {"id": "another"}  # equipment keeps its identity for ever: another id is another thing
        with pytest.raises(Refusal, match=rf"has no {tag}, but .*({why})"):
            network.publish(act("maren"), json.dumps(data))


def test_a_third_person_checks_where_the_site_says_so():
    from spinel.actions import site_settings

    site_settings.change(act("maren"), "checks_by", "third_person", "Two pairs of eyes")
    number = under_way("MC2", until="check")
    with pytest.raises(NotAllowed, match="third person"):
        confirm(number)
    assert confirm(number, "tavi") == "confirmed"


@pytest.mark.parametrize("how", ["a reading that is not the instrument's", "a fault that nobody met"])
def test_a_practice_run_fails_on_a_false_reading_and_on_a_missed_fault(how):
    """The detector indicates and the opposite is recorded; or everything is read right and a fault is still in the plant."""
    number = practice.practise(act("ivo"), programs.draft(act("maren"), start_job()))
    console.start(act("ivo"), number, program_view.view(the_site(), number).version, person("bram"))
    run(number, until="proof")
    practice.put_fault(
        act("tavi"), number, *(("stuck_blade", "52-A") if "reading" in how else ("rising_residual", "T1"))
    )
    if "reading" in how:
        assert confirm(number) == "failed"
    else:
        run(number)
    seen = program_view.view(the_site(), number)
    assert seen.state == "abandoned" and seen.last("failed") is not None
    said = en(seen.stopped_because)
    expected = (
        ("on L1 at T1 the detector indicates", "the opposite was recorded")
        if "reading" in how
        else ("a fault was missed", "rises instead")
    )
    assert all(part in said for part in expected), said
    assert records.entries(the_site())[0].act == "practice failed"


def a_run(tag="T1"):
    return practice.practise(act("ivo"), programs.draft(act("maren"), start_job(tag)))


def go(number):
    console.start(act("ivo"), number, program_view.view(the_site(), number).version, person("bram"))


def test_a_scenario_comes_from_its_seed_and_every_kind_can_come():
    """The same program and seed give two people the same one; nothing of it is told before the end."""
    real = programs.draft(act("maren"), start_job("PSU-1"))
    one, two = practice.practise(act("ivo"), real), practice.practise(act("ivo"), real)
    for number in (one, two):
        practice.draw(act("tavi"), number, "quay 7")
    drawn = [program_view.view(the_site(), n).faults[0] for n in (one, two)]
    assert drawn[0] == drawn[1] and drawn[0]["drawn"] == "quay 7"
    seen = program_view.view(the_site(), one)
    kinds = {practice._drawn(seen, str(seed))["kind"] for seed in range(200)}
    assert kinds == {"stuck_blade", "others_lock", "wrong_cubicle", "no_answer", "rising_residual", "dead_meter",
                     "back_feed"}  # fmt: skip
    with pytest.raises(NotAllowed):
        practice.draw(act("nils"), one, "1")
    with pytest.raises(Refusal, match="practice only"):
        practice.draw(act("tavi"), real, "1")


@pytest.mark.parametrize("kind", ["others_lock", "wrong_cubicle", "no_answer"])
@pytest.mark.tampers
def test_what_is_seen_and_confirmed_all_the_same_fails_the_run(kind):
    number = a_run()
    seen = program_view.view(the_site(), number)
    scene = next(s for s in practice.shelf(seen) if s["kind"] == kind)
    with the_site().connection():
        keeping.save(act("tavi"), program_view.stored(number), seen.version,
                     faults=shapes.write("faults", {"faults": [scene]}).text)  # fmt: skip
    go(number)
    while program_view.view(the_site(), number).done + 1 < int(scene["step"]):
        confirm(number)
    seen = program_view.view(the_site(), number)
    assert scene["tag"] in en(practice.met_here(seen)) or seen.current.identity in en(practice.met_here(seen))
    assert confirm(number) == "failed"
    last = practice.debrief(program_view.view(the_site(), number))[-1]
    assert (last.outcome, last.step) == ("failed", int(scene["step"])) and last.scene


def test_whoever_heeds_what_is_seen_ends_the_run_and_the_debrief_tells_every_reading():
    number = a_run("P-31")
    go(number)
    run(number, until="proof")
    practice.put_fault(act("tavi"), number, "back_feed", "P-31")
    shown = practice.detector(program_view.view(the_site(), number))
    typed = {f"reading_{i}": str(v) for i, v in enumerate(shown.values())}
    assert confirm(number, **typed) == "stopped"
    console.deviate(act("ivo"), number, program_view.view(the_site(), number).version, "", "", "Something feeds it")
    told = practice.debrief(program_view.view(the_site(), number))
    assert told[-1].outcome == "stopped" and told[-1].shown == told[-1].recorded == shown
    instrument = next(d for d in told if d.shown.keys() == {"known source"})
    assert instrument.recorded == {"known source": 120.0}
