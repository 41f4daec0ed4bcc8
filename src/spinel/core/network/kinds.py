"""What a kind of element is: one row each. A new kind is one row here, its symbol, and a model where it needs one.

Everything that rules, fault currents, drawing and checks ask of a kind is asked of its row.
"""

from __future__ import annotations

from dataclasses import dataclass

FEEDS, STAND_BY = "feeds", "stand_by"
POSITION = ("normal_position", "rated_voltage_v")


@dataclass(frozen=True, kw_only=True)
class Kind:
    """``ends``: how many it may have. ``size``: of its symbol, drawing units. ``required``: what it must say beyond
    id, tag, kind and ends.

    ``switches``: opens and closes, so joins its ends or not. ``interrupts``: may clear a fault by its own curve.
    ``never_isolates``: whatever is recorded of it. ``withstands``: bears a fault without interrupting it.
    ``supplies``: ``feeds`` whatever is recorded of it, ``stand_by``: may feed until it is recorded that it does not.
    ``own_voltage``: feeds with a frequency of its own; what follows the network that it is joined to does not.
    ``fault_source``: has a model of the current that it gives to a fault. ``may_turn``: running is found or not.
    ``holds_charge``: keeps electrical energy when it is cut off. ``back_feeds``: may feed for another reason (a shaft,
    a charge, a DC link). ``converts``: joins AC and DC, or two frequencies. ``conductor``: a resistance and a
    reactance between two nodes of one voltage. ``never_dead``: cannot be switched off at its own terminals.
    ``phased``: connected anew, its phases may be exchanged.
    ``root``: where it stands among what a drawing begins with. ``plated``: its data stand on a plate beside it.
    """

    id: str
    ends: tuple[int, ...]
    size: tuple[float, float]
    required: tuple[str, ...] = ()
    switches: bool = False
    interrupts: bool = False
    never_isolates: bool = False
    withstands: bool = False
    supplies: str = ""
    own_voltage: bool = False
    fault_source: bool = False
    may_turn: bool = False
    holds_charge: bool = False
    back_feeds: bool = False
    converts: bool = False
    conductor: bool = False
    never_dead: bool = False
    phased: bool = False
    root: int | None = None
    plated: bool = False


ROWS = (
    Kind(id="breaker", ends=(2,), size=(14, 14), required=POSITION, switches=True,
         interrupts=True),
    Kind(id="switch", ends=(2,), size=(14, 14), required=POSITION, switches=True,
         withstands=True),
    Kind(id="disconnector", ends=(2,), size=(14, 14), required=POSITION, switches=True,
         withstands=True),
    # isolates only when it is withdrawn: core/isolation/able
    Kind(id="fuse", ends=(2,), size=(10, 20), required=POSITION, switches=True, interrupts=True),
    Kind(id="contactor", ends=(2,), size=(14, 14), required=POSITION, switches=True,
         interrupts=True, never_isolates=True),
    Kind(id="transfer_switch", ends=(3,), size=(36, 40), required=POSITION, switches=True,
         never_isolates=True, withstands=True),
    Kind(id="inverter", ends=(1, 2), size=(32, 26),
         required=("rated_kva", "fault_multiple", "normal_state"), converts=True, never_isolates=True,
         supplies=STAND_BY, fault_source=True, may_turn=True, root=4),
    Kind(id="rectifier", ends=(1, 2), size=(32, 26), converts=True, never_isolates=True,
         holds_charge=True, back_feeds=True),
    Kind(id="ups", ends=(2,), size=(32, 26), converts=True, never_isolates=True, supplies=FEEDS,
         own_voltage=True, fault_source=True, root=2),
    Kind(id="source", ends=(1,), size=(28, 24),
         required=("fault_mva_max", "x_r_max", "fault_mva_min", "x_r_min"), supplies=FEEDS, own_voltage=True,
         fault_source=True, never_dead=True, root=0, plated=True),
    Kind(id="generator", ends=(1,), size=(28, 28),
         required=("rated_kva", "xd_subtransient_pu", "x_r", "normal_state"), supplies=STAND_BY, own_voltage=True,
         fault_source=True, may_turn=True, phased=True, root=1, plated=True),
    Kind(id="bus", ends=(1,), size=(28, 6), withstands=True),
    Kind(id="motor", ends=(1,), size=(26, 26), required=("rated_kva", "xd_subtransient_pu", "x_r"),
         fault_source=True, may_turn=True, back_feeds=True),
    Kind(id="capacitor", ends=(1,), size=(24, 16), holds_charge=True, back_feeds=True),
    Kind(id="battery", ends=(1,), size=(24, 20), supplies=FEEDS, own_voltage=True, never_dead=True,
         root=3),
    Kind(id="load", ends=(1,), size=(18, 20)),
    Kind(id="shore_connection", ends=(1,), size=(36, 24),
         required=("rated_kva", "fault_multiple", "normal_state"), supplies=STAND_BY, own_voltage=True,
         fault_source=True, may_turn=True, root=5),
    Kind(id="ground_switch", ends=(1,), size=(20, 20)),
    Kind(id="transformer", ends=(2, 3), size=(30, 46),
         required=("rated_kva", "impedance_pct", "x_r"), phased=True, plated=True),
    Kind(id="cable", ends=(2,), size=(10, 12), conductor=True, phased=True),
    Kind(id="busway", ends=(2,), size=(14, 12), required=("resistance_ohm", "reactance_ohm"),
         conductor=True, withstands=True, phased=True),
    Kind(id="reactor", ends=(2,), size=(14, 24), required=("reactance_ohm",), conductor=True),
)  # fmt: skip
KIND = {row.id: row for row in ROWS}
KINDS = tuple(KIND)

#: Kinds that open and close, and so join their ends or not.
SWITCHING = tuple(k.id for k in ROWS if k.switches)
#: Kinds that may interrupt a fault by their own curve.
PROTECTIVE = tuple(k.id for k in ROWS if k.interrupts)
#: Grounds what it stands at; moves only by grounding and taking the ground off.
GROUND_SWITCH = "ground_switch"
CONVERTERS = tuple(k.id for k in ROWS if k.converts)
#: Conductors and coils in series.
SERIES = tuple(k.id for k in ROWS if k.conductor)
#: Kinds that feed, or may feed, without anything that a person could block or discharge.
SUPPLIES = tuple(k.id for k in ROWS if k.supplies)
