"""Fifty people at work at once: no error, nobody waits long, and memory stays; and with workers killed meanwhile nothing
that was confirmed is lost. Long: in the soak, with LOAD_S seconds and KILLS kills.

Each acts every five seconds on average, seeded; four of five acts read. The client is on the same machine.
"""

from __future__ import annotations

import http.client
import os
import random
import re
import signal
import socket
import subprocess
import sys
import threading
import time
from collections import Counter
from datetime import UTC, datetime
from pathlib import Path
from urllib.parse import urlencode, urlsplit

import pytest

from shared_files import copied
from spinel.actions import jobs, people, setup
from spinel.actions.acting import Act
from spinel.actions.backup import backup
from spinel.actions.passwords import each_once
from spinel.actions.verifying import verify
from spinel.demo.build import build
from spinel.demo.people import PASSWORD

SECONDS = float(os.environ.get("LOAD_S", "600"))
USERS, EVERY_S, READING = 50, 5.0, 0.8
READS_MS, WRITES_MS = 300, 600
READS = ("/", "/network", "/jobs?state=all", "/switching", "/records", "/people", "/permits/EWP-0003",
         "/permits/EWP-0004", "/switching/SP-0005", "/switching/SP-0003", "/strip", "/find?q=MC", "/account")  # fmt: skip
FOUND = ("F-B2", "F-A4", "F-B3", "MC1-2B", "MC2-2B")

pytestmark = pytest.mark.skipif("SOAK" not in os.environ, reason="long: make soak")


class User(threading.Thread):
    """Somebody at a browser that keeps its connection, with one session."""

    def __init__(self, base: str, login: str, site: Site, until: float, seed: int):
        super().__init__(daemon=True)
        self.address, self.login, self.site, self.until = urlsplit(base), login, site, until
        self.random = random.Random(seed)
        self.cookie, self.token = "", ""
        self.every_s = EVERY_S
        self.confirmed: list[str] = []
        self.took: dict[str, list[tuple[float, float, str]]] = {"read": [], "write": []}
        self.wrong: list[str] = []

    def run(self) -> None:
        self._asked("GET", "/sign-in")
        self._asked("POST", "/sign-in", {"login": self.login, "password": PASSWORD})
        self._asked("GET", "/")
        while time.monotonic() < self.until:
            time.sleep(self.random.expovariate(1 / self.every_s))
            if self.random.random() < READING:
                path = self.random.choice((*READS, f"/network/card/{self._element()}"))
                self._timed("read", "GET", path, None, (200,))
            else:
                self._timed("write", "POST", *self._write(), (200, 302, 422))

    def _element(self) -> str:
        return self.random.choice(list(self.site.values()))

    def _write(self) -> tuple[str, dict[str, str]]:
        which = self.random.random()
        if which < 0.5:
            tag = self.random.choice(FOUND)
            value = self.random.choice(("open", "closed"))
            return f"/network/found/{self.site[tag]}", {"value": value, "note": f"Seen by {self.login}"}
        if which < 0.9:
            title = f"Look at it, {self.login} {len(self.took['write'])}"
            return "/jobs/new", {"element": self._element(), "task": "inspect", "touches": "bus", "title": title}
        return "/people/nobody/leave", {"reason": "There is none"}

    def _timed(self, kind: str, method: str, path: str, data: dict[str, str] | None, wanted: tuple[int, ...]) -> None:
        began = time.monotonic()
        status = self._asked(method, path, data)
        self.took[kind].append((time.monotonic() - began, began, path.rpartition("/")[0]))
        if status == 302 and data and "title" in data:
            self.confirmed.append(data["title"])
        if status not in wanted and not (status in (404, 403) and "nobody" in path):
            self.wrong.append(f"{method} {path}: {status}")

    def _asked(self, method: str, path: str, data: dict[str, str] | None = None) -> int:
        own = http.client.HTTPConnection(self.address.hostname or "", self.address.port, timeout=60)
        headers = {"Cookie": self.cookie, "Accept-Encoding": "gzip"}
        body = None
        if data is not None:
            request_id = f"{self.random.getrandbits(128):032x}"
            body = urlencode({**data, "csrf_token": self.token, "request_id": request_id})
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        else:
            headers.pop("Accept-Encoding")
        try:
            own.request(method, path, body, headers)
            answer = own.getresponse()
            text = answer.read()
        except (OSError, http.client.HTTPException) as error:
            self.wrong.append(f"{method} {path}: {error!r}")
            return 0
        finally:
            own.close()
        if cookie := answer.headers.get("Set-Cookie"):
            self.cookie = cookie.partition(";")[0]
        if found := re.search(rb'name="csrf_token" value="([^"]+)"', text):
            self.token = found[1].decode()
        return answer.status


Site = dict[str, str]


@pytest.fixture
def crowd(tmp_path):
    """The demo of now with fifty people who may report and start jobs."""
    path = tmp_path / "making.sqlite3"
    site = setup.open_site(path)
    now = datetime.now(UTC)
    build(site, now)
    maren = people.actor(site, next(p.id for p in people.everybody(site) if p.login == "maren"))
    logins = [f"user{i:02}" for i in range(USERS)]
    with each_once():
        for login in logins:
            people.add_person(Act(site, maren, now), login, f"Person {login}", PASSWORD, ["coordinator"])
    elements = {e.tag: e.id for e in site.as_it_is().network.elements if e.tag}
    return copied(path, tmp_path / "site.sqlite3"), logins, elements


