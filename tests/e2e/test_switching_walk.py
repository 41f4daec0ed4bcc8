"""Switching in a browser: the whole walk with everybody who has to sign in, and a practice run in which the proof fails."""

import re

from playwright.sync_api import Page, expect

from spinel.demo.site import element_id

CAUTION = re.compile("Local codes, the site's electrical safety program .* If anything is not as written: stop", re.S)
TABLET, UPRIGHT = (1024, 768), (768, 1024)


def press(page: Page, name: str) -> None:
    page.get_by_role("button", name=name, exact=True).click()


def phases(page: Page) -> None:
    """Read out, repeated back: the two presses before the one that records, by the key that stands on the button."""
    for says in ("I have read it out", "It was repeated back, word for word"):
        expect(page.locator("#primary")).to_contain_text(says)
        page.keyboard.press("Enter")


def step_of(page: Page) -> int:
    return int(page.locator("#console").get_attribute("data-step"))


def fill_in(page: Page, lock: str = "R") -> None:
    """Whatever the step asks for, as it is when everything is right."""
    action = page.locator(".w-act").inner_text()
    if action.startswith("ASK"):
        page.locator("#said_by").fill("R. Aune, control room")
        for field in page.locator("#lock").all():
            field.fill(f"{lock}-{step_of(page)}")
    else:
        _fill_in(page, action, lock)


def _fill_in(page: Page, action: str, lock: str) -> None:
    if "DETECTOR" in action:
        page.locator("#instrument").select_option("D-3")
        page.get_by_label("indicates", exact=True).check()
    elif "PROVE" in action:
        page.locator("#instrument").select_option("M-12")
        page.locator("#source_v").fill("120")
        page.locator("#reading_v").fill("119.8")
    elif "TEST" in action:
        for field in page.locator(".readings input.num").all():
            field.fill("0.2")
        for choice in page.locator('.readings input[value="does_not"]').all():
            choice.check()
    elif action.startswith("LOCK AND TAG"):
        page.locator("#lock").fill(f"{lock}-{step_of(page)}")
    elif "TELL" in action:
        for field in page.locator(".readings input").all():
            field.fill("Answered at once")
    elif "CHECK PHASING" in action:
        page.get_by_label("as they were", exact=True).check()
        page.locator("#phased_how").fill("Marks at both ends")
    elif "HAND OVER" in action:
        page.locator("#in_charge").select_option(label="Sorcha Maddern")


def confirm(page: Page, lock: str = "R") -> None:
    """One step by keyboard or touch, readings typed; until the console shows the next. ``lock``: how the numbers of its
    locks begin."""
    before, version = step_of(page), page.locator("#console").get_attribute("data-version")
    phases(page)
    fill_in(page, lock)
    page.locator("#primary").click()
    expect(page.locator(f'#console[data-version="{version}"]')).to_have_count(0)
    assert step_of(page) == before + 1 or page.locator('#console[data-state="done"]').count()


def sign_and_start(number: str, ivo: Page, checks: Page | None, releases: Page) -> None:
    """Checked (by nobody where it is already), released, started."""
    if checks is not None:
        checks.goto(f"/switching/{number}")
        press(checks, "Checked: every step is right")
    releases.goto(f"/switching/{number}")
    press(releases, "Release it to be executed once")
    ivo.goto(f"/switching/{number}")
    ivo.locator("#start-who").select_option(label="Bram Castel")
    press(ivo, "Start: open the console")
    expect(ivo.locator("#console")).to_have_attribute("data-state", "executing")


def to_the_end(page: Page) -> None:
    while page.locator('#console[data-state="executing"]').count():
        confirm(page)
    expect(page.locator(".c-big")).to_have_text("DONE")


