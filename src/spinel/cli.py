"""The command line: the same actions and the same core as the pages. A command loads what it needs, and only that."""

from __future__ import annotations

from importlib import import_module

import click

from spinel import __version__

#: Command: where it is, and what it says of itself in the list; its module is loaded when it is called.
COMMANDS = {
    "anchor": ("records:anchor_command", "Write down the head of the ledger where an old copy would be found by it."),
    "backup": ("backup:backup_command", "A whole, verified copy of the site's database, while people work."),
    "calc": ("calc:calc", "Calculations on CSV files: '-' reads standard input."),
    "coordinator-add": ("people:coordinator_add", "Register the first coordinator of a new site."),
    "curve": ("curve:curve_command", "Check a time-current curve and write it anew."),
    "demo": ("demo:demo", "Build the demo database (kept when it is there already)."),
    "fault": ("study:fault_command", "Fault currents at the far end of a piece of equipment."),
    "keep": ("keep:keep_command", "Verify, anchor and back up the record, as the server does daily."),
    "network": ("network:network_group", "Network documents: check, import (publishes a revision), JSON Schema."),
    "person-add": ("people:person_add", "Register a person with roles."),
    "qualify": ("people:qualify", "Record that a person is qualified for a task on a class of equipment."),
    "restore": ("backup:restore_command", "A site's database from a backup, verified first; overwrites nothing."),
    "serve": ("serve:serve", "Serve the site on 127.0.0.1 (SPINEL_PORT, default 8000)."),
    "setting": ("people:setting", "Change a site setting."),
    "study": ("study:study_command", "Arc flash and shock at every location of a network, as CSV."),
    "upgrade": ("records:upgrade", "Bring the database of an earlier version up to date, after a copy."),
    "verify": ("records:verify", "Compare every row with the ledger, and that with its keys, anchors, a printed head."),
}


class Lazy(click.Group):
    """A group whose commands are loaded when they are called."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        module, _, name = COMMANDS[cmd_name][0].partition(":")
        found: click.Command = getattr(import_module(f"spinel.commands.{module}"), name)
        return found

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        with formatter.section("Commands"):
            formatter.write_dl([(name, says) for name, (_, says) in COMMANDS.items()])


@click.command(cls=Lazy)
@click.version_option(__version__, prog_name="spinel")
def main() -> None:
    """Spinel: hazards, decisions and permits for an electrical safety coordinator."""
