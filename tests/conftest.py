"""Shared fixtures. One demo database is built a session and copied for each test that writes."""

from __future__ import annotations

import gc
import os
import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime, timedelta
from functools import cache, lru_cache, partial
from pathlib import Path
from typing import Any

import pytest
from flask import Flask, request
from flask.testing import FlaskClient
from hypothesis import settings
from jinja2 import FileSystemBytecodeCache
from werkzeug.routing import Rule
from werkzeug.security import generate_password_hash
from xdist.scheduler import LoadScopeScheduling

import walls
from demo_acts import MOMENT, opened, the_site
from saying import en
from shared_files import copied, once_for_all_workers
from spinel.actions import figures, passwords, setup
from spinel.actions.verifying import rows_astray
from spinel.core.errors import SpinelError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.document import Network
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.build import build
from spinel.demo.people import PASSWORD
from spinel.demo.site import document
from spinel.web.app import create_app
from spinel.wording.words import Words

# the same examples everywhere, and no quarrel with a slow machine
settings.register_profile("steady", deadline=None, derandomize=True, max_examples=500 if os.environ.get("SOAK") else 50)
settings.load_profile("steady")


# a suite keeps hundreds of thousands of things that nobody lets go of: to look through them seldom is enough
gc.set_threshold(50_000, 20, 100)

#: Walks that take a browser and a server of their own; the other browser tests share another.
APART = ("tests/e2e/test_switching_walk", "tests/e2e/test_people_walk")


class BrowsersOnTwo(LoadScopeScheduling):
    """The browser tests on two workers, each with one server and one browser; of the rest each file on one, so that
    what it prepares is prepared once. (The groups of pytest-xdist 3.8 have no effect under pytest 9.2.)"""

    def _split_scope(self, nodeid: str) -> str:
        if nodeid.startswith("tests/e2e/"):
            return "walks" if nodeid.startswith(APART) else "browser"
        return nodeid.partition("::")[0]


@pytest.hookimpl(optionalhook=True)
def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> BrowsersOnTwo | None:
    """For the whole suite; the long proofs of one file are divided among the workers as ever."""
    return BrowsersOnTwo(config, log) if config.getvalue("dist") == "loadscope" else None


#: What takes longest goes first, so that no worker is left alone with it at the end.
#: The third begins with what asks for no demo, which the others are building.
LONGEST_FIRST = ("test_switching_walk", "test_people_walk", "test_walk", "test_screens",
                 "test_demo_recomputed", "test_fault_currents", "test_clearing_simulation", "test_situations",
                 "test_kill", "test_programs", "test_roles", "test_releases", "test_switching", "test_bad_input")  # fmt: skip


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    rank = {name: i for i, name in enumerate(LONGEST_FIRST)}
    items.sort(key=lambda item: rank.get(item.path.stem, len(rank)))


@pytest.fixture(scope="session", autouse=True)
def everything_said_has_words() -> Iterator[None]:
    """A code without a message is an error here; and what an error says can be matched as a sentence."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Words, "strict", True)
        patch.setattr(SpinelError, "__str__", en, raising=False)
        yield


@pytest.fixture(scope="session", autouse=True)
def each_template_is_compiled_once(tmp_path_factory: pytest.TempPathFactory) -> Iterator[None]:
    """Every test has an application of its own, which would compile its templates anew."""
    kept = tmp_path_factory.getbasetemp().parent / "templates"
    kept.mkdir(exist_ok=True)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Flask, "jinja_options", {"bytecode_cache": FileSystemBytecodeCache(str(kept))})
        yield


@pytest.fixture(scope="session", autouse=True)
def each_address_is_compiled_once() -> Iterator[None]:
    """What writes an address follows from its rule alone; each of some hundred applications would compile them all."""
    compiled: dict[tuple[str, str, bool], Any] = {}
    really = Rule._compile_builder

    def once(rule: Rule, append_unknown: bool = True) -> Any:
        key = (rule.rule, repr(rule.defaults), append_unknown)
        if key not in compiled:
            compiled[key] = really(rule, append_unknown)
        return compiled[key]

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Rule, "_compile_builder", once)
        yield


@pytest.fixture(scope="session", autouse=True)
def each_state_is_solved_once() -> Iterator[None]:
    """However many tests meet the same: figures follow from the document and from what is closed, and nothing else."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(figures, "_study", lru_cache(maxsize=1000)(figures._study.__wrapped__))
        yield


@pytest.fixture(scope="session", autouse=True)
def each_password_is_tried_once() -> Iterator[None]:
    """Hashing is slow on purpose, and not for a test's own people; what is kept for real is tested by itself."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(passwords, "check_password_hash", cache(passwords.check_password_hash))
        patch.setattr(passwords, "generate_password_hash", partial(generate_password_hash, method="scrypt:1024:8:1"))
        yield


@pytest.fixture(scope="session")
def demo_network() -> Network:
    return accept(document())


@pytest.fixture(scope="session")
def demo_study(demo_network: Network) -> Study:
    return Study(demo_network, NORTH_AMERICAN, None, 40.0)


@pytest.fixture(scope="session")
def built(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return once_for_all_workers(tmp_path_factory, "demo.sqlite3", lambda path: build(setup.open_site(path), MOMENT))


@pytest.fixture
def database(built: Path, tmp_path: Path, request: pytest.FixtureRequest) -> Iterator[Path]:
    """A copy of the demo database, on which the acts of the test are. At its end what hangs is what was recorded, and
    every row what the ledger says of it, unless the test is one that tampers."""
    path = copied(built, tmp_path / "site.sqlite3")
    site = opened(setup.open_site(path))
    yield path
    walls.agree(site, path, built)
    if "tampers" not in request.keywords and walls.recorded(path, built):
        with site.connection():
            assert list(rows_astray()) == []


@pytest.fixture
def open_db(database: Path) -> Iterator[Path]:
    """The same, with its models bound for what a test asks the store itself."""
    with the_site().connection():
        yield database


class Clock:
    def __init__(self) -> None:
        self.now = MOMENT

    def __call__(self) -> datetime:
        return self.now

    def forward(self, **by: float) -> None:
        self.now += timedelta(**by)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def app(database: Path, clock: Clock) -> Iterator[Flask]:
    """No page that it shows may say the bare code of a message that the catalogue lacks."""
    app = create_app(str(database), clock=clock)
    app.config["WTF_CSRF_ENABLED"] = False
    bare: list[str] = []

    @app.after_request
    def look(answer):
        if answer.mimetype == "text/html" and "\u27e6" in (text := answer.get_data(as_text=True)):
            bare.append(f"{request.path}: {text.split(chr(0x27E6))[1][:80]}")
        return answer

    yield app
    assert bare == []


@pytest.fixture
def made_here(app: Flask) -> None:
    """What takes long is made by a thread of this process: another process, which loads everything anew, is proved by
    the tests that do without this."""
    for beside in ("heavy", "studies"):
        app.extensions[beside]._pool = ThreadPoolExecutor(1)


class Browser:
    """A client that is signed in, and asks with a new request id each time unless told otherwise."""

    def __init__(self, app: Flask, login: str):
        self.client: FlaskClient = app.test_client()
        answer = self.client.post("/sign-in", data={"login": login, "password": PASSWORD})
        assert answer.status_code == 302, answer.text

    def get(self, path: str, **options):
        return self.client.get(path, **options)

    def post(self, path: str, data: dict | None = None, **options):
        return self.client.post(path, data={"request_id": str(uuid.uuid4()), **(data or {})}, **options)


@pytest.fixture
def sign_in(app: Flask):
    return lambda login: Browser(app, login)
