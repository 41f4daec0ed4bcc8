"""What an element is to a fault: its impedance in series, or the impedance behind which it feeds.

Per unit on 100 MVA and the nodes' nominal voltages. The circuit says which: maximum fault level takes cold conductors
(25 °C) and impedances less their tolerance, minimum takes hot ones and adds it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SERIES
from spinel.core.said import Sayable, say
from spinel.core.tables.conductors import at_temperature, conductor

BASE_MVA = 100.0
#: A closed device, per unit on 100 MVA: far below any cable, far above rounding (current error below 1e-5).
CLOSED_PU = 1e-7j
COLD_C = 25.0
MAXIMUM, MINIMUM, NOMINAL = "maximum", "minimum", "nominal"


@dataclass(frozen=True)
class Branch:
    """An element that carries current between two nodes. ``ratio``: off-nominal turns ratio at ``a``."""

    element: Element
    a: str
    b: str
    z_pu: complex
    ratio: float = 1.0


@dataclass(frozen=True)
class Injection:
    """A source or motor at a node. ``sustained``: it feeds until cleared (a motor's share dies away)."""

    element: Element
    node: str
    z_pu: complex
    sustained: bool


@dataclass(frozen=True)
class Ohms:
    """Resistance and reactance of a conductor run as used in a circuit, with the temperature of the resistance."""

    resistance_ohm: float
    reactance_ohm: float
    at_c: float | None
    source: Sayable


def base_ka(voltage_v: float) -> float:
    """Base current in kA at a nominal voltage."""
    return BASE_MVA / (math.sqrt(3) * voltage_v / 1000)


def base_ohm(voltage_v: float) -> float:
    """Base impedance in ohm at a nominal voltage."""
    return (voltage_v / 1000) ** 2 / BASE_MVA


def branches_of(network: Network, level: str, e: Element) -> list[Branch]:
    """The branches that an element could close, at a fault level. Not for converters, which pass no fault current."""
    if e.kind == "transformer":
        return _transformer(network, level, e)
    if e.kind in SERIES:
        return [Branch(e, a, b, series_pu(network, level, e)) for a, b in e.pairs]
    return [Branch(e, a, b, CLOSED_PU) for a, b in e.pairs]


def series_pu(network: Network, level: str, e: Element) -> complex:
    """A cable, busway or reactor in per unit."""
    ohms = ohms_of(network, level, e)
    return complex(ohms.resistance_ohm, ohms.reactance_ohm) / base_ohm(network.node[e.ends[0]].nominal_voltage_v)


def ohms_of(network: Network, level: str, e: Element) -> Ohms:
    """The ohms of a run at a fault level: given or by table, moved to that level's conductor temperature."""
    if e.resistance_ohm is None and e.reactance_ohm is None:
        c = conductor(e.conductor_size, e.conductor, e.conduit, network.site.frequency_hz)
        runs = (e.length_m or 0) / 1000 / e.per_phase
        at: float | None = c.at_c
        r, x = c.resistance_ohm_km * runs, c.reactance_ohm_km * runs
        source: Sayable = c.source
    else:
        r, x, at = e.resistance_ohm or 0.0, e.reactance_ohm or 0.0, e.ohms_at_c
        source = say("impedance-network-document")
    if at is None or level == NOMINAL:
        return Ohms(r, x, at, source)
    to = COLD_C if level == MAXIMUM else e.hot_c
    return Ohms(at_temperature(r, e.conductor, at, to), x, to, source)


def _transformer(network: Network, level: str, e: Element) -> list[Branch]:
    """Two windings: one branch. Three: a star of three, whose middle is a node of its own."""
    if len(e.ends) == 2:
        z = _percent(level, e, e.impedance_pct)
        return [Branch(e, e.ends[0], e.ends[1], z * _rated_base(network, e, 1), ratio(network, e, 0, 1))]
    star = star_node(e)
    return [
        Branch(e, end, star, leg, ratio(network, e, i, 1) if i != 1 else 1.0)
        for i, (end, leg) in enumerate(zip(e.ends, star_legs(network, level, e), strict=True))
    ]


def star_legs(network: Network, level: str, e: Element) -> tuple[complex, ...]:
    """The equivalent star of three windings. A leg may be zero or negative; exactly zero would short the solution."""
    z12, z13, z23 = (_percent(level, e, p) for p in (e.impedance_pct, e.impedance_13_pct, e.impedance_23_pct))
    legs = ((z12 + z13 - z23) / 2, (z12 + z23 - z13) / 2, (z13 + z23 - z12) / 2)
    return tuple((leg or CLOSED_PU) * _rated_base(network, e, 1) for leg in legs)


def zero_sequence_pu(network: Network, level: str, e: Element) -> complex:
    """Zero-sequence impedance of two windings as recorded, else the positive one (common practice: 0.85 to 1 of it)."""
    return _percent(level, e, e.z0_pct or e.impedance_pct) * _rated_base(network, e, 1)


def star_node(e: Element) -> str:
    """Id of the node in the middle of a three-winding transformer's equivalent star; in no document."""
    return f"star:{e.id}"


def ratio(network: Network, e: Element, i: int, j: int) -> float:
    """Turns ratio of end i over end j, over that of the nominal voltages; the tap is at the first end."""
    rated = e.rated_voltages_v or tuple(network.node[n].nominal_voltage_v for n in e.ends)
    nominal = [network.node[n].nominal_voltage_v for n in e.ends]
    tap = 1 + e.tap_pct / 100
    turns = [r * (tap if k == 0 else 1.0) for k, r in enumerate(rated)]
    return (turns[i] / nominal[i]) / (turns[j] / nominal[j])


def _rated_base(network: Network, e: Element, end: int) -> float:
    """Percent impedances are on the rated voltage; per unit here is on the node's nominal one."""
    if not e.rated_voltages_v:
        return 1.0
    return (e.rated_voltages_v[end] / network.node[e.ends[end]].nominal_voltage_v) ** 2


def _percent(level: str, e: Element, percent: float | None) -> complex:
    part = {MAXIMUM: -1, MINIMUM: 1}.get(level, 0) * e.tolerance_pct / 100
    return split((percent or 0) * (1 + part) / 100 * per_kva(e), e.x_r or 0)


def per_kva(e: Element) -> float:
    """Per unit on 100 MVA for one per unit on the element's own kVA."""
    return BASE_MVA * 1000 / (e.rated_kva or math.inf)


#: A reactance that nobody recorded, after the moment for which one is: the current may be next to nothing.
UNKNOWN_PU = 1e4


def injections(network: Network, circuit: Circuit, feeders: Sequence[Element]) -> list[Injection]:
    """What of the elements that could feed a fault does so in the circuit."""
    found = []
    for e in feeders:
        z, sustained = _source_pu(e, circuit)
        # a UPS feeds what is behind it
        ends = e.ends[-1:] if e.kind == "ups" else e.ends
        node = next((n for n in ends if network.node[n].current == "ac"), None)
        if z is not None and node is not None:
            found.append(Injection(e, node, z * circuit.scaled.get(e.id, 1), sustained))
    return found


def _source_pu(e: Element, circuit: Circuit) -> tuple[complex | None, bool]:
    """Impedance behind which the element feeds a fault, or None when it does not."""
    own = per_kva(e)
    if e.kind == "source":
        weak = e.id in circuit.weak
        mva, x_r = (e.fault_mva_min, e.x_r_min) if weak else (e.fault_mva_max, e.x_r_max)
        return split(BASE_MVA / (mva or math.inf), x_r or 0), True
    if e.id not in circuit.running:
        return None, True
    if e.kind == "generator":
        return of_reactance(generator_pu(e, circuit) * own, e.x_r or 0), True
    if e.kind == "motor":
        return of_reactance((e.xd_subtransient_pu or 0) * own / e.motors, e.x_r or 0), False
    if e.kind == "ups" and (e.id in circuit.bypass or not e.rated_kva or not e.fault_multiple):
        return None, True
    if e.kind in ("inverter", "shore_connection", "ups"):
        return complex(0, own / (e.fault_multiple or math.inf)), True
    return None, True


def generator_pu(e: Element, circuit: Circuit) -> float:
    """The reactance of a generator in a circuit, per unit on its own kVA."""
    if e.id in circuit.reactance:
        return circuit.reactance[e.id]
    if e.id in circuit.transient:
        return e.xd_transient_pu or UNKNOWN_PU
    return e.xd_subtransient_pu or UNKNOWN_PU


def ceases_s(e: Element) -> float:
    """After how many seconds a source stops feeding a fault of itself; infinite where nothing says so."""
    found = e.fault_for_s if e.kind == "ups" else e.fault_cease_s
    return math.inf if found is None else found


def inputs(network: Network, e: Element, circuit: Circuit) -> dict[str, float]:
    """The numbers from which this element's impedance was made in this circuit, by field name.

    The document's own, except a conductor's ohms: those as they are at the circuit's temperature.
    """
    if e.kind in SERIES:
        ohms = ohms_of(network, circuit.level, e)
        found = {"resistance_ohm": ohms.resistance_ohm, "reactance_ohm": ohms.reactance_ohm}
        return found | ({"at_c": ohms.at_c} if ohms.at_c is not None else {})
    names: tuple[str, ...] = {
        "source": ("fault_mva_min", "x_r_min") if e.id in circuit.weak else ("fault_mva_max", "x_r_max"),
        "generator": ("rated_kva", "x_r"),
        "transformer": ("rated_kva", "impedance_pct", "impedance_13_pct", "impedance_23_pct", "x_r"),
        "motor": ("rated_kva", "xd_subtransient_pu", "x_r", *(("motors",) if e.motors > 1 else ())),
    }.get(e.kind, ("rated_kva", "fault_multiple"))
    found = {n: getattr(e, n) for n in names if getattr(e, n) is not None}
    if e.kind == "generator":
        found |= {"xd_pu": generator_pu(e, circuit)}
    if e.id in circuit.scaled:
        found |= {"times_weaker": abs(circuit.scaled[e.id])}
    if e.kind == "transformer":
        found |= {n: getattr(e, n) for n in ("tap_pct",) if getattr(e, n)}
        if e.tolerance_pct and circuit.level != NOMINAL:
            found["tolerance_pct"] = e.tolerance_pct * (-1 if circuit.level == MAXIMUM else 1)
    return found


def split(z: float, x_r: float) -> complex:
    """An impedance of magnitude z with the given X/R."""
    r = z / math.sqrt(1 + x_r**2)
    return complex(r, r * x_r)


def of_reactance(x: float, x_r: float) -> complex:
    """A reactance x with the resistance that its X/R gives."""
    return complex(x / x_r if x_r else 0, x)
