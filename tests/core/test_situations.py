"""What a figure is the worst over: strengths and what lies between, decay, UPS, what no case feeds, versions of documents."""

import copy
import math
import os
import random

import pytest

from saying import en
from small_site import Small, radial, trip
from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import DocumentError
from spinel.core.fault.decay import current_pu
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.unbalanced import fault_currents
from spinel.core.hazard import Study
from spinel.core.network.check import accept, warnings_of
from spinel.core.network.circuit import in_case
from spinel.core.network.document import Element
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.said import say
from spinel.demo.site import document
from spinel.wording.fields import described
from spinel.wording.words import words_of
from wording.test_catalogue import messages


def study(doc):
    return Study(accept(doc), NORTH_AMERICAN, None, 40.0)


def hazard(site, tag="B", touches=""):
    return study(site.document() if isinstance(site, Small) else site).hazard(f"id-{tag}", touches)


# Strengths -----------------------------------------------------------------------------------------------------


def test_the_weakest_supply_counts_without_a_case_that_asks():
    """An I²t trip is slower at less current: the weakest supply gives more, and no case says so."""
    found = {}
    for pinned in ({}, {"U": {"strength": "minimum"}}, {"U": {"strength": "maximum"}}):
        site = radial(**trip(2500))
        site.boxes[-1]["escape_clear"] = True
        site.cases[0]["sources"] = pinned
        found[str(pinned)] = hazard(site).energy
    whole, weak, strong = found.values()
    assert whole.energy.incident_energy_j_cm2 >= max(f.energy.incident_energy_j_cm2 for f in (weak, strong)) * (
        1 - 1e-9
    )
    assert "as the case sets it" in en(weak.case) and "as the case sets it" in en(strong.case)


def test_the_worst_may_lie_between_just_under_a_pickup():
    """Instantaneous at 16 kA + 10 %: at 30 MVA (36 kA) it trips, at 15 MVA (18 kA bolted) the arc is far below; the
    worst is the highest arcing current that is still below it. By hand: the arcing current just under the pickup."""
    site = radial(**trip(1600, short_pickup_a=4000, short_delay_s=0.3, instantaneous_a=16_000))
    figure = hazard(site).energy
    assert "between strongest and weakest" in en(figure.case) and figure.duration_s == pytest.approx(0.33)
    assert figure.energy.arcing_current_ka * 1000 == pytest.approx(16_000 * 1.1, rel=1e-4)
    assert figure.energy.arcing_current_ka * 1000 < 16_000 * 1.1
    alone = ieee.energy(
        figure.situation, figure.fault["bolted_fault_current_ka"], 330, reduced=figure.current == "reduced"
    )
    assert figure.energy.incident_energy_j_cm2 == pytest.approx(alone.incident_energy_j_cm2)
    ends = []
    for strength in ("maximum", "minimum"):
        pinned = copy.deepcopy(site)
        pinned.cases[0]["sources"] = {"U": {"strength": strength}}
        ends.append(hazard(pinned).energy_cal_cm2)
    assert figure.energy.incident_energy_cal_cm2 > max(ends)


def test_a_case_that_pins_impedances_says_so():
    site = radial()
    site.cases[0]["impedances"] = "minimum"
    assert "impedances minimum as the case sets them" in en(hazard(site).energy.case)


# Parallel ways and several sources -------------------------------------------------------------------------------


def parallel(escape_clear: bool = True) -> Small:
    """One relay R above two equal transformers whose boards are tied; the tie is quicker than R."""
    site = Small(escape_clear)
    for n in ("s", "top", "h1", "h2"):
        site.node(n, 12_470)
    for n in ("a", "b", "ta", "tb"):
        site.node(n)
    site.short("a", "ta")
    site.short("b", "tb")
    site.add("source", "U", "s", fault_mva_max=300, x_r_max=10, fault_mva_min=300, x_r_min=10)
    relay = {"type": "relay", "curve": "VI", "pickup_a": 100, "dial": 2, "breaker_s": 0.083}
    site.breaker("R", "s", "top", **relay)
    for i, board in ((1, "a"), (2, "b")):
        site.breaker(f"D{i}", "top", f"h{i}")
        site.add("transformer", f"T{i}", f"h{i}", board, rated_kva=1500, impedance_pct=5.75, x_r=6)
        site.add("bus", f"B{i}", board)
    site.breaker("TIE", "ta", "tb", **trip(1000, short_pickup_a=3000, short_delay_s=0.1))
    site.add("bus", "TOP", "top")
    return site


