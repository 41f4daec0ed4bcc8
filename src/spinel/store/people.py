"""Queries about people, roles, qualifications and sign-in attempts."""

from __future__ import annotations

from datetime import date

from peewee import JOIN

from spinel.core.people import Qualification as Held
from spinel.store.models import Person, PersonRole, Qualification, SignInAttempt


def by_login(login: str) -> Person | None:
    return Person.get_or_none(Person.login == login)


def with_roles(person_id: int) -> tuple[Person, frozenset[str]] | None:
    """A person and the roles, in one query."""
    query = (
        Person.select(Person, PersonRole.role.alias("role"))
        .join(PersonRole, JOIN.LEFT_OUTER)
        .where(Person.id == person_id)
        .objects()
    )
    rows = list(query)
    return (rows[0], frozenset(r.role for r in rows if r.role)) if rows else None


def active() -> list[Person]:
    return list(Person.select().where(Person.active == 1).order_by(Person.name))


def names() -> dict[int, str]:
    """The name of everybody who ever was registered, by id: lists ask once, not per row."""
    return dict(Person.select(Person.id, Person.name).tuples())


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


def insert(login: str, name: str, phone: str, password_hash: str, at: str, roles: list[str]) -> int:
    """The id of the new person."""
    person = Person.create(login=login, name=name, phone=phone, password_hash=password_hash, created_at=at)
    for role in roles:
        PersonRole.insert(person=person.id, role=role).execute()
    return int(person.id)


def put_qualification(person_id: int, task_id: str, equipment_class: str, until: str) -> None:
    Qualification.replace(person=person_id, task_id=task_id, equipment_class=equipment_class, until=until).execute()


def add_attempt(login: str, address: str, succeeded: bool, at: str) -> None:
    SignInAttempt.insert(login=login[:80], address=address, succeeded=int(succeeded), at=at).execute()
