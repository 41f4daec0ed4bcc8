"""Trials against studies of documents that were changed by hand; levers and the search against brute force."""

import copy
import os
import random

import numpy as np
import pytest

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.curves.times import clearing
from spinel.core.errors import DocumentError, InputError, NotFound
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.now import DeviceNow
from spinel.core.network.sides import reaches
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy
from spinel.core.what_if.along import energies_at, figures_along
from spinel.core.what_if.answers import Trials, along, curve_now
from spinel.core.what_if.changes import SLIDERS, TrialChange, changed_document, curves_of, read_change
from spinel.core.what_if.levers import levers
from spinel.core.what_if.search import SUM, Bounded, proposed
from spinel.core.what_if.seen_from import drawn_s, energy_over_distance, seen_from
from spinel.demo.large import large_document
from spinel.demo.site import document, element_id

#: The line side of a main, at 53 cal/cm² the worst of the demo but one.
AT = element_id("52-B"), "terminals:n-bl"
DIAL = element_id("52-T2"), "dial"


def fresh(doc):
    return Study(accept(copy.deepcopy(doc)), NORTH_AMERICAN, None, 40.0)


def by_hand(tag, change, group="elements"):
    doc = document()
    change(next(r for r in doc[group] if r.get("tag", r.get("name")) == tag))
    return doc


def setting(tag, field, value):
    return TrialChange("setting", element_id(tag), field, value)


@pytest.fixture(scope="module")
def trials():
    return Trials(document(), NORTH_AMERICAN, 40.0)


@pytest.mark.parametrize(
    ("tag", "field", "value"),
    [
        ("52-T2", "dial", 0.8),
        ("52-B", "short_delay_s", 0.9),
        ("52-TIE", "short_pickup_a", 9000.0),
        ("F-B1", "long_pickup_a", 300.0),
    ],
)
def test_a_setting_gives_what_publishing_it_would_give_at_every_place(trials, tag, field, value):
    """The trial shares the currents of the study as it is; the oracle solves the changed document from the start."""
    new = by_hand(tag, lambda e: e["curve"].update({field: value}))
    ours, oracle = SiteStudy(trials.study([setting(tag, field, value)])), SiteStudy(fresh(new))
    for (place, a), (_, b) in zip(ours.worst_of_each(), oracle.worst_of_each(), strict=True):
        for name in ("incident_energy_cal_cm2", "arc_flash_boundary_mm", "clearing_time_s"):
            assert a[name] == b[name] or a[name] == pytest.approx(b[name], rel=1e-9), (place.element.tag, name)
        assert (a["device"], a["warning"]) == (b["device"], b["warning"])
    # and the study as it is stays as it was
    assert trials.at(*AT, ()).energy_cal_cm2 == fresh(document()).hazard(*AT).energy_cal_cm2


@pytest.mark.parametrize(("change", "tag", "group", "by"), [
    (TrialChange("element", element_id("T2"), "impedance_pct", 5.0), "T2", "elements", lambda e: e.update(impedance_pct=5.0)),
    (TrialChange("supply", element_id("U-1"), "", 0.5), "U-1", "elements", lambda e: e.update(fault_mva_max=e["fault_mva_max"] * 0.5, fault_mva_min=e["fault_mva_min"] * 0.5)),
    (TrialChange("enclosure", "e-swb-b", "gap_mm", 25), "SWB-B", "enclosures", lambda b: b.update(gap_mm=25)),
    (TrialChange("enclosure", "e-swb-b", "electrode_configuration", "HCB"), "SWB-B", "enclosures", lambda b: b.update(electrode_configuration="HCB")),
])  # fmt: skip
def test_any_other_change_is_the_study_of_the_changed_document(trials, change, tag, group, by):
    expected = fresh(by_hand(tag, by, group)).hazard(*AT)
    found = trials.at(*AT, [change])
    assert found.energy_cal_cm2 == pytest.approx(expected.energy_cal_cm2, rel=1e-12)
    assert found.boundary_mm == pytest.approx(expected.boundary_mm, rel=1e-12)
    assert found.energy_cal_cm2 != trials.at(*AT, ()).energy_cal_cm2


