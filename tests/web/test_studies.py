"""The study of a site as a table: computed beside the server, once, and what the command writes."""

import csv
import io
import json
import threading
import time

import pytest
from click.testing import CliRunner

from demo_acts import act, the_site
from spinel.actions import network, site_settings
from spinel.actions.figures import document_text
from spinel.cli import main
from spinel.demo.site import document


def table(browser, rows="worst"):
    """However slow the machine: the page says to look again, until it is there."""
    until = time.monotonic() + 180
    while (answer := browser.get(f"/network/study?rows={rows}")).status_code == 202 and time.monotonic() < until:
        assert answer.headers["Refresh"] == f"2; url=/network/study?rows={rows}"
        time.sleep(0.2)
    assert answer.headers["Refresh"] == f"0; url=/network/study.csv?rows={rows}" and "Local codes" in answer.text
    answer = browser.get(f"/network/study.csv?rows={rows}")
    assert answer.status_code == 200 and answer.mimetype == "text/csv"
    return answer.text


def test_it_is_what_the_command_writes(sign_in, tmp_path):
    same_as_the_command(sign_in, tmp_path, "worst", ["--worst"])


@pytest.mark.usefixtures("made_here")
def test_in_every_case_too(sign_in, tmp_path):
    same_as_the_command(sign_in, tmp_path, "every", [])


def same_as_the_command(sign_in, tmp_path, rows, option):
    file = tmp_path / "network.json"
    file.write_text(document_text_of())
    written = CliRunner().invoke(main, ["study", str(file), *option])
    assert written.exit_code == 0
    assert table(sign_in("edda"), rows).splitlines() == written.output.splitlines()


def document_text_of():
    with the_site().connection():
        return document_text(the_site().as_it_is().hash)


@pytest.mark.usefixtures("made_here")
def test_it_is_computed_once_for_a_document_and_a_ceiling(sign_in, app, monkeypatch):
    maren = sign_in("maren")
    first = table(maren)
    heavy = app.extensions["heavy"]
    asked = []
    really = heavy._ask
    monkeypatch.setattr(heavy, "_ask", lambda *a: asked.append(a[:2]) or really(*a))
    assert table(maren) == first and asked == []
    site_settings.change(act("maren"), "ceiling_cal_cm2", "8", "Our suits are rated 8")
    lower = table(maren)
    assert asked and lower != first and lower.count("above") > first.count("above")
    data = document()
    next(e for e in data["elements"] if e["tag"] == "T1")["impedance_pct"] *= 0.9
    network.publish(act("maren"), json.dumps(data))
    other = {r["location"]: r["bolted_fault_current_ka"] for r in csv.DictReader(io.StringIO(table(maren)))}
    before = {r["location"]: r["bolted_fault_current_ka"] for r in csv.DictReader(io.StringIO(lower))}
    assert float(other["SWB-A"]) > float(before["SWB-A"])


def test_whoever_asks_while_others_wait_is_told_how_far_it_is(sign_in, app, monkeypatch):
    heavy = app.extensions["heavy"]
    monkeypatch.setattr(heavy, "_slots", threading.BoundedSemaphore(1))
    monkeypatch.setattr(heavy, "_ask", lambda *a: None)
    heavy._slots.acquire()
    edda = sign_in("edda")
    assert edda.get("/network/study.csv").headers["Location"] == "/network/study?rows=worst"
    assert "It waits" in edda.get("/network/study").text
    monkeypatch.setattr(heavy, "stage", lambda kind, key: "figures")
    answer = edda.get("/network/study")
    assert answer.status_code == 202 and "energies of all places" in answer.text


def test_another_choice_of_rows_is_refused(sign_in):
    for page in ("study", "study.csv"):
        assert sign_in("edda").get(f"/network/{page}?rows=best").status_code == 422
