"""The workspace Study in a browser: its picture and its table say the same, trials, runs, findings, labels, report."""

import csv
import html
import io
import math
import re
import time
import zipfile
from concurrent.futures.process import BrokenProcessPool
from itertools import pairwise
from urllib.parse import urlencode

import pytest
from openpyxl import Workbook, load_workbook

from demo_acts import MOMENT, act, element_id, person, the_site
from spinel.actions import drafting, improvements, labels, network, site_settings, study_runs
from spinel.actions.acting import utc_text
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study_result import energy_of, unfed
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.changes import TrialChange
from spinel.wording import formats

AT = utc_text(MOMENT)
B = element_id("52-B")
TRIAL = f"setting:{element_id('52-T2')}:dial:0.8"


def result():
    return study_runs.result(the_site(), study_runs.latest(the_site()).result_hash)


def answered(ask, path, until=240):
    """However slow the machine: asked again until what is computed beside the server is there."""
    end = time.monotonic() + until
    while (answer := ask(path)).status_code == 202 and time.monotonic() < end:
        time.sleep(0.2)
    assert answer.status_code == 200, (path, answer.status_code)
    return answer


def test_the_picture_and_the_table_show_the_figures_of_the_study(sign_in):
    edda = sign_in("edda")
    rows = [r for r in result().rows if energy_of(r) is not None]
    page = edda.get("/study?show=8&q=52-").text
    shown = [
        formats.energy(energy_of(r))
        for r in rows
        if energy_of(r) > 8 and "52-" in f"{r['tag']} {r['name']} {r['place']} {r['device']}"
    ]
    figures = re.findall(r'class="fig is-live">([\d.]+)<', page)
    assert figures and set(figures) == set(shown)
    for view in ("picture", "table"):
        assert edda.get(f"/study?view={view}&show=all").status_code == 200
    table = edda.get("/study?view=table&column=device&column=case&q=SWB-A").text
    assert '<th scope="col">Cleared by</th>' in table and '<th scope="col">Bolted fault' not in table
    # the same energy stands at the same place of the scale in every row
    dots = re.findall(r'class="dot8?"[^>]*(?:cx="([\d.]+)"|d="M([\d.]+))', page)
    assert len(dots) == len(figures)


def test_the_files_hold_what_the_filter_leaves_and_every_figure_of_it(sign_in):
    edda = sign_in("edda")
    rows = list(csv.DictReader(io.StringIO(edda.get("/study/table.csv").text)))
    assert len(rows) == len(result().rows)
    by_hand = {(r["tag"], r["touches"]): r for r in result().rows}
    for row in rows:
        kept = by_hand[row["tag"], row["touches"]]
        if energy_of(kept) is not None:
            assert float(row["incident_energy_cal_cm2"]) == energy_of(kept)
            assert float(row["arc_flash_boundary_mm"]) == kept["arc_flash_boundary_mm"]
    above = list(csv.DictReader(io.StringIO(edda.get("/study/table.csv?show=ceiling").text)))
    assert 0 < len(above) < len(rows) and all(float(r["incident_energy_cal_cm2"]) > 40 for r in above)
    book = edda.get("/study/table.xlsx")
    assert "xl/workbook.xml" in zipfile.ZipFile(io.BytesIO(book.data)).namelist()
    for bad in ("/study/table.pdf", "/study?study=S-9999"):
        assert edda.get(bad).status_code == 404
    for bad in ("/study?show=best", "/study?view=cloud"):
        assert edda.get(bad).status_code == 422


