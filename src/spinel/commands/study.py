"""`spinel study` and `spinel fault`: figures of a network document, without any site."""

from __future__ import annotations

import csv
import os
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import IO, Any

import click

from spinel.actions.tables_out import write_workbook
from spinel.commands.common import says_errors
from spinel.commands.study_many import study_many
from spinel.core.canonical import canonical, digest
from spinel.core.hazard import Study
from spinel.core.network.check import accept, parse
from spinel.core.network.document import Network
from spinel.core.profile import Profile, profile
from spinel.core.rows import disarmed
from spinel.core.study import COLUMNS, SiteStudy
from spinel.core.study_compare import moved
from spinel.core.study_findings import COLUMNS as FINDING_COLUMNS
from spinel.core.study_findings import as_rows, findings
from spinel.wording.fault_report import fault_report
from spinel.wording.words import words_of

#: Of a comparison: what is worse first.
MOVED_COLUMNS = ("location", "side", "worse", "was_cal_cm2", "now_cal_cm2", "was_mm", "now_mm", "gone", "new")
ABOUT_COLUMNS = ("about", "says")


@click.command("study")
@click.argument("network_file", metavar="NETWORK.json|FOLDER", type=click.Path(allow_dash=True))
@click.option("--case", help="Id or name of one case; default: all of the document's.")
@click.option("--worst", is_flag=True, help="One row for each location and side: its worst case.")
@click.option("--findings", "wants_findings", is_flag=True, help="What somebody has to see to, the gravest first.")
@click.option("--compare", "other", metavar="OTHER.json", type=click.File("r", encoding="utf-8"),
              help="Where worst figures differ from those of an earlier document, what is worse first.")  # fmt: skip
@click.option("--format", "kind", type=click.Choice(("csv", "xlsx")), default="csv", show_default=True)
@click.option("--workers", type=click.IntRange(1, 256), help="Of a folder: so many processes; default: all cores.")
@click.option("--scheduler", default="", help="Of a folder: address of a Dask scheduler that runs already.")
@click.option(
    "-o", "output", type=click.Path(allow_dash=True), default="-", help="A file; of a folder the folder to write into."
)
@says_errors
def study_command(
    network_file: str, case: str | None, worst: bool, wants_findings: bool, other: IO[str] | None, kind: str,
    workers: int | None, scheduler: str, output: str,
) -> None:  # fmt: skip
    """Arc flash and shock at every location of a network, for each case and side, as CSV or as a workbook; of a folder
    of documents or databases every site, each as a table beside a summary.

    Local codes govern; a qualified person must verify these figures before work starts.
    """
    if sum((worst, case is not None, wants_findings, other is not None)) > 1:
        raise click.UsageError("--case, --worst, --findings and --compare each ask for another table: give one")
    if kind == "xlsx" and output == "-":
        raise click.UsageError("a workbook needs a file: -o FILE.xlsx")
    if network_file != "-" and Path(network_file).is_dir():
        _folder(Path(network_file), output, workers, scheduler, asks_more=wants_findings or other is not None)
        return
    if workers is not None or scheduler:
        raise click.UsageError("--workers and --scheduler are for a folder")
    if output != "-" and Path(output).is_dir():
        raise click.UsageError("-o FILE for one network")
    with click.open_file(network_file, encoding="utf-8") as read:
        document = parse(read.read())
    network = accept(document)
    practice = profile(network.site.profile)
    columns: tuple[str, ...]
    if other is not None:
        before, now = _study(accept(parse(other.read()))), _study(network)
        columns, rows = MOVED_COLUMNS, _moved(before, now)
    elif wants_findings:
        columns, rows = FINDING_COLUMNS, as_rows(findings(_study(network)))
    else:
        study = _study(network)
        columns, rows = COLUMNS, study.worst_rows() if worst else study.rows(case)
    # what is refused is refused before a file is begun
    said = [words_of(practice).spoken(row) for row in rows]
    if kind == "xlsx":
        about = _about(network, practice, digest(canonical(document)))
        write_workbook(Path(output), {"study": (columns, said), "about": (ABOUT_COLUMNS, about)})
    else:
        _as_csv(output, columns, said)


def _folder(folder: Path, output: str, workers: int | None, scheduler: str, asks_more: bool) -> None:
    if asks_more or output == "-":
        raise click.UsageError("a folder gives a table for each site and a summary: -o FOLDER, and nothing else")
    lines = study_many(folder, Path(output), workers or os.cpu_count() or 1, scheduler, click.echo)
    failed = sum(bool(line["error"]) for line in lines)
    click.echo(f"{len(lines)} sites, {failed} without a study: {output}/summary.csv")
    if failed:
        raise SystemExit(1)


def _study(network: Network) -> SiteStudy:
    practice = profile(network.site.profile)
    return SiteStudy(Study(network, practice, None, practice.ceiling_cal_cm2))


def _moved(before: SiteStudy, now: SiteStudy) -> Iterator[dict[str, Any]]:
    for m in moved(before, now):
        yield {
            "location": m.tag, "side": m.side, "worse": "yes" if m.worse else "no", "was_cal_cm2": _or(m.was_cal_cm2),
            "now_cal_cm2": _or(m.now_cal_cm2), "was_mm": _or(m.was_mm), "now_mm": _or(m.now_mm),
            "gone": "yes" if m.gone else "", "new": "yes" if m.new else "",
        }  # fmt: skip


def _or(figure: float | None) -> float | str:
    return "" if figure is None else figure


def _about(network: Network, practice: Profile, document_hash: str) -> list[dict[str, Any]]:
    """What the figures rest on, for whoever meets the workbook alone."""
    words = words_of(practice)
    told = {
        "site": network.site.name, "document (SHA-256 of its canonical form)": document_hash,
        "method": "IEEE 1584-2018; shock by the practice", "practice": practice.name,
        "ceiling, cal/cm²": practice.ceiling_cal_cm2, "caution": words.say(practice.cautions["permit"]),
    }  # fmt: skip
    return [{"about": key, "says": value} for key, value in told.items()]


def _as_csv(output: str, columns: tuple[str, ...], rows: Iterable[Mapping[str, Any]]) -> None:
    with click.open_file(output, "w", encoding="utf-8") as out:
        writer = csv.DictWriter(out, columns)
        writer.writeheader()
        for row in rows:
            writer.writerow({column: disarmed(row.get(column, "")) for column in columns})


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
