"""Queries about people, roles and qualifications."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from spinel.core.people import Qualification as Held
from spinel.store.database import rows
from spinel.store.models import Person, PersonRole, Qualification


def by_login(login: str) -> Person | None:
    return next(iter(Person.raw("SELECT * FROM person WHERE login = ?", login)), None)


@dataclass(frozen=True)
class Registered:
    """Somebody of the register, with the roles. ``active``: may still act. ``must_change``: the password was set by
    somebody else."""

    id: int
    login: str
    name: str
    phone: str
    active: bool
    must_change: bool
    roles: frozenset[str]


_REGISTER = """SELECT p.id, p.login, p.name, p.phone, p.active, p.must_change, group_concat(r.role)
FROM person p LEFT JOIN person_role r ON r.person_id = p.id"""


def register() -> tuple[Registered, ...]:
    """Everybody who ever was registered, by name: one query for names and roles alike."""
    return tuple(_registered(*row) for row in rows(f"{_REGISTER} GROUP BY p.id ORDER BY p.name"))


def registered(person_id: int) -> Registered | None:
    found = rows(f"{_REGISTER} WHERE p.id = ? GROUP BY p.id", person_id)
    return _registered(*found[0]) if found else None


def _registered(
    number: int, login: str, name: str, phone: str, active: int, must_change: int, roles: str | None
) -> Registered:  # fmt: skip
    held = frozenset(roles.split(",") if roles else ())
    return Registered(number, login, name, phone, bool(active), bool(must_change), held)


def held_by(person_id: int) -> list[Held]:
    rows = Qualification.select().where(Qualification.person == person_id)
    return [Held(q.task_id, q.equipment_class, date.fromisoformat(q.until)) for q in rows]


def qualifications() -> dict[int, list[date]]:
    """The last day of every qualification, by the person who holds it."""
    found: dict[int, list[date]] = {}
    for person_id, until in rows("SELECT person_id, until FROM qualification"):
        found.setdefault(person_id, []).append(date.fromisoformat(until))
    return found


def set_roles(person_id: int, roles: list[str]) -> None:
    """These, and no others any more."""
    PersonRole.delete().where(PersonRole.person == person_id).execute()
    for role in roles:
        PersonRole.insert(person=person_id, role=role).execute()


def set_active(person_id: int, active: bool) -> None:
    Person.update(active=int(active)).where(Person.id == person_id).execute()


def set_password(person_id: int, password_hash: str, *, must_change: bool) -> None:
    change = {Person.password_hash: password_hash, Person.must_change: int(must_change)}
    Person.update(change).where(Person.id == person_id).execute()


def insert(login: str, name: str, phone: str, password_hash: str, at: str, roles: list[str]) -> int:
    """The id of the new person."""
    person = Person.create(login=login, name=name, phone=phone, password_hash=password_hash, created_at=at)
    for role in roles:
        PersonRole.insert(person=person.id, role=role).execute()
    return int(person.id)


def put_qualification(person_id: int, task_id: str, equipment_class: str, until: str) -> None:
    Qualification.replace(person=person_id, task_id=task_id, equipment_class=equipment_class, until=until).execute()
