"""The one-line as the template prints it: positions from core, states from the field, nothing computed in between."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from spinel.actions.site import SiteNow
from spinel.core.network.document import Element
from spinel.core.network.folding import Folded, folded
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.layout import COMB, TOOTH, Box, Drawing, Symbol, layout
from spinel.core.network.now import position_words
from spinel.core.said import Said, joined, say
from spinel.web.filters import words
from spinel.web.layers import LayerMark, halos
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


@dataclass(frozen=True, kw_only=True)
class OneLine:
    """``wires``: conductors in layers, all casings first. ``view``: the part that is shown at first. ``combs``: of
    folded boards; ``halos``: of a layer; ``near``: ids of what each piece is joined to."""

    width: float
    height: float
    wires: tuple[Shape, ...]
    symbols: tuple[DrawnSymbol, ...]
    labels: tuple[DrawnLabel, ...]
    view: tuple[float, float, float, float]
    combs: tuple[Shape, ...] = ()
    halos: tuple[Shape, ...] = ()
    near: Mapping[str, str] = field(default_factory=dict)

    @property
    def view_box(self) -> str:
        return " ".join(f"{v:.0f}" for v in self.view)


def one_line(
    site: SiteNow, boards: frozenset[str] = frozenset(), marks: Mapping[str, LayerMark] | None = None
) -> OneLine:
    """The whole drawing with the states of the site as it is given: now, or after a step. ``boards``: folded ones, by
    id. ``marks``: of a layer."""
    drawing, fold = _positions(site, boards)
    wires = _wires(site, drawing)
    symbols = tuple(_drawn(site, s) for s in drawing.symbols)
    element = site.network.element
    owners = ((found, element[found.element_id]) for found in drawing.labels)
    labels = tuple(DrawnLabel(owner, found.box, label(found, site.state_of(owner))) for found, owner in owners)
    return OneLine(
        width=drawing.width, height=drawing.height, wires=wires, symbols=symbols, labels=labels,
        view=(0, 0, drawing.width, drawing.height), combs=_combs(site, drawing, fold),
        halos=halos(drawing, marks or {}), near=_near(site, drawing),
    )  # fmt: skip


def _combs(site: SiteNow, drawing: Drawing, fold: Folded | None) -> tuple[Shape, ...]:
    """One tooth a feeder below a folded board: its state, a foot where it is off normal, unknown or locked; and a mark
    at its end for anything off normal deeper in the fold."""
    shapes: list[Shape] = []
    for board, teeth in fold.teeth.items() if fold else ():
        symbol_ = drawing.symbol_of(board)
        if symbol_ is None or fold is None:
            continue
        b = symbol_.box
        left, y = b.x + b.w / 2 - len(teeth) * TOOTH / 2, b.y + b.h / 2
        for i, e in enumerate(teeth):
            x = left + TOOTH * (i + 0.5)
            shapes += wire(site.state_of(e), f"M{x:.1f} {y:.1f} v{COMB - 5}")
            if _unlike_normal(site, e):
                shapes.append(path("offmark", "M", x - 3.5, y + COMB - 2, "h", 7))
        deeper = [site.network.element[i] for i in fold.below[board] if site.network.element[i] not in teeth]
        if any(_unlike_normal(site, e) for e in deeper):
            shapes.append(path("offmark", "M", b.x + b.w - 2, y + 5, "v", 9))
    return tuple(shapes)


def _unlike_normal(site: SiteNow, e: Element) -> bool:
    """Off normal, of unknown position, locked, or with a ground: nothing of it hides in a fold."""
    device = site.device(e)
    position = e.kind in SWITCHING and (not device.known or device.position != e.normal_position)
    return position or bool(device.locks) or any(g.element_id == e.id for g in site.field.grounds)


def _near(site: SiteNow, drawing: Drawing) -> Mapping[str, str]:
    """Ids of what each piece is joined to, as the keys go along it."""
    drawn = {s.element_id for s in drawing.symbols}
    found = {}
    for element_id in drawn:
        e = site.network.element[element_id]
        around = dict.fromkeys(o.id for n in e.ends for o in site.network.at_node[n] if o.id in drawn and o.id != e.id)
        found[element_id] = " ".join(around)
    return found


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
    return replace(
        whole, symbols=tuple(s for s in whole.symbols if s.symbol.box.overlaps(frame)),
        labels=tuple(entry for entry in whole.labels if _inside(entry.box, frame)), view=(x, y, width, height),
    )  # fmt: skip


#: Drawing units of a sheet of paper at which its text is read easily; tiles overlap by so much.
SHEET, OVERLAP = (1180.0, 700.0), 40.0


def sheets(whole: OneLine, tiled: bool) -> list[OneLine]:
    """The drawing on one sheet, or in parts of one size, from left to right and then down."""
    if not tiled:
        return [whole]
    found = []
    for row in range(max(1, math.ceil((whole.height - OVERLAP) / (SHEET[1] - OVERLAP)))):
        for column in range(max(1, math.ceil((whole.width - OVERLAP) / (SHEET[0] - OVERLAP)))):
            x, y = column * (SHEET[0] - OVERLAP), row * (SHEET[1] - OVERLAP)
            frame = Box(x, y, *SHEET)
            symbols = tuple(s for s in whole.symbols if s.symbol.box.overlaps(frame))
            if symbols:
                labels = tuple(entry for entry in whole.labels if entry.box.overlaps(frame))
                found.append(replace(whole, symbols=symbols, labels=labels, view=(x, y, *SHEET)))
    return found


#: The least part of its usual frame that a detail shows.
LEAST = 0.5
#: Around the symbols of a detail, drawing units.
MARGIN = 14


def _with_neighbours(site: SiteNow, element_id: str) -> Box:
    """Around an element and the nearest thing at each of its ends."""
    places, e = _positions(site)[0], site.network.element[element_id]
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


_kept: dict[tuple[str, frozenset[str]], tuple[Drawing, Folded | None]] = {}


def _positions(site: SiteNow, boards: frozenset[str] = frozenset()) -> tuple[Drawing, Folded | None]:
    """The layout of a revision with these boards folded, kept: only states change between revisions."""
    key = (site.hash, boards)
    if key not in _kept:
        if len(_kept) > 11:
            _kept.clear()
        fold = folded(site.network, boards) if boards else None
        teeth = {i: len(t) for i, t in fold.teeth.items()} if fold else {}
        _kept[key] = (layout(fold.network if fold else site.network, _second_lines(site), teeth), fold)
    return _kept[key]


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
