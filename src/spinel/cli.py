"""The command line: the same actions and the same core as the pages."""

from __future__ import annotations

import csv
import json
import os
import sys
from collections.abc import Callable
from datetime import UTC, datetime
from functools import wraps
from pathlib import Path
from typing import IO, Any

import click

from spinel import __version__
from spinel.actions import network, people, records, setup
from spinel.actions.acting import SYSTEM, Act, Actor
from spinel.core.arcflash.cases import OUTPUT, run_rows
from spinel.core.errors import SpinelError
from spinel.core.network.check import accept, parse
from spinel.core.network.schema import schema
from spinel.core.people import ROLES

DATABASE = "var/spinel.sqlite3"


def _database() -> str:
    return os.environ.get("SPINEL_DB", DATABASE)


def says_errors(command: Callable[..., Any]) -> Callable[..., Any]:
    """SpinelErrors become their message on standard error and exit status 1."""

    @wraps(command)
    def wrapped(*args: Any, **kwargs: Any) -> Any:
        try:
            return command(*args, **kwargs)
        except SpinelError as error:
            click.echo(str(error), err=True)
            raise SystemExit(1) from None

    return wrapped


@click.group()
@click.version_option(__version__)
def main() -> None:
    """Spinel: hazards, decisions and permits for an electrical safety coordinator."""


@main.command()
@click.option("--at", "moment", help="The demo's now, ISO 8601 with zone; default: this moment.")
@click.option("--fresh", is_flag=True, help="Rebuild the demo database.")
@click.option("--serve", "then_serve", is_flag=True, help="Serve it afterwards.")
@says_errors
def demo(moment: str | None, fresh: bool, then_serve: bool) -> None:
    """Build the demo database (kept when it is there already)."""
    from spinel.demo.build import build

    path = Path(_database())
    if fresh:
        for name in (path, Path(f"{path}-wal"), Path(f"{path}-shm")):
            name.unlink(missing_ok=True)
    if path.exists():
        click.echo(f"Keeping the database {path}; --fresh rebuilds it.")
        setup.open_database(path)
    else:
        # Built beside and moved into place, so that a build cut off leaves no half demo behind.
        half = path.with_suffix(".building")
        for name in (half, Path(f"{half}-wal"), Path(f"{half}-shm")):
            name.unlink(missing_ok=True)
        setup.open_database(half)
        with setup.connection():
            build(_moment(moment))
        half.rename(path)
        click.echo(f"Demo database built: {path}")
    if then_serve:
        _serve()


def _moment(text: str | None) -> datetime:
    if text is None:
        return datetime.now(UTC)
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        raise click.BadParameter("ISO 8601, for instance 2026-11-24T14:32:00-08:00") from None
    if moment.tzinfo is None:
        raise click.BadParameter("name the zone, for instance ...-08:00")
    return moment.astimezone(UTC)


@main.command()
@says_errors
def serve() -> None:
    """Serve the site on 127.0.0.1 (SPINEL_PORT, default 8000; SPINEL_DB; SPINEL_BASE_URL)."""
    setup.open_database(_database())
    _serve()


def _serve() -> None:
    port = os.environ.get("SPINEL_PORT", "8000")
    if not port.isascii() or not port.isdigit() or not 0 < int(port) < 65536:
        raise click.ClickException(f"SPINEL_PORT is {port!r}: a port number from 1 to 65535")
    os.environ["SPINEL_DB"] = _database()
    click.echo(f"Spinel listens on http://127.0.0.1:{port}")
    sys.stdout.flush()
    arguments = [
        sys.executable, "-m", "gunicorn", "--bind", f"127.0.0.1:{port}", "--workers", "2", "--threads", "4",
        "--worker-class", "gthread", "--no-control-socket", "--log-level", "warning",
        "spinel.web.app:from_environment()",
    ]  # fmt: skip
    os.execv(sys.executable, arguments)


@main.command()
@click.option("--head", "head_hash", help="Head hash printed on a paper.")
@click.option("--count", type=int, help="Count printed beside it.")
@says_errors
def verify(head_hash: str | None, count: int | None) -> None:
    """Walk the ledger; with a printed head and count also find a cut tail."""
    setup.open_database(_database())
    with setup.connection():
        verdict = records.verify(head_hash, count)
    if verdict.broken_at is not None:
        click.echo(f"BROKEN at entry {verdict.broken_at}: {verdict.reason}", err=True)
        raise SystemExit(1)
    click.echo(f"intact: {verdict.count} entries, head {verdict.head}")


@main.command("coordinator-add")
@click.argument("login")
@click.option("--name", required=True)
@click.password_option()
@says_errors
def coordinator_add(login: str, name: str, password: str) -> None:
    """Register the first coordinator of a new site."""
    setup.open_database(_database())
    with setup.connection():
        people.add_person(_now(SYSTEM), login, name, password, ["coordinator"], first=True)
    click.echo(f"{name} may sign in as {login}")


