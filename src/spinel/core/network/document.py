"""The network document: what is connected to what, as plain immutable data.

The JSON form is checked by schema.py (shape, ranges) and check.py (sense) before it becomes a ``Network``;
the field names here are the field names there. A node joins element ends; an element joins one to three nodes.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields
from functools import cached_property
from typing import Any

from spinel.core.curves.files import read_curve
from spinel.core.curves.shapes import Curve
from spinel.core.errors import NotFound
from spinel.core.network.basis import Bases, read_bases
from spinel.core.network.kinds import KIND, SWITCHING, Kind
from spinel.core.network.upgrade import upgraded
from spinel.core.said import Said, say

FORMAT = "spinel-network"

#: Constructions of breakers and fuses, by which the test X/R goes.
CONSTRUCTIONS = ("molded-case", "insulated-case", "power", "medium-voltage")


@dataclass(frozen=True, kw_only=True)
class Node:
    id: str
    nominal_voltage_v: float
    current: str
    phases: int = 3
    neutral: bool = False
    grounding: str = "unknown"
    enclosure: str | None = None
    basis: Bases = field(default_factory=dict, repr=False, compare=False)


@dataclass(frozen=True)
class AuxiliarySupply:
    name: str
    voltage_v: float
    current: str
    source: str
    isolated_by: str | None = None


@dataclass(frozen=True)
class Compartment:
    """A space inside an enclosure: the nodes whose terminals are in it, and tags of the devices whose bodies are."""

    id: str
    name: str
    nodes: tuple[str, ...]
    devices: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Enclosure:
    """``escape_clear`` absent means no. Without ``compartments`` it is one space.

    ``barriers``: groups of compartments, each shut off from every other of its group; what no group names is open.
    """

    id: str
    name: str
    equipment_class: str
    height_mm: float | None = None
    width_mm: float | None = None
    depth_mm: float | None = None
    electrode_configuration: str | None = None
    gap_mm: float | None = None
    working_distance_mm: float | None = None
    compartments: tuple[Compartment, ...] = ()
    barriers: tuple[tuple[str, ...], ...] = ()
    escape_clear: bool = False
    auxiliary_supplies: tuple[AuxiliarySupply, ...] = ()
    basis: Bases = field(default_factory=dict, repr=False, compare=False)


@dataclass(frozen=True, kw_only=True)
class Element:
    id: str
    tag: str
    kind: str
    ends: tuple[str, ...]
    name: str = ""
    location: str = ""
    normal_position: str | None = None
    normal_state: str | None = None
    isolating: bool = False
    load_break: bool = False
    fault_make: bool = False
    lockable: bool = False
    withdrawable: bool = False
    remote: bool = False
    runs_parallel_with: tuple[str, ...] = ()
    stored_energy: tuple[str, ...] = ()
    induced_voltage: bool = False
    #: can its blades be seen; how long its charge takes to fall, min; what hangs on its supply, who is told of it, is a
    #: watch or a substitute needed first, and how long it may be off, min
    visible_break: bool = field(default=False, repr=False)
    #: who moves it, where others do: the utility, a neighbour; and how they are reached
    operated_by: str = field(default="", repr=False)
    #: has it test points that are reached with everything closed
    built_in_tester: bool = field(default=False, repr=False)
    discharge_min: float | None = field(default=None, repr=False)
    serves: str = field(default="", repr=False)
    notify: str = field(default="", repr=False)
    critical: bool = field(default=False, repr=False)
    tolerates_min: float | None = field(default=None, repr=False)
    #: source: strength and X/R, zero over positive sequence impedance (same X/R)
    fault_mva_max: float | None = None
    x_r_max: float | None = None
    fault_mva_min: float | None = None
    x_r_min: float | None = None
    z0_z1: float | None = None
    #: transformer: a third winding's impedances are on the same kVA; tolerance and tap as a part of nominal
    rated_kva: float | None = None
    impedance_pct: float | None = None
    x_r: float | None = None
    impedance_13_pct: float | None = None
    impedance_23_pct: float | None = None
    rated_voltages_v: tuple[float, ...] = ()
    tap_pct: float = 0.0
    tolerance_pct: float = 0.0
    vector_group: str = ""
    z0_pct: float | None = None
    neutral_ohm: float = 0.0
    #: machines: X2 and X0 on their kVA; a group of motors is so many of this rating each
    x2_pu: float | None = None
    x0_pu: float | None = None
    neutral_grounded: bool = False
    motors: int = 1
    xd_subtransient_pu: float | None = None
    xd_transient_pu: float | None = None
    #: generator: how its current falls, and what excitation keeps up (times rated current, for so long)
    xd_sync_pu: float | None = None
    td_subtransient_s: float | None = None
    td_transient_s: float | None = None
    excitation_support_multiple: float | None = None
    excitation_support_s: float | None = None
    fault_multiple: float | None = None
    fault_cease_s: float | None = None
    #: UPS: how long its inverter feeds a fault before it gives up or goes to bypass
    fault_for_s: float | None = None
    resistance_ohm: float | None = None
    reactance_ohm: float | None = None
    r0_ohm: float | None = None
    x0_ohm: float | None = None
    length_m: float | None = None
    size: str = ""
    #: cable by table: ohms are computed from these when none are given
    conductor: str = "copper"
    conductor_size: str = ""
    conduit: str = "pvc"
    per_phase: int = 1
    #: at which conductor temperature the ohms were given, and how hot it gets; absent: never moved
    ohms_at_c: float | None = None
    hot_c: float = 75.0
    rated_a: float | None = None
    rated_voltage_v: float | None = None
    interrupting_ka: float | None = None
    #: what a switch or panel withstands and closes onto; how a device is built, for the X/R of its rating
    short_circuit_ka: float | None = None
    construction: str = ""
    test_x_r: float | None = None
    curve: Curve | None = None
    maintenance_curve: Curve | None = None
    #: a differential or light-detecting relay that trips it for arcs in these enclosures
    zone: tuple[str, ...] = ()
    zone_curve: Curve | None = None
    #: tags of devices downstream that hold back its short time when they see the fault
    restrained_by: tuple[str, ...] = ()
    #: where its values come from; no figure follows from it
    basis: Bases = field(default_factory=dict, repr=False, compare=False)

    @cached_property
    def row(self) -> Kind:
        """What its kind is."""
        return KIND[self.kind]

    @property
    def kind_name(self) -> Said:
        """What its kind is called."""
        return say(f"kind-{self.kind}")

    @cached_property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """Pairs of nodes that it could join in any position; a transfer switch joins its load to either side."""
        if self.kind == "transfer_switch":
            normal, emergency, load = self.ends
            return ((normal, load), (emergency, load))
        return tuple(zip(self.ends, self.ends[1:], strict=False))


@dataclass(frozen=True)
class Case:
    """How a source case differs from normal. Keys are tags.

    ``impedances``: "maximum" fault level (cold conductors, tolerance taken off), "minimum" (hot, added) or "nominal";
    absent: minimum where a source is at minimum strength, else maximum.
    """

    id: str
    name: str
    sources: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    positions: Mapping[str, str] = field(default_factory=dict)
    settings: Mapping[str, str] = field(default_factory=dict)
    impedances: str = ""

    @property
    def pinned(self) -> bool:
        """Is it looked at with one strength, reactance or set of impedances alone, not over their whole range?"""
        return bool(self.impedances) or any(len(said) > ("state" in said) for said in self.sources.values())


@dataclass(frozen=True)
class Site:
    name: str
    time_zone: str
    profile: str
    frequency_hz: float = 60


@dataclass(frozen=True)
class Network:
    site: Site
    nodes: tuple[Node, ...]
    enclosures: tuple[Enclosure, ...]
    elements: tuple[Element, ...]
    cases: tuple[Case, ...]

    @cached_property
    def node(self) -> dict[str, Node]:
        return {n.id: n for n in self.nodes}

    @cached_property
    def node_place(self) -> dict[str, int]:
        """Where each node stands in the document."""
        return {n.id: i for i, n in enumerate(self.nodes)}

    @cached_property
    def enclosure(self) -> dict[str, Enclosure]:
        return {e.id: e for e in self.enclosures}

    @cached_property
    def element(self) -> dict[str, Element]:
        return {e.id: e for e in self.elements}

    @cached_property
    def by_tag(self) -> dict[str, Element]:
        return {e.tag: e for e in self.elements}

    @cached_property
    def at_node(self) -> dict[str, list[Element]]:
        """Elements that have an end at the node."""
        found: dict[str, list[Element]] = {n.id: [] for n in self.nodes}
        for element in self.elements:
            for end in dict.fromkeys(element.ends):
                found[end].append(element)
        return found

    @cached_property
    def may_supply(self) -> tuple[Element, ...]:
        """Elements that feed or may feed: sources of any kind, motors, and whatever keeps electrical energy."""
        return tuple(e for e in self.elements if e.row.supplies or e.row.back_feeds or "electrical" in e.stored_energy)

    @cached_property
    def in_enclosure(self) -> dict[str, list[Node]]:
        """Nodes in each enclosure, in the order of the document."""
        found: dict[str, list[Node]] = {e.id: [] for e in self.enclosures}
        for node in self.nodes:
            if node.enclosure is not None:
                found[node.enclosure].append(node)
        return found

    @cached_property
    def switches(self) -> tuple[Element, ...]:
        """Elements that join their ends or not, by their position."""
        return tuple(e for e in self.elements if e.kind in SWITCHING)

    @cached_property
    def always_joined(self) -> dict[str, tuple[tuple[str, str], ...]]:
        """Pairs of nodes of every other element."""
        return {e.id: e.pairs for e in self.elements if e.kind not in SWITCHING}

    @cached_property
    def normally_running(self) -> frozenset[str]:
        """Ids of elements that run unless somebody says otherwise."""
        return frozenset(e.id for e in self.elements if e.normal_state != "stopped")

    def get(self, element_id: str) -> Element:
        """The element, or NotFound."""
        try:
            return self.element[element_id]
        except KeyError:
            raise NotFound("equipment", element_id) from None

    def voltage_of(self, element: Element) -> float:
        """The highest nominal voltage at any end, V: what the plate shows and the shock tables use."""
        return max(self.node[end].nominal_voltage_v for end in element.ends)

    def enclosures_of(self, element: Element) -> list[Enclosure]:
        """The enclosures of its ends, each once."""
        ids = dict.fromkeys(self.node[end].enclosure for end in element.ends)
        return [self.enclosure[i] for i in ids if i is not None]


def read_network(data: Mapping[str, Any]) -> Network:
    """A Network from a document that schema.py and check.py have accepted, of any released version."""
    data = upgraded(data)
    return Network(
        site=Site(**data["site"]),
        nodes=tuple(Node(**{**n, "basis": read_bases(n)}) for n in data["nodes"]),
        enclosures=tuple(_read_enclosure(e) for e in data["enclosures"]),
        elements=tuple(_read_element(e) for e in data["elements"]),
        cases=tuple(Case(**c) for c in data["cases"]),
    )


def _read_enclosure(data: Mapping[str, Any]) -> Enclosure:
    supplies = tuple(AuxiliarySupply(**s) for s in data.get("auxiliary_supplies", ()))
    rooms = tuple(
        Compartment(c["id"], c["name"], tuple(c["nodes"]), tuple(c.get("devices", ())))
        for c in data.get("compartments", ())
    )
    barriers = tuple(tuple(group) for group in data.get("barriers", ()))
    more = {"auxiliary_supplies": supplies, "compartments": rooms, "barriers": barriers, "basis": read_bases(data)}
    return Enclosure(**{**data, **more})


_TUPLES = ("ends", "runs_parallel_with", "stored_energy", "rated_voltages_v", "zone", "restrained_by")
CURVES = ("curve", "maintenance_curve", "zone_curve")
ELEMENT_FIELDS = tuple(f.name for f in fields(Element))


def _read_element(data: Mapping[str, Any]) -> Element:
    values = dict(data)
    for name in _TUPLES:
        if name in values:
            values[name] = tuple(values[name])
    for name in CURVES:
        if values.get(name) is not None:
            values[name] = read_curve(values[name])
    values["basis"] = read_bases(data)
    return Element(**values)
