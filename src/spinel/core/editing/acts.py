"""Changes of a document in the making, each on a ``Sheet``: values, tags, joints, copies. What is left half done is
named by the check of the document, not refused here: somebody is in the middle of it.
"""

from __future__ import annotations

import copy
import re
from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from spinel.core.curves.library import rescaled
from spinel.core.editing import branch, named, plates, usual
from spinel.core.editing.records import PLAIN, Origin, Record, Sheet, assume, put
from spinel.core.errors import InputError
from spinel.core.network.basis import ASSUMED, assumed
from spinel.core.network.kinds import KIND
from spinel.core.quantities import LENGTH_M
from spinel.core.said import say
from spinel.core.tables.conductors import conductor

#: The lists of records that are changed by field, and what is never changed so.
GROUPS = ("elements", "nodes", "enclosures")
#: At most so many tags are made anew at once: more is a slip in the pattern.
MOST = 2000


def change(sheet: Sheet, group: str, record_id: str, values: Mapping[str, Any], origin: Origin) -> None:
    """Set fields of a record; None takes one out. Only what differs is taken to come from ``origin``.

    A voltage goes with everything that is joined to the node without a transformer or converter between; a generic
    curve that is only assumed goes with the rating of its device.
    """
    record = sheet.of(group, record_id)
    for field, value in values.items():
        if field in ("id", "kind", "ends", "basis"):
            raise InputError(field, value, say("editing-not-changed-so"))
        if field == "tag":
            retag(sheet, {record_id: str(value)})
        elif record.get(field) != value:
            was = record.get(field)
            put(record, field, value, origin)
            if field == "rated_a" and was and value:
                _curves_with_rating(record, float(was), float(value), values)
            if field == "nominal_voltage_v" and value is not None:
                _with_voltage(sheet, record_id, value, origin)
            if field == "equipment_class":
                _assume_anew(sheet, record)


def confirm(sheet: Sheet, group: str, record_id: str, fields: Iterable[str], origin: Origin) -> None:
    """Values are as they stand, and come from ``origin``: somebody looked."""
    record = sheet.of(group, record_id)
    for field in fields:
        if field not in record:
            raise InputError(field, None, say("network-check-a-field-that-is-given"))
        put(record, field, record[field], origin)


def _curves_with_rating(record: Record, was: float, now: float, given: Mapping[str, Any]) -> None:
    for field in ("curve", "maintenance_curve"):
        if field in assumed(record) and field not in given and (new := rescaled(record[field], was, now)) is not None:
            put(record, field, new, {})


def _with_voltage(sheet: Sheet, node_id: str, volts: float, origin: Origin) -> None:
    """What conductors and devices join is of one nominal voltage."""
    seen, queue = {node_id}, [node_id]
    while queue:
        for e in sheet.at(queue.pop()):
            if e["kind"] == "transformer" or KIND[e["kind"]].converts:
                continue
            for n in e["ends"]:
                if n not in seen:
                    seen.add(n)
                    queue.append(n)
                    put(sheet.node(n), "nominal_voltage_v", volts, origin)
    for box_id in dict.fromkeys(sheet.node(n).get("enclosure") for n in seen):
        if box_id is not None:
            _assume_anew(sheet, sheet.of("enclosures", box_id))


def _assume_anew(sheet: Sheet, box: Record) -> None:
    """What was only assumed of an enclosure is what is usual of its class and voltage as they are now."""
    volts = sheet.volts([n["id"] for n in sheet.document["nodes"] if n.get("enclosure") == box["id"]])
    for field in assumed(box):
        found = usual.of_enclosure(box["equipment_class"], field, volts)
        if found is not None:
            assume(box, field, found)


def retag(sheet: Sheet, tags: Mapping[str, str]) -> None:
    """New tags of elements, by id, at once: two may swap. Whatever names them by tag follows."""
    new: dict[str, str] = {}
    for element_id, tag in tags.items():
        others = [e for e in sheet.document["elements"] if e["id"] not in tags]
        wanted = Sheet({"elements": others}).tag_is_free(tag)
        if wanted.casefold() in (t.casefold() for t in new.values()):
            raise InputError("tag", wanted, say("editing-a-tag-that-nothing-has"))
        new[element_id] = wanted
    was = {e["tag"]: new[e["id"]] for e in sheet.document["elements"] if e["id"] in new}
    for e in sheet.document["elements"]:
        if e["id"] in new:
            e["tag"] = new[e["id"]]
    named.rename(sheet.document, lambda tag: was.get(tag, tag))


