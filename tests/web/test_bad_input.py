"""Bad input on every form: a message beside its field or a page that says what to do; typed text kept; no traceback."""

import re
import uuid

import pytest

from demo_acts import MOMENT, element_id, the_site
from spinel.actions import jobs, permits, records
from spinel.demo.people import PASSWORD
from spinel.web.app import create_app

NASTY = ["", " ", "NaN", "inf", "-1", "0", "1e999", "٤٥٥", "455 mm", "<script>alert(1)</script>", "' OR 1=1 --",
         "x" * 5000, "\x00", "1_000", "0x1F", "99999999999999999999"]  # fmt: skip


def steps_of(count):
    return "\n".join(f"Step {i}" for i in range(count))


EDIT = {"steps": "Do it carefully", "practices": "Gloves on", "keep_out": "Barricade", "special": "",
        "window_start": "2026-11-24T16:32", "window_end": "2026-11-24T18:32", "working_distance_mm": "610",
        "distance_reason": ""}  # fmt: skip


def edit(browser, **changes):
    version = permits.view(the_site(), "EWP-0005", MOMENT).version
    return browser.post("/permits/EWP-0005/edit", {"version": version, **EDIT, **changes})


@pytest.mark.usefixtures("open_db")
class TestForms:
    @pytest.mark.parametrize("value", NASTY)
    def test_no_value_breaks_any_form(self, sign_in, value):
        browser = sign_in("maren")
        before = permits.view(the_site(), "EWP-0005", MOMENT)
        for name in ("working_distance_mm", "window_start", "window_end", "workers", "attendants", "in_charge"):
            answer = edit(browser, **{name: value})
            assert answer.status_code in (302, 422), (name, value)
            assert "Traceback" not in answer.text and "<script>alert" not in answer.text
        for path, data in (
            ("/jobs/new", {"element": value, "task": value, "title": value, "touches": value}),
            (
                "/jobs/J-0010/answers",
                {"version": "2", "fact_installed": value, "justification": value, "touches": value},
            ),
            ("/jobs/J-0010/answers", {"version": value, "justification": "none", "touches": "bus"}),
            ("/jobs/J-0010/close", {"version": "2", "circuit_changed": value}),
            (f"/network/found/{element_id('MC1-4A')}", {"value": value, "note": value}),
            ("/permits/EWP-0003/brief", {"version": "9", "covered": value, "attended": value, "special": value}),
            ("/permits/EWP-0003/suspend", {"version": value, "reason": value}),
        ):
            answer = browser.post(path, data)
            assert answer.status_code in (302, 403, 404, 409, 422), (path, value, answer.status_code)
            assert "Traceback" not in answer.text
        for address in (f"/network?e={value[:50]}", f"/records?before={value[:50]}&subject={value[:50]}",
                        f"/find?q={value[:50]}", f"/network/card/{element_id('MC1')}?distance_mm={value[:50]}",
                        f"/network/card/{element_id('MC1')}?touches={value[:50]}", f"/permits/EWP-0003.pdf?size={value[:9]}",
                        f"/permits/EWP-0003/distance?working_distance_mm={value[:50]}"):  # fmt: skip
            assert browser.get(address).status_code in (200, 404, 422), address
        if permits.view(the_site(), "EWP-0005", MOMENT).version == before.version:
            assert permits.view(the_site(), "EWP-0005", MOMENT) == before

    @pytest.mark.parametrize(
        ("changes", "field", "says"),
        [
            ({"working_distance_mm": "200"}, "working_distance_mm", "from 305 up to 5000 mm"),
            ({"working_distance_mm": "0.455"}, "working_distance_mm", "from 305 up to 5000 mm"),
            ({"working_distance_mm": "800"}, "distance_reason", "not the standard 610 mm"),
            ({"window_end": "2026-11-24T15:00"}, "window_end", "after the start"),
            ({"window_end": "2026-11-26T15:00"}, "window_end", "at most 12 hours"),
            ({"window_start": "tomorrow"}, "window_start", "a date and a time"),
            (
                {"window_start": "2026-03-08T02:30", "window_end": "2026-03-08T04:30"},
                "window_start",
                "clocks go forward",
            ),
            ({"steps": ""}, "steps", "at least one step"),
            ({"steps": steps_of(31)}, "steps", "at most 30 lines"),
            ({"workers": "4711"}, "workers", "a registered person"),
        ],
    )
    def test_the_message_stands_beside_its_field_and_typed_text_is_kept(self, sign_in, changes, field, says):
        answer = edit(sign_in("maren"), special="Keep this sentence", **changes)
        assert answer.status_code == 422
        wrong = re.search(rf'id="wrong-edit-{field}">([^<]+)<', answer.text) or re.search(
            rf'{field}.*?class="wrong"[^>]*>([^<]+)<', answer.text, re.S
        )
        assert wrong and says in wrong.group(1).replace("\N{NO-BREAK SPACE}", " "), field
        assert "Keep this sentence" in answer.text
        for name, value in changes.items():
            if name.startswith(("working", "special")):
                assert f'value="{value}"' in answer.text

    def test_a_stale_form_tells_who_was_faster_and_keeps_what_was_typed(self, sign_in):
        one, two = sign_in("maren"), sign_in("tavi")
        version = permits.view(the_site(), "EWP-0005", MOMENT).version
        assert one.post("/permits/EWP-0005/edit", {"version": version, **EDIT}).status_code == 302
        late = two.post("/permits/EWP-0005/edit", {"version": version, **EDIT, "special": "Written by Tavi"})
        assert late.status_code == 409 and "changed by Maren Oduya" in late.text and "Written by Tavi" in late.text
        again = re.search(r'name="version" value="(\d+)"', late.text).group(1)
        assert (
            two.post("/permits/EWP-0005/edit", {"version": again, **EDIT, "special": "Written by Tavi"}).status_code
            == 302
        )
        assert permits.view(the_site(), "EWP-0005", MOMENT).content["special"] == "Written by Tavi"

    def test_a_form_sent_twice_counts_once(self, sign_in):
        browser, request_id = sign_in("maren"), str(uuid.uuid4())
        data = {
            "element": element_id("MC1"),
            "task": "test",
            "title": "Only once",
            "touches": "bus",
            "request_id": request_id,
        }
        first, second = (browser.client.post("/jobs/new", data=data) for _ in range(2))
        assert first.headers["Location"] == second.headers["Location"]
        assert sum(j.title == "Only once" for j in jobs.lines(the_site())) == 1

    def test_another_persons_request_id_repeats_nothing(self, sign_in):
        data = {"element": element_id("MC1"), "task": "test", "title": "Mine", "touches": "bus", "request_id": "a" * 20}
        first = sign_in("maren").client.post("/jobs/new", data=data).headers["Location"]
        other = sign_in("tavi").client.post("/jobs/new", data={**data, "title": "Not yours"})
        assert other.headers.get("Location") != first

    def test_another_records_ids_are_refused(self, sign_in):
        """A briefing for people who do not exist, a statement on a permit one is not on, an approval of another hash."""
        nils = sign_in("nils")
        version = permits.view(the_site(), "EWP-0003", MOMENT).version
        answer = nils.post(
            "/permits/EWP-0003/state", {"version": version, "statements": ["safe", "qualified", "briefed"]}
        )
        assert answer.status_code == 422 and "not on this permit" in answer.text
        ruth = sign_in("ruth")
        seen, other = permits.view(the_site(), "EWP-0005", MOMENT), permits.view(the_site(), "EWP-0006", MOMENT)
        data = {"version": seen.version, "content_hash": other.content_hash, "password": PASSWORD}
        answer = ruth.post("/permits/EWP-0005/approve", data)
        assert answer.status_code == 422 and "changed after you opened it" in answer.text

    def test_a_wrong_password_signs_nothing_and_is_counted(self, sign_in):
        ruth = sign_in("ruth")
        seen = permits.view(the_site(), "EWP-0005", MOMENT)
        data = {"version": seen.version, "content_hash": seen.content_hash, "password": "wrong"}
        for _ in range(5):
            answer = ruth.post("/permits/EWP-0005/approve", data)
            assert answer.status_code == 422 and "Nothing was signed" in answer.text
        answer = ruth.post("/permits/EWP-0005/approve", {**data, "password": PASSWORD})
        assert "Too many wrong passwords" in answer.text
        assert permits.view(the_site(), "EWP-0005", MOMENT) == seen


