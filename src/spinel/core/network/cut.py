"""What cuts a region off for a hold, and what still feeds or may feed it through all that does not.

Isolation belongs to a hold: a device cuts for it only when it is able to isolate, open or withdrawn, checked since it
moved, and carries a lock of that hold. Everything else counts as closed, whatever its position.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SUPPLIES, SWITCHING
from spinel.core.network.now import NEVER_SEEN, DeviceNow
from spinel.core.network.ways import Passes, everything, reach, touching, way_to

Devices = Mapping[str, DeviceNow]


def can_isolate(e: Element) -> bool:
    """Able to isolate and to take a lock; a fuse only by being withdrawn. Tag-only never isolates."""
    if e.kind not in SWITCHING or e.row.never_isolates:
        return False
    return e.isolating and e.lockable and (e.kind != "fuse" or e.withdrawable)


def isolating_positions(e: Element) -> tuple[str, ...]:
    """Positions in which the device isolates."""
    if e.kind == "fuse":
        return ("withdrawn",)
    return ("open", "withdrawn") if e.withdrawable else ("open",)


def is_cut(e: Element, device: DeviceNow, hold: str) -> bool:
    """Is the device open or withdrawn as it must be, looked at on the spot since, and locked by the hold?"""
    # asked of every device on every way: what most of them are not comes first
    if hold not in device.locks or not device.looked_at:
        return False
    return can_isolate(e) and device.position in isolating_positions(e)


def uncut(devices: Devices, hold: str) -> Passes:
    """Passes: everything joins its ends but what cuts for the hold."""
    return lambda e: () if is_cut(e, devices.get(e.id, NEVER_SEEN), hold) else everything(e)


def region(network: Network, devices: Devices, nodes: Iterable[str], hold: str) -> frozenset[str]:
    """Every node that nothing of the hold cuts off from these."""
    return frozenset(reach(network, nodes, uncut(devices, hold)))


def cutting(network: Network, devices: Devices, nodes: Iterable[str], hold: str) -> list[Element]:
    """The devices that cut the region of these nodes off."""
    near = touching(network, region(network, devices, nodes, hold)).values()
    return [e for e in near if is_cut(e, devices.get(e.id, NEVER_SEEN), hold)]


def holds_charge(e: Element) -> bool:
    """Does it keep electrical energy when cut off: a capacitor, a rectifier's DC link, or where it is recorded?"""
    return e.row.holds_charge or "electrical" in e.stored_energy


def still_fed(
    network: Network, devices: Devices, nodes: Iterable[str], hold: str
) -> list[tuple[Element, tuple[Element, ...]]]:
    """What feeds or may feed the nodes, with the way, when all but what cuts for the hold counts as closed.

    Motors until blocked and charged parts until discharged are among them: empty means an isolated island.
    """
    found = reach(network, nodes, uncut(devices, hold))
    fed = []
    for e in touching(network, found).values():
        device = devices.get(e.id, NEVER_SEEN)
        if not is_cut(e, device, hold) and _gives(e, device):
            end = next(n for n in e.ends if n in found)
            fed.append((e, way_to(found, end)))
    return fed


def _gives(e: Element, device: DeviceNow) -> bool:
    if e.kind in SUPPLIES:
        return True
    return (e.kind == "motor" and not device.blocked) or (holds_charge(e) and not device.discharged)
