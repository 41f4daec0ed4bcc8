"""`spinel demo`."""

from __future__ import annotations

from datetime import UTC, datetime
from pathlib import Path

import click

from spinel.actions import version
from spinel.actions.version import check_version, move
from spinel.commands.common import DEMO, database, says_errors
from spinel.commands.serve import run_server


@click.command()
@click.option("--at", "moment", help="The demo's now, ISO 8601 with zone; default: this moment.")
@click.option("--fresh", is_flag=True, help="Rebuild the demo database.")
@click.option("--serve", "then_serve", is_flag=True, help="Serve it afterwards.")
@click.option(
    "--site",
    "which",
    type=click.Choice(["terminal", "bakery"]),
    default="terminal",
    help="Which sample: the ferry terminal, or a small bakery that was built in the browser.",
)
@says_errors
def demo(moment: str | None, fresh: bool, then_serve: bool, which: str) -> None:
    """Build the demo database (kept when it is there already). A database that is no demo is left as it is."""
    path = Path(database(DEMO))
    if path.exists() and not version.is_marked_demo(path):
        raise click.ClickException(
            f"{path} is no demo: nothing was deleted or changed. `spinel serve` serves it; for a demo beside it set "
            "SPINEL_DB to another file, or leave it unset."
        )
    if fresh:
        version.remove(path)
    if path.exists():
        click.echo(f"Keeping the database {path}; --fresh rebuilds it.")
        check_version(path)
    else:
        # only where one is built: a demo that is there is served at once
        from spinel.actions import setup
        from spinel.demo import build as terminal
        from spinel.demo import second as bakery

        # Built beside and moved into place, so that a build cut off leaves no half demo behind.
        half = path.with_suffix(".building")
        version.remove(half)
        build = bakery.build if which == "bakery" else terminal.build
        build(setup.open_site(half), _moment(moment))
        move(half, path)
        click.echo(f"Demo database built: {path}")
    if then_serve:
        run_server(str(path))


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