def test_when_the_tie_opens_the_relay_above_goes_on_from_its_new_share():
    """At first R sees both transformers' current; the tie opens at 0.11 s, R sees half and goes on, slower, from what it
    has counted. By hand: (1 - 0.11 / t1) t2 after 0.11 s, with t1 and t2 by the printed equation."""
    late = study(parallel().document()).hazard("id-B1").energy
    first, second = late.stages
    assert first.then_off == ("TIE",) and first.until_s == pytest.approx(0.11) and second.then_off == ("R",)
    assert second.bolted_fault_current_ka < 0.75 * first.bolted_fault_current_ka

    def by_hand(stage):
        amps = stage.arcing_current_ka * 1000 * 480 / 12_470
        return 2 * (19.61 / ((amps / 105) ** 2 - 1) + 0.491) * 1.05 + 0.083

    t1, t2 = by_hand(first), by_hand(second)
    assert late.duration_s == pytest.approx(0.11 + (1 - 0.11 / t1) * t2, rel=2e-3)
    assert late.duration_s > 1.2 * t1, "its first share would have been quicker"


def test_a_source_behind_a_common_slower_feeder_goes_on_after_the_main():
    """Two sources meet at a bus; the feeder F behind it is slower than the main M of the stronger one. When M is open the
    weaker alone is below F's and its own pickup: without a clear escape there is no figure at all."""
    for escape in (False, True):
        site = Small(escape)
        for n in ("s", "w", "m", "x", "y"):
            site.node(n)
        site.add("source", "U", "s", fault_mva_max=25, x_r_max=8, fault_mva_min=25, x_r_min=8)
        site.add("source", "W", "w", fault_mva_max=2, x_r_max=8, fault_mva_min=2, x_r_min=8)
        site.breaker("M", "s", "m", **trip(800, short_pickup_a=4000, short_delay_s=0.2))
        site.breaker("MW", "w", "m", **trip(2000))
        site.breaker("F", "m", "x", **trip(2200, short_pickup_a=6000, short_delay_s=0.4))
        site.add("cable", "K", "x", "y", resistance_ohm=0.0005, reactance_ohm=0.0005)
        site.add("load", "L", "y")
        found = study(site.document()).hazard("id-L")
        if escape:
            assert found.energy.capped and found.energy.stages[0].until_s == pytest.approx(0.22)
        else:
            assert found.energy is None and "escape" in en(found.no_figure)


# Generators --------------------------------------------------------------------------------------------------------


def generator(escape_clear: bool = False, **facts) -> Small:
    site = Small(escape_clear)
    for n in ("g", "m0", "b"):
        site.node(n)
    known = {"rated_kva": 500, "xd_subtransient_pu": 0.12, "xd_transient_pu": 0.2, "x_r": 15, "normal_state": "running",
             "xd_sync_pu": 2.0, "td_subtransient_s": 0.03, "td_transient_s": 0.8} | facts  # fmt: skip
    site.add("generator", "G", "g", **{k: v for k, v in known.items() if v is not None})
    site.short("m0", "b")
    site.breaker("M", "g", "m0", **trip(600, short_pickup_a=900, short_delay_s=0.5))
    site.add("bus", "B", "b")
    return site


def test_textbook_decay_of_a_generators_current():
    """I(t) = (1/X'' - 1/X') exp(-t/T'') + (1/X' - 1/X) exp(-t/T') + 1/X per unit. By hand at 0.5 s, with X' 0.2, X 2, T'
    0.8 s and the subtransient part over: 4.5 x 0.53526 + 0.5."""
    e = Element(id="g", tag="g", kind="generator", ends=("a",), xd_subtransient_pu=0.12, xd_transient_pu=0.2,
                xd_sync_pu=2.0)  # fmt: skip
    assert current_pu(e, 0.5, 0.001, 0.8) == pytest.approx(4.5 * 0.5352614 + 0.5, rel=1e-6)
    assert current_pu(e, 0, 0.03, 0.8) == pytest.approx(1 / 0.12) and current_pu(e, 60, 0.03, 0.8) == pytest.approx(0.5)
    supported = Element(id="g", tag="g", kind="generator", ends=("a",), xd_subtransient_pu=0.12, xd_transient_pu=0.2,
                        excitation_support_multiple=3, excitation_support_s=100)  # fmt: skip
    assert current_pu(supported, 60, 0.03, 0.8) == pytest.approx(3)


@pytest.mark.parametrize("unknown", ["xd_transient_pu", "xd_sync_pu", "td_transient_s"])
def test_what_nobody_recorded_of_a_generator_never_lowers_its_figure(unknown):
    facts = {"excitation_support_multiple": 3, "excitation_support_s": 10} if unknown == "td_transient_s" else {}
    known, lacking = generator(True, **facts), generator(True, **facts, **{unknown: None})
    assert hazard(lacking).energy_cal_cm2 >= hazard(known).energy_cal_cm2 * (1 - 1e-9)
    assert any("not recorded" in en(w) for w in warnings_of(accept(lacking.document())))
    if unknown != "td_transient_s":
        refused = hazard(generator(False, **{unknown: None}))
        assert refused.energy is None and "G" in en(refused.no_figure)