@pytest.mark.usefixtures("made_here")
def test_a_study_is_asked_for_computed_and_shown(sign_in):
    maren = sign_in("maren")
    data = __import__("spinel.demo.site", fromlist=["document"]).document()
    next(e for e in data["elements"] if e["tag"] == "52-T2")["curve"]["dial"] = 0.8
    network.publish(act("maren"), __import__("json").dumps(data))
    assert "out of date" in maren.get("/study").text
    assert maren.post("/study/run", {"draft": ""}).status_code == 302
    end = time.monotonic() + 120
    while maren.post("/study/advance", {}).headers.get("HX-Refresh") != "true":
        assert time.monotonic() < end
        time.sleep(0.1)
    latest = study_runs.latest(the_site())
    assert latest.current and latest.number in maren.get("/study/runs").text
    page = answered(maren.get, "/study/compare").text
    assert "52-T2" in page and "50.8" in page and "27.1" in page
    # the one record that differs moved every place
    assert re.search(r'52-T2</span> is otherwise.*?<td class="num">0</td>\s*<td class="num">4</td>', page, re.S)
    signing = {"version": latest.version, "result": latest.result_hash, "licence": "PE 7"}
    assert sign_in("nils").post(f"/study/{latest.number}/sign", signing).status_code == 403
    assert maren.post(f"/study/{latest.number}/sign", {**signing, "licence": ""}).status_code == 422
    assert sign_in("tavi").post(f"/study/{latest.number}/sign", signing).status_code == 302
    report = sign_in("edda").get("/study/report").text
    assert "PE 7" in report and latest.result_hash in report and "Local codes" in report


@pytest.mark.usefixtures("made_here")
def test_one_that_waits_is_cancelled(sign_in, app, monkeypatch):
    maren = sign_in("maren")
    number = study_runs.ask(act("maren"), "")
    monkeypatch.setattr(app.extensions["studies"], "_ask", lambda *a: None)
    monkeypatch.setattr(app.extensions["studies"], "_slots", __import__("threading").BoundedSemaphore(1))
    app.extensions["studies"]._slots.acquire()
    assert "HX-Refresh" not in maren.post("/study/advance", {}).headers
    assert number in maren.get("/study").text
    assert maren.post(f"/study/{number}/cancel", {"version": 1}).status_code == 302
    assert study_runs.run(the_site(), number).state == "cancelled"
    assert maren.post("/study/advance", {}).headers["HX-Refresh"] == "true"
    # under its number no other study's figures are shown
    assert maren.get(f"/study?study={number}").headers["Location"] == "/study/runs"
    assert maren.get(f"/study/table.csv?study={number}").status_code == 404
    again = study_runs.ask(act("maren"), "")

    def ends(*args, **more):
        raise BrokenProcessPool

    monkeypatch.setattr(app.extensions["studies"], "make", ends)
    assert maren.post("/study/advance", {}).headers["HX-Refresh"] == "true"
    assert study_runs.run(the_site(), again).state == "failed" and "without a result" in maren.get("/study/runs").text


def test_a_place_tells_who_clears_and_a_trial_is_marked_as_one(sign_in):
    edda = sign_in("edda")
    page = edda.get(f"/study/place/{B}?touches=terminals:n-bl").text
    # 1.53268 s: a clearing time is never written shorter than it is
    assert "after\u00a01.533\u00a0s" in page or "1.533" in page
    assert "50.8" in page and "52-T2" in page and "A trial, not how it is" not in page and "The working" in page
    trial = edda.get(f"/study/place/{B}?touches=terminals:n-bl&c={TRIAL}").text
    assert "A trial, not how it is" in trial and "26.8" in trial and "50.8" in trial and "Make a draft" not in trial
    assert "Make a draft" in sign_in("maren").get(f"/study/place/{B}?c={TRIAL}").text
    for way in ("distance=914", "time=0.1", "kind=case&of=" + the_site().as_it_is().network.cases[0].id):
        assert "A trial, not how it is" in edda.get(f"/study/place/{B}?{way}").text
    assert edda.get(f"/study/place/{element_id('BB-1')}").status_code == 200


@pytest.mark.parametrize(
    "query",
    [
        "distance=10",
        "distance=x",
        "time=0",
        "time=99",
        "c=setting:nobody:dial:1",
        f"c={TRIAL}9e9",
        "c=nothing",
        "c=setting:::",
        "touches=nowhere",
        "kind=element&of=x:tag&value=1",
        "device=nobody",
    ],
)
def test_a_trial_that_cannot_be_is_refused_with_a_reason(sign_in, query):
    assert sign_in("edda").get(f"/study/place/{B}?{query}").status_code in (404, 422)


