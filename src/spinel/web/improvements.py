"""The site's list of inherent improvements."""

from __future__ import annotations

from flask import Blueprint, g, render_template, url_for

from spinel.actions import improvements
from spinel.core.said import say
from spinel.web import forms, verdicts
from spinel.web.here import here, site
from spinel.web.session import act

pages = Blueprint("improvements", __name__)


@pages.get("/jobs/improvements")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    listed, today = improvements.listed(site()), here().day(g.now)
    return render_template(
        "jobs/improvements.html", listed=listed, failed=failed, next_states=improvements.NEXT, today=today,
        answer=verdicts.improvements(listed, today),
    )  # fmt: skip


@pages.post("/jobs/improvements/<number>")
def decide(number: str):
    def do() -> None:
        improvements.decide(act(), number, forms.whole("version"), forms.text("state"), forms.text("because"))
        forms.said(say("improvement-recorded"))

    return forms.attempt(f"decide-{number}", do, lambda _: url_for("improvements.page"), _page)
