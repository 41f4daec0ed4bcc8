"""Kinds of gear: what each is rated by and where it is worn. How often it is tested, the practice says."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from spinel.core.errors import NotFound
from spinel.core.isolation.instruments import CONTACT, DETECTOR, LOW_IMPEDANCE
from spinel.core.quantities import NOMINAL_VOLTAGE_V, Quantity

ARC_RATING_CAL_CM2 = Quantity("arc_rating_cal_cm2", "cal/cm²", 1, 200)
WITHSTAND_KA = Quantity("withstand_ka", "kA", 0.5, 200)
WITHSTAND_S = Quantity("withstand_s", "s", 0.05, 10)
#: Numbers on the item itself, by field.
NUMBERS: Mapping[str, Quantity] = {
    "low_v": NOMINAL_VOLTAGE_V, "high_v": NOMINAL_VOLTAGE_V, "arc_rating_cal_cm2": ARC_RATING_CAL_CM2,
    "withstand_ka": WITHSTAND_KA, "withstand_s": WITHSTAND_S,
}  # fmt: skip
CATEGORY, CLASS, CURRENTS = "category", "glove_class", "currents"

MEASURING, RUBBER, CLOTHING, GROUNDING, TOOLS, PLACE = "measuring", "rubber", "clothing", "grounding", "tools", "place"
GROUPS = (MEASURING, RUBBER, CLOTHING, GROUNDING, TOOLS, PLACE)
HEAD, TRUNK, LEGS, HANDS = "head", "trunk", "legs", "hands"
#: Where somebody wears something, from above.
ZONES = (HEAD, TRUNK, HANDS, LEGS)


@dataclass(frozen=True, kw_only=True)
class GearKind:
    """``ratings``: what is read off it and must be recorded. ``zones``: what of the body it covers."""

    id: str
    group: str
    ratings: tuple[str, ...] = ()
    sized: bool = False
    zones: tuple[str, ...] = ()


_METER = ("low_v", "high_v", CATEGORY, CURRENTS)
_ARC = ("arc_rating_cal_cm2",)

KINDS: Mapping[str, GearKind] = {
    k.id: k for k in (
        GearKind(id=CONTACT, group=MEASURING, ratings=_METER),
        GearKind(id=LOW_IMPEDANCE, group=MEASURING, ratings=_METER),
        GearKind(id=DETECTOR, group=MEASURING, ratings=("low_v", "high_v", CURRENTS)),
        GearKind(id="leads", group=MEASURING, ratings=("high_v", CATEGORY)),
        GearKind(id="proving_unit", group=MEASURING, ratings=("low_v", "high_v", CURRENTS)),
        GearKind(id="fixed_tester", group=MEASURING, ratings=("low_v", "high_v", CURRENTS)),
        GearKind(id="gloves", group=RUBBER, ratings=(CLASS,), sized=True, zones=(HANDS,)),
        GearKind(id="sleeves", group=RUBBER, ratings=(CLASS,), sized=True),
        GearKind(id="protectors", group=RUBBER, sized=True),
        GearKind(id="blanket", group=RUBBER, ratings=(CLASS,)),
        GearKind(id="mat", group=RUBBER, ratings=(CLASS,)),
        GearKind(id="arc_shirt", group=CLOTHING, ratings=_ARC, sized=True, zones=(TRUNK,)),
        GearKind(id="arc_trousers", group=CLOTHING, ratings=_ARC, sized=True, zones=(LEGS,)),
        GearKind(id="arc_coverall", group=CLOTHING, ratings=_ARC, sized=True, zones=(TRUNK, LEGS)),
        GearKind(id="arc_jacket", group=CLOTHING, ratings=_ARC, sized=True, zones=(TRUNK,)),
        GearKind(id="arc_bib", group=CLOTHING, ratings=_ARC, sized=True, zones=(LEGS,)),
        GearKind(id="arc_shield", group=CLOTHING, ratings=_ARC, zones=(HEAD,)),
        GearKind(id="arc_hood", group=CLOTHING, ratings=_ARC, zones=(HEAD,)),
        GearKind(id="arc_gloves", group=CLOTHING, ratings=_ARC, sized=True, zones=(HANDS,)),
        GearKind(id="grounds", group=GROUNDING, ratings=("withstand_ka", "withstand_s")),
        GearKind(id="insulated_tools", group=TOOLS, ratings=("high_v",)),
        GearKind(id="hot_stick", group=TOOLS, ratings=("high_v",)),
        GearKind(id="rescue_hook", group=TOOLS, ratings=("high_v",)),
        GearKind(id="lock", group=PLACE),
        GearKind(id="barricade", group=PLACE),
        GearKind(id="light", group=PLACE),
    )
}  # fmt: skip
#: Those that prove absence of voltage, one at a time.
INSTRUMENTS = (CONTACT, LOW_IMPEDANCE, DETECTOR)
#: What an instrument is used with: what it showed rests on them too.
WITH_INSTRUMENTS = ("leads", "proving_unit")


def kind(kind_id: str) -> GearKind:
    """The kind with this id, or NotFound."""
    try:
        return KINDS[kind_id]
    except KeyError:
        raise NotFound("kind of gear", kind_id) from None
