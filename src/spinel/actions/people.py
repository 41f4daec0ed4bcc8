"""Signing in, and the register of people, roles and qualifications."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from datetime import datetime, timedelta
from math import ceil
from unicodedata import normalize

from spinel.actions import passwords
from spinel.actions.acting import SYSTEM, Act, Actor, utc_moment, utc_text, work
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.people import ROLES
from spinel.core.said import Sayable, say
from spinel.store import attempts, tablets
from spinel.store import people as store
from spinel.store.people import Registered

#: After this many failures in a row from one address it waits, a minute at first and twice as long after each more, up
#: to the whole; after so many from all addresses, those wait from which the account never signed in. Nobody who is
#: signed in waits for what others try. The count is kept for all processes.
FAILURES_ALLOWED, FAILURES_EVERYWHERE = 5, 50
#: After so many in a quarter of an hour from one address, at whatever accounts, it waits as long: each try costs the
#: server a tenth of a second.
FAILURES_FROM_ONE = 60
FIRST_WAIT, WAIT, REMEMBERED = timedelta(minutes=1), timedelta(minutes=15), timedelta(days=1)


#: Where somebody tries who is signed in already.
SIGNED_IN = "signed in"


@on_site
def sign_in(site: Site, login: str, password: str, address: str, now: datetime) -> Actor:
    """The actor, or a Refusal that does not tell whether the account exists. Every attempt is kept."""
    login = login.strip().lower()
    return actor(
        site, check_password(site, login, password, address, now, say("act-people-sign-in-name-or-password-is-wrong"))
    )


def check_password(site: Site, login: str, password: str, address: str, now: datetime, message: Sayable) -> int:
    """The id of the person; Refusal when the password is wrong or was so too often lately, from this address."""
    need_no_wait(site, login, address, now)
    person = store.by_login(login)
    usable = person if person and person.active else None
    fits = passwords.fits(usable.password_hash if usable else passwords.nobody(), password)
    succeeded = usable is not None and fits
    attempts.add(site.path, login, address, succeeded, utc_text(now))
    if usable is None or not fits:
        raise Refusal("password", message, say("act-people-check-caps-lock-and-try-again"), field="password")
    return int(usable.id)


@on_site
def need_no_wait(site: Site, login: str, address: str, now: datetime) -> None:
    """Refusal while an address has to wait for an account."""
    wait = _waits(site, login, address, now)
    if wait > timedelta():
        minutes = max(1, ceil(wait.total_seconds() / 60))
        raise Refusal(
            say("act-people-limited-sign-in-attempts"),
            say("act-people-too-many-wrong-passwords-for-this-account", minutes=minutes),
            say("act-people-wait-minutes-then-try-again", minutes=minutes),
            field="password",
        )


def _waits(site: Site, login: str, address: str, now: datetime) -> timedelta:
    """How long an address has still to wait before it may try this account again."""
    failed = attempts.failures(site.path, login, address, utc_text(now - REMEMBERED))
    if len(failed) >= FAILURES_ALLOWED:
        pause: timedelta = min(WAIT, FIRST_WAIT * 2 ** min(len(failed) - FAILURES_ALLOWED, 9))
        return utc_moment(failed[0]) + pause - now
    if address != SIGNED_IN and attempts.failures_from(site.path, address, utc_text(now - WAIT)) >= FAILURES_FROM_ONE:
        return WAIT
    known = address == SIGNED_IN or attempts.has_signed_in(site.path, login, address)
    if not known and attempts.failures_everywhere(site.path, login, utc_text(now - WAIT)) >= FAILURES_EVERYWHERE:
        return WAIT
    return timedelta()


@on_site
def confirm_identity(act: Act, password: str) -> None:
    """Approving and issuing ask for the password again."""
    message = say("act-people-this-is-not-your-password-nothing-was")
    check_password(act.site, act.actor.login, password, SIGNED_IN, act.now, message)


@on_site
def actor(site: Site, person_id: int) -> Actor:
    """The active person with this id as an actor, or NotFound."""
    found = store.registered(person_id)
    if found is None or not found.active:
        raise NotFound("person", person_id)
    return Actor(found.id, found.login, found.name, found.roles, found.must_change)


@on_site
def everybody(site: Site) -> list[Registered]:
    """All active people by name."""
    return [p for p in site.register() if p.active]


@on_site
def add_person(
    act: Act, login: str, name: str, password: str, roles: Iterable[str], phone: str = "", *, first: bool = False,
    must_change: bool = False, about: Mapping[str, str] | None = None,
) -> int:  # fmt: skip
    """Register a person. A coordinator does; the first coordinator of a new site is made by command line.
    ``must_change``: the password was made up for them, and is changed before anything else. ``about``: what was checked
    of whose people they are."""
    if not first:
        act.actor.needs("coordinator", what=say("act-people-register-people"))
    login = login.strip().lower()
    if not re.fullmatch(r"[a-z0-9._-]+", login):
        raise InputError("login", login, texts.LOGIN.allowed)
    texts.LOGIN.check(login)
    _long_enough(password, "password")
    name, phone = texts.NAME.check(name), texts.PHONE.check(phone, "phone")
    unknown = set(roles) - set(ROLES)
    if unknown:
        raise InputError("roles", ", ".join(sorted(unknown)), say("one-of", options=tuple(ROLES)))
    with work(act) as unit:
        if store.by_login(login):
            raise InputError("login", login, say("act-people-a-sign-in-name-that-nobody-has"))
        need_free_name(name)
        person_id = store.insert(login, name, phone, passwords.hashed(password), act.at, sorted(set(roles)))
        if about:
            store.describe(person_id, **about)
        if must_change:
            store.set_password(person_id, passwords.hashed(password), must_change=True)
        more = {k: v for k, v in (about or {}).items() if v}
        unit.record("person added", f"person:{login}", {"name": name, "roles": sorted(set(roles)), **more})
    return person_id


def registered(login: str) -> Registered:
    """Somebody who ever was registered, or NotFound."""
    found = next((p for p in store.register() if p.login == login.strip().lower()), None)
    if found is None:
        raise NotFound("person", login)
    return found


def here(login: str) -> Registered:
    """Somebody who has not left, or NotFound."""
    found = registered(login)
    if not found.active:
        raise NotFound("person", login)
    return found


def _long_enough(password: str, field: str) -> None:
    if not texts.PASSWORD.least <= len(password) <= texts.PASSWORD.most:
        # never shown again, not even in what was wrong with it
        raise InputError(field, say("act-people-not-so-long"), texts.PASSWORD.allowed)


def check_new_password(password: str, login: str, name: str, field: str) -> None:
    """InputError for one that is too short, or that somebody would soon come upon."""
    _long_enough(password, field)
    if passwords.easily_guessed(password, login, name):
        raise InputError(field, say("register-that-one"), say("register-one-that-nobody-guesses"))


def need_free_name(name: str) -> None:
    """InputError for a name that somebody, a shared tablet or the system itself has."""
    taken = (SYSTEM.name, *(p.name for p in store.register()), *(t.name for t in tablets.everything()))
    if _same(name) in map(_same, taken):
        raise InputError("name", name, say("act-people-a-name-that-nobody-has"))


def _same(name: str) -> str:
    """Two names that read alike are one: papers and the ledger name people."""
    return normalize("NFKC", name).casefold()


@on_site
def note_sign_in(act: Act) -> None:
    """One ledger entry for each sign-in that succeeded."""
    with work(act) as unit:
        unit.record("signed in", f"person:{act.actor.login}", {})
