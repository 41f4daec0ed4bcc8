"""What somebody may be put to: what was taught and shown, exchanged and attended, and what becomes of it when it ends."""

import random
from calendar import monthrange
from datetime import date, timedelta

import pytest

from demo_acts import MOMENT, act, permits_of, person, the_site
from spinel.actions import (
    console,
    exchanges,
    falling_due,
    may_do,
    people_csv,
    permit_moves,
    program_view,
    qualifying,
    register,
    rosters,
    site_settings,
    standing,
)
from spinel.actions.equipment import equipment_classes
from spinel.actions.exchanges import Told
from spinel.actions.qualifying import Learnt
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.people import COURSES, TASK, months_after
from spinel.core.profile import NORTH_AMERICAN
from spinel.store import people as store

TODAY = date(2026, 11, 24)
MCC = "motor control center"


def shown(login, how, day=TODAY, task_id="retorque", by="Sorcha Maddern", **more):
    learnt = Learnt(course=TASK, how=how, day=day, seen_by=by, task_id=task_id, classes=(MCC,), **more)
    return qualifying.record(act("maren"), login, learnt)


def may(login, task_id="retorque", on=TODAY, kind=MCC):
    here = the_site().as_it_is()
    try:
        standing.need(here, person(login), login, task_id, kind, on)
    except Refusal as refusal:
        return refusal
    return None


@pytest.fixture(autouse=True)
def _in(open_db):
    pass


class TestShown:
    def test_three_years_from_the_day_it_was_observed_and_not_a_day_longer(self):
        """Retraining at intervals not to exceed three years: NFPA 70E-2021 110.6(A)(3), from memory."""
        assert shown("temi", "observed") == date(2029, 11, 24)
        assert may("temi", on=date(2029, 11, 24)) is None
        assert may("temi", on=date(2029, 11, 25)) is not None
        assert may("temi", on=TODAY - timedelta(days=1)) is not None

    def test_a_later_last_day_is_refused_and_an_earlier_one_kept(self):
        with pytest.raises(Refusal, match="counts until"):
            shown("temi", "observed", until=date(2029, 11, 25))
        assert shown("temi", "observed", until=date(2027, 1, 1)) == date(2027, 1, 1)

    def test_being_taught_or_supervised_grants_nothing(self):
        assert shown("dagny", "trained") is None and shown("dagny", "supervised") is None
        assert may("dagny") is not None

    def test_nobody_is_qualified_by_one_look(self):
        with pytest.raises(Refusal, match="not taught"):
            shown("eero", "observed")
        shown("eero", "trained", day=TODAY - timedelta(days=3))
        assert shown("eero", "tested") is None and may("eero") is not None
        shown("eero", "observed")
        assert may("eero") is None

    def test_being_taught_at_one_class_of_equipment_is_nothing_at_another(self):
        learnt = Learnt(course=TASK, how="observed", day=TODAY, seen_by="Sorcha Maddern", task_id="retorque",
                        classes=(MCC, "medium-voltage switchgear"))  # fmt: skip
        with pytest.raises(Refusal, match="each of these"):
            qualifying.record(act("maren"), "temi", learnt)
        assert may("temi") is not None

    def test_nothing_from_elsewhere_counts_longer_than_what_is_shown_today(self):
        with pytest.raises(Refusal, match="counts until"):
            qualifying.from_elsewhere(act("maren"), "edda", [("test", MCC)], date(2029, 11, 25))
        qualifying.from_elsewhere(act("maren"), "edda", [("test", MCC)], date(2029, 11, 24))

    def test_nobody_saw_it_themselves(self):
        with pytest.raises(InputError, match="somebody else"):
            shown("temi", "observed", by="temi  RUSK")

    @pytest.mark.parametrize("day", [TODAY + timedelta(days=1), date(2016, 11, 23)])
    def test_nothing_is_shown_tomorrow_or_counts_after_ten_years(self, day):
        with pytest.raises(InputError):
            shown("temi", "trained", day=day)

    def test_a_look_that_counts_for_less_takes_nothing_away(self):
        held = {(q.task_id, q.equipment_class): q.until for q in store.held_by(person("nils"))}[("retorque", MCC)]
        assert held == TODAY + timedelta(days=210)
        shown("nils", "observed", until=TODAY + timedelta(days=5))
        assert may("nils", on=held) is None

    def test_what_ran_out_begins_anew(self):
        assert may("bram") is not None
        shown("bram", "observed")
        own = next(q for q in store.held_by(person("bram")) if (q.task_id, q.equipment_class) == ("retorque", MCC))
        assert own.since == TODAY and may("bram") is None
        assert may("bram", on=TODAY - timedelta(days=1)) is not None

    def test_only_a_coordinator_records_it(self):
        with pytest.raises(NotAllowed):
            qualifying.record(
                act("sorcha"), "temi", Learnt(course="cpr", how="trained", day=TODAY, seen_by="Orla Fenn")
            )

    def test_months_end_where_the_calendar_says(self):
        """Against the standard library's calendar, month by month."""
        rng = random.Random(11)
        for _ in range(300):
            day, months = date(2020, 1, 1) + timedelta(days=rng.randrange(4000)), rng.randrange(1, 60)
            found = months_after(day, months)
            assert (found.year * 12 + found.month) - (day.year * 12 + day.month) == months
            assert found.day == min(day.day, monthrange(found.year, found.month)[1])


