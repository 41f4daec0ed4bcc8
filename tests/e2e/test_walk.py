"""The whole walk in a browser: from a hazard on the one-line to a closed permit, by the screens alone."""

import re
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from playwright.sync_api import Page, expect

from spinel.demo.people import PASSWORD
from spinel.demo.site import element_id

CAUTION = re.compile("Local codes, the site's electrical safety program .* A qualified person must verify", re.S)
TABLET, UPRIGHT = (1024, 768), (768, 1024)
#: Figures of the permit's cells that no link covers, and the sections of the working that the others lead to.
UNLINKED = """() => { const cells = [...document.querySelectorAll('.c5 dd, .c6 dd, .c6 p, .c7 p:first-of-type')];
  return [cells.filter(d => { const c = d.cloneNode(true); c.querySelectorAll('a').forEach(a => a.remove());
    return /[0-9]/.test(c.textContent); }).map(d => d.textContent),
    cells.flatMap(d => [...d.querySelectorAll('a')].map(a => a.hash))]; }"""


def site_time(**by: float) -> str:
    moment = datetime.now(ZoneInfo("America/Los_Angeles")) + timedelta(**by)
    return moment.strftime("%Y-%m-%dT%H:%M")


def press(page: Page, name: str) -> None:
    page.get_by_role("button", name=name, exact=True).click()


def made(page, path):
    """A paper that is made beside the server: a page that looks again by itself comes first where the machine is busy."""
    for _ in range(40):
        with page.expect_response(lambda r: ".pdf" in r.url) as answer:
            page.evaluate(f"fetch('{path}')")
        if answer.value.status != 202:
            break
        path = answer.value.headers["refresh"].partition("url=")[2]
        page.wait_for_timeout(500)
    return answer.value.status, answer.value.headers["content-type"]


def ready(page):
    """Every question about the place, answered yes by the thumb."""
    for answer in page.locator('.ready input[value="yes"]').all():
        answer.locator("..").tap()
    page.get_by_label("Tools and loose parts that go in").fill("6")