def test_a_transient_case_without_that_reactance_is_refused():
    site = generator(xd_transient_pu=None)
    site.cases[0]["sources"] = {"G": {"reactance": "transient"}}
    with pytest.raises(DocumentError, match="xd_transient_pu is not recorded"):
        accept(site.document())


# UPS, and what no case feeds ----------------------------------------------------------------------------------------


def ups(**facts) -> Small:
    site = radial()
    for n in ("i", "o", "p"):
        site.node(n)
    site.breaker("F", "b", "i", **trip(400, instantaneous_a=4000))
    site.add("ups", "UPS-1", "i", "o", normal_state="inverter", **facts)
    site.breaker("P", "o", "p", **trip(100, instantaneous_a=600))
    site.add("load", "L", "p")
    return site


def test_behind_a_ups_both_its_inverter_and_its_bypass_count():
    known = ups(rated_kva=300, fault_multiple=3, fault_for_s=0.5)
    found = hazard(known, "L")
    assert found.energy is not None and "bypass" in en(found.energy.case)
    only = copy.deepcopy(known)
    only.cases[0]["sources"] = {"UPS-1": {"state": "inverter"}}
    inverter = hazard(only, "L")
    assert inverter.energy_cal_cm2 < found.energy_cal_cm2
    assert inverter.energy.fault["contributions_ka"] == {
        "UPS-1": pytest.approx(300 * 3 / (math.sqrt(3) * 480), rel=1e-6)
    }
    lacking = hazard(ups(), "L")
    assert lacking.energy is None and "what UPS-1 delivers" in en(lacking.no_figure)
    small = hazard(ups(rated_kva=30, fault_multiple=2, fault_for_s=0.5), "L")
    assert small.energy is None and "IEEE 1584-2018 covers" in en(small.no_figure)


def starter(position: str) -> Small:
    site = radial()
    for n in ("c", "m"):
        site.node(n)
    site.breaker("Q", "b", "c", **trip(100, instantaneous_a=1200))
    site.add("contactor", "K", "c", "m", normal_position=position, rated_voltage_v=600)
    site.add("motor", "MO", "m", rated_kva=55, xd_subtransient_pu=0.2, x_r=8)
    return site


def test_a_motor_behind_an_open_contactor_has_the_figure_of_its_closed_one_and_says_so():
    found, closed = hazard(starter("open"), "MO"), hazard(starter("closed"), "MO")
    assert found.energy_cal_cm2 == pytest.approx(closed.energy_cal_cm2)
    assert "though no case feeds it: K closed" in en(found.energy.case) and found.not_in == ("normal",)


def test_a_dead_section_between_two_open_ways_is_looked_at_through_each():
    site = radial()
    site.node("z")
    site.node("s2")
    site.add("source", "U2", "s2", fault_mva_max=8, x_r_max=8, fault_mva_min=8, x_r_min=8)
    site.breaker("A", "b", "z", "open", **trip(400, instantaneous_a=3000))
    site.breaker("A2", "s2", "z", "open", **trip(3000))
    site.add("bus", "Z", "z")
    found = hazard(site, "Z")
    assert (found.energy is None and "A2" in en(found.no_figure) and "U2" in en(found.no_figure)) or "A2 closed" in en(
        found.no_figure
    )


# Documents ----------------------------------------------------------------------------------------------------------


@pytest.mark.long
def test_a_document_of_version_1_is_read_and_its_flag_says_nothing_of_feeders():
    old = copy.deepcopy(document())
    old["version"] = 1
    for box in old["enclosures"]:
        if box.pop("compartments", None):
            box.pop("barriers")
            box["line_terminals_separated"] = True
    found = study(old)
    by_tag = found.network.by_tag
    for tag in ("F-B1", "F-B2"):
        assert found.hazard(by_tag[tag].id).energy_cal_cm2 == pytest.approx(
            found.hazard(by_tag["SWB-B"].id).energy_cal_cm2
        )
    bus, line = (found.hazard(by_tag["52-B"].id, f"terminals:{n}") for n in ("n-b", "n-bl"))
    assert bus.energy_cal_cm2 < line.energy_cal_cm2
    assert old["version"] == 1 and "compartments" not in next(b for b in old["enclosures"] if b["id"] == "e-swg")

    used = set()

    def walk(part):
        if not isinstance(part, dict):
            return
        for inner in part.get("properties", {}).values():
            if "description" in inner:
                used.add(inner["description"])
                assert len(inner["description"]) >= 10
            walk(inner)
        for key in ("items", "then", "additionalProperties"):
            walk(part.get(key))
        for branch in part.get("allOf", ()):
            walk(branch)

    walk(described(words_of(NORTH_AMERICAN)))
    own = {w for c in messages() if c.startswith("field-") for w in [en(say(c))]}
    assert own == used


