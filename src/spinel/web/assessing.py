"""Risk of a job: who is asked, one's own opinion on a tablet, and all of them side by side."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from flask import Blueprint, current_app, g, redirect, render_template, request, url_for

from spinel.actions import assessing, improvements, jobs, people, task_library
from spinel.actions.figures import document_text
from spinel.core.canonical import canonical, digest
from spinel.core.errors import InputError
from spinel.core.isolation.reenergizing import Reenergizing, reenergizing
from spinel.core.network.upgrade import upgraded
from spinel.core.permit.life import exceeds
from spinel.core.profile import profile
from spinel.core.risk.opinions import ALWAYS, Agreed, HazardMark
from spinel.core.risk.options import HARDLY, options
from spinel.core.risk.scales import (
    HAZARDS,
    INHERENT,
    LIKELIHOOD,
    OTHERS,
    RUNGS,
    SEVERITY,
    STEPS,
    arc_severity,
    step,
    words,
)
from spinel.core.said import say
from spinel.core.stored import parsed
from spinel.web import forms, risk_drawing, verdicts
from spinel.web.filters import words as spoken
from spinel.web.heavy import Heavy, Tell
from spinel.web.here import here, site
from spinel.web.session import act, actor

pages = Blueprint("assessing", __name__)
#: Hazards beside shock and arc that one person marks at most.
MARKS = 5


def _subject() -> str:
    """What is looked at: the work, or putting the voltage back."""
    asked = request.args.get("of", "")
    return asked if asked in assessing.SUBJECTS else assessing.WORK


def _found(number: str) -> assessing.Assessing | None:
    return assessing.of_job(site(), number, actor(), _subject())


@pages.get("/jobs/<number>/risk")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None):
    job, found = jobs.view(site(), number), _found(number)
    who = actor()
    drawn = _drawn(found) if found and found.rows else []
    return render_template(
        "jobs/risk.html", job=job, of=_subject(), subjects=assessing.SUBJECTS, again=_again(job),
        found=found, failed=failed, drawn=drawn, scales=_scales(), rungs=RUNGS,
        inherent=INHERENT, letters=risk_drawing.letters(tuple(found.asked.values())) if found else {},
        everybody=[(p.id, p.name) for p in people.everybody(site())],
        answer=verdicts.risk(found, who.name if who else ""),
        options=_options(found) if found and found.rows else None, steps=STEPS, arc_severity=arc_severity,
        plain_words={name: "\n".join(spoken().say(w) for w in each) for name, each in _scales().items()},
        may_lead=who is not None and bool(who.roles & {"coordinator", "person_in_charge"}),
    )  # fmt: skip


def _again(job: jobs.JobView) -> Reenergizing | None:
    """What is closed again after its isolation; None for what is never made dead."""
    return reenergizing(here().study, job.element) if job.element and job.isolable else None


def _scales() -> dict[str, Sequence[Any]]:
    return dict(words(here().settings["risk_words"]))


def _drawn(found: assessing.Assessing) -> list[tuple[Any, Any, Any]]:
    letter = risk_drawing.letters(tuple(found.asked.values()))
    return [(row, *risk_drawing.scales(row, letter, found.agreed.get(row.hazard))) for row in found.rows or ()]


def _options(found: assessing.Assessing) -> list[dict[str, Any]] | None:
    """What inherent controls would leave, once it is computed beside the server; None until then."""
    now, c = here(), found.content
    if c["element_id"] not in now.network.element:
        return []
    moves = task_library.of(site(), c["task"], c["task_version"]).acts in ("operates", "interacts")
    key = _heavy().key("risk options 2", now.hash, repr(now.ceiling_cal_cm2), c["element_id"], c["touches"], str(moves))
    args = document_text(now.hash), now.profile.id, now.ceiling_cal_cm2, c["element_id"], c["touches"], moves
    made = _heavy().make("json", key, as_options, *args, patience_s=0.6)
    if made is None:
        return None
    told = parsed(made.decode())
    known: list[dict[str, Any]] = [
        {**o, "key": digest(canonical(o))[:16], "base": told["energy_cal_cm2"]} for o in told["each"]
    ]
    return known


def _heavy() -> Heavy:
    found: Heavy = current_app.extensions["heavy"]
    return found


def as_options(
    tell: Tell, text: str, practice_id: str, ceiling_cal_cm2: float, element_id: str, touches: str, operates: bool
) -> bytes:
    """In the process beside the server."""
    document = upgraded(json.loads(text))
    practice = profile(practice_id)
    found = options(document, practice, min(ceiling_cal_cm2, practice.ceiling_cal_cm2), element_id, touches,
                    operates=operates)  # fmt: skip
    return canonical({"energy_cal_cm2": found.energy_cal_cm2, "each": [asdict(o) for o in found.each]}).encode()


@pages.get("/jobs/<number>/risk/options")
def helps(number: str):
    """What would lower it, drawn; asked again until it is there."""
    found = _found(number)
    shown = _options(found) if found and found.rows else []
    energy = found.content["energy_cal_cm2"] if found else None
    drawn = None
    if found and shown and energy is not None:
        said = [{**o, "says": spoken().say(o["what"])} for o in shown]
        after = _after(found)
        drawn = risk_drawing.energy_line(energy, said, after)
    much = [{**o, "much": _much(o["energy_cal_cm2"], energy)} for o in shown] if shown is not None else None
    return render_template(
        "jobs/_options.html", options=much, of=_subject(), line=drawn, number=number, energy=energy, rungs=RUNGS
    )


def _much(then: float | None, energy: float | None) -> bool:
    return then is not None and (energy is None or then <= energy * (1 - HARDLY))


def _after(found: assessing.Assessing) -> float | None:
    arc = found.agreed.get("arc")
    left = arc.get("energy_after") if arc else None
    return float(left) if left is not None else None


@pages.post("/jobs/<number>/risk/ask")
def ask(number: str):
    def do() -> str:
        assessing.may(act())
        return assessing.ask(act(), number, forms.people_ids("people"), _subject())

    return forms.attempt("ask", do, lambda _: _here(number), lambda f: _page(number, f))


@pages.post("/jobs/<number>/risk/propose")
def propose(number: str):
    """What was computed goes on the site's list of inherent improvements."""

    def do() -> str:
        improvements.may(act())
        found, raw = _found(number), forms.text("proposal")
        known = _option(found, raw) if found and found.rows else None
        if known is None:
            raise InputError("proposal", raw, say("risk-an-option-that-was-computed"))
        owner = forms.people_ids("owner")
        return improvements.propose(
            act(), number, known["what"], known["holds"], known["base"], known["energy_cal_cm2"], forms.text("cost"),
            owner[0] if owner else 0, forms.day("due"), found.content["element_id"] if found else "",
        )  # fmt: skip

    return forms.attempt("propose", do, lambda _: url_for("improvements.page"), lambda f: _page(number, f))


