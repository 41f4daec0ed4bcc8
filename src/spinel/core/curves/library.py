"""Generic time-current curves of our own making, to begin with where the maker's sheet is not at hand yet.

Each is a form that scales with the rating of its device. None is a maker's: a figure that rests on one is assumed until
the sheet or the settings on the device are entered. Shapes are common practice, from memory, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError
from spinel.core.quantities import RATED_A
from spinel.core.said import say

CurveData = dict[str, Any]


class GenericCurve(dict[str, Any]):
    """The JSON form of a generic curve: wherever it is put, it is nobody's plate."""


@dataclass(frozen=True)
class Generic:
    """``devices``: kinds of equipment that it fits. ``at``: its JSON form for a rating, A."""

    id: str
    devices: tuple[str, ...]
    at: Callable[[float], CurveData]


def _points(*pairs: tuple[float, float], melts: float = 0.0) -> Callable[[float], CurveData]:
    """A fuse by multiples of its rating and seconds; ``melts``: fastest melting as a part of total clearing."""

    def at(rated_a: float) -> CurveData:
        found = [[round(multiple * rated_a, 3), seconds] for multiple, seconds in pairs]
        melting = {"melting": [[a, round(s * melts, 6)] for a, s in found]} if melts else {}
        return {"type": "fuse", "points": found, **melting}

    return at


def _trip(delay_s: float, short: float | None, short_s: float | None, instantaneous: float | None,
          **more: Any) -> Callable[[float], CurveData]:  # fmt: skip
    """An electronic trip by multiples of its rating."""

    def at(rated_a: float) -> CurveData:
        found: CurveData = {"type": "trip", "long_pickup_a": rated_a, "long_delay_s": delay_s, **more}
        if short is not None:
            found |= {"short_pickup_a": short * rated_a, "short_delay_s": short_s}
        return found | ({"instantaneous_a": instantaneous * rated_a} if instantaneous is not None else {})

    return at


def _thermal(seconds_at_3x: float, magnetic: float) -> Callable[[float], CurveData]:
    def at(rated_a: float) -> CurveData:
        return {"type": "thermal-magnetic", "rated_a": rated_a, "seconds_at_3x": seconds_at_3x,
                "magnetic_a": magnetic * rated_a}  # fmt: skip

    return at


def _relay(standard: str, curve: str, dial: float, instantaneous: float | None) -> Callable[[float], CurveData]:
    def at(rated_a: float) -> CurveData:
        found: CurveData = {"type": "relay", "standard": standard, "curve": curve, "pickup_a": rated_a, "dial": dial,
                            "breaker_s": 0.083}  # fmt: skip
        return found | ({"instantaneous_a": instantaneous * rated_a} if instantaneous is not None else {})

    return at


_BREAKER, _FUSE = ("breaker",), ("fuse",)
LIBRARY: tuple[Generic, ...] = (
    Generic("thermal-magnetic", _BREAKER, _thermal(40, 10)),
    Generic("thermal-magnetic-low", _BREAKER, _thermal(40, 5)),
    Generic("trip-long-instantaneous", _BREAKER, _trip(8, None, None, 10)),
    Generic("trip-long-short", _BREAKER, _trip(10, 4, 0.3, None)),
    Generic("trip-long-short-slow", _BREAKER, _trip(12, 3, 0.4, None)),
    Generic("trip-all", _BREAKER, _trip(10, 4, 0.2, 12)),
    Generic("fuse-delay", _FUSE, _points((2, 100), (3, 10), (5, 1), (10, 0.1), (20, 0.01), melts=0.6)),
    Generic("fuse-fast", _FUSE, _points((1.6, 100), (2.2, 10), (3.4, 1), (6, 0.1), (11, 0.01), melts=0.6)),
    Generic("fuse-medium-voltage", _FUSE, _points((2.4, 300), (3, 10), (5, 1), (10, 0.14), (25, 0.02), melts=0.7)),
    Generic("relay-moderately-inverse", _BREAKER, _relay("ieee", "MI", 2, None)),
    Generic("relay-very-inverse", _BREAKER, _relay("ieee", "VI", 2, 12)),
    Generic("relay-very-inverse-slow", _BREAKER, _relay("ieee", "VI", 4, None)),
    Generic("relay-extremely-inverse", _BREAKER, _relay("ieee", "EI", 2, 12)),
    Generic("relay-iec-standard-inverse", _BREAKER, _relay("iec", "SI", 0.2, None)),
    Generic("relay-iec-very-inverse", _BREAKER, _relay("iec", "VI", 0.2, 12)),
    Generic("relay-iec-extremely-inverse", _BREAKER, _relay("iec", "EI", 0.2, 12)),
)
BY_ID: Mapping[str, Generic] = {g.id: g for g in LIBRARY}


def generic(curve_id: str, rated_a: object) -> GenericCurve:
    """The JSON form of a generic curve at a device's rating, A; InputError without a rating.

    >>> generic("trip-long-instantaneous", 400)["instantaneous_a"]
    4000.0
    """
    found = BY_ID.get(curve_id)
    if found is None:
        raise InputError("curve", curve_id, say("one-of", options=tuple(BY_ID)))
    if rated_a is None:
        raise InputError("curve", curve_id, say("curves-library-needs-the-rating"))
    return GenericCurve(found.at(RATED_A.check(rated_a, "rated_a")))


def rescaled(curve: Mapping[str, Any], was_a: float, now_a: float) -> GenericCurve | None:
    """A generic curve of a rating at another, A; None for a curve that is no generic one at the first.

    >>> rescaled(generic("trip-all", 400), 400, 800) == generic("trip-all", 800)
    True
    >>> rescaled({**generic("trip-all", 400), "long_delay_s": 9}, 400, 800) is None
    True
    """
    same = next((g for g in LIBRARY if g.at(float(was_a)) == curve), None)
    return None if same is None else generic(same.id, now_a)


def instead(kind: str, volts: float, rated_a: float) -> tuple[CurveData, ...]:
    """What an assumed curve of a device at a voltage may be in its place: the quickest and the slowest there."""
    low = {"breaker": ("thermal-magnetic-low", "trip-long-short-slow"), "fuse": ("fuse-fast", "fuse-delay")}
    high = {
        "breaker": ("relay-extremely-inverse", "relay-very-inverse-slow"),
        "fuse": ("fuse-fast", "fuse-medium-voltage"),
    }
    named = (low if volts <= 1000 else high).get(kind, ())
    return tuple(BY_ID[i].at(rated_a) for i in named)


def fits(kind: str) -> tuple[Generic, ...]:
    """Those of a kind of equipment; a contactor is never counted on to clear a fault, so none fits it."""
    return tuple(g for g in LIBRARY if kind in g.devices)
