"""A coordinator builds a site from nothing, mends a workbook, walks down a room while the network is away, meets another
at one draft, asks for every source, compares and takes it elsewhere: by the screens alone.
"""

import io
import os
import re
import socket
import subprocess
import sys
import time
import urllib.request

import pytest
from openpyxl import load_workbook
from playwright.sync_api import expect
from test_screens import faults, nothing_reaches_out

from conftest import Person
from spinel.demo.people import PASSWORD
from spinel.demo.site import element_id

#: Clicks and fields until the first hazard card of a site of which nothing was known.
MOST_ACTS = 25


class Counted:
    """Somebody whose clicks and fields are counted."""

    def __init__(self, page):
        self.page, self.acts = page, 0

    def press(self, name):
        self.acts += 1
        self.page.get_by_role("button", name=name, exact=True).click()

    def follow(self, name, **more):
        self.acts += 1
        self.page.get_by_role("link", name=name, **more).first.click()

    def fill(self, selector, text):
        self.acts += 1
        self.page.fill(selector, text)

    def choose(self, selector, value):
        self.acts += 1
        self.page.select_option(selector, value)


@pytest.fixture
def empty_site(tmp_path, browser):
    """`spinel serve` on a database in which there is a coordinator, and nothing else."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    environment = {
        **os.environ,
        "SPINEL_DB": str(tmp_path / "site.sqlite3"),
        "SPINEL_PORT": str(port),
        "SPINEL_WORKERS": "1",
    }
    add = [sys.executable, "-m", "spinel", "coordinator-add", "ana", "--name", "Ana Pell", "--password", PASSWORD]
    subprocess.run(add, env=environment, check=True)
    log = (tmp_path / "site.log").open("w")
    process = subprocess.Popen([sys.executable, "-m", "spinel", "serve"], env=environment, stdout=log, stderr=log)
    address, until = f"http://127.0.0.1:{port}", time.monotonic() + 300
    while True:
        try:
            urllib.request.urlopen(f"{address}/sign-in", timeout=60)
            break
        except OSError:
            assert process.poll() is None and time.monotonic() < until
            time.sleep(0.1)
    person = Person(browser, address, "ana", (1280, 800), False)
    yield person.sign_in()
    person.context.close()
    process.terminate()
    process.wait(20)
    assert person.complaints == []
    assert "Traceback" not in (tmp_path / "site.log").read_text()


def test_from_an_empty_site_to_the_first_card_and_on_until_no_assumption_matters(empty_site):
    page = empty_site
    page.goto("/network")
    who = Counted(page)
    who.follow("Build it here")
    assert faults(page) == []
    who.fill("#begin-name", "Fell Row Bakery")
    who.fill("#begin-zone", "America/Halifax")
    who.fill("#begin-voltage_v", "480")
    who.fill("[name='source.fault_mva_max']", "18")
    who.press("Begin with this supply")
    # the main's curve, and below its board a feeder with a panel
    page.locator(".palette").wait_for()
    assert faults(page) == []
    who.follow("Q-MSB-1, circuit breaker, new")
    who.fill("#p1-rated_a", "800")
    who.fill("#p1-interrupting_ka", "65")
    who.choose("#p1-curve", "trip-all")
    who.choose("#p1-origin", "plate")
    page.wait_for_load_state()
    who.press("Save Q-MSB-1")
    expect(page.locator(".draftbar")).to_contain_text("Q-MSB-1 changed")
    who.follow("MSB-1, bus, new")
    who.follow("Feeder, board")
    who.fill("#hang-breaker\\.rated_a", "400")
    who.fill("#hang-breaker\\.interrupting_ka", "35")
    who.choose("#hang-breaker\\.curve", "thermal-magnetic")
    who.press("Keep it")
    expect(page.locator(".draftbar")).to_contain_text("PNL-1 hung")
    # a draft has its figures at once
    expect(page.locator("#effect tr.here")).to_contain_text("Q-PNL-1")
    assert faults(page) == []
    nothing_reaches_out(page, "draft")
    who.follow(re.compile("differences"))
    who.fill("#publish-note", "As the drawing has it")
    who.fill("#publish-password", PASSWORD)
    assert faults(page) == []
    who.press("Publish it")
    who.follow("PNL-1, bus, unknown")
    card = page.locator("#card")
    expect(card).to_contain_text("cal/cm²")
    expect(card).to_contain_text("It rests on")
    first = who.acts
    print(f"\nacts to the first hazard card: {first}")
    assert first <= MOST_ACTS, first

    # and on, until nothing assumed could move a figure by more than a twentieth
    page.goto("/network/build")
    page.get_by_role("button", name="Begin a draft").click()
    draft = page.url
    for _ in range(4):
        page.goto(f"{draft}/assumed")
        page.locator("table.list tbody tr").first.wait_for()
        far = [int(row.get_attribute("data-row")) for row in page.locator("tr[data-far]").all()]
        if not far:
            break
        for i in far:
            who.acts += 1
            page.locator(f"tr[data-row='{i}'] input[name=sure]").check()
        who.choose("#confirm-origin", "seen")
        who.press("These are so")
    expect(page.locator("h1")).to_contain_text("none could move a figure")
    assert faults(page) == []
    print(f"acts until no assumption moves a figure by over 5 %: {who.acts}")


def test_two_at_one_draft_are_both_kept_and_the_later_one_is_asked(somebody):
    maren, tavi = somebody("maren"), somebody("tavi")
    maren.goto("/network/build")
    maren.get_by_role("button", name="Begin a draft").click()
    draft = maren.url
    for page in (maren, tavi):
        page.goto(f"{draft}?e={element_id('T1')}")
    tavi.fill("#p1-impedance_pct", "6")
    tavi.select_option("#p1-origin", "plate")
    tavi.get_by_role("button", name="Save T1").click()
    expect(tavi.locator(".draftbar")).to_contain_text("Tavi Lindgren")
    # another field of the same piece: both stand
    maren.fill("#p1-x_r", "7")
    maren.select_option("#p1-origin", "drawing")
    maren.get_by_role("button", name="Save T1").click()
    expect(maren.locator("#p1-impedance_pct")).to_have_value("6")
    expect(maren.locator("#p1-x_r")).to_have_value("7")
    # the same field: the later one is told, with both values, and chooses
    tavi.fill("#p1-x_r", "8")
    tavi.get_by_role("button", name="Save T1").click()
    expect(tavi.locator(".conflict")).to_contain_text("7")
    assert faults(tavi) == []
    tavi.get_by_label(re.compile("Take mine")).check()
    tavi.get_by_role("button", name="Save T1").click()
    expect(tavi.locator("#p1-x_r")).to_have_value("8")
    # undone by a key, and what it is like on the table
    tavi.locator("body").press("z")
    expect(tavi.locator("#p1-x_r")).to_have_value("7")
    tavi.get_by_role("link", name="As a table").click()
    tavi.goto(f"{draft}/table?kind=transformer")
    assert faults(tavi) == []
    nothing_reaches_out(tavi, "table")
    tavi.get_by_text("Paste from a spreadsheet").click()
    tavi.fill("#table-paste", "tag\tX/R\nT1\t9\nT2\t9")
    tavi.get_by_role("button", name="Save what was changed").click()
    expect(tavi.get_by_label("T2 X/R")).to_have_value("9")
    tavi.get_by_role("link", name="ND-").first.click()
    tavi.get_by_role("link", name=re.compile("differences")).click()
    expect(tavi.locator(".refusal").first).to_contain_text("Nobody has said whether")
    tavi.get_by_role("button", name="Throw it away").click()
    expect(tavi.locator("h1")).to_contain_text("published")


def test_a_broken_workbook_is_shown_cell_by_cell_and_mended_here(somebody, tmp_path):
    maren = somebody("maren")
    maren.goto("/network/revisions")
    with maren.expect_download() as got:
        maren.get_by_role("link", name="XLSX").first.click()
    whole = got.value.path()
    book = load_workbook(io.BytesIO(whole.read_bytes()))
    sheet = book["cable"]
    heads = [c.value for c in sheet[1]]
    column = heads.index("length_m [m]") + 1
    tag = sheet.cell(4, heads.index("tag") + 1).value
    was = sheet.cell(4, column).value
    sheet.cell(4, column).value = "forty"
    broken = tmp_path / "broken.xlsx"
    book.save(broken)

    maren.goto("/network/import")
    assert faults(maren) == []
    maren.set_input_files("#import-document", broken)
    maren.get_by_role("button", name="Bring it in").click()
    row = maren.locator("table.list tbody tr")
    expect(row).to_have_count(1)
    expect(row).to_contain_text("forty")
    expect(row).to_contain_text(tag)
    expect(maren.locator("h1")).to_contain_text("Nothing was kept")
    assert faults(maren) == []
    # kept as a draft all the same, and mended there
    maren.set_input_files("#import-document", broken)
    maren.get_by_label(re.compile("Even with faults")).check()
    maren.get_by_role("button", name="Bring it in").click()
    expect(maren.locator(".problems").first).to_contain_text("forty")
    maren.get_by_text("The same as a table").click()
    maren.locator("ul.tags").get_by_role("link", name=tag, exact=True).click()
    maren.fill("#p1-length_m", str(was))
    maren.select_option("#p1-origin", "drawing")
    maren.get_by_role("button", name=f"Save {tag}").click()
    maren.get_by_role("button", name="Seen to").click()
    expect(maren.locator(".problems")).to_have_count(0)
    # what differs from what is published is where the value comes from, and nothing else
    maren.get_by_role("link", name=re.compile("difference")).click()
    changes = maren.locator(".piece .changes li")
    expect(changes).to_have_count(1)
    expect(changes).to_contain_text("basis")
    # whole, it is the document that it was taken from: nothing to publish
    maren.goto("/network/import")
    maren.set_input_files(
        "#import-document",
        {"name": "whole.xlsx", "mimeType": "application/octet-stream", "buffer": io.BytesIO(whole.read_bytes()).read()},
    )
    maren.get_by_role("button", name="Bring it in").click()
    expect(maren.get_by_role("link", name="No difference")).to_be_visible()


def test_a_room_is_walked_down_while_the_network_is_away(somebody):
    ivo = somebody("ivo", (768, 1024), touch=True)
    ivo.goto("/network/walk?place=Pump%20house")
    assert faults(ivo) == []
    nothing_reaches_out(ivo, "walk-down")
    bar = ivo.locator(".walkbar b")
    expect(bar).to_have_text("Everything is sent.")
    form = {tag: ivo.locator(f"#stand-{element_id(tag)} form") for tag in ("MC2-2B", "EDP-9", "MC2-1D", "EDP-5")}
    form["MC2-2B"].get_by_label("open", exact=True).check()
    # the record shows once the eye has answered
    expect(form["MC2-2B"].locator(".recorded")).to_be_visible()
    ivo.context.set_offline(True)
    form["MC2-2B"].get_by_role("button", name="Keep it").click()
    form["EDP-9"].get_by_label("closed", exact=True).check()
    form["EDP-9"].get_by_label("no", exact=True).check()
    form["EDP-9"].get_by_role("button", name="Keep it").click()
    form["MC2-1D"].locator("summary").click()
    form["MC2-1D"].get_by_label("Interrupting rating").fill("22")
    form["MC2-1D"].get_by_role("button", name="Keep it").click()
    expect(bar).to_have_text("3 kept on this device, to be sent")
    # the page is loaded again before the network is whole: nothing is lost, and nothing is sent twice
    ivo.context.set_offline(False)
    ivo.reload()
    expect(bar).to_have_text("Everything is sent.")
    ivo.goto("/network/build")
    ivo.get_by_role("link", name="ND-").first.click()
    expect(ivo.locator(".draftbar")).to_contain_text("Plate of MC2-1D")
    ivo.goto("/records?subject=equipment:MC2-2B&act=found")
    expect(ivo.locator("table.ledger tbody tr")).to_have_count(1)
    # what was recorded meanwhile by another is not overruled; the answer stays, with its reason, wherever one walks on to
    ivo.goto("/network/walk?place=Pump%20house")
    expect(bar).to_have_text("Everything is sent.")
    ivo.context.set_offline(True)
    form["EDP-5"].get_by_label("open", exact=True).check()
    form["EDP-5"].get_by_role("button", name="Keep it").click()
    expect(bar).to_have_text("1 kept on this device, to be sent")
    maren = somebody("maren")
    maren.goto("/network/walk?place=Pump%20house")
    other = maren.locator(f"#stand-{element_id('EDP-5')} form")
    other.get_by_label("closed", exact=True).check()
    other.get_by_role("button", name="Keep it").click()
    expect(other.locator(".done")).to_contain_text("✓")
    ivo.context.set_offline(False)
    ivo.goto("/network/walk")
    refused = ivo.locator(".walk-refused li")
    expect(refused).to_have_count(1)
    expect(refused).to_contain_text("EDP-5 Not accepted: what is seen there now")
    assert faults(ivo) == []
    refused.get_by_role("button", name="I have read it").click()
    expect(refused).to_have_count(0)


def test_every_source_of_a_motor_control_center_and_what_opening_would_do(somebody):
    maren = somebody("maren")
    maren.goto(f"/network?e={element_id('MC2')}")
    maren.get_by_role("link", name="From where could it be live?").click()
    expect(maren.locator("h1")).to_contain_text("MC2 is live by")
    lanes = maren.locator("a.lane")
    named = {re.search("from ([^:]+):", lane.get_attribute("aria-label"))[1] for lane in lanes.all()}
    assert named >= {"U-1", "G-1", "PV-1", "SC-1", "BB-1"}
    assert faults(maren) == []
    nothing_reaches_out(maren, "sources")
    others = lanes.count() - 1  # before the page is left: while it changes there are none
    lanes.first.click()
    expect(maren.locator("a.lane.faint")).to_have_count(others)
    maren.get_by_role("link", name="If it were operated").click()
    maren.select_option("#trial-add", label="F-B1")
    maren.select_option("#trial-to", "open")
    maren.get_by_role("button", name="Try it").click()
    expect(maren.locator(".chain-acts li").first).to_contain_text("Without supply")
    expect(maren.locator("h1")).to_contain_text("MC2")
    assert faults(maren) == []
    # handed to Switching, the goal is filled in
    maren.locator("ul.hand a").first.click()
    expect(maren.locator("h1")).to_be_visible()
    assert "to_" in maren.url
    # another state, a layer and a fold of the one-line
    maren.goto("/network?state=normal&layer=voltage&fold=all")
    expect(maren.locator(".refusal")).to_contain_text("Not as it stands now")
    assert faults(maren) == []
    maren.goto("/network")
    maren.locator("svg.oneline a[data-id]").first.focus()
    maren.keyboard.press("ArrowDown")
    assert maren.evaluate("document.activeElement.dataset.id") != maren.locator(
        "svg.oneline a[data-id]"
    ).first.get_attribute("data-id")
    maren.fill("#find-tag", "mc1-2b")
    maren.keyboard.press("Enter")
    expect(maren.locator("#card")).to_contain_text("MC1-2B")