def test_isolated_worked_on_and_restored(somebody):
    maren, ivo, tavi = somebody("maren"), somebody("ivo", TABLET, touch=True), somebody("tavi")
    maren.goto(f"/jobs/new?element={element_id('P-31')}")
    maren.get_by_label("What is to be done").fill("Replace the gland of P-31")
    maren.get_by_label("Replace a breaker or module beside a live bus").check()
    press(maren, "Start the job")
    job = re.search(r"J-\d+", maren.url).group()
    press(maren, "Draft the isolation")
    number = re.search(r"SP-\d+", maren.url).group()
    expect(maren.get_by_role("heading", level=1)).to_contain_text("Every rule holds over 13 steps")
    expect(maren.locator("main")).to_contain_text(CAUTION)
    expect(maren.locator(".p-notes")).to_contain_text("U-1")

    # the state after a step, as a preview; an unsafe change is refused and says by which rule
    maren.get_by_label("Step 5: show the state after it").click()
    expect(maren.locator("#after")).to_contain_text("Preview, not the state now, after step 5")
    expect(maren.locator("#after a.sel")).to_have_attribute("aria-label", re.compile("MC2-1D.*open, locked"))
    maren.goto(f"/switching/{number}?step=5")
    press(maren, "Take step 5 out")
    expect(maren.locator(".refusal").first).to_contain_text("still reaches the target")
    expect(maren.locator(".refusal").first).to_contain_text("Rule: isolated")
    expect(maren.locator("table.prog tbody tr")).to_have_count(13)

    # somebody is still on the permit of that very breaker, which ran out: nothing is switched before it is handed back
    ivo.goto(f"/switching/{number}")
    press(ivo, "Checked: every step is right")
    tavi.goto(f"/switching/{number}")
    press(tavi, "Release it to be executed once")
    expect(tavi.locator(".refusal").first).to_contain_text("nothing is switched where people are on a permit")
    sorcha = somebody("sorcha", UPRIGHT, touch=True)
    sorcha.goto("/permits/EWP-0002")
    sorcha.get_by_label("How it was left").first.fill("Bucket in, door closed, Nils out")
    sorcha.get_by_label("Tools and loose parts that came out").first.fill("9")
    sorcha.get_by_role("button", name="Hand back").first.tap()
    expect(sorcha.locator(".said")).to_contain_text("Handed back")
    sign_and_start(number, ivo, None, tavi)
    expect(ivo.locator("main")).to_contain_text(CAUTION)
    confirm(ivo)
    confirm(ivo)

    # a connection that is gone for a minute, and a reload in the middle: kept, sent again, recorded once
    ivo.clock.install()
    ivo.route("**/confirm", lambda route: route.abort())
    phases(ivo)
    expect(ivo.locator("#primary")).to_contain_text("MC2-1D was opened")
    ivo.keyboard.press("Enter")
    expect(ivo.locator("#pending")).to_contain_text("Step 3 is not saved")
    for _ in range(20):
        ivo.clock.run_for(3000)
    expect(ivo.locator("#primary")).to_be_disabled()
    ivo.reload()
    expect(ivo.locator("#pending")).to_contain_text("Step 3 is not saved")
    assert step_of(ivo) == 3
    ivo.unroute("**/confirm")
    ivo.clock.run_for(3500)
    expect(ivo.locator("#console")).to_have_attribute("data-step", "4")
    ivo.clock.resume()
    expect(ivo.locator("#pending")).to_be_hidden()

    # anyone stops it; the console shows it; it goes on at the same step
    jory = somebody("jory")
    jory.goto(f"/switching/{number}")
    jory.get_by_text("Stop it", exact=True).click()
    jory.get_by_label("Why").first.fill("Somebody stands in the doorway")
    press(jory, "STOP")
    ivo.evaluate("document.body.dispatchEvent(new Event('wake'))")
    expect(ivo.locator(".c-big")).to_have_text("STOPPED")
    expect(ivo.locator(".c-why")).to_contain_text("Somebody stands in the doorway")
    ivo.locator("#cause").fill("Sent away, barricade set")
    press(ivo, "Resume at step 4")
    while step_of(ivo) < 7:
        confirm(ivo)

    # not as written: it ends, and a successor goes on from the state as it is
    ivo.locator(".c-dev summary").click()
    ivo.locator("#dev-note").fill("The start button is covered by a crate")
    press(ivo, "End this program")
    successor = re.search(r"SP-\d+", ivo.url).group()
    assert successor != number
    expect(ivo.locator("table.prog tbody tr")).to_have_count(8)
    ivo.goto(f"/switching/{number}")
    expect(ivo.get_by_role("heading", level=1)).to_contain_text("Abandoned after step 6 of 13")
    # who wrote it may not check it: the director who ended the first is its writer
    expect(ivo.locator("main")).to_contain_text("Abandoned")
    sign_and_start(successor, ivo, tavi, maren)
    to_the_end(ivo)

    # the box: taken over, a lock of one's own, everybody sees it; complete only when it is off
    wanda = somebody("wanda", UPRIGHT, touch=True)
    sorcha.goto(f"/switching/{successor}")
    sorcha.get_by_role("button", name="I take it over").tap()
    expect(sorcha.locator(".said")).to_contain_text("You have taken over")
    wanda.goto(f"/switching/{successor}")
    wanda.get_by_label("Number on your lock").fill("W-11")
    wanda.get_by_role("button", name="Hang my lock").tap()
    expect(wanda.locator(".boxlist")).to_contain_text("W-11")
    edda = somebody("edda")
    expect(edda.locator("#wall")).to_contain_text("Wanda Keogh, W-11")
    expect(edda.locator("#strip")).to_contain_text("locks on")
    edda.goto(f"/network?e={element_id('P-31')}")
    expect(edda.locator("#card")).to_contain_text("PROVED DEAD")
    sorcha.reload()
    press(sorcha, "Declare the work complete")
    expect(sorcha.locator(".refusal").first).to_contain_text("Still on the box: Wanda Keogh")
    wanda.get_by_role("button", name="Take my lock off").tap()
    expect(wanda.locator(".said")).to_contain_text("Your lock is off")
    press(sorcha, "Declare the work complete")
    expect(sorcha.locator(".boxlist")).to_contain_text("Work declared complete by Sorcha Maddern")

    # restoration, then the job may close
    restoration = sorcha.locator('a[id^="linked-SP"]').last.inner_text()
    maren.goto(f"/switching/{restoration}")
    expect(maren.locator("table.prog")).to_contain_text("First energizing: a task of its own")
    maren.goto(f"/jobs/{job}")
    maren.get_by_text("Close this job").click()
    maren.locator("input[name=circuit_changed][value=no]").check()
    press(maren, "Close the job")
    expect(maren.locator(".refusal")).to_contain_text(f"{restoration} is draft")
    sign_and_start(restoration, ivo, tavi, maren)
    to_the_end(ivo)
    edda.goto(f"/network?e={element_id('P-31')}")
    expect(edda.locator("#card")).to_contain_text("LIVE")
    maren.goto(f"/jobs/{job}")
    maren.get_by_text("Close this job").click()
    maren.locator("input[name=circuit_changed][value=no]").check()
    press(maren, "Close the job")
    expect(maren.locator("#decision")).to_contain_text("This job is closed")

    # paper: columns to sign, count and head of the ledger, the code, the caution
    maren.goto(f"/switching/{successor}/paper")
    expect(maren.locator(".papersteps tbody tr")).to_have_count(16)
    expect(maren.locator(".paperfoot")).to_contain_text(
        re.compile(r"Ledger when printed: \d+ entries, head\s+[0-9a-f]{64}")
    )
    expect(maren.locator(".code")).to_contain_text(f"/switching/{successor}")
    for size in ("letter",):
        with maren.expect_response(lambda r: ".pdf" in r.url) as pdf:
            maren.evaluate(f"fetch('/switching/{successor}.pdf?size={size}')")
        assert pdf.value.status == 200 and pdf.value.headers["content-type"] == "application/pdf"


