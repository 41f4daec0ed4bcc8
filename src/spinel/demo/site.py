"""The demo's network: Skerrow Point Ferry Terminal, an invented place that charges electric ferries.

Every rating, setting and name here is made up. Cable impedances come from core/tables/conductors.
"""

from __future__ import annotations

import copy
import uuid
from typing import Any

from spinel.core.tables.conductors import FEET_PER_M, nec_ohm_per_1000_ft

_SPACE = uuid.UUID("5b1f7f5e-3a51-4c8e-9a7f-0d2c5e51a001")
KV12, V480 = 12_470, 480


def element_id(tag: str) -> str:
    """The demo's elements keep the same id in every build."""
    return str(uuid.uuid5(_SPACE, tag))


def _element(tag: str, kind: str, ends: list[str], name: str, location: str, **ratings: Any) -> dict[str, Any]:
    return {
        "id": element_id(tag), "tag": tag, "kind": kind, "ends": ends, "name": name, "location": location, **ratings
    }  # fmt: skip


def _cable(tag: str, a: str, b: str, length_m: float, size: str, per_phase: int, location: str) -> dict[str, Any]:
    r, x = nec_ohm_per_1000_ft(size)
    thousand_feet = length_m * FEET_PER_M / 1000
    return _element(
        tag, "cable", [a, b], f"{per_phase} x {size} copper per phase, {length_m:g} m", location,
        resistance_ohm=round(r * thousand_feet / per_phase, 7),
        reactance_ohm=round(x * thousand_feet / per_phase, 7), length_m=length_m, size=f"{per_phase} x {size}",
    )  # fmt: skip


def _breaker(
    tag: str, a: str, b: str, name: str, location: str, rated_a: float, interrupting_ka: float,
    curve: dict[str, Any], rated_voltage_v: float = 600, position: str = "closed", **more: Any,
) -> dict[str, Any]:  # fmt: skip
    return _element(
        tag, "breaker", [a, b], name, location, normal_position=position, rated_voltage_v=rated_voltage_v,
        rated_a=rated_a, interrupting_ka=interrupting_ka, curve=curve, isolating=True, load_break=True,
        fault_make=True, lockable=True, **more,
    )  # fmt: skip


def _trip(long_a: float, delay: float, short_a: float | None = None, short_s: float | None = None,
          instant_a: float | None = None) -> dict[str, Any]:  # fmt: skip
    curve: dict[str, Any] = {"type": "trip", "long_pickup_a": long_a, "long_delay_s": delay}
    if short_a is not None:
        curve |= {"short_pickup_a": short_a, "short_delay_s": short_s}
    if instant_a is not None:
        curve["instantaneous_a"] = instant_a
    return curve


def _relay(pickup_a: float, dial: float, instant_a: float) -> dict[str, Any]:
    return {"type": "relay", "curve": "VI", "pickup_a": pickup_a, "dial": dial, "breaker_s": 0.083,
            "instantaneous_a": instant_a}  # fmt: skip


def _node(id_: str, volts: float, enclosure: str, current: str = "ac", **more: Any) -> dict[str, Any]:
    return {"id": id_, "nominal_voltage_v": volts, "current": current, "enclosure": enclosure,
            "grounding": "solid" if current == "ac" else "ungrounded", **more}  # fmt: skip


def _box(id_: str, name: str, kind: str, size: tuple[float, float, float] | None, configuration: str | None,
         gap: float | None, distance: float | None, **more: Any) -> dict[str, Any]:  # fmt: skip
    box: dict[str, Any] = {"id": id_, "name": name, "equipment_class": kind}
    if size:
        box |= {"height_mm": size[0], "width_mm": size[1], "depth_mm": size[2]}
    values = {"electrode_configuration": configuration, "gap_mm": gap, "working_distance_mm": distance}
    return box | {k: v for k, v in values.items() if v is not None} | more


def _room(id_: str, name: str, nodes: list[str], devices: list[str] | None = None) -> dict[str, Any]:
    return {"id": id_, "name": name, "nodes": nodes, "devices": devices or []}


