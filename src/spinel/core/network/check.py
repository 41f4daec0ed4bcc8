"""Is a network document acceptable? Every problem names the element, the field, the value, what is allowed.

First shape and ranges (JSON Schema), then sense: identities, joints, voltages, impedances, curves, cases.
"""

from __future__ import annotations

import json
import math
from collections import Counter
from itertools import combinations
from typing import TYPE_CHECKING, Any
from zoneinfo import ZoneInfo, available_timezones

from spinel.core.curves.times import quickest_s

if TYPE_CHECKING:
    import jsonschema

from spinel.core.errors import DocumentError, Problem, show
from spinel.core.network.document import CURVES, FORMAT, Element, Network, read_network
from spinel.core.network.kinds import CONVERTERS, SWITCHING
from spinel.core.network.ratings import position_fits, positions_of, rating_problems
from spinel.core.network.schema import schema
from spinel.core.network.upgrade import RELEASED, upgraded
from spinel.core.parts import parts_of_names


def parse(text: str) -> dict[str, Any]:
    """JSON text to a document, or DocumentError. NaN, Infinity and repeated keys are refused."""

    def unique(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        counts = Counter(k for k, _ in pairs)
        twice = [k for k, n in counts.items() if n > 1]
        if twice:
            raise DocumentError([Problem("document", twice[0], "given twice", "each key once in an object")])
        return dict(pairs)

    def constant(name: str) -> None:
        raise DocumentError([Problem("document", "a number", name, "finite numbers only")])

    try:
        data = json.loads(text, object_pairs_hook=unique, parse_constant=constant)
    except json.JSONDecodeError as e:
        raise DocumentError([Problem("document", f"line {e.lineno}", e.msg, "valid JSON")]) from None
    except RecursionError:
        raise DocumentError([Problem("document", "nesting", "too deep", "a network document")]) from None
    if not isinstance(data, dict):
        raise DocumentError([Problem("document", "top level", type(data).__name__, "a JSON object")])
    return data


def accept(data: dict[str, Any]) -> Network:
    """The network that an acceptable document describes, of any released version, or DocumentError with all its
    problems: those of shape, of identities, and of whatever part makes enough sense to be looked at further."""
    if data.get("format") != FORMAT:
        raise DocumentError([Problem("document", "format", show(data.get("format")), f"must be {FORMAT!r}")])
    if data.get("version") not in RELEASED or isinstance(data.get("version"), bool):
        versions = " and ".join(map(str, RELEASED))
        raise DocumentError(
            [Problem("document", "version", show(data.get("version")), f"this Spinel reads versions {versions}")]
        )
    data = upgraded(data)
    problems = _shape(data)
    sound, gone = _sound(data, problems) if problems else (data, set[str]())
    if sound is not None:
        more = [*_identities(sound), *_sense(_joinable(sound), whole=not gone)]
        # what only leans on a record that is wrong itself is not reported a second time
        problems += [p for p in more if p.value not in gone and p.element not in gone and p not in problems]
    if problems:
        raise DocumentError(problems)
    return read_network(data)


def _sound(data: dict[str, Any], problems: list[Problem]) -> tuple[dict[str, Any] | None, set[str]]:
    """The document without the records that have a problem of shape, so that the others are looked at in the same run,
    and the ids and tags that went with them; None where too little is left to look at."""
    groups = ("nodes", "enclosures", "elements", "cases")
    lists = all(isinstance(data.get(g), list) for g in groups) and isinstance(data.get("site"), dict)
    if not lists or any(p.element in ("document", "site") for p in problems):
        return None, set()
    whole = schema()["properties"]
    import jsonschema

    validators = {g: jsonschema.Draft202012Validator(whole[g]["items"]) for g in groups}
    good = {g: [r for r in data[g] if validators[g].is_valid(r)] for g in groups}
    bad = [r for g in groups for r in data[g] if isinstance(r, dict) and r not in good[g]]
    gone = {str(r[k]) for r in bad for k in ("id", "tag") if k in r}
    return (data | good if good["nodes"] and good["elements"] and good["cases"] else None), gone or {"?"}


def _joinable(data: dict[str, Any]) -> Network | None:
    """The network of what hangs together by its identities; None when nothing does."""
    nodes = {n["id"] for n in data["nodes"]}
    boxes = {b["id"] for b in data["enclosures"]}
    elements = [e for e in data["elements"] if all(end in nodes for end in e["ends"])]
    whole = [{k: v for k, v in n.items() if k != "enclosure" or v in boxes} for n in data["nodes"]]
    return read_network(data | {"elements": elements, "nodes": whole}) if elements else None


def _sense(network: Network | None, whole: bool) -> list[Problem]:
    """Problems of what the records say together; ends that lead nowhere only where no record was left out."""
    if network is None:
        return []
    joints = _joints(network) if whole else []
    return [*joints, *rating_problems(network), *_voltages(network), *_compartments(network), *_cases(network)]


def warnings_of(network: Network) -> list[str]:
    """What is accepted and should be looked at: times within a cycle, generators whose decay is not recorded."""
    cycle = 1 / network.site.frequency_hz
    found = []
    for e in network.elements:
        for name in CURVES:
            curve = getattr(e, name)
            quickest = quickest_s(curve) if curve is not None else math.inf
            if quickest < cycle:
                found.append(f"{e.tag}: {name} clears in {quickest * 1000:.3g} ms, within one cycle: check that it can")
        if e.kind == "generator":
            lacking = [n for n in ("xd_transient_pu", "td_transient_s", "xd_sync_pu") if getattr(e, n) is None]
            if e.excitation_support_multiple:
                lacking = [n for n in lacking if n != "xd_sync_pu"]
            if lacking:
                found.append(
                    f"{e.tag}: {', '.join(lacking)} not recorded: what it feeds alone has a figure only where a device "
                    "is known to clear before its current falls, or escape is clear"
                )
        if e.kind == "ups" and not (e.rated_kva and e.fault_multiple):
            found.append(f"{e.tag}: rated_kva and fault_multiple not recorded: nothing behind it has a figure")
    return found


def _shape(data: dict[str, Any]) -> list[Problem]:
    import jsonschema

    validator = jsonschema.Draft202012Validator(schema())
    found = sorted(validator.iter_errors(data), key=lambda e: [str(p) for p in e.absolute_path])
    return [_describe(data, error) for error in found[:50]]


def _describe(data: dict[str, Any], error: jsonschema.ValidationError) -> Problem:
    path: list[Any] = list(error.absolute_path)
    owner, rest = "document", path
    if len(path) >= 2 and isinstance(path[1], int):
        record = data[str(path[0])][path[1]]
        name = record.get("tag") or record.get("id") if isinstance(record, dict) else None
        owner, rest = str(name or f"{path[0]}[{path[1]}]"), path[2:]
    field = ".".join(str(p) for p in rest) or str(path[0] if path else "document")
    if error.validator == "required":
        missing = error.message.split("'")[1]
        return Problem(owner, missing, "missing", "must be given")
    if error.validator == "additionalProperties":
        unknown = error.message.split("'")[1]
        return Problem(owner, unknown, "an unknown field", "the fields that `spinel network schema` lists")
    return Problem(owner, field, show(error.instance), _allowed(error))


def _allowed(error: jsonschema.ValidationError) -> str:
    rule: Any = error.schema
    unit = rule.get("unit", "")
    low = rule.get("exclusiveMinimum", rule.get("minimum"))
    if error.validator in ("minimum", "exclusiveMinimum", "maximum") or (error.validator == "type" and low is not None):
        word = "above" if "exclusiveMinimum" in rule else "from"
        return f"a number {word} {low:g} up to {rule.get('maximum', math.inf):g} {unit}".rstrip()
    if error.validator == "enum":
        allowed: Any = error.validator_value
        return "one of " + ", ".join(map(str, allowed))
    if error.validator == "const":
        return f"must be {error.validator_value!r}"
    if error.validator == "type":
        return f"must be of type {error.validator_value}"
    return error.message if len(error.message) < 120 else f"violates {error.validator} {error.validator_value}"


def _identities(data: dict[str, Any]) -> list[Problem]:
    problems = []
    for group, key in (("nodes", "id"), ("enclosures", "id"), ("elements", "id"), ("elements", "tag"), ("cases", "id")):
        # tags that differ only in case are read aloud alike
        values = [r[key] for r in data[group]]
        counts = Counter(v.casefold() for v in values) if key == "tag" else Counter(values)
        for value in dict.fromkeys(values):
            count = counts[value.casefold() if key == "tag" else value]
            if count > 1:
                problems.append(Problem(str(value), key, f"used {count} times", f"unique among {group}"))
    nodes = {n["id"] for n in data["nodes"]}
    enclosures = {e["id"] for e in data["enclosures"]}
    for node in data["nodes"]:
        if node.get("enclosure") is not None and node["enclosure"] not in enclosures:
            problems.append(Problem(node["id"], "enclosure", node["enclosure"], "the id of an enclosure"))
    for element in data["elements"]:
        for end in element["ends"]:
            if end not in nodes:
                problems.append(Problem(element["tag"], "ends", end, "dangling: must be the id of a node"))
    if data["site"]["time_zone"] not in available_timezones():
        problems.append(Problem("site", "time_zone", show(data["site"]["time_zone"]), "an IANA time zone name"))
    else:
        ZoneInfo(data["site"]["time_zone"])
    return problems


def _joints(network: Network) -> list[Problem]:
    """Number of ends by kind; ends that lead nowhere; nodes that nothing touches."""
    problems = []
    for e in network.elements:
        allowed = _end_counts(e)
        if len(e.ends) not in allowed:
            text = " or ".join(map(str, allowed))
            problems.append(Problem(e.tag, "ends", f"{len(e.ends)} nodes", f"a {e.kind_name.lower()} has {text}"))
        elif len(set(e.ends)) < len(e.ends):
            what = "a transformer fed from itself" if e.kind == "transformer" else "joined to itself"
            problems.append(Problem(e.tag, "ends", f"{e.ends[0]} twice", f"{what}: its ends must be different nodes"))
        for end in set(e.ends):
            if len(network.at_node[end]) == 1 and (len(e.ends) > 1 or e.kind in ("source", "generator")):
                what = "dangling" if len(e.ends) > 1 else f"isolated {e.kind_name.lower()}"
                problems.append(Problem(e.tag, "ends", end, f"{what}: no other element joins this node"))
    for node_id, touching in network.at_node.items():
        if not touching:
            problems.append(Problem(node_id, "node", "unused", "at least one element must join it"))
    return problems


def _end_counts(e: Element) -> tuple[int, ...]:
    return e.row.ends


def _voltages(network: Network) -> list[Problem]:
    """Only transformers and converters join different voltages, or AC to DC; a transformer needs a difference
    of zones: both its sides reaching each other through conductors and devices would be fed from itself."""
    problems = []
    joined: list[tuple[str, str]] = []
    for e in network.elements:
        kinds = {(network.node[n].nominal_voltage_v, network.node[n].current) for n in e.ends}
        if e.kind not in ("transformer", *CONVERTERS):
            if len(kinds) > 1:
                shown = ", ".join(f"{v:g} V {c}" for v, c in sorted(kinds))
                problems.append(Problem(e.tag, "ends", shown, "both ends at one nominal voltage and kind of current"))
            joined += zip(e.ends, e.ends[1:], strict=False)
        if e.kind == "transformer" and any(network.node[n].current == "dc" for n in e.ends):
            problems.append(Problem(e.tag, "ends", "DC", "a transformer joins AC nodes"))
    part = parts_of_names(network.node, joined)
    for e in network.elements:
        for a, b in combinations(e.ends, 2) if e.kind == "transformer" else ():
            if a != b and part[a] == part[b]:
                problems.append(
                    Problem(e.tag, "ends", f"{a} and {b}", "a transformer fed from itself: its sides are joined")
                )
    return problems


def _compartments(network: Network) -> list[Problem]:
    """Every node of an enclosure with compartments stands in one of them; devices and barriers name what is there."""
    problems = []
    for box in network.enclosures:
        if not box.compartments:
            problems += [Problem(box.id, "barriers", show(list(g)), "compartments to be between") for g in box.barriers]
            continue
        inside = [n.id for n in network.in_enclosure[box.id]]
        listed = [n for c in box.compartments for n in c.nodes]
        names = [c.id for c in box.compartments]
        problems += [
            Problem(box.id, "compartments.id", n, "given once") for n in dict.fromkeys(names) if names.count(n) > 1
        ]
        for n in dict.fromkeys((*inside, *listed)):
            if n not in inside:
                problems.append(Problem(box.id, "compartments.nodes", n, "a node of this enclosure"))
            elif listed.count(n) != 1:
                problems.append(Problem(box.id, "compartments.nodes", n, "in one compartment, and in one only"))
        tags = [t for c in box.compartments for t in c.devices]
        for t in dict.fromkeys(tags):
            device = network.by_tag.get(t)
            if device is None or device.kind not in SWITCHING or not set(device.ends) & set(inside):
                allowed = "the tag of a switching device with an end in this enclosure"
                problems.append(Problem(box.id, "compartments.devices", t, allowed))
            elif tags.count(t) > 1:
                problems.append(Problem(box.id, "compartments.devices", t, "its body in one compartment only"))
        for group in box.barriers:
            for room in group:
                if room not in names or group.count(room) > 1:
                    problems.append(
                        Problem(box.id, "barriers", room, "ids of compartments of this enclosure, each once")
                    )
    return problems


def _state_fits(e: Element, said: dict[str, str]) -> str:
    """What is wrong with what a case says of a source; empty when nothing is."""
    state = said.get("state")
    allowed = ("inverter", "battery", "bypass") if e.kind == "ups" else ("running", "stopped")
    if state is not None and state not in allowed:
        return f"state: one of {', '.join(allowed)}"
    if said.get("reactance") is not None and e.kind != "generator":
        return "reactance: only of a generator"
    if said.get("reactance") == "transient" and e.xd_transient_pu is None:
        return "reactance: its xd_transient_pu is not recorded"
    if said.get("strength") is not None and e.kind != "source":
        return "strength: only of a utility source"
    return ""


def _cases(network: Network) -> list[Problem]:
    problems = []
    counts = Counter(c.name for c in network.cases)
    problems += [Problem(n, "name", n, "each case by a name of its own") for n, c in counts.items() if c > 1]
    for case in network.cases:
        for name, tags in (("sources", case.sources), ("positions", case.positions), ("settings", case.settings)):
            for tag, value in tags.items():
                element = network.by_tag.get(tag)
                if element is None:
                    problems.append(Problem(case.id, f"{name}.{tag}", tag, "the tag of an element"))
                elif name == "sources" and (wrong := _state_fits(element, dict(value))):  # type: ignore[arg-type]
                    problems.append(Problem(case.id, f"sources.{tag}", show(value), wrong))
                elif name == "positions" and not position_fits(element, str(value)):
                    problems.append(Problem(case.id, f"{name}.{tag}", show(value), positions_of(element)))
                elif name == "settings" and element.maintenance_curve is None:
                    problems.append(Problem(case.id, f"{name}.{tag}", show(value), "it has no maintenance curve"))
    if not any(e.kind in ("source", "generator") for e in network.elements):
        problems.append(Problem("document", "elements", "no source", "at least one source or generator"))
    return problems
