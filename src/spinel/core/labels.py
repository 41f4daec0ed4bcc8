"""What a label on equipment says, of a hazard as it was computed; and whether what hangs still tells the truth.

Required content: NFPA 70E 130.5(H), from memory: nominal voltage, arc-flash boundary, and of incident energy with its
working distance or PPE category one, never both. Added here, as sites ask for it: approach boundaries, gloves, the
equipment, the day and the revision. docs/methods/labels.md tells rules and limits.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass, replace
from typing import Any

from spinel.core.errors import Refusal
from spinel.core.hazard import Hazard
from spinel.core.ppe.by_energy import kit
from spinel.core.quantities import CAL_PER_J, MM_PER_INCH, Quantity
from spinel.core.said import Sayable, say
from spinel.core.study import METHOD
from spinel.core.tables.forms import Clothing

DANGER, WARNING = "danger", "warning"
#: By a site's rule, when a label says danger: above the ceiling and where nobody knows, or always, or never.
SIGNAL_RULES = ("ceiling", "always", "never")
#: Languages that a label may be printed in beside English.
LANGUAGES = ("none", "es", "fr", "de")
#: A label is wrong when it says so much too little, or so much too much: the first can hurt somebody, by the second
#: people learn not to believe labels. Common practice, without source (docs/decisions/033).
TOO_LITTLE, TOO_MUCH = 0.01, 0.1
#: Years after which the data of a label are reviewed (reference: 130.5(H)).
REVIEW_YEARS = 5
#: Steps that what is printed is rounded up to.
_ENERGY_STEP, _BOUNDARY_STEP_MM = 0.1, 10.0

FOUND_ENERGY = Quantity("energy_cal_cm2", "cal/cm²", 0, 1000, low_exclusive=True)
FOUND_BOUNDARY = Quantity("boundary_mm", "mm", 0, 100_000, low_exclusive=True)
FOUND_DISTANCE = Quantity("working_distance_mm", "mm", 100, 5000)
FOUND_VOLTAGE = Quantity("voltage_v", "V", 1, 800_000)
#: Foreign labels may name a category; it is kept as it was found and never converted.
FOUND_CATEGORY = Quantity("category", "", 0, 4)


@dataclass(frozen=True, kw_only=True)
class LabelSays:
    """``energy_cal_cm2`` with ``working_distance_mm``, or ``category``, or neither: then ``no_figure`` tells why, and
    the label forbids. Rounded up as printed. ``glove``: class, or why nobody may come near. ``forbids``: all live
    work, whatever the signal word is by the site's rule; None on labels that do not tell. ``limited_in``,
    ``restricted_in``: inches of the practice's table, which are not its metres converted; None where it has none.
    ``avoid_contact``: what stands for the restricted approach."""

    tag: str
    name: str
    location: str
    side: Sayable
    voltage_v: float | None
    current: str
    signal: str
    energy_cal_cm2: float | None
    working_distance_mm: float | None
    boundary_mm: float | None
    limited_mm: float | None
    restricted_mm: float | None
    glove: Sayable
    no_figure: Sayable
    method: str
    revision: int
    day: str
    category: int | None = None
    forbids: bool | None = None
    limited_in: float | None = None
    restricted_in: float | None = None
    avoid_contact: bool = False

    @property
    def forbidden(self) -> bool:
        """Does it forbid all live work? One of before it was told apart did so by its signal word."""
        told = self.forbids
        return bool(self.no_figure) or (self.signal == DANGER if told is None else told)

    @property
    def data(self) -> dict[str, Any]:
        return asdict(self)


def label_of(
    hazard: Hazard, *, tag: str, name: str, location: str, revision: int, day: str, rule: str
) -> LabelSays:  # fmt: skip
    """What a label at a place says. Refusal where nothing is there that a label warns of."""
    if hazard.below_threshold:
        raise Refusal(say("label-rule"), say("label-below-threshold"), say("label-needs-none"))
    energy, boundary = hazard.energy_cal_cm2, hazard.boundary_mm
    known = energy is not None and boundary is not None and not hazard.no_figure
    forbids = not known or hazard.beyond_ceiling
    signal = DANGER if rule == "always" or (rule == "ceiling" and forbids) else WARNING
    glove: Sayable = hazard.glove_problem or hazard.glove or ""
    side: Sayable = hazard.reach if hazard.touches else ""
    return LabelSays(
        tag=tag, name=name, location=location, side=side, voltage_v=hazard.voltage_v,
        current=hazard.current,
        signal=signal, energy_cal_cm2=_up(energy, _ENERGY_STEP) if known else None,
        working_distance_mm=hazard.working_distance_mm if known else None,
        boundary_mm=_up(boundary, _BOUNDARY_STEP_MM) if known else None,
        limited_mm=hazard.approach.limited_fixed_mm, restricted_mm=hazard.approach.restricted_mm, glove=glove,
        no_figure="" if known else hazard.no_figure, method=METHOD, revision=revision, day=day,
        forbids=forbids, limited_in=hazard.approach.limited_fixed_in or None,
        restricted_in=hazard.approach.restricted_in or None, avoid_contact=hazard.approach.avoid_contact,
    )  # fmt: skip


def _up(value: float | None, step: float) -> float | None:
    """The next step at or above it; what lies a rounding error above a step is on it.

    >>> _up(6.3, 0.1), _up(6.301, 0.1), _up(1230.0, 10.0), _up(1230.4, 10.0)
    (6.3, 6.4, 1230.0, 1240.0)
    """
    if value is None:
        return None
    return round(math.ceil(value / step - 1e-9) * step, 6)


#: What a label must hold, by the name of its field; of energy and category one.
REQUIRED = ("voltage_v", "boundary_mm")


def lacks(label: LabelSays) -> tuple[str, ...]:
    """What is missing of the required content, and ``both`` where energy and category stand side by side. A label that
    forbids all live work, since nobody knows how much, lacks nothing but its voltage."""
    found = [n for n in REQUIRED if getattr(label, n) is None]
    if label.no_figure:
        return tuple(n for n in found if n == "voltage_v")
    by_energy = label.energy_cal_cm2 is not None and label.working_distance_mm is not None
    if by_energy and label.category is not None:
        found.append("both")
    if not by_energy and label.category is None:
        found.append("energy_cal_cm2")
    return tuple(found)


@dataclass(frozen=True, kw_only=True)
class LabelVerdict:
    """``state``: true, too_little, too_much, other (it differs otherwise), unknown (it tells no figure that could be
    held against one), forbids (it names a figure where nobody may work live by now). ``factor``: the figure as it is
    over what the label says; ``why``: each thing in which it is wrong."""

    state: str
    factor: float | None
    why: tuple[Sayable, ...]
    now: LabelSays

    @property
    def wrong(self) -> bool:
        return self.state != "true"


#: The worst first: what may burn somebody before what only lies.
GRAVITY = ("forbids", "too_little", "unknown", "other", "too_much", "true")


def verdict(says: LabelSays, now: LabelSays, clothing: Clothing, ceiling_cal_cm2: float) -> LabelVerdict:
    """A label held against what a new one would say."""
    why: list[Sayable] = []
    state = "true"

    def worse(to: str, because: Sayable) -> None:
        nonlocal state
        why.append(because)
        if GRAVITY.index(to) < GRAVITY.index(state):
            state = to

    factor = None
    if now.energy_cal_cm2 is None:
        if says.energy_cal_cm2 is not None or says.category is not None or not says.no_figure:
            worse("forbids", say("label-no-figure-any-more"))
    elif says.energy_cal_cm2 is None:
        worse("unknown" if not says.no_figure else "other", say("label-tells-no-energy", energy=now.energy_cal_cm2))
    else:
        factor = now.energy_cal_cm2 / says.energy_cal_cm2
        _energy(says.energy_cal_cm2, now.energy_cal_cm2, clothing, ceiling_cal_cm2, worse)
        if says.working_distance_mm is None:
            # at another distance the same number is another energy
            worse("unknown", say("label-tells-no-distance"))
        if now.working_distance_mm is not None and (says.working_distance_mm or 0.0) > now.working_distance_mm:
            worse("too_little", say("label-stands-further-back", said=says.working_distance_mm or 0.0,
                                    now=now.working_distance_mm))  # fmt: skip
    for name in ("boundary_mm", "limited_mm", "restricted_mm"):
        _distance(name, getattr(says, name), getattr(now, name), worse, foreign=not says.revision)
    if says.voltage_v is None or now.voltage_v is None or abs(says.voltage_v - now.voltage_v) > 0.5:
        more = (says.voltage_v or 0) < (now.voltage_v or 0)
        because = say("label-other-voltage", said=says.voltage_v or 0.0, now=now.voltage_v or 0.0)
        worse("too_little" if more else "other", because)
    if says.revision:
        _own(says, now, worse)
    return LabelVerdict(state=state, factor=factor, why=tuple(why), now=now)


def _own(says: LabelSays, now: LabelSays, worse: Any) -> None:
    """In what a label of our own differs beyond the figures that those of others have too."""
    if now.forbidden and not says.forbidden:
        worse("forbids", say("label-does-not-forbid"))
    for code in ("limited", "restricted"):
        told, so = _inches(says, code), _inches(now, code)
        if told < so and getattr(says, f"{code}_mm") is not None:
            worse("too_little", say("label-feet-too-little", which=code, said=told * MM_PER_INCH, now=so * MM_PER_INCH))
    for words in _otherwise(says, now):
        worse("other", words)


def _otherwise(says: LabelSays, now: LabelSays) -> Iterator[Sayable]:
    """Words in which a label of our own differs from a new one."""
    if says.glove != now.glove:
        yield say("label-other-gloves")
    if says.signal != now.signal:
        yield say("label-other-signal", said=says.signal, now=now.signal)
    if says.forbids and not now.forbidden:
        yield say("label-forbids-needlessly")
    if says.method != now.method:
        yield say("label-other-method", said=says.method, now=now.method)
    if (says.tag, says.location) != (now.tag, now.location):
        yield say("label-other-name", said=says.tag, now=now.tag)


def _energy(said: float, now: float, clothing: Clothing, ceiling: float, worse: Any) -> None:
    if now > ceiling >= said:
        worse("forbids", say("label-above-ceiling", said=said, now=now))
    elif now > said * (1 + TOO_LITTLE) or (now > said and kit(now, clothing).level != kit(said, clothing).level):
        worse("too_little", say("label-says-too-little", said=said, now=now))
    elif now < said * (1 - TOO_MUCH):
        worse("too_much", say("label-says-too-much", said=said, now=now))


def _distance(name: str, said: float | None, now: float | None, worse: Any, *, foreign: bool) -> None:
    code = name.removesuffix("_mm")
    if said is None:
        # a label of others need not tell approach boundaries
        if now is not None and not (foreign and code != "boundary"):
            worse("other", say("label-lacks-distance", which=code, now=now))
        return
    if now is None:
        if not foreign:
            worse("other", say("label-needless-distance", which=code))
    elif now > said * (1 + TOO_LITTLE):
        worse("too_little", say("label-distance-too-little", which=code, said=said, now=now))
    elif now < said * (1 - TOO_MUCH):
        worse("too_much", say("label-distance-too-much", which=code, said=said, now=now))


def _inches(label: LabelSays, code: str) -> float:
    """A boundary in inches as a label prints it: of the table, or its millimetres rounded up to the inch; 0: none."""
    of_table, mm = getattr(label, f"{code}_in"), getattr(label, f"{code}_mm")
    return float(of_table or math.ceil((mm or 0.0) / MM_PER_INCH - 1e-6))


def read_label(data: Mapping[str, Any]) -> LabelSays:
    """What a label says, as it was kept."""
    return replace(LabelSays(**{**data}))


def joule_of(label: LabelSays) -> float | None:
    """The energy of a label in J/cm², rounded up to a whole one: for practices that print both units."""
    if label.energy_cal_cm2 is None:
        return None
    return float(math.ceil(label.energy_cal_cm2 / CAL_PER_J - 1e-9))
