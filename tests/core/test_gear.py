"""Gear: intervals, the look before use, and what fits where. Tables from memory of the sources named."""

import random
from dataclasses import replace
from datetime import date, timedelta

import pytest

from spinel.core.errors import InputError
from spinel.core.gear import fit
from spinel.core.gear.inspection import NUMBER, challenges, looked_at
from spinel.core.gear.items import Item, Rating, as_instrument, due, interval, months_after, state, why_not
from spinel.core.gear.kinds import KINDS
from spinel.core.isolation.instruments import Place, unfit
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.tables.nfpa70e_shock import RULES
from spinel.core.tables.north_american import INTERVALS
from spinel.demo.gear import read_off

TODAY = date(2026, 11, 24)


def item(kind="gloves", **more):
    rating = {"glove_class": "0", "arc_rating_cal_cm2": 12, "low_v": 12, "high_v": 1000, "category": 3, "ac": True,
              "dc": True, "withstand_ka": 20, "withstand_s": 0.5} | more.pop("rating", {})  # fmt: skip
    known = {"tested": date(2026, 9, 1), "interval": INTERVALS.get(kind), "size": "10"}
    return Item(number="X-1", kind_id=kind, rating=Rating(**rating), **(known | more))


#: 29 CFR 1910.137 table I-5, from memory: months between tests; line-live tools 1910.269(j)(2)(iii), two years.
@pytest.mark.parametrize(
    ("kind", "months"), [("gloves", 6), ("sleeves", 12), ("blanket", 12), ("hot_stick", 24), ("rescue_hook", 24)]
)
def test_intervals_are_those_of_the_regulations(kind, months):
    assert INTERVALS[kind].months == months and "1910" in INTERVALS[kind].source


@pytest.mark.parametrize(
    ("tested", "first_issued", "last_day"),
    [
        # tested and waiting: put into service within twelve months (table I-5, footnote)
        ("2026-01-10", None, "2027-01-10"),
        # six months from the first issue
        ("2026-01-10", "2026-03-01", "2026-09-01"), ("2026-01-10", "2027-01-10", "2027-07-10"),
        # issued after the shelf ran out: that was no issue
        ("2026-01-10", "2027-01-11", "2027-01-10"),
        # once in service the test counts, however often it is handed out
        ("2026-06-30", "2025-01-05", "2026-12-30"), ("2026-08-31", "2026-08-31", "2027-02-28"),
    ],
)  # fmt: skip
def test_gloves_are_due_six_months_from_their_first_issue(tested, first_issued, last_day):
    first = date.fromisoformat(first_issued) if first_issued else None
    one = item(tested=date.fromisoformat(tested), in_service=first)
    end = due(one)
    assert end.isoformat() == last_day
    assert why_not(one, end) == "" and state(one, end + timedelta(days=1)) == "overdue"


@pytest.mark.parametrize(
    ("more", "expected"),
    [
        ({"tested": None}, "untested"), ({"tested": TODAY + timedelta(days=1)}, "untested"), ({"barred": "cut"}, "out"),
        ({"retired": True, "barred": "cut"}, "retired"), ({"in_service": date(2026, 5, 24)}, "good"),
        ({"tested": date(2026, 5, 30), "in_service": date(2025, 1, 1)}, "soon"),
        ({"tested": date(2026, 5, 23), "in_service": date(2025, 1, 1)}, "overdue"),
    ],
)  # fmt: skip
def test_what_holds_first_is_what_forbids_most(more, expected):
    one = item(**more)
    assert state(one, TODAY) == expected
    assert bool(why_not(one, TODAY)) == (expected not in ("good", "soon"))


def test_a_site_may_test_sooner_never_later():
    for kind in KINDS:
        for months in (1, 5, 6, 7, 12, 24, 99):
            found, often = interval(kind, INTERVALS, {kind: months}), INTERVALS.get(kind)
            assert found is None if often is None else found.months == min(months, often.months)


#: Highest use voltages of 29 CFR 1910.137 table I-4 (AC) and ASTM D120 (DC), from memory.
@pytest.mark.parametrize(
    ("volts", "current", "lightest"),
    [(480, "ac", "00"), (500, "ac", "00"), (501, "ac", "0"), (1000, "ac", "0"), (4160, "ac", "1"), (12470, "ac", "2"),
     (26500, "ac", "3"), (750, "dc", "00"), (751, "dc", "0")],
)  # fmt: skip
def test_rubber_goods_do_from_their_class_up(volts, current, lightest):
    order = [g.name for g in RULES.gloves]
    fits = [c for c in order if not fit.insulates(item(rating={"glove_class": c}), volts, current, RULES, TODAY)]
    assert fits == order[order.index(lightest) :]
    assert fit.insulates(item("arc_gloves"), volts, current, RULES, TODAY), "leather and cloth insulate nobody"
    assert fit.insulates(item(rating={"glove_class": "no class"}), volts, current, RULES, TODAY)
    assert fit.insulates(item(rating={"glove_class": "4"}), 40_000, "ac", RULES, TODAY), "beyond the table"


