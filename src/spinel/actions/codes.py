"""Codes beside the password: a short one for shared tablets, and one-time codes that a site may ask for.

A short code is good at a registered tablet alone, and only for what one signs for oneself. The secret of one-time codes
is kept encrypted with a key beside the database; each code counts once.
"""

from __future__ import annotations

import re
from datetime import datetime

import pyotp

from spinel.actions import passwords, people
from spinel.actions.acting import Act, Actor, utc_text, work
from spinel.actions.people import SIGNED_IN, check_password
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.said import say
from spinel.store import attempts, keys, used_codes
from spinel.store import people as store
from spinel.store.tablets import SharedTablet

#: Roles that somebody signed in with a short code keeps: what they sign for themselves asks for these.
KEPT_ROLES = frozenset(("worker", "attendant"))


@on_site
def set_short(act: Act, password: str, code: str) -> None:
    """One's own, new or instead of the one before; the password again, so that nobody sets it for another."""
    check_password(act.site, act.actor.login, password, SIGNED_IN, act.now, _WRONG)
    code = code.strip()
    if not (code.isascii() and code.isdigit() and len(code) == texts.SHORT_CODE.least):
        raise InputError("code", "", texts.SHORT_CODE.allowed)
    if len(set(code)) < 3 or passwords.is_a_run(code):
        raise InputError("code", "", say("codes-one-that-nobody-guesses"))
    assert act.actor.id is not None
    with work(act) as unit:
        if not unit.done:
            store.set_code(act.actor.id, passwords.hashed(code))
            unit.record("short code set", f"person:{act.actor.login}", {})


_WRONG = say("act-people-this-is-not-your-password-nothing-was")


@on_site
def sign_in(site: Site, tablet: SharedTablet, login: str, code: str, now: datetime) -> Actor:
    """Somebody at a shared tablet. Refusal when the code is wrong, or was so too often lately: for this account at this
    tablet it takes longer each time; nobody is kept from the password."""
    account, address = f"{login}#code", f"tablet {tablet.id}"
    people.need_no_wait(site, account, address, now)
    person = next((p for p in site.register() if p.login == login and p.active), None)
    kept = store.code_of(person.id) if person else ""
    fits = passwords.fits(kept or passwords.nobody(), code.strip())
    succeeded = person is not None and bool(kept) and fits
    attempts.add(site.path, account, address, succeeded, utc_text(now))
    if person is None or not succeeded:
        raise Refusal(say("codes-short-code"), say("codes-this-is-not-the-code"), say("codes-or-the-password"), "code")
    return short(people.actor(site, person.id))


def short(actor: Actor) -> Actor:
    """The same person, for what a short code signs. Reading and stopping is everybody's."""
    roles = (actor.roles & KEPT_ROLES) | {"reader"}
    return Actor(actor.id, actor.login, actor.name, roles, actor.must_change, short=True)


@on_site
def new_secret(act: Act) -> str:
    """A new secret for one-time codes, not kept yet: it is once a code made with it was given back."""
    return pyotp.random_base32()


def is_secret(text: str) -> bool:
    """Is it in the form of one that was made here?"""
    return re.fullmatch("[A-Z2-7]{32}", text) is not None


@on_site
def address_of(act: Act, secret: str) -> str:
    """What an authenticator reads, as text or as a picture."""
    name = act.site.as_it_is().name if act.site.published() else "Spinel"
    return pyotp.TOTP(secret).provisioning_uri(name=act.actor.login, issuer_name=name)


@on_site
def keep_secret(act: Act, password: str, secret: str, code: str) -> None:
    """From now on this secret makes one's one-time codes. Where there was one, a code of it is not asked: a coordinator
    takes a lost one away."""
    check_password(act.site, act.actor.login, password, SIGNED_IN, act.now, _WRONG)
    assert act.actor.id is not None
    if store.otp_of(act.actor.id):
        raise Refusal(say("codes-one-time-code"), say("codes-there-is-one"), say("codes-a-coordinator-takes-it-away"))
    counter = _counter(secret, code, act.now) if is_secret(secret) else None
    if counter is None:
        raise InputError("otp", "", say("codes-the-code-shown-just-now"))
    with work(act) as unit:
        if unit.done:
            return
        store.set_otp(act.actor.id, keys.encrypted(act.site.path, secret))
        unit.record("one-time codes set up", f"person:{act.actor.login}", {})
    used_codes.use(act.site.path, act.actor.id, counter)


@on_site
def take_secret(act: Act, login: str, reason: str) -> None:
    """A lost device: its owner sets up another. Somebody else's, never the own."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        person = store.by_login(login.strip().lower())
        if person is None or not person.otp:
            raise NotFound("person", login)
        if person.id == act.actor.id:
            raise InputError("login", login, say("codes-somebody-elses"))
        store.set_otp(person.id, "")
        unit.record("one-time codes taken away", f"person:{login}", {"because": text})


@on_site
def need(act: Act, code: str) -> None:
    """Refusal unless a one-time code fits, where the site asks for one. Each counts once, within its half minute and
    those beside it."""
    if act.site.settings_now()["one_time_code"] != "yes":
        return
    assert act.actor.id is not None
    people.need_no_wait(act.site, f"{act.actor.login}#otp", SIGNED_IN, act.now)
    kept = store.otp_of(act.actor.id)
    if not kept:
        raise Refusal(say("codes-one-time-code"), say("codes-you-have-none"), say("codes-set-it-up-first"), "otp")
    counter = _counter(keys.decrypted(act.site.path, kept), code, act.now)
    fits = counter is not None and used_codes.use(act.site.path, act.actor.id, counter)
    attempts.add(act.site.path, f"{act.actor.login}#otp", SIGNED_IN, fits, utc_text(act.now))
    if not fits:
        raise Refusal(say("codes-one-time-code"), say("codes-it-does-not-fit"), say("codes-wait-for-the-next"), "otp")


def _counter(secret: str, code: str, now: datetime) -> int | None:
    """Which half minute a code is of: this one, or the one before or after."""
    totp, code = pyotp.TOTP(secret), code.strip().replace(" ", "")
    current = totp.timecode(now)
    return next((c for c in (current, current - 1, current + 1) if c >= 0 and _same(totp.generate_otp(c), code)), None)


def _same(a: str, b: str) -> bool:
    return b.isascii() and pyotp.utils.strings_equal(a, b)
