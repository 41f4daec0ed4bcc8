"""The hazard of working at a piece of equipment: shock and arc flash, worst over all source cases.

A figure is the worst over the document's cases and the present state, over the full and the reduced arcing
current and over the places that an arc can reach. Energy and boundary are each the worst on their own. Where
any case has no figure, there is none: the reason is given, never another method silently.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from spinel.core.arcflash.figures import Figure, Figures, Place
from spinel.core.errors import InputError, OutOfRange
from spinel.core.fault.grid import Grid
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Element, Enclosure, Network, Node
from spinel.core.ppe.by_energy import Kit, kit
from spinel.core.profile import Profile
from spinel.core.protection.believed import Device, believed
from spinel.core.protection.clearing import Clearing
from spinel.core.protection.duty import Duty, duty_checks
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.shock.approach import Approach, approach, glove_class

TOUCHES = {"line_side": "line side", "bus": "bus", "feeder": "feeder side"}


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


class Study:
    """All circuits of a network solved once: the document's cases and, when given, the present state."""

    def __init__(self, network: Network, profile: Profile, present: Circuit | None, ceiling_cal_cm2: float):
        self.network, self.profile, self.ceiling_cal_cm2 = network, profile, ceiling_cal_cm2
        circuits = [in_case(network, case) for case in network.cases]
        if present is not None:
            circuits.append(present)
        self.grid = Grid(network)
        self.models = [NodalModel(network, c, self.grid) for c in circuits]
        self.duty: Mapping[str, Duty] = duty_checks(network, self.models)
        #: hazards asked for before: a study never changes, and pages ask for the same places again and again
        self._known: dict[tuple[str, str, float | None], Hazard] = {}
        #: what others derive from it once, by name
        self.kept: dict[str, Any] = {}

    @cached_property
    def clearings(self) -> list[Clearing]:
        """What clears in each circuit, by the devices that pass their duty."""
        known: dict[tuple[str, bool], Device] = {}
        return [Clearing(m, believed(m, self.duty, known)) for m in self.models]

    def bolted_ka(self, node_id: str) -> float | None:
        """Highest bolted fault current at an AC node over all circuits, kA."""
        found = [m.bolted_ka(node_id) for m in self.models if m.energised(node_id)]
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
        places = arc_nodes(self.network, element, touches)
        shock_v, shock_current = shock_voltage(self.network, element)
        standard = standard_distance(self.network, places)
        distance = standard if working_distance_mm is None else WORKING_DISTANCE_MM.check(working_distance_mm)
        below = _all_below(self.network, element, self.profile.threshold_v)
        found = self._worst(element, places, touches, distance)
        distances, shock = (distance, standard), (shock_v, shock_current)
        return self._summary(element, touches, shock, distances, below, *found)

    def _worst(
        self, element: Element, nodes: Sequence[Node], touches: str, distance: float | None
    ) -> tuple[Figure | None, Figure | None, str, int, tuple[str, ...]]:  # fmt: skip
        """The figures of highest energy and of largest boundary, or why there is none; cases seen and warnings."""
        if distance is None:
            return None, None, "no working distance is recorded for its enclosure", 0, ()
        places = [Place(n.id, doubted(self.network, n, touches, element), distance) for n in nodes]
        found = self.figures(places)
        if found.why:
            return None, None, found.why[min(found.why)], 0, ()
        if np.isnan(found.energy_j_cm2).all():
            return None, None, "no source feeds it in any recorded case", 0, ()
        shape = found.energy_j_cm2.shape
        most, widest = (np.unravel_index(np.nanargmax(x), shape) for x in (found.energy_j_cm2, found.boundary_mm))
        energy = found.explain(*(int(x) for x in most))
        boundary = energy if most == widest else found.explain(*(int(x) for x in widest))
        cases = int((~np.isnan(found.energy_j_cm2)).any(axis=(1, 2)).sum())
        return energy, boundary, "", cases, tuple(dict.fromkeys(w for each in found.warnings for w in each))

    def figures(self, places: Sequence[Place]) -> Figures:
        """Figures of places in every circuit of the study."""
        return Figures(self.network, self.clearings, self.profile.clearing_cap_s, places)

    def _summary(
        self, element: Element, touches: str, shock: tuple[float, str], distances: tuple[float | None, float | None],
        below: bool, energy: Figure | None, boundary: Figure | None, no_figure: str, cases: int,
        warnings: tuple[str, ...],
    ) -> Hazard:  # fmt: skip
        voltage, current = shock
        glove, glove_problem = _gloves(voltage, current, below)
        worst = energy.energy.incident_energy_cal_cm2 if energy else None
        faults = {n: ka for n in element.ends if (ka := self.bolted_ka(n)) is not None}
        return Hazard(
            element.id, touches, voltage, current, below,
            approach(voltage, current, self.profile.threshold_v), glove, glove_problem,
            distances[0], distances[1], no_figure, energy, boundary,
            kit(worst) if worst is not None else None,
            worst is not None and worst > self.ceiling_cal_cm2, self.ceiling_cal_cm2,
            cases, warnings, faults,
        )  # fmt: skip


def arc_nodes(network: Network, element: Element, touches: str) -> list[Node]:
    """Nodes that the arc can reach: the end that is touched, and every end that shares an enclosure with it
    unless line terminals there are separated and the line side is not what is touched."""
    ends = [network.node[end] for end in element.ends]
    touched = ends[0] if touches == "line_side" or len(ends) == 1 else ends[-1]
    enclosure = network.enclosure.get(touched.enclosure or "")
    if enclosure is not None and enclosure.line_terminals_separated:
        return [touched]
    return [n for n in ends if n is touched or (enclosure is not None and n.enclosure == enclosure.id)]


def doubted(network: Network, node: Node, touches: str, element: Element) -> str | None:
    """The enclosure of the arc where its devices are not believed: destroyed or bypassed unless line terminals are
    separated.

    A bus touched on its line side is touched at the terminals of its main, which then does not clear. The line side
    of a device with two ends is the node that it stands at: what lies upstream of that node clears it.
    """
    enclosure = network.enclosure.get(node.enclosure or "")
    if enclosure is None or (enclosure.line_terminals_separated and (touches != "line_side" or len(element.ends) > 1)):
        return None
    return enclosure.id


def standard_distance(network: Network, places: Sequence[Node]) -> float | None:
    """The shortest standard working distance among the enclosures."""
    boxes: list[Enclosure] = [network.enclosure[n.enclosure] for n in places if n.enclosure]
    known = [b.working_distance_mm for b in boxes if b.working_distance_mm is not None]
    return min(known) if known else None


def opened_nodes(network: Network, element: Element) -> list[Node]:
    """Every node that is exposed when the element's enclosures are opened, and its own ends."""
    found = {n: network.node[n] for n in element.ends}
    found |= {n.id: n for box in network.enclosures_of(element) for n in network.in_enclosure[box.id]}
    return sorted(found.values(), key=lambda n: network.node_place[n.id])


def _voltages(network: Network, element: Element) -> list[tuple[float, str]]:
    found = [(n.nominal_voltage_v, n.current) for n in opened_nodes(network, element)]
    for box in network.enclosures_of(element):
        found.extend((s.voltage_v, s.current) for s in box.auxiliary_supplies)
    return found


def shock_voltage(network: Network, element: Element) -> tuple[float, str]:
    """The highest voltage that opening the element exposes, V, and its kind of current."""
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
