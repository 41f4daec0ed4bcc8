"""Curves: the library of generic ones, and entering one by its kind, its settings, its points or a traced picture."""

from __future__ import annotations

import json
from functools import partial
from typing import Any

from flask import Blueprint, render_template, request, url_for

from spinel.actions import attachments, drafting
from spinel.core.curves.checks import check_curve
from spinel.core.curves.files import read_csv, read_curve, write_curve
from spinel.core.curves.library import LIBRARY, fits, generic
from spinel.core.curves.traced import AxisMark, traced
from spinel.core.editing.records import Record, Sheet, put
from spinel.core.editing.units import plain
from spinel.core.errors import InputError, NotFound
from spinel.core.network.basis import ORIGINS
from spinel.core.network.kinds import KIND
from spinel.core.quantities import RATED_A
from spinel.core.said import Sayable, say
from spinel.web import forms, plate_forms
from spinel.web.curve_plot import plot
from spinel.web.filters import words
from spinel.web.here import site
from spinel.web.session import act

pages = Blueprint("curves", __name__)


@pages.before_request
def who_may() -> None:
    """Before anything that was typed is looked at; the actions ask it again."""
    if request.method == "POST":
        drafting.may(act())


#: Settings of each type, in the order in which a trip unit or a relay shows them; required ones first.
SETTINGS: dict[str, tuple[str, ...]] = {
    "trip": ("long_pickup_a", "long_delay_s", "short_pickup_a", "short_delay_s", "instantaneous_a",
             "instantaneous_clearing_s", "interlock_delay_s", "tolerance_pct"),
    "thermal-magnetic": ("rated_a", "seconds_at_3x", "magnetic_a", "magnetic_clearing_s", "tolerance_pct"),
    "relay": ("pickup_a", "dial", "breaker_s", "instantaneous_a", "instantaneous_s", "flat_above", "tolerance_pct"),
    "unit": ("pickup_a", "operating_s", "breaker_s", "tolerance_pct"),
    "fixed": ("clearing_s",),
}  # fmt: skip
#: What a relay curve is besides: standard and curve, as one choice.
RELAYS = tuple(f"{s} {c}" for s, cs in (("ieee", ("MI", "VI", "EI")), ("iec", ("SI", "VI", "EI", "LTI", "STI")),
                                        ("us", ("MI", "I", "VI", "EI", "STI"))) for c in cs)  # fmt: skip


@pages.get("/network/curves")
def library():
    """All generic curves at one rating, found by a word of their names."""
    wanted = " ".join(request.args.get("q", "").split()).casefold()[:60]
    typed = request.args.get("rated_a", "").strip() or "400"
    failed = None
    try:
        rated = RATED_A.parse(typed, "rated_a")
    except InputError as error:
        failed, rated = forms.Failed("library", error, request.args), 400.0
    names = [(g, words().say(say(f"generic-{g.id}"))) for g in LIBRARY]
    shown = [(g, name, plot(g.at(rated))) for g, name in names if wanted in name.casefold()]
    return render_template("network/curves.html", shown=shown, q=wanted, rated=typed, failed=failed)


@pages.get("/network/build/<number>/curve/<element_id>")
def edit(number: str, element_id: str):
    return _page(number, element_id)


def _page(number: str, element_id: str, failed: forms.Failed | None = None):
    draft = drafting.draft(site(), number)
    element = _element(draft.document["elements"], element_id)
    curve = element.get("curve")
    picture = element.get("basis", {}).get("curve", {}).get("note", "")
    return render_template(
        "network/curve.html", draft=draft, element=element, failed=failed, curve=curve, picture=_picture(picture),
        drawn=plot(curve), says=plate_forms.curve_words(curve) if curve else say("plate-no-curve"),
        fits=fits(element["kind"]), settings=SETTINGS, relays=RELAYS, origins=ORIGINS,
        points=_as_lines(curve, "points"), melting=_as_lines(curve, "melting"),
        uploaded=request.args.get("picture", ""),
    )  # fmt: skip


def _picture(note: str) -> str:
    """The name of a kept picture in a note, if it is one."""
    first = note.split(" ")[0]
    return first if len(first) > 60 and first.endswith(".jpg") else ""


def _element(elements: list[Record], element_id: str) -> Record:
    found = next((e for e in elements if e["id"] == element_id), None)
    if found is None or not KIND[found["kind"]].interrupts:
        raise NotFound("equipment", element_id)
    return found


def _as_lines(curve: Any, name: str) -> str:
    return "\n".join(f"{a:g} {s:g}" for a, s in (curve or {}).get(name, ()))