def test_only_one_case_and_a_maintenance_setting(trials):
    doc = document()
    doc["cases"] = doc["cases"][:1]
    only = trials.at(*AT, [TrialChange("case", doc["cases"][0]["id"])])
    assert only.energy_cal_cm2 == pytest.approx(fresh(doc).hazard(*AT).energy_cal_cm2)
    quick = {"type": "trip", "long_pickup_a": 2000, "long_delay_s": 2, "short_pickup_a": 3000, "short_delay_s": 0.05}
    with_setting = by_hand("52-A", lambda e: e.update(maintenance_curve=quick))
    own = Trials(with_setting, NORTH_AMERICAN, 40.0)
    place = element_id("SWB-A"), ""
    found = own.at(*place, [TrialChange("maintenance", element_id("52-A"))])
    assert found.energy_cal_cm2 == pytest.approx(
        fresh(by_hand("52-A", lambda e: e.update(curve=quick))).hazard(*place).energy_cal_cm2)  # fmt: skip
    with pytest.raises(InputError):
        trials.at(*place, [TrialChange("maintenance", element_id("52-A"))])


@pytest.mark.parametrize("bad", [
    {"kind": "setting", "id": DIAL[0], "field": "dial", "value": -1}, {"kind": "setting", "id": DIAL[0], "field": "dial", "value": float("nan")},
    {"kind": "setting", "id": DIAL[0], "field": "short_delay_s", "value": 0.1}, {"kind": "setting", "id": DIAL[0], "field": "dial", "value": "x"},
    {"kind": "enclosure", "id": "e-swb-b", "field": "name", "value": 1}, {"kind": "element", "id": DIAL[0], "field": "tag", "value": 1},
    {"kind": "supply", "id": DIAL[0], "value": 2}, {"kind": "supply", "id": element_id("U-1"), "value": 1e6}, {"kind": "nothing", "id": "x"},
    {"kind": "enclosure", "id": "e-swb-b", "field": "gap_mm", "value": 5000}, {"kind": "setting", "id": "nobody", "field": "dial", "value": 1},
    {"kind": "enclosure", "id": "e-swb-b", "field": "electrode_configuration", "value": "XYZ"}, {"kind": "setting", "id": DIAL[0], "field": "dial", "value": True},
    {"kind": "setting", "id": DIAL[0], "field": "dial", "value": float("inf")},
])  # fmt: skip
def test_what_cannot_be_set_is_refused(trials, bad):
    with pytest.raises((InputError, NotFound, DocumentError)):
        trials.at(*AT, [read_change(bad)])


def test_a_present_state_is_not_tried_on():
    network = accept(document())
    circuit = at_present(network, {e.id: DeviceNow(position="open") for e in network.elements if e.tag == "F-A1"})
    with pytest.raises(ValueError, match="cases"):
        Study(network, NORTH_AMERICAN, circuit, 40.0).with_curves({})


def test_an_arc_of_a_given_time_is_the_methods_own_over_all_cases(trials):
    """Oracle: every column of the figures asked scalar by scalar."""
    study = fresh(document())
    worst = 0.0
    for code in ("terminals:n-bl",):
        hazard = study.hazard(AT[0], code)
        situation = hazard.energy.situation
        currents = [m.bolted_ka(hazard.energy.node) for m in study.models if m.energised(hazard.energy.node)]
        worst = max(
            worst,
            *(
                ieee.energy(situation, ka, 250, reduced=r).incident_energy_cal_cm2
                for ka in currents
                for r in (False, True)
            ),
        )
    assert trials.at(*AT, (), time_s=0.25).energy_cal_cm2 >= worst * (1 - 1e-7)
    assert trials.at(*AT, (), time_s=0.25).energy_cal_cm2 == pytest.approx(worst, rel=0.02)
    for bad in (0, -1, float("nan"), 11):
        with pytest.raises(InputError):
            trials.at(*AT, (), time_s=bad)


