"""IEEE Std 1584-2018 against its two published worked examples (Annex D), to the printed digits.

Source of every expected value: IEEE Std 1584-2018, Annex D, examples 1 (medium voltage) and 2 (low voltage), as
given in the project's reference figures (from memory). None comes from running Spinel.
"""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from saying import en
from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash.ieee1584_2018 import Enclosure, Situation
from spinel.core.errors import InputError, OutOfRange
from spinel.core.tables import ieee1584_2018 as table

MEDIUM = (Situation(4160, "VCB", 104, 914.4, Enclosure(1143, 762, 508)), 15)
LOW = (Situation(480, "VCB", 32, 609.6, Enclosure(610, 610, 254)), 45)


def printed(value: float, digits: int) -> float:
    return round(value, digits)


@pytest.mark.parametrize(
    ("example", "intermediate", "arcing", "factor", "reduced"),
    [
        (MEDIUM, {600: 11.117, 2700: 12.816, 14300: 14.116}, 12.979, 1.284, 12.675),
        (LOW, {600: 32.449}, 28.793, 1.085, 25.244),
    ],
)
def test_arcing_currents_and_correction_factor_of_the_worked_examples(example, intermediate, arcing, factor, reduced):
    situation, ibf = example
    found = ieee.arc_currents(situation, ibf)
    assert {v: printed(i, 3) for v, i in found.intermediate_ka.items()} == intermediate
    assert printed(found.arcing_current_ka, 3) == arcing
    assert printed(found.reduced_arcing_current_ka, 3) == reduced
    assert printed(ieee.correction(situation).factor, 3) == factor


@pytest.mark.parametrize(
    ("example", "reduced", "duration_ms", "energy_j_cm2", "boundary_mm"),
    [
        (MEDIUM, False, 197, 12.152, 1606),
        (MEDIUM, True, 223, 13.343, 1704),
        (LOW, False, 61.3, 11.585, 1029),
        (LOW, True, 319, 53.156, 2669),
    ],
)
def test_energy_and_boundary_of_the_worked_examples(example, reduced, duration_ms, energy_j_cm2, boundary_mm):
    situation, ibf = example
    found = ieee.energy(situation, ibf, duration_ms, reduced=reduced)
    assert printed(found.incident_energy_j_cm2, 3) == energy_j_cm2
    assert printed(found.arc_flash_boundary_mm, 0) == boundary_mm
    assert found.incident_energy_cal_cm2 == pytest.approx(energy_j_cm2 / 4.184, abs=2e-4)


def test_polynomials_of_the_energy_tables_repeat_those_of_the_current_table():
    """A slip of memory in one table would show here: k4 to k10 stand in both (IEEE 1584-2018, tables 1, 3 to 5)."""
    for configuration, by_voltage in table.ENERGY.items():
        for voltage, k in by_voltage.items():
            assert k[3:10] == table.ARCING_CURRENT[configuration][voltage][3:], (configuration, voltage)


@pytest.mark.parametrize("voltage_v", [208, 480, 600])
def test_order_of_configurations_in_a_box_at_low_voltage(voltage_v):
    """Common practice, no source: a horizontal arc throws more at the worker than a vertical one at a barrier."""
    energies = [
        ieee.energy(Situation(voltage_v, c, 25, 455, Enclosure(508, 508, 508)), 20, 100).incident_energy_j_cm2
        for c in ("VCB", "VCBB", "HCB")
    ]
    assert energies == sorted(energies)


_configurations = st.sampled_from(ieee.CONFIGURATIONS)
_situations = st.builds(
    Situation,
    voltage_v=st.floats(400, 15000),
    electrode_configuration=_configurations,
    gap_mm=st.floats(25, 76),
    working_distance_mm=st.floats(305, 2000),
    enclosure=st.builds(Enclosure, st.floats(510, 1500), st.floats(510, 1500), st.floats(210, 900)),
)


@given(_situations, st.floats(0.5, 60), st.floats(1, 1000))
def test_limits_that_hold_everywhere(situation, ibf, duration_ms):
    """Arcing below bolted current; energy proportional to time, falling with distance, independent boundary."""
    currents = ieee.arc_currents(situation, ibf)
    assert 0 < currents.reduced_arcing_current_ka <= currents.arcing_current_ka <= ibf * 1.001
    one, two = (ieee.energy(situation, ibf, t) for t in (duration_ms, 2 * duration_ms))
    assert two.incident_energy_j_cm2 == pytest.approx(2 * one.incident_energy_j_cm2)
    further = Situation(
        situation.voltage_v, situation.electrode_configuration, situation.gap_mm,
        situation.working_distance_mm + 100, situation.enclosure,
    )  # fmt: skip
    assert ieee.energy(further, ibf, duration_ms).incident_energy_j_cm2 < one.incident_energy_j_cm2
    assert ieee.energy(further, ibf, duration_ms).arc_flash_boundary_mm == one.arc_flash_boundary_mm


