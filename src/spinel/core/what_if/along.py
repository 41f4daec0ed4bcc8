"""Figures of a place without their working, several times quicker than a hazard: of many places, and of one along a
setting of a device, all its settings followed together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from spinel.core.arcflash.figures import Figures
from spinel.core.arcflash.places import Place
from spinel.core.curves.shapes import Curve
from spinel.core.hazard import NOT_FED, Study, arc_nodes, exposed_voltages, standard_distance
from spinel.core.network.sides import exposed, reaches, read_reach
from spinel.core.ppe.by_energy import kit
from spinel.core.quantities import CAL_PER_J
from spinel.core.said import Sayable, say
from spinel.core.what_if.trial_figure import TrialFigure


@dataclass(frozen=True)
class SideAsked:
    """A way of reaching the piece, with where an arc can be then; none without a working distance."""

    places: tuple[Place, ...]
    no_distance: bool


@dataclass(frozen=True)
class _WorstOfSide:
    energy_j_cm2: float = -1.0
    boundary_mm: float = 0.0
    column: int = 0
    row: int = 0
    place: int = 0
    no_figure: Sayable = ""
    unfed: bool = False


def figures_along(
    study: Study, element_id: str, touches: str, device_id: str, curves: Sequence[Curve]
) -> list[TrialFigure]:
    """The figures of ``Trials.at`` with the device set to each of the curves; not for one that holds others back
    (Trusted.with_settings)."""
    trusted = study.parts[0].with_settings(device_id, curves)
    sides = sides_of(study, element_id, touches)
    every = list(dict.fromkeys(p for s in sides for p in s.places))
    number = {p: i for i, p in enumerate(every)}
    setting = np.repeat(np.arange(len(curves)), len(every))
    figures = Figures(study.network, trusted, study.profile.clearing_cap_s, every * len(curves), setting)
    return [
        _merged(study, figures, [_of_side(figures, s, [n * len(every) + number[p] for p in s.places]) for s in sides])
        for n in range(len(curves))
    ]


def energies_at(study: Study, places: Sequence[tuple[str, str]]) -> list[float | None]:
    """The worst energies of some places, cal/cm², computed together; None where one has no figure. The figures of
    ``Study.hazard`` without their working."""
    each = [sides_of(study, *place) for place in places]
    every = list(dict.fromkeys(p for sides in each for s in sides for p in s.places))
    number = {p: i for i, p in enumerate(every)}
    figures = study.figures(every, study.parts[0])
    return [
        _merged(study, figures, [_of_side(figures, s, [number[p] for p in s.places]) for s in sides]).energy_cal_cm2
        for sides in each
    ]


def sides_of(study: Study, element_id: str, touches: str) -> list[SideAsked]:
    """As ``Study.hazard`` takes them: a side below the threshold of a hazard is no reason to lack a figure."""
    network, threshold = study.network, study.profile.threshold
    element = network.get(element_id)
    found, high = [], []
    for option in reaches(element) if touches == "" else (read_reach(element, touches),):
        out = exposed(network, element, option)
        nodes = arc_nodes(network, out, threshold)
        distance = standard_distance(network, nodes)
        places = tuple(Place(n.id, out.doubted, distance) for n in nodes) if distance is not None else ()
        found.append(SideAsked(places, distance is None))
        high.append(any(v >= threshold.lowest_v for v, _ in exposed_voltages(network, element, option, out)))
    return [s for s, h in zip(found, high, strict=True) if h] or found


def _of_side(figures: Figures, side: SideAsked, which: list[int]) -> _WorstOfSide:
    if side.no_distance:
        return _WorstOfSide(no_figure=say("hazard-no-working-distance-is-recorded-for-its"))
    if why := figures.why_not(which):
        return _WorstOfSide(no_figure=why)
    worst = figures.worst(which, figures.energy_j_cm2)
    if not worst:
        return _WorstOfSide(no_figure=NOT_FED, unfed=True)
    at, wide = worst[0], figures.worst(which, figures.boundary_mm)[0]
    return _WorstOfSide(at.value, wide.value, at.column, at.row, at.place)


def _merged(study: Study, figures: Figures, each: Sequence[_WorstOfSide]) -> TrialFigure:
    """The worst over the sides; one that is fed and has no figure leaves none."""
    fed = [w for w in each if not w.unfed] or list(each)
    lacking = next((w for w in fed if w.no_figure), None)
    if lacking is not None:
        return TrialFigure(
            energy_cal_cm2=None, boundary_mm=None, clearing_time_s=None, clears="", case="", why=lacking.no_figure,
            ppe="",
        )  # fmt: skip
    worst = max(fed, key=lambda w: w.energy_j_cm2)
    where = (worst.column, worst.row, worst.place)
    energy = worst.energy_j_cm2 * CAL_PER_J
    return TrialFigure(
        energy_cal_cm2=energy, boundary_mm=max(w.boundary_mm for w in fed),
        clearing_time_s=float(figures.duration_s[where]),
        clears="" if figures.capped[where] else figures.clears(*where), case=figures.case_name(worst.column), why="",
        ppe=kit(energy, study.profile.clothing).level,
    )  # fmt: skip
