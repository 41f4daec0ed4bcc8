"""Time-current curves of a place on log-log axes, with the column of its stages at the same times."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from spinel.core.arcflash.explained import Figure
from spinel.core.curves.times import FAST, SLOW
from spinel.core.what_if.seen_from import CurveSeen, CurvesSeen, drawn_s
from spinel.web.shapes import Shape, circle, line, path, rect, text
from spinel.wording import formats

LEAST_S, MOST_S = 0.01, 1000.0
WIDTH, HEIGHT = 560.0, 560.0
STAGES_PX = 150.0
#: So many currents each curve is drawn at.
POINTS = 220


@dataclass(frozen=True)
class TccPlot:
    width: float
    height: float
    shapes: tuple[Shape, ...]
    stages: tuple[Shape, ...]
    stages_px: float


class Axes:
    """Amperes of the arc and seconds, both logarithmic, in pixels of the plot."""

    LEFT, RIGHT, TOP, BOTTOM = 46, 12, 10, 34

    def __init__(self, low_a: float, high_a: float):
        self.low, self.high = low_a, high_a

    def x(self, amps: float) -> float:
        part = math.log(max(amps, self.low) / self.low) / math.log(self.high / self.low)
        return self.LEFT + min(part, 1.0) * (WIDTH - self.LEFT - self.RIGHT)

    def y(self, seconds: float) -> float:
        part = math.log(min(max(seconds, LEAST_S), MOST_S) / LEAST_S) / math.log(MOST_S / LEAST_S)
        return HEIGHT - self.BOTTOM - part * (HEIGHT - self.BOTTOM - self.TOP)


def tcc(seen: CurvesSeen, figure: Figure, cap_s: float, chosen: str = "", before: CurvesSeen | None = None) -> TccPlot:
    """``chosen``: id of the device whose curve is moved; ``before``: the curves as they are, drawn behind a trial's."""
    axes = axes_of(seen)
    amps = _amps(axes, POINTS)
    shapes = _grid(axes)
    labels: list[tuple[float, float, str]] = []
    if before is not None:
        shapes += [s for c in before.curves if c.element.id == chosen for s in _line("bghost", axes, c, amps, SLOW)]
    for c in sorted(seen.curves, key=lambda c: c.element.id == chosen):
        shapes += _band(axes, c, amps, c.element.id == chosen, labels)
    for w in seen.withstands:
        shapes += _withstand(axes, w.points, w.of.element.kind, w.of.element.tag, labels)
    shapes += _currents(axes, seen, figure.current == "reduced")
    shapes += [circle("hit", axes.x(seen.arcing_a), axes.y(min(figure.duration_s, cap_s)), 5)]
    shapes += _tags(labels)
    return TccPlot(WIDTH, HEIGHT, tuple(shapes), tuple(_stages(axes, figure)), STAGES_PX)


def axes_of(seen: CurvesSeen) -> Axes:
    """Decades that hold the arc and half a decade below it, and what the devices are set to."""
    high = 10 ** (math.ceil(math.log10(seen.bolted_a * 1.3) * 2) / 2)
    return Axes(max(10 ** math.floor(math.log10(seen.arcing_a) - 1.6), 1.0), high)


def _amps(axes: Axes, count: int) -> list[float]:
    return [axes.low * (axes.high / axes.low) ** (i / (count - 1)) for i in range(count)]


