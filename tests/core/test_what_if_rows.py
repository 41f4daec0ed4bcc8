"""What-if cases as rows: read as they were written, answered as the document changed by hand, refused with their row."""

import copy

import pytest

from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy
from spinel.core.what_if import rows
from spinel.core.what_if.answered import answered, levels
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.changes import TrialChange
from spinel.core.what_if.rows import WhatIfCase
from spinel.demo.site import document, element_id


def table(*lines):
    return [(i, dict(zip(rows.COLUMNS, line, strict=False))) for i, line in enumerate(lines, 2)]


def read(*lines):
    return rows.read_cases(document(), table(*lines))


def test_everything_that_can_be_changed_is_a_case_when_it_is_copied_and_comes_back_as_it_was():
    doc = document()
    can = list(rows.can_be_changed(doc))
    assert {c["kind"] for c in can} == {"setting", "element", "supply", "enclosure", "case"}
    for some in (can[i : i + rows.MOST_CASES] for i in range(0, len(can), rows.MOST_CASES)):
        lines = list(enumerate([{"case": f"case {i}", **c} for i, c in enumerate(some)], 2))
        found = rows.read_cases(doc, lines)
        assert found.faults == () and len(found.cases) == len(some)
        assert rows.as_rows(doc, found.cases) == [
            {**line, "value": "" if line["value"] is None else line["value"]} for _, line in lines
        ]


#: A row that cannot be so, and the column that is named.
WRONG = [
    (("", "setting", "52-T2", "dial", 0.5), "case"), (("x" * 81, "setting", "52-T2", "dial", 0.5), "case"),
    (("a", "melt", "52-T2", "dial", 0.5), "kind"), (("a", "setting", "52-T9", "dial", 0.5), "of"),
    (("a", "setting", "52-T2", "flux", 0.5), "field"), (("a", "setting", "52-T2", "dial", "0.5 s"), "value"),
    (("a", "setting", "52-T2", "dial", 0), "value"), (("a", "setting", "52-T2", "dial", -1), "value"),
    (("a", "setting", "52-T2", "dial", float("nan")), "value"), (("a", "setting", "52-T2", "dial", float("inf")), "value"),
    (("a", "setting", "52-T2", "dial", True), "value"), (("a", "setting", "52-T2", "dial", None), "value"),
    (("a", "setting", "52-T2", "pickup_a", 100, "kA"), "unit"), (("a", "element", "T1", "rated_kva", 2, "MVA"), "unit"),
    (("a", "element", "T1", "impedance_pct", 0.0575, "pu"), "unit"), (("a", "supply", "U-1", "", 11), "value"),
    (("a", "supply", "T1", "", 2), "field"), (("a", "element", "T1", "impedance_pct", 0.05), "value"),
    (("a", "enclosure", "SWB-A", "gap_mm", 1e6), "value"), (("a", "enclosure", "SWB-A", "depth", 300), "field"),
    (("a", "maintenance", "52-T2", "", ""), "field"), (("a", "case", "no such", "", ""), "of"),
]  # fmt: skip


def box_name():
    return document()["enclosures"][0]["name"]


@pytest.mark.parametrize(("line", "column"), WRONG)
def test_what_cannot_be_is_told_with_its_row_and_column_and_no_case_is_made_of_it(line, column):
    line = tuple(box_name() if part == "SWB-A" else part for part in line)
    found = read(("good", "setting", "52-T2", "dial", 0.5), line)
    assert [c.name for c in found.cases] == ["good"]
    assert [(f.row, f.column) for f in found.faults] == [(3, column)]


def test_a_case_with_one_bad_row_is_left_out_whole():
    found = read(("a", "setting", "52-T2", "dial", 0.5), ("a", "setting", "52-T2", "pickup_a", "fast"))
    assert found.cases == () and len(found.faults) == 1


def test_twice_the_same_field_too_many_and_none_are_refused():
    again = read(("a", "setting", "52-T2", "dial", 0.5), ("a", "setting", "52-t2", "dial", 0.6))
    assert again.cases == () and again.faults[0].row == 3
    many = read(*((f"case {i}", "setting", "52-T2", "dial", 0.5) for i in range(rows.MOST_CASES + 1)))
    assert many.cases == () and many.faults
    assert read().faults and read().cases == ()
    two = read(("a", "case", "normal"), ("a", "case", "on generator"))
    assert two.cases == () and two.faults


def test_numbers_of_a_text_file_are_numbers():
    found = read(
        ("a", "Setting", " 52-t2 ", "dial", "0.5"), ("b", "enclosure", box_name(), "electrode_configuration", "vcb")
    )
    assert found.faults == ()
    assert found.cases[0].changes == (TrialChange("setting", element_id("52-T2"), "dial", 0.5),)
    assert found.cases[1].changes[0].value == "VCB"


def test_answers_are_those_of_the_document_changed_by_hand():
    """Each location of both studies compared one by one, counts among them."""
    trials = Trials(document(), NORTH_AMERICAN, 40.0)
    case = WhatIfCase("faster, stronger", (TrialChange("setting", element_id("52-T2"), "dial", 0.8),
                                           TrialChange("supply", element_id("U-1"), "", 1.5)))  # fmt: skip
    doc = document()
    for e in doc["elements"]:
        if e["tag"] == "52-T2":
            e["curve"]["dial"] = 0.8
        if e["tag"] == "U-1":
            e["fault_mva_max"] *= 1.5
            e["fault_mva_min"] *= 1.5
    studies = [SiteStudy(Study(accept(copy.deepcopy(d)), NORTH_AMERICAN, None, 40.0)) for d in (document(), doc)]
    was, now = ({(at.element.id, at.reach.code): row for at, row in s.worst_of_each()} for s in studies)
    answer = answered(trials, case)
    energies = [r["incident_energy_cal_cm2"] for r in now.values() if r["method"]]
    assert answer.now.above == tuple(sum(e > level for e in energies) for level in levels(40.0))
    assert answer.now.worst is not None and answer.now.worst[2] == pytest.approx(max(energies))
    assert answer.now.places == len(now)
    told = {(m.element_id, m.touches): (m.was_cal_cm2, m.now_cal_cm2) for m in answer.moved}
    for place, row in now.items():
        before = was[place]
        if not row["method"] or not before["method"]:
            assert row["method"] == before["method"]
            continue
        a, b = before["incident_energy_cal_cm2"], row["incident_energy_cal_cm2"]
        if abs(a - b) > 1e-3 * max(a, b):
            assert told[place] == pytest.approx((a, b)), place
    assert answer.rises == sum(m.worse for m in answer.moved) and 0 < answer.rises <= len(answer.moved)
