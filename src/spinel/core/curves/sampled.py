"""A curve at many currents, for a drawing: its fastest and its slowest time at each."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from spinel.core.curves.shapes import Curve
from spinel.core.curves.times import FAST, times_s


@dataclass(frozen=True)
class Sample:
    """A, s; None where it does not clear at that current."""

    amperes: float
    fast_s: float | None
    slow_s: float | None


def sampled(curve: Curve, low_a: float, high_a: float, count: int = 160) -> list[Sample]:
    """At currents spread evenly on a logarithmic axis.

    >>> from spinel.core.curves.shapes import FixedTime
    >>> [round(s.slow_s, 3) for s in sampled(FixedTime(0.1), 10, 1000, 3)]
    [0.1, 0.1, 0.1]
    """
    amps = np.geomspace(low_a, high_a, count)
    both = zip(amps.tolist(), times_s(curve, amps, edge=FAST).tolist(), times_s(curve, amps).tolist(), strict=True)
    return [Sample(a, _finite(f), _finite(s)) for a, f, s in both]


def _finite(seconds: float) -> float | None:
    return seconds if math.isfinite(seconds) else None