def renumber(sheet: Sheet, element_ids: Sequence[str], pattern: str, replacement: str, first: int) -> dict[str, str]:
    """Tags that hold ``pattern`` get ``replacement`` in its place; ``{n}`` there counts from ``first`` in the order of
    the elements. Old tag to new; InputError where nothing would change, or two would be alike.
    """
    if not pattern:
        raise InputError("pattern", pattern, say("editing-a-part-of-a-tag"))
    new: dict[str, str] = {}
    number = first
    for element_id in element_ids[:MOST]:
        tag = sheet.element(element_id)["tag"]
        if re.search(re.escape(pattern), tag):
            new[element_id] = tag.replace(pattern, replacement.replace("{n}", str(number)), 1)
            number += 1
    if not new:
        raise InputError("pattern", pattern, say("editing-a-part-of-a-tag"))
    was = {sheet.element(i)["tag"]: tag for i, tag in new.items()}
    retag(sheet, new)
    return was


def remove(sheet: Sheet, element_ids: Iterable[str]) -> None:
    """Take elements out, with the nodes and enclosures that only they were at, and what names them."""
    going = set(element_ids)
    gone = [e for e in sheet.document["elements"] if e["id"] in going]
    tags, nodes = {e["tag"] for e in gone}, {n for e in gone for n in e["ends"]}
    sheet.document["elements"] = [e for e in sheet.document["elements"] if e["id"] not in going]
    named.rename(sheet.document, lambda tag: None if tag in tags else tag)
    named.drop_unused(sheet.document, nodes)


def take_out(sheet: Sheet, element_id: str) -> None:
    """Take an element out of its line: what hung at its far end hangs at the near one. InputError for one that joins
    different voltages or more than two nodes."""
    element = sheet.element(element_id)
    if len(element["ends"]) != 2 or element["kind"] == "transformer" or KIND[element["kind"]].converts:
        raise InputError("element", element["tag"], say("editing-only-what-joins-two-nodes-of-one-voltage"))
    near = branch.upper(sheet.document, element_id)
    far = next(n for n in element["ends"] if n != near)
    remove(sheet, [element_id])
    for e in sheet.document["elements"]:
        e["ends"] = [near if n == far else n for n in e["ends"]]
    named.drop_unused(sheet.document, [far])


def connect(sheet: Sheet, element_id: str, end: int, node_id: str) -> None:
    """Join one end of an element to another node. What is behind it in the old enclosure stands in the new one."""
    element, new = sheet.element(element_id), sheet.node(node_id)
    if not 0 <= end < len(element["ends"]):
        raise InputError("end", end, say("editing-an-end-of-this-element"))
    old = sheet.node(element["ends"][end])
    others = [n for i, n in enumerate(element["ends"]) if i != end]
    if node_id in others:
        raise InputError("node", node_id, say("editing-a-node-that-it-does-not-join-yet"))
    if branch.is_switch(element["kind"]) and old.get("enclosure") != new.get("enclosure"):
        for moved in _along(sheet, element, others, old.get("enclosure"), old["id"]):
            _put_into(sheet, moved, new)
    element["ends"][end] = node_id
    named.drop_unused(sheet.document, [old["id"]])


def _along(sheet: Sheet, element: Record, starts: list[str], box: str | None, without: str) -> list[str]:
    """Nodes of an enclosure that are reached through devices from the far ends of one: its own terminals."""
    if box is None:
        return []
    found = [n for n in starts if sheet.node(n).get("enclosure") == box]
    if any(e["kind"] == "bus" for n in found for e in sheet.at(n)):
        return []
    for node in found:
        for e in sheet.at(node):
            if e is not element and branch.is_switch(e["kind"]):
                ends = [n for n in e["ends"] if n not in found and n != without]
                found += [n for n in ends if sheet.node(n).get("enclosure") == box]
    return found


def _put_into(sheet: Sheet, node_id: str, like: Record) -> None:
    node = sheet.node(node_id)
    for box in sheet.document["enclosures"]:
        for room in box.get("compartments", ()):
            room["nodes"] = [n for n in room["nodes"] if n != node_id]
    if like.get("enclosure") is None:
        node.pop("enclosure", None)
        return
    node["enclosure"] = like["enclosure"]
    for room in sheet.of("enclosures", like["enclosure"]).get("compartments", ()):
        if like["id"] in room["nodes"]:
            room["nodes"].append(node_id)


