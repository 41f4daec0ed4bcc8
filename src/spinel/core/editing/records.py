"""A document that is being changed: its records found by id, new ones added with what is usual where none is told."""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping
from typing import Any

from spinel.core.curves.library import GenericCurve
from spinel.core.editing import usual
from spinel.core.editing.usual import Usual
from spinel.core.errors import InputError, NotFound
from spinel.core.network.basis import ASSUMED
from spinel.core.network.kinds import KIND
from spinel.core.said import say
from spinel.core.texts import TAG

Record = dict[str, Any]
#: Where values come from that somebody gives: an origin, a day, a note; as a record keeps it.
Origin = Mapping[str, str]
#: Fields of an element that no plate tells and that are never assumed.
PLAIN = ("id", "tag", "kind", "ends", "name", "location", "basis")


#: Where a generic curve comes from.
GENERIC: Origin = {"from": ASSUMED, "note": "generic"}


class Sheet:
    """A copy of a document to work on. ``fresh``: makes ids that no revision has used; called once for each new record.

    Not finished by itself: what is done to it may leave loose ends, which the check of the document names.
    """

    def __init__(self, document: Mapping[str, Any], fresh: Callable[[], str] | None = None):
        self.document: Record = copy.deepcopy(dict(document))
        self._fresh = fresh

    def fresh(self) -> str:
        if self._fresh is None:
            raise RuntimeError("nothing new is made here")
        return self._fresh()

    def of(self, group: str, record_id: str) -> Record:
        """The record, or NotFound."""
        found = next((r for r in self.document[group] if r["id"] == record_id), None)
        if found is None:
            raise NotFound("equipment", record_id)
        record: Record = found
        return record

    def element(self, element_id: str) -> Record:
        return self.of("elements", element_id)

    def node(self, node_id: str) -> Record:
        return self.of("nodes", node_id)

    def at(self, node_id: str) -> list[Record]:
        """Elements with an end at a node."""
        return [e for e in self.document["elements"] if node_id in e["ends"]]

    def volts(self, nodes: list[str]) -> float:
        """The highest nominal voltage of some nodes, V."""
        known = {n["id"]: n for n in self.document["nodes"]}
        return max((float(known[n]["nominal_voltage_v"]) for n in nodes if n in known), default=0.0)

    def tag_is_free(self, tag: str, but: str = "") -> str:
        """A tag that nothing else has, as it is kept; InputError for one that is taken or is none."""
        tag = TAG.check(tag)
        if any(e["tag"].casefold() == tag.casefold() and e["id"] != but for e in self.document["elements"]):
            raise InputError("tag", tag, say("editing-a-tag-that-nothing-has"))
        return tag

    def free_tag(self, wanted: str) -> str:
        """The tag, or the next like it that nothing has; short enough."""
        wanted = wanted[: TAG.most]
        taken = {e["tag"].casefold() for e in self.document["elements"]}
        found, number = wanted, 2
        while found.casefold() in taken:
            end = f"-{number}"
            found, number = wanted[: TAG.most - len(end)] + end, number + 1
        return found

    def new_node(self, volts: float, enclosure: str | None, current: str = "ac", like: Record | None = None) -> Record:
        """A node of its own, in a compartment with the node that it is like, where that one is in any."""
        node: Record = {"id": self.fresh(), "nominal_voltage_v": volts, "current": current, "grounding": "unknown"}
        if like is not None and like.get("nominal_voltage_v") == volts and like.get("current") == current:
            node |= {k: like[k] for k in ("grounding", "neutral", "phases") if k in like}
        if enclosure is not None:
            node["enclosure"] = enclosure
            if like is not None and like.get("enclosure") == enclosure:
                self._beside(node["id"], like["id"], enclosure)
        self.document["nodes"].append(node)
        return node

    def _beside(self, node_id: str, like_id: str, enclosure: str) -> None:
        for room in self.of("enclosures", enclosure).get("compartments", ()):
            if like_id in room["nodes"]:
                room["nodes"].append(node_id)

    def new_enclosure(self, name: str, equipment_class: str, volts: float) -> Record:
        """An enclosure with what is usual of its class at a voltage, all of it assumed."""
        box: Record = {"id": self.fresh(), "name": name, "equipment_class": equipment_class}
        for row in ("electrode_configuration", "gap_mm", "height_mm", "width_mm", "depth_mm", "working_distance_mm"):
            found = usual.of_enclosure(equipment_class, row, volts)
            if found is not None:
                assume(box, row, found)
        self.document["enclosures"].append(box)
        return box

    def new_element(self, kind: str, tag: str, ends: list[str], given: Record, origin: Origin) -> Record:
        """An element with what is given, which comes from ``origin``; what it needs besides is assumed."""
        element: Record = {"id": self.fresh(), "tag": self.tag_is_free(tag), "kind": kind, "ends": ends}
        for name, value in given.items():
            put(element, name, value, origin)
        volts = self.volts(ends)
        for field, rule in usual.ELEMENTS.get(kind, {}).items():
            # ohms that are given need no length to follow from
            followed = kind == "cable" and "resistance_ohm" in element
            if field not in element and not followed:
                assume(element, field, rule(element, volts))
        for field in KIND[kind].required:
            if field not in element:
                raise InputError(field, None, say("network-check-must-be-given"))
        self.document["elements"].append(element)
        return element


def put(record: Record, field: str, value: Any, origin: Origin) -> None:
    """A value with where it comes from; nothing is put in place of what is the same. None takes it out. A generic curve
    is assumed, wherever its kind was read."""
    basis = dict(record.get("basis", {}))
    if isinstance(value, GenericCurve):
        value, origin = dict(value), GENERIC
    if value is None:
        record.pop(field, None)
        basis.pop(field, None)
    else:
        record[field] = value
        if field not in PLAIN and origin:
            basis[field] = dict(origin)
    _keep(record, basis)


def assume(record: Record, field: str, found: Usual) -> None:
    put(record, field, found.value, {"from": ASSUMED})


def _keep(record: Record, basis: Record) -> None:
    if basis:
        record["basis"] = basis
    else:
        record.pop("basis", None)
