"""Lines of the security standard that one look at the answers settles (docs/security.md names them)."""

import re

import pytest
from test_roles import addresses

from demo_acts import MOMENT, PASSWORD, the_site
from spinel.actions import records
from spinel.web.app import create_app


def test_any_sign_that_is_seen_may_stand_in_a_password(app, sign_in):
    new = "Tåg 漢字 🙂 «rope» \\ ' \" over the quay"
    edda = sign_in("edda")
    assert edda.post("/account/password", data={"old": PASSWORD, "new": new}).status_code == 302
    client = app.test_client()
    assert client.post("/sign-in", data={"login": "edda", "password": new}).status_code == 302
    assert app.test_client().post("/sign-in", data={"login": "edda", "password": new + " "}).status_code == 422


def test_password_managers_find_their_fields(app, sign_in):
    assert 'autocomplete="current-password"' in app.test_client().get("/sign-in").text
    fields = re.findall(r"<input[^>]*type=\"password\"[^>]*>", sign_in("edda").get("/account").text)
    assert len(fields) == 4 and not [f for f in fields if 'autocomplete="off"' in f and "code" not in f]


@pytest.mark.parametrize(("base", "secure"), [("https://spinel.example", True), ("http://spinel.example", False)])
def test_cookies_and_pages_are_for_tls_alone_where_it_is_served_so(database, base, secure):
    client = create_app(str(database), base, clock=lambda: MOMENT).test_client()
    answer = client.get("/sign-in", base_url=base)
    assert ("Secure" in answer.headers["Set-Cookie"]) == secure
    assert ("Strict-Transport-Security" in answer.headers) == secure


def test_what_an_address_alone_asks_for_changes_nothing(app, sign_in):
    """Every page there is, asked for: the record stands where it stood."""
    maren = sign_in("maren")
    before = records.head(the_site())
    asked = [address for endpoint, method, address, _ in addresses(app) if method == "GET" and "pdf" not in endpoint]
    for address in asked:
        assert maren.get(address).status_code < 500, address
    assert len(asked) > 40 and records.head(the_site()) == before


def test_what_is_for_developers_is_not_there(app, sign_in):
    assert sign_in("maren").get("/components").status_code == 404
    assert not app.debug and not app.testing and not app.config["PROPAGATE_EXCEPTIONS"]
