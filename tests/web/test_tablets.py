"""A shared tablet by its pages: who has it, a stop without a code, and nobody left behind."""

import re
import uuid
from datetime import timedelta

import pytest
from icalendar import Calendar

from demo_acts import MOMENT, PASSWORD, act, permits_of, person, the_site
from spinel.actions import at_tablet, invitations, permit_moves, program_view, tablets
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.people import CODE
from spinel.store import ledger
from spinel.web.app import create_app


@pytest.fixture
def tablet(app, sign_in):
    """A browser that a coordinator has made a tablet."""
    browser = sign_in("maren").client
    answer = browser.post("/people/tablets", data={"name": "Tablet 2", "request_id": str(uuid.uuid4())})
    assert answer.status_code == 302 and answer.headers["Location"].endswith("/tablet")
    return browser


def take(tablet, login, code=CODE):
    return tablet.post("/tablet/sign-in", data={"login": login, "code": code})


def test_the_coordinator_who_made_it_is_signed_out_of_it_and_every_address_asks_who_it_is(tablet):
    for path in ("/", "/network", "/account", "/people", "/records"):
        answer = tablet.get(path)
        assert answer.status_code == 302 and answer.headers["Location"].endswith("/tablet"), path
    page = tablet.get("/tablet").text
    assert "Who has the tablet now?" in page and "Nils Abara" in page and "it ran out: come out" in page


def test_two_taps_and_a_code_lead_to_what_waits_and_somebody_else_follows(tablet):
    answer = take(tablet, "sorcha")
    assert answer.headers["Location"].endswith("/permits/EWP-0002")
    page = tablet.get("/permits/EWP-0002").text
    assert "Somebody else now" in page and "data-short" in page and "Tablet 2" in page
    assert tablet.post("/permits/EWP-0002/hand-back", data={"version": "9", "left": "All out"}).status_code == 403
    left = tablet.post("/tablet/leave")
    assert left.headers["Location"].endswith("/tablet")
    assert "Sorcha Maddern has left this tablet" in tablet.get("/tablet").text
    assert tablet.get("/permits/EWP-0002").status_code == 302
    assert take(tablet, "noor").headers["Location"].endswith("/exchanges/HX-0002")


def test_the_person_before_is_out_when_the_next_one_takes_it_without_a_word(tablet):
    take(tablet, "sorcha")
    take(tablet, "wanda")
    assert "Wanda Keogh" in tablet.get("/account").text and "Sorcha Maddern" not in tablet.get("/account").text


def test_a_wrong_code_stays_on_the_page_and_shows_no_code(tablet):
    answer = take(tablet, "wanda", "135791")
    assert answer.status_code == 422 and "not the short code" in answer.text and "135791" not in answer.text


def test_a_browser_that_is_no_tablet_takes_no_code_and_stops_nothing(app):
    client = app.test_client()
    client.set_cookie("tablet", "k" * 43)
    for answer in (
        take(client, "wanda"),
        client.post("/tablet/stop", data={"number": "EWP-0003"}),
        client.get("/tablet"),
    ):
        assert answer.status_code == 302 and "/sign-in" in answer.headers["Location"]
    assert permits_of("EWP-0003").state == "in_force"


def test_anybody_stops_without_a_code_and_everybody_is_told(tablet, sign_in):
    page = tablet.get("/tablet").text
    assert re.findall(r'name="number"\s+value="([A-Z0-9-]+)"', page)[0] == "SP-0005"
    tablet.post("/tablet/stop", data={"number": "SP-0005", "reason": "x" * 5000, "request_id": str(uuid.uuid4())})
    assert program_view.view(the_site(), "SP-0005").state == "stopped"
    tablet.post("/tablet/stop", data={"number": "EWP-0004", "reason": "Arc seen", "request_id": str(uuid.uuid4())})
    assert "EWP-0004 is stopped" in tablet.get("/tablet").text
    shown = sign_in("sorcha").get("/permits/EWP-0004").text
    assert "Tablet 2" in shown and "Arc seen" in shown


def test_two_stops_from_one_page_are_two(tablet):
    """The answer to the first was lost, the page stands as it was, and the next thing is pressed."""
    page = str(uuid.uuid4())
    for number in ("EWP-0003", "EWP-0004", "EWP-0003", "SP-0005"):
        tablet.post("/tablet/stop", data={"number": number, "request_id": page})
    assert [permits_of(n).state for n in ("EWP-0003", "EWP-0004")] == ["suspended", "suspended"]
    assert program_view.view(the_site(), "SP-0005").state == "stopped"


