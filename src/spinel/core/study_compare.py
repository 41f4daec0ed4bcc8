"""Two studies side by side: at which locations the worst figure rises or falls, appears or goes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.said import Sayable
from spinel.core.study import Location, SiteStudy

#: What two figures may differ by and still be the same: the last digits of a solution.
SAME = 1e-4


def differs(was: float | None, now: float | None) -> bool:
    """Are two figures of one place two? None: there is none."""
    if was is None or now is None:
        return was is not now
    return abs(was - now) > SAME * max(was, now)


@dataclass(frozen=True, kw_only=True)
class MovedFigure:
    """A location, by what is touched, whose worst incident energy (cal/cm²) or arc-flash boundary (mm) is another.
    None: there is no figure; ``gone``, ``new``: one study has no such location."""

    element_id: str
    tag: str
    touches: str
    side: Sayable
    was_cal_cm2: float | None
    now_cal_cm2: float | None
    was_mm: float | None
    now_mm: float | None
    gone: bool
    new: bool

    @property
    def worse(self) -> bool:
        """More than before, or nobody knows any more how much."""
        if self.gone:
            return False
        if self.now_cal_cm2 is None:
            return True
        energy = self.was_cal_cm2 is None or self.now_cal_cm2 > self.was_cal_cm2 * (1 + SAME)
        return energy or (self.now_mm or 0.0) > (self.was_mm or 0.0) * (1 + SAME)


def moved(old: SiteStudy | None, new: SiteStudy) -> list[MovedFigure]:
    """Where the figures differ; what rises first, by how much. ``old``: None where there was no study yet."""
    before = _worst(old) if old is not None else {}
    after = _worst(new)
    found = [m for key in dict.fromkeys((*after, *before)) if (m := _moved(before.get(key), after.get(key)))]
    return sorted(found, key=lambda m: (not m.worse, m.now_cal_cm2 is not None, -_by(m)))


_Figure = tuple[Location, dict[str, Any]]


def _worst(study: SiteStudy) -> dict[tuple[str, str], _Figure]:
    return {(location.element.id, location.reach.code): (location, row) for location, row in study.worst_of_each()}


def _moved(old: _Figure | None, new: _Figure | None) -> MovedFigure | None:
    known = new or old
    assert known is not None
    was, now = _figures(old), _figures(new)
    if old is not None and new is not None and _same(was, now):
        return None
    location = known[0]
    return MovedFigure(
        element_id=location.element.id, tag=location.element.tag, touches=location.reach.code,
        side=location.side,
        was_cal_cm2=was[0], was_mm=was[1], now_cal_cm2=now[0], now_mm=now[1], gone=new is None, new=old is None,
    )  # fmt: skip


def _figures(found: _Figure | None) -> tuple[float | None, float | None]:
    row = found[1] if found is not None else {}
    return (row["incident_energy_cal_cm2"], row["arc_flash_boundary_mm"]) if row.get("method") else (None, None)


def _same(was: Sequence[float | None], now: Sequence[float | None]) -> bool:
    return not any(differs(a, b) for a, b in zip(was, now, strict=True))


def _by(m: MovedFigure) -> float:
    return (m.now_cal_cm2 or 0.0) - (m.was_cal_cm2 or 0.0)
