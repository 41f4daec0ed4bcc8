"""Does an item do for what it is wanted for? Instruments: core/isolation/instruments; here rubber goods, clothing and
grounds. What nobody can tell does not fit."""

from __future__ import annotations

from datetime import date

from spinel.core.errors import OutOfRange
from spinel.core.gear.items import Item, why_not
from spinel.core.gear.kinds import ARC_RATING_CAL_CM2, CLASS, HEAD
from spinel.core.said import Sayable, say
from spinel.core.shock.approach import glove_class
from spinel.core.tables.forms import ShockRules

#: Above it a face shield with balaclava is not enough, a hood is (NFPA 70E-2021 table 130.5(G), from memory).
HOOD_ABOVE_CAL_CM2 = 12.0


def insulates(item: Item, voltage_v: float, current: str, rules: ShockRules, today: date) -> Sayable:
    """Why rubber goods do not do at a voltage (AC rms or DC between conductors), V; empty when they do."""
    if why := why_not(item, today):
        return why
    if CLASS not in item.kind.ratings:
        return say("gear-insulates-nothing", number=item.number)
    try:
        least = glove_class(voltage_v, current, rules)
    except OutOfRange as error:
        return error.said
    order = [g.name for g in rules.gloves]
    has = item.rating.glove_class
    if has not in order or order.index(has) < order.index(least.name):
        return say("gear-class-too-low", number=item.number, has=has, needs=least.name)
    return ""


def withstands_arc(item: Item, energy_cal_cm2: float, today: date) -> Sayable:
    """Why clothing does not do at an incident energy, cal/cm², at or above 1.2; empty when it does."""
    if why := why_not(item, today):
        return why
    rating = item.rating.arc_rating_cal_cm2
    if rating is None or not rating >= ARC_RATING_CAL_CM2.low:
        return say("gear-has-no-arc-rating", number=item.number)
    if not rating >= energy_cal_cm2:
        return say("gear-arc-rating-too-low", number=item.number, has_cal_cm2=rating, energy_cal_cm2=energy_cal_cm2)
    if HEAD in item.kind.zones and item.kind_id != "arc_hood" and not energy_cal_cm2 <= HOOD_ABOVE_CAL_CM2:
        return say("gear-a-hood-above", number=item.number, limit_cal_cm2=HOOD_ABOVE_CAL_CM2)
    return ""


def carries(item: Item, fault_ka: float, clearing_s: float, today: date) -> Sayable:
    """Why grounds do not do for a fault current, kA, that is cleared in so many s; empty when they do. Rated for a
    time, they are trusted with no longer one, and with no more current for a shorter."""
    if why := why_not(item, today):
        return why
    ka, seconds = item.rating.withstand_ka, item.rating.withstand_s
    if ka is None or seconds is None or not (ka >= fault_ka and seconds >= clearing_s):
        return say("gear-grounds-too-weak", number=item.number, fault_ka=fault_ka, clearing_s=clearing_s)
    return ""
