"""A practice is an object: under another one no number, class or level of the shipped one shows through."""

from dataclasses import fields

import pytest

from sixth_practice import SIX
from spinel.core.hazard import Study
from spinel.core.ppe.by_energy import kit
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.shock.approach import glove_class, shock_of
from spinel.core.tables.nfpa70e_clothing import CLOTHING


def test_every_field_of_the_invented_practice_differs():
    for field in fields(NORTH_AMERICAN):
        assert getattr(SIX, field.name) != getattr(NORTH_AMERICAN, field.name), field.name
    for field in fields(NORTH_AMERICAN.shock):
        assert getattr(SIX.shock, field.name) != getattr(NORTH_AMERICAN.shock, field.name), field.name


@pytest.fixture(scope="module")
def studies(demo_network):
    return {p.id: Study(demo_network, p, None, p.ceiling_cal_cm2) for p in (SIX, NORTH_AMERICAN)}


def test_hazards_carry_only_the_tables_of_the_sites_practice(studies, demo_network):
    """Every element of the demo; energies are the physics of the same network and do not move but for the cap."""
    own = {r.limited_fixed_mm for r in (*SIX.shock.ac, *SIX.shock.dc)} | {None}
    shown = 0
    for element in demo_network.elements:
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
    assert shown > 30


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
