"""Acts of the demo's people at the demo's moment, for tests that go straight to the actions."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from spinel.actions import people, permits
from spinel.actions.acting import Act, Actor
from spinel.actions.site import Site
from spinel.demo.people import PASSWORD
from spinel.demo.site import element_id

MOMENT = datetime(2026, 11, 24, 22, 32, 8, tzinfo=UTC)
#: Justifications answered in full.
HAZARD = {"hazard_kind": "fall", "hazard_named": "The ramp sinks", "who_hurt": "Passengers", "no_other_supply": "yes",
          "no_other_time": "yes", "no_temporary_supply": "yes", "confirmed_by": "The works manager"}  # fmt: skip
DESIGN = {"design_named": "Its shutters", "design_confirmed": "yes", "confirmed_by": "The works manager"}
__all__ = ["DESIGN", "HAZARD", "MOMENT", "PASSWORD", "act", "actor", "element_id", "opened", "person", "the_site"]


_open: list[Site] = []


def opened(site: Site) -> Site:
    """From now on the acts of a test are on this site."""
    _open[:] = [site]
    return site


def the_site() -> Site:
    """The site that the acts of this test are on."""
    return _open[0]


def actor(login: str) -> Actor:
    return next(people.actor(the_site(), p.id) for p in people.everybody(the_site()) if p.login == login)


def act(login: str, request_id: str | None = None, **later: float) -> Act:
    """An act of a demo person at the demo's moment, or so much later."""
    return Act(the_site(), actor(login), MOMENT + timedelta(**later), request_id)


def person(login: str) -> int:
    found = actor(login).id
    assert found is not None
    return found


def permits_of(number: str) -> permits.PermitView:
    """A permit as it is at the demo's moment."""
    return permits.view(the_site(), number, MOMENT)