def test_a_practice_run_in_which_the_proof_fails(somebody):
    """The demo's practice of T1 has a blade of 52-A that stays closed: the simulated detector shows it."""
    ivo = somebody("ivo", UPRIGHT, touch=True)
    ivo.goto("/switching/PR-0009")
    expect(ivo.locator(".practiceband")).to_contain_text("PRACTICE")
    ivo.get_by_role("link", name="Open the console").tap()
    while "TEST each" not in ivo.locator(".w-act").inner_text():
        expect(ivo.locator(".practicemark")).to_have_text("PRACTICE, nothing is real")
        confirm(ivo)
    phases(ivo)
    shown = ivo.locator(".meter output").all_inner_texts()
    assert shown == ["indicates", "does not indicate", "does not indicate"]
    for field, said in zip(ivo.locator(".readings fieldset").all(), shown, strict=True):
        field.get_by_label(said, exact=True).check()
    ivo.locator("#primary").tap()
    expect(ivo.locator(".c-big")).to_have_text("STOPPED")
    expect(ivo.locator(".c-why")).to_contain_text("Voltage is present at T1: L1 indicates")
    # the word itself is whole on a phone
    ivo.set_viewport_size({"width": 390, "height": 844})
    assert ivo.evaluate("document.documentElement.scrollWidth") <= 391
    edda = somebody("edda")
    edda.goto(f"/network?e={element_id('T1')}")
    expect(edda.locator("#card")).to_contain_text("LIVE")
    expect(edda.locator("#strip")).not_to_contain_text("PR-")
