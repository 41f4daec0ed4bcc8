"""Roles, and what it takes to be put to work: a qualification per task and equipment class, in date."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from spinel.core.said import Said, Sayable, say

ROLES = ("coordinator", "authoriser", "person_in_charge", "director", "operator", "worker", "attendant", "reader")


def role_name(role: str) -> Said:
    """What a role is called in the site's practice."""
    return say(f"role-{role}")


def any_of(roles: Iterable[str]) -> Said:
    """Any of these roles, each with its article: an authorizer or a person in charge."""
    return say("any-of", roles=tuple(role_name(r) for r in roles))


@dataclass(frozen=True)
class Kept:
    """A session that was not ended. ``device``: what the browser says it is. Moments as they are stored, UTC."""

    id: int
    person_id: int
    device: str
    made_at: str
    seen_at: str


@dataclass(frozen=True)
class Qualification:
    task_id: str
    equipment_class: str
    until: date


def qualified(held: Iterable[Qualification], task_id: str, equipment_class: Sayable, on: date) -> bool:
    """Is the person qualified for this task on this class of equipment on that day (the last day counts)?

    >>> qualified([Qualification("test", "switchboard", date(2026, 1, 2))], "test", "switchboard", date(2026, 1, 2))
    True
    """
    return any(q.task_id == task_id and q.equipment_class == equipment_class and q.until >= on for q in held)
