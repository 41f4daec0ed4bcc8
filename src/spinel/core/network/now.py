"""What is open, closed, locked and running now: a fold over field events, never the document's normal position.

Field events are a closed list and append-only. A device without any event has an unknown position. What was opened,
closed, withdrawn or inserted is of unknown position until it is checked; so is what somebody reports to have found,
while a walk-down counts as checked. An unknown position counts as whatever is worse for the question asked.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace
from functools import partial

from spinel.core.said import Said, say

EVENT_KINDS = (
    "opened", "closed", "withdrawn", "inserted", "checked", "locked", "unlocked", "tagged", "untagged", "tested",
    "tried", "grounded", "ungrounded", "discharged", "blocked", "unblocked", "released", "notified", "started",
    "stopped", "found", "corrected", "set",
)  # fmt: skip
#: What can be found on a device, by what it is.
FOUND_POSITIONS = ("open", "closed", "withdrawn")
FOUND_THROWS = ("normal", "emergency", "off", "automatic")
FOUND_STATES = ("running", "stopped")
#: Found where a device opened by itself: nothing closes it before somebody inspected it and knows the cause.
TRIPPED = ("tripped", "blown")
#: The value of the check that follows such an inspection; it says nothing of the position.
INSPECTED = "inspected"
#: The value of a check by the indication at a remote control, where nobody may stand at the device itself.
REMOTE = "remote"
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
    point. ``pairs``: conductors tested. ``digest``, ``region``: the island, and all that nothing of the hold cuts off,
    as they were in the document when tested. ``instrument``: the kind that it was tested with. ``walked``: found by a
    walk-down, which only that act can record.
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
    region: str = ""
    instrument: str = ""
    walked: bool = False


@dataclass(frozen=True, kw_only=True)
class DeviceNow:
    """Folded state of one element. ``position`` None: not known. ``locks`` and ``tags`` name the holds.

    ``blocks``: what is blocked, each with the hold that blocked it. ``moved_by``: the hold that operated it, or that
    must bring it back for one that could not, empty where nobody's hold did or somebody found it otherwise since;
    ``was``: its position before that, None where nobody knew. ``run_by``: the hold that started or stopped it.
    ``by_remote``: checked by the indication at its remote control alone, nobody stood at it.
    """

    position: str | None = None
    checked: bool = False
    by_remote: bool = False
    running: bool | None = None
    blocks: frozenset[tuple[str, str]] = frozenset()
    moved_by: str = ""
    was: str | None = None
    run_by: str = ""
    discharged: bool = False
    tripped: bool = False
    locks: tuple[str, ...] = ()
    tags: tuple[str, ...] = ()
    since: str = ""
    by: str = ""
    #: the permit for which its setting is otherwise than published, empty where it is as published
    set_for: str = ""

    @property
    def known(self) -> bool:
        """Has somebody checked it since it last moved?"""
        return self.position is not None and self.checked

    @property
    def looked_at(self) -> bool:
        """Has somebody stood at it and checked it since it last moved?"""
        return self.known and not self.by_remote

    @property
    def known_or_automatic(self) -> bool:
        return self.known or self.position == "automatic"

    @property
    def blocked(self) -> bool:
        """Can its shaft no longer turn?"""
        return bool(self.holding(SHAFT))

    def holding(self, what: str) -> tuple[str, ...]:
        """The holds that block a shaft, a weight, a spring."""
        return tuple(sorted(hold for blocked, hold in self.blocks if blocked == what))

    def blocked_for(self, hold: str) -> frozenset[str]:
        """What one hold has blocked."""
        return frozenset(what for what, whose in self.blocks if whose == hold)


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
        position = event.value or _MOVES[kind]
        return moved(position=position, checked=False, **_moving(device, event.hold, position))
    if kind == "checked":
        if event.value == INSPECTED:
            return replace(device, tripped=False)
        # what was looked at on the spot is no less so by an indication elsewhere
        return replace(device, checked=True, by_remote=event.value == REMOTE and not device.looked_at)
    if kind == "found":
        return _found(device, moved, event)
    if kind == "corrected":
        return _corrected(device, moved, event.value)
    if kind in ("started", "stopped"):
        return moved(running=kind == "started", run_by=event.hold)
    if kind in ("blocked", "unblocked"):
        what = {(event.value or SHAFT, event.hold)}
        return replace(device, blocks=device.blocks | what if kind == "blocked" else device.blocks - what)
    if kind == "set":
        # it says nothing of the position: not how long that is known, and not by whom
        return replace(device, set_for=event.value)
    if kind == "unlocked":
        return _unlocked(device, event.hold)
    if kind == "locked":
        return replace(device, locks=_hung(device.locks, event.hold, True))
    if kind in ("tagged", "untagged"):
        return replace(device, tags=_hung(device.tags, event.hold, kind == "tagged"))
    return replace(device, discharged=True) if kind == "discharged" else device


def _moving(device: DeviceNow, hold: str, to: str) -> dict[str, str | None]:
    """Whose it is from here on, and what it was before this hold came, or before the one that left it to this one."""
    if hold and device.moved_by == hold:
        return {}
    # what was closed is put in before it is closed
    on_the_way = device.position == "withdrawn" and to == "open" and device.was == "closed"
    if device.moved_by and (to == device.was or on_the_way):
        return {"moved_by": hold}
    return {"moved_by": hold, "was": device.position if hold and device.known_or_automatic else None}


def _unlocked(device: DeviceNow, hold: str) -> DeviceNow:
    """What this hold must leave open for another passes to the last one on it."""
    left = _hung(device.locks, hold, False)
    heir = left[-1] if left and device.moved_by == hold else device.moved_by
    return replace(device, locks=left, moved_by=heir)


def _hung(holds: tuple[str, ...], hold: str, on: bool) -> tuple[str, ...]:
    others = tuple(h for h in holds if h != hold)
    return (*others, hold) if on else others


def _found(device: DeviceNow, moved: Callable[..., DeviceNow], event: FieldEvent) -> DeviceNow:
    if event.value in FOUND_STATES:
        return moved(running=event.value == "running", run_by="")
    if event.value == UNSURE_POSITION:
        return moved(position=None, checked=False, moved_by="", was=None, running=None, run_by="")
    if event.value == UNSURE_LOCK:
        return replace(device, locks=_hung(device.locks, event.hold, False), tags=_hung(device.tags, event.hold, False))
    if event.value == UNSURE_BLOCK:
        return replace(device, blocks=frozenset(), discharged=False)
    if event.value in TRIPPED:
        return moved(position=None, checked=False, moved_by="", was=None, tripped=True)
    if event.value in (UNSURE_GROUND, VOLTAGE_PRESENT):
        return device
    return moved(position=event.value, checked=event.walked, by_remote=False, moved_by="", was=None)


def _corrected(device: DeviceNow, moved: Callable[..., DeviceNow], value: str) -> DeviceNow:
    """Mends a wrong entry; never makes anything checked, so an open device stays of unknown position."""
    if value in FOUND_STATES:
        return moved(running=value == "running", run_by="")
    tripped = value in TRIPPED
    return moved(position=None if tripped else value, checked=False, moved_by="", was=None, tripped=tripped)
