"""Building a document act by act: groups stand by themselves, units of the plate are right, and nothing names what went."""

import itertools
import json
import random

import networkx as nx
import pytest

from spinel.core import quantities as q
from spinel.core.canonical import content_hash
from spinel.core.curves.files import read_curve
from spinel.core.curves.library import LIBRARY, generic
from spinel.core.curves.times import quickest_s
from spinel.core.curves.traced import AxisMark, traced
from spinel.core.editing import acts, branch, groups, plates, reach, units
from spinel.core.editing.merge import MINE, chosen_part, merge
from spinel.core.editing.records import Sheet
from spinel.core.editing.units import Beside, typed
from spinel.core.errors import DocumentError, InputError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.differences import belonging, differences
from spinel.core.network.document import ELEMENT_FIELDS
from spinel.core.network.kinds import KINDS
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy
from spinel.demo.site import document

DRAWING = {"from": "drawing"}


def numbered():
    numbers = itertools.count(1)
    return lambda: f"new-{next(numbers)}"


def bakery(volts=4160):
    """A site that begins: a supply, a board, a transformer bay with a board of 480 V."""
    start = groups.empty("A bakery", "UTC", "north-american", 60)
    sheet = groups.begin(start, numbered(), {"tag": "U-1", "board": "SWG-1", "voltage_v": volts}, DRAWING)
    given = {"tag": "T-1", "board": "MSB-1", "voltage_v": 480, "transformer.rated_kva": 500}
    groups.hang(sheet, "transformer", node_of(sheet, "SWG-1"), given, DRAWING)
    return sheet


def tagged(sheet, tag):
    return next(e for e in sheet.document["elements"] if e["tag"] == tag)


def node_of(sheet, tag):
    return tagged(sheet, tag)["ends"][0]


def problems(sheet):
    try:
        accept(sheet.document)
    except DocumentError as error:
        return [(p.element, p.field) for p in error.problems]
    return []


@pytest.mark.parametrize("group", [g.id for g in groups.GROUPS])
def test_every_group_hangs_below_a_board_and_makes_a_whole_document(group):
    sheet = bakery()
    made = groups.hang(sheet, group, node_of(sheet, "MSB-1"), {"tag": "X-9"}, DRAWING)
    assert problems(sheet) == []
    assert len(made) >= 3 and tagged(sheet, "X-9")["id"] in made
    # whoever hangs it twice with one tag is told, and nothing is half made
    before = content_hash(sheet.document)
    with pytest.raises(InputError) as error:
        groups.hang(sheet, group, node_of(sheet, "MSB-1"), {"tag": "x-9"}, DRAWING)
    assert error.value.field == "tag" and content_hash(sheet.document) == before


def test_what_nobody_gave_is_assumed_and_a_curve_never_is():
    sheet = bakery()
    groups.hang(sheet, "starter", node_of(sheet, "MSB-1"), {"tag": "M-1", "motor.rated_kva": 75}, {"from": "plate"})
    motor, breaker = tagged(sheet, "M-1"), tagged(sheet, "Q-M-1")
    assert motor["basis"]["rated_kva"] == {"from": "plate"}
    assert motor["basis"]["xd_subtransient_pu"] == {"from": "assumed"}
    assert "curve" not in breaker and "isolating" not in breaker
    network = accept(sheet.document)
    rows = [row for _, row in SiteStudy(Study(network, NORTH_AMERICAN, None, 40.0)).worst_of_each()]
    assert not any(row.get("method") for row in rows), "no figure follows from a device that nobody has told to clear"


def test_a_generic_curve_is_nobodys_plate_and_goes_with_the_rating_while_it_is_assumed():
    sheet = bakery()
    given = {"tag": "F-1", "breaker.rated_a": 400, "breaker.curve": generic("trip-all", 400)}
    groups.hang(sheet, "feeder", node_of(sheet, "MSB-1"), given, {"from": "plate"})
    breaker = next(e for e in sheet.document["elements"] if e.get("curve") == generic("trip-all", 400))
    assert breaker["basis"]["curve"] == {"from": "assumed", "note": "generic"}
    assert breaker["basis"]["rated_a"] == {"from": "plate"}

    acts.change(sheet, "elements", breaker["id"], {"rated_a": 800}, {"from": "plate"})
    assert tagged(sheet, breaker["tag"])["curve"] == generic("trip-all", 800)
    # one that somebody read off stays what they read
    acts.confirm(sheet, "elements", breaker["id"], ["curve"], {"from": "seen"})
    acts.change(sheet, "elements", breaker["id"], {"rated_a": 400}, {"from": "plate"})
    assert tagged(sheet, breaker["tag"])["curve"] == generic("trip-all", 800)


