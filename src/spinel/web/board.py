"""Board: what is dangerous or late now; and the strip that every page carries."""

from __future__ import annotations

from datetime import timedelta

from flask import Blueprint, g, render_template, request

from spinel.actions import board as action
from spinel.actions import records
from spinel.web.here import site
from spinel.web.ruler import ruler

pages = Blueprint("board", __name__)


@pages.get("/")
def page():
    now = action.board(site(), g.now)
    spans = [(d.permit.window_start, d.permit.window_end) for d in now.due]
    return render_template("board.html", board=now, ruler=ruler(g.now, spans), hour=timedelta(hours=1))


@pages.get("/strip")
def strip():
    """The strip, and what was done since the page around it was drawn, when the ledger's sequence was ``seen``."""
    seen = request.args.get("seen", "")
    known = seen.isascii() and seen.isdigit() and len(seen) < 16
    return render_template(
        "_strip.html", seen=seen if known else "", news=records.since(site(), int(seen)) if known else []
    )
