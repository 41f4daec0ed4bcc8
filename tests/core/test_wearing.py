"""What somebody puts on of what the site owns. Clothing by energy after NFPA 70E-2021 table 130.5(G), gloves after 29 CFR
1910.137 table I-4, both from memory; that layers are not added up is common practice without source."""

import random
from datetime import date

import pytest

from spinel.core.gear.items import Item, Rating
from spinel.core.gear.kinds import HANDS, HEAD, LEGS, TRUNK
from spinel.core.gear.wearing import needs, offers
from spinel.core.tables.nfpa70e_shock import RULES
from spinel.core.tables.north_american import INTERVALS

TODAY = date(2026, 11, 24)
AT_480 = [(480.0, "ac")]


def item(number, kind, **more):
    rating = Rating(arc_rating_cal_cm2=more.pop("cal", None), glove_class=more.pop("cls", ""))
    known = {"tested": date(2026, 10, 1), "interval": INTERVALS.get(kind)}
    return Item(number=number, kind_id=kind, rating=rating, **(known | more))


STORE = [
    item("SH-8", "arc_shirt", cal=8), item("SU-25", "arc_jacket", cal=25, size="M"), item("SU-40", "arc_jacket", cal=40, size="XL"),
    item("SU-100", "arc_jacket", cal=100), item("TR-8", "arc_trousers", cal=8), item("BIB-25", "arc_bib", cal=25),
    item("FS-12", "arc_shield", cal=12), item("FS-40", "arc_shield", cal=40), item("H-25", "arc_hood", cal=25),
    item("G-00", "gloves", cls="00"), item("G-0", "gloves", cls="0", owner="Bram", owner_id=2), item("G-2", "gloves", cls="2"),
    item("G-BAD", "gloves", cls="4", barred="cut"), item("G-LATE", "gloves", cls="4", tested=date(2025, 1, 1)),
    item("AG-12", "arc_gloves", cal=12),
]  # fmt: skip


def dressed(energy, voltages=AT_480, wearer=1, size=None):
    found = offers(needs(energy, voltages, RULES), STORE, size or {}, wearer, RULES, voltages, TODAY)
    return {o.need.zone: o for o in found}


def numbers(items):
    return [i.number for i in items]


@pytest.mark.parametrize(
    ("energy", "head", "trunk", "legs"),
    [
        (0.9, [], [], []), (5, ["FS-12"], ["SH-8"], ["TR-8"]), (8, ["FS-12"], ["SH-8"], ["TR-8"]),
        (8.1, ["FS-12", "H-25"], ["SU-25"], ["BIB-25"]),
        # above 12 cal/cm² a hood, whatever a shield is rated
        (12.1, ["H-25"], ["SU-25", "SU-40"], ["BIB-25"]), (22.4, ["H-25"], ["SU-25", "SU-40"], ["BIB-25"]),
        (25.1, [], ["SU-40"], []), (39, [], ["SU-40"], []),
    ],
)  # fmt: skip
def test_each_zone_is_offered_what_reaches_the_figure_the_lightest_first(energy, head, trunk, legs):
    found = dressed(energy)
    if energy < 1.2:
        assert all(o.need.rating_cal_cm2 is None for o in found.values())
        return
    for zone, wanted in ((HEAD, head), (TRUNK, trunk), (LEGS, legs)):
        assert numbers(found[zone].fits) == wanted, (zone, energy)


def test_what_is_more_than_a_step_heavier_is_apart():
    assert "SU-100" in numbers(dressed(22.4)[TRUNK].heavier) and "SU-40" not in numbers(dressed(22.4)[TRUNK].heavier)
    assert numbers(dressed(3)[TRUNK].heavier) == ["SU-25", "SU-40", "SU-100"]


@pytest.mark.parametrize(
    ("voltages", "fits"),
    [
        (AT_480, ["G-00", "G-2"]), ([(600.0, "ac")], ["G-2"]), ([(12_470.0, "ac")], ["G-2"]), ([(26_000.0, "ac")], []),
        # every voltage that is exposed is asked, not the highest number alone
        ([(900.0, "dc"), (600.0, "ac")], ["G-2"]), ([(48.0, "ac")], ["G-00", "G-2", "AG-12"]),
        ([(500_000.0, "ac")], []),
    ],
)  # fmt: skip
def test_hands_answer_to_every_voltage(voltages, fits):
    found = dressed(5, voltages)[HANDS]
    assert sorted(numbers(found.fits)) == sorted(fits)
    assert {"G-BAD", "G-LATE", "G-0"} <= {i.number for i, _ in found.short}


def test_what_is_anothers_with_another_or_of_another_size_is_not_offered():
    assert "G-0" in numbers(dressed(5, wearer=2)[HANDS].fits)
    assert numbers(dressed(22.4, size={TRUNK: "M"})[TRUNK].fits) == ["SU-25"]


def test_a_higher_energy_never_offers_what_a_lower_refused():
    rng = random.Random(3)
    for _ in range(200):
        low = rng.uniform(1.2, 60)
        high = low * rng.uniform(1, 4)
        for zone in (HEAD, TRUNK, LEGS):
            below, above = dressed(low)[zone], dressed(high)[zone]
            does = {*numbers(below.fits), *numbers(below.heavier)}
            assert {*numbers(above.fits), *numbers(above.heavier)} <= does
            for i in (*above.fits, *above.heavier):
                assert i.rating.arc_rating_cal_cm2 >= high, "a single layer reaches the figure by itself"
