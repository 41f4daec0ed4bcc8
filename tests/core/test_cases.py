"""Cases of a site: what each means against a plain graph, what none covers against every device tried, and acts that
go back to where they came from."""

import copy
import random
from itertools import pairwise

import networkx as nx
import pytest
from plain_graph import SUPPLIES, Site

from small_site import radial
from spinel.core.editing import cases
from spinel.core.editing.records import Sheet
from spinel.core.errors import InputError
from spinel.core.hazard import Study
from spinel.core.network.case_words import case_gaps, fed_so, means
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.large import large_document
from spinel.demo.site import document, element_id


def sheet(doc=None):
    made = iter(f"new-{i}" for i in range(99))
    return Sheet(doc or document(), lambda: next(made))


def joined_so(doc, case):
    """The network as it stands in a case, read off the document by itself."""
    g = nx.Graph()
    g.add_nodes_from(n["id"] for n in doc["nodes"])
    for e in doc["elements"]:
        position = case.get("positions", {}).get(e["tag"], e.get("normal_position"))
        ends = e["ends"]
        if e["kind"] == "transfer_switch":
            g.add_edges_from({"normal": [(ends[0], ends[2])], "emergency": [(ends[1], ends[2])]}.get(position, []))
        elif "normal_position" not in e or position == "closed":
            g.add_edges_from(pairwise(ends))
    return g


def supplies_in(doc, case):
    for e in doc["elements"]:
        state = case.get("sources", {}).get(e["tag"], {}).get("state", e.get("normal_state"))
        if e["kind"] in SUPPLIES and (e["kind"] in ("source", "battery") or state not in ("stopped", "bypass")):
            yield e


@pytest.mark.parametrize("doc", [document(), large_document(60, 1), large_document(60, 5)])
def test_what_feeds_each_bus_is_what_a_plain_graph_says(doc):
    network = accept(copy.deepcopy(doc))
    for raw, case in zip(doc["cases"], network.cases, strict=True):
        g = joined_so(doc, raw)
        told = {bus: set(f.supplies) for f in fed_so(network, case) for bus in f.buses}
        assert set(told) == {e["tag"] for e in doc["elements"] if e["kind"] == "bus"}
        for e in doc["elements"]:
            if e["kind"] != "bus":
                continue
            reach = nx.node_connected_component(g, e["ends"][0])
            found = {s["tag"]: s["kind"] for s in supplies_in(doc, raw)
                     if reach & set(s["ends"][-1:] if s["kind"] == "ups" else s["ends"])}  # fmt: skip
            first = {t for t, kind in found.items() if kind not in ("ups", "battery")}
            assert told[e["tag"]] == (first or set(found)), (case.name, e["tag"])


def gaps_of(doc):
    return [(g.kind, g.element.tag if g.element else "") for g in case_gaps(accept(copy.deepcopy(doc)))]


def without(*names, **changes):
    doc = document()
    doc["cases"] = [c for c in doc["cases"] if c["id"] not in names]
    for c in doc["cases"]:
        c |= changes
    return doc


def test_each_state_that_no_case_covers_is_named_and_a_case_of_it_closes_it():
    assert gaps_of(document()) == []
    told = {
        ("tie-t1", "tie-t2"): [("tie", "52-TIE")], ("gen",): [("transfer", "ATS-1"), ("runs", "G-1")],
        ("ship",): [("runs", "SC-1")], ("normal",): [("normal", "")],
    }  # fmt: skip
    for names, expected in told.items():
        doc = without(*names)
        assert gaps_of(doc) == expected, names
        for _ in range(2):
            for gap in case_gaps(accept(copy.deepcopy(doc)))[:1]:
                work = sheet(doc)
                cases.add_for(work, gap, f"covers {gap.key}")
                doc = work.document
        assert gaps_of(doc) == [], names


def test_a_case_that_pins_a_strength_or_impedances_covers_nothing():
    pinned = without(impedances="minimum")
    beside = [("tie", "52-TIE"), ("transfer", "ATS-1"), ("runs", "G-1"), ("runs", "SC-1")]
    # then the transfer switch stands on neither of its sides
    every = [("normal", ""), *beside[:2], *beside[1:]]
    assert gaps_of(pinned) == every
    pinned["cases"][0].pop("impedances")
    assert gaps_of(pinned) == beside
    pinned["cases"][0]["sources"] = {"U-1": {"strength": "minimum"}}
    assert gaps_of(pinned) == every


def test_a_tie_that_is_closed_only_under_maintenance_settings_is_not_covered():
    """There the energy is lower than with the usual settings, which nobody would have looked at."""
    doc = document()
    main = next(e for e in doc["elements"] if e["tag"] == "52-A")
    main["maintenance_curve"] = main["curve"]
    for case in doc["cases"][1:3]:
        case["settings"] = {"52-A": "maintenance"}
    assert gaps_of(doc) == [("tie", "52-TIE")]


