"""What is dangerous or late now, most urgent first: the board, and the strip on every page."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from spinel.actions import network, permits
from spinel.core.network.document import SWITCHING, Element
from spinel.core.network.now import DeviceNow
from spinel.core.permit.life import WITH_WINDOW, expired
from spinel.store import permits as store


@dataclass(frozen=True)
class Due:
    """A permit with a window. ``minutes``: left until it ends, or since it ended when ``late``."""

    permit: permits.PermitView
    late: bool
    minutes: int


@dataclass(frozen=True)
class Tap:
    """One entry of the strip: a permit with its window."""

    number: str
    state: str
    late: bool
    minutes: int


@dataclass(frozen=True)
class Board:
    due: tuple[Due, ...]
    waiting: tuple[permits.PermitView, ...]
    off_normal: tuple[tuple[Element, DeviceNow], ...]
    unknown: tuple[Element, ...]


def strip(now: datetime) -> list[Tap]:
    """Permits with a running or overrun window, most urgent first."""
    taps = []
    for p in store.permits_in(WITH_WINDOW):
        end = permits.utc_moment(p.window_end)
        late = expired(p.state, end, now)
        taps.append(Tap(p.number, p.state, late, minutes_between(now, end)))
    return sorted(taps, key=lambda t: (not t.late, t.state != "in_force", t.minutes))


def board(now: datetime) -> Board:
    """Everything that the board shows."""
    here = network.site()
    due = []
    for p in store.permits_in(WITH_WINDOW):
        seen = permits.as_view(p, now)
        late = seen.shown_state == "expired"
        due.append(Due(seen, late, minutes_between(now, seen.window_end)))
    due.sort(key=lambda d: (not d.late, -d.minutes if d.late else 0, d.permit.state != "in_force", d.minutes))
    waiting = [permits.as_view(p, now) for p in store.permits_in(("submitted", "approved", "handed_back"))]
    switching = [e for e in here.network.elements if e.kind in SWITCHING]
    known = [(e, here.device(e)) for e in switching if here.device(e).known]
    off = tuple((e, device) for e, device in known if device.position != e.normal_position)
    unknown = tuple(e for e in switching if not here.device(e).known)
    return Board(tuple(due), tuple(waiting), off, unknown)


def minutes_between(now: datetime, end: datetime) -> int:
    """Whole minutes, never rounded up: 59 s left is 0 min left."""
    return int(abs((end - now).total_seconds()) // 60)
