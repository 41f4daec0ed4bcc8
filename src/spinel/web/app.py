"""The Flask application: configuration, security headers, errors to pages, blueprints."""

from __future__ import annotations

import json
import os
import uuid
from collections.abc import Callable
from contextlib import ExitStack
from datetime import UTC, datetime, timedelta
from functools import cache
from hashlib import sha256
from pathlib import Path
from urllib.parse import urlsplit

from flask import Flask, Response, flash, g, redirect, render_template, request, url_for
from flask_compress import Compress
from flask_wtf.csrf import CSRFError, CSRFProtect
from werkzeug.exceptions import HTTPException, MethodNotAllowed, SecurityError
from werkzeug.local import LocalProxy
from werkzeug.middleware.proxy_fix import ProxyFix
from werkzeug.wrappers import Response as ResponseBase

from spinel.actions import setup
from spinel.actions.board import strip, warnings_for
from spinel.actions.expiry import note_expired
from spinel.actions.records import head
from spinel.actions.run_out import note_run_out
from spinel.actions.sessions import SHORT_IDLE
from spinel.core.errors import (
    DocumentError,
    InputError,
    NotAllowed,
    NotAsPublished,
    NotFound,
    NotKept,
    Refusal,
    SpinelError,
    Stale,
)
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.said import Said, Sayable, say
from spinel.web import (
    accounts,
    addresses,
    asking,
    assessing,
    board,
    cases,
    components,
    console,
    curves,
    drafting,
    emergency,
    equipment,
    exchanges,
    filters,
    findings,
    forms,
    gear,
    health,
    here,
    improvements,
    jobs,
    kit,
    labels,
    logs,
    network_files,
    network_pages,
    papers,
    people,
    permits,
    phrases,
    planning,
    procedures,
    records,
    revisions,
    session,
    studies,
    study,
    study_compare,
    study_place,
    study_report,
    study_setting,
    switching,
    switchings,
    tablets,
    task_library,
    walking,
    what_if,
)
from spinel.web.clockwatch import ClockWatch
from spinel.web.heavy import Heavy
from spinel.web.margin import AtTheMargin
from spinel.web.shapes import WIRE, drawn, wire

#: Styles by component, in the order of the cascade.
_COMMON = ("tokens", "shell", "controls", "plate", "oneline", "board", "network", "forms", "job", "sign-in")
SHEETS = (*_COMMON, "program", "console", "people", "building", "gear", "study", "narrow")
PAPER_SHEETS = (*_COMMON, "study", "narrow", "paper")
STATIC = Path(__file__).with_name("static")
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)
#: Answers that the catalogue has words for.
TOLD = (404, 405, 413)
STATUS = {
    NotAsPublished: 500, NotKept: 503, NotAllowed: 403, NotFound: 404, Stale: 409, Refusal: 422, DocumentError: 422,
    InputError: 422,
}  # fmt: skip


#: What every page is made with: parts of the work in their order, styles by component, htmx without eval or inline.
SHELL: dict[str, object] = {
    "rail": (
        (1, "board", "board.page"),
        (2, "network", "network.page"),
        (3, "study", "study.page"),
        (4, "jobs", "jobs.page"),
        (5, "switching", "switching.page"),
        (7, "gear", "gear.page"),
        (8, "people", "people.page"),
        (9, "records", "records.page"),
    ),
    "sheets": SHEETS,
    "paper_sheets": PAPER_SHEETS,
    "swatches": {state: drawn(wire(state, "M4 7 H40")) for state in WIRE},
    "htmx_config": json.dumps(
        {
            "includeIndicatorStyles": False, "timeout": 10000, "allowEval": False, "allowScriptTags": False,
            "selfRequestsOnly": True, "historyCacheSize": 0, "attributesToSettle": ["class", "width", "height"],
            "responseHandling": [
                {"code": "204", "swap": False}, {"code": "[23]..", "swap": True}, {"code": "422", "swap": True},
                {"code": "[45]..", "swap": False, "error": True},
            ],
        },
        separators=(",", ":"),
    ),
}  # fmt: skip


def digest_of_files(folder: Path) -> str:
    """The first signs of a hash over the names and contents of all files in a folder."""
    found = sha256()
    for file in sorted(p for p in folder.rglob("*") if p.is_file()):
        found.update(f"{file.relative_to(folder)}".encode() + file.read_bytes())
    return found.hexdigest()[:12]