@pages.post("/network/build/<number>/curve/<element_id>")
def change(number: str, element_id: str):
    """A curve of whichever form was filled in, checked before it is kept."""
    how = forms.text("how")

    def do() -> int:
        made, basis = _MADE[how]() if how in _MADE else _unknown(how)

        def put_in(sheet: Sheet) -> Sayable:
            element = sheet.element(element_id)
            _element([element], element_id)
            curve = generic(made["generic"], element.get("rated_a")) if "generic" in made else made
            check_curve(read_curve(curve))
            put(element, "curve", curve, basis)
            return say("draft-curve", tag=element["tag"])

        return drafting.edit(act(), number, forms.whole("seen"), put_in)

    return forms.attempt(
        f"curve-{how}", do, lambda _: url_for("curves.edit", number=number, element_id=element_id),
        partial(_page, number, element_id),
    )  # fmt: skip


Made = tuple[dict[str, Any], dict[str, str]]


def _unknown(how: str) -> Made:
    raise InputError("how", how, say("one-of", options=tuple(_MADE)))


def _by_kind() -> Made:
    return {"generic": forms.text("generic")}, {}


def _by_settings() -> Made:
    kind = forms.text("type")
    if kind not in SETTINGS:
        raise InputError("type", kind, say("one-of", options=tuple(SETTINGS)))
    found: dict[str, Any] = {"type": kind}
    for name in SETTINGS[kind]:
        text = forms.text(f"{kind}.{name}")
        if text:
            found[name] = plain(text, f"{kind}.{name}", say("sheets-a-number"))
    if kind == "relay":
        standard, _, curve = forms.text("relay.curve").partition(" ")
        found |= {"standard": standard, "curve": curve}
    if kind == "unit":
        found["principle"] = "definite"
    for name in ("short_i2t",):
        if kind == "trip" and request.form.get(f"trip.{name}"):
            found[name] = True
    try:
        return write_curve(read_curve(found)), plate_forms.origin(request.form)
    except InputError as error:
        raise InputError(f"{kind}.{error.field}", error.value, error.allowed) from None


def _by_points() -> Made:
    points, melting = _points("points"), _points("melting")
    found: dict[str, Any] = {"type": "fuse", "points": points, **({"melting": melting} if melting else {})}
    return found, plate_forms.origin(request.form)


def _points(name: str) -> list[list[float]]:
    """A point a line, amperes and seconds; or the CSV of a curve."""
    text = forms.text(name)
    if text.startswith("current_a"):
        curve = read_csv(text)
        return [list(p) for p in (curve.points if name == "points" else curve.melting)]
    found = []
    for line in text.split("\n"):
        parts = line.replace(";", " ").replace("\t", " ").split()
        if parts:
            if len(parts) != 2:
                raise InputError(name, line, say("curves-two-numbers-a-line"))
            found.append([plain(p, name, say("curves-two-numbers-a-line")) for p in parts])
    return found


def _by_tracing() -> Made:
    """Marks and points as parts of the picture, as the page places them; the picture is kept as evidence."""
    marks = [AxisMark(_part(f"{axis}{i}.at"), _amount(f"{axis}{i}.value")) for axis in ("x", "y") for i in (1, 2)]
    clearing, melting = _traced_points("traced"), _traced_points("traced_melting")
    curve = traced((marks[0], marks[1]), (marks[2], marks[3]), clearing, melting)
    picture = forms.text("picture")
    note = picture if picture and attachments.is_attached(site(), picture) else ""
    return write_curve(curve), {"from": "maker", **({"note": note} if note else {})}


def _part(name: str) -> float:
    number = plain(forms.text(name), name, say("curves-a-place-on-the-picture"))
    if not 0 <= number <= 1:
        raise InputError(name, number, say("curves-a-place-on-the-picture"))
    return number


def _amount(name: str) -> float:
    return plain(forms.text(name), name, say("curves-traced-a-value-above-zero"))


def _traced_points(name: str) -> list[tuple[float, float]]:
    raw = forms.text(name) or "[]"
    try:
        found = [(float(x), float(y)) for x, y in json.loads(raw)]
    except (ValueError, TypeError):
        raise InputError(name, raw[:40], say("curves-a-place-on-the-picture")) from None
    if not all(-0.05 <= v <= 1.05 for point in found for v in point):
        raise InputError(name, raw[:40], say("curves-a-place-on-the-picture"))
    return found


_MADE = {"kind": _by_kind, "settings": _by_settings, "points": _by_points, "tracing": _by_tracing}


@pages.post("/network/build/<number>/curve/<element_id>/picture")
def picture(number: str, element_id: str):
    """A picture of a maker's sheet, to be traced on."""
    file = request.files.get("picture")

    def do() -> str:
        draft = drafting.draft(site(), number)
        tag = _element(draft.document["elements"], element_id)["tag"]
        title = words().say(say("curves-sheet-of", tag=tag))
        return attachments.attach_picture(act(), element_id, title, file.read() if file else b"")

    return forms.attempt(
        "picture", do, lambda name: url_for("curves.edit", number=number, element_id=element_id, picture=name),
        partial(_page, number, element_id),
    )  # fmt: skip
