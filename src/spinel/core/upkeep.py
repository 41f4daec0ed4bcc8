"""Is a piece of equipment properly maintained? From what was last done to it, and when it is due again."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

#: What came of it: as it should be; something that does not matter to its working; not fit to be relied on.
GOOD, MINOR, FAILED = "good", "minor", "failed"
RESULTS = (GOOD, MINOR, FAILED)
KEPT, OVERDUE, NOT_KEPT, UNTOLD = "kept", "overdue", "failed", "untold"
#: What is recorded when somebody passed by and looked. It can find something wrong; it maintains nothing.
LOOK = "Walk-down"


@dataclass(frozen=True, kw_only=True)
class Upkept:
    """Something that was done. ``day``: when; ``due``: when again, empty where nobody says; ``by``: who recorded it."""

    day: str
    what: str
    done_by: str
    result: str
    due: str = ""
    note: str = ""
    by: str = ""


@dataclass(frozen=True)
class KeptUp:
    """``state``: kept, overdue, failed, or untold where no maintenance was ever recorded. ``since``: day of the last
    time; ``due``: of what falls due first; ``what``: the work that failed or is overdue."""

    state: str
    since: date | None = None
    due: date | None = None
    what: str = ""

    @property
    def properly(self) -> bool | None:
        """None: nobody has recorded anything, so somebody has to say it."""
        return None if self.state == UNTOLD else self.state == KEPT


def kept_up(entries: Iterable[Upkept], today: date) -> KeptUp:
    """From everything that was ever recorded on a piece, the latest first.

    Of each kind of work (``what``) the last counts: what was cleaned in time may be due for its test, and a failed test
    is settled by the same test passed, by nothing else. A look tells nothing but what it found wrong. A day on which
    something falls due still counts.

    >>> test = Upkept(day="2026-01-10", what="Trip test", done_by="x", result="good", due="2026-11-24")
    >>> kept_up([test], date(2026, 11, 25)).state
    'overdue'
    >>> cleaned = Upkept(day="2026-11-20", what="Cleaned", done_by="x", result="good")
    >>> kept_up([cleaned, test], date(2026, 11, 25)).state
    'overdue'
    >>> kept_up([Upkept(day="2026-11-20", what=LOOK, done_by="x", result="good")], date(2026, 11, 25)).properly is None
    True
    """
    last: dict[str, Upkept] = {}
    for entry in entries:
        last.setdefault(_kind(entry.what), entry)
    failed = [e for e in last.values() if e.result == FAILED]
    if failed:
        return _of(NOT_KEPT, max(failed, key=lambda e: e.day))
    done = [e for kind, e in last.items() if kind != _kind(LOOK)]
    if not done:
        return KeptUp(UNTOLD)
    due = [e for e in done if e.due]
    first = min(due, key=lambda e: e.due, default=None)
    if first is not None and date.fromisoformat(first.due) < today:
        return _of(OVERDUE, first)
    latest = max(done, key=lambda e: e.day)
    return KeptUp(KEPT, date.fromisoformat(latest.day), date.fromisoformat(first.due) if first else None)


def _kind(what: str) -> str:
    return " ".join(what.split()).casefold()


def _of(state: str, entry: Upkept) -> KeptUp:
    return KeptUp(
        state, date.fromisoformat(entry.day), date.fromisoformat(entry.due) if entry.due else None, entry.what
    )
