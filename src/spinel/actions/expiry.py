"""Permits whose window is over: one ledger entry when first seen; one that was never accepted is cancelled."""

from __future__ import annotations

from datetime import datetime

from spinel.actions import stopping
from spinel.actions.acting import SYSTEM, Act, utc_text, work
from spinel.actions.site import Site, on_site
from spinel.core.errors import NotKept
from spinel.core.said import say
from spinel.store import permits as store

#: A page does not wait for an act of somebody else, ms.
PATIENCE_MS = 100


@on_site
def note_expired(site: Site, now: datetime) -> list[str]:
    """Enter newly expired permits into the ledger, by "system". Numbers of those seen for the first time.

    None of them where nothing can be written just now: every page shows by the clock what has run out, and the next
    request enters it.
    """
    if not store.newly_over(utc_text(now)):
        return []
    try:
        return _entered(site, now)
    except NotKept:
        return []


def _entered(site: Site, now: datetime) -> list[str]:
    seen = []
    with work(Act(site, SYSTEM, now), patience_ms=PATIENCE_MS) as unit:
        for permit in filter(None, map(store.permit, store.newly_over(utc_text(now)))):
            store.note_over(permit.number)
            unit.record("permit expired", f"permit:{permit.number}", {"window_end": permit.window_end})
            seen.append(permit.number)
            if not any(r.kind == "accepted" for r in store.records(permit.id)):
                stopping.cancel(unit, permit, say("expiry-ran-out-before-anybody-accepted-it"))
    return seen
