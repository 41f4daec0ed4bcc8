"""Testing for absence of voltage: the points, the pairs of conductors, the limit, and what readings mean.

The limit is the practice's (3 V, our choice; docs/decisions/006). Above its high voltage a detector's indication per
conductor is recorded, as the highest voltage it may stand for.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import sqrt

from spinel.core.errors import InputError, OutOfRange
from spinel.core.isolation.instruments import DETECTOR, kind_for
from spinel.core.isolation.points import Target
from spinel.core.network.cut import region
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import CONVERTERS
from spinel.core.network.ways import auxiliary, zone
from spinel.core.profile import Profile
from spinel.core.quantities import Quantity
from spinel.core.said import say
from spinel.core.tables.forms import Conductors, Instruments

READING_V = Quantity("reading_v", "V", 0, 1_000_000)


@dataclass(frozen=True)
class Zone:
    """A zone of the target to be proved dead. ``at``: the element at whose terminals it is tested. ``instrument``: the
    kind that it is tested with."""

    point: str
    nodes: frozenset[str]
    at: Element
    voltage_v: float
    current: str
    pairs: tuple[str, ...]
    instrument: str


def required_pairs(network: Network, nodes: Sequence[str], practice: Profile) -> tuple[str, ...]:
    """Every pair of conductors that must be read in a zone, in the practice's names; AC and DC where a converter joins
    it; above its high voltage each conductor on its own."""
    names = practice.conductors
    supply = auxiliary(network, nodes[0])
    if supply is not None:
        return _dc_pairs(names) if supply.supply.current == "dc" else _ac_pairs(names, 1, True)
    here = [network.node[n] for n in nodes]
    most = max(here, key=lambda n: (n.phases, n.neutral))
    neutral = any(n.neutral for n in here)
    base = _dc_pairs(names) if most.current == "dc" else _ac_pairs(names, most.phases, neutral)
    if kind_for(most.nominal_voltage_v, most.current, practice) == DETECTOR:
        base = (names.plus, names.minus) if most.current == "dc" else names.lines[: most.phases]
    both = any(e.kind in CONVERTERS for n in nodes for e in network.at_node[n])
    return tuple(f"{p} {kind}" for kind in ("AC", "DC") for p in base) if both else base


def _dc_pairs(c: Conductors) -> tuple[str, ...]:
    return (f"{c.plus}-{c.minus}", f"{c.plus}-{c.ground}", f"{c.minus}-{c.ground}")


def _ac_pairs(c: Conductors, phases: int, neutral: bool) -> tuple[str, ...]:
    """
    >>> from spinel.core.profile import NORTH_AMERICAN
    >>> _ac_pairs(NORTH_AMERICAN.conductors, 3, False)
    ('L1-L2', 'L2-L3', 'L3-L1', 'L1-G', 'L2-G', 'L3-G')
    """
    if phases == 1:
        return (f"{c.single}-{c.neutral}", f"{c.single}-{c.ground}", f"{c.neutral}-{c.ground}")
    a, b, d = c.lines
    lines = (f"{a}-{b}", f"{b}-{d}", f"{d}-{a}", *(f"{line}-{c.ground}" for line in c.lines))
    return (*lines, f"{c.neutral}-{c.ground}", *(f"{line}-{c.neutral}" for line in c.lines)) if neutral else lines


def zones(network: Network, now: Field, target: Target, practice: Profile) -> list[Zone]:
    """The zones that hold the target's nodes, each with the point where it is tested."""
    found: list[Zone] = []
    for node_id in (*target.element.ends, *target.nodes):
        if not any(node_id in z.nodes for z in found):
            nodes = zone(network, now.devices, node_id)
            at = _test_point(network, target, nodes)
            pairs = required_pairs(network, sorted(nodes), practice)
            node = network.node[node_id]
            kind = kind_for(node.nominal_voltage_v, node.current, practice)
            found.append(Zone(node_id, nodes, at, node.nominal_voltage_v, node.current, pairs, kind))
    for s in target.supplies:
        pairs = required_pairs(network, [s.id], practice)
        kind = kind_for(s.supply.voltage_v, s.supply.current, practice)
        found.append(Zone(s.id, frozenset((s.id,)), target.element, s.supply.voltage_v, s.supply.current, pairs, kind))
    return found


def _test_point(network: Network, target: Target, nodes: frozenset[str]) -> Element:
    """The target itself where it stands in the zone, else a bus, else whatever has its terminals there."""
    if any(end in nodes for end in target.element.ends):
        return target.element
    inside = [e for n in target.nodes if n in nodes for e in network.at_node[n]]
    return next((e for e in inside if e.kind == "bus"), inside[0])


def needs_ground(network: Network, region: frozenset[str], zone: Zone, grounds_above_v: float) -> bool:
    """Above the profile's limit, or where stored electrical energy or an induced voltage is in the island."""
    if zone.point.startswith("aux:"):
        return False
    near = [e for n in region if n in network.at_node for e in network.at_node[n]]
    charged = any("electrical" in e.stored_energy or e.kind == "capacitor" or e.induced_voltage for e in near)
    return zone.voltage_v > grounds_above_v or charged


