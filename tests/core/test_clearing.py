"""Who clears an arc, and when: against a simulation that opens devices one after the other, and special relays."""

import copy
from dataclasses import replace

import networkx as nx
import numpy as np
import pytest

from spinel.core.fault.nodal import NodalModel
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.circuit import in_case
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.protection.clearing import Places, clear_all, widest
from spinel.core.protection.stages import Staging
from spinel.core.protection.times import clearing
from spinel.demo.large import large_document
from spinel.demo.site import document, element_id


def simulated(study, model, node, doubted, part):
    """Open believed devices in the order of their times, at their first shares, until no source reaches the node."""
    fault = model.fault(node)
    graph = nx.MultiGraph()
    graph.add_node(node)
    times = []
    network = model.network
    for k in model.branches:
        e = model.grid.elements[k]
        a, b = model.grid.names[model.grid.a[k]], model.grid.names[model.grid.b[k]]
        graph.add_edge(a, b, key=(e.id, a, b))
        inside = {network.node[n].enclosure for n in e.ends}
        curve = e.maintenance_curve if e.id in model.circuit.maintenance else e.curve
        if e.kind in ("breaker", "fuse", "contactor") and study.duty[e.id].adequate and curve and doubted not in inside:
            time = clearing(curve, fault.shares[e.id].current_ka * 1000 * part).time_s
            if time is not None:
                times.append((time, e.id))
    sources = {i.element.id: i for i in model.injections if i.sustained}
    ceasing = [(i.element.fault_cease_s, i.element.id) for i in sources.values() if i.element.fault_cease_s is not None]

    def feeding():
        reached = nx.node_connected_component(graph, node)
        return [i for i in sources.values() if i.node in reached]

    if not feeding():
        return 0.0
    for time, element in sorted([*times, *ceasing]):
        sources.pop(element, None)
        graph.remove_edges_from([e for e in graph.edges(keys=True) if e[2][0] == element])
        if not feeding():
            return time
    return np.inf


def compared(doc, every: int) -> int:
    network = accept(doc)
    study = Study(network, NORTH_AMERICAN, None, 40.0)
    boxes = [e.id for e in network.enclosures]
    runs, asked = [], []
    for clear in study.clearings:
        nodes = [n for n in network.nodes if clear.model.fault_is_sustained(n.id)][::every]
        at = np.array([clear.model.grid.index[n.id] for n in nodes], dtype=np.intp)
        doubted = np.array([boxes.index(n.enclosure) if i % 2 and n.enclosure else -1 for i, n in enumerate(nodes)])
        part = np.stack([np.full(len(nodes), 0.8), np.full(len(nodes), 0.6)])
        runs.append((clear, Places(at, doubted, part)))
        asked.append(nodes)
    count = 0
    for (clear, places), ends, nodes in zip(runs, clear_all(runs), asked, strict=True):
        for k, node in enumerate(nodes):
            doubted = boxes[places.doubted[k]] if places.doubted[k] >= 0 else None
            for row in (0, 1):
                expected = simulated(study, clear.model, node.id, doubted, places.part[row, k])
                assert ends.time_s[row, k] == pytest.approx(expected, rel=1e-4), (
                    clear.model.circuit.name,
                    node.id,
                    row,
                )
                count += 1
    return count


def test_every_node_of_the_demo_clears_as_the_simulation_says():
    assert compared(document(), 1) > 500


@pytest.mark.parametrize("seed", [0, 1, 3])
def test_meshed_sites_clear_as_the_simulation_says(seed):
    assert compared(large_document(30, seed), 3) > 200


def test_widest_way_on_a_square_with_a_diagonal():
    """Edges 0-1: 3, 1-3: 1, 0-2: 2, 2-3: 5, 0-3: 1.5. Ways 0 to 3: min(3, 1), min(2, 5), 1.5: the largest is 2."""
    a, b = np.array([0, 1, 0, 2, 0]), np.array([1, 3, 2, 3, 3])
    times = np.array([3.0, 1, 2, 5, 1.5])[:, None]
    reach = widest(5, a, b, times, np.array([0]))[:, 0]
    assert reach.tolist() == [np.inf, 3, 2, 2, 0]


