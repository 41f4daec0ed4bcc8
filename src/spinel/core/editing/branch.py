"""What hangs below a piece of equipment: what would have no supply without it."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from spinel.core.network.kinds import KIND

Record = Mapping[str, Any]
#: Kinds that a site is fed by; what stands by (a generator, solar, a ship) belongs to the branch that it hangs in.
ROOTS = ("source",)


def below(document: Record, element_id: str) -> tuple[str, ...]:
    """The element and everything that only it joins to a utility, in the order of the document. Without a utility
    beyond it: the element alone.

    >>> document = {"elements": [{"id": "u", "kind": "source", "ends": ["a"]}, {"id": "q", "kind": "breaker",
    ...             "ends": ["a", "b"]}, {"id": "m", "kind": "motor", "ends": ["b"]}]}
    >>> below(document, "q")
    ('q', 'm')
    """
    elements = document["elements"]
    kept = _reached(elements, [n for e in elements if e["kind"] in ROOTS for n in e["ends"]], {element_id})
    own = next(e for e in elements if e["id"] == element_id)
    if len(own["ends"]) == 1 or not set(own["ends"]) & kept:
        return (element_id,)
    return tuple(e["id"] for e in elements if e["id"] == element_id or not set(e["ends"]) & kept)


def upper(document: Record, element_id: str) -> str:
    """The end of an element that is on the side of the supply: its first, where both are."""
    elements = document["elements"]
    own = next(e for e in elements if e["id"] == element_id)
    kept = _reached(elements, [n for e in elements if e["kind"] in ROOTS for n in e["ends"]], {element_id})
    return str(next((n for n in own["ends"] if n in kept), own["ends"][0]))


def _reached(elements: Sequence[Record], starts: Iterable[str], without: set[str]) -> set[str]:
    """Nodes joined to the starts, whatever is open."""
    at: dict[str, list[Record]] = {}
    for e in elements:
        for n in e["ends"]:
            at.setdefault(n, []).append(e)
    found = set(starts)
    queue = deque(found)
    while queue:
        for e in at.get(queue.popleft(), ()):
            if e["id"] in without:
                continue
            for n in e["ends"]:
                if n not in found:
                    found.add(n)
                    queue.append(n)
    return found


def is_switch(kind: str) -> bool:
    return KIND[kind].switches
