"""Every location of the published network as a table, computed beside the server: what `spinel study` writes."""

from __future__ import annotations

import io
import json
from dataclasses import dataclass

from flask import Blueprint, Response, current_app, redirect, render_template, request, url_for

from spinel.actions.figures import document_text
from spinel.core.errors import InputError
from spinel.core.network.document import read_network
from spinel.core.said import say
from spinel.web.heavy import Heavy, Tell
from spinel.web.here import here
from spinel.wording.study_table import write_study

pages = Blueprint("studies", __name__)
KIND = "csv"
#: What the table has a row for: each location and side in its worst case, or in every case.
ROWS = ("worst", "every")
#: So long the page waits for it before it says how far it is, s.
PATIENCE_S = 1.0


@pages.get("/network/study")
def page():
    """How far the table is; once it is there, where to take it, and it comes by itself."""
    wanted = _wanted()
    table, heavy = url_for("studies.table", rows=wanted.rows), _heavy()
    there = _made(wanted) is not None
    stage = "there" if there else heavy.stage(KIND, wanted.key) or "waits"
    again = "0; url=" + table if there else "2; url=" + url_for("studies.page", rows=wanted.rows)
    drawn = render_template("network/study.html", stage=stage, number=here().number, table=table if there else "")
    return drawn, 200 if there else 202, {"Refresh": again}


@pages.get("/network/study.csv")
def table():
    """The table itself, or the page that waits for it. The same document under the same ceiling is computed once."""
    wanted = _wanted()
    found = _made(wanted)
    if found is None:
        return redirect(url_for("studies.page", rows=wanted.rows))
    answer = Response(found, mimetype="text/csv")
    answer.headers["Content-Disposition"] = f'attachment; filename="study-revision-{here().number}-{wanted.rows}.csv"'
    return answer


@dataclass(frozen=True)
class _Wanted:
    rows: str
    key: str


def _wanted() -> _Wanted:
    rows = request.args.get("rows", ROWS[0])
    if rows not in ROWS:
        raise InputError("rows", rows, say("one-of", options=ROWS))
    return _Wanted(rows, _heavy().key("study", here().hash, repr(here().ceiling_cal_cm2), rows))


def _made(wanted: _Wanted) -> bytes | None:
    now = here()
    args = document_text(now.hash), now.ceiling_cal_cm2, wanted.rows == "worst"
    return _heavy().make(KIND, wanted.key, as_csv, *args, patience_s=PATIENCE_S)


def _heavy() -> Heavy:
    found: Heavy = current_app.extensions["heavy"]
    return found


def as_csv(tell: Tell, document: str, ceiling_cal_cm2: float, worst: bool) -> bytes:
    """The study of a published document, in the process beside the server."""
    out = io.StringIO(newline="")
    network = read_network(json.loads(document))
    write_study(out, network, worst=worst, ceiling_cal_cm2=ceiling_cal_cm2, tell=tell)
    return out.getvalue().encode()
