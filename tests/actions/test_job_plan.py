"""Plans of jobs: who is on two things, parts of one job, one begun as another was, and whether the store suffices."""

import itertools
from datetime import timedelta

import pytest

from demo_acts import DESIGN, HAZARD, MOMENT, act, element_id, person, the_site
from saying import en
from spinel.actions import gear, job_plan, job_week, jobs, permits, rosters
from spinel.actions.job_plan import Planned
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.gear.matching import most_dressed

pytestmark = pytest.mark.usefixtures("open_db")
WHY = "The ramp sinks on to the deck while passengers are aboard"


def version(number):
    return jobs.view(the_site(), number).version


def started(title="Tighten a joint", **ties):
    return job_plan.start(act("maren"), element_id("MC1"), "retorque", title, "bus", **ties)


def live(number):
    jobs.answer(act("maren"), number, version(number), HAZARD, "added_hazard", WHY, "bus")
    return number


def planned(number, start=1, end=3, workers=("wanda",), lead="sorcha", attendants=("jory",), remarks="Tide at noon"):
    when = Planned(
        start=MOMENT + timedelta(hours=start), end=MOMENT + timedelta(hours=end), in_charge=person(lead), remarks=remarks,
        workers=tuple(person(w) for w in workers), attendants=tuple(person(a) for a in attendants),
    )  # fmt: skip
    job_plan.plan(act("maren"), number, version(number), when)
    return number


def test_a_permit_takes_people_window_and_remarks_from_the_plan():
    number = planned(live(started()))
    content = permits.view(the_site(), permits.draft(act("maren"), number), MOMENT).content
    assert content["special"] == "Tide at noon" and content["people"]["in_charge"]["name"] == "Sorcha Maddern"
    assert [w["name"] for w in content["people"]["workers"]] == ["Wanda Keogh"]
    assert content["window"] == {"start": act("maren", hours=1).at, "end": act("maren", hours=3).at}


def test_without_a_plan_and_after_it_a_window_is_offered_from_now():
    number = permits.draft(act("maren"), live(started()))
    assert permits.view(the_site(), number, MOMENT).window_start == MOMENT.replace(second=0)
    late = planned(live(started("Another")), start=1, end=2)
    seen = permits.view(the_site(), permits.draft(act("maren", hours=5), late), MOMENT)
    assert seen.window_start == (MOMENT + timedelta(hours=5)).replace(second=0)


def test_a_plan_is_kept_only_where_it_can_be():
    number = started()
    for field, change in (
        ("end", {"start": 3, "end": 3}), ("end", {"start": -5, "end": -1}), ("end", {"start": 1, "end": 24 * 40}),
        ("workers", {"workers": ("ruth",)}), ("in_charge", {"lead": "wanda"}), ("attendants", {"attendants": ("wanda",)}),
    ):  # fmt: skip
        with pytest.raises(InputError) as error:
            planned(number, **change)
        assert error.value.field == field
    assert job_plan.of_job(the_site(), number) == Planned()
    with pytest.raises(NotAllowed):
        job_plan.plan(act("wanda"), number, 1, Planned())
    planned(number)
    with pytest.raises(Stale):
        job_plan.plan(act("maren"), number, 1, job_plan.of_job(the_site(), number))


def test_who_is_on_two_jobs_is_named_until_one_of_them_is_moved():
    first, second = planned(started(), start=61, end=63), planned(started("Another"), start=62, end=64)
    window = MOMENT + timedelta(hours=62), MOMENT + timedelta(hours=64)
    found = rosters.elsewhere(the_site(), second, [person("wanda")], window, MOMENT)
    assert found[person("wanda")].number == first
    planned(first, start=65, end=66)
    assert rosters.elsewhere(the_site(), second, [person("wanda")], window, MOMENT) == {}
    # a job whose permit is asked for is on the roster once, by its permit
    permit = permits.draft(act("maren"), live(planned(started("Third"), start=62, end=64, workers=("nils",))))
    from spinel.actions import permit_approval

    permit_approval.submit(act("maren"), permit, permits.view(the_site(), permit, MOMENT).version)
    mine = [d for d in rosters.duties(the_site(), MOMENT)[person("nils")] if d.start == window[0]]
    assert [d.kind for d in mine] == ["permit"]


