"""One's own account: where one is signed in, password, codes and calendar; and the first visit of somebody invited."""

from __future__ import annotations

from collections.abc import Callable
from datetime import UTC, date, datetime, time
from typing import TYPE_CHECKING, Any

from flask import Blueprint, Response, g, redirect, render_template, request, session, url_for

from spinel.actions import codes, falling_due, invitations, job_plan, register, sessions
from spinel.actions.acting import Actor
from spinel.core.errors import InputError, Refusal
from spinel.core.people import TASK
from spinel.core.said import Said, say
from spinel.web import forms
from spinel.web import session as signing
from spinel.web.addresses import outside
from spinel.web.filters import words
from spinel.web.here import here, site
from spinel.web.papers import code
from spinel.web.session import act, actor, current

if TYPE_CHECKING:
    from icalendar import Event

pages = Blueprint("accounts", __name__)


def _me() -> Actor:
    who = actor()
    assert who is not None
    return who


@pages.get("/account")
def account():
    return _account()


def _account(failed: forms.Failed | None = None, address: str = ""):
    who, kept = _me(), current()
    assert who.id is not None
    own = next(p for p in site().register() if p.id == who.id)
    return render_template(
        "people/account.html", failed=failed, places=sessions.of_person(site(), who.id, g.now), own=own,
        this=kept.id if kept else None, must=who.must_change, address=address, short=who.short,
        has_address=falling_due.has_address(site(), who.id), limits=site().settings_now(),
    )  # fmt: skip


@pages.post("/account/password")
def change_password():
    old, new = request.form.get("old", ""), request.form.get("new", "")
    kept = current()
    keep = kept.id if kept else None
    return _post("password", "account-password-changed", lambda: register.change_password(act(), old, new, keep))


@pages.post("/account/sessions")
def end_session():
    person_id = _me().id
    assert person_id is not None
    return _post(
        "session", "account-session-ended", lambda: sessions.end(act(), person_id, session_id=forms.whole("session"))
    )


@pages.post("/account/code")
def set_code():
    password, code = request.form.get("password", ""), request.form.get("code", "")
    return _post("code", "account-code-set", lambda: codes.set_short(act(), password, code))


@pages.route("/account/one-time", methods=["GET", "POST"])
def one_time():
    """The secret is shown on this page, goes back with its form, and is kept once a code fits it."""
    if request.method == "GET":
        return _one_time(codes.new_secret(act()))
    typed = request.form.get("secret", "")
    secret = typed if codes.is_secret(typed) else codes.new_secret(act())

    def do() -> None:
        codes.keep_secret(act(), request.form.get("password", ""), secret, request.form.get("otp", ""))

    return _post("one-time", "account-one-time-set", do, lambda failed: _one_time(secret, failed))


def _one_time(secret: str, failed: forms.Failed | None = None):
    address = codes.address_of(act(), secret)
    return render_template(
        "people/one_time.html", secret=secret, address=address, picture=code(address), failed=failed
    )  # fmt: skip


@pages.post("/account/calendar")
def new_calendar():
    """Shown on the answer itself: nobody can read it again."""
    token = falling_due.new_address(act())
    return _account(address=outside(url_for("accounts.calendar", token=token)))


@pages.get("/calendar/<token>.ics")
def calendar(token: str):
    """What falls due, for a calendar that asks again and again; its address is its key."""
    # only for who asks: loading it would make every server start later
    from icalendar import Calendar

    owner, found = falling_due.calendar(site(), token, g.now)
    made = Calendar()
    made.add("prodid", "-//Spinel//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", words().say(say("calendar-of", name=owner.name)))
    for one in found:
        made.add_component(_event(one))
    for item in falling_due.gear_of(site(), owner, g.now):
        kind = say(f"gear-kind-{item.item.kind_id.replace('_', '-')}")
        made.add_component(
            _all_day(item.item.number, item.on, say("calendar-gear-due", number=item.item.number, kind=kind))
        )
    for job in job_plan.ahead(site(), owner.id, "coordinator" in owner.roles, g.now):
        made.add_component(_planned(job))
    return Response(made.to_ical(), mimetype="text/calendar")


def _planned(job: job_plan.Ahead) -> Event:
    from icalendar import Event

    event = Event()
    event.add("uid", f"{job.number}@{here().network.site.name}".replace(" ", "-"))
    event.add("dtstamp", job.start)
    event.add("dtstart", job.start)
    event.add("dtend", job.end)
    event.add("summary", words().say(say("calendar-job", number=job.number, tag=job.tag, title=job.title)))
    return event


def _event(one: falling_due.FallsDue) -> Event:
    what = say("due-tasks", count=len(one.tasks)) if one.what == TASK else say(f"line-{one.what.replace('_', '-')}")
    said = say("calendar-ends", name=one.person.name, what=what)
    return _all_day(f"{one.person.id}-{one.what}", one.on, said)


def _all_day(name: str, on: date, said: Said) -> Event:
    from icalendar import Event

    event = Event()
    # the same thing has the same name each time it is asked for, so that a calendar has it once
    event.add("uid", f"{name}-{on.isoformat()}@{here().network.site.name}".replace(" ", "-"))
    event.add("dtstamp", datetime.combine(on, time(), UTC))
    event.add("dtstart", on)
    event.add("summary", words().say(said))
    event.add("transp", "TRANSPARENT")
    return event


@pages.route("/welcome/<token>", methods=["GET", "POST"])
def welcome(token: str):
    """Somebody invited sets the first password, and is signed in."""
    try:
        who = invitations.guest(site(), token, g.now)
    except Refusal as refusal:
        return render_template("people/welcome.html", who=None, failed=None, problem=refusal), 422
    if request.method == "GET":
        return render_template("people/welcome.html", who=who, failed=None, problem=None)

    def do() -> None:
        password = request.form.get("password", "")
        if password != request.form.get("again", ""):
            raise InputError("again", "", say("welcome-the-same-twice"))
        signing.begin(invitations.accept(site(), token, password, g.now))

    def again(failed: forms.Failed):
        return render_template("people/welcome.html", who=who, failed=failed, problem=None)

    try:
        do()
    except (InputError, Refusal) as error:
        return again(forms.Failed("welcome", error, request.form)), 422
    session["saved"] = ""
    return redirect(url_for("board.page"))


def _post(form: str, done: str, do: Callable[[], Any], again: Callable[[forms.Failed], Any] = _account):
    def then(_: Any) -> str:
        forms.said(say(done))
        return url_for("accounts.account")

    return forms.attempt(form, do, then, again)
