"""What a trial would change: at one place, at all others, and in the order in which devices open.

A trial that sets curves alone shares the currents of the study as it is (Study.with_curves); any other is the study of
the document so changed. Both give what publishing it would give, to the digit.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.curves.files import read_curve
from spinel.core.curves.shapes import Curve
from spinel.core.errors import InputError
from spinel.core.hazard import Hazard, Study
from spinel.core.network.check import accept
from spinel.core.ppe.by_energy import kit
from spinel.core.profile import Profile
from spinel.core.protection.selectivity import (
    Bounds,
    InSeries,
    SeriesPair,
    compared,
    in_series,
    lost_pairs,
    worst_pairs,
)
from spinel.core.quantities import CAL_PER_J, WORKING_DISTANCE_MM
from spinel.core.said import say
from spinel.core.study import SiteStudy
from spinel.core.study_compare import MovedFigure, moved
from spinel.core.what_if.along import energies_at, figures_along, sides_of
from spinel.core.what_if.changes import SECONDS, TrialChange, changed_document, curves_of
from spinel.core.what_if.trial_figure import TrialFigure

#: So many settings are tried along a slider.
ALONG = 25


@dataclass(frozen=True, kw_only=True)
class TrackPoint:
    """A setting with the worst over all cases at the place. ``lost``: pairs (downstream, upstream) that open out of
    order then, and do not as it is."""

    value: float
    figure: TrialFigure
    lost: tuple[tuple[str, str], ...]


class Trials:
    """Trials on one document. ``ceiling_cal_cm2``: the lower of the site's and the practice's."""

    def __init__(self, document: Mapping[str, Any], profile: Profile, ceiling_cal_cm2: float):
        self.document, self.profile, self.ceiling_cal_cm2 = document, profile, ceiling_cal_cm2
        self.base = Study(accept(dict(document)), profile, None, ceiling_cal_cm2)
        self._series: list[InSeries] | None = None
        self._whole: SiteStudy | None = None
        self._bounds = Bounds()
        self._lost: dict[tuple[str, str], SeriesPair] | None = None

    def study(self, changes: Sequence[TrialChange]) -> Study:
        """DocumentError for what would be no network any more; InputError and NotFound as of the changes."""
        if not changes:
            return self.base
        curves = curves_of(self.document, changes)
        if curves is not None:
            return self.base.with_curves(curves)
        changed = accept(changed_document(self.document, changes))
        return Study(changed, self.profile, None, self.ceiling_cal_cm2)

    def at(
        self, element_id: str, touches: str, changes: Sequence[TrialChange], distance_mm: float | None = None,
        time_s: float | None = None,
    ) -> TrialFigure:  # fmt: skip
        """The worst at a place. ``distance_mm``: another working distance. ``time_s``: all of it were cleared after so
        long, whatever opens then."""
        study = self.study(changes)
        if time_s is not None:
            return self._timed(study, element_id, touches, SECONDS.check(time_s), distance_mm)
        return figure_of(study.hazard(element_id, touches, distance_mm))

    def energy(self, element_id: str, touches: str, changes: Sequence[TrialChange]) -> float | None:
        """The energy of ``at`` alone, several times quicker; None where there is no figure."""
        return energies_at(self.study(changes), [(element_id, touches)])[0]

    def _timed(
        self, study: Study, element_id: str, touches: str, time_s: float, distance_mm: float | None
    ) -> TrialFigure:
        """Every arc lasts so long, at the current with which it begins, over all cases and both currents."""
        hazard = study.hazard(element_id, touches, distance_mm)
        if hazard.no_figure or hazard.energy is None:
            return figure_of(hazard)
        places = list(dict.fromkeys(p for s in sides_of(study, element_id, touches) for p in s.places))
        figures, which = study.site.find(places)
        best = (0.0, 0.0)
        for i in which:
            situation, known = figures.of.situations[i], figures.bolted_ka[:, :, i]
            if isinstance(situation, ieee.Situation) and not np.isnan(known).all():
                each = np.unique(known[~np.isnan(known)]).tolist()
                best = max(best, *(_energy_for(situation, ka, time_s, distance_mm) for ka in each))
        energy = best[0] * CAL_PER_J
        return TrialFigure(
            energy_cal_cm2=energy, boundary_mm=best[1], clearing_time_s=time_s, clears="", case="", why="",
            ppe=kit(energy, self.profile.clothing).level,
        )  # fmt: skip

    # Order of opening -------------------------------------------------------------------------------------

    @property
    def series(self) -> list[InSeries]:
        if self._series is None:
            self._series = list(in_series(self.base.parts[0]))
        return self._series

    def pairs(self, changes: Sequence[TrialChange], only: frozenset[str] | None = None) -> list[SeriesPair]:
        """Every pair in series, the least margin first. ``only``: those that hold one of these elements."""
        return worst_pairs(p for s in self._in_series(changes, only) if (p := compared(s)) is not None)

    def _in_series(self, changes: Sequence[TrialChange], only: frozenset[str] | None) -> Iterator[InSeries]:
        curves = curves_of(self.document, changes)
        if curves is None:
            each: Iterable[InSeries] = in_series(self.study(changes).parts[0])
        else:
            each = (s.with_curves(curves) for s in self.series if only is None or _of(s, only))
        return (s for s in each if only is None or _of(s, only))

    def newly_lost(self, changes: Sequence[TrialChange], only: frozenset[str] | None = None) -> list[SeriesPair]:
        """Pairs that open out of order in the trial and keep it now, or lose it over more currents than now."""
        if self._lost is None:
            self._lost = {(p.downstream.id, p.upstream.id): p for p in lost_pairs(self.series, self._bounds)}
        found = []
        for p in lost_pairs(self._in_series(changes, only), self._bounds):
            was = self._lost.get((p.downstream.id, p.upstream.id))
            if was is None or _wider(p, was):
                found.append(p)
        return found

    # Everywhere else --------------------------------------------------------------------------------------

    @property
    def whole(self) -> SiteStudy:
        if self._whole is None:
            self._whole = SiteStudy(self.base)
        return self._whole

    def elsewhere(self, changes: Sequence[TrialChange]) -> list[MovedFigure]:
        """Every place whose figure the trial moves, what rises first."""
        return moved(self.whole, SiteStudy(self.study(changes)))

    # A slider ---------------------------------------------------------------------------------------------

    def track(
        self, element_id: str, touches: str, device_id: str, field: str, changes: Sequence[TrialChange] = ()
    ) -> list[TrackPoint]:
        """The place along a setting of a device, other changes standing, from a fifth to three times of what it is and
        at what it is; settings that the curve cannot have are left out."""
        others = [c for c in changes if (c.id, c.field) != (device_id, field)]
        # a maintenance setting that the trial puts in has values of its own
        changed = changed_document(self.document, others)
        record: Any = next((e for e in changed["elements"] if e["id"] == device_id), {})
        now = (record.get("curve") or {}).get(field)
        if not isinstance(now, int | float):
            raise InputError("field", field, say("what-if-no-such-setting", tag=str(record.get("tag", "?"))))
        settings = [(v, c) for v in along(float(now)) if (c := self._curve(device_id, field, v, others)) is not None]
        figures = self._along(element_id, touches, device_id, others, settings)
        found = []
        for (value, _), figure in zip(settings, figures, strict=True):
            lost = self.newly_lost([*others, TrialChange("setting", device_id, field, value)], frozenset({device_id}))
            pairs = tuple((p.downstream.tag, p.upstream.tag) for p in lost)
            found.append(TrackPoint(value=value, figure=figure, lost=pairs))
        return found

    def _curve(self, device_id: str, field: str, value: float, others: Sequence[TrialChange]) -> Curve | None:
        """The curve of a device at a setting; None for one that it cannot have."""
        try:
            found: Curve = curve_now(
                self.document, device_id, [*others, TrialChange("setting", device_id, field, value)]
            )
        except InputError:
            return None
        return found

    def _along(
        self, element_id: str, touches: str, device_id: str, others: Sequence[TrialChange],
        settings: Sequence[tuple[float, Curve]],
    ) -> list[TrialFigure]:  # fmt: skip
        study = self.study(others)
        if not study.parts[0].holds_back(device_id):
            return figures_along(study, element_id, touches, device_id, [c for _, c in settings])
        # its setting moves others' times too: one by one
        return [figure_of(study.with_curves({device_id: c}).hazard(element_id, touches)) for _, c in settings]


def along(now: float) -> list[float]:
    """Settings along a slider, to three digits, the present one among them.

    >>> len(along(0.4)), 0.4 in along(0.4), along(0.4)[0], along(0.4)[-1]
    (26, True, 0.08, 1.2)
    """
    found = {float(f"{v:.3g}") for v in np.geomspace(now / 5, now * 3, ALONG)}
    return sorted(found | {now})


def figure_of(hazard: Hazard) -> TrialFigure:
    """What a trial shows of a hazard."""
    known = hazard.energy is not None and not hazard.no_figure
    figure = hazard.energy
    device = figure.clearing.device if figure is not None else None
    return TrialFigure(
        energy_cal_cm2=hazard.energy_cal_cm2 if known else None, boundary_mm=hazard.boundary_mm if known else None,
        clearing_time_s=figure.duration_s if figure is not None else None,
        clears=device.tag if device is not None and figure is not None and not figure.capped else "",
        case=figure.case if figure is not None else "", why=hazard.no_figure,
        ppe=hazard.kit.level if hazard.kit is not None else "",
    )  # fmt: skip


def _of(pair: InSeries, only: frozenset[str]) -> bool:
    """Is any device that decides the order of a pair among these? What holds another back decides too."""
    return any(d.element.id in only for d in (pair.downstream, pair.upstream, *(h for h, _ in pair.held)))


def _wider(now: SeriesPair, was: SeriesPair) -> bool:
    """Is order lost at a current at which it was kept?"""

    def held(a: float) -> bool:
        return any(low * (1 - 1e-6) <= a <= high * (1 + 1e-6) for low, high in was.lost)

    return any(not held(end) for stretch in now.lost for end in (*stretch, (stretch[0] * stretch[1]) ** 0.5))


def _energy_for(
    situation: ieee.Situation, bolted_ka: float, time_s: float, distance_mm: float | None
) -> tuple[float, float]:
    at = situation.working_distance_mm if distance_mm is None else WORKING_DISTANCE_MM.check(distance_mm)
    there = replace(situation, working_distance_mm=at)
    both = [ieee.energy(there, bolted_ka, time_s * 1000, reduced=r) for r in (False, True)]
    return max(float(e.incident_energy_j_cm2) for e in both), max(float(e.arc_flash_boundary_mm) for e in both)


def curve_now(document: Mapping[str, Any], element_id: str, changes: Sequence[TrialChange]) -> Any:
    """The curve of a device in a trial."""
    record = next(e for e in changed_document(document, changes)["elements"] if e["id"] == element_id)
    return read_curve(record["curve"]) if record.get("curve") else None
