"""A network document as tables, one for each kind of record, and back: the same document, to its hash.

A table has one row of heads (a field with its unit in brackets), rows that begin with ``#`` and are read by people
only, and one row for each record. What is a list of words stands in one cell with semicolons between; what has parts of
its own (a curve, compartments) stands there as JSON. ``no`` keeps the order of the document and may be left empty.
"""

from __future__ import annotations

import json
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError, Problem, show
from spinel.core.network.document import FORMAT
from spinel.core.network.kinds import KINDS, ROWS
from spinel.core.network.schema import schema
from spinel.core.network.upgrade import VERSION
from spinel.core.said import Sayable, say

Cell = str | int | float | bool | None
#: Sheets in their order: the site, groups of records, then equipment by its kind.
SITE, ORDER, REMARK = "site", "no", "#"
GROUPS = ("nodes", "enclosures", "cases")
BETWEEN = "; "
#: More cells than any site has; a workbook beyond it is refused before it is read.
MOST_ROWS = 20_000


@dataclass(frozen=True)
class SheetColumn:
    """``rule``: its part of the JSON Schema."""

    field: str
    rule: Mapping[str, Any]

    @property
    def unit(self) -> str:
        return str(self.rule.get("unit", ""))

    @property
    def head(self) -> str:
        return f"{self.field} [{self.unit}]" if self.unit else self.field

    @property
    def choices(self) -> tuple[str, ...]:
        """What may stand in a cell, where that is a short list."""
        if self.rule.get("type") == "boolean":
            return ("yes", "no")
        return tuple(map(str, self.rule.get("enum", ())))


@dataclass(frozen=True)
class Fault:
    """A cell that cannot be as it is: where it stands, what it holds, what would be right."""

    sheet: str
    row: int
    column: str
    value: Sayable
    allowed: Sayable


@dataclass(frozen=True)
class Read:
    """``document``: of what could be read; a cell with a fault is left out of it. ``at``: sheet and row of each record,
    by id and by tag."""

    document: dict[str, Any]
    faults: tuple[Fault, ...]
    at: Mapping[str, tuple[str, int]]


def sheet_names() -> tuple[str, ...]:
    return (SITE, *GROUPS, *KINDS)


def columns(sheet: str, used: Sequence[str] = ()) -> list[SheetColumn]:
    """Of a sheet: what its kind must say first, then what it usually says, then what else the document uses."""
    known = properties(sheet)
    if sheet in KINDS:
        row = next(r for r in ROWS if r.id == sheet)
        named = ("id", "tag", "ends", "name", "location", *row.required, *_OFTEN.get(sheet, ()))
    else:
        named = tuple(known)
    return [SheetColumn(f, known[f]) for f in dict.fromkeys((*named, *used)) if f in known and f != "kind"]


#: Fields that are usually told of a kind, beyond those it must say.
_OFTEN: Mapping[str, tuple[str, ...]] = {
    "breaker": ("rated_a", "interrupting_ka", "curve", "isolating", "load_break", "fault_make", "lockable",
                "withdrawable", "remote", "stored_energy"),
    "fuse": ("rated_a", "interrupting_ka", "curve", "isolating", "lockable"),
    "switch": ("rated_a", "short_circuit_ka", "isolating", "load_break", "lockable", "visible_break"),
    "disconnector": ("rated_a", "short_circuit_ka", "isolating", "lockable", "visible_break"),
    "contactor": ("rated_a", "interrupting_ka"),
    "transfer_switch": ("rated_a", "short_circuit_ka", "load_break"),
    "bus": ("rated_a", "rated_voltage_v", "short_circuit_ka", "serves", "notify", "critical"),
    "cable": ("conductor_size", "conductor", "per_phase", "length_m", "conduit", "resistance_ohm", "reactance_ohm"),
    "motor": ("motors", "stored_energy", "serves", "notify", "critical", "tolerates_min"),
    "generator": ("xd_transient_pu", "xd_sync_pu", "td_subtransient_s", "td_transient_s",
                  "excitation_support_multiple", "excitation_support_s"),
    "transformer": ("vector_group", "tap_pct", "tolerance_pct", "z0_pct", "neutral_ohm"),
    "load": ("serves", "notify", "critical", "tolerates_min"),
}  # fmt: skip