def test_from_a_hazard_on_the_one_line_to_a_closed_permit(somebody):
    nobody = somebody(None)
    nobody.goto("/network")
    expect(nobody).to_have_url(re.compile("/sign-in"))
    expect(nobody.get_by_text("Sorcha Maddern")).to_be_visible()
    expect(nobody.get_by_text(PASSWORD)).to_be_visible()

    # network: select on the drawing, read the card, follow the working, step back
    maren = somebody("maren")
    maren.goto("/network")
    expect(maren.get_by_role("heading", level=1)).to_contain_text("are live")
    maren.locator(f'a.el[data-id="{element_id("MC1-4A")}"]').click()
    card = maren.locator("#card")
    expect(card.get_by_role("heading", level=2)).to_contain_text("cal/cm² at 455 mm. Work dead, or permit.")
    expect(card).to_contain_text(CAUTION)
    expect(card).to_contain_text("Class 00")
    card.get_by_text("How the energy was computed").click()
    expect(card.get_by_text("Intermediate arcing current at 600 V").first).to_be_visible()
    near = card.locator(".say").inner_text()
    card.get_by_label("Working distance, mm (305 to 5000)").fill("610")
    card.get_by_label("Working distance, mm (305 to 5000)").press("Enter")
    expect(card.locator(".say")).to_contain_text("at 610 mm")
    assert card.locator(".say").inner_text() != near
    maren.locator("#distance_mm").fill("20")
    maren.locator("#distance_mm").press("Enter")
    expect(maren.locator("#distance-problem")).to_contain_text("from 305 up to 5000 mm")

    # job: production is refused, an added hazard is not
    maren.get_by_role("link", name="Start a job here").click()
    maren.get_by_label("What is to be done").fill("Tighten the line lugs of H-1")
    maren.get_by_label("Tighten or remake a bolted terminal").check()
    press(maren, "Start the job")
    expect(maren.locator("#decision")).to_contain_text("Work dead.")
    maren.get_by_label("Why would it have to be live?").select_option("production")
    maren.get_by_label("Anything to add").fill("The 16:40 sailing would be late by an hour")
    press(maren, "Decide")
    expect(maren.locator("#decision")).to_contain_text("Refused: a stop of production")
    expect(maren.locator("main")).to_contain_text(CAUTION)
    maren.get_by_label("Why would it have to be live?").select_option("added_hazard")
    press(maren, "Decide")
    expect(maren.locator("#decision")).to_contain_text("7 questions are not answered")
    maren.get_by_label("What happens when it is switched off?").select_option("output")
    maren.get_by_label("Name that hazard, at this place").fill("The ramp sinks on the deck")
    maren.get_by_label("Who would be hurt?").fill("Passengers aboard")
    maren.locator("#added_hazard-confirmed_by").fill("Piet Osei")
    for name in ("no_other_supply", "no_other_time", "no_temporary_supply"):
        maren.locator(f'input[name="fact_{name}"][value="yes"]').first.locator("..").click()
    press(maren, "Decide")
    expect(maren.locator("#decision")).to_contain_text("no hazard to anybody")
    maren.get_by_label("What happens when it is switched off?").select_option("fall")
    press(maren, "Decide")
    expect(maren.locator("#decision")).to_contain_text("Live, by permit")

    # permit: prefilled; distance varied with a reason; energy and PPE follow at once
    press(maren, "Prepare the energized work permit")
    number = re.search(r"EWP-\d+", maren.url).group()
    expect(maren.locator("#steps")).to_have_value(re.compile("Cover adjacent live parts"))
    maren.get_by_label("Wanda Keogh").first.check()
    maren.locator("#in_charge").select_option(label="Sorcha Maddern")
    maren.locator('input[name="attendants"]').locator("..").filter(has_text="Jory Pell").click()
    maren.locator("#window_start").fill(site_time(minutes=-5))
    maren.locator("#window_end").fill(site_time(hours=3))
    maren.locator("#working_distance_mm").fill("610")
    expect(maren.locator("#at-distance")).to_contain_text("at 610 mm")
    press(maren, "Save")
    expect(maren.locator("#wrong-edit-distance_reason")).to_contain_text("not the standard 455 mm")
    expect(maren.locator("#working_distance_mm")).to_have_value("610")
    maren.locator("#distance_reason").fill("The lugs sit behind a deep trough")
    press(maren, "Save")
    expect(maren.locator(".permit")).to_contain_text("At 610 mm")
    expect(maren.locator(".permit")).to_contain_text(CAUTION)
    press(maren, "Submit for approval")

    # changed content voids what was signed
    ruth = somebody("ruth")
    ruth.goto(f"/permits/{number}")
    ruth.get_by_label("Your password again").fill("not my password")
    press(ruth, "Approve and sign")
    expect(ruth.locator(".refusal")).to_contain_text("Nothing was signed")
    ruth.get_by_label("Your password again").fill(PASSWORD)
    press(ruth, "Approve and sign")
    maren.goto(f"/permits/{number}/edit")
    expect(maren.get_by_role("heading", level=1)).to_have_text("Saving will void its signatures.")
    maren.locator("#special").fill("Tide at 18:00")
    press(maren, "Save")
    expect(maren.locator(".said")).to_contain_text("its signatures are void")
    press(maren, "Submit for approval")
    ruth.goto(f"/permits/{number}")
    ruth.get_by_label("Your password again").fill(PASSWORD)
    press(ruth, "Approve and sign")

    tavi = somebody("tavi")
    tavi.goto(f"/permits/{number}")
    tavi.locator("#issue-end").fill(site_time(hours=2))
    tavi.get_by_label("Your password again").fill(PASSWORD)
    press(tavi, "Issue the permit")
    expect(tavi.locator(".said")).to_contain_text("Issued.")

    # briefing, statements and acceptance by touch, upright and lying
    sorcha = somebody("sorcha", TABLET, touch=True)
    sorcha.goto(f"/permits/{number}")
    for box in sorcha.locator('input[name="covered"]').all():
        box.locator("..").tap()
    sorcha.get_by_label("What is special this time").last.fill("The trough hides one lug")
    sorcha.get_by_role("button", name="Record the briefing").tap()
    expect(sorcha.locator(".said")).to_contain_text("Briefing recorded")
    wanda = somebody("wanda", UPRIGHT, touch=True)
    wanda.goto(f"/permits/{number}")
    for box in wanda.locator('input[name="statements"]').all():
        box.locator("..").tap()
    wanda.get_by_role("button", name="I sign these three").tap()
    expect(wanda.locator(".said")).to_contain_text("three statements are recorded")
    jory = somebody("jory", UPRIGHT, touch=True)
    jory.goto(f"/permits/{number}")
    jory.get_by_role("button", name="I sign: I was briefed").tap()
    expect(jory.locator(".said")).to_contain_text("signed that you were briefed")
    piet = somebody("piet")
    piet.goto(f"/permits/{number}")
    press(piet, "Sign: workers are qualified and briefed")
    sorcha.goto(f"/permits/{number}")
    ready(sorcha)
    sorcha.get_by_role("button", name="Accept: the work may start").tap()
    expect(sorcha.get_by_role("heading", level=1)).to_contain_text("Yes: in force")

    # board and strip agree; somebody stops it, it resumes only with acceptance anew
    edda = somebody("edda")
    expect(edda.locator("#strip")).to_contain_text(number)
    expect(edda.locator(".dues:not(.switchdues)")).to_contain_text(number)
    edda.goto(f"/permits/{number}")
    edda.get_by_text("Stop: suspend the work").click()
    edda.get_by_label("Why").first.fill("Water is coming in")
    press(edda, "Suspend")
    expect(edda.get_by_role("heading", level=1)).to_contain_text("No: suspended. Water is coming in")
    maren.goto(f"/permits/{number}")
    maren.get_by_label("What was found, and why it may go on").fill("A hose, now closed; floor dried")
    press(maren, "Record the cause; acceptance anew")
    sorcha.goto(f"/permits/{number}")
    ready(sorcha)
    sorcha.get_by_role("button", name="Accept: the work may start").tap()
    sorcha.get_by_label("How it was left").first.fill("Covers on, tools out, nobody inside")
    # one is missing: nothing is handed back before it is said where it is, and what was typed stays
    sorcha.get_by_label("Tools and loose parts that came out").first.fill("5")
    sorcha.get_by_role("button", name="Hand back").first.tap()
    expect(sorcha.locator(".wrong").first).to_contain_text("6 went in, 5 came out")
    sorcha.get_by_label("Where the difference is").first.fill("One lug was built in")
    sorcha.get_by_role("button", name="Hand back").first.tap()
    expect(sorcha.locator(".said")).to_contain_text("Handed back")
    maren.goto(f"/permits/{number}")
    maren.locator("input[name=circuit_changed][value=no]").check()
    maren.get_by_label("What was learnt").fill("The trough cover needs a second person")
    press(maren, "Close the permit")
    expect(maren.get_by_role("heading", level=1)).to_contain_text("it is closed")

    # every number on the permit leads to its inputs
    loose, targets = maren.evaluate(UNLINKED)
    assert loose == [] and {"#energy", "#boundary", "#shock", "#ppe", "#barricade"} <= set(targets)
    maren.locator(".c6 dd a").first.click()
    for target in filter(None, targets):
        expect(maren.locator(target)).to_have_count(1)
    expect(maren.locator("#energy")).to_contain_text("Correction factor")
    expect(maren.locator("#energy")).to_contain_text("At 610 mm, not at the enclosure's standard 455 mm")
    maren.locator("#energy a.tag", has_text="U-1").first.click()
    expect(maren.locator("#card")).to_contain_text("Utility intake")

    # paper with the code that opens the live record
    assert made(maren, f"/permits/{number}.pdf?size=a4") == (200, "application/pdf")
    maren.goto(f"/permits/{number}/paper")
    expect(maren.locator(".code svg")).to_be_visible()
    expect(maren.locator(".code")).to_contain_text(f"/permits/{number}")
    expect(maren.locator(".leaf")).to_contain_text(CAUTION)

    # records: filter, verify
    maren.goto("/records")
    maren.get_by_label("Subject begins with").fill(f"permit:{number}")
    press(maren, "Verify the record")
    expect(maren.get_by_role("heading", level=1)).to_contain_text("every row is as it was recorded")
    expect(maren.locator("table.ledger tbody tr")).to_have_count(18)


