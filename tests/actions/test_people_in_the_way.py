"""Switching meets people on a permit: nothing is operated where they are, and whatever moves is reviewed."""

import json

import pytest

from demo_acts import MOMENT, act, element_id, person, the_site
from saying import en
from spinel.actions import (
    box,
    console,
    in_the_way,
    network,
    operation,
    people,
    permit_moves,
    permits,
    program_moves,
    program_view,
    programs,
    records,
)
from spinel.actions.as_found import Moved
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.network.field import fold_field
from spinel.core.network.now import FieldEvent
from spinel.demo.site import document
from spinel.store import permits as store
from switching_acts import confirm, nobody_there, readings, ready, run, start_job

RULE = "nothing is switched where people are on a permit"
pytestmark = pytest.mark.usefixtures("open_db")


def checked(tag):
    number = programs.draft(act("maren"), start_job(tag))
    seen = program_view.view(the_site(), number)
    program_moves.check(act("ivo"), number, seen.version, seen.content_hash)
    return number


def release(number):
    seen = program_view.view(the_site(), number)
    program_moves.release(act("tavi"), number, seen.version, seen.content_hash)


def start(number):
    console.start(act("ivo"), number, program_view.view(the_site(), number).version, person("bram"))


def permit(number):
    return permits.view(the_site(), number, MOMENT)


@pytest.mark.parametrize(
    ("tag", "number", "where"),
    # its own breaker, under an expired permit; what feeds it, two devices away; the whole section above it
    [("P-31", "EWP-0002", "MC2-1D"), ("MC2", "EWP-0002", "MC2-1D"), ("T1", "EWP-0003", "EDP-1")],
)
def test_what_cuts_a_place_off_is_refused_while_somebody_is_on_its_permit(tag, number, where):
    program = checked(tag)
    with pytest.raises(Refusal) as refused:
        release(program)
    assert en(refused.value.rule) == RULE and number in en(refused.value.why) and where in en(refused.value.why)
    # suspended alone is not empty
    for p in ("EWP-0002", "EWP-0003", "EWP-0004", "EWP-0006"):
        if permit(p).state in ("issued", "in_force"):
            permit_moves.suspend(act("edda"), p, permit(p).version, "Switching begins")
    with pytest.raises(Refusal, match="on a permit"):
        release(program)
    nobody_there()
    release(program)
    start(program)
    assert program_view.view(the_site(), program).state == "executing"


def run_one(program):
    confirm(program)
    return program_view.view(the_site(), program)


@pytest.mark.tampers
def test_work_that_goes_on_again_stops_the_next_step_though_the_program_runs(sign_in):
    program = checked("MC2")
    nobody_there()
    release(program)
    start(program)
    while "opened" not in (seen := run_one(program)).current.acts:
        pass
    done = seen.done
    assert permit("EWP-0006").state == "suspended"
    # suspended once more, by a review say, it stays empty; resumed, somebody may be back
    with the_site().connection():
        kept = store.permit("EWP-0006")
        store.add_record(kept.id, "suspended", None, "system", kept.content_hash, "{}", act("maren").at)
    assert "Do not do this step" not in sign_in("ivo").get(f"/switching/{program}/console").text
    version, mark = program_view.version_of(the_site(), program)
    permit_moves.resume(act("maren"), "EWP-0006", permit("EWP-0006").version, "All is well again")
    # the open console hears of it though the program itself has not moved
    asked = f"/switching/{program}/pulse?version={version}&mark={mark}&met=0"
    assert "Do not do this step." in sign_in("ivo").get(asked).text
    assert sign_in("ivo").get(asked.replace("met=0", "met=1")).status_code == 204
    # the console says so before it is read out
    page = sign_in("ivo").get(f"/switching/{program}/console").text
    assert "Do not do this step." in page and "EWP-0006" in page and 'id="primary"' not in page
    # whoever did it all the same: refused as a step, kept as found, the program stopped
    with pytest.raises(Moved, match=RULE):
        confirm(program)
    seen = program_view.view(the_site(), program)
    assert (seen.done, seen.state) == (done, "stopped") and "F-B1 was found" in en(seen.stopped_because)
    assert position("F-B1") is None


