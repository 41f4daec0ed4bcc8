"""Point to point, conductors and asymmetry against hand arithmetic, published figures and second writings.

Sources: short-circuit currents of common transformers at 480 V, as published with the method (from memory, medium
confidence); NEC chapter 9 table 9 (from memory, high confidence); test power factors of UL 489 and IEEE C37.13 with
their multiplying factors (from memory, high confidence); line types of a general-purpose power-system library.
"""

import math

import pytest

import library_network
from saying import en
from sequence_site import cable, end, radial, site, source, transformer
from spinel.core.errors import InputError
from spinel.core.fault import point_to_point as p2p
from spinel.core.fault.asymmetry import (
    asymmetrical_ka,
    crest_factor,
    half_cycle_factor,
    multiplier,
    peak_ka,
    rms_factor,
)
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.check import accept
from spinel.core.network.circuit import in_case
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.tables.conductors import NEC_TABLE_9, at_temperature, conductor, nec_ohm_per_1000_ft
from spinel.core.tables.point_to_point import C_VALUES
from spinel.wording.fault_report import fault_report
from spinel.wording.words import words_of


@pytest.mark.parametrize(
    ("kva", "percent", "published_a"),
    [(75, 1.00, 10_035), (300, 1.20, 33_451), (500, 1.30, 51_463), (1000, 3.50, 38_230), (1500, 3.50, 57_345),
     (2500, 4.00, 83_628)],
)  # fmt: skip
def test_published_transformer_currents(kva, percent, published_a):
    """480 V three-phase, infinite source, 10 % tolerance taken off."""
    leg = p2p.infinite_source_ka(kva, 480, percent)
    assert leg.current_ka * 1000 == pytest.approx(published_a, rel=2e-3)
    assert [en(line.what) for line in leg.lines] == ["Full-load current", "Bolted fault current"]


def test_a_feeder_by_hand():
    """57 345 A at 480 V, 4 x 500 kcmil in steel, 60 ft: f = 1.732 x 60 x 57345 / (22185 x 4 x 480) = 0.1399."""
    leg = p2p.through_conductor(57.345, 480, 60 / 3.280839895, 22_185, 4)
    assert leg.f == pytest.approx(1.7320508 * 60 * 57_345 / (22_185 * 4 * 480), rel=1e-6)
    assert leg.m == pytest.approx(1 / (1 + leg.f)) and leg.current_ka == pytest.approx(57.345 * leg.m)
    assert "1.732 × 60.0 ft × 57345 A / (22185 × 4 × 480 V)" in en(leg.lines[0].formula)


def test_a_second_transformer_by_hand():
    """20 kA at 480 V into 75 kVA, 2 %, 208 V: f = 1.732 x 20000 x 480 x 2 / (100000 x 75) = 4.434; 46154 A x 0.184."""
    leg = p2p.through_transformer(20, 480, 208, 75, 2.0)
    assert leg.f == pytest.approx(4.434, abs=1e-3)
    assert leg.current_ka == pytest.approx(20 * 480 / 208 / 5.434, rel=1e-3)


@pytest.mark.parametrize("metal", ["copper", "aluminum"])
def test_c_values_imply_a_lower_impedance_than_table_9(metal):
    """C x Z at 75 °C is 1.18 to 1.27 at the sizes tested: C stands for cold conductors (reference figures, computed)."""
    for size, (steel, _) in C_VALUES[metal].items():
        if NEC_TABLE_9[size][7] is None and metal == "aluminum":
            continue
        r, x = nec_ohm_per_1000_ft(size, metal, "steel")
        assert 1.1 < steel * math.hypot(r, x) / 1000 < 1.35, size


def test_table_9_falls_with_size_and_aluminum_is_above_copper():
    """Physical order of what was written from memory: a slip would show."""
    rows = list(NEC_TABLE_9.values())
    for column in (2, 3, 4, 5, 6, 7):
        values = [row[column] for row in rows if row[column] is not None]
        assert values == sorted(values, reverse=True)
    for row in rows:
        if row[5] is not None:
            assert 1.3 < row[5] / row[2] < 1.8


@pytest.mark.parametrize(
    ("size", "r", "x"), [("4/0", 0.063, 0.051), ("500", 0.029, 0.048), ("8", 0.78, 0.065), ("1000", 0.018, 0.046)]
)
def test_table_9_written_a_second_time(size, r, x):
    """NEC chapter 9 table 9, copper in steel conduit, ohm per 1000 ft (from memory)."""
    assert nec_ohm_per_1000_ft(size) == (r, x)


@pytest.mark.parametrize(
    ("size", "metal", "line_type"),
    [("50 mm2", "aluminum", "NAYY 4x50 SE"), ("150 mm2", "aluminum", "NAYY 4x150 SE"),
     ("70 mm2", "aluminum", "NA2XS2Y 1x70 RM/25 12/20 kV"), ("240 mm2", "aluminum", "NA2XS2Y 1x240 RM/25 12/20 kV")],
)  # fmt: skip
def test_metric_sizes_against_the_line_types_of_a_library(size, metal, line_type):
    """pandapower's standard line types give ohm per km at 20 °C; table 60228 and skin effect within 3 %."""
    # by its module: what pytest looks at in this one is loaded, in every worker
    pp = library_network.pp
    library = pp.load_std_type(pp.create_empty_network(), line_type, "line")
    found = conductor(size, metal, "pvc", 50)
    assert found.resistance_ohm_km == pytest.approx(library["r_ohm_per_km"], rel=0.03)
    assert (found.at_c, found.reactance_ohm_km) == (20, pytest.approx(0.08))


