"""A curve traced on a picture of a maker's sheet: points of the picture become amperes and seconds.

Both axes of such a sheet are logarithmic. Two known values on each calibrate it; the picture may stand askew only as
far as its axes are still level and upright. What is read by eye is good to a few percent of a value: nobody's settings.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from spinel.core.curves.checks import check_curve
from spinel.core.curves.shapes import FuseCurve, Points
from spinel.core.errors import InputError
from spinel.core.quantities import RATED_A, SECONDS
from spinel.core.said import say

#: Marks of an axis nearer than this, in parts of the picture, would turn an unsteady hand into a wrong decade.
NEAREST = 0.08


@dataclass(frozen=True)
class AxisMark:
    """``at``: place along the axis, as a part of the picture's width or height from left or top. ``value``: A or s."""

    at: float
    value: float


AxisMarks = tuple[AxisMark, AxisMark]


def along_log(axis: AxisMarks, at: float) -> float:
    """The value at a place of a logarithmic axis.

    >>> round(along_log((AxisMark(0.0, 10), AxisMark(1.0, 1000)), 0.5), 6)
    100.0
    """
    a, b = axis
    part = (at - a.at) / (b.at - a.at)
    return float(math.exp(math.log(a.value) + part * (math.log(b.value) - math.log(a.value))))


def traced(
    currents: AxisMarks, times: AxisMarks,
    clearing: Sequence[tuple[float, float]], melting: Sequence[tuple[float, float]] = (),
) -> FuseCurve:  # fmt: skip
    """A curve of total-clearing points (and melting ones), checked: currents rise, times fall. InputError names the
    axis that is not calibrated, or the point that cannot be.
    """
    _calibrated("currents", currents, RATED_A.high)
    _calibrated("times", times, SECONDS.high)
    curve = FuseCurve(_points(currents, times, clearing), _points(currents, times, melting))
    check_curve(curve)
    return curve


def _points(currents: AxisMarks, times: AxisMarks, at: Sequence[tuple[float, float]]) -> Points:
    found = sorted((_three(along_log(currents, x)), _three(along_log(times, y))) for x, y in at)
    return tuple(found)


def _three(value: float) -> float:
    """More digits than an eye reads are no information."""
    return float(f"{value:.3g}")


def _calibrated(name: str, axis: AxisMarks, high: float) -> None:
    a, b = axis
    for mark in axis:
        if not (math.isfinite(mark.at) and 0 < mark.value <= high):
            raise InputError(name, mark.value, say("curves-traced-a-value-above-zero"))
    if not abs(a.at - b.at) >= NEAREST or a.value == b.value:
        raise InputError(name, f"{a.value:g}, {b.value:g}", say("curves-traced-two-marks-apart"))
    if (a.value < b.value) != ((a.at < b.at) if name == "currents" else (a.at > b.at)):
        raise InputError(name, f"{a.value:g}, {b.value:g}", say("curves-traced-the-other-way-round"))