def properties(sheet: str) -> Mapping[str, Mapping[str, Any]]:
    """The fields of a sheet's records, by their names in the document."""
    whole = schema()["properties"]
    if sheet == SITE:
        found: Mapping[str, Mapping[str, Any]] = whole["site"]["properties"]
        return found
    group = sheet if sheet in GROUPS else "elements"
    of_record: Mapping[str, Mapping[str, Any]] = whole[group]["items"]["properties"]
    return of_record


def to_rows(document: Mapping[str, Any]) -> dict[str, tuple[list[SheetColumn], list[list[Cell]]]]:
    """Columns and rows of every sheet, of a document at the present version."""
    found: dict[str, tuple[list[SheetColumn], list[list[Cell]]]] = {}
    found[SITE] = _table(SITE, [(0, document["site"])])
    for group in GROUPS:
        found[group] = _table(group, list(enumerate(document[group], 1)))
    for kind in KINDS:
        found[kind] = _table(kind, [(i, e) for i, e in enumerate(document["elements"], 1) if e["kind"] == kind])
    return found


def _table(sheet: str, records: list[tuple[int, Mapping[str, Any]]]) -> tuple[list[SheetColumn], list[list[Cell]]]:
    used = list(dict.fromkeys(f for _, r in records for f in r))
    cols = columns(sheet, used)
    order = [] if sheet == SITE else [SheetColumn(ORDER, {"type": "integer"})]
    rows = [[*([i] if order else []), *(_cell(r.get(c.field), c.rule) for c in cols)] for i, r in records]
    return [*order, *cols], rows


def _cell(value: Any, rule: Mapping[str, Any]) -> Cell:
    if value is None:
        return None
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        # 400.0 and 400 are two texts: the one with a point is kept as a text
        return json.dumps(value) if isinstance(value, float) and value.is_integer() else value
    if isinstance(value, str):
        return value
    if _is_list_of_words(rule) and all(isinstance(v, str) and ";" not in v and v.strip() == v and v for v in value):
        return BETWEEN.join(value) if value else "[]"
    return json.dumps(value, ensure_ascii=False)


def _is_list_of_words(rule: Mapping[str, Any]) -> bool:
    items = rule.get("items")
    return rule.get("type") == "array" and isinstance(items, Mapping) and _type(items) == "string"


def _type(rule: Mapping[str, Any]) -> str:
    if "enum" in rule or "const" in rule:
        values = rule.get("enum", [rule.get("const")])
        return "number" if all(isinstance(v, int | float) for v in values) else "string"
    return str(rule.get("type", "object"))


#: Row number and cells by head.
Rows = Sequence[tuple[int, Mapping[str, Cell]]]


def from_rows(sheets: Mapping[str, Rows]) -> Read:
    """The document of some sheets. Faults name what is no sheet, no column, or no value that its column can hold;
    whether the document makes sense is for its check to say (``placed`` tells where that is)."""
    faults: list[Fault] = []
    at: dict[str, tuple[str, int]] = {}
    known = sheet_names()
    for name in sheets:
        if name not in known:
            faults.append(Fault(name, 0, "", name, say("sheets-a-sheet-of-these", options=known)))
    site: dict[str, Any] = {}
    for number, cells in sheets.get(SITE, ())[:1]:
        site = dict(_record(SITE, number, cells, faults))
        at["site"] = (SITE, number)
    groups: dict[str, list[Any]] = {}
    for group in (*GROUPS, "elements"):
        rows: list[tuple[float, dict[str, Any]]] = []
        for sheet in KINDS if group == "elements" else (group,):
            rows += _records(sheet, sheets.get(sheet, ()), faults, at)
        groups[group] = [r for _, r in sorted(rows, key=lambda pair: pair[0])]
    document = {
        "format": FORMAT, "version": VERSION, "site": site, "nodes": groups["nodes"],
        "enclosures": groups["enclosures"], "elements": groups["elements"], "cases": groups["cases"],
    }  # fmt: skip
    return Read(document, tuple(faults), at)


