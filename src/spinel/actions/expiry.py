"""Permits whose window is over: one ledger entry when first seen; one that was never accepted is cancelled."""

from __future__ import annotations

from datetime import datetime

from spinel.actions.acting import SYSTEM, Act, utc_text, work
from spinel.core.canonical import canonical
from spinel.core.permit.life import WITH_WINDOW
from spinel.store import ledger
from spinel.store import permits as store
from spinel.store.models import Permit, PermitRecord


def note_expired(now: datetime) -> list[str]:
    """Enter newly expired permits into the ledger, by "system". Numbers of those seen for the first time."""
    over = [p for p in store.permits_in(WITH_WINDOW) if p.window_end <= utc_text(now)]
    if all(ledger.has("permit expired", f"permit:{p.number}") for p in over):
        return []
    act = Act(SYSTEM, now)
    seen = []
    with work(act) as unit:
        for permit in (p for p in store.permits_in(WITH_WINDOW) if p.window_end <= utc_text(now)):
            subject = f"permit:{permit.number}"
            if ledger.has("permit expired", subject):
                continue
            unit.record("permit expired", subject, {"window_end": permit.window_end})
            seen.append(permit.number)
            if not _was_accepted(permit):
                reason = "ran out before anybody accepted it"
                store.save(
                    permit, permit.version, state="cancelled", suspended_because="", changed_at=act.at,
                    changed_by=SYSTEM.name,
                )  # fmt: skip
                PermitRecord.insert(
                    permit=permit.id, kind="cancelled", person=None, person_name=SYSTEM.name,
                    content_hash=permit.content_hash, detail=canonical({"because": reason}), at=act.at,
                ).execute()  # fmt: skip
                unit.record("permit cancelled", subject, {"because": reason})
    return seen


def _was_accepted(permit: Permit) -> bool:
    return any(r.kind == "accepted" for r in store.records(permit.id))
