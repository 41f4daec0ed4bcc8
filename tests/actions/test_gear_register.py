"""The register of gear: who may, what an item out of use takes along, and what nobody gets around."""

import csv
import io
from dataclasses import replace
from datetime import date, timedelta

import pytest

from demo_acts import MOMENT, act, element_id, the_site
from spinel.actions import (
    box,
    codes,
    gear,
    gear_csv,
    gear_inspection,
    gear_intervals,
    instruments,
    program_view,
    programs,
    records,
    setup,
)
from spinel.actions.acting import Act
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.gear.inspection import challenges
from spinel.demo.gear import read_off
from spinel.store import database
from spinel.store import gear as store
from switching_acts import confirm, ready, run, start_job, under_way

TODAY = date(2026, 11, 24)


def one(number):
    return gear.one(the_site(), number)


def add(number="G-90", kind="gloves", login="maren", **more):
    given = {"ratings": {"glove_class": "0"}, "size": "10", "tested": TODAY - timedelta(days=30)} | more
    return gear.add(act(login), gear.NewItem(number=number, kind_id=kind, **given))


def good(number):
    found = one(number)
    return {c.id: read_off(found, c.id) if c.reads else "yes" for c in challenges(found)}


def inspect(number, login="wanda", seconds=0.0, **wrong):
    return gear_inspection.inspect(act(login, seconds=seconds), number, good(number) | wrong)


def proofs(hold):
    with the_site().connection():
        return [p for p in the_site().as_it_is().field.proofs if p.hold == hold]


def test_the_demo_has_a_register_with_one_pair_overdue_and_one_meter_out_of_use(open_db):
    found = gear.everything(the_site())
    assert len(found) >= 60
    assert [i.number for i in found if i.barred] == ["M-9"]
    late = [d for d in gear.falling_due(the_site(), TODAY, -1) if d.item.kind_id == "gloves"]
    assert [d.item.number for d in late] == ["G-22"]


@pytest.mark.parametrize("login", ["ivo", "sorcha", "nils", "edda", "ruth"])
def test_only_coordinators_keep_the_register_and_everybody_takes_out_of_use(open_db, login):
    for do in (
        lambda: add(login=login), lambda: gear.test(act(login), "M-9", TODAY, "", "x", good=True),
        lambda: gear.retire(act(login), "M-14", "worn out"), lambda: gear.clear(act(login), "H-03", "washed it twice"),
        lambda: gear_intervals.shorten(act(login), "gloves", 3, "because"), lambda: gear_csv.import_(act(login), "number,kind\n"),
    ):  # fmt: skip
        with pytest.raises(NotAllowed):
            do()
    gear.bar(act(login), "M-14", "It fell into the dock")
    assert one("M-14").barred


def test_what_stands_on_it_is_asked_and_fixed(open_db):
    for told, field in (
        ({"ratings": {}}, "glove_class"), ({"ratings": {"glove_class": "5"}}, "glove_class"), ({"number": "g-21"}, "number"),
        ({"tested": TODAY + timedelta(days=1)}, "tested"), ({"kind": "cape"}, "kind"), ({"number": "M-12"}, "number"),
        ({"kind": "contact", "ratings": {"low_v": "12", "high_v": "600", "category": "3"}}, "currents"),
        ({"kind": "contact", "currents": ("ac",), "ratings": {"low_v": "900", "high_v": "600", "category": "3"}}, "high_v"),
        ({"kind": "arc_hood", "ratings": {"arc_rating_cal_cm2": "nan"}}, "arc_rating_cal_cm2"),
        ({"kind": "arc_hood", "ratings": {"arc_rating_cal_cm2": "-8"}}, "arc_rating_cal_cm2"),
        ({"kind": "fixed_tester", "currents": ("ac",), "ratings": {"low_v": "50", "high_v": "690"}, "tag": "none"}, "tag"),
    ):  # fmt: skip
        with pytest.raises(InputError) as error:
            add(**told)
        assert error.value.field == field, told
    add("AV-1", "fixed_tester", currents=("ac",), ratings={"low_v": "50", "high_v": "690"}, tag="MC1")
    assert gear.built_into(the_site(), one("AV-1")).id == element_id("MC1")
    with the_site().connection(), pytest.raises(database.DatabaseError, match="fixed when it is added"):
        database.database.execute_sql("UPDATE gear SET glove_class = '4' WHERE number = 'G-21'")
    with the_site().connection(), pytest.raises(database.DatabaseError, match="append-only"):
        database.database.execute_sql("UPDATE gear_event SET good = 1")


