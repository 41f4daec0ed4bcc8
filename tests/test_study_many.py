"""`spinel study FOLDER`: every site, the same to the byte however it is spread, and none kept from it by another."""

import csv
import gzip
import json
import sqlite3
from pathlib import Path

import pytest
from click.testing import CliRunner

from spinel.cli import main
from spinel.demo.large import large_document
from spinel.demo.site import document


@pytest.fixture
def folder(tmp_path):
    sites = tmp_path / "sites"
    sites.mkdir()
    for seed in (1, 2):
        (sites / f"site-{seed}.json").write_text(json.dumps(large_document(11, seed)))
    named = document()
    named["elements"][0]["name"] = "=1+1"
    (sites / "demo.json").write_text(json.dumps(named))
    return sites


def studied(folder, out, *more):
    return CliRunner().invoke(main, ["study", str(folder), "-o", str(out), *more])


def test_one_worker_and_two_write_the_same_files(folder, tmp_path):
    assert studied(folder, tmp_path / "one", "--workers", "1").exit_code == 0
    assert studied(folder, tmp_path / "two", "--workers", "2").exit_code == 0
    files = {f.name: f.read_bytes() for f in (tmp_path / "one").iterdir()}
    assert files == {f.name: f.read_bytes() for f in (tmp_path / "two").iterdir()}
    assert set(files) == {"summary.csv", "demo.csv", "site-1.csv", "site-2.csv"}
    lines = {r["file"]: r for r in csv.DictReader((tmp_path / "one" / "summary.csv").open())}
    alone = CliRunner().invoke(main, ["study", str(folder / "demo.json"), "--worst"]).output
    worst = max(float(r["incident_energy_cal_cm2"] or 0) for r in csv.DictReader(alone.splitlines()))
    assert float(lines["demo.json"]["worst_cal_cm2"]) == worst
    # a text that a spreadsheet would compute is one no more
    assert b",'=1+1," in files["demo.csv"] or b"'=1+1" in files["demo.csv"] or b"=1+1" not in files["demo.csv"]


def test_a_site_that_is_none_keeps_no_other_from_it(folder, tmp_path):
    (folder / "broken.json").write_text("{")
    (folder / "other.json").write_text(json.dumps({"format": "something"}))
    answer = studied(folder, tmp_path / "out", "--workers", "1")
    assert answer.exit_code == 1 and "2 without a study" in answer.output
    lines = {r["file"]: r for r in csv.DictReader((tmp_path / "out" / "summary.csv").open())}
    assert lines["broken.json"]["error"] and lines["other.json"]["error"] and not lines["demo.json"]["error"]
    assert "\u27e6" not in lines["other.json"]["error"]


def test_what_makes_no_sense_is_refused(folder, tmp_path):
    empty = tmp_path / "empty"
    empty.mkdir()
    assert studied(empty, tmp_path / "out").exit_code == 2
    assert CliRunner().invoke(main, ["study", str(folder)]).exit_code == 2
    assert studied(folder, tmp_path / "out", "--findings").exit_code == 2
    one = str(folder / "demo.json")
    assert CliRunner().invoke(main, ["study", one, "--workers", "2"]).exit_code == 2
    assert CliRunner().invoke(main, ["study", one, "-o", str(tmp_path)]).exit_code == 2
    assert CliRunner().invoke(main, ["study", str(tmp_path / "none.json")]).exit_code != 0


def test_no_record_of_a_folder_is_written(folder, tmp_path):
    """Found by asking what opening a site does: an empty file became a site, and one without keys got some."""
    (folder / "empty.sqlite3").write_bytes(b"")
    (folder / "noise.sqlite3").write_bytes(b"no database at all" * 100)
    release = gzip.decompress(sorted(Path(__file__).parent.glob("fixtures/site-0.1[0-9].*.gz"))[0].read_bytes())
    (folder / "earlier.sqlite3").write_bytes(release)
    answer = studied(folder, tmp_path / "out", "--workers", "1")
    assert answer.exit_code == 1 and "3 without a study" in answer.output, answer.output
    assert (folder / "empty.sqlite3").read_bytes() == b"" and not list(folder.glob("*.keys"))
    # SQLite may note in the head of the file how it keeps its journal; the record is as it was
    (tmp_path / "was.sqlite3").write_bytes(release)
    dumps = [list(sqlite3.connect(p).iterdump()) for p in (folder / "earlier.sqlite3", tmp_path / "was.sqlite3")]
    assert dumps[0] == dumps[1]