MCC_BOX, SWB_BOX, MV_BOX = (355.6, 304.8, 203.2), (508.0, 508.0, 508.0), (914.4, 914.4, 914.4)
PANEL_BOX = (355.6, 304.8, 203.2)

ENCLOSURES = [
    _box("e-u", "Utility terminal pole", "outdoor terminal", None, "VOA", 152, 914, escape_clear=True),
    _box("e-g0", "Grid pole", "outdoor terminal", None, "VOA", 152, 914, escape_clear=True),
    _box("e-swg", "SWG-1", "medium-voltage switchgear", MV_BOX, "VCB", 152, 914, escape_clear=True,
         compartments=[_room("bus", "Bus compartment", ["n-swg"]),
                       _room("intake", "Breaker compartment of 52-U", [], ["52-U"]),
                       _room("t1", "Breaker and cable compartment of 52-T1", ["n-t1c"], ["52-T1"]),
                       _room("t2", "Breaker and cable compartment of 52-T2", ["n-t2c"], ["52-T2"])],
         barriers=[["bus", "intake", "t1", "t2"]],
         auxiliary_supplies=[{"name": "Closing and spring-charging supply", "voltage_v": 120, "current": "ac",
                              "source": "EDP-1 through CP-1", "isolated_by": "EDP-9"}]),
    _box("e-t1", "T1 terminal chambers", "transformer", SWB_BOX, "VCB", 32, 610),
    _box("e-t2", "T2 terminal chambers", "transformer", SWB_BOX, "VCB", 32, 610),
    _box("e-t1p", "T1 primary chamber", "transformer", MV_BOX, "VCB", 152, 914),
    _box("e-t2p", "T2 primary chamber", "transformer", MV_BOX, "VCB", 152, 914),
    _box("e-swb-a", "SWB-A", "switchboard", SWB_BOX, "VCB", 32, 610, escape_clear=True),
    _box("e-swb-b", "SWB-B", "low-voltage switchgear", SWB_BOX, "VCB", 32, 610,
         compartments=[_room("bus", "Bus, tie and feeders", ["n-b", "n-fb1", "n-fb2", "n-fb3"],
                             ["52-TIE", "F-B1", "F-B2", "F-B3"]),
                       _room("line", "Line terminals of 52-B", ["n-bl"], ["52-B"])],
         barriers=[["bus", "line"]]),
    _box("e-mc1", "MC1", "motor control center", MCC_BOX, "VCB", 25, 455),
    _box("e-mc2", "MC2", "motor control center", MCC_BOX, "VCB", 25, 455),
    _box("e-edp", "EDP-1", "panelboard", PANEL_BOX, "VCB", 25, 455),
    _box("e-ats", "ATS-1", "switchboard", SWB_BOX, "VCB", 32, 610),
    _box("e-g", "G-1 terminal box", "generator terminal box", SWB_BOX, "VCB", 32, 455, escape_clear=True),
    _box("e-52g", "G-1 breaker cabinet", "switchboard", SWB_BOX, "VCB", 32, 455, escape_clear=True),
    _box("e-qpv", "PV-1 roof disconnect", "panelboard", PANEL_BOX, "VCB", 25, 455),
    _box("e-qch", "Charger disconnect", "panelboard", PANEL_BOX, "VCB", 25, 455),
    _box("e-qsc", "Berth 1 disconnect", "outdoor terminal", SWB_BOX, "VCB", 32, 610),
    _box("e-pv", "PV-1 cabinet", "converter", PANEL_BOX, "VCB", 25, 455),
    _box("e-ch", "CH-1 cabinet", "converter", SWB_BOX, "VCB", 32, 610),
    _box("e-dcb", "DCB-1 and battery racks", "battery", None, None, None, 455),
    _box("e-sc", "Berth 1 plug tower", "outdoor terminal", SWB_BOX, "VCB", 32, 610),
    _box("e-ctl", "Gate control box", "control panel", None, None, None, 455),
    *[_box(f"e-{m}", f"{m.upper()} terminal box", "cable junction box", PANEL_BOX, "VCB", 25, 455)
      for m in ("p21", "h1", "p31", "p32", "fp1")],
]  # fmt: skip