@pytest.mark.usefixtures("made_here")
def test_what_is_computed_beside_the_server_for_a_trial(sign_in):
    edda = sign_in("edda")
    asked = urlencode({"touches": "terminals:n-bl", "device": element_id("52-T2"), "field": "dial"})
    track = answered(edda.get, f"/study/place/{B}/track?{asked}").text
    assert "26.8" not in track or "50.8" in track
    assert "50.8" in track and 'type="range"' in track and html.unescape(track).count('"energy"') > 20
    moved = answered(edda.get, f"/study/elsewhere?c={TRIAL}").text
    assert "4 locations move" in moved and "may open before" in moved
    page = answered(edda.get, f"/study/place/{B}/levers?touches=terminals:n-bl&target=12").text
    assert "under it" in page and "changes no energy" in page
    assert edda.get("/study/elsewhere").status_code == 404
    assert edda.get(f"/study/place/{B}/levers?target=9999").status_code == 422
    assert edda.get(f"/study/place/{B}/search").status_code == 200


def test_a_trial_becomes_a_draft_or_a_proposal_with_its_figures(sign_in):
    maren = sign_in("maren")
    before = len(drafting.drafts(the_site()))
    answer = maren.post(f"/study/place/{B}/draft", {"c": TRIAL})
    assert answer.status_code == 302 and len(drafting.drafts(the_site())) == before + 1
    draft = drafting.drafts(the_site())[0]
    curve = next(e for e in draft.document["elements"] if e["tag"] == "52-T2")["curve"]
    assert curve["dial"] == 0.8 and the_site().as_it_is().network.by_tag["52-T2"].curve.dial == 1.6
    assert maren.post(f"/study/place/{B}/draft", {"c": "case:x:y:z"}).status_code in (404, 422)
    assert sign_in("ivo").post(f"/study/place/{B}/draft", {"c": TRIAL}).status_code == 403
    data = {
        "c": TRIAL,
        "touches": "terminals:n-bl",
        "cost": "Half a day",
        "owner": person("maren"),
        "due": "2026-12-24",
    }
    assert maren.post(f"/study/place/{B}/propose", {**data, "due": "2020-01-01"}).status_code == 422
    assert maren.post(f"/study/place/{B}/propose", data).status_code == 302
    made = improvements.listed(the_site())[0]
    assert (made.tag, made.job) == ("52-B", "") and made.before == pytest.approx(50.761, abs=0.01) and made.after < 29
    assert maren.get("/jobs/improvements").status_code == 200


def test_findings_are_given_and_closed_on_their_page(sign_in):
    maren = sign_in("maren")
    for show in ("open", "mine", "late", "nobody", "closed"):
        assert maren.get(f"/study/findings?show={show}").status_code == 200
    name = f"slow {element_id('U-1')} terminals:n-u"
    page = maren.get("/study/findings?kind=slow").text
    name = html.unescape(re.search(r'name="name" value="([^"]+)"', page)[1])
    data = {"name": name, "version": 0, "owner": person("nils"), "due": "2026-12-24"}
    assert maren.post("/study/findings/give", {**data, "due": "2020-01-01"}).status_code == 422
    assert maren.post("/study/findings/give", data).status_code == 302
    number = re.search(r"F-\d{4}", maren.get("/study/findings?kind=slow").text)[0]
    assert number in sign_in("nils").get("/").text, "on the board of whoever owns it"
    closing = {"version": 1, "how": "accepted", "note": "The utility clears it"}
    assert sign_in("ivo").post(f"/study/findings/{number}/close", closing).status_code == 403
    assert sign_in("nils").post(f"/study/findings/{number}/close", {**closing, "note": ""}).status_code == 422
    assert sign_in("nils").post(f"/study/findings/{number}/close", closing).status_code == 302
    for bad in ("show=best", "kind=nothing"):
        assert maren.get(f"/study/findings?{bad}").status_code == 422


