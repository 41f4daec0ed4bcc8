"""Records: the ledger with filters, its verification, exports, and the jump to anything."""

from __future__ import annotations

import csv
import io

from flask import Blueprint, Response, redirect, render_template, request, url_for

from spinel.actions import records
from spinel.core.said import Said, say
from spinel.web.here import site

pages = Blueprint("records", __name__)


@pages.get("/records")
def page():
    wanted = _wanted()
    before = request.args.get("before", "")
    number = before.isascii() and before.isdigit() and len(before) < 16
    rows = records.entries(site(), **wanted, before=int(before) if number else None)
    actors, acts = records.filters(site())
    verdict = records.verify(site()) if "verify" in request.args else None
    count, head = records.head(site())
    return render_template(
        "records/records.html",
        answer=_answer(count, verdict),
        rows=rows,
        actors=actors,
        acts=acts,
        wanted=wanted,
        head=head,
    )


def _answer(count: int, verdict: records.Verdict | None) -> Said:
    """How many entries, and whether the chain is whole where that was asked."""
    if verdict is None:
        return say("records-answer", count=count)
    if verdict.broken_at is None:
        return say("records-answer-intact", count=count)
    return say("records-answer-broken", count=count, at=verdict.broken_at, reason=verdict.reason)


@pages.get("/records.csv")
def export():
    """The filtered ledger, all of it, as CSV."""
    wanted, before, out = _wanted(), None, io.StringIO()
    writer = csv.writer(out)
    columns = ("seq", "at", "actor", "act", "subject", "payload", "request_id", "previous_hash", "hash")
    writer.writerow(columns)
    while rows := records.entries(site(), **wanted, before=before):
        writer.writerows([_cell(getattr(r, c)) for c in columns] for r in rows)
        before = rows[-1].seq
    answer = Response(out.getvalue(), mimetype="text/csv")
    answer.headers["Content-Disposition"] = 'attachment; filename="ledger.csv"'
    return answer


def _cell(value: object) -> object:
    """A cell that a spreadsheet would take for a formula is kept as text."""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@") else value


def _wanted() -> dict[str, str]:
    return {key: request.args.get(key, "").strip()[:100] for key in ("subject", "actor", "act")}


def _page_of(hit: records.Hit) -> str:
    """The page of a thing that was found."""
    if hit.kind == "equipment":
        return url_for("network.page", e=hit.key)
    pages_of = {"job": "jobs.folder", "permit": "permits.page", "program": "switching.program"}
    return url_for(pages_of[hit.kind], number=hit.key)


@pages.get("/find")
def find():
    text = request.args.get("q", "")[:60]
    if not request.headers.get("HX-Request") and (exact := records.exact(site(), text)):
        return redirect(_page_of(exact))
    template = "records/_hits.html" if request.headers.get("HX-Request") else "records/find.html"
    return render_template(template, hits=records.find(site(), text), text=text, page_of=_page_of)
