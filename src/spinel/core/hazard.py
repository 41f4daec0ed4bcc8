"""The hazard of working at a piece of equipment: shock and arc flash, worst over all source cases.

A figure is the worst over the document's cases and the present state, over the full and the reduced arcing
current and over the places that an arc can reach. Energy and boundary are each the worst on their own. Where
any case has no figure, there is none: the reason is given, never another method silently.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError, OutOfRange
from spinel.core.fault.nodal import Fault, NodalModel, inputs
from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Element, Enclosure, Network, Node
from spinel.core.ppe.by_energy import Kit, kit
from spinel.core.profile import Profile
from spinel.core.protection.clearing import ArcClearing, clear
from spinel.core.protection.duty import Duty, duty_checks
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.shock.approach import Approach, approach, glove_class

TOUCHES = {"line_side": "line side", "bus": "bus", "feeder": "feeder side"}


@dataclass(frozen=True)
class Figure:
    """Energy and boundary at one place, in one case, at the full or reduced arcing current, with its working."""

    case: str
    node: str
    current: str
    fault: Mapping[str, Any]
    situation: ieee.Situation
    currents: ieee.ArcCurrents
    correction: ieee.Correction
    clearing: ArcClearing
    duration_s: float
    capped: bool
    energy: ieee.Energy
    warnings: tuple[str, ...] = ()


@dataclass(frozen=True)
class Hazard:
    """What a hazard card and a permit say. ``no_figure``: why there is no arc-flash figure, else empty."""

    element_id: str
    touches: str
    voltage_v: float
    current: str
    below_threshold: bool
    approach: Approach
    glove: str | None
    glove_problem: str
    working_distance_mm: float | None
    standard_distance_mm: float | None
    no_figure: str
    energy: Figure | None
    boundary: Figure | None
    kit: Kit | None
    beyond_ceiling: bool
    ceiling_cal_cm2: float
    cases_seen: int
    warnings: tuple[str, ...] = ()
    fault_currents_ka: Mapping[str, float] = field(default_factory=dict)

    @property
    def energy_cal_cm2(self) -> float | None:
        return self.energy.energy.incident_energy_cal_cm2 if self.energy else None

    @property
    def boundary_mm(self) -> float | None:
        return self.boundary.energy.arc_flash_boundary_mm if self.boundary else None

    @property
    def barricade_mm(self) -> float | None:
        """The larger of limited approach (fixed) and arc-flash boundary; None when neither exists."""
        known = [d for d in (self.approach.limited_fixed_mm, self.boundary_mm) if d is not None]
        return max(known) if known else None

    @property
    def barricade_in(self) -> float | None:
        """The same in whole inches. The table's inch column is not converted from its metric one: larger wins."""
        boundary = math.ceil(self.boundary_mm / 25.4 - 1e-6) if self.boundary_mm is not None else None
        known = [d for d in (self.approach.limited_fixed_in, boundary) if d is not None]
        return max(known) if known else None


class _NoFigure(Exception):
    """Why a place has no figure in a case."""


