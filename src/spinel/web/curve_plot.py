"""Time-current curves on log-log axes: the band between the fastest and the slowest, as shapes."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.curves.files import read_curve
from spinel.core.curves.sampled import Sample, sampled
from spinel.web.shapes import Shape, path, text

#: Drawn from and to, s; where it never clears it leaves the plot at the top.
LEAST_S, MOST_S = 0.01, 1000.0


@dataclass(frozen=True)
class Plot:
    width: float
    height: float
    shapes: tuple[Shape, ...]


def plot(curve: Mapping[str, Any] | None, width: float = 320, height: float = 300) -> Plot | None:
    """A curve of the document, from its JSON form; None where there is none."""
    if curve is None:
        return None
    low, high = _span(curve)
    frame = _Frame(width, height, low, high)
    samples = sampled(read_curve(curve), low, high)
    fast, slow = frame.line(samples, "fast_s"), frame.line(samples, "slow_s")
    shapes = [*frame.grid()]
    if fast and slow:
        shapes.append(path("tcc-band", *_joined(slow + fast[::-1]), "Z"))
    for kind, line in (("tcc-fast", fast), ("tcc-slow", slow)):
        if line:
            shapes.append(path(kind, *_joined(line)))
    return Plot(width, height, tuple(shapes))


def _span(curve: Mapping[str, Any]) -> tuple[float, float]:
    """Decades around what the curve is set to."""
    known = [float(v) for k, v in curve.items() if k.endswith("_a") and isinstance(v, int | float)]
    known += [float(p[0]) for p in curve.get("points", ())]
    first, last = min(known, default=10.0), max(known, default=1000.0)
    low = 10 ** math.floor(math.log10(first * 0.7))
    return low, max(10 ** math.ceil(math.log10(last * 3)), low * 1000)


def _joined(points: Sequence[tuple[float, float]]) -> list[str | float]:
    parts: list[str | float] = []
    for i, (x, y) in enumerate(points):
        parts += ["L" if i else "M", x, y]
    return parts


class _Frame:
    """Where a current and a time stand in the plot."""

    LEFT, BOTTOM, TOP, RIGHT = 44, 30, 8, 10

    def __init__(self, width: float, height: float, low_a: float, high_a: float):
        self.w, self.h, self.low, self.high = width, height, low_a, high_a

    def x(self, amperes: float) -> float:
        part = math.log(amperes / self.low) / math.log(self.high / self.low)
        return self.LEFT + part * (self.w - self.LEFT - self.RIGHT)

    def y(self, seconds: float) -> float:
        part = math.log(min(max(seconds, LEAST_S), MOST_S) / LEAST_S) / math.log(MOST_S / LEAST_S)
        return self.h - self.BOTTOM - part * (self.h - self.BOTTOM - self.TOP)

    def line(self, samples: list[Sample], edge: str) -> list[tuple[float, float]]:
        return [(self.x(s.amperes), self.y(t)) for s in samples if (t := getattr(s, edge)) is not None]

    def grid(self) -> list[Shape]:
        shapes = []
        decade = self.low
        while decade <= self.high * 1.001:
            x = self.x(decade)
            shapes.append(path("tcc-grid", "M", x, self.TOP, "V", self.h - self.BOTTOM))
            label = f"{decade:g} A" if decade < 1000 else f"{decade / 1000:g} kA"
            shapes.append(text("t3 mid", x, self.h - self.BOTTOM + 15, label))
            decade *= 10
        seconds = LEAST_S
        while seconds <= MOST_S * 1.001:
            y = self.y(seconds)
            shapes.append(path("tcc-grid", "M", self.LEFT, y, "H", self.w - self.RIGHT))
            shapes.append(text("t3 end", self.LEFT - 6, y + 4, f"{seconds:g} s"))
            seconds *= 10
        return shapes
