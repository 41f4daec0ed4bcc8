"""What is asked of each kind of equipment, in the order in which its plate and its papers tell it.

A row is a field of the document. What no row names (a zone, what holds it back, a picture of its compartments) is kept
as it is and edited in the document.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core import quantities as q
from spinel.core.network.document import CONSTRUCTIONS
from spinel.core.network.kinds import KIND
from spinel.core.network.schema import EQUIPMENT_CLASSES
from spinel.core.quantities import Quantity
from spinel.core.tables.conductors import CONDUITS, IEC_60228, METALS, NEC_TABLE_9
from spinel.core.tables.ieee1584_2018 import CONFIGURATIONS
from spinel.core.texts import PLATE

NUMBER, CHOICE, TEXT, YES, COUNT, MANY, CURVE = "number", "choice", "text", "yes", "count", "many", "curve"


@dataclass(frozen=True)
class PlateRow:
    """A field. ``form``: how it is typed. ``options``: of a choice, or of several."""

    field: str
    form: str
    quantity: Quantity | None = None
    options: tuple[str, ...] = ()
    most: int = PLATE.most


def _n(field: str, quantity: Quantity) -> PlateRow:
    return PlateRow(field, NUMBER, quantity)


def _yes(*fields: str) -> tuple[PlateRow, ...]:
    return tuple(PlateRow(f, YES) for f in fields)


#: Metric and American sizes, each as its table names it.
SIZES = (*NEC_TABLE_9, *(f"{s}mm2" for s in IEC_60228))
_HEAD = (PlateRow("name", TEXT), PlateRow("location", TEXT))
_TAIL = (PlateRow("serves", TEXT), PlateRow("notify", TEXT), *_yes("critical"), _n("tolerates_min", q.MINUTES))
_POSITION = PlateRow("normal_position", CHOICE, options=("closed", "open"))
_RUNNING = PlateRow("normal_state", CHOICE, options=("running", "stopped"))
_STORED = PlateRow("stored_energy", MANY, options=("electrical", "spring", "pressure", "gravity"))
_PROVING = _yes("isolating", "load_break", "fault_make", "lockable", "withdrawable", "visible_break", "remote",
                "built_in_tester")  # fmt: skip
_RATED = (_n("rated_voltage_v", q.RATED_VOLTAGE_V), _n("rated_a", q.RATED_A))
_BREAKS = (*_RATED, _n("interrupting_ka", q.INTERRUPTING_KA), PlateRow("construction", CHOICE, options=CONSTRUCTIONS),
           _n("test_x_r", q.X_R), PlateRow("curve", CURVE), PlateRow("maintenance_curve", CURVE))  # fmt: skip
_BEARS = (*_RATED, _n("short_circuit_ka", q.INTERRUPTING_KA))
_MACHINE = (_n("xd_subtransient_pu", q.REACTANCE_PU), _n("x_r", q.X_R))

_OWN: dict[str, tuple[PlateRow, ...]] = {
    "source": (_n("fault_mva_max", q.FAULT_MVA), _n("x_r_max", q.X_R), _n("fault_mva_min", q.FAULT_MVA),
               _n("x_r_min", q.X_R), _n("z0_z1", q.RATIO), PlateRow("operated_by", TEXT)),
    "breaker": (*_BREAKS, _POSITION, *_PROVING, _STORED, PlateRow("operated_by", TEXT)),
    "fuse": (*_BREAKS[:-1], _POSITION, *_PROVING),
    "contactor": (*_BREAKS[:-1], _POSITION, *_yes("load_break", "lockable")),
    "switch": (*_BEARS, _POSITION, *_PROVING, PlateRow("operated_by", TEXT)),
    "disconnector": (*_BEARS, _POSITION, *_PROVING, PlateRow("operated_by", TEXT)),
    "transfer_switch": (*_BEARS, PlateRow("normal_position", CHOICE, options=("normal", "emergency", "off")),
                        *_yes("load_break", "lockable")),
    "transformer": (_n("rated_kva", q.RATED_KVA), PlateRow("vector_group", TEXT, most=12),
                    _n("impedance_pct", q.IMPEDANCE_PCT), _n("x_r", q.X_R), _n("tolerance_pct", q.TOLERANCE_PCT),
                    _n("tap_pct", q.TAP_PCT), _n("z0_pct", q.IMPEDANCE_PCT), _n("neutral_ohm", q.RESISTANCE_OHM)),
    "generator": (_n("rated_kva", q.RATED_KVA), _n("xd_subtransient_pu", q.REACTANCE_PU),
                  _n("xd_transient_pu", q.REACTANCE_PU), _n("xd_sync_pu", q.REACTANCE_PU),
                  _n("td_subtransient_s", q.SECONDS), _n("td_transient_s", q.SECONDS), _n("x_r", q.X_R),
                  _n("excitation_support_multiple", q.MULTIPLE), _n("excitation_support_s", q.SECONDS), _RUNNING),
    "motor": (_n("rated_kva", q.RATED_KVA), PlateRow("motors", COUNT), *_MACHINE, _STORED, _RUNNING),
    "cable": (PlateRow("conductor_size", CHOICE, options=SIZES), PlateRow("conductor", CHOICE, options=METALS),
              PlateRow("per_phase", COUNT), _n("length_m", q.LENGTH_M), PlateRow("conduit", CHOICE, options=CONDUITS),
              _n("resistance_ohm", q.RESISTANCE_OHM), _n("reactance_ohm", q.REACTANCE_OHM)),
    "busway": (_n("length_m", q.LENGTH_M), _n("resistance_ohm", q.RESISTANCE_OHM),
               _n("reactance_ohm", q.REACTANCE_OHM), *_BEARS),
    "reactor": (_n("resistance_ohm", q.RESISTANCE_OHM), _n("reactance_ohm", q.REACTANCE_OHM)),
    "bus": _BEARS,
    "inverter": (_n("rated_kva", q.RATED_KVA), _n("fault_multiple", q.MULTIPLE), _n("fault_cease_s", q.SECONDS),
                 _n("discharge_min", q.MINUTES), _RUNNING),
    "rectifier": (_n("rated_kva", q.RATED_KVA), _n("discharge_min", q.MINUTES)),
    "ups": (_n("rated_kva", q.RATED_KVA), _n("fault_multiple", q.MULTIPLE), _n("fault_for_s", q.SECONDS),
            _n("discharge_min", q.MINUTES),
            PlateRow("normal_state", CHOICE, options=("inverter", "battery", "bypass"))),
    "shore_connection": (_n("rated_kva", q.RATED_KVA), _n("fault_multiple", q.MULTIPLE), _n("fault_cease_s", q.SECONDS),
                         _RUNNING),
    "capacitor": (_n("rated_kva", q.RATED_KVA), _n("discharge_min", q.MINUTES)),
    "battery": (), "load": (_n("rated_kva", q.RATED_KVA),),
    "ground_switch": (_n("rated_voltage_v", q.RATED_VOLTAGE_V),),
}  # fmt: skip
#: Of a node, and of the enclosure that it is in.
NODE = (
    _n("nominal_voltage_v", q.NOMINAL_VOLTAGE_V), PlateRow("current", CHOICE, options=("ac", "dc")),
    PlateRow("neutral", YES),
    PlateRow("grounding", CHOICE, options=("solid", "resistance", "ungrounded", "unknown")),
)  # fmt: skip
ENCLOSURE = (
    PlateRow("name", TEXT), PlateRow("equipment_class", CHOICE, options=EQUIPMENT_CLASSES),
    PlateRow("electrode_configuration", CHOICE, options=CONFIGURATIONS), _n("gap_mm", q.GAP_MM),
    _n("height_mm", q.ENCLOSURE_SIDE_MM), _n("width_mm", q.ENCLOSURE_SIDE_MM), _n("depth_mm", q.ENCLOSURE_SIDE_MM),
    _n("working_distance_mm", q.WORKING_DISTANCE_MM), PlateRow("escape_clear", YES),
)  # fmt: skip


def plate(kind: str) -> tuple[PlateRow, ...]:
    """The fields of a kind, in the order of its plate."""
    return (*_HEAD, *_OWN[kind], *_TAIL)


def needed(kind: str) -> tuple[str, ...]:
    """Fields without which a document is not accepted."""
    return KIND[kind].required
