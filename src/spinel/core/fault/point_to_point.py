"""The point-to-point method, with its arithmetic line by line as an engineer checks it by hand.

Three-phase: f = sqrt(3) L I / (C n E), M = 1 / (1 + f), I at the end = I M; a transformer of known primary current
f = sqrt(3) I E %Z / (100 000 kVA). Impedances are added as magnitudes, so the result is a little low where X/R
differ along the way; ``compare`` says how much of the difference from the nodal result comes from where.
Source: the method as commonly published; formulas from memory, high confidence (docs/methods/point-to-point.md).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.fault.impedance import BASE_MVA, base_ka, base_ohm, ohms_of
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.document import Element
from spinel.core.network.kinds import SERIES
from spinel.core.network.ways import reach, way_to
from spinel.core.quantities import BOLTED_FAULT_CURRENT_KA, IMPEDANCE_PCT, LENGTH_M, NOMINAL_VOLTAGE_V, RATED_KVA
from spinel.core.said import Sayable, say
from spinel.core.tables.conductors import FEET_PER_M
from spinel.core.tables.point_to_point import C_VALUES

#: Transformers may be built with less impedance than their plate says; an infinite source behind one takes 10 % off.
INFINITE_SOURCE_FACTOR = 0.9
MOTOR_MULTIPLE = 4.0


@dataclass(frozen=True)
class Line:
    """One line of the arithmetic: what, the formula with its numbers, the result with its unit."""

    what: Sayable
    formula: Sayable
    result: float
    unit: str


@dataclass(frozen=True)
class Leg:
    """A current carried through one conductor or transformer: f, M and the current at the far end, with the lines."""

    f: float
    m: float
    current_ka: float
    lines: tuple[Line, ...]


def infinite_source_ka(rated_kva: float, secondary_v: float, impedance_pct: float, factor: float = 0.9) -> Leg:
    """Secondary fault current of a transformer on an infinite source: FLA x 100 / (%Z x factor), in kA.

    >>> round(infinite_source_ka(1500, 480, 3.5).current_ka, 2)
    57.28
    """
    kva, volts, z = _transformer(rated_kva, secondary_v, impedance_pct)
    if not 0.5 <= factor <= 1:
        raise InputError("factor", factor, say("point-to-point-from-0-5-to-1-0-9"))
    amps = kva * 1000 / (math.sqrt(3) * volts)
    current = amps * 100 / (z * factor)
    lines = (
        Line(
            say("point-to-point-full-load-current"),
            say("point-to-point-kva-1000-1-732-v", kva=kva, volts=volts),
            amps,
            "A",
        ),
        Line(
            say("point-to-point-bolted-fault-current"),
            say("point-to-point-a-100", amps=amps, z=z, factor=factor),
            current,
            "A",
        ),
    )
    return Leg(0.0, 1.0, current / 1000, lines)


def through_transformer(
    primary_ka: float, primary_v: float, secondary_v: float, rated_kva: float, impedance_pct: float
) -> Leg:
    """Fault current at the secondary of a transformer whose primary fault current is known (three-phase).

    >>> round(through_transformer(23.15, 12470, 480, 1500, 5.75).current_ka, 2)
    29.82
    """
    kva, low, z = _transformer(rated_kva, secondary_v, impedance_pct)
    high = NOMINAL_VOLTAGE_V.check(primary_v, "primary_v")
    current = BOLTED_FAULT_CURRENT_KA.check(primary_ka, "primary_ka") * 1000
    f = math.sqrt(3) * current * high * z / (100_000 * kva)
    m = 1 / (1 + f)
    end = current * high / low * m
    lines = (
        Line("f", say("point-to-point-1-732-a-v-100-000-kva", current=current, high=high, z=z, kva=kva), f, ""),
        Line("M", f"1 / (1 + {f:.4f})", m, ""),
        Line(
            say("point-to-point-bolted-fault-current"),
            say("point-to-point-a-v-v", current=current, high=high, low=low, m=m),
            end,
            "A",
        ),
    )
    return Leg(f, m, end / 1000, lines)


def through_conductor(start_ka: float, voltage_v: float, length_m: float, c_value: float, per_phase: int = 1) -> Leg:
    """Fault current at the end of a run of conductors (three-phase), from that at its start.

    >>> round(through_conductor(30, 480, 30.48, 22185, 1).current_ka, 2)
    20.16
    """
    current = BOLTED_FAULT_CURRENT_KA.check(start_ka, "start_ka") * 1000
    volts = NOMINAL_VOLTAGE_V.check(voltage_v, "voltage_v")
    feet = LENGTH_M.check(length_m) * FEET_PER_M
    if not (math.isfinite(c_value) and 1 <= c_value <= 1e6):
        raise InputError("c_value", c_value, say("point-to-point-from-1-to-1-000-000"))
    if isinstance(per_phase, bool) or not isinstance(per_phase, int) or not 1 <= per_phase <= 100:
        raise InputError("per_phase", per_phase, say("point-to-point-a-whole-number-from-1-to-100"))
    f = math.sqrt(3) * feet * current / (c_value * per_phase * volts)
    m = 1 / (1 + f)
    lines = (
        Line(
            "f",
            say(
                "point-to-point-1-732-ft-a-v",
                feet=feet,
                current=current,
                c_value=c_value,
                per_phase=per_phase,
                volts=volts,
            ),
            f,
            "",
        ),
        Line("M", f"1 / (1 + {f:.4f})", m, ""),
        Line(
            say("point-to-point-bolted-fault-current"),
            say("point-to-point-a-2", current=current, m=m),
            current * m,
            "A",
        ),
    )
    return Leg(f, m, current * m / 1000, lines)


def motor_contribution(full_load_a: float, multiple: float = MOTOR_MULTIPLE) -> Line:
    """What motors add, about four times their full-load current (common practice: 4 to 6).

    >>> motor_contribution(200).result
    800.0
    """
    if not (math.isfinite(full_load_a) and full_load_a > 0):
        raise InputError("full_load_a", full_load_a, say("point-to-point-a-number-above-0-a"))
    if not 1 <= multiple <= 10:
        raise InputError("multiple", multiple, say("point-to-point-from-1-to-10"))
    return Line(
        say("point-to-point-motors-add"),
        say("point-to-point-a", multiple=multiple, full_load_a=full_load_a),
        multiple * full_load_a,
        "A",
    )


def c_value(size: str, metal: str = "copper", conduit: str = "steel") -> int:
    """The published C of a conductor size; InputError where the table has none.

    >>> c_value("500")
    22185
    """
    found = C_VALUES.get(metal, {}).get(size)
    if found is None:
        raise InputError("conductor_size", size, say("point-to-point-a-size-with-a-published-c-value", metal=metal))
    return found[0] if conduit == "steel" else found[1]


def _transformer(rated_kva: float, secondary_v: float, impedance_pct: float) -> tuple[float, float, float]:
    return (
        RATED_KVA.check(rated_kva),
        NOMINAL_VOLTAGE_V.check(secondary_v, "secondary_v"),
        IMPEDANCE_PCT.check(impedance_pct),
    )


@dataclass(frozen=True)
class Compared:
    """A node by hand and by the nodal solution, and the steps from the one to the other, kA each.

    ``by_angle_ka``: the same impedances added as complex numbers; ``by_ohms_ka``: with the conductors' own ohms at the
    circuit's temperature instead of C values; the rest of the difference is other sources and motors.
    """

    source: str
    legs: tuple[tuple[str, Leg], ...]
    by_hand_ka: float
    by_ohms_ka: float
    by_angle_ka: float
    nodal_ka: float

    @property
    def explained(self) -> tuple[tuple[Sayable, float], ...]:
        """Each cause of the difference with its part in kA; they add up to it exactly."""
        return (
            (say("point-to-point-conductors-as-c-values-not-by-their"), self.by_ohms_ka - self.by_hand_ka),
            (say("point-to-point-impedances-added-as-magnitudes-not-with-their"), self.by_angle_ka - self.by_ohms_ka),
            (say("point-to-point-motors-other-sources-and-other-ways"), self.nodal_ka - self.by_angle_ka),
        )


def compare(model: NodalModel, node_id: str) -> Compared:
    """Point to point from the nearest utility or generator to a node of a circuit, beside the nodal result.

    InputError for a node that nothing feeds, or on a way that the method cannot follow.
    """
    nodal = model.bolted_ka(node_id)
    source, way = _way(model, node_id)
    injection = next(i for i in model.injections if i.element is source)
    volts = model.network.node[injection.node].nominal_voltage_v
    current = by_ohms = base_ka(volts) / abs(injection.z_pu)
    z = injection.z_pu
    legs: list[tuple[str, Leg]] = []
    at = injection.node
    for e in way:
        here, there = at, next(n for n in e.ends if n != at)
        at = there
        if e.kind not in ("transformer", *SERIES):
            continue
        leg = _leg(model, e, here, there, current, exact=False)
        legs.append((e.tag, leg))
        by_ohms = _leg(model, e, here, there, by_ohms, exact=True).current_ka
        current = leg.current_ka
        z += model.grid.z_pu(model.circuit)[model.grid.elements.index(e)]
    angle = float(base_ka(model.network.node[node_id].nominal_voltage_v) / abs(z))
    return Compared(source.tag, tuple(legs), current, by_ohms, angle, nodal)


def _way(model: NodalModel, node_id: str) -> tuple[Element, tuple[Element, ...]]:
    """The shortest conducting way from a utility, else from a generator."""
    closed = model.circuit.closed
    network = model.network
    found = reach(network, [node_id], lambda e: closed[e.id] if e.kind not in ("inverter", "rectifier", "ups") else ())
    for kind in ("source", "generator"):
        ways = [
            (i.element, way_to(found, i.node)) for i in model.injections if i.element.kind == kind and i.node in found
        ]
        if ways:
            source, way = min(ways, key=lambda w: len(w[1]))
            if any(e.kind == "transformer" and len(e.ends) == 3 for e in way):
                raise InputError("node", node_id, say("point-to-point-on-a-way-without-a-three-winding"))
            return source, tuple(reversed(way))
    raise InputError("node", node_id, say("point-to-point-a-node-that-a-utility-or-running"))


def _leg(model: NodalModel, e: Element, here: str, there: str, current_ka: float, exact: bool) -> Leg:
    """One element of the way; ``exact``: its own impedance as the nodal solution has it."""
    v1, v2 = (model.network.node[n].nominal_voltage_v for n in (here, there))
    z = float(abs(model.grid.z_pu(model.circuit)[model.grid.elements.index(e)]))
    if e.kind == "transformer":
        percent = z * 100 * (e.rated_kva or 0) / (BASE_MVA * 1000)
        return through_transformer(current_ka, v1, v2, e.rated_kva or 0, percent)
    length = e.length_m or 1.0
    if not exact and e.conductor_size and not e.conductor_size.endswith("mm2"):
        return through_conductor(current_ka, v1, length, c_value(e.conductor_size, e.conductor, e.conduit), e.per_phase)
    ohm = z * base_ohm(v1) if exact else _ohm(model, e)
    return through_conductor(current_ka, v1, length, length * FEET_PER_M / ohm, 1)


def _ohm(model: NodalModel, e: Element) -> float:
    """A conductor without a published C: one over the magnitude of its ohms as the document gives them."""
    ohms = ohms_of(model.network, "nominal", e)
    return math.hypot(ohms.resistance_ohm, ohms.reactance_ohm)
