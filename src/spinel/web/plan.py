"""The approach plan to scale: opened equipment, a person from above, the boundaries as arcs and dimensions."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

WIDTH, HEIGHT, FACE = 344.0, 120.0, 30.0


@dataclass(frozen=True)
class Dimension:
    """A boundary: arc radius and dimension line in px, its words, and where its text starts."""

    key: str
    radius: float
    y: float
    text: str


@dataclass(frozen=True)
class Plan:
    """``person_x``: front of the body, at the working distance. ``scale``: px per mm."""

    scale: float
    person_x: float | None
    arm: float
    body: tuple[float, float]
    dimensions: tuple[Dimension, ...]
    height: float


def plan(hazard: Mapping[str, Any], words: Mapping[str, str]) -> Plan | None:
    """From a frozen hazard; ``words``: key to the figure as the page writes it. None when nothing is to be drawn."""
    distances = {
        "restricted": hazard["approach"]["restricted_mm"],
        "working": hazard["working_distance_mm"],
        "limited": hazard["approach"]["limited_fixed_mm"],
        "boundary": hazard["boundary_mm"],
    }
    known = {k: v for k, v in distances.items() if v}
    if not known:
        return None
    scale = (WIDTH - FACE - 36) / max(known.values())
    ordered = sorted(known.items(), key=lambda item: item[1])
    dimensions = tuple(
        Dimension(key, mm * scale, HEIGHT + 16 + 17 * i, words[key]) for i, (key, mm) in enumerate(ordered)
    )
    working = known.get("working")
    # A person is drawn about 450 mm wide across the shoulders and 240 mm deep, to the same scale.
    return Plan(
        scale, FACE + working * scale if working else None, 60 * scale, (120 * scale, 225 * scale), dimensions,
        HEIGHT + 8 + 17 * len(dimensions),
    )  # fmt: skip