class TestWithdrawn:
    def test_what_they_are_at_with_it_stands_still_at_once(self):
        stopped = qualifying.withdraw(act("maren"), "wanda", "replace", "panelboard", "Seen reaching behind a barrier")
        assert stopped == ["EWP-0003"]
        seen = permits_of("EWP-0003")
        assert (
            seen.state == "suspended" and "no longer qualified" in str(seen.suspended_because)
        ) or seen.state == "suspended"
        assert permits_of("EWP-0004").state == "in_force"
        assert may("wanda", "replace", kind="panelboard") is not None

    def test_it_does_not_come_back_by_an_older_look_or_an_older_table(self):
        """Taken from somebody on a day, it is theirs again only by what was shown on that day or later."""
        table = people_csv.exported(the_site(), "qualifications")
        qualifying.withdraw(act("maren"), "nils", "retorque", MCC, "Reached behind a barrier")
        report = people_csv.import_(act("maren"), "qualifications", table)
        assert [row.what for row in report if row.wrong] == [f"nils retorque {MCC}"]
        with pytest.raises(Refusal, match="withdrawn"):
            qualifying.from_elsewhere(act("maren"), "nils", [("retorque", MCC)], TODAY + timedelta(days=9))
        shown("nils", "trained", day=TODAY - timedelta(days=2))
        with pytest.raises(Refusal, match="withdrawn"):
            shown("nils", "observed", day=TODAY - timedelta(days=1))
        assert may("nils") is not None and may("nils", kind="panelboard") is None
        shown("nils", "observed")
        assert may("nils") is None

    def test_whoever_becomes_a_contractors_is_not_at_work_before_hazards_are_exchanged(self):
        register.describe(act("maren"), "wanda", {"employer": "contractor", "company": "Tidewick Switch Works"})
        assert permits_of("EWP-0003").state == "suspended" and may("wanda", "replace", kind="panelboard") is not None

    def test_whoever_operates_is_stopped(self):
        operator = program_view.view(the_site(), "SP-0005").operator_id
        login = next(p.login for p in the_site().register() if p.id == operator)
        assert qualifying.withdraw(act("maren"), login, "operate", MCC, "Opened the wrong one") == ["SP-0005"]
        assert program_view.view(the_site(), "SP-0005").state == "stopped"

    def test_it_goes_on_only_with_somebody_who_is_qualified(self):
        """Resumed with the same operator it would go on as before."""
        operator = program_view.view(the_site(), "SP-0005").operator_id
        login = next(p.login for p in the_site().register() if p.id == operator)
        for q in store.held_by(operator):
            if q.task_id == "operate":
                qualifying.withdraw(act("maren"), login, "operate", q.equipment_class, "Opened the wrong one")
        stopped = program_view.view(the_site(), "SP-0005")
        with pytest.raises(Refusal, match="qualif"):
            console.resume(act("ivo"), "SP-0005", stopped.version, "They said sorry")
        assert program_view.view(the_site(), "SP-0005").state == "stopped"

    def test_no_step_is_confirmed_with_an_operator_who_has_left(self):
        seen = program_view.view(the_site(), "SP-0005")
        login = next(p.login for p in the_site().register() if p.id == seen.operator_id)
        register.leave(act("maren"), login, "Went home for good")
        with pytest.raises(Refusal, match="has left"):
            console.confirm(act("ivo"), "SP-0005", seen.done + 1, seen.version, {})
        assert program_view.view(the_site(), "SP-0005").done == seen.done

    def test_what_nobody_holds_is_not_withdrawn(self):
        with pytest.raises(InputError):
            qualifying.withdraw(act("maren"), "temi", "retorque", MCC, "because")


