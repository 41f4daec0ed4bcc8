"""Changes to the register: roles, leaving and coming back, passwords. A site always keeps a coordinator."""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from spinel.actions import passwords, sessions
from spinel.actions.acting import Act, work
from spinel.actions.people import SIGNED_IN, check_password
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.people import ROLES
from spinel.core.said import say
from spinel.store import holds, programs
from spinel.store import people as store
from spinel.store.people import Registered

#: Qualifications that end within so many days are said to end soon.
SOON = timedelta(days=30)


@dataclass(frozen=True)
class Listed:
    """Somebody of the register. ``tasks``: of how many pairs of task and equipment they are qualified on the day;
    ``ends``: the first of these to end, where that is soon. ``holds``: what hangs or is under way in their name."""

    person: Registered
    tasks: int
    ends: date | None
    holds: tuple[str, ...]


@on_site
def listed(site: Site, on: date) -> list[Listed]:
    """Everybody who ever was registered, those who left last."""
    held = store.qualifications()
    doing = _under_way()
    found = []
    for p in sorted(site.register(), key=lambda p: (not p.active, p.name)):
        valid = [until for until in held.get(p.id, ()) if until >= on]
        soon = min((until for until in valid if until <= on + SOON), default=None)
        found.append(Listed(p, len(valid), soon, tuple(dict.fromkeys(doing.get(p.id, ())))))
    return found


def _under_way() -> dict[int, list[str]]:
    """Holds and programs, by who has a lock there, directs, or operates."""
    found: dict[int, list[str]] = {}
    for row in holds.everything():
        found.setdefault(row.person_id, []).append(row.hold)
    for p in programs.programs_in(("executing", "stopped")):
        for person_id in (p.director_id, p.operator_id):
            if person_id is not None:
                found.setdefault(person_id, []).append(p.number)
    return found


@on_site
def change_roles(act: Act, login: str, roles: Iterable[str]) -> None:
    """From now on somebody may do what these roles may, and nothing else."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    wanted = sorted(set(roles))
    if unknown := set(wanted) - set(ROLES):
        raise InputError("roles", ", ".join(sorted(unknown)), say("one-of", options=tuple(ROLES)))
    with work(act) as unit:
        if unit.done:
            return
        person = _registered(login)
        if "coordinator" not in wanted:
            _another_coordinator(person)
        if set(wanted) == person.roles:
            raise InputError("roles", ", ".join(wanted), say("register-other-roles-than-now"))
        store.set_roles(person.id, wanted)
        unit.record("roles changed", f"person:{login}", {"roles": wanted, "before": sorted(person.roles)})


@on_site
def leave(act: Act, login: str, reason: str) -> None:
    """Somebody is here no longer: signed out everywhere at once, and never signed in again until they come back. What
    hangs in their name stays until the absent-owner procedure takes it off."""
    _set_active(act, login, reason, active=False)


@on_site
def come_back(act: Act, login: str, reason: str) -> None:
    """Somebody who left may sign in again, with the roles that they had."""
    _set_active(act, login, reason, active=True)


def _set_active(act: Act, login: str, reason: str, *, active: bool) -> None:
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        person = _registered(login)
        if person.active == active:
            known = say("register-somebody-who-has-left") if active else say("register-somebody-who-has-not-left")
            raise InputError("login", login, known)
        if not active:
            _another_coordinator(person)
            sessions.end(act, person.id)
        store.set_active(person.id, active)
        unit.record("came back" if active else "left", f"person:{login}", {"because": text})


@on_site
def reset_password(act: Act, login: str) -> str:
    """A new password for somebody who has lost theirs, to be told to them and changed before anything else. Shown once:
    nobody can read it again. Every session of theirs ends."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    with work(act) as unit:
        if unit.done:
            return ""
        person = _registered(login)
        if person.id == act.actor.id:
            raise InputError("login", login, say("register-somebody-else-the-own-is-changed-on-ones-page"))
        made = secrets.token_urlsafe(9)
        # first: should the rest fail, somebody signs in once more than was needed, and nobody stays signed in
        sessions.end(act, person.id)
        store.set_password(person.id, passwords.hashed(made), must_change=True)
        unit.record("password reset", f"person:{login}", {})
    return made


@on_site
def change_password(act: Act, old: str, new: str, keep: int | None = None) -> None:
    """One's own. Every other session of one's ends; ``keep``: the one that it was changed in."""
    wrong = say("act-people-this-is-not-your-password-nothing-was")
    check_password(act.site, act.actor.login, old, SIGNED_IN, act.now, wrong)
    if not texts.PASSWORD.least <= len(new) <= texts.PASSWORD.most:
        raise InputError("new", say("act-people-not-so-long"), texts.PASSWORD.allowed)
    if new == old or passwords.easily_guessed(new, act.actor.login, act.actor.name):
        raise InputError("new", say("register-that-one"), say("register-one-that-nobody-guesses"))
    assert act.actor.id is not None
    with work(act) as unit:
        if unit.done:
            return
        sessions.end(act, act.actor.id, but=keep)
        store.set_password(act.actor.id, passwords.hashed(new), must_change=False)
        unit.record("password changed", f"person:{act.actor.login}", {})


def _registered(login: str) -> Registered:
    found = next((p for p in store.register() if p.login == login.strip().lower()), None)
    if found is None:
        raise NotFound("person", login)
    return found


def _another_coordinator(person: Registered) -> None:
    others = [p for p in store.register() if p.active and "coordinator" in p.roles and p.id != person.id]
    if "coordinator" in person.roles and person.active and not others:
        raise Refusal(
            say("register-a-site-keeps-a-coordinator"),
            say("register-is-the-only-one", name=person.name),
            say("register-make-somebody-else-one-first"),
        )


def moment_of(now: datetime, site: Site) -> date:
    """The day on which qualifications are looked at: the site's own, or UTC's before it has a network."""
    return site.as_it_is().day(now) if site.published() else now.date()
