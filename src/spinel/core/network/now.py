"""What is open, closed, locked and running now: a fold over field events, never the document's normal position.

Field events are a closed list and append-only. A device without any event has an unknown position. An opened
or withdrawn device is of unknown position until it is checked. Unknown counts as closed for liveness.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import partial

from spinel.core.said import Said, say

EVENT_KINDS = (
    "opened", "closed", "withdrawn", "inserted", "checked", "locked", "unlocked", "tagged", "untagged", "tested",
    "tried", "grounded", "ungrounded", "discharged", "blocked", "unblocked", "released", "notified", "started",
    "stopped", "found", "corrected",
)  # fmt: skip
#: What can be found on a device, by what it is.
FOUND_POSITIONS = ("open", "closed", "withdrawn")
FOUND_THROWS = ("normal", "emergency", "off", "automatic")
FOUND_STATES = ("running", "stopped")
#: Recorded by Spinel when it had to refuse a step that somebody says was done: the record no longer knows.
UNSURE_POSITION, UNSURE_LOCK, UNSURE_GROUND, UNSURE_BLOCK = "unsure", "lock unsure", "ground unsure", "block unsure"
#: A test found voltage where the record has none.
VOLTAGE_PRESENT = "voltage present"
SHAFT = "shaft"


def position_words(found: str | None) -> Said:
    """A position, state or finding as it is read; None where nobody knows."""
    return say(f"position-{(found or 'unknown').replace(' ', '-')}")


@dataclass(frozen=True, kw_only=True)
class FieldEvent:
    """One thing done or seen in the field. ``value`` is the position or state that it leaves.

    ``hold``: the isolation it belongs to, by the number of its first program. ``node_id``: the test or grounding
    point. ``pairs``: conductors tested. ``digest``: the island as it was in the document when tested.
    """

    sequence: int
    at: str
    actor: str
    kind: str
    element_id: str
    value: str = ""
    hold: str = ""
    node_id: str = ""
    pairs: tuple[str, ...] = ()
    digest: str = ""


@dataclass(frozen=True, kw_only=True)
class DeviceNow:
    """Folded state of one element. ``position`` None: not known. ``locks`` and ``tags`` name the holds."""

    position: str | None = None
    checked: bool = False
    running: bool | None = None
    blocks: frozenset[str] = frozenset()
    discharged: bool = False
    locks: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    since: str = ""
    by: str = ""

    @property
    def known(self) -> bool:
        """A closed device is believed; an open or withdrawn one only when checked."""
        return self.position is not None and (self.checked or self.position == "closed")

    @property
    def known_or_automatic(self) -> bool:
        return self.known or self.position == "automatic"

    @property
    def blocked(self) -> bool:
        """Can its shaft no longer turn?"""
        return SHAFT in self.blocks


NEVER_SEEN = DeviceNow()
_MOVES = {"opened": "open", "closed": "closed", "withdrawn": "withdrawn", "inserted": "open"}


def fold(events: Iterable[FieldEvent]) -> dict[str, DeviceNow]:
    """State of every element that has an event, after all of them in order.

    >>> opened = FieldEvent(sequence=1, at="t", actor="a", kind="opened", element_id="x")
    >>> fold([opened])["x"].known
    False
    """
    now: dict[str, DeviceNow] = {}
    for event in events:
        now[event.element_id] = after(now.get(event.element_id, NEVER_SEEN), event)
    return now


def after(device: DeviceNow, event: FieldEvent) -> DeviceNow:
    """The device once the event has happened."""
    moved, kind = partial(replace, device, since=event.at, by=event.actor), event.kind
    if kind in _MOVES:
        return moved(position=event.value or _MOVES[kind], checked=False)
    if kind == "checked":
        return replace(device, checked=True)
    if kind == "found":
        return _found(device, moved, event)
    if kind == "corrected":
        return _corrected(device, moved, event.value)
    if kind in ("started", "stopped"):
        return moved(running=kind == "started")
    if kind in ("blocked", "unblocked"):
        what = {event.value or SHAFT}
        return replace(device, blocks=device.blocks | what if kind == "blocked" else device.blocks - what)
    if kind in ("locked", "unlocked"):
        return replace(device, locks=_hung(device.locks, event.hold, kind == "locked"))
    if kind in ("tagged", "untagged"):
        return replace(device, tags=_hung(device.tags, event.hold, kind == "tagged"))
    return replace(device, discharged=True) if kind == "discharged" else device


def _hung(holds: tuple[str, ...], hold: str, on: bool) -> tuple[str, ...]:
    others = tuple(h for h in holds if h != hold)
    return (*others, hold) if on else others


def _found(device: DeviceNow, moved: Callable[..., DeviceNow], event: FieldEvent) -> DeviceNow:
    if event.value in FOUND_STATES:
        return moved(running=event.value == "running")
    if event.value == UNSURE_POSITION:
        return moved(position=None, checked=False)
    if event.value == UNSURE_LOCK:
        return replace(device, locks=_hung(device.locks, event.hold, False), tags=_hung(device.tags, event.hold, False))
    if event.value == UNSURE_BLOCK:
        return replace(device, blocks=frozenset(), discharged=False)
    if event.value in (UNSURE_GROUND, VOLTAGE_PRESENT):
        return device
    return moved(position=event.value, checked=True)


def _corrected(device: DeviceNow, moved: Callable[..., DeviceNow], value: str) -> DeviceNow:
    """Mends a wrong entry; never makes anything checked, so an open device stays of unknown position."""
    if value in FOUND_STATES:
        return moved(running=value == "running")
    return moved(position=value, checked=False)
