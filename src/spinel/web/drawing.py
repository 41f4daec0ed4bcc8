"""The one-line as the template prints it: positions from core, states from the field, nothing computed in between."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from spinel.actions.site import SiteNow
from spinel.core.network.document import Element
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.layout import Box, Drawing, Symbol, layout
from spinel.core.network.now import position_words
from spinel.core.said import Said, joined, say
from spinel.web.filters import words
from spinel.web.shapes import Shape, path, text, wire
from spinel.web.symbols import label, symbol


@dataclass(frozen=True)
class DrawnSymbol:
    symbol: Symbol
    element: Element
    state: str
    position: str
    off_normal: bool
    locked: bool = False
    grounded: bool = False

    @property
    def shapes(self) -> tuple[Shape, ...]:
        return symbol(
            self.symbol, self.position, locked=self.locked, grounded=self.grounded, off_normal=self.off_normal
        )

    @property
    def kind(self) -> str:
        """Classes of the group: what state it shows."""
        return f"el st-{self.state}{' off' if self.off_normal else ''}"

    @property
    def says(self) -> Said:
        """The symbol for those who do not see it."""
        return say(
            "drawing-symbol", tag=self.element.tag, kind=self.element.kind_name, state=self.state,
            at=position_words(self.position) if self.position else "none", locked=self.locked,
        )  # fmt: skip

    def cloud(self, number: int) -> tuple[Shape, ...]:
        """The mark around what a step changes, with the number of the step."""
        b = self.symbol.box
        turn = ("q", 6, -7, 12, 0)
        return (
            path("cloud", "M", b.x - 15, b.y - 12, *turn, *turn, *turn, *(turn if b.w > 20 else ())),
            path("stepmark", "M", b.x - 32, b.y - 12, "l", 13, 22, "h", -26, "Z"),
            text("stepmark mid", b.x - 32, b.y + 7, str(number)),
        )


@dataclass(frozen=True)
class DrawnLabel:
    element: Element
    box: Box
    shapes: tuple[Shape, ...]


@dataclass(frozen=True)
class OneLine:
    """``wires``: conductors in layers, all casings first. ``view``: the part that is shown at first."""

    width: float
    height: float
    wires: tuple[Shape, ...]
    symbols: tuple[DrawnSymbol, ...]
    labels: tuple[DrawnLabel, ...]
    view: tuple[float, float, float, float]

    @property
    def view_box(self) -> str:
        return " ".join(f"{v:.0f}" for v in self.view)


def one_line(site: SiteNow) -> OneLine:
    """The whole drawing with the states of the site as it is given: now, or after a step."""
    drawing = _positions(site)
    wires = _wires(site, drawing)
    symbols = tuple(_drawn(site, s) for s in drawing.symbols)
    element = site.network.element
    owners = ((found, element[found.element_id]) for found in drawing.labels)
    labels = tuple(DrawnLabel(owner, found.box, label(found, site.state_of(owner))) for found, owner in owners)
    return OneLine(drawing.width, drawing.height, wires, symbols, labels, (0, 0, drawing.width, drawing.height))


def detail(site: SiteNow, element_id: str, width: float, height: float) -> OneLine:
    """The part of the drawing around one element and its nearest neighbours, as large as fits, in the proportion of
    ``width`` to ``height``; no text that would be cut."""
    whole = one_line(site)
    box = _with_neighbours(site, element_id)
    scale = max(box.w / width, box.h / height, LEAST)
    width, height = width * scale, height * scale
    x = min(max(box.x + box.w / 2 - width / 2, 0), max(whole.width - width, 0))
    y = min(max(box.y + box.h / 2 - height / 2, 0), max(whole.height - height, 0))
    frame = Box(x, y, width, height)
    return OneLine(
        whole.width, whole.height, whole.wires,
        tuple(s for s in whole.symbols if s.symbol.box.overlaps(frame)),
        tuple(entry for entry in whole.labels if _inside(entry.box, frame)), (x, y, width, height),
    )  # fmt: skip


#: The least part of its usual frame that a detail shows.
LEAST = 0.5
#: Around the symbols of a detail, drawing units.
MARGIN = 14


def _with_neighbours(site: SiteNow, element_id: str) -> Box:
    """Around an element and the nearest thing at each of its ends."""
    places, e = _positions(site), site.network.element[element_id]
    own = places.symbol_of(element_id)
    if own is None:
        return Box(0, 0, 0, 0)
    boxes = [own.box]
    for end in e.ends:
        near = [s.box for x in site.network.at_node[end] if x.id != e.id and (s := places.symbol_of(x.id)) is not None]
        boxes += sorted(near, key=lambda b: abs(b.x - own.box.x) + abs(b.y - own.box.y))[:1]
    # a bus is as long as its section: only where it is met counts
    left = min(max(b.x, own.box.x - 70) for b in boxes) - MARGIN
    top = min(b.y for b in boxes) - MARGIN
    right = max(min(b.x + b.w, own.box.x + own.box.w + 70) for b in boxes) + MARGIN
    bottom = max(b.y + b.h for b in boxes) + MARGIN
    return Box(left, top, right - left, bottom - top)


def _inside(label: Box, frame: Box) -> bool:
    across = frame.x <= label.x and label.x + label.w <= frame.x + frame.w
    return across and frame.y <= label.y and label.y + label.h <= frame.y + frame.h


def _drawn(site: SiteNow, symbol: Symbol) -> DrawnSymbol:
    e = site.network.element[symbol.element_id]
    device = site.device(e)
    position = (device.position or "unknown") if device.known else "unknown"
    if e.kind not in SWITCHING:
        position = ""
    off = bool(position) and position != e.normal_position
    hangs = any(g.element_id == e.id for g in site.field.grounds)
    return DrawnSymbol(symbol, e, site.state_of(e), position, off, bool(device.locks), hangs)


_kept: dict[str, Drawing] = {}


def _positions(site: SiteNow) -> Drawing:
    """The layout of a revision, kept: only states change between revisions."""
    if site.hash not in _kept:
        if len(_kept) > 3:
            _kept.clear()
        _kept[site.hash] = layout(site.network, _second_lines(site))
    return _kept[site.hash]


def _second_lines(site: SiteNow) -> Mapping[str, str]:
    """Location and highest bolted fault current, for plates."""
    found = {}
    for e in site.network.elements:
        current = site.study.bolted_ka(e.ends[-1])
        place = e.location[:22]
        fault = say("drawing-ka", current=current) if current is not None else ""
        found[e.id] = words().say(joined(place, fault, between=", "))
    return found


def _wires(site: SiteNow, drawing: Drawing) -> tuple[Shape, ...]:
    found = [
        shape
        for line in drawing.lines
        for shape in wire(site.liveness.nodes[line.node], _path(line.points), " bus" if line.bus else "")
    ]
    return tuple(sorted(found, key=lambda shape: not shape.attributes["class"].startswith("k-")))


def _path(points: tuple[tuple[float, float], ...]) -> str:
    return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in points)
