"""What the study finds that somebody has to see to: whose, by when, and how it was closed."""

from __future__ import annotations

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import study_findings, study_runs
from spinel.actions.acting import utc_text
from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.web import forms
from spinel.web.here import here, site
from spinel.web.paging import paging
from spinel.web.session import act
from spinel.web.study import ceiling, scale_of

pages = Blueprint("findings", __name__)
#: What the list can be narrowed to.
SHOWN = ("open", "mine", "late", "nobody", "closed")
SCALE_PX = 170


@pages.get("/study/findings")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    shown, kind = request.args.get("show", SHOWN[0]), request.args.get("kind", "")
    if shown not in SHOWN:
        raise InputError("show", shown, say("one-of", options=SHOWN))
    if kind and kind not in study_findings.KINDS:
        raise InputError("kind", kind, say("one-of", options=study_findings.KINDS))
    today, me = here().day(g.now), act().actor
    every = study_findings.listed(site(), utc_text(g.now))
    is_shown = {
        "open": lambda f: f.open, "mine": lambda f: f.open and f.owner_id == me.id,
        "late": lambda f: f.late(today), "nobody": lambda f: f.open and not f.number, "closed": lambda f: not f.open,
    }[shown]  # fmt: skip
    found = [f for f in every if is_shown(f) and kind in ("", f.kind)]
    part = paging(len(found))
    return render_template(
        "study/findings.html", found=found[part.first : part.last], part=part, every=every, shown=shown, kind=kind,
        options=SHOWN, kinds=study_findings.KINDS, today=today, failed=failed, how=study_findings.HOW,
        chosen=study_runs.latest(site()), scale=scale_of(SCALE_PX), ceiling=ceiling(),
        late=sum(f.late(today) for f in every), people=[(p.id, p.name) for p in site().register() if p.active],
    )  # fmt: skip


@pages.post("/study/findings/give")
def give():
    name = forms.text("name")

    def do() -> str:
        study_findings.may(act())
        number = study_findings.give(
            act(), name, forms.whole("version"), next(iter(forms.people_ids("owner")), 0), forms.day("due")
        )
        forms.said(say("finding-given", number=number))
        return number

    return forms.attempt(f"give-{name}", do, lambda _: url_for("findings.page"), _page)


@pages.post("/study/findings/<number>/close")
def close(number: str):
    def do() -> None:
        study_findings.close(act(), number, forms.whole("version"), forms.text("how"), forms.text("note"))
        forms.said(say("finding-closed", number=number))

    return forms.attempt(f"close-{number}", do, lambda _: url_for("findings.page"), _page)
