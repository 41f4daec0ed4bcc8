"""Board: what is dangerous or late now; and the strip that every page carries."""

from __future__ import annotations

from datetime import timedelta

from flask import Blueprint, g, render_template

from spinel.actions import board as action
from spinel.web.ruler import ruler

pages = Blueprint("board", __name__)


@pages.get("/")
def page():
    now = action.board(g.now)
    spans = [(d.permit.window_start, d.permit.window_end) for d in now.due]
    return render_template("board.html", board=now, ruler=ruler(g.now, spans), hour=timedelta(hours=1))


@pages.get("/strip")
def strip():
    return render_template("_strip.html")
