"""The approach plan to scale: opened equipment, a person from above, the boundaries as arcs and dimensions."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.web.shapes import Shape, circle, ellipse, path, rect, text

WIDTH, HEIGHT, FACE = 344.0, 120.0, 30.0


MIDDLE = HEIGHT / 2
#: A character of a dimension's text is about so wide, px.
CHARACTER = 6.4


@dataclass(frozen=True)
class Plan:
    """``clipped``: what ends at the edge of the sheet, the largest boundary first; ``over``: all above it."""

    height: float
    clipped: tuple[Shape, ...]
    person: tuple[Shape, ...]
    over: tuple[Shape, ...]


def plan(hazard: Mapping[str, Any], words: Mapping[str, str]) -> Plan | None:
    """From a frozen hazard; ``words``: key to the figure as the page writes it. None when nothing is to be drawn."""
    distances = {
        "restricted": hazard["approach"]["restricted_mm"],
        "working": hazard["working_distance_mm"],
        "limited": hazard["approach"]["limited_fixed_mm"],
        "boundary": hazard["boundary_mm"],
    }
    known = sorted(((k, v) for k, v in distances.items() if v), key=lambda item: item[1])
    if not known:
        return None
    scale = (WIDTH - FACE - 36) / known[-1][1]
    arcs = tuple(circle(f"pv-{key}", FACE, MIDDLE, mm * scale) for key, mm in reversed(known) if key != "working")
    rows = [(key, mm * scale, HEIGHT + 16 + 17 * i) for i, (key, mm) in enumerate(known)]
    # a longer distance's extension line would cross the text of a shorter one: the lines first, then the texts
    over = [_extension(FACE + radius, y) for _, radius, y in rows]
    for key, radius, y in rows:
        over += _dimension(key, radius, y, words[key])
    working = distances["working"]
    person = tuple(_person(FACE + working * scale, scale)) if working else ()
    return Plan(HEIGHT + 8 + 17 * len(known), arcs, person, tuple(over))


def _extension(end: float, y: float) -> Shape:
    return path("pv-ext", "M", end, HEIGHT + 1, "V", y + 3, "M", FACE, HEIGHT + 1, "V", y + 3)


def _dimension(key: str, radius: float, y: float, words: str) -> Iterator[Shape]:
    """A dimension line with its text in a gap of its own, or beside it where there is no room."""
    end, wide = FACE + radius, len(words) * CHARACTER + 8
    kind = "tl" if key in ("boundary", "restricted") else "tb"
    yield path("pv-dim", "M", FACE, y, "H", end)
    if radius > wide + 26:
        yield rect("pv-knock", FACE + radius / 2 - wide / 2, y - 8, wide, 15)
        yield text(f"mid {kind}", FACE + radius / 2, y + 4, words)
    else:
        yield rect("pv-knock", end + 4, y - 8, wide, 15)
        yield text(kind, end + 8, y + 4, words)


def _person(x: float, scale: float) -> Iterator[Shape]:
    """From above, to the same scale: about 450 mm wide across the shoulders, 240 mm deep; hands at the equipment."""
    deep, wide, arm = 120 * scale, 225 * scale, 60 * scale
    for side in (-1, 1):
        hand = max(44, x - 2 * arm)
        yield path(
            "pv-arm", "M", x + deep, MIDDLE + side * wide * 0.8, "L", x - arm, MIDDLE + side * wide * 0.62,
            "L", hand, MIDDLE + side * 7,
        )  # fmt: skip
    yield ellipse("pv-body", x + deep, MIDDLE, deep, wide)
    yield ellipse("pv-head", x + deep * 0.9, MIDDLE, deep * 0.8, wide * 0.36)
