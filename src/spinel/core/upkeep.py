"""Is a piece of equipment properly maintained? From what was last done to it, and when it is due again."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

#: What came of it: as it should be; something that does not matter to its working; not fit to be relied on.
GOOD, MINOR, FAILED = "good", "minor", "failed"
RESULTS = (GOOD, MINOR, FAILED)
KEPT, OVERDUE, NOT_KEPT, UNTOLD = "kept", "overdue", "failed", "untold"


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
    """``state``: kept, overdue, failed, or untold where nothing was ever recorded. ``since``: day of the last time."""

    state: str
    since: date | None = None
    due: date | None = None

    @property
    def properly(self) -> bool | None:
        """None: nobody has recorded anything, so somebody has to say it."""
        return None if self.state == UNTOLD else self.state == KEPT


def kept_up(last: tuple[str, str, str] | None, today: date) -> KeptUp:
    """``last``: day, result and due day (or nothing) of the last time.

    A day on which it falls due still counts.

    >>> kept_up(("2026-01-10", "good", "2026-11-24"), date(2026, 11, 25)).state
    'overdue'
    >>> kept_up(("2026-01-10", "failed", ""), date(2026, 1, 11)).properly
    False
    """
    if last is None:
        return KeptUp(UNTOLD)
    day, result, due = last
    since, until = date.fromisoformat(day), date.fromisoformat(due) if due else None
    if result == FAILED:
        return KeptUp(NOT_KEPT, since, until)
    return KeptUp(OVERDUE if until is not None and until < today else KEPT, since, until)
