"""How often a page or an act asks the database: no list asks per row, a confirmation and a pulse stay small."""

import uuid

import pytest
from peewee import SqliteDatabase

from demo_acts import act, element_id, person, the_site
from spinel.actions import jobs, program_view
from spinel.demo.switching import typed

PROGRAM = "SP-0005"


@pytest.fixture
def asked(monkeypatch):
    """Every statement that was sent to a database."""
    found = []
    real = SqliteDatabase.execute_sql

    def execute_sql(self, sql, params=None, *rest, **named):
        found.append(sql)
        return real(self, sql, params, *rest, **named)

    monkeypatch.setattr(SqliteDatabase, "execute_sql", execute_sql)
    return found


def test_a_confirmation_asks_under_27_times_and_a_pulse_under_3(sign_in, asked):
    ivo = sign_in("ivo")
    ivo.get(f"/switching/{PROGRAM}/console")
    counts = {}
    while (seen := program_view.view(the_site(), PROGRAM)).state == "executing":
        data = {"step": seen.done + 1, "version": seen.version, "request_id": str(uuid.uuid4()),
                **typed(seen.current, person("sorcha"))}  # fmt: skip
        # who is looked up for the form is the test's own question
        asked.clear()
        answer = ivo.post(f"/switching/{PROGRAM}/confirm", data=data, headers={"X-Console": "yes"})
        assert answer.status_code == 200
        counts[f"{seen.done + 1} {seen.current.kind}"] = len(asked)
        asked.clear()
        version, mark = program_view.version_of(the_site(), PROGRAM)
        asked.clear()
        assert ivo.get(f"/switching/{PROGRAM}/pulse?version={version}&mark={mark}&met=0").status_code == 204
        assert len(asked) < 3, asked
    handover = [k for k in counts if "handover" in k]
    assert len(counts) > 5 and handover
    # after an operation everything that it may touch is reviewed
    moved = [k for k in counts if k.endswith(("operate", "check"))]
    assert {k: n for k, n in counts.items() if n >= 27 and k not in (*handover, *moved)} == {}
    assert counts[handover[0]] < 35, counts


@pytest.mark.parametrize("page", ["/jobs?state=all", "/switching?state=all", "/", "/records", "/find?q=MC"])
def test_a_list_asks_no_more_when_it_is_longer(sign_in, asked, page):
    maren = sign_in("maren")

    def count():
        maren.get(page)
        asked.clear()
        assert maren.get(page).status_code == 200
        return len(asked)

    before = count()
    for i in range(12):
        jobs.start(act("maren"), element_id("MC1"), "test", f"One more MC job {i}", "bus")
    # gear, opinions, improvements and findings to see to are among them
    assert count() <= before <= 30


def test_a_page_asks_no_more_however_often_somebody_was_warned(sign_in, asked):
    """Found by fifty people in ten minutes: each warning was one more query on every page."""
    from spinel.actions import board, network

    nils = sign_in("nils")

    def count():
        nils.get("/jobs")
        asked.clear()
        assert nils.get("/jobs").status_code == 200
        return len(asked)

    def find(value):
        network.report_found(act("edda"), element_id("MC1-2B"), value, f"It is {value}")

    find("open")
    before = count()
    for value in ("closed", "open", "closed", "open"):
        find(value)
    assert count() == before
    (warning,) = board.warnings_for(the_site(), person("nils"))
    assert warning[0] == "SP-0003" and "open" in nils.get("/jobs").text


def test_a_page_is_of_one_moment(sign_in, app, monkeypatch):
    """What somebody else does while a page is read is on the next one, whole; a page read never writes."""
    from spinel.actions import network

    maren, site = sign_in("maren"), app.extensions["spinel"]
    before = site.as_it_is().event_id
    with site.snapshot():
        assert site.as_it_is().event_id == before
        network.report_found(act("ivo"), element_id("F-A4"), "closed", "Handle is up")
        assert site.as_it_is().event_id == before
        with pytest.raises(RuntimeError, match="nothing is written"), site.transaction():
            pass
    assert site.as_it_is().event_id == before + 1
    assert "Handle is up" in maren.get("/records?act=found").text


@pytest.mark.parametrize(
    ("typed", "leads_to"),
    [
        ("ewp-0003", "/permits/EWP-0003"),
        ("J-0001", "/jobs/J-0001"),
        (" SP-0005 ", "/switching/SP-0005"),
        ("MC1", f"/network?e={element_id('MC1')}"),
    ],
)
def test_an_exact_tag_or_number_goes_straight_there(sign_in, typed, leads_to):
    answer = sign_in("edda").get("/find", query_string={"q": typed})
    assert answer.status_code == 302 and answer.location == leads_to


@pytest.mark.parametrize("typed", ["MC", "EWP", "", "no such thing"])
def test_what_is_not_exact_is_listed(sign_in, typed):
    assert sign_in("edda").get("/find", query_string={"q": typed}).status_code == 200


def test_long_lists_come_a_page_at_a_time_and_every_row_stands_on_one(sign_in, open_db):
    import re

    for i in range(60):
        jobs.start(act("maren"), element_id("MC1"), "test", f"Look at it, time {i}", "bus")
    total, maren = jobs.count(the_site()), sign_in("maren")
    seen, first = [], 0
    while first is not None:
        page = maren.get("/jobs", query_string={"state": "all", "first": first}).text
        found = re.findall(r'class="tag num" href="/jobs/(J-\d+)"', page)
        assert found and len(found) <= 50 and f"{total} " in page
        seen += found
        older = re.search(r'first=(\d+)&amp;state=all">Older', page)
        first = int(older[1]) if older else None
    assert len(seen) == len(set(seen)) == total > 70
    for nonsense in ("-1", "999999", "x", "7"):
        assert maren.get("/jobs", query_string={"first": nonsense}).status_code == 200