@main.command("person-add")
@click.argument("login")
@click.option("--name", required=True)
@click.option("--role", "roles", multiple=True, required=True, type=click.Choice(list(ROLES)))
@click.option("--phone", default="")
@click.option("--as", "actor_login", required=True, help="The coordinator who registers them.")
@click.password_option()
@says_errors
def person_add(login: str, name: str, roles: tuple[str, ...], phone: str, actor_login: str, password: str) -> None:
    """Register a person with roles."""
    setup.open_database(_database())
    with setup.connection():
        people.add_person(_now(_actor(actor_login)), login, name, password, roles, phone)
    click.echo(f"{name} may sign in as {login}")


@main.command("qualify")
@click.argument("login")
@click.argument("task_id")
@click.argument("equipment_class")
@click.argument("until", type=click.DateTime(["%Y-%m-%d"]))
@click.option("--as", "actor_login", required=True)
@says_errors
def qualify(login: str, task_id: str, equipment_class: str, until: datetime, actor_login: str) -> None:
    """Record that a person is qualified for a task on a class of equipment until a day."""
    setup.open_database(_database())
    with setup.connection():
        people.add_qualification(_now(_actor(actor_login)), login, task_id, equipment_class, until.date())
    click.echo("recorded")


@main.command("setting")
@click.argument("key")
@click.argument("value")
@click.option("--as", "actor_login", required=True)
@says_errors
def setting(key: str, value: str, actor_login: str) -> None:
    """Change a site setting: ceiling_cal_cm2 or longest_window_h."""
    setup.open_database(_database())
    with setup.connection():
        setup.change_setting(_now(_actor(actor_login)), key, value)
    click.echo(f"{key} = {value}")


def _now(actor: Actor) -> Act:
    return Act(actor, datetime.now(UTC))


def _actor(login: str) -> Actor:
    for person in people.everybody():
        if person.login == login:
            return people.actor(person.id)
    raise click.ClickException(f"There is no person {login}.")


@main.group("network")
def network_group() -> None:
    """Network documents: check, import (publishes a revision), JSON Schema."""


@network_group.command("schema")
def network_schema() -> None:
    """Print the JSON Schema of the network document."""
    click.echo(json.dumps(schema(), indent=2, ensure_ascii=False))


@network_group.command("check")
@click.argument("file", type=click.File("r", encoding="utf-8"))
@says_errors
def network_check(file: IO[str]) -> None:
    """Check a document; every problem names element, field, value and what is allowed."""
    found = accept(parse(file.read()))
    click.echo(f"acceptable: {len(found.elements)} elements, {len(found.nodes)} nodes, {len(found.cases)} cases")


@network_group.command("import")
@click.argument("file", type=click.File("r", encoding="utf-8"))
@click.option("--as", "actor_login", help="The coordinator who publishes; needed when there are several.")
@says_errors
def network_import(file: IO[str], actor_login: str | None) -> None:
    """Publish a document as the next revision."""
    text = file.read()
    setup.open_database(_database())
    with setup.connection():
        number, touched = network.publish(_now(_publisher(actor_login)), text)
    click.echo(f"published as revision {number}")
    for permit in touched:
        click.echo(f"{permit}: its figures became worse; see the permit")


@network_group.command("walk-down")
@click.argument("file", type=click.File("r", encoding="utf-8-sig"))
@click.option("--as", "actor_login", required=True, help="The coordinator or director who walked.")
@says_errors
def network_walk_down(file: IO[str], actor_login: str) -> None:
    """Record all positions at once as found: CSV with the columns tag and found.

    Switches: open, closed, withdrawn; transfer switches: normal, emergency, off, automatic; sources: running, stopped.
    """
    found = {row.get("tag") or "": (row.get("found") or "").strip() for row in csv.DictReader(file)}
    setup.open_database(_database())
    with setup.connection():
        network.walk_down(_now(_actor(actor_login)), found)
    click.echo(f"recorded: {len(found)} positions")


def _publisher(login: str | None) -> Actor:
    if login:
        return _actor(login)
    coordinators = [p for p in people.everybody() if "coordinator" in p.roles]
    if len(coordinators) != 1:
        names = ", ".join(p.login for p in coordinators) or "none yet: spinel coordinator-add"
        raise click.ClickException(f"Say who publishes with --as LOGIN (coordinators: {names}).")
    return people.actor(coordinators[0].id)


@main.group("calc")
def calc() -> None:
    """Calculations on CSV files."""


@calc.command("arcflash")
@click.argument("cases", type=click.File("r", encoding="utf-8-sig"))
@click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
def calc_arcflash(cases: IO[str], output: IO[str]) -> None:
    """Arcing current, incident energy and boundary for each row of CASES ('-' reads standard input)."""
    reader = csv.DictReader(cases)
    columns = [c for c in reader.fieldnames or () if c]
    writer = csv.DictWriter(output, [*columns, *(c for c in OUTPUT if c not in columns)], extrasaction="ignore")
    writer.writeheader()
    refused = False
    for row in run_rows(reader):
        writer.writerow(row)
        refused = refused or bool(row["error"])
    if refused:
        raise SystemExit(1)
