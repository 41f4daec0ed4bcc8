"""What is dangerous or late now, most urgent first: the board, and the strip on every page."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime

from spinel.actions import permits
from spinel.actions.acting import utc_moment
from spinel.actions.box import box_of
from spinel.actions.locks import anything_left
from spinel.actions.program_view import stands_too_long
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core.network.document import Element
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import DeviceNow
from spinel.core.permit.life import WITH_WINDOW, expired
from spinel.core.said import Sayable, joined, say
from spinel.core.switching.order import ISOLATION
from spinel.store import holds, programs
from spinel.store import permits as store
from spinel.store.models import Program

#: States of a program that is happening, and of one that waits for somebody.
UNDER_WAY, WAITING = ("stopped", "executing"), ("draft", "checked", "released")


@dataclass(frozen=True)
class Due:
    """A permit with a window. ``minutes``: left until it ends, or since it ended when ``late``."""

    permit: permits.PermitView
    late: bool
    minutes: int


@dataclass(frozen=True)
class Tap:
    """One entry of the strip: a permit with its window, or a program at its step."""

    number: str
    state: str
    late: bool
    minutes: int
    step: int = 0
    steps: int = 0


@dataclass(frozen=True)
class Strip:
    """Permits, programs, and how many locks hang."""

    taps: tuple[Tap, ...]
    locks: int

    @property
    def live(self) -> bool:
        return any(t.state == "in_force" for t in self.taps)


@dataclass(frozen=True, kw_only=True)
class Switching:
    """A program that is executed, stopped, waiting for somebody, or whose isolation no longer stands."""

    number: str
    purpose: str
    state: str
    step: int
    steps: int
    tag: str
    title: str
    says: Sayable
    director: str
    late: bool = False


@dataclass(frozen=True, kw_only=True)
class Hanging:
    """What hangs for a hold, on equipment, or on its box (no ``element``). ``part``: of it, what is blocked.
    ``others``: who locked it for us, and ``owner`` has their paper.

    ``unsure``: whether it still hangs is not known. ``absent``: its owner cannot be reached, one half is signed.
    """

    kind: str
    hold: str
    element: Element | None
    part: str
    owner: str
    others: str
    number: str
    since: str
    unsure: bool
    absent: bool


@dataclass(frozen=True, kw_only=True)
class Board:
    due: tuple[Due, ...]
    switching: tuple[Switching, ...]
    programs_waiting: tuple[Switching, ...]
    hanging: tuple[Hanging, ...]
    waiting: tuple[permits.PermitView, ...]
    off_normal: tuple[tuple[Element, DeviceNow], ...]
    unknown: tuple[Element, ...]
    #: set otherwise than published, each with the permit that it is for
    set_for: tuple[tuple[Element, str], ...]


@on_site
def strip(site: Site, now: datetime) -> Strip:
    """Permits with a running or overrun window and programs under way, most urgent first; locks on."""
    taps = []
    for p in store.windows(WITH_WINDOW):
        end = utc_moment(p.window_end)
        late = expired(p.state, end, now, over=bool(p.over))
        taps.append(Tap(p.number, p.state, late, minutes_between(now, end)))
    taps.sort(key=lambda t: (not t.late, t.state != "in_force", t.minutes))
    own = [Tap(p.number, p.state, p.state == "stopped", 0, p.step + 1, p.steps) for p in programs.places(UNDER_WAY)]
    urgent = [t for t in own if t.late]
    return Strip(
        (*urgent, *(t for t in taps if t.late), *(t for t in own if not t.late), *(t for t in taps if not t.late)),
        holds.locks(),
    )


@on_site
def warnings_for(site: Site, person_id: int | None) -> list[tuple[str, Sayable, str]]:
    """Where a lock of this person hangs on a box whose isolation something was found in: hold, and why and when it was
    found last."""
    if person_id is None:
        return []
    last = {hold: (detail, at) for hold, detail, at in programs.warnings_to(person_id)}
    return [(hold, shapes.read("program record", d)["because"], at) for hold, (d, at) in last.items()]


@on_site
def board(site: Site, now: datetime) -> Board:
    """Everything that the board shows."""
    here = site.as_it_is()
    due = []
    for seen in permits.in_states(site, WITH_WINDOW, now):
        late = seen.shown_state == "expired"
        due.append(Due(seen, late, minutes_between(now, seen.window_end)))
    due.sort(key=lambda d: (not d.late, -d.minutes if d.late else 0, d.permit.state != "in_force", d.minutes))
    waiting = permits.in_states(site, ("submitted", "approved", "handed_back"), now)
    switching = [e for e in here.network.elements if e.kind in SWITCHING]
    known = [(e, here.device(e)) for e in switching if here.device(e).known]
    off = tuple((e, device) for e, device in known if device.position != e.normal_position)
    unknown = tuple(e for e in switching if not here.device(e).known)
    running, to_do = _programs(here, now)
    return Board(
        due=tuple(due),
        switching=running,
        programs_waiting=to_do,
        hanging=tuple(_hanging(here)),
        waiting=tuple(waiting),
        off_normal=off,
        unknown=unknown,
        set_for=tuple((e, here.device(e).set_for) for e in switching if here.device(e).set_for),
    )


def _hanging(here: SiteNow) -> Iterator[Hanging]:
    """All that hangs: locks on devices, then those on boxes, then blocks and grounds."""
    order = (holds.LOCK, holds.PERSONAL, holds.BLOCK, holds.GROUND)
    for row in sorted(holds.everything(), key=lambda row: order.index(row.kind)):
        yield Hanging(
            kind=row.kind, hold=row.hold, element=here.network.element.get(row.element_id), part=row.part,
            owner=row.owner, others=row.others, number=row.number, since=row.since,
            unsure=bool(row.unsure), absent=bool(row.absent),
        )  # fmt: skip


def _programs(here: SiteNow, now: datetime) -> tuple[tuple[Switching, ...], tuple[Switching, ...]]:
    """Those that are happening or no longer stand, stopped first; and those that wait for somebody."""
    names, found = here.site.names(), programs.programs_in(UNDER_WAY + WAITING + ("done",))
    running = [_waits(_line(p, names), stands_too_long(here, p.state, p.changed_at, now)) for p in found
               if p.state in UNDER_WAY]  # fmt: skip
    for p in found:
        if p.state != "done" or p.purpose != ISOLATION or not anything_left(p.hold, here.field):
            continue
        held = box_of(here, p.hold)
        if held is not None and held.unsound and not held.complete:
            says = say("act-board-no-longer-stands-locks-on-its-box", why=held.unsound[0].why, count=len(held.locks))
            running.append(replace(_line(p, names), says=says, late=True))
    running.sort(key=lambda line: (not line.late, line.state != "stopped"))
    return tuple(running), tuple(_line(p, names) for p in found if p.state in WAITING)


def _waits(line: Switching, minutes: int) -> Switching:
    """Marked as late where it has stood at its step for longer than the site wants."""
    if not minutes:
        return line
    return replace(line, late=True, says=say("act-board-stands-for", step=line.step, minutes=minutes, says=line.says))


def _line(p: Program, names: Mapping[int, str]) -> Switching:
    content = shapes.content("program", p.content)
    steps = content["steps"]
    current = steps[min(p.step, len(steps) - 1)]
    says: dict[str, Sayable] = {
        "stopped": p.stopped_because,
        "executing": joined(current["identity"], current["action"], between=", "),
        "draft": say("act-board-to-be-checked-by-a-second-person"),
        "checked": say("act-board-to-be-released"),
        "released": say("act-board-to-be-executed"),
    }
    return Switching(
        number=p.number,
        purpose=p.purpose,
        state=p.state,
        step=p.step + 1,
        steps=len(steps),
        tag=content["equipment"]["tag"],
        title=content["title"],
        says=says.get(p.state, ""),
        director=names.get(p.director_id or 0, ""),
        late=p.state == "stopped",
    )


def minutes_between(now: datetime, end: datetime) -> int:
    """Whole minutes, never rounded up: 59 s left is 0 min left."""
    return int(abs((end - now).total_seconds()) // 60)
