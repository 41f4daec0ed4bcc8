"""A stranger plans, assesses with three who answer alone, and equips a job by the screens alone; and an item that fails
its look goes out of use for everybody. Clicks and pages are counted."""

from datetime import UTC, datetime, timedelta

from playwright.sync_api import expect

from spinel.demo.site import element_id


def press(page, name):
    page.get_by_role("button", name=name).or_(page.get_by_role("link", name=name)).first.click()


class Counted:
    """A page that counts what is clicked on it, and how many pages it saw."""

    def __init__(self, page):
        self.page, self.clicks, self.pages = page, 0, 0
        page.on("framenavigated", lambda frame: self._seen(frame))

    def _seen(self, frame):
        if frame == self.page.main_frame:
            self.pages += 1

    def click(self, locator):
        self.clicks += 1
        locator.click()


def opinion(page, job, likely, more=""):
    page.goto(f"/jobs/{job}/opinion")
    for name, step in (("severity_shock", 4), ("likelihood_shock", likely), ("likelihood_arc", likely)):
        page.locator(f'[name={name}][value="{step}"]').check(force=True)
    page.locator('[name=rungs_arc][value="engineer"]').check(force=True)
    if more:
        page.locator("#hazard_0").select_option("damp")
        page.locator("#note_0").fill(more)
        page.locator('[name=severity_0][value="4"]').check(force=True)
        page.locator('[name=likelihood_0][value="4"]').check(force=True)
    press(page, "Give my opinion, for good")


def test_three_opinions_at_once_each_alone_then_side_by_side_and_agreed(somebody):
    maren, wanda, nils, sorcha = (somebody(login) for login in ("maren", "wanda", "nils", "sorcha"))
    lead = Counted(maren)
    maren.goto(f"/network?e={element_id('MC1')}")
    lead.click(maren.locator("#card").get_by_role("link", name="Start a job here"))
    maren.get_by_label("What is to be done").fill("Tighten column 5")
    lead.click(maren.locator('[name=task][value="retorque"]'))
    lead.click(maren.get_by_role("button", name="Start the job"))
    job = maren.locator(".question .tag").inner_text()
    lead.click(maren.get_by_role("link", name="Risk"))
    for name in ("Wanda Keogh", "Nils Abara", "Sorcha Maddern"):
        lead.click(maren.get_by_label(name))
    lead.click(maren.get_by_role("button", name="Ask for opinions"))
    expect(maren.locator("h1")).to_contain_text("Not answered yet")

    # each on their own screen, at the same time; nobody sees another's
    opinion(wanda, job, 4, "Water drips from the duct")
    nils.goto(f"/jobs/{job}/risk")
    expect(nils.locator("main")).not_to_contain_text("Water drips")
    maren.goto(f"/jobs/{job}/risk")
    expect(maren.locator("main")).to_contain_text("sealed")
    expect(maren.locator("main")).not_to_contain_text("Water drips")
    opinion(nils, job, 2)
    sorcha.goto("/")
    expect(sorcha.locator("main")).to_contain_text("your opinion on its risk")
    opinion(sorcha, job, 3)

    maren.goto(f"/jobs/{job}/risk")
    expect(maren.locator("h1")).to_contain_text("Only Wanda Keogh saw damp")
    expect(maren.locator(".opinions")).to_contain_text("Water drips from the duct")
    expect(maren.locator("#helps")).to_contain_text("from 914", timeout=60_000)
    maren.reload()
    for hazard in ("shock", "damp"):
        maren.locator(f"#severity_{hazard}").select_option("4")
    for hazard in ("shock", "arc", "damp"):
        maren.locator(f"#likelihood_{hazard}").select_option("2")
        maren.locator(f"#rule_{hazard}").fill("Not before the ebb")
        lead.click(maren.locator(f'[name=agreed_{hazard}][value="yes"]'))
    lead.click(maren.get_by_role("button", name="Record what is agreed"))
    expect(maren.locator("h1")).to_contain_text("Agreed")
    expect(wanda.locator("main")).not_to_contain_text("Traceback")
    print(f"\nasked, assessed and agreed: {lead.clicks} clicks of whoever leads")
    assert lead.clicks < 25


def test_a_glove_that_leaks_goes_out_of_use_for_everybody_by_the_tablet_alone(somebody):
    wanda, nils = somebody("wanda"), somebody("nils")
    wanda.set_viewport_size({"width": 768, "height": 1024})
    wanda.goto("/gear")
    wanda.get_by_label("Number on the item").fill("G-24")
    wanda.get_by_role("button", name="Open it").click()
    press(wanda, "Inspect it")
    wanda.locator("#a").fill("G-08")
    wanda.get_by_role("button", name="That is what I read").click()
    expect(wanda.locator(".refusal")).to_contain_text("another item")
    wanda.locator("#a").fill("G-24")
    wanda.get_by_role("button", name="That is what I read").click()
    # a slip of the finger bars nothing
    wanda.locator("#a").fill("0")
    wanda.get_by_role("button", name="That is what I read").click()
    expect(wanda.locator("#again")).to_be_visible()
    wanda.locator("#a").fill("00")
    wanda.get_by_role("button", name="That is what I read").click()
    # the next question is awaited: a page between two pages has none
    expect(wanda.locator(".asked-bar [aria-current]")).to_have_text("Tested")
    wanda.locator("#a").fill((datetime.now(UTC) - timedelta(days=100)).date().isoformat()[:7])
    wanda.get_by_role("button", name="That is what I read").click()
    wanda.get_by_role("button", name="None").click()
    wanda.get_by_role("button", name="Air or not sure").click()
    expect(wanda.locator("h1")).to_contain_text("OUT OF USE")
    expect(wanda.get_by_role("button", name="I pressed wrong")).to_be_visible()
    nils.goto("/gear/item/G-24")
    expect(nils.locator("h1")).to_contain_text("OUT OF USE")
    expect(nils.get_by_role("button", name="I pressed wrong")).to_have_count(0)
    expect(nils.get_by_role("link", name="Inspect it")).to_have_count(0)