@pages.post("/jobs/<number>/risk/words")
def change_words(number: str):
    """The site's own words for the steps of a scale."""

    def do() -> None:
        assessing.may_word(act())
        assessing.change_words(act(), {s: forms.lines(s) for s in (SEVERITY, LIKELIHOOD)}, forms.text("reason"))

    return forms.attempt("words", do, lambda _: _here(number), lambda f: _page(number, f))


@pages.post("/jobs/<number>/risk/open")
def open_early(number: str):
    def do() -> None:
        assessing.may(act())
        assessing.open_early(act(), forms.text("assessment"), forms.text("reason"))

    return forms.attempt("open", do, lambda _: _here(number), lambda f: _page(number, f))


@pages.post("/jobs/<number>/risk/agree")
def agree(number: str):
    def do() -> None:
        assessing.may(act())
        found = _found(number)
        if found is None:
            raise InputError("assessment", "", say("risk-each-hazard-is-agreed-or-not"))
        chosen = _chosen(found)
        after = chosen["energy_cal_cm2"] if chosen else found.content["energy_cal_cm2"]
        by = chosen["what"] if chosen else ""
        condition = {"holds": chosen["holds"], "sets": chosen["sets"]} if chosen else None
        assessing.agree(act(), forms.text("assessment"), forms.whole("version"),
                        [_agreed(r.hazard, after) for r in found.rows or ()], after, by, condition)  # fmt: skip

    return forms.attempt("agree", do, lambda _: _here(number), lambda f: _page(number, f))