def test_an_open_page_never_claims_what_no_longer_holds(somebody):
    """Another stops the work: the answer on an open tablet follows. The connection drops: the page says so."""
    sorcha, board, nils = somebody("sorcha", TABLET, touch=True), somebody("maren"), somebody("nils")
    sorcha.goto("/permits/EWP-0004")
    expect(sorcha.locator("#answer")).to_contain_text("Yes: in force")
    board.goto("/")
    board.locator("#due-EWP-0004").focus()
    nils.goto("/permits/EWP-0004")
    nils.get_by_text("Stop: suspend the work").click()
    nils.get_by_label("Why").first.fill("Smell of burning from the cover")
    press(nils, "Suspend")
    for page in (sorcha, board):
        page.evaluate("document.body.dispatchEvent(new Event('wake'))")  # as every 30 s, and when a tablet wakes
    expect(sorcha.locator("#answer")).to_contain_text("No: suspended. Smell of burning")
    expect(sorcha.locator("#stands")).to_have_text("Suspended")
    expect(sorcha.locator("#strip .news")).to_contain_text("permit suspended, EWP-0004, Nils Abara")
    expect(board.locator("#due")).to_contain_text("suspended: Smell of burning")
    expect(board.locator("#due-EWP-0004")).to_be_focused()
    expect(board.locator("#strip .news")).to_have_count(0)

    sorcha.context.set_offline(True)
    expect(sorcha.get_by_role("alert")).to_contain_text("No answer from Spinel since")
    sorcha.context.set_offline(False)
    expect(sorcha.get_by_role("alert")).to_be_hidden()
    sorcha.get_by_role("link", name="Draw it anew").tap()
    expect(sorcha.locator("summary", has_text="Hand back")).to_be_visible()
    expect(sorcha.locator(".news:visible")).to_have_count(0)