class TestIssue:
    def test_the_first_issue_begins_the_interval(self, open_db):
        add()
        assert (one("G-90").in_service, one("G-90").holder) == (None, "")
        gear.issue(act("sorcha"), "G-90", "nils", "J-0002")
        assert (one("G-90").in_service, one("G-90").holder, one("G-90").held_for) == (TODAY, "Nils Abara", "J-0002")
        gear.give_back(act("nils", days=2), "G-90", "Drawer 3")
        gear.issue(act("nils", days=9), "G-90", "nils")
        assert one("G-90").in_service == TODAY and one("G-90").place == "Drawer 3"

    def test_what_it_is_issued_for_is_there_however_it_is_typed(self, open_db):
        gear.issue(act("maren"), "G-23", "nils", " ewp-0004 ")
        assert one("G-23").held_for == "EWP-0004"
        assert gear.bar(act("jory"), "G-23", "A cut at the thumb").stopped == ("EWP-0004",)
        with pytest.raises(InputError):
            gear.issue(act("maren"), "G-24", "nils", "EWP-9999")

    def test_what_nobody_may_use_and_what_another_has_is_not_issued(self, open_db):
        for number in ("M-9", "G-22", "G-08", "CO-12"):
            with pytest.raises(Refusal):
                gear.issue(act("maren"), number, "wanda")
        with pytest.raises(NotAllowed):
            gear.issue(act("nils"), "G-23", "wanda")
        with pytest.raises(NotAllowed):
            gear.give_back(act("wanda"), "CO-12", "")
        with pytest.raises(NotFound):
            gear.issue(act("maren"), "G-23", "nobody")
        add(tested=TODAY - timedelta(days=366))
        with pytest.raises(Refusal):
            gear.issue(act("maren"), "G-90", "wanda")

    def test_the_same_request_twice_is_done_once(self, open_db):
        once = Act(the_site(), act("nils").actor, act("nils").now, "r-1")
        gear.issue(once, "G-23", "nils")
        gear.issue(once, "G-23", "nils")
        assert [e.kind for e in gear.history(the_site(), "G-23")] == ["issued", "added"]


