"""The study as it is handed over: one paper, and one workbook."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, Response, g, render_template, request, url_for

from spinel.actions import records, study_findings, study_runs, trials
from spinel.actions.acting import utc_text
from spinel.actions.study_findings import FindingSeen
from spinel.actions.study_runs import StudyAsked
from spinel.core.errors import NotFound
from spinel.core.network.basis import ASSUMED
from spinel.core.network.case_words import means
from spinel.core.protection.selectivity import SeriesPair, series_pairs
from spinel.core.said import joined
from spinel.core.study import METHOD
from spinel.core.study_result import ROW, energy_of, unfed
from spinel.web import network_pages
from spinel.web.drawing import sheets
from spinel.web.energy_scale import ranked
from spinel.web.filters import words
from spinel.web.here import here, site
from spinel.web.papers import as_paper, code_of, live_record, missing_packages
from spinel.web.study import KINDS, about, ceiling, scale_of, workbook

pages = Blueprint("study_report", __name__)
EDITION = "IEEE 1584-2018"


@pages.get("/study/report")
def page():
    """The last study of a published network, or the one named."""
    chosen = _chosen()
    if chosen is None:
        return render_template("study/none.html", waiting=[], failed=None, never=False)
    return render_template("papers/study.html", **_content(chosen), missing=missing_packages())


@pages.get("/study/<number>/report.pdf")
def pdf(number: str):
    return as_paper("papers/study.html", number, _content(_done(number)))


@pages.get("/study/<number>/report.xlsx")
def book(number: str):
    """Everything of the paper as tables."""
    chosen = _done(number)
    c = _content(chosen)
    spoken = words().spoken
    found = [_finding_row(f) for f in c["found"]]
    pairs = [_pair_row(p) for p in c["pairs"]]
    sheets_ = {
        "study": (ROW[1:], [spoken(dict(r)) for r in c["result"].rows]),
        "findings": (
            ("finding", "kind", "location", "energy_cal_cm2", "to_do", "owner", "due", "state", "note"),
            found,
        ),
        "order": (PAIR, pairs),
        "assumed": (("name", "fields"), [{"name": n, "fields": ", ".join(f)} for n, f in c["assumed"]]),
        "cases": (("case", "means"), [{"case": n, "means": words().say(m)} for n, m in c["cases"]]),
        "about": (("about", "says"), [{"about": k, "says": v} for k, v in about(chosen, c["result"]).items()]),
    }
    answer = Response(workbook(sheets_), mimetype=KINDS["xlsx"])
    answer.headers["Content-Disposition"] = f'attachment; filename="{number}-report.xlsx"'
    return answer


FINDING = ("finding", "kind", "location", "energy_cal_cm2", "to_do", "owner", "due", "state", "note")
PAIR = ("nearer", "further", "case", "least_margin_s", "from_a", "to_a", "lost_a")


def _finding_row(f: FindingSeen) -> dict[str, Any]:
    energy = f.energy_cal_cm2 if f.energy_cal_cm2 is not None else ""
    told = (words().say(f.says), f.kind, f.tag, energy, words().say(f.to_do), f.owner,
            f.due.isoformat() if f.due else "", f.state, f.note)  # fmt: skip
    return dict(zip(FINDING, told, strict=True))


def _pair_row(p: SeriesPair) -> dict[str, Any]:
    lost = "; ".join(f"{a:.0f} to {b:.0f}" for a, b in p.lost)
    margin = p.margin_s if p.margin_s is not None else ""
    told = (p.downstream.tag, p.upstream.tag, words().say(p.case), margin, p.from_a, p.to_a, lost)
    return dict(zip(PAIR, told, strict=True))


def _chosen() -> StudyAsked | None:
    number = request.args.get("study", "")
    return _done(number) if number else study_runs.latest(site())


def _done(number: str) -> StudyAsked:
    found = study_runs.run(site(), number)
    if found.state != study_runs.DONE:
        raise NotFound("study", number)
    return found


def _content(chosen: StudyAsked) -> dict[str, Any]:
    result = study_runs.result(site(), chosen.result_hash)
    scale = scale_of(420)
    of_now = chosen.document_hash == here().hash
    network = here().network
    counted = [r for r in result.rows if not unfed(r)]
    back = url_for("study.page", study=chosen.number)
    count, head = records.head(site())
    return {
        "chosen": chosen, "result": result, "rows": counted, "energy_of": energy_of, "ceiling": ceiling(),
        "ranked": ranked(result, None, scale, 220), "ranked_size": (420, 238), "edition": EDITION, "method": METHOD,
        "found": study_findings.listed(site(), utc_text(g.now)), "pairs": _pairs() if of_now else [],
        "assumed": _assumed() if of_now else [], "letters": _letters() if of_now else [],
        "cases": [(c.name, joined(*means(network, c), between=" ")) for c in network.cases]
        if of_now else [(c, "") for c in result.cases],
        "leaves": sheets(network_pages.drawing_asked(), False) if of_now else [], "of_now": of_now,
        "styles": network_pages.printed_styles(),
        "ranked_styles": network_pages.printed_styles("network", "study"), "drawn_sheets": network_pages.DRAWN,
        "engineer": here().settings[study_runs.ENGINEER_RULE], "code": code_of(back), "address": live_record(back),
        "count": count, "head": head, "back": back, "pdf": url_for("study_report.pdf", number=chosen.number),
        "book": url_for("study_report.book", number=chosen.number),
        "sizes": sorted(("letter", "a4"), key=lambda s: s != here().profile.written.paper),
    }  # fmt: skip


def _pairs() -> list[Any]:
    """Devices in series of the network as published, without the field as it stands."""
    study = trials.of_site(site()).trials.base
    if "pairs" not in study.kept:
        study.kept["pairs"] = series_pairs(study.parts[0])
    found: list[Any] = study.kept["pairs"]
    return found


def _assumed() -> list[tuple[str, list[str]]]:
    network = here().network
    each = [*((e.tag, e.basis) for e in network.elements), *((b.name, b.basis) for b in network.enclosure.values())]
    found = [(name, sorted(f for f, told in basis.items() if told.origin == ASSUMED)) for name, basis in each]
    return [(name, fields) for name, fields in found if fields]


def _letters() -> list[tuple[Any, str]]:
    """Supplies, with where their strength comes from and since when."""
    found = []
    for e in here().network.elements:
        if e.fault_mva_max is not None:
            told = e.basis.get("fault_mva_max")
            found.append((e, " ".join(p for p in (told.origin, told.note, told.on) if p) if told else ""))
    return found