class TestCourses:
    def test_lacking_one_is_named_or_refused_as_the_site_decides(self):
        qualifying.from_elsewhere(act("maren"), "edda", [("retorque", MCC)], TODAY + timedelta(days=9))
        assert may("edda") is None
        site_settings.change(act("tavi"), "training_rule", "refused", "Nobody works live without release training")
        refused = may("edda")
        assert refused is not None and "contact release" in str(refused)
        for course in NORTH_AMERICAN.training.each:
            qualifying.record(
                act("maren"), "edda", Learnt(course=course, how="trained", day=TODAY, seen_by="Orla Fenn")
            )
        assert may("edda") is None

    def test_it_counts_for_the_months_that_the_practice_says(self):
        """Contact release and first aid verified yearly, lockout every three: NFPA 70E-2021 110.6, from memory."""
        for course, months in (("release", 12), ("cpr", 12), ("first_aid", 12), ("lockout", 36)):
            until = qualifying.record(
                act("maren"), "edda", Learnt(course=course, how="trained", day=TODAY, seen_by="Orla Fenn")
            )
            assert until == months_after(TODAY, months)

    def test_one_taught_later_says_nothing_of_a_day_before(self):
        qualifying.record(act("maren"), "edda", Learnt(course="release", how="trained", day=TODAY, seen_by="Orla Fenn"))
        here, one = the_site().as_it_is(), next(p for p in the_site().register() if p.login == "edda")
        lines = standing.standing(here, one, standing.shown_by_all(), "test", (MCC,), TODAY - timedelta(days=1)).lines
        assert next(line for line in lines if line.what == "release").until is None

    @pytest.mark.parametrize("course", [*COURSES, "task"])
    def test_every_course_has_its_months(self, course):
        assert 0 < NORTH_AMERICAN.training.months[course] <= 36


class TestFromElsewhere:
    TOLD = Told(guest="noor", work="Read the relays", told="Live bus behind every door of the switchgear",
                from_day=TODAY, until=TODAY + timedelta(days=3))  # fmt: skip

    def _noor(self):
        qualifying.from_elsewhere(act("maren"), "noor", [("test", MCC)], TODAY + timedelta(days=90))
        return may("noor", "test")

    def test_nobody_is_put_to_work_before_both_have_signed(self):
        assert "not exchanged" in str(self._noor())
        number = exchanges.offer(act("sorcha"), self.TOLD)
        assert may("noor", "test") is not None
        exchanges.sign(act("noor"), number, 1, "A laptop, and nothing else")
        assert may("noor", "test") is None
        assert may("noor", "test", on=TODAY + timedelta(days=4)) is not None

    def test_each_side_signs_its_own(self):
        number = exchanges.offer(act("sorcha"), self.TOLD)
        for login in ("sorcha", "maren", "dag"):
            with pytest.raises(NotAllowed):
                exchanges.sign(act(login), number, 1, "They bring nothing")
        with pytest.raises(InputError):
            exchanges.offer(act("sorcha"), Told(**{**vars(self.TOLD), "guest": "nils"}))

    def test_it_is_not_told_for_yesterday_nor_for_ever(self):
        for days in (
            {"from_day": TODAY - timedelta(days=1)},
            {"until": date(2027, 11, 25)},
            {"until": TODAY - timedelta(days=1)},
        ):
            with pytest.raises(InputError):
                exchanges.offer(act("sorcha"), Told(**{**vars(self.TOLD), **days}))

    def test_what_they_lead_stands_still_as_well(self):
        """Somebody from elsewhere who leads the job and works on nothing."""
        about = {"employer": "contractor", "company": "Tidewick Switch Works"}
        register.describe(act("maren"), "jory", about)
        number = exchanges.offer(act("maren"), Told(**{**vars(self.TOLD), "guest": "jory"}))
        exchanges.sign(act("jory"), number, 1, "Nothing at all")
        stopped = exchanges.end(act("maren"), number, 2, "They have left the site")
        assert {"EWP-0003", "EWP-0004", "EWP-0006"} <= set(stopped)

    def test_once_ended_their_work_stands_still(self):
        assert may("dag") is None
        seen = permits_of("EWP-0004")
        permit_moves.brief(
            act("sorcha"),
            "EWP-0004",
            seen.version,
            list(NORTH_AMERICAN.briefing),
            [person("dag")],
            "Mind the wet floor",
        )
        assert exchanges.end(act("maren"), "HX-0001", 2, "Their grinder sparks") == ["EWP-0004"]
        assert permits_of("EWP-0004").state == "suspended" and may("dag") is not None