class TestOutOfUse:
    def test_a_test_clears_it_and_only_one_made_since(self, open_db):
        gear.bar(act("wanda"), "G-23", "A cut at the thumb")
        with pytest.raises(Refusal, match="a test alone"):
            gear.clear(act("maren"), "G-23", "Looked at it again, nothing there")
        with pytest.raises(InputError):
            gear.test(act("maren"), "G-23", TODAY - timedelta(days=1), "QT", "Lab", good=True)
        with pytest.raises(InputError):
            gear.test(act("maren"), "G-23", TODAY + timedelta(days=1), "QT", "Lab", good=True)
        gear.test(act("maren"), "G-23", TODAY, "QT", "Lab", good=False)
        assert one("G-23").barred
        gear.test(act("maren"), "G-23", TODAY, "QT 2", "Lab", good=True)
        assert (one("G-23").barred, one("G-23").tested, one("G-23").certificate) == ("", TODAY, "QT 2")

    def test_what_has_no_test_is_cleared_by_the_coordinator_with_what_was_done(self, open_db):
        gear.bar(act("nils"), "H-03", "Visor scratched")
        gear.clear(act("maren"), "H-03", "A new visor of the maker fitted")
        assert not one("H-03").barred
        with pytest.raises(Refusal):
            gear.clear(act("maren"), "H-03", "A new visor of the maker fitted")

    def test_what_is_retired_comes_back_by_nothing(self, open_db):
        gear.retire(act("maren"), "M-14", "Crushed by a pallet")
        for do in (
            lambda: gear.test(act("maren"), "M-14", TODAY, "", "Lab", good=True), lambda: gear.issue(act("maren"), "M-14", "nils"),
            lambda: gear.clear(act("maren"), "M-14", "Found it whole after all"), lambda: inspect("M-14"),
        ):  # fmt: skip
            with pytest.raises((Refusal, InputError)):
                do()
        assert "M-14" not in {i.number for i in instruments.everything(the_site(), TODAY)}

    def test_what_is_retired_is_looked_back_at_and_not_while_somebody_has_it(self, open_db):
        with pytest.raises(Refusal):
            gear.retire(act("maren"), "CO-12", "Torn at the knee")
        number = TestLookBack().isolated()
        gear.retire(act("maren", minutes=1), "M-12", "Its lead was nicked all along")
        assert proofs(number) == [] and one("M-12").retired

    def test_a_number_that_only_looks_the_same_is_refused(self, open_db):
        for number in ("M\N{HYPHEN}12", "\N{GREEK CAPITAL LETTER MU}-12", "m-12", " M-12 "):
            with pytest.raises(InputError):
                add(number)

    def test_another_that_fits_is_rated_at_least_alike(self, open_db):
        assert [i.number for i in gear.others(the_site(), one("M-12"), TODAY)] == []
        assert [i.number for i in gear.others(the_site(), one("M-9"), TODAY)] == ["M-12", "M-14", "M-16"]
        assert "G-22" not in [i.number for i in gear.others(the_site(), one("G-23"), TODAY)]