@pytest.mark.usefixtures("made_here")
def test_a_label_is_looked_at_printed_hung_and_wrong_on_its_pages(sign_in):
    maren, nils = sign_in("maren"), sign_in("nils")
    site_settings.change(act("maren"), "label_language", "de", "Half of the crew reads it")
    place = element_id("P-31")
    page = maren.get(f"/study/labels/of/{place}?stock=6x4").text
    assert "WARNING / WARNUNG" in page
    assert 'width="152.4mm"' in page and "100 mm" in page and "WARNING" in page
    assert "Too small" in maren.get(f"/study/labels/of/{place}?stock=3x2").text
    answer = maren.post("/study/labels/print", {"place": f"{place} ", "element": place, "stock": "a6"})
    number = re.search(r"L-\d{4}", answer.headers["Location"])[0]
    pdf = maren.get(f"/study/labels/sheet.pdf?numbers={number}&stock=a6")
    assert pdf.status_code == 200 and pdf.data.startswith(b"%PDF")
    assert nils.post(f"/study/labels/{number}/hang", {"version": 1, "place": ""}).status_code == 422
    assert nils.post(f"/study/labels/{number}/hang", {"version": 1, "place": "Its box"}).status_code == 302
    assert nils.post(f"/study/labels/{number}/look", {"version": 2, "there": "perhaps"}).status_code == 422
    assert nils.post(f"/study/labels/{number}/look", {"version": 2, "there": "no", "note": "gone"}).status_code == 302
    assert number in maren.get("/study/labels").text
    assert "Was not there" in maren.get(f"/study/labels/{number}").text
    assert nils.post(f"/study/labels/{number}/off", {"version": 3, "reason": "It was gone"}).status_code == 302
    found = {
        "element": place,
        "place": "Its box",
        "energy_cal_cm2": "0.1",
        "boundary_mm": "100",
        "voltage_v": "480",
        "working_distance_mm": "455",
    }
    assert nils.post("/study/labels/found", {**found, "energy_cal_cm2": "-3"}).status_code == 422
    assert nils.post("/study/labels/found", {**found, "category": "2.5"}).status_code == 422
    answer = nils.post("/study/labels/found", found)
    number = re.search(r"L-\d{4}", answer.headers["Location"])[0]
    assert labels.one(the_site(), number, AT).kind == "too_little"
    assert maren.get(f"/study/labels/sheet.pdf?numbers={number}&stock=6x4").status_code in (409, 422), (
        "a label of others"
    )
    for bad in (
        "/study/labels?show=best",
        f"/study/labels/of/{place}?stock=door",
        "/study/labels/sheet.pdf?numbers=L-0001&page=wall",
    ):
        assert maren.get(bad).status_code == 422
    assert maren.get("/study/labels/sheet.pdf").status_code == 404
    # what no paper can be made of has no number; several keep the stock that was chosen
    count, two = len(labels.listed(the_site(), AT)), {"place": [f"{element_id(t)} " for t in ("P-31", "MC1")]}
    answer = maren.post("/study/labels/print", {**two, "stock": "3x2"})
    assert answer.status_code == 422 and "3 × 2 in" in answer.text and len(labels.listed(the_site(), AT)) == count
    answer = maren.post("/study/labels/print", {**two, "stock": "a6"})
    assert (
        answer.headers["Location"].endswith("show=printed&stock=a6") and len(labels.listed(the_site(), AT)) == count + 2
    )
    assert "stock=a6&amp;page=a4" in maren.get(answer.headers["Location"]).text


@pytest.mark.usefixtures("made_here")
def test_the_report_is_one_paper_and_one_workbook(sign_in):
    edda = sign_in("edda")
    pdf = answered(edda.get, "/study/S-0001/report.pdf")
    assert pdf.data.startswith(b"%PDF") and len(pdf.data) > 40_000
    book = zipfile.ZipFile(io.BytesIO(edda.get("/study/S-0001/report.xlsx").data))
    names = re.findall(r'<sheet [^>]*name="([^"]+)"', book.read("xl/workbook.xml").decode())
    assert names == ["study", "findings", "order", "assumed", "cases", "about"]
    assert edda.get("/study/S-9999/report.pdf").status_code == 404


def test_the_hung_one_line_and_its_table_say_the_same(sign_in):
    page = sign_in("edda").get("/study/hung").text
    worst = {}
    for r in result().rows:
        if not unfed(r) and (r["voltage_v"] or 0) >= 50 and energy_of(r) is not None:
            worst[r["tag"]] = max(worst.get(r["tag"], 0.0), energy_of(r))
    for tag in ("T2", "SWB-A", "MC1"):
        assert f">{tag} {formats.energy(worst[tag])}<" in page
        assert re.search(rf'>{tag}</a>\s*</th>\s*<td class="num">{formats.energy(worst[tag])}<', page)