def test_what_is_left_when_a_source_is_off_is_the_network_without_it():
    """The remaining current against a model in which the source does not run at all."""
    network = accept(document())
    case = next(c for c in network.cases if c.id == "ship")
    study = Study(network, NORTH_AMERICAN, None, 40.0)
    clear = next(c for c in study.clearings if c.model.circuit.name == case.name)
    ship = element_id("SC-1")
    without = NodalModel(network, replace(c := in_case(network, case), running=c.running - {ship}))
    at = np.array([clear.model.grid.index[n] for n in ("n-b", "n-mc2", "n-scd")])
    (ends,) = clear_all([(clear, Places(at, np.full(3, -1), np.full((2, 3), 0.7)))])
    staging = Staging(clear, at, ends, 2.0)
    which = [clear.model.injections[i].element.id for i in clear.sources].index(ship)
    left = staging._remaining((which,), np.arange(3))
    for ka, node in zip(left, ("n-b", "n-mc2", "n-scd"), strict=True):
        assert ka == pytest.approx(without.bolted_ka(node), rel=1e-6)
        assert ka < clear.model.bolted_ka(node)


def hazard(tag, touches="bus", **changes):
    doc = copy.deepcopy(document())
    for other, values in changes.items():
        next(e for e in doc["elements"] if e["tag"] == other.replace("_", "-")).update(values)
    return Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id(tag), touches)


def test_zone_interlock_trips_at_once_unless_a_device_below_sees_the_fault_too():
    """F-A1 held by MC1-2B: an arc at MC1 is above MC1-2B, so nobody holds; one behind it is held, and MC1-2B clears."""
    curve = {"type": "trip", "long_pickup_a": 600, "long_delay_s": 8, "short_pickup_a": 3000, "short_delay_s": 0.3,
             "interlock_delay_s": 0.08}  # fmt: skip
    short = {"type": "trip", "long_pickup_a": 100, "long_delay_s": 6, "short_pickup_a": 800, "short_delay_s": 0.1}
    below = {"curve": short}
    free = hazard("MC1", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}, MC1_2B=below)
    assert free.energy.duration_s == pytest.approx(0.088)
    assert any("not restrained" in d.how and d.time_s == pytest.approx(0.088) for d in free.energy.clearing.devices)
    # nobody is named: always held; a device without a short-time pickup holds at any share, its motor's too
    assert hazard("MC1", F_A1={"curve": curve}).energy.duration_s == pytest.approx(0.33)
    assert hazard("MC1", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}).energy.duration_s == pytest.approx(0.33)
    below["interrupting_ka"] = 1
    behind = hazard("P-21", F_A1={"curve": curve, "restrained_by": ["MC1-2B"]}, MC1_2B=below)
    assert behind.energy.clearing.device.tag == "F-A1" and behind.energy.duration_s == pytest.approx(0.33)


@pytest.mark.parametrize(("principle", "time"), [("differential", 0.03), ("light", 0.003)])
def test_a_relay_of_a_zone_clears_arcs_inside_it_only(principle, time):
    relay = {"type": "unit", "principle": principle, "pickup_a": 200, "operating_s": time, "breaker_s": 0.083}
    zone = {"zone": ["e-swb-a"], "zone_curve": relay}
    inside = hazard("SWB-A", "bus", **{"52-T1": zone, "52-T2": zone})
    devices = {d.tag: d for d in inside.energy.clearing.devices}
    assert any(d.time_s == pytest.approx(time + 0.083) for t, d in devices.items() if t.startswith("52-T"))
    outside = hazard("T1", "feeder", **{"52-T1": zone, "52-T2": zone})
    assert outside.energy_cal_cm2 == pytest.approx(hazard("T1", "feeder").energy_cal_cm2)
    assert inside.energy_cal_cm2 < hazard("SWB-A", "bus").energy_cal_cm2


def test_a_maintenance_setting_counts_only_in_the_case_that_sets_it():
    quick = {"type": "trip", "long_pickup_a": 600, "long_delay_s": 8, "instantaneous_a": 3000}
    doc = copy.deepcopy(document())
    next(e for e in doc["elements"] if e["tag"] == "F-A1")["maintenance_curve"] = quick
    doc["cases"] = [{"id": "s", "name": "serviced", "settings": {"F-A1": "maintenance"}}]
    set_ = Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id("MC1"), "bus")
    assert next(d for d in set_.energy.clearing.devices if d.tag == "F-A1").time_s == pytest.approx(0.05)
    doc["cases"].append({"id": "n", "name": "normal"})
    both = Study(accept(doc), NORTH_AMERICAN, None, 40.0).hazard(element_id("MC1"), "bus")
    assert both.energy.case == "normal"