class TestWhoMay:
    def test_every_lane_says_what_the_act_would(self):
        """Against the refusal of each person, task and class, on days around what ends."""
        for task_id in ("retorque", "operate", "test", "inspect"):
            for kind in (MCC, "panelboard", "transformer"):
                for days in (0, 30, 100, 300):
                    on = TODAY + timedelta(days=days)
                    found = may_do.who_may(the_site(), task_id, (kind,), on, MOMENT)
                    listed = {lane.person.login for lane in found.may}
                    for lane in (*found.may, *found.may_not):
                        works = lane.person.roles & (
                            may_do.WORKS | (may_do.SWITCHES if task_id == "operate" else frozenset())
                        )
                        assert (lane.person.login in listed) == (
                            may(lane.person.login, task_id, on, kind) is None and bool(works)
                        )
                        assert lane.may or lane.would_do

    def test_what_ends_first_is_no_later_than_any_line(self):
        found = may_do.who_may(the_site(), "retorque", (MCC,), TODAY, MOMENT)
        assert [lane.person.login for lane in found.may]
        for lane in found.may:
            assert all(lane.first.until <= line.until for line in lane.standing.lines if line.holds(TODAY))
        reasons = {lane.person.login: lane.in_the_way.code for lane in found.may_not}
        assert reasons["bram"] == "may-not-ran-out" and reasons["temi"] == "may-not-learning"

    def test_whoever_may_at_one_end_may_not_therefore_at_the_other(self):
        """A feeder's cable: its far end lies in a control center, its near one in the switchboard."""
        here = the_site().as_it_is()
        for element in here.network.elements:
            kinds = equipment_classes(here.network, element)
            listed = {lane.person.login for lane in may_do.who_may(the_site(), "retorque", kinds, TODAY, MOMENT).may}
            at_each = [
                {p.login for p in the_site().register() if p.active and may(p.login, "retorque", TODAY, k) is None}
                for k in kinds
            ]
            works = {p.login for p in the_site().register() if "worker" in p.roles}
            assert listed == set.intersection(*at_each) & works, element.tag
        assert len(equipment_classes(here.network, here.network.by_tag["W-T1"])) == 2

    def test_who_has_not_done_it_for_a_year_is_named(self):
        """Retrained before a task done less often than once a year: NFPA 70E-2021 110.6(A)(3), from memory."""
        shown("dagny", "trained", day=TODAY - timedelta(days=500))
        shown("dagny", "observed", day=TODAY - timedelta(days=400))
        lanes = {lane.person.login: lane for lane in may_do.who_may(the_site(), "retorque", (MCC,), TODAY, MOMENT).may}
        assert lanes["dagny"].out_of_practice and not lanes["nils"].out_of_practice
        assert lanes["nils"].done == TODAY - timedelta(days=12)
        shown("dagny", "supervised")
        lanes = {lane.person.login: lane for lane in may_do.who_may(the_site(), "retorque", (MCC,), TODAY, MOMENT).may}
        assert not lanes["dagny"].out_of_practice

    def test_whoever_left_is_on_no_lane_and_may_nothing(self):
        register.leave(act("maren"), "nils", "Moved away")
        found = may_do.who_may(the_site(), "retorque", (MCC,), TODAY, MOMENT)
        assert "nils" not in {lane.person.login for lane in (*found.may, *found.may_not)}
        nils = next(p for p in the_site().register() if p.login == "nils")
        with pytest.raises(Refusal, match="has left"):
            standing.need(the_site().as_it_is(), nils.id, nils.name, "retorque", MCC, TODAY)


