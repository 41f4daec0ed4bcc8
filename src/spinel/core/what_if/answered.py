"""What a what-if case would change on the whole site: where, by how much, and in which order devices would open."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from spinel.core.protection.selectivity import SeriesPair
from spinel.core.said import Sayable
from spinel.core.study import NOT_FED, SiteStudy
from spinel.core.study_compare import MovedFigure, moved
from spinel.core.study_result import LEVELS
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.rows import WhatIfCase


@dataclass(frozen=True)
class SiteTold:
    """Of one state of a site. ``above``: so many places above each of ``levels``; ``worst``: tag, side and cal/cm² of
    the highest; ``without``: places that are fed and have no figure."""

    above: tuple[int, ...]
    worst: tuple[str, Sayable, float] | None
    without: int
    places: int


@dataclass(frozen=True)
class CaseAnswer:
    """``moved``: what rises first. ``lost``: pairs out of order that keep it now."""

    case: WhatIfCase
    now: SiteTold
    moved: tuple[MovedFigure, ...]
    lost: tuple[SeriesPair, ...]

    @property
    def rises(self) -> int:
        return sum(m.worse for m in self.moved)


def levels(ceiling_cal_cm2: float) -> tuple[float, ...]:
    """Energies that places are counted above, cal/cm²."""
    return tuple(sorted({*LEVELS, ceiling_cal_cm2}))


def told(study: SiteStudy, counted: Sequence[float]) -> SiteTold:
    worst, energies, without, places = None, list[float](), 0, 0
    for location, row in study.worst_of_each():
        places += 1
        if not row["method"]:
            without += row["warning"] != NOT_FED
            continue
        energy = float(row["incident_energy_cal_cm2"])
        energies.append(energy)
        if worst is None or energy > worst[2]:
            worst = (location.element.tag, location.side, energy)
    return SiteTold(tuple(sum(e > level for e in energies) for level in counted), worst, without, places)


def answered(trials: Trials, case: WhatIfCase) -> CaseAnswer:
    """One case, the site as published under it."""
    study = SiteStudy(trials.study(case.changes))
    return CaseAnswer(
        case, told(study, levels(trials.ceiling_cal_cm2)), tuple(moved(trials.whole, study)),
        tuple(trials.newly_lost(case.changes)),
    )  # fmt: skip
