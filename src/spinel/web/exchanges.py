"""Hazards exchanged with those who come from elsewhere, and what they are to bring."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, g, render_template, url_for

from spinel.actions import exchanges, jobs
from spinel.core.errors import NotFound
from spinel.core.people import OWN
from spinel.core.said import say
from spinel.web import forms, phrases, verdicts
from spinel.web.here import here, site
from spinel.web.session import act

pages = Blueprint("exchanges", __name__)


@pages.get("/exchanges")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    today = here().day(g.now)
    found = exchanges.everything(site(), today)
    guests = [(p.login, say("exchange-guest", name=p.name, company=p.company)) for p in site().register()
              if p.active and p.employer != OWN]  # fmt: skip
    return render_template(
        "people/exchanges.html", found=found, guests=guests, failed=failed, today=today,
        waiting=sum(e.state == "offered" for e in found), good=sum(e.state == "signed" for e in found),
    )  # fmt: skip


@pages.post("/exchanges")
def offer():
    def do() -> str:
        return exchanges.offer(act(), exchanges.Told(
            guest=forms.text("guest"), work=forms.text("work"), told=forms.text("told"), bring=forms.text("bring"),
            from_day=forms.day("from_day"), until=forms.day("until"), job=forms.text("job").upper(),
        ))  # fmt: skip

    return forms.attempt("offer", do, lambda number: url_for("exchanges.one", number=number), _page)


@pages.get("/exchanges/<number>")
def one(number: str):
    return _one(number)


def _one(number: str, failed: forms.Failed | None = None):
    seen = exchanges.view(site(), number, here().day(g.now))
    return render_template("people/exchange.html", e=seen, failed=failed, **_job(seen.job))


def _job(number: str) -> dict[str, Any]:
    """What the study says of the place that they come for, as it is now."""
    try:
        job = jobs.view(site(), number) if number else None
    except NotFound:
        job = None
    figures = list(phrases.figures_of(job, verdicts.worst_side(job))) if job and job.hazard else []
    return {"job": job, "figures": figures, "courses": here().profile.training.each}


@pages.post("/exchanges/<number>/sign")
def sign(number: str):
    def do() -> None:
        exchanges.sign(act(), number, forms.whole("version"), forms.text("heard"))

    return _post(number, "sign", "exchange-signed", do)


@pages.post("/exchanges/<number>/end")
def end(number: str):
    def do() -> list[str]:
        return exchanges.end(act(), number, forms.whole("version"), forms.text("reason"))

    return _post(number, "end", "exchange-ended", do)


def _post(number: str, form: str, done: str, do: Any):
    def then(_: Any) -> str:
        forms.said(say(done))
        return url_for("exchanges.one", number=number)

    return forms.attempt(form, do, then, lambda failed: _one(number, failed))
