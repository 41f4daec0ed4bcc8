"""What every field of the network document means, for its schema: a sentence with its unit, its usual value and where
it is read off. Usual values are common practice, from memory; the plate and the maker's papers govern.
"""

from __future__ import annotations

from typing import Any

#: By group and field; a field that means the same everywhere stands under its name alone.
FIELDS = {
    "format": "Always spinel-network.",
    "version": "Version of this form of document; 2 is written, 1 is still read.",
    "site": "The site as a whole.",
    "site.name": "Name of the site as it stands on papers.",
    "site.time_zone": (
        "IANA name of the site's time zone, such as America/Los_Angeles; screens and papers show its time."
    ),
    "site.profile": "Practice that the site follows; decides tables, terms and rules.",
    "site.frequency_hz": "System frequency in Hz; 60 where it is not given.",
    "nodes": "Points where equipment is joined electrically: a bus is one node, each end of a cable is one.",
    "nodes.id": "Any short name, used by ends of elements and never shown to people.",
    "nodes.nominal_voltage_v": (
        "Nominal voltage in V between phases (DC: between poles), such as 480 or 12470; from the one-line."
    ),
    "nodes.current": "Kind of current: ac or dc.",
    "nodes.phases": "Phases, 3 or 1; 3 where it is not given.",
    "nodes.neutral": "Is a neutral conductor there? Then it is tested too.",
    "nodes.grounding": (
        "How the system is grounded there: solid, resistance, ungrounded; from the transformer's drawing."
    ),
    "nodes.enclosure": "Id of the enclosure in which the conductors of this node are opened to be worked on.",
    "enclosures": "Boxes, cubicles, panels: what is opened to get at conductors.",
    "enclosures.id": "Any short name, used by nodes.",
    "enclosures.name": "Name as people know it, such as SWB-A.",
    "enclosures.equipment_class": "Class of equipment; people are qualified for it.",
    "enclosures.height_mm": (
        "Inner height in mm of the space around the conductors; measured, or typical of its class (480 V "
        "panel 356, switchgear 508)."
    ),
    "enclosures.width_mm": "Inner width in mm, as the height (480 V panel 305, switchgear 508).",
    "enclosures.depth_mm": "Inner depth in mm, as the height (480 V panel at most 203, switchgear 508).",
    "enclosures.electrode_configuration": (
        "How bare conductors end there: VCB vertical in a box, VCBB against a barrier, HCB toward the "
        "opening, VOA and HOA the same in open air; seen when it is open."
    ),
    "enclosures.gap_mm": (
        "Distance in mm between bare conductors; measured, or usual: 25 panel, 32 switchgear at 480 V, 104 at "
        "5 kV, 152 at 15 kV."
    ),
    "enclosures.working_distance_mm": (
        "Distance in mm from face and chest to the arc; usual: 455 panel, 610 low-voltage switchgear, 914 "
        "medium voltage."
    ),
    "enclosures.compartments": (
        "Spaces inside, each with the nodes and devices in it. Left out, the enclosure is one space."
    ),
    "compartments.id": "Any short name, used by barriers.",
    "compartments.name": "What the space is, such as cable compartment of 52-T1.",
    "compartments.nodes": (
        "Ids of the nodes whose terminals are bare in this space; each node of the enclosure in one."
    ),
    "compartments.devices": (
        "Tags of switching devices whose body is in this space; one that none lists counts in all."
    ),
    "enclosures.barriers": (
        "Groups of compartment ids, each shut off from every other of its group by a barrier that an arc does "
        "not pass; from the maker's drawing and seen on site. What no group names counts as open."
    ),
    "enclosures.escape_clear": (
        "Can a person get away at once? Seen on site; only then is an arc taken to last 2 s at most."
    ),
    "enclosures.auxiliary_supplies": "Control, heater and metering supplies from elsewhere that stay live inside.",
    "auxiliary_supplies.name": "What it supplies, such as spring charging.",
    "auxiliary_supplies.voltage_v": "Its voltage in V, such as 120.",
    "auxiliary_supplies.current": "Its kind of current: ac or dc.",
    "auxiliary_supplies.source": "Where it comes from, in words.",
    "auxiliary_supplies.isolated_by": "Tag of the element that isolates it.",
    "elements": "Equipment.",
    "elements.id": "Identity kept for ever, best a UUID; permits, locks and history point at it.",
    "elements.tag": "Tag as it hangs on the equipment, at most 16 signs; unique.",
    "elements.kind": "What it is; decides which other fields it needs.",
    "elements.ends": (
        "Ids of the nodes that it joins: one (bus, source, motor), two (breaker, cable; line side first), "
        "three (transfer switch: normal, emergency, load; transformer with a third winding)."
    ),
    "elements.name": "Name in words.",
    "elements.location": "Place, as it is read out in a switching step.",
    "elements.size": "Size as shown beside a cable; no figure follows from it.",
    "elements.normal_position": (
        "Position in normal service: open or closed (a starter's contactor may be open); a transfer switch "
        "normal, emergency or off."
    ),
    "elements.normal_state": "State in normal service: running or stopped; a UPS inverter, battery or bypass.",
    "elements.runs_parallel_with": (
        "Tags of sources that it may run in parallel with; from the operating instructions."
    ),
    "elements.stored_energy": "Energy it keeps when off: electrical, spring, pressure, gravity.",
    "elements.curve": (
        "Time-current curve by its settings, as found on the device and in the study; without one it is never "
        "counted on to clear."
    ),
    "elements.maintenance_curve": "Curve with its maintenance setting on; used in cases that set it.",
    "elements.zone_curve": "A differential or light-detecting relay that trips it for arcs in its zone.",
    "elements.zone": "Ids of the enclosures that the relay of zone_curve looks at.",
    "elements.restrained_by": "Tags of devices downstream that hold back its short time (zone interlock).",
    "curve.type": "Kind of device: fuse, trip, thermal-magnetic, relay, unit, or fixed.",
    "curve.points": (
        "Total-clearing points as pairs of A and s, currents rising; from the maker's sheet, at least a "
        "quarter of a cycle each."
    ),
    "curve.melting": "Minimum-melting points as pairs of A and s; from the same sheet, used for selectivity.",
    "curve.long_pickup_a": "Long-time pickup in A, often 1 x the rating; set on the trip unit.",
    "curve.long_delay_s": "Long-time delay in s at 6 times pickup, usually 2 to 24.",
    "curve.short_pickup_a": "Short-time pickup in A, usually 2 to 10 times the rating.",
    "curve.short_delay_s": "Short-time delay in s as total clearing before tolerance, usually 0.1 to 0.5.",
    "curve.short_i2t": "Is the short-time ramp (I²t) on?",
    "curve.interlock_delay_s": "Short-time delay in s while no device downstream holds it back, usually 0.05 to 0.1.",
    "curve.ground_pickup_a": "Ground-fault pickup in A; up to 1200.",
    "curve.ground_delay_s": "Ground-fault delay in s, usually 0.1 to 0.5.",
    "curve.ground_i2t": "Is the ground-fault ramp (I²t) on?",
    "curve.instantaneous_a": "Instantaneous pickup in A; leave it out when it is off.",
    "curve.instantaneous_clearing_s": "Total clearing time in s of the instantaneous, usually 0.025 to 0.05.",
    "curve.tolerance_pct": (
        "Band in % around pickups and delays; 10 for trips, 5 for relays, 25 for thermal-magnetic where the "
        "maker says nothing."
    ),
    "curve.rated_a": "Rating in A of the thermal part.",
    "curve.seconds_at_3x": "Slowest time in s at 3 times its rating; from the maker's curve, often 20 to 100.",
    "curve.magnetic_a": "Magnetic pickup in A, usually 5 to 10 times the rating.",
    "curve.magnetic_clearing_s": "Total clearing time in s of the magnetic part, usually 0.016 to 0.025.",
    "curve.principle": "How it works: differential, light, or definite time.",
    "curve.pickup_a": "Pickup in primary A; setting times current-transformer ratio.",
    "curve.operating_s": "Time in s of the relay alone, 0.001 to 0.05 for differential and light.",
    "curve.breaker_s": "Interrupting time in s of the breaker that it trips: 0.083 for five cycles, 0.05 for three.",
    "curve.standard": "Family of the inverse curve: iec, ieee or us; ieee where it is not given.",
    "curve.curve": "Curve of the family, such as VI, very inverse.",
    "curve.dial": "Time dial or time multiplier, as set.",
    "curve.instantaneous_s": "Time in s of the relay's instantaneous alone, usually 0.02.",
    "curve.flat_above": "Multiple of pickup above which the time no longer falls, usually 20 to 30.",
    "curve.clearing_s": "Fixed clearing time in s from its certificate.",
    "elements.conductor": "Metal of the conductor: copper or aluminum.",
    "elements.conductor_size": (
        "Size in AWG, kcmil or mm², such as 350; ohms follow from it and the length where none are given."
    ),
    "elements.conduit": "What the cable lies in; changes its reactance.",
    "elements.per_phase": "Conductors in parallel per phase.",
    "elements.motors": "How many motors of this rating stand for a group.",
    "elements.rated_voltages_v": "Rated voltages in V of the windings in the order of ends; nominal where not given.",
    "elements.vector_group": "Vector group such as Dyn11; on the plate, needed for ground faults.",
    "elements.construction": "How a breaker is built; decides at which X/R its rating was tested.",
    "elements.isolating": "Is it made to isolate, with a gap that holds?",
    "elements.load_break": "May it be opened under load?",
    "elements.fault_make": "May it be closed onto a fault?",
    "elements.lockable": "Can a lock hold it?",
    "elements.withdrawable": "Can it be racked or drawn out?",
    "elements.remote": "Can it be operated from elsewhere?",
    "elements.induced_voltage": "Does a live line beside it induce voltage in it?",
    "elements.neutral_grounded": "Is a generator's neutral grounded?",
    "elements.fault_mva_max": "Three-phase short-circuit strength in MVA at its highest; from the utility's letter.",
    "elements.x_r_max": "X/R at that strength, usually 5 to 20; from the same letter.",
    "elements.fault_mva_min": "Three-phase short-circuit strength in MVA at its lowest; from the utility's letter.",
    "elements.x_r_min": "X/R at that strength.",
    "elements.rated_kva": "Rated power in kVA; on the plate (a motor: about its hp).",
    "elements.impedance_pct": "Impedance in % of its own kVA; on the plate, 5.75 usual for unit substations.",
    "elements.x_r": "X/R; from the test report, else typical (1500 kVA: about 7; generator 15; motor 8).",
    "elements.xd_subtransient_pu": (
        "Subtransient reactance X''d per unit of its own kVA; data sheet, 0.10 to 0.20, motors 0.17."
    ),
    "elements.xd_transient_pu": "Transient reactance X'd per unit of its own kVA; data sheet, 0.15 to 0.35.",
    "elements.xd_sync_pu": "Synchronous reactance Xd per unit of its own kVA; data sheet, 1.5 to 3.",
    "elements.td_subtransient_s": "Subtransient short-circuit time constant T''d in s; data sheet, 0.02 to 0.05.",
    "elements.td_transient_s": "Transient short-circuit time constant T'd in s; data sheet, 0.3 to 2.",
    "elements.excitation_support_multiple": (
        "Current that excitation keeps up in a fault, in multiples of rated current; often 3, none without "
        "permanent-magnet or compound excitation; data sheet."
    ),
    "elements.excitation_support_s": "For how many seconds it keeps that up; often 10.",
    "elements.fault_multiple": (
        "Current of a converter into a fault, in multiples of rated current; data sheet, 1 to 1.5, a UPS up to 3."
    ),
    "elements.fault_cease_s": (
        "After how many seconds a converter stops feeding a fault; its certificate, often 0.16 to 2. Left "
        "out: never of itself."
    ),
    "elements.fault_for_s": "For how many seconds a UPS feeds a fault from its inverter; data sheet, 0.1 to 5.",
    "elements.resistance_ohm": "Resistance in ohm per phase of the whole run.",
    "elements.reactance_ohm": "Reactance in ohm per phase of the whole run.",
    "elements.length_m": "Length in m; from the drawing or paced.",
    "elements.rated_a": "Rated current in A; on the plate. A cable: its ampacity.",
    "elements.rated_voltage_v": "Rated voltage in V; on the plate, at or above the circuit's.",
    "elements.interrupting_ka": (
        "Interrupting rating in kA rms symmetrical at the circuit's voltage; on the plate. Without one a "
        "device is never counted on."
    ),
    "elements.short_circuit_ka": "What a switch, panel or bus withstands in kA; on its plate.",
    "elements.test_x_r": "X/R at which the rating was tested, where it is not the usual one of its kind.",
    "elements.z0_z1": "Zero- over positive-sequence impedance of the utility, usually 0.5 to 3; from its letter.",
    "elements.impedance_13_pct": "Impedance in % between windings 1 and 3; test report.",
    "elements.impedance_23_pct": "Impedance in % between windings 2 and 3; test report.",
    "elements.tap_pct": "Tap at the first winding in % off nominal, as set.",
    "elements.tolerance_pct": "Tolerance in % of the impedance where it is not measured; 7.5 usual.",
    "elements.z0_pct": "Zero-sequence impedance in %; test report, 85 to 100 % of the positive.",
    "elements.neutral_ohm": "Resistance in ohm between neutral and ground.",
    "elements.x2_pu": "Negative-sequence reactance X2 per unit; data sheet, about X''d.",
    "elements.x0_pu": "Zero-sequence reactance X0 per unit; data sheet, 0.02 to 0.1.",
    "elements.r0_ohm": "Zero-sequence resistance in ohm of the whole run.",
    "elements.x0_ohm": "Zero-sequence reactance in ohm of the whole run.",
    "elements.ohms_at_c": "Conductor temperature in °C at which the ohms were given, usually 75 or 25.",
    "elements.hot_c": "Conductor temperature in °C in hot service; 75 where it is not given.",
    "cases": "Ways in which the site is run. Strengths of supply are varied in each without a case of their own.",
    "cases.id": "Any short name.",
    "cases.name": "Name in words, as figures name it.",
    "cases.sources": "By tag: the state of sources that differs from normal, and what the case pins.",
    "sources.state": "running or stopped; a UPS inverter, battery or bypass.",
    "sources.strength": "Pins a utility at its maximum or minimum; left out, all between is looked at.",
    "sources.reactance": "Pins a generator's current at subtransient or transient; left out, its decay is looked at.",
    "cases.positions": "By tag: positions of devices that differ from normal.",
    "cases.settings": "By tag: devices with their maintenance setting on.",
    "cases.impedances": (
        "Pins impedances: maximum (fault level: cold conductors), minimum (hot) or nominal; left out, they "
        "follow the strength."
    ),
}


def explain(schema: Any, group: str = "") -> Any:
    """The schema with a description on every field."""
    if isinstance(schema, list):
        return [explain(s, group) for s in schema]
    if not isinstance(schema, dict):
        return schema
    found = {k: explain(v, group) if k not in ("properties", "if") else v for k, v in schema.items()}
    if "properties" in schema:
        found["properties"] = {name: _field(name, inner, group) for name, inner in schema["properties"].items()}
    return found


def _field(name: str, inner: Any, group: str) -> Any:
    key = f"{group}.{name}" if group else name
    below = "curve" if name in ("curve", "maintenance_curve", "zone_curve") and group == "elements" else name
    said = explain(inner, below)
    return {**said, "description": FIELDS[key]} if isinstance(said, dict) else said
