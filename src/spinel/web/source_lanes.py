"""Ways by which a place could be live, as lanes: source left, target right, a shared device in one column, so that a
cut is a vertical line."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from spinel.actions.site import SiteNow
from spinel.core.network.document import Element
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.layout import Box, Symbol
from spinel.core.network.liveness import DEAD, LIVE, UNKNOWN
from spinel.core.network.sources_of import SourcesOf, SourceWay
from spinel.web.shapes import Shape, path, text, wire
from spinel.web.symbols import symbol

LEFT, RIGHT, HIGH, TOP = 96, 84, 52, 26
#: A column is at least so wide; with more of them the drawing grows and scrolls.
WIDE = 46
#: How far from the left a device stands, by its id.
Across = Callable[[str], float]
STATE = {"live": LIVE, "may": UNKNOWN, "open": DEAD, "blocked": DEAD}


@dataclass(frozen=True)
class SourceLane:
    """``number``: from 1 on; ``shapes``: of the lane alone, so that one is lit by itself."""

    number: int
    way: SourceWay
    shapes: tuple[Shape, ...]

    @property
    def drawn(self) -> tuple[Shape, ...]:
        """What is pressed: its name says it in words."""
        return tuple(s for s in self.shapes if s.element != "text")

    @property
    def texts(self) -> tuple[Shape, ...]:
        return tuple(s for s in self.shapes if s.element == "text")


@dataclass(frozen=True)
class Lanes:
    width: float
    height: float
    lanes: tuple[SourceLane, ...]
    cuts: tuple[Shape, ...]


def lanes(site: SiteNow, found: SourcesOf, target: Element, least: float = 1100) -> Lanes:
    count = max(found.columns.values(), default=1)
    width = max(least, LEFT + RIGHT + WIDE * (count + 1))
    step = (width - LEFT - RIGHT) / (count + 1)

    def x(element_id: str) -> float:
        return width - RIGHT - step * found.columns[element_id]

    drawn = tuple(
        SourceLane(i, way, tuple(_lane(site, way, target, x, TOP + HIGH * (i - 1), width)))
        for i, way in enumerate(found.ways, 1)
    )
    height = TOP + HIGH * len(drawn) + 8
    cuts = tuple(_cuts(found.singles, found, x, height))
    return Lanes(width, height, drawn, cuts)


def _cuts(singles: Iterable[Element], found: SourcesOf, x: Across, height: float) -> Iterable[Shape]:
    for e in singles:
        if e.id in found.columns:
            yield path("cutline", "M", x(e.id), 8, "V", height - 6)


def _lane(site: SiteNow, way: SourceWay, target: Element, x: Across, top: float, width: float) -> Iterable[Shape]:
    y = top + HIGH / 2
    places = [LEFT, *(x(e.id) for e in way.through), width - RIGHT]
    state = STATE[way.state]
    at = next((i for i, e in enumerate(way.through, 1) if e.tag == way.at), None)
    if way.state == "open" and at is not None:
        # up to where it is open it may well be fed
        yield from wire(UNKNOWN, f"M{places[0]:.1f} {y:.1f} H{places[at]:.1f}")
        yield from wire(DEAD, f"M{places[at]:.1f} {y:.1f} H{places[-1]:.1f}")
    else:
        yield from wire(state, f"M{places[0]:.1f} {y:.1f} H{places[-1]:.1f}")
    yield text("tg end", LEFT - 8, y + 4.5, way.source.tag)
    for i, e in enumerate(way.through):
        yield from _device(site, e, places[i + 1], y, up=bool(i % 2))
    yield text("tg", width - RIGHT + 8, y + 4.5, target.tag)


def _device(site: SiteNow, e: Element, x: float, y: float, up: bool) -> Iterable[Shape]:
    if e.row.conductor:
        yield path("lane-cable", "M", x - 4, y - 5, "V", y + 5, "M", x + 4, y - 5, "V", y + 5)
        return
    device = site.device(e)
    position = (device.position or "unknown") if device.known else "unknown"
    w, h = (14.0, 14.0) if e.kind != "transformer" else (16.0, 24.0)
    if e.kind in SWITCHING and e.kind not in ("transfer_switch", "fuse"):
        yield from symbol(
            Symbol(e.id, e.kind, Box(x - w / 2, y - h / 2, w, h)), position,
            locked=bool(device.locks), grounded=False, off_normal=False,
        )  # fmt: skip
    else:
        yield path("sym", "M", x - 7, y - 7, "h", 14, "v", 14, "h", -14, "Z")
        yield text("mid t3", x, y + 4, {"transformer": "T", "transfer_switch": "S", "fuse": "F"}.get(e.kind, "·"))
    yield text("mid lane-tag", x, y - 11 if up else y + 20, e.tag)
