"""People: who may do what until when, and one's own account with the places where one is signed in."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import people as register_of
from spinel.actions import register, sessions, site_settings
from spinel.actions.acting import Actor
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.people import ROLES, role_name
from spinel.core.said import Sayable, say
from spinel.web import forms
from spinel.web.here import site
from spinel.web.session import act, actor, current

pages = Blueprint("people", __name__)


def _me() -> Actor:
    who = actor()
    assert who is not None
    return who


@pages.get("/people")
def page():
    return _page()


def _page(failed: forms.Failed | None = None, made: Sayable = ""):
    found = register.listed(site(), register.moment_of(g.now, site()))
    here = [one for one in found if one.person.active]
    return render_template(
        "people/people.html", listed=found, here=len(here), failed=failed, made=made,
        soon=sum(one.ends is not None for one in here), roles=[(role, role_name(role)) for role in ROLES],
    )  # fmt: skip


@pages.post("/people")
def add():
    return _post(
        "add", "people-added",
        lambda: register_of.add_person(
            act(), forms.text("login"), forms.text("name"), request.form.get("password", ""),
            request.form.getlist("roles"), forms.text("phone"), must_change=True,
        ),
    )  # fmt: skip


@pages.post("/people/<login>/roles")
def roles(login: str):
    wanted = request.form.getlist("roles")
    return _post(f"roles-{login}", "people-roles-changed", lambda: register.change_roles(act(), login, wanted))


@pages.post("/people/<login>/leave")
def leave(login: str):
    return _post(f"leave-{login}", "people-left", lambda: register.leave(act(), login, forms.text("reason")))


@pages.post("/people/<login>/return")
def come_back(login: str):
    reason = forms.text("reason")
    return _post(f"return-{login}", "people-returned", lambda: register.come_back(act(), login, reason))


@pages.post("/people/<login>/password")
def reset(login: str):
    """Shown on the answer itself and nowhere else: what goes on to another page goes by way of the browser's cookie."""
    try:
        made = register.reset_password(act(), login)
    except NotAllowed:
        raise
    except (InputError, Refusal) as error:
        return _page(forms.Failed(f"password-{login}", error, request.form)), 422
    return _page(made=say("people-password-is", login=login, password=made) if made else "")


@pages.get("/settings")
def settings():
    return _settings()


def _settings(failed: forms.Failed | None = None):
    found = site_settings.every(site())
    names = {
        one.key: {
            "name": say(f"setting-{one.key.replace('_', '-')}"), "why": say(f"why-{one.key.replace('_', '-')}"),
            "options": {o: say(f"setting-is-{o.replace('_', '-')}") for o in one.options},
        }
        for one in found
    }  # fmt: skip
    return render_template("people/settings.html", settings=found, names=names, failed=failed)


@pages.post("/settings/<key>")
def change_setting(key: str):
    def do() -> None:
        site_settings.change(act(), key, request.form.get(key, ""), forms.text("reason"))

    return _post(key, "settings-changed", do, _settings, "people.settings")


@pages.get("/account")
def account():
    return _account()


def _account(failed: forms.Failed | None = None):
    who, session = _me(), current()
    assert who.id is not None
    return render_template(
        "people/account.html", failed=failed, places=sessions.of_person(site(), who.id, g.now),
        this=session.id if session else None, must=who.must_change,
    )  # fmt: skip


@pages.post("/account/password")
def change_password():
    old, new = request.form.get("old", ""), request.form.get("new", "")
    session = current()
    keep = session.id if session else None

    def do() -> None:
        register.change_password(act(), old, new, keep)

    return _post("password", "account-password-changed", do, _account, "people.account")


@pages.post("/account/sessions")
def end_session():
    who = _me()
    assert who.id is not None
    person_id = who.id

    def do() -> int:
        return sessions.end(act(), person_id, session_id=forms.whole("session"))

    return _post("session", "account-session-ended", do, _account, "people.account")


def _post(
    form: str, done: str, do: Callable[[], Any], again: Callable[[forms.Failed], Any] = _page, to: str = "people.page"
):  # fmt: skip
    """Back on the page, with what was done or what was wrong."""

    def then(_: Any) -> str:
        forms.said(say(done))
        return url_for(to)

    return forms.attempt(form, do, then, again)
