"""Figures of the present take an unknown position as closed and as open, whatever was asked for before."""

import pytest

from demo_acts import act, element_id, opened, the_site
from spinel.actions import network
from spinel.actions.figures import study_of
from spinel.core.hazard import Study
from spinel.core.network.circuit import at_present

pytestmark = pytest.mark.usefixtures("open_db")


@pytest.mark.long
@pytest.mark.parametrize("tag", ["52-TIE", "F-A4", "52-A", "F-B1"])
def test_a_report_that_agrees_with_the_record_still_makes_the_position_unknown_to_the_figures(tag):
    """The same pairs are closed as before; that nobody is sure of it must not be answered from what was kept."""
    site = the_site()
    before = site.as_it_is()
    known = before.study
    assert known.hazard(element_id("MC1")).energy is not None
    network.report_found(
        act("edda"), element_id(tag), before.device(before.network.by_tag[tag]).position, "Looked at it"
    )
    now = site.as_it_is()
    circuit = at_present(now.network, now.field.devices)
    assert circuit.uncertain and now.study is not known
    shared = Study(now.network, now.profile, None, now.study.ceiling_cal_cm2)
    anew = Study(now.network, now.profile, circuit, now.study.ceiling_cal_cm2, shared)
    for place in ("MC1", "SWB-B", "MC2-1D"):
        shown = study_of(now.hash, now.network, circuit, now.ceiling_cal_cm2).hazard(element_id(place))
        fresh = anew.hazard(element_id(place))
        assert shown.energy_cal_cm2 == pytest.approx(fresh.energy_cal_cm2, rel=1e-6), place
        assert shown.energy_cal_cm2 >= known.hazard(element_id(place)).energy_cal_cm2 * (1 - 1e-9)
        assert set(fresh.data["seen_in"]) == set(shown.data["seen_in"]), place
    opened(site)
