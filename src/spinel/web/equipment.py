"""What belongs to one piece of equipment beside its figures: documents, upkeep, and everything that touched it."""

from __future__ import annotations

from functools import partial

from flask import Blueprint, render_template, request, send_file, url_for

from spinel.actions import attachments, kept_up
from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.core.upkeep import RESULTS, Upkept
from spinel.web import forms
from spinel.web.here import here, site
from spinel.web.session import act

pages = Blueprint("equipment", __name__)


@pages.before_request
def who_may() -> None:
    """Before anything that was typed is looked at; the actions ask it again."""
    if request.method == "POST":
        attachments.may(act())


@pages.get("/network/equipment/<element_id>")
def page(element_id: str):
    return _page(element_id)


def _page(element_id: str, failed: forms.Failed | None = None):
    now = here()
    element = now.network.get(element_id)
    done = attachments.upkeep(site(), element_id)
    return render_template(
        "network/equipment.html", element=element, failed=failed, done=done,
        attached=attachments.of(site(), element_id), state=kept_up.of_one(site(), element_id), results=RESULTS,
    )  # fmt: skip


def _back(element_id: str) -> str:
    return url_for("equipment.page", element_id=element_id)


@pages.post("/network/equipment/<element_id>/attach")
def attach(element_id: str):
    """A picture, a PDF or a link."""
    here().network.get(element_id)
    file, link, title = request.files.get("picture"), forms.text("link"), forms.text("title")
    content = file.read() if file else b""

    def do() -> None:
        if content:
            attachments.attach_picture(act(), element_id, title, content)
        elif link:
            attachments.attach_link(act(), element_id, title, link)
        else:
            raise InputError("picture", "", say("equipment-a-file-or-a-link"))

    return forms.attempt("attach", do, lambda _: _back(element_id), partial(_page, element_id))


@pages.post("/network/equipment/<element_id>/take-off")
def take_off(element_id: str):
    do = partial(attachments.take_off, act(), element_id, forms.whole("attachment"))
    return forms.attempt("take-off", do, lambda _: _back(element_id), partial(_page, element_id))


@pages.post("/network/equipment/<element_id>/upkeep")
def upkeep(element_id: str):
    """What was done to it, by whom, with what result, and when it is due again."""

    def do() -> None:
        due = forms.day("due").isoformat() if forms.text("due") else ""
        done = Upkept(
            day=forms.day("day").isoformat(), what=forms.text("what"), done_by=forms.text("done_by"),
            result=forms.text("result"), due=due, note=forms.text("note"), by="",
        )  # fmt: skip
        attachments.record_upkeep(act(), element_id, done)

    return forms.attempt("upkeep", do, lambda _: _back(element_id), partial(_page, element_id))


@pages.get("/network/attached/<name>")
def attached(name: str):
    """A kept file, shown for what it is."""
    kind = "application/pdf" if name.endswith(".pdf") else "image/jpeg"
    return send_file(attachments.file(site(), name), mimetype=kind)
