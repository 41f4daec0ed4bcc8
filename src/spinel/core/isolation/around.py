"""What can be made dead around a source that cannot be switched off: the devices and converters next to it."""

from __future__ import annotations

from spinel.core.network.cut import can_isolate
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import CONVERTERS, SWITCHING


def around(network: Network, source: Element) -> tuple[str, ...]:
    """Tags of what lies next to a source: devices that isolate, and converters that can be cut off behind them."""
    seen, queue = {source.id}, list(source.ends)
    nodes, found = set(queue), []
    while queue:
        for e in network.at_node[queue.pop()]:
            if e.id in seen:
                continue
            seen.add(e.id)
            if e.kind in CONVERTERS or can_isolate(e):
                found.append(e.tag)
            elif e.kind not in SWITCHING:
                fresh = [n for n in e.ends if n not in nodes]
                nodes |= set(fresh)
                queue += fresh
    return tuple(sorted(found))
