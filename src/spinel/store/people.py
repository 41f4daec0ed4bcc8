"""Queries about people, roles and qualifications."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from spinel.core.people import Qualification as Held
from spinel.store.database import rows
from spinel.store.models import Person, PersonRole, Qualification


def by_login(login: str) -> Person | None:
    return next(iter(Person.raw("SELECT * FROM person WHERE login = ?", login)), None)


@dataclass(frozen=True, kw_only=True)
class Registered:
    """Somebody of the register, with the roles. ``active``: may still act. ``must_change``: the password was set by
    somebody else. ``employer``: own, contractor or visitor, of which ``company``. ``code``, ``otp``: whether there is a
    short code, and a secret of one-time codes."""

    id: int
    login: str
    name: str
    phone: str
    active: bool
    must_change: bool
    roles: frozenset[str]
    employer: str
    company: str
    trade: str
    languages: str
    code: bool
    otp: bool


_REGISTER = """SELECT p.id, p.login, p.name, p.phone, p.active, p.must_change, group_concat(r.role), p.employer,
    p.company, p.trade, p.languages, p.code_hash <> '', p.otp <> ''
FROM person p LEFT JOIN person_role r ON r.person_id = p.id"""


def register() -> tuple[Registered, ...]:
    """Everybody who ever was registered, by name: one query for names and roles alike."""
    return tuple(_registered(*row) for row in rows(f"{_REGISTER} GROUP BY p.id ORDER BY p.name"))


def registered(person_id: int) -> Registered | None:
    found = rows(f"{_REGISTER} WHERE p.id = ? GROUP BY p.id", person_id)
    return _registered(*found[0]) if found else None


def _registered(
    number: int, login: str, name: str, phone: str, active: int, must_change: int, roles: str | None, employer: str,
    company: str, trade: str, languages: str, code: int, otp: int,
) -> Registered:  # fmt: skip
    return Registered(
        id=number, login=login, name=name, phone=phone, active=bool(active), must_change=bool(must_change),
        roles=frozenset(roles.split(",") if roles else ()), employer=employer, company=company, trade=trade,
        languages=languages, code=bool(code), otp=bool(otp),
    )  # fmt: skip


def held_by(person_id: int) -> list[Held]:
    """What somebody is qualified for, or was."""
    query = "SELECT task_id, equipment_class, until, since FROM qualification WHERE person_id = ?"
    return [_held(*row) for row in rows(f"{query} ORDER BY task_id, equipment_class", person_id)]


def qualifications() -> dict[int, list[Held]]:
    """Every qualification, by the person who holds it."""
    found: dict[int, list[Held]] = {}
    for person_id, *row in rows("SELECT person_id, task_id, equipment_class, until, since FROM qualification"):
        found.setdefault(person_id, []).append(_held(*row))
    return found


def _held(task_id: str, equipment_class: str, until: str, since: str) -> Held:
    return Held(task_id, equipment_class, date.fromisoformat(until), date.fromisoformat(since) if since else None)


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


def put_qualification(person_id: int, task_id: str, equipment_class: str, until: str, since: str = "") -> None:
    Qualification.replace(
        person=person_id, task_id=task_id, equipment_class=equipment_class, until=until, since=since
    ).execute()  # fmt: skip


def take_qualification(person_id: int, task_id: str, equipment_class: str) -> int:
    """How many were taken away: one, or none."""
    where = (
        (Qualification.person == person_id)
        & (Qualification.task_id == task_id)
        & (Qualification.equipment_class == equipment_class)
    )
    return int(Qualification.delete().where(where).execute())


def describe(person_id: int, **about: str) -> None:
    """Put down whose somebody is: phone, employer, company, trade, languages."""
    Person.update(about).where(Person.id == person_id).execute()


def code_of(person_id: int) -> str:
    """The hash of a short code, empty where there is none."""
    found = rows("SELECT code_hash FROM person WHERE id = ? AND active", person_id)
    return str(found[0][0]) if found else ""


def set_code(person_id: int, code_hash: str) -> None:
    Person.update(code_hash=code_hash).where(Person.id == person_id).execute()


def otp_of(person_id: int) -> str:
    """The kept secret of one-time codes, empty where there is none."""
    found = rows("SELECT otp FROM person WHERE id = ? AND active", person_id)
    return str(found[0][0]) if found else ""


def set_otp(person_id: int, secret: str) -> None:
    Person.update(otp=secret).where(Person.id == person_id).execute()