def test_studies_and_labels_are_found_by_their_numbers(sign_in):
    edda = sign_in("edda")
    assert edda.get("/find?q=S-0001").headers["Location"] == "/study?study=S-0001"
    assert edda.get("/find?q=L-0001").headers["Location"] == "/study/labels/L-0001"


def test_where_the_field_is_worse_than_any_case_the_place_says_so(sign_in):
    """A position that nobody knows counts as closed: then both transformers feed one section."""
    from spinel.actions import network as of_network

    edda = sign_in("edda")
    place = f"/study/place/{element_id('MC1')}"
    assert "worse than any recorded case" not in edda.get(place).text
    for tag in ("52-TIE", "52-G"):
        of_network.report_found(act("ivo"), element_id(tag), "closed", "Found it so at the last round")
    site = the_site().as_it_is()
    card = site.study.hazard(element_id("MC1"), "").energy_cal_cm2
    told = "worse than any recorded case" in edda.get(place).text
    recorded = max(energy_of(r) or 0 for r in result().rows if r["tag"] == "MC1")
    assert told == (card is None or card > recorded * 1.0001)


def test_a_case_that_was_added_is_told_as_the_cause():
    """Found by asking which records the causes leave out: a case raises figures as a setting does."""
    from spinel.core.study_moves import causes_of
    from spinel.demo.site import document

    before, after = document(), document()
    before["cases"] = before["cases"][:1]
    told = causes_of(before, after, 40.0)
    assert len(told["causes"]) == 4 and sum(c["up"] for c in told["causes"]) > 5
    other = document()
    other["elements"][0]["name"] = "Named anew"
    assert causes_of(document(), other, 40.0)["causes"] == []


# What-if cases as a table ------------------------------------------------------------------------------------


def words_on(answer):
    return re.sub(r"\s+", " ", html.unescape(re.sub(r"<[^>]+>", " ", answer.get_data(as_text=True))))


def uploaded(client, *lines, name="cases.xlsx"):
    book = Workbook()
    sheet = book.active
    sheet.title = "what-if"
    for line in (("case", "kind", "of", "field", "value", "unit"), *lines):
        sheet.append(list(line))
    data = io.BytesIO()
    book.save(data)
    data.seek(0)
    return client.post("/study/what-if", {"document": (data, name)}, content_type="multipart/form-data")


def cases_answered(client, answer):
    """As the page asks again by itself."""
    for _ in range(60):
        if answer.status_code != 202:
            return answer
        time.sleep(0.3)
        asked = html.unescape(re.search(r'name="asked" value="([^"]*)"', answer.get_data(as_text=True))[1])
        answer = client.post("/study/what-if", {"asked": asked})
    raise AssertionError("it never came")