class Study:
    """All circuits of a network solved once: the document's cases and, when given, the present state."""

    def __init__(self, network: Network, profile: Profile, present: Circuit | None, ceiling_cal_cm2: float):
        self.network, self.profile, self.ceiling_cal_cm2 = network, profile, ceiling_cal_cm2
        circuits = [in_case(network, case) for case in network.cases]
        if present is not None:
            circuits.append(present)
        self.models = [NodalModel(network, c) for c in circuits]
        self.duty: Mapping[str, Duty] = duty_checks(network, self.models)
        #: hazards asked for before: a study never changes, and pages ask for the same places again and again
        self._known: dict[tuple[str, str, float | None], Hazard] = {}
        #: what others derive from it once, by name
        self.kept: dict[str, Any] = {}

    def bolted_ka(self, node_id: str) -> float | None:
        """Highest bolted fault current at an AC node over all circuits, kA."""
        found = [m.fault(node_id).bolted_fault_current_ka for m in self.models if m.energised(node_id)]
        return max(found) if found else None

    def hazard(self, element_id: str, touches: str = "feeder", working_distance_mm: float | None = None) -> Hazard:
        """The hazard at an element, where the task touches it (a key of TOUCHES), at a working distance in mm.

        Without a distance the enclosure's standard one is used. InputError for an unusable distance or touch,
        NotFound for an unknown element.
        """
        if touches not in TOUCHES:
            raise InputError("touches", touches, "one of " + ", ".join(TOUCHES))
        key = (element_id, touches, working_distance_mm)
        if key not in self._known:
            if len(self._known) > 2000:
                self._known.clear()
            self._known[key] = self._hazard(element_id, touches, working_distance_mm)
        return self._known[key]

    def _hazard(self, element_id: str, touches: str, working_distance_mm: float | None) -> Hazard:
        element = self.network.get(element_id)
        places = _places(self.network, element, touches)
        shock_v, shock_current = _shock_voltage(self.network, element)
        standard = _standard_distance(self.network, places)
        distance = standard if working_distance_mm is None else WORKING_DISTANCE_MM.check(working_distance_mm)
        below = _all_below(self.network, element, self.profile.threshold_v)
        figures, no_figure = self._figures(element, places, touches, distance)
        distances, shock = (distance, standard), (shock_v, shock_current)
        return self._summary(element, touches, shock, distances, below, figures, no_figure)

    def _figures(
        self, element: Element, places: Sequence[Node], touches: str, distance: float | None
    ) -> tuple[list[Figure], str]:
        figures: list[Figure] = []
        try:
            if distance is None:
                raise _NoFigure("no working distance is recorded for its enclosure")
            for model in self.models:
                for node in places:
                    figures.extend(self._at(model, node, touches, distance, element))
        except _NoFigure as why:
            return [], str(why)
        if not figures:
            return [], "no source feeds it in any recorded case"
        return figures, ""

    def _at(
        self, model: NodalModel, node: Node, touches: str, distance: float, element: Element
    ) -> list[Figure]:  # fmt: skip
        if node.current == "dc":
            raise _NoFigure(f"no method here covers direct current ({node.nominal_voltage_v:g} V DC)")
        if node.phases != 3:
            raise _NoFigure("no method covers single-phase circuits (IEEE 1584-2018 is three-phase)")
        if _behind_ups(model, node.id):
            raise _NoFigure("it is fed through a UPS, whose bypass is not modelled")
        if not model.energised(node.id) or not model.fault_is_sustained(node.id):
            return []
        fault = model.fault(node.id)
        situation = _situation(self.network, node, distance)
        try:
            warnings = ieee.check(situation, fault.bolted_fault_current_ka)
        except InputError as error:
            raise _NoFigure(f"no method covers it: {error} (case {model.circuit.name})") from None
        ignored = _not_credited(self.network, node, touches, element)
        return [
            self._figure(model, fault, situation, current, ignored, tuple(warnings)) for current in ("full", "reduced")
        ]

    def _figure(
        self, model: NodalModel, fault: Fault, situation: ieee.Situation, current: str, ignored: frozenset[str],
        warnings: tuple[str, ...],
    ) -> Figure:  # fmt: skip
        currents = ieee.arc_currents(situation, fault.bolted_fault_current_ka)
        reduced = current == "reduced"
        arcing = currents.reduced_arcing_current_ka if reduced else currents.arcing_current_ka
        cleared = clear(model, fault, arcing, self.duty, ignored)
        duration, capped = self._duration(fault, cleared, model.circuit.name)
        energy = ieee.energy(situation, fault.bolted_fault_current_ka, duration * 1000, reduced=reduced)
        return Figure(
            model.circuit.name, fault.node.id, current, _fault_working(model, fault), situation, currents,
            ieee.correction(situation), cleared, duration, capped, energy, warnings,
        )  # fmt: skip

    def _duration(self, fault: Fault, cleared: ArcClearing, case: str) -> tuple[float, bool]:
        cap = self.profile.clearing_cap_s
        if cleared.time_s is not None and cleared.time_s <= cap:
            return cleared.time_s, False
        enclosure = self.network.enclosure.get(fault.node.enclosure or "")
        if enclosure is not None and enclosure.escape_clear:
            return cap, True
        if cleared.time_s is None:
            what = f"nothing clears {', '.join(cleared.uncleared)}"
        else:
            what = f"{cleared.device.tag if cleared.device else 'it'} clears only after {cleared.time_s:.1f} s"
        raise _NoFigure(f"{what} (case {case}), and no clear way of escape is recorded that would allow {cap:g} s")

    def _summary(
        self, element: Element, touches: str, shock: tuple[float, str], distances: tuple[float | None, float | None],
        below: bool, figures: list[Figure], no_figure: str,
    ) -> Hazard:  # fmt: skip
        voltage, current = shock
        glove, glove_problem = _gloves(voltage, current, below)
        energy = max(figures, key=lambda f: f.energy.incident_energy_j_cm2, default=None)
        boundary = max(figures, key=lambda f: f.energy.arc_flash_boundary_mm, default=None)
        worst = energy.energy.incident_energy_cal_cm2 if energy else None
        faults = {n: ka for n in element.ends if (ka := self.bolted_ka(n)) is not None}
        return Hazard(
            element.id, touches, voltage, current, below,
            approach(voltage, current, self.profile.threshold_v), glove, glove_problem,
            distances[0], distances[1], no_figure, energy, boundary,
            kit(worst) if worst is not None else None,
            worst is not None and worst > self.ceiling_cal_cm2, self.ceiling_cal_cm2,
            len({f.case for f in figures}), tuple(dict.fromkeys(w for f in figures for w in f.warnings)), faults,
        )  # fmt: skip


def _places(network: Network, element: Element, touches: str) -> list[Node]:
    """Nodes that the arc can reach: the end that is touched, and every end that shares an enclosure with it
    unless line terminals there are separated and the line side is not what is touched."""
    ends = [network.node[end] for end in element.ends]
    touched = ends[0] if touches == "line_side" or len(ends) == 1 else ends[-1]
    enclosure = network.enclosure.get(touched.enclosure or "")
    if enclosure is not None and enclosure.line_terminals_separated:
        return [touched]
    return [n for n in ends if n is touched or (enclosure is not None and n.enclosure == enclosure.id)]