def tie(sheet: Sheet, a: str, b: str, tag: str, kind: str, given: Record, origin: Origin) -> str:
    """Join two nodes of one voltage by a device; it is open in normal service unless something else is given."""
    one, other = sheet.node(a), sheet.node(b)
    if a == b:
        raise InputError("node", b, say("editing-a-node-that-it-does-not-join-yet"))
    if one["nominal_voltage_v"] != other["nominal_voltage_v"] or one["current"] != other["current"]:
        raise InputError("node", b, say("network-check-both-ends-at-one-nominal-voltage-and"))
    if not branch.is_switch(kind) or kind == "transfer_switch":
        raise InputError("kind", kind, say("editing-a-device-that-opens"))
    made = sheet.new_element(kind, tag, [a, b], {"normal_position": "open", **given}, origin)
    return str(made["id"])


def insert(sheet: Sheet, element_id: str, end: int, kind: str, tag: str, given: Record, origin: Origin) -> str:
    """Put a device between an element and the node at one of its ends, in the enclosure of that node."""
    element = sheet.element(element_id)
    if not 0 <= end < len(element["ends"]):
        raise InputError("end", end, say("editing-an-end-of-this-element"))
    if not branch.is_switch(kind) or kind == "transfer_switch":
        raise InputError("kind", kind, say("editing-a-device-that-opens"))
    node = sheet.node(element["ends"][end])
    between = sheet.new_node(node["nominal_voltage_v"], node.get("enclosure"), node["current"], node)
    ends = [node["id"], between["id"]]
    made = sheet.new_element(kind, tag, ends if end == 0 else ends[::-1], given, origin)
    element["ends"][end] = between["id"]
    return str(made["id"])


def split(sheet: Sheet, element_id: str, at_m: float, equipment_class: str, tag: str) -> str:
    """Cut a cable in two at so many metres from its first end, with an enclosure between: a joint, a box. Ohms are
    shared by length. The new cable's id."""
    cable = sheet.element(element_id)
    length = cable.get("length_m")
    if cable["kind"] not in ("cable", "busway") or length is None:
        raise InputError("element", cable["tag"], say("editing-a-cable-of-known-length"))
    at_m = LENGTH_M.check(at_m, "at_m")
    if not at_m < length:
        raise InputError("at_m", at_m, say("editing-shorter-than-the-cable", length_m=length))
    volts = sheet.node(cable["ends"][0])["nominal_voltage_v"]
    new_tag = sheet.tag_is_free(tag)
    box = sheet.new_enclosure(f"{cable['tag']} joint", equipment_class, volts)
    near = sheet.node(cable["ends"][0])
    between = sheet.new_node(volts, box["id"], near["current"], near)
    rest = copy.deepcopy(cable) | {"id": sheet.fresh(), "tag": new_tag, "ends": [between["id"], cable["ends"][1]]}
    cable["ends"] = [cable["ends"][0], between["id"]]
    for part, share in ((cable, at_m / length), (rest, 1 - at_m / length)):
        for field in ("length_m", "resistance_ohm", "reactance_ohm", "r0_ohm", "x0_ohm"):
            if field in part:
                part[field] = float(f"{part[field] * share:.10g}")
    sheet.document["elements"].append(rest)
    return str(rest["id"])


def duplicate(sheet: Sheet, element_id: str, node_id: str, tags: Mapping[str, str]) -> list[str]:
    """Copy an element with all that hangs below it to another node (or to the same once more). ``tags``: new tag by
    old one, for every part. Ids of the copies. Who is told, what it serves and what it is parallel with stays behind.
    """
    going = branch.below(sheet.document, element_id)
    near, target = branch.upper(sheet.document, element_id), sheet.node(node_id)
    parts = [sheet.element(i) for i in going]
    missing = [e["tag"] for e in parts if not tags.get(e["tag"])]
    if missing:
        raise InputError("tags", ", ".join(missing), say("editing-a-new-tag-for-each-part"))
    if sheet.node(near)["nominal_voltage_v"] != target["nominal_voltage_v"]:
        raise InputError("node", node_id, say("network-check-both-ends-at-one-nominal-voltage-and"))
    new_tags = {e["tag"]: sheet.tag_is_free(tags[e["tag"]]) for e in parts}
    if len({t.casefold() for t in new_tags.values()}) < len(new_tags):
        raise InputError("tags", ", ".join(new_tags.values()), say("editing-a-tag-that-nothing-has"))
    nodes = _copied_nodes(sheet, [n for e in parts for n in e["ends"]], near, target, new_tags)
    made = []
    for e in parts:
        new = copy.deepcopy(e)
        for field in ("runs_parallel_with", "restrained_by", "zone", "zone_curve", "serves", "notify"):
            new.pop(field, None)
        new |= {"id": sheet.fresh(), "tag": new_tags[e["tag"]], "ends": [nodes[n] for n in e["ends"]]}
        _nobody_looked(new)
        if any(r in new_tags for r in e.get("restrained_by", ())):
            new["restrained_by"] = [new_tags[r] for r in e["restrained_by"] if r in new_tags]
        sheet.document["elements"].append(new)
        made.append(str(new["id"]))
    return made


