"""Peak and asymmetrical currents of a fault from its symmetrical current and X/R, and how much more a device must bear
than where it was tested.

A fault current is a sine plus an offset that decays with the time constant of X/R; at worst the offset starts at the
crest. All functions take numbers or arrays. Source: the decaying-offset equation, any textbook; test X/R of devices:
from memory of UL 489, IEEE C37.13, C37.010, C37.41 (docs/methods/duty.md).
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from spinel.core.errors import InputError
from spinel.core.quantities import BOLTED_FAULT_CURRENT_KA, X_R
from spinel.core.said import say

#: Ways of comparing with a test: crest of the first half cycle, rms over it, rms when contacts part.
PEAK, RMS, PARTING = "peak", "rms", "parting"
#: Contacts of a five-cycle medium-voltage breaker part three cycles after the fault began (common practice).
PARTING_CYCLES = 3.0


def offset(x_r: Any, cycles: float) -> Any:
    """What is left of the offset after some cycles, as a part of the symmetrical crest: exp(-2 pi cycles / (X/R)).

    >>> round(float(offset(10, 0.5)), 4)
    0.7304
    """
    with np.errstate(divide="ignore"):
        return np.exp(-2 * math.pi * cycles / np.asarray(x_r, dtype=float))


def rms_factor(x_r: Any, cycles: float = 0.5) -> Any:
    """Asymmetrical rms over symmetrical rms at a moment, in cycles after the fault began.

    >>> round(float(rms_factor(6.6)), 3)
    1.331
    """
    return np.sqrt(1 + 2 * offset(x_r, cycles) ** 2)


def crest_factor(x_r: Any) -> Any:
    """Highest crest over symmetrical rms, for the worst moment at which the fault can begin.

    i(t) = sqrt(2) (sin(w t + a - phi) - sin(a - phi) exp(-w t / (X/R))); a fault at the voltage's zero, a = 0, gives
    the highest crest at any X/R (any textbook). It stands where the derivative is zero, found by Newton's method.

    >>> round(float(crest_factor(17)), 2), round(float(crest_factor(1)), 3)
    (2.59, 1.512)
    """
    ratio = np.asarray(x_r, dtype=float)
    phi = np.arctan(ratio)
    with np.errstate(divide="ignore", invalid="ignore"):
        slow = np.where(ratio > 0, 1 / np.maximum(ratio, 1e-12), 1e12)
    # the crest lies between a quarter of a cycle after the zero of the steady current and half a cycle: halved down to
    low, high = np.full(ratio.shape, 1e-9), np.full(ratio.shape, math.pi)

    def slope(t: Any) -> Any:
        return np.cos(t - phi) - np.sin(phi) * slow * np.exp(-np.minimum(t * slow, 700))

    low = np.maximum(low, phi)
    for _ in range(60):
        middle = (low + high) / 2
        rising = slope(middle) > 0
        low, high = np.where(rising, middle, low), np.where(rising, high, middle)
    return math.sqrt(2) * (np.sin(low - phi) + np.sin(phi) * np.exp(-np.minimum(low * slow, 700)))


def half_cycle_factor(x_r: Any) -> Any:
    """Crest half a cycle in over symmetrical rms: sqrt(2) (1 + exp(-pi / (X/R))), by which standards compare tests.

    Up to 2.7 % below the highest crest at low X/R, above and below the line alike.

    >>> round(float(half_cycle_factor(17)), 2)
    2.59
    """
    return math.sqrt(2) * (1 + offset(x_r, 0.5))


def asymmetrical_ka(bolted_fault_current_ka: float, x_r: float, cycles: float = 0.5) -> float:
    """Asymmetrical rms current in kA at some cycles (0 to 100). InputError for unusable numbers."""
    if not 0 <= cycles <= 100:
        raise InputError("cycles", cycles, say("asymmetry-from-0-to-100-cycles"))
    return BOLTED_FAULT_CURRENT_KA.check(bolted_fault_current_ka) * float(rms_factor(_ratio(x_r), cycles))


def peak_ka(bolted_fault_current_ka: float, x_r: float) -> float:
    """Highest crest in kA. InputError for unusable numbers.

    >>> round(peak_ka(30, 10), 1)
    73.7
    """
    return BOLTED_FAULT_CURRENT_KA.check(bolted_fault_current_ka) * float(crest_factor(_ratio(x_r)))


def _ratio(x_r: float) -> float:
    return math.inf if x_r == math.inf else X_R.check(x_r)


def multiplier(x_r: Any, test_x_r: Any, basis: str) -> Any:
    """By how much the symmetrical current must be raised to compare with a rating tested at another X/R; never below 1.

    >>> round(float(multiplier(12, 4.9, "peak")), 3)
    1.159
    """
    if basis == PEAK:
        found = half_cycle_factor(x_r) / half_cycle_factor(test_x_r)
    elif basis == RMS:
        found = rms_factor(x_r) / rms_factor(test_x_r)
    elif basis == PARTING:
        found = rms_factor(x_r, PARTING_CYCLES) / rms_factor(test_x_r, PARTING_CYCLES)
    else:
        raise InputError("basis", basis, say("asymmetry-one-of", peak=PEAK, rms=RMS, parting=PARTING))
    return np.maximum(found, 1.0)
