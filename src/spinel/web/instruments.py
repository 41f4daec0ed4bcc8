"""The instruments that prove absence of voltage: which there are, what each is made for, which nobody may use."""

from __future__ import annotations

from flask import Blueprint, render_template, request, url_for

from spinel.actions import instruments
from spinel.core.isolation.instruments import CATEGORIES, KINDS, ROMAN
from spinel.core.said import say
from spinel.web import forms
from spinel.web.here import site
from spinel.web.session import act

pages = Blueprint("instruments", __name__)


@pages.get("/switching/instruments")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    known = instruments.everything(site())
    return render_template(
        "switching/instruments.html", instruments=known, failed=failed, barred=sum(bool(i.barred) for i in known),
        kinds=[(k, say(f"instrument-{k}")) for k in KINDS], categories=[(c, ROMAN[c]) for c in CATEGORIES], roman=ROMAN,
    )  # fmt: skip


@pages.post("/switching/instruments")
def add():
    return forms.attempt(
        "add",
        lambda: instruments.add(
            act(), forms.text("number"), forms.text("kind"), forms.text("low_v"), forms.text("high_v"),
            forms.text("category"), request.form.getlist("currents"),
        ),
        lambda _: _said("instruments-added"),
        _page,
    )  # fmt: skip


@pages.post("/switching/instruments/bar")
def bar():
    number = forms.text("number")
    return forms.attempt(
        f"bar-{number}",
        lambda: instruments.bar(act(), number, forms.text("reason")),
        lambda _: _said("instruments-out-of-use"),
        _page,
    )


@pages.post("/switching/instruments/clear")
def clear():
    number = forms.text("number")
    return forms.attempt(
        f"clear-{number}",
        lambda: instruments.clear(act(), number, forms.text("cause")),
        lambda _: _said("instruments-in-use-again"),
        _page,
    )


def _said(code: str) -> str:
    forms.said(say(code))
    return url_for("instruments.page")
