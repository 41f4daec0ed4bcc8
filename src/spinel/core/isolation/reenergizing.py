"""Putting the voltage back: a task of its own. Whoever closes a device after work stands at it while it takes up load
for the first time since, so that nothing excuses them from its figures; and nobody stands at what comes alive.

Common practice, own wording: the first operation after work counts as one with an arc more likely (NFPA 70E-2021
110.4(D) and table 130.5(C), from memory).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from spinel.core.errors import Refusal
from spinel.core.hazard import Hazard, Study
from spinel.core.isolation.points import isolation
from spinel.core.network.document import Element
from spinel.core.said import Sayable


@dataclass(frozen=True)
class ClosedAgain:
    """A device that is closed again, with the worst figures of whoever stands at it."""

    element: Element
    hazard: Hazard

    @property
    def rank(self) -> float:
        """What has no figure is the worst."""
        energy = self.hazard.energy_cal_cm2
        return float("inf") if energy is None else energy


@dataclass(frozen=True)
class Reenergizing:
    """``devices``: the worst first; those that stay open in normal service are not among them. ``equipment``: what
    comes alive, with its worst figures: nobody stands within its boundary. ``why_not``: why nothing can be said, as
    where nothing isolates it."""

    devices: tuple[ClosedAgain, ...]
    equipment: Hazard | None
    why_not: Sayable = ""

    @property
    def worst(self) -> ClosedAgain | None:
        return self.devices[0] if self.devices else None


def reenergizing(study: Study, element: Element, closed: Iterable[Element] | None = None) -> Reenergizing:
    """What is closed again after an isolation of an element, and how bad that can be. ``closed``: what a program
    closes; None: by normal service, not by how the field stands."""
    if closed is None:
        try:
            points = isolation(study, element).points
        except Refusal as refusal:
            return Reenergizing((), None, refusal.why)
        closed = [p for p in points if p.normal_position != "open"]
    found = [ClosedAgain(p, study.hazard(p.id)) for p in closed]
    found.sort(key=lambda c: (-c.rank, c.element.tag))
    return Reenergizing(tuple(found), study.hazard(element.id))