#: Without these a record cannot even be worked on.
ESSENTIAL: Mapping[str, tuple[str, ...]] = {
    "site": ("name", "time_zone", "profile"), "nodes": ("id", "nominal_voltage_v", "current"),
    "enclosures": ("id", "name", "equipment_class"), "elements": ("id", "tag", "ends"), "cases": ("id", "name"),
}  # fmt: skip


def workable(read: Read) -> Read:
    """What is read, without records that cannot be worked on, each with a fault of its own; the site's own words are
    filled with what can be mended."""
    document, faults = dict(read.document), list(read.faults)
    document["site"] = {"name": "Site", "time_zone": "UTC", "profile": "north-american"} | document["site"]
    for group in (*GROUPS, "elements"):
        kept = []
        for record in document[group]:
            lacking = [f for f in ESSENTIAL[group] if not record.get(f)]
            if lacking:
                sheet = str(record.get("kind") or group)
                row = read.at.get(str(record.get("id") or record.get("tag")), (sheet, 0))[1]
                known = any(f.sheet == sheet and f.row == row and split_head(f.column)[0] in lacking for f in faults)
                if not known:
                    faults.append(Fault(sheet, row, lacking[0], show(None), say("network-check-must-be-given")))
            else:
                kept.append(record)
        document[group] = kept
    return Read(document, tuple(faults), read.at)


def _records(
    sheet: str, rows: Rows, faults: list[Fault], at: dict[str, tuple[str, int]]
) -> Iterator[tuple[float, dict[str, Any]]]:  # fmt: skip
    last = 0.0
    for number, cells in rows:
        order, rest = _order(sheet, number, cells, faults)
        record = _record(sheet, number, rest, faults)
        if sheet in KINDS:
            record["kind"] = sheet
        # one without a place stands behind the one above it
        last = order if order is not None else last + 1e-6
        for name in (record.get("id"), record.get("tag")):
            if isinstance(name, str):
                at.setdefault(name, (sheet, number))
        yield last, record


def _order(
    sheet: str, number: int, cells: Mapping[str, Cell], faults: list[Fault]
) -> tuple[float | None, dict[str, Cell]]:  # fmt: skip
    rest = dict(cells)
    order = rest.pop(ORDER, None)
    if order is None or order == "":
        return None, rest
    try:
        return float(order), rest
    except ValueError:
        faults.append(Fault(sheet, number, ORDER, show(order), say("sheets-a-number-or-nothing")))
        return None, rest


def _record(sheet: str, number: int, cells: Mapping[str, Cell], faults: list[Fault]) -> dict[str, Any]:
    known = properties(sheet)
    record: dict[str, Any] = {}
    for head, cell in cells.items():
        if cell is None or (isinstance(cell, str) and not cell.strip()):
            continue
        field, unit = split_head(head)
        rule = known.get(field)
        if rule is None:
            faults.append(Fault(sheet, number, head, show(cell), say("sheets-a-column-of-these", options=tuple(known))))
            continue
        if unit and unit != rule.get("unit", ""):
            faults.append(Fault(sheet, number, head, show(cell), say("sheets-this-unit", unit=rule.get("unit", ""))))
            continue
        try:
            record[field] = _value(field, cell, rule)
        except InputError as error:
            faults.append(Fault(sheet, number, head, show(error.value), error.allowed))
    return record


def split_head(head: str) -> tuple[str, str]:
    """Field and unit of a head.

    >>> split_head("length_m [m]"), split_head("tag")
    (('length_m', 'm'), ('tag', ''))
    """
    field, bracket, unit = head.strip().partition("[")
    return field.strip(), unit.rstrip("] ").strip() if bracket else ""


def _value(field: str, cell: Cell, rule: Mapping[str, Any]) -> Any:
    kind = _type(rule)
    if kind == "boolean":
        return _yes_or_no(field, cell)
    if kind in ("number", "integer"):
        return _number(field, cell, rule)
    if kind == "string":
        return _text(field, cell, rule)
    text = str(cell).strip()
    if _is_list_of_words(rule) and not text.startswith("["):
        return [part.strip() for part in text.split(";") if part.strip()]
    return _json(field, text)


