"""What goes wrong on a site, met by the screens alone, each on a site of its own: a transfer and its way back, a motor
behind a contactor, a transformer with solar below it, what is too dangerous to stand at, a trip, a permit whose person
in charge nobody reaches, an operator off shift, a program called off, an opening in an emergency. The soak's."""

import copy
import json
import os
import re
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from playwright.sync_api import Page, expect
from test_crews_walk import drafted, started
from test_switching_walk import confirm, phases, press, step_of, to_the_end

from conftest import serving
from shared_files import copied
from spinel.actions import network, people, setup
from spinel.actions.acting import Act
from spinel.demo.people import PASSWORD
from spinel.demo.site import document, element_id

pytestmark = pytest.mark.skipif(not os.environ.get("SOAK"), reason="the soak's")


@pytest.fixture
def before(demo_of_now):
    """The database that the server of the test begins with."""
    return demo_of_now


@pytest.fixture
def server(before, tmp_path):
    with serving(before, tmp_path) as address:
        yield address


def fill(page: Page, form: str, **typed: str) -> None:
    """A form of the page, unfolded if it is folded, filled in and sent."""
    it = page.locator(f'form[action$="/{form}"], form[action*="/{form}/"]').first
    folded = page.locator("details:not([open])", has=it)
    for i in range(folded.count()):
        folded.nth(i).locator("summary").first.click()
    for name, value in typed.items():
        field = it.locator(f'[name="{name}"]')
        if field.evaluate("e => e.tagName") == "SELECT":
            field.select_option(label=value)
        else:
            field.fill(value)
    with page.expect_response(lambda answer: answer.request.method == "POST"):
        it.locator("button").last.click()
    page.wait_for_load_state("networkidle")


def nobody_there(*people: Page) -> None:
    """Everybody hands back what they are in charge of, or stops it and says that the place is empty."""
    sorcha = people[0]
    for number in ("EWP-0002", "EWP-0003", "EWP-0004"):
        sorcha.goto(f"/permits/{number}")
        fill(sorcha, "hand-back", left="Tools out, covers on, nobody there", tools_out="9")
    sorcha.goto("/permits/EWP-0006")
    fill(sorcha, "suspend", reason="Switching begins")
    fill(sorcha, "clear", left="Nobody had begun there")


def restored(
    number: str, sorcha: Page, checks: Page, releases: Page, directs: Page, operator: str = "Bram Castel"
) -> str:
    """The box taken over and given back, the restoration executed."""
    sorcha.goto(f"/switching/{number}")
    press(sorcha, "I take it over")
    press(sorcha, "Declare the work complete")
    back = restoration_of(number, sorcha)
    started(back, checks, releases, directs, operator)
    to_the_end(directs)
    return back


def restoration_of(number: str, page: Page) -> str:
    page.goto(f"/switching/{number}")
    linked = page.locator("p", has_text=re.compile("[Rr]estoration")).locator("a.tag")
    return linked.first.inner_text()


def through(page: Page, lock: str) -> None:
    while page.locator('#console[data-state="executing"]').count():
        confirm(page, f"{lock}{step_of(page)}")
    expect(page.locator(".c-big")).to_have_text("DONE")