class TestLookBack:
    """An instrument goes out of use: what it proved since its last good look is to be proved again."""

    def isolated(self, tag="CTL-1"):
        number = under_way(tag)
        assert program_view.view(the_site(), number).state == "done" and proofs(number)
        return number

    def test_a_proof_made_with_it_is_over_and_who_relies_on_it_is_told(self, open_db):
        number = self.isolated()
        box.take(act("sorcha"), number)
        box.hang(act("nils"), number, "PL-90")
        touched = gear.bar(act("jory", minutes=1), "M-12", "I dropped it this morning")
        assert number in touched.proofs and proofs(number) == []
        with the_site().connection():
            assert box.box_of(the_site().as_it_is(), number).unsound
        said = records.entries(the_site(), subject=f"program:{number}")
        assert any(e.act == "people warned" for e in said)
        assert verify(the_site().path).found == ()

    def test_another_instrument_takes_nothing_along(self, open_db):
        number = self.isolated()
        for other in ("M-14", "D-3", "L-5", "G-23"):
            assert gear.bar(act("jory", minutes=1), other, "I dropped it this morning").proofs == ()
        assert proofs(number)

    def test_a_good_look_since_ends_the_looking_back(self, open_db):
        number = self.isolated()
        assert inspect("M-12", "bram", seconds=60).failed is None
        assert gear.bar(act("jory", minutes=2), "M-12", "I dropped it this morning").proofs == ()
        assert proofs(number)

    def test_a_look_before_it_was_used_does_not(self, open_db):
        number = under_way("CTL-1", until="start")
        assert inspect("M-12", "bram").failed is None
        run(number)
        assert gear.bar(act("jory", minutes=2), "M-12", "I dropped it this morning").proofs == (number,)

    def test_a_clock_that_was_wrong_hides_no_proof(self, open_db):
        """Looked at while the clock ran a day ahead, then used: the look came first, whatever its time says."""
        number = under_way("CTL-1", until="start")
        assert inspect("M-12", "bram", seconds=86_400).failed is None
        run(number)
        assert number in gear.bar(act("jory", days=2), "M-12", "I dropped it this morning").proofs

    def test_a_look_between_the_first_check_and_the_test_hides_nothing(self, open_db):
        number = under_way("CTL-1", until="proof")
        assert inspect("M-12", "bram", seconds=1).failed is None
        run(number)
        assert number in gear.bar(act("jory", minutes=2), "M-12", "I dropped it this morning").proofs

    def test_a_test_that_is_entered_late_hides_nothing_that_was_done_since_it_was_made(self, open_db):
        number = self.isolated()
        later = act("maren", days=5)
        gear.test(later, "M-12", TODAY - timedelta(days=2), "QT", "Lab", good=True)
        assert number in gear.bar(act("jory", days=6), "M-12", "I dropped it this morning").proofs

    def test_a_second_crew_is_touched_as_well_and_a_failing_test_looks_back_too(self, open_db):
        first = self.isolated("CTL-1")
        second = programs.draft(act("maren"), start_job("P-31"))
        ready(second)
        assert run(second).state == "done"
        gear.test(act("maren", minutes=1), "M-12", TODAY, "QT", "Lab", good=False)
        assert proofs(first) == [] == proofs(second)

    @pytest.mark.parametrize("beside", ["LD-1", "PU-1"])
    def test_leads_and_a_proving_unit_take_along_what_was_proved_with_them(self, open_db, beside):
        number = under_way("CTL-1", until="instrument_before")
        for typed in ("M-14", "none such", "LD-1, G-23", "LD-1 LD-99"):
            with pytest.raises(InputError) as error:
                confirm(number, with_it=typed)
            assert error.value.field == "with_it"
        if beside == "LD-1":
            # leads below the voltage, or the category, of a place that is tested
            for weak, ratings in (
                ("LD-8", {"high_v": "20", "category": "4"}),
                ("LD-9", {"high_v": "600", "category": "2"}),
            ):
                told = gear.NewItem(number=weak, kind_id="leads", ratings=ratings, tested=TODAY)
                gear.add(act("maren"), told)
                with pytest.raises(InputError, match=weak):
                    confirm(number, with_it=weak)
        confirm(number, with_it=f" {beside.lower()} ")
        run(number)
        assert proofs(number)
        assert number in gear.bar(act("jory", minutes=1), beside, "A nick at the tip").proofs and proofs(number) == []

    def test_leads_that_go_out_of_use_while_they_are_used_void_what_they_showed(self, open_db):
        number = under_way("CTL-1", until="instrument_before")
        confirm(number, with_it="LD-1, PU-1")
        run(number, until="instrument_after")
        gear.bar(act("jory", minutes=1), "LD-1", "A nick at the tip")
        confirm(number)
        seen = program_view.view(the_site(), number)
        assert (seen.state, seen.current.value, proofs(number)) == ("stopped", "instrument_before", [])

    def test_a_program_under_way_with_it_goes_no_further(self, open_db):
        number = under_way("CTL-1", until="handover")
        assert proofs(number)
        gear.bar(act("jory", minutes=1), "M-12", "I dropped it this morning")
        assert program_view.view(the_site(), number).state == "stopped" and proofs(number) == []
        with pytest.raises(Refusal):
            confirm(number)


