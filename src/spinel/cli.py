"""The command line: the same actions and the same core as the pages."""

from __future__ import annotations

import csv
import json
import os
import sys
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from functools import wraps
from pathlib import Path
from typing import IO, Any

import click

from spinel import __version__
from spinel.actions import network, people, records, setup
from spinel.actions.acting import SYSTEM, Act, Actor
from spinel.actions.site import Site
from spinel.core.arcflash import cases as arcflash_cases
from spinel.core.curves import cases as relay_cases
from spinel.core.curves.checks import check_curve
from spinel.core.curves.files import read_csv, read_curve, write_csv, write_curve
from spinel.core.errors import SpinelError
from spinel.core.hazard import Study
from spinel.core.network.check import accept, parse, warnings_of
from spinel.core.network.schema import schema
from spinel.core.people import ROLES
from spinel.core.profile import profile
from spinel.core.shock import cases as shock_cases
from spinel.core.study import COLUMNS, SiteStudy
from spinel.fault_report import fault_report

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
        setup.open_site(path)
    else:
        # Built beside and moved into place, so that a build cut off leaves no half demo behind.
        half = path.with_suffix(".building")
        for name in (half, Path(f"{half}-wal"), Path(f"{half}-shm")):
            name.unlink(missing_ok=True)
        build(setup.open_site(half), _moment(moment))
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
    setup.open_site(_database())
    _serve()


@main.command()
@says_errors
def upgrade() -> None:
    """Bring the database of an earlier version up to date; a whole copy of it is made first."""
    done = setup.upgrade(_database(), datetime.now(UTC))
    if done.copy is None:
        click.echo(f"{_database()} is of this version: nothing to do.")
        return
    click.echo(f"As it was: {done.copy}")
    for name in done.ran:
        click.echo(f"ran {name}")
    verdict = records.verify(_site())
    if verdict.broken_at is not None:
        raise click.ClickException(f"the ledger is BROKEN at entry {verdict.broken_at}: {verdict.reason}")
    click.echo(f"ledger intact: {verdict.count} entries, head {verdict.head}")


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
    verdict = records.verify(_site(), head_hash, count)
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
    site = _site()
    people.add_person(_now(site, SYSTEM), login, name, password, ["coordinator"], first=True)
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
    site = _site()
    people.add_person(_now(site, _actor(site, actor_login)), login, name, password, roles, phone)
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
    site = _site()
    people.add_qualification(_now(site, _actor(site, actor_login)), login, task_id, equipment_class, until.date())
    click.echo("recorded")


@main.command("setting")
@click.argument("key")
@click.argument("value")
@click.option("--as", "actor_login", required=True)
@says_errors
def setting(key: str, value: str, actor_login: str) -> None:
    """Change a site setting: ceiling_cal_cm2 or longest_window_h."""
    site = _site()
    setup.change_setting(_now(site, _actor(site, actor_login)), key, value)
    click.echo(f"{key} = {value}")


def _site() -> Site:
    return setup.open_site(_database())


def _now(site: Site, actor: Actor) -> Act:
    return Act(site, actor, datetime.now(UTC))


def _actor(site: Site, login: str) -> Actor:
    for person in people.everybody(site):
        if person.login == login:
            return people.actor(site, person.id)
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
    for warning in warnings_of(found):
        click.echo(f"look at {warning}")


@network_group.command("import")
@click.argument("file", type=click.File("r", encoding="utf-8"))
@click.option("--as", "actor_login", help="The coordinator who publishes; needed when there are several.")
@says_errors
def network_import(file: IO[str], actor_login: str | None) -> None:
    """Publish a document as the next revision."""
    text = file.read()
    site = _site()
    number, touched = network.publish(_now(site, _publisher(site, actor_login)), text)
    click.echo(f"published as revision {number}")
    for warning in warnings_of(accept(parse(text))):
        click.echo(f"look at {warning}")
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
    site = _site()
    network.walk_down(_now(site, _actor(site, actor_login)), found)
    click.echo(f"recorded: {len(found)} positions")


def _publisher(site: Site, login: str | None) -> Actor:
    if login:
        return _actor(site, login)
    coordinators = [p for p in people.everybody(site) if "coordinator" in p.roles]
    if len(coordinators) != 1:
        names = ", ".join(p.login for p in coordinators) or "none yet: spinel coordinator-add"
        raise click.ClickException(f"Say who publishes with --as LOGIN (coordinators: {names}).")
    return people.actor(site, coordinators[0].id)


