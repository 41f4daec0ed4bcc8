"""Special devices in the clearing of an arc: interlocks, relays of a zone, maintenance settings. The rest of clearing is
held against a simulation in tests/reference."""

import copy

import numpy as np
import pytest

from saying import en
from spinel.core.curves.shapes import (
    FixedTime,
    FuseCurve,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.curves.times import times_s
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.document import Element
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.protection.bands import Bands
from spinel.core.protection.believed import Device
from spinel.demo.site import document, element_id

CURVES = [
    TripCurve(long_pickup_a=400, long_delay_s=10, short_pickup_a=2000, short_delay_s=0.3), TripCurve(long_pickup_a=400, long_delay_s=10, short_pickup_a=2000, short_delay_s=0.3, short_i2t=True, interlock_delay_s=0.08, instantaneous_a=6000),
    TripCurve(long_pickup_a=400, long_delay_s=10, short_pickup_a=None, short_delay_s=None, instantaneous_a=4000), ThermalMagneticCurve(100, 20, 1000),
    RelayCurve(curve="VI", pickup_a=100, dial=2, breaker_s=0.083, instantaneous_a=3000), RelayCurve(curve="SI", pickup_a=100, dial=0.2, breaker_s=0.083, standard="iec"),
    FuseCurve(((60, 100), (90, 10), (150, 1), (300, 0.1), (600, 0.01))), UnitCurve("definite", 200, 0.1, 0.05),
    FixedTime(0.16),
]  # fmt: skip


@pytest.mark.long
@pytest.mark.parametrize("held", [True, False])
def test_curves_as_arrays_are_the_curves_as_they_are_explained(held):
    bands = Bands([Device(Element(id="x", tag="x", kind="breaker", ends=("a", "b")), c, None) for c in CURVES], 3)
    amps = np.concatenate([np.geomspace(1, 1e5, 5001), [440, 2200, 105, 110, 6600, 60, 600]])
    for i, curve in enumerate(CURVES):
        found = bands.times(np.full(len(amps), i), amps, np.full(len(amps), -1), np.full(len(amps), held)).min(axis=0)
        expected = times_s(curve, amps, restrained=held)
        assert (np.isfinite(found) == np.isfinite(expected)).all()
        assert found[np.isfinite(found)] == pytest.approx(expected[np.isfinite(found)], rel=1e-12)


def hazard(tag, touches="", **changes):
    doc = copy.deepcopy(document())
    box = next(b for b in doc["enclosures"] if b["id"] == "e-mc1")
    box["compartments"] = [
        {"id": "bus", "name": "Bus", "nodes": ["n-mc1"]},
        {"id": "buckets", "name": "Buckets", "nodes": ["n-2b", "n-4a"], "devices": ["MC1-2B", "MC1-4A"]},
    ]
    box["barriers"] = [["bus", "buckets"]]
    for other, values in changes.items():
        next(e for e in doc["elements"] if e["tag"] == other.replace("_", "-")).update(values)
    return Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id(tag), touches)


@pytest.mark.long
def test_zone_interlock_trips_at_once_unless_a_device_below_sees_the_fault_too():
    """F-A1 held by MC1-2B: an arc at MC1 is above MC1-2B, so nobody holds; one behind it is held, and MC1-2B clears."""
    curve = {"type": "trip", "long_pickup_a": 600, "long_delay_s": 8, "short_pickup_a": 3000, "short_delay_s": 0.3,
             "interlock_delay_s": 0.08}  # fmt: skip
    short = {"type": "trip", "long_pickup_a": 100, "long_delay_s": 6, "short_pickup_a": 800, "short_delay_s": 0.1}
    below = {"curve": short}
    free = hazard("MC1", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}, MC1_2B=below)
    assert free.energy.duration_s == pytest.approx(0.088)
    assert any("not restrained" in en(d.how) and d.time_s == pytest.approx(0.088) for d in free.energy.clearing.devices)
    # nobody is named: always held; a device without a short-time pickup holds at any share, its motor's too
    assert hazard("MC1", F_A1={"curve": curve}).energy.duration_s == pytest.approx(0.33)
    assert hazard("MC1", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}).energy.duration_s == pytest.approx(0.33)
    below["interrupting_ka"] = 1
    behind = hazard("P-21", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}, MC1_2B=below)
    assert behind.energy.clearing.device.tag == "F-A1" and behind.energy.duration_s == pytest.approx(0.33)


@pytest.mark.long
@pytest.mark.parametrize(("principle", "time"), [("differential", 0.03), ("light", 0.003)])
def test_a_relay_of_a_zone_clears_arcs_inside_it_only(principle, time):
    relay = {"type": "unit", "principle": principle, "pickup_a": 200, "operating_s": time, "breaker_s": 0.083}
    zone = {"zone": ["e-swb-a"], "zone_curve": relay}
    inside = hazard("SWB-A", "", **{"52-T1": zone, "52-T2": zone})
    devices = {d.tag: d for d in inside.energy.clearing.devices}
    assert any(d.time_s == pytest.approx(time + 0.083) for t, d in devices.items() if t.startswith("52-T"))
    outside = hazard("T1", "terminals:n-t1s", **{"52-T1": zone, "52-T2": zone})
    assert outside.energy_cal_cm2 == pytest.approx(hazard("T1", "terminals:n-t1s").energy_cal_cm2)
    assert inside.energy_cal_cm2 < hazard("SWB-A").energy_cal_cm2


def test_a_maintenance_setting_counts_only_in_the_case_that_sets_it():
    quick = {"type": "trip", "long_pickup_a": 600, "long_delay_s": 8, "instantaneous_a": 3000}
    doc = copy.deepcopy(document())
    next(e for e in doc["elements"] if e["tag"] == "F-A1")["maintenance_curve"] = quick
    doc["cases"] = [{"id": "s", "name": "serviced", "settings": {"F-A1": "maintenance"}}]
    set_ = Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id("MC1"))
    assert next(d for d in set_.energy.clearing.devices if d.tag == "F-A1").time_s == pytest.approx(0.05)
    doc["cases"].append({"id": "n", "name": "normal"})
    both = Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id("MC1"))
    assert en(both.energy.case).startswith("normal")
