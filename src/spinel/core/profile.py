"""Practice profiles: the words, tables, thresholds, forms and sources of one school. The computation is the same for
all. The first profile is North American.

Nothing that differs between schools is written anywhere else: an invented practice in the tests differs in every field,
and no page under it may show a word, a number or a table of another.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from spinel.core.errors import InputError, NotFound
from spinel.core.said import EDITION, Sayable, say
from spinel.core.tables import nfpa70e_clothing, nfpa70e_shock, north_american
from spinel.core.tables.forms import (
    Clothing,
    Conductors,
    Courses,
    Instruments,
    Interval,
    Justification,
    ShockRules,
    Term,
    Threshold,
    Writing,
)

#: What no practice may go beyond, in V, times the reading, and V.
ABSENT_AT_MOST_V, TOLERANCE_AT_MOST, GROUNDS_ABOVE_AT_MOST_V = 3.0, 0.1, 1000.0
#: By which part a residual voltage falls at least in a minute, where nothing else is known of it.
RESIDUAL_FALL_AT_LEAST = 0.5
#: Between which distances a stick keeps somebody from what it touches, mm.
STICK_MM = (900.0, 2000.0)
#: And above which voltage, AC and DC, everybody sees a shock hazard, V (IEC 61140: extra-low voltage).
THRESHOLD_AT_MOST_V = {"ac": 50.0, "dc": 120.0}


@dataclass(frozen=True, kw_only=True)
class Profile:
    """Limits in V, s, cal/cm².

    ``terms``: words by id, each with its forms. ``prefixes``: of the numbers of papers. ``equipment_classes``: what
    each class of the network document is called. ``gear``: how often each kind of gear is
    tested. ``high_voltage_v``: above it each conductor is tested with a detector
    of its own. ``grounds_above_v``: grounds are required above it. ``stick_mm``: how far from conductors somebody is
    who tests with a stick, at test points that are built in.
    ``made_safe``: in which order, once all is locked, mechanical energy is held (hold), the start is tried (try) and
    charge is bled (bleed); all three before proof. ``claims``: what people say when they want to work
    live, with what counts. ``statements`` and ``briefing``: what workers sign, what is gone through with them.
    ``keep_out``: how others are kept out, as a permit proposes it. ``written``: how days and numbers are written.
    ``ceiling_cal_cm2`` is a default; a site may set its own, only lower or equal.
    """

    id: str
    edition: str
    name: str
    terms: Mapping[str, Term]
    prefixes: Mapping[str, str]
    shock: ShockRules
    clothing: Clothing
    equipment_classes: Mapping[str, str]
    conductors: Conductors
    instruments: Instruments
    gear: Mapping[str, Interval]
    training: Courses
    high_voltage_v: float
    grounds_above_v: float
    stick_mm: float
    made_safe: tuple[str, ...]
    clearing_cap_s: float
    ceiling_cal_cm2: float
    claims: Mapping[str, Justification]
    statements: Mapping[str, Sayable]
    briefing: Mapping[str, Sayable]
    keep_out: Sayable
    cautions: Mapping[str, Sayable]
    written: Writing
    sources: Mapping[str, str]

    @property
    def threshold(self) -> Threshold:
        """From which voltage on there is a shock hazard by this practice."""
        return self.shock.threshold

    def claim(self, claim_id: str) -> Justification:
        """The claim with this id, or NotFound."""
        try:
            return self.claims[claim_id]
        except KeyError:
            raise NotFound("justification", claim_id) from None

    def kept_claim(self, claim_id: str) -> Justification:
        """A claim that was made before; one that this practice does not know justifies nothing."""
        unknown = Justification(claim_id, claim_id.replace("_", " "), False, say("claim-of-another-practice"))
        return self.claims.get(claim_id, unknown)


def problems(profile: Profile) -> Iterator[InputError]:
    """Where a practice goes below what none may."""
    instruments = profile.instruments
    if not 0 < instruments.absent_v <= ABSENT_AT_MOST_V:
        yield InputError("absent_v", instruments.absent_v, f"above 0 to {ABSENT_AT_MOST_V:g} V")
    if not 0 < instruments.tolerance <= TOLERANCE_AT_MOST:
        yield InputError("tolerance", instruments.tolerance, f"above 0 to {TOLERANCE_AT_MOST:g}")
    if not RESIDUAL_FALL_AT_LEAST <= instruments.residual_fall < 1:
        yield InputError("residual_fall", instruments.residual_fall, f"from {RESIDUAL_FALL_AT_LEAST:g} to below 1")
    if sorted(profile.made_safe) != ["bleed", "hold", "try"]:
        yield InputError("made_safe", ", ".join(profile.made_safe), "hold, try and bleed, each once, in any order")
    for current, most in THRESHOLD_AT_MOST_V.items():
        if not 0 <= profile.threshold.of(current) <= most:
            yield InputError("threshold", profile.threshold.of(current), f"from 0 to {most:g} V {current}")
    if not STICK_MM[0] <= profile.stick_mm <= STICK_MM[1]:
        yield InputError("stick_mm", profile.stick_mm, f"from {STICK_MM[0]:g} to {STICK_MM[1]:g} mm")
    if not 0 <= profile.grounds_above_v <= GROUNDS_ABOVE_AT_MOST_V:
        yield InputError("grounds_above_v", profile.grounds_above_v, f"from 0 to {GROUNDS_ABOVE_AT_MOST_V:g} V")


NORTH_AMERICAN = Profile(
    id="north-american",
    edition="2021",
    name="North American",
    terms=north_american.TERMS,
    prefixes={"permit": "EWP", "program": "SP", "practice": "PR"},
    shock=nfpa70e_shock.RULES,
    clothing=nfpa70e_clothing.CLOTHING,
    equipment_classes=north_american.EQUIPMENT_CLASSES,
    conductors=Conductors(lines=("L1", "L2", "L3"), single="L", neutral="N", ground="G", plus="(+)", minus="(-)"),
    instruments=Instruments(absent_v=3.0, tolerance=0.1, least_source_v=10.0, residual_fall=0.5, induced_share=0.1),
    training=north_american.TRAINING,
    gear=north_american.INTERVALS,
    high_voltage_v=1000.0,
    grounds_above_v=1000.0,
    stick_mm=1500.0,
    made_safe=("hold", "try", "bleed"),
    clearing_cap_s=2.0,
    ceiling_cal_cm2=40.0,
    claims=north_american.CLAIMS,
    statements=north_american.STATEMENTS,
    briefing=north_american.BRIEFING,
    keep_out=say("act-permits-barricade-with-red-danger-tape-and-signs"),
    cautions=north_american.CAUTIONS,
    written=Writing(
        day="%a %-d %b", date="%a %-d %b %Y", time="%H:%M", seconds="%H:%M:%S", decimal=".", group=",", paper="letter",
    ),
    sources=north_american.SOURCES,
)  # fmt: skip

_PROFILES = {p.id: p for p in (NORTH_AMERICAN,)}
#: Editions that were in force before, by id and edition: what was signed under them is read in their words.
_EARLIER: Mapping[tuple[str, str], Profile] = {}


def profile(profile_id: str, edition: str = "") -> Profile:
    """The shipped profile with this id, in an earlier edition where one is asked for; or NotFound."""
    try:
        return _EARLIER.get((profile_id, edition)) or _PROFILES[profile_id]
    except KeyError:
        raise NotFound("practice profile", profile_id) from None


def spoken_in(practice: Profile) -> dict[str, str | int]:
    """The words in which something is signed now, kept with it."""
    return {"practice": practice.id, "edition": practice.edition, "catalogue": EDITION}


def profile_ids() -> tuple[str, ...]:
    """Ids of all practices that a site can follow."""
    return tuple(_PROFILES)