def test_temperature_is_that_of_nec_table_8():
    """NEC chapter 9 table 8 note: R2 = R1 (1 + 0.00323 (T2 - 75)) for copper, 0.00330 for aluminum (from memory)."""
    for metal, alpha in (("copper", 0.00323), ("aluminum", 0.00330)):
        assert at_temperature(1, metal, 75, 25) == pytest.approx(1 - 50 * alpha, abs=1e-3)


@pytest.mark.parametrize(
    ("power_factor", "x_r", "rms", "crest"),
    [(0.50, 1.7321, 1.026, 1.645), (0.30, 3.1798, 1.130, 1.941), (0.20, 4.8990, 1.247, 2.159), (0.15, 6.5912, 1.331, 2.29)],
)  # fmt: skip
def test_published_factors_of_test_power_factors(power_factor, x_r, rms, crest):
    """Half-cycle rms and crest factors beside power factor and X/R, as in common tables (from memory)."""
    assert math.tan(math.acos(power_factor)) == pytest.approx(x_r, rel=1e-4)
    assert rms_factor(x_r) == pytest.approx(rms, abs=2e-3)
    assert half_cycle_factor(x_r) == pytest.approx(crest, abs=3e-3)


def test_close_and_latch_of_medium_voltage():
    """IEEE C37.06: crest 2.6 times the symmetrical rms at 60 Hz and X/R 17 (from memory)."""
    assert round(float(crest_factor(17)), 1) == 2.6
    assert peak_ka(10, 17) == pytest.approx(26, abs=0.2) and asymmetrical_ka(10, 0) == pytest.approx(10)


def test_a_rating_is_never_raised_by_a_kinder_circuit():
    for basis in ("peak", "rms", "parting"):
        assert multiplier(3, 4.9, basis) == 1 and multiplier(20, 4.9, basis) > 1
    with pytest.raises(InputError, match="basis"):
        multiplier(5, 5, "guess")


@pytest.mark.parametrize(
    ("call", "field"),
    [
        (lambda: p2p.through_conductor(0, 480, 10, 20_000), "start_ka"), (lambda: p2p.through_conductor(10, 0.48, 10, 20_000), "voltage_v"),
        (lambda: p2p.through_conductor(10, 480, -1, 20_000), "length_m"), (lambda: p2p.through_conductor(10, 480, 10, math.nan), "c_value"),
        (lambda: p2p.through_conductor(10, 480, 10, 20_000, 0), "per_phase"), (lambda: p2p.through_transformer(math.inf, 480, 208, 75, 2), "primary_ka"),
        (lambda: p2p.infinite_source_ka(0, 480, 2), "rated_kva"), (lambda: p2p.infinite_source_ka(75, 480, 0), "impedance_pct"),
        (lambda: p2p.infinite_source_ka(75, 480, 2, 9), "factor"), (lambda: p2p.motor_contribution(-5), "full_load_a"),
        (lambda: p2p.c_value("501"), "conductor_size"), (lambda: asymmetrical_ka(10, math.nan), "x_r"),
        (lambda: peak_ka(-1, 5), "bolted_fault_current_ka"), (lambda: asymmetrical_ka(10, 5, -1), "cycles"),
        (lambda: conductor("95 sq", "copper", "pvc", 50), "conductor_size"), (lambda: conductor("95 mm2", "gold", "pvc", 50), "conductor"),
        (lambda: conductor("500", "copper", "wood", 60), "conduit"), (lambda: nec_ohm_per_1000_ft("14", "aluminum"), "conductor_size"),
    ],
)  # fmt: skip
def test_bad_numbers_are_named(call, field):
    with pytest.raises(InputError) as refused:
        call()
    assert refused.value.field == field


def by_size():
    return site(
        [("a", 12_470), ("b", 480), ("c", 480)],
        [source("a"), transformer("T", "a", "b"), end("c"),
         {"tag": "M", "kind": "motor", "ends": ["c"], "rated_kva": 150, "xd_subtransient_pu": 0.2, "x_r": 8},
         {"tag": "W", "kind": "cable", "ends": ["b", "c"], "conductor_size": "500", "conduit": "steel", "per_phase": 2,
          "length_m": 50}],
    )  # fmt: skip


def test_the_difference_from_the_nodal_result_is_explained_to_the_last_ampere():
    network = accept(by_size())
    model = NodalModel(network, in_case(network, network.cases[0]))
    found = p2p.compare(model, "c")
    assert [tag for tag, _ in found.legs] == ["T", "W"]
    assert sum(part for _, part in found.explained) == pytest.approx(found.nodal_ka - found.by_hand_ka)
    assert found.nodal_ka == pytest.approx(model.bolted_ka("c"))
    without_motor = {**by_size(), "elements": [e for e in by_size()["elements"] if e["tag"] != "M"]}
    network = accept(without_motor)
    bare = p2p.compare(NodalModel(network, in_case(network, network.cases[0])), "c")
    assert bare.explained[2][1] == pytest.approx(0, abs=1e-6), "nothing else feeds it"
    assert bare.explained[1][1] > 0, "magnitudes add to more than the whole"
    # 150 kVA / 0.2 behind its reactance: 0.902 kA at its terminals
    assert found.explained[2][1] == pytest.approx(150 / 0.2 / (math.sqrt(3) * 480), rel=0.05)


def test_the_report_names_every_current_with_its_unit():
    network = accept(radial())
    lines = "\n".join(fault_report(network, "W", words_of(NORTH_AMERICAN)))
    for words in ("three-phase bolted", "line-to-line", "line-to-ground", "asymmetrical rms, crest", "fed by", "U ",
                  "point to point from U", "1.732 ×", "with their angles"):  # fmt: skip
        assert words in lines, words
    assert cable("W", "b", "c")["resistance_ohm"] == 0.005