@given(_configurations, st.floats(208, 600), st.floats(1, 100), st.floats(5, 2000))
def test_at_low_voltage_the_boundary_is_where_the_threshold_energy_is(configuration, voltage_v, ibf, duration_ms):
    box = Enclosure(600, 600, 300)
    boundary = ieee.energy(Situation(voltage_v, configuration, 32, 455, box), ibf, duration_ms).arc_flash_boundary_mm
    if boundary >= 305:
        there = ieee.energy(Situation(voltage_v, configuration, 32, boundary, box), ibf, duration_ms)
        assert there.incident_energy_j_cm2 == pytest.approx(5.0208, rel=1e-9)


@pytest.mark.parametrize(
    ("change", "current", "field"),
    [
        ({"voltage_v": 207.9}, 20, "voltage_v"), ({"voltage_v": 15001}, 20, "voltage_v"),
        ({"voltage_v": math.nan}, 20, "voltage_v"), ({"voltage_v": 0.48}, 20, "voltage_v"),
        ({"voltage_v": -480}, 20, "voltage_v"), ({"voltage_v": math.inf}, 20, "voltage_v"),
        ({}, 0.49, "bolted_fault_current_ka"), ({}, 106.1, "bolted_fault_current_ka"),
        ({}, math.nan, "bolted_fault_current_ka"), ({}, 0, "bolted_fault_current_ka"),
        ({"voltage_v": 4160}, 65.1, "bolted_fault_current_ka"), ({"voltage_v": 4160}, 0.19, "bolted_fault_current_ka"),
        ({"gap_mm": 6.3}, 20, "gap_mm"), ({"gap_mm": 77}, 20, "gap_mm"), ({"gap_mm": math.nan}, 20, "gap_mm"),
        ({"voltage_v": 4160, "gap_mm": 19}, 20, "gap_mm"), ({"voltage_v": 4160, "gap_mm": 255}, 20, "gap_mm"),
        ({"working_distance_mm": 304}, 20, "working_distance_mm"), ({"working_distance_mm": 18}, 20, "working_distance_mm"),
        ({"electrode_configuration": "XYZ"}, 20, "electrode_configuration"),
        ({"enclosure": None}, 20, "enclosure_width_mm"), ({"enclosure": Enclosure(0, 500)}, 20, "enclosure_height_mm"),
    ],
)  # fmt: skip
def test_outside_its_range_the_model_refuses_and_names_the_field(change, current, field):
    values = {
        "voltage_v": 480, "electrode_configuration": "VCB", "gap_mm": 32, "working_distance_mm": 455,
        "enclosure": Enclosure(600, 600, 300), **change,
    }  # fmt: skip
    with pytest.raises(InputError) as refused:
        ieee.energy(Situation(**values), current, 100)
    assert refused.value.field == field
    assert refused.value.allowed


@pytest.mark.parametrize("duration_ms", [0, -1, math.nan, math.inf])
def test_a_duration_that_is_none_is_refused(duration_ms):
    with pytest.raises(InputError, match="duration_ms"):
        ieee.energy(LOW[0], 20, duration_ms)


def test_shallow_boxes_only_below_600_v_and_508_mm():
    """IEEE 1584-2018 4.8.2: strictly below 600 V, height and width below 508 mm, depth at most 203.2 mm."""

    def kind(voltage, height, width, depth):
        return ieee.correction(Situation(voltage, "VCB", 25, 455, Enclosure(height, width, depth))).box

    assert kind(480, 355.6, 304.8, 203.2) == "shallow"
    assert {kind(600, 355.6, 304.8, 203.2), kind(480, 508, 304.8, 203.2), kind(480, 355.6, 304.8, 203.3)} == {"typical"}


def test_warnings_do_not_refuse():
    found = ieee.check(Situation(480, "VCB", 76, 455, Enclosure(1300, 300, 300)), 20)
    assert len(found) == 2 and "1244.6" in en(found[0]) and "four gaps" in en(found[1])


def test_lee_is_refused_at_and_below_15_kv_and_has_its_published_form():
    """R. Lee 1982 in the metric form of IEEE 1584-2002: 2.142e6 V I t / D2 (from memory). 34.5 kV, 10 kA, 0.1 s, 1 m."""
    from spinel.core.arcflash import lee

    with pytest.raises(OutOfRange):
        lee.energy(15_000, 10, 100, 1000)
    assert lee.energy(34_500, 10, 100, 1000).incident_energy_j_cm2 == pytest.approx(2.142e6 * 34.5 * 10 * 0.1 / 1e6)
