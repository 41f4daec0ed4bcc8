"""Nameplates as forms: what a record says as fields to type in, and what was typed as values of the document."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from werkzeug.datastructures import MultiDict

from spinel.core.curves.library import fits, generic
from spinel.core.editing import plates, units
from spinel.core.editing.plates import CHOICE, COUNT, CURVE, MANY, NUMBER, YES, PlateRow
from spinel.core.editing.records import Record
from spinel.core.editing.units import Beside
from spinel.core.errors import InputError
from spinel.core.network.basis import ASSUMED, ORIGINS
from spinel.core.network.kinds import KIND
from spinel.core.said import Sayable, say
from spinel.core.texts import PLATE, Text

#: Of a curve that stays as it is: it has settings of its own.
KEEP = "as-it-is"
#: Unit that a plate of this kind of field usually tells, where it is not the document's own.
USUALLY = {("motor", "rated_kva"): "hp"}
Typed = MultiDict[str, str]


@dataclass(frozen=True, kw_only=True)
class FieldShown:
    """``name``: of its input. ``text``: what stands in it. ``told``: where its value comes from, and since when."""

    name: str
    row: PlateRow
    label: Sayable
    text: str
    many: tuple[str, ...] = ()
    units: tuple[str, ...] = ()
    unit: str = ""
    options: tuple[tuple[str, Sayable], ...] = ()
    origin: str = ""
    on: str = ""
    note: str = ""
    required: bool = False

    @property
    def assumed(self) -> bool:
        return self.origin == ASSUMED


def shown(kind: str, rows: Sequence[PlateRow], record: Mapping[str, Any], prefix: str = "") -> list[FieldShown]:
    """The fields of a record. ``kind``: of the equipment, or "node", "enclosure"."""
    return [_shown(kind, row, record, prefix) for row in rows]


def _shown(kind: str, row: PlateRow, record: Mapping[str, Any], prefix: str) -> FieldShown:
    value = record.get(row.field)
    basis = record.get("basis", {}).get(row.field, {})
    allowed = units.units(kind, row.field, row.quantity) if row.quantity is not None else ()
    own = str(row.quantity.unit) if row.quantity is not None else ""
    return FieldShown(
        name=f"{prefix}{row.field}", row=row, label=say(f"label-{row.field.replace('_', '-')}"),
        text=_text(row, value), many=tuple(value or ()) if row.form == MANY else (),
        units=tuple(u.id for u in allowed), unit=USUALLY.get((kind, row.field), own) if value is None else own,
        options=_options(kind, row, record), origin=basis.get("from", ""), on=basis.get("on", ""),
        note=basis.get("note", ""), required=kind in KIND and row.field in plates.needed(kind),
    )  # fmt: skip


def _text(row: PlateRow, value: Any) -> str:
    if row.form == CURVE:
        return KEEP if value is not None else ""
    if value is None or row.form == MANY:
        return ""
    if row.form == YES:
        return "yes" if value else ""
    return f"{value:.10g}" if isinstance(value, int | float) else str(value)


def _options(kind: str, row: PlateRow, record: Mapping[str, Any]) -> tuple[tuple[str, Sayable], ...]:
    if row.form == CURVE:
        kept = ((KEEP, curve_words(record[row.field])),) if record.get(row.field) is not None else ()
        return (*kept, *((g.id, say(f"generic-{g.id}")) for g in fits(kind)))
    if row.form not in (CHOICE, MANY):
        return ()
    family = row.field.replace("_", "-")
    if row.field in ("conductor_size", "electrode_configuration"):
        return tuple((o, o) for o in row.options)
    return tuple((o, say(f"choice-{family}-{o.replace(' ', '-')}")) for o in row.options)


def curve_words(curve: Mapping[str, Any]) -> Sayable:
    """A curve by its kind and its first setting."""
    first = next((curve[k] for k in ("long_pickup_a", "rated_a", "pickup_a") if k in curve), None)
    if first is None and curve.get("points"):
        first = curve["points"][0][0]
    return say(f"curve-type-{curve['type']}", amperes=first or 0)


def typed(kind: str, rows: Sequence[PlateRow], record: Mapping[str, Any], form: Typed, beside: Beside,
          prefix: str = "") -> dict[str, Any]:  # fmt: skip
    """What was changed: value by field, None for one that was taken out. InputError beside its field."""
    found: dict[str, Any] = {}
    for row in rows:
        name = f"{prefix}{row.field}"
        if name not in form and f"there.{name}" not in form:
            continue
        try:
            value = _value(kind, row, record, form, name, beside, found)
        except InputError as error:
            raise InputError(name, error.value, error.allowed) from None
        if not _same(value, record.get(row.field), row):
            found[row.field] = value
    return found


def _value(kind: str, row: PlateRow, record: Mapping[str, Any], form: Typed, name: str, beside: Beside,
           found: Mapping[str, Any]) -> Any:  # fmt: skip
    if row.form == MANY:
        return [o for o in row.options if o in form.getlist(name)] or None
    text = form.get(name, "").strip()
    if row.form == YES:
        return True if text else None
    if text == "":
        return None
    if row.form == NUMBER:
        assert row.quantity is not None
        allowed = units.units(kind, row.field, row.quantity)
        unit = form.get(f"unit.{name}", str(row.quantity.unit))
        return units.typed(text, unit, allowed, row.quantity, beside)
    if row.form == COUNT:
        number = units.plain(text, name, say("editing-a-count"))
        if number != int(number) or not 1 <= number <= 1000:
            raise InputError(name, text, say("editing-a-count"))
        return int(number)
    if row.form == CURVE:
        return record.get(row.field) if text == KEEP else _generic(text, {**record, **found})
    if row.form == CHOICE:
        if text not in row.options:
            raise InputError(name, text, say("one-of", options=row.options))
        return text
    return Text(row.field, 0, row.most or PLATE.most, one_line=True).check(text, name)


def _generic(text: str, record: Mapping[str, Any]) -> Record:
    return generic(text, record.get("rated_a"))


def _same(value: Any, stored: Any, row: PlateRow) -> bool:
    if row.form == YES:
        return bool(value) == bool(stored)
    if isinstance(value, int | float) and isinstance(stored, int | float):
        # shown with ten digits, and so read again
        return f"{value:.10g}" == f"{stored:.10g}"
    return bool(value == stored)


def origin(form: Mapping[str, str]) -> dict[str, str]:
    """Where what is typed comes from; InputError where nobody says it."""
    said = form.get("origin", "")
    if said not in ORIGINS:
        raise InputError("origin", said, say("editing-where-it-comes-from"))
    more = {k: v for k in ("on", "note") if (v := form.get(f"origin_{k}", "").strip())}
    return {"from": said, **more}


def beside_of(form: Mapping[str, str], volts: float, frequency_hz: float) -> Beside:
    """What else a conversion needs, as typed beside the field; usual values where nothing is."""
    values = {}
    for name in ("power_factor", "efficiency"):
        text = form.get(f"beside.{name}", "").strip()
        if text:
            number = units.plain(text, f"beside.{name}", say("editing-from-to-one"))
            if not 0.1 <= number <= 1:
                raise InputError(f"beside.{name}", text, say("editing-from-to-one"))
            values[name] = number
    return Beside(voltage_v=volts, frequency_hz=frequency_hz, **values)