def test_the_strip_tells_what_was_done_since_the_page_was_drawn(sign_in):
    """Another's act is told by name, a sign-in is no news, and a forged place in the ledger tells nothing."""
    browser = sign_in("maren")
    seen = records.head(the_site())[0]
    assert 'class="news"' not in browser.get(f"/strip?seen={seen}").text
    nils = sign_in("nils")
    assert 'class="news"' not in browser.get(f"/strip?seen={seen}").text
    version = permits.view(the_site(), "EWP-0003", MOMENT).version
    nils.post("/permits/EWP-0003/suspend", {"version": version, "reason": "Smoke from the cover"})
    assert "permit suspended" in browser.get(f"/strip?seen={seen}").text
    for forged in ("-1", "nan", "9" * 40, "\u0663", "<b>"):
        answer = browser.client.get("/strip", query_string={"seen": forged})
        assert answer.status_code == 200 and 'class="news"' not in answer.text and "<b>" not in answer.text[:300]


def test_the_address_of_a_refused_form_leads_to_its_page(sign_in):
    client = sign_in("maren").client
    for form, page in {"/permits/EWP-0003/suspend": "/permits/EWP-0003", "/jobs/J-0009/answers": "/jobs/J-0009",
                       f"/network/found/{element_id('MC1')}": "/network"}.items():  # fmt: skip
        assert client.get(form).headers["Location"] == page


