"""Does the clock move as the machine runs? Asked at each act, of the machine's own count since it was started."""

from __future__ import annotations

import time
from contextlib import suppress
from datetime import datetime
from pathlib import Path

from spinel.actions import clock
from spinel.actions.acting import APART
from spinel.actions.site import Site
from spinel.core.errors import NotKept

#: Under this name it is kept, for all workers and over a restart of the server, by how much clock and count differ.
_NAME = "clock"
_BOOT = Path("/proc/sys/kernel/random/boot_id")


class ClockWatch:
    """Of one server process. A machine that was started anew counts anew: what its clock did meanwhile only the ledger
    can tell."""

    def __init__(self, site: Site):
        self._site = site
        self._boot = _BOOT.read_text().strip() if _BOOT.exists() else ""

    def look(self, now: datetime, counted_s: float | None = None) -> None:
        """Enter into the ledger that the clock was moved, once. ``counted_s``: since the machine was started. Where
        that cannot be written no act is kept from what it is for: the next one looks again."""
        with suppress(NotKept):
            self._look(now, counted_s)

    def _look(self, now: datetime, counted_s: float | None) -> None:
        counted = _counted() if counted_s is None else counted_s
        differ = now.timestamp() - counted
        boot, _, known = (clock.kept(self._site, _NAME) or "").partition(" ")
        if known and boot == self._boot:
            moved = differ - float(known)
            if abs(moved) <= APART.total_seconds():
                return
            clock.jumped(self._site, now, round(moved / 60))
        clock.keep(self._site, _NAME, f"{self._boot} {differ:.3f}")


def _counted() -> float:
    """Time asleep counts where the system can tell it."""
    return time.clock_gettime(getattr(time, "CLOCK_BOOTTIME", time.CLOCK_MONOTONIC))
