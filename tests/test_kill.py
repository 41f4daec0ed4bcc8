"""SIGKILL before commit, after commit before the answer, and during the retry: nothing confirmed is lost or doubled."""

import os
import signal
import time
import urllib.error
import urllib.parse
import urllib.request
from functools import partial
from multiprocessing import get_context

import pytest
from flask import request
from werkzeug.serving import make_server

from demo_acts import MOMENT, PASSWORD, element_id, the_site
from spinel.actions import jobs, permits, records, setup
from spinel.web.app import create_app


def serve(where: str, path, port: int) -> None:
    """A server that kills itself at the named moment of its first write with the marked request."""
    app = create_app(str(path), clock=lambda: MOMENT)
    app.config["WTF_CSRF_ENABLED"] = False
    kept = app.extensions["spinel"]._database
    really = kept.commit

    def marked() -> bool:
        return bool(request) and request.form.get("mark") == "die"

    def die() -> None:
        os.kill(os.getpid(), signal.SIGKILL)

    def commit(*args):
        if marked() and where == "before_commit":
            die()
        result = really(*args)
        if marked() and where == "after_commit":
            die()
        return result

    kept.commit = commit
    if where == "at_retry":
        app.before_request(lambda: die() if marked() else None)
    make_server("127.0.0.1", port, app, threaded=True).serve_forever()


class Killable:
    """A process of its own, forked from one that has loaded everything: a start costs no seconds."""

    def __init__(self, path, where: str, port: int):
        self.base = f"http://127.0.0.1:{port}"
        self.process = get_context("fork").Process(target=serve, args=(where, path, port))
        self.process.start()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor())
        self.wait_until_it_answers()
        self.post("/sign-in", login="maren", password=PASSWORD)

    def wait_until_it_answers(self, patience_s: float = 180):
        """However slow the machine: the server tells when it is up by answering, or has ended and said why."""
        until = time.monotonic() + patience_s
        while self.process.is_alive() and time.monotonic() < until:
            try:
                return self.opener.open(f"{self.base}/sign-in", timeout=patience_s)
            except (urllib.error.URLError, ConnectionError):
                time.sleep(0.05)
        if self.process.is_alive():
            raise TimeoutError(f"waited {patience_s} s for the server to answer at {self.base}/sign-in")
        raise RuntimeError(f"the server ended before it answered, with {self.process.exitcode}")

    def post(self, path: str, **data):
        body = urllib.parse.urlencode(data, doseq=True).encode()
        return self.opener.open(self.base + path, body, timeout=180).read().decode()

    def died(self) -> bool:
        self.process.join(60)
        return self.process.exitcode == -signal.SIGKILL

    def stop(self):
        self.process.kill()
        self.process.join(60)


def free_port() -> int:
    import socket

    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


def start_a_job(server, request_id, mark=""):
    return server.post("/jobs/new", element=element_id("MC1"), task="test", title="Survives", touches="bus",
                       request_id=request_id, mark=mark)  # fmt: skip


def count(path):
    site = setup.open_site(path)
    assert records.verify(site).broken_at is None
    jobs_found = sum(j.title == "Survives" for j in jobs.lines(site))
    entries = sum(e.act == "job started" and "Survives" in e.payload for e in records.entries(site))
    assert jobs_found == entries
    return jobs_found


@pytest.mark.parametrize(("where", "kept"), [("before_commit", 0), ("after_commit", 1)])
def test_killed_around_the_commit_and_again_at_the_retry(database, where, kept):
    """The act is whole or absent; the retry with the same request id leaves it there exactly once."""
    request_id = "kill-test-request-0001"
    server = Killable(database, where, free_port())
    with pytest.raises(Exception):  # noqa: B017  the connection breaks one way or another
        start_a_job(server, request_id, mark="die")
    assert server.died()
    assert count(database) == kept
    server = Killable(database, "at_retry", free_port())
    with pytest.raises(Exception):  # noqa: B017
        start_a_job(server, request_id, mark="die")
    assert server.died()
    assert count(database) == kept
    server = Killable(database, "never", free_port())
    assert "Survives" in start_a_job(server, request_id)
    assert "Survives" in start_a_job(server, request_id)
    server.stop()
    assert count(database) == 1


