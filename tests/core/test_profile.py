"""A practice is an object: under another one no number, class or level of the shipped one shows through."""

import os
from dataclasses import fields, replace

import pytest

from sixth_practice import SIX
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.ppe.by_energy import kit
from spinel.core.profile import NORTH_AMERICAN, problems
from spinel.core.shock.approach import glove_class, shock_of
from spinel.core.tables.nfpa70e_clothing import CLOTHING
from spinel.demo.site import document, element_id

SOAK = bool(os.environ.get("SOAK"))


def test_every_field_of_the_invented_practice_differs():
    for field in fields(NORTH_AMERICAN):
        assert getattr(SIX, field.name) != getattr(NORTH_AMERICAN, field.name), field.name
    for field in fields(NORTH_AMERICAN.shock):
        assert getattr(SIX.shock, field.name) != getattr(NORTH_AMERICAN.shock, field.name), field.name


@pytest.fixture(scope="module")
def studies(demo_network):
    return {p.id: Study(demo_network, p, None, p.ceiling_cal_cm2) for p in (SIX, NORTH_AMERICAN)}


@pytest.mark.long
def test_hazards_carry_only_the_tables_of_the_sites_practice(studies, demo_network):
    """Elements of the demo (all of them in `make soak`); energies are the physics of the same network and do not move but for the cap."""
    own = {r.limited_fixed_mm for r in (*SIX.shock.ac, *SIX.shock.dc)} | {None}
    shown = 0
    for element in demo_network.elements[:: 1 if SOAK else 4]:
        found = studies["six"].hazard(element.id)
        data = found.data
        assert data["approach"]["limited_fixed_mm"] in own and data["approach"]["source"] == "Sixth code 9"
        for voltage in data["voltages"]:
            assert voltage["approach"]["limited_fixed_mm"] in own and voltage["approach"]["source"] == "Sixth code 9"
            assert voltage["glove"] in ("A", "B", "C", None)
        assert data["glove"] in ("A", "B", "C", None)
        if data["kit"]:
            assert data["kit"]["level"] in ("P0", "P1", "P2") and data["kit"]["source"] == "Sixth code 11"
            assert set(data["kit"]["items"]) <= {"smock", "robe", "bell"}
            shown += 1
        assert data["ceiling_cal_cm2"] == 33.0
        other = studies["north-american"].hazard(element.id)
        if found.energy and other.energy and not (found.energy.capped or other.energy.capped):
            assert found.energy_cal_cm2 == pytest.approx(other.energy_cal_cm2, rel=1e-12)
    assert shown > (30 if SOAK else 8)


@pytest.mark.parametrize(
    ("practice", "voltage_v", "current", "hazard"),
    [(NORTH_AMERICAN, 49.9999, "ac", False), (NORTH_AMERICAN, 50, "ac", True), (NORTH_AMERICAN, 50, "dc", True),
     (NORTH_AMERICAN, 49.9999, "dc", False), (SIX, 41, "ac", False), (SIX, 41.0001, "ac", True), (SIX, 77, "dc", False),
     (SIX, 77.0001, "dc", True), (SIX, 60, "dc", False), (SIX, 60, "ac", True)],
)  # fmt: skip
def test_each_threshold_just_below_at_and_above_for_both_kinds_of_current(practice, voltage_v, current, hazard):
    """NFPA 70E-2021 130.2, from memory: 50 V or more, AC and DC. The other is invented."""
    found = shock_of(voltage_v, current, practice.shock)
    limits = (found.approach.limited_fixed_mm, found.glove)
    assert [x is not None for x in limits] == [hazard, hazard]


def test_no_practice_calls_harmless_what_everybody_calls_a_hazard():
    """IEC 61140, extra-low voltage, from memory: 50 V AC and 120 V DC at most."""
    for current, most in (("ac", 50), ("dc", 120)):
        for value, fine in ((most, True), (most + 1, False), (-1, False), (float("nan"), False)):
            threshold = replace(SIX.shock.threshold, **{f"{current}_v": value})
            refused = [p.field for p in problems(replace(SIX, shock=replace(SIX.shock, threshold=threshold)))]
            assert refused == ([] if fine else ["threshold"]), (current, value)


def test_of_two_kinds_of_current_the_one_that_is_a_hazard_is_named():
    """A 60 V DC box with a 48 V AC heater: by the invented practice 60 V DC is none and 48 V AC is one."""
    data = document()
    next(n for n in data["nodes"] if n["id"] == "n-24")["nominal_voltage_v"] = 60
    box = next(
        b for b in data["enclosures"] if b["id"] == next(n for n in data["nodes"] if n["id"] == "n-24")["enclosure"]
    )
    box["auxiliary_supplies"] = [{"name": "Heater", "voltage_v": 48, "current": "ac", "source": "house"}]
    found = Study(accept(data), SIX, None, 33.0).hazard(element_id("CTL-1"))
    assert not found.below_threshold and (found.voltage_v, found.current) == (48, "ac")


def test_a_higher_threshold_for_direct_current_hides_no_arc_beside_alternating_current():
    """No method here covers arcs of direct current: with 60 V DC in the cabinet there is no figure, whatever may be touched."""
    data = document()
    next(n for n in data["nodes"] if n["id"] == "n-24")["nominal_voltage_v"] = 60
    for practice in (SIX, NORTH_AMERICAN):
        found = Study(accept(data), practice, None, 33.0).hazard(element_id("PSU-1"))
        assert found.no_figure and found.energy_cal_cm2 is None and not found.below_threshold, practice.id


def test_what_is_a_hazard_by_one_threshold_may_be_none_by_another():
    assert shock_of(45, "ac", SIX.shock).glove == "A" and shock_of(45, "ac", NORTH_AMERICAN.shock).glove is None
    assert [glove_class(v, "dc", SIX.shock).name for v in (333, 334, 33_333)] == ["A", "B", "C"]


@pytest.mark.parametrize(
    ("energy", "level"), [(0.9, "P0"), (0.9000001, "P1"), (4.9999999, "P1"), (5, "P2"), (0, "P0"), (1e5, "P2")]
)
def test_levels_of_clothing_are_the_practices_at_just_below_and_above_their_edges(energy, level):
    assert kit(energy, SIX.clothing).level == level


@pytest.mark.parametrize(("energy", "level"), [(1.1999999, 0), (1.2, 1), (12, 1), (12.0000001, 2)])
def test_levels_of_the_shipped_practice_are_as_they_were(energy, level):
    assert kit(energy, CLOTHING).level == CLOTHING.levels[level].name
