"""One location of the study: its time-current curves, its energy over distance and over settings, and what if."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, render_template, request, url_for

from spinel.actions import improvements, labels, study_runs, trials
from spinel.core.errors import InputError, NotFound
from spinel.core.hazard import Hazard
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.said import say
from spinel.core.study_compare import SAME
from spinel.core.study_result import by_place
from spinel.core.what_if.changes import (
    ELEMENT,
    MOST_CHANGES,
    SECONDS,
    TrialChange,
    changed_document,
    words,
)
from spinel.core.what_if.levers import TARGET_CAL_CM2
from spinel.core.what_if.seen_from import energy_over_distance, seen_from
from spinel.web import forms, study_work
from spinel.web.asked_trial import as_query, asked_changes, asked_of, changed_network, number
from spinel.web.filters import words as page_words
from spinel.web.here import here, site
from spinel.web.hung import hung_drawing
from spinel.web.network_pages import plan_words
from spinel.web.plan import plan
from spinel.web.session import act
from spinel.web.study import ceiling
from spinel.web.study_setting import gripped, slider, sliders
from spinel.web.tcc import distance_plot, tcc
from spinel.wording.working import working

pages = Blueprint("study_place", __name__)
PATIENCE_S = 0.3
#: Targets that are asked about, cal/cm².
TARGETS = (1.2, 8.0, 12.0, 40.0)
CONFIGURATIONS = ("VCB", "VCBB", "HCB", "VOA", "HOA")


@pages.get("/study/place/<element_id>")
def page(element_id: str):
    return _page(element_id)


def _page(element_id: str, failed: forms.Failed | None = None):
    element = here().network.get(element_id)
    touches, changes = request.args.get("touches", ""), asked_changes()
    distance, time_s = number("distance", WORKING_DISTANCE_MM), number("time", SECONDS)
    kept = trials.of_site(site())
    base = kept.trials.base.hazard(element_id, touches)
    study = kept.trials.study(changes)
    hazard = study.hazard(element_id, touches, distance)
    answer = kept.at(element_id, touches, changes, distance, time_s)
    document = changed_document(kept.trials.document, changes)
    device, field = slider(hazard, document, changes)
    held = gripped(hazard, device)
    return render_template(
        "study/place.html", element=element, touches=touches, base=base, hazard=hazard, figure=answer,
        was=kept.at(element_id, touches, ()), changes=[(c, words(kept.trials.document, c)) for c in changes],
        changed=bool(changes) or distance is not None or time_s is not None, device=device, slid=field,
        drawn=_drawn(hazard, base, held.device if held is not None else device, bool(changes)), grips=held,
        over=_over_distance(hazard), asked=_query(),
        sliders=sliders(hazard, document), plan=plan(hazard.data, _plan_words(hazard)),
        steps=working(hazard.data["energy"]) if hazard.energy else [], targets=TARGETS,
        result_row=_row_of_study(element_id, touches), failed=failed, ceiling=ceiling(), sides=_sides(element_id),
        boxes=_boxes(element_id), others=_others(hazard), configurations=CONFIGURATIONS, distance=distance,
        time_s=time_s, as_found=_as_found(element_id, touches, base), cases=here().network.cases, feeds=_feeds(hazard),
        people=[(p.id, p.name) for p in site().register() if p.active] if failed is not None or changes else [],
    )  # fmt: skip


def _query(without: TrialChange | None = None) -> str:
    kept = [c for c in asked_changes() if c != without]
    more = [(n, v) for n in ("touches", "device", "field", "distance", "time") if (v := request.args.get(n, ""))]
    return urlencode([*more, *as_query(kept)])


def _as_found(element_id: str, touches: str, base: Hazard) -> Hazard | None:
    """The card's figure, where the field as it stands makes it worse than any recorded case does, or unknown."""
    card = here().study.hazard(element_id, touches)
    energy = base.energy_cal_cm2
    lacks = bool(card.no_figure) and not card.unfed and not base.no_figure
    more = energy is not None and card.energy_cal_cm2 is not None and card.energy_cal_cm2 > energy * (1 + SAME)
    return card if lacks or more or (energy is None and card.energy_cal_cm2 is not None) else None


def _sides(element_id: str) -> list[tuple[str, Any]]:
    return labels.sides(here(), element_id)


def _boxes(element_id: str) -> list[Any]:
    """Enclosures of a piece, whose gap, configuration or distance a trial may set."""
    network = here().network
    ids = dict.fromkeys(network.node[n].enclosure for n in network.get(element_id).ends if network.node[n].enclosure)
    return [network.enclosure[i] for i in ids if i]


def _others(hazard: Hazard) -> list[tuple[str, str, str, float]]:
    """Ratings of what stands on the way that a trial may exchange: kind of change and id, tag, field, as it is."""
    if hazard.energy is None:
        return []
    found = []
    for step in hazard.energy.fault["path"]:
        e = here().network.by_tag.get(step["tag"])
        for field in ELEMENT if e is not None else ():
            value = getattr(e, field, None)
            if isinstance(value, int | float) and value:
                found.append((e.id, e.tag, field, float(value)))  # type: ignore[union-attr]
    return found


def _drawn(hazard: Hazard, base: Hazard, device: str, trial: bool) -> Any:
    if hazard.energy is None:
        return None
    cap = here().profile.clearing_cap_s
    before = seen_from(here().network, base.energy) if trial and base.energy else None
    return tcc(seen_from(changed_network(), hazard.energy), hazard.energy, cap, device, before)


