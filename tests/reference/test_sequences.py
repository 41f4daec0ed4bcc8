"""Line-to-line and line-to-ground faults, taps and third windings against things outside the project.

Reference: pandapower (registry), calc_sc with fault "2ph" and "1ph", made to agree as tests/library_network.py says
(magnetizing impedance infinite). Hand checks name their arithmetic.
"""

import math

import pytest

from library_network import currents_ka
from saying import en
from sequence_site import cable, end, radial, site, source, transformer
from spinel.core.errors import InputError
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.unbalanced import fault_currents
from spinel.core.network.check import accept
from spinel.core.network.circuit import in_case

pytestmark = [pytest.mark.filterwarnings("ignore")]


def model_of(document, **circuit):
    network = accept(document)
    return NodalModel(network, in_case(network, network.cases[0]))


def meshed():
    """Two delta-star transformers side by side, their boards joined by a cable: a mesh in both sequences."""
    return site(
        [("a", 12_470), ("b", 480), ("c", 480)],
        [source("a", z0_z1=0.8), transformer("T1", "a", "b", vector_group="Dyn11"),
         transformer("T2", "a", "c", kva=1000, z=5, vector_group="Dyn11", z0_pct=4.5),
         cable("W", "b", "c", r0_ohm=0.02, x0_ohm=0.011)],
    )  # fmt: skip


def star_star():
    return site(
        [("a", 12_470), ("b", 480), ("c", 480)],
        [source("a", z0_z1=1.2), transformer("T", "a", "b", vector_group="YNyn0"),
         cable("W", "b", "c", r0_ohm=0.02, x0_ohm=0.011), end("c")],
    )  # fmt: skip


@pytest.mark.parametrize("fault", ["3ph", "2ph", "1ph"])
@pytest.mark.parametrize("document", [radial, meshed, star_star])
def test_every_kind_of_fault_agrees_with_the_library(document, fault):
    model = model_of(document())
    expected = currents_ka(model.network, model.circuit, fault)
    assert len(expected) == 3
    for node, ka in expected.items():
        found = fault_currents(model, node)
        mine = {"3ph": model.bolted_ka(node), "2ph": found.line_to_line_ka, "1ph": found.line_to_ground_ka}[fault]
        assert mine == pytest.approx(ka, rel=1e-3), node


def test_a_grounding_resistor_limits_the_ground_fault_by_hand():
    """Delta-star, 4160 V, neutral through 6 ohm: about 4160/1.732/6 = 400 A (common practice: a 400 A resistor)."""
    doc = site([("a", 12_470), ("b", 4_160)], [source("a"), end("b"),
               transformer("T", "a", "b", kva=5000, vector_group="Dyn11", neutral_ohm=6.0)])  # fmt: skip
    assert fault_currents(model_of(doc), "b").line_to_ground_ka == pytest.approx(0.400, rel=0.02)


def test_an_ungrounded_part_has_no_ground_fault_current_and_missing_data_are_named():
    delta = site([("a", 12_470), ("b", 480)], [source("a"), transformer("T", "a", "b", vector_group="Dd0"), end("b")])
    found = fault_currents(model_of(delta), "b")
    assert found.line_to_ground_ka == 0 and "ungrounded" in en(found.lacking)
    bare = radial()
    del bare["elements"][2]["r0_ohm"]
    found = fault_currents(model_of(bare), "c")
    assert found.line_to_ground_ka is None and en(found.lacking).startswith("W: r0_ohm")
    # the far side of the delta is asked for nothing
    assert fault_currents(model_of(radial()), "c").line_to_ground_ka > 0
    with pytest.raises(InputError, match="node"):
        fault_currents(model_of(radial()), "nowhere")


def test_negative_sequence_of_a_machine_is_its_own():
    """By hand: 500 kVA, 480 V, X'' 0.14, X2 0.20: base 601.4 A; three-phase /0.14; line to line 1.732 x /(0.14 + 0.20)."""
    doc = site([("a", 480)], [end("a"), {"tag": "G", "kind": "generator", "ends": ["a"], "rated_kva": 500,
               "xd_subtransient_pu": 0.14, "x2_pu": 0.20, "x_r": 1000, "normal_state": "running"}])  # fmt: skip
    model = model_of(doc)
    base = 500 / (math.sqrt(3) * 480)
    assert model.bolted_ka("a") == pytest.approx(base / 0.14, rel=1e-5)
    assert fault_currents(model, "a").line_to_line_ka == pytest.approx(math.sqrt(3) * base / 0.34, rel=1e-5)


