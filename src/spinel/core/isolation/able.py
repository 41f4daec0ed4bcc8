"""What a device may be used for, by hand or by remote: to isolate, to break load, to make onto a fault.

``figures`` are those of a person at the equipment while it is live: the worse of both its sides.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from spinel.core.hazard import Study
from spinel.core.network.document import Element
from spinel.core.protection.duty import Duty
from spinel.core.said import Sayable, say


@dataclass(frozen=True, kw_only=True)
class Figures:
    """What a step carries: of the equipment live, at the standard working distance, the worse of its sides.

    ``none_because``: why there is no arc-flash figure, else empty. ``below``: every voltage is below the threshold.
    """

    voltage_v: float
    current: str
    energy_cal_cm2: float | None
    working_distance_mm: float | None
    boundary_mm: float | None
    boundary_in: float | None
    limited_mm: float | None
    restricted_mm: float | None
    arc_rating_cal_cm2: float | None
    ppe_level: Sayable
    glove: Sayable | None
    none_because: Sayable
    below: bool
    beyond: bool
    ceiling_cal_cm2: float
    case: Sayable

    @property
    def workable(self) -> bool:
        """May a qualified person stand at it at all?"""
        return self.below or (not self.none_because and not self.beyond)

    def as_data(self) -> dict[str, Any]:
        return dict(self.__dict__)


def exceeds(now: Figures, was: Figures) -> bool:
    """Do figures ask for more than others, or are they no longer there?"""
    return bool(
        (now.energy_cal_cm2 or 0) > (was.energy_cal_cm2 or 0) * 1.0001
        or (now.boundary_mm or 0) > (was.boundary_mm or 0) * 1.0001
        or now.voltage_v > was.voltage_v
        or (now.none_because and not was.none_because)
    )


def figures(study: Study, element: Element, distance_mm: float | None = None) -> Figures:
    """The figures of standing at an element while it is live: the larger of each over the sides it has; at its
    standard distance, or another (mm)."""
    known: dict[tuple[str, float | None], Figures] = study.kept.setdefault("figures", {})
    key = (element.id, distance_mm)
    if key not in known:
        known[key] = _figures(study, element, distance_mm)
    return known[key]


def by_stick(study: Study, element: Element) -> Figures | None:
    """The figures of testing it at points that are built in, everything closed, where standing at it would be above the
    ceiling; None where nobody may, or nobody needs to."""
    usual = figures(study, element)
    if usual.workable or not usual.beyond or not element.built_in_tester:
        return None
    far = figures(study, element, study.profile.stick_mm)
    return far if far.workable else None


def _figures(study: Study, element: Element, distance_mm: float | None) -> Figures:
    """Nothing is chosen for a switching step: the worst over all sides of its device."""
    worst = study.hazard(element.id, "", distance_mm)
    kit = worst.kit
    return Figures(
        voltage_v=worst.voltage_v,
        current=worst.current,
        energy_cal_cm2=worst.energy_cal_cm2,
        working_distance_mm=worst.working_distance_mm,
        boundary_mm=worst.boundary_mm,
        boundary_in=worst.barricade_in,
        limited_mm=worst.approach.limited_fixed_mm,
        restricted_mm=worst.approach.restricted_mm,
        arc_rating_cal_cm2=kit.arc_rating_cal_cm2 if kit else None,
        ppe_level=kit.level if kit else "",
        glove=worst.glove,
        none_because=worst.no_figure,
        below=worst.below_threshold,
        beyond=worst.beyond_ceiling,
        ceiling_cal_cm2=study.ceiling_cal_cm2,
        case=worst.energy.case if worst.energy else "",
    )


def isolated_position(e: Element) -> str:
    """The position that a draft leaves it in: withdrawn where it can be, a break that can be seen."""
    return "withdrawn" if e.withdrawable else "open"


def strong(e: Element) -> bool:
    """Breaks load and makes onto a fault: needs nothing else to be opened before it or closed after it."""
    return e.load_break and e.fault_make


def passed_over(study: Study, e: Element) -> Sayable:
    """Why a device that could isolate must not be used for it by a person; empty when it may."""
    return not_fit(e, figures(study, e), study.duty.get(e.id))


def not_fit(e: Element, here: Figures, duty: Duty | None) -> Sayable:
    """The same with its figures and its duty as they are. What others move is theirs to judge."""
    if e.operated_by:
        return ""
    if not here.workable:
        return say("isolation-able-not-workable", tag=e.tag, why=_unworkable(here))
    if duty is not None and not duty.adequate and not e.remote:
        return say("isolation-able-fails-its-duty-check", tag=e.tag, reason=duty.reason)
    return ""


def _unworkable(here: Figures) -> Sayable:
    if here.none_because:
        return say("isolation-able-no-figure", none_because=here.none_because)
    return say(
        "isolation-able-cal-is-above-the-ceiling-of-cal",
        energy_cal_cm2=here.energy_cal_cm2,
        ceiling_cal_cm2=here.ceiling_cal_cm2,
    )
