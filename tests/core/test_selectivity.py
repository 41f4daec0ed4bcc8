"""Order of opening against brute force: simple paths of the circuit's graph, and every current asked one by one."""

import itertools
import math

import networkx as nx
import numpy as np
import pytest

from spinel.core.curves.files import read_curve
from spinel.core.curves.shapes import FuseCurve, RelayCurve, TripCurve
from spinel.core.curves.times import FAST, clearing
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.document import Element
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.protection.believed import Device
from spinel.core.protection.selectivity import Bounds, InSeries, compared, in_series, series_pairs
from spinel.demo.large import large_document
from spinel.demo.site import document, element_id


def trusted(doc):
    return Study(accept(doc), NORTH_AMERICAN, None, 40.0).parts[0]


def scanned(pair, count=300):
    """Currents at which the upstream device may be first or together, each asked alone."""
    low = pair.from_a
    found = []
    for a in np.geomspace(low * 1.0001, pair.to_a * 0.9999, count).tolist():
        below = clearing(pair.curves[0], a)
        above = clearing(pair.curves[1], a * pair.ratio, edge=FAST, restrained=False)
        if above.time_s is not None and (below.time_s is None or above.time_s <= below.time_s):
            found.append(a)
    return found


class Plain:
    def __init__(self, case, down, up, ratio, to_a, from_a):
        self.case, self.down, self.up, self.ratio, self.to_a, self.from_a = case, down, up, ratio, to_a, from_a
        self.curves = down.curve, up.curve


def plain_pairs(part):
    """Pairs by simple paths, an element's far end being the one that no source reaches without it. Radial devices only,
    as far as a path search of all paths is feasible."""
    found = {}
    for model in part.strongest:
        graph, where = nx.MultiGraph(), {}
        for n, branch in enumerate(model.branches.tolist()):
            a, b = int(model.grid.a[branch]), int(model.grid.b[branch])
            graph.add_edge(a, b, n)
            where[n] = (a, b)
        sources = {int(n) for n in model.injected[model.lasting]}
        devices = {n: d for n, d in part.believed(model).devices.items() if d.curve is not None}
        for n, down in devices.items():
            a, b = where[n]
            cut = graph.copy()
            cut.remove_edge(a, b, n)
            reached = set().union(*(nx.node_connected_component(cut, s) for s in sources if s in cut))
            if (a in reached) == (b in reached):
                continue
            near, far = (a, b) if a in reached else (b, a)
            fault = model.fault(model.grid.names[far])
            own = fault.shares[down.element.id].current_ka * 1000
            ups = set()
            for s in sources:
                if s in cut and nx.has_path(cut, s, near):
                    for path in itertools.islice(nx.all_simple_edge_paths(cut, s, near), 200):
                        ups |= {key for _, _, key in path if key in devices}
                    if s == near:
                        continue
            for u in ups:
                amps = fault.shares[devices[u].element.id].current_ka * 1000
                found[model.circuit.name, down.element.tag, devices[u].element.tag] = (
                    down,
                    devices[u],
                    amps / own,
                    own,
                )
    return found


@pytest.fixture(scope="module")
def demo():
    return trusted(document())


def test_which_devices_are_in_series_and_their_amperes_are_those_of_simple_paths(demo):
    plain = plain_pairs(demo)
    ours = {(s.case, s.downstream.element.tag, s.upstream.element.tag): s for s in in_series(demo)}
    assert len(ours) > 100
    for key, s in ours.items():
        _, _, ratio, own = plain[key]
        assert s.ratio == pytest.approx(ratio, rel=1e-9) and s.to_a == pytest.approx(own, rel=1e-9), key
    # what is left out is alike to one that is not, at a smaller current, or hardly carries anything
    volts = {e.tag: demo.network.node[e.ends[0]].nominal_voltage_v for e in demo.network.elements}
    for (_, down, up), (_, _, ratio, own) in plain.items():
        alike = [s for (_, d, u), s in ours.items() if (d, u) == (down, up) and abs(s.ratio - ratio) < 2e-4]
        small = ratio * volts[up] < 0.021 * volts[down]
        assert small or any(s.to_a >= own * (1 - 1e-9) for s in alike), (down, up, ratio)


def test_every_stretch_that_loses_its_order_is_found_and_is_one(demo):
    every = {(p.downstream.tag, p.upstream.tag): p for p in series_pairs(demo)}
    lost, by_hand = {tags: p for tags, p in every.items() if p.lost}, {}
    for (case, down, up), (d, u, ratio, own) in plain_pairs(demo).items():
        start = every[down, up].from_a if (down, up) in every else math.inf
        if own > start and (found := scanned(Plain(case, d, u, ratio, own, start), 120)):
            by_hand.setdefault((down, up), []).append(found)
    assert set(by_hand) == set(lost) and len(lost) == 11
    for pair in lost.values():
        down, up = (read_curve(next(e for e in document()["elements"] if e["tag"] == t)["curve"])
                    for t in (pair.downstream.tag, pair.upstream.tag))  # fmt: skip
        for low, high in pair.lost:
            for a in np.geomspace(low * 1.00001, high * 0.99999, 25).tolist():
                fast = clearing(up, a * pair.ratio, edge=FAST).time_s
                slow = clearing(down, a).time_s
                assert fast is not None and (slow is None or fast <= slow), (pair.downstream.tag, pair.upstream.tag, a)


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_the_quick_look_loses_none(seed):
    part = trusted(large_document(14, seed))
    full = [p for p in series_pairs(part) if p.lost]
    assert series_pairs(part, lost_only=True) == full


