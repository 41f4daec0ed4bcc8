"""One figure with all that made it: fault, arcing current, clearing stage by stage, energy."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash.figures import CURRENTS, Figures, tag_of
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.scenes import Family
from spinel.core.protection.opening import Ended
from spinel.core.protection.shown import ArcClearing, fault_working, show_clearing
from spinel.core.quantities import CAL_PER_J
from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class StageEnergy:
    """A stage of the arc with its energy at the working distance. ``carried``: at the least current that the method
    covers, where less is left."""

    from_s: float
    until_s: float
    bolted_fault_current_ka: float
    arcing_current_ka: float
    incident_energy_j_cm2: float
    then_off: tuple[str, ...]
    carried: bool = False

    @property
    def incident_energy_cal_cm2(self) -> float:
        return self.incident_energy_j_cm2 * CAL_PER_J


@dataclass(frozen=True, kw_only=True)
class Figure:
    """Energy and boundary at one place, in one situation, at the full or reduced arcing current, with its working.

    ``energy`` is the sum of ``stages``; a single one where the first device to open ends the arc.
    """

    case: Sayable
    node: str
    current: str
    fault: Mapping[str, Any]
    situation: ieee.Situation
    currents: ieee.ArcCurrents
    correction: ieee.Correction
    clearing: ArcClearing
    duration_s: float
    capped: bool
    energy: ieee.Energy
    stages: tuple[StageEnergy, ...]
    warnings: tuple[Sayable, ...] = ()


def explain(
    figures: Figures, c: int, row: int, i: int, boundary: bool = False, distance_mm: float | None = None
) -> Figure:
    """The figure of place i in a column at the full (0) or reduced (1) current, with its working, at its own distance
    or another. ``boundary``: on a way between corners, at the point of the largest boundary."""
    key = (c, row, i, boundary and not figures.same_point(c, row, i), distance_mm)
    if key not in figures.explained:
        if len(figures.explained) > 2000:
            figures.explained.clear()
        figures.explained[key] = _explain(figures, *key)
    found: Figure = figures.explained[key]
    return found


def _explain(figures: Figures, c: int, row: int, i: int, boundary: bool, distance_mm: float | None) -> Figure:
    column = figures.columns[c]
    family = figures.families[column.family]
    situation = figures.of.situations[i]
    assert isinstance(situation, ieee.Situation)
    if distance_mm is not None:
        situation = replace(situation, working_distance_mm=distance_mm)
    corner, strength = c - figures.first[column.family], None
    model: NodalModel | None = None
    if column.path is not None:
        way = figures.way(column.family, column.path)
        corner = way.high
        at = np.array([(figures.at_boundary if boundary else figures.at)[c, row, i]])
        strength, factors = way.strength(np.zeros(1, dtype=np.intp), at), way.factors(0, float(at[0]))
        model = figures.trusted.between(column.family, corner, factors, figures.case_name(c))
    opening = figures.opening(column.family)
    model = model or figures.trusted.model(column.family, corner)
    where = np.array([i])
    ended = opening.follow(np.array([corner]), where, np.array([row]), strength)
    total, parts = _stages(figures, situation, model, ended, row, i)
    bolted = float(figures.of.used(where, ended.stages.bolted_ka[:1])[0])
    time, by = float(ended.time_s[0]), int(ended.by[0])
    left = tuple(sorted(tag_of(model, -2 - n) for n in np.flatnonzero(ended.left[0]).tolist()))
    fault = model.fault(figures.places[i].node_id)
    carried = opening.counted_on(corner, i, row, strength)
    shown = show_clearing(opening, corner, i, fault, row, carried, float(ended.stages.part[0]), time, by,
                          left if math.isinf(time) else ())  # fmt: skip
    return Figure(
        case=figures.case_name(c),
        node=figures.places[i].node_id,
        current=CURRENTS[row],
        fault=fault_working(model, fault),
        situation=situation,
        currents=ieee.arc_currents(situation, bolted),
        correction=ieee.correction(situation),
        clearing=shown,
        duration_s=min(time, figures.cap_s),
        capped=time > figures.cap_s,
        energy=total,
        stages=parts,
        warnings=_said(figures, i, min(time, figures.cap_s), family),
    )


def _said(figures: Figures, i: int, duration_s: float, family: Family) -> tuple[Sayable, ...]:
    found = list[Sayable](figures.of.warnings[i])
    lost = tuple(sorted(figures.network.element[e].tag for e in family.decay.lost if _near(figures, family, e, i)))
    if duration_s < 1 / figures.network.site.frequency_hz:
        found.append(say("arcflash-explained-cleared-in-ms-within-one-cycle-check", duration_s=duration_s * 1000))
    if lost and duration_s > figures.trusted.stacks(figures.families.index(family)).starts[1]:
        found.append(say("arcflash-explained-how-the-current-of-falls-is-not", lost=lost))
    return tuple(found)


def _near(figures: Figures, family: Family, generator_id: str, i: int) -> bool:
    """Is a generator in one piece with a place?"""
    model = figures.trusted.model(figures.families.index(family), 0)
    node = figures.network.element[generator_id].ends[0]
    at = model.grid.index.get(node)
    return at is not None and bool(model.part[at] == model.part[figures.of.nodes[i]])


def _stages(
    figures: Figures, situation: ieee.Situation, model: NodalModel, ended: Ended, row: int, i: int
) -> tuple[ieee.Energy, tuple[StageEnergy, ...]]:
    """Energies of the stages of a single arc, and their sum."""
    s = ended.stages
    used = figures.of.used(np.full(len(s.arc), i), s.bolted_ka)
    energies, shown = [], []
    for n in range(len(s.arc)):
        until = min(float(s.until_s[n]), figures.cap_s)
        if not until > s.from_s[n]:
            continue
        part = ieee.energy(situation, float(used[n]), (until - s.from_s[n]) * 1000, reduced=CURRENTS[row] == "reduced")
        off = tag_of(model, int(s.ends_by[n]))
        energies.append(part)
        shown.append(
            StageEnergy(
                float(s.from_s[n]),
                until,
                float(s.bolted_ka[n]),
                part.arcing_current_ka,
                part.incident_energy_j_cm2,
                (off,) if off and s.until_s[n] <= figures.cap_s else (),
                bool(used[n] != s.bolted_ka[n]),
            )
        )
    return ieee.total(situation, energies), tuple(shown)