def _yes_or_no(field: str, cell: Cell) -> bool:
    said = str(cell).strip().casefold()
    if said in ("yes", "true", "1", "no", "false", "0"):
        return said in ("yes", "true", "1")
    raise InputError(field, cell, say("one-of", options=("yes", "no")))


def _number(field: str, cell: Cell, rule: Mapping[str, Any]) -> int | float:
    found: Any = cell
    if isinstance(cell, str):
        text = cell.strip()
        try:
            found = json.loads(text) if text[:1] in "-0123456789" else None
        except ValueError:
            found = None
        if found is None and "," in text:
            raise InputError(field, cell, say("sheets-a-point-for-decimals"))
    if isinstance(found, bool) or not isinstance(found, int | float) or not math.isfinite(found):
        unit = str(rule.get("unit", ""))
        raise InputError(field, cell, say("sheets-a-number-in", unit=unit) if unit else say("sheets-a-number"))
    return found


def _text(field: str, cell: Cell, rule: Mapping[str, Any]) -> str:
    # a tag of digits alone is kept as a number by whoever typed it
    text = str(int(cell)) if isinstance(cell, float) and cell.is_integer() else str(cell)
    choices = rule.get("enum")
    if choices is not None and text not in choices:
        near = next((c for c in choices if str(c).casefold() == text.strip().casefold()), None)
        if near is not None:
            return str(near)
        raise InputError(field, cell, say("one-of", options=tuple(map(str, choices))))
    return text


def _json(field: str, text: str) -> Any:
    def constant(name: str) -> None:
        raise ValueError(name)

    try:
        return json.loads(text, parse_constant=constant)
    except (ValueError, RecursionError):
        raise InputError(field, text, say("sheets-json")) from None


def placed(problems: Sequence[Problem], read: Read) -> list[Fault]:
    """Problems of the document as faults of the sheets that it was read from; already reported cells are left out."""
    known = {(f.sheet, f.row, split_head(f.column)[0]) for f in read.faults}
    found = []
    for p in problems:
        sheet, row = read.at.get(p.element, ("", 0))
        if (sheet, row, p.field) not in known:
            found.append(Fault(sheet or str(p.element), row, p.field, p.value, p.allowed))
    return found


def example(sheet: str) -> dict[str, Cell]:
    """A row that would be taken, for people to read."""
    return {f: v for f, v in {**_EXAMPLE["*"], **_EXAMPLE.get(sheet, {})}.items() if f in properties(sheet)}


_EXAMPLE: Mapping[str, Mapping[str, Cell]] = {
    "*": {"id": "any-short-name", "tag": "F-101", "name": "Feeder", "location": "Room 1", "ends": "bus-1; n-101",
          "normal_position": "closed", "rated_voltage_v": 600, "rated_a": 400},
    "site": {"name": "The pier", "time_zone": "America/Halifax", "profile": "north-american", "frequency_hz": 60},
    "nodes": {"id": "bus-1", "nominal_voltage_v": 480, "current": "ac", "grounding": "solid", "enclosure": "box-1"},
    "enclosures": {"id": "box-1", "name": "SWB-1", "equipment_class": "switchboard", "height_mm": 508,
                   "width_mm": 508, "depth_mm": 508, "electrode_configuration": "VCB", "gap_mm": 32,
                   "working_distance_mm": 610},
    "cases": {"id": "normal", "name": "normal"},
    "breaker": {"curve": '{"type": "trip", "long_pickup_a": 400, "long_delay_s": 8, "instantaneous_a": 4000}'},
    "cable": {"ends": "n-101; bus-2", "conductor_size": "500", "conductor": "copper", "per_phase": 2, "length_m": 40},
    "bus": {"ends": "bus-1"}, "motor": {"ends": "n-105", "rated_kva": 55, "xd_subtransient_pu": 0.17, "x_r": 7},
    "source": {"ends": "n-u", "fault_mva_max": 250, "x_r_max": 10, "fault_mva_min": 150, "x_r_min": 8},
    "transformer": {"ends": "n-1; n-2", "rated_kva": 1000, "impedance_pct": 5.75, "x_r": 6.5},
    "transfer_switch": {"ends": "normal; emergency; load", "normal_position": "normal"},
}  # fmt: skip
