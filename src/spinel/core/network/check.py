"""Is a network document acceptable? Every problem names the element, the field, the value, what is allowed.

First shape and ranges (JSON Schema), then sense: identities, joints, voltages, impedances, curves, cases.
"""

from __future__ import annotations

import json
import math
from collections import Counter
from datetime import date
from functools import cache
from itertools import combinations
from typing import TYPE_CHECKING, Any
from zoneinfo import ZoneInfo, available_timezones

from spinel.core.curves.times import quickest_s
from spinel.core.quantities import volts
from spinel.core.said import Said, Sayable, joined, say

if TYPE_CHECKING:
    import jsonschema

from spinel.core.errors import DocumentError, Problem, show
from spinel.core.network.document import CURVES, FORMAT, Element, Network, read_network
from spinel.core.network.kinds import CONVERTERS, SWITCHING
from spinel.core.network.ratings import position_fits, positions_of, rating_problems
from spinel.core.network.schema import schema
from spinel.core.network.upgrade import RELEASED, upgraded
from spinel.core.parts import parts_of_names
from spinel.core.profile import profile_ids

#: What a record is by, not something that was found out about it.
NEVER_A_BASIS = ("id", "tag", "kind", "ends", "basis")


def parse(text: str) -> dict[str, Any]:
    """JSON text to a document, or DocumentError. NaN, Infinity and repeated keys are refused."""

    def unique(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        counts = Counter(k for k, _ in pairs)
        twice = [k for k, n in counts.items() if n > 1]
        if twice:
            raise DocumentError(
                [
                    Problem(
                        "document",
                        twice[0],
                        say("network-check-given-twice"),
                        say("network-check-each-key-once-in-an-object"),
                    )
                ]
            )
        return dict(pairs)

    def constant(name: str) -> None:
        raise DocumentError([Problem("document", "a number", name, say("network-check-finite-numbers-only"))])

    try:
        data = json.loads(text, object_pairs_hook=unique, parse_constant=constant)
    except json.JSONDecodeError as e:
        raise DocumentError([Problem("document", f"line {e.lineno}", e.msg, say("network-check-valid-json"))]) from None
    except RecursionError:
        raise DocumentError(
            [Problem("document", "nesting", say("network-check-too-deep"), say("network-check-a-network-document"))]
        ) from None
    if not isinstance(data, dict):
        raise DocumentError([Problem("document", "top level", type(data).__name__, say("network-check-a-json-object"))])
    return data


def accept(data: dict[str, Any]) -> Network:
    """The network that an acceptable document describes, of any released version, or DocumentError with all its
    problems: those of shape, of identities, and of whatever part makes enough sense to be looked at further."""
    if data.get("format") != FORMAT:
        raise DocumentError(
            [Problem("document", "format", show(data.get("format")), say("network-check-must-be-2", format=FORMAT))]
        )
    if data.get("version") not in RELEASED or isinstance(data.get("version"), bool):
        versions = " and ".join(map(str, RELEASED))
        raise DocumentError(
            [
                Problem(
                    "document",
                    "version",
                    show(data.get("version")),
                    say("network-check-this-spinel-reads-versions", versions=versions),
                )
            ]
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


def warnings_of(network: Network) -> list[Said]:
    """What is accepted and should be looked at: times within a cycle, generators whose decay is not recorded."""
    cycle = 1 / network.site.frequency_hz
    found = []
    for e in network.elements:
        for name in CURVES:
            curve = getattr(e, name)
            quickest = quickest_s(curve) if curve is not None else math.inf
            if quickest < cycle:
                found.append(
                    say(
                        "network-check-clears-in-ms-within-one-cycle-check",
                        tag=e.tag,
                        name=name,
                        quickest=quickest * 1000,
                    )
                )
        if e.kind == "generator":
            lacking = [n for n in ("xd_transient_pu", "td_transient_s", "xd_sync_pu") if getattr(e, n) is None]
            if e.excitation_support_multiple:
                lacking = [n for n in lacking if n != "xd_sync_pu"]
            if lacking:
                found.append(
                    say("network-check-not-recorded-what-it-feeds-alone-has", tag=e.tag, lackings=tuple(lacking))
                )
        if e.kind == "ups" and not (e.rated_kva and e.fault_multiple):
            found.append(say("network-check-rated-kva-and-fault-multiple-not-recorded", tag=e.tag))
    return found


@cache
def _quick(practices: tuple[str, ...]) -> Any:
    """The same schema compiled, for the practices that there are: thousands of elements take milliseconds."""
    import jsonschema_rs

    return jsonschema_rs.validator_for(schema())


def _flawless(data: dict[str, Any]) -> bool:
    """Has it no problem of shape? What the quick validator cannot read is left to the one that names problems."""
    try:
        return bool(_quick(profile_ids()).is_valid(data))
    except (ValueError, TypeError, OverflowError):
        return False


def _shape(data: dict[str, Any]) -> list[Problem]:
    if _flawless(data):
        return []
    import jsonschema

    validator = jsonschema.Draft202012Validator(schema())
    found = sorted(validator.iter_errors(data), key=lambda e: [str(p) for p in e.absolute_path])
    return [_describe(data, error) for error in found[:50]] or _refused_unnamed(data)


def _refused_unnamed(data: dict[str, Any]) -> list[Problem]:
    """The stricter of the two rules: what only the quick validator refuses (NaN, a line break after a name)."""
    try:
        places = [".".join(map(str, e.instance_path)) for e in _quick(profile_ids()).iter_errors(data)]
    except (ValueError, TypeError, OverflowError) as why:
        return [Problem("document", "document", show(str(why)), say("network-check-valid-json"))]
    return [
        Problem("document", place or "document", say("network-check-no-value"), say("network-check-valid-json"))
        for place in places[:50]
    ]


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
        return Problem(owner, missing, "missing", say("network-check-must-be-given"))
    if error.validator == "additionalProperties":
        unknown = error.message.split("'")[1]
        return Problem(
            owner,
            unknown,
            say("network-check-an-unknown-field"),
            say("network-check-the-fields-that-spinel-network-schema-lists"),
        )
    return Problem(owner, field, show(error.instance), _allowed(error))


def _allowed(error: jsonschema.ValidationError) -> Sayable:
    rule: Any = error.schema
    unit = rule.get("unit", "")
    low = rule.get("exclusiveMinimum", rule.get("minimum"))
    if error.validator in ("minimum", "exclusiveMinimum", "maximum") or (error.validator == "type" and low is not None):
        code = "a-number-above" if "exclusiveMinimum" in rule else "a-number-from"
        return say(code, low=low, high=rule.get("maximum", math.inf), unit=unit)
    if error.validator == "enum":
        allowed: Any = error.validator_value
        return say("one-of", options=tuple(map(str, allowed)))
    if error.validator == "const":
        return say("network-check-must-be", validator_value=error.validator_value)
    if error.validator == "type":
        return say("network-check-must-be-of-type", validator_value=error.validator_value)
    return (
        error.message
        if len(error.message) < 120
        else say("network-check-violates", validator=error.validator, validator_value=error.validator_value)
    )


def _identities(data: dict[str, Any]) -> list[Problem]:
    problems = []
    for group, key in (("nodes", "id"), ("enclosures", "id"), ("elements", "id"), ("elements", "tag"), ("cases", "id")):
        # tags that differ only in case are read aloud alike
        values = [r[key] for r in data[group]]
        counts = Counter(v.casefold() for v in values) if key == "tag" else Counter(values)
        for value in dict.fromkeys(values):
            count = counts[value.casefold() if key == "tag" else value]
            if count > 1:
                problems.append(
                    Problem(
                        str(value),
                        key,
                        say("network-check-used-times", count=count),
                        say("network-check-unique-among", group=group),
                    )
                )
    nodes = {n["id"] for n in data["nodes"]}
    enclosures = {e["id"] for e in data["enclosures"]}
    for node in data["nodes"]:
        if node.get("enclosure") is not None and node["enclosure"] not in enclosures:
            problems.append(
                Problem(node["id"], "enclosure", node["enclosure"], say("network-check-the-id-of-an-enclosure"))
            )
    for element in data["elements"]:
        for end in element["ends"]:
            if end not in nodes:
                problems.append(Problem(element["tag"], "ends", end, say("network-check-dangling-must-be-the-id-of-a")))
    problems += _bases(data)
    if data["site"]["time_zone"] not in available_timezones():
        problems.append(
            Problem("site", "time_zone", show(data["site"]["time_zone"]), say("network-check-an-iana-time-zone-name"))
        )
    else:
        ZoneInfo(data["site"]["time_zone"])
    return problems


def _bases(data: dict[str, Any]) -> list[Problem]:
    """A basis is told of a field that is given, and its day is one."""
    problems = []
    for record in (*data["nodes"], *data["enclosures"], *data["elements"]):
        owner = str(record.get("tag") or record["id"])
        for name, said in record.get("basis", {}).items():
            if name not in record or name in NEVER_A_BASIS:
                problems.append(Problem(owner, f"basis.{name}", name, say("network-check-a-field-that-is-given")))
            elif "on" in said and not _is_a_day(said["on"]):
                problems.append(Problem(owner, f"basis.{name}.on", said["on"], say("network-check-a-day")))
    return problems


def _is_a_day(text: str) -> bool:
    try:
        return date.fromisoformat(text).isoformat() == text
    except ValueError:
        return False


def _joints(network: Network) -> list[Problem]:
    """Number of ends by kind; ends that lead nowhere; nodes that nothing touches."""
    problems = []
    for e in network.elements:
        allowed = _end_counts(e)
        if len(e.ends) not in allowed:
            text = " or ".join(map(str, allowed))
            problems.append(
                Problem(
                    e.tag,
                    "ends",
                    say("network-check-nodes", count=len(e.ends)),
                    say("network-check-a-has", kind_name=e.kind_name, text=text),
                )
            )
        elif len(set(e.ends)) < len(e.ends):
            what = (
                say("network-check-a-transformer-fed-from-itself")
                if e.kind == "transformer"
                else say("network-check-joined-to-itself")
            )
            problems.append(
                Problem(
                    e.tag,
                    "ends",
                    say("network-check-twice", ends=e.ends[0]),
                    say("network-check-its-ends-must-be-different-nodes", what=what),
                )
            )
        for end in set(e.ends):
            if len(network.at_node[end]) == 1 and (len(e.ends) > 1 or e.kind in ("source", "generator")):
                what = (
                    say("network-check-dangling")
                    if len(e.ends) > 1
                    else say("network-check-isolated", kind_name=e.kind_name)
                )
                problems.append(
                    Problem(e.tag, "ends", end, say("network-check-no-other-element-joins-this-node", what=what))
                )
    for node_id, touching in network.at_node.items():
        if not touching:
            problems.append(Problem(node_id, "node", "unused", say("network-check-at-least-one-element-must-join-it")))
    return problems


def _end_counts(e: Element) -> tuple[int, ...]:
    return e.row.ends


def _voltages(network: Network) -> list[Problem]:
    """Only transformers and converters join different voltages, or AC to DC; a transformer needs a difference
    of zones: both its sides reaching each other through conductors and devices would be fed from itself."""
    problems = []
    alike: list[tuple[str, str]] = []
    for e in network.elements:
        kinds = {(network.node[n].nominal_voltage_v, network.node[n].current) for n in e.ends}
        if e.kind not in ("transformer", *CONVERTERS):
            if len(kinds) > 1:
                shown = joined(*(volts(v, c) for v, c in sorted(kinds)), between=", ")
                problems.append(
                    Problem(e.tag, "ends", shown, say("network-check-both-ends-at-one-nominal-voltage-and"))
                )
            alike += zip(e.ends, e.ends[1:], strict=False)
        if e.kind == "transformer" and any(network.node[n].current == "dc" for n in e.ends):
            problems.append(Problem(e.tag, "ends", "DC", say("network-check-a-transformer-joins-ac-nodes")))
    part = parts_of_names(network.node, alike)
    for e in network.elements:
        for a, b in combinations(e.ends, 2) if e.kind == "transformer" else ():
            if a != b and part[a] == part[b]:
                problems.append(
                    Problem(
                        e.tag,
                        "ends",
                        say("network-check-and", a=a, b=b),
                        say("network-check-a-transformer-fed-from-itself-its-sides"),
                    )
                )
    return problems


def _compartments(network: Network) -> list[Problem]:
    """Every node of an enclosure with compartments stands in one of them; devices and barriers name what is there."""
    problems = []
    for box in network.enclosures:
        if not box.compartments:
            problems += [
                Problem(box.id, "barriers", show(list(g)), say("network-check-compartments-to-be-between"))
                for g in box.barriers
            ]
            continue
        inside = [n.id for n in network.in_enclosure[box.id]]
        listed = [n for c in box.compartments for n in c.nodes]
        names = [c.id for c in box.compartments]
        problems += [
            Problem(box.id, "compartments.id", n, say("network-check-given-once"))
            for n in dict.fromkeys(names)
            if names.count(n) > 1
        ]
        for n in dict.fromkeys((*inside, *listed)):
            if n not in inside:
                problems.append(Problem(box.id, "compartments.nodes", n, say("network-check-a-node-of-this-enclosure")))
            elif listed.count(n) != 1:
                problems.append(
                    Problem(box.id, "compartments.nodes", n, say("network-check-in-one-compartment-and-in-one-only"))
                )
        tags = [t for c in box.compartments for t in c.devices]
        for t in dict.fromkeys(tags):
            device = network.by_tag.get(t)
            if device is None or device.kind not in SWITCHING or not set(device.ends) & set(inside):
                allowed = say("network-check-the-tag-of-a-switching-device-with")
                problems.append(Problem(box.id, "compartments.devices", t, allowed))
            elif tags.count(t) > 1:
                problems.append(
                    Problem(box.id, "compartments.devices", t, say("network-check-its-body-in-one-compartment-only"))
                )
        for group in box.barriers:
            for room in group:
                if room not in names or group.count(room) > 1:
                    problems.append(
                        Problem(
                            box.id, "barriers", room, say("network-check-ids-of-compartments-of-this-enclosure-each")
                        )
                    )
    return problems


def _state_fits(e: Element, said: dict[str, str]) -> Sayable:
    """What is wrong with what a case says of a source; empty when nothing is."""
    state = said.get("state")
    allowed = ("inverter", "battery", "bypass") if e.kind == "ups" else ("running", "stopped")
    if state is not None and state not in allowed:
        return say("network-check-state-one-of", options=tuple(allowed))
    if said.get("reactance") is not None and e.kind != "generator":
        return say("network-check-reactance-only-of-a-generator")
    if said.get("reactance") == "transient" and e.xd_transient_pu is None:
        return say("network-check-reactance-its-xd-transient-pu-is-not")
    if said.get("strength") is not None and e.kind != "source":
        return say("network-check-strength-only-of-a-utility-source")
    return ""


def _cases(network: Network) -> list[Problem]:
    problems = []
    counts = Counter(c.name for c in network.cases)
    problems += [
        Problem(n, "name", n, say("network-check-each-case-by-a-name-of-its")) for n, c in counts.items() if c > 1
    ]
    for case in network.cases:
        for name, tags in (("sources", case.sources), ("positions", case.positions), ("settings", case.settings)):
            for tag, value in tags.items():
                element = network.by_tag.get(tag)
                if element is None:
                    problems.append(Problem(case.id, f"{name}.{tag}", tag, say("network-check-the-tag-of-an-element")))
                elif name == "sources" and (wrong := _state_fits(element, dict(value))):  # type: ignore[arg-type]
                    problems.append(Problem(case.id, f"sources.{tag}", show(value), wrong))
                elif name == "positions" and not position_fits(element, str(value)):
                    problems.append(Problem(case.id, f"{name}.{tag}", show(value), positions_of(element)))
                elif name == "settings" and element.maintenance_curve is None:
                    problems.append(
                        Problem(case.id, f"{name}.{tag}", show(value), say("network-check-it-has-no-maintenance-curve"))
                    )
    if not any(e.kind in ("source", "generator") for e in network.elements):
        problems.append(
            Problem(
                "document",
                "elements",
                say("network-check-no-source"),
                say("network-check-at-least-one-source-or-generator"),
            )
        )
    return problems
