"""Duty check: is a device rated for the fault current and the voltage where it stands?

A device that fails is a hazard to whoever operates it, and its clearing time is not believed. A rating that
nobody recorded counts as failing.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from spinel.core.fault.nodal import NodalModel
from spinel.core.network.document import PROTECTIVE, Element, Network

CONSTRUCTIONS = ("molded-case", "insulated-case", "power", "medium-voltage")


@dataclass(frozen=True)
class Duty:
    """Result for one device: worst bolted fault current at either end over all circuits, in kA."""

    adequate: bool
    available_ka: float | None
    interrupting_ka: float | None
    reason: str


def duty_checks(network: Network, models: Iterable[NodalModel]) -> Mapping[str, Duty]:
    """The duty of every breaker, fuse and contactor. Symmetrical current only (docs/methods/duty.md)."""
    worst: dict[str, tuple[float, str]] = {}
    for model in models:
        for node_id in network.node:
            if model.energised(node_id):
                current = model.bolted_ka(node_id)
                for e in network.at_node[node_id]:
                    if e.kind in PROTECTIVE and current > worst.get(e.id, (0.0, ""))[0]:
                        worst[e.id] = (current, model.circuit.name)
    return {e.id: _judge(network, e, worst.get(e.id)) for e in network.elements if e.kind in PROTECTIVE}


def _judge(network: Network, e: Element, worst: tuple[float, str] | None) -> Duty:
    available = worst[0] if worst else None
    voltage = network.voltage_of(e)
    if e.rated_voltage_v is None or e.rated_voltage_v < voltage:
        reason = f"rated {e.rated_voltage_v or 0:g} V on a {voltage:g} V circuit"
        return Duty(False, available, e.interrupting_ka, reason)
    if e.interrupting_ka is None:
        return Duty(False, available, None, "its interrupting rating is not recorded")
    if worst is None:
        return Duty(True, None, e.interrupting_ka, "no fault current reaches it in any case")
    if e.interrupting_ka < worst[0]:
        return Duty(
            False, available, e.interrupting_ka,
            f"rated to interrupt {e.interrupting_ka:g} kA where {worst[0]:.1f} kA is available ({worst[1]})",
        )  # fmt: skip
    reason = f"rated {e.interrupting_ka:g} kA for {worst[0]:.1f} kA ({worst[1]})"
    return Duty(True, available, e.interrupting_ka, reason)