def _chosen(found: assessing.Assessing) -> dict[str, Any] | None:
    """The inherent control that the arc flash is agreed with; only what was computed is offered."""
    raw = forms.text("option")
    if not raw:
        return None
    known = _option(found, raw)
    if known is None or known["energy_cal_cm2"] is None or known["lasting"]:
        raise InputError("option", raw, say("risk-an-option-that-was-computed"))
    asked = found.content["energy_cal_cm2"]
    if exceeds({"energy_cal_cm2": known["base"]}, {"energy_cal_cm2": asked}):
        # the field was worse than anything published: what an option leaves is too low then
        raise InputError("option", raw, say("risk-no-option-while-it-is-worse"))
    return known


def _option(found: assessing.Assessing, key: str) -> dict[str, Any] | None:
    return next((o for o in _options(found) or [] if o["key"] == key), None)


def _agreed(hazard: str, after: float | None) -> Agreed:
    pinned = arc_severity(after) if hazard == "arc" else None
    severity = pinned or step(forms.text(f"severity_{hazard}"), f"severity_{hazard}")
    return Agreed(
        hazard=hazard, severity=severity, likelihood=step(forms.text(f"likelihood_{hazard}"), f"likelihood_{hazard}"),
        controls={r: forms.text(f"{r}_{hazard}") for r in RUNGS if forms.text(f"{r}_{hazard}")},
        agreed=forms.text(f"agreed_{hazard}") == "yes", note=forms.text(f"note_{hazard}"),
    )  # fmt: skip


def _here(number: str) -> str:
    return url_for("assessing.page", number=number, of=_subject())


@pages.get("/jobs/<number>/opinion")
def opinion(number: str):
    """One's own; without saying of what, of that for which it still waits."""
    who = actor()
    if "of" not in request.args and who is not None:
        for subject in assessing.SUBJECTS:
            found = assessing.of_job(site(), number, who, subject)
            if found and found.state == assessing.OPEN and found.i_am_asked and found.mine is None:
                return redirect(url_for("assessing.opinion", number=number, of=subject))
    return _opinion(number)


def _opinion(number: str, failed: forms.Failed | None = None):
    job, found = jobs.view(site(), number), _found(number)
    return render_template(
        "jobs/opinion.html", job=job, of=_subject(), found=found, failed=failed,
        scales=_scales(), rungs=RUNGS, steps=STEPS,
        always=ALWAYS, others=[(h, say(f"hazard-kind-{h}")) for h in OTHERS], marks=range(MARKS),
        pinned=arc_severity(found.content["energy_cal_cm2"]) if found else None, now=g.now,
    )  # fmt: skip


@pages.post("/jobs/<number>/opinion")
def seal(number: str):
    def do() -> None:
        marks = [_mark(h, h) for h in ALWAYS]
        for i in range(MARKS):
            hazard = forms.text(f"hazard_{i}")
            if hazard:
                if hazard not in HAZARDS:
                    raise InputError(f"hazard_{i}", hazard, say("one-of", options=HAZARDS))
                marks.append(_mark(hazard, str(i)))
        assessing.seal(act(), forms.text("assessment"), marks)

    return forms.attempt("opinion", do, lambda _: _here(number), lambda f: _opinion(number, f))


def _mark(hazard: str, name: str) -> HazardMark:
    found = _found(request.view_args["number"] if request.view_args else "")
    pinned = arc_severity(found.content["energy_cal_cm2"]) if found and hazard == "arc" else None
    return HazardMark(
        hazard=hazard, severity=pinned or step(forms.text(f"{SEVERITY}_{name}"), f"{SEVERITY}_{name}"),
        likelihood=step(forms.text(f"{LIKELIHOOD}_{name}"), f"{LIKELIHOOD}_{name}"),
        rungs=tuple(r for r in RUNGS if r in request.form.getlist(f"rungs_{name}")), note=forms.text(f"note_{name}"),
    )  # fmt: skip