def test_who_may_say_that_the_place_is_empty():
    """The person in charge; or a coordinator and a second person, named, who is somebody else."""
    permit_moves.suspend(act("edda"), "EWP-0003", permit("EWP-0003").version, "Switching begins")
    version = permit("EWP-0003").version
    with pytest.raises(Refusal):
        permit_moves.clear(act("nils"), "EWP-0003", version, "Out, covers on")
    for seen_by in (None, person("maren"), 4711):
        with pytest.raises(InputError) as refused:
            permit_moves.clear(act("maren"), "EWP-0003", version, "Out, covers on", seen_by)
        assert refused.value.field == "seen_by"
    with pytest.raises(InputError):
        permit_moves.clear(act("sorcha"), "EWP-0003", version, "")
    permit_moves.clear(act("maren"), "EWP-0003", version, "Called 555 0107 three times; gallery empty", person("jory"))
    last = permit("EWP-0003").records[-1]
    assert (last.kind, last.name, last.detail["seen_empty_by"]) == ("place cleared", "Maren Oduya", "Jory Pell")
    assert permit("EWP-0003").state == "suspended"


def test_what_touches_nobody_is_not_hindered():
    """FP-1 runs while permits are in force elsewhere; so does a practice of what would black a permit out."""
    seen = program_view.view(the_site(), "SP-0005")
    assert seen.state == "executing" and permit("EWP-0003").state == "in_force"
    run("SP-0005")
    assert program_view.view(the_site(), "SP-0005").state == "done" and permit("EWP-0003").state == "in_force"


def test_a_programs_own_step_reviews_the_permits(monkeypatch):
    """After each operation of a program everything issued is looked at, as after anything else that moves."""
    from spinel.actions import permit_review

    looked = []
    monkeypatch.setattr(permit_review, "worse", lambda here, content: looked.append(here.event_id) or [])
    number = checked("P-31")
    nobody_there()
    release(number)
    start(number)
    looked.clear()
    kinds = []
    while (seen := program_view.view(the_site(), number)).state == "executing":
        before = len(looked)
        kinds.append((seen.current.kind, len(looked)))
        console.confirm(act("ivo"), number, seen.done + 1, seen.version, readings(seen.current))
        if seen.current.kind in ("operate", "check"):
            assert len(looked) > before, seen.current.action
    assert {"operate", "check"} <= {k for k, _ in kinds}


def test_a_called_off_isolation_has_a_way_back_by_the_acts_alone():
    """Opened, not checked: abandoned there. Its restoration is drafted, begins with the check, and is executed."""
    number = checked("P-31")
    nobody_there()
    release(number)
    start(number)
    while "opened" not in program_view.view(the_site(), number).current.acts:
        confirm(number)
    confirm(number)
    console.stop(act("ivo"), number, "The director is called away")
    seen = program_view.view(the_site(), number)
    program_moves.abandon(act("ivo"), number, seen.version, "The director was called away")
    back = next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")
    seen = program_view.view(the_site(), back)
    assert seen.safe, (seen.first_broken, [en(s.action) for s in seen.steps])
    assert [s.kind for s in seen.steps] == [
        "notify", "inspect", "access", "check", "operate", "check", "barricade", "notify"]  # fmt: skip
    program_moves.check(act("ivo"), back, seen.version, seen.content_hash)
    release(back)
    start(back)
    run(back)
    here = the_site().as_it_is()
    assert here.device(here.network.by_tag["MC2-1D"]).position == "closed"
    assert not here.field.grounds and box.view(the_site(), number) is None


