"""A database that is locked, read-only or full: pages still read, and acts say plainly that nothing was recorded."""

import sqlite3
from contextlib import contextmanager

import pytest

from demo_acts import permits_of, the_site
from spinel.actions import records
from spinel.demo.people import PASSWORD

PAGES = ("/", "/network", "/jobs", "/permits/EWP-0003", "/switching", "/switching/SP-0005/console", "/people", "/records",
         "/account", "/strip")  # fmt: skip


@contextmanager
def locked(path):
    own = sqlite3.connect(path, isolation_level=None)
    own.execute("BEGIN IMMEDIATE")
    yield
    own.execute("ROLLBACK")
    own.close()


@contextmanager
def read_only(path):
    """Every connection made meanwhile may only read."""
    pragmas = the_site()._database._pragmas
    pragmas.append(("query_only", 1))
    yield
    pragmas.pop()


@pytest.fixture(params=[locked, read_only], ids=["locked", "read-only"])
def shut(request, database, app, monkeypatch):
    site = app.extensions["spinel"]
    monkeypatch.setattr(
        site._database,
        "_pragmas",
        [*(p for p in site._database._pragmas if p[0] != "busy_timeout"), ("busy_timeout", 50)],
    )
    monkeypatch.setattr("demo_acts._open", [site])
    return lambda: request.param(database)


def test_pages_read_while_a_permit_runs_out_and_it_is_entered_afterwards(shut, sign_in, clock):
    maren = sign_in("maren")
    clock.forward(hours=1)
    before = records.head(the_site())
    with shut():
        answers = {path: maren.get(path).status_code for path in PAGES}
        assert answers == dict.fromkeys(PAGES, 200)
        assert (
            "ran out" in maren.get("/permits/EWP-0003").text or "expired" in maren.get("/permits/EWP-0003").text.lower()
        )
        assert records.head(the_site()) == before
    maren.get("/")
    assert records.head(the_site())[0] > before[0]


def test_an_act_says_plainly_that_nothing_was_recorded(shut, sign_in):
    maren, before = sign_in("maren"), records.head(the_site())
    seen = permits_of("EWP-0003")
    with shut():
        answer = maren.post("/permits/EWP-0003/suspend", {"version": seen.version, "reason": "Smoke at the door"})
        assert answer.status_code == 503 and "Nothing was recorded" in answer.text and "by voice" in answer.text
        assert records.head(the_site()) == before
    answer = maren.post("/permits/EWP-0003/suspend", {"version": seen.version, "reason": "Smoke at the door"})
    assert answer.status_code == 302 and permits_of("EWP-0003").state == "suspended"


def test_whoever_is_signed_in_stays_so_and_nobody_signs_in_unseen(shut, sign_in, app, database):
    """The count of wrong passwords cannot be kept: then none is tried."""
    maren = sign_in("maren")
    with locked(f"{database}.beside"), pytest.MonkeyPatch.context() as patch:
        patch.setattr("spinel.store.beside.sqlite3.connect", _impatient(sqlite3.connect))
        assert maren.get("/").status_code == 200
        answer = app.test_client().post("/sign-in", data={"login": "ivo", "password": "wrong"})
        assert answer.status_code == 503 and "Nothing was recorded" in answer.text
        # the next person at this browser is not Maren, whatever can be written down
        assert maren.post("/sign-out").status_code == 302
        assert "/sign-in" in maren.get("/").headers["Location"]


def test_a_clock_that_cannot_be_noted_keeps_nobody_from_stopping_work(database):
    """As a real server watches it, with the file beside it locked; the record itself takes entries."""
    from spinel.web.app import create_app

    app = create_app(str(database))
    app.config["WTF_CSRF_ENABLED"] = False
    maren = app.test_client()
    assert maren.post("/sign-in", data={"login": "maren", "password": PASSWORD}).status_code == 302
    with locked(f"{database}.beside"), pytest.MonkeyPatch.context() as patch:
        patch.setattr("spinel.store.beside.sqlite3.connect", _impatient(sqlite3.connect))
        patch.setattr("spinel.web.clockwatch._counted", lambda: -1e9)
        data = {"version": permits_of("EWP-0003").version, "reason": "Smoke at the door"}
        assert maren.post("/permits/EWP-0003/suspend", data=data).status_code == 302
    assert permits_of("EWP-0003").state == "suspended"


def test_a_damaged_file_beside_signs_everybody_out_and_stands_in_nobodys_way(sign_in, database):
    maren = sign_in("maren")
    for end in ("", "-wal", "-shm"):
        database.with_name(f"{database.name}.beside{end}").unlink(missing_ok=True)
    database.with_name(f"{database.name}.beside").write_text("not a database, " * 300)
    assert "/sign-in" in maren.get("/").headers["Location"]
    assert sign_in("maren").get("/").status_code == 200
    assert database.with_name(f"{database.name}.beside.damaged").read_text().startswith("not a database")


def _impatient(connect):
    return lambda *where, **how: connect(*where, **{**how, "timeout": 0.05})
