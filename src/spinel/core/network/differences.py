"""What differs between two network documents, record by record and field by field."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

#: Lists of a document whose records have an id, in the order in which they are told: equipment first.
GROUPS = ("elements", "enclosures", "nodes", "cases")
ADDED, REMOVED, CHANGED = "added", "removed", "changed"


@dataclass(frozen=True)
class FieldChange:
    """``field``: by its name in the document, parts of it behind a point. None: it is not given."""

    field: str
    was: Any
    now: Any


@dataclass(frozen=True)
class Difference:
    """``group``: one of ``GROUPS``, or ``site``. ``name``: its tag or name as it is now, or was when it went.
    ``was_called``: the tag of an element that was named anew, else empty."""

    group: str
    id: str
    name: str
    how: str
    fields: tuple[FieldChange, ...] = ()
    was_called: str = ""


def differences(old: Mapping[str, Any], new: Mapping[str, Any]) -> tuple[Difference, ...]:
    """Every record that one document has and the other has not, or has otherwise. Both are of the present version.
    The order of records in the document is no difference, the order within a field is one.

    >>> old = {"site": {"name": "Pier"}, "elements": [{"id": "a", "tag": "F-1", "rated_a": 400}]}
    >>> new = {"site": {"name": "Pier"}, "elements": [{"id": "a", "tag": "F-1", "rated_a": 600}]}
    >>> [(d.name, d.how, d.fields[0].was, d.fields[0].now) for d in differences(old, new)]
    [('F-1', 'changed', 400, 600)]
    """
    found = list(_of_site(old.get("site", {}), new.get("site", {})))
    for group in GROUPS:
        before, after = ({r["id"]: r for r in data.get(group, ())} for data in (old, new))
        for record_id in dict.fromkeys((*after, *before)):
            found.extend(_of_record(group, record_id, before.get(record_id), after.get(record_id)))
    return tuple(found)


def _of_site(old: Mapping[str, Any], new: Mapping[str, Any]) -> Iterator[Difference]:
    fields = tuple(_fields(old, new))
    if fields:
        yield Difference("site", "site", str(new.get("name", "")), CHANGED, fields)


def _of_record(
    group: str, record_id: str, old: Mapping[str, Any] | None, new: Mapping[str, Any] | None
) -> Iterator[Difference]:
    if old is None or new is None:
        record = new if old is None else old
        assert record is not None
        yield Difference(group, record_id, _name(record), ADDED if old is None else REMOVED)
        return
    fields = tuple(_fields(old, new))
    if fields:
        renamed = _name(old) if _name(old) != _name(new) else ""
        yield Difference(group, record_id, _name(new), CHANGED, fields, renamed)


def _name(record: Mapping[str, Any]) -> str:
    return str(record.get("tag") or record.get("name") or record["id"])


def _fields(old: Mapping[str, Any], new: Mapping[str, Any], before: str = "") -> Iterator[FieldChange]:
    for key in dict.fromkeys((*old, *new)):
        was, now = old.get(key), new.get(key)
        if isinstance(was, Mapping) and isinstance(now, Mapping):
            yield from _fields(was, now, f"{before}{key}.")
        elif not _same(was, now):
            yield FieldChange(f"{before}{key}", was, now)


def _same(was: Any, now: Any) -> bool:
    """1 and 1.0 are the same number; 1 and yes are not, and what is not given is not no."""
    return was == now and isinstance(was, bool) == isinstance(now, bool)


def belonging(
    found: tuple[Difference, ...], old: Mapping[str, Any], new: Mapping[str, Any]
) -> list[tuple[Difference, ...]]:
    """Differences by what stands on site as one: an element first, then the nodes that it joins and their enclosures,
    each with the first that it touches; what belongs to none alone."""
    at: dict[tuple[str, str], tuple[str, str]] = {}
    box = {n["id"]: n.get("enclosure") for data in (old, new) for n in data.get("nodes", ())}
    changed = {d.id for d in found if d.group == "elements"}
    for data in (new, old):
        for e in data.get("elements", ()):
            if e["id"] in changed:
                for n in e["ends"]:
                    at.setdefault(("nodes", n), ("elements", e["id"]))
                    if box.get(n) is not None:
                        at.setdefault(("enclosures", str(box[n])), ("elements", e["id"]))
    together: dict[tuple[str, str], list[Difference]] = {}
    for d in found:
        together.setdefault(at.get((d.group, d.id), (d.group, d.id)), []).append(d)
    return [tuple(each) for each in together.values()]
