"""A setting that is moved: the slider with its range, and the grips of the curve on the plot."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, render_template, request

from spinel.actions import trials
from spinel.core.errors import InputError
from spinel.core.hazard import Hazard
from spinel.core.said import say
from spinel.core.what_if.answers import curve_now
from spinel.core.what_if.changes import SLIDERS, TrialChange, changed_document
from spinel.core.what_if.seen_from import CurveSeen, seen_from
from spinel.web import study_work
from spinel.web.asked_trial import as_query, asked_changes, asked_of, changed_network
from spinel.web.grips import Grip, grips, place
from spinel.web.here import here, site
from spinel.web.study import ceiling
from spinel.web.tcc import Axes, axes_of, band_data, track_plot

pages = Blueprint("study_setting", __name__)


def slider(hazard: Hazard, document: Any, changes: tuple[TrialChange, ...]) -> tuple[str, str]:
    """Which device's setting is on the slider: the one asked for, else of the device that clears."""
    device, field = request.args.get("device", ""), request.args.get("field", "")
    if device:
        here().network.get(device)
        return device, field
    settings = [c for c in changes if c.kind == "setting"]
    if settings:
        return settings[-1].id, settings[-1].field
    each = sliders(hazard, document)
    return (each[0][0], each[0][2]) if each else ("", "")


def sliders(hazard: Hazard, document: Any) -> list[tuple[str, str, str, float]]:
    """Settings that can be moved, of the devices that carry the worst arc: id, tag, field, as it is."""
    if hazard.energy is None:
        return []
    last = hazard.energy.clearing.device
    devices = sorted(
        hazard.energy.clearing.devices, key=lambda d: (last is None or d.element_id != last.element_id, d.tag)
    )
    by_id = {e["id"]: e for e in document["elements"]}
    found = []
    for d in devices:
        curve = by_id.get(d.element_id, {}).get("curve") or {}
        for field in SLIDERS.get(curve.get("type", ""), ()):
            if isinstance(curve.get(field), int | float):
                found.append((d.element_id, d.tag, field, float(curve[field])))
    return found


@dataclass(frozen=True)
class Gripped:
    """The settings of the device whose curve is moved. ``asks``: of each field, the address of its range, and of the
    page with all changes but its own."""

    device: str
    tag: str
    each: list[Grip]
    asks: dict[str, tuple[str, str]]


def gripped(hazard: Hazard, device: str) -> Gripped | None:
    """Of a device where its curve is on the plot, else of the one that clears, else of the next that would (what ends
    the arc may be a source that ceases); None where none can be set."""
    if hazard.energy is None:
        return None
    last, document = hazard.energy.clearing.device, trials.of_site(site()).trials.document
    seen = seen_from(changed_network(), hazard.energy)
    wanted = [device, *([last.element_id] if last is not None else [])]
    wanted += [d.element_id for d in hazard.energy.clearing.devices]
    # in a maintenance case, or by the relay of a zone, what is drawn is not what a setting moves
    drawn = {c.element.id: c for c in seen.curves if c.element.id in wanted
             and c.curve == curve_now(document, c.element.id, asked_changes())}  # fmt: skip
    curve = next((drawn[i] for i in wanted if i in drawn), None)
    if curve is None:
        return None
    device = curve.element.id
    axes, asks = axes_of(seen), {}
    found = grips(axes, curve)
    for g in found:
        others = [c for c in asked_changes() if (c.kind, c.id, c.field) != ("setting", device, g.field)]
        query = [
            ("touches", request.args.get("touches", "")),
            ("device", device),
            ("field", g.field),
            *as_query(others),
        ]
        seen_at = [("low", repr(axes.low)), ("high", repr(axes.high)), ("factor", repr(curve.factor))]
        asks[g.field] = urlencode([*query, *seen_at]), urlencode(query)
    return Gripped(device, curve.element.tag, found, asks)


@pages.get("/study/place/<element_id>/track")
def track(element_id: str):
    """The worst energy along a setting; asks again by itself until it is there."""
    device, field = request.args.get("device", ""), request.args.get("field", "")
    e = here().network.get(device)
    others = tuple(c for c in asked_changes() if (c.kind, c.id, c.field) != ("setting", device, field))
    points = _track_of(element_id, device, field, others)
    now = _as_it_is(device, field, others)
    if now is None:
        raise InputError("field", field, say("what-if-no-such-setting", tag=e.tag))
    at = next((float(c.value) for c in asked_changes() if (c.kind, c.id, c.field) == ("setting", device, field)), now)
    plotted = None
    if points:
        levels = sorted({8.0, 12.0, ceiling()})
        plotted = track_plot([(p["value"], p["energy"], bool(p["lost"])) for p in points], now, at, levels)
    base = urlencode([("touches", request.args.get("touches", "")), ("device", device), ("field", field),
                      *as_query(others)])  # fmt: skip
    return render_template(
        "study/_track.html", points=points, plotted=plotted, set_to=now, at=at, device=e, field=field, base=base,
        again=request.full_path, element_id=element_id,
    ), 200 if points is not None else 202  # fmt: skip


@pages.get("/study/place/<element_id>/grip")
def grip(element_id: str):
    """The range of a setting for whoever drags it: of each value the answer, the curve as drawn, and where its grip
    is then."""
    device, field = request.args.get("device", ""), request.args.get("field", "")
    e = here().network.get(device)
    others = [c for c in asked_changes() if (c.kind, c.id, c.field) != ("setting", device, field)]
    axes, factor = Axes(_px("low"), _px("high")), _px("factor")
    points = _track_of(element_id, device, field, others)
    if points is None:
        return {"points": []}, 202
    document, found = trials.of_site(site()).trials.document, list[dict[str, Any]]()
    for p in points:
        curve = curve_now(document, device, [*others, TrialChange("setting", device, field, p["value"])])
        seen = CurveSeen(element=e, curve=curve, factor=factor, opens_s=None)
        at = place(axes, seen, field)
        if at is not None:
            found.append({**p, "d": band_data(axes, seen), "x": round(at[0], 1), "y": round(at[1], 1)})
    return {"points": found}


def _px(name: str) -> float:
    """What the plot of the page was drawn with."""
    try:
        value = float(request.args.get(name, ""))
    except ValueError:
        value = 0.0
    if not 1e-6 < value < 1e9:
        raise InputError(name, request.args.get(name, ""), say("what-if-a-number"))
    return value


def _track_of(element_id: str, device: str, field: str, others: Sequence[TrialChange]) -> Any:
    return asked_of(
        "track", study_work.as_track, json.dumps([c.data for c in others]), element_id,
        request.args.get("touches", ""), device, field,
    )  # fmt: skip


def _as_it_is(device: str, field: str, others: Sequence[TrialChange]) -> float | None:
    """A setting without the trial of it; None where the curve has none."""
    document = changed_document(trials.of_site(site()).trials.document, others)
    record: Any = next((r for r in document["elements"] if r["id"] == device), {})
    value = (record.get("curve") or {}).get(field)
    return float(value) if isinstance(value, int | float) else None