@network_group.command("new-large")
@click.option("--buses", type=int, default=1000, show_default=True, help="How many buses, 10 to 20 000.")
@click.option("--seed", type=int, default=1, show_default=True)
@click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
@says_errors
def network_new_large(buses: int, seed: int, output: IO[str]) -> None:
    """Write a synthetic site for benchmarks: radial and meshed, several voltages, sources and motors. Invented."""
    from spinel.demo.large import large_document

    json.dump(large_document(buses, seed), output, separators=(",", ":"))
    output.write("\n")


@main.command("study")
@click.argument("network_file", metavar="NETWORK.json", type=click.File("r", encoding="utf-8"))
@click.option("--case", help="Id or name of one case; default: all of the document's.")
@click.option("--worst", is_flag=True, help="One row for each location and side: its worst case.")
@click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
@says_errors
def study_command(network_file: IO[str], case: str | None, worst: bool, output: IO[str]) -> None:
    """Arc flash and shock at every location of a network, for each case and side, as CSV.

    Local codes govern; a qualified person must verify these figures before work starts.
    """
    network_ = accept(parse(network_file.read()))
    profile_ = profile(network_.site.profile)
    if worst and case is not None:
        raise click.UsageError("--worst is over all cases: leave --case away")
    study = SiteStudy(Study(network_, profile_, None, profile_.ceiling_cal_cm2))
    found = study.worst_rows() if worst else study.rows(case)
    first = next(found, None)
    writer = csv.DictWriter(output, COLUMNS)
    writer.writeheader()
    if first is not None:
        writer.writerow(first)
        writer.writerows(found)


@main.command("fault")
@click.argument("network_file", metavar="NETWORK.json", type=click.File("r", encoding="utf-8"))
@click.argument("tag")
@click.option("--case", help="Id or name of the case; default: the first.")
@says_errors
def fault_command(network_file: IO[str], tag: str, case: str | None) -> None:
    """Fault currents at the far end of a piece of equipment: three-phase, line-to-line, line-to-ground, peak, who
    feeds it, and the point-to-point arithmetic beside it."""
    for line in fault_report(accept(parse(network_file.read())), tag, case):
        click.echo(line)


@main.group("calc")
def calc() -> None:
    """Calculations on CSV files: '-' reads standard input. Refused rows say why; the status is then 1."""


def _calculation(name: str, outputs: tuple[str, ...], run: Callable[..., Iterator[dict[str, Any]]], text: str) -> None:
    @calc.command(name, help=text)
    @click.argument("cases", type=click.File("r", encoding="utf-8-sig"))
    @click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
    def command(cases: IO[str], output: IO[str]) -> None:
        reader = csv.DictReader(cases)
        columns = [c for c in reader.fieldnames or () if c]
        writer = csv.DictWriter(output, [*columns, *(c for c in outputs if c not in columns)], extrasaction="ignore")
        writer.writeheader()
        refused = False
        for row in run(reader):
            writer.writerow(row)
            refused = refused or bool(row["error"])
        if refused:
            raise SystemExit(1)


_calculation(
    "arcflash", arcflash_cases.OUTPUT, arcflash_cases.run_rows,
    """Arcing current, incident energy and boundary for each row of CASES.

Columns: method (ieee1584-2018, lee), voltage_v, bolted_fault_current_ka, electrode_configuration, gap_mm,
working_distance_mm, duration_ms, reduced_duration_ms (empty: the same), enclosure_height_mm, enclosure_width_mm,
enclosure_depth_mm, equipment_class (its typical values for what is empty), grounding, enclosed. Local codes govern.""",
)  # fmt: skip
_calculation(
    "shock", shock_cases.OUTPUT, shock_cases.run_rows,
    "Approach boundaries and glove class. Columns: voltage_v, current (ac, dc), profile. Local codes govern.",
)  # fmt: skip
_calculation(
    "relay", relay_cases.OUTPUT, relay_cases.run_rows,
    "Operating time of an inverse relay. Columns: standard (iec, ieee, us), curve, multiple, dial.",
)  # fmt: skip


@main.command("curve")
@click.argument("source", metavar="CURVE", type=click.File("r", encoding="utf-8-sig"))
@click.option("--to", "form", type=click.Choice(["json", "csv"]), required=True)
@click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
@says_errors
def curve_command(source: IO[str], form: str, output: IO[str]) -> None:
    """Check a time-current curve (JSON settings, or CSV points: current_a, melting_s, clearing_s) and write it anew."""
    text = source.read()
    if text.lstrip().startswith("{"):
        curve = read_curve(parse(text))
        check_curve(curve)
    else:
        curve = read_csv(text)
    output.write(write_csv(curve) if form == "csv" else json.dumps(write_curve(curve), indent=1) + "\n")
