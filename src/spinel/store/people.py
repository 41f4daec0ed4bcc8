"""Queries about people, roles, qualifications and sign-in attempts."""

from __future__ import annotations

from datetime import date

from spinel.core.people import Qualification as Held
from spinel.store.models import Person, PersonRole, Qualification, SignInAttempt


def by_id(person_id: int) -> Person | None:
    return Person.get_or_none(Person.id == person_id)


def by_login(login: str) -> Person | None:
    return Person.get_or_none(Person.login == login)


def roles_of(person_id: int) -> frozenset[str]:
    return frozenset(r.role for r in PersonRole.select().where(PersonRole.person == person_id))


def active() -> list[Person]:
    return list(Person.select().where(Person.active == 1).order_by(Person.name))


def roles_by_person() -> dict[int, frozenset[str]]:
    found: dict[int, set[str]] = {}
    for row in PersonRole.select(PersonRole.person, PersonRole.role).tuples():
        found.setdefault(row[0], set()).add(row[1])
    return {k: frozenset(v) for k, v in found.items()}


def held_by(person_id: int) -> list[Held]:
    rows = Qualification.select().where(Qualification.person == person_id)
    return [Held(q.task_id, q.equipment_class, date.fromisoformat(q.until)) for q in rows]


def failures_since(login: str, since: str) -> int:
    """Failed attempts after the last success, not older than ``since``."""
    rows = (
        SignInAttempt.select(SignInAttempt.succeeded)
        .where((SignInAttempt.login == login) & (SignInAttempt.at >= since))
        .order_by(SignInAttempt.id.desc())
        .tuples()
    )
    count = 0
    for (succeeded,) in rows:
        if succeeded:
            break
        count += 1
    return count
