"""Signing in and out, the actor of a request, and the act that a form stands for."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import Blueprint, Flask, current_app, flash, g, redirect, render_template, request, session, url_for
from flask_login import LoginManager, UserMixin, current_user, login_user, logout_user
from werkzeug.wrappers import Response

from spinel.actions import codes, people, sessions, setup, tablets
from spinel.actions.acting import Act, Actor
from spinel.actions.tablets import SharedTablet
from spinel.core.canonical import digest
from spinel.core.errors import NotFound, NotKept, Refusal
from spinel.core.people import Kept
from spinel.core.said import say
from spinel.web import logs
from spinel.web.filters import words
from spinel.web.here import site

pages = Blueprint("session", __name__)
login_manager = LoginManager()
#: Endpoints that a person who has not signed in may see.
OPEN = (
    "static", "session.sign_in", "health.look", "accounts.welcome", "accounts.calendar", "tablets.page",
    "tablets.sign_in", "tablets.stop", "tablets.leave",
)  # fmt: skip
#: What somebody may do whose password was set by somebody else: change it, or go. Stopping work, and reporting what was
#: found, is never hindered.
FIRST = ("accounts.account", "accounts.change_password", "session.sign_out", "network.found", "network.emergency")
STOPS = ("suspend", "stop")
#: The cookie that makes a browser a registered tablet.
TABLET = "tablet"


class SignedIn(UserMixin):
    def __init__(self, actor: Actor):
        self.actor, self.id = actor, str(actor.id)


def register(app: Flask) -> None:
    login_manager.init_app(app)
    login_manager.session_protection = "strong"
    app.register_blueprint(pages)

    @app.before_request
    def signed_in_only() -> Response | None:
        if request.endpoint in OPEN:
            return None
        if current_user.is_authenticated:
            return _own_password_first()
        if request.headers.get("HX-Request"):
            answer = current_app.response_class(status=401)
            answer.headers["HX-Redirect"] = url_for("session.sign_in")
            return answer
        if request.method == "GET" and tablet() is not None:
            # who has it is asked here, and nobody's name is typed
            return redirect(url_for("tablets.page"))
        after = request.full_path.rstrip("?") if request.method == "GET" else "/"
        return redirect(url_for("session.sign_in", after=after))


def _own_password_first() -> Response | None:
    who = actor()
    free = (request.view_args or {}).get("move") in STOPS or request.endpoint in FIRST
    if free or who is None or not who.must_change:
        return None
    return redirect(url_for("accounts.account"))


@login_manager.user_loader
def _load(person_id: str) -> SignedIn | None:
    """Whoever signed in, as long as that session lasts: what a browser holds is worth nothing once it was ended."""
    kept = current()
    if kept is None or str(kept.person_id) != person_id:
        return None
    try:
        found = people.actor(site(), kept.person_id)
    except NotFound:
        return None
    return SignedIn(codes.short(found) if kept.short else found)


def current() -> Kept | None:
    """The session of this request, asked once."""
    if "kept" not in g:
        g.kept = sessions.of_token(
            site(), str(session.get("token", "")), g.now, by_itself="HX-Request" in request.headers
        )
    found: Kept | None = g.kept
    return found


def tablet() -> SharedTablet | None:
    """The registered tablet that this browser is, asked once."""
    if "tablet" not in g:
        g.tablet = tablets.of_token(site(), request.cookies.get(TABLET, ""))
    found: SharedTablet | None = g.tablet
    return found


def actor() -> Actor | None:
    """The person signed in on this request, or None."""
    return current_user.actor if current_user and current_user.is_authenticated else None


def act() -> Act:
    """The act that this request's form stands for."""
    who = actor()
    assert who is not None
    return Act(site(), who, g.now, own_request(str(who.id), request.form.get("request_id", "")))


def own_request(who: str, request_id: str) -> str | None:
    """What a repeat of this very request is known by: it answers for its own act, subject and person (``who``)."""
    if not 16 <= len(request_id) <= 64:
        return None
    return digest(f"{who} {request.method} {request.path} {request_id}")


@pages.route("/sign-in", methods=["GET", "POST"])
def sign_in():
    after = _inside(request.values.get("after", ""))
    if request.method != "POST":
        if current_user.is_authenticated:
            return redirect(after)
        return _page(after)
    login, password = request.form.get("login", ""), request.form.get("password", "")
    try:
        who = people.sign_in(site(), login, password, request.remote_addr or "", g.now)
    except Refusal as refusal:
        logs.note("sign-in refused")
        return _page(after, login, words().say(refusal.why)), 422
    begin(who)
    return redirect(after)


def begin(who: Actor) -> None:
    """Whoever was signed in at this browser is so no longer; ``who`` is."""
    end_here()
    session.clear()
    session.permanent = True
    at = tablet()
    session["token"] = sessions.begin(
        site(), who, request.user_agent.string, g.now, short=who.short, tablet_id=at.id if at else None
    )
    g.pop("kept", None)
    login_user(SignedIn(who))
    people.note_sign_in(Act(site(), who, g.now))


@pages.post("/sign-out")
def sign_out():
    told = say("session-you-are-signed-out")
    try:
        end_here()
    except NotKept:
        # whoever comes next at this browser is not them, whatever can be written down
        told = say("session-signed-out-here-only")
    logout_user()
    session.clear()
    flash(words().say(told))
    return redirect(url_for("session.sign_in"))


def end_here() -> None:
    """The session of this browser, whoever's it is, is over."""
    kept, who = current(), actor()
    if kept is not None and who is not None:
        sessions.end(Act(site(), who, g.now), kept.person_id, session_id=kept.id)


def _page(after: str, login: str = "", problem: str = ""):
    demo = None
    if setup.is_demo(site()):
        from spinel.demo.people import CODE, PASSWORD

        demo = (people.everybody(site()), PASSWORD, CODE)
    return render_template("shell/sign_in.html", after=after, login=login, problem=problem, demo=demo)


def _inside(target: str) -> str:
    """Only a path of this site is gone to after signing in."""
    parts = urlsplit(target)
    safe = target.startswith("/") and not target.startswith("//") and not parts.netloc and "\\" not in target
    return target if safe else url_for("board.page")
