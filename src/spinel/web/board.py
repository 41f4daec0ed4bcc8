"""Board: what is dangerous or late now; and the strip that every page carries."""

from __future__ import annotations

from flask import Blueprint, g, render_template, request

from spinel.actions import board as action
from spinel.actions import records
from spinel.web import verdicts
from spinel.web.filters import clock, phrase
from spinel.web.here import site
from spinel.web.ruler import Span, head, ruler, track

pages = Blueprint("board", __name__)


@pages.get("/")
def page():
    now = action.board(site(), g.now)
    windows = [Span(d.permit.window_start, d.permit.window_end, d.late, d.permit.state == "in_force") for d in now.due]
    over = ruler(g.now, [(w.start, w.end) for w in windows])
    return render_template(
        "board/board.html", board=now, answer=verdicts.board(now), hours=head(over, clock),
        tracks=[track(over, w, _ends(w)) for w in windows],
    )  # fmt: skip


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