def test_a_page_that_stood_open_too_long_gives_a_fresh_one_and_says_that_nothing_was_stopped(database):
    """Its token is of a session that is over; what makes the browser a tablet is still there."""
    token = tablets.register(act("maren"), "Tablet 9")
    app = create_app(str(database), clock=lambda: MOMENT)
    client, stranger = app.test_client(), app.test_client()
    client.set_cookie("tablet", token)
    assert stranger.post("/tablet/stop", data={"number": "EWP-0003"}).status_code == 400
    assert client.post("/tablet/stop", data={"number": "EWP-0003"}).headers["Location"].endswith("/tablet")
    page = client.get("/tablet", headers={"HX-Request": "true"}).text
    assert "press STOP once more" in page and permits_of("EWP-0003").state == "in_force"
    # what the page asks for by itself brings a token that is good
    block = page[page.index('id="stoppable"') :]
    data = {"number": "EWP-0003", "csrf_token": re.search(r'name="csrf_token"\s+value="([^"]+)"', block)[1]}
    client.post("/tablet/stop", data=data)
    assert permits_of("EWP-0003").state == "suspended"


def test_the_cookie_of_a_tablet_is_for_this_site_and_no_script(app):
    cookie = sign(app)
    assert "SameSite=Lax" in cookie and "HttpOnly" in cookie


def sign(app):
    """The cookie by which a browser is a tablet, as it is given out."""
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
    answer = client.post("/people/tablets", data={"name": "Tablet 8", "request_id": str(uuid.uuid4())})
    return next(c for c in answer.headers.getlist("Set-Cookie") if c.startswith("tablet="))


def test_an_open_page_is_told_what_goes_on_though_somebody_has_taken_the_tablet_elsewhere(tablet):
    take(tablet, "wanda")
    page = tablet.get("/tablet", headers={"HX-Request": "true"})
    assert page.status_code == 200 and 'value="SP-0005"' in page.text
    assert tablet.get("/tablet").status_code == 302


def test_a_stop_is_taken_while_somebody_is_signed_in_with_a_code(tablet):
    take(tablet, "wanda")
    tablet.post("/tablet/stop", data={"number": "EWP-0003", "request_id": str(uuid.uuid4())})
    assert permits_of("EWP-0003").state == "suspended"


def test_after_a_reset_the_short_code_lets_nobody_in_and_the_password_is_changed_first(tablet, sign_in):
    page = sign_in("maren").post("/people/wanda/password").text
    made = re.search(r"is (\S+)\. It is shown", " ".join(page.split()))[1]
    assert take(tablet, "wanda").status_code == 422
    tablet.post("/sign-in", data={"login": "wanda", "password": made})
    assert tablet.get("/").headers["Location"].endswith("/account")


def test_a_password_at_the_tablet_signs_in_in_full_and_is_as_easily_left(tablet):
    tablet.post("/sign-in", data={"login": "tavi", "password": PASSWORD})
    page = tablet.get("/").text
    assert "Somebody else now" in page and "data-short" not in page
    tablet.post("/tablet/leave")
    assert tablet.get("/").status_code == 302


def test_the_link_of_an_invitation_is_shown_once_and_opens_the_account(app, sign_in):
    maren = sign_in("maren")
    page = maren.post("/people/nils/invite").text
    link = re.search(r"http://localhost(/welcome/[\w-]{43})", page).group(1)
    assert link not in maren.get("/people/nils/card").text
    with the_site().connection():
        assert all(link.rpartition("/")[2] not in str(e.payload) for e in ledger.search(limit=5))
    client = app.test_client()
    assert "Nils Abara" in client.get(link).text
    for data in (
        {"password": "rope over the quay", "again": "rope over the bay"},
        {"password": "short", "again": "short"},
    ):
        assert client.post(link, data=data).status_code == 422
    data = {"password": "rope over the quay", "again": "rope over the quay"}
    assert client.post(link, data=data).status_code == 302 and client.get("/").status_code == 200
    assert client.get(link).status_code == 422 and app.test_client().get("/welcome/nothing").status_code == 422
    assert timedelta(days=3) == invitations.GOOD_FOR