def test_parts_share_a_plan_and_the_one_that_leads_closes_last():
    lead = planned(started())
    part = started("The other end", part_of=lead)
    of_part = started("A third", part_of=part)
    assert [t.number for t in job_plan.together(the_site(), of_part)] == [lead, part, of_part]
    assert job_plan.of_job(the_site(), of_part) == job_plan.of_job(the_site(), lead)
    with pytest.raises(Refusal, match="share one plan"):
        planned(part)
    with pytest.raises(Refusal, match="after its parts"):
        jobs.cancel(act("maren"), lead, version(lead), "No longer")
    for number in (part, of_part, lead):
        jobs.cancel(act("maren"), number, version(number), "No longer")
    for wrong in (lead, "J-9999", "EWP-0001"):
        with pytest.raises(InputError, match="part_of"):
            started(part_of=wrong)


def test_what_is_begun_like_another_decides_nothing_by_itself():
    """Answers yes and no, and the claim, are given anew: a job begun like a live one is not live."""
    old = live(started())
    assert jobs.view(the_site(), old).decision.permit
    new = started(as_in=old)
    seen = jobs.view(the_site(), new)
    assert seen.claim.id == "none" and not seen.decision.permit and not seen.decision.live
    assert "hazard_named" in seen.facts and not {"no_other_time", "confirmed_by", "no_other_supply"} & set(seen.facts)
    said = [en(line) for line in job_plan.since(the_site(), new)]
    assert any("claimed" in line for line in said) and any("nothing to compare" in line for line in said)
    for element, task in (("MC1", "operate"), ("BB-1", "retorque")):
        with pytest.raises(InputError):
            job_plan.start(act("maren"), element_id(element), task, "Otherwise", "", as_in=old)
    with pytest.raises(InputError, match="as_in"):
        started(as_in="J-9999")
    assert old in [e.number for e in job_plan.earlier(the_site(), element_id("MC1"), "retorque")]
    assert DESIGN


def test_the_week_names_who_clashes_and_what_the_store_cannot_dress():
    today = the_site().as_it_is().day(MOMENT)
    monday = today - timedelta(days=today.weekday())
    one = live(planned(started(), start=1, end=2, workers=("wanda", "nils")))
    days = {d.on: d for d in job_week.week(the_site(), monday, MOMENT)}
    assert len(days) == 7 and one in [s.number for s in days[today].stretches]
    stretch = next(s for s in days[today].stretches if s.number == one)
    assert "Wanda Keogh" in stretch.people
    # nothing arc-rated is left in store: nobody can be dressed, and it is said for that day
    for item in gear.everything(the_site()):
        if item.kind_id in ("arc_shirt", "arc_coverall", "arc_jacket") and not item.retired and item.holder_id is None:
            gear.retire(act("maren"), item.number, "Burnt in the drill")
    short = next(d for d in job_week.week(the_site(), monday, MOMENT) if d.on == today).short
    trunk = next(s for s in short if s.zone == "trunk")
    assert trunk.dressed < trunk.people and one in trunk.jobs


@pytest.mark.parametrize("seed", range(30))
def test_a_largest_matching_is_what_trying_out_every_assignment_gives(seed):
    """Against brute force over all assignments of items to people."""
    import random

    rng = random.Random(seed)
    items = [f"G-{i}" for i in range(rng.randint(0, 4))]
    fits = {i: [x for x in items if rng.random() < 0.5] for i in range(rng.randint(0, 4))}
    best = 0
    for choice in itertools.product(*[[*own, None] for own in fits.values()]):
        worn = [c for c in choice if c]
        if len(worn) == len(set(worn)):
            best = max(best, len(worn))
    assert most_dressed(fits) == best


def test_what_is_ahead_is_ones_own_and_nothing_that_is_over():
    number = planned(started(), start=70, end=72, workers=("nils",))
    numbers = lambda who, everybody=False, hours=0: [  # noqa: E731
        a.number for a in job_plan.ahead(the_site(), person(who), everybody, MOMENT + timedelta(hours=hours))
    ]
    assert number in numbers("nils") and number not in numbers("wanda") and number in numbers("wanda", everybody=True)
    assert number not in numbers("nils", hours=72) and numbers("edda") == []


def test_a_permit_that_ran_out_is_on_the_roster_now_and_in_no_ones_way_tomorrow():
    duty = next(d for d in rosters.duties(the_site(), MOMENT)[person("nils")] if d.late)
    now, tomorrow = MOMENT, MOMENT + timedelta(days=1)
    assert rosters.clashes(duty, now, now + timedelta(hours=1), MOMENT)
    assert not rosters.clashes(duty, tomorrow, tomorrow + timedelta(hours=1), MOMENT)