def test_an_opening_in_an_emergency_is_never_refused_and_everything_around_it_is_reviewed():
    """Somebody without any role pulls a breaker under a permit in force: recorded by whom, when, what went dark."""
    nobody = people.add_person(act("maren"), "vis", "A Visitor", "a long password", ["reader"])
    assert permit("EWP-0006").state == "issued" and nobody
    when = act("maren", minutes=-4).now
    dark, touched = network.opened_in_emergency(
        act("vis"), element_id("F-B1"), "Jory Penhale", when, "Smoke from MC2, people in front of it"
    )
    assert "P-31" in dark and "EWP-0006" in touched and permit("EWP-0006").state == "suspended"
    device = the_site().as_it_is().now[element_id("F-B1")]
    assert device.position == "open" and not device.known
    entry = next(e for e in records.entries(the_site()) if e.act == "opened in an emergency")
    assert "Jory Penhale" in str(entry.payload) and "P-31" in str(entry.payload)
    for change, field in (({"by": ""}, "by"), ({"note": "x"}, "note"), ({"when": act("maren", minutes=1).now}, "when")):
        told = {"by": "Jory", "when": when, "note": "Smoke from it", **change}
        with pytest.raises(InputError) as refused:
            network.opened_in_emergency(act("vis"), element_id("F-A4"), **told)
        assert refused.value.field == field
    with pytest.raises(InputError, match="a device that opens"):
        network.opened_in_emergency(act("vis"), element_id("MC1"), "Jory", when, "It is a bus")
    assert records.verify(the_site()).broken_at is None


def test_the_locks_of_an_operator_who_is_gone_are_freed_after_the_program_was_called_off():
    """Nobody ever took the box over: a coordinator and a person in charge, two people, each signed in."""
    number = programs.draft(act("maren"), start_job("MC2"))
    ready(number)
    run(number, until="block")
    console.stop(act("ivo"), number, "The operator fell ill")
    program_moves.abandon(act("tavi"), number, program_view.view(the_site(), number).version, "Goes on tomorrow")
    assert [lock.name for lock in box.operators_locks(the_site(), number)] == ["Bram Castel"]
    why = "Taken to hospital at 14:10; his wife was told that his locks come off"
    with pytest.raises(NotAllowed):
        box.absent(act("nils"), number, person("bram"), why)
    assert box.absent(act("maren"), number, person("bram"), why) is False
    for same_half in ("maren", "tavi"):
        with pytest.raises(Refusal, match="needs two"):
            box.absent(act(same_half), number, person("bram"), why)
    assert box.absent(act("sorcha"), number, person("bram"), why) is True
    assert box.operators_locks(the_site(), number) == ()


class TestOneOperation:
    """Outside a program: a director orders, somebody else operates, every rule holds."""

    def go(self, tag, to, who="ivo", operator="bram", informed="Duty officer answered", **later):
        return operation.operate(act(who, **later), element_id(tag), to, person(operator), informed)

    def test_it_is_unknown_until_somebody_looked(self):
        self.go("F-A4", "closed")
        device = the_site().as_it_is().now[element_id("F-A4")]
        assert (device.position, device.known, device.moved_by) == ("closed", False, "")
        operation.look(act("ivo"), element_id("F-A4"), "closed")
        assert the_site().as_it_is().now[element_id("F-A4")].known
        entries = [e.act for e in records.entries(the_site())][:2]
        assert entries == ["looked at", "operated once"] and records.verify(the_site()).broken_at is None

    def test_seen_otherwise_is_a_find(self):
        self.go("F-A4", "closed")
        operation.look(act("ivo"), element_id("F-A4"), "open")
        device = the_site().as_it_is().now[element_id("F-A4")]
        assert device.position == "open" and not device.known

    @pytest.mark.parametrize(
        ("tag", "to", "why"),
        [
            ("F-B1", "open", "nothing is switched where people are on a permit"),
            ("MC1-2B", "closed", "under a lock or tag"),
            ("EDP-3", "closed", "moved by that program"),
            ("MC2-2B", "open", "fails its duty check"),
            ("52-B", "withdrawn", "nothing moves in or out of its place while closed"),
            ("EDP-5", "open", "load that is not built for it"),
        ],
    )
    def test_every_rule_holds(self, tag, to, why):
        before = the_site().as_it_is().event_id
        with pytest.raises(Refusal) as refused:
            self.go(tag, to)
        assert why in en(refused.value.rule), en(refused.value.rule)
        assert the_site().as_it_is().event_id == before

    def test_it_raises_no_permits_figures(self):
        """Closing the tie feeds nobody from elsewhere, but more current flows to where people are."""
        before = the_site().as_it_is().event_id
        with pytest.raises(Refusal, match="would raise what EWP-"):
            self.go("52-TIE", "closed")
        verdicts = dict(operation.asked(the_site(), element_id("52-TIE")))
        assert "would raise" in en(verdicts["closed"].why) and the_site().as_it_is().event_id == before
        nobody_there()
        self.go("52-TIE", "closed")

    def test_what_tripped_is_closed_by_nobody_before_it_was_inspected(self):
        network.report_found(act("edda"), element_id("F-A4"), "tripped", "It smells of burning")
        with pytest.raises(Refusal, match="tripped stays open"):
            self.go("F-A4", "closed")
        with pytest.raises(Refusal, match="tripped stays open"):
            operation.look(act("ivo"), element_id("F-A4"), "open")

    def test_who_may(self):
        with pytest.raises(NotAllowed):
            self.go("F-A4", "closed", who="maren")
        for operator in ("ivo", "wanda"):
            with pytest.raises(InputError, match="another person"):
                self.go("F-A4", "closed", operator=operator)
        with pytest.raises(NotAllowed):
            operation.look(act("edda"), element_id("F-A4"), "open")
        nobody_there()
        with pytest.raises(InputError) as refused:
            self.go("F-A1", "open", informed=" ")
        assert refused.value.field == "informed"