def _not_credited(network: Network, node: Node, touches: str, element: Element) -> frozenset[str]:
    """Devices with an end in the enclosure of the arc: destroyed or bypassed unless line terminals are separated.

    A bus touched on its line side is touched at the terminals of its main, which then does not clear. The line side
    of a device with two ends is the node that it stands at: what lies upstream of that node clears it.
    """
    enclosure = network.enclosure.get(node.enclosure or "")
    if enclosure is None or (enclosure.line_terminals_separated and (touches != "line_side" or len(element.ends) > 1)):
        return frozenset()
    inside = {n.id for n in network.nodes if n.enclosure == enclosure.id}
    return frozenset(e.id for e in network.elements if len(e.ends) > 1 and any(end in inside for end in e.ends))


def _situation(network: Network, node: Node, distance: float) -> ieee.Situation:
    box = network.enclosure.get(node.enclosure or "")
    if box is None or box.electrode_configuration is None or box.gap_mm is None:
        raise _NoFigure("gap and electrode configuration of its enclosure are not recorded")
    size = None
    if box.height_mm is not None and box.width_mm is not None:
        size = ieee.Enclosure(box.height_mm, box.width_mm, box.depth_mm)
    return ieee.Situation(node.nominal_voltage_v, box.electrode_configuration, box.gap_mm, distance, size)


def _standard_distance(network: Network, places: Sequence[Node]) -> float | None:
    """The shortest standard working distance among the enclosures."""
    boxes: list[Enclosure] = [network.enclosure[n.enclosure] for n in places if n.enclosure]
    known = [b.working_distance_mm for b in boxes if b.working_distance_mm is not None]
    return min(known) if known else None


def opened_nodes(network: Network, element: Element) -> list[Node]:
    """Every node that is exposed when the element's enclosures are opened, and its own ends."""
    boxes = {e.id for e in network.enclosures_of(element)}
    return [n for n in network.nodes if n.id in element.ends or (n.enclosure in boxes)]


def _voltages(network: Network, element: Element) -> list[tuple[float, str]]:
    found = [(n.nominal_voltage_v, n.current) for n in opened_nodes(network, element)]
    for box in network.enclosures_of(element):
        found.extend((s.voltage_v, s.current) for s in box.auxiliary_supplies)
    return found


def _shock_voltage(network: Network, element: Element) -> tuple[float, str]:
    return max(_voltages(network, element))


def _all_below(network: Network, element: Element, threshold: float) -> bool:
    return all(v < threshold for v, _ in _voltages(network, element))


def _gloves(voltage: float, current: str, below: bool) -> tuple[str | None, str]:
    if below:
        return None, ""
    try:
        return glove_class(voltage, current), ""
    except OutOfRange as error:
        return None, error.allowed


def _behind_ups(model: NodalModel, node_id: str) -> bool:
    return any(e.kind == "ups" and e.ends[-1] == node_id for e in model.network.at_node[node_id])


def _fault_working(model: NodalModel, fault: Fault) -> dict[str, Any]:
    """What the working shows of the fault: impedance, X/R, who contributes and on which way, with their data."""
    shown = sorted(((e.tag, ka) for e, ka in fault.contributions), key=lambda c: -c[1])
    fed = {e.tag: e for e, _ in fault.contributions}
    return {
        "bolted_fault_current_ka": fault.bolted_fault_current_ka,
        "voltage_v": fault.node.nominal_voltage_v,
        "resistance_pu": fault.z_pu.real,
        "reactance_pu": fault.z_pu.imag,
        "x_r": fault.x_r if math.isfinite(fault.x_r) else None,
        "contributions_ka": {tag: ka for tag, ka in shown if ka > 1e-6},
        "source_data": {tag: inputs(fed[tag], model.circuit) for tag, ka in shown if ka > 1e-6},
        "path": [
            {
                "tag": s.element.tag,
                "share_ka": s.current_ka,
                "at_voltage_v": s.at_voltage_v,
                "data": inputs(s.element, model.circuit) if s.element.kind in ("transformer", "cable") else {},
            }
            for s in sorted(fault.shares.values(), key=lambda s: -s.current_ka * s.at_voltage_v)
            if s.current_ka * s.at_voltage_v > 0.02 * fault.bolted_fault_current_ka * fault.node.nominal_voltage_v
        ],
    }


def frozen(hazard: Hazard) -> dict[str, Any]:
    """The hazard as plain JSON data, as a permit keeps it, with the derived figures beside their working."""
    data = asdict(hazard)
    for key in ("energy", "boundary"):
        if data[key]:
            for part in (data[key]["currents"]["intermediate_ka"], data[key]["energy"]["intermediate_j_cm2"]):
                for voltage in list(part):
                    part[str(voltage)] = part.pop(voltage)
    data["energy_cal_cm2"] = hazard.energy_cal_cm2
    data["boundary_mm"] = hazard.boundary_mm
    data["barricade_mm"] = hazard.barricade_mm
    data["barricade_in"] = hazard.barricade_in
    return data
