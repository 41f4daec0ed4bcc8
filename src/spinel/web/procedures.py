"""The checklist of a piece of equipment: what isolates it, where it is tested, and what the site says of it."""

from __future__ import annotations

from functools import partial

from flask import Blueprint, render_template, url_for

from spinel.actions import procedures
from spinel.core.said import say
from spinel.web import forms, verdicts
from spinel.web.here import site
from spinel.web.session import act

pages = Blueprint("procedures", __name__)


@pages.get("/network/equipment/<element_id>/checklist")
def page(element_id: str):
    return _page(element_id)


def _page(element_id: str, failed: forms.Failed | None = None):
    found = procedures.checklist(site(), element_id)
    return render_template(
        "network/checklist.html", found=found, failed=failed, answer=verdicts.checklist(found),
        classes=[(s.subject.partition(":")[2], s) for s in found.by_class],
    )  # fmt: skip


@pages.get("/network/equipment/<element_id>/pictures")
def pictures(element_id: str):
    """What it looks like, alone, for the console."""
    return render_template("network/_pictures.html", pictures=procedures.pictures(site(), element_id))


@pages.post("/network/equipment/<element_id>/checklist")
def write(element_id: str):
    kind = forms.text("class")

    def do() -> None:
        procedures.may(act())
        procedures.write(act(), element_id, kind, forms.lines("lines"), forms.text("because"))
        forms.said(say("procedure-written"))

    return forms.attempt(
        f"write-{kind}", do, lambda _: url_for("procedures.page", element_id=element_id), partial(_page, element_id)
    )  # fmt: skip