@pytest.mark.parametrize(
    ("kind", "rating", "energy", "does"),
    [
        ("arc_jacket", 25, 22.4, True), ("arc_jacket", 25, 25, True), ("arc_jacket", 25, 25.01, False),
        ("arc_jacket", None, 2, False), ("arc_jacket", float("nan"), 2, False), ("arc_jacket", 25, float("nan"), False),
        # above 12 cal/cm² face shield and balaclava are not accepted (NFPA 70E-2021 table 130.5(G), from memory)
        ("arc_shield", 40, 12, True), ("arc_shield", 40, 12.1, False), ("arc_hood", 40, 12.1, True),
    ],
)  # fmt: skip
def test_clothing_does_up_to_its_rating(kind, rating, energy, does):
    one = item(kind, rating={"arc_rating_cal_cm2": rating})
    assert (fit.withstands_arc(one, energy, TODAY) == "") is does


def test_grounds_are_trusted_with_no_more_than_they_are_rated_for():
    one = item("grounds")
    assert fit.carries(one, 20, 0.5, TODAY) == ""
    for ka, seconds in ((20.1, 0.5), (20, 0.51), (30, 0.1), (5, 2), (float("nan"), 0.1)):
        assert fit.carries(one, ka, seconds, TODAY), "a shorter time buys no more current"


def test_a_stricter_fact_never_loosens():
    """Whatever refuses an item goes on refusing it as energy, voltage and days rise, and once it is out of use."""
    rng = random.Random(14)
    for _ in range(400):
        one = item(
            rng.choice(("gloves", "blanket", "sleeves")), tested=TODAY - timedelta(days=rng.randrange(400)),
            in_service=rng.choice((None, TODAY - timedelta(days=rng.randrange(500)))),
            rating={"glove_class": rng.choice(("00", "0", "1", "2", "3", "4"))},
        )  # fmt: skip
        volts, later = rng.uniform(50, 36_000), TODAY + timedelta(days=rng.randrange(1, 400))
        if fit.insulates(one, volts, "ac", RULES, TODAY):
            assert fit.insulates(one, volts * rng.uniform(1, 3), "ac", RULES, TODAY)
            assert state(one, TODAY) == "good" or fit.insulates(one, volts, "ac", RULES, later)
        assert why_not(replace(one, barred="cut"), TODAY)
        shorter = replace(one, interval=replace(one.interval, months=rng.randrange(1, one.interval.months + 1)))
        assert not why_not(one, TODAY) or why_not(shorter, TODAY)


def test_an_instrument_out_of_date_is_as_barred_as_a_broken_one():
    meter, place = item("contact"), Place(480, "ac", 3)
    assert unfit(as_instrument(meter, TODAY), place, NORTH_AMERICAN) == ""
    for bad in (replace(meter, tested=None), replace(meter, tested=date(2025, 11, 23)), replace(meter, retired=True),
                replace(meter, barred="nicked")):  # fmt: skip
        assert unfit(as_instrument(bad, TODAY), place, NORTH_AMERICAN)
    assert as_instrument(item("detector", rating={"category": None}), TODAY).category == 4


@pytest.mark.parametrize("kind", KINDS)
def test_every_answer_that_is_not_the_good_one_fails_and_none_is_skipped(kind):
    one = item(kind)
    asked = challenges(one)
    good = {c.id: read_off(one, c.id) if c.reads else "yes" for c in asked}
    assert asked[0].id == NUMBER and len(asked) == len({c.id for c in asked}) >= 2
    assert looked_at(one, good, TODAY).failed is None
    for c in asked:
        with pytest.raises(InputError):
            looked_at(one, {k: v for k, v in good.items() if k != c.id}, TODAY)
        for wrong in ("no", "not sure", "unknown", "ok", "0x1"):
            if c.id == NUMBER:
                with pytest.raises(InputError):
                    looked_at(one, good | {NUMBER: wrong}, TODAY)
            else:
                assert looked_at(one, good | {c.id: wrong}, TODAY).failed == (c, wrong)
    if one.interval:
        with pytest.raises(InputError):
            looked_at(replace(one, tested=None), good, TODAY)


def test_months_end_where_the_month_does():
    assert [months_after(date(2023, 8, 31), m).isoformat() for m in (6, 12, 18)] == [
        "2024-02-29", "2024-08-31", "2025-02-28",
    ]  # fmt: skip
