"""Documents of earlier versions, brought to the present one step at a time. Nothing is written back but by publishing.

From 1 to 2: ``line_terminals_separated`` of an enclosure becomes compartments. What it said holds for the terminals
of a main (a device between a bus of the enclosure and a node there that no bus is at) and for no feeder.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

VERSION = 2
RELEASED = (1, 2)


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """The document at the present version; the one given is left as it is."""
    found = dict(data)
    if found.get("version") == 1 and not isinstance(found.get("version"), bool):
        found = _one_to_two(found)
    return found


def _one_to_two(data: dict[str, Any]) -> dict[str, Any]:
    boxes = data.get("enclosures")
    if not isinstance(boxes, list):
        return data | {"version": 2}
    return data | {"version": 2, "enclosures": [_box(data, b) if isinstance(b, dict) else b for b in boxes]}


def _box(data: dict[str, Any], box: dict[str, Any]) -> dict[str, Any]:
    separated = box.get("line_terminals_separated")
    if separated is not None and not isinstance(separated, bool):
        return box
    kept = {k: v for k, v in box.items() if k != "line_terminals_separated"}
    if separated is not True:
        return kept
    inside = [n["id"] for n in _records(data, "nodes") if n.get("enclosure") == box.get("id") and "id" in n]
    elements = [e for e in _records(data, "elements") if isinstance(e.get("ends"), list) and e["ends"]]
    buses = {e["ends"][0] for e in elements if e.get("kind") == "bus"}
    mains = [
        e
        for e in elements
        if e.get("kind") in ("breaker", "switch", "disconnector", "fuse")
        and len(e["ends"]) == 2
        and e["ends"][0] in inside
        and e["ends"][0] not in buses
        and e["ends"][1] in inside
        and e["ends"][1] in buses
    ]
    lines = {e["ends"][0]: e["tag"] for e in mains if isinstance(e.get("tag"), str)}
    others = [n for n in inside if n not in lines]
    if not lines or not others:
        return kept
    own = {e.get("tag") for e in mains}
    rest = sorted(
        e["tag"]
        for e in elements
        if e.get("kind") in ("breaker", "switch", "disconnector", "fuse", "contactor", "transfer_switch")
        and any(n in others for n in e["ends"])
        and e.get("tag") not in own
        and isinstance(e.get("tag"), str)
    )
    rooms = [{"id": "rest", "name": "All but line terminals of mains", "nodes": others, "devices": rest}]
    barriers = []
    for i, (node, tag) in enumerate(sorted(lines.items())):
        room = f"line{i + 1}"
        devices = [e["tag"] for e in mains if e["ends"][0] == node]
        rooms.append({"id": room, "name": f"Line terminals of {tag}", "nodes": [node], "devices": devices})
        barriers.append(["rest", room])
    return kept | {"compartments": rooms, "barriers": barriers}


def _records(data: dict[str, Any], group: str) -> list[dict[str, Any]]:
    found = data.get(group)
    return [r for r in found if isinstance(r, dict)] if isinstance(found, list) else []
