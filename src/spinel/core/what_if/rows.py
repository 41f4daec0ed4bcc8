"""What-if cases as rows of a table, for whoever thinks them out in a spreadsheet: read, written, and everything that
they may change, with what it is now."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import DocumentError, InputError, NotFound
from spinel.core.network.check import accept
from spinel.core.network.sheets import Cell, Fault, Rows
from spinel.core.said import say
from spinel.core.what_if.changes import (
    ELEMENT,
    ENCLOSURE,
    KINDS,
    MOST_CHANGES,
    SLIDERS,
    TrialChange,
    changed_document,
)

SHEET = "what-if"
COLUMNS = ("case", "kind", "of", "field", "value", "unit")
#: Of what may be changed.
CAN = COLUMNS[1:]
MOST_CASES = 24
#: By the ending of a field.
_UNITS = {"_a": "A", "_s": "s", "_kva": "kVA", "_pct": "%", "_ka": "kA", "_mm": "mm", "length_m": "m"}


@dataclass(frozen=True)
class WhatIfCase:
    """``name``: as in the table, of this case alone."""

    name: str
    changes: tuple[TrialChange, ...]


@dataclass(frozen=True)
class ReadCases:
    """``cases``: those without a fault."""

    cases: tuple[WhatIfCase, ...]
    faults: tuple[Fault, ...]


def unit_of(kind: str, field: str) -> str:
    if kind == "supply":
        return "times"
    return next((unit for end, unit in _UNITS.items() if field.endswith(end)), "")


def can_be_changed(document: Mapping[str, Any]) -> Iterator[dict[str, Cell]]:
    """Everything that a case may change, with its value now: rows to copy, the value then written over."""
    for e in document["elements"]:
        curve = e.get("curve") or {}
        for field in SLIDERS.get(str(curve.get("type")), ()):
            if isinstance(curve.get(field), int | float):
                yield _can("setting", e["tag"], field, curve[field])
        if e.get("maintenance_curve"):
            yield _can("maintenance", e["tag"], "", None)
        for field in ELEMENT:
            if isinstance(e.get(field), int | float) and e[field]:
                yield _can("element", e["tag"], field, e[field])
        if "fault_mva_max" in e:
            yield _can("supply", e["tag"], "", 1)
    for box in document["enclosures"]:
        for field in ENCLOSURE:
            if box.get(field) is not None:
                yield _can("enclosure", box["name"], field, box[field])
    for case in document["cases"]:
        yield _can("case", case["name"], "", None)


def _can(kind: str, of: str, field: str, value: Cell) -> dict[str, Cell]:
    return {"kind": kind, "of": of, "field": field, "value": value, "unit": unit_of(kind, field)}


def as_rows(document: Mapping[str, Any], cases: Sequence[WhatIfCase]) -> list[dict[str, Cell]]:
    """One row a change, the name of its case on each. NotFound for one of what the document has not."""
    return [
        {"case": case.name, "kind": c.kind, "of": _named(document, c), "field": c.field, "value": c.value,
         "unit": unit_of(c.kind, c.field)}
        for case in cases for c in case.changes
    ]  # fmt: skip


def _named(document: Mapping[str, Any], change: TrialChange) -> str:
    group = _group(change.kind)
    record = next((r for r in document[group] if r["id"] == change.id), None)
    if record is None:
        raise NotFound("element", change.id)
    return str(record.get("tag") or record["name"])


def _group(kind: str) -> str:
    return {"enclosure": "enclosures", "case": "cases"}.get(kind, "elements")


def read_cases(document: Mapping[str, Any], rows: Rows) -> ReadCases:
    """Every case of a table, each checked as a document; every fault with its row. A case with a fault is left out."""
    cases: dict[str, list[tuple[int, TrialChange]]] = {}
    faults: list[Fault] = []
    bad: set[str] = set()
    for number, cells in rows:
        row = {str(k).strip().casefold(): v for k, v in cells.items()}
        name = str(row.get("case") or "").strip()
        if not 0 < len(name) <= 80:
            faults.append(Fault(SHEET, number, "case", name, say("what-if-case-name")))
            continue
        cases.setdefault(name, [])
        try:
            cases[name].append((number, _read(document, row)))
        except InputError as error:
            faults.append(Fault(SHEET, number, error.field, str(error.value), error.allowed))
            bad.add(name)
    if len(cases) > MOST_CASES:
        faults.append(Fault(SHEET, 0, "case", str(len(cases)), say("what-if-so-many-cases", most=MOST_CASES)))
        return ReadCases((), tuple(faults))
    if not cases and not faults:
        faults.append(Fault(SHEET, 0, "case", "", say("what-if-no-cases")))
    found = []
    for name, numbered in cases.items():
        if name not in bad:
            wrong = _wrong(document, numbered)
            faults += wrong
            if not wrong:
                found.append(WhatIfCase(name, tuple(c for _, c in numbered)))
    return ReadCases(tuple(found), tuple(faults))


def _read(document: Mapping[str, Any], row: Mapping[str, Cell]) -> TrialChange:
    kind = str(row.get("kind") or "").strip().casefold()
    if kind not in KINDS:
        raise InputError("kind", row.get("kind") or "", say("one-of", options=KINDS))
    of = str(row.get("of") or "").strip()
    id_ = _id(document, kind, of)
    field = str(row.get("field") or "").strip()
    unit, expected = str(row.get("unit") or "").strip(), unit_of(kind, field)
    if unit and unit != expected:
        raise InputError("unit", unit, say("what-if-in-unit", unit=expected or "-"))
    value = row.get("value")
    if kind in ("case", "maintenance"):
        return TrialChange(kind, id_)
    if field == "electrode_configuration":
        return TrialChange(kind, id_, field, str(value or "").strip().upper())
    return TrialChange(kind, id_, field, _number(value, expected))


def _number(value: Cell, unit: str) -> float:
    """As a spreadsheet or a CSV gives it; never a text with a unit in it."""
    if isinstance(value, bool) or value is None:
        raise InputError("value", "" if value is None else value, say("what-if-number-in", unit=unit or "-"))
    try:
        found = float(value)
    except ValueError:
        found = 0.0
    if not 0 < found < 1e9:
        raise InputError("value", value, say("what-if-number-in", unit=unit or "-"))
    return found


def _id(document: Mapping[str, Any], kind: str, of: str) -> str:
    """InputError for a name that nothing has, or that two have."""
    records = document[_group(kind)]
    found = [r["id"] for r in records if str(r.get("tag") or r.get("name", "")).casefold() == of.casefold()]
    if len(found) != 1:
        raise InputError("of", of, say("what-if-of-one" if not found else "what-if-of-two"))
    return str(found[0])


def _wrong(document: Mapping[str, Any], numbered: Sequence[tuple[int, TrialChange]]) -> list[Fault]:
    first = numbered[0][0]
    if len(numbered) > MOST_CHANGES:
        return [Fault(SHEET, first, "case", str(len(numbered)), say("what-if-so-many-changes", most=MOST_CHANGES))]
    seen: set[tuple[str, str, str]] = set()
    for number, c in numbered:
        if (c.kind, c.id, c.field) in seen:
            return [Fault(SHEET, number, "field", c.field, say("what-if-once-in-a-case"))]
        seen.add((c.kind, c.id, c.field))
        try:
            changed_document(document, [c])
        except InputError as error:
            column = error.field if error.field in COLUMNS else "value"
            return [Fault(SHEET, number, column, str(error.value), error.allowed)]
    try:
        accept(changed_document(document, [c for _, c in numbered]))
    except (InputError, NotFound) as error:
        return [Fault(SHEET, first, "case", str(getattr(error, "value", "")), say("what-if-not-together"))]
    except DocumentError as error:
        p = error.problems[0]
        return [Fault(SHEET, first, "value", f"{p.element} {p.field} {p.value}", p.allowed)]
    return []