NODES = [
    _node("n-pole", KV12, "e-g0"), _node("n-u", KV12, "e-u"), _node("n-swg", KV12, "e-swg"),
    _node("n-t1c", KV12, "e-swg"), _node("n-t2c", KV12, "e-swg"),
    _node("n-t1p", KV12, "e-t1p"), _node("n-t2p", KV12, "e-t2p"),
    _node("n-t1s", V480, "e-t1", neutral=True), _node("n-t2s", V480, "e-t2", neutral=True),
    _node("n-al", V480, "e-swb-a", neutral=True), _node("n-bl", V480, "e-swb-b", neutral=True),
    _node("n-a", V480, "e-swb-a", neutral=True), _node("n-b", V480, "e-swb-b", neutral=True),
    *[_node(f"n-fa{i}", V480, "e-swb-a") for i in (1, 2, 3, 4)],
    *[_node(f"n-fb{i}", V480, "e-swb-b") for i in (1, 2, 3)],
    _node("n-mc1", V480, "e-mc1"), _node("n-mc2", V480, "e-mc2"),
    _node("n-2b", V480, "e-mc1"), _node("n-4a", V480, "e-mc1"),
    _node("n-1d", V480, "e-mc2"), _node("n-22b", V480, "e-mc2"), _node("n-fpl", V480, "e-edp"),
    *[_node(f"n-{m}", V480, f"e-{m}") for m in ("p21", "h1", "p31", "p32", "fp1")],
    _node("n-atsn", V480, "e-ats"), _node("n-atse", V480, "e-ats"), _node("n-g", V480, "e-g"),
    _node("n-edp", V480, "e-edp"), _node("n-gl", V480, "e-52g"), _node("n-psu", V480, "e-edp"),
    _node("n-cp", V480, "e-edp"), _node("n-pvd", V480, "e-qpv"), _node("n-scd", V480, "e-qsc"),
    _node("n-chd", V480, "e-qch"),
    _node("n-24", 24, "e-ctl", "dc"), _node("n-pv", V480, "e-pv"), _node("n-ch", V480, "e-ch"),
    _node("n-chq", 750, "e-dcb", "dc"), _node("n-dcb", 750, "e-dcb", "dc"), _node("n-sc", V480, "e-sc"),
]  # fmt: skip

LV_ROOM, MV_ROOM, GALLERY, PUMPS, STORE = "LV switch room", "MV room", "Pump gallery", "Pump house", "Energy hall"


def _motor(tag: str, node: str, name: str, location: str, kva: float, **more: Any) -> dict[str, Any]:
    return _element(tag, "motor", [node], name, location, rated_kva=kva, xd_subtransient_pu=0.2, x_r=8, **more)


