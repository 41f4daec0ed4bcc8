"""Board: what is dangerous or late now; and the strip that every page carries."""

from __future__ import annotations

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import board as action
from spinel.actions import clock as clock_of
from spinel.actions import gear, records, upkeep
from spinel.actions.positions import of_settings
from spinel.actions.waiting import Waits, for_person
from spinel.core.permit.positions import unsigned
from spinel.core.said import Sayable, say
from spinel.web import forms, session, verdicts
from spinel.web.filters import clock, phrase
from spinel.web.here import here, site
from spinel.web.ruler import Span, head, ruler, track

pages = Blueprint("board", __name__)
_PAGES = {"permit": "permits.page", "program": "switching.program", "opinion": "assessing.opinion",
          "improvement": "improvements.page", "finding": "findings.page"}  # fmt: skip


@pages.get("/")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    now = action.board(site(), g.now)
    windows = [Span(d.permit.window_start, d.permit.window_end, d.late, d.permit.state == "in_force") for d in now.due]
    over = ruler(g.now, [(w.start, w.end) for w in windows])
    return render_template(
        "board/board.html", board=now, answer=verdicts.board(now), hours=head(over, clock),
        mine=[(w, say(f"waits-{w.what.replace('_', '-')}"), _PAGES[w.kind]) for w in _mine(now)],
        turn=_turns(now), tracks=[track(over, w, _ends(w)) for w in windows], notices=_notices(),
        doubt=clock_of.doubt(site(), g.now), failed=failed, gear=gear.of_the_board(site(), here().day(g.now)),
    )  # fmt: skip


@pages.post("/clock")
def acknowledge_clock():
    """A coordinator has compared the clock with another."""
    act = session.act()
    return forms.attempt(
        "clock", lambda: clock_of.acknowledge(act, forms.text("reason")), lambda _: url_for("board.page"), _page
    )


def _turns(now: action.Board) -> dict[str, str]:
    """By number: the position of the site that signs next, where one is waited for."""
    positions = of_settings(here().settings)
    found = {p.number: unsigned(positions, p.positions_signed) for p in now.waiting if p.state == "submitted"}
    return {number: lacking[0].title for number, lacking in found.items() if lacking}


def _mine(now: action.Board) -> list[Waits]:
    who = session.actor()
    return for_person(site(), who, now, here().day(g.now)) if who is not None else []


def _notices() -> list[Sayable]:
    """Of the record itself, for whoever can have it looked after."""
    who = session.actor()
    return upkeep.notices(site(), g.now) if who is not None and "coordinator" in who.roles else []


def _ends(window: Span) -> str:
    code = "track-ended" if window.late else "track-till"
    return phrase(code, at=clock(window.end))


@pages.get("/strip")
def strip():
    """The strip, and what was done since the page around it was drawn, when the ledger's sequence was ``seen``."""
    seen = request.args.get("seen", "")
    known = seen.isascii() and seen.isdigit() and len(seen) < 16
    return render_template(
        "shell/_strip.html", seen=seen if known else "", news=records.since(site(), int(seen)) if known else []
    )
