"""Positions of the one-line: pure arithmetic from the document to boxes and lines, no coordinates stored.

Every subtree is a block with its own column range, every label has a reserved box inside its block, and ties run
in channels below all blocks (or straight between neighbouring buses), so that nothing can overlap. Units: px.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import KIND
from spinel.core.network.spanning import Forest, Hang, Junction, Tie, forest, straighten

GAP, MARGIN, CHANNEL = 9, 14, 16
TAG_CHAR, TEXT_CHAR = 7.6, 6.3


@dataclass(frozen=True)
class Box:
    x: float
    y: float
    w: float
    h: float

    def moved(self, dx: float, dy: float) -> Box:
        return Box(self.x + dx, self.y + dy, self.w, self.h)

    def overlaps(self, other: Box) -> bool:
        return (
            self.x < other.x + other.w and other.x < self.x + self.w
            and self.y < other.y + other.h and other.y < self.y + self.h
        )  # fmt: skip


@dataclass(frozen=True)
class Symbol:
    element_id: str
    kind: str
    box: Box
    sideways: bool = False
    poles: tuple[float, ...] = ()


@dataclass(frozen=True)
class Label:
    """``kind``: chip (tag), plate (tag, voltage, second line), caption (name in one or two lines)."""

    element_id: str
    kind: str
    box: Box
    lines: tuple[str, ...]


@dataclass(frozen=True)
class Line:
    """A conductor of one node, as points. ``bus`` is drawn heavy."""

    node: str
    points: tuple[tuple[float, float], ...]
    bus: bool = False


@dataclass(frozen=True)
class Drawing:
    width: float
    height: float
    symbols: tuple[Symbol, ...]
    labels: tuple[Label, ...]
    lines: tuple[Line, ...]

    def symbol_of(self, element_id: str) -> Symbol | None:
        return next((s for s in self.symbols if s.element_id == element_id), None)


@dataclass
class _Block:
    """Parts placed relative to the point where the block hangs; extents to the left, right and down."""

    left: float = 0
    right: float = 0
    bottom: float = 0
    symbols: list[Symbol] = field(default_factory=list)
    labels: list[Label] = field(default_factory=list)
    lines: list[Line] = field(default_factory=list)
    anchors: dict[tuple[str, str, str], tuple[float, float]] = field(default_factory=dict)

    def take(self, other: _Block, dx: float, dy: float) -> None:
        self.symbols += [
            replace(s, box=s.box.moved(dx, dy), poles=tuple(p + dx for p in s.poles)) for s in other.symbols
        ]
        self.labels += [replace(label, box=label.box.moved(dx, dy)) for label in other.labels]
        self.lines += [replace(ln, points=tuple((x + dx, y + dy) for x, y in ln.points)) for ln in other.lines]
        self.anchors |= {k: (x + dx, y + dy) for k, (x, y) in other.anchors.items()}
        self.left = max(self.left, other.left - dx)
        self.right = max(self.right, other.right + dx)
        self.bottom = max(self.bottom, other.bottom + dy)


def layout(
    network: Network, second_lines: Mapping[str, str] | None = None, teeth: Mapping[str, int] | None = None
) -> Drawing:
    """The whole one-line. ``second_lines``: element id to the second line of its plate (location, fault current).
    ``teeth``: how many feeders of a folded board are shown as a comb at it, by its element id."""
    return _Draughtsman(network, second_lines or {}, teeth or {}).draw()


#: From tooth to tooth of a comb, and how far it reaches down.
TOOTH, COMB = 9, 16


class _Draughtsman:
    def __init__(self, network: Network, second_lines: Mapping[str, str], teeth: Mapping[str, int]):
        self.network, self.second, self.teeth = network, second_lines, teeth
        self.forest: Forest = forest(network)
        self.straight = straighten(self.forest)
        self.tie_ids = {t.element.id for t in self.forest.ties if not t.switch_end}

    def draw(self) -> Drawing:
        sheet = _Block()
        x = 0.0
        for root in self.forest.roots:
            block = self._root(root)
            sheet.take(block, x + block.left, 0)
            x = sheet.right + MARGIN
        self._route(sheet)
        dx, dy = MARGIN, MARGIN
        final = _Block()
        final.take(sheet, dx, dy)
        return Drawing(
            sheet.right + 2 * MARGIN, final.bottom + MARGIN,
            tuple(final.symbols), tuple(final.labels), tuple(final.lines),
        )  # fmt: skip

    def _root(self, junction: Junction) -> _Block:
        """The first one-ended element at the root node stands above it; everything else hangs below."""
        first = next((h for h in junction.hangs if len(h.element.ends) == 1), None)
        if first is None:
            return self._junction(junction)
        junction.hangs.remove(first)
        block = _Block()
        y = self._element(block, first.element, 0, 0)
        block.lines.append(Line(junction.node, ((0, y), (0, y + GAP))))
        block.take(self._junction(junction), 0, y + GAP)
        return block

    def _junction(self, junction: Junction) -> _Block:
        """What hangs at a node whose conductor arrives at (0, 0)."""
        if not junction.branching:
            if junction.stubs:
                return self._stub(junction.stubs[0], junction.node)
            return self._lane(junction.hangs[0])
        return self._bus(junction)

    def _bus(self, junction: Junction) -> _Block:
        columns: list[_Block] = [self._lane(h) for h in junction.hangs]
        stubs = [self._stub(t, junction.node) for t in junction.stubs]
        first = [s for t, s in zip(junction.stubs, stubs, strict=True) if t.element.id in self.straight]
        columns = first + columns + [s for s in stubs if s not in first]
        block = _Block(left=8, right=8)
        top = self._bus_label(block, junction)
        lanes, x = [], 0.0
        for column in columns:
            lanes.append(x + column.left)
            x += column.left + column.right
        # A tie on the bus line stands past the bus's end; a conductor joins the two.
        ties = [any(k == "straight" and y == 0 for (k, _, _), (_, y) in c.anchors.items()) for c in columns]
        own = [lane for lane, tie in zip(lanes, ties, strict=True) if not tie]
        centre = (own[0] + own[-1]) / 2 if own else -24.0
        lanes = [lane - centre for lane in lanes]
        ends = [0.0]
        for column, lane, tie in zip(columns, lanes, ties, strict=True):
            block.take(column, lane, top)
            ends.append(lane - column.left if tie else lane)
            if tie:
                block.lines.append(Line(junction.node, ((lane - column.left, top), (lane - 7, top))))
        block.lines.append(Line(junction.node, ((0, 0), (0, top))))
        if junction.bus is not None and (count := self.teeth.get(junction.bus.id, 0)):
            ends += [-count * TOOTH / 2, count * TOOTH / 2]
            block.bottom = max(block.bottom, top + COMB + GAP)
        block.lines.append(Line(junction.node, ((min(ends) - 10, top), (max(ends) + 10, top)), bus=True))
        if junction.bus is not None:
            width = max(ends) - min(ends) + 20
            block.symbols.append(Symbol(junction.bus.id, "bus", Box(min(ends) - 10, top - 4, width, 8)))
        block.left, block.right = max(block.left, 14 - min(ends)), max(block.right, max(ends) + 14)
        block.bottom = max(block.bottom, top + GAP)
        return block

    def _bus_label(self, block: _Block, junction: Junction) -> float:
        """Reserve the plate above the bus, right of the arriving conductor. Returns the bus line's y."""
        if junction.bus is None:
            return GAP
        label = self._plate(junction.bus, 9, 2)
        block.labels.append(label)
        block.right = max(block.right, label.box.x + label.box.w + 6)
        return label.box.h + 14

    def _lane(self, hang: Hang) -> _Block:
        """A chain of elements straight down until something branches or ends."""
        block = _Block()
        y = 0.0
        link: Hang | None = hang
        while link is not None:
            e = link.element
            if e.id in self.tie_ids and e.id in self.straight:
                self._straight_tie(block, e)
                return block
            start = y
            y += GAP
            if link.upward:
                y = self._switch_with_chain(block, link, y)
            else:
                y = self._element(block, e, 0, y)
            top = next(s for s in reversed(block.symbols) if s.element_id == e.id).box.y
            block.lines.append(Line(link.entry, ((0, start), (0, top))))
            if e.id in self.tie_ids:
                block.anchors[("tie", e.id, "")] = (0, y)
            link, y = self._below(block, link, y)
        return block

    def _below(self, block: _Block, link: Hang, y: float) -> tuple[Hang | None, float]:
        """What follows an element: the next one of the chain, a junction, or several branches of a switch."""
        beside = [(t.to, self._loose_end(t)) for t in self.forest.ties if t.switch_end and t.element is link.element]
        if link.also_below is not None:
            beside.append((link.also_below.node, self._junction(link.also_below)))
        junction = link.below
        if junction is not None and not junction.branching and not junction.stubs and not beside:
            return junction.hangs[0], y
        if junction is not None:
            block.lines.append(Line(junction.node, ((0, y), (0, y + 2 * GAP if beside else y + GAP))))
            block.take(self._junction(junction), 0, y + 2 * GAP if beside else y + GAP)
        for node, branch in beside:
            x = block.right + branch.left + 6
            block.lines.append(Line(node, ((6, y), (6, y + GAP), (x, y + GAP), (x, y + 2 * GAP))))
            block.take(branch, x, y + 2 * GAP)
        return None, y

    def _loose_end(self, tie: Tie) -> _Block:
        """A column of its own for an input of a switch that is fed from elsewhere in the drawing."""
        block = _Block(left=9, right=9, bottom=GAP)
        block.anchors[("tie", tie.element.id, tie.to)] = (0, 0)
        return block

    def _switch_with_chain(self, block: _Block, link: Hang, y: float) -> float:
        """A transfer switch whose second input stands above it, beside the lane that feeds the first."""
        chain = _Block()
        up = 0.0
        for part in reversed(link.upward):
            node_above = None if up == 0 else _other_end(part.element, part.entry)
            if node_above:
                chain.lines.append(Line(node_above, ((0, up), (0, up + GAP))))
                up += GAP
            up = self._element(chain, part.element, 0, up)
        y = max(y, up + 2 * GAP)
        x = block.right + max(chain.left, 18) + 4
        block.take(chain, x, y - GAP - up)
        block.lines.append(Line(link.upward[0].entry, ((x, y - GAP), (x, y))))
        box = Box(-12, y, x + 24, KIND["transfer_switch"].size[1])
        block.symbols.append(Symbol(link.element.id, "transfer_switch", box, poles=(0, x)))
        label = self._chip(link.element, x + 18, y + 11)
        block.labels.append(label)
        block.left = max(block.left, 14)
        block.right = max(block.right, label.box.x + label.box.w + 8)
        block.bottom = max(block.bottom, y + box.h)
        return y + box.h

    def _element(self, block: _Block, e: Element, x: float, y: float) -> float:
        """Symbol on the lane, label in its reserved box at the right. Returns the symbol's bottom."""
        w, h = e.row.size
        plated = e.row.plated
        label = self._plate(e, x + w / 2 + 9, 0) if plated else self._chip(e, x + w / 2 + 9, 0)
        row = max(h, label.box.h)
        block.symbols.append(Symbol(e.id, e.kind, Box(x - w / 2, y + (row - h) / 2, w, h)))
        block.labels.append(replace(label, box=label.box.moved(0, y + (row - label.box.h) / 2)))
        block.left = max(block.left, w / 2 + 6)
        block.right = max(block.right, label.box.x + label.box.w + 8)
        bottom = y + (row + h) / 2
        block.bottom = max(block.bottom, y + row)
        if len(e.ends) == 1 and not plated and e.name:
            block.bottom = self._caption(block, e, y + row + 8)
        return bottom

    def _caption(self, block: _Block, e: Element, y: float) -> float:
        width = block.left + block.right
        lines = _wrap(e.name, max(12, int((width - 6) / TEXT_CHAR)))
        needed = max(len(line) for line in lines) * TEXT_CHAR
        box = Box(-block.left + 3, y, needed, 13 * len(lines) + 2)
        block.labels.append(Label(e.id, "caption", box, lines))
        block.right = max(block.right, box.x + box.w + 6)
        return y + box.h

    def _straight_tie(self, block: _Block, e: Element) -> None:
        """A tie between neighbouring buses: its symbol on the bus line, its chip below."""
        label = self._chip(e, 0, 13)
        half = label.box.w / 2
        block.symbols.append(Symbol(e.id, e.kind, Box(-7, -7, 14, 14), sideways=True))
        block.labels.append(replace(label, box=label.box.moved(-half, 0)))
        block.left = block.right = half + 8
        block.bottom = 34
        block.anchors[("straight", e.id, "")] = (0, 0)

    def _stub(self, tie: Tie, node: str) -> _Block:
        block = _Block(left=9, right=9, bottom=GAP)
        block.anchors[("stub", tie.element.id, node)] = (0, 0)
        return block

    def _route(self, sheet: _Block) -> None:
        """Ties: straight between neighbouring buses, else down to a channel of their own and up again."""
        channel = sheet.bottom + CHANNEL
        for tie in self.forest.ties:
            end = sheet.anchors[("stub", tie.element.id, tie.to)]
            straight = sheet.anchors.get(("straight", tie.element.id, ""))
            if straight is not None:
                sheet.lines.append(Line(tie.to, ((straight[0] + 7, straight[1]), end)))
                continue
            start = sheet.anchors[("tie", tie.element.id, tie.to if tie.switch_end else "")]
            sheet.lines.append(Line(tie.to, (start, (start[0], channel), (end[0], channel), end)))
            sheet.bottom, channel = channel, channel + CHANNEL

    def _chip(self, e: Element, x: float, y: float) -> Label:
        return Label(e.id, "chip", Box(x, y, len(e.tag) * TAG_CHAR + 12, 17), (e.tag,))

    def _plate(self, e: Element, x: float, y: float) -> Label:
        volts = sorted({self.network.node[n].nominal_voltage_v for n in e.ends}, reverse=True)
        dc = " DC" if any(self.network.node[n].current == "dc" for n in e.ends) else ""
        voltage = "/".join(_short_voltage(v, v > 999 or len(volts) > 1) for v in volts)
        voltage += (" kV" if volts[0] > 999 else " V") + dc
        second = self.second.get(e.id, e.location)
        first_line = len(e.tag) * TAG_CHAR + len(voltage) * TEXT_CHAR + 34
        width = max(first_line, len(second) * TEXT_CHAR + 24)
        return Label(e.id, "plate", Box(x, y, width, 34), (e.tag, voltage, second))


def _short_voltage(volts: float, in_kv: bool) -> str:
    return f"{volts / 1000:.4g}" if in_kv and volts > 99 else f"{volts:g}"


def _other_end(e: Element, node: str) -> str | None:
    return next((n for n in e.ends if n != node), None)


def _wrap(text: str, width: int) -> tuple[str, ...]:
    """At most two lines, broken between words; what does not fit ends in dots (the card has it in full)."""
    lines = [""]
    for word in text.split():
        if lines[-1] and len(lines[-1]) + 1 + len(word) > width:
            lines.append("")
        lines[-1] = f"{lines[-1]} {word}".strip()
    if len(lines) > 2:
        lines = [lines[0], lines[1][: max(3, width - 2)] + "…"]
    return tuple(line if len(line) <= 40 else line[:39] + "…" for line in lines)
