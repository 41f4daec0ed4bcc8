"""The simulated plant of a practice run, and the voltage detector that reads it. Never part of any record.

The true state follows what is operated, except where a fault was put in: a blade that stays closed on one phase, a
back-feed that nobody recorded, a meter that is dead. The detector reads the truth; the record knows what people say.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from spinel.core.network.cut import holds_charge
from spinel.core.network.document import Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import STAND_BY, SUPPLIES, SWITCHING
from spinel.core.network.ways import as_stands, auxiliary, reach, touching
from spinel.core.said import say

FAULTS = {
    "stuck_blade": say("switching-plant-one-blade-of-a-device-stays-closed"),
    "back_feed": say("switching-plant-something-that-nobody-recorded-feeds-the"),
    "dead_meter": say("switching-plant-the-meter-stops-working-between-its-two"),
    "rising_residual": say("switching-plant-the-residual-voltage-rises-instead-of-falling"),
}
#: What happens to people rather than to the plant, at one step of a run.
SCENES = {
    "wrong_cubicle": say("switching-plant-the-operator-stands-at-another-device"),
    "others_lock": say("switching-plant-somebody-elses-lock-hangs-there"),
    "no_answer": say("switching-plant-somebody-who-is-told-does-not-answer"),
}
EVERYTHING = {**FAULTS, **SCENES}
KNOWN_SOURCE_V = 120.0
#: Above it a simulated detector indicates.
DETECTED_V = 50.0


@dataclass(frozen=True)
class Fault:
    """``element_id``: the device or the equipment that it is at; empty for the meter."""

    kind: str
    element_id: str = ""


@dataclass(frozen=True)
class Plant:
    """True positions by element, whatever the record says, with the faults put in."""

    network: Network
    recorded: Field
    faults: tuple[Fault, ...] = ()

    def stuck(self) -> frozenset[str]:
        return frozenset(f.element_id for f in self.faults if f.kind == "stuck_blade")

    def has(self, kind: str, element_id: str = "") -> bool:
        return any(f.kind == kind and (not element_id or f.element_id == element_id) for f in self.faults)


def phases_live(plant: Plant, node_id: str) -> frozenset[str]:
    """Which of L1, L2, L3 (or + and -) carry voltage at a node. A stuck blade lets L1 through."""
    if _live(plant, node_id, frozenset()):
        return frozenset(("L1", "L2", "L3", "L", "(+)", "(-)"))
    return frozenset(("L1", "L", "(+)")) if _live(plant, node_id, plant.stuck()) else frozenset()


def _live(plant: Plant, node_id: str, through: frozenset[str]) -> bool:
    """Is the node joined to anything that feeds, with these devices conducting?"""
    network, devices = plant.network, dict(plant.recorded.devices)
    for element_id, device in devices.items():
        element = network.element.get(element_id)
        if element is not None and element.kind in SWITCHING and device.position is not None and not device.checked:
            # what was operated did move, also before anybody looked
            devices[element_id] = replace(device, checked=True)
    stands = as_stands(devices)
    found = reach(network, [node_id], lambda e: e.pairs if e.id in through else stands(e))
    near = touching(network, found)
    fed = any(e.kind in SUPPLIES and _gives(plant, e.id) for e in near.values())
    return fed or any(f.kind == "back_feed" and f.element_id in near for f in plant.faults)


def _gives(plant: Plant, element_id: str) -> bool:
    """A stand-by source that is stopped gives nothing in the simulation."""
    element, device = plant.network.element[element_id], plant.recorded.device(element_id)
    if element.row.supplies == STAND_BY and element.row.own_voltage:
        return device.running if device.running is not None else (element.normal_state or "stopped") == "running"
    return True


def read(plant: Plant, node_id: str, pairs: Sequence[str], after_check: bool = False) -> dict[str, float]:
    """What the simulated detector shows on each pair, V. A dead meter shows nothing anywhere."""
    if plant.has("dead_meter") and after_check:
        return dict.fromkeys(pairs, 0.0)
    supply = auxiliary(plant.network, node_id)
    nominal = supply.supply.voltage_v if supply else plant.network.node[node_id].nominal_voltage_v
    live = phases_live(plant, node_id)
    return {pair: _shown(pair, live, nominal) for pair in pairs}


def _shown(pair: str, live: frozenset[str], nominal_v: float) -> float:
    name, _, kind = pair.partition(" ")
    if kind == "DC":
        return 0.0
    left, _, right = name.rpartition("-") if "(" not in name else _poles(name)
    to_ground = nominal_v if "(" in name else nominal_v / 3**0.5
    parts = [p for p in (left, right) if p]
    count = sum(p in live for p in parts)
    if count == 0:
        return 0.4
    both_lines = all(p not in ("G", "N") for p in parts) and len(parts) == 2
    if count == 2 and both_lines:
        return float(round(nominal_v, 1))
    return round(to_ground, 1)


def _poles(name: str) -> tuple[str, str, str]:
    """(+)-(-), (+)-G, (-)-G as their two ends."""
    left = name[:3]
    return left, "-", name[4:]


def read_known_source(plant: Plant, after_check: bool) -> float:
    """What the detector shows on the known source that ships with it."""
    return 0.0 if plant.has("dead_meter") and after_check else KNOWN_SOURCE_V - 0.6


def residual(plant: Plant, element_id: str) -> tuple[float, float]:
    """Two residual readings, a wait between them."""
    element = plant.network.element[element_id]
    if plant.has("rising_residual", element_id):
        return 60.0, 63.0
    return (48.0, 21.0) if holds_charge(element) else (0.2, 0.2)
