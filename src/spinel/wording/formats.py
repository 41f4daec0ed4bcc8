"""How every kind of number is written. Energies, boundaries and clearing times are rounded up, so that none that is
shown is below the one that was computed.
"""

from __future__ import annotations

import math
from datetime import date

_MM_PER_INCH = 25.4
NB = "\N{NO-BREAK SPACE}"


def up(value: float, digits: int) -> float:
    """Round up to so many decimals, forgiving rounding noise of the computation itself."""
    scale = 10.0**digits
    return float(math.ceil(value * scale - 1e-6) / scale)


def energy(value: float) -> str:
    """cal/cm², rounded up to a tenth; below 0.1 to a hundredth.

    >>> energy(5.31), energy(0.012)
    ('5.4', '0.02')
    """
    return f"{up(value, 2):.2f}" if value < 0.1 else f"{up(value, 1):.1f}"


def above(value: float, limit: float) -> str:
    """A value above a limit, rounded up, with as many decimals as it takes to read as above it.

    >>> above(40.04, 40), above(53.2, 40), above(40.000004, 40)
    ('40.1', '53.2', '40.1')
    """
    scale = 10
    found = math.ceil(value * scale - 1e-6) / scale
    while found <= limit and scale < 1e9:
        scale *= 10
        found = math.ceil(value * scale) / scale
    return f"{found:g}" if scale > 10 else f"{found:.1f}"


def metres(mm: float) -> str:
    """A boundary in metres, rounded up to the centimetre."""
    return f"{up(mm / 1000, 2):.2f}"


def approach(mm: float) -> str:
    """A shock boundary in metres: to the decimetre where the table has it so, else up to the centimetre.

    >>> approach(300), approach(305), approach(1067), approach(1000)
    ('0.3', '0.31', '1.07', '1.0')
    """
    found = up(mm / 1000, 2)
    return f"{found:.1f}" if found == round(found, 1) else f"{found:.2f}"


def feet(mm: float) -> str:
    """The same in feet and inches, rounded up to the inch."""
    return feet_inches(mm / _MM_PER_INCH)


def feet_inches(inches: float) -> str:
    """Rounded up to the inch.

    >>> feet_inches(42).replace(NB, " "), feet_inches(39.37).replace(NB, " ")
    ('3 ft 6 in', '3 ft 4 in')
    """
    whole = math.ceil(inches - 1e-6)
    return f"{whole // 12}{NB}ft{NB}{whole % 12}{NB}in"


def inches(mm: float) -> str:
    return f"{mm / _MM_PER_INCH:.0f}{NB}in"


def kiloamps(value: float) -> str:
    return f"{value:.1f}"


def seconds(value: float) -> str:
    return f"{up(value, 3):.3f}"


def volts(value: float) -> str:
    """A voltage, its number and unit never on two lines.

    >>> volts(12470).replace(NB, " "), volts(480).replace(NB, " ")
    ('12.47 kV', '480 V')
    """
    return f"{value / 1000:g}{NB}kV" if value >= 1000 else f"{value:g}{NB}V"


def duration(minutes: int) -> str:
    return f"{minutes}{NB}min" if minutes < 100 else f"{minutes // 60}{NB}h{NB}{minutes % 60:02d}"


def day(value: str | date, form: str) -> str:
    """A day, from ISO text too, as a practice writes it (``form`` of ``strftime``)."""
    return (value if isinstance(value, date) else date.fromisoformat(value)).strftime(form)
