"""The figure of a place: worst over cases and currents, cleared by the device that really sees it, or none at all."""

import copy

import pytest

from saying import en
from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError, NotFound
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.site import document, element_id


def study_of(doc, ceiling=40.0):
    return Study(accept(doc), NORTH_AMERICAN, None, ceiling)


def edited(tag, **values):
    doc = copy.deepcopy(document())
    next(e for e in doc["elements"] if e["tag"] == tag).update(values)
    return doc


def enclosure(id_, **values):
    doc = copy.deepcopy(document())
    next(e for e in doc["enclosures"] if e["id"] == id_).update(values)
    return doc


def test_the_figure_is_the_worst_of_every_case_and_both_currents(demo_study):
    """Compared with a plain maximum over studies of one case each."""
    whole = demo_study.hazard(element_id("MC1"))
    singles = []
    for case in document()["cases"]:
        doc = {**document(), "cases": [case]}
        singles.append(study_of(doc).hazard(element_id("MC1")))
    assert whole.energy_cal_cm2 == pytest.approx(max(h.energy_cal_cm2 for h in singles))
    assert whole.boundary_mm == pytest.approx(max(h.boundary_mm for h in singles))
    worst = max(singles, key=lambda h: h.energy_cal_cm2)
    assert whole.energy.case == worst.energy.case


def test_the_reduced_current_wins_where_its_longer_clearing_outweighs_it(demo_study):
    """52-U is an inverse relay: at the reduced current it takes longer, so that case is the worse one at SWG-1."""
    figure = demo_study.hazard(element_id("SWG-1")).energy
    assert figure.current == "reduced"
    assert figure.energy.arcing_current_ka == figure.currents.reduced_arcing_current_ka
    assert figure.energy.arcing_current_ka < figure.currents.arcing_current_ka
    flat = demo_study.hazard(element_id("MC1")).energy
    assert flat.current == "full", "F-A1 clears in its flat short-time band at both currents"


def test_the_line_side_of_a_main_is_cleared_upstream(demo_study):
    """SWB-A has no barrier: its main is not believed, on either side. SWB-B has one around 52-B's line terminals."""
    for touches in ("terminals:n-al", "terminals:n-a", "bus", "racking"):
        a = demo_study.hazard(element_id("52-A"), touches)
        assert a.energy.clearing.device.tag in ("52-T1", "52-T2")
        assert ("52-A", "worked on, or in a compartment that is opened") in en(a.energy.clearing.passed_over)
    line, bus = (demo_study.hazard(element_id("52-B"), f"terminals:{n}") for n in ("n-bl", "n-b"))
    assert line.energy.clearing.device.tag in ("52-T1", "52-T2")
    assert "52-B" not in [tag for tag, _ in bus.energy.clearing.passed_over]
    assert bus.energy_cal_cm2 < line.energy_cal_cm2 == demo_study.hazard(element_id("52-B")).energy_cal_cm2
    assert bus.needs and not line.energy_cal_cm2 < demo_study.hazard(element_id("52-B"), "racking").energy_cal_cm2


@pytest.mark.parametrize(
    ("tag", "bus"), [("F-B1", "SWB-B"), ("F-B2", "SWB-B"), ("52-T1", "SWG-1"), ("52-TIE", "SWB-A")]
)
def test_working_beside_a_live_bus_has_the_figures_of_the_bus(demo_study, tag, bus):
    """Nothing chosen, racking, or at the bus: what the bus beside it has, whatever the device itself would clear."""
    beside = demo_study.hazard(element_id(bus))
    for touches in ("", "bus"):
        assert demo_study.hazard(element_id(tag), touches).energy_cal_cm2 == pytest.approx(beside.energy_cal_cm2)
    assert demo_study.sides(element_id(tag))[0].energy_cal_cm2 == pytest.approx(beside.energy_cal_cm2)


def test_a_barrier_of_its_own_lets_a_feeder_clear_at_its_cable_end(demo_study):
    cable = demo_study.hazard(element_id("52-T1"), "terminals:n-t1c")
    assert any(d.tag == "52-T1" for d in cable.energy.clearing.devices)
    assert cable.energy_cal_cm2 < 0.2 * demo_study.hazard(element_id("52-T1")).energy_cal_cm2


def test_a_transformer_has_its_ends_each_with_its_own_voltage(demo_study):
    low, high = (demo_study.hazard(element_id("T1"), f"terminals:{n}") for n in ("n-t1s", "n-t1p"))
    assert (low.voltage_v, high.voltage_v) == (480, 12_470) and low.approach.restricted_mm == 300
    assert (low.glove, high.glove) == ("00", "2") and not low.inside_restricted
    both = demo_study.hazard(element_id("T1"))
    assert (both.voltage_v, both.working_distance_mm, both.approach.restricted_mm) == (12_470, 610, 700)
    assert both.inside_restricted