def test_cases_of_a_table_are_answered_and_come_back_as_one(sign_in, open_db):
    edda = sign_in("edda")
    nine = "&".join(
        f"c=setting:{element_id(t)}:short_delay_s:0.2"
        for t in ("MC1", "MC2", "SWB-A", "SWB-B", "P-31", "T1", "T2", "52-A", "52-B")
    )
    answer = edda.get(f"/study/what-if.xlsx?{nine}")
    assert answer.status_code == 422 and "from 1 to 8 changes" in answer.text, "none is left out unseen"
    assert edda.get(f"/study/what-if.xlsx?{nine[: nine.rindex('&')]}").status_code == 200
    for gone in ("setting:x:y:1", "supply:x::1", "enclosure:x:gap_mm:25", "case:x::"):
        answer = edda.get(f"/study/what-if.xlsx?c={gone}")
        assert answer.status_code in (404, 422), gone
    blank = load_workbook(io.BytesIO(edda.get("/study/what-if.xlsx").get_data()))
    assert blank.sheetnames == ["what-if", "can be changed"] and blank["what-if"].max_row == 1
    can = [tuple(c.value for c in row) for row in blank["can be changed"].iter_rows(min_row=2)]
    dial = next(r for r in can if r[:3] == ("setting", "52-T2", "dial"))
    shown = cases_answered(
        edda, uploaded(edda, ("faster", *dial[:3], dial[3] / 3), ("stronger", "supply", "U-1", "", 2))
    )
    assert shown.status_code == 200
    text = words_on(shown)
    assert "2 cases." in text and "raise" in text and "faster" in text and "supply U-1 2 times as strong" in text
    asked = html.unescape(re.search(r'name="asked" value="([^"]*)"', shown.get_data(as_text=True))[1])
    book = load_workbook(io.BytesIO(edda.post("/study/what-if.xlsx", {"asked": asked}).get_data()))
    assert book.sheetnames == ["what-if", "can be changed", "summary", "figures", "order", "about"]
    assert [r[0].value for r in book["summary"].iter_rows(min_row=2)] == ["As published", "faster", "stronger"]
    # each figure is what the page of its place says of the trial
    row = next(
        r for r in book["figures"].iter_rows(min_row=2, values_only=True) if r[0] == "stronger" and r[1] == "SWB-A"
    )
    trial = edda.get(f"/study/place/{element_id('SWB-A')}?c=supply:{element_id('U-1')}::2.0")
    energies = [r[4] for r in book["figures"].iter_rows(min_row=2, values_only=True) if r[:2] == ("stronger", "SWB-A")]
    assert row and formats.energy(max(energies)) in words_on(trial)
    # and the workbook that came out is one that may come in again
    data = io.BytesIO()
    book.save(data)
    data.seek(0)
    again = edda.post("/study/what-if", {"document": (data, "again.xlsx")}, content_type="multipart/form-data")
    assert cases_answered(edda, again).status_code == 200


def test_a_table_that_cannot_be_is_answered_cell_by_cell_and_nothing_is_asked(sign_in, open_db):
    maren = sign_in("maren")
    answer = uploaded(maren, ("a", "setting", "52-T2", "dial", "quick"), ("b", "setting", "nobody", "dial", 1))
    assert answer.status_code == 422 and "2 cells of the table cannot be so" in words_on(answer)
    for line in (("=1+1", "setting", "52-T2", "dial", "=SUM(1)"),):
        assert uploaded(maren, line).status_code == 422
    for asked in ("{", "[]", '[{"name": 1}]', '[{"name": "a", "changes": []}]', '[{"name":"a","changes":[{"kind":"x"}]}]',
                  '[{"name":"a","changes":[{"kind":"setting","id":"nobody","field":"dial","value":1}]}]', "[" * 4000):  # fmt: skip
        assert maren.post("/study/what-if", {"asked": asked}).status_code == 422, asked[:40]
        assert maren.post("/study/what-if.xlsx", {"asked": asked}).status_code == 422, asked[:40]
    for name, data in (("a.txt", b"x"), ("a.xlsx", b"x"), ("a.xlsx", b"")):
        answer = maren.post(
            "/study/what-if", {"document": (io.BytesIO(data), name)}, content_type="multipart/form-data"
        )
        assert answer.status_code == 422 and "wrong-what-if-document" in answer.get_data(as_text=True), name


# Grips ---------------------------------------------------------------------------------------------------------


def grips_on(text):
    return [
        dict(re.findall(r'([\w-]+)="([^"]*)"', html.unescape(g))) for g in re.findall(r'<g class="grip"[^>]*>', text)
    ]


def to_segment(p, a, b):
    """How far a point is from a stretch of a line, px."""
    (px, py), (ax, ay), (bx, by) = p, a, b
    long = (bx - ax) ** 2 + (by - ay) ** 2
    part = max(0.0, min(1.0, ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / long)) if long else 0.0
    return math.hypot(px - ax - part * (bx - ax), py - ay - part * (by - ay))


