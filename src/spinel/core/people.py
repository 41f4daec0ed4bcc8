"""Roles, and what it takes to be put to work: a qualification per task and equipment class, in date."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

ROLES = {
    "coordinator": "Coordinator",
    "authoriser": "Authorizer",
    "person_in_charge": "Person in charge",
    "director": "Switching director",
    "operator": "Switching operator",
    "worker": "Worker",
    "attendant": "Attendant",
    "reader": "Reader",
}


def any_of(roles: Iterable[str]) -> str:
    """Roles in words, with their article.

    >>> any_of(["authoriser", "person_in_charge"])
    'an authorizer or a person in charge'
    """
    names = [ROLES[r].lower() for r in roles]
    return " or ".join(f"{'an' if n[0] in 'aeiou' else 'a'} {n}" for n in names)


@dataclass(frozen=True)
class Qualification:
    task_id: str
    equipment_class: str
    until: date


def qualified(held: Iterable[Qualification], task_id: str, equipment_class: str, on: date) -> bool:
    """Is the person qualified for this task on this class of equipment on that day (the last day counts)?

    >>> qualified([Qualification("test", "switchboard", date(2026, 1, 2))], "test", "switchboard", date(2026, 1, 2))
    True
    """
    return any(q.task_id == task_id and q.equipment_class == equipment_class and q.until >= on for q in held)