class TestInspection:
    def test_one_answer_that_is_not_good_takes_it_out_of_use_for_everybody(self, open_db):
        done = inspect("G-24", air_left="no")
        assert done.failed[0].id == "air_left" and one("G-24").barred
        with pytest.raises(Refusal):
            gear.issue(act("maren"), "G-24", "nils")
        with pytest.raises(InputError):
            inspect("G-24")

    def test_class_and_date_are_compared_not_ticked(self, open_db):
        assert inspect("G-24", glove_class="0").failed[0].id == "glove_class"
        assert inspect("G-23", tested="2020-01").failed[0].id == "tested"
        with pytest.raises(InputError):
            gear_inspection.inspect(act("wanda"), "G-16", good("G-16") | {"number": "G-08"})
        assert not one("G-16").barred and not one("G-08").barred, "another item in the hand is no fault of this one"

    def test_a_wrong_press_is_taken_back_by_whoever_pressed_within_half_a_minute(self, open_db):
        inspect("G-24", cuff="no")
        for login, seconds in (("nils", 5), ("wanda", 31), ("wanda", -600)):
            with pytest.raises(Refusal):
                gear_inspection.mispressed(act(login, seconds=seconds), "G-24")
        gear_inspection.mispressed(act("wanda", seconds=29), "G-24")
        assert not one("G-24").barred
        assert [e.kind for e in gear.history(the_site(), "G-24")[:3]] == ["mispressed", "barred", "inspected"]
        assert store.last_good(gear.row_of("G-24").id) == ("", 0), "a look that was taken back is no good look"
        # what somebody took out of use otherwise is taken back by no press
        gear.bar(act("wanda", minutes=2), "G-24", "A cut at the thumb")
        with pytest.raises(Refusal):
            gear_inspection.mispressed(act("wanda", minutes=2), "G-24")

    def test_an_answer_that_is_sent_twice_never_says_that_all_was_well(self, open_db):
        once = Act(the_site(), act("wanda").actor, act("wanda").now, "r-7")
        for _ in range(2):
            assert not gear_inspection.inspect(once, "G-24", good("G-24") | {"cuff": "no"}).good
        assert one("G-24").barred and [e.kind for e in gear.history(the_site(), "G-24")] == [
            "barred",
            "inspected",
            "added",
        ]

    def test_who_reads_out_is_another(self, open_db):
        with pytest.raises(InputError):
            gear_inspection.inspect(act("wanda"), "G-24", good("G-24"), "wanda")
        gear_inspection.inspect(act("wanda"), "G-24", good("G-24"), "sorcha")
        last = gear_inspection.last(the_site(), "G-24")
        assert (last["by"], last["read_by"], last["good"]) == ("Wanda Keogh", "Sorcha Maddern", True)

    def test_a_short_code_takes_out_of_use_and_brings_nothing_back(self, open_db):
        def short(login):
            a = act(login)
            return Act(a.site, replace(a.actor, short=True), a.now, None)

        gear_inspection.inspect(short("wanda"), "G-24", good("G-24") | {"cuff": "no"})
        assert one("G-24").barred
        with pytest.raises(NotAllowed):
            gear_inspection.mispressed(short("wanda"), "G-24")
        with pytest.raises(NotAllowed):
            gear.test(short("maren"), "G-24", TODAY, "", "Lab", good=True)
        assert codes and one("G-24").barred


def test_an_instrument_out_of_date_proves_nothing(open_db):
    number = under_way("CTL-1", until="start")
    run(number, until="instrument_before")
    late = MOMENT + timedelta(days=400)
    a = act("ivo")
    seen = program_view.view(the_site(), number)
    assert instruments.one(the_site(), "M-12", late.date()).barred
    choices = dict(
        (i.number, bool(why)) for i, why in instruments.to_choose(the_site(), seen, seen.current, a.now.date())
    )
    assert choices["M-9"] and choices["M-2"] and not choices["M-12"]
    assert all(why for _, why in instruments.to_choose(the_site(), seen, seen.current, late.date()))


def test_the_register_goes_out_and_comes_back_into_an_empty_site(open_db, tmp_path):
    text = gear_csv.exported(the_site())
    rows = list(csv.DictReader(io.StringIO(text)))
    assert len(rows) == len(gear.everything(the_site()))
    assert {r.done.code for r in gear_csv.import_(act("maren"), text)} == {"csv-as-it-is"}
    text = "number,kind,glove_class,size,tested\nG-91,gloves,0,9,2026-10-01\nG-92,gloves,7,9,2026-10-01\nG-93,cape,,,\n"
    report = gear_csv.import_(act("maren"), text)
    assert [r.wrong is None for r in report] == [True, False, False] and one("G-91").rating.glove_class == "0"
    with pytest.raises(InputError):
        gear_csv.import_(act("maren"), "name\nx\n")
    other = setup.open_site(tmp_path / "other.sqlite3")
    assert gear.everything(other) == [] and one("G-91"), "a second site in one process has a register of its own"


def test_a_shorter_interval_holds_at_once(open_db):
    assert not one("SL-1").barred and one("SL-1").interval.months == 12
    with pytest.raises(InputError):
        gear_intervals.shorten(act("maren"), "gloves", 7, "Longer, if I may")
    gear_intervals.shorten(act("maren"), "sleeves", 3, "Salt air")
    assert one("SL-1").interval.months == 3
    with pytest.raises(Refusal):
        gear.issue(act("maren"), "SL-1", "nils")
