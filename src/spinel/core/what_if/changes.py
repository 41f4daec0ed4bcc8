"""What would be otherwise in a trial: one field of one record each, as data that a page, a file and a draft share."""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.curves.checks import check_curve
from spinel.core.curves.files import read_curve
from spinel.core.curves.shapes import Curve
from spinel.core.errors import InputError, NotFound
from spinel.core.quantities import GAP_MM, Quantity
from spinel.core.said import Said, say

#: Fields of a curve that a slider moves, by its type; the first is the one shown first.
SLIDERS: Mapping[str, tuple[str, ...]] = {
    "trip": ("short_delay_s", "short_pickup_a", "instantaneous_a", "long_delay_s", "long_pickup_a"),
    "relay": ("dial", "pickup_a", "instantaneous_a"),
    "thermal-magnetic": ("magnetic_a", "rated_a"),
    "unit": ("pickup_a", "operating_s"),
    "fixed": ("clearing_s",),
}
#: Fields of other records that a trial may set.
ENCLOSURE = ("gap_mm", "electrode_configuration", "working_distance_mm")
ELEMENT = ("rated_kva", "impedance_pct", "x_r", "interrupting_ka", "length_m")
#: By how much a supply may be stronger or weaker than recorded.
FACTOR = Quantity("factor", "", 0.1, 10)
SECONDS = Quantity("clearing_time_s", "s", 0, 10, low_exclusive=True)
#: So many changes stand in one trial.
MOST_CHANGES = 8
KINDS = ("setting", "maintenance", "enclosure", "element", "supply", "case")


@dataclass(frozen=True)
class TrialChange:
    """``kind``: of KINDS; ``id``: of the element, enclosure or case; ``field`` and ``value`` where it has any."""

    kind: str
    id: str
    field: str = ""
    value: float | str = ""

    @property
    def data(self) -> dict[str, Any]:
        return {"kind": self.kind, "id": self.id, "field": self.field, "value": self.value}


def read_change(data: Mapping[str, Any]) -> TrialChange:
    """InputError for what is none."""
    kind, value = str(data.get("kind", "")), data.get("value", "")
    if kind not in KINDS:
        raise InputError("kind", kind, say("one-of", options=KINDS))
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        raise InputError("value", value, say("what-if-a-number"))
    return TrialChange(kind, str(data.get("id", "")), str(data.get("field", "")), value)


def curves_of(document: Mapping[str, Any], changes: Sequence[TrialChange]) -> dict[str, Curve] | None:
    """The curves that changes set, by element, where they set nothing else; None where they do. InputError for a
    setting that the curve has not, or that it cannot be set to."""
    if any(c.kind not in ("setting", "maintenance") for c in changes):
        return None
    changed = changed_document(document, changes)
    ids = {c.id for c in changes}
    return {e["id"]: read_curve(e["curve"]) for e in changed["elements"] if e["id"] in ids}


def changed_document(document: Mapping[str, Any], changes: Sequence[TrialChange]) -> dict[str, Any]:
    """A document in which everything of the changes is so; what is not changed is shared with the old one, so neither
    is written into. NotFound for a record that is not there."""
    found = {**document, **{group: list(document[group]) for group in ("elements", "enclosures", "cases")}}
    for change in changes:
        _APPLY[change.kind](found, change)
    return found


def _record(document: dict[str, Any], group: str, id_: str) -> dict[str, Any]:
    """The record, made the document's own."""
    records = document.get(group, [])
    for i, record in enumerate(records):
        if record["id"] == id_:
            given: dict[str, Any] = copy.deepcopy(record)
            records[i] = given
            return given
    raise NotFound("equipment", id_)


def _found(document: Mapping[str, Any], group: str, id_: str) -> Mapping[str, Any]:
    for record in document.get(group, ()):
        if record["id"] == id_:
            given: Mapping[str, Any] = record
            return given
    raise NotFound("equipment", id_)


def _number(change: TrialChange) -> float:
    """A number above zero; what it may be at most the record's own check says."""
    try:
        value = float(change.value)
    except ValueError:
        value = 0.0
    if not 0 < value < 1e9:
        raise InputError(change.field or "value", change.value, say("what-if-a-number"))
    return value


def _setting(document: dict[str, Any], change: TrialChange) -> None:
    record = _record(document, "elements", change.id)
    curve = dict(record.get("curve") or {})
    if change.field not in SLIDERS.get(str(curve.get("type")), ()) or change.field not in curve:
        raise InputError("field", change.field, say("what-if-no-such-setting", tag=record["tag"]))
    curve[change.field] = _number(change)
    check_curve(read_curve(curve))
    record["curve"] = curve


def _maintenance(document: dict[str, Any], change: TrialChange) -> None:
    record = _record(document, "elements", change.id)
    if not record.get("maintenance_curve"):
        raise InputError("field", change.field, say("what-if-no-maintenance-setting", tag=record["tag"]))
    record["curve"] = record["maintenance_curve"]


def _enclosure(document: dict[str, Any], change: TrialChange) -> None:
    record = _record(document, "enclosures", change.id)
    if change.field not in ENCLOSURE:
        raise InputError("field", change.field, say("one-of", options=ENCLOSURE))
    if change.field == "electrode_configuration":
        record[change.field] = str(change.value)
    else:
        record[change.field] = GAP_MM.check(_number(change)) if change.field == "gap_mm" else _number(change)


def _element(document: dict[str, Any], change: TrialChange) -> None:
    record = _record(document, "elements", change.id)
    if change.field not in ELEMENT or change.field not in record:
        raise InputError("field", change.field, say("what-if-no-such-setting", tag=record["tag"]))
    record[change.field] = _number(change)


def _supply(document: dict[str, Any], change: TrialChange) -> None:
    record = _record(document, "elements", change.id)
    if "fault_mva_max" not in record:
        raise InputError("field", change.field, say("what-if-no-such-setting", tag=record["tag"]))
    factor = FACTOR.check(_number(change))
    for name in ("fault_mva_max", "fault_mva_min"):
        record[name] = record[name] * factor


def _case(document: dict[str, Any], change: TrialChange) -> None:
    document["cases"] = [_record(document, "cases", change.id)]


_APPLY: Mapping[str, Callable[[dict[str, Any], TrialChange], None]] = {
    "setting": _setting, "maintenance": _maintenance, "enclosure": _enclosure, "element": _element,
    "supply": _supply, "case": _case,
}  # fmt: skip


def words(document: Mapping[str, Any], change: TrialChange) -> Said:
    """What is otherwise, in words, with what it was."""
    if change.kind == "case":
        return say("what-if-case", name=str(_found(document, "cases", change.id)["name"]))
    group = "enclosures" if change.kind == "enclosure" else "elements"
    record = _found(document, group, change.id)
    name = str(record.get("tag") or record.get("name"))
    if change.kind == "maintenance":
        return say("what-if-maintenance", tag=name)
    if change.kind == "supply":
        return say("what-if-supply", tag=name, factor=float(change.value))
    was = (record.get("curve") or {}).get(change.field) if change.kind == "setting" else record.get(change.field)
    return say(
        "what-if-field", tag=name, field=say(f"what-if-field-{change.field.replace('_', '-')}"),
        was=_plain(was), value=_plain(change.value),
    )  # fmt: skip


def _plain(value: object) -> str:
    """A value as it stands in a sentence."""
    return f"{value:g}" if isinstance(value, int | float) else str(value or "-")
