"""Curves as JSON (settings or points, as in the network document) and as CSV (points, for a spreadsheet).

CSV columns: ``current_a``, ``melting_s`` (fastest; may be empty), ``clearing_s`` (slowest; empty: never). Reading
CSV gives a curve of points; writing one of settings samples it, so JSON is the form that loses nothing.
"""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterable, Mapping
from dataclasses import asdict, fields
from typing import Any

import numpy as np

from spinel.core.curves.checks import check_curve
from spinel.core.curves.shapes import (
    Curve,
    FixedTime,
    FuseCurve,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.curves.times import FAST, times_s
from spinel.core.errors import InputError
from spinel.core.quantities import RATED_A, SECONDS
from spinel.core.said import say

TYPES: dict[str, type[Any]] = {
    "fuse": FuseCurve,
    "trip": TripCurve,
    "thermal-magnetic": ThermalMagneticCurve,
    "relay": RelayCurve,
    "unit": UnitCurve,
    "fixed": FixedTime,
}
COLUMNS = ("current_a", "melting_s", "clearing_s")


def read_curve(data: Mapping[str, Any]) -> Curve:
    """A curve from its JSON form; ``type`` says which. InputError for an unknown type or field; not yet checked.

    >>> read_curve({"type": "fixed", "clearing_s": 0.1})
    FixedTime(clearing_s=0.1)
    """
    if not isinstance(data, Mapping):
        raise InputError("curve", data, say("curves-files-an-object-with-a-type"))
    kind = TYPES.get(str(data.get("type", "")))
    if kind is None:
        raise InputError("curve.type", data.get("type"), say("one-of", options=tuple(TYPES)))
    values = {k: v for k, v in data.items() if k != "type"}
    known = {f.name for f in fields(kind)}
    for name in values:
        if name not in known:
            raise InputError(
                f"curve.{name}", values[name], say("curves-files-a-field-of-this-type", known=tuple(sorted(known)))
            )
    for name in ("points", "melting"):
        if name in values:
            values[name] = _pairs(values[name], name)
    try:
        found: Curve = kind(**values)
    except TypeError:
        missing = [f.name for f in fields(kind) if f.name not in values]
        raise InputError("curve", "incomplete", "needs " + ", ".join(missing)) from None
    return found


def _pairs(points: Any, name: str) -> tuple[tuple[float, float], ...]:
    try:
        return tuple((current, time) for current, time in points)
    except (TypeError, ValueError):
        raise InputError(f"curve.{name}", points, say("curves-files-a-list-of-pairs-of-current-and")) from None


def write_curve(curve: Curve) -> dict[str, Any]:
    """The JSON form of a curve; what is not set is left out.

    >>> write_curve(FixedTime(0.1))
    {'type': 'fixed', 'clearing_s': 0.1}
    """
    name = next(n for n, kind in TYPES.items() if isinstance(curve, kind))
    values = {k: v for k, v in asdict(curve).items() if v is not None and v != ()}
    for key in ("points", "melting"):
        if key in values:
            values[key] = [list(p) for p in values[key]]
    return {"type": name, **values}


def read_csv(text: str) -> FuseCurve:
    """A curve of points from CSV, checked. InputError names the line and what is allowed."""
    reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    columns = reader.fieldnames or []
    if "current_a" not in columns or "clearing_s" not in columns:
        raise InputError("columns", ", ".join(columns), say("curves-files-current-a-clearing-s-and-where-known"))
    points, melting = [], []
    for row in reader:
        line = f"line {reader.line_num}"
        current = RATED_A.parse(row["current_a"], f"{line}, current_a")
        if (row["clearing_s"] or "").strip():
            points.append((current, SECONDS.parse(row["clearing_s"], f"{line}, clearing_s")))
        if (row.get("melting_s") or "").strip():
            melting.append((current, SECONDS.parse(row["melting_s"], f"{line}, melting_s")))
    curve = FuseCurve(tuple(points), tuple(melting))
    check_curve(curve)
    return curve


def write_csv(curve: Curve, currents_a: Iterable[float] = ()) -> str:
    """CSV of a curve: of points as they are, of settings at ``currents_a`` (default: 41 a factor 1.2 apart)."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    if isinstance(curve, FuseCurve):
        melting, clearing = dict(curve.melting), dict(curve.points)
        for current in sorted({*melting, *clearing}):
            writer.writerow((current, melting.get(current, ""), clearing.get(current, "")))
        return out.getvalue()
    amps = np.array(list(currents_a) or _spread(curve))
    for row in zip(amps, times_s(curve, amps, edge=FAST), times_s(curve, amps), strict=True):
        writer.writerow([f"{v:.6g}" if math.isfinite(v) else "" for v in row])
    return out.getvalue()


def _spread(curve: Curve) -> list[float]:
    first = next((getattr(curve, n) for n in ("long_pickup_a", "rated_a", "pickup_a") if hasattr(curve, n)), 1.0)
    return [float(first * 1.2**k) for k in range(-2, 39)]