def from_environment() -> Flask:
    """The application as gunicorn loads it."""
    asked = os.environ.get
    logs.to_stderr()
    app = create_app(
        asked("SPINEL_DB", "var/spinel.sqlite3"), asked("SPINEL_BASE_URL", ""),
        development=asked("SPINEL_DEVELOPMENT") == "1",
    )  # fmt: skip
    app.config["TRUSTED_HOSTS"] = _hosts(asked("SPINEL_BASE_URL", ""), asked("SPINEL_HOSTS", ""))
    if proxies := int(asked("SPINEL_PROXIES", "0")):
        # only what so many proxies of our own have added to the header counts: the rest anybody can write
        app.wsgi_app = ProxyFix(  # type: ignore[method-assign]
            app.wsgi_app, x_for=proxies, x_proto=proxies, x_host=proxies
        )
    return app


def _hosts(base_url: str, named: str) -> list[str]:
    """The names that the site may be opened by; any other is refused, and none is printed on a paper."""
    own = urlsplit(base_url).hostname
    further = [host.strip() for host in named.split(",")]
    return [host for host in ("localhost", "127.0.0.1", "[::1]", own, *further) if host]


def create_app(
    database: str, base_url: str = "", clock: Callable[[], datetime] | None = None, *, development: bool = False
) -> Flask:
    """An application on a database. ``clock`` returns the present moment in UTC; tests fix it. ``development``: with
    the page of all components."""
    site = setup.open_site(database)
    # the name of every file that ships changes with what is in it: a browser keeps each for good
    app = Flask(__name__, static_url_path=f"/static/{digest_of_files(STATIC)}")
    app.extensions["spinel"] = site
    app.extensions["heavy"] = Heavy(site.path.with_name(f"{site.path.name}.papers"))
    # by a process of their own: nobody waits for the paper of a permit because a large site is studied
    app.extensions["studies"] = Heavy(site.path.with_name(f"{site.path.name}.studies"))
    app.secret_key = setup.session_key(site)
    app.config.update(
        CLOCK=clock or (lambda: datetime.now(UTC)),
        # a clock that somebody else keeps is theirs to watch
        CLOCK_WATCH=None if clock else ClockWatch(site),
        BASE_URL=base_url.rstrip("/"),
        MAX_CONTENT_LENGTH=8 * 1024 * 1024,
        MAX_FORM_MEMORY_SIZE=1024 * 1024,
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=base_url.startswith("https:"),
        PERMANENT_SESSION_LIFETIME=timedelta(hours=12),
        WTF_CSRF_TIME_LIMIT=None,
        COMPRESS_MIMETYPES=["text/html", "text/css", "text/javascript", "application/javascript", "image/svg+xml"],
    )
    app.jinja_env.add_extension(AtTheMargin)
    app.jinja_env.globals["url_for"] = addresses.of
    app.jinja_env.globals["PAGES_OF"] = addresses.PAGES_OF
    app.jinja_env.globals["new_request_id"] = lambda: str(uuid.uuid4())
    app.jinja_env.globals["just_saved"] = forms.saved
    # first: connection and clock, also for a form that is then refused for its token
    _register_hooks(app)
    CSRFProtect(app)
    Compress(app)
    filters.register(app)
    app.jinja_env.filters.update(phrases.FILTERS)
    app.jinja_env.globals.update(SHELL)
    session.register(app)
    logs.register(app)
    for module in (
        board,
        network_pages,
        improvements,
        jobs,
        task_library,
        emergency,
        assessing,
        permits,
        planning,
        procedures,
        kit,
        switching,
        switchings,
        gear,
        console,
        health,
        papers,
        studies,
        study,
        study_place,
        study_setting,
        study_compare,
        findings,
        labels,
        study_report,
        cases,
        what_if,
        revisions,
        drafting,
        curves,
        network_files,
        equipment,
        asking,
        walking,
        people,
        accounts,
        tablets,
        exchanges,
        records,
    ):
        app.register_blueprint(module.pages)
    if development:
        app.register_blueprint(components.pages)
    _register_errors(app)
    return app


def _register_hooks(app: Flask) -> None:
    @app.before_request
    def begin() -> ResponseBase | None:
        if isinstance(request.routing_exception, SecurityError):
            # no page: every address on it would bear the name that somebody made up
            return Response("This server is not opened by that name. SPINEL_HOSTS names others.\n", 400)
        if request.endpoint in ("static", "health.look"):
            return None
        g.now = app.config["CLOCK"]()
        g.connection = ExitStack()
        if request.endpoint == "console.pulse":
            # it asks whether anything is new, every ten seconds, and shows nothing else
            g.seen = 0
            g.connection.enter_context(here.site().snapshot())
            return None
        filters.forget_words()
        g.connection.enter_context(here.site().connection())
        note_expired(here.site(), g.now)
        note_run_out(here.site(), g.now)
        if request.method in ("GET", "HEAD"):
            _of_one_moment()
        elif app.config["CLOCK_WATCH"] is not None:
            app.config["CLOCK_WATCH"].look(g.now)
        # before anything is read for the page: what is done meanwhile is rather told twice than missed
        g.seen = head(here.site())[0]
        return None

    @app.teardown_request
    def end(_: BaseException | None) -> None:
        connection = g.pop("connection", None)
        if connection is not None:
            connection.close()

    @app.after_request
    def secure(response: Response) -> Response:
        response.headers.setdefault("Content-Security-Policy", POLICY)
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["X-Frame-Options"] = "DENY"
        response.headers["Referrer-Policy"] = "same-origin"
        response.headers["Cross-Origin-Opener-Policy"] = "same-origin"
        response.headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()"
        if app.config["SESSION_COOKIE_SECURE"]:
            response.headers["Strict-Transport-Security"] = "max-age=31536000"
        if request.endpoint == "static":
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
        else:
            response.headers["Cache-Control"] = "no-store"
        return response

    app.context_processor(_everywhere)


