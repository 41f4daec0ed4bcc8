"""Shared tablets: who has it now, in two taps and a short code; a stop that needs no code; and their register."""

from __future__ import annotations

from flask import Blueprint, flash, g, redirect, render_template, request, session, url_for
from flask_login import logout_user
from werkzeug.wrappers import Response

from spinel.actions import at_tablet, codes, tablets
from spinel.core.errors import InputError, NotAllowed, NotKept, Refusal
from spinel.core.said import say
from spinel.web import forms, logs
from spinel.web.addresses import PAGES_OF
from spinel.web.filters import words
from spinel.web.here import published, site
from spinel.web.session import TABLET, act, actor, begin, end_here, own_request, tablet

pages = Blueprint("tablets", __name__)
#: A tablet stays one until a coordinator takes it out of use.
_YEAR_S = 365 * 24 * 3600
#: Where somebody is taken once they have signed in, by the kind of what they are on.
_GO_TO = {**PAGES_OF, "hold": "switching.program", "exchange": "exchanges.one"}


@pages.get("/tablet")
def page():
    return _page(request.args.get("who", ""))


def _page(who: str = "", failed: forms.Failed | None = None):
    at = tablet()
    if at is None:
        return redirect(url_for("session.sign_in"))
    if actor() is not None and failed is None and "HX-Request" not in request.headers:
        # an open page that asks what goes on is answered all the same
        return redirect(url_for("board.page"))
    tiles, others = at_tablet.tiles(site(), g.now)
    chosen = next((p for p in site().register() if p.active and p.login == who), None)
    return render_template(
        "tablet/tablet.html", tablet=at, tiles=tiles, others=others, chosen=chosen, failed=failed,
        own=next((t for t in tiles if chosen and t.person.id == chosen.id), None),
        stoppable=tablets.stoppable(site()) if published() else [],
    )  # fmt: skip


@pages.post("/tablet/sign-in")
def sign_in():
    """From the code straight to what waits for them."""
    at, login = tablet(), forms.text("login").lower()
    if at is None:
        return redirect(url_for("session.sign_in"))
    try:
        who = codes.sign_in(site(), at, login, request.form.get("code", ""), g.now)
    except Refusal as error:
        logs.note("short code refused", tablet=at.id)
        return _page(login, forms.Failed("code", error, request.form)), 422
    begin(who)
    tile = next((t for t in at_tablet.tiles(site(), g.now)[0] if t.person.id == who.id), None)
    if tile is None or not tile.goes_to[0]:
        return redirect(url_for("board.page"))
    return redirect(url_for(_GO_TO[tile.goes_to[0]], number=tile.goes_to[1]))


@pages.post("/tablet/leave")
def leave():
    """Somebody else now: whoever was signed in is not any more, whatever can be written down."""
    who = actor()
    try:
        end_here()
    except NotKept:
        flash(words().say(say("session-signed-out-here-only")))
    logout_user()
    session.clear()
    if who is not None:
        flash(words().say(say("tablet-left", name=who.name)))
    return redirect(url_for("tablets.page") if tablet() else url_for("session.sign_in"))


@pages.post("/tablet/stop")
def stop():
    """Anybody, without a code: kept as said at this tablet."""
    at = tablet()
    if at is None:
        return redirect(url_for("session.sign_in"))
    number = forms.text("number")
    request_id = own_request(f"tablet {at.id} {number}", request.form.get("request_id", ""))
    stopped = tablets.stop(site(), at, number, forms.text("reason"), g.now, request_id)
    flash(words().say(say("tablet-stopped" if stopped else "tablet-stands-already", number=number)))
    return redirect(url_for("tablets.page"))


@pages.get("/people/tablets")
def listing():
    return _listing()


def _listing(failed: forms.Failed | None = None):
    return render_template("tablet/tablets.html", tablets=tablets.everything(site()), this=tablet(), failed=failed)


@pages.post("/people/tablets")
def register():
    """The browser that this form is sent from becomes the tablet; whoever sent it is signed out of it."""
    try:
        token = tablets.register(act(), forms.text("name"))
    except NotAllowed:
        raise
    except (InputError, Refusal) as error:
        return _listing(forms.Failed("register", error, request.form)), 422
    end_here()
    logout_user()
    session.clear()
    flash(words().say(say("tablet-is-one-now")))
    answer = redirect(url_for("tablets.page"))
    _remember(answer, token)
    return answer


def _remember(answer: Response, token: str) -> None:
    answer.set_cookie(
        TABLET, token, max_age=_YEAR_S, httponly=True, samesite="Lax", secure=request.is_secure, path="/"
    )  # fmt: skip


@pages.post("/people/tablets/<int:number>/end")
def end(number: int):
    form = f"end-{number}"

    def then(_: object) -> str:
        forms.said(say("tablet-taken-out"))
        return url_for("tablets.listing")

    return forms.attempt(form, lambda: tablets.take_out(act(), number, forms.text("reason")), then, _listing)
