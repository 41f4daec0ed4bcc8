"""The study of a site is the cards' own figures, location by location; the synthetic site; what is alive after a switch."""

import math
import os

import numpy as np
import pytest
from test_liveness import expected

from saying import en
from spinel.core.arcflash.explained import explain
from spinel.core.errors import InputError, NotFound
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.liveness import liveness
from spinel.core.network.now import DeviceNow
from spinel.core.network.sides import reach_words, reaches
from spinel.core.network.topology import operated
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import COLUMNS, SiteStudy, located
from spinel.demo.large import large_document
from spinel.demo.site import document

SOAK = bool(os.environ.get("SOAK"))


@pytest.fixture(scope="module")
def demo():
    return SiteStudy(Study(accept(document()), NORTH_AMERICAN, None, 40.0))


@pytest.mark.long
def test_the_worst_row_of_every_location_is_its_card(demo):
    """The card of each element and side against the rows of the study, and each figure explained by itself."""
    rows = list(demo.rows())
    network, compared = demo.study.network, 0
    for element in located(network):
        for reach in reaches(element):
            side = reach_words(network, element, reach)
            card = demo.study.hazard(element.id, reach.code)
            mine = [r for r in rows if (r["location"], r["side"]) == (element.tag, side)]
            assert len(mine) >= len(network.cases)
            if card.energy is None:
                assert card.no_figure in {r["warning"] for r in mine} or card.unfed
                continue
            worst = max((r for r in mine if r["method"]), key=lambda r: r["incident_energy_cal_cm2"])
            assert worst["incident_energy_cal_cm2"] == pytest.approx(card.energy_cal_cm2, rel=1e-6), (element.tag, side)
            assert max(r["arc_flash_boundary_mm"] or 0 for r in mine) == pytest.approx(card.boundary_mm, rel=1e-6)
            assert worst["case"] == card.energy.case and worst["working_distance_mm"] == card.working_distance_mm
            device = card.energy.clearing.device
            assert worst["device"] == ("" if card.energy.capped or device is None else device.tag)
            assert (worst["limited_fixed_mm"] or None) == card.approach.limited_fixed_mm
            assert (worst["glove_class"] or None) == card.glove
            compared += 1
    assert compared > 80
    for row in demo.worst_rows():
        element = network.by_tag[row["location"]]
        reach = next(r for r in reaches(element) if reach_words(network, element, r) == row["side"])
        card = demo.study.hazard(element.id, reach.code)
        assert (row["incident_energy_cal_cm2"] or None) == (
            None if card.energy is None else pytest.approx(card.energy_cal_cm2, rel=1e-6))  # fmt: skip


def test_full_and_reduced_are_both_there_and_the_worse_leads(demo):
    for row in demo.rows("normal"):
        assert tuple(row) == COLUMNS
        if row["method"]:
            assert en(row["case"]).startswith("normal, ") and row["incident_energy_cal_cm2"] > 0
            assert row["incident_energy_cal_cm2"] >= (row["reduced_incident_energy_cal_cm2"] or 0)
            assert 0 < row["arcing_current_ka"] < row["bolted_fault_current_ka"]
            assert 0 < row["clearing_time_s"] <= 2
        else:
            assert row["warning"]
    with pytest.raises(NotFound, match="case"):
        list(demo.rows("never"))


@pytest.mark.long
@pytest.mark.parametrize(("buses", "seed"), [(60, 1), (60, 7), (90, 3)] if SOAK else [(24, 7)])
def test_a_synthetic_site_is_acceptable_varied_and_the_same_for_the_same_seed(buses, seed):
    doc = large_document(buses, seed)
    assert doc == large_document(buses, seed) != large_document(buses, seed + 1)
    network = accept(doc)
    kinds = {e.kind for e in network.elements}
    assert {"source", "motor", "transformer", "breaker", "cable", "bus"} <= kinds
    assert len([e for e in network.elements if e.kind == "bus"]) == pytest.approx(buses, abs=10)
    assert {n.nominal_voltage_v for n in network.nodes} >= {12_470, 480, 208} and len(network.cases) == 5
    study = SiteStudy(Study(network, NORTH_AMERICAN, None, 40.0))
    found = study.figures
    corners = [c for c, column in enumerate(found.columns) if column.path is None and column.family < 5]
    assert (~np.isnan(found.energy_j_cm2[corners])).mean() > 0.5
    here = [(c, r, i) for c, r, i in zip(*np.nonzero(~np.isnan(found.energy_j_cm2)), strict=True)][
        :: 997 if SOAK else 397
    ]
    between = [(c, r, i) for c, r, i in zip(*np.nonzero(~np.isnan(found.at) & (found.at > 0)), strict=True)][::97]
    assert len(here) > 5 and between
    for c, row, i in [*here, *between]:
        alone = explain(found, c, row, i).energy.incident_energy_j_cm2
        assert alone == pytest.approx(found.energy_j_cm2[c, row, i], rel=1e-6), (c, row, i)
        wide = explain(found, c, row, i, boundary=True).energy.arc_flash_boundary_mm
        assert wide == pytest.approx(found.boundary_mm[c, row, i], rel=1e-6)


@pytest.mark.parametrize("buses", [0, -5, 9, 20_001, 100.0, True, "100", math.nan])
def test_no_synthetic_site_of_an_absurd_size(buses):
    with pytest.raises(InputError, match="buses"):
        large_document(buses, 1)


def test_one_operation_leaves_the_site_as_if_computed_anew():
    """Against liveness made from nothing, and against the graph library that test_liveness uses."""
    network = accept(large_document(30, 3))
    now = {e.id: DeviceNow(position=e.normal_position, checked=True) for e in network.switches}
    circuit = at_present(network, now)
    for e in network.switches[::7]:
        for device in (
            DeviceNow(position="open", checked=True),
            DeviceNow(position="open"),
            DeviceNow(position="closed", checked=True),
        ):
            if e.kind == "transfer_switch":
                continue
            after = {**now, e.id: device}
            quick = liveness(network, operated(network, circuit, e, device), after)
            anew = liveness(network, at_present(network, after), after)
            assert quick.nodes == anew.nodes and quick.elements == anew.elements
            assert dict(quick.feeding) == dict(anew.feeding) and dict(quick.may_feed) == dict(anew.may_feed)
    opened = {e.id: DeviceNow(position="open", checked=True) for e in network.switches[:3]}
    found = liveness(network, at_present(network, {**now, **opened}), {**now, **opened})
    positions = {e.id: "open" if e.id in opened else e.normal_position for e in network.switches}
    assert found.nodes == expected(network, positions)