@pytest.fixture
def served(crowd, tmp_path):
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    log = (tmp_path / "log").open("w")
    environment = {**os.environ, "SPINEL_DB": str(crowd[0]), "SPINEL_PORT": str(port)}
    server = subprocess.Popen([sys.executable, "-m", "spinel", "serve"], env=environment, stdout=log, stderr=log)
    base, until = f"http://127.0.0.1:{port}", time.monotonic() + 120
    while time.monotonic() < until:
        try:
            socket.create_connection(("127.0.0.1", port), 1).close()
            break
        except OSError:
            time.sleep(0.1)
    yield base, server.pid, tmp_path / "log"
    server.terminate()
    server.wait(60)


def memory_mb(server: int) -> float:
    """Of the server and its workers."""
    found = 0.0
    for status in Path("/proc").glob("[0-9]*/status"):
        try:
            text = status.read_text()
        except OSError:
            continue
        if re.search(rf"^(Pid|PPid):\t{server}$", text, re.M):
            found += int(re.search(r"^VmRSS:\s+(\d+)", text, re.M)[1]) / 1024
    return found


def p95_ms(took) -> float:
    ordered = sorted(t for t, *_ in took)
    return ordered[int(len(ordered) * 0.95)] * 1000 if ordered else 0.0


def test_fifty_people_at_once(crowd, served, capsys):
    path, logins, elements = crowd
    base, server, log = served
    seed = int(os.environ.get("LOAD_SEED", "7"))
    until = time.monotonic() + SECONDS
    users = [User(base, login, elements, until, seed * 1000 + i) for i, login in enumerate(logins)]
    for user in users:
        user.start()
    at = []
    while time.monotonic() < until:
        time.sleep(max(1.0, SECONDS / 30))
        at.append(memory_mb(server))
    for user in users:
        user.join(120)
    reads = [t for u in users for t in u.took["read"]]
    writes = [t for u in users for t in u.took["write"]]
    wrong = Counter(w for u in users for w in u.wrong)
    slow = sorted(reads + writes, reverse=True)[:8]
    places: dict[str, list[float]] = {}
    for t, _, p in reads + writes:
        places.setdefault(p, []).append(t)
    by_place = {p: (len(ts), round(p95_ms([(t,) for t in ts]))) for p, ts in sorted(places.items())}
    begin = min((b for _, b, _ in reads), default=0.0)
    minutes = [
        round(p95_ms([t for t in reads + writes if m * 60 <= t[1] - begin < (m + 1) * 60]))
        for m in range(int(SECONDS // 60))
    ]
    with capsys.disabled():
        print(f"\nseed {seed}: {len(reads)} reads p95 {p95_ms(reads):.0f} ms, {len(writes)} writes p95 {p95_ms(writes):.0f} ms, "
              f"memory {at[len(at) // 3]:.0f} to {at[-1]:.0f} MB, slowest {[(round(t, 2), p) for t, _, p in slow]}, by place {by_place}, by minute {minutes}")  # fmt: skip
    assert wrong == Counter() and "Traceback" not in log.read_text()
    assert len(reads) + len(writes) >= 0.9 * USERS * SECONDS / (EVERY_S + 1)
    assert verify(path).found == () and len(jobs.lines(setup.open_site(path))) > 20
    assert p95_ms(reads) < READS_MS and p95_ms(writes) < WRITES_MS
    assert at[-1] < 1.2 * at[len(at) // 3]


def children(server: int) -> list[int]:
    """The workers of the server."""
    found = subprocess.run(["pgrep", "-P", str(server)], capture_output=True, text=True, check=False).stdout.split()
    return [int(pid) for pid in found]


def test_workers_killed_while_people_work_and_backups_are_taken(crowd, served, tmp_path, capsys):
    """What was answered as recorded is there once; each backup is whole; the record is what was recorded."""
    path, logins, elements = crowd
    base, server, _ = served
    seed, wanted = int(os.environ.get("LOAD_SEED", "7")), int(os.environ.get("KILLS", "300"))
    rng, far = random.Random(seed), time.monotonic() + 24 * 3600
    users = [User(base, login, elements, far, seed * 1000 + i) for i, login in enumerate(logins[:20])]
    for user in users:
        user.every_s = 1.0
        user.start()
    time.sleep(10)
    killed, copies = 0, []
    # however slow the machine: until enough was confirmed between the kills to be lost
    while killed < wanted or sum(len(user.confirmed) for user in users) <= wanted / 3:
        time.sleep(rng.uniform(0.3, 1.6))
        if workers := children(server):
            try:
                os.kill(rng.choice(workers), signal.SIGKILL)
                killed += 1
            except ProcessLookupError:
                continue
        if killed % 25 == 0:
            copies.append(backup(path, tmp_path / f"copy{len(copies)}.sqlite3", datetime.now(UTC)).path)
    for user in users:
        user.until = 0.0
    for user in users:
        user.join(120)
    titles = Counter(line.title for line in jobs.lines(setup.open_site(path)))
    confirmed = [title for user in users for title in user.confirmed]
    with capsys.disabled():
        print(f"\nseed {seed}: {killed} kills, {len(confirmed)} confirmed, {len(copies)} backups")
    assert len(confirmed) > wanted / 3 and len(set(confirmed)) == len(confirmed)
    assert [title for title in confirmed if titles[title] != 1] == []
    assert [title for title, count in titles.items() if title.startswith("Look at it, user") and count > 1] == []
    assert verify(path).found == () and all(verify(copy).found == () for copy in copies)