def isolate(tag):
    """Isolated by the acts of everybody who has to, handed over and taken."""
    number = programs.draft(act("maren"), start_job(tag))
    ready(number)
    assert run(number).state == "done"
    box.take(act("sorcha"), number)
    return number


def restoration_of(number):
    return next(p.number for p in programs.lines(the_site()) if p.hold == number and p.purpose == "restoration")


def position(tag):
    here = the_site().as_it_is()
    return here.device(here.network.by_tag[tag]).position


@pytest.mark.long
def test_two_crews_in_one_motor_control_center_by_their_acts():
    """P-21 is isolated in its bucket, people behind it; MC1 around it is isolated by a second crew. The first can't
    close its breaker inside the second's open board before that is given back; then both go home in turn."""
    second = isolate("MC1")
    box.hang(act("wanda"), second, "W-9")
    here = the_site().as_it_is()
    p21 = here.network.by_tag["P-21"]
    assert here.device(p21).holding("shaft") == ("SP-0003", second)
    # the first crew is done: locks off, complete
    box.remove(act("wanda"), "SP-0003")
    box.remove(act("nils"), "SP-0003")
    box.complete(act("sorcha"), "SP-0003")
    first = restoration_of("SP-0003")
    seen = program_view.view(the_site(), first)
    broken = [b for b in seen.verdicts if b is not None]
    assert en(broken[0].rule) == "nothing moves where another crew is behind its locks" and "Wanda Keogh" in en(
        broken[0].why
    )
    with pytest.raises(Refusal, match="another crew"):
        program_moves.check(act("ivo"), first, seen.version, seen.content_hash)
    # without a lock on the box their proof alone is enough to refuse it
    box.remove(act("wanda"), second)
    with pytest.raises(Refusal, match="proved dead for"):
        program_moves.check(act("ivo"), first, seen.version, seen.content_hash)
    box.complete(act("sorcha"), second)
    program_moves.redraft(act("maren"), first, seen.version)
    ready(first)
    assert run(first).state == "done"
    here = the_site().as_it_is()
    # its own block is off; the second crew's is still on, and F-A1 stays open
    assert here.device(p21).holding("shaft") == (second,)
    assert (position("MC1-2B"), position("F-A1")) == ("closed", "open")
    last = restoration_of(second)
    program_moves.redraft(act("maren"), last, program_view.view(the_site(), last).version)
    ready(last)
    assert run(last).state == "done"
    assert position("F-A1") == "closed" and not the_site().as_it_is().device(p21).blocked


