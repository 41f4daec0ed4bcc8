"""Network documents: check, import, JSON Schema, walk-down, and a synthetic one."""

from __future__ import annotations

import csv
import json
from typing import IO

import click

from spinel.commands.common import says_errors
from spinel.core.network.check import accept, parse, warnings_of
from spinel.core.profile import NORTH_AMERICAN
from spinel.wording.fields import described
from spinel.wording.words import words_of


@click.group("network")
def network_group() -> None:
    """Network documents: check, import (publishes a revision), JSON Schema."""


@network_group.command("schema")
def network_schema() -> None:
    """Print the JSON Schema of the network document."""
    click.echo(json.dumps(described(words_of(NORTH_AMERICAN)), indent=2, ensure_ascii=False))


@network_group.command("check")
@click.argument("file", type=click.File("r", encoding="utf-8"))
@says_errors
def network_check(file: IO[str]) -> None:
    """Check a document; every problem names element, field, value and what is allowed."""
    found = accept(parse(file.read()))
    click.echo(f"acceptable: {len(found.elements)} elements, {len(found.nodes)} nodes, {len(found.cases)} cases")
    for warning in warnings_of(found):
        click.echo(f"look at {words_of(NORTH_AMERICAN).say(warning)}")


@network_group.command("import")
@click.argument("file", type=click.File("r", encoding="utf-8"))
@click.option("--as", "actor_login", help="The coordinator who publishes; needed when there are several.")
@says_errors
def network_import(file: IO[str], actor_login: str | None) -> None:
    """Publish a document as the next revision."""
    from spinel.actions import network
    from spinel.commands.acting import now, publisher, site

    text, on = file.read(), site()
    number, touched = network.publish(now(on, publisher(on, actor_login)), text)
    click.echo(f"published as revision {number}")
    for warning in warnings_of(accept(parse(text))):
        click.echo(f"look at {words_of(NORTH_AMERICAN).say(warning)}")
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
    from spinel.actions import network
    from spinel.commands.acting import actor, now, site

    found = {row.get("tag") or "": (row.get("found") or "").strip() for row in csv.DictReader(file)}
    on = site()
    network.walk_down(now(on, actor(on, actor_login)), found)
    click.echo(f"recorded: {len(found)} positions")


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
