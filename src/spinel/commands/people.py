"""Registering people, their qualifications, and the settings of a site."""

from __future__ import annotations

from datetime import datetime

import click

from spinel.actions import people, qualifying, site_settings
from spinel.actions.acting import SYSTEM
from spinel.commands.acting import actor, now, site
from spinel.commands.common import says_errors
from spinel.core.people import ROLES


@click.command("coordinator-add")
@click.argument("login")
@click.option("--name", required=True)
@click.password_option()
@says_errors
def coordinator_add(login: str, name: str, password: str) -> None:
    """Register the first coordinator of a new site."""
    on = site()
    people.add_person(now(on, SYSTEM), login, name, password, ["coordinator"], first=True)
    click.echo(f"{name} may sign in as {login}")


@click.command("person-add")
@click.argument("login")
@click.option("--name", required=True)
@click.option("--role", "roles", multiple=True, required=True, type=click.Choice(list(ROLES)))
@click.option("--phone", default="")
@click.option("--as", "actor_login", required=True, help="The coordinator who registers them.")
@click.password_option()
@says_errors
def person_add(login: str, name: str, roles: tuple[str, ...], phone: str, actor_login: str, password: str) -> None:
    """Register a person with roles."""
    on = site()
    people.add_person(now(on, actor(on, actor_login)), login, name, password, roles, phone)
    click.echo(f"{name} may sign in as {login}")


@click.command("qualify")
@click.argument("login")
@click.argument("task_id")
@click.argument("equipment_class")
@click.argument("until", type=click.DateTime(["%Y-%m-%d"]))
@click.option("--as", "actor_login", required=True)
@says_errors
def qualify(login: str, task_id: str, equipment_class: str, until: datetime, actor_login: str) -> None:
    """Record that a person is qualified for a task on a class of equipment until a day."""
    on = site()
    qualifying.from_elsewhere(now(on, actor(on, actor_login)), login, [(task_id, equipment_class)], until.date())
    click.echo("recorded")


@click.command("setting")
@click.argument("key")
@click.argument("value")
@click.option("--as", "actor_login", required=True)
@click.option("--because", required=True, help="Why the site decides so.")
@says_errors
def setting(key: str, value: str, actor_login: str, because: str) -> None:
    """Change a site setting; a wrong KEY is answered with all that there are."""
    on = site()
    site_settings.change(now(on, actor(on, actor_login)), key, value, because)
    click.echo(f"{key} = {value}")
