"""Queries about people, roles, qualifications and sign-in attempts."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from spinel.core.people import Qualification as Held
from spinel.store.database import rows
from spinel.store.models import Person, PersonRole, Qualification, SignInAttempt


def by_login(login: str) -> Person | None:
    return next(iter(Person.raw("SELECT * FROM person WHERE login = ?", login)), None)


@dataclass(frozen=True)
class Registered:
    """Somebody of the register, with the roles. ``active``: may still act."""

    id: int
    login: str
    name: str
    phone: str
    active: bool
    roles: frozenset[str]


_REGISTER = """SELECT p.id, p.login, p.name, p.phone, p.active, group_concat(r.role)
FROM person p LEFT JOIN person_role r ON r.person_id = p.id"""


def register() -> tuple[Registered, ...]:
    """Everybody who ever was registered, by name: one query for names and roles alike."""
    return tuple(_registered(*row) for row in rows(f"{_REGISTER} GROUP BY p.id ORDER BY p.name"))


def registered(person_id: int) -> Registered | None:
    found = rows(f"{_REGISTER} WHERE p.id = ? GROUP BY p.id", person_id)
    return _registered(*found[0]) if found else None


def _registered(number: int, login: str, name: str, phone: str, active: int, roles: str | None) -> Registered:
    return Registered(number, login, name, phone, bool(active), frozenset(roles.split(",") if roles else ()))


def held_by(person_id: int) -> list[Held]:
    rows = Qualification.select().where(Qualification.person == person_id)
    return [Held(q.task_id, q.equipment_class, date.fromisoformat(q.until)) for q in rows]


def failures_since(login: str, since: str) -> int:
    """Failed attempts after the last success, not older than ``since``."""
    latest = (
        SignInAttempt.select(SignInAttempt.succeeded)
        .where((SignInAttempt.login == login) & (SignInAttempt.at >= since))
        .order_by(SignInAttempt.id.desc())
        .tuples()
    )
    count = 0
    for (succeeded,) in latest:
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