def test_a_transfer_with_its_way_back_and_relief_in_the_middle(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    nobody_there(sorcha)
    maren.goto(f"/jobs/new?element={element_id('T1')}")
    maren.get_by_label("What is to be done").fill("Look at the terminals of T1")
    maren.locator('[name=task][value="inspect"]').check()
    press(maren, "Start the job")
    maren.get_by_text("Switch to another state").click()
    maren.get_by_text("T1 out, tie closed").click()
    press(maren, "Draft the switching")
    assert re.search(r"SP-\d+", maren.url), maren.locator("main").inner_text()[:900]
    number = re.search(r"SP-\d+", maren.url).group()
    expect(maren.get_by_role("heading", level=1)).to_contain_text("Every rule holds over 6 steps")
    started(number, ivo, tavi, ivo, "Bram Castel")
    confirm(ivo)
    bram, eero = somebody("bram"), somebody("eero")
    bram.goto(f"/switching/{number}")
    fill(bram, "relief", to="Eero Vance")
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


@pytest.mark.parametrize("tag", ["T1", "T2", "SWB-B", "52-U"])
def test_isolated_and_restored(tag, somebody):
    """T1 with solar below it; T2 and SWB-B above the ceiling; 52-U, which the utility cuts off for us."""
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    nobody_there(sorcha)
    number = drafted(maren, tag, f"Retorque the terminals of {tag}")
    started(number, ivo, tavi, ivo, "Bram Castel")
    through(ivo, "B")
    restored(number, sorcha, ivo, tavi, ivo)


@pytest.fixture
def contactor(demo_of_now, tmp_path):
    """The demo with a contactor at P-31, in its terminal box, published and walked down."""
    path = tmp_path / "with-contactor.sqlite3"
    copied(demo_of_now, path)
    data = copy.deepcopy(document())
    cable = next(e for e in data["elements"] if e["tag"] == "W-P31")
    before, after = cable["ends"]
    data["nodes"].append({**next(n for n in data["nodes"] if n["id"] == after), "id": "n-k31"})
    cable["ends"] = [before, "n-k31"]
    data["elements"].append({
        "id": element_id("K-31"), "tag": "K-31", "kind": "contactor", "ends": ["n-k31", after], "name": "Contactor of P-31",
        "location": cable["location"], "normal_position": "open", "rated_voltage_v": 600, "rated_a": 60,
        "interrupting_ka": 42, "curve": {"type": "trip", "long_pickup_a": 60, "long_delay_s": 6},
    })  # fmt: skip
    site = setup.open_site(path)
    maren = next(p.id for p in people.everybody(site) if p.login == "maren")
    now = datetime.now(UTC)
    network.publish(Act(site, people.actor(site, maren), now), json.dumps(data))
    here = site.as_it_is()
    found = {e.tag: here.device(e).position or e.normal_position for e in here.network.elements if e.row.switches}
    network.walk_down(Act(site, people.actor(site, maren), now), found)
    return path


class TestBehindAContactor:
    @pytest.fixture
    def before(self, contactor):
        return contactor

    def test_both_its_sides_are_tested_and_nobody_trusts_its_coil(self, somebody):
        maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
        nobody_there(sorcha)
        number = drafted(maren, "K-31", "Change the coil of K-31")
        started(number, ivo, tavi, ivo, "Bram Castel")
        through(ivo, "B")
        maren.goto(f"/switching/{number}")
        assert maren.locator("table.prog tbody tr", has_text="every pair").count() == 2
        restored(number, sorcha, ivo, tavi, ivo)


def test_a_trip_is_inspected_looked_at_and_closed_by_a_program(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    nobody_there(sorcha)
    at = f"/network?e={element_id('F-B2')}"
    sorcha.goto(at)
    fill(sorcha, "found", value="tripped", note="Tripped, smell of burning at the door")
    ivo.goto(at)
    fill(ivo, "inspected", cause="Charger shorted its own output; meggered, clean", inspected_by="Wanda Keogh")
    fill(ivo, "look", seen="open")
    maren.goto(f"/jobs/new?element={element_id('F-B2')}")
    maren.get_by_label("What is to be done").fill("Close F-B2 again")
    maren.locator('[name=task][value="inspect"]').check()
    press(maren, "Start the job")
    maren.get_by_text("Switch to another state").click()
    maren.get_by_label("F-B2 shall be").select_option(label="closed")
    press(maren, "Draft the switching")
    assert re.search(r"SP-\d+", maren.url), maren.locator("main").inner_text()[:900]
    number = re.search(r"SP-\d+", maren.url).group()
    started(number, ivo, tavi, ivo, "Bram Castel")
    to_the_end(ivo)


def test_a_permit_in_the_dark_whose_person_in_charge_nobody_reaches(somebody):
    maren, ivo, tavi, edda = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("edda")
    number = drafted(maren, "T1", "Retorque the terminals of T1")
    ivo.goto(f"/switching/{number}")
    press(ivo, "Checked: every step is right")
    tavi.goto(f"/switching/{number}")
    press(tavi, "Release it to be executed once")
    expect(tavi.locator(".refusal").first).to_contain_text("nothing is switched where people are on a permit")
    for _ in range(6):
        blocked = re.search(r"EWP-\d+", tavi.locator(".refusal").first.inner_text())
        if blocked is None:
            break
        edda.goto(f"/permits/{blocked.group()}")
        if edda.locator('form[action$="/suspend"]').count():
            fill(edda, "suspend", reason="The section goes dark")
        maren.goto(f"/permits/{blocked.group()}")
        fill(maren, "clear", left="Seen empty, covers on", seen_by="Ivo Tanaka")
        tavi.goto(f"/switching/{number}")
        press(tavi, "Release it to be executed once")
        if not tavi.locator(".refusal").count():
            break
    expect(tavi.get_by_role("heading", level=1)).to_contain_text("eleased")


def test_an_operator_off_shift_with_a_lock_hanging(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    nobody_there(sorcha)
    number = drafted(maren, "P-31", "Retorque the terminals of P-31")
    started(number, ivo, tavi, ivo, "Bram Castel")
    through(ivo, "B")
    sorcha.goto(f"/switching/{number}")
    press(sorcha, "I take it over")
    press(sorcha, "Declare the work complete")
    back = restoration_of(number, sorcha)
    started(back, ivo, tavi, ivo, "Eero Vance")
    while "TAKE OFF LOCK" not in ivo.locator(".w-act").inner_text():
        confirm(ivo)
    for _ in range(2):
        ivo.keyboard.press("Enter")
    ivo.locator("#primary").click()
    expect(ivo.get_by_role("alert").first).to_contain_text("Bram Castel")
    for page, why in (
        (sorcha, "Rang twice, his landlady says he is asleep"),
        (maren, "Gate log: left at six, no answer"),
    ):
        page.goto(f"/switching/{number}")
        fill(page, "absent", reason=why)
    ivo.goto(f"/switching/{back}/console")
    # it waits where it stood: read out and repeated back, to be recorded
    version = ivo.locator("#console").get_attribute("data-version")
    if "has lock and tag off" not in ivo.locator("#primary").inner_text():
        phases(ivo)
    ivo.locator("#primary").click()
    expect(ivo.locator(f'#console[data-version="{version}"]')).to_have_count(0)
    to_the_end(ivo)


def test_a_program_called_off_has_its_way_back(somebody):
    maren, ivo, tavi, sorcha = somebody("maren"), somebody("ivo"), somebody("tavi"), somebody("sorcha")
    nobody_there(sorcha)
    number = drafted(maren, "P-31", "Retorque the terminals of P-31")
    started(number, ivo, tavi, ivo, "Bram Castel")
    while not ivo.locator(".w-act").inner_text().startswith("CHECK"):
        confirm(ivo)
    # opened, and nobody has looked
    ivo.locator(".c-dev summary").click()
    ivo.locator("#dev-note").fill("The work is put off")
    press(ivo, "End this program")
    # it would go on from where it stands; called off, it goes back instead
    expect(ivo.locator("table.prog")).to_be_visible()
    fill(ivo, "abandon", reason="The work is put off")
    back = restoration_of(number, maren)
    maren.goto(f"/switching/{back}")
    expect(maren.locator("table.prog")).to_contain_text("CHECK that it is")
    started(back, tavi, maren, ivo, "Bram Castel")
    to_the_end(ivo)


def test_an_opening_in_an_emergency_stops_what_is_around_it(somebody):
    jory, maren = somebody("jory"), somebody("maren")
    jory.goto(f"/network?e={element_id('F-B1')}")
    at = datetime.now(ZoneInfo("America/Los_Angeles")) - timedelta(minutes=3)
    fill(jory, "emergency", by="Jory Pell", when=at.strftime("%Y-%m-%dT%H:%M"), note="Somebody hung on the pump")
    expect(jory.locator(".said").first).to_be_visible()
    maren.goto("/")
    expect(maren.locator("#wall")).to_contain_text("F-B1")


def test_a_confirmation_that_was_not_sent_waits_for_whoever_made_it(somebody):
    """On a shared tablet somebody else signs in before it could be sent: it is not sent in their name, and not lost."""
    ivo = somebody("ivo")
    ivo.goto("/switching/SP-0005/console")
    before = step_of(ivo)
    ivo.route("**/confirm", lambda route: route.abort())
    phases(ivo)
    ivo.locator("#lock").fill("R-77")
    ivo.locator("#primary").click()
    expect(ivo.locator("#pending")).to_contain_text(f"Step {before} is not saved")
    ivo.unroute("**/confirm")
    ivo.context.clear_cookies()
    ivo.goto("/sign-in")
    for login, says in (("tavi", "somebody who is not signed in here now"), ("ivo", "")):
        ivo.context.clear_cookies()
        ivo.goto("/sign-in")
        ivo.fill("#login", login)
        ivo.fill("#password", PASSWORD)
        ivo.get_by_role("button", name="Sign in").click()
        ivo.wait_for_url("**/")
        ivo.goto("/switching/SP-0005/console")
        if says:
            expect(ivo.locator("#pending")).to_contain_text(says)
            assert step_of(ivo) == before
    expect(ivo.locator("#console")).to_have_attribute("data-step", str(before + 1))
