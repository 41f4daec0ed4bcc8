"""JSON Schema (draft 2020-12) of the network document, written out by ``spinel network schema``, with words to each.

Ranges come from core/quantities, so form, schema and core cannot disagree.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from spinel.core import quantities as q
from spinel.core.curves.relays import RELAYS
from spinel.core.curves.shapes import PRINCIPLES
from spinel.core.network import document as d
from spinel.core.network.basis import ORIGINS
from spinel.core.network.kinds import KINDS, ROWS
from spinel.core.network.upgrade import VERSION
from spinel.core.profile import profile_ids
from spinel.core.quantities import Quantity
from spinel.core.tables.conductors import CONDUITS, METALS
from spinel.core.tables.ieee1584_2018 import CONFIGURATIONS
from spinel.core.texts import PLATE, TAG

EQUIPMENT_CLASSES = (
    "medium-voltage switchgear", "low-voltage switchgear", "switchboard", "panelboard", "motor control center",
    "transformer", "cable junction box", "generator terminal box", "converter", "battery", "control panel",
    "outdoor terminal",
)  # fmt: skip

_ELEMENT_NUMBERS: dict[str, Quantity] = {
    "fault_mva_max": q.FAULT_MVA, "x_r_max": q.X_R, "fault_mva_min": q.FAULT_MVA, "x_r_min": q.X_R,
    "rated_kva": q.RATED_KVA, "impedance_pct": q.IMPEDANCE_PCT, "x_r": q.X_R,
    "xd_subtransient_pu": q.REACTANCE_PU, "xd_transient_pu": q.REACTANCE_PU, "fault_multiple": q.MULTIPLE,
    "fault_cease_s": q.SECONDS, "resistance_ohm": q.RESISTANCE_OHM, "reactance_ohm": q.REACTANCE_OHM,
    "length_m": q.LENGTH_M, "rated_a": q.RATED_A, "rated_voltage_v": q.RATED_VOLTAGE_V,
    "interrupting_ka": q.INTERRUPTING_KA, "short_circuit_ka": q.INTERRUPTING_KA, "test_x_r": q.X_R,
    "z0_z1": q.RATIO, "impedance_13_pct": q.IMPEDANCE_PCT, "impedance_23_pct": q.IMPEDANCE_PCT, "tap_pct": q.TAP_PCT,
    "tolerance_pct": q.TOLERANCE_PCT, "z0_pct": q.IMPEDANCE_PCT, "neutral_ohm": q.RESISTANCE_OHM,
    "x2_pu": q.REACTANCE_PU, "x0_pu": q.REACTANCE_PU, "r0_ohm": q.RESISTANCE_OHM, "x0_ohm": q.REACTANCE_OHM,
    "xd_sync_pu": q.REACTANCE_PU, "td_subtransient_s": q.SECONDS, "td_transient_s": q.SECONDS,
    "excitation_support_multiple": q.MULTIPLE, "excitation_support_s": q.SECONDS, "fault_for_s": q.SECONDS,
    "ohms_at_c": q.CONDUCTOR_C, "hot_c": q.CONDUCTOR_C, "discharge_min": q.MINUTES, "tolerates_min": q.MINUTES,
}  # fmt: skip
_FLAGS = (
    "isolating",
    "load_break",
    "fault_make",
    "lockable",
    "withdrawable",
    "remote",
    "induced_voltage",
    "neutral_grounded",
    "visible_break",
    "built_in_tester",
    "critical",
)


def number(quantity: Quantity) -> dict[str, Any]:
    low = "exclusiveMinimum" if quantity.low_exclusive else "minimum"
    return {"type": "number", low: quantity.low, "maximum": quantity.high, "unit": quantity.unit}


_TEXT = {"type": "string", "minLength": 1, "maxLength": 200}
_ID = {"type": "string", "minLength": 1, "maxLength": 64, "pattern": "^[A-Za-z0-9._-]+$"}
_TAG = {"type": "string", "pattern": f"^[A-Za-z0-9][A-Za-z0-9./_-]{{0,{TAG.most - 1}}}$"}
_FLAG = {"type": "boolean"}
_COUNT = {"type": "integer", "minimum": 1, "maximum": 1000}


def _object(properties: dict[str, Any], required: tuple[str, ...]) -> dict[str, Any]:
    return {"type": "object", "properties": properties, "required": list(required), "additionalProperties": False}


def _list(items: Any, least: int = 0) -> dict[str, Any]:
    return {"type": "array", "items": items, "minItems": least}


def _choice(*values: str) -> dict[str, Any]:
    return {"enum": list(values)}


#: Every curve of every standard; check_curve then looks at the pair.
_RELAY_CURVES = dict.fromkeys(curve for family in RELAYS.values() for curve in family)


def _bases() -> dict[str, Any]:
    said = _object(
        {"from": _choice(*ORIGINS), "on": {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}$"},
         "note": {"type": "string", "maxLength": PLATE.most}},
        ("from",),
    )  # fmt: skip
    return {"type": "object", "additionalProperties": said}


def _curve() -> dict[str, Any]:
    pair = {"type": "array", "prefixItems": [number(q.RATED_A), number(q.SECONDS)], "minItems": 2, "maxItems": 2}
    tolerance = {"type": "number", "minimum": 0, "maximum": 50}
    ground = {"ground_pickup_a": number(q.RATED_A), "ground_delay_s": number(q.SHORT_DELAY_S)}
    shapes = {
        "fuse": _object({"type": {"const": "fuse"}, "points": _list(pair, 2), "melting": _list(pair, 2)},
                        ("type", "points")),
        "trip": _object(
            {"type": {"const": "trip"}, "long_pickup_a": number(q.RATED_A), "long_delay_s": number(q.SECONDS),
             "short_pickup_a": number(q.RATED_A), "short_delay_s": number(q.SHORT_DELAY_S), "short_i2t": _FLAG,
             "interlock_delay_s": number(q.SHORT_DELAY_S), **ground, "ground_i2t": _FLAG,
             "instantaneous_a": number(q.RATED_A), "instantaneous_clearing_s": number(q.SECONDS),
             "tolerance_pct": tolerance},
            ("type", "long_pickup_a", "long_delay_s")),
        "thermal-magnetic": _object(
            {"type": {"const": "thermal-magnetic"}, "rated_a": number(q.RATED_A), "seconds_at_3x": number(q.SECONDS),
             "magnetic_a": number(q.RATED_A), "magnetic_clearing_s": number(q.SECONDS), "tolerance_pct": tolerance},
            ("type", "rated_a", "seconds_at_3x", "magnetic_a")),
        "unit": _object(
            {"type": {"const": "unit"}, "principle": _choice(*PRINCIPLES), "pickup_a": number(q.RATED_A),
             "operating_s": number(q.SECONDS), "breaker_s": number(q.SECONDS), "tolerance_pct": tolerance},
            ("type", "principle", "pickup_a", "operating_s", "breaker_s")),
        "relay": _object(
            {"type": {"const": "relay"}, "standard": _choice(*RELAYS), "curve": _choice(*_RELAY_CURVES),
             "pickup_a": number(q.RATED_A),
             "dial": number(q.MULTIPLE), "breaker_s": number(q.SECONDS), "instantaneous_a": number(q.RATED_A),
             "instantaneous_s": number(q.SECONDS), **ground,
             "flat_above": {"type": "number", "minimum": 2, "maximum": 100}, "tolerance_pct": tolerance},
            ("type", "curve", "pickup_a", "dial", "breaker_s")),
        "fixed": _object({"type": {"const": "fixed"}, "clearing_s": number(q.SECONDS)}, ("type", "clearing_s")),
    }  # fmt: skip
    branches: list[dict[str, Any]] = [
        {"if": {"properties": {"type": {"const": kind}}, "required": ["type"]}, "then": shape}
        for kind, shape in shapes.items()
    ]
    return {"type": "object", "required": ["type"], "properties": {"type": _choice(*shapes)}, "allOf": branches}


def _element() -> dict[str, Any]:
    properties: dict[str, Any] = {
        "id": _ID, "tag": _TAG, "kind": _choice(*KINDS), "ends": _list(_ID, 1),
        "name": {"type": "string", "maxLength": PLATE.most}, "location": {"type": "string", "maxLength": PLATE.most},
        "operated_by": {"type": "string", "maxLength": PLATE.most},
        "serves": {"type": "string", "maxLength": PLATE.most}, "notify": {"type": "string", "maxLength": PLATE.most},
        "size": {"type": "string", "maxLength": 40},
        "normal_position": _choice("open", "closed", "normal", "emergency", "off"),
        "normal_state": _choice("running", "stopped", "inverter", "battery", "bypass"),
        "runs_parallel_with": _list(_TAG),
        "stored_energy": _list(_choice("electrical", "spring", "pressure", "gravity")),
        "curve": _curve(), "maintenance_curve": _curve(), "zone_curve": _curve(),
        "zone": _list(_ID, 1), "restrained_by": _list(_TAG, 1),
        "conductor": _choice(*METALS), "conductor_size": {"type": "string", "maxLength": 12},
        "conduit": _choice(*CONDUITS), "per_phase": _COUNT, "motors": _COUNT,
        "rated_voltages_v": _list(number(q.RATED_VOLTAGE_V), 2),
        "vector_group": {"type": "string", "pattern": "^[A-Za-z0-9]{2,12}$"},
        "construction": _choice(*d.CONSTRUCTIONS), "basis": _bases(),
        **{name: _FLAG for name in _FLAGS},
        **{name: number(quantity) for name, quantity in _ELEMENT_NUMBERS.items()},
    }  # fmt: skip
    element = _object(properties, ("id", "tag", "kind", "ends"))
    element["allOf"] = [
        {"if": {"properties": {"kind": {"const": kind}}}, "then": {"required": list(names)}}
        for kind, names in ((k.id, k.required) for k in ROWS if k.required)
    ]
    return element


def _enclosure() -> dict[str, Any]:
    supply = _object(
        {"name": _TEXT, "voltage_v": number(q.NOMINAL_VOLTAGE_V), "current": _choice("ac", "dc"),
         "source": _TEXT, "isolated_by": _TAG},
        ("name", "voltage_v", "current", "source"),
    )  # fmt: skip
    compartment = _object({"id": _ID, "name": _TEXT, "nodes": _list(_ID), "devices": _list(_TAG)},
                          ("id", "name", "nodes"))  # fmt: skip
    side = number(q.ENCLOSURE_SIDE_MM)
    return _object(
        {"id": _ID, "name": _TEXT, "equipment_class": _choice(*EQUIPMENT_CLASSES), "height_mm": side,
         "width_mm": side, "depth_mm": side, "electrode_configuration": _choice(*CONFIGURATIONS),
         "gap_mm": number(q.GAP_MM), "working_distance_mm": number(q.WORKING_DISTANCE_MM),
         "compartments": _list(compartment, 1), "barriers": _list(_list(_ID, 2), 1),
         "escape_clear": _FLAG, "auxiliary_supplies": _list(supply), "basis": _bases()},
        ("id", "name", "equipment_class"),
    )  # fmt: skip


@lru_cache(maxsize=1)
def schema() -> dict[str, Any]:
    """The whole schema as a JSON-serialisable dictionary."""
    node = _object(
        {"id": _ID, "nominal_voltage_v": number(q.NOMINAL_VOLTAGE_V), "current": _choice("ac", "dc"),
         "phases": {"enum": [1, 3]}, "neutral": _FLAG,
         "grounding": _choice("solid", "resistance", "ungrounded", "unknown"), "enclosure": _ID,
         "basis": _bases()},
        ("id", "nominal_voltage_v", "current"),
    )  # fmt: skip
    settings = {
        "state": _choice("running", "stopped", "inverter", "battery", "bypass"),
        "strength": _choice("maximum", "minimum"),
        "reactance": _choice("subtransient", "transient"),
    }
    case = _object(
        {"id": _ID, "name": _TEXT,
         "sources": {"type": "object", "additionalProperties": _object(settings, ())},
         "positions": {"type": "object",
                       "additionalProperties": _choice("open", "closed", "normal", "emergency", "off")},
         "settings": {"type": "object", "additionalProperties": _choice("maintenance")},
         "impedances": _choice("maximum", "minimum", "nominal")},
        ("id", "name"),
    )  # fmt: skip
    site = _object(
        {"name": _TEXT, "time_zone": _TEXT, "profile": _choice(*profile_ids()), "frequency_hz": {"enum": [50, 60]}},
        ("name", "time_zone", "profile"),
    )
    whole = _object(
        {"format": {"const": d.FORMAT}, "version": {"const": VERSION}, "site": site, "nodes": _list(node, 1),
         "enclosures": _list(_enclosure()), "elements": _list(_element(), 1), "cases": _list(case, 1)},
        ("format", "version", "site", "nodes", "enclosures", "elements", "cases"),
    )  # fmt: skip
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Spinel network", **whole}
