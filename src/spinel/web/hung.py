"""The one-line hung at its energy: every piece at the height of the worst energy there, in the columns of the one-line.
It climbs at a transformer and falls at a device that takes energy off; level means that the device gains nothing."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from spinel.actions.site import SiteNow
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SERIES
from spinel.core.network.layout import layout
from spinel.core.study import located
from spinel.core.study_result import StudyResult, energy_of, unfed
from spinel.web.shapes import Shape, circle, path, rect, text
from spinel.wording import formats

WIDTH, HEIGHT, LEFT, TOP, BOTTOM = 1040.0, 600.0, 56.0, 22.0, 34.0
LEAST, MOST = 0.3, 120.0
#: Above so many pieces only what spreads the energy is drawn: buses, transformers, supplies.
FEW = 70
SPREADS = ("bus", "transformer", "source", "generator", "shore_connection")


@dataclass(frozen=True)
class HungAt:
    """``energy``: None where there is no figure: it hangs above all."""

    element: Element
    energy: float | None
    x: float
    y: float


@dataclass(frozen=True)
class HungDrawing:
    width: float
    height: float
    shapes: tuple[Shape, ...]
    pieces: tuple[HungAt, ...]
    left_out: int


def hung_drawing(here: SiteNow, result: StudyResult, ceiling: float) -> HungDrawing:
    """Of the network as published, by the figures of a study of it."""
    network = here.network
    worst = _worst(result, here.profile.threshold.lowest_v)
    shown = [e for e in located(network) if e.id in worst]
    everything = len(shown)
    if everything > FEW:
        shown = [e for e in shown if e.kind in SPREADS]
    at = _places(network, shown, worst)
    shapes = [*_scale(ceiling), *_wires(network, at), *_labels(at.values(), ceiling)]
    ordered = sorted(at.values(), key=lambda p: (p.energy is None, -(p.energy or 0.0)))
    return HungDrawing(WIDTH, HEIGHT, tuple(shapes), tuple(ordered), everything - len(shown))


def _worst(result: StudyResult, lowest_v: float) -> dict[str, float | None]:
    """Of every piece its worst side; what has none counts as the worst, below the threshold of voltage as nothing."""
    found: dict[str, float | None] = {}
    for row in result.rows:
        if not unfed(row) and (row["voltage_v"] or lowest_v) >= lowest_v:
            energy, known = energy_of(row), found.get(row["element_id"], 0.0)
            found[row["element_id"]] = None if energy is None or known is None else max(known, energy)
    return found


def _y(energy: float | None) -> float:
    if energy is None:
        return TOP
    part = math.log(min(max(energy, LEAST), MOST) / LEAST) / math.log(MOST / LEAST)
    return HEIGHT - BOTTOM - part * (HEIGHT - BOTTOM - TOP - 20)


def _places(network: Network, shown: list[Element], worst: dict[str, float | None]) -> dict[str, HungAt]:
    """Columns in the order of the one-line, evenly spread, so that no two pieces share one."""
    drawn = {s.element_id: s.box.x + s.box.w / 2 for s in layout(network).symbols}
    order = sorted(shown, key=lambda e: (drawn.get(e.id, 0.0), e.tag))
    each = (WIDTH - LEFT - 40) / max(len(order), 1)
    return {e.id: HungAt(e, worst[e.id], LEFT + 14 + each * i, _y(worst[e.id])) for i, e in enumerate(order)}


def _scale(ceiling: float) -> list[Shape]:
    shapes = []
    for low, high, kind in ((1.2, 8.0, "bd1"), (8.0, 12.0, "bd2"), (12.0, ceiling, "bd3"), (ceiling, MOST, "bd4")):
        if high > low:
            shapes.append(rect(kind, LEFT, _y(high), WIDTH - LEFT, _y(low) - _y(high)))
    for value in (0.5, 1.2, 3.0, 8.0, 12.0, ceiling, 100.0):
        shapes.append(path("ceil" if value == ceiling else "bdl", "M", LEFT, _y(value), "H", WIDTH))
        shapes.append(text("t3 end", LEFT - 6, _y(value) + 4, f"{value:g}"))
    return shapes


def _wires(network: Network, at: dict[str, HungAt]) -> list[Shape]:
    """Between pieces that share a node, cables and what is not drawn left out on the way."""
    group = {n.id: n.id for n in network.nodes}

    def root(node: str) -> str:
        while group[node] != node:
            node = group[node]
        return node

    for e in network.elements:
        if e.kind in SERIES or (e.id not in at and e.kind != "transfer_switch"):
            for other in e.ends[1:]:
                group[root(other)] = root(e.ends[0])
    joined: dict[str, list[HungAt]] = {}
    for p in at.values():
        for node in dict.fromkeys(root(n) for n in p.element.ends):
            joined.setdefault(node, []).append(p)
    shapes = []
    for pieces in joined.values():
        ordered = sorted(pieces, key=lambda p: p.x)
        hub = next((p for p in ordered if p.element.kind == "bus"), ordered[0])
        for p in ordered:
            if p is not hub:
                is_open = p.element.normal_position == "open" or hub.element.normal_position == "open"
                kind = "hungwire open" if is_open else "hungwire"
                shapes.append(path(kind, "M", hub.x, hub.y, "H", p.x, "V", p.y))
    return shapes


def _labels(at: Iterable[HungAt], ceiling: float) -> list[Shape]:
    """Tag and energy beside each piece, the highest placed first, none over another."""
    shapes, taken = [], list[tuple[float, float, float]]()
    for p in sorted(at, key=lambda p: (p.y, p.x)):
        words = f"{p.element.tag} {formats.energy(p.energy) if p.energy is not None else '?'}"
        wide, x, y = len(words) * 7.0 + 4, p.x + 7, p.y - 6
        x = min(x, WIDTH - wide)
        for turn in range(40):
            if not any(x < x2 and x1 < x + wide and abs(y - cy) < 14 for x1, x2, cy in taken):
                break
            y = p.y - 6 + (14 if turn % 2 else -14) * (turn // 2 + 1)
        y = min(max(y, 12.0), HEIGHT - 6)
        taken.append((x, x + wide, y))
        beyond = p.energy is None or p.energy > ceiling
        shapes.append(
            path("leaderthin", "M", p.x, p.y, "L", x, y - 4) if abs(y - p.y) > 20 else path("none", "M", 0, 0)
        )
        shapes.append(circle("dot8" if beyond else "dot", p.x, p.y, 5.5 if beyond else 4))
        shapes.append(text("t3 knk b" if beyond else "t3 knk", x, y, words))
    return shapes
