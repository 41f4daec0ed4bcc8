"""Where a document names a piece of equipment by its tag, and a node by its id: one home for every such place."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from spinel.core.editing.records import Record

#: Lists of tags of an element; what a case says by tag.
_LISTS = ("runs_parallel_with", "restrained_by")
_CASES = ("sources", "positions", "settings")
#: A tag in place of another; None where it is named no more.
Renamed = Callable[[str], str | None]


def rename(document: Record, renamed: Renamed) -> None:
    """Name equipment otherwise wherever the document names it by tag, but in the records of the equipment itself."""
    for e in document["elements"]:
        for name in _LISTS:
            _in_list(e, name, renamed)
    for box in document["enclosures"]:
        for room in box.get("compartments", ()):
            if "devices" in room:
                room["devices"] = _each(room["devices"], renamed)
        for supply in box.get("auxiliary_supplies", ()):
            if "isolated_by" in supply:
                _or_out(supply, "isolated_by", renamed(supply["isolated_by"]))
    for case in document["cases"]:
        for name in _CASES:
            if name in case:
                pairs = ((renamed(tag), said) for tag, said in case[name].items())
                case[name] = {tag: said for tag, said in pairs if tag is not None}


def _in_list(record: Record, name: str, renamed: Renamed) -> None:
    if name in record:
        found = _each(record[name], renamed)
        if found:
            record[name] = found
        else:
            del record[name]


def _each(tags: Iterable[str], renamed: Renamed) -> list[str]:
    return [new for tag in tags if (new := renamed(tag)) is not None]


def _or_out(record: Record, name: str, value: Any) -> None:
    if value is None:
        record.pop(name)
    else:
        record[name] = value


def drop_unused(document: Record, before: Iterable[str]) -> None:
    """Take out nodes of ``before`` at which nothing is any more, and the enclosures that held nothing else."""
    used = {n for e in document["elements"] for n in e["ends"]}
    gone = {n for n in before if n not in used}
    boxes = {n.get("enclosure") for n in document["nodes"] if n["id"] in gone}
    document["nodes"] = [n for n in document["nodes"] if n["id"] not in gone]
    held = {n.get("enclosure") for n in document["nodes"]}
    empty = {b for b in boxes if b is not None and b not in held}
    document["enclosures"] = [b for b in document["enclosures"] if b["id"] not in empty]
    for box in document["enclosures"]:
        _rooms_without(box, gone)
    for e in document["elements"]:
        if "zone" in e:
            e["zone"] = [b for b in e["zone"] if b not in empty]
            if not e["zone"]:
                # a relay that looks at nothing trips nothing
                e.pop("zone"), e.pop("zone_curve", None)


def _rooms_without(box: Record, gone: set[str]) -> None:
    for room in box.get("compartments", ()):
        room["nodes"] = [n for n in room["nodes"] if n not in gone]
