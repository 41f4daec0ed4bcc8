"""The shared time ruler of the board: one NOW line, windows as tracks, positions in px."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

WIDTH = 322.0


@dataclass(frozen=True)
class Ruler:
    start: datetime
    end: datetime
    now: datetime
    hours: tuple[datetime, ...]

    def x(self, moment: datetime) -> float:
        """Position of a moment, kept on the ruler."""
        share = (moment - self.start) / (self.end - self.start)
        return round(min(max(share, 0.0), 1.0) * WIDTH, 1)

    @property
    def now_x(self) -> float:
        return self.x(self.now)


def ruler(now: datetime, spans: Iterable[tuple[datetime, datetime]]) -> Ruler:
    """From two hours before now, or the first window, to the last end; at most 24 hours, whole hours."""
    starts, ends = [now - timedelta(hours=2)], [now + timedelta(hours=4)]
    for start, end in spans:
        starts.append(max(start, now - timedelta(hours=8)))
        ends.append(min(end, now + timedelta(hours=12)))
    first = min(starts).replace(minute=0, second=0, microsecond=0)
    last = max(ends) + timedelta(minutes=20)
    step = 1 if last - first <= timedelta(hours=8) else 3
    hours, tick = [], first + timedelta(hours=1)
    while tick < last:
        hours.append(tick)
        tick += timedelta(hours=step)
    return Ruler(first, last, now, tuple(hours))
