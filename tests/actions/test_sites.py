"""Two sites in one process, and what a site remembers of a write that was never committed."""

import os
import sqlite3
import threading

import pytest
from peewee import OperationalError

from demo_acts import MOMENT, PASSWORD, act, element_id, the_site
from shared_files import copied
from spinel.actions import board, jobs, network, people, permits, records, setup
from spinel.actions.acting import Act
from spinel.core.errors import NotFound, NotKept

pytestmark = pytest.mark.long

DEVICE = "52-A"


def position(site):
    return site.as_it_is().now[element_id(DEVICE)].position


def position_of(site, e):
    return site.as_it_is().device(e).position or e.normal_position


def acting(site, login="maren", now=MOMENT):
    who = next(p for p in people.everybody(site) if p.login == login)
    return Act(site, people.actor(site, who.id), now)


@pytest.fixture
def other(database, tmp_path):
    """A second site of the same history, opened beside the first."""
    path = tmp_path / "other.sqlite3"
    copied(database, path)
    return setup.open_site(path)


def test_two_sites_with_opposite_positions_never_see_each_other(database, other):
    here = the_site()
    assert position(here) == position(other) == "closed"
    walked = {e.tag: position_of(here, e) for e in here.as_it_is().network.switches}
    network.walk_down(acting(other), walked | {DEVICE: "open"})
    # both now have an event of the next number, and they say the opposite
    network.walk_down(acting(here), walked | {DEVICE: "closed"})
    assert (position(here), position(other)) == ("closed", "open")
    assert here.as_it_is().event_id == other.as_it_is().event_id
    assert here.as_it_is().liveness != other.as_it_is().liveness
    assert here.as_it_is().study is not other.as_it_is().study
    # one inside the connection of the other: the site that is asked answers
    with other.connection():
        assert position(here) == "closed" and records.head(here) != records.head(other)
        assert board.board(here, MOMENT).off_normal != board.board(other, MOMENT).off_normal
        number = jobs.start(acting(here), element_id("MC1"), "test", "Only on the first", "bus")
    assert jobs.view(here, number).title == "Only on the first"
    with pytest.raises(NotFound):
        jobs.view(other, number)
    # and in threads that run at once
    seen = {}
    threads = [
        threading.Thread(target=lambda s=s: seen.setdefault(s, [position(s) for _ in range(200)]))
        for s in (here, other)
    ]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert (set(seen[here]), set(seen[other])) == ({"closed"}, {"open"})


@pytest.mark.parametrize("fails", ["commit", "statement"])
def test_a_write_that_is_not_committed_is_forgotten(database, monkeypatch, fails):
    """A COMMIT that fails on a full disk leaves nothing in any cache, whatever was asked inside the transaction."""
    site = the_site()
    before, head, event = position(site), records.head(site), site.as_it_is().event_id
    real = site._database.commit

    def full(*args):
        # what the site looks like from inside, cached there if anywhere
        assert position(site) == "open" and site.as_it_is().event_id > event
        raise OperationalError("database or disk is full")

    if fails == "commit":
        monkeypatch.setattr(site._database, "commit", full)
    else:
        monkeypatch.setattr("spinel.store.ledger.append", full)
    with pytest.raises(NotKept, match="disk is full"):
        network.report_found(act("ivo"), element_id(DEVICE), "open", "Handle is down")
    monkeypatch.undo()
    assert real == site._database.commit
    assert (position(site), records.head(site), site.as_it_is().event_id) == (before, head, event)
    # the number that was lost is given again, to an event that says something else
    network.report_found(act("ivo"), element_id("F-A4"), "closed", "Handle is up")
    assert position(site) == before and site.as_it_is().now[element_id("F-A4")].position == "closed"
    assert position(setup.open_site(site.path)) == before


def test_a_commit_refused_by_the_database_itself_is_forgotten_too(database):
    """A full disk as the database knows it: no page can be added."""
    site = the_site()
    before = position(site)
    with site.connection():
        pages = site._database.execute_sql("PRAGMA page_count").fetchone()[0]
        site._database.execute_sql(f"PRAGMA max_page_count = {pages}")
        failed = 0
        for i in range(300):
            try:
                network.report_found(act("ivo"), element_id("F-A4"), "open", f"Look {i} " + "at it " * 60)
            except NotKept:
                failed += 1
                with sqlite3.connect(site.path) as own:
                    last = own.execute("SELECT max(id) FROM field_event").fetchone()[0]
                assert site.as_it_is().event_id == last
                break
        assert failed
    assert position(site) == before and records.verify(site).broken_at is None


def test_another_file_put_in_its_place_is_another_record(database, tmp_path):
    site = the_site()
    old = tmp_path / "old.sqlite3"
    with sqlite3.connect(database) as source, sqlite3.connect(old) as copy:
        source.backup(copy)
    network.report_found(act("ivo"), element_id(DEVICE), "open", "Handle is down")
    assert position(site) == "open"
    for suffix in ("-wal", "-shm"):
        (database.parent / (database.name + suffix)).unlink(missing_ok=True)
    os.replace(old, database)
    assert position(site) == "closed"


def test_a_network_changed_outside_spinel_carries_no_page_but_work_can_be_stopped(built, tmp_path, clock):
    """The strip never says that nothing is in force where it cannot know; no permit says yes."""
    from spinel.actions.figures import network_of
    from spinel.web.app import create_app

    path = tmp_path / "changed.sqlite3"
    copied(built, path)
    with sqlite3.connect(path) as own:
        own.execute("DROP TRIGGER revision_no_update")
        own.execute("""UPDATE revision SET document = replace(document, '"fault_mva_max":', '"fault_mva_max": ')""")
    network_of.cache_clear()
    app = create_app(str(path), clock=clock)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    assert client.post("/sign-in", data={"login": "maren", "password": PASSWORD}).status_code == 302
    head = records.head(app.extensions["spinel"])
    for page in ("/", "/network", "/permits/EWP-0003", "/switching/SP-0005/console", "/strip?seen=5", "/records"):
        answer = client.get(page)
        assert answer.status_code == 500 and "not as it was published" in answer.text, page
        assert "No permit in force" not in answer.text and "in force</b>" not in answer.text
    refused = client.post(f"/network/found/{element_id('F-A4')}", data={"value": "open", "note": "Handle is down"})
    assert refused.status_code == 500 and records.head(app.extensions["spinel"]) == head
    site = app.extensions["spinel"]
    stop = {"version": permits.view(site, "EWP-0003", MOMENT).version, "reason": "The record is damaged"}
    assert client.post("/permits/EWP-0003/suspend", data={**stop, "request_id": "r" * 36}).status_code == 302
    assert permits.view(site, "EWP-0003", MOMENT).state == "suspended"
