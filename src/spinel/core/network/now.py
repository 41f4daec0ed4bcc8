"""What is open, closed and running now: a fold over field events, never the document's normal position.

Field events are a closed list and append-only. A device without any event has an unknown position. An opened
or withdrawn device is of unknown position until it is checked. Unknown counts as closed for liveness.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

EVENT_KINDS = (
    "opened", "closed", "withdrawn", "inserted", "checked", "locked", "unlocked", "tagged", "untagged", "tested",
    "tried", "grounded", "ungrounded", "discharged", "blocked", "unblocked", "released", "notified", "started",
    "stopped", "found", "corrected",
)  # fmt: skip
#: What can be found on a device, by what it is.
FOUND_POSITIONS = ("open", "closed", "withdrawn")
FOUND_THROWS = ("normal", "emergency", "off", "automatic")
FOUND_STATES = ("running", "stopped")


@dataclass(frozen=True)
class FieldEvent:
    """One thing done or seen in the field. ``value`` is the position or state that it leaves."""

    sequence: int
    at: str
    actor: str
    kind: str
    element_id: str
    value: str = ""


@dataclass(frozen=True)
class DeviceNow:
    """Folded state of one element. ``position`` None: never recorded."""

    position: str | None = None
    checked: bool = False
    running: bool | None = None
    blocked: bool = False
    discharged: bool = False
    since: str = ""
    by: str = ""

    @property
    def known(self) -> bool:
        """A closed device is believed; an open or withdrawn one only when checked."""
        return self.position is not None and (self.checked or self.position == "closed")


NEVER_SEEN = DeviceNow()
_MOVES = {"opened": "open", "closed": "closed", "withdrawn": "withdrawn", "inserted": "open"}


def fold(events: Iterable[FieldEvent]) -> dict[str, DeviceNow]:
    """State of every element that has an event, after all of them in order.

    >>> fold([FieldEvent(1, "t", "a", "opened", "x")])["x"].known
    False
    """
    now: dict[str, DeviceNow] = {}
    for event in events:
        device = now.get(event.element_id, NEVER_SEEN)
        now[event.element_id] = _after(device, event)
    return now


def _after(device: DeviceNow, event: FieldEvent) -> DeviceNow:
    stamped = replace(device, since=event.at, by=event.actor)
    if event.kind in _MOVES:
        return replace(stamped, position=event.value or _MOVES[event.kind], checked=False)
    if event.kind == "checked":
        return replace(device, checked=True)
    if event.kind == "found":
        if event.value in FOUND_STATES:
            return replace(stamped, running=event.value == "running")
        return replace(stamped, position=event.value, checked=True)
    if event.kind in ("started", "stopped"):
        return replace(stamped, running=event.kind == "started")
    if event.kind in ("blocked", "unblocked"):
        return replace(device, blocked=event.kind == "blocked")
    return replace(device, discharged=True) if event.kind == "discharged" else device
