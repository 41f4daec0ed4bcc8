"""A draft as a drawing: in ink on squared paper, without energy. A draft is not the plant."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from spinel.core.canonical import canonical
from spinel.core.errors import SpinelError
from spinel.core.network.differences import Difference
from spinel.core.network.document import Element, Network, read_network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.layout import Box, Drawing, Label, Symbol, layout
from spinel.core.said import Said, say
from spinel.web.shapes import INK, Shape, path
from spinel.web.symbols import label, symbol

#: Around what is new or other than published, drawing units.
CLOUD = 7


@dataclass(frozen=True)
class DraftSymbol:
    symbol: Symbol
    element: Element
    how: str

    @property
    def shapes(self) -> tuple[Shape, ...]:
        e = self.element
        position = (e.normal_position or "unknown") if e.kind in SWITCHING else ""
        return symbol(self.symbol, position, locked=False, grounded=False, off_normal=False)

    @property
    def says(self) -> Said:
        return say("draft-symbol", tag=self.element.tag, kind=self.element.kind_name, how=self.how or "as-published")


@dataclass(frozen=True)
class DraftLabel:
    element: Element
    box: Box
    shapes: tuple[Shape, ...]


@dataclass(frozen=True)
class DraftDrawing:
    width: float
    height: float
    wires: tuple[Shape, ...]
    symbols: tuple[DraftSymbol, ...]
    labels: tuple[DraftLabel, ...]
    clouds: tuple[Shape, ...]


def _clouds(network: Network, drawing: Drawing, changed: Mapping[str, str]) -> tuple[Shape, ...]:
    """A revision cloud around what is new or changed and hangs together."""
    boxes: dict[str, list[Box]] = {}
    parts: list[Symbol | Label] = [*drawing.symbols, *drawing.labels]
    for part in parts:
        if part.element_id in changed and not (isinstance(part, Symbol) and part.kind == "bus"):
            boxes.setdefault(part.element_id, []).append(part.box)
    nodes = {i: set(network.element[i].ends) for i in boxes}
    left: set[str] = set(boxes)
    shapes: list[Shape] = []
    while left:
        group: set[str] = set()
        queue = [min(left)]
        while queue:
            one = queue.pop()
            if one in left:
                left.discard(one)
                group.add(one)
                queue += [o for o in left if nodes[o] & nodes[one]]
        shapes += cloud(_around([b for i in group for b in boxes[i]]))
    return tuple(shapes)


def _around(boxes: list[Box]) -> Box:
    x, y = min(b.x for b in boxes), min(b.y for b in boxes)
    return Box(x, y, max(b.x + b.w for b in boxes) - x, max(b.y + b.h for b in boxes) - y)


def cloud(b: Box) -> tuple[Shape, ...]:
    """Arcs all the way round, some of one length each side."""
    x, y, w, h = b.x - CLOUD, b.y - CLOUD, b.w + 2 * CLOUD, b.h + 2 * CLOUD
    across, down = max(2, round(w / 13)), max(2, round(h / 13))
    dx, dy = w / across, h / down
    parts: list[str | float] = ["M", x, y]
    for sx, sy, count in ((dx, 0, across), (0, dy, down), (-dx, 0, across), (0, -dy, down)):
        for _ in range(count):
            parts += ["a", abs(sx or sy) / 1.9, abs(sx or sy) / 1.9, 0, 0, 1, sx, sy]
    return (path("d-cloud", *parts),)


def drawn(document: Mapping[str, Any], found: tuple[Difference, ...]) -> DraftDrawing | None:
    """None where the document is in such a state that nothing can be laid out: a joint that leads nowhere."""
    placed = _placed(canonical(dict(document)))
    if placed is None:
        return None
    network, drawing = placed
    how = {d.id: d.how for d in found if d.group == "elements"}
    element = network.element
    return DraftDrawing(
        drawing.width, drawing.height,
        tuple(
            Shape("path", {"class": "d-wire bus" if w.bus else "d-wire", "d": _path(w.points)}) for w in drawing.lines
        ),
        tuple(DraftSymbol(s, element[s.element_id], how.get(s.element_id, "")) for s in drawing.symbols),
        tuple(DraftLabel(element[x.element_id], x.box, label(x, INK)) for x in drawing.labels),
        _clouds(network, drawing, how),
    )  # fmt: skip


@lru_cache(maxsize=8)
def _placed(text: str) -> tuple[Network, Drawing] | None:
    try:
        network = read_network(json.loads(text))
        if not network.elements or any(n not in network.node for e in network.elements for n in e.ends):
            return None
        return network, layout(network, {e.id: e.location[:22] for e in network.elements})
    except (SpinelError, TypeError, KeyError, ValueError):
        return None


def _path(points: tuple[tuple[float, float], ...]) -> str:
    return "M" + " L".join(f"{x:.1f} {y:.1f}" for x, y in points)


def chain(document: Mapping[str, Any], element_id: str, upper: str) -> list[Mapping[str, Any]]:
    """The branch that a piece of equipment stands in, from where it hangs on a bus down to itself."""
    elements = document["elements"]
    at: dict[str, list[Mapping[str, Any]]] = {}
    for e in elements:
        for n in e["ends"]:
            at.setdefault(n, []).append(e)
    own = next(e for e in elements if e["id"] == element_id)
    found, node, seen = [own], upper, {element_id}
    while True:
        above = [e for e in at.get(node, ()) if e["id"] not in seen]
        if any(e["kind"] == "bus" for e in at.get(node, ())) or len(above) != 1 or len(above[0]["ends"]) != 2:
            return found
        found.insert(0, above[0])
        seen.add(above[0]["id"])
        node = next(n for n in above[0]["ends"] if n != node)
