"""Which instrument proves what. Kinds and categories are common practice without source; IEC 61010-1 from memory."""

import pytest
from test_switching import walked

from saying import en
from spinel.core.isolation.absence import residual_falls
from spinel.core.isolation.instruments import Instrument, Place, kind_for, place_at, shows, unfit
from spinel.core.network.losing import by_themselves, told, without_supply
from spinel.core.profile import NORTH_AMERICAN

METER = Instrument(number="M", kind="contact", low_v=12, high_v=1000, category=3, ac=True, dc=True)
DETECTOR = Instrument(number="D", kind="detector", low_v=1200, high_v=36000, category=4, ac=True, dc=False)
OLD = Instrument(number="O", kind="contact", low_v=24, high_v=600, category=2, ac=True, dc=False)


@pytest.mark.parametrize(
    ("one", "place", "why"),
    [
        (METER, Place(480, "ac", 3), ""), (METER, Place(24, "dc", 3), ""), (DETECTOR, Place(12_470, "ac", 4), ""),
        (METER, Place(12_470, "ac", 3), "not for 12.47 kV"), (DETECTOR, Place(480, "ac", 3), "not for 480 V"),
        (METER, Place(480, "ac", 4), "category III; this place asks for category IV"),
        (OLD, Place(480, "ac", 3), "category II"), (OLD, Place(750, "dc", 3), "not made for"),
        (OLD, Place(690, "ac", 2), "24 to 600 V"), (METER, Place(5, "dc", 3), "12 to 1000 V"),
        (DETECTOR, Place(69_000, "ac", 4), "1200 to 36000 V"),
    ],
)  # fmt: skip
def test_an_instrument_fits_by_kind_range_current_and_category(one, place, why):
    said = unfit(one, place, NORTH_AMERICAN)
    assert (why in en(said).replace("\N{NO-BREAK SPACE}", " ")) if why else said == ""


def test_the_first_volt_above_the_limit_asks_for_a_detector():
    assert [kind_for(v, "ac", NORTH_AMERICAN) for v in (999, 1000, 1000.1)] == ["contact", "contact", "detector"]
    assert not shows(METER, 11.9) and shows(METER, 12) and not shows(METER, 1000.1)


def test_where_the_utility_arrives_the_highest_category_is_asked(demo_network):
    assert place_at(demo_network, ["n-u"], 12_470, "ac").category == 4
    assert place_at(demo_network, ["n-mc1"], 480, "ac").category == 3


@pytest.mark.parametrize(
    ("first", "second", "minutes", "falls"),
    [
        # by hand: 480 V, peak 678.8 V, to 50 V in 5 min: each minute to 0.5937 of it; four fifths of that fall, 32.5 %
        (400, 271, 5, False), (400, 269, 5, True), (400, 201, None, False), (400, 200, None, True),
        # in 15 min: each minute to 0.8405 of it; 12.8 % of fall are enough
        (400, 350, 15, False), (400, 348, 15, True), (2.9, 2.9, 5, True), (400, 400, 15, False),
    ],
)  # fmt: skip
def test_a_charge_falls_as_its_discharge_time_predicts(first, second, minutes, falls):
    assert residual_falls(first, second, NORTH_AMERICAN.instruments, 480, minutes) is falls


@pytest.mark.parametrize(
    ("opened", "dark"),
    [
        (("MC1-2B",), {"P-21"}), (("F-A1",), {"P-21", "H-1"}), (("EDP-5",), {"CTL-1"}), (("F-B2",), {"CH-1"}),
        # the emergency panel is behind its transfer switch; the stand-by generator is not counted on
        (("F-A2",), {"EDP-1", "FP-1", "CP-1", "CTL-1"}), (("52-TIE",), set()), (("F-A3",), set()),
    ],
)  # fmt: skip
def test_what_goes_dark(demo_network, opened, dark):
    now = walked(demo_network, F_A4="open")
    ids = {demo_network.by_tag[t].id for t in opened}
    assert {e.tag for e in without_supply(demo_network, now.devices, ids)} == dark


def test_who_is_told_once_and_what_transfers_by_itself(demo_network):
    now = walked(demo_network, ATS_1="automatic")
    ids = {demo_network.by_tag["F-A2"].id}
    assert told(without_supply(demo_network, now.devices, {demo_network.by_tag["F-A1"].id})) == (
        "Duty officer", "Berth master")  # fmt: skip
    assert [e.tag for e in by_themselves(demo_network, now.devices, ids)] == ["ATS-1"]
    assert by_themselves(demo_network, walked(demo_network).devices, ids) == []