class TestSecurity:
    def test_every_answer_carries_the_strict_policy_and_headers(self, sign_in):
        client = sign_in("maren")
        sheet = client.client.application.static_url_path + "/css/tokens.css"
        for path in ("/", "/network", "/nope", sheet, "/permits/EWP-0003/paper"):
            headers = client.get(path).headers
            policy = headers["Content-Security-Policy"]
            assert "default-src 'self'" in policy and "unsafe" not in policy and "frame-ancestors 'none'" in policy
            assert headers["X-Content-Type-Options"] == "nosniff" and headers["X-Frame-Options"] == "DENY"
            assert headers["Referrer-Policy"] == "same-origin"

    def test_without_its_token_no_form_is_accepted(self, database, clock):
        app = create_app(str(database), clock=clock)
        client = app.test_client()
        assert client.post("/sign-in", data={"login": "maren", "password": PASSWORD}).status_code == 400
        page = client.get("/sign-in").text
        token = re.search(r'name="csrf_token" value="([^"]+)"', page).group(1)
        signed = client.post("/sign-in", data={"login": "maren", "password": PASSWORD, "csrf_token": token})
        assert signed.status_code == 302
        before = records.head(the_site())
        for rule in app.url_map.iter_rules():
            if "POST" in rule.methods and not rule.arguments:
                assert client.post(str(rule), data={"csrf_token": "forged"}).status_code == 400, rule
        assert records.head(the_site()) == before

    def test_every_form_in_every_page_carries_a_token_and_a_request_id(self, sign_in):
        browser = sign_in("maren")
        for path in ("/", f"/network?e={element_id('MC1-2B')}", "/jobs/new", "/jobs/J-0010", "/permits/EWP-0003",
                     "/permits/EWP-0005/edit", "/permits/EWP-0006"):  # fmt: skip
            for form in re.findall(r"<form[^>]*method=\"post\".*?</form>", browser.get(path).text, re.S):
                assert 'name="csrf_token"' in form, path
                assert 'name="request_id"' in form or "/sign-out" in form, path

    def test_cookies_are_for_this_site_only_and_signing_in_goes_nowhere_else(self, app):
        client = app.test_client()
        data = {"login": "maren", "password": PASSWORD}
        for after in ("//evil.example", "https://evil.example", "/\\evil.example", "javascript:alert(1)"):
            answer = client.post("/sign-in", data={**data, "after": after})
            assert answer.headers["Location"] == "/"
        cookie = answer.headers["Set-Cookie"]
        assert "HttpOnly" in cookie and "SameSite=Lax" in cookie

    def test_a_start_without_demo_lists_nobody(self, tmp_path, clock):
        app = create_app(str(tmp_path / "empty.sqlite3"), clock=clock)
        page = app.test_client().get("/sign-in").text
        assert PASSWORD not in page and "Demo people" not in page

    def test_asking_for_headers_only_is_no_attempt_to_sign_in(self, database, clock):
        client = create_app(str(database), clock=clock).test_client()
        assert client.head("/sign-in").status_code == 200


def test_before_any_network_the_pages_say_what_to_do(tmp_path, clock):
    from spinel.actions import people
    from spinel.actions.acting import SYSTEM, Act

    app = create_app(str(tmp_path / "empty.sqlite3"), clock=clock)
    app.config["WTF_CSRF_ENABLED"] = False
    people.add_person(
        Act(app.extensions["spinel"], SYSTEM, MOMENT),
        "anna",
        "Anna Boss",
        "a long password",
        ["coordinator"],
        first=True,
    )
    client = app.test_client()
    client.post("/sign-in", data={"login": "anna", "password": "a long password"})
    for path in ("/", "/network", "/jobs"):
        answer = client.get(path)
        assert answer.status_code == 200 and "spinel network import" in answer.text
    assert client.get("/records").status_code == 200


def test_papers_say_what_to_install_when_a_library_is_missing(sign_in, monkeypatch):
    from spinel.web import papers

    monkeypatch.setattr(papers, "missing_packages", lambda: "libpango-1.0-0")
    browser = sign_in("maren")
    page = browser.get("/permits/EWP-0003/paper")
    assert page.status_code == 200 and "apt-get install libpango-1.0-0" in page.text and "PDF, A4" not in page.text
    assert browser.get("/permits/EWP-0003.pdf").status_code == 503


@pytest.mark.parametrize(("size", "points"), [("letter", "612 x 792"), ("a4", "595")])
def test_the_pdf_has_the_size_the_content_the_caution_and_the_code(sign_in, tmp_path, size, points):
    import subprocess

    answer = sign_in("maren").get(f"/permits/EWP-0003.pdf?size={size}")
    assert answer.mimetype == "application/pdf"
    file = tmp_path / "permit.pdf"
    file.write_bytes(answer.data)
    info = subprocess.run(["pdfinfo", file], capture_output=True, text=True, check=True).stdout
    assert points in info
    words = " ".join(subprocess.run(["pdftotext", "-layout", file, "-"], capture_output=True, text=True).stdout.split())
    for expected in ("EWP-0003", "Emergency panel", "tidal gate pumps", "Wanda Keogh", "entries, head", "IN FORCE"):
        assert expected in words, expected
    assert "Local codes" in words and "qualified person must verify" in words
