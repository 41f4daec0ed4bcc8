"""Questions asked backwards come back to the same energy; what each input does; arrays are scalars in a row."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash import inverse
from spinel.core.arcflash.ieee1584_2018 import Enclosure, Situation
from spinel.core.errors import InputError, OutOfRange
from spinel.core.tables.equipment import TYPICAL, typical

LOW = Situation(480, "VCB", 32, 610, Enclosure(508, 508, 508))
HIGH = Situation(12_470, "HCB", 152, 914, Enclosure(1143, 762, 762))

_situations = st.builds(
    Situation, voltage_v=st.sampled_from([208.0, 400.0, 480.0, 600.0, 601.0, 2700.0, 4160.0, 15_000.0]),
    electrode_configuration=st.sampled_from(ieee.CONFIGURATIONS), gap_mm=st.floats(20, 76),
    working_distance_mm=st.floats(305, 2000),
    enclosure=st.builds(Enclosure, st.floats(100, 1500), st.floats(100, 1500), st.none() | st.floats(50, 900)),
)  # fmt: skip
_asked = st.lists(st.tuples(_situations, st.floats(0.6, 64), st.floats(1, 2000)), min_size=1, max_size=30)


@settings(max_examples=60)
@given(_asked, st.booleans())
def test_arrays_are_scalars_in_a_row(asked, reduced):
    places = [s for s, _, _ in asked]
    box = Enclosure(*(np.array([math.nan if (v := getattr(s.enclosure, n)) is None else v for s in places])
                      for n in ("height_mm", "width_mm", "depth_mm")))  # fmt: skip
    many = Situation(np.array([s.voltage_v for s in places]), np.array([s.electrode_configuration for s in places]),
                     np.array([s.gap_mm for s in places]), np.array([s.working_distance_mm for s in places]), box)  # fmt: skip
    ibf, ms = np.array([i for _, i, _ in asked]), np.array([t for _, _, t in asked])
    energy, currents = ieee.energy(many, ibf, ms, reduced=reduced), ieee.arc_currents(many, ibf)
    factor = ieee.correction(many).factor
    boundary = ieee.boundary_mm(many, energy.intermediate_j_cm2)
    for k, (s, i, t) in enumerate(asked):
        alone = ieee.energy(s, i, t, reduced=reduced)
        assert energy.incident_energy_j_cm2[k] == pytest.approx(alone.incident_energy_j_cm2, rel=1e-12)
        assert energy.arc_flash_boundary_mm[k] == pytest.approx(alone.arc_flash_boundary_mm, rel=1e-12)
        assert energy.arcing_current_ka[k] == pytest.approx(alone.arcing_current_ka, rel=1e-12)
        assert boundary[k] == pytest.approx(alone.arc_flash_boundary_mm, rel=1e-9), "from energies as from exponents"
        assert currents.reduced_arcing_current_ka[k] == pytest.approx(
            ieee.arc_currents(s, i).reduced_arcing_current_ka, rel=1e-12)  # fmt: skip
        assert factor[k] == pytest.approx(ieee.correction(s).factor, rel=1e-12)


@pytest.mark.parametrize(
    ("column", "value", "field"),
    [("voltage_v", 0.48, "voltage_v"), ("voltage_v", math.nan, "voltage_v"), ("gap_mm", 5.0, "gap_mm"),
     ("working_distance_mm", 100.0, "working_distance_mm"), ("electrode_configuration", "ABC", "electrode_configuration")],
)  # fmt: skip
def test_one_bad_row_of_an_array_refuses_and_names_its_field(column, value, field):
    columns = {"voltage_v": [480.0, 480.0], "electrode_configuration": ["VCB", "VOA"], "gap_mm": [32.0, 32.0],
               "working_distance_mm": [455.0, 455.0]}  # fmt: skip
    columns[column][1] = value
    many = Situation(*(np.array(c) for c in columns.values()), enclosure=Enclosure(508, 508, 508))
    with pytest.raises(InputError) as refused:
        ieee.energy(many, np.array([20.0, 20.0]), 100.0)
    assert refused.value.field == field


@pytest.mark.parametrize(
    ("current", "ms", "field"), [(200.0, 100.0, "bolted_fault_current_ka"), (20.0, -1.0, "duration_ms")]
)
def test_bad_currents_and_durations_of_an_array(current, ms, field):
    with pytest.raises(InputError, match=field):
        ieee.energy(LOW, np.array([20.0, current]), np.array([100.0, ms]))


@given(st.sampled_from([LOW, HIGH]), st.floats(1, 60), st.floats(1, 40))
def test_the_longest_duration_gives_back_the_target(place, current, target):
    ms = inverse.longest_ms(place, current, target)
    assert inverse.worse_energy(place, current, ms) == pytest.approx(target * 4.184, rel=1e-9)


@given(st.sampled_from([LOW, HIGH]), st.floats(2, 60), st.floats(50, 2000), st.floats(1, 40))
def test_the_nearest_distance_gives_back_the_target(place, current, ms, target):
    distance = inverse.nearest_mm(place, current, ms, target)
    there = Situation(place.voltage_v, place.electrode_configuration, place.gap_mm, distance, place.enclosure)
    found = inverse.worse_energy(there, current, ms)
    assert found == pytest.approx(target * 4.184, rel=1e-6) or (distance == 305 and found <= target * 4.184)


def test_at_the_threshold_the_nearest_distance_is_the_boundary_at_low_voltage():
    """Energy equals 1.2 cal/cm² at the arc-flash boundary at and below 600 V (IEEE 1584-2018)."""
    boundary = max(ieee.energy(LOW, 30, 200, reduced=r).arc_flash_boundary_mm for r in (False, True))
    assert inverse.nearest_mm(LOW, 30, 200, 1.2) == pytest.approx(boundary, rel=1e-9)


@pytest.mark.parametrize("place", [LOW, HIGH])
def test_up_to_the_highest_current_the_energy_stays_at_or_below_the_target(place):
    limit = inverse.highest_ka(place, 150, 8)
    assert inverse.worse_energy(place, limit, 150) == pytest.approx(8 * 4.184, rel=1e-6)
    for current in np.linspace(0.5, limit, 50):
        assert inverse.worse_energy(place, float(current), 150) <= 8 * 4.184 * (1 + 1e-9)
    assert inverse.highest_ka(LOW, 1, 1000) == 106
    with pytest.raises(OutOfRange, match="target_cal_cm2"):
        inverse.highest_ka(LOW, 100_000, 0.01)
    with pytest.raises(OutOfRange, match="target_cal_cm2"):
        inverse.nearest_mm(HIGH, 60, 900_000, 0.001)


@pytest.mark.parametrize("target", [0, -1, math.nan, math.inf, 5000])
def test_an_absurd_target_is_refused(target):
    for ask in (lambda: inverse.longest_ms(LOW, 20, target), lambda: inverse.nearest_mm(LOW, 20, 100, target)):
        with pytest.raises(InputError, match="target_cal_cm2"):
            ask()


def test_what_each_input_does():
    """Energy is proportional to time; at 480 V in VCB it falls with distance to the power 1.598 (table 3, k12)."""
    found = {s.name: s for s in inverse.sensitivities(LOW, 30, 100)}
    assert found["duration_ms"].exponent == pytest.approx(1, abs=1e-6)
    assert found["working_distance_mm"].exponent == pytest.approx(-1.598, abs=1e-4)
    assert found["duration_ms"].up_j_cm2 == pytest.approx(1.1 * inverse.worse_energy(LOW, 30, 100))
    assert {"voltage_v", "gap_mm", "enclosure_height_mm", "enclosure_width_mm", "enclosure_depth_mm"} <= set(found)
    at_edge = inverse.sensitivities(LOW, 106, 100)
    assert next(s for s in at_edge if s.name == "bolted_fault_current_ka").up_j_cm2 is None
    with pytest.raises(InputError, match="part"):
        inverse.sensitivities(LOW, 30, 100, part=2)


@pytest.mark.parametrize(
    ("name", "volts", "gap", "box", "distance"),
    [
        ("medium-voltage switchgear", 13_800, 152, (1143, 762, 762), 914.4), ("medium-voltage switchgear", 4_160, 104, (914.4,) * 3, 914.4),
        ("low-voltage switchgear", 480, 32, (508, 508, 508), 609.6), ("panelboard", 208, 25, (355.6, 304.8, 203.2), 457.2),
        ("motor control center", 480, 25, (355.6, 304.8, 203.2), 457.2), ("cable junction box", 480, 13, (355.6, 304.8, 203.2), 457.2),
    ],
)  # fmt: skip
def test_typical_values_written_a_second_time(name, volts, gap, box, distance):
    """IEEE 1584-2018 tables 8 and 10, from memory; every one is inside the model's range."""
    t = typical(name, volts)
    assert (t.gap_mm, (t.height_mm, t.width_mm, t.depth_mm), t.working_distance_mm) == (gap, box, distance)
    ieee.check(Situation(volts, t.electrode_configuration, gap, distance, Enclosure(*box)), 10)


@pytest.mark.parametrize(
    ("name", "volts"), [("teapot", 480), ("panelboard", 4160), ("medium-voltage switchgear", 480), ("battery", 480)]
)
def test_no_typical_values_are_made_up(name, volts):
    assert "battery" not in TYPICAL
    with pytest.raises(InputError, match="equipment_class"):
        typical(name, volts)
