"""`spinel verify`, `spinel anchor` and `spinel upgrade`: the record of a site."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from spinel.actions import anchoring, setup, verifying
from spinel.actions.verifying import Report
from spinel.commands.common import database, says_errors, told


@click.command()
@says_errors
def upgrade() -> None:
    """Bring the database of an earlier version up to date; a whole copy of it is made first."""
    _tell(verifying.verify(database()), "as it was: ")
    done = setup.upgrade(database(), datetime.now(UTC))
    if done.copy is None:
        click.echo(f"{database()} is of this version: nothing to do.")
        return
    click.echo(f"As it was: {done.copy}")
    for name in done.ran:
        click.echo(f"ran {name}")
    if _tell(verifying.verify(database())):
        raise SystemExit(1)


@click.command()
@click.option("--head", "head_hash", help="Head hash printed on a paper.")
@click.option("--count", type=int, help="Count printed beside it.")
@click.option("--anchors", type=click.Path(dir_okay=False), help="A file of anchors that was kept elsewhere.")
@says_errors
def verify(head_hash: str | None, count: int | None, anchors: str | None) -> None:
    """Compare every row with what the ledger says of it, and the ledger with its keys, its anchors and a printed head.

    Nothing is made, migrated or written. What is not as it was recorded is named, each row; status 1.
    """
    if not Path(database()).is_file():
        raise click.ClickException(f"there is no database {database()}: nothing was verified, and none was made.")
    if _tell(verifying.verify(database(), head_hash, count, Path(anchors) if anchors else None)):
        raise SystemExit(1)


@click.command("anchor")
@says_errors
def anchor_command() -> None:
    """Write down how many entries there are and the hash of the last, beside the database and where the site says.

    Keep the line that is printed where nobody who can change the database can change it.
    """
    if not Path(database()).is_file():
        raise click.ClickException(f"there is no database {database()}: nothing was anchored, and none was made.")
    dropped = anchoring.drop(database(), datetime.now(UTC))
    click.echo(dropped.line)
    if dropped.trouble:
        raise click.ClickException(told(dropped.trouble))


def _tell(report: Report, before: str = "") -> bool:
    """Say what was found, all of it; True where anything was."""
    for what in report.found:
        click.echo(f"{before}NOT AS RECORDED: {told(what)}", err=True)
    for what in report.unknown:
        click.echo(f"{before}cannot be told: {told(what)}")
    if not report.found:
        click.echo(f"{before}intact: {report.count} entries, head {report.head}")
    return bool(report.found)
