"""Putting the voltage back: which devices, and how bad it can be at each."""

import pytest

from spinel.core.hazard import Study
from spinel.core.isolation.reenergizing import reenergizing
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.site import document, element_id


@pytest.fixture(scope="module")
def study():
    return Study(accept(document()), NORTH_AMERICAN, None, 40.0)


def test_what_is_closed_again_is_what_was_opened_with_its_own_worst_figures(study):
    network = study.network
    again = reenergizing(study, network.get(element_id("MC1")))
    # by hand from the one-line of the demo: MC1 is fed by F-A1, the motors below it cannot feed but turn
    assert "F-A1" in [c.element.tag for c in again.devices]
    for c in again.devices:
        assert c.element.normal_position != "open"
        assert c.hazard.energy_cal_cm2 == study.hazard(c.element.id).energy_cal_cm2
    ranks = [c.rank for c in again.devices]
    assert ranks == sorted(ranks, reverse=True) and again.worst is again.devices[0]
    assert again.equipment.boundary_mm == study.hazard(element_id("MC1")).boundary_mm


def test_what_has_no_figure_is_the_worst_and_what_cannot_be_isolated_says_why(study):
    for element in study.network.elements:
        again = reenergizing(study, element)
        if not again.devices:
            assert again.why_not or again.equipment is not None
            continue
        unknown = [c for c in again.devices if c.hazard.energy_cal_cm2 is None]
        assert again.worst in unknown if unknown else again.worst.rank == max(c.rank for c in again.devices)
        assert not [c for c in again.devices if c.element.normal_position == "open"]
    assert reenergizing(study, study.network.get(element_id("BB-1"))).devices == ()


def test_what_a_program_closes_is_asked_instead_of_what_a_draft_would(study):
    network = study.network
    other = network.by_tag["52-A"]
    again = reenergizing(study, network.get(element_id("MC1")), [other])
    assert [c.element.tag for c in again.devices] == ["52-A"]
    assert again.worst.hazard.energy_cal_cm2 == study.hazard(other.id).energy_cal_cm2
