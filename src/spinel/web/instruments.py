"""The instruments that prove absence of voltage: which there are, what each is made for, which nobody may use."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

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
    return _post(
        "add", "instruments-added",
        lambda: instruments.add(
            act(), forms.text("number"), forms.text("kind"), forms.text("low_v"), forms.text("high_v"),
            forms.text("category"), request.form.getlist("currents"),
        ),
    )  # fmt: skip


@pages.post("/switching/instruments/bar")
def bar():
    number = forms.text("number")
    return _post(
        f"bar-{number}", "instruments-out-of-use", lambda: instruments.bar(act(), number, forms.text("reason"))
    )


@pages.post("/switching/instruments/clear")
def clear():
    number = forms.text("number")
    return _post(
        f"clear-{number}", "instruments-in-use-again", lambda: instruments.clear(act(), number, forms.text("cause"))
    )


def _post(form: str, done: str, do: Callable[[], Any]):
    """Back on the page, with what was done or what was wrong."""

    def then(_: Any) -> str:
        forms.said(say(done))
        return url_for("instruments.page")

    return forms.attempt(form, do, then, _page)
