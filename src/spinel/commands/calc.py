"""`spinel calc`: calculations on CSV files. Each loads only what it computes with."""

from __future__ import annotations

import csv
from importlib import import_module
from typing import IO

import click

from spinel.core.profile import NORTH_AMERICAN
from spinel.wording.words import words_of


@click.group("calc")
def calc() -> None:
    """Calculations on CSV files: '-' reads standard input. Refused rows say why; the status is then 1."""


def _calculation(name: str, module: str, text: str) -> None:
    """``module`` of core has ``OUTPUT``, the columns that it adds, and ``run_rows``."""

    @calc.command(name, help=text)
    @click.argument("cases", type=click.File("r", encoding="utf-8-sig"))
    @click.option("-o", "output", type=click.File("w", encoding="utf-8"), default="-")
    def command(cases: IO[str], output: IO[str]) -> None:
        cases_of = import_module(f"spinel.core.{module}")
        outputs: tuple[str, ...] = cases_of.OUTPUT
        reader = csv.DictReader(cases)
        columns = [c for c in reader.fieldnames or () if c]
        writer = csv.DictWriter(output, [*columns, *(c for c in outputs if c not in columns)], extrasaction="ignore")
        writer.writeheader()
        words, refused = words_of(NORTH_AMERICAN), False
        for row in cases_of.run_rows(reader):
            writer.writerow(words.spoken(row))
            refused = refused or bool(row["error"])
        if refused:
            raise SystemExit(1)


_calculation(
    "arcflash", "arcflash.cases",
    """Arcing current, incident energy and boundary for each row of CASES.

Columns: method (ieee1584-2018, lee), voltage_v, bolted_fault_current_ka, electrode_configuration, gap_mm,
working_distance_mm, duration_ms, reduced_duration_ms (empty: the same), enclosure_height_mm, enclosure_width_mm,
enclosure_depth_mm, equipment_class (its typical values for what is empty), grounding, enclosed. Local codes govern.""",
)  # fmt: skip
_calculation(
    "shock", "shock.cases",
    "Approach boundaries and glove class. Columns: voltage_v, current (ac, dc), profile. Local codes govern.",
)  # fmt: skip
_calculation(
    "relay", "curves.cases",
    "Operating time of an inverse relay. Columns: standard (iec, ieee, us), curve, multiple, dial.",
)  # fmt: skip
