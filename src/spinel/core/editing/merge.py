"""Two people changed one document: what both did is put together record by record and field by field, and where they
did different things to the same field, nothing is chosen for them.
"""

from __future__ import annotations

import copy
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.network.differences import GROUPS

Record = Mapping[str, Any]
#: Whose side is taken where the two differ.
MINE, THEIRS = "mine", "theirs"


@dataclass(frozen=True)
class Conflict:
    """A field that both changed, differently; ``field`` empty: one took the record out, the other changed it."""

    group: str
    id: str
    name: str
    field: str
    base: Any
    mine: Any
    theirs: Any

    @property
    def key(self) -> str:
        return f"{self.group}/{self.id}/{self.field}"


@dataclass(frozen=True)
class Merged:
    """``document``: with ``theirs`` wherever they conflict and nothing was chosen."""

    document: dict[str, Any]
    conflicts: tuple[Conflict, ...]


def merge(base: Record, mine: Record, theirs: Record, chosen: Mapping[str, str] | None = None) -> Merged:
    """What both made of ``base``. ``chosen``: side by key of a conflict.

    >>> base = {"site": {}, "nodes": [], "enclosures": [], "cases": [],
    ...         "elements": [{"id": "a", "tag": "Q", "rated_a": 100, "name": "x"}]}
    >>> def with_(**more): return {**base, "elements": [base["elements"][0] | more]}
    >>> found = merge(base, with_(rated_a=200), with_(name="y"))
    >>> found.document["elements"][0], found.conflicts
    ({'id': 'a', 'tag': 'Q', 'rated_a': 200, 'name': 'y'}, ())
    """
    conflicts: list[Conflict] = []
    document = copy.deepcopy(dict(theirs))
    document["site"] = _record("site", base["site"], mine["site"], theirs["site"], conflicts, chosen or {})
    for group in GROUPS:
        document[group] = _group(group, base, mine, theirs, conflicts, chosen or {})
    return Merged(document, tuple(conflicts))


def _group(
    group: str, base: Record, mine: Record, theirs: Record, conflicts: list[Conflict], chosen: Mapping[str, str]
) -> list[dict[str, Any]]:
    before, one, other = ({r["id"]: r for r in side[group]} for side in (base, mine, theirs))
    found = []
    # in their order, and behind it what only I have
    for record_id in dict.fromkeys((*other, *one)):
        old, my, their = before.get(record_id), one.get(record_id), other.get(record_id)
        if my is not None and their is not None:
            found.append(_record(group, old or {}, my, their, conflicts, chosen))
            continue
        kept = my if my is not None else their
        assert kept is not None
        if old is None:
            found.append(copy.deepcopy(dict(kept)))
        elif kept != old:
            # one took it out, the other changed it
            conflict = Conflict(group, record_id, _name(old), "", old, my, their)
            conflicts.append(conflict)
            side = my if chosen.get(conflict.key) == MINE else their
            if side is not None:
                found.append(copy.deepcopy(dict(side)))
    return found


def _record(
    group: str, base: Record, mine: Record, theirs: Record, conflicts: list[Conflict], chosen: Mapping[str, str]
) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for field in dict.fromkeys((*theirs, *mine)):
        old, my, their = base.get(field), mine.get(field), theirs.get(field)
        value = their
        if my in (their, old):
            value = their
        elif their == old:
            value = my
        elif field == "basis":
            value = _bases(old or {}, my or {}, their or {})
        else:
            conflict = Conflict(group, str(base.get("id", "site")), _name(mine), field, old, my, their)
            conflicts.append(conflict)
            value = my if chosen.get(conflict.key) == MINE else their
        if value is not None:
            found[field] = copy.deepcopy(value)
    if "basis" in found:
        found["basis"] = {f: said for f, said in found["basis"].items() if f in found}
        if not found["basis"]:
            del found["basis"]
    return found


def _bases(old: Record, my: Record, their: Record) -> dict[str, Any]:
    """Where values come from goes field by field; where both say something else, the later word of them stands."""
    found = {}
    for field in dict.fromkeys((*their, *my)):
        mine, theirs = my.get(field), their.get(field)
        value = mine if theirs == old.get(field) else theirs
        if value is not None:
            found[field] = value
    return found


def _name(record: Record) -> str:
    return str(record.get("tag") or record.get("name") or record.get("id", ""))


def chosen_part(base: Record, whole: Record, wanted: set[tuple[str, str]]) -> dict[str, Any]:
    """``base`` with some of the records as ``whole`` has them: by group and id, ``("site", "site")`` the site itself.

    What is not wanted stays as it is, and what is new and not wanted is left out.
    """
    document = copy.deepcopy(dict(base))
    if ("site", "site") in wanted:
        document["site"] = copy.deepcopy(dict(whole["site"]))
    for group in GROUPS:
        before, after = ({r["id"]: r for r in side[group]} for side in (base, whole))
        found = []
        for record_id in dict.fromkeys((*before, *after)):
            record = (after if (group, record_id) in wanted else before).get(record_id)
            if record is not None:
                found.append(copy.deepcopy(dict(record)))
        document[group] = found
    return document