@pytest.mark.parametrize(("tag", "touches"), [("SWB-B", "bus"), ("52-B", "terminals:n-bl"), ("MC1", "")])
def test_each_grip_lies_on_its_curve_and_its_range_is_that_of_the_slider(sign_in, tag, touches):
    """The grip between the slow edge and the fast one of the drawn band, or where a pickup steps; what dragging shows
    of a value is what the trial of it shows."""
    edda = sign_in("edda")
    text = edda.get(f"/study/place/{element_id(tag)}?touches={touches}").get_data(as_text=True)
    found = grips_on(text)
    assert found
    for grip in found:
        points = answered(edda.get, grip["data-ask"]).get_json()["points"]
        axis = grip["data-axis"]
        at = [p[axis] for p in points]
        assert at == sorted(at) or at == sorted(at, reverse=True), "dragging one way sets one way"
        here = min(points, key=lambda p: abs(p["value"] - float(grip["aria-valuenow"])))
        assert here[axis] == pytest.approx(float(grip[f"data-{axis}"]), abs=0.2)
        corners = [tuple(map(float, c)) for c in re.findall(r"(-?[\d.]+) (-?[\d.]+)", here["d"])]
        near = min(to_segment((float(grip["data-x"]), float(grip["data-y"])), *two) for two in pairwise(corners))
        assert near < 14, (grip["aria-label"], near)
        known = [p for p in points if p["energy"] is not None]
        far = known[-1] if axis == "x" else known[0]
        trial = edda.get(f"{grip['data-page']}&{urlencode({'c': grip['data-change'] + str(far['value'])})}")
        assert formats.energy(far["energy"]) in words_on(trial)


def test_a_range_that_is_asked_for_otherwise_than_by_the_page_is_refused(sign_in):
    edda = sign_in("edda")
    ask = grips_on(edda.get(f"/study/place/{B}?touches=terminals:n-bl").get_data(as_text=True))[0]["data-ask"]
    for part in ("low", "high", "factor"):
        for wrong in ("", "nan", "0", "-1", "inf", "x"):
            assert edda.get(re.sub(rf"{part}=[^&]*", f"{part}={wrong}", ask)).status_code in (400, 422), (part, wrong)
    assert edda.get(re.sub(r"field=[^&]*", "field=flux", ask)).status_code in (202, 400, 422)


def test_under_a_maintenance_setting_the_grips_are_those_of_that_setting(open_db, sign_in):
    """The trial puts it in first; what is dragged then is its own values."""
    document = drafting.draft(the_site(), drafting.begin(act("maren"))).document
    main = next(e for e in document["elements"] if e["tag"] == "52-A")
    main["maintenance_curve"] = {**main["curve"], "short_pickup_a": 2500, "short_delay_s": 0.1}
    trials = Trials(document, NORTH_AMERICAN, 40.0)
    place, change = (element_id("SWB-A"), "bus"), TrialChange("maintenance", element_id("52-A"))
    track = trials.track(*place, element_id("52-A"), "short_delay_s", [change])
    assert 0.1 in [p.value for p in track]
    document["elements"] = [{**e, "curve": main["maintenance_curve"]} if e is main else e for e in document["elements"]]
    alone = Trials(document, NORTH_AMERICAN, 40.0)
    for point in track[::8]:
        again = alone.at(*place, (TrialChange("setting", element_id("52-A"), "short_delay_s", point.value),))
        assert point.figure.energy_cal_cm2 == pytest.approx(again.energy_cal_cm2, rel=1e-9)


PAPERS = (
    "/study/S-0001/report.pdf",
    "/permits/EWP-0004.pdf",
    "/jobs/J-0017.pdf",
    "/switching/SP-0003.pdf",
    "/network/one-line.pdf",
)


@pytest.mark.parametrize("path", PAPERS)
def test_a_drawing_for_the_printer_brings_its_styles(app, sign_in, monkeypatch, path):
    """The printer gives a drawing only the styles that stand in it: without them every area is black."""
    handed = []
    taken = lambda kind, key, work, page, *more, **rest: handed.append(page) or b"%PDF"  # noqa: E731
    monkeypatch.setattr(app.extensions["heavy"], "make", taken)
    assert sign_in("edda").get(path).status_code == 200
    drawings = [
        d for d in re.findall(r"<svg(.*?)</svg>", handed[0], re.S) if re.search(r"<(path|rect|circle)[^>]*class=", d)
    ]
    # what has lines of its own needs none
    drawings = [d for d in drawings if re.search(r"<(?:path|rect|circle)(?![^>]*(?:fill|stroke)=)[^>]*class=", d)]
    bare = [d[:120] for d in drawings if "<style>" not in d and not re.search('class="(defs|segno)"', d)]
    assert bare == []
    assert all("var(--" not in d for d in drawings)
