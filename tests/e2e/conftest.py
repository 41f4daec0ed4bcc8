"""The real server on a fresh demo, and a browser that may talk to nothing else."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, StorageState, expect

from shared_files import copied, once_for_all_workers
from spinel.demo.people import PASSWORD

#: However slow the machine: a page is waited for by what it shows, not by the clock.
PATIENCE_MS = 120_000
SOAK = bool(os.environ.get("SOAK"))
expect.set_options(timeout=PATIENCE_MS)
#: Who has signed in already at a server, with the cookie that it gave: the form is filled in once a person.
_signed_in: dict[tuple[str, str], StorageState] = {}


@pytest.fixture(scope="session")
def browser_type_launch_args():
    flags = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync",
             # nothing but the server can be reached, and what a page asks for beyond it is counted below
             "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1"]  # fmt: skip
    return {"executable_path": "/usr/bin/chromium-headless-shell", "args": flags}


@pytest.fixture(scope="session")
def demo_of_now(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """`spinel demo`, once for all workers: the demo's moment is this one."""

    def build(path: Path) -> None:
        subprocess.run([sys.executable, "-m", "spinel", "demo"], env={**os.environ, "SPINEL_DB": str(path)}, check=True)

    return once_for_all_workers(tmp_path_factory, "demo_of_now.sqlite3", build)


@contextmanager
def serving(database: Path, folder: Path) -> Iterator[str]:
    """`spinel demo --serve` as the README starts it, on a free port and a copy of a database."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    # one of the daily suite's two servers has two processes, as it ships: each would solve every state by itself
    processes = "2" if SOAK or "switching_walk" in os.environ["PYTEST_CURRENT_TEST"] else "1"
    environment = {**os.environ, "SPINEL_DB": str(folder / "site.sqlite3"), "SPINEL_PORT": str(port)}
    environment["SPINEL_WORKERS"] = processes
    copied(database, Path(environment["SPINEL_DB"]))
    log = folder / "site.log"
    with log.open("w") as out:
        process = subprocess.Popen(
            [sys.executable, "-m", "spinel", "demo", "--serve"], env=environment, stdout=out, stderr=out
        )
    address = f"http://127.0.0.1:{port}"
    until = time.monotonic() + 300
    while True:
        try:
            urllib.request.urlopen(f"{address}/sign-in", timeout=60)
            break
        except OSError:
            assert process.poll() is None, log.read_text()
            assert time.monotonic() < until, f"waited five minutes for the server at {address}"
            time.sleep(0.1)
    yield address
    process.terminate()
    process.wait(20)
    assert "Traceback" not in log.read_text()


@pytest.fixture(scope="session")
def server(demo_of_now: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """One for all walks of a worker."""
    with serving(demo_of_now, tmp_path_factory.mktemp("site")) as address:
        yield address


#: What a browser complains of when a test has a form refused or cuts the connection on purpose.
MEANT = (
    "422 (UNPROCESSABLE",
    "net::ERR_FAILED",
    "409 (CONFLICT",
    "net::ERR_INTERNET_DISCONNECTED",
    "htmx:sendError",
    # a machine that is busy elsewhere: the page says that nobody answers, and asks again
    "htmx:timeout",
    "htmx:afterRequest",
)


class Person:
    """Somebody at a browser: their own context, and every complaint of the browser collected."""

    def __init__(self, browser: Browser, base: str, login: str | None, size: tuple[int, int], touch: bool):
        self.complaints: list[str] = []
        self.base, self.login = base, login
        self.context: BrowserContext = browser.new_context(
            viewport={"width": size[0], "height": size[1]}, has_touch=touch, base_url=base,
            storage_state=_signed_in.get((base, login or "")),
        )  # fmt: skip
        self.context.set_default_timeout(PATIENCE_MS)
        self.context.on("request", self._stays_here)
        self.page: Page = self.context.new_page()
        self.page.on("console", lambda m: self.complaints.append(m.text) if m.type in ("error", "warning") else None)
        self.page.on("pageerror", lambda e: self.complaints.append(str(e)))
        self.page.on("dialog", lambda d: d.accept())

    def _stays_here(self, request) -> None:
        if not request.url.startswith((self.base, "data:", "blob:")):
            self.complaints.append(f"left 127.0.0.1: {request.url}")

    def sign_in(self) -> Page:
        """At the board, signed in; by the form the first time."""
        known = (self.base, self.login or "")
        if known in _signed_in:
            self.page.goto("/")
            if "/sign-in" not in self.page.url:
                return self.page
        # for the first time, or after signing out
        self.page.goto("/sign-in")
        self.page.fill("#login", self.login or "")
        self.page.fill("#password", PASSWORD)
        self.page.get_by_role("button", name="Sign in").click()
        self.page.wait_for_url("**/")
        _signed_in[known] = self.context.storage_state()
        return self.page


@pytest.fixture
def somebody(browser: Browser, server: str) -> Iterator:
    """A function that gives a signed-in page; afterwards no page may have complained."""
    people: list[Person] = []

    def come(login: str | None, size: tuple[int, int] = (1280, 800), touch: bool = False) -> Page:
        person = Person(browser, server, login, size, touch)
        people.append(person)
        return person.sign_in() if login else person.page

    yield come
    complaints = [c for p in people for c in p.complaints if not any(known in c for known in MEANT)]
    for p in people:
        p.context.close()
    assert complaints == []
