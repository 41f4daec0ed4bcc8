"""What somebody puts on, of what the site owns: by zone of the body, what the energy and the voltage ask, and which
items fit this wearer today. Layers are never added up. Nothing that fits is said, never hidden."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from spinel.core.errors import OutOfRange
from spinel.core.gear.fit import HOOD_ABOVE_CAL_CM2, insulates, withstands_arc
from spinel.core.gear.items import Item, why_not
from spinel.core.gear.kinds import HANDS, HEAD, LEGS, TRUNK
from spinel.core.quantities import BOUNDARY_ENERGY_CAL_CM2
from spinel.core.said import Sayable, say
from spinel.core.shock.approach import glove_class
from spinel.core.tables.forms import ShockRules

#: Arc ratings that clothing commonly steps by, cal/cm². Common practice, no standard's.
STEPS = (4.0, 8.0, 12.0, 25.0, 40.0, 65.0, 100.0)


@dataclass(frozen=True, kw_only=True)
class Need:
    """``rating_cal_cm2``: the least arc rating, None where none is asked; ``glove_class``: the lightest, empty where no
    voltage asks for any. ``reason``: why."""

    zone: str
    rating_cal_cm2: float | None
    glove_class: str
    reason: Sayable


@dataclass(frozen=True, kw_only=True)
class Offer:
    """``fits``: the lightest first; ``heavier``: more than a step above what is asked, to be taken with a reason alone;
    ``short``: of the zone, and why each does not do."""

    need: Need
    fits: tuple[Item, ...]
    heavier: tuple[Item, ...]
    short: tuple[tuple[Item, Sayable], ...]


def needs(energy_cal_cm2: float | None, voltages: Sequence[tuple[float, str]], rules: ShockRules) -> tuple[Need, ...]:
    """What each zone asks at an incident energy, cal/cm², and at voltages, V with their kind of current. No figure:
    nobody can be dressed for it, so there is nothing that would do: InputError is the caller's to raise before."""
    arc = energy_cal_cm2 if energy_cal_cm2 is not None and not energy_cal_cm2 < BOUNDARY_ENERGY_CAL_CM2 else None
    head = say("own-hood-above" if arc is not None and not arc <= HOOD_ABOVE_CAL_CM2 else "own-shield",
               limit_cal_cm2=HOOD_ABOVE_CAL_CM2)  # fmt: skip
    none = say("own-no-arc-rating")
    lightest, why = _gloves(voltages, rules)
    return (
        Need(zone=HEAD, rating_cal_cm2=arc, glove_class="", reason=head if arc is not None else none),
        Need(zone=TRUNK, rating_cal_cm2=arc, glove_class="", reason=say("own-trunk") if arc is not None else none),
        Need(zone=HANDS, rating_cal_cm2=arc, glove_class=lightest, reason=why),
        Need(zone=LEGS, rating_cal_cm2=arc, glove_class="", reason=say("own-legs") if arc is not None else none),
    )


def _gloves(voltages: Sequence[tuple[float, str]], rules: ShockRules) -> tuple[str, Sayable]:
    order = [g.name for g in rules.gloves]
    asked = []
    for volts, current in voltages:
        if rules.threshold.reached(volts, current):
            try:
                asked.append(order.index(glove_class(volts, current, rules).name))
            except OutOfRange as error:
                return "none", error.said
    if not asked:
        return "", say("own-no-gloves")
    return order[max(asked)], say("own-gloves", glove_class=order[max(asked)])


def one_step_above(rating_cal_cm2: float) -> float:
    """The step after the first that is enough.

    >>> [one_step_above(e) for e in (3.9, 8.0, 22.4, 200.0)]
    [8.0, 12.0, 40.0, inf]
    """
    enough = [s for s in STEPS if s >= rating_cal_cm2]
    return enough[1] if len(enough) > 1 else float("inf")


def offers(
    needed: Sequence[Need], items: Sequence[Item], size: Mapping[str, str], wearer: int, rules: ShockRules,
    voltages: Sequence[tuple[float, str]], today: date,
) -> tuple[Offer, ...]:  # fmt: skip
    """For one wearer, by their account. ``size``: theirs by zone, empty where nobody told: any size is offered then.
    What is another's own or with somebody else is none of theirs."""
    return tuple(_offer(need, items, size.get(need.zone, ""), wearer, rules, voltages, today) for need in needed)


def _offer(
    need: Need, items: Sequence[Item], size: str, wearer: int, rules: ShockRules,
    voltages: Sequence[tuple[float, str]], today: date,
) -> Offer:  # fmt: skip
    fits, heavier, short = list[Item](), list[Item](), list[tuple[Item, Sayable]]()
    for item in items:
        if need.zone not in item.kind.zones or item.retired:
            continue
        why = _why_short(need, item, rules, voltages, today) or _not_theirs(item, wearer, size)
        if why:
            short.append((item, why))
        elif need.rating_cal_cm2 is not None and _too_heavy(item, need.rating_cal_cm2):
            heavier.append(item)
        else:
            fits.append(item)

    def order(item: Item) -> tuple[bool, float, str]:
        return wearer not in (item.owner_id, item.holder_id), item.rating.arc_rating_cal_cm2 or 0.0, item.number

    return Offer(need=need, fits=tuple(sorted(fits, key=order)), heavier=tuple(sorted(heavier, key=order)),
                 short=tuple(short))  # fmt: skip


def _why_short(
    need: Need, item: Item, rules: ShockRules, voltages: Sequence[tuple[float, str]], today: date
) -> Sayable:  # fmt: skip
    if need.zone == HANDS and need.glove_class:
        # rubber gloves with their protectors are the arc protection of the hands too
        return next((why for v, c in voltages if rules.threshold.reached(v, c)
                     and (why := insulates(item, v, c, rules, today))), "")  # fmt: skip
    if need.rating_cal_cm2 is None:
        return why_not(item, today)
    if need.zone == HANDS and item.kind_id == "gloves":
        return why_not(item, today)
    return withstands_arc(item, need.rating_cal_cm2, today)


def _too_heavy(item: Item, asked: float) -> bool:
    rating = item.rating.arc_rating_cal_cm2
    return rating is not None and rating > one_step_above(asked)


def _not_theirs(item: Item, wearer: int, size: str) -> Sayable:
    if item.owner_id is not None and item.owner_id != wearer:
        return say("own-of-another", number=item.number, name=item.owner)
    if item.holder_id is not None and item.holder_id != wearer:
        return say("own-with-another", number=item.number, name=item.holder)
    if size and item.size and item.size != size:
        return say("own-other-size", number=item.number, size=item.size)
    return ""
