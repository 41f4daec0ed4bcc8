"""One symbol a kind, drawn inside its reserved box. Switching symbols: filled closed, hollow with a slash open."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache

from spinel.core.network.layout import Box, Label, Symbol
from spinel.web.shapes import Shape, circle, path, rect, text, wire

Drawer = Callable[[Symbol, str], Iterator[Shape]]


@lru_cache(maxsize=8192)
def symbol(s: Symbol, position: str, *, locked: bool, grounded: bool, off_normal: bool) -> tuple[Shape, ...]:
    """The shapes of a symbol with its marks, and the brackets that show it is chosen."""
    return tuple(_all(s, position, locked, grounded, off_normal))


def _all(s: Symbol, position: str, locked: bool, grounded: bool, off_normal: bool) -> Iterator[Shape]:
    b = s.box
    yield rect("hit", b.x - 4, b.y - 4, b.w + 8, b.h + 8)
    if s.kind in _DRAWN:
        yield from _DRAWN[s.kind](s, position)
    if locked:
        yield rect("lockbody", b.x - 13, b.y + 4, 9, 7)
        yield path("lockbow", "M", b.x - 11, b.y + 4, "v", -2.5, "a", 2.5, 2.5, 0, 0, 1, 5, 0, "v", 2.5)
    if grounded:
        x, y = b.x + b.w + 4, _middle(b)[1] - 7
        yield path("groundmark", "M", x, y, "v", 6, "m", -6, 0, "h", 12, "m", -10, 3, "h", 8, "m", -6, 3, "h", 4)
    if off_normal:
        yield path("offmark", "M", b.x - 3, b.y + b.h + 3.5, "h", b.w + 6)
    x, y, w, h = b.x - 6, b.y - 6, b.w + 12, b.h + 12
    yield path(
        "bracket", "M", x, y + 8, "V", y, "h", 8, "M", x + w - 8, y, "h", 8, "V", y + 8,
        "M", x + w, y + h - 8, "v", 8, "h", -8, "M", x + 8, y + h, "h", -8, "v", -8,
    )  # fmt: skip


def _middle(b: Box) -> tuple[float, float]:
    return b.x + b.w / 2, b.y + b.h / 2


def _device(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, cy) = s.box, _middle(s.box)
    if position == "closed":
        yield rect("sym s-closed", b.x, b.y, b.w, b.h)
    elif position == "unknown":
        yield rect("sym s-unsure", b.x, b.y, b.w, b.h)
        yield text("mid tu", cx, cy + 4, "?")
    else:
        yield rect("sym", b.x, b.y, b.w, b.h)
        yield path("symline", "M", b.x + 3, b.y + b.h - 3, "L", b.x + b.w - 3, b.y + 3)
    if position == "withdrawn":
        yield path("symline", "M", cx - 6, b.y - 8, "l", 6, 6, "l", 6, -6)
        yield path("symline", "M", cx - 6, b.y + b.h + 8, "l", 6, -6, "l", 6, 6)


def _fuse(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, cy) = s.box, _middle(s.box)
    if position == "unknown":
        # never like one that is open
        yield rect("sym s-unsure", b.x, b.y, b.w, b.h)
        yield text("mid tu", cx, cy + 4, "?")
        return
    yield rect("sym", b.x, b.y, b.w, b.h)
    if position == "closed":
        yield path("symline", "M", cx, b.y, "V", b.y + b.h)
    else:
        yield path("symline", "M", b.x + 2, b.y + b.h - 3, "L", b.x + b.w - 2, b.y + 3)


def _transformer(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, _) = s.box, _middle(s.box)
    yield circle("sym ring", cx, b.y + 15, 15)
    yield circle("sym ring", cx, b.y + 31, 15)
    yield circle("ringline", cx, b.y + 15, 15)


def _machine(letter: str) -> Drawer:
    def drawn(s: Symbol, position: str) -> Iterator[Shape]:
        cx, cy = _middle(s.box)
        yield circle("sym ring", cx, cy, s.box.w / 2)
        yield text("mid tb", cx, cy + 4.5, letter)

    return drawn


def _source(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, cy) = s.box, _middle(s.box)
    yield rect("sym", b.x, b.y, b.w, b.h)
    yield path(
        "hl", "M", b.x, cy, "L", cx - 2, b.y, "M", b.x, b.y + b.h, "L", b.x + b.h, b.y, "M", cx - 2, b.y + b.h,
        "L", b.x + b.w, b.y + 8,
    )  # fmt: skip


def _busway(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    yield rect("sym", b.x, b.y, b.w, b.h)
    yield path("hl", "M", b.x + 5, b.y, "V", b.y + b.h, "M", b.x + b.w - 5, b.y, "V", b.y + b.h)


def _reactor(s: Symbol, position: str) -> Iterator[Shape]:
    turn = ("a", 6, 4, 0, 0, 1, 0, 8)
    yield path("symline", "M", _middle(s.box)[0], s.box.y, *turn, *turn, *turn, fill="none")


def _cable(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    yield path("sym", "M", b.x + 2, b.y, "H", b.x + b.w - 2, "V", b.y + b.h, "H", b.x + 2, "Z")
    yield path("hl", "M", b.x, b.y + 4, "H", b.x + b.w, "M", b.x, b.y + b.h - 4, "H", b.x + b.w)


def _converter(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    yield rect("sym", b.x, b.y, b.w, b.h)
    yield path("hl", "M", b.x, b.y + b.h, "L", b.x + b.w, b.y)
    yield text("tq", b.x + 5, b.y + 11, "~")
    yield text("tq", b.x + 20, b.y + 23, "=")


def _battery(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    for i, inset in enumerate((0, 6, 0, 6)):
        yield path("bat", "M", b.x + inset, b.y + 1 + 6 * i, "H", b.x + b.w - inset)


def _capacitor(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    yield path("bat", "M", b.x, b.y + 5, "H", b.x + b.w, "M", b.x, b.y + 11, "H", b.x + b.w)


def _load(s: Symbol, position: str) -> Iterator[Shape]:
    b = s.box
    yield path("sym", "M", b.x, b.y, "H", b.x + b.w, "L", _middle(b)[0], b.y + b.h, "Z")


def _shore(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, _) = s.box, _middle(s.box)
    yield path("sym", "M", b.x, b.y + 6, "H", b.x + b.w, "L", b.x + b.w - 7, b.y + b.h, "H", b.x + 7, "Z")
    yield path("symline", "M", cx - 4, b.y + 5, "V", b.y, "M", cx + 4, b.y + 5, "V", b.y)


def _transfer(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, _) = s.box, _middle(s.box)
    normal, emergency = s.poles[:2] if s.poles else (cx - 9, cx + 9)
    low, foot = normal, b.y + b.h
    yield rect("dashbox", b.x, b.y, b.w, b.h)
    for x, y in ((normal, b.y + 9), (emergency, b.y + 9), (low, foot - 6)):
        yield circle("sym", x, y, 3)
    yield path(
        "symline", "M", normal, b.y, "V", b.y + 6, "M", emergency, b.y, "V", b.y + 6, "M", low, foot, "V", foot - 3
    )
    blades = {
        "normal": ("M", low, foot - 9, "L", normal, b.y + 12),
        "emergency": ("M", low, foot - 8, "L", emergency - 2, b.y + 11),
        # away from both
        "off": ("M", low, foot - 9, "l", -7, -13),
    }
    if position in blades:
        yield path("blade", *blades[position])
    else:
        yield path("blade unsure", *blades["normal"], *blades["emergency"])


def _ground_switch(s: Symbol, position: str) -> Iterator[Shape]:
    b, (cx, _) = s.box, _middle(s.box)
    yield path("symline", "M", cx, b.y, "V", b.y + 10, "M", b.x, b.y + 10, "H", b.x + b.w)
    yield path("symline", "M", b.x + 4, b.y + 14, "H", b.x + b.w - 4, "M", b.x + 8, b.y + 18, "H", b.x + b.w - 8)


_DRAWN: dict[str, Drawer] = {
    "breaker": _device, "switch": _device, "disconnector": _device, "contactor": _device, "fuse": _fuse,
    "transformer": _transformer, "motor": _machine("M"), "generator": _machine("G"), "source": _source,
    "busway": _busway, "reactor": _reactor, "cable": _cable, "inverter": _converter, "rectifier": _converter,
    "ups": _converter, "battery": _battery, "capacitor": _capacitor, "load": _load, "shore_connection": _shore,
    "transfer_switch": _transfer, "ground_switch": _ground_switch,
}  # fmt: skip


@lru_cache(maxsize=8192)
def label(found: Label, state: str) -> tuple[Shape, ...]:
    """A tag, a plate with the edge of its state, or a name in one or two lines."""
    return tuple(_label(found, state))


def _label(found: Label, state: str) -> Iterator[Shape]:
    b, lines = found.box, found.lines
    if found.kind == "chip":
        yield _face(b, 4)
        yield text("tg", b.x + 6, b.y + 12.8, lines[0])
    elif found.kind == "plate":
        yield _face(b, 5)
        for shape in wire(state, f"M{b.x + 7.5:g} {b.y + 6:g} V{b.y + b.h - 6:g}"):
            more = " edge" if shape.attributes["class"].startswith("k-") else ""
            yield Shape(shape.element, {**shape.attributes, "class": shape.attributes["class"] + more})
        yield text("tg", b.x + 15, b.y + 14.5, lines[0])
        yield text("end tb", b.x + b.w - 7, b.y + 14.5, lines[1])
        yield text("tq", b.x + 15, b.y + 27.5, lines[2])
    else:
        for i, words in enumerate(lines):
            yield text("tq", b.x, b.y + 11 + 13 * i, words)


def _face(b: Box, cut: float) -> Shape:
    """A plate with its four corners cut off."""
    return path(
        "pl-face", "M", b.x + cut, b.y, "H", b.x + b.w - cut, "l", cut, cut, "V", b.y + b.h - cut, "l", -cut, cut,
        "H", b.x + cut, "l", -cut, -cut, "V", b.y + cut, "Z",
    )  # fmt: skip
