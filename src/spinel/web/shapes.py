"""SVG shapes as data: pure functions turn numbers into shapes, a template prints them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Any

from markupsafe import Markup, escape

#: Lines of a conductor or an edge, drawn over one another: state is colour, pattern and word.
WIRE = {
    "live": ("w-live",),
    "unknown": ("w-unk",),
    "dead": ("w-dead",),
    "proved": ("w-proved-a", "w-proved-b"),
    "grounded": ("w-gnd-a", "w-gnd-b", "w-gnd-c"),
}
#: Of a draft, which has no energy.
INK = "ink"
#: Casings under the lines of what is, or may be, alive.
CASING = {"live": "k-live", "unknown": "k-unk"}


@dataclass(frozen=True)
class Shape:
    """``attributes``: as they are printed, the class among them. ``text``: of a text."""

    element: str
    attributes: dict[str, Any] = field(default_factory=dict)
    text: str = ""

    @cached_property
    def printed(self) -> str:
        attributes = "".join(f' {name}="{escape(value)}"' for name, value in self.attributes.items())
        return f"<{self.element}{attributes}>{escape(self.text)}</{self.element}>"


def drawn(shapes: Iterable[Shape]) -> Markup:
    """The shapes as a page prints them, in their order: it holds hundreds."""
    return Markup("".join([shape.printed for shape in shapes]))


def _n(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")


def line(*parts: str | float) -> str:
    """Path data from letters and numbers.

    >>> line("M", 0, 2.5, "H", 9)
    'M0 2.5 H9'
    """
    text = ""
    for part in parts:
        if isinstance(part, str):
            text += f" {part}" if text else part
        else:
            text += _n(part) if text[-1:].isalpha() else f" {_n(part)}"
    return text


def path(kind: str, *parts: str | float, **more: Any) -> Shape:
    return Shape("path", {"class": kind, "d": line(*parts), **more})


def rect(kind: str, x: float, y: float, w: float, h: float) -> Shape:
    return Shape("rect", {"class": kind, "x": _n(x), "y": _n(y), "width": _n(w), "height": _n(h)})


def circle(kind: str, x: float, y: float, r: float) -> Shape:
    return Shape("circle", {"class": kind, "cx": _n(x), "cy": _n(y), "r": _n(r)})


def ellipse(kind: str, x: float, y: float, rx: float, ry: float) -> Shape:
    return Shape("ellipse", {"class": kind, "cx": _n(x), "cy": _n(y), "rx": _n(rx), "ry": _n(ry)})


def text(kind: str, x: float, y: float, words: str, **more: Any) -> Shape:
    return Shape("text", {"class": kind, "x": _n(x), "y": _n(y), **more}, words)


@lru_cache(maxsize=8192)
def wire(state: str, data: str, more: str = "") -> tuple[Shape, ...]:
    """A line in the pattern of a state, with its casing first. Kept: between two pages few states change."""
    casing = (f"{CASING[state]}{more}",) if state in CASING else ()
    patterns = (f"wire {pattern}{more}" for pattern in WIRE.get(state, ("d-wire",)))
    return tuple(Shape("path", {"class": kind, "d": data}) for kind in (*casing, *patterns))
