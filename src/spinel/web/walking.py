"""The walk-down on a tablet: place by place, kept on the device while the network is away, and sent once."""

from __future__ import annotations

import base64
import binascii
from functools import partial

from flask import Blueprint, jsonify, render_template, request, url_for

from spinel.actions import attachments, walking
from spinel.actions.acting import Act
from spinel.actions.walking import SeenThere
from spinel.core.editing import plates
from spinel.core.editing.units import Beside
from spinel.core.errors import InputError, NotFound
from spinel.core.network.now import position_words
from spinel.core.said import say
from spinel.web import forms, plate_forms
from spinel.web.addresses import outside
from spinel.web.filters import words
from spinel.web.here import here, site
from spinel.web.papers import code
from spinel.web.session import act

pages = Blueprint("walking", __name__)
#: What is compared with the plate on a walk; the rest is for the desk.
ON_PLATE = ("rated_a", "rated_voltage_v", "interrupting_ka", "short_circuit_ka", "rated_kva", "impedance_pct")


@pages.before_request
def who_may() -> None:
    """Before anything that was typed is looked at; the actions ask it again."""
    if request.method == "POST":
        walking.may(act())


@pages.get("/network/walk")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    places = walking.places(site())
    place = request.values.get("place", "")
    stands = walking.at_place(site(), place) if any(p == place for p, _ in places) else []
    return render_template(
        "network/walk.html", places=places, place=place, failed=failed,
        stands=[(s, [(p, position_words(p)) for p in s.findable], _plate(s)) for s in stands],
        answer=say("walk-answer-place", place=place or "-", count=len(stands)) if stands
        else say("walk-answer", count=len(places)),
    )  # fmt: skip


def _plate(stand: walking.Stand) -> list[plate_forms.FieldShown]:
    """Ratings as recorded, in the order of the plate."""
    e = stand.element
    rows = [r for r in plates.plate(e.kind) if r.field in ON_PLATE]
    record = {r.field: v for r in rows if (v := getattr(e, r.field)) is not None}
    return plate_forms.shown(e.kind, rows, record, f"{e.id}.")


@pages.post("/network/walk/<element_id>")
def keep(element_id: str):
    """What was seen of one piece, with the request that makes a repeat harmless; answered as JSON to the device."""
    element = here().network.get(element_id)
    rows = [r for r in plates.plate(element.kind) if r.field in ON_PLATE]
    record = {r.field: v for r in rows if (v := getattr(element, r.field)) is not None}
    try:
        values = plate_forms.typed(element.kind, rows, record, request.form, Beside(), f"{element_id}.")
        lock = forms.text("lock") if request.form.get("lock_seen") else None
        seen = SeenThere(
            position=forms.text("position"), lock=lock if request.form.get("lock_seen") != "no" else "",
            plate={k: v for k, v in values.items() if v is not None}, condition=forms.text("condition"),
            note=forms.text("note"), absent=bool(request.form.get("absent")), age_s=_age(),
            sure=request.form.get("sure") == "1",
        )  # fmt: skip
        doing = act()
        touched = walking.keep(doing, element_id, seen)
        _picture(doing, element_id, element.tag)
    except InputError as error:
        said = say("forms-not-accepted", allowed=error.allowed)
        return jsonify(kept=False, field=error.field, says=words().say(said)), 422
    return jsonify(kept=True, stopped=touched)


#: What does not tell how old it is may be as old as a working day.
LONGEST_S = 12 * 3600.0


def _age() -> float:
    """How long ago the device says that it was seen, s; as old as can be where it says nothing that makes sense."""
    text = forms.text("age_s")
    return float(text) if text.isascii() and text.isdigit() and len(text) < 7 else LONGEST_S


def _picture(doing: Act, element_id: str, tag: str) -> None:
    """One that was taken on the way comes along in the same form."""
    head, _, data = request.form.get("picture", "").partition(",")
    if not data:
        return
    if not head.startswith("data:image/"):
        raise InputError("picture", head[:20], say("evidence-a-picture-or-a-pdf"))
    try:
        content = base64.b64decode(data, validate=True)
    except binascii.Error:
        raise InputError("picture", head[:20], say("evidence-a-picture-or-a-pdf")) from None
    title = words().say(say("walk-picture-of", tag=tag))
    own = Act(doing.site, doing.actor, doing.now, f"{doing.request_id}-picture" if doing.request_id else None)
    attachments.attach_picture(own, element_id, title, content)


@pages.get("/network/walk/<element_id>/would")
def would(element_id: str):
    """Would recording this position stop anything? Asked before it is kept, where the network is there."""
    position = request.args.get("position", "")
    return jsonify(otherwise=walking.would_stop(site(), element_id, position))


@pages.post("/network/walk")
def other():
    """Something that is on no drawing."""
    place = forms.text("place")
    do = partial(walking.not_on_the_drawing, act(), place, forms.text("tag"), forms.text("what"))
    return forms.attempt("other", do, lambda _: url_for("walking.page", place=place), _page)


@pages.get("/network/codes")
def codes():
    """Codes to stick on equipment of a place: each opens the card of its piece."""
    place = request.args.get("place", "")
    stands = walking.at_place(site(), place)
    if not stands:
        raise NotFound("equipment", place)
    shown = [(s.element, code(outside(url_for("network.by_tag", tag=s.element.tag)))) for s in stands]
    return render_template("papers/codes.html", shown=shown, place=place, back=url_for("walking.page", place=place),
                           missing="", sizes=[], pdf="")  # fmt: skip