def test_how_far_an_assumed_curve_could_carry_a_figure_is_tried():
    sheet = bakery()
    given = {"tag": "F-1", "breaker.rated_a": 400, "breaker.curve": generic("trip-all", 400), "breaker.interrupting_ka": 65,
             "cable.length_m": 20, "cable.conductor_size": "500", "cable.per_phase": 1}  # fmt: skip
    groups.hang(sheet, "feeder", node_of(sheet, "MSB-1"), given, {"from": "plate"})
    curves = [r for r in reach.reach(sheet.document, 40.0) if r.doubt.field == "curve" and r.doubt.why == reach.ASSUMED]
    assert curves and all(len(r.doubt.others) == 2 for r in curves)
    assert max(r.most for r in curves) > 0.05


def test_nobody_looked_at_the_plate_of_a_copy_nor_at_its_way_out():
    sheet = bakery()
    groups.hang(sheet, "feeder", node_of(sheet, "MSB-1"), {"tag": "F-1", "board": "PNL-1"}, {"from": "plate"})
    for box in sheet.document["enclosures"]:
        box["escape_clear"], box["basis"] = True, {**box.get("basis", {}), "escape_clear": {"from": "seen"}}
    before = {e["id"] for e in sheet.document["enclosures"]}
    head = next(e for e in sheet.document["elements"] if "F-1" in e["tag"] and e["kind"] == "breaker")
    record = sheet.of("elements", head["id"])
    record.pop("basis", None)
    record["rated_a"] = 225
    branch_tags = {e["tag"]: f"{e['tag']}-copy" for e in sheet.document["elements"]}
    made = acts.duplicate(sheet, head["id"], node_of(sheet, "MSB-1"), branch_tags)
    new = [e for e in sheet.document["enclosures"] if e["id"] not in before]
    assert new and not any("escape_clear" in e or "escape_clear" in e.get("basis", {}) for e in new)
    copied = next(e for e in sheet.document["elements"] if e["id"] in made and e.get("rated_a") == 225)
    assert copied["basis"]["rated_a"] == {"from": "assumed"}


#: 75 hp at 0.86 and 0.936: 0.7457 kW a horsepower (550 ft lbf/s, a definition) over power factor and efficiency.
UNITS = [
    ("motor", "rated_kva", q.RATED_KVA, "75", "hp", Beside(power_factor=0.86, efficiency=0.936), 69.478),
    ("motor", "rated_kva", q.RATED_KVA, "92", "A", Beside(voltage_v=460), 73.300),  # sqrt(3) V I
    ("motor", "rated_kva", q.RATED_KVA, "55", "kW", Beside(power_factor=0.86, efficiency=0.92), 69.514),
    ("transformer", "rated_kva", q.RATED_KVA, "1.5", "MVA", Beside(), 1500),
    ("cable", "length_m", q.LENGTH_M, "142", "ft", Beside(), 43.2816),  # 0.3048 m, by definition
    ("source", "fault_mva_max", q.FAULT_MVA, "16.2", "kA", Beside(voltage_v=12_470), 349.90),
    ("breaker", "interrupting_ka", q.INTERRUPTING_KA, "65000", "A", Beside(), 65),
    ("enclosure", "gap_mm", q.GAP_MM, "1.25", "in", Beside(), 31.75),
    ("generator", "xd_subtransient_pu", q.REACTANCE_PU, "14", "%", Beside(), 0.14),
    ("generator", "td_subtransient_s", q.SECONDS, "3", "cycles", Beside(frequency_hz=60), 0.05),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "field", "quantity", "text", "unit", "beside", "expected"), UNITS)
def test_a_plate_in_its_own_units_is_the_number_of_the_document(kind, field, quantity, text, unit, beside, expected):
    allowed = units.units(kind, field, quantity)
    assert typed(text, unit, allowed, quantity, beside) == pytest.approx(expected, rel=1e-4)


@pytest.mark.parametrize("text", ["nan", "inf", "-3", "0", "1,5", "1_0", "١٢", "", "75 hp"])
def test_what_is_no_number_of_the_plate_is_refused(text):
    allowed = units.units("motor", "rated_kva", q.RATED_KVA)
    for unit in ("hp", "kVA"):
        with pytest.raises(InputError):
            typed(text, unit, allowed, q.RATED_KVA, Beside())
    with pytest.raises(InputError):
        typed("92", "A", allowed, q.RATED_KVA, Beside()), "amperes are no power where no voltage is known"


