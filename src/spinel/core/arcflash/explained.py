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
    if family.lost:
        assert family.after is not None
        model, opening = figures.trusted.model(family.after, 0), figures.opening(family.after, 0)
    elif column.path is None:
        n = c - figures.first[column.family]
        model, opening = figures.trusted.model(column.family, n), figures.opening(column.family, n)
    else:
        at = float((figures.at_boundary if boundary else figures.at)[c, row, i])
        factors = figures.way(column.family, family.paths[column.path].low).factors(at)
        circuit = replace(column.circuit, name=figures.case_name(c), scaled=factors)
        model, opening = figures.trusted.special(circuit, figures.of.sites, figures.of.part)
    where, rows = np.array([i]), np.array([row])
    held = figures.opening(column.family, 0).held if column.path is not None else opening.held
    opening.held = held
    ended = opening.follow(where, rows, None, figures.of.part)
    total, parts = _stages(figures, situation, model, ended, row, i, bool(family.lost))
    bolted = float(figures.of.used(where, ended.stages.bolted_ka[:1])[0])
    time = math.inf if family.lost else float(ended.time_s[0])
    by = -1 if family.lost else int(ended.by[0])
    left = tuple(sorted(tag_of(model, -2 - n, figures.trusted) for n in ended.left.get(0, ()))) or family.lost
    fault = model.fault(figures.places[i].node_id)
    part = float(ended.stages.part[0])
    shown = show_clearing(opening, i, fault, row, part, time, by, left if math.isinf(time) else ())
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
    if duration_s < 1 / figures.network.site.frequency_hz:
        found.append(say("arcflash-explained-cleared-in-ms-within-one-cycle-check", duration_s=duration_s * 1000))
    if family.lost:
        found.append(say("arcflash-explained-how-the-current-of-falls-is-not", lost=tuple(family.lost)))
    return tuple(found)


def _stages(
    figures: Figures, situation: ieee.Situation, model: NodalModel, ended: Ended, row: int, i: int, lost: bool
) -> tuple[ieee.Energy, tuple[StageEnergy, ...]]:
    """Energies of the stages of a single arc, and their sum."""
    s = ended.stages
    used = figures.of.used(np.full(len(s.arc), i), s.bolted_ka)
    energies, shown = [], []
    for n in range(len(s.arc)):
        until = figures.cap_s if lost else min(float(s.until_s[n]), figures.cap_s)
        if not until > s.from_s[n]:
            continue
        part = ieee.energy(situation, float(used[n]), (until - s.from_s[n]) * 1000, reduced=CURRENTS[row] == "reduced")
        off = tag_of(model, int(s.ends_by[n]), figures.trusted)
        energies.append(part)
        shown.append(
            StageEnergy(
                float(s.from_s[n]),
                until,
                float(s.bolted_ka[n]),
                part.arcing_current_ka,
                part.incident_energy_j_cm2,
                (off,) if off and s.until_s[n] <= figures.cap_s and not lost else (),
                bool(used[n] != s.bolted_ka[n]),
            )
        )
        if lost:
            break
    return ieee.total(situation, energies), tuple(shown)
