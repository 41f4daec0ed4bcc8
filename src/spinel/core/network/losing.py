"""Who loses supply when devices open: what was fed and is not any more, whom that concerns, how long it may be off."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping

from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import FEEDS, STAND_BY
from spinel.core.network.now import NEVER_SEEN, DeviceNow
from spinel.core.network.ways import as_stands, reach

#: What is there to be fed. Anything else counts once it is recorded what it serves.
TAKES = ("load", "motor", "ups")


def fed(network: Network, devices: Mapping[str, DeviceNow], opened: Collection[str] = ()) -> frozenset[str]:
    """Every node that is kept supplied, with some devices open: through what is closed or of unknown position, and
    through rectifiers and UPS the way they carry. A UPS keeps its output on, for a time, from what it has stored."""
    stands = as_stands(devices)

    def passes(e: Element) -> tuple[tuple[str, str], ...]:
        return () if e.id in opened or e.row.converts else stands(e)

    found = set(reach(network, [n for e in network.elements for n in _supplied_by(e, devices)], passes))
    carrying = [e for e in network.elements if e.kind == "rectifier" and len(e.ends) > 1]
    while onward := [
        n for e in carrying if not found.isdisjoint(_inputs(network, e)) for n in e.ends if n not in found
    ]:  # fmt: skip
        found |= set(reach(network, onward, passes))
    return frozenset(found)


def _supplied_by(e: Element, devices: Mapping[str, DeviceNow]) -> tuple[str, ...]:
    """A stand-by source only while it is recorded as running; what only follows the network keeps nothing on."""
    if e.row.supplies == FEEDS:
        return e.ends[-1:] if e.row.converts else e.ends
    runs = e.row.supplies == STAND_BY and e.row.own_voltage and devices.get(e.id, NEVER_SEEN).running
    return e.ends if runs else ()


def without_supply(network: Network, devices: Mapping[str, DeviceNow], opened: Collection[str]) -> list[Element]:
    """What takes or serves something, was fed, and is not once these devices are open. Stand-by sources that would
    start are not counted on, nor a transfer that would follow."""
    return lost(network, fed(network, devices), fed(network, devices, opened))


def coming_back(
    network: Network, devices: Mapping[str, DeviceNow], then: Mapping[str, DeviceNow]
) -> list[Element]:  # fmt: skip
    """What has no supply now and has one as things stand then."""
    return lost(network, fed(network, then), fed(network, devices))


def lost(network: Network, before: frozenset[str], after: frozenset[str]) -> list[Element]:
    return [
        e for e in network.elements
        if (e.kind in TAKES or e.serves)
        and any(n in before for n in _inputs(network, e)) and not any(n in after for n in _inputs(network, e))
    ]  # fmt: skip


def _inputs(network: Network, e: Element) -> tuple[str, ...]:
    """Where it takes its supply: a rectifier where it is AC. What a battery keeps on behind it does not charge it."""
    if e.kind == "rectifier":
        return tuple(n for n in e.ends if network.node[n].current == "ac") or e.ends[:1]
    return e.ends[:1] if e.row.converts else e.ends


def told(dark: Iterable[Element]) -> tuple[str, ...]:
    """Whom to tell, each once."""
    return tuple(dict.fromkeys(e.notify for e in dark if e.notify))


def by_themselves(network: Network, devices: Mapping[str, DeviceNow], opened: Collection[str]) -> list[Element]:
    """Transfer switches in automatic that would lose the supply they watch, and so move by themselves."""
    before, after = fed(network, devices), fed(network, devices, opened)
    return [
        e for e in network.elements
        if e.kind == "transfer_switch" and devices.get(e.id, NEVER_SEEN).position == "automatic"
        and any(n in before and n not in after for n in e.ends[:2])
    ]  # fmt: skip
