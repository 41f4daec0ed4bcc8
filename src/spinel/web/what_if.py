"""What-if cases of a spreadsheet: many at once, each asked of the whole site, the answers as a page and as a workbook.
Nothing of it is kept: whoever asked has the table."""

from __future__ import annotations

import json
from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, Response, render_template, request

from spinel.actions import trials, workbooks
from spinel.core.errors import InputError, NotFound
from spinel.core.network.sheets import Fault, Rows
from spinel.core.said import Said, say
from spinel.core.what_if.changes import MOST_CHANGES, TrialChange, read_change
from spinel.core.what_if.rows import (
    CAN,
    COLUMNS,
    MOST_CASES,
    SHEET,
    WhatIfCase,
    as_rows,
    can_be_changed,
    read_cases,
)
from spinel.web import forms, study_work
from spinel.web.asked_trial import as_query, asked_changes, asked_of
from spinel.web.filters import words
from spinel.web.here import here, published, site
from spinel.web.study import KINDS, workbook

pages = Blueprint("what_if", __name__)
Answers = dict[str, Any]


@pages.get("/study/what-if")
def page():
    return _page()


def _page(
    failed: forms.Failed | None = None, faults: tuple[Fault, ...] = (), cases: tuple[WhatIfCase, ...] = (),
    found: Answers | None = None,
):  # fmt: skip
    return render_template(
        "study/what_if.html", failed=failed, faults=faults, rows_of={}, cases=cases, found=found, asked=_text(cases),
        published=published(), most=MOST_CASES, answer=_answer(faults, cases, found),
        query=lambda m, c: urlencode([("touches", m["touches"]), *as_query([TrialChange(**x) for x in c["changes"]])]),
    )  # fmt: skip


def _answer(faults: tuple[Fault, ...], cases: tuple[WhatIfCase, ...], found: Answers | None) -> Said:
    if faults:
        return say("what-if-faults", count=len(faults))
    if found is not None:
        worse = sum(bool(c["rises"] or c["without"] > found["base"]["without"]) for c in found["cases"])
        lost = sum(bool(c["lost"]) for c in found["cases"])
        return say("what-if-answered", count=len(found["cases"]), worse=worse, lost=lost)
    return say("what-if-computing", count=len(cases)) if cases else say("what-if-how")


@pages.post("/study/what-if")
def ask():
    """The cases of a file, or of the page that waits for them."""
    faults: tuple[Fault, ...] = ()
    try:
        given = request.form.get("asked", "")
        if given:
            cases = _of_text(given)
        else:
            read = read_cases(_document(), _uploaded())
            cases, faults = read.cases, read.faults
    except InputError as error:
        return _page(forms.Failed("what-if", error, request.form)), 422
    if faults:
        return _page(None, faults), 422
    found = _asked(cases)
    return _page(None, (), cases, found), 200 if found is not None else 202


def _document() -> Any:
    return trials.of_site(site()).trials.document


def _asked(cases: tuple[WhatIfCase, ...]) -> Answers | None:
    found: Answers | None = asked_of("cases", study_work.as_cases, _text(cases))
    return found


def _text(cases: tuple[WhatIfCase, ...]) -> str:
    return json.dumps([{"name": c.name, "changes": [x.data for x in c.changes]} for c in cases]) if cases else ""


def _of_text(given: str) -> tuple[WhatIfCase, ...]:
    """What this page sent along; a forged one is an InputError, as what a file holds."""
    try:
        told = json.loads(given)
        cases = tuple(WhatIfCase(str(c["name"]), tuple(read_change(x) for x in c["changes"])) for c in told)
    except (ValueError, TypeError, KeyError, AttributeError, RecursionError):
        raise InputError("document", given[:40], say("what-if-a-sheet", sheet=SHEET)) from None
    if not 0 < len(cases) <= MOST_CASES or any(not 0 < len(c.changes) <= MOST_CHANGES for c in cases):
        raise InputError("document", len(cases), say("what-if-so-many-cases", most=MOST_CASES))
    rows = _rows_of(cases)
    read = read_cases(_document(), rows)
    if read.faults:
        raise InputError("document", str(read.faults[0].value), read.faults[0].allowed)
    return read.cases


