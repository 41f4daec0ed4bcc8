"""Fault currents against a general-purpose power-system library (pandapower, registry: short-circuit module).

How the assumptions are made to agree: tests/library_network.py.
Hand check: 1500 kVA, 5.75 %, infinite bus: 100/5.75 x full-load current (common practice, no source).
"""

import math
from dataclasses import replace

import pytest

from library_network import C, build, currents_ka, solve
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.check import accept
from spinel.core.network.circuit import in_case
from spinel.demo.large import large_document

pytestmark = [pytest.mark.filterwarnings("ignore")]


@pytest.mark.parametrize("case", ["normal", "tie-t1", "tie-t2", "gen", "ship"])
def test_the_demo_agrees_with_the_library_in_every_case(demo_network, case):
    chosen = next(c for c in demo_network.cases if c.id == case)
    circuit = in_case(demo_network, chosen)
    model = NodalModel(demo_network, circuit)
    expected = currents_ka(demo_network, circuit)
    compared = 0
    for node_id, ka in expected.items():
        if model.energised(node_id) and not math.isnan(ka) and ka > 0:
            assert model.fault(node_id).bolted_fault_current_ka == pytest.approx(ka, rel=1e-3), (case, node_id)
            compared += 1
    assert compared >= 30


@pytest.mark.parametrize(("seed", "case"), [(1, "normal"), (1, "gen"), (2, "first-out"), (2, "gen")])
def test_meshed_sites_with_generators_and_motors_agree_with_the_library(seed, case):
    """Currents at every node, and through every line and transformer for a fault at each of ten buses."""
    network = accept(large_document(60, seed))
    chosen = next(c for c in network.cases if c.id == case)
    model = NodalModel(network, replace(in_case(network, chosen), level="nominal"))
    net, bus = build(network, model.circuit)
    buses = [e.ends[0] for e in network.elements if e.kind == "bus" and model.energised(e.ends[0])][::6]
    assert case == "first-out" or len(model.solution.laterals.core) > 20, "rings leave a core"
    solve(net)
    for node, at in bus.items():
        ka = net.res_bus_sc.ikss_ka.at[at] / C
        if model.energised(node) and ka > 0:
            assert model.bolted_ka(node) == pytest.approx(ka, rel=1e-3), node
    found = model.faults(buses)
    lines = [e for e in network.elements if e.kind == "cable"]
    place = {model.grid.elements[k].id: i for i, k in enumerate(model.branches)}
    solve(net, bus=[bus[b] for b in buses], branch_results=True, return_all_currents=True)
    for column, node in enumerate(buses):
        currents = net.res_line_sc.ikss_ka.xs(bus[node], level="bus") / C
        for line, ka in zip(lines, currents, strict=True):
            if ka > 0.01 * found.bolted_ka[column]:
                assert found.branch_ka[place[line.id], column] == pytest.approx(ka, rel=1e-3), (node, line.tag)


def test_a_fault_among_many_is_the_fault_alone(demo_network):
    """The same currents whether asked one by one or all together, and contributions add up (Kirchhoff)."""
    model = NodalModel(demo_network, in_case(demo_network, demo_network.cases[0]))
    nodes = [n.id for n in demo_network.nodes if model.energised(n.id)]
    together = model.faults(nodes)
    for column, node in enumerate(nodes):
        alone = model.fault(node)
        assert alone.bolted_fault_current_ka == pytest.approx(together.bolted_ka[column], rel=1e-12)
        assert [ka for _, ka in alone.contributions] == pytest.approx(list(together.source_ka[:, column]), rel=1e-12)
        assert sum(ka for _, ka in alone.contributions) == pytest.approx(alone.bolted_fault_current_ka, rel=0.05)


def _one_transformer(mva: float):
    nodes = [{"id": n, "nominal_voltage_v": v, "current": "ac"} for n, v in (("a", 12_470), ("b", 480))]
    elements = [
        {"id": "u", "tag": "U", "kind": "source", "ends": ["a"], "fault_mva_max": mva, "x_r_max": 10,
         "fault_mva_min": mva, "x_r_min": 10},
        {"id": "t", "tag": "T", "kind": "transformer", "ends": ["a", "b"], "rated_kva": 1500, "impedance_pct": 5.75,
         "x_r": 10},
        {"id": "s", "tag": "S", "kind": "bus", "ends": ["b"]},
    ]  # fmt: skip
    return {
        "format": "spinel-network", "version": 1, "nodes": nodes, "enclosures": [], "elements": elements,
        "site": {"name": "x", "time_zone": "UTC", "profile": "north-american"}, "cases": [{"id": "c", "name": "c"}],
    }  # fmt: skip


@pytest.mark.parametrize(("mva", "expected_ka"), [(999_999, 31.38), (500, 29.83)])
def test_a_transformer_by_hand(mva, expected_ka):
    """FLA = 1500/(1.732 x 0.48) = 1804.2 A. Infinite: 1804.2/0.0575 = 31.38 kA. 500 MVA: 1804.2/(0.0575 + 1.5/500)."""
    network = accept(_one_transformer(mva))
    model = NodalModel(network, in_case(network, network.cases[0]))
    assert model.fault("b").bolted_fault_current_ka == pytest.approx(expected_ka, abs=0.01)


def test_currents_through_devices_add_up_and_a_dead_part_has_none(demo_network):
    """Kirchhoff, and the mains of the other section carry nothing with the tie open."""
    model = NodalModel(demo_network, in_case(demo_network, demo_network.cases[0]))
    fault = model.fault("n-a")
    tag = {e.tag: fault.shares[e.id].current_ka for e in demo_network.elements if e.id in fault.shares}
    assert tag["52-A"] == pytest.approx(tag["W-A"], rel=1e-4)
    through = sum(tag[t] for t in ("52-A", "F-A1", "F-A2", "F-A3"))
    assert through == pytest.approx(fault.bolted_fault_current_ka, rel=0.02)
    assert "52-TIE" not in tag
    assert tag["52-B"] < 0.02 * tag["52-A"]
