"""What feeds an arc for a while: motors and generators, against a worked example and a simulation in time; and the four
corners of strength and temperature."""

import copy

import numpy as np
import pytest
from clearing_simulation import Site
from meshed_sites import mesh
from test_clearing_simulation import STEP, places_of, simulated

from saying import en
from small_site import Small, trip
from spinel.core.arcflash.figures import Figures
from spinel.core.arcflash.places import Place
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.protection.trusted import Trusted


def motor_bus(motors: int) -> Small:
    """500 MVA, T1 500 kVA 5 % to 480 V, motors of 100 kVA each (X'' 0.167) on its bus, feeder F1, cable 1 + j1 mOhm, panel P."""
    site = Small(True)
    for name, volts in (("s", 12_470), ("t", 480), ("f", 480), ("p", 480)):
        site.node(name, volts)
    site.boxes[-1] |= {"gap_mm": 25, "working_distance_mm": 457}
    site.add("source", "U", "s", fault_mva_max=500, fault_mva_min=500, x_r_max=10, x_r_min=10)
    site.add("transformer", "T1", "s", "t", rated_kva=500, impedance_pct=5, x_r=5)
    if motors:
        site.add("motor", "MO", "t", rated_kva=100, xd_subtransient_pu=0.167, x_r=10, motors=motors)
    site.breaker("F1", "t", "f", **trip(800, short_pickup_a=7000, short_delay_s=0.3) | {"long_delay_s": 12})
    site.add("cable", "W", "f", "p", resistance_ohm=0.001, reactance_ohm=0.001)
    site.add("bus", "P", "p")
    return site


def test_a_device_may_not_count_on_motors_that_are_gone():
    """Worked by hand: with the motors gone the reduced current, 7.55 kA, is below the certain short time (7.7 kA): two
    seconds, 34.9 cal/cm² and 3.77 m; without any motor 34.4. With their share for ever it would be 8.44 and 1.55 m."""
    found = {n: Study(accept(motor_bus(n).document()), NORTH_AMERICAN, None, 100).hazard("id-P") for n in (0, 5)}
    assert found[5].energy_cal_cm2 == pytest.approx(34.9, abs=0.05) and found[5].boundary_mm == pytest.approx(
        3770, abs=5
    )
    assert found[0].energy_cal_cm2 == pytest.approx(34.4, abs=0.05)
    dying, after = found[5].energy.stages
    assert (dying.until_s, after.until_s) == (0.1, 2.0) and after.arcing_current_ka == pytest.approx(7.55, abs=5e-3)
    (f1,) = found[5].energy.clearing.devices
    assert f1.share_a == pytest.approx(after.arcing_current_ka * 1000), "the working shows what it may count on"


def generator(escape: bool = True, fuse: bool = False, curve=None, **facts) -> Small:
    site = Small(escape)
    for n in ("g", "m0", "b"):
        site.node(n)
    known = {"rated_kva": 1500, "xd_subtransient_pu": 0.12, "xd_transient_pu": 0.2, "x_r": 15, "xd_sync_pu": 2.0,
             "td_subtransient_s": 0.03, "td_transient_s": 0.8, "normal_state": "running"} | facts  # fmt: skip
    site.add("generator", "G", "g", **{k: v for k, v in known.items() if v is not None})
    site.breaker("M", "g", "m0", **(curve or trip(2000, short_pickup_a=3000, short_delay_s=0.3)))
    site.add("cable", "W", "m0", "b", resistance_ohm=0.0001, reactance_ohm=0.001)
    site.add("bus", "B", "b")
    return site


SUPPORT = {"excitation_support_multiple": 3, "excitation_support_s": 10}
FUSE = {"type": "fuse", "points": [[2500, 100], [4000, 2], [6000, 0.2], [9000, 0.02], [12_000, 0.008]]}


@pytest.mark.parametrize("facts", [{}, SUPPORT])
@pytest.mark.parametrize(
    "curve",
    [
        trip(2000, short_pickup_a=3000, short_delay_s=0.1),
        trip(2000, short_pickup_a=3000, short_delay_s=0.4),
        trip(1500, short_pickup_a=4000, short_delay_s=0.2, short_i2t=True),
        {"type": "relay", "curve": "SI", "standard": "iec", "pickup_a": 2500, "dial": 0.1, "breaker_s": 0.05},
        FUSE,
    ],
)
def test_a_generators_arc_is_that_of_its_current_as_it_falls(curve, facts):
    """Subtransient, transient and lasting current by the textbook's three terms, in steps of time."""
    document = generator(curve=curve, **facts).document()
    network, site = accept(document), Site(document)
    figures = Figures(network, Trusted(network, 2.0), 2.0, [Place("b", frozenset(), 610)])
    for row in (0, 1):
        expected, stages = simulated(site, network, figures.of.situations[0], figures.places[0], row, Site.in_time)
        ratio = np.nanmax(figures.energy_j_cm2[:, row, 0]) / expected
        # code `falls`: what is steep in current is timed too slowly while a current falls fast
        assert 1 - STEP < ratio < (1.25 if curve is FUSE else 1.1), (ratio, stages)


def test_what_nobody_recorded_of_a_fall_counts_only_where_a_device_is_slow_enough():
    """A fuse that clears in 9 ms at every current reached has its figure, whatever comes later; a slow trip has none."""
    quick = {"type": "fuse", "points": [[1000, 0.0095], [20_000, 0.009]]}
    for lacking in ("xd_sync_pu", "xd_transient_pu", "td_transient_s", "td_subtransient_s"):
        known, unknown = (
            Study(accept(generator(escape, curve=quick, **f).document()), NORTH_AMERICAN, None, 40).hazard("id-B")
            for escape, f in ((True, {}), (False, {lacking: None}))
        )
        assert unknown.energy_cal_cm2 == pytest.approx(known.energy_cal_cm2, rel=0.1)
    for lacking in ("xd_sync_pu", "xd_transient_pu"):
        slow = generator(False, curve=trip(2000, short_pickup_a=4000, short_delay_s=1.5), **{lacking: None})
        found = Study(accept(slow.document()), NORTH_AMERICAN, None, 40).hazard("id-B")
        assert found.energy is None and "how the current of G falls is not recorded" in en(found.no_figure)


@pytest.mark.parametrize("seed", [3, 5, 12])
def test_no_corner_of_strength_and_temperature_is_worse_than_the_figure(seed):
    """Whoever pins one of the four gets no more than who pins nothing."""
    document = mesh(seed)
    for e in document["elements"]:
        if e["kind"] == "cable":
            e |= {"ohms_at_c": 75, "resistance_ohm": 4 * e["resistance_ohm"]}
        if e["kind"] == "transformer":
            e["tolerance_pct"] = 7.5
    sources = [e["tag"] for e in document["elements"] if e["kind"] == "source"]

    def worst(case):
        doc = copy.deepcopy(document) | {"cases": [{"id": "c", "name": "one", **case}]}
        network = accept(doc)
        found = Figures(network, Trusted(network, 2.0), 2.0, places_of(network, every=3))
        return np.nanmax(np.nan_to_num(found.energy_j_cm2, nan=0), axis=(0, 1))

    whole = worst({})
    for strength in ("maximum", "minimum"):
        for level in ("maximum", "minimum"):
            pinned = worst({"impedances": level, "sources": {t: {"strength": strength} for t in sources}})
            assert (whole >= pinned * (1 - 1e-9)).all(), (strength, level)