class TestRosters:
    def test_two_at_once_are_found_as_a_look_at_every_pair_finds_them(self):
        each = rosters.duties(the_site(), MOMENT)
        found = rosters.at_once(each)
        for person_id, own in each.items():
            ends = [(d.start, None if d.late else d.end) for d in own]
            clash = any(
                (a[1] is None or b[0] < a[1]) and (b[1] is None or a[0] < b[1])
                for i, a in enumerate(ends) for b in ends[i + 1 :]
            )  # fmt: skip
            assert clash == (person_id in found)
        assert person("nils") in found

    def test_a_permit_that_ran_out_goes_on_until_it_is_handed_back(self):
        own = rosters.duties(the_site(), MOMENT)[person("nils")]
        late = next(d for d in own if d.number == "EWP-0002")
        assert late.late and late.meets(MOMENT + timedelta(days=2), None)

    def test_a_program_began_when_it_was_started_and_not_at_its_last_step(self):
        seen = program_view.view(the_site(), "SP-0005")
        started = next(r.at for r in seen.records if r.kind == "started")
        own = rosters.duties(the_site(), MOMENT)[seen.director_id]
        assert [d.start.strftime("%Y-%m-%dT%H:%M:%SZ") for d in own if d.number == "SP-0005"] == [started]
        assert started < seen.changed_at

    def test_what_is_only_asked_for_keeps_nobody(self):
        lanes = may_do.who_may(the_site(), "retorque", (MCC,), TODAY, MOMENT)
        later = MOMENT + timedelta(hours=3)
        # EWP-0005 is asked for then, and EWP-0006 is issued until then
        wanda = next(lane for lane in lanes.may if lane.person.login == "wanda")
        assert wanda.busy(later).number == "EWP-0006"
        assert wanda.busy(MOMENT + timedelta(hours=4, minutes=30)) is None


class TestFallingDue:
    def test_it_is_what_a_look_at_every_row_finds(self):
        found = falling_due.listed(the_site(), TODAY, within=90)
        tasks = {(d.person.id, d.on) for d in found if d.what == TASK}
        expected = {
            (p.id, q.until) for p in the_site().register() for q in store.held_by(p.id)
            if TODAY - timedelta(days=90) <= q.until <= TODAY + timedelta(days=90)
        }  # fmt: skip
        assert tasks == expected and expected
        assert [d.on for d in found] == sorted(d.on for d in found)
        assert {d.stage(TODAY) for d in found} >= {0, 30}

    def test_an_address_shows_ones_own_and_everybodys_to_a_coordinator_until_they_leave(self):
        mine, all_ = falling_due.new_address(act("wanda")), falling_due.new_address(act("maren"))
        _, own = falling_due.calendar(the_site(), mine, MOMENT)
        _, everybodys = falling_due.calendar(the_site(), all_, MOMENT)
        assert {d.person.login for d in own} == {"wanda"} and len({d.person.login for d in everybodys}) > 3
        newer = falling_due.new_address(act("wanda"))
        register.leave(act("maren"), "wanda", "Moved away")
        for token in (mine, newer, "x" * 32, ""):
            with pytest.raises(Exception, match="calendar"):
                falling_due.calendar(the_site(), token, MOMENT)


class TestTables:
    def test_what_goes_out_comes_back_as_it_is(self):
        for kind in people_csv.COLUMNS:
            out = people_csv.exported(the_site(), kind)
            report = people_csv.import_(act("maren"), kind, out)
            assert len(report) > 3 and all(row.wrong is None for row in report)
            assert {getattr(row.done, "code", "") for row in report} == {"csv-as-it-is"}
            assert people_csv.exported(the_site(), kind) == out

    def test_each_row_stands_for_itself(self):
        table = "login,name,roles,employer,company\nnora,Nora Vik,worker,own,\nNORA,Nora Vik,worker,own,\nx y,Bad Login,worker,own,\nolaf,Olaf Vik,king,own,\nlena,Lena Vik,worker,contractor,\n"
        report = people_csv.import_(act("maren"), "people", table)
        assert [row.wrong is None for row in report] == [True, True, False, False, False]
        assert [p.name for p in the_site().register() if p.login == "nora"] == ["Nora Vik"]

    def test_no_cell_is_a_formula_and_none_is_lost(self):
        register.describe(act("maren"), "nils", {"trade": "=HYPERLINK(1)", "languages": "@x", "phone": "+45 12"})
        out = people_csv.exported(the_site(), "people")
        assert "'=HYPERLINK" in out and "'@x" in out and ",=" not in out
        assert {getattr(r.done, "code", "") for r in people_csv.import_(act("maren"), "people", out)} == {
            "csv-as-it-is"
        }

    @pytest.mark.parametrize("table", ["", "login\nx", "a,b\n1,2", "\x00"])
    def test_what_is_no_table_is_refused_whole(self, table):
        with pytest.raises(InputError):
            people_csv.import_(act("maren"), "people", table)

    def test_a_shorter_qualification_takes_nothing_away(self):
        table = f"login,task,equipment_class,until\nnils,retorque,{MCC},2026-11-25\nnils,retorque,{MCC},2028-01-01\n"
        report = people_csv.import_(act("maren"), "qualifications", table)
        assert [getattr(r.done, "code", "") for r in report] == ["csv-as-it-is", "csv-qualified"]
