"""`spinel study` and `spinel fault`: figures of a network document, without any site."""

from __future__ import annotations

from typing import IO

import click

from spinel.commands.common import says_errors
from spinel.core.network.check import accept, parse
from spinel.core.profile import profile
from spinel.wording.fault_report import fault_report
from spinel.wording.study_table import write_study
from spinel.wording.words import words_of


@click.command("study")
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
    if worst and case is not None:
        raise click.UsageError("--worst is over all cases: leave --case away")
    write_study(output, network_, worst=worst, case=case)


@click.command("fault")
@click.argument("network_file", metavar="NETWORK.json", type=click.File("r", encoding="utf-8"))
@click.argument("tag")
@click.option("--case", help="Id or name of the case; default: the first.")
@says_errors
def fault_command(network_file: IO[str], tag: str, case: str | None) -> None:
    """Fault currents at the far end of a piece of equipment: three-phase, line-to-line, line-to-ground, peak, who
    feeds it, and the point-to-point arithmetic beside it."""
    network = accept(parse(network_file.read()))
    for line in fault_report(network, tag, words_of(profile(network.site.profile)), case):
        click.echo(line)
