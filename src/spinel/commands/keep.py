"""`spinel keep`: what the server has done daily to look after the record."""

from __future__ import annotations

import os
from datetime import UTC, datetime
from pathlib import Path

import click

from spinel.actions import upkeep
from spinel.commands.common import database, says_errors, told


@click.command("keep")
@click.option("--if-due", is_flag=True, help="Only when it was not done for a day.")
@says_errors
def keep_command(if_due: bool) -> None:
    """Verify the record, anchor its head and back it up; the board says what came of it.

    SPINEL_BACKUPS names the folder of the backups (default: `backups` beside the database; empty: none),
    SPINEL_BACKUPS_KEPT how many stay there (14).
    """
    path, now = Path(database()), datetime.now(UTC)
    if not path.is_file():
        raise click.ClickException(f"there is no database {path}: nothing was done, and none was made.")
    done = upkeep.keep(path, now, _backups(path), _retained(), if_due=if_due, key=_key())
    if done is None:
        return
    for what in (*done.found, *done.trouble):
        click.echo(told(what), err=True)
    if done.count > len(done.found):
        click.echo(f"and {done.count - len(done.found)} more: spinel verify", err=True)
    if done.count or done.trouble:
        raise SystemExit(1)
    click.echo("verified, anchored and backed up")


def _backups(path: Path) -> Path | None:
    named = os.environ.get("SPINEL_BACKUPS")
    if named is None:
        return path.parent / "backups"
    return Path(named) if named.strip() else None


def _retained() -> int:
    named = os.environ.get("SPINEL_BACKUPS_KEPT", str(upkeep.RETAINED))
    if not (named.isascii() and named.isdigit() and 0 < int(named) < 10_000):
        raise click.ClickException(f"SPINEL_BACKUPS_KEPT is {named!r}: how many, from 1 to 9999")
    return int(named)


def _key() -> Path | None:
    """The file that encrypts backups, where the site has one."""
    asked = os.environ.get("SPINEL_BACKUP_KEY", "")
    return Path(asked) if asked else None
