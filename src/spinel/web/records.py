"""Records: the ledger with filters, its verification, exports, and the jump to anything."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from functools import lru_cache
from typing import TypedDict
from zoneinfo import ZoneInfo

from flask import Blueprint, Response, g, redirect, render_template, request, url_for

from spinel.actions import records
from spinel.actions import story as story_of
from spinel.actions.verifying import Report, verify
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.rows import disarmed
from spinel.core.said import Said, say
from spinel.web import phrases, stories, verdicts
from spinel.web.addresses import PAGES_OF
from spinel.web.filters import words, zone
from spinel.web.here import site
from spinel.web.paging import ROWS
from spinel.wording import dates
from spinel.wording.words import Words

pages = Blueprint("records", __name__)
#: Where the subject of a story has a page of its own.


@pages.get("/records")
def page():
    wanted = _wanted()
    before = request.args.get("before", "")
    number = before.isascii() and before.isdigit() and len(before) < 16
    rows = records.entries(site(), **wanted, before=int(before) if number else None, at_most=ROWS + 1)
    actors, acts = records.filters(site())
    report = verify(site().path) if "verify" in request.args else None
    count, head = records.head(site())
    return render_template(
        "records/records.html",
        answer=_answer(count, report, wanted),
        report=report,
        rows=[_line(row, words(), zone()) for row in rows[:ROWS]],
        older=rows[ROWS - 1].seq if len(rows) > ROWS else None,
        actors=actors,
        acts=acts,
        wanted=wanted,
        head=head,
    )


class Wanted(TypedDict):
    """What the ledger is filtered by; empty: not by that."""

    subject: str
    actor: str
    act: str


@dataclass(frozen=True, kw_only=True)
class Line:
    """An entry of the ledger as the page shows it. ``says``: what it recorded; ``payload``: that as it is kept."""

    seq: int
    at: str
    actor: str
    act: str
    on: str
    kind: str
    says: str
    payload: str
    hash: str
    previous_hash: str


@lru_cache(maxsize=4096)
def _line(entry: records.Entry, spoken_in: Words, in_zone: ZoneInfo) -> Line:
    """Put into words once: what an entry holds never changes."""
    return Line(
        seq=entry.seq,
        at=dates.full_time(dates.local(entry.at, in_zone), spoken_in),
        actor=entry.actor,
        act=spoken_in.say(phrases.act(entry.act)),
        on=phrases.subject(entry.subject),
        kind=entry.subject.partition(":")[0],
        says=spoken_in.say(stories.sentence(entry, shapes.read("act", entry.payload), site().names))
        or phrases.payload(entry.payload),
        payload=entry.payload,
        hash=entry.hash,
        previous_hash=entry.previous_hash,
    )


def _answer(count: int, report: Report | None, wanted: Wanted) -> Said:
    """How many entries, and whether everything is as it was recorded where that was asked."""
    if report is None and any(wanted.values()):
        return say("records-answer-found", count=count, found=records.count(site(), **wanted))
    if report is None:
        return say("records-answer", count=count)
    if report.found:
        return say("records-answer-astray", count=count, found=len(report.found))
    return say("records-answer-intact", count=count)


@pages.get("/records/story/<kind>/<name>")
def story(kind: str, name: str):
    """One subject, from its first entry to its last."""
    return render_template("records/story.html", **told(kind, name))


def told(kind: str, name: str) -> dict[str, object]:
    """What the page and the paper of a story are made of."""
    story = story_of.of(site(), f"{kind}:{name}")
    lines = [(line, stories.told(line, site().names), line_of(line.entry)) for line in story.lines]
    return {
        "story": story, "lines": lines, "kind": kind, "name": name, "page_of": PAGES_OF.get(kind),
        "believed": verdicts.believed(story, g.now), "witnessed": verdicts.witnessed(story),
        "parts": {line.part: say(f"story-part-{line.part}") for line in story.lines if line.part},
    }  # fmt: skip


def line_of(entry: records.Entry) -> Line:
    return _line(entry, words(), zone())


@pages.get("/records.csv")
def export():
    """The filtered ledger, all of it, as CSV."""
    wanted, before, out = _wanted(), None, io.StringIO()
    writer = csv.writer(out)
    columns = ("seq", "at", "actor", "act", "subject", "payload", "request_id", "previous_hash", "hash")
    writer.writerow(columns)
    while rows := records.entries(site(), **wanted, before=before):
        writer.writerows([disarmed(getattr(r, c)) for c in columns] for r in rows)
        before = rows[-1].seq
    answer = Response(out.getvalue(), mimetype="text/csv")
    answer.headers["Content-Disposition"] = 'attachment; filename="ledger.csv"'
    return answer


def _wanted() -> Wanted:
    def asked(key: str) -> str:
        return request.args.get(key, "").strip()[: texts.FILTERED.most]

    return Wanted(subject=asked("subject"), actor=asked("actor"), act=asked("act"))


def _page_of(hit: records.Hit) -> str:
    """The page of a thing that was found."""
    if hit.kind == "equipment":
        return url_for("network.page", e=hit.key)
    if hit.kind == "person":
        return url_for("people.person", login=hit.key)
    if hit.kind == "study":
        return url_for("study.page", study=hit.key)
    if hit.kind == "gear":
        return url_for("gear.item", number=hit.key)
    return url_for(PAGES_OF[hit.kind], number=hit.key)


@pages.get("/find")
def find():
    text = request.args.get("q", "")[: texts.SEARCHED.most]
    if not request.headers.get("HX-Request") and (exact := records.exact(site(), text, g.now)):
        return redirect(_page_of(exact))
    template = "records/_hits.html" if request.headers.get("HX-Request") else "records/find.html"
    hits, more = records.find(site(), text, g.now)
    return render_template(template, hits=hits, more=more, text=text, page_of=_page_of)