def test_a_sliders_track_holds_the_setting_as_it_is_and_what_publishing_would_give(trials):
    track = trials.track(*AT, *DIAL)
    assert [p.value for p in track] == sorted(p.value for p in track) and 1.6 in {p.value for p in track}
    for point in (track[0], track[len(track) // 2], track[-1]):
        new = by_hand("52-T2", lambda e, v=point.value: e["curve"].update(dial=v))
        assert point.figure.energy_cal_cm2 == pytest.approx(fresh(new).hazard(*AT).energy_cal_cm2)
    here = next(p for p in track if p.value == 1.6)
    assert here.lost == () and here.figure.energy_cal_cm2 == pytest.approx(trials.at(*AT, ()).energy_cal_cm2, rel=1e-12)
    assert ("52-B", "52-T2") in track[0].lost, "a fast relay opens before the main"
    with pytest.raises(InputError):
        trials.track(*AT, DIAL[0], "short_delay_s")
    assert len(along(0.4)) >= 25


def test_what_moves_elsewhere_is_every_place_that_differs_and_no_other(trials):
    change = [setting("52-T2", "dial", 0.8)]
    moved = {(m.element_id, m.touches) for m in trials.elsewhere(change)}
    before, after = (SiteStudy(fresh(d)) for d in (document(), changed_document(document(), change)))
    differ = {
        (p.element.id, p.reach.code) for (p, a), (_, b) in zip(before.worst_of_each(), after.worst_of_each(), strict=True)
        if a["method"] and abs(a["incident_energy_cal_cm2"] - b["incident_energy_cal_cm2"]) > 1e-4 * a["incident_energy_cal_cm2"]
    }  # fmt: skip
    assert moved == differ and moved


def test_energies_together_are_those_of_each(trials):
    places = [AT, (element_id("MC1"), ""), (element_id("BB-1"), ""), (element_id("T2"), "")]
    each = [trials.base.hazard(*p).energy_cal_cm2 for p in places]
    together = energies_at(trials.base, places)
    assert together[2] is None and each[2] is None
    for a, b in zip(together, each, strict=True):
        assert a is b or a == pytest.approx(b, rel=1e-9)


def test_levers_reach_what_they_say_and_stand_in_the_order_of_the_hierarchy(trials):
    found = levers(trials, *AT, 12.0)
    order = ["eliminate", "substitute", "engineer", "warn", "rule", "wear"]
    assert [order.index(x.rung) for x in found] == sorted(order.index(x.rung) for x in found)
    assert any(x.under(12.0) for x in found) and any(x.lost for x in found)
    for x in found:
        if x.change is not None:
            got = fresh(changed_document(document(), [x.change])).hazard(*AT).energy_cal_cm2
            assert got == pytest.approx(x.energy_cal_cm2), x.what
            assert (x.lost is not None) and ({p for p in x.lost} == {
                (p.downstream.tag, p.upstream.tag) for p in trials.newly_lost([x.change], frozenset({x.change.id}))})  # fmt: skip
    timed = next(x for x in found if getattr(x.what, "code", "") == "lever-time")
    seconds = timed.what.values["seconds"]
    # as it is written, not only as it was computed
    assert float(f"{seconds:g}") == seconds
    assert trials.at(*AT, (), time_s=seconds).energy_cal_cm2 <= 12.0
    assert trials.at(*AT, (), time_s=seconds * 1.05).energy_cal_cm2 > 12.0
    assert levers(trials, element_id("BB-1"), "", 8.0) == []
    for bad in (0, float("nan"), 1e6):
        with pytest.raises(InputError):
            levers(trials, *AT, bad)


def test_the_search_finds_what_brute_force_finds_while_order_is_kept(trials):
    """One setting of the demo, tried at 14 values by a study of its own."""
    place = (element_id("SWB-A"), "")
    bounds = Bounded(device_id=element_id("52-A"), field="short_delay_s", low=0.1, high=0.8)
    found = proposed(trials, [place], [bounds], studies=18)
    best = np.inf
    for value in np.geomspace(0.1, 0.8, 14).tolist():
        change = [setting("52-A", "short_delay_s", float(f"{value:.3g}"))]
        if not trials.newly_lost(change):
            best = min(best, fresh(changed_document(document(), change)).hazard(*place).energy_cal_cm2)
    assert found.keeps_order and found.after <= best * 1.02
    if found.changes:
        got = fresh(changed_document(document(), found.changes)).hazard(*place).energy_cal_cm2
        assert got == pytest.approx(found.after) and not trials.newly_lost(found.changes)
    summed = proposed(trials, [place, AT], [bounds], SUM, studies=8)
    assert summed.before == pytest.approx(sum(fresh(document()).hazard(*p).energy_cal_cm2 for p in (place, AT)))


@pytest.mark.parametrize(
    "settings",
    [
        [],
        [Bounded(device_id=DIAL[0], field="dial", low=2, high=1)],
        [Bounded(device_id=DIAL[0], field="dial", low=0, high=1)],
        [Bounded(device_id=DIAL[0], field="dial", low=1, high=2)] * 5,
    ],
)
def test_a_search_over_nothing_or_too_much_is_refused(trials, settings):
    with pytest.raises(InputError):
        proposed(trials, [AT], settings)


def test_curves_cross_the_arcing_current_at_the_times_of_their_devices(trials):
    for place in (AT, (element_id("MC1"), ""), (element_id("SWB-A"), "")):
        figure = trials.base.hazard(*place).energy
        seen = seen_from(trials.base.network, figure)
        assert seen.curves
        for c in seen.curves:
            (time,) = drawn_s(c, [seen.arcing_a], "slow")
            assert time == pytest.approx(c.opens_s, rel=1e-6) or c.opens_s < time, c.element.tag
            own = next(d for d in figure.clearing.devices if d.element_id == c.element.id)
            assert clearing(c.curve, own.share_a).time_s == pytest.approx(own.time_s)
        tags = {w.of.element.tag for w in seen.withstands if w.points}
        assert tags & {"T1", "T2", "W-A", "W-B", "W-A1"}


def test_energy_over_distance_is_the_hazards_at_each_distance(trials):
    figure = trials.base.hazard(AT[0], "terminals:n-bl").energy
    for mm, cal in zip((455.0, 610.0, 914.0), energy_over_distance(figure, (455.0, 610.0, 914.0)), strict=True):
        assert cal == pytest.approx(trials.base.hazard(AT[0], "terminals:n-bl", mm).energy_cal_cm2, rel=1e-6)


def test_changes_of_other_kinds_have_no_curves_alone():
    assert curves_of(document(), [TrialChange("supply", element_id("U-1"), "", 2.0)]) is None
    assert set(curves_of(document(), [setting("52-T2", "dial", 1.0)])) == {DIAL[0]}


def test_a_case_with_the_maintenance_setting_keeps_it_in_a_trial_of_the_other():
    """Found by asking where a device has two settings at once: the trial overrode both."""
    quick = {"type": "trip", "long_pickup_a": 2000, "long_delay_s": 2, "short_pickup_a": 3000, "short_delay_s": 0.05}
    doc = by_hand("52-A", lambda e: e.update(maintenance_curve=quick))
    for case in doc["cases"]:
        case["settings"] = {**case.get("settings", {}), "52-A": "maintenance"}
    own, place = Trials(doc, NORTH_AMERICAN, 40.0), (element_id("SWB-A"), "")
    change = [setting("52-A", "short_delay_s", 0.9)]
    expected = fresh(changed_document(doc, change)).hazard(*place).energy_cal_cm2
    assert own.at(*place, change).energy_cal_cm2 == pytest.approx(expected)
    assert own.energy(*place, change) == pytest.approx(expected)
    assert own.newly_lost(change) == [] and expected == pytest.approx(own.at(*place, ()).energy_cal_cm2)


def adjustable(doc):
    for e in doc["elements"]:
        curve = e.get("curve") or {}
        for field in SLIDERS.get(str(curve.get("type")), ()):
            if isinstance(curve.get(field), int | float):
                yield e["id"], field, float(curve[field])


def can_be(doc, change):
    try:
        changed_document(doc, [change])
    except InputError:
        return False
    return True


@pytest.mark.parametrize("seed", [0, *range(1, 9 if os.environ.get("SOAK") else 2)])
def test_settings_followed_together_are_each_what_it_is_alone(seed):
    """Any device's settings at any place, whether it carries the arc or not: the demo, and generated sites with what
    interlocks, ceases and stands by in them. Alone: the study with that curve, asked as a card asks."""
    doc = document() if seed == 0 else large_document(16, seed)
    trials, draw = Trials(copy.deepcopy(doc), NORTH_AMERICAN, 40.0), random.Random(seed)
    places = [(e["id"], r.code) for e in doc["elements"] for r in reaches(trials.base.network.get(e["id"]))]
    places += [(e["id"], "") for e in doc["elements"]]
    settings, met = list(adjustable(doc)), set()
    for _ in range(80 if os.environ.get("SOAK") else 10):
        place = draw.choice(places)
        # those that carry the arc matter most; whoever does not must move nothing
        worst = trials.base.hazard(*place).energy
        on_the_way = {d.element_id for d in worst.clearing.devices} if worst is not None else set()
        own = [s for s in settings if s[0] in on_the_way]
        device, field, now = draw.choice(own if own and draw.random() < 0.8 else settings)
        changes = [TrialChange("setting", device, field, now * f) for f in (0.3, 0.9, 2.5)]
        changes = [c for c in changes if can_be(doc, c)]
        together = figures_along(trials.base, *place, device, [curve_now(doc, device, [c]) for c in changes])
        for change, told in zip(changes, together, strict=True):
            alone = trials.at(*place, (change,))
            numbers = [(t.energy_cal_cm2, t.boundary_mm, t.clearing_time_s) for t in (told, alone)]
            if alone.energy_cal_cm2 is None:
                assert told.energy_cal_cm2 is None, (place, change)
            else:
                assert numbers[0] == pytest.approx(numbers[1], rel=1e-9), (place, change)
            assert (told.clears, told.case, told.why, told.ppe) == (alone.clears, alone.case, alone.why, alone.ppe)
            met.add((alone.energy_cal_cm2 is None, change.value < now))
    assert len(met) >= 2, "figures and none, settings above and below, were met"


def test_a_device_that_holds_others_back_is_tried_one_by_one():
    doc = document()
    main, feeder = (next(e for e in doc["elements"] if e["tag"] == t) for t in ("52-A", "F-A1"))
    main["curve"] = {**main["curve"], "interlock_delay_s": 0.05}
    main["restrained_by"] = ["F-A1"]
    trials = Trials(doc, NORTH_AMERICAN, 40.0)
    with pytest.raises(ValueError, match="other devices"):
        trials.base.parts[0].with_settings(feeder["id"], [])
    place = (element_id("SWB-A"), "")
    field = next(f for f in SLIDERS[feeder["curve"]["type"]] if f in feeder["curve"])
    for point in trials.track(*place, feeder["id"], field)[::9]:
        alone = trials.at(*place, (TrialChange("setting", feeder["id"], field, point.value),))
        assert point.figure.energy_cal_cm2 == pytest.approx(alone.energy_cal_cm2, rel=1e-9)
