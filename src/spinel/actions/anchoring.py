"""Writing down the head of the ledger outside of it: beside the database, and where a command of the site takes it.

The command is named in the environment (SPINEL_ANCHOR_COMMAND), where only who runs the server can name it. It gets
the line on its standard input: a mail, a printer, another machine.
"""

from __future__ import annotations

import os
import shlex
import subprocess
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from spinel.actions.acting import utc_text
from spinel.actions.site import Site, on_site
from spinel.actions.version import check_version
from spinel.core.said import Sayable, say
from spinel.store import anchors, ledger

#: So long the command may take, s.
PATIENCE_S = 60


@dataclass(frozen=True)
class Dropped:
    """``line``: when, how many, and the head. ``trouble``: what kept the command from taking it, or nothing."""

    line: str
    trouble: Sayable = ""


def drop(path: str | Path, now: datetime) -> Dropped:
    """Anchor a database as it is. WrongVersion for one of another version."""
    check_version(path)
    site = Site(path)
    with site.connection():
        head = ledger.head()
    return drop_head(path, now, *head)


def drop_head(path: str | Path, now: datetime, count: int, head: str) -> Dropped:
    """Anchor a head that a database had: it stays what its record goes on from."""
    anchor = anchors.Anchor(utc_text(now), count, head)
    try:
        anchors.drop(anchors.file(path), anchor)
    except OSError as error:
        return Dropped(anchor.line, say("anchor-not-written", file=str(anchors.file(path)), why=str(error.strerror)))
    return Dropped(anchor.line, _taken(anchor.line))


@on_site
def astray(site: Site) -> Sayable | None:
    """What the last anchor beside the database says against it, at one glance; None when the ledger still holds it."""
    try:
        lines = anchors.read(anchors.file(site.path))
    except ValueError as error:
        return say("verify-anchors-unreadable", line=str(error))
    if not lines or not lines[-1].count or ledger.hash_of(lines[-1].count) == lines[-1].head:
        return None
    last = lines[-1]
    code = "verify-anchor-cut" if ledger.hash_of(last.count) is None else "verify-anchor-other"
    return say(code, at=last.at, anchored=last.count, count=ledger.head()[0])


def _taken(line: str) -> Sayable:
    command = os.environ.get("SPINEL_ANCHOR_COMMAND", "")
    if not command:
        return ""
    try:
        done = subprocess.run(
            shlex.split(command), input=f"{line}\n", text=True, capture_output=True, timeout=PATIENCE_S, check=False
        )
    except (OSError, ValueError, subprocess.TimeoutExpired) as error:
        return say("anchor-not-taken", why=type(error).__name__)
    return say("anchor-not-taken", why=f"exit status {done.returncode}") if done.returncode else ""
