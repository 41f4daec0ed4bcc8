"""The commands on files: columns as promised, refused rows beside computed ones, statuses, and nothing half written."""

import csv
import io
import json
from pathlib import Path

import pytest
from click.testing import CliRunner

from saying import en
from sequence_site import cable, end, radial, site, source, transformer
from spinel.cli import main
from spinel.core.errors import DocumentError
from spinel.core.network.check import accept
from spinel.core.study import COLUMNS
from spinel.demo.site import document


def run(*arguments, **options):
    return CliRunner().invoke(main, list(arguments), **options)


def rows(result):
    return list(csv.DictReader(io.StringIO(result.output)))


@pytest.fixture
def demo_file(tmp_path):
    file = tmp_path / "demo.json"
    file.write_text(json.dumps(document()))
    return str(file)


def test_study_writes_the_promised_columns_for_every_location_case_and_side(demo_file, tmp_path):
    out = tmp_path / "study.csv"
    assert run("study", demo_file, "-o", str(out)).exit_code == 0
    with out.open() as file:
        reader = csv.DictReader(file)
        found = list(reader)
    assert tuple(reader.fieldnames) == COLUMNS
    keys = [(r["location"], r["case"], r["side"]) for r in found]
    assert len(keys) == len(set(keys))
    one = rows(run("study", demo_file, "--case", "normal"))
    assert all(r["case"].startswith("normal") for r in one) and {"normal, U-1 strongest"} < {r["case"] for r in one}
    assert one == [r for r in found if r["case"].split(",")[0] == "normal"]
    main = {r["side"]: r for r in one if r["location"] == "52-B"}
    line, bus = main["terminals at the cable to T2"], main["terminals at the SWB-B end"]
    assert float(line["incident_energy_cal_cm2"]) > float(bus["incident_energy_cal_cm2"])
    assert bus["device"] == "52-B" and line["device"] == "52-T2"
    battery = next(r for r in one if r["location"] == "BB-1")
    assert battery["incident_energy_cal_cm2"] == "" and "direct current" in battery["warning"]
    assert battery["limited_fixed_mm"] == "1000"


def test_study_refuses_what_is_no_network_or_no_case(demo_file, tmp_path):
    assert "There is no case" in run("study", demo_file, "--case", "never").output
    bad = tmp_path / "bad.json"
    bad.write_text("{")
    assert run("study", str(bad)).exit_code == 1


def test_a_synthetic_site_is_written_checked_and_studied(tmp_path):
    file = tmp_path / "large.json"
    assert run("network", "new-large", "--buses", "14", "--seed", "2", "-o", str(file)).exit_code == 0
    assert "acceptable" in run("network", "check", str(file)).output
    found = rows(run("study", str(file), "--case", "normal"))
    assert sum(1 for r in found if r["incident_energy_cal_cm2"]) > 80
    refused = run("network", "new-large", "--buses", "3")
    assert refused.exit_code == 1 and "buses is 3" in refused.output


def test_fault_says_every_current_or_who_is_missing(demo_file):
    found = run("fault", demo_file, "MC1", "--case", "normal")
    assert (
        found.exit_code == 0 and "supply at maximum; cold conductors" in found.output and "W-A1: r0_ohm" in found.output
    )
    for arguments, words in ((("NONE",), "There is no equipment"), (("MC1", "--case", "x"), "There is no case"),
                             (("BB-1",), "an AC node")):  # fmt: skip
        refused = run("fault", demo_file, *arguments)
        assert refused.exit_code == 1 and words in refused.output


def test_shock_rows():
    found = run("calc", "shock", "-", input="voltage_v,current,profile\n480,ac,\n49,dc,\n120,ac,north-american\n40000,ac,\n"
                "0.48,ac,\nnan,ac,\n480,xx,\n480,ac,mars\n900000,dc,\n750,dc,\n")  # fmt: skip
    assert found.exit_code == 1
    r = rows(found)
    assert [r[0][k] for k in ("limited_movable_mm", "limited_fixed_mm", "restricted_mm", "avoid_contact", "glove_class", "error")] == [
        "3000", "1000", "300", "false", "00", ""]  # fmt: skip
    assert r[1]["limited_fixed_mm"] == r[1]["error"] == r[1]["glove_class"] == "" and r[1]["avoid_contact"] == "false"
    assert (r[2]["restricted_mm"], r[2]["avoid_contact"]) == ("", "true")
    assert r[3]["limited_fixed_mm"] == "2500" and r[3]["error"].startswith("glove_class") and r[3]["glove_class"] == ""
    for row, field in zip(r[4:9], ("voltage_v", "voltage_v", "current", "profile", "voltage_v"), strict=True):
        assert row["error"].startswith(field) and row["limited_fixed_mm"] == ""
    assert r[9]["glove_class"] == "00"


