"""What a study of a whole site found, as data that is kept: it follows from the document and the ceiling alone, so the
same of both gives the same content, and its hash names it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from spinel.core.canonical import canonical, digest
from spinel.core.protection.selectivity import SeriesPair, series_pairs
from spinel.core.said import Said, Sayable, say
from spinel.core.stored import parsed
from spinel.core.study import COLUMNS, METHOD, SiteStudy
from spinel.core.study_findings import Finding, findings

#: Of a row: what names its place, then what a study writes of it, without what is named already.
ROW = ("element_id", "tag", "name", "place", "touches", *(c for c in COLUMNS if c != "location"))
FOUND = ("kind", "element_id", "tag", "touches", "side", "energy_cal_cm2", "says")
#: How far it is, in this order.
STAGES = ("figures", "rows", "order")
#: Levels that energies are counted by, cal/cm²: the boundary's, and what kits are commonly rated.
LEVELS = (1.2, 8.0, 12.0, 40.0)


@dataclass(frozen=True)
class StudyResult:
    """``rows``: a place each, the worst first (no figure before all); ``found``: what somebody has to see to."""

    hash: str
    document_hash: str
    ceiling_cal_cm2: float
    cases: tuple[str, ...]
    rows: tuple[Mapping[str, Any], ...]
    found: tuple[Mapping[str, Any], ...]

    @cached_property
    def without_figure(self) -> int:
        return sum(energy_of(r) is None and not unfed(r) for r in self.rows)

    @cached_property
    def energies(self) -> tuple[float, ...]:
        """Of all places that have a figure, the lowest first, cal/cm²."""
        return tuple(sorted(e for r in self.rows if (e := energy_of(r)) is not None))

    @cached_property
    def position(self) -> Mapping[tuple[str, str], int]:
        """Where each place stands among all."""
        return {place_of(r): i for i, r in enumerate(self.rows)}


def energy_of(row: Mapping[str, Any]) -> float | None:
    """Incident energy of a row, cal/cm²; None where there is none."""
    return float(row["incident_energy_cal_cm2"]) if row["method"] else None


def unfed(row: Mapping[str, Any]) -> bool:
    """Has it no figure because nothing feeds it in any case?"""
    return not row["method"] and getattr(row["warning"], "code", "") == "study-no-source-feeds-it-in-this-case"


def study_content(
    study: SiteStudy, document_hash: str, ceiling_cal_cm2: float, tell: Callable[[str], None] = lambda stage: None
) -> str:
    """The content of a study as canonical JSON. ``ceiling_cal_cm2``: as it was asked for."""
    tell("rows")
    rows = [
        [location.element.id, location.element.tag, location.element.name, location.element.location,
         location.reach.code, *(row.get(c, "") for c in ROW[5:])]
        for location, row in study.worst_of_each()
    ]  # fmt: skip
    tell("order")
    lost = [p for p in series_pairs(study.study.parts[0], lost_only=True)]
    found = [[getattr(f, c) for c in FOUND] for f in (*findings(study), *map(out_of_order, lost))]
    return canonical({
        "document": document_hash, "ceiling_cal_cm2": ceiling_cal_cm2, "method": METHOD,
        "cases": [c.name for c in study.study.network.cases], "columns": list(ROW), "rows": rows,
        "found_columns": list(FOUND), "found": found,
    })  # fmt: skip


def out_of_order(pair: SeriesPair) -> Finding:
    """Two devices in series of which the one further from the fault may open first."""
    stretch = pair.lost[0]
    return Finding(
        kind="order", element_id=pair.upstream.id, tag=pair.upstream.tag, touches=pair.downstream.id,
        says=say("finding-out-of-order", below=pair.downstream.tag, above=pair.upstream.tag,
                 from_ka=stretch[0] / 1000, to_ka=pair.lost[-1][1] / 1000, case=pair.case),
    )  # fmt: skip


def read_result(text: str) -> StudyResult:
    """The content as it was kept."""
    told = parsed(text)
    columns, found = told["columns"], told["found_columns"]
    rows = [dict(zip(columns, r, strict=True)) for r in told["rows"]]
    return StudyResult(
        hash=digest(text), document_hash=told["document"], ceiling_cal_cm2=told["ceiling_cal_cm2"],
        cases=tuple(told["cases"]), rows=tuple(sorted(rows, key=_badness)),
        found=tuple(dict(zip(found, f, strict=True)) for f in told["found"]),
    )  # fmt: skip


def _badness(row: Mapping[str, Any]) -> tuple[bool, bool, float, str]:
    energy = energy_of(row)
    return unfed(row), energy is not None, -(energy or 0.0), row["tag"]


def place_of(row: Mapping[str, Any]) -> tuple[str, str]:
    """What names a place in every study: the element, and how it is reached."""
    return row["element_id"], row["touches"]


def name_of(found: Mapping[str, Any]) -> str:
    """What names a finding in every study."""
    return f"{found['kind']} {found['element_id']} {found['touches']}".strip()


def case_of(named: Sayable) -> str:
    """The name of the document's case in the words of a row, which name strength and moment behind it; empty where it
    is of none."""
    parts = named.values["parts"] if isinstance(named, Said) and named.code == "joined" else (named,)
    first = parts[0] if isinstance(parts, tuple) and parts else ""
    return first if isinstance(first, str) else ""


Moved = tuple[Mapping[str, Any] | None, Mapping[str, Any] | None]


def differ(was: Mapping[str, Any] | None, now: Mapping[str, Any] | None, same: float) -> bool:
    """Is a place's energy or boundary another one, or there in one study alone?"""
    if was is None or now is None:
        return was is not now
    if bool(was["method"]) != bool(now["method"]):
        return True
    if not now["method"]:
        return False
    names = ("incident_energy_cal_cm2", "arc_flash_boundary_mm")
    return any(abs(was[n] - now[n]) > same * max(was[n], now[n]) for n in names)


def by_place(result: StudyResult | None) -> dict[tuple[str, str], Mapping[str, Any]]:
    return {place_of(r): r for r in result.rows} if result is not None else {}