def induced_in(network: Network, nodes: Iterable[str]) -> bool:
    """May a parallel line induce a voltage in anything at these nodes?"""
    return any(e.induced_voltage for n in nodes if n in network.at_node for e in network.at_node[n])


def may_be_induced(network: Network, now: Field, node_id: str, hold: str) -> bool:
    """May what is read at a node be induced? Only where it is recorded of anything that nothing of the hold cuts off
    from it, and never once a ground of the hold hangs there."""
    if node_id not in network.node or now.grounded(zone(network, now.devices, node_id), hold) is not None:
        return False
    return induced_in(network, region(network, now.devices, [node_id], hold))


def only_induced(
    first_v: Mapping[str, float], second_v: Mapping[str, float], nominal_v: float, by: Instruments
) -> bool:
    """Is what was read twice of some pairs, the second time with an instrument of low impedance, no more than what a
    parallel line induces: of every pair below the practice's share of nominal to ground, and not rising?

    >>> from spinel.core.profile import NORTH_AMERICAN
    >>> one = NORTH_AMERICAN.instruments
    >>> [only_induced({"L1-G": 18}, {"L1-G": v}, 480, one) for v in (16, 25)]
    [True, False]
    >>> only_induced({"L1-G": 60}, {"L1-G": 60}, 480, one), only_induced({"L1-G": 18}, {}, 480, one)
    (False, False)
    >>> only_induced({"L1-G": 18, "L2-G": 5}, {"L1-G": 2, "L2-G": 17}, 480, one)
    False
    """
    most = by.induced_share * nominal_v / sqrt(3)
    return bool(first_v) and all(v <= most and second_v.get(pair, v + 1) <= v for pair, v in first_v.items())


def check_readings(pairs: Sequence[str], readings: Mapping[str, object]) -> dict[str, float]:
    """The typed readings as numbers, one for every pair, or InputError beside the field."""
    return {pair: READING_V.parse(readings.get(pair, ""), f"reading_{i}") for i, pair in enumerate(pairs)}


#: What a detector says of a conductor.
INDICATES, DOES_NOT = "indicates", "does_not"


def check_indications(pairs: Sequence[str], said: Mapping[str, object]) -> dict[str, str]:
    """What a detector said of every conductor, or InputError beside the field: nobody types volts for it."""
    for i, pair in enumerate(pairs):
        if said.get(pair) not in (INDICATES, DOES_NOT):
            raise InputError(f"reading_{i}", said.get(pair, ""), say("absence-indicates-or-does-not"))
    return {pair: str(said[pair]) for pair in pairs}


def present(readings: Mapping[str, float], limit_v: float) -> dict[str, float]:
    """The pairs that read above the limit: voltage is present there."""
    return {pair: volts for pair, volts in readings.items() if not volts <= limit_v}


def instrument_works(reading_v: float, source_v: float, by: Instruments) -> bool:
    """Does the instrument read a known source right, within the practice's tolerance?

    >>> from spinel.core.profile import NORTH_AMERICAN
    >>> instrument_works(118, 120, NORTH_AMERICAN.instruments), instrument_works(0, 120, NORTH_AMERICAN.instruments)
    (True, False)
    """
    if not source_v > 0:
        raise OutOfRange("source_v", source_v, say("absence-a-known-source-above-0-v"))
    return abs(reading_v - source_v) <= by.tolerance * source_v


#: A part counts as discharged by its discharge time at this voltage, V (common practice; IEC 61800-5-1 asks for 60 V).
DISCHARGED_V = 50.0
#: How much slower than its discharge time predicts a charge may fall and still be one.
SLOWER = 0.8


def residual_falls(
    first_v: float, second_v: float, by: Instruments, nominal_v: float = 0.0, discharge_min: float | None = None
) -> bool:
    """Two residual readings a minute apart: falling is residual charge; steady or rising is a source.

    At or below the limit both times there is nothing left to fall. Where the discharge time is recorded, min from
    ``nominal_v``, the fall is held to what it predicts; else to the part by which the practice wants it to fall.

    >>> from spinel.core.profile import NORTH_AMERICAN
    >>> one = NORTH_AMERICAN.instruments
    >>> residual_falls(480, 455, one), residual_falls(48, 21, one), residual_falls(200, 170, one, 480, 15)
    (False, True, True)
    """
    for name, volts in (("reading_0", first_v), ("reading_1", second_v)):
        if not volts >= 0:
            raise InputError(name, volts, READING_V.allowed)
    fall = by.residual_fall
    peak_v = nominal_v * sqrt(2)
    if discharge_min is not None and peak_v > DISCHARGED_V:
        fall = SLOWER * (1 - (DISCHARGED_V / peak_v) ** (1 / discharge_min))
    return second_v <= first_v * (1 - fall) or (first_v <= by.absent_v and second_v <= by.absent_v)