def band_data(axes: Axes, c: CurveSeen) -> str:
    """The band of a curve as path data, a little coarser than it stands on the page: it is dragged through many."""
    amps = _amps(axes, POINTS // 2)
    slow, fast = _points(axes, c, amps, SLOW), _points(axes, c, amps, FAST)
    return line(*_joined(slow + fast[::-1]), "Z") if len(slow) > 1 else ""


def _grid(axes: Axes) -> list[Shape]:
    bottom, right = HEIGHT - axes.BOTTOM, WIDTH - axes.RIGHT
    shapes = []
    decade = 10 ** math.floor(math.log10(axes.low))
    while decade <= axes.high * 1.001:
        for n in range(1, 10):
            at = decade * n
            if axes.low * 0.999 <= at <= axes.high * 1.001:
                shapes.append(path("gmaj" if n == 1 else "gmin", "M", axes.x(at), axes.TOP, "V", bottom))
                if n in (1, 2, 5):
                    label = f"{at / 1000:g} kA" if at >= 1000 else f"{at:g} A"
                    shapes.append(text("t3 mid" if n > 1 else "t3 mid b", axes.x(at), bottom + 15, label))
        decade *= 10
    seconds = LEAST_S
    while seconds <= MOST_S * 1.001:
        for n in range(1, 10):
            if seconds * n <= MOST_S * 1.001:
                kind = "gmaj" if n == 1 else "gmin"
                shapes.append(path(kind, "M", axes.LEFT, axes.y(seconds * n), "H", right))
        shapes.append(text("t3 end", axes.LEFT - 6, axes.y(seconds) + 4, f"{seconds:g} s"))
        seconds *= 10
    shapes.append(rect("frame", axes.LEFT, axes.TOP, right - axes.LEFT, bottom - axes.TOP))
    return shapes


def _points(axes: Axes, c: CurveSeen, amps: Sequence[float], edge: str) -> list[tuple[float, float]]:
    return [
        (axes.x(a), axes.y(s)) for a, s in zip(amps, drawn_s(c, amps, edge), strict=True) if math.isfinite(s)
    ]  # fmt: skip


def _joined(points: Sequence[tuple[float, float]]) -> list[str | float]:
    return [part for i, (x, y) in enumerate(points) for part in ("L" if i else "M", x, y)]


def _line(kind: str, axes: Axes, c: CurveSeen, amps: Sequence[float], edge: str) -> list[Shape]:
    points = _points(axes, c, amps, edge)
    return [path(kind, *_joined(points))] if len(points) > 1 else []


def _band(
    axes: Axes, c: CurveSeen, amps: Sequence[float], chosen: bool, labels: list[tuple[float, float, str]]
) -> list[Shape]:
    slow, fast = _points(axes, c, amps, SLOW), _points(axes, c, amps, FAST)
    if len(slow) < 2:
        return []
    labels.append((*slow[len(slow) // 3], c.element.tag))
    kind = "band main" if chosen else "band"
    return [path(kind, *_joined(slow + fast[::-1]), "Z")]


def _withstand(
    axes: Axes, points: Sequence[tuple[float, float]], kind: str, tag: str, labels: list[tuple[float, float, str]]
) -> list[Shape]:
    inside = [(a, s) for a, s in points if a <= axes.high * 3]
    if len(inside) < 2:
        return []
    drawn = [(axes.x(a), axes.y(s)) for a, s in inside]
    labels.append((*drawn[0], tag))
    return [path("damage cable" if kind == "cable" else "damage", *_joined(drawn))]


def _currents(axes: Axes, seen: CurvesSeen, reduced: bool) -> list[Shape]:
    bottom = HEIGHT - axes.BOTTOM
    first, second = ("iarc2", "iarc") if reduced else ("iarc", "iarc2")
    shapes = [path(first, "M", axes.x(seen.arcing_a), axes.TOP, "V", bottom),
              path(second, "M", axes.x(seen.other_a), axes.TOP, "V", bottom),
              path("ibf", "M", axes.x(seen.bolted_a), bottom - 26, "V", bottom)]  # fmt: skip
    for at, words, side in (
        (seen.arcing_a, formats.kiloamps(seen.arcing_a / 1000), "tl"), (seen.bolted_a, "", "")
    ):  # fmt: skip
        if words:
            shapes.append(text(f"{side} knk", axes.x(at) + 5, axes.TOP + 14, f"{words} kA"))
    return shapes


def _tags(labels: list[tuple[float, float, str]]) -> list[Shape]:
    """Each beside its curve, none over another."""
    shapes, taken = [], list[tuple[float, float, float, float]]()
    for x, y, tag in sorted(labels, key=lambda t: t[1]):
        wide, at_x, at_y = len(tag) * 7.4 + 10, min(x + 6, WIDTH - 20), max(y, 24.0)
        at_x = min(at_x, WIDTH - wide - 14)
        for _ in range(24):
            if not any(at_x < x2 and x1 < at_x + wide and abs(at_y - cy) < 19 for x1, x2, cy, _ in taken):
                break
            at_y += 19
        taken.append((at_x, at_x + wide, at_y, 0.0))
        shapes += [path("leaderthin", "M", x, y, "L", at_x + 3, at_y), rect("word", at_x, at_y - 9, wide, 18),
                   text("tagtext", at_x + 5, at_y + 4, tag)]  # fmt: skip
    return shapes


def _stages(axes: Axes, figure: Figure) -> list[Shape]:
    """What feeds the arc until when: as wide as its current, at the same times as the curves."""
    most = max((s.arcing_current_ka for s in figure.stages), default=1.0)
    shapes: list[Shape] = []
    for s in figure.stages:
        top, bottom = axes.y(s.until_s), axes.y(max(s.from_s, LEAST_S))
        wide = s.arcing_current_ka / most * (STAGES_PX - 70)
        shapes.append(rect("stage", 4, top, wide, max(bottom - top, 1)))
        energy = formats.energy(s.incident_energy_cal_cm2)
        if bottom - top > 14:
            shapes.append(text("t3 mid b", 4 + wide / 2, (top + bottom) / 2 + 4, f"+{energy}"))
        if s.then_off:
            shapes.append(path("stl", "M", 0, top, "H", wide + 8))
            shapes.append(text("tagtext", wide + 11, top + 4, ", ".join(s.then_off)))
    return shapes


def distance_plot(
    energies: Sequence[tuple[float, float]], working_mm: float, boundary_mm: float, ceiling: float
) -> list[Shape]:
    """Energy against distance, both logarithmic: 344 by 170 px; working distance and boundary marked."""
    left, right, top, bottom = 34.0, 334.0, 8.0, 146.0
    low, high = min(d for d, _ in energies), max(d for d, _ in energies)
    least, most = 0.3, max(120.0, *(e for _, e in energies))

    def x(mm: float) -> float:
        return left + math.log(mm / low) / math.log(high / low) * (right - left)

    def y(cal: float) -> float:
        return bottom - math.log(min(max(cal, least), most) / least) / math.log(most / least) * (bottom - top)

    shapes = [path("e-axis", "M", left, top, "V", bottom, "H", right)]
    for cal in (1.2, 8.0, ceiling):
        shapes += [path("bdl2", "M", left, y(cal), "H", right), text("t3 end", left - 4, y(cal) + 4, f"{cal:g}")]
    shapes.append(path("e-line", *_joined([(x(d), y(e)) for d, e in energies])))
    for mm, kind in ((working_mm, "hit"), (boundary_mm, "was")):
        if low <= mm <= high:
            near = min(energies, key=lambda de: abs(de[0] - mm))[1]
            shapes += [path("bdl2", "M", x(mm), top, "V", bottom), circle(kind, x(mm), y(near), 4.5),
                       text("t3 mid", x(mm), bottom + 14, f"{formats.metres(mm)} m")]  # fmt: skip
    return shapes


def track_plot(
    points: Sequence[tuple[float, float | None, bool]], now: float, at: float, levels: Sequence[float]
) -> list[Shape]:
    """The worst energy along a setting, 352 by 130 px. ``points``: setting, energy, is order lost there?"""
    left, right, top, bottom = 34.0, 344.0, 8.0, 112.0
    low, high = points[0][0], points[-1][0]
    known = [e for _, e, _ in points if e is not None]
    most = max([*known, *levels[:2]]) * 1.08

    def x(value: float) -> float:
        return left + math.log(value / low) / math.log(high / low) * (right - left)

    def y(energy: float) -> float:
        return bottom - min(energy / most, 1) * (bottom - top)

    shapes: list[Shape] = []
    for (a, _, lost), (b, _, also) in pairwise(points):
        if lost or also:
            shapes.append(rect("trial lostz", x(a), top, x(b) - x(a), bottom - top))
    for level in levels:
        if level < most:
            shapes += [
                path("bdl2", "M", left, y(level), "H", right),
                text("t3 end", left - 4, y(level) + 4, f"{level:g}"),
            ]
    line = [(x(v), y(e)) for v, e, _ in points if e is not None]
    shapes.append(path("e-line", *_joined(line)))
    shapes.append(path("e-axis", "M", left, bottom, "H", right))
    for value, kind in ((now, "was"), (at, "hit")):
        energy = min((p for p in points if p[1] is not None), key=lambda p: abs(p[0] - value), default=None)
        if energy is not None and energy[1] is not None:
            shapes.append(circle(kind, x(min(max(value, low), high)), y(energy[1]), 5))
    return shapes