def test_a_normal_case_that_runs_something_or_sets_maintenance_is_not_normal_service():
    for more in (
        {"settings": {"52-A": "maintenance"}},
        {"sources": {"SC-1": {"state": "running"}}},
    ):
        doc = document()
        main = next(e for e in doc["elements"] if e["tag"] == "52-A")
        main["maintenance_curve"] = main["curve"]
        doc["cases"][0] |= more
        assert ("normal", "") in gaps_of(doc)


@pytest.mark.parametrize("seed", range(4))
def test_ties_are_the_open_devices_whose_sides_are_both_fed_without_them(seed):
    """Whatever is open: devices of the demo opened at random, too."""
    doc = document()
    doc["cases"] = [{"id": "normal", "name": "normal"}]
    movable = [e for e in doc["elements"] if "normal_position" in e and e["kind"] != "transfer_switch"]
    for e in random.Random(seed).sample(movable, 6 * seed):
        e["normal_position"] = "open"
    site = Site(doc)
    expected = set()
    for e in doc["elements"]:
        if e.get("normal_position") == "open" and e["kind"] != "transfer_switch":
            g = site.graph({e["id"]}).to_undirected()
            fed = set().union(*(nx.node_connected_component(g, n) for s in doc["elements"] if s["kind"] in SUPPLIES
                                for n in s["ends"]))  # fmt: skip
            if set(e["ends"]) <= fed:
                expected.add(e["tag"])
    assert bool(expected) and {t for kind, t in gaps_of(doc) if kind == "tie"} == expected


def test_a_device_that_only_leads_to_what_it_feeds_is_no_tie():
    small = radial()
    doc = small.document()
    switch = next(e for e in doc["elements"] if "normal_position" in e)
    switch["normal_position"] = "open"
    assert ("tie", switch["tag"]) not in gaps_of(doc)


def test_covering_a_tie_raises_what_it_could_raise_and_lowers_nothing():
    def energies(doc):
        study = Study(accept(copy.deepcopy(doc)), NORTH_AMERICAN, None, 40.0)
        places = (("SWB-A", ""), ("SWB-B", ""), ("MC1", ""))
        return [study.hazard(element_id(tag), touches).energy_cal_cm2 for tag, touches in places]

    doc = without("tie-t1", "tie-t2")
    work = sheet(doc)
    cases.add_for(work, case_gaps(accept(copy.deepcopy(doc)))[0], "tie closed")
    before, after = energies(doc), energies(work.document)
    assert all(a >= b for a, b in zip(after, before, strict=True)) and after != before


def test_everything_that_can_be_set_is_acceptable_and_goes_back_to_the_byte():
    doc = document()
    for setting in cases.settable(doc):
        work = sheet()
        cases.put(work, "gen", setting)
        changed = accept(copy.deepcopy(work.document))
        case = next(c for c in changed.cases if c.id == "gen")
        assert setting in cases.set_in(work.document["cases"][3]) and means(changed, case)
        if setting not in cases.set_in(document()["cases"][3]) and setting.tag not in ("ATS-1",):
            cases.as_normal(work, "gen", setting)
            assert work.document == document(), setting
    codes = [s.code for s in cases.settable(doc)]
    assert len(set(codes)) == len(codes) and all(cases.setting_of(doc, c).code == c for c in codes)


def test_a_utility_cannot_be_stopped_in_a_case_as_that_would_change_no_figure():
    """Its main is opened instead: what the engine would not follow is not offered."""
    with pytest.raises(InputError):
        cases.setting_of(document(), "sources|state|stopped|U-1")


def test_names_are_free_and_the_last_case_stays():
    work = sheet()
    for wrong in ("Normal", "x", "a\u202eb", "n" * 90):
        with pytest.raises(InputError):
            cases.add(work, wrong)
        with pytest.raises(InputError):
            cases.change(work, "gen", wrong, "")
    with pytest.raises(InputError):
        cases.change(work, "gen", "on generator", "lowest")
    made = cases.add(work, "both in parallel", "tie-t1")
    assert work.of("cases", made)["positions"] == document()["cases"][1]["positions"]
    cases.change(work, made, "both in parallel", "minimum")
    assert accept(copy.deepcopy(work.document)).cases[-1].impedances == "minimum"
    for case_id in ("normal", "tie-t1", "tie-t2", "gen", "ship"):
        cases.remove(work, case_id)
    with pytest.raises(InputError):
        cases.remove(work, made)
    # what was copied is its own
    cases.put(work, made, cases.setting_of(work.document, "positions||open|F-A1"))
    assert "F-A1" not in document()["cases"][1]["positions"]
    for i in range(cases.MOST - 1):
        cases.add(work, f"one more {i}")
    with pytest.raises(InputError):
        cases.add(work, "too many")