def test_relay_rows_keep_going_past_refusals():
    found = run("calc", "relay", "-", input="standard,curve,multiple,dial\niec,SI,10,0.1\nieee,VI,5,1\nieee,VI,1,1\niec,MI,3,1\n"
                "ieee,EI,inf,1\nieee,EI,2,0\nieee,EI,2,1,9\n")  # fmt: skip
    r = rows(found)
    assert found.exit_code == 1 and [row["error"] == "" for row in r] == [True, True, False, False, False, False, False]
    assert float(r[0]["time_s"]) == pytest.approx(0.2970, abs=1e-4) and r[2]["time_s"] == ""
    assert "row is" in r[6]["error"]


ARC = "method,voltage_v,bolted_fault_current_ka,electrode_configuration,gap_mm,working_distance_mm,duration_ms,equipment_class,grounding,enclosed"


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("ieee1584-2018,480,30,,,,100,panelboard,,", ""), ("ieee1584-2018,480,30,VOA,32,610,100,,,", ""),
        ("lee,34500,10,,,1000,100,,,", ""), ("lee,34500,10,VOA,,1000,100,,,false", ""),
        ("ieee1584-2018,480,30,,,,100,,,", "electrode_configuration is empty"), ("ieee1584-2018,480,30,VCB,32,610,100,,,", "enclosure_height_mm"),
        ("ieee1584-2018,480,30,VOA,,610,100,,,", "gap_mm is empty"), ("ieee1584-2018,480,30,,,,100,teapot,,", "equipment_class is teapot"),
        ("ieee1584-2018,0.48,30,VOA,32,610,100,,,", "voltage_v"), ("ieee1584-2018,480,30000,VOA,32,610,100,,,", "bolted_fault_current_ka"),
        ("ieee1584-2018,480,30,VOA,32,24,100,,,", "working_distance_mm"), ("ieee1584-2018,480,30,VOA,32,610,-1,,,", "duration_ms"),
        ("ieee1584-2018,480,30,VOA,32,610,100,,sometimes,", "grounding"), ("lee,34500,10,,,1000,100,,,true", "open air"),
        ("lee,34500,10,VCB,,1000,100,,,", "open air"), ("lee,13800,10,,,1000,100,,,", "above 15 kV"), ("lee,34500,10,,,1000,100,,,perhaps", "true or false"),
        ("dc-stokes,480,30,VOA,32,610,100,,,", "method is dc-stokes"),
    ],
)  # fmt: skip
def test_arc_flash_rows_say_what_is_wrong(row, words):
    (found,) = rows(result := run("calc", "arcflash", "-", input=f"{ARC}\n{row}\n"))
    assert result.exit_code == bool(words) and (words in found["error"] if words else found["error"] == "")
    assert bool(found["incident_energy_cal_cm2"]) is not bool(words)
    if "panelboard" in row:
        assert "typical" in found["warning"]
    if row.startswith("lee") and not words:
        assert found["reduced_incident_energy_j_cm2"] == "" and found["enclosure_correction_factor"] == "1.0"


def test_curves_change_form_and_bad_ones_are_refused(tmp_path):
    file = tmp_path / "curve.json"
    file.write_text(json.dumps({"type": "fuse", "points": [[100, 10], [1000, 0.1]]}))
    as_csv = run("curve", str(file), "--to", "csv")
    assert as_csv.output == "current_a,melting_s,clearing_s\n100,,10\n1000,,0.1\n"
    back = tmp_path / "curve.csv"
    back.write_text(as_csv.output)
    assert json.loads(run("curve", str(back), "--to", "json").output)["points"] == [[100, 10], [1000, 0.1]]
    file.write_text(json.dumps({"type": "fuse", "points": [[100, 1], [1000, 2]]}))
    refused = run("curve", str(file), "--to", "csv")
    assert refused.exit_code == 1 and "times must not rise" in refused.output


BASE = [("a", 12_470), ("b", 480), ("c", 480)]


