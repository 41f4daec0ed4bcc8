"""Arc-flash clothing chosen by calculated incident energy, from the levels of a practice."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.quantities import Quantity
from spinel.core.said import Sayable
from spinel.core.tables.forms import Clothing

ENERGY_CAL_CM2 = Quantity("incident_energy_cal_cm2", "cal/cm²", 0, 1e6)


@dataclass(frozen=True)
class Kit:
    """What to wear. ``arc_rating_cal_cm2`` is the least rating of every arc-rated layer system, or None."""

    level: Sayable
    arc_rating_cal_cm2: float | None
    items: tuple[Sayable, ...]
    reason: Sayable
    source: str


def kit(incident_energy_cal_cm2: float, clothing: Clothing) -> Kit:
    """The kit for an incident energy at the working distance, cal/cm². InputError for NaN or negative.

    >>> from spinel.core.tables.nfpa70e_clothing import CLOTHING
    >>> kit(5.4, CLOTHING).level == CLOTHING.levels[1].name
    True
    """
    energy = ENERGY_CAL_CM2.check(incident_energy_cal_cm2)
    level = next(lv for lv in clothing.levels if lv.covers(energy))
    rating = energy if level.arc_rated else None
    return Kit(level.name, rating, level.items, level.reason, clothing.source)
