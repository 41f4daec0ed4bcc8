"""Study: every location worst first, on one scale of energies; studies asked for, cancelled, signed."""

from __future__ import annotations

import csv
import io
import tempfile
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, g, redirect, render_template, request, url_for

from spinel.actions import drafting, study_findings, study_runs
from spinel.actions.acting import utc_text
from spinel.actions.study_runs import StudyAsked
from spinel.actions.tables_out import write_workbook
from spinel.core import texts
from spinel.core.errors import InputError, NotFound
from spinel.core.rows import disarmed
from spinel.core.said import say
from spinel.core.study_result import ROW, StudyResult, place_of
from spinel.core.study_view import COLUMNS, SHOWN, USUAL, counts, levels_of, lines, moves, wanted_rows
from spinel.web import forms, study_running, verdicts
from spinel.web.energy_scale import EnergyScale, ranked
from spinel.web.filters import words
from spinel.web.here import here, site
from spinel.web.paging import paging
from spinel.web.session import act

pages = Blueprint("study", __name__)
#: Width of the scale that runs through all rows, and of the curve of all places, px.
SCALE_PX, RANKED_PX, RANKED_HIGH_PX = 300, 170, 230
VIEWS = ("picture", "table")
KINDS = {"csv": "text/csv", "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"}


@pages.get("/study")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    waiting = study_runs.waiting(site())
    named = request.args.get("study", "")
    if named and study_runs.run(site(), named).state != study_runs.DONE:
        # it has no figures: those of another are never shown under its number
        return redirect(url_for("study.runs"))
    chosen = _chosen()
    if chosen is None:
        return render_template("study/none.html", waiting=_stages(waiting), failed=failed, never=True)
    result, before = _both(chosen)
    shown, text, view = _asked()
    rows = wanted_rows(result, before, shown, text, ceiling())
    part = paging(len(rows))
    window = rows[part.first : part.last]
    scale = scale_of(SCALE_PX)
    return render_template(
        "study/study.html", chosen=chosen, before=_before(chosen), result=result, part=part, shown=shown, q=text,
        view=view, lines=lines(window, before), scale=scale, options=SHOWN, columns=_columns(), every=COLUMNS,
        waiting=_stages(waiting), failed=failed, answer=verdicts.study(result, chosen, ceiling()),
        ranked=ranked(result, before, scale_of(RANKED_PX), RANKED_HIGH_PX, _window(result, window)),
        ranked_size=(RANKED_PX, RANKED_HIGH_PX), head=scale.head(26), ceiling=ceiling(), rows_now=window,
        site_state=_state_of,
        counts=counts(result, before, scale.edges), moves=moves(result, before) if before else None,
        open_findings=sum(f.open for f in study_findings.listed(site(), act_at())),
    )  # fmt: skip


def act_at() -> str:
    """The moment of this request, as actions take it."""
    return utc_text(g.now)


def ceiling() -> float:
    """The lower of the site's and the practice's, cal/cm²."""
    return min(here().ceiling_cal_cm2, here().profile.ceiling_cal_cm2)


def scale_of(width: float) -> EnergyScale:
    marks = [v for v in levels_of(ceiling(), (lv.upper_cal_cm2 for lv in here().profile.clothing.levels))
             if 1.2 <= v <= ceiling()]  # fmt: skip
    return EnergyScale(width, tuple(marks[:3] + marks[-1:] if len(marks) > 4 else marks))


def _chosen() -> StudyAsked | None:
    """The study that is looked at: the one named, else the last of a published network."""
    number = request.args.get("study", "")
    if not number:
        return study_runs.latest(site())
    found = study_runs.run(site(), number)
    if found.state != study_runs.DONE:
        raise NotFound("study", number)
    return found


def _before(chosen: StudyAsked) -> StudyAsked | None:
    return study_runs.before(site(), chosen.number)


def _both(chosen: StudyAsked) -> tuple[StudyResult, StudyResult | None]:
    older = _before(chosen)
    return (
        study_runs.result(site(), chosen.result_hash),
        study_runs.result(site(), older.result_hash) if older is not None else None,
    )


def _asked() -> tuple[str, str, str]:
    shown, view = request.args.get("show", "all"), request.args.get("view", VIEWS[0])
    text = texts.SEARCHED.check(request.args.get("q", ""), "q")
    if view not in VIEWS:
        raise InputError("view", view, say("one-of", options=VIEWS))
    return shown, text, view


def _state_of(element_id: str) -> str:
    """Live or not, as of now; of a draft's piece nobody knows."""
    return here().liveness.elements.get(element_id, "unknown")