def test_every_row_of_a_plate_is_a_field_of_the_document():
    for kind in KINDS:
        fields = [r.field for r in plates.plate(kind)]
        assert set(fields) <= set(ELEMENT_FIELDS) and set(plates.needed(kind)) <= set(fields)
        assert len(fields) == len(set(fields))


class TestShape:
    def test_a_branch_is_what_only_it_joins_to_a_utility(self):
        """Held against a graph library: what is cut off when the element is taken out."""
        data = document()
        for e in data["elements"]:
            if len(e["ends"]) == 1:
                continue
            graph = nx.Graph()
            for other in data["elements"]:
                if other["id"] != e["id"]:
                    graph.add_edges_from((n, other["id"]) for n in other["ends"])
            fed = nx.node_connected_component(graph, "n-pole") if "n-pole" in graph else set()
            expected = {x["id"] for x in data["elements"] if not set(x["ends"]) & fed} | {e["id"]}
            if set(e["ends"]) & fed:
                assert set(branch.below(data, e["id"])) == expected, e["tag"]

    def test_a_copy_stands_by_itself_and_its_plates_are_nobodys_yet(self):
        sheet = bakery()
        groups.hang(sheet, "starter", node_of(sheet, "MSB-1"), {"tag": "M-1", "motor.rated_kva": 75}, {"from": "plate"})
        top = tagged(sheet, "Q-M-1")["id"]
        tags = {sheet.element(i)["tag"]: sheet.element(i)["tag"].replace("M-1", "M-2")
                for i in branch.below(sheet.document, top)}  # fmt: skip
        acts.duplicate(sheet, top, node_of(sheet, "MSB-1"), tags)
        assert problems(sheet) == []
        assert tagged(sheet, "M-2")["rated_kva"] == 75
        assert tagged(sheet, "M-2")["basis"]["rated_kva"] == {"from": "assumed"}
        boxes = [b["name"] for b in sheet.document["enclosures"]]
        assert "M-2 terminal box" in boxes and len(boxes) == len(set(boxes))

    def test_a_tag_goes_with_everything_that_names_it(self):
        sheet = Sheet(document())
        ids = {e["tag"]: e["id"] for e in sheet.document["elements"]}
        # two at once may swap
        acts.retag(sheet, {ids["52-A"]: "52-B", ids["52-B"]: "52-A", ids["EDP-9"]: "EDP-90", ids["G-1"]: "G-7"})
        assert problems(sheet) == []
        case = next(c for c in sheet.document["cases"] if c["id"] == "tie-t1")
        assert case["positions"] == {"52-A": "open", "52-TIE": "closed"}
        assert next(c for c in sheet.document["cases"] if c["id"] == "gen")["sources"] == {"G-7": {"state": "running"}}
        supplies = [s for b in sheet.document["enclosures"] for s in b.get("auxiliary_supplies", ())]
        assert supplies[0]["isolated_by"] == "EDP-90"
        with pytest.raises(InputError):
            acts.retag(sheet, {ids["T1"]: "t2"})

    def test_what_is_taken_out_is_named_nowhere(self):
        sheet = Sheet(document())
        for tag in ("52-TIE", "EDP-9", "G-1", "Q-PV"):
            element = tagged(sheet, tag)
            acts.remove(sheet, branch.below(sheet.document, element["id"]))
            text = json.dumps({k: v for k, v in sheet.document.items() if k != "elements"})
            assert f'"{tag}"' not in text

    def test_a_device_taken_out_of_its_line_joins_what_it_parted(self):
        sheet = Sheet(document())
        acts.take_out(sheet, tagged(sheet, "Q-CH")["id"])
        assert problems(sheet) == []
        with pytest.raises(InputError):
            acts.take_out(sheet, tagged(sheet, "T1")["id"])

    def test_a_cable_cut_in_two_has_the_ohms_of_one(self):
        sheet = Sheet(document(), numbered())
        before = tagged(sheet, "W-A1") | {}
        acts.split(sheet, before["id"], 20, "cable junction box", "W-A1B")
        one, other = tagged(sheet, "W-A1"), tagged(sheet, "W-A1B")
        for field in ("length_m", "resistance_ohm", "reactance_ohm"):
            assert one[field] + other[field] == pytest.approx(before[field])
        assert problems(sheet) == []
        for wrong in (0, -1, 85, 1e9, float("nan")):
            with pytest.raises(InputError):
                acts.split(sheet, one["id"], wrong, "panelboard", "W-Z")

    def test_what_stands_aside_is_the_same_network(self):
        sheet = Sheet(document())
        acts.aside(sheet, tagged(sheet, "F-A2")["id"], -1)
        order = [e["tag"] for e in sheet.document["elements"] if e["tag"].startswith("F-A")]
        assert order == ["F-A2", "F-A1", "F-A3", "F-A4"] and differences(document(), sheet.document) == ()
        with pytest.raises(InputError):
            acts.aside(sheet, tagged(sheet, "MC1-2B")["id"], -1)

    def test_voltages_go_with_what_is_joined_and_stop_at_a_transformer(self):
        sheet = bakery()
        groups.hang(sheet, "feeder", node_of(sheet, "MSB-1"), {"tag": "P-1"}, DRAWING)
        acts.change(sheet, "nodes", node_of(sheet, "P-1"), {"nominal_voltage_v": 600}, DRAWING)
        assert sheet.node(node_of(sheet, "MSB-1"))["nominal_voltage_v"] == 600
        assert sheet.node(node_of(sheet, "SWG-1"))["nominal_voltage_v"] == 4160
        assert problems(sheet) == []

    def test_random_acts_leave_a_whole_document(self):
        """Whatever is hung, copied, split, inserted and tied: the check of the document, which knows nothing of it, holds."""
        for seed in range(12):
            chance, sheet = random.Random(seed), bakery()
            fresh = itertools.count(1)
            for _ in range(25):
                boards = [e for e in sheet.document["elements"] if e["kind"] == "bus"]
                node = chance.choice(boards)["ends"][0]
                if sheet.node(node)["current"] != "ac":
                    continue
                tag = f"Z{next(fresh)}"
                what = chance.choice(["hang", "hang", "hang", "split", "insert", "take"])
                cables = [e for e in sheet.document["elements"] if e["kind"] == "cable"]
                if what == "hang":
                    group = chance.choice([g.id for g in groups.GROUPS if g.id != "transformer"])
                    groups.hang(sheet, group, node, {"tag": tag}, DRAWING)
                elif what == "split":
                    cable = chance.choice(cables)
                    acts.split(sheet, cable["id"], cable["length_m"] / 3, "cable junction box", tag)
                elif what == "insert":
                    acts.insert(sheet, chance.choice(cables)["id"], chance.randrange(2), "switch", tag, {}, DRAWING)
                else:
                    switches = [
                        e for e in sheet.document["elements"] if e["tag"].startswith("Z") and e["kind"] == "switch"
                    ]
                    if switches:
                        acts.take_out(sheet, chance.choice(switches)["id"])
                assert problems(sheet) == [], (seed, what)