def device(curve, tag="X", **more):
    return Device(Element(id=tag, tag=tag, kind="breaker", ends=("a", "b"), curve=curve, **more), curve, None)


def pair(below, above, ratio=1.0, to_a=20_000.0, held=()):
    return InSeries(case="", downstream=device(below, "below"), upstream=device(above, "above"), ratio=ratio, to_a=to_a,
                    held=held)  # fmt: skip


FEEDER = TripCurve(long_pickup_a=400, long_delay_s=4, short_pickup_a=2000, short_delay_s=0.1)
MAIN = TripCurve(long_pickup_a=1600, long_delay_s=10, short_pickup_a=6000, short_delay_s=0.3)


def test_the_margin_of_two_flat_delays_is_their_difference_at_the_edges_of_their_bands():
    found = compared(pair(FEEDER, MAIN))
    assert found.kept and found.margin_s == pytest.approx(0.3 * 0.9 - 0.1 * 1.1)
    found = compared(pair(FEEDER, MAIN, to_a=5000))
    assert found.kept and found.margin_s > 1, "below the pickup of the main's short time its long time counts"


def test_an_instantaneous_trip_upstream_loses_the_order_from_the_lower_edge_of_its_band_on():
    above = TripCurve(
        long_pickup_a=1600, long_delay_s=10, short_pickup_a=6000, short_delay_s=0.3, instantaneous_a=12_000
    )
    (stretch,) = compared(pair(FEEDER, above)).lost
    assert stretch[0] == pytest.approx(12_000 * 0.9, rel=1e-6) and stretch[1] == 20_000
    assert compared(pair(FEEDER, above, to_a=10_000)).kept
    # and through a transformer at the current that the upstream device sees
    (through,) = compared(pair(FEEDER, above, ratio=0.8)).lost
    assert through[0] == pytest.approx(12_000 * 0.9 / 0.8, rel=1e-6)


def test_a_narrow_stretch_between_two_steps_is_found():
    above = TripCurve(long_pickup_a=1600, long_delay_s=10, short_pickup_a=2100, short_delay_s=0.5)
    below = TripCurve(long_pickup_a=400, long_delay_s=30, short_pickup_a=2000, short_delay_s=0.1)
    (stretch,) = compared(pair(below, above)).lost
    assert stretch == (pytest.approx(2100 * 0.9, rel=1e-6), pytest.approx(2000 * 1.1, rel=1e-6))


def test_a_zone_interlock_that_nobody_holds_is_taken_as_fast():
    quick = TripCurve(
        long_pickup_a=1600, long_delay_s=10, short_pickup_a=6000, short_delay_s=0.3, interlock_delay_s=0.05
    )
    assert compared(pair(FEEDER, quick)).lost
    below = device(FEEDER, "below")
    assert compared(pair(FEEDER, quick, held=((below, 1.0),))).kept
    # below the current from which the feeder holds it back nothing holds it
    assert not Bounds().keep_order(pair(FEEDER, quick))


def test_a_fuse_without_melting_points_may_melt_at_once():
    fuse = FuseCurve(((3000.0, 100.0), (6000.0, 1.0), (20_000.0, 0.05)))
    assert compared(pair(FEEDER, fuse)).lost
    known = FuseCurve(fuse.points, ((3000.0, 80.0), (6000.0, 0.8), (20_000.0, 0.2)))
    assert compared(pair(FEEDER, known)).lost == ()


def test_a_device_that_sees_nothing_has_no_order_to_keep():
    assert compared(pair(FEEDER, MAIN, to_a=100)) is None


def test_what_is_set_otherwise_is_compared_as_it_is_set():
    slow = RelayCurve(curve="VI", pickup_a=60, dial=1.6, breaker_s=0.083)
    fast = RelayCurve(curve="VI", pickup_a=60, dial=0.05, breaker_s=0.083)
    s = pair(MAIN, slow, ratio=0.0385, to_a=27_000)
    assert len(compared(s.with_curves({"above": fast})).lost) > 0
    assert s.with_curves({"elsewhere": fast}) == s


def test_a_device_that_fails_its_duty_and_one_in_a_loop_are_no_pair():
    doc = document()
    next(e for e in doc["elements"] if e["tag"] == "F-B1")["interrupting_ka"] = 5
    tags = {t for s in in_series(trusted(doc)) for t in (s.downstream.element.tag, s.upstream.element.tag)}
    assert "F-B1" not in tags and "F-B2" in tags
    assert element_id("F-B1") in {i for i, d in trusted(doc).duty.items() if not d.adequate}
