"""Every location of the published network as a table, computed beside the server: what `spinel study` writes."""

from __future__ import annotations

import io
import json

from flask import Blueprint, Response, current_app, render_template, request, url_for

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


@pages.get("/network/study.csv")
def table():
    """The table, or how far it is; the same document under the same ceiling is computed once."""
    rows = request.args.get("rows", ROWS[0])
    if rows not in ROWS:
        raise InputError("rows", rows, say("one-of", options=ROWS))
    now, heavy = here(), current_app.extensions["heavy"]
    assert isinstance(heavy, Heavy)
    ceiling = now.ceiling_cal_cm2
    key = heavy.key("study", now.hash, repr(ceiling), rows)
    found = heavy.make(KIND, key, as_csv, document_text(now.hash), ceiling, rows == "worst", patience_s=PATIENCE_S)
    if found is None:
        again = {"Refresh": f"2; url={url_for('studies.table', rows=rows)}"}
        stage = heavy.stage(KIND, key) or "waits"
        return render_template("network/study_coming.html", stage=stage, number=now.number), 202, again
    answer = Response(found, mimetype="text/csv")
    answer.headers["Content-Disposition"] = f'attachment; filename="study-revision-{now.number}-{rows}.csv"'
    return answer


def as_csv(tell: Tell, document: str, ceiling_cal_cm2: float, worst: bool) -> bytes:
    """The study of a published document, in the process beside the server."""
    out = io.StringIO(newline="")
    network = read_network(json.loads(document))
    write_study(out, network, worst=worst, ceiling_cal_cm2=ceiling_cal_cm2, tell=tell)
    return out.getvalue().encode()
