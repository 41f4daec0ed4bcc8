"""Switching from one state to another: what is asked for, ways compared, the way back."""

from __future__ import annotations

from collections.abc import Mapping

from flask import Blueprint, render_template, request, url_for

from spinel.actions import jobs, program_view, switchings
from spinel.core.said import say
from spinel.web import forms
from spinel.web.here import here, site
from spinel.web.session import act, actor

pages = Blueprint("switchings", __name__)
#: Fields of the form: the position wanted, by element id; empty leaves it as it is.
TO = "to_"


@pages.get("/jobs/<number>/switching")
def ask(number: str):
    return _ask(number)


def _ask(number: str, failed: forms.Failed | None = None):
    who, job = actor(), jobs.view(site(), number)
    assert who is not None
    cases = switchings.in_the_document(site())
    goal = _goal(failed.typed) if failed else dict(next((g for c, g in cases if c.id == request.args.get("case")), {}))
    # handed over from a chain that was tried
    goal |= _goal(request.args) if not failed else {}
    choices = sorted(switchings.asked_of(site()), key=lambda c: c.element.id not in goal)
    return render_template(
        "switching/ask.html", job=job, choices=choices, cases=cases, goal=goal, failed=failed,
        chosen=request.args.get("case", ""), why_not=jobs.why_not(who),
    )  # fmt: skip


def _goal(form: Mapping[str, str]) -> dict[str, str]:
    return {k.removeprefix(TO): v for k, v in form.items() if k.startswith(TO) and v}


@pages.post("/jobs/<number>/switching")
def draft(number: str):
    goal = _goal(request.form)
    return forms.attempt(
        "switching",
        lambda: switchings.draft(act(), number, goal),
        lambda made: url_for("switching.program", number=made),
        lambda failed: _ask(number, failed),
    )


@pages.get("/switching/<number>/transfers")
def transfers(number: str):
    """Ways to keep more on during an isolation, side by side."""
    who = actor()
    assert who is not None
    found, why = switchings.keeping_on(site(), number)
    seen = program_view.view(site(), number)
    ways = [(t, switchings.goal_words(here(), t.goal)) for t in found]
    return render_template(
        "switching/transfers.html", program=seen, c=seen.content, ways=ways, none_because=why, TO=TO,
        why_not=jobs.why_not(who),
    )  # fmt: skip


@pages.post("/switching/<number>/back")
def back(number: str):
    from spinel.web.switching import _program

    def then(made: str) -> str:
        forms.said(say("switchings-the-way-back-is-drafted"))
        return url_for("switching.program", number=made)

    return forms.attempt(
        "back", lambda: switchings.way_back(act(), number), then, lambda failed: _program(number, failed)
    )  # fmt: skip
