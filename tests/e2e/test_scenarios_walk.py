"""By the screens alone: a transfer with its way back, relief in the middle, and SWB-B, at whose main nobody may stand,
isolated and restored. The soak's."""

import os
import re

import pytest
from playwright.sync_api import Page, expect
from test_crews_walk import drafted, started
from test_switching_walk import confirm, press, step_of, to_the_end

from spinel.demo.site import element_id

pytestmark = [
    pytest.mark.xdist_group("browser"),
    pytest.mark.skipif(not os.environ.get("SOAK"), reason="the soak's"),
]


def handed_back(sorcha: Page) -> None:
    """Nobody is on a permit any more: those in force or run out are handed back, what is only issued is suspended."""
    for number in ("EWP-0002", "EWP-0003", "EWP-0004"):
        sorcha.goto(f"/permits/{number}")
        sorcha.get_by_label("How it was left").first.fill("Tools out, covers on, nobody there")
        press(sorcha, "Hand back")
    sorcha.goto("/permits/EWP-0006")
    sorcha.get_by_text("Suspend", exact=False).first.click()
    sorcha.get_by_label("Why").first.fill("Switching begins")
    sorcha.locator('form[action$="/suspend"] button').click()
    sorcha.locator('form[action$="/clear"]').get_by_role("textbox").first.fill("Nobody had begun there")
    sorcha.locator('form[action$="/clear"] button').click()


def test_a_transfer_by_the_screens_with_its_way_back(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    handed_back(sorcha)
    maren.goto(f"/jobs/new?element={element_id('T1')}")
    maren.get_by_label("What is to be done").fill("Look at the terminals of T1")
    maren.locator('[name=task][value="inspect"]').check()
    press(maren, "Start the job")
    maren.get_by_text("Switch to another state").click()
    maren.get_by_text("T1 out, tie closed").click()
    press(maren, "Draft the switching")
    number = re.search(r"SP-\d+", maren.url).group()
    expect(maren.get_by_role("heading", level=1)).to_contain_text("Every rule holds over 6 steps")
    started(number, ivo, tavi, ivo, "Bram Castel")
    confirm(ivo)

    # Bram's shift ends: Eero takes over, both sign
    bram, eero = somebody("bram"), somebody("eero")
    bram.goto(f"/switching/{number}")
    bram.get_by_text("Hand over to somebody else").click()
    bram.locator("#relief-to").select_option(label="Eero Vance")
    press(bram, "I hand over, and sign")
    eero.goto(f"/switching/{number}")
    press(eero, "I take over, and sign")
    ivo.goto(f"/switching/{number}/console")
    expect(ivo.locator("main")).to_contain_text("Eero Vance")
    to_the_end(ivo)
    maren.goto(f"/switching/{number}")
    press(maren, "Draft the way back")
    back = re.search(r"SP-\d+", maren.url).group()
    started(back, ivo, tavi, ivo, "Eero Vance")
    to_the_end(ivo)
    maren.goto(f"/switching/{back}")
    expect(maren.locator("main")).to_contain_text("52-TIE open")


def test_swb_b_by_the_screens(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    number = drafted(maren, "SWB-B", "Retorque the bus of SWB-B")
    started(number, ivo, tavi, ivo, "Bram Castel")
    while ivo.locator('#console[data-state="executing"]').count():
        confirm(ivo, f"B{step_of(ivo)}")
    expect(ivo.locator(".c-big")).to_have_text("DONE")
    sorcha.goto(f"/switching/{number}")
    press(sorcha, "I take it over")
    press(sorcha, "Declare the work complete")
    sorcha.goto("/switching")
    back = sorcha.locator("tr", has_text=number).locator("a.tag").first.inner_text()
    started(back, ivo, tavi, ivo, "Bram Castel")
    to_the_end(ivo)
