"""`spinel backup` and `spinel restore`: a copy of the record, and the way back from one."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from spinel.actions.backup import Copied, backup, restore
from spinel.commands.common import database, says_errors, told

_key = click.option(
    "--key", envvar="SPINEL_BACKUP_KEY", type=click.Path(dir_okay=False, path_type=Path),
    help="A file whose content encrypts the backup. Keep it elsewhere: without it nobody reads the backup again.",
)  # fmt: skip


@click.command("backup")
@click.argument("to", type=click.Path(dir_okay=False))
@_key
@says_errors
def backup_command(to: str, key: Path | None) -> None:
    """Copy the site's database, with its keys and the files it refers to, TO a new file while people work, and verify
    the copy."""
    done = backup(database(), to, datetime.now(UTC), key)
    _say(done)
    if done.trouble:
        raise click.ClickException(told(done.trouble))


@click.command("restore")
@click.argument("from_", metavar="FROM", type=click.Path(dir_okay=False))
@click.option("--to", required=True, type=click.Path(dir_okay=False), help="The new database; must not exist.")
@click.option("--head", "head_hash", help="Head hash printed on the last paper at hand.")
@click.option("--count", type=click.IntRange(1), help="Count printed beside it.")
@_key
@says_errors
def restore_command(from_: str, to: str, head_hash: str | None, count: int | None, key: Path | None) -> None:
    """A site's database FROM a backup. It is verified first; by a printed head and count it says what is lost."""
    done = restore(from_, to, head_hash, count, key)
    _say(done)
    if done.trouble:
        click.echo(told(done.trouble), err=True)
    if done.lost:
        click.echo(f"LOST: {done.lost} entries that were recorded after this backup. What they did is not in it.")
    elif head_hash is None and count is None:
        click.echo("Whether anything was recorded after it cannot be known without a printed head and count.")
    if done.older:
        click.echo(f"It is of an earlier version: SPINEL_DB={done.path} spinel upgrade")
    click.echo(f"Serve it with: SPINEL_DB={done.path} spinel serve")


def _say(done: Copied) -> None:
    click.echo(f"{done.path}: ledger intact, {done.count} entries, head {done.head}")
