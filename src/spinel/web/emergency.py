"""Emergency plans by place: written here, shown wherever somebody works."""

from __future__ import annotations

from flask import Blueprint, g, render_template, url_for

from spinel.actions import emergency
from spinel.core.said import say
from spinel.web import forms, verdicts
from spinel.web.here import here, site
from spinel.web.session import act

pages = Blueprint("emergency", __name__)


@pages.get("/jobs/emergency")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    plans = emergency.everywhere(site())
    return render_template(
        "jobs/emergency.html", plans=plans, fields=emergency.FIELDS, failed=failed, answer=verdicts.emergency(plans),
        trained=emergency.trained(site(), here().day(g.now)),
    )  # fmt: skip


@pages.post("/jobs/emergency")
def write():
    location = forms.text("location")

    def do() -> None:
        emergency.may(act())
        emergency.write(act(), location, {f: forms.text(f) for f in emergency.FIELDS})
        forms.said(say("emergency-written"))

    return forms.attempt(f"plan-{location}", do, lambda _: url_for("emergency.page"), _page)