def test_a_delta_third_winding_grounds_the_star_by_hand():
    """YNynd: legs 10.5, -0.5, 7.5 % of 30 MVA. From the second winding, with an infinite source: leg 2 and 1 beside 3."""
    doc = site([("a", 115_000), ("b", 13_800), ("c", 4_160)],
               [source("a", mva=999_999, x_r=30, z0_z1=1.0), end("b"), end("c"),
                transformer("T", "a", "b", "c", kva=30_000, z=10, x_r=30, vector_group="YNyn0d1",
                            impedance_13_pct=18, impedance_23_pct=7)])  # fmt: skip
    z1, z0 = 0.10, -0.005 + 1 / (1 / 0.105 + 1 / 0.075)
    expected = 3 / (2 * z1 + z0) * 30_000 / (math.sqrt(3) * 13_800)
    assert fault_currents(model_of(doc), "b").line_to_ground_ka == pytest.approx(expected, rel=1e-3)
    assert fault_currents(model_of(doc), "c").line_to_ground_ka == 0, "a delta has no path to ground"


def test_a_group_of_motors_is_so_many_alone():
    """Three times 50 kVA at X'' 0.2 on one node, as one element and as three."""
    one = {"kind": "motor", "ends": ["b"], "rated_kva": 50, "xd_subtransient_pu": 0.2, "x_r": 6}
    base = [source("a"), transformer("T", "a", "b")]
    nodes = [("a", 12_470), ("b", 480)]
    group = model_of(site(nodes, [*base, {"tag": "M", "motors": 3, **one}]))
    alone = model_of(site(nodes, [*base, *({"tag": f"M{i}", **one} for i in range(3))]))
    assert group.bolted_ka("b") == pytest.approx(alone.bolted_ka("b"), rel=1e-12)
    assert alone.bolted_ka("b") > model_of(site(nodes, [*base, {"tag": "M", **one}])).bolted_ka("b")


def test_three_windings_are_a_star_by_hand():
    """30 MVA: 10, 18, 7 % gives legs 10.5, -0.5, 7.5 %. Behind an infinite 115 kV: 10 % to the second, 18 % to the third."""
    doc = site([("a", 115_000), ("b", 13_800), ("c", 4_160)],
               [source("a", mva=999_999, x_r=30), transformer("T", "a", "b", "c", kva=30_000, z=10, x_r=30,
                impedance_13_pct=18, impedance_23_pct=7), end("b"), end("c")])  # fmt: skip
    model = model_of(doc)
    for node, volts, percent in (("b", 13_800, 10), ("c", 4_160, 18)):
        by_hand = 30_000 / (math.sqrt(3) * volts) * 100 / percent
        assert model.bolted_ka(node) == pytest.approx(by_hand, rel=1e-3)


def test_a_tap_changes_how_the_other_side_is_seen_by_hand():
    """A fault at the secondary sees the source through the turns: Z = Zs / (1 + tap)^2 + Zt, prefault 1.0 per unit."""
    model = model_of(site([("a", 12_470), ("b", 480)],
                          [source("a", mva=100, x_r=6), transformer("T", "a", "b", tap_pct=5.0, x_r=6), end("b")]))  # fmt: skip
    z_source, z_transformer = 1 / 100, 5.75 / 100 / 1.5
    expected = 1 / (math.sqrt(3) * 0.48 * (z_source / 1.05**2 + z_transformer))
    assert model.bolted_ka("b") == pytest.approx(expected, rel=1e-9)
    # 12.0 kV windings on a 12.47 kV system are the same thing as a tap, and move the percent base of the other side
    rated = model_of(site([("a", 12_470), ("b", 480)],
                          [source("a", mva=100, x_r=6), end("b"),
                           transformer("T", "a", "b", x_r=6, rated_voltages_v=[12_000, 480])]))  # fmt: skip
    turns = 12_000 / 12_470
    expected = 1 / (math.sqrt(3) * 0.48 * (z_source / turns**2 + z_transformer))
    assert rated.bolted_ka("b") == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize(
    ("level", "temperature", "tolerance"), [("maximum", 25, 0.925), ("nominal", 75, 1.0), ("minimum", 90, 1.075)]
)
def test_cold_conductors_and_less_impedance_for_the_maximum_by_hand(level, temperature, tolerance):
    """Copper from 75 C: R (234.5 + t) / (234.5 + 75), the straight line of NEC chapter 9 table 8 (from memory)."""
    doc = site([("a", 12_470), ("b", 480), ("c", 480)],
               [source("a", mva=999_999, x_r=8), transformer("T", "a", "b", z=5, x_r=8, tolerance_pct=7.5),
                cable("W", "b", "c", r=0.02, x=0.01, ohms_at_c=75, hot_c=90), end("c")])  # fmt: skip
    doc["cases"][0]["impedances"] = level
    base = 0.48**2 / 1.5
    z = 0.05 * tolerance * base * complex(1, 8) / math.hypot(1, 8)
    z += complex(0.02 * (234.5 + temperature) / (234.5 + 75), 0.01)
    assert model_of(doc).bolted_ka("c") == pytest.approx(0.48 / math.sqrt(3) / abs(z), rel=1e-4)
