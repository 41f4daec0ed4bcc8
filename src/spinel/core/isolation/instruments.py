"""Which instrument proves what: kinds, ranges, and what an instrument must be proved on.

Up to the practice's high voltage a contact instrument reads volts between conductors; above it a detector only
indicates, per conductor, and nobody types volts for it. One of low impedance loads what it reads: a steady voltage that
it brings down was coupled, not fed. Categories are those of overvoltage at the place (II to IV).
Common practice in the trade; the categories from memory of IEC 61010-1.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from spinel.core.network.document import Network
from spinel.core.profile import Profile
from spinel.core.quantities import volts
from spinel.core.said import Sayable, say

CONTACT, LOW_IMPEDANCE, DETECTOR = "contact", "low_impedance", "detector"
KINDS = (CONTACT, LOW_IMPEDANCE, DETECTOR)
CATEGORIES = (2, 3, 4)


@dataclass(frozen=True, kw_only=True)
class Instrument:
    """``low_v`` to ``high_v``: nominal voltages that it is made for, V. ``barred``: why nobody uses it, else empty."""

    number: str
    kind: str
    low_v: float
    high_v: float
    category: int
    ac: bool
    dc: bool
    barred: Sayable = ""


@dataclass(frozen=True)
class Place:
    """What an instrument is held to: a nominal voltage, its current, the category that the place asks for."""

    voltage_v: float
    current: str
    category: int


def kind_for(voltage_v: float, current: str, practice: Profile) -> str:
    """The kind of instrument that absence of a voltage is tested with.

    >>> from spinel.core.profile import NORTH_AMERICAN
    >>> kind_for(480, "ac", NORTH_AMERICAN), kind_for(12470, "ac", NORTH_AMERICAN)
    ('contact', 'detector')
    """
    return CONTACT if voltage_v <= practice.high_voltage_v else DETECTOR


def place_at(network: Network, nodes: Iterable[str], voltage_v: float, current: str) -> Place:
    """The place of a test. Where the utility's own supply arrives, or a switch of its own stands, the highest category;
    elsewhere in a fixed installation, the one below it."""
    near = [e for n in nodes for e in network.at_node.get(n, ())]
    arrives = any(e.kind in ("source", "shore_connection") or e.operated_by for e in near)
    return Place(voltage_v, current, 4 if arrives else 3)


def unfit(instrument: Instrument, place: Place, practice: Profile) -> Sayable:
    """Why an instrument does not prove absence of voltage at a place; empty when it does."""
    number, at = instrument.number, volts(place.voltage_v, place.current)
    if instrument.barred:
        return say("instruments-barred", number=number, why=instrument.barred)
    detects = instrument.kind == DETECTOR
    if detects != (kind_for(place.voltage_v, place.current, practice) == DETECTOR):
        return say("instruments-wrong-kind", number=number, kind=say(f"instrument-{instrument.kind}"), at=at)
    if not (instrument.ac if place.current == "ac" else instrument.dc):
        return say("instruments-wrong-current", number=number, at=at)
    if not instrument.low_v <= place.voltage_v <= instrument.high_v:
        return say("instruments-out-of-range", number=number, at=at, low_v=instrument.low_v, high_v=instrument.high_v)
    if not detects and instrument.category < place.category:
        return say("instruments-category", number=number, has=ROMAN[instrument.category], needs=ROMAN[place.category])
    return ""


ROMAN = {2: "II", 3: "III", 4: "IV"}


def shows(instrument: Instrument, source_v: float) -> bool:
    """Is a known source of a voltage in the instrument's own range, so that it must show it?

    >>> shows(Instrument(number="M-1", kind="contact", low_v=12, high_v=1000, category=4, ac=True, dc=True), 9)
    False
    """
    return instrument.low_v <= source_v <= instrument.high_v