def _of_one_moment() -> None:
    """A page is of one moment; an act has a transaction of its own."""
    g.connection.enter_context(here.site().snapshot())
    if request.blueprint != "session":
        # a network that was changed outside Spinel carries no page; whoever stops work still can
        here.published()


def _everywhere() -> dict[str, object]:
    """What every page shows: the strip, the title block, the practice of the site."""
    nothing: dict[str, object] = {"profile": NORTH_AMERICAN, "strip": None, "site": None}
    if not hasattr(g, "now"):
        return {**nothing, "me": None}
    try:
        has_network = here.published()
    except NotAsPublished:
        return {**nothing, "me": session.actor(), "unreadable": True}
    site = here.here() if has_network else None
    return {
        "now": g.now,
        "site": site,
        "profile": site.profile if site else NORTH_AMERICAN,
        "strip": LocalProxy(cache(lambda: strip(here.site(), g.now) if has_network else None)),
        "seen": g.seen,
        "me": session.actor(),
        "tablet": LocalProxy(cache(session.tablet)),
        "short_idle_s": int(SHORT_IDLE.total_seconds()),
        "warned": LocalProxy(cache(lambda: _warned() if has_network else [])),
    }


def _warned() -> list[tuple[str, Sayable, str]]:
    who = session.actor()
    return warnings_for(here.site(), who.id) if who else []


def _register_errors(app: Flask) -> None:
    @app.errorhandler(SpinelError)
    def refused(error: SpinelError) -> tuple[str, int]:
        status = next((code for kind, code in STATUS.items() if isinstance(error, kind)), 422)
        if isinstance(error, NotKept):
            app.logger.error("not kept: %s", error.system)
        if isinstance(error, NotAllowed):
            who = session.actor()
            logs.note("refused by role", who.id if who else None)
        if isinstance(error, NotFound) and error.kind == "network":
            return render_template("shell/no_network.html"), 200
        return render_template("shell/error.html", error=error, status=status, title=_title(error)), status

    @app.errorhandler(CSRFError)
    def forged(error: CSRFError) -> ResponseBase | tuple[str, int]:
        logs.note("form without its token")
        if request.endpoint == "tablets.stop" and session.tablet() is not None:
            # the page stood open while somebody else took the tablet: a fresh one, and one more press
            flash(filters.words().say(say("tablet-press-again")))
            return redirect(url_for("tablets.page"))
        text = say("session-form-no-longer-valid")
        return render_template("shell/error.html", error=text, status=400, title=say("error-form-not-accepted")), 400

    @app.errorhandler(MethodNotAllowed)
    def form_address(error: MethodNotAllowed) -> ResponseBase | tuple[str, int]:
        """A refused form stands at the address it was sent to; asked for again, the page it stands on answers."""
        above = _page_above(app, request.path) if request.method == "GET" else None
        return redirect(above) if above else http(error)

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> tuple[str, int]:
        status = error.code or 500
        text = say(f"error-{status}") if status in TOLD else error.description or say("error-not-understood")
        return render_template("shell/error.html", error=text, status=status, title=error.name), status

    @app.errorhandler(Exception)
    def unexpected(error: Exception) -> tuple[str, int]:
        app.logger.exception("unexpected error")
        return render_template(
            "shell/error.html", error=say("error-500"), status=500, title=say("error-unexpected")
        ), 500


def _page_above(app: Flask, path: str) -> str | None:
    """The nearest address above a path at which there is a page."""
    known = app.create_url_adapter(request)
    while known and path.count("/") > 1:
        path = path.rpartition("/")[0]
        if known.test(path, method="GET"):
            return path
    return None


def _title(error: SpinelError) -> Said:
    if isinstance(error, NotAllowed):
        return say("error-not-yours")
    if isinstance(error, NotKept):
        return say("error-not-kept")
    if isinstance(error, NotFound):
        return say("error-not-found")
    return say("error-refused") if isinstance(error, Refusal) else say("error-not-accepted")
