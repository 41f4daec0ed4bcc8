"""Changes to the register: roles, leaving and coming back, passwords. A site always keeps a coordinator."""

from __future__ import annotations

import secrets
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from spinel.actions import passwords, people, rosters, sessions
from spinel.actions.acting import Act, work
from spinel.actions.people import SIGNED_IN, check_new_password, check_password
from spinel.actions.rosters import OnRoster
from spinel.actions.site import Site, on_site
from spinel.actions.taking_off import taken_off
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.people import EMPLOYERS, OWN, ROLES, Course, Qualification, attended
from spinel.core.said import say
from spinel.store import invitations, training
from spinel.store import people as store
from spinel.store.people import Registered

#: Qualifications that end within so many days are said to end soon.
SOON = timedelta(days=30)


@dataclass(frozen=True)
class Listed:
    """Somebody of the register. ``tasks``: of how many pairs of task and equipment they are qualified on the day;
    ``ends``: the first of these to end, where that is soon. ``holds``: what hangs or is under way in their name;
    ``rosters``: permits and programs that they are on."""

    person: Registered
    tasks: int
    ends: date | None
    holds: tuple[str, ...]
    rosters: tuple[OnRoster, ...]


@on_site
def listed(site: Site, on: date, now: datetime) -> list[Listed]:
    """Everybody who ever was registered, those who left last."""
    held, hanging, on_duty = store.qualifications(), rosters.locks(site), rosters.duties(site, now)
    found = []
    for p in sorted(site.register(), key=lambda p: (not p.active, p.name)):
        valid = [q.until for q in held.get(p.id, ()) if q.holds(on)]
        soon = min((until for until in valid if until <= on + SOON), default=None)
        found.append(Listed(p, len(valid), soon, tuple(hanging.get(p.id, ())), tuple(on_duty.get(p.id, ()))))
    return found


@dataclass(frozen=True, kw_only=True)
class OnePerson:
    """Somebody with what they hold, what was shown, where they are signed in, and what hangs in their name. ``held``:
    the last to end first."""

    person: Registered
    held: tuple[Qualification, ...]
    shown: tuple[Course, ...]
    holds: tuple[str, ...]
    rosters: tuple[OnRoster, ...]
    twice: tuple[tuple[OnRoster, OnRoster], ...]
    sessions: int
    today: date

    @property
    def in_date(self) -> int:
        return sum(q.holds(self.today) for q in self.held)

    def by_task(self) -> list[tuple[Qualification, tuple[str, ...]]]:
        """What ends together, once, with all its classes of equipment."""
        found: dict[tuple[str, date, date | None], list[Qualification]] = {}
        for q in self.held:
            found.setdefault((q.task_id, q.until, q.since), []).append(q)
        return [(each[0], tuple(sorted(q.equipment_class for q in each))) for each in found.values()]

    def course(self, name: str) -> date | None:
        """The last day on which a course counts, None where it was never attended."""
        return attended(self.shown, name, self.today)


@on_site
def one(site: Site, login: str, on: date, now: datetime) -> OnePerson:
    person = people.registered(login)
    on_duty = rosters.duties(site, now)
    held = sorted(store.held_by(person.id), key=lambda q: (q.until, q.task_id), reverse=True)
    return OnePerson(
        person=person, held=tuple(held), shown=tuple(training.of_person(person.id)),
        holds=tuple(rosters.locks(site).get(person.id, ())), rosters=tuple(on_duty.get(person.id, ())),
        twice=tuple(rosters.at_once(on_duty).get(person.id, ())), today=on,
        sessions=len(sessions.of_person(site, person.id, now)),
    )  # fmt: skip


@on_site
def one_id(site: Site, login: str) -> int:
    return people.registered(login).id


@on_site
def enter(act: Act, login: str, name: str, password: str, roles: Iterable[str], about: Mapping[str, str]) -> int:
    """Somebody new, with whose people they are. Without a password nobody has one for it: an invitation follows."""
    known = check_about(about)
    return people.add_person(
        act, login, name, password or secrets.token_urlsafe(24), roles, known["phone"], must_change=True, about=known
    )


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
        person = people.registered(login)
        if "coordinator" not in wanted:
            _another_coordinator(person)
        if set(wanted) == person.roles:
            raise InputError("roles", ", ".join(wanted), say("register-other-roles-than-now"))
        store.set_roles(person.id, wanted)
        unit.record("roles changed", f"person:{login}", {"roles": wanted, "before": sorted(person.roles)})


@on_site
def describe(act: Act, login: str, about: Mapping[str, str]) -> None:
    """Whose somebody is, and how they are reached: phone, employer, company, trade, languages."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    known = check_about(about)
    with work(act) as unit:
        if unit.done:
            return
        person = people.registered(login)
        store.describe(person.id, **known)
        unit.record("person described", f"person:{person.login}", known)
        if person.employer == OWN != known["employer"] and act.site.published():
            # nobody of theirs is at work before hazards are exchanged, those who are it already neither
            list(taken_off(unit, person.id, say("exchanges-no-longer-exchanged", name=person.name)))


def check_about(about: Mapping[str, str]) -> dict[str, str]:
    """What may be kept of somebody, or InputError beside its field. Others' people have a company."""
    employer = about.get("employer") or OWN
    if employer not in EMPLOYERS:
        raise InputError("employer", employer, say("one-of", options=EMPLOYERS))
    company = texts.COMPANY.check(about.get("company", ""))
    if employer != OWN and not company:
        raise InputError("company", "", say("register-whose-people-they-are"))
    return {
        "employer": employer, "company": company if employer != OWN else "",
        "phone": texts.PHONE.check(about.get("phone", ""), "phone"), "trade": texts.TRADE.check(about.get("trade", "")),
        "languages": texts.LANGUAGES.check(about.get("languages", "")),
    }  # fmt: skip


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
        person = people.registered(login)
        if person.active == active:
            known = say("register-somebody-who-has-left") if active else say("register-somebody-who-has-not-left")
            raise InputError("login", login, known)
        if not active:
            _another_coordinator(person)
            _nobody_gets_in(act, person)
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
        person = people.registered(login)
        if person.id == act.actor.id:
            raise InputError("login", login, say("register-somebody-else-the-own-is-changed-on-ones-page"))
        made = secrets.token_urlsafe(9)
        _nobody_gets_in(act, person)
        store.set_password(person.id, passwords.hashed(made), must_change=True)
        unit.record("password reset", f"person:{login}", {})
    return made


@on_site
def change_password(act: Act, old: str, new: str, keep: int | None = None) -> None:
    """One's own. Every other session of one's ends; ``keep``: the one that it was changed in."""
    wrong = say("act-people-this-is-not-your-password-nothing-was")
    check_password(act.site, act.actor.login, old, SIGNED_IN, act.now, wrong)
    check_new_password(new, act.actor.login, act.actor.name, "new")
    if new == old:
        raise InputError("new", say("register-that-one"), say("register-one-that-nobody-guesses"))
    assert act.actor.id is not None
    with work(act) as unit:
        if unit.done:
            return
        sessions.end(act, act.actor.id, but=keep)
        store.set_password(act.actor.id, passwords.hashed(new), must_change=False)
        unit.record("password changed", f"person:{act.actor.login}", {})


def _nobody_gets_in(act: Act, person: Registered) -> None:
    """Neither a session nor a link nor a short code lets anybody in as that person any more. First of all: should the
    rest fail, somebody signs in once more than was needed, and nobody stays signed in."""
    sessions.end(act, person.id)
    invitations.withdraw(act.site.path, person.id)
    store.set_code(person.id, "")


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
