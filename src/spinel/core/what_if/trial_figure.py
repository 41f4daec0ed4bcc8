"""What a trial shows of one place."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.said import Sayable


@dataclass(frozen=True, kw_only=True)
class TrialFigure:
    """At one place. None: no figure then, for ``why``. ``clears``: tag of the device that ends the worst arc,
    empty where nothing does in time."""

    energy_cal_cm2: float | None
    boundary_mm: float | None
    clearing_time_s: float | None
    clears: str
    case: Sayable
    why: Sayable
    ppe: Sayable