@pytest.mark.parametrize(
    ("voltages", "glove", "restricted"),
    [([(600, "ac"), (750, "dc")], "0", 300), ([(208, "ac"), (250, "dc")], "00", 300), ([(120, "ac"), (250, "dc")], "00", None)],
)  # fmt: skip
def test_ac_and_dc_in_one_compartment_are_looked_up_apart(voltages, glove, restricted):
    """The worst of each quantity: 600 V AC needs class 0 beside 750 V DC; 208 V AC keeps its 0.3 m beside 250 V DC."""
    (ac, _), (dc, _) = voltages
    doc = copy.deepcopy(document())
    box = next(e for e in doc["enclosures"] if e["id"] == "e-ctl")
    box["auxiliary_supplies"] = [
        {"name": "One", "voltage_v": ac, "current": "ac", "source": "x"},
        {"name": "Two", "voltage_v": dc, "current": "dc", "source": "x"},
    ]
    found = study_of(doc).hazard(element_id("CTL-1"))
    assert (found.glove, found.approach.restricted_mm) == (glove, restricted)


def test_the_slowest_source_sets_the_duration_and_what_is_left_the_energy(demo_study):
    """The ship feeds an arc at its own disconnect for 0.5 s, alone after F-B3 has cut off the utility at 0.22 s."""
    figure = demo_study.hazard(element_id("Q-SC")).energy
    assert en(figure.case).startswith("ship feeding back") and figure.clearing.device.tag == "SC-1"
    # until 0.1 s small motors feed too, until 0.16 s the solar inverter
    *_, first, second = figure.stages
    assert [s.until_s for s in figure.stages] == [0.1, 0.16, pytest.approx(0.22), 0.5]
    assert (first.then_off, second.then_off) == (("F-B3",), ("SC-1",))
    # 600 kVA x 1.2 at 480 V is 0.866 kA, and nothing else is left there
    assert second.bolted_fault_current_ka == pytest.approx(0.866, abs=1e-3)
    assert first.bolted_fault_current_ka > 5
    parts = [
        ieee.energy(figure.situation, s.bolted_fault_current_ka, (s.until_s - s.from_s) * 1000,
                    reduced=figure.current == "reduced").incident_energy_j_cm2
        for s in figure.stages
    ]  # fmt: skip
    assert figure.energy.incident_energy_j_cm2 == pytest.approx(sum(parts))


def test_a_trip_setting_changes_the_energy():
    slow = study_of(edited("F-A1", curve={"type": "trip", "long_pickup_a": 600, "long_delay_s": 8,
                                          "short_pickup_a": 3000, "short_delay_s": 0.2}))  # fmt: skip
    fast, was = slow.hazard(element_id("MC1")), study_of(document()).hazard(element_id("MC1"))
    assert was.energy.duration_s == pytest.approx(0.33)
    assert fast.energy.duration_s == pytest.approx(0.22)
    # the stages of both are the same but for the last
    each = [h.energy.stages for h in (fast, was)]
    assert [s.incident_energy_j_cm2 for s in each[0][:-1]] == pytest.approx(
        [s.incident_energy_j_cm2 for s in each[1][:-1]]
    )
    rates = [s[-1].incident_energy_j_cm2 / (s[-1].until_s - s[-1].from_s) for s in each]
    assert rates[0] == pytest.approx(rates[1])


def test_a_device_that_fails_its_duty_check_is_passed_over_for_the_next():
    weak = study_of(edited("F-A1", interrupting_ka=10)).hazard(element_id("MC1"))
    assert weak.energy.clearing.device.tag != "F-A1"
    assert any(tag == "F-A1" and "rated to interrupt 10 kA" in en(why) for tag, why in weak.energy.clearing.passed_over)


@pytest.mark.parametrize(
    ("tag", "values", "adequate", "reason"),
    [
        ("MC2-2B", {}, False, "rated to interrupt 14 kA where"),
        ("MC1-2B", {}, True, "rated 42 kA"),
        ("MC1-2B", {"rated_voltage_v": 240}, False, "rated 240 V on a 480 V circuit"),
        ("MC1-2B", {"interrupting_ka": KeyError}, False, "not recorded"),
    ],
)
def test_duty_check(tag, values, adequate, reason):
    doc = copy.deepcopy(document())
    element = next(e for e in doc["elements"] if e["tag"] == tag)
    for key, value in values.items():
        element.pop(key) if value is KeyError else element.update({key: value})
    duty = study_of(doc).duty[element_id(tag)]
    assert duty.adequate is adequate and reason in en(duty.reason)