def test_what_somebody_reported_is_not_closed_by_a_restoration_that_never_touched_it():
    network.report_found(act("edda"), element_id("F-B2"), "open", "It smells of burning")
    box.remove(act("wanda"), "SP-0003")
    box.remove(act("nils"), "SP-0003")
    box.complete(act("sorcha"), "SP-0003")
    first = restoration_of("SP-0003")
    program_moves.redraft(act("maren"), first, program_view.view(the_site(), first).version)
    seen = program_view.view(the_site(), first)
    assert seen.safe and {s.identity for s in seen.steps if s.kind == "operate"} == {"MC1-2B"}
    ready(first)
    assert run(first).state == "done" and position("F-B2") == "open"


def test_a_published_swap_of_two_tags_stops_the_step_and_the_program():
    """The console would read out one breaker and the record lock the other."""
    number = programs.draft(act("maren"), start_job("P-31"))
    ready(number)
    confirm(number)
    data = document()
    one, other = (next(e for e in data["elements"] if e["tag"] == t) for t in ("MC2-1D", "MC2-2B"))
    one["tag"], other["tag"] = other["tag"], one["tag"]
    network.publish(act("maren"), json.dumps(data))
    seen = program_view.view(the_site(), number)
    assert seen.state == "stopped" and "the network" in en(seen.stopped_because)
    assert en(seen.first_broken.rule) == "a step says what the network says of its equipment"
    with pytest.raises(Refusal):
        console.confirm(act("ivo"), number, seen.done + 1, seen.version, {})
    assert program_view.view(the_site(), number).state == "stopped"
    assert position("MC2-1D") == position("MC2-2B") == "closed" or None in (position("MC2-1D"), position("MC2-2B"))


def test_after_a_trip_a_qualified_person_is_named_and_the_cause_recorded():
    """Only what was found tripped is inspected; the position stays unknown until somebody checks it."""
    f_b2 = element_id("F-B2")
    device = lambda: the_site().as_it_is().device(the_site().as_it_is().network.by_tag["F-B2"])  # noqa: E731
    cause = "Scorched lug of phase 2 cut back and remade; insulation 400 megohms"
    with pytest.raises(Refusal, match="Nobody found F-B2 tripped"):
        network.inspected(act("ivo"), f_b2, cause, person("ivo"))
    network.report_found(act("edda"), f_b2, "tripped", "It smells of burning")
    assert device().tripped and not device().known
    with pytest.raises(InputError):
        network.report_found(act("edda"), f_b2, "blown", "A breaker does not blow")
    with pytest.raises(Refusal, match="no qualification"):
        network.inspected(act("ivo"), f_b2, cause, person("jory"))
    for text, by in (("short", person("ivo")), (cause, 4711)):
        with pytest.raises(InputError):
            network.inspected(act("ivo"), f_b2, text, by)
    assert device().tripped
    network.inspected(act("ivo"), f_b2, cause, person("wanda"))
    assert not device().tripped and not device().known
    entry = records.entries(the_site())[0]
    assert entry.act == "inspected after a trip"


def test_a_walk_down_that_finds_it_otherwise_stops_and_warns_like_any_report():
    """MC1-2B, locked open with people behind it, is seen closed: permits suspended, the program stopped, people warned."""
    here = the_site().as_it_is()
    walked = {e.tag: here.device(e).position for e in here.network.switches}
    network.walk_down(act("ivo"), walked)
    assert permit("EWP-0004").state == "in_force" and box.view(the_site(), "SP-0003").unsound
    network.walk_down(act("ivo"), walked | {"MC1-2B": "closed"})
    assert permit("EWP-0004").state == "suspended"
    assert program_view.view(the_site(), "SP-0003").last("warned").detail["people"] == ["Nils Abara", "Wanda Keogh"]


def test_one_end_that_loses_its_supply_counts_though_the_other_is_fed_by_the_same():
    """52-TIE stands open between two boards that U-1 feeds: 52-B opens, and its far end is dead."""
    here = the_site().as_it_is()
    tie, main = here.network.by_tag["52-TIE"], here.network.by_tag["52-B"]
    acts = [FieldEvent(sequence=0, at="", actor="", kind=kind, element_id=main.id) for kind in ("opened", "checked")]
    after = here.seen_with(fold_field(here.network, acts, here.field))
    assert here.liveness.sources_of(tie)[0] == after.liveness.sources_of(tie)[0]
    assert in_the_way._fed(here, tie) != in_the_way._fed(after, tie)
