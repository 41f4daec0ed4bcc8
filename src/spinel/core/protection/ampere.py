"""Is a fuse too large for what it protects? Its ampere rating against the conductors and motors behind it.

Source: NEC 240.4(B), 240.6(A) and 430.52, from memory, in our own words: at most the next standard size above the
conductor's ampacity (none above 800 A); on a circuit of motors alone up to three times their full-load current.
"""

from __future__ import annotations

import math

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import PROTECTIVE, SERIES
from spinel.core.said import Sayable, say

STANDARD_A = (
    1,
    3,
    6,
    10,
    15,
    20,
    25,
    30,
    35,
    40,
    45,
    50,
    60,
    70,
    80,
    90,
    100,
    110,
    125,
    150,
    175,
    200,
    225,
    250,
    300,
    350,
    400,
    450,
    500,
    600,
    601,
    700,
    800,
)
MOTOR_MULTIPLE = 3.0


def too_large(network: Network, fuse: Element) -> Sayable:
    """Why the fuse does not protect its circuit; empty when it does, or when too little is recorded to say."""
    if fuse.rated_a is None:
        return ""
    conductors, motors, others = _behind(network, fuse)
    ampacities = [c.rated_a for c in conductors if c.rated_a is not None]
    if not ampacities:
        return ""
    ampacity = min(ampacities)
    allowed = next((a for a in STANDARD_A if a >= ampacity), ampacity) if ampacity <= 800 else ampacity
    if motors and not others:
        amps = sum(_full_load_a(network, m) for m in motors)
        allowed = max(allowed, MOTOR_MULTIPLE * amps)
    if fuse.rated_a <= allowed:
        return ""
    return say("ampere-its-a-is-too-large-for-conductors", rated_a=fuse.rated_a, ampacity=ampacity, allowed=allowed)


def _behind(network: Network, fuse: Element) -> tuple[list[Element], list[Element], bool]:
    """Conductors and motors on its load side up to the next protective device; is there anything else?"""
    seen, queue = {fuse.id}, [fuse.ends[-1]]
    conductors, motors, others = [], [], False
    while queue:
        for e in network.at_node[queue.pop()]:
            if e.id in seen:
                continue
            seen.add(e.id)
            if e.kind in SERIES:
                conductors.append(e)
                queue += e.ends
            elif e.kind in ("bus", "ground_switch"):
                continue
            elif e.kind == "motor":
                motors.append(e)
            elif e.kind in PROTECTIVE or len(e.ends) > 1:
                others = others or e.kind not in ("switch", "disconnector", "contactor")
                queue += e.ends if e.kind in ("switch", "disconnector", "contactor") else ()
            else:
                others = True
    return conductors, motors, others


def _full_load_a(network: Network, motor: Element) -> float:
    return motor.motors * (motor.rated_kva or 0) * 1000 / (math.sqrt(3) * network.voltage_of(motor))