@pytest.mark.parametrize(
    ("elements", "tag", "field", "allowed"),
    [
        ([transformer("T", "a", "b", kva=1.5)], "T", "rated_kva", "kVA is meant, not MVA"),
        ([transformer("T", "a", "b", kva=1_500_000)], "T", "rated_kva", "kVA is meant, not VA"),
        ([transformer("T", "a", "b", z=0.0575)], "T", "impedance_pct", "percent is meant"),
        ([transformer("T", "a", "b", rated_voltages_v=[480, 12_470])], "T", "rated_voltages_v", "wrong base"),
        ([transformer("T", "a", "b", rated_voltages_v=[12_470, 480, 480])], "T", "rated_voltages_v", "one voltage for each end"),
        ([transformer("T", "a", "b", vector_group="dYN11")], "T", "vector_group", "Dyn11"),
        ([transformer("T", "a", "b", vector_group="Dyn13")], "T", "vector_group", "Dyn11"),
        ([transformer("T", "a", "b", vector_group="YNyn0d1")], "T", "vector_group", "2 windings"),
        ([transformer("T", "a", "b", z=0)], "T", "impedance_pct", "above 0"),
        ([transformer("T", "a", "b"), cable("W", "b", "c", r=0, x=0)], "W", "resistance_ohm, reactance_ohm", "zero impedance"),
        ([transformer("T", "a", "b"), {"tag": "W", "kind": "cable", "ends": ["b", "c"]}], "W", "resistance_ohm", "conductor_size"),
        ([transformer("T", "a", "b"), {"tag": "W", "kind": "cable", "ends": ["b", "c"], "reactance_ohm": 0.1}], "W", "resistance_ohm", "together"),
        ([transformer("T", "a", "b"), {"tag": "W", "kind": "cable", "ends": ["b", "c"], "conductor_size": "501", "length_m": 9}], "W", "conductor_size", "one of"),
        ([transformer("T", "a", "b"), {"tag": "R", "kind": "reactor", "ends": ["b", "c"], "reactance_ohm": 0}], "R", "resistance_ohm, reactance_ohm", "zero"),
        ([transformer("T", "a", "b", "c")], "T", "impedance_13_pct", "third winding"),
        ([transformer("T", "a", "b"), {"tag": "K", "kind": "breaker", "ends": ["b", "c"], "normal_position": "closed", "rated_voltage_v": 600, "zone": ["x"]}], "K", "zone", "come together"),
        ([transformer("T", "a", "b"), {"tag": "K", "kind": "breaker", "ends": ["b", "c"], "normal_position": "closed", "rated_voltage_v": 600, "restrained_by": ["K"]}], "K", "restrained_by", "another element"),
        ([transformer("T", "a", "b"), {"tag": "K", "kind": "breaker", "ends": ["b", "c"], "normal_position": "closed", "rated_voltage_v": 600,
          "curve": {"type": "unit", "principle": "light", "pickup_a": 9, "operating_s": 0.01, "breaker_s": 0.05}}], "K", "curve.principle", "its own zone"),
    ],
)  # fmt: skip
def test_a_network_that_cannot_be_right_names_element_field_and_what_is_allowed(elements, tag, field, allowed):
    doc = site(BASE, [source("a"), *elements, end("b"), end("c")])
    with pytest.raises(DocumentError) as refused:
        accept(doc)
    assert any(p.element == tag and p.field == field and allowed in en(p.allowed) for p in refused.value.problems), str(
        refused.value
    )


def test_an_isolated_source_is_refused():
    doc = radial()
    doc["nodes"].append({"id": "z", "nominal_voltage_v": 480, "current": "ac"})
    doc["elements"].append({**source("z"), "id": "u2", "tag": "U2"})
    with pytest.raises(DocumentError, match="isolated utility source"):
        accept(doc)


def test_a_study_as_a_workbook_holds_the_same_numbers_and_says_what_they_rest_on(demo_file, tmp_path):
    from openpyxl import load_workbook

    book = tmp_path / "study.xlsx"
    assert run("study", demo_file, "--worst", "--format", "xlsx", "-o", str(book)).exit_code == 0
    sheets = load_workbook(book)
    head, *lines = sheets["study"].iter_rows(values_only=True)
    plain = rows(run("study", demo_file, "--worst"))
    assert list(head) == list(COLUMNS) and len(lines) == len(plain)
    energy = COLUMNS.index("incident_energy_cal_cm2")
    for line, row in zip(lines, plain, strict=True):
        typed = row["incident_energy_cal_cm2"]
        # a workbook keeps sixteen digits
        assert line[energy] == (pytest.approx(float(typed), rel=1e-14) if typed else None)
    about = dict(sheets["about"].iter_rows(min_row=2, values_only=True))
    assert "Skerrow Point" in about["site"] and "qualified person" in about["caution"]
    assert run("study", demo_file, "--format", "xlsx").exit_code == 2


def test_findings_and_a_comparison_from_the_command_line(demo_file, tmp_path):
    found = rows(run("study", demo_file, "--findings"))
    assert found and {"finding", "location", "to_do"} <= set(found[0])
    doc = json.loads(Path(demo_file).read_text())
    next(e for e in doc["elements"] if e["tag"] == "F-A1")["curve"]["short_delay_s"] = 0.1
    faster = tmp_path / "faster.json"
    faster.write_text(json.dumps(doc))
    better = rows(run("study", str(faster), "--compare", demo_file))
    worse = rows(run("study", demo_file, "--compare", str(faster)))
    assert {r["worse"] for r in better} == {"no"} and "yes" in {r["worse"] for r in worse}
    mc1 = next(r for r in better if r["location"] == "MC1")
    assert float(mc1["now_cal_cm2"]) < float(mc1["was_cal_cm2"])
    assert rows(run("study", demo_file, "--compare", demo_file)) == []
    assert run("study", demo_file, "--compare", demo_file, "--worst").exit_code == 2
    missing = run("study", demo_file, "--case", "never", "-o", str(tmp_path / "none.csv"))
    assert missing.exit_code == 1 and not (tmp_path / "none.csv").exists()
