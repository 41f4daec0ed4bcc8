"""Settings of several devices together that lower the worst, or the sum, of some places while devices in series keep
the order that they have: bounded optimisation (scipy.optimize.direct, deterministic), each point a study."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import Bounds, direct

from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.core.what_if.along import energies_at
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.changes import TrialChange

#: So many settings at once at most, and so many studies for them.
MOST_SETTINGS, STUDIES = 4, 90
WORST, SUM = "worst", "sum"
#: Added for each pair that falls out of order, and for each place that loses its figure, cal/cm²: more than any energy.
_LOST, _NO_FIGURE = 1e4, 1e5


@dataclass(frozen=True, kw_only=True)
class Bounded:
    """A setting that may be moved, between what and what."""

    device_id: str
    field: str
    low: float
    high: float


@dataclass(frozen=True, kw_only=True)
class Proposal:
    """``before``, ``after``: the aim as it is and with the changes, cal/cm². ``keeps_order``: does no pair fall out of
    order that keeps it now?"""

    changes: tuple[TrialChange, ...]
    before: float
    after: float
    keeps_order: bool
    studies: int

    @property
    def better(self) -> bool:
        return self.keeps_order and self.after < self.before * (1 - 1e-6)


def proposed(
    trials: Trials, places: Sequence[tuple[str, str]], settings: Sequence[Bounded], aim: str = WORST,
    tell: Callable[[str], None] = lambda stage: None, studies: int = STUDIES,
) -> Proposal:  # fmt: skip
    """The best that was found; the settings as they are where nothing is better. InputError for bounds that hold
    nothing and for too many settings."""
    if not 0 < len(settings) <= MOST_SETTINGS:
        raise InputError("settings", len(settings), say("what-if-so-many-settings", most=MOST_SETTINGS))
    if aim not in (WORST, SUM):
        raise InputError("aim", aim, say("one-of", options=(WORST, SUM)))
    for s in settings:
        if not 0 < s.low < s.high:
            raise InputError("low", s.low, say("what-if-bounds"))
    devices = frozenset(s.device_id for s in settings)
    tried: dict[tuple[float, ...], tuple[float, float, bool]] = {}

    def measured(values: tuple[float, ...]) -> tuple[float, float, bool]:
        if values not in tried:
            tell(f"{len(tried)}/{studies}")
            tried[values] = _measured(trials, places, _changes(settings, values), devices, aim)
        return tried[values]

    def cost(x: np.ndarray) -> float:
        # to three digits, as a dial is set; equal settings are one study
        return measured(tuple(float(f"{v:.3g}") for v in np.exp(x)))[0]

    bounds = Bounds(np.log([s.low for s in settings]), np.log([s.high for s in settings]))
    direct(cost, bounds, maxfun=studies, maxiter=1000, locally_biased=True, vol_tol=1e-12)
    before = _measured(trials, places, (), devices, aim)
    values, (_, after, order) = min(tried.items(), key=lambda t: t[1][0])
    if not (order and after < before[1]):
        return Proposal(changes=(), before=before[1], after=before[1], keeps_order=True, studies=len(tried))
    return Proposal(
        changes=_changes(settings, values), before=before[1], after=after, keeps_order=order, studies=len(tried)
    )  # fmt: skip


def _changes(settings: Sequence[Bounded], values: Sequence[float]) -> tuple[TrialChange, ...]:
    return tuple(
        TrialChange("setting", s.device_id, s.field, v) for s, v in zip(settings, values, strict=True)
    )  # fmt: skip


def _measured(
    trials: Trials, places: Sequence[tuple[str, str]], changes: Sequence[TrialChange], devices: frozenset[str], aim: str
) -> tuple[float, float, bool]:
    """What is minimised, the aim itself, and whether order is kept."""
    try:
        study = trials.study(changes)
        lost = len(trials.newly_lost(changes, devices)) if changes else 0
    except InputError:
        # a curve that cannot be: a delay above its longer one, say
        return _NO_FIGURE * 10, float("inf"), False
    energies = energies_at(study, places)
    if any(e is None for e in energies):
        return _NO_FIGURE + _LOST * lost, float("inf"), False
    known = [float(e) for e in energies if e is not None]
    value = max(known) if aim == WORST else sum(known)
    # of two that are alike in the worst the lower sum is better
    return value + 1e-6 * sum(known) + _LOST * lost, value, not lost