def _over_distance(hazard: Hazard) -> Any:
    if hazard.energy is None or hazard.boundary_mm is None:
        return None
    most = max(hazard.boundary_mm * 1.3, 1500.0)
    distances = [305.0 * (most / 305.0) ** (i / 60) for i in range(61)]
    energies = energy_over_distance(hazard.energy, distances)
    shapes = distance_plot(
        list(zip(distances, energies, strict=True)), hazard.working_distance_mm or 0.0, hazard.boundary_mm, ceiling()
    )
    marks = [305.0, 455.0, 610.0, 914.0, 1500.0]
    table = list(zip(marks, energy_over_distance(hazard.energy, marks), strict=True))
    return shapes, table


def _feeds(hazard: Hazard) -> list[tuple[str, float]]:
    """Who gives how much of the bolted current, kA, the largest first."""
    if hazard.energy is None:
        return []
    return sorted(hazard.energy.fault["contributions_ka"].items(), key=lambda c: -c[1])


def _plan_words(hazard: Hazard) -> dict[str, str]:
    say_it = page_words().say
    return {key: say_it(said) for key, said in plan_words(hazard.data).items()}


def _row_of_study(element_id: str, touches: str) -> Any:
    """The study, and the row that it has of this place; None where there is none."""
    last = study_runs.latest(site())
    if last is None:
        return None
    row = by_place(study_runs.result(site(), last.result_hash)).get((element_id, touches))
    return (last, row) if row is not None else None


# Beside the server ----------------------------------------------------------------------------------------


def _changes_text() -> str:
    return json.dumps([c.data for c in asked_changes()])


@pages.get("/study/elsewhere")
def elsewhere():
    """Every other place that the trial moves, and what falls out of order."""
    if not asked_changes():
        raise NotFound("study", "trial")
    found = asked_of("elsewhere", study_work.as_elsewhere, _changes_text())
    drawn = render_template("study/_elsewhere.html", found=found, again=request.full_path)
    return drawn, 200 if found is not None else 202


@pages.get("/study/place/<element_id>/levers")
def levers(element_id: str):
    """What would bring it under a target."""
    target = number("target", TARGET_CAL_CM2) or TARGETS[1]
    touches = request.args.get("touches", "")
    element = here().network.get(element_id)
    found = asked_of("levers", study_work.as_levers, element_id, touches, target)
    as_is = trials.of_site(site()).at(element_id, touches, ())
    page_ = render_template(
        "study/levers.html",
        element=element,
        found=found,
        target=target,
        targets=TARGETS,
        touches=touches,
        as_is=as_is,
        query=lambda c: urlencode([("touches", touches), *as_query([TrialChange(**c)])]),
    )
    return page_, 200 if found is not None else 202, {} if found is not None else {"Refresh": "2"}


@pages.get("/study/place/<element_id>/search")
def search(element_id: str):
    """The best of several settings together, between a quarter and twice of what they are."""
    touches, aim = request.args.get("touches", ""), request.args.get("aim", "worst")
    element = here().network.get(element_id)
    hazard = trials.of_site(site()).trials.base.hazard(element_id, touches)
    each = sliders(hazard, trials.of_site(site()).trials.document)
    picked = request.args.getlist("setting")[:4]
    chosen = [s for s in each if f"{s[0]}:{s[2]}" in picked]
    found = None
    if chosen:
        bounds = [{"device_id": i, "field": f, "low": v / 4, "high": v * 2} for i, _, f, v in chosen]
        found = asked_of("search", study_work.as_proposal, json.dumps([[element_id, touches]]), json.dumps(bounds), aim)
    page_ = render_template(
        "study/search.html",
        element=element,
        touches=touches,
        each=each,
        picked=picked,
        found=found,
        chosen=chosen,
        query=lambda cs: urlencode([("touches", touches), *as_query([TrialChange(**c) for c in cs])]),
    )
    waits = bool(chosen) and found is None
    return page_, 202 if waits else 200, {"Refresh": "3"} if waits else {}


# What is kept of a trial -----------------------------------------------------------------------------------


@pages.post("/study/place/<element_id>/draft")
def draft(element_id: str):
    """A draft of the network in which the trial is so."""

    def do() -> str:
        trials.may(act())
        return trials.make_draft(act(), asked_changes())

    return forms.attempt("draft", do, lambda n: url_for("drafting.page", number=n), lambda f: _page(element_id, f))


@pages.post("/study/place/<element_id>/propose")
def propose(element_id: str):
    """The trial goes on the list of inherent improvements."""

    def do() -> str:
        improvements.may(act())
        kept, changes = trials.of_site(site()), asked_changes()
        if not changes:
            raise InputError("c", "", say("what-if-so-many-changes", most=MOST_CHANGES))
        touches = forms.text("touches")
        what = tuple(words(kept.trials.document, c) for c in changes)
        said = what[0] if len(what) == 1 else say("risk-option-together", whats=what)
        return improvements.propose(
            act(), "", said, [], kept.at(element_id, touches, ()).energy_cal_cm2,
            kept.at(element_id, touches, changes).energy_cal_cm2, forms.text("cost"),
            next(iter(forms.people_ids("owner")), 0), forms.day("due"), element_id,
        )  # fmt: skip

    return forms.attempt("propose", do, lambda _: url_for("improvements.page"), lambda f: _page(element_id, f))


# The one-line hung at its energy ----------------------------------------------------------------------------


@pages.get("/study/hung")
def hung():
    """Where the energy comes from, and who takes it off."""
    last = study_runs.latest(site())
    result = study_runs.result(site(), last.result_hash) if last is not None else None
    drawn = hung_drawing(here(), result, ceiling()) if result is not None else None
    return render_template("study/hung.html", chosen=last, drawn=drawn)
