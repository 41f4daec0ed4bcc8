"""`spinel study FOLDER`: every document or database of a folder, on all cores, or on a distributed engine that is there
already; the same results to the digit."""

from __future__ import annotations

import csv
import io
import json
import os
from collections.abc import Callable, Iterable, Iterator, Mapping
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import click

from spinel.core.canonical import canonical, digest
from spinel.core.errors import SpinelError
from spinel.core.network.check import accept, parse
from spinel.core.profile import NORTH_AMERICAN, profile
from spinel.core.rows import disarmed
from spinel.core.study_result import LEVELS, energy_of, read_result, study_content
from spinel.wording.words import words_of

#: Files that are looked at: documents as they are exported, and databases of sites.
ENDINGS = (".json", ".sqlite3")
SUMMARY = ("file", "site", "places", "worst_cal_cm2", *(f"above_{v:g}" for v in LEVELS), "no_figure", "findings",
           "document", "result", "error")  # fmt: skip
#: What a library of linear algebra reads when it is loaded: one thread in each process, or they wait for one another.
_THREADS = ("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS", "MKL_NUM_THREADS")


@dataclass(frozen=True)
class SiteStudied:
    """``rows``: of its table; ``summary``: its line among all."""

    summary: Mapping[str, Any]
    table: str


def files_of(folder: Path) -> list[Path]:
    """In the order of their names; what is begun, or belongs to a database, is none."""
    return sorted(p for p in folder.iterdir() if p.suffix in ENDINGS and not p.name.startswith("."))


def studied(path: str) -> SiteStudied:
    """One site, in whatever process. What cannot be studied says why in its line, and keeps no other from it."""
    try:
        document, ceiling = _document(Path(path))
        return _studied(Path(path).name, document, ceiling)
    except (SpinelError, OSError, ValueError) as error:
        return SiteStudied({**dict.fromkeys(SUMMARY, ""), "file": Path(path).name, "error": _said(error)}, "")


def _said(error: Exception) -> str:
    said = words_of(NORTH_AMERICAN).error(error) if isinstance(error, SpinelError) else str(error)
    return " ".join(said.split())[:300]


def _document(path: Path) -> tuple[dict[str, Any], float]:
    """With the site's own ceiling, where it has one."""
    if path.suffix != ".sqlite3":
        return parse(path.read_text("utf-8")), float("inf")
    from spinel.actions.figures import document_text
    from spinel.actions.setup import read_site

    site = read_site(path)
    with site.connection():
        here = site.as_it_is()
        return json.loads(document_text(here.hash)), here.ceiling_cal_cm2


def _studied(name: str, document: dict[str, Any], ceiling: float) -> SiteStudied:
    from spinel.core.hazard import Study
    from spinel.core.study import SiteStudy

    network = accept(document)
    practice = profile(network.site.profile)
    held = min(ceiling, practice.ceiling_cal_cm2)
    study = SiteStudy(Study(network, practice, None, held))
    result = read_result(study_content(study, digest(canonical(document)), held))
    words = words_of(practice)
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, list(result.rows[0]) if result.rows else [])
    writer.writeheader()
    writer.writerows({k: disarmed(v) for k, v in words.spoken(dict(r)).items()} for r in result.rows)
    energies = [e for r in result.rows if (e := energy_of(r)) is not None]
    return SiteStudied(
        {
            "file": name, "site": network.site.name, "places": len(result.rows),
            "worst_cal_cm2": max(energies, default=""),
            **{f"above_{v:g}": sum(e > v for e in energies) for v in LEVELS}, "no_figure": result.without_figure,
            "findings": len(result.found), "document": result.document_hash, "result": result.hash, "error": "",
        },
        out.getvalue(),
    )  # fmt: skip


def study_many(
    folder: Path, output: Path, workers: int, scheduler: str, tell: Callable[[str], None] = lambda line: None
) -> list[Mapping[str, Any]]:  # fmt: skip
    """Every site of a folder; a table each beside the summary. ``workers``: processes, 1 for this one alone;
    ``scheduler``: address of a Dask scheduler, empty for none. The lines of the summary, in the order of the names."""
    files = files_of(folder)
    if not files:
        raise click.UsageError(f"{folder}: no {' or '.join(ENDINGS)} in it")
    output.mkdir(parents=True, exist_ok=True)
    found: dict[str, Mapping[str, Any]] = {}
    for path, one in _run(files, workers, scheduler):
        found[path.name] = one.summary
        if one.table:
            (output / f"{path.stem}.csv").write_text(one.table, "utf-8", newline="")
        tell(f"{path.name}: {one.summary['error'] or one.summary['worst_cal_cm2']}")
    lines = [found[f.name] for f in files]
    with (output / "summary.csv").open("w", encoding="utf-8", newline="") as out:
        writer = csv.DictWriter(out, SUMMARY)
        writer.writeheader()
        writer.writerows(lines)
    return lines


def _run(files: list[Path], workers: int, scheduler: str) -> Iterator[tuple[Path, SiteStudied]]:
    if scheduler:
        yield from _distributed(files, scheduler)
    elif workers == 1:
        for path in files:
            yield path, studied(str(path))
    else:
        yield from _on_all_cores(files, workers)


def _on_all_cores(files: Iterable[Path], workers: int) -> Iterator[tuple[Path, SiteStudied]]:
    before = {name: os.environ.get(name) for name in _THREADS}
    os.environ.update(dict.fromkeys(_THREADS, "1"))
    try:
        # begun anew, so that what they load reads the number of threads
        with ProcessPoolExecutor(workers, get_context("spawn")) as pool:
            asked = {pool.submit(studied, str(path)): path for path in files}
            for done in as_completed(asked):
                yield asked[done], done.result()
    finally:
        for name, value in before.items():
            if value is None:
                os.environ.pop(name, None)
            else:
                os.environ[name] = value


def _distributed(files: list[Path], scheduler: str) -> Iterator[tuple[Path, SiteStudied]]:
    """On the workers of a scheduler that runs already, each of which has Spinel and sees the folder."""
    try:
        from distributed import Client  # type: ignore[import-not-found]
        from distributed import as_completed as as_done
    except ModuleNotFoundError:
        raise click.UsageError("a scheduler needs the extra: pip install 'spinel[dask]'") from None
    with Client(scheduler, timeout="20s") as client:
        asked = {client.submit(studied, str(path.resolve()), pure=False): path for path in files}
        for done in as_done(asked):
            yield asked[done], done.result()
