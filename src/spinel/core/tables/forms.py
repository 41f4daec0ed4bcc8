"""The form of a practice's tables: rows with names, whatever school they are from."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from spinel.core.said import Said, Sayable, say


@dataclass(frozen=True, kw_only=True)
class ApproachRow:
    """Boundaries up to a voltage between conductors, that voltage included. ``restricted_mm`` 0: avoid contact.

    Millimetres and inches are both as printed; neither is converted from the other.
    """

    upper_v: float
    limited_movable_mm: float
    limited_fixed_mm: float
    restricted_mm: float
    limited_movable_in: float
    limited_fixed_in: float
    restricted_in: float


@dataclass(frozen=True)
class GloveClass:
    """A class and the highest voltages at which it is used, V. Classes stand in order, the lightest first."""

    name: str
    ac_v: float
    dc_v: float

    def highest_v(self, current: str) -> float:
        return self.ac_v if current == "ac" else self.dc_v


@dataclass(frozen=True, kw_only=True)
class Threshold:
    """From which voltage on there is a shock hazard, V: boundaries, gloves, a permit. ``inclusive``: is a voltage of
    just so much a hazard already?"""

    ac_v: float
    dc_v: float
    inclusive: bool

    def of(self, current: str) -> float:
        return self.ac_v if current == "ac" else self.dc_v

    def reached(self, voltage_v: float, current: str) -> bool:
        """Is the voltage (AC rms or DC, V) a hazard? What is no number is one.

        >>> one = Threshold(ac_v=50, dc_v=120, inclusive=True)
        >>> one.reached(50, "ac"), one.reached(50, "dc"), one.reached(float("nan"), "dc")
        (True, False, True)
        """
        limit = self.of(current)
        return not (voltage_v < limit or (voltage_v == limit and not self.inclusive))

    @property
    def lowest_v(self) -> float:
        """Below it no part counts for an arc beside a higher one. A limit for touching direct current is none for its
        arc, so it is the lower of both."""
        return min(self.ac_v, self.dc_v)

    def said(self, current: str) -> Said:
        """What is no hazard: below it, or at most it."""
        return say("threshold-below" if self.inclusive else "threshold-at-most", threshold_v=self.of(current))


@dataclass(frozen=True, kw_only=True)
class ShockRules:
    """``threshold``: from which voltage on there are boundaries and gloves."""

    threshold: Threshold
    ac: tuple[ApproachRow, ...]
    dc: tuple[ApproachRow, ...]
    gloves: tuple[GloveClass, ...]
    source: Sayable
    glove_source: str


@dataclass(frozen=True)
class Interval:
    """How often a kind of gear is tested, months at the latest. ``shelf_months``: tested and never issued, it is put
    into service within so many, and its interval runs from that day."""

    months: int
    source: str
    shelf_months: int | None = None


@dataclass(frozen=True, kw_only=True)
class Level:
    """What is worn up to an energy (None: whatever is above the level before it), that energy included or not."""

    upper_cal_cm2: float | None
    inclusive: bool
    arc_rated: bool
    name: Sayable
    items: tuple[Sayable, ...]
    reason: Sayable

    def covers(self, energy_cal_cm2: float) -> bool:
        if self.upper_cal_cm2 is None:
            return True
        return energy_cal_cm2 < self.upper_cal_cm2 or (self.inclusive and energy_cal_cm2 == self.upper_cal_cm2)


@dataclass(frozen=True)
class Clothing:
    """The levels of a practice, the lightest first; the last has no upper end."""

    levels: tuple[Level, ...]
    source: str


@dataclass(frozen=True)
class Justification:
    """``accepted``: may it justify at all? ``reason``: read aloud with the decision. ``questions``: what must be
    answered for it, keys of core/permit/justification. ``only``: what a task must do for the claim to fit it; empty:
    anything."""

    id: str
    claim: Sayable
    accepted: bool
    reason: Sayable
    questions: tuple[str, ...] = ()
    only: tuple[str, ...] = ()


@dataclass(frozen=True)
class Term:
    """A word that differs between practices, in its forms; a form that is not given is like ``one``."""

    one: str
    many: str = ""
    verb: str = ""
    done: str = ""

    def forms(self) -> Iterator[tuple[str, str]]:
        """Every form by name, plain, then with a capital (One) and all in capitals (ONE)."""
        for name, text in (("one", self.one), ("many", self.many), ("verb", self.verb), ("done", self.done)):
            text = text or self.one
            yield name, text
            yield name.capitalize(), text[:1].upper() + text[1:]
            yield name.upper(), text.upper()

    def form(self, name: str) -> str:
        return dict(self.forms())[name]


@dataclass(frozen=True, kw_only=True)
class Conductors:
    """How conductors are named: lines of three phases, the line of one, neutral, ground, and the poles of DC."""

    lines: tuple[str, str, str]
    single: str
    neutral: str
    ground: str
    plus: str
    minus: str


@dataclass(frozen=True, kw_only=True)
class Instruments:
    """``absent_v``: at or below it a reading means absent. ``tolerance``: within which part of a known source a reading
    must be; ``least_source_v``: of that source. ``residual_fall``: least part by which a residual voltage falls.
    ``induced_share``: of the nominal voltage to ground, up to which a steady voltage may be induced."""

    absent_v: float
    tolerance: float
    least_source_v: float
    residual_fall: float
    induced_share: float


@dataclass(frozen=True, kw_only=True)
class Courses:
    """``months``: for how long what was shown counts, by course, and of a "task". ``each``: courses of everybody who is
    exposed. ``crew``: of one among those on a permit at least. ``practised``: months after which somebody who has not
    done a task since is trained anew."""

    months: Mapping[str, int]
    each: tuple[str, ...]
    crew: tuple[str, ...]
    practised: int


@dataclass(frozen=True, kw_only=True)
class Writing:
    """How days, dates and times are written (forms of ``strftime``), which signs numbers have, and the paper."""

    day: str
    date: str
    time: str
    seconds: str
    decimal: str
    group: str
    paper: str
