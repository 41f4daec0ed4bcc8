"""The shared time ruler of the board: one NOW line, windows as tracks, positions in px."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from spinel.web.shapes import Shape, path, text, wire

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


@dataclass(frozen=True)
class Span:
    """A window on the ruler. ``late``: it ran out with people on it; ``in_force``: work goes on."""

    start: datetime
    end: datetime
    late: bool
    in_force: bool


def head(r: Ruler, clock: Callable[[datetime], str]) -> tuple[Shape, ...]:
    """Hours over the tracks, and the flag of now; an hour too near to the flag has no number."""
    found = [path("tick", "M", 0, 30, "H", WIDTH)]
    for hour in r.hours:
        found.append(path("tick", "M", r.x(hour), 30, "V", 22))
        if abs(r.x(hour) - r.now_x) > 38:
            found.append(text("t3 mid", r.x(hour), 16, clock(hour)))
    found.append(path("nowflag", "M", r.now_x - 21, 3, "h", 42, "v", 16, "l", -21, 9, "l", -21, -9, "Z"))
    return (*found, text("nowtxt mid", r.now_x, 16, clock(r.now)))


def track(r: Ruler, w: Span, ends: str) -> tuple[Shape, ...]:
    """One window: what is spent, what is left or over, and when it ends, in words."""
    first, last, now = r.x(w.start), r.x(w.end), r.now_x
    found: list[Shape] = []
    if w.late:
        found += [_bar("spent", first, last, 4.5), _bar("over", last, now, 9, fill="url(#haz)")]
        found += [path("stop-late", "M", last, 20, "V", 48), text("tq end", last, 61, ends)]
    else:
        if first < now:
            found.append(_bar("spent", first, now, 4.5))
        found += wire("live" if w.in_force else "dead", f"M{max(first, now):g} 34 H{last:g}")
        found.append(path("stop-live" if w.in_force else "stop-quiet", "M", last, 23, "V", 45))
        kind, roomy = "tl" if w.in_force else "tq", last - now > 66
        found.append(text(f"end {kind}", last - 4, 18, ends) if roomy else text(kind, last + 6, 38, ends))
    return (*found, path("nowline", "M", now, 0, "V", 68))


def _bar(kind: str, start: float, end: float, half: float, **more: str) -> Shape:
    return path(kind, "M", start, 34 - half, "H", end, "V", 34 + half, "H", start, "Z", **more)


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
