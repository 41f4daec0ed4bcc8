"""The real server on a fresh demo, and a browser that may talk to nothing else."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from spinel.demo.people import PASSWORD

expect.set_options(timeout=20_000)


@pytest.fixture(scope="session")
def browser_type_launch_args():
    flags = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
             "--disable-component-update", "--disable-sync"]  # fmt: skip
    return {"executable_path": "/usr/bin/chromium", "args": flags}


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """`spinel demo --serve` as the README starts it, on a free port and a database of its own."""
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        port = s.getsockname()[1]
    environment = {**os.environ, "SPINEL_DB": str(tmp_path_factory.mktemp("site") / "site.sqlite3"),
                   "SPINEL_PORT": str(port)}  # fmt: skip
    log = Path(environment["SPINEL_DB"]).with_suffix(".log")
    with log.open("w") as out:
        process = subprocess.Popen(
            [sys.executable, "-m", "spinel", "demo", "--serve"], env=environment, stdout=out, stderr=out
        )
    address = f"http://127.0.0.1:{port}"
    for _ in range(300):
        try:
            urllib.request.urlopen(f"{address}/sign-in", timeout=2)
            break
        except OSError:
            assert process.poll() is None, log.read_text()
            time.sleep(0.2)
    yield address
    process.terminate()
    process.wait(20)
    assert "Traceback" not in log.read_text()


#: What a browser complains of when a test has a form refused or cuts the connection on purpose.
MEANT = (
    "422 (UNPROCESSABLE",
    "net::ERR_FAILED",
    "409 (CONFLICT",
    "net::ERR_INTERNET_DISCONNECTED",
    "htmx:sendError",
    "htmx:afterRequest",
)


class Person:
    """Somebody at a browser: their own context, and every complaint of the browser collected."""

    def __init__(self, browser: Browser, base: str, size: tuple[int, int], touch: bool):
        self.complaints: list[str] = []
        self.context: BrowserContext = browser.new_context(
            viewport={"width": size[0], "height": size[1]}, has_touch=touch, base_url=base
        )
        self.context.route("**/*", lambda r: r.continue_() if r.request.url.startswith(base) else self._abroad(r))
        self.page: Page = self.context.new_page()
        self.page.on("console", lambda m: self.complaints.append(m.text) if m.type in ("error", "warning") else None)
        self.page.on("pageerror", lambda e: self.complaints.append(str(e)))
        self.page.on("dialog", lambda d: d.accept())

    def _abroad(self, route):
        self.complaints.append(f"left 127.0.0.1: {route.request.url}")
        route.abort()

    def sign_in(self, login: str) -> Page:
        self.page.goto("/sign-in")
        self.page.fill("#login", login)
        self.page.fill("#password", PASSWORD)
        self.page.get_by_role("button", name="Sign in").click()
        self.page.wait_for_url("**/")
        return self.page


@pytest.fixture
def somebody(browser: Browser, server: str) -> Iterator:
    """A function that gives a signed-in page; afterwards no page may have complained."""
    people: list[Person] = []

    def come(login: str | None, size: tuple[int, int] = (1280, 800), touch: bool = False) -> Page:
        person = Person(browser, server, size, touch)
        people.append(person)
        return person.sign_in(login) if login else person.page

    yield come
    complaints = [c for p in people for c in p.complaints if not any(known in c for known in MEANT)]
    for p in people:
        p.context.close()
    assert complaints == []
