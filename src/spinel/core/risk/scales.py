"""Scales in words, and the hierarchy of controls. A site words its own; a number is never shown for a score."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from spinel.core.errors import InputError
from spinel.core.said import Sayable, say

#: How bad it is if it happens, and how likely it is, from the least up.
STEPS = (1, 2, 3, 4, 5)
SEVERITY, LIKELIHOOD = "severity", "likelihood"
SHIPPED: Mapping[str, tuple[Sayable, ...]] = {
    SEVERITY: tuple(say(f"severity-{n}") for n in STEPS),
    LIKELIHOOD: tuple(say(f"likelihood-{n}") for n in STEPS),
}
#: The hierarchy of controls in its order. The first three are inherent: they take something away at the source; the
#: rest depends on somebody doing it right, and lowers no energy.
RUNGS = ("eliminate", "substitute", "engineer", "warn", "rule", "wear")
INHERENT = RUNGS[:3]

SHOCK, ARC = "shock", "arc"
#: What could hurt somebody, beside shock and arc flash.
OTHERS = (
    "stored-energy", "electrolyte", "damp", "dust", "height", "confined", "traffic", "noise", "weather", "alone",
    "foreign-voltage", "other",
)  # fmt: skip
HAZARDS = (SHOCK, ARC, *OTHERS)

#: Up to which incident energy, cal/cm², a burn is how bad. Our choice (docs/decisions/031): 1.2 is the onset of a
#: second-degree burn, 8 and 40 are where clothing commonly steps; what has no figure is the worst.
_BURNS = ((1.2, 2), (8.0, 3), (40.0, 4))


def arc_severity(energy_cal_cm2: float | None) -> int:
    """How bad an arc flash is, by its figure alone: nobody argues it down. No figure, or none that is a number: the
    worst.

    >>> [arc_severity(e) for e in (0.9, 1.2, 3.9, 17.1, 40.1, None, float("nan"))]
    [2, 2, 3, 4, 5, 5, 5]
    """
    if energy_cal_cm2 is None or not math.isfinite(energy_cal_cm2) or energy_cal_cm2 < 0:
        return STEPS[-1]
    return next((step for upto, step in _BURNS if energy_cal_cm2 <= upto), STEPS[-1])


def words(own: Mapping[str, Sequence[str]]) -> Mapping[str, tuple[Sayable, ...]]:
    """The scales of a site: its own words where it has a whole scale of them."""
    return {
        name: tuple(own[name]) if len(own.get(name, ())) == len(STEPS) else shipped for name, shipped in SHIPPED.items()
    }


def step(value: object, field: str) -> int:
    """A step of a scale, or InputError: there is no preset, and none is guessed."""
    text = str(value).strip()
    if text not in map(str, STEPS):
        raise InputError(field, value, say("risk-choose-a-step"))
    return int(text)
