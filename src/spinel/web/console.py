"""The console: one step, huge, read out word for word; confirmed on the director's device, each once.

A confirmation is sent by a script that keeps it until the server has answered, or by the plain form without a script.
Both carry a request id, the step and the version that they were made for.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from flask import Blueprint, Response, g, make_response, redirect, render_template, request, url_for

from spinel.actions import console, instruments, people, practice, program_view, read_again
from spinel.actions.acting import Actor
from spinel.actions.as_found import Moved
from spinel.actions.equipment import findable
from spinel.actions.in_the_way import met_by_next
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.order import ISOLATION
from spinel.core.switching.steps import Step
from spinel.web import forms, showing, verdicts
from spinel.web.drawing import detail
from spinel.web.filters import phrase
from spinel.web.here import here, site
from spinel.web.session import act, actor
from spinel.web.showing_emergency import emergency_of, highest_v

pages = Blueprint("console", __name__)
#: How a device may stand that is not as written.
POSITIONS = ("open", "closed", "withdrawn", "running", "stopped", "normal", "emergency", "off", "automatic")


@pages.get("/switching/<number>/console")
def page(number: str):
    return render_template("console/console.html", **_content(number))


def _content(number: str, failed: forms.Failed | None = None, said: str = "") -> dict[str, Any]:
    seen = showing.program(program_view.view(site(), number))
    step = seen.current
    drawing = None
    if step is not None and seen.state in ("executing", "stopped"):
        following = seen.fields[seen.done + 1]
        drawing = detail(here().seen_with(following), step.element_id, 300, 400)
    who = actor()
    assert who is not None
    met = met_by_next(here(), seen)
    confirms = _who_confirms(seen, who)
    read_high, low = read_again.asked_again(site(), seen, here().day(g.now))
    return {
        "program": seen, "c": seen.content, "step": step, "after": drawing, "failed": failed, "said": said, "me": who,
        "places": places(seen), "everybody": people.everybody(site()), "detector": practice.detector(seen),
        "scene": practice.met_here(seen),
        "instrument": _instrument(seen),
        **emergency_of(_place_of(seen, step), highest_v(seen)),
        "instruments": _instruments(seen), "read_high": read_high, "low": low,
        "heading": verdicts.console(seen), "ended": _ended(seen),
        "positions": POSITIONS, "said_by_script": _script_words(), **confirms, "may": confirms["may"] and met is None,
        "waits": program_view.stands_too_long(here(), seen.state, seen.changed_at, act().now),
        "met": met, "mark": program_view.version_of(site(), number)[1],
        "tags": sorted(e.tag for e in here().network.elements if findable(e)),
    }  # fmt: skip


def _who_confirms(seen: program_view.ProgramView, who: Actor) -> dict[str, bool]:
    """May this person confirm the step? The director; where the site says so, a check is a third person's."""
    step = seen.current
    third = step is not None and step.kind == "check" and console.third_person_checks(site())
    right = who.id not in (seen.director_id, seen.operator_id) if third else who.id == seen.director_id
    return {"third_here": third, "may": seen.state == "executing" and step is not None and right}


def _ended(seen: program_view.ProgramView) -> Said | str:
    """What is said of a program that has ended."""
    steps = len(seen.steps)
    if seen.state == "abandoned":
        return say("console-ended-abandoned", step=seen.done, steps=steps)
    if seen.state != "done":
        return ""
    if seen.purpose == ISOLATION and not seen.practice:
        return say("console-ended-handed", steps=steps, name=seen.in_charge)
    return say("console-ended-done", steps=steps)


def _script_words() -> str:
    """What the console's script says, in the words of the practice."""
    pairs = {
        key: [phrase(f"script-{code}"), phrase(f"script-{code}-small")]
        for key, code in (("readOut", "read-out"), ("repeated", "repeated"), ("unsaved", "unsaved"))
    }
    single = {
        "notSaved": phrase("script-not-saved"),
        "signIn": phrase("script-sign-in", step="{}"),
        "noAnswer": phrase("script-no-answer", step="{}"),
        "notYours": phrase("script-not-yours", step="{}"),
    }
    return json.dumps(pairs | single, ensure_ascii=False)


def places(seen: program_view.ProgramView) -> list[tuple[Sayable, list[int]]]:
    """Runs of steps at one location, for the brackets over the step scale."""
    runs: list[tuple[Sayable, list[int]]] = []
    for i, step in enumerate(seen.steps, 1):
        if runs and runs[-1][0] == step.location:
            runs[-1][1].append(i)
        else:
            runs.append((step.location, [i]))
    return runs


def _place_of(seen: program_view.ProgramView, step: Step | None) -> str:
    """Where somebody stands now: of the step's equipment, else of the target."""
    element = seen.order.network.element.get(step.element_id) if step else None
    return element.location if element else str(seen.content["equipment"]["location"])


def _instrument(seen: program_view.ProgramView) -> dict[str, Any]:
    """The instrument of the step's kind last proved in this program: nothing is typed twice."""
    for r in reversed(seen.valid("confirmed")):
        if "instrument" in r.detail and seen.current and _kind_of(seen, r.detail) == seen.current.instrument:
            return dict(r.detail)
    return {}


def _kind_of(seen: program_view.ProgramView, detail: Mapping[str, Any]) -> str:
    return seen.steps[detail["step"] - 1].instrument


def _instruments(seen: program_view.ProgramView) -> list[Any]:
    """What can be chosen where an instrument is proved, with why it does not do."""
    step = seen.current
    if step is None or step.value not in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return []
    return instruments.to_choose(site(), seen, step, here().day(g.now))


@pages.get("/switching/<number>/pulse")
def pulse(number: str):
    """Nothing when the console shows the present, else the console anew: another version of the program, or a step that
    something done elsewhere forbids, or allows again. What is being typed is left alone by anything else."""
    version, mark = program_view.version_of(site(), number)
    if request.args.get("version", "") != str(version):
        return _fragment(number)
    if request.args.get("mark", "") != mark:
        met = met_by_next(here(), program_view.view(site(), number))
        if (met is None) != (request.args.get("met", "") == "0"):
            return _fragment(number)
    return "", 204


@pages.post("/switching/<number>/confirm")
def confirm(number: str):
    """One confirmation. The answer is the console as it is afterwards, with what was refused, if anything was."""
    scripted = request.headers.get("X-Console") == "yes"
    try:
        console.confirm(act(), number, forms.whole("step"), forms.whole("version"), request.form)
    except NotAllowed:
        raise
    except (InputError, Refusal, Stale) as error:
        status = 409 if isinstance(error, Moved | Stale) else 422
        failed = forms.Failed("confirm", error, request.form)
        if scripted:
            return _fragment(number, failed, status)
        return render_template("console/console.html", **_content(number, failed)), status
    if scripted:
        return _fragment(number)
    return redirect(url_for("console.page", number=number))


def _fragment(number: str, failed: forms.Failed | None = None, status: int = 200) -> Response:
    if request.method == "POST":
        with site().snapshot():
            html = render_template("console/_console.html", **_content(number, failed))
    else:
        html = render_template("console/_console.html", **_content(number, failed))
    answer = make_response(html, status)
    # the script takes only this for an answer: a sign-in page that comes instead is none
    answer.headers["X-Console"] = "yes"
    return answer
