"""The server as it stands in a network: whom it answers, under which names, alone on its database; and what it tells
whoever watches it."""

import os
import sqlite3

import click
import pytest

from demo_acts import MOMENT, the_site
from spinel.actions import upkeep
from spinel.commands import serve
from spinel.web.app import from_environment


@pytest.fixture
def served(database, monkeypatch):
    def make(**environment):
        monkeypatch.setenv("SPINEL_DB", str(database))
        for name, value in environment.items():
            monkeypatch.setenv(name, value)
        return from_environment().test_client()

    return make


@pytest.mark.parametrize("host", ["evil.example", "localhost.evil.example", "127.0.0.1.evil.example", "a@b", ""])
def test_no_foreign_name_is_answered_or_printed(served, host):
    answer = served().get("/sign-in", headers={"Host": host})
    assert answer.status_code == 400 and "evil" not in answer.text


def test_the_names_that_the_site_is_opened_by_are_answered(served):
    client = served(SPINEL_BASE_URL="https://spinel.port.example/", SPINEL_HOSTS="10.0.0.5, quay")
    for host in ("localhost", "127.0.0.1:8000", "spinel.port.example", "10.0.0.5:8000", "quay"):
        assert client.get("/sign-in", headers={"Host": host}).status_code == 200, host


def test_only_a_proxy_of_our_own_says_where_somebody_is(served):
    """Behind one proxy the address that it adds counts; what a guesser writes before it does not."""
    from spinel.store import attempts

    far = {"X-Forwarded-For": "198.51.100.7, 203.0.113.9"}
    for proxies, address in (("0", "127.0.0.1"), ("1", "203.0.113.9")):
        client = served(SPINEL_PROXIES=proxies)
        client.application.config["WTF_CSRF_ENABLED"] = False
        client.post("/sign-in", data={"login": "ivo", "password": "wrong"}, headers=far)
        assert len(attempts.failures(the_site().path, "ivo", address, "2020-01-01T00:00:00Z")) == 1


def test_one_server_a_database(tmp_path, monkeypatch):
    monkeypatch.setattr(serve, "PATIENCE_S", 0.1)
    serve._alone(str(tmp_path / "site.sqlite3"))
    with pytest.raises(click.ClickException, match="another server serves"):
        serve._alone(str(tmp_path / "site.sqlite3"))
    serve._alone(str(tmp_path / "other.sqlite3"))


@pytest.mark.parametrize(("name", "value"), [("SPINEL_PORT", "eighty"), ("SPINEL_PORT", "70000"), ("SPINEL_WORKERS", "0"),
                                             ("SPINEL_PROXIES", "-1"), ("SPINEL_WORKERS", "٣")])  # fmt: skip
def test_a_setting_that_cannot_be_is_named(tmp_path, monkeypatch, name, value):
    monkeypatch.setenv(name, value)
    monkeypatch.setattr(os, "execv", lambda *_: pytest.fail("served all the same"))
    with pytest.raises(click.ClickException, match=name):
        serve.run_server(str(tmp_path / "site.sqlite3"))


class TestHealth:
    @pytest.fixture(autouse=True)
    def at_once(self, monkeypatch, request):
        if "often" not in request.node.name:
            monkeypatch.setattr("spinel.web.health.FRESH_S", 0)

    def test_whoever_asks_often_does_not_stand_in_line_each_time(self, app, monkeypatch):
        look, asked = app.test_client().get, []
        look("/healthz")
        monkeypatch.setattr("spinel.actions.health.look", lambda *_: asked.append(1))
        assert look("/healthz").json["well"] and asked == []

    def test_it_is_well_and_says_nothing_of_the_site(self, app):
        answer = app.test_client().get("/healthz")
        assert answer.status_code == 200 and answer.json["well"] and answer.json["backup_h"] is None
        assert "EWP" not in answer.text and "Quay" not in answer.text
        upkeep.keep(the_site().path, MOMENT, None)
        assert app.test_client().get("/healthz").json["verified_h"] == 0

    def test_a_record_that_is_not_what_was_recorded_a_locked_one_and_a_clock_in_doubt_are_not_well(
        self, app, clock, monkeypatch
    ):
        look = app.test_client().get
        monkeypatch.setattr("spinel.actions.health.PATIENCE_MS", 50)
        own = sqlite3.connect(the_site().path, isolation_level=None)
        own.execute("BEGIN IMMEDIATE")
        assert look("/healthz").status_code == 503 and not look("/healthz").json["database_writable"]
        own.execute("ROLLBACK")
        clock.forward(hours=-1)
        assert look("/healthz").status_code == 503 and look("/healthz").json["clock_in_doubt"]