def _rows_of(cases: tuple[WhatIfCase, ...]) -> Rows:
    """The rows of cases, as a file would give them. InputError for one that names what the network has not any more."""
    try:
        return list(enumerate(as_rows(_document(), cases), 2))
    except NotFound as error:
        raise InputError("document", str(error.name), say("what-if-of-one")) from None


def _uploaded() -> Rows:
    file = request.files.get("document")
    data = file.read() if file is not None else b""
    if file is None or not data:
        raise InputError("document", "", say("import-a-file"))
    found = workbooks.tables(file.filename or "", data)
    if SHEET not in found and len(found) != 1:
        raise InputError("document", ", ".join(found)[:80], say("what-if-a-sheet", sheet=SHEET))
    return found.get(SHEET) or next(iter(found.values()))


# Out -------------------------------------------------------------------------------------------------------


@pages.get("/study/what-if.xlsx")
def sheet():
    """A table to fill in: the trial of the address where there is one, and everything that may be changed."""
    changes = asked_changes()
    cases = (WhatIfCase(words().say(say("study-trial")), changes),) if changes else ()
    return _file({**_told(cases)}, "what-if")


@pages.post("/study/what-if.xlsx")
def book():
    """The cases with their answers; while those are computed, the page that waits for them."""
    try:
        cases = _of_text(request.form.get("asked", ""))
    except InputError as error:
        return _page(forms.Failed("what-if", error, request.form)), 422
    found = _asked(cases)
    if found is None:
        return _page(None, (), cases, None), 202
    return _file({**_told(cases), **_results(found), "about": _about()}, "what-if-answers")


def _told(cases: tuple[WhatIfCase, ...]) -> dict[str, Any]:
    document = _document()
    return {SHEET: (COLUMNS, as_rows(document, cases)), "can be changed": (CAN, list(can_be_changed(document)))}


FIGURES = ("case", "location", "side", "was_cal_cm2", "now_cal_cm2", "was_boundary_mm", "now_boundary_mm", "worse")
ORDER = ("case", "nearer", "further", "from_ka", "to_ka")


def _results(found: Answers) -> dict[str, Any]:
    marks = [f"above {level:g} cal/cm²" for level in found["levels"]]
    summary = ("case", "changes", *marks, "worst_location", "worst_side", "worst_cal_cm2", "without_figure", "changed",
               "rises", "out_of_order")  # fmt: skip

    def row(name: str, of: Answers, **more: Any) -> dict[str, Any]:
        tag, side, energy = of["worst"] or ("", "", "")
        return {"case": name, **dict(zip(marks, of["above"], strict=True)), "worst_location": tag, "worst_side": side,
                "worst_cal_cm2": energy, "without_figure": of["without"], **more}  # fmt: skip

    rows = [row(words().say(say("what-if-as-published")), found["base"])]
    rows += [row(c["name"], c, changes="; ".join(c["words"]), changed=len(c["moved"]), rises=c["rises"],
                 out_of_order=len(c["lost"])) for c in found["cases"]]  # fmt: skip
    none = words().say(say("study-place-no-figure"))
    figures = [
        dict(zip(FIGURES, (c["name"], m["tag"], m["side"], *(none if v is None else v for v in
             (m["was"], m["now"], m["was_mm"], m["now_mm"])), "yes" if m["worse"] else ""), strict=True))
        for c in found["cases"] for m in c["moved"]
    ]  # fmt: skip
    lost = [dict(zip(ORDER, (c["name"], p["below"], p["above"], p["from_ka"], p["to_ka"]), strict=True))
            for c in found["cases"] for p in c["lost"]]  # fmt: skip
    return {"summary": (summary, rows), "figures": (FIGURES, figures), "order": (ORDER, lost)}


def _about() -> Any:
    """What the answers rest on, for whoever meets the workbook alone."""
    said = {
        "site": here().name, "revision": here().number, "document (SHA-256)": here().hash,
        "method": "IEEE 1584-2018; worst over all cases of the site", "ceiling, cal/cm²": here().ceiling_cal_cm2,
        "is": words().say(say("what-if-no-change")), "caution": words().say(here().profile.cautions["permit"]),
    }  # fmt: skip
    return ("about", "says"), [{"about": k, "says": v} for k, v in said.items()]


def _file(tables: dict[str, Any], name: str) -> Response:
    answer = Response(workbook(tables), mimetype=KINDS["xlsx"])
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}.xlsx"'
    return answer
