"""Two studies side by side: what rose, what fell, why, and what follows of it."""

from __future__ import annotations

import json
from typing import Any

from flask import Blueprint, current_app, g, render_template, request

from spinel.actions import labels, revisions, study_runs
from spinel.actions.acting import utc_text
from spinel.actions.study_runs import StudyAsked
from spinel.core.study_moves import PlaceMoved, compared
from spinel.core.study_result import energy_of
from spinel.web import study_work
from spinel.web.heavy import Heavy
from spinel.web.here import here, site
from spinel.web.study import SCALE_PX, ceiling, scale_of

pages = Blueprint("study_compare", __name__)
PATIENCE_S = 0.4
#: So many places are listed; all are in the table that the page offers.
SHOWN = 200


@pages.get("/study/compare")
def page():
    """The studies of the address; else the last of a published network against the one before."""
    done = [r for r in study_runs.runs(site()) if r.state == study_runs.DONE]
    to = _of(done, request.args.get("to", "")) or study_runs.latest(site())
    of = _of(done, request.args.get("of", "")) or (study_runs.before(site(), to.number) if to else None)
    if of is None and to is not None:
        # no earlier one of what is published: what a draft would change
        drafted = next((r for r in done if r.draft and r.result_hash != to.result_hash), None)
        of, to = (to, drafted) if drafted is not None else (None, to)
    if to is None or of is None:
        return render_template("study/compare.html", done=done, of=of, to=to, moved=None, causes=None)
    old, new = study_runs.result(site(), of.result_hash), study_runs.result(site(), to.result_hash)
    causes = _causes(of, to)
    found = compared(old, new, causes)
    waits = causes is None
    drawn = render_template(
        "study/compare.html", done=done, of=of, to=to, moved=found[:SHOWN], count=len(found), causes=causes,
        up=sum(m.worse for m in found), ppe=sum(m.ppe for m in found), boundary=sum(m.boundary for m in found),
        scale=scale_of(SCALE_PX), ceiling=ceiling(), effects=_effects(to), wrong=_labels(found), energy_of=energy_of,
    )  # fmt: skip
    return drawn, 202 if waits else 200, {"Refresh": "3"} if waits else {}


def _of(done: list[StudyAsked], number: str) -> StudyAsked | None:
    return next((r for r in done if r.number == number), None)


def _causes(of: StudyAsked, to: StudyAsked) -> dict[str, Any] | None:
    """Which input moved what, of two documents; None while it is computed."""
    if of.document_hash == to.document_hash:
        return {"too_many": 0, "causes": []}
    heavy: Heavy = current_app.extensions["studies"]
    args = study_runs.document_of(site(), of.number), study_runs.document_of(site(), to.number), to.ceiling_cal_cm2
    key = heavy.key("causes", of.document_hash, to.document_hash, repr(to.ceiling_cal_cm2))
    made = heavy.make(study_work.KIND, key, study_work.as_causes, *args, patience_s=PATIENCE_S)
    return None if made is None else dict(json.loads(made))


def _effects(to: StudyAsked) -> Any:
    """Which permits and programs publishing a draft would suspend; None of what is published, which has done so."""
    if not to.draft or to.document_hash == here().hash:
        return None
    return revisions.effects(site(), study_runs.document_of(site(), to.number))


def _labels(found: list[PlaceMoved]) -> list[Any]:
    """Labels that hang on what moved, and are wrong by what is published now."""
    moved = {m.row["element_id"] for m in found}
    return [
        x for x in labels.listed(site(), utc_text(g.now)) if x.element_id in moved and x.wrong and x.state == "hung"
    ]