def test_one_run_names_the_faults_of_every_kind_at_once():
    doc = copy.deepcopy(document())
    by_tag = {e["tag"]: e for e in doc["elements"]}
    by_tag["T1"]["rated_kva"] = "1500"
    by_tag["52-A"]["curve"]["short_pickup_a"] = 100
    by_tag["F-A2"]["tag"] = "F-A1"
    doc["cases"][1]["positions"]["52-Z"] = "open"
    with pytest.raises(DocumentError) as refused:
        accept(doc)
    fields = {(p.element, p.field) for p in refused.value.problems}
    assert {
        ("T1", "rated_kva"),
        ("52-A", "curve.short_pickup_a"),
        ("F-A1", "tag"),
        ("tie-t1", "positions.52-Z"),
    } <= fields
    assert not any(p.value in ("T1", "id-T1") for p in refused.value.problems), "what leans on T1 is not a second fault"


def test_zero_sequence_by_magnetizing_alone_is_no_figure_and_not_zero():
    site = Small()
    site.node("h", 12_470)
    site.node("l")
    site.add("source", "U", "h", fault_mva_max=300, x_r_max=10, fault_mva_min=200, x_r_min=10, z0_z1=1)
    site.add("transformer", "T", "h", "l", rated_kva=1000, impedance_pct=5, x_r=6, vector_group="Yyn0")
    site.add("bus", "B", "l")
    network = accept(site.document())
    found = fault_currents(NodalModel(network, in_case(network, network.cases[0])), "l")
    assert found.line_to_ground_ka is None and "magnetizing impedance of T" in en(found.lacking)


# Properties -----------------------------------------------------------------------------------------------------------


def worse_or_equal(after, before):
    """No figure is the worst of all."""
    if after.energy is None or before.energy is None:
        return after.energy is None
    return after.energy_cal_cm2 >= before.energy_cal_cm2 * (1 - 1e-6)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(12))
def test_on_a_radial_site_a_quicker_setting_never_raises_a_figure(seed):
    r = random.Random(seed)
    site = Small(True)
    for n in ("s", "m0", "b", "f0", "l"):
        site.node(n)
    site.add("source", "U", "s", fault_mva_max=r.uniform(15, 40), x_r_max=8, fault_mva_min=r.uniform(6, 15), x_r_min=8)
    curves = {
        "M": trip(1600, short_pickup_a=r.uniform(3200, 9000), short_delay_s=r.choice([0.2, 0.3, 0.4])),
        "F": trip(400, short_pickup_a=r.uniform(1200, 4000), short_delay_s=0.1, instantaneous_a=r.uniform(5000, 9000)),
    }
    site.breaker("M", "s", "m0", **curves["M"])
    site.short("m0", "b")
    site.breaker("F", "b", "f0", **curves["F"])
    site.add("cable", "K", "f0", "l", resistance_ohm=0.003, reactance_ohm=0.003)
    site.add("load", "L", "l")
    site.add("bus", "B", "b")
    before = study(site.document())
    for tag, curve in curves.items():
        quicker = copy.deepcopy(site.document())
        changed = {k: v * (0.6 if k != "instantaneous_a" else 0.9) for k, v in curve.items() if k not in ("type",)}
        next(e for e in quicker["elements"] if e["tag"] == tag)["curve"].update(changed)
        after = study(quicker)
        for place in ("id-B", "id-L", "id-F"):
            assert worse_or_equal(before.hazard(place), after.hazard(place)), (tag, place)


@pytest.mark.long
@pytest.mark.parametrize("fact", ["compartments", "escape_clear", "curve"])
def test_a_fact_taken_from_the_document_never_lowers_a_figure(demo_study, fact):
    doc = copy.deepcopy(document())
    for record in [*doc["enclosures"], *[e for e in doc["elements"] if e["tag"] in ("52-A", "F-B1", "52-T2")]]:
        record.pop(fact, None)
        if fact == "compartments":
            record.pop("barriers", None)
    lacking = study(doc)
    for e in demo_study.network.elements[:: 1 if os.environ.get("SOAK") else 4]:
        for h in demo_study.sides(e.id):
            assert worse_or_equal(lacking.hazard(e.id, h.touches), h), (e.tag, h.touches)


@pytest.mark.long
def test_fewer_reached_ends_never_raise_a_figure(demo_study):
    for e in demo_study.network.elements:
        whole = demo_study.hazard(e.id)
        assert all(worse_or_equal(whole, h) or h.unfed or h.below_threshold for h in demo_study.sides(e.id)), e.tag
