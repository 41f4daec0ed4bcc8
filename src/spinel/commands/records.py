"""`spinel verify` and `spinel upgrade`: the record of a site."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from spinel.actions import records, setup
from spinel.commands.acting import site
from spinel.commands.common import database, says_errors, told


@click.command()
@says_errors
def upgrade() -> None:
    """Bring the database of an earlier version up to date; a whole copy of it is made first."""
    done = setup.upgrade(database(), datetime.now(UTC))
    if done.copy is None:
        click.echo(f"{database()} is of this version: nothing to do.")
        return
    click.echo(f"As it was: {done.copy}")
    for name in done.ran:
        click.echo(f"ran {name}")
    verdict = records.verify(site())
    if verdict.broken_at is not None:
        raise click.ClickException(f"the ledger is BROKEN at entry {verdict.broken_at}: {told(verdict.reason)}")
    click.echo(f"ledger intact: {verdict.count} entries, head {verdict.head}")


@click.command()
@click.option("--head", "head_hash", help="Head hash printed on a paper.")
@click.option("--count", type=int, help="Count printed beside it.")
@says_errors
def verify(head_hash: str | None, count: int | None) -> None:
    """Walk the ledger; with a printed head and count also find a cut tail."""
    if not Path(database()).is_file():
        raise click.ClickException(f"there is no database {database()}: nothing was verified, and none was made.")
    verdict = records.verify(site(), head_hash, count)
    if verdict.broken_at is not None:
        click.echo(f"BROKEN at entry {verdict.broken_at}: {told(verdict.reason)}", err=True)
        raise SystemExit(1)
    click.echo(f"intact: {verdict.count} entries, head {verdict.head}")
