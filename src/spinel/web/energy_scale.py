"""Energies on one logarithmic scale: every page of the study draws them at the same place, with the same bands."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from spinel.core.study_result import StudyResult
from spinel.web.shapes import Shape, circle, path, rect, text

#: From and to, cal/cm²; what lies outside stands at the edge, with its number beside it.
LEAST, MOST = 0.3, 120.0
#: Bands get denser by tint and pattern: plain, tint, dots, hatch.
BANDS = ("bd1", "bd2", "bd3", "bd4")


@dataclass(frozen=True)
class EnergyScale:
    """``edges``: where the bands of clothing begin, the first at the arc-flash boundary's energy; the last is the
    ceiling."""

    width: float
    edges: tuple[float, ...]

    def x(self, cal_cm2: float) -> float:
        part = math.log(min(max(cal_cm2, LEAST), MOST) / LEAST) / math.log(MOST / LEAST)
        return part * self.width

    def bands(self, height: float, top: float = 0.0) -> list[Shape]:
        """Behind whatever is drawn on it."""
        shapes = []
        ends = [*self.edges[1:], MOST]
        for kind, low, high in zip(BANDS[-len(self.edges) :], self.edges, ends, strict=True):
            shapes.append(rect(kind, self.x(low), top, self.x(high) - self.x(low), height))
            shapes.append(path("bdl", "M", self.x(low), top, "V", top + height))
        shapes.append(path("ceil", "M", self.x(self.edges[-1]), top, "V", top + height))
        return shapes

    def head(self, height: float) -> list[Shape]:
        """Its marks with their numbers, none over another."""
        shapes, taken = [], -100.0
        marks = sorted({*self.edges, 0.5, 3.0, 100.0})
        for value in sorted(marks, key=lambda v: (v not in self.edges, v)):
            at = self.x(value)
            if value not in self.edges and any(abs(at - self.x(e)) < 26 for e in self.edges):
                continue
            shapes.append(path("bdl", "M", at, height - 5, "V", height))
            shapes.append(text("t3 mid b" if value in self.edges else "t3 mid", at, height - 8, f"{value:g}"))
            taken = max(taken, at)
        return shapes

    def row(self, height: float, now: float | None, was: float | None, ceiling: float) -> list[Shape]:
        """One place: a dot where it is, a ring where it was."""
        shapes, middle = self.bands(height), height / 2
        if was is not None and (now is None or abs(self.x(was) - self.x(now)) > 1):
            if now is not None and abs(self.x(was) - self.x(now)) > 14:
                side = 6 if now > was else -6
                shapes.append(path("mv", "M", self.x(was), middle, "H", self.x(now) - side * 1.3))
            shapes.append(circle("was", self.x(was), middle, 4.5))
        if now is not None:
            shapes.append(self.dot(self.x(now), middle, now > ceiling))
        return shapes

    @staticmethod
    def dot(x: float, y: float, beyond: bool) -> Shape:
        """A figure; above the ceiling an octagon."""
        if not beyond:
            return circle("dot", x, y, 5.5)
        r, c = 7.5, 3.1
        return path(
            "dot8", "M", x - c, y - r, "H", x + c, "L", x + r, y - c, "V", y + c, "L", x + c, y + r, "H", x - c, "L",
            x - r, y + c, "V", y - c, "Z",
        )  # fmt: skip


def ranked(
    result: StudyResult, before: StudyResult | None, scale: EnergyScale, height: float,
    window: tuple[int, int] | None = None,
) -> list[Shape]:  # fmt: skip
    """How many places are under each level: the curve of all, ranked; dashed that of the study before. ``window``: the
    first and the last place that the list beside it shows."""
    shapes = scale.bands(height, 16)
    for kind, of in (("lastc", before), ("nowc", result)):
        if of is None:
            continue
        energies = of.energies[::-1]
        if energies:
            shapes.append(path(kind, *_steps(energies, scale, height)))
    if window is not None and result.rows:
        each = height / len(result.rows)
        top, bottom = 16 + window[0] * each, 16 + max(window[1] * each, window[0] * each + 3)
        for x, turn in ((2.0, 6), (scale.width - 2, -6)):
            shapes.append(path("win", "M", x + turn, top, "H", x, "V", bottom, "H", x + turn))
    for value in scale.edges:
        shapes.append(text("t3 mid", scale.x(value), 11, f"{value:g}"))
    return shapes


def _steps(energies: Sequence[float], scale: EnergyScale, height: float) -> list[str | float]:
    each = height / len(energies)
    parts: list[str | float] = []
    for i, energy in enumerate(energies):
        x, y = scale.x(energy), 16 + i * each
        if not parts:
            parts += ["M", x, y]
        elif i % max(1, len(energies) // 400) == 0:
            parts += ["H", x, "V", y]
    return [*parts, "V", 16 + height]