@pytest.mark.parametrize(("where", "state"), [("before_commit", "in_force"), ("after_commit", "suspended")])
def test_a_permit_stands_where_record_and_ledger_both_say(database, where, state):
    version = permits.view(the_site(), "EWP-0003", MOMENT).version
    server = Killable(database, where, free_port())
    data = {"version": version, "reason": "Lights flicker", "request_id": "kill-test-suspend-01"}
    with pytest.raises(Exception):  # noqa: B017
        server.post("/permits/EWP-0003/suspend", **data, mark="die")
    assert server.died()
    site = setup.open_site(database)
    seen = permits.view(site, "EWP-0003", MOMENT)
    assert seen.state == state and records.verify(site).broken_at is None
    told = sum(e.act == "permit suspended" for e in records.entries(site, subject="permit:EWP-0003"))
    assert told == (state == "suspended") == sum(r.kind == "suspended" for r in seen.records)
    server = Killable(database, "never", free_port())
    server.post("/permits/EWP-0003/suspend", **data)
    server.stop()
    site = setup.open_site(database)
    seen = permits.view(site, "EWP-0003", MOMENT)
    assert seen.state == "suspended" and sum(r.kind == "suspended" for r in seen.records) == 1


def killed_at(where, path, number, request_id):
    """Fork, confirm the next step in the child, die at the moment; the child has a connection of its own."""
    from demo_acts import act, opened
    from spinel.actions import console, program_view
    from switching_acts import readings

    child = os.fork()
    if child == 0:
        try:
            site = opened(setup.open_site(path))
            seen = program_view.view(site, number)
            real = site._database.commit

            def commit(*args):
                if where == "before_commit":
                    os.kill(os.getpid(), signal.SIGKILL)
                real(*args)
                os.kill(os.getpid(), signal.SIGKILL)

            site._database.commit = commit
            sent = readings(seen.current)
            console.confirm(act("ivo", request_id), number, seen.done + 1, seen.version, sent)
        finally:
            os._exit(1)
    assert os.WIFSIGNALED(os.waitpid(child, 0)[1])


def isolation_of(tag):
    from demo_acts import act
    from spinel.actions import programs
    from switching_acts import start_job

    return programs.draft(act("maren"), start_job(tag))


def transfer():
    from demo_acts import act, element_id
    from spinel.actions import switchings
    from switching_acts import start_job

    goal = {element_id("52-TIE"): "closed", element_id("52-A"): "open"}
    return switchings.draft(act("maren"), start_job("T1"), goal)


def restoration_of(tag):
    from demo_acts import act, the_site
    from spinel.actions import box, programs
    from switching_acts import ready, run

    number = isolation_of(tag)
    ready(number)
    run(number)
    box.take(act("sorcha"), number)
    box.complete(act("sorcha"), number)
    return next(p.number for p in programs.lines(the_site()) if (p.hold, p.purpose) == (number, "restoration"))


#: Between them every kind of step; the soak kills in all of them.
PROGRAMS = {
    "MC2": partial(isolation_of, "MC2"), "transfer": transfer, "above the ceiling": partial(isolation_of, "SWB-B"),
    "phasing": partial(restoration_of, "W-P31"), "with stored energy": partial(isolation_of, "H-1"),
}  # fmt: skip


#: The soak kills at every step, the daily suite at every third.
EACH = 1 if os.environ.get("SOAK") else 3


@pytest.mark.parametrize("made", PROGRAMS if os.environ.get("SOAK") else ["MC2"])
def test_killed_at_each_step_of_a_program_it_stands_at_n_or_n_plus_one_and_the_retry_leaves_it_there_once(
    database, made
):
    """Ledger and fold say the same after every kill; a second kill in the middle of the retry changes nothing."""
    from demo_acts import act, the_site
    from spinel.actions import console, program_view
    from switching_acts import confirm, readings, ready

    number = PROGRAMS[made]()
    ready(number)
    steps = program_view.view(the_site(), number).steps
    for i, step in enumerate(steps):
        if i % EACH:
            confirm(number)
            continue
        request_id = f"step-{i:032d}"
        made_for = program_view.view(the_site(), number).version
        killed_at("before_commit", database, number, request_id)
        stood(number, i, step, database)
        # the retry is killed too, its answer never sent; then it is made a third time
        killed_at("after_commit", database, number, request_id)
        stood(number, i + 1, step, database)
        again = console.confirm(act("ivo", request_id), number, i + 1, made_for, readings(step))
        assert again == "already"
        stood(number, i + 1, step, database)
    assert program_view.view(the_site(), number).state == "done"
    if made == "MC2":
        assert the_site().as_it_is().state_of(the_site().as_it_is().network.by_tag["MC2"]) == "proved"


def stood(number, done, step, path):
    """The program, the ledger and the fold of the field agree on how many steps are done; the chain is whole."""
    from spinel.actions import program_view
    from spinel.core.switching.steps import condition

    site = setup.open_site(path)
    seen = program_view.view(site, number)
    told = [e for e in records.entries(site, subject=f"program:{number}", act="program step confirmed")]
    assert (seen.done, len(told), len(seen.valid("confirmed"))) == (done, done, done)
    says = condition(site.as_it_is().field, step, seen.hold)
    before_or_after = step.after if done and seen.steps[done - 1] == step else step.before
    assert step.before == step.after or says == before_or_after
    assert records.verify(site).broken_at is None