ELEMENTS = [
    _element("U-1", "source", ["n-pole"], "Utility intake", "Yard", fault_mva_max=350, x_r_max=12,
             fault_mva_min=220, x_r_min=9),
    # the utility's own: it opens, looks and locks for the site, by its paper
    _element("Q-U1", "switch", ["n-pole", "n-u"], "Pole switch of the utility", "Yard", normal_position="closed",
             rated_voltage_v=15_000, rated_a=630, short_circuit_ka=25, isolating=True, lockable=True, load_break=True,
             fault_make=True, visible_break=True, operated_by="Skerrow Grid control room, 555-0160"),
    _breaker("52-U", "n-u", "n-swg", "Intake breaker", MV_ROOM, 600, 25, _relay(320, 3, 9_000), 15_000,
             withdrawable=True, remote=True, stored_energy=["spring"]),
    _element("SWG-1", "bus", ["n-swg"], "Medium-voltage switchgear", MV_ROOM, rated_a=600,
             rated_voltage_v=15_000, short_circuit_ka=25),
    *[_breaker(f"52-T{i}", "n-swg", f"n-t{i}c", f"Transformer {i} feeder", MV_ROOM, 600, 25,
               _relay(100, dial, 1_600), 15_000, withdrawable=True, remote=True,
               stored_energy=["spring"]) for i, dial in ((1, 0.8), (2, 1.6))],
    _cable("W-T1", "n-t1c", "n-t1p", 60, "2/0", 1, "Cable trench"),
    _cable("W-T2", "n-t2c", "n-t2p", 72, "2/0", 1, "Cable trench"),
    _element("T1", "transformer", ["n-t1p", "n-t1s"], "Transformer 1, 1500 kVA", "Bay 1", rated_kva=1500,
             impedance_pct=5.75, x_r=6.5),
    _element("T2", "transformer", ["n-t2p", "n-t2s"], "Transformer 2, 1500 kVA", "Bay 2", rated_kva=1500,
             impedance_pct=5.75, x_r=6.5, built_in_tester=True),
    _cable("W-A", "n-t1s", "n-al", 14, "500", 6, LV_ROOM),
    _cable("W-B", "n-t2s", "n-bl", 18, "500", 6, LV_ROOM),
    _breaker("52-A", "n-al", "n-a", "Main A", LV_ROOM, 2000, 65, _trip(2000, 12, 6000, 0.4), withdrawable=True,
             remote=True, stored_energy=["spring"]),
    _breaker("52-B", "n-bl", "n-b", "Main B", LV_ROOM, 2000, 65, _trip(2000, 12, 6000, 0.4), withdrawable=True,
             remote=True, stored_energy=["spring"]),
    _element("SWB-A", "bus", ["n-a"], "Switchboard, section A", LV_ROOM, rated_a=2000,
             rated_voltage_v=600, short_circuit_ka=65),
    _element("SWB-B", "bus", ["n-b"], "Switchgear, section B", LV_ROOM, rated_a=2000,
             rated_voltage_v=600, short_circuit_ka=65),
    _breaker("52-TIE", "n-a", "n-b", "Bus tie", LV_ROOM, 2000, 65, _trip(1600, 10, 4800, 0.35), position="open",
             withdrawable=True, remote=True),
    _breaker("F-A1", "n-a", "n-fa1", "Feeder to MC1", LV_ROOM, 600, 65, _trip(600, 8, 3000, 0.3)),
    _breaker("F-A2", "n-a", "n-fa2", "Feeder to ATS-1", LV_ROOM, 400, 65, _trip(400, 8, 2000, 0.1)),
    _breaker("F-A3", "n-a", "n-fa3", "Feeder to PV-1", LV_ROOM, 300, 65, _trip(300, 8, None, None, 2400)),
    _breaker("F-A4", "n-a", "n-fa4", "Feeder to LP-1", LV_ROOM, 200, 65, _trip(200, 8, None, None, 1600)),
    _breaker("F-B1", "n-b", "n-fb1", "Feeder to MC2", LV_ROOM, 600, 65, _trip(600, 8, 3000, 0.1)),
    _breaker("F-B2", "n-b", "n-fb2", "Feeder to CH-1", LV_ROOM, 800, 65, _trip(800, 8, None, None, 6400)),
    _breaker("F-B3", "n-b", "n-fb3", "Feeder to berth 1", LV_ROOM, 800, 65, _trip(800, 8, 2400, 0.2)),
    _cable("W-A1", "n-fa1", "n-mc1", 85, "350", 2, GALLERY),
    _cable("W-A2", "n-fa2", "n-atsn", 40, "500", 1, PUMPS),
    _cable("W-A3", "n-fa3", "n-pvd", 110, "350", 1, "Roof"),
    _cable("W-B1", "n-fb1", "n-mc2", 60, "350", 2, PUMPS),
    _cable("W-B2", "n-fb2", "n-chd", 25, "500", 2, STORE),
    _cable("W-B3", "n-fb3", "n-scd", 140, "500", 2, "Berth 1"),
    _element("Q-PV", "switch", ["n-pvd", "n-pv"], "Disconnect of the roof solar", "Roof", normal_position="closed",
             rated_voltage_v=600, rated_a=300, short_circuit_ka=22, isolating=True, lockable=True, load_break=True,
             fault_make=True, visible_break=True),
    # without it nothing would cut the battery, behind its charger, from the switchgear
    _element("Q-CH", "switch", ["n-chd", "n-ch"], "Disconnect of the battery charger", STORE, normal_position="closed",
             rated_voltage_v=600, rated_a=800, short_circuit_ka=42, isolating=True, lockable=True, load_break=True,
             fault_make=True, visible_break=True),
    _element("Q-SC", "switch", ["n-scd", "n-sc"], "Disconnect of the ship's plug", "Berth 1",
             normal_position="closed", rated_voltage_v=600, rated_a=800, short_circuit_ka=22, isolating=True,
             lockable=True, load_break=True, fault_make=True, visible_break=True),
    _element("MC1", "bus", ["n-mc1"], "Motor control center 1", GALLERY, rated_a=800,
             rated_voltage_v=600, short_circuit_ka=42),
    _element("MC2", "bus", ["n-mc2"], "Motor control center 2", PUMPS, rated_a=800,
             rated_voltage_v=600, short_circuit_ka=42),
    *[_breaker(tag, bus, node, name, place, 100, ka, _trip(amps, 6, None, None, amps * 10))
      for tag, bus, node, name, place, ka, amps in (
          ("MC1-2B", "n-mc1", "n-2b", "Sewage pump P-21", GALLERY, 42, 100),
          ("MC1-4A", "n-mc1", "n-4a", "Linkspan pump H-1", GALLERY, 42, 100),
          ("MC2-1D", "n-mc2", "n-1d", "Fresh water P-31", PUMPS, 42, 60),
          ("MC2-2B", "n-mc2", "n-22b", "Sewage pump P-32", PUMPS, 14, 70))],
    _cable("W-P21", "n-2b", "n-p21", 35, "2", 1, GALLERY), _cable("W-H1", "n-4a", "n-h1", 48, "2", 1, GALLERY),
    _cable("W-P31", "n-1d", "n-p31", 30, "6", 1, PUMPS), _cable("W-P32", "n-22b", "n-p32", 42, "4", 1, PUMPS),
    _cable("W-FP1", "n-fpl", "n-fp1", 20, "1/0", 1, PUMPS), _cable("W-G", "n-gl", "n-atse", 45, "500", 2, PUMPS),
    _motor("P-21", "n-p21", "Sewage pump", GALLERY, 55, serves="Sewage of the concourse", notify="Duty officer",
           tolerates_min=40),
    _motor("H-1", "n-h1", "Linkspan hydraulic pump", GALLERY, 55, stored_energy=["pressure", "gravity"],
           serves="Ramp of berth 1", notify="Berth master", tolerates_min=15),
    _motor("P-31", "n-p31", "Fresh water pump", PUMPS, 30, serves="Fresh water", notify="Duty officer",
           tolerates_min=120),
    _motor("P-32", "n-p32", "Sewage pump", PUMPS, 37, serves="Sewage of the car deck", notify="Duty officer",
           tolerates_min=40),
    _element("G-1", "generator", ["n-g"], "Stand-by generator, 500 kVA", "Generator house", rated_kva=500,
             xd_subtransient_pu=0.14, xd_transient_pu=0.21, xd_sync_pu=2.2, x_r=15, td_subtransient_s=0.03,
             td_transient_s=0.9, excitation_support_multiple=3, excitation_support_s=10, normal_state="stopped"),
    _breaker("52-G", "n-g", "n-gl", "Generator breaker", "Generator house", 600, 42, _trip(600, 6, 1200, 0.15),
             stored_energy=["spring"]),
    _element("ATS-1", "transfer_switch", ["n-atsn", "n-atse", "n-edp"], "Automatic transfer switch", PUMPS,
             normal_position="normal", rated_voltage_v=600, rated_a=400, short_circuit_ka=35, load_break=True),
    _element("EDP-1", "bus", ["n-edp"], "Emergency panel", PUMPS, rated_a=400,
             rated_voltage_v=600, short_circuit_ka=35, serves="Tidal gate pumps", notify="Tide watch", critical=True,
             tolerates_min=20),
    _breaker("EDP-3", "n-edp", "n-fpl", "Fire pump FP-1 feeder", PUMPS, 150, 35, _trip(150, 6, None, None, 1500)),
    _element("EDP-5", "fuse", ["n-edp", "n-psu"], "Gate control fuse, 30 A", PUMPS, normal_position="closed",
             rated_voltage_v=600, rated_a=30, interrupting_ka=200, isolating=True, lockable=True, withdrawable=True,
             curve={"type": "fuse", "points": [[60, 100], [90, 10], [150, 1], [300, 0.1], [600, 0.01]]}),
    _breaker("EDP-9", "n-edp", "n-cp", "Control power of SWG-1", PUMPS, 30, 35, _trip(30, 6, None, None, 300)),
    _element("CP-1", "load", ["n-cp"], "Control power transformer of SWG-1", PUMPS),
    _motor("FP-1", "n-fp1", "Fire pump", PUMPS, 90, serves="Hydrants of both berths", notify="Fire warden",
           critical=True),
    _element("PSU-1", "rectifier", ["n-psu", "n-24"], "Gate control supply, 480 V to 24 V DC", PUMPS,
             discharge_min=5),
    _element("CTL-1", "load", ["n-24"], "Vehicle gate controls", "Concourse", serves="Vehicle gates",
             notify="Gate crew"),
    _element("PV-1", "inverter", ["n-pv"], "Roof solar, 150 kVA", "Roof", rated_kva=150,
             fault_multiple=1.2, fault_cease_s=0.16, normal_state="running"),
    _element("LP-1", "load", ["n-fa4"], "Concourse lighting", "Concourse", serves="Lighting of the concourse",
             notify="Duty officer"),
    _element("CH-1", "rectifier", ["n-ch", "n-chq"], "Battery charger, 400 kVA", STORE,
             serves="Charging of the ferries", notify="Charging controller"),
    # it could cut the battery off; no method here gives a figure for direct current, so nobody may stand at it yet
    _element("Q-DC", "switch", ["n-chq", "n-dcb"], "Disconnect of the ferry battery", STORE, normal_position="closed",
             rated_voltage_v=1000, rated_a=800, short_circuit_ka=40, isolating=True, lockable=True, load_break=True,
             fault_make=True, visible_break=True),
    _element("DCB-1", "bus", ["n-dcb"], "DC bus of the ferry battery", STORE),
    _element("BB-1", "battery", ["n-dcb"], "Ferry battery, 750 V", STORE),
    _element("SC-1", "shore_connection", ["n-sc"], "Shore connection, berth 1", "Berth 1", rated_kva=600,
             fault_multiple=1.2, fault_cease_s=0.5, normal_state="stopped"),
]  # fmt: skip

CASES = [
    {"id": "normal", "name": "normal"},
    {"id": "tie-t1", "name": "T2 out, tie closed", "positions": {"52-B": "open", "52-TIE": "closed"}},
    {"id": "tie-t2", "name": "T1 out, tie closed", "positions": {"52-A": "open", "52-TIE": "closed"}},
    {"id": "gen", "name": "on generator", "positions": {"ATS-1": "emergency"},
     "sources": {"G-1": {"state": "running"}}},
    {"id": "ship", "name": "ship feeding back", "sources": {"SC-1": {"state": "running"}}},
]  # fmt: skip


def document() -> dict[str, Any]:
    """The demo network as a document, ready to check and publish; a copy, so that nobody changes another's."""
    site = {"name": "Skerrow Point Ferry Terminal", "time_zone": "America/Los_Angeles", "profile": "north-american",
            "frequency_hz": 60}  # fmt: skip
    return copy.deepcopy({"format": "spinel-network", "version": 2, "site": site, "nodes": NODES,
                          "enclosures": ENCLOSURES, "elements": ELEMENTS, "cases": CASES})  # fmt: skip
