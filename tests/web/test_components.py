"""The page of all components: for development only, and nothing is missing on it."""

import re
from pathlib import Path

import pytest

from demo_acts import MOMENT
from spinel.core.network.kinds import SWITCHING
from spinel.demo.people import PASSWORD
from spinel.web import components
from spinel.web.app import create_app

PARTS = Path(components.__file__).parent / "templates" / "parts"


def test_it_is_not_there_where_people_work(sign_in):
    assert sign_in("maren").get("/components").status_code == 404


@pytest.fixture
def shown(database):
    app = create_app(str(database), clock=lambda: MOMENT, development=True)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
    answer = client.get("/components")
    assert answer.status_code == 200
    return answer.text


def test_every_macro_of_the_parts_is_used_on_it(shown):
    macros = {m for p in PARTS.glob("*.html") for m in re.findall(r"{% macro ([a-z]\w*)", p.read_text())}
    assert len(macros) > 20
    page = (PARTS.parent / "components" / "components.html").read_text()
    called = set(re.findall(r"\b(\w+)\(", page.replace("beside(", "wrong(")))
    assert macros - called == set()
    assert shown.count("<section id=") >= 20


def test_a_switching_device_of_unknown_position_is_drawn_like_no_other():
    """Unknown is taken for live: it never looks open, nor closed."""
    drawn = {(s.kind, s.position): s.shapes for s in list(components._symbols())[:-1]}
    assert {k for k, _ in drawn} >= set(SWITCHING)
    for kind in SWITCHING:
        known = {shapes for (k, p), shapes in drawn.items() if k == kind and p not in ("unknown", "automatic")}
        assert len(known) >= 2 and drawn[kind, "unknown"] not in known, kind
