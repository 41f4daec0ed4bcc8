"""`spinel curve`: a time-current curve checked and written anew."""

from __future__ import annotations

import json
from typing import IO

import click

from spinel.commands.common import says_errors
from spinel.core.curves.checks import check_curve
from spinel.core.curves.files import read_csv, read_curve, write_csv, write_curve
from spinel.core.network.check import parse


@click.command("curve")
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
