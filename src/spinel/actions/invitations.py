"""An invitation: a link with which somebody sets their first password, or a new one, and nobody else ever knows it."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from spinel.actions import passwords, people, sessions
from spinel.actions.acting import Act, Actor, utc_text, work
from spinel.actions.site import Site, on_site
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.said import say
from spinel.store import invitations
from spinel.store import people as store

#: For how long a link is good: our choice.
GOOD_FOR = timedelta(days=3)


@on_site
def invite(act: Act, login: str) -> str:
    """The secret end of a link, for the person to be given; the one before is worth nothing from then on. The password
    that there was stays until another is set."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    with work(act) as unit:
        if unit.done:
            return ""
        person = people.here(login)
        if person.id == act.actor.id:
            raise InputError("login", login, say("register-somebody-else-the-own-is-changed-on-ones-page"))
        token = secrets.token_urlsafe(32)
        invitations.put(act.site.path, person.id, token, utc_text(act.now + GOOD_FOR))
        unit.record("invited", f"person:{person.login}", {})
    return token


@on_site
def guest(site: Site, token: str, now: datetime) -> Actor:
    """For whom a link is; Refusal for one that was used, is over, or never was: they are not told apart."""
    person_id = invitations.guest(site.path, token, utc_text(now))
    try:
        if person_id is not None:
            return people.actor(site, person_id)
    except NotFound:
        pass
    raise Refusal(
        say("invitations-a-link-is-used-once"), say("invitations-this-one-is-no-more"), say("invitations-ask")
    )


@on_site
def accept(site: Site, token: str, password: str, now: datetime) -> Actor:
    """The password is set, and every session that there was ends."""
    who = guest(site, token, now)
    people.check_new_password(password, who.login, who.name, "password")
    assert who.id is not None
    act = Act(site, who, now)
    with work(act) as unit:
        if not invitations.take(site.path, token, act.at):
            raise Refusal(
                say("invitations-a-link-is-used-once"), say("invitations-this-one-is-no-more"), say("invitations-ask")
            )
        sessions.end(act, who.id)
        store.set_password(who.id, passwords.hashed(password), must_change=False)
        unit.record("invitation accepted", f"person:{who.login}", {})
    return who
