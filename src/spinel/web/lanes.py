"""The lanes of people: what must hold together as lines on one ruler, on which today is opened like a lens.

Positions are parts of the width in per cent, so that a lane is as wide as its window."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from spinel.actions.may_do import Lane
from spinel.actions.rosters import OnRoster
from spinel.core.people import TASK

#: What lies before today, today itself and the days after it, in per cent of the width; and which hours today shows.
PAST, TODAY, DAYS = (0.0, 6.0), (6.0, 40.0), (40.0, 100.0)
HOURS = (time(6), time(20))
DAYS_BEFORE, DAYS_AFTER = 14, 95


@dataclass(frozen=True)
class Scale:
    """``today``: the day that is asked for, at the site. ``now``: None where that is another day."""

    today: date
    zone: str
    now: datetime | None

    def of_day(self, day: date, *, ends: bool = False) -> float:
        """Where a day begins, or ends: the last day of what holds counts whole."""
        after = (day - self.today).days + (1 if ends else 0)
        if after <= 0:
            return _within(PAST, 1 + after / DAYS_BEFORE)
        return _within(DAYS, (after - 1) / DAYS_AFTER)

    def of_moment(self, moment: datetime) -> float:
        local = moment.astimezone(ZoneInfo(self.zone))
        if local.date() != self.today:
            return TODAY[0] if local.date() < self.today else TODAY[1]
        first, last = (h.hour * 60 + h.minute for h in HOURS)
        return _within(TODAY, (local.hour * 60 + local.minute - first) / (last - first))

    def is_today(self, duty: OnRoster) -> bool:
        """Does it fall on the day, as far as the lens shows it?"""
        zone = ZoneInfo(self.zone)
        start = duty.start.astimezone(zone).date()
        end = (duty.end or duty.start).astimezone(zone).date()
        return (duty.end is None or duty.late or end >= self.today) and start <= self.today

    @property
    def now_x(self) -> float | None:
        return self.of_moment(self.now) if self.now else None


def _within(span: tuple[float, float], share: float) -> float:
    return round(span[0] + (span[1] - span[0]) * min(max(share, 0.0), 1.0), 2)


@dataclass(frozen=True)
class Mark:
    """A number on the ruler: words, or a moment."""

    x: float
    label: datetime | date
    days: int = 0


def marks(scale: Scale) -> tuple[list[Mark], list[Mark]]:
    """The hours of today, and the days by which something falls due."""
    zone = ZoneInfo(scale.zone)
    hours = [
        datetime.combine(scale.today, time(h), zone).astimezone(UTC) for h in (8, 11, 14, 17)
    ]  # fmt: skip
    near = scale.now_x
    shown = [Mark(scale.of_moment(h), h) for h in hours if near is None or abs(scale.of_moment(h) - near) > 4]
    days = [scale.today + timedelta(days=d) for d in (30, 60, 90)]
    return shown, [Mark(scale.of_day(d), d, (d - scale.today).days) for d in days]


@dataclass(frozen=True)
class Bar:
    """A line of a lane, from where to where; ``pale`` once another has ended before."""

    what: str
    x: float
    width: float
    y: int
    pale: bool


@dataclass(frozen=True)
class Chip:
    """A roster on the lens. ``hatched``: it ran out with people on it; ``dashed``: not issued yet."""

    x: float
    width: float
    number: str
    kind: str
    hatched: bool
    dashed: bool


@dataclass(frozen=True, kw_only=True)
class Drawn:
    """A lane, ready to be drawn. ``post``: where the first line ends, what ends there, and whether that is soon."""

    bars: tuple[Bar, ...]
    never: tuple[int, ...]
    chips: tuple[Chip, ...]
    post: float | None
    post_what: str
    post_day: date | None
    soon: bool
    past: bool


def drawn(lane: Lane, scale: Scale, soon: date) -> Drawn:
    """``soon``: the last day that is near."""
    ends = [line.until for line in lane.standing.lines if line.until is not None]
    first = lane.first.until if lane.first else None
    bars, never = [], []
    for i, line in enumerate(lane.standing.lines):
        if line.until is None:
            never.append(_y(i))
            continue
        start = scale.of_day(line.since) if line.since else PAST[0]
        end = scale.of_day(line.until, ends=True)
        cut = scale.of_day(min(first, line.until), ends=True) if first and lane.may else end
        bars.append(Bar(line.what, start, round(max(min(end, cut) - start, 0.0), 2), _y(i), pale=False))
        if end > cut:
            bars.append(Bar(line.what, cut, round(end - cut, 2), _y(i), pale=True))
    gone = [line for line in lane.standing.lines if line.until is not None and line.until < scale.today]
    over = gone[0] if gone and not lane.may else None
    shown = over or lane.first
    return Drawn(
        bars=tuple(bars), never=tuple(never), chips=_chips(lane, scale),
        post=scale.of_day(shown.until, ends=True) if shown and shown.until and ends else None,
        post_what=shown.what if shown else TASK, post_day=shown.until if shown else None,
        soon=bool(shown and shown.until and shown.until <= soon), past=over is not None,
    )  # fmt: skip


def _y(i: int) -> int:
    """Where the lines of a lane lie, one under the other."""
    return 20 + 7 * i


#: A number is read on a chip that is so wide.
_READABLE = 4.4


def _chips(lane: Lane, scale: Scale) -> tuple[Chip, ...]:
    """One after the other: where two are at once, the later begins before the first has ended."""
    found: list[Chip] = []
    for duty in lane.duties:
        if not scale.is_today(duty):
            continue
        start = scale.of_moment(duty.start)
        late_until = scale.now if duty.late and scale.now else duty.end
        end = scale.of_moment(late_until) if late_until else TODAY[1]
        if found and start < found[-1].x + _READABLE:
            start = round(found[-1].x + _READABLE, 2)
        if found and found[-1].x + found[-1].width > start:
            found[-1] = replace(found[-1], width=round(start - found[-1].x, 2))
        width = max(end - start, _READABLE)
        x = min(start, TODAY[1] - _READABLE)
        found.append(Chip(x, round(width, 2), duty.number, duty.kind, duty.late, duty.asked))
    return tuple(found)
