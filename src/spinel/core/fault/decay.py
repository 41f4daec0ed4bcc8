"""What feeds a fault does so for a time: motors until they have given what their iron held, converters until they shut
off, generators less and less. The time after a fault is cut into phases; within one every current lies between two
states of the network, a high one and a low one.

Energy is taken at the high state. A device counts on what flows in both: never on a current that may be gone.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from spinel.core.fault.impedance import ceases_s
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Case, Element, Network

#: By what the impedance of something is multiplied that feeds no longer: far above any, yet a number.
DEAD = 1e12
#: A motor's share is taken in full until it is gone: some five cycles for small ones, eight to ten for large (common
#: practice, from memory; 50 Hz, the longer). Small: at low voltage, up to so many kVA each.
SMALL_GONE_S, LARGE_GONE_S, SMALL_KVA, LOW_VOLTAGE_V = 0.1, 0.2, 200.0, 1000.0
#: Time constants of generators where nobody recorded them: the range that is published (from memory), shortest for what
#: a device may count on, longest for energy.
SUBTRANSIENT_S, TRANSIENT_S = (0.02, 0.05), (0.5, 2.0)
#: Moments at which a generator's current is taken anew, in time constants; nobody asks what comes after two seconds.
SUBTRANSIENT_STEPS = (0.15, 0.3, 0.45, 0.6, 0.8, 1.0, 1.25, 1.5, 2.0, 2.5, 3.2, 4.5)
TRANSIENT_STEPS = (0.15, 0.3, 0.45, 0.6, 0.8, 1.0, 1.25, 1.5, 2.0, 2.5, 3.0, 4.0)
LATEST_S = 2.0


@dataclass(frozen=True, kw_only=True)
class Phase:
    """From ``from_s`` to the next phase. ``high`` and ``low``: by what the impedance of each machine is multiplied, 1
    for those not named. ``even``: are both so well known and near each other that a device may be timed by what
    flows on the average? ``ended``: sources that have ceased of themselves."""

    from_s: float
    high: Mapping[str, float]
    low: Mapping[str, float]
    even: bool
    ended: frozenset[str]


@dataclass(frozen=True)
class Decay:
    """``lost``: generators of which something is not recorded that the fall of their current depends on."""

    phases: tuple[Phase, ...]
    lost: frozenset[str]


def decay(network: Network, circuit: Circuit, case: Case | None) -> Decay:
    """How what runs in a circuit dies away; a generator whose reactance the case pins stays as pinned."""
    said = case.sources if case else {}
    running = [e for e in network.elements if e.id in circuit.running]
    motors = {e.id: motor_gone_s(network, e) for e in running if e.kind == "motor"}
    cease = {e.id: s for e in running if e.row.fault_source and math.isfinite(s := ceases_s(e))}
    falling = [e for e in running if e.kind == "generator" and "reactance" not in said.get(e.tag, {})]
    moments = {0.0, *motors.values(), *cease.values(), *(t for e in falling for t in _moments(e))}
    starts = sorted(moments)
    found = []
    for t, until in zip(starts, [*starts[1:], math.inf], strict=True):
        high = {i: DEAD for i, gone in motors.items() if gone <= t}
        off = {i: DEAD for i, s in cease.items() if s <= t}
        top, bottom = dict[str, float](), dict[str, float]()
        for e in falling:
            first = 1 / (e.xd_subtransient_pu or math.inf)
            # what flows as the phase begins: an arc may end soon after, before the average is true
            top[e.id] = first / _highest(e, t)
            bottom[e.id] = first / _lowest(e, until)
        found.append(Phase(
            from_s=t, high={**high, **off, **top}, low={**dict.fromkeys(motors, DEAD), **off, **bottom},
            even=len(high) == len(motors) and not any(_lacking(e) for e in falling), ended=frozenset(off),
        ))  # fmt: skip
    return Decay(tuple(found), frozenset(e.id for e in falling if _lacking(e)))


def motor_gone_s(network: Network, e: Element) -> float:
    """When a motor's share of an arc is gone, s."""
    small = network.voltage_of(e) <= LOW_VOLTAGE_V and (e.rated_kva or math.inf) <= SMALL_KVA
    return SMALL_GONE_S if small else LARGE_GONE_S


# Generators ------------------------------------------------------------------------------------------------------


def lasting_pu(e: Element, seconds: float = 0.0) -> float | None:
    """The reactance that stands for what a generator sustains: by excitation support while it lasts, else synchronous;
    None where nobody recorded it."""
    if e.excitation_support_multiple and seconds < (e.excitation_support_s or 0.0):
        return max(1 / e.excitation_support_multiple, e.xd_transient_pu or 0.0)
    return e.xd_sync_pu


def current_pu(e: Element, seconds: float, subtransient_s: float, transient_s: float) -> float:
    """A generator's current some seconds into a fault at its terminals, in multiples of its rated one.

    I(t) = (1/X'' - 1/X') exp(-t/T''d) + (1/X' - 1/X) exp(-t/T'd) + 1/X, any textbook on machines; a reactance that
    nobody recorded gives nothing.

    >>> e = Element(id="g", tag="g", kind="generator", ends=("a",), xd_subtransient_pu=0.12, xd_transient_pu=0.2,
    ...             xd_sync_pu=2.0)
    >>> round(current_pu(e, 0.0, 0.03, 0.8), 3), round(current_pu(e, 0.5, 0.03, 0.8), 3)
    (8.333, 2.909)
    """
    first, second, third = (
        1 / x if x else 0.0 for x in (e.xd_subtransient_pu, e.xd_transient_pu, lasting_pu(e, seconds))
    )
    return (
        (first - second) * math.exp(-seconds / subtransient_s)
        + (second - third) * math.exp(-seconds / transient_s)
        + third
    )


def _lacking(e: Element) -> bool:
    known = (e.xd_transient_pu, e.td_subtransient_s, e.td_transient_s, lasting_pu(e))
    return any(k is None for k in known)


def _constants(e: Element, which: int) -> tuple[float, float]:
    """Subtransient and transient time constant: as recorded, else the shortest (0) or longest (1) published."""
    return e.td_subtransient_s or SUBTRANSIENT_S[which], e.td_transient_s or TRANSIENT_S[which]


def _highest(e: Element, seconds: float) -> float:
    """The most that may still flow: what comes after the last reactance that is recorded is taken as no less."""
    if e.xd_transient_pu is None:
        return 1 / (e.xd_subtransient_pu or math.inf)
    known = current_pu(e, seconds, *_constants(e, 1))
    if lasting_pu(e, seconds) is None:
        t = math.exp(-seconds / _constants(e, 1)[0])
        return 1 / e.xd_transient_pu + (1 / (e.xd_subtransient_pu or math.inf) - 1 / e.xd_transient_pu) * t
    return known


def _lowest(e: Element, seconds: float) -> float:
    """The least that flows for certain; next to nothing where nobody knows."""
    if math.isinf(seconds):
        return max(1 / x if (x := lasting_pu(e, seconds)) else 0.0, 1e-4)
    return max(current_pu(e, seconds, *_constants(e, 0)), 1e-4)


def _moments(e: Element) -> Iterator[float]:
    subtransient, transient = _constants(e, 0)
    for constant, steps in ((subtransient, SUBTRANSIENT_STEPS), (transient, TRANSIENT_STEPS)):
        yield from (s * constant for s in steps if s * constant < LATEST_S)
    yield LATEST_S
    if e.excitation_support_multiple and 0 < (e.excitation_support_s or 0.0) < LATEST_S:
        yield e.excitation_support_s or 0.0
