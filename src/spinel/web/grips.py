"""The grips of a time-current curve: where each of its settings is taken hold of on the plot, and the curve as it
would be drawn at another setting."""

from __future__ import annotations

import math
from dataclasses import dataclass

from spinel.core.curves.files import write_curve
from spinel.core.curves.shapes import Curve
from spinel.core.curves.times import SLOW
from spinel.core.what_if.changes import SLIDERS
from spinel.core.what_if.seen_from import CurveSeen, drawn_s
from spinel.web.tcc import HEIGHT, LEAST_S, MOST_S, WIDTH, Axes

#: A pickup is taken hold of between the times this far below and above it.
_BESIDE = 1.12


@dataclass(frozen=True, kw_only=True)
class Grip:
    """``axis``: x for a current, y for a time, along which it is dragged. Pixels of the plot."""

    field: str
    axis: str
    x: float
    y: float
    value: float


def grips(axes: Axes, seen: CurveSeen) -> list[Grip]:
    """Of every setting of a curve whose grip lies on the plot."""
    data = write_curve(seen.curve)
    found = []
    for field in SLIDERS.get(str(data.get("type")), ()):
        value = data.get(field)
        if isinstance(value, int | float) and (at := place(axes, seen, field)) is not None:
            x, y = at
            if axes.LEFT < x < WIDTH - axes.RIGHT and axes.TOP < y < HEIGHT - axes.BOTTOM:
                found.append(Grip(field=field, axis="x" if field.endswith("_a") else "y", x=x, y=y, value=float(value)))
    return found


def place(axes: Axes, seen: CurveSeen, field: str) -> tuple[float, float] | None:
    """Where the grip of a setting is, px; None where the curve has no time there."""
    value = getattr(seen.curve, field, None)
    if value is None:
        return None
    if field.endswith("_a"):
        low, high = drawn_s(seen, [value / _BESIDE * seen.factor, value * _BESIDE * seen.factor], SLOW)
        # where nothing trips below it, at the upper end of the curve
        amps, seconds = value, math.sqrt(_within(low) * _within(high)) if math.isfinite(low) else _within(high)
    else:
        amps = _amps_of(seen.curve, field, axes.high / seen.factor)
        seconds = drawn_s(seen, [amps * seen.factor], SLOW)[0]
    return (axes.x(amps * seen.factor), axes.y(seconds)) if math.isfinite(seconds) else None


def _within(seconds: float) -> float:
    return min(max(seconds, LEAST_S), MOST_S)


def _amps_of(curve: Curve, field: str, most_a: float) -> float:
    """The current at which a time is taken hold of: in the middle of what it decides."""
    short, instant = getattr(curve, "short_pickup_a", None), getattr(curve, "instantaneous_a", None)
    if field == "long_delay_s":
        low = curve.long_pickup_a  # type: ignore[union-attr]
        return math.sqrt(low * min(short or instant or 6 * low, most_a))
    if field == "short_delay_s":
        return math.sqrt(float(short or 1.0) * max(min(instant or 10 * float(short or 1.0), most_a), float(short or 1)))
    if field == "dial":
        return 5 * curve.pickup_a  # type: ignore[union-attr]
    if field == "operating_s":
        return 2 * curve.pickup_a  # type: ignore[union-attr]
    return most_a / 3