def _columns() -> tuple[str, ...]:
    asked = request.args.getlist("column")
    return tuple(c for c in COLUMNS if c in asked) or USUAL


def _window(result: StudyResult, window: list[Mapping[str, Any]]) -> tuple[int, int] | None:
    """Where what the list shows stands among all places."""
    if not window:
        return None
    numbers = [result.position[place_of(r)] for r in window]
    return min(numbers), max(numbers) + 1


def _stages(waiting: list[StudyAsked]) -> list[tuple[StudyAsked, str]]:
    return [(run, study_running.stage(run)) for run in waiting]


@pages.get("/study/table.<ending>")
def table(ending: str):
    """All rows that the filter leaves, every column, as CSV or as a workbook."""
    if ending not in KINDS:
        raise NotFound("study", ending)
    chosen = _chosen()
    if chosen is None:
        raise NotFound("study", "-")
    result, before = _both(chosen)
    shown, text, _ = _asked()
    found = _spoken(wanted_rows(result, before, shown, text, ceiling()))
    columns = ROW[1:]
    if ending == "xlsx":
        told = [{"about": k, "says": v} for k, v in about(chosen, result).items()]
        return _download(workbook({"study": (columns, found), "about": (("about", "says"), told)}), chosen, ending)
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, columns, extrasaction="ignore")
    writer.writeheader()
    writer.writerows({c: disarmed(r.get(c, "")) for c in columns} for r in found)
    return _download(out.getvalue().encode(), chosen, ending)


def _spoken(rows: list[Mapping[str, Any]]) -> Iterator[dict[str, Any]]:
    return (words().spoken(dict(r)) for r in rows)


def workbook(sheets: Mapping[str, Any]) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "study.xlsx"
        write_workbook(path, sheets)
        return path.read_bytes()


def _download(content: bytes, chosen: StudyAsked, ending: str) -> Response:
    answer = Response(content, mimetype=KINDS[ending])
    answer.headers["Content-Disposition"] = f'attachment; filename="{chosen.number}.{ending}"'
    return answer


def about(chosen: StudyAsked, result: StudyResult) -> dict[str, Any]:
    """What the figures rest on, for whoever meets the workbook alone."""
    return {
        "site": here().name, "study": chosen.number, "revision": chosen.revision or chosen.draft,
        "document (SHA-256)": chosen.document_hash, "result (SHA-256)": result.hash,
        "method": "IEEE 1584-2018; shock by the practice", "ceiling, cal/cm²": result.ceiling_cal_cm2,
        "computed": chosen.done_at, "signed": f"{chosen.signed_by} {chosen.licence}".strip() or "nobody has signed it",
        "out of date": ", ".join(chosen.outdated) or "no", "caution": words().say(here().profile.cautions["permit"]),
    }  # fmt: skip


# Runs --------------------------------------------------------------------------------------------------


@pages.get("/study/runs")
def runs():
    return _runs()


def _runs(failed: forms.Failed | None = None):
    waiting = study_runs.waiting(site())
    return render_template(
        "study/runs.html", runs=study_runs.runs(site()), waiting=_stages(waiting),
        failed=failed, drafts=drafting.drafts(site()), engineer=here().settings[study_runs.ENGINEER_RULE],
    )  # fmt: skip


@pages.post("/study/run")
def run():
    """Ask for a study; the page tells how far it is."""

    def do() -> str:
        study_runs.may(act())
        return study_runs.ask(act(), forms.text("draft"))

    return forms.attempt("run", do, lambda _: url_for("study.runs"), _runs)


@pages.post("/study/advance")
def advance():
    """One step on, by whoever looks: what is done is kept, what waits is begun."""
    waiting = study_running.advance(g.now)
    return render_template("study/_running.html", waiting=_stages(waiting)), 200, _refreshed(bool(waiting))


def _refreshed(waits: bool) -> dict[str, str]:
    """The page is asked for anew once nothing is waited for."""
    return {} if waits else {"HX-Refresh": "true"}


@pages.post("/study/<number>/cancel")
def cancel(number: str):
    def do() -> None:
        study_runs.may(act())
        study_runs.cancel(act(), number, forms.whole("version"))
        study_running.stop(study_runs.run(site(), number))

    return forms.attempt(f"cancel-{number}", do, lambda _: url_for("study.runs"), _runs)


@pages.post("/study/<number>/sign")
def sign(number: str):
    def do() -> None:
        study_runs.may_sign(act())
        study_runs.sign(act(), number, forms.whole("version"), forms.text("result"), forms.text("licence"))
        forms.said(say("study-signed", number=number))

    return forms.attempt(f"sign-{number}", do, lambda _: url_for("study.runs"), _runs)