def test_two_seconds_only_where_escape_is_clear():
    """Common practice, no source: a person who can get clear is taken to have left after two seconds."""
    capped = study_of(document()).hazard(element_id("G-1"))
    assert capped.energy.capped and capped.energy.duration_s == 2.0
    trapped = study_of(enclosure("e-g", escape_clear=False)).hazard(element_id("G-1"))
    assert (
        trapped.energy is None and "nothing clears G-1" in en(trapped.no_figure) and "escape" in en(trapped.no_figure)
    )


@pytest.mark.parametrize(
    ("tag", "touches", "why"),
    [("BB-1", "", "direct current"), ("DCB-1", "", "direct current"), ("CTL-1", "", "direct current")],
)
def test_outside_every_method_there_is_no_figure(demo_study, tag, touches, why):
    found = demo_study.hazard(element_id(tag), touches)
    assert found.energy is None and found.kit is None and why in en(found.no_figure)


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ({"gap_mm": 200}, "IEEE 1584-2018 covers 6.35 to 76.2 mm"),
        ({"electrode_configuration": None}, "not recorded"),
    ],
)
def test_a_case_that_no_method_covers_leaves_no_figure_at_all(change, why):
    doc = copy.deepcopy(document())
    box = next(e for e in doc["enclosures"] if e["id"] == "e-mc1")
    for key, value in change.items():
        box.pop(key) if value is None else box.update({key: value})
    found = study_of(doc).hazard(element_id("MC1"))
    assert found.energy is None and why in en(found.no_figure)


def test_single_phase_has_no_figure():
    doc = copy.deepcopy(document())
    next(n for n in doc["nodes"] if n["id"] == "n-mc1")["phases"] = 1
    assert "single-phase" in en(study_of(doc).hazard(element_id("MC1")).no_figure)


def test_shock_voltage_is_the_highest_that_opening_exposes(demo_study):
    """The 24 V gate control box holds nothing else; PSU-1's cabinet also holds its 480 V side."""
    assert demo_study.hazard(element_id("CTL-1")).below_threshold
    psu = demo_study.hazard(element_id("PSU-1"))
    assert not psu.below_threshold and psu.voltage_v == 480
    doc = copy.deepcopy(document())
    box = next(e for e in doc["enclosures"] if e["id"] == "e-ctl")
    box["auxiliary_supplies"] = [{"name": "Heater", "voltage_v": 120, "current": "ac", "source": "elsewhere"}]
    heated = study_of(doc).hazard(element_id("CTL-1"))
    assert not heated.below_threshold and (heated.voltage_v, heated.current) == (120, "ac")


def test_distance_moves_energy_but_never_the_boundary(demo_study):
    near, far = (demo_study.hazard(element_id("MC1"), "", d) for d in (455, 610))
    assert far.energy_cal_cm2 < near.energy_cal_cm2
    assert far.boundary_mm == pytest.approx(near.boundary_mm, rel=1e-12)
    assert far.standard_distance_mm == near.standard_distance_mm == 455


def test_barricade_is_the_larger_boundary_in_both_units(demo_study):
    wide = demo_study.hazard(element_id("SWB-B"))
    assert wide.barricade_mm == wide.boundary_mm > 1000
    narrow = demo_study.hazard(element_id("P-21"))
    assert narrow.boundary_mm < 1000
    assert (narrow.barricade_mm, narrow.barricade_in) == (1000, 42)


@pytest.mark.parametrize("distance", [304, 5001, float("nan"), 18, 0, -455])
def test_an_absurd_distance_is_refused(demo_study, distance):
    with pytest.raises(InputError, match="working_distance_mm"):
        demo_study.hazard(element_id("MC1"), "", distance)


def test_unknown_places_are_refused(demo_study):
    with pytest.raises(NotFound):
        demo_study.hazard("nowhere")
    with pytest.raises(InputError, match="touches"):
        demo_study.hazard(element_id("MC1"), "roof")


def test_a_frozen_hazard_is_plain_data_with_its_working(demo_study):
    from spinel.core.canonical import canonical

    data = demo_study.hazard(element_id("SWG-1")).data
    canonical(data)
    assert set(data["energy"]["currents"]["intermediate_ka"]) == {"600", "2700", "14300"}
    assert data["energy"]["fault"]["contributions_ka"]["U-1"] > 5