class TestMerge:
    def base(self):
        return document()

    def changed(self, tag, **fields):
        data = self.base()
        for e in data["elements"]:
            if e["tag"] == tag:
                e.update(fields)
        return data

    def test_two_people_at_two_fields_are_both_kept(self):
        found = merge(self.base(), self.changed("T1", impedance_pct=6), self.changed("T1", x_r=7))
        t1 = next(e for e in found.document["elements"] if e["tag"] == "T1")
        assert (t1["impedance_pct"], t1["x_r"], found.conflicts) == (6, 7, ())

    def test_the_same_field_is_nobodys_until_a_side_is_chosen(self):
        mine, theirs = self.changed("T1", x_r=9), self.changed("T1", x_r=7)
        found = merge(self.base(), mine, theirs)
        assert [(c.name, c.field, c.base, c.mine, c.theirs) for c in found.conflicts] == [("T1", "x_r", 6.5, 9, 7)]
        chosen = merge(self.base(), mine, theirs, {found.conflicts[0].key: MINE})
        assert next(e for e in chosen.document["elements"] if e["tag"] == "T1")["x_r"] == 9

    def test_what_one_took_out_and_the_other_changed_is_asked(self):
        gone = self.base()
        gone["elements"] = [e for e in gone["elements"] if e["tag"] != "LP-1"]
        found = merge(self.base(), gone, self.changed("LP-1", name="Other lights"))
        assert [(c.name, c.field) for c in found.conflicts] == [("LP-1", "")]
        # unchanged by the other it simply goes
        assert not any(e["tag"] == "LP-1" for e in merge(self.base(), gone, self.base()).document["elements"])

    def test_merging_with_nothing_changes_nothing(self):
        data = self.changed("T1", x_r=9)
        assert content_hash(merge(self.base(), data, self.base()).document) == content_hash(data)
        assert content_hash(merge(self.base(), self.base(), data).document) == content_hash(data)

    def test_a_part_is_the_base_with_what_is_chosen(self):
        whole = self.changed("T1", x_r=9)
        next(e for e in whole["elements"] if e["tag"] == "T2")["x_r"] = 8
        found = differences(self.base(), whole)
        one = {(d.group, d.id) for d in found if d.name == "T1"}
        part = chosen_part(self.base(), whole, one)
        assert [d.name for d in differences(self.base(), part)] == ["T1"]
        assert content_hash(chosen_part(self.base(), whole, {(d.group, d.id) for d in found})) == content_hash(whole)

    def test_what_stands_together_is_answered_together(self):
        sheet = Sheet(document(), numbered())
        groups.hang(sheet, "starter", node_of(sheet, "MC1"), {"tag": "P-22"}, DRAWING)
        found = differences(document(), sheet.document)
        together = belonging(found, document(), sheet.document)
        assert {each[0].group for each in together} == {"elements"}
        assert sum(map(len, together)) == len(found)


