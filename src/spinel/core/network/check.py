"""Is a network document acceptable? Every problem names the element, the field, the value, what is allowed.

First shape and ranges (JSON Schema), then sense: identities, joints, voltages, impedances, curves, cases.
"""

from __future__ import annotations

import json
import math
from collections import Counter
from itertools import combinations
from typing import Any
from zoneinfo import ZoneInfo, available_timezones

import jsonschema
import networkx as nx

from spinel.core.errors import DocumentError, Problem, show
from spinel.core.network.document import (
    CONVERTERS,
    FORMAT,
    ONE_END,
    VERSION,
    Element,
    Network,
    read_network,
)
from spinel.core.network.ratings import position_fits, positions_of, rating_problems
from spinel.core.network.schema import schema


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
    """The network that an acceptable document describes, or DocumentError with all its problems."""
    if data.get("format") != FORMAT:
        raise DocumentError([Problem("document", "format", show(data.get("format")), f"must be {FORMAT!r}")])
    if data.get("version") != VERSION or isinstance(data.get("version"), bool):
        raise DocumentError(
            [Problem("document", "version", show(data.get("version")), f"this Spinel reads version {VERSION}")]
        )
    problems = _shape(data) or _identities(data)
    if problems:
        raise DocumentError(problems)
    network = read_network(data)
    problems = [*_joints(network), *rating_problems(network), *_voltages(network), *_cases(network)]
    if problems:
        raise DocumentError(problems)
    return network


def _shape(data: dict[str, Any]) -> list[Problem]:
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
    low = rule.get("exclusiveMinimum", rule.get("minimum"))
    if error.validator in ("minimum", "exclusiveMinimum", "maximum") or (error.validator == "type" and low is not None):
        word = "above" if "exclusiveMinimum" in rule else "from"
        return f"a number {word} {low:g} up to {rule.get('maximum', math.inf):g} {rule.get('description', '')}".rstrip()
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
    if e.kind in ONE_END:
        return (1,)
    if e.kind == "transfer_switch":
        return (3,)
    if e.kind in ("inverter", "rectifier"):
        return (1, 2)
    if e.kind == "transformer":
        return (2, 3)
    return (2,)


def _voltages(network: Network) -> list[Problem]:
    """Only transformers and converters join different voltages, or AC to DC; a transformer needs a difference
    of zones: both its sides reaching each other through conductors and devices would be fed from itself."""
    problems = []
    graph: nx.Graph = nx.Graph()
    graph.add_nodes_from(network.node)
    for e in network.elements:
        kinds = {(network.node[n].nominal_voltage_v, network.node[n].current) for n in e.ends}
        if e.kind not in ("transformer", *CONVERTERS):
            if len(kinds) > 1:
                shown = ", ".join(f"{v:g} V {c}" for v, c in sorted(kinds))
                problems.append(Problem(e.tag, "ends", shown, "both ends at one nominal voltage and kind of current"))
            for a, b in zip(e.ends, e.ends[1:], strict=False):
                graph.add_edge(a, b)
        if e.kind == "transformer" and any(network.node[n].current == "dc" for n in e.ends):
            problems.append(Problem(e.tag, "ends", "DC", "a transformer joins AC nodes"))
    part = {n: i for i, nodes in enumerate(nx.connected_components(graph)) for n in nodes}
    for e in network.elements:
        for a, b in combinations(e.ends, 2) if e.kind == "transformer" else ():
            if a != b and part[a] == part[b]:
                problems.append(
                    Problem(e.tag, "ends", f"{a} and {b}", "a transformer fed from itself: its sides are joined")
                )
    return problems


def _cases(network: Network) -> list[Problem]:
    problems = []
    for case in network.cases:
        for name, tags in (("sources", case.sources), ("positions", case.positions), ("settings", case.settings)):
            for tag, value in tags.items():
                element = network.by_tag.get(tag)
                if element is None:
                    problems.append(Problem(case.id, f"{name}.{tag}", tag, "the tag of an element"))
                elif name == "positions" and not position_fits(element, str(value)):
                    problems.append(Problem(case.id, f"{name}.{tag}", show(value), positions_of(element)))
                elif name == "settings" and element.maintenance_curve is None:
                    problems.append(Problem(case.id, f"{name}.{tag}", show(value), "it has no maintenance curve"))
    if not any(e.kind in ("source", "generator") for e in network.elements):
        problems.append(Problem("document", "elements", "no source", "at least one source or generator"))
    return problems