def _nobody_looked(copied: Record) -> None:
    """The plate of the one that was copied is no plate of the copy, whether anybody told where it came from or not."""
    told = copied.get("basis", {})
    fields = [f for f in copied if f in told or f in _READ]
    if fields:
        copied["basis"] = {field: {"from": ASSUMED} for field in fields}


#: Fields that are read off equipment, of whichever kind.
_READ = frozenset(row.field for kind in KIND for row in plates.plate(kind) if row.field not in PLAIN)


def _copied_nodes(
    sheet: Sheet, ids: list[str], near: str, target: Record, new_tags: Mapping[str, str]
) -> dict[str, str]:  # fmt: skip
    """Old node to new; enclosures of the branch are copied, but the one that it hangs in."""
    boxes: dict[str, str] = {}
    nodes = {near: str(target["id"])}
    hung = sheet.node(near).get("enclosure")
    for old_id in dict.fromkeys(ids):
        if old_id in nodes:
            continue
        old = sheet.node(old_id)
        box = old.get("enclosure")
        if box is not None and box == hung:
            node = sheet.new_node(old["nominal_voltage_v"], target.get("enclosure"), old["current"], target)
        else:
            if box is not None and box not in boxes:
                boxes[box] = _copied_box(sheet, box, new_tags)
            node = copy.deepcopy(old) | {"id": sheet.fresh()}
            _nobody_looked(node)
            if box is not None:
                node["enclosure"] = boxes[box]
            sheet.document["nodes"].append(node)
        nodes[old_id] = str(node["id"])
    _copied_rooms(sheet, boxes, nodes, new_tags)
    return nodes


def _copied_box(sheet: Sheet, box_id: str, new_tags: Mapping[str, str]) -> str:
    box = copy.deepcopy(sheet.of("enclosures", box_id)) | {"id": sheet.fresh()}
    # control supplies from elsewhere are another matter there, and nobody looked at the way out
    for field in ("auxiliary_supplies", "escape_clear"):
        box.pop(field, None)
        box.get("basis", {}).pop(field, None)
    _nobody_looked(box)
    # called after the equipment that it holds
    for old, new in sorted(new_tags.items(), key=lambda pair: -len(pair[0])):
        if re.search(rf"(?<![\w-]){re.escape(old)}(?![\w-])", box["name"]):
            box["name"] = box["name"].replace(old, new)
            break
    sheet.document["enclosures"].append(box)
    return str(box["id"])


def _copied_rooms(
    sheet: Sheet, boxes: Mapping[str, str], nodes: Mapping[str, str], new_tags: Mapping[str, str]
) -> None:
    for new_id in boxes.values():
        box = sheet.of("enclosures", new_id)
        for room in box.get("compartments", ()):
            room["nodes"] = [nodes[n] for n in room["nodes"] if n in nodes]
            room["devices"] = [new_tags[t] for t in room.get("devices", ()) if t in new_tags]


def ohms_follow(document: Record, element: Record) -> tuple[float, float] | None:
    """What a cable's size and length make of it, ohm; None where they do not tell."""
    if element["kind"] != "cable" or not element.get("conductor_size") or element.get("length_m") is None:
        return None
    hz = document["site"].get("frequency_hz", 60)
    found = conductor(element["conductor_size"], element.get("conductor", "copper"), element.get("conduit", "pvc"), hz)
    share = element["length_m"] / 1000 / element.get("per_phase", 1)
    return found.resistance_ohm_km * share, found.reactance_ohm_km * share


def aside(sheet: Sheet, element_id: str, by: int) -> None:
    """Stand an element one place further left (-1) or right (1) among what hangs at the same node: feeders are drawn in
    the order of the document, so that is what is changed, and nothing else. InputError at either end of the row."""
    near = branch.upper(sheet.document, element_id)
    elements = sheet.document["elements"]
    row = [
        i for i, e in enumerate(elements)
        if near in e["ends"] and e["kind"] != "bus" and branch.upper(sheet.document, e["id"]) == near
    ]  # fmt: skip
    at = next((k for k, i in enumerate(row) if elements[i]["id"] == element_id), -1)
    if at < 0:
        raise InputError("element", element_id, say("editing-a-piece-with-another-on-that-side"))
    if not 0 <= at + by < len(row):
        raise InputError("element", elements[row[at]]["tag"], say("editing-a-piece-with-another-on-that-side"))
    one, other = row[at], row[at + by]
    elements[one], elements[other] = elements[other], elements[one]
