"""Permits whose window is over: one ledger entry when first seen; one that was never accepted is cancelled."""

from __future__ import annotations

from datetime import datetime

from spinel.actions import stopping
from spinel.actions.acting import SYSTEM, Act, utc_text, work
from spinel.actions.site import Site, on_site
from spinel.core.said import say
from spinel.store import permits as store


@on_site
def note_expired(site: Site, now: datetime) -> list[str]:
    """Enter newly expired permits into the ledger, by "system". Numbers of those seen for the first time."""
    if not store.newly_over(utc_text(now)):
        return []
    seen = []
    with work(Act(site, SYSTEM, now)) as unit:
        for permit in filter(None, map(store.permit, store.newly_over(utc_text(now)))):
            store.note_over(permit.number)
            unit.record("permit expired", f"permit:{permit.number}", {"window_end": permit.window_end})
            seen.append(permit.number)
            if not any(r.kind == "accepted" for r in store.records(permit.id)):
                stopping.cancel(unit, permit, say("expiry-ran-out-before-anybody-accepted-it"))
    return seen