def test_reporting_a_find_suspends_and_the_drawing_follows(somebody):
    nils = somebody("nils")
    nils.goto(f"/network?e={element_id('F-B2')}")
    nils.get_by_text("Report what you found here").click()
    nils.get_by_label("It is").select_option("open")
    nils.get_by_label("What did you see?").fill("x")
    press(nils, "Record what I found")
    expect(nils.locator("#wrong-found-note")).to_contain_text("4 to 500 characters")
    nils.get_by_label("What did you see?").fill("The charger feeder stands open")
    press(nils, "Record what I found")
    expect(nils.locator(".said")).to_contain_text("Recorded what you found")
    expect(nils.locator(f'a.el[data-id="{element_id("F-B2")}"]')).to_have_attribute("aria-label", re.compile("unknown"))
    nils.goto("/")
    expect(nils.locator(".wall")).to_contain_text("F-B2")


def test_keys_search_and_zoom(somebody):
    page = somebody("edda")
    page.keyboard.press("/")
    expect(page.locator("#jump")).to_be_focused()
    page.keyboard.type("MC1-2")
    page.locator("#hits a").first.wait_for()
    page.locator("#hits a").first.click()
    expect(page.locator("#card")).to_contain_text("MC1-2B")
    sheet = page.locator("svg.oneline")
    before = sheet.get_attribute("viewBox")
    page.get_by_role("button", name="Zoom out").click()
    assert sheet.get_attribute("viewBox") != before
    page.get_by_role("button", name="Fit").click()
    page.locator("h1").click()
    page.keyboard.press("?")
    expect(page.locator("#keys")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("9")
    expect(page).to_have_url(re.compile("/records"))
    page.goto(f"/network/tag/{'T2'}")
    link = page.locator(f'a.el[data-id="{element_id("SWB-B")}"]')
    link.focus()
    page.keyboard.press("Enter")
    expect(page.locator("#card")).to_contain_text("SWB-B")


def test_typed_text_survives_a_reload(somebody):
    page = somebody("maren")
    page.goto(f"/jobs/new?element={element_id('MC1')}")
    page.get_by_label("What is to be done").fill("Half written")
    page.reload()
    expect(page.get_by_label("What is to be done")).to_have_value("Half written")


def test_each_card_starts_a_job_on_its_own_equipment(somebody):
    """Three cards in one browser session, a form abandoned between them, and one that was saved: nothing is left over."""
    page = somebody("maren")

    def start_from(tag: str) -> None:
        page.goto(f"/network?e={element_id(tag)}")
        page.locator("#card").get_by_role("link", name="Start a job here").click()
        expect(page.locator("#element")).to_have_value(element_id(tag))

    start_from("F-B2")
    page.get_by_label("What is to be done").fill("Swap the charger feeder")
    page.get_by_label("Replace a breaker or module").check()
    # abandoned: another card's button opens empty, on its own equipment
    page.on("dialog", lambda d: d.accept())
    start_from("52-B")
    expect(page.get_by_label("What is to be done")).to_have_value("")
    expect(page.locator('input[name="task"]:checked')).to_have_count(0)
    page.get_by_label("What is to be done").fill("Rack out main B")
    page.get_by_label("Insert or remove a starter bucket").check()
    press(page, "Start the job")
    expect(page.locator("main")).to_contain_text("Rack out main B")
    expect(page.locator(".folder .plate").first).to_contain_text("52-B")
    # 53.2 cal/cm²: racking reaches its line side, which the transformer's relay clears
    expect(page.locator("#decision")).to_contain_text("above the site's ceiling")
    start_from("52-B")
    expect(page.get_by_label("What is to be done")).to_have_value("")
    # the abandoned one is kept for whoever comes back for it, on its own equipment even when another was chosen there
    start_from("F-B2")
    expect(page.get_by_label("What is to be done")).to_have_value("Swap the charger feeder")
    page.locator("#element").select_option(element_id("MC1"))
    page.get_by_role("button", name="This equipment").click()
    page.get_by_label("What is to be done").fill("Elsewhere")
    start_from("F-B2")
    start_from("MC2")
    expect(page.get_by_label("What is to be done")).to_have_value("")
    # gone at sign-out
    press(page, "Sign out")
    assert page.evaluate("Object.keys(sessionStorage).filter(k => k.startsWith('keep:')).length") == 0
