"""The site that a command works on, and who acts."""

from __future__ import annotations

from datetime import UTC, datetime

import click

from spinel.actions import people, setup
from spinel.actions.acting import Act, Actor
from spinel.actions.site import Site
from spinel.commands.common import database


def site() -> Site:
    return setup.open_site(database())


def now(site: Site, actor: Actor) -> Act:
    return Act(site, actor, datetime.now(UTC))


def actor(site: Site, login: str) -> Actor:
    for person in people.everybody(site):
        if person.login == login:
            return people.actor(site, person.id)
    raise click.ClickException(f"There is no person {login}.")


def publisher(site: Site, login: str | None) -> Actor:
    """The coordinator who publishes: named, or the only one."""
    if login:
        return actor(site, login)
    coordinators = [p for p in people.everybody(site) if "coordinator" in p.roles]
    if len(coordinators) != 1:
        names = ", ".join(p.login for p in coordinators) or "none yet: spinel coordinator-add"
        raise click.ClickException(f"Say who publishes with --as LOGIN (coordinators: {names}).")
    return people.actor(site, coordinators[0].id)
