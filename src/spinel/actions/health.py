"""What tells whether a site's record can be written and is looked after."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from spinel.actions import anchoring, clock
from spinel.actions.backup import last_taken
from spinel.actions.site import Site, on_site
from spinel.actions.upkeep import last_kept
from spinel.core.errors import NotKept

#: So long an act of somebody may take before the database counts as locked, ms.
PATIENCE_MS = 3000


@dataclass(frozen=True, kw_only=True)
class Health:
    """``verified``, ``backup``: how long ago, None for never. ``astray``: so many things are not as recorded."""

    writable: bool
    verified: timedelta | None
    astray: int
    backup: timedelta | None
    clock_in_doubt: bool


@on_site
def look(site: Site, now: datetime) -> Health:
    last, taken = last_kept(site.path), last_taken(site)
    astray = last.count if last else 0
    return Health(
        writable=_writable(site), verified=now - last.at if last else None,
        astray=astray or int(anchoring.astray(site) is not None),
        backup=now - taken if taken else None, clock_in_doubt=clock.doubt(site, now) is not None,
    )  # fmt: skip


def _writable(site: Site) -> bool:
    """Can a transaction be begun and ended? Nothing is written in it."""
    try:
        with site.transaction(PATIENCE_MS):
            return site.can_write()
    except NotKept:
        return False
