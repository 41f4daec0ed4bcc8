"""Acts of the demo's people at the demo's moment, for tests that go straight to the actions."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from spinel.actions import people
from spinel.actions.acting import Act, Actor
from spinel.demo.people import PASSWORD
from spinel.demo.site import element_id

MOMENT = datetime(2026, 11, 24, 22, 32, 8, tzinfo=UTC)
__all__ = ["MOMENT", "PASSWORD", "act", "actor", "element_id", "person"]


def actor(login: str) -> Actor:
    return next(people.actor(p.id) for p in people.everybody() if p.login == login)


def act(login: str, request_id: str | None = None, **later: float) -> Act:
    """An act of a demo person at the demo's moment, or so much later."""
    return Act(actor(login), MOMENT + timedelta(**later), request_id)


def person(login: str) -> int:
    found = actor(login).id
    assert found is not None
    return found
