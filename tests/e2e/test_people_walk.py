"""Somebody comes, signs, changes at a tablet, loses a password, and leaves with a lock hanging: by the screens alone."""

import re

from playwright.sync_api import expect
from test_screens import faults, nothing_reaches_out

from spinel.demo.people import CODE

OWN = "rope over the tide quay"


def press(page, name):
    page.get_by_role("button", name=name, exact=True).click()


def test_from_the_invitation_to_the_lock_of_somebody_who_left(somebody):
    maren = somebody("maren")

    # somebody new, of a contractor, is entered without a password and invited
    maren.goto("/people/register")
    assert faults(maren) == []
    maren.get_by_label("Name", exact=True).fill("Lena Vik")
    maren.get_by_label("Sign-in name").fill("lena")
    maren.get_by_label("Whose people").select_option("contractor")
    maren.get_by_label("Company, of a contractor or visitor").fill("Tidewick Switch Works")
    maren.get_by_label("Worker", exact=True).check()
    press(maren, "Add somebody")
    expect(maren.get_by_role("heading", level=1)).to_contain_text("holds no qualification in date")
    maren.get_by_text("Invite with a link").click()
    press(maren, "Make a link")
    link = maren.locator(".tag.link").inner_text().strip()

    # first sign-in: two passwords that differ, then one of her own
    lena = somebody(None)
    lena.goto(link)
    expect(lena.get_by_role("heading", level=1)).to_contain_text("Lena Vik, set your password")
    assert faults(lena) == []
    lena.fill("#password", OWN)
    lena.fill("#again", "rope over the tide")
    press(lena, "Set it and sign in")
    expect(lena.get_by_role("alert")).to_contain_text("the same password twice")
    lena.fill("#password", OWN)
    lena.fill("#again", OWN)
    press(lena, "Set it and sign in")
    expect(lena.locator(".titleblock")).to_contain_text("Lena Vik")
    lena.goto("/account")
    assert faults(lena) == []
    lena.fill("#code-password", OWN)
    lena.fill("#code-new", "482917")
    press(lena, "Set the short code")
    expect(lena.locator(".said")).to_contain_text("Your short code is set")

    # taught, observed, hazards told: then she may
    maren.goto("/people/lena/card")
    for how in ("trained", "observed"):
        maren.get_by_label("What", exact=True).select_option("task:retorque")
        maren.get_by_label("motor control center", exact=True).check()
        maren.get_by_label("How it was shown").select_option(how)
        maren.get_by_label("Taught or seen by").fill("Sorcha Maddern")
        press(maren, "Record it")
        expect(maren.locator(".said")).to_contain_text("Recorded")
    expect(maren.locator(".road li").first).to_contain_text("Observed doing it")
    assert faults(maren) == []
    nothing_reaches_out(maren, "person")
    maren.goto("/people?task=retorque&on=MC1-4A")
    expect(maren.locator(".lane.maynot", has_text="Lena Vik")).to_contain_text("no hazards exchanged")
    maren.goto("/exchanges")
    maren.get_by_label("With", exact=True).select_option("lena")
    maren.get_by_label("What they come for").fill("Remake the line lugs of H-1")
    maren.get_by_label("What can hurt them here, where, and what keeps it away").fill(
        "The bus behind the bucket stays live."
    )
    day = maren.locator("#offer-from").input_value()
    maren.fill("#offer-until", day)
    press(maren, "Sign it, and send it to them")
    number = maren.url.rpartition("/")[2]
    assert faults(maren) == []

    # at a shared tablet, after somebody else: her half, and what a code does not sign
    gate = somebody("tavi", size=(768, 1024), touch=True)
    gate.goto("/people/tablets")
    gate.fill("#tablet-name", "Tablet 3, gate")
    press(gate, "Make it one")
    expect(gate.get_by_role("heading", level=1)).to_have_text("Who has the tablet now?")
    assert faults(gate) == []
    nothing_reaches_out(gate, "tablet")
    gate.get_by_role("link", name=re.compile("Wanda Keogh")).click()
    for digit in CODE:
        press(gate, digit)
    press(gate, "Wanda Keogh takes the tablet")
    expect(gate.locator(".hasit")).to_contain_text("Wanda Keogh")
    press(gate, "Somebody else now")
    expect(gate.locator(".said").first).to_contain_text("Wanda Keogh has left this tablet")
    gate.get_by_role("link", name=re.compile("Lena Vik")).click()
    gate.fill("#code", "111111")
    press(gate, "Lena Vik takes the tablet")
    expect(gate.get_by_role("alert").first).to_contain_text("not the short code")
    for digit in "482917":
        press(gate, digit)
    press(gate, "Lena Vik takes the tablet")
    expect(gate).to_have_url(re.compile(number))
    assert faults(gate) == []
    gate.get_by_label("What you bring along that can hurt others").fill("One torque wrench, nothing else")
    press(gate, "Sign your half")
    expect(gate.get_by_role("heading", level=1)).to_contain_text("exchanged hazards")
    press(gate, "Somebody else now")
    maren.goto("/people?task=retorque&on=MC1-4A")
    expect(maren.locator(".lane:not(.maynot)", has_text="Lena Vik")).to_contain_text("free now")
    assert faults(maren) == []
    nothing_reaches_out(maren, "who may")

    # a password is lost: a new one, told once, changed first; an open page would ask on, and be told that it is out
    lena.goto("about:blank")
    maren.goto("/people/lena/card")
    maren.get_by_text("Make a new password").first.click()
    press(maren, "Make a new password")
    told = re.search(r"is (\S+)\. It is shown", maren.locator(".said").inner_text())
    assert told
    lena.goto("/")
    expect(lena).to_have_url(re.compile("/sign-in"))
    lena.fill("#login", "lena")
    lena.fill("#password", told[1])
    press(lena, "Sign in")
    expect(lena.get_by_role("heading", level=1)).to_contain_text("Somebody else has set your password")
    lena.fill("#old", told[1])
    lena.fill("#new", "tide over the rope quay")
    press(lena, "Change it")
    expect(lena.locator(".said")).to_be_visible()

    # nils leaves, and his lock hangs: it is named, and he signs nowhere any more
    nils = somebody("nils")
    nils.goto("about:blank")
    maren.goto("/people/nils/card")
    maren.get_by_text("Has left", exact=True).click()
    maren.get_by_label("Why they leave").fill("Went to another yard")
    press(maren, "Has left: sign out everywhere")
    expect(maren.get_by_role("heading", level=1)).to_contain_text("has left with a lock")
    expect(maren.locator(".on")).to_contain_text("SP-0003")
    nils.goto("/")
    expect(nils).to_have_url(re.compile("/sign-in"))
    gate.goto("/tablet")
    expect(gate.get_by_role("heading", level=1)).to_have_text("Who has the tablet now?")
    assert gate.get_by_role("link", name=re.compile("Nils Abara")).count() == 0
    maren.get_by_label("Why they come back").fill("Back again")
    press(maren, "May sign in again")

    # and whoever stands there may stop what goes on
    expect(gate.locator(".stopbtn").first).to_be_visible()