def test_a_calendar_is_read_by_whoever_has_its_address_and_by_nobody_else(app, sign_in):
    page = sign_in("maren").post("/account/calendar").text
    path = re.search(r"http://localhost(/calendar/[\w-]{32}\.ics)", page).group(1)
    answer = app.test_client().get(path)
    events = [c for c in Calendar.from_ical(answer.data).walk() if c.name == "VEVENT"]
    assert answer.mimetype == "text/calendar" and len(events) > 10
    assert len({str(e["UID"]) for e in events}) == len(events)
    assert any(
        "Bram Castel" in str(e["SUMMARY"]) and e["DTSTART"].dt == (MOMENT - timedelta(days=3)).date() for e in events
    )
    # what is planned stands there at its hours, for whoever is on it and for coordinators
    planned = [e for e in events if "J-0017" in str(e.get("summary"))]
    assert len(planned) == 1 and planned[0].decoded("dtend") > planned[0].decoded("dtstart")
    stranger = app.test_client().get("/calendar/" + "k" * 32 + ".ics")
    # and shows a stranger nothing of the site
    assert stranger.status_code == 404 and "EWP-" not in stranger.text and "Ferry" not in stranger.text


def test_a_table_taken_in_is_answered_row_by_row(sign_in):
    import io

    table = b"login,name,roles\nnora,Nora Vik,worker\n=1,Bad,worker\n"
    maren = sign_in("maren")
    answer = maren.post(
        "/people/import",
        data={"kind": "people", "table": (io.BytesIO(table), "p.csv")},
        content_type="multipart/form-data",
    )
    assert answer.status_code == 200 and "Not taken." in answer.text and "invite them" in answer.text
    bad = maren.post(
        "/people/import",
        data={"kind": "people", "table": (io.BytesIO(b"\xff\xfe\x00"), "p.csv")},
        content_type="multipart/form-data",
    )
    assert bad.status_code == 422
    assert "Nora Vik" in maren.get("/people/people.csv").text


def test_who_may_page_answers_whatever_is_asked(sign_in):
    maren = sign_in("maren")
    page = maren.get("/people?task=retorque&on=MC1-4A&day=2026-11-24").text
    assert "people may" in page and "ran out 3 days ago" in " ".join(page.split())
    for query in ("task=no&on=MC1", "on=NOWHERE", "day=2020-01-01", "day=9999-12-31", "day=x", "task=%00&on=%00"):
        assert maren.get(f"/people?{query}").status_code == 200, query
    assert "is none of these days" in maren.get("/people?day=2020-01-01").text
    later = maren.get("/people?task=retorque&on=MC1-4A&day=2026-12-01").text
    # nobody knows today who is free then
    assert "free now" not in later and "people may" in later
    assert "There is no NOWHERE" in maren.get("/people?on=NOWHERE").text
    # before there is a job: at the far end of its cable nobody may
    assert "cannot be staffed" in maren.get("/people/crew?task=retorque&on=W-T1&kind=medium-voltage+switchgear").text
    assert (
        "cannot be staffed"
        not in maren.get("/people/crew?task=retorque&on=W-T1&kind=transformer").text.partition("The switching")[0]
    )
    crew = maren.get("/jobs/J-0003/crew").text
    assert "people" in crew and "never the same as who" in crew


def test_a_tile_says_where_that_is_what_waits(tablet):
    """Wanda works on EWP-0003, and her statements wait on EWP-0006."""
    seen = permits_of("EWP-0006")
    there = [person(p) for p in ("wanda", "sorcha", "jory")]
    permit_moves.brief(act("sorcha"), "EWP-0006", seen.version, list(NORTH_AMERICAN.briefing), there, "Mind the hose")
    tile = next(t for t in at_tablet.tiles(the_site(), MOMENT)[0] if t.person.login == "wanda")
    assert tile.waits.code == "tile-statements" and tile.on.values["number"] == "EWP-0006"
    assert tile.goes_to == ("permit", "EWP-0006")
    assert take(tablet, "wanda").headers["Location"].endswith("/permits/EWP-0006")


def test_a_form_of_the_person_before_signs_nothing_for_the_next(database):
    """An old page in another tab of the same tablet, sent after somebody else has taken it."""
    token = tablets.register(act("maren"), "Tablet 9")
    client = create_app(str(database), clock=lambda: MOMENT).test_client()
    client.set_cookie("tablet", token)

    def of(page):
        return re.search(r'name="csrf_token"\s+value="([^"]+)"', page)[1]

    def take_it(login):
        data = {"csrf_token": of(client.get("/tablet").text), "login": login, "code": CODE}
        assert client.post("/tablet/sign-in", data=data).status_code == 302

    take_it("wanda")
    old = of(client.get("/permits/EWP-0004").text)
    client.post("/tablet/leave", data={"csrf_token": old})
    take_it("nils")
    version = permits_of("EWP-0004").version
    answer = client.post(
        "/permits/EWP-0004/suspend", data={"csrf_token": old, "version": version, "reason": "Smoke seen"}
    )
    assert answer.status_code == 400 and permits_of("EWP-0004").state == "in_force"