class TestReach:
    def test_it_is_what_a_second_study_says(self):
        """The reach of a cable's length against the study of a document typed with that length."""
        sheet = bakery()
        for e in sheet.document["elements"]:
            if e["kind"] == "breaker":
                e["rated_a"] = 400
                e["curve"] = generic("trip-long-instantaneous", 400)
                e["interrupting_ka"] = 65
        for box in sheet.document["enclosures"]:
            box["escape_clear"] = True
        found = {(r.doubt.name, r.doubt.field): r for r in reach.reach(sheet.document, 40.0)}
        cable = found["WS-T-1", "length_m"]

        def worst(length_m):
            other = json.loads(json.dumps(sheet.document))
            next(e for e in other["elements"] if e["tag"] == "WS-T-1")["length_m"] = length_m
            rows = SiteStudy(Study(accept(other), NORTH_AMERICAN, None, 40.0)).worst_of_each()
            return {
                (at.element.id, at.reach.code): row["incident_energy_cal_cm2"] for at, row in rows if row.get("method")
            }

        base, ends = worst(30), [worst(length) for length in cable.doubt.others]
        moves = [end[key] / base[key] - 1 for end in ends for key in base]
        assert cable.doubt.value == 30 and cable.doubt.others == (5, 120)
        assert (cable.rise, cable.fall) == (pytest.approx(max(moves)), pytest.approx(-min(moves)))
        configuration = found["MSB-1", "electrode_configuration"]
        assert configuration.rise > 0.3, "HCB gives far more than VCB (IEEE 1584-2018, what its electrodes are for)"
        assert [r.most for r in found.values()] == sorted((r.most for r in found.values()), reverse=True)

    def test_what_lacks_a_curve_has_a_figure_only_with_one(self):
        sheet = bakery()
        missing = [(d.name, d.field) for d in reach.doubts(sheet.document) if d.why == reach.MISSING]
        assert missing == [(tag, f) for tag in ("Q-SWG-1", "Q-T-1", "QM-T-1") for f in ("curve", "interrupting_ka")]


@pytest.mark.parametrize("shape", LIBRARY, ids=lambda g: g.id)
def test_every_generic_curve_can_be_right_at_every_rating(shape):
    for rated_a in (15, 100, 630, 4000):
        assert quickest_s(read_curve(generic(shape.id, rated_a))) >= 0.25 / 60
    with pytest.raises(InputError):
        generic(shape.id, None)


def test_a_traced_curve_is_the_one_that_was_drawn():
    """Points of a straight line on log-log axes, placed as its own geometry says."""
    currents, times = (AxisMark(0.1, 10), AxisMark(0.9, 1000)), (AxisMark(0.9, 0.01), AxisMark(0.1, 100))
    places = [(0.1 + 0.8 * i / 4, 0.1 + 0.8 * i / 4) for i in range(5)]
    found = traced(currents, times, places)
    assert found.points == ((10.0, 100.0), (31.6, 10.0), (100.0, 1.0), (316.0, 0.1), (1000.0, 0.01))
    for wrong in ((AxisMark(0.5, 10), AxisMark(0.51, 1000)), (AxisMark(0.1, 1000), AxisMark(0.9, 10)),
                  (AxisMark(0.1, 0), AxisMark(0.9, 10))):  # fmt: skip
        with pytest.raises(InputError):
            traced(wrong, times, places)
    with pytest.raises(InputError):
        traced(currents, times, [(0.2, 0.2), (0.4, 0.1)])
