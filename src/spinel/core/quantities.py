"""Each quantity once: its name (unit included), unit and range.

Forms, core checks, the JSON Schema of the network document and the glossary in the docs all read these.
Comparisons are written so that NaN fails them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from spinel.core.errors import InputError
from spinel.core.said import Said, Sayable, say

CAL_PER_J = 1 / 4.184
MM_PER_INCH = 25.4
#: Onset of a second-degree burn, and so the energy at the arc-flash boundary: 1.2 cal/cm².
BOUNDARY_ENERGY_CAL_CM2 = 1.2
BOUNDARY_ENERGY_J_CM2 = 5.0208


@dataclass(frozen=True)
class Quantity:
    """A named, ranged number. ``low`` may be exclusive (most physical quantities are above zero)."""

    name: str
    unit: Sayable
    low: float
    high: float
    low_exclusive: bool = False

    @property
    def allowed(self) -> Said:
        code = "a-number-above" if self.low_exclusive else "a-number-from"
        return say(code, low=self.low, high=self.high, unit=self.unit)

    def check(self, value: object, field: str | None = None) -> float:
        """The value as a float, or InputError. Booleans, text, NaN and infinity are refused."""
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise InputError(field or self.name, value, self.allowed)
        number = float(value)
        above = number > self.low if self.low_exclusive else number >= self.low
        if not (math.isfinite(number) and above and number <= self.high):
            raise InputError(field or self.name, value, self.allowed)
        return number

    def check_all(self, values: Any, field: str | None = None) -> Any:
        """An array of values, all in range, or InputError naming the first that is not."""
        array = np.asarray(values, dtype=float)
        good = (array > self.low if self.low_exclusive else array >= self.low) & (array <= self.high)
        if not good.all():
            raise InputError(field or self.name, float(array[~good].ravel()[0]), self.allowed)
        return array

    def parse(self, text: object, field: str | None = None) -> float:
        """What a person typed, as a number in range, or InputError.

        >>> WORKING_DISTANCE_MM.parse("455")
        455.0
        """
        cleaned = str(text).strip() if text is not None else ""
        # float() accepts "1_000" and full-width digits; a number on a permit is plain ASCII.
        try:
            number = float(cleaned) if cleaned.isascii() and "_" not in cleaned else math.nan
        except ValueError:
            number = math.nan
        if not math.isfinite(number):
            raise InputError(field or self.name, text, self.allowed)
        return self.check(number, field)


def _positive(name: str, unit: str, high: float) -> Quantity:
    return Quantity(name, unit, 0, high, low_exclusive=True)


#: Nothing is at less than 1 V: a smaller number is kilovolts in the wrong place.
NOMINAL_VOLTAGE_V = Quantity("nominal_voltage_v", "V", 1, 800_000)
WORKING_DISTANCE_MM = Quantity("working_distance_mm", "mm", 305, 5_000)
GAP_MM = _positive("gap_mm", "mm", 1_000)
BOLTED_FAULT_CURRENT_KA = _positive("bolted_fault_current_ka", "kA", 1_000)
DURATION_MS = _positive("duration_ms", "ms", 1_000_000)
ENCLOSURE_SIDE_MM = _positive("enclosure_side_mm", "mm", 20_000)
FAULT_MVA = _positive("fault_mva", "MVA", 1_000_000)
X_R = Quantity("x_r", "", 0, 1_000)
RATED_KVA = _positive("rated_kva", "kVA", 10_000_000)
IMPEDANCE_PCT = _positive("impedance_pct", "%", 100)
TAP_PCT = Quantity("tap_pct", "%", -25, 25)
TOLERANCE_PCT = Quantity("tolerance_pct", "%", 0, 15)
RATIO = _positive("ratio", "", 100)
CONDUCTOR_C = Quantity("conductor_c", "°C", -40, 250)
RESISTANCE_OHM = Quantity("resistance_ohm", "ohm", 0, 10_000)
REACTANCE_OHM = Quantity("reactance_ohm", "ohm", 0, 10_000)
LENGTH_M = _positive("length_m", "m", 100_000)
RATED_A = _positive("rated_a", "A", 100_000)
INTERRUPTING_KA = _positive("interrupting_ka", "kA", 1_000)
RATED_VOLTAGE_V = _positive("rated_voltage_v", "V", 800_000)
SECONDS = _positive("seconds", "s", 100_000)
MINUTES = _positive("minutes", "min", 100_000)
REACTANCE_PU = _positive("reactance_pu", "per unit", 100)
SHORT_DELAY_S = _positive("short_delay_s", "s", 30)
MULTIPLE = _positive("multiple", "", 100)
CEILING_CAL_CM2 = _positive("ceiling_cal_cm2", "cal/cm²", 100)


def volts(voltage_v: float, current: str = "ac") -> Said:
    """A voltage as it is read out: 12.47 kV, 480 V, 24 V DC."""
    return say("voltage", voltage_v=voltage_v, current=current)
