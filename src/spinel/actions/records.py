"""The ledger as readers see it, its verification, and a search over tags, numbers and names."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from spinel.actions.acting import utc_moment
from spinel.actions.site import Site, on_site
from spinel.core.permit.life import NAMES, expired
from spinel.core.said import Sayable, joined, say
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.store import keys, ledger, search
from spinel.store.ledger import Entry, Verdict

__all__ = ["Entry", "Hit", "Verdict", "count", "entries", "filters", "find", "head", "since", "verify"]

#: So many hits are shown.
SHOWN = 12


@dataclass(frozen=True)
class Hit:
    """``kind``: equipment, job, permit, program or person; ``key`` identifies it."""

    kind: str
    key: str
    title: str
    detail: Sayable


@on_site
def entries(
    site: Site, subject: str = "", actor: str = "", act: str = "", before: int | None = None, at_most: int = 100
) -> list[Entry]:
    """Ledger rows, newest first."""
    return ledger.search(subject, actor, act, before, at_most)


@on_site
def count(site: Site, subject: str = "", actor: str = "", act: str = "") -> int:
    """How many ledger rows these filters find."""
    return ledger.count(subject, actor, act)


@on_site
def filters(site: Site) -> tuple[list[str], list[str]]:
    """Actors and acts that occur."""
    return ledger.distinct("actor"), ledger.distinct("act")


@on_site
def head(site: Site) -> tuple[int, str]:
    """Count and head hash, as printed on papers."""
    return ledger.head()


@on_site
def since(site: Site, seq: int) -> list[Entry]:
    """What was done after this ledger sequence, newest first, at most 100. A sign-in changes no page: left out."""
    return ledger.after(seq, passing_over="signed in")


@on_site
def verify(site: Site, head_hash: str | None = None, count: int | None = None) -> Verdict:
    """Walk the whole chain."""
    return ledger.verify(head_hash, count, keys.of(site.path))


@on_site
def exact(site: Site, text: str, now: datetime) -> Hit | None:
    """The one thing that bears exactly this tag or number, whatever its letters' case; nothing where two do."""
    same = search.titled(text.strip()) if text.strip() else []
    return _hit(same[0], now) if len(same) == 1 else None


@on_site
def find(site: Site, text: str, now: datetime) -> tuple[list[Hit], bool]:
    """Equipment, jobs, permits, programs and people whose tag, number, name, title or place holds the text, as many as
    are shown; and whether there are more."""
    found = search.holding(text.strip(), SHOWN + 1) if text.strip() else []
    return [_hit(f, now) for f in found[:SHOWN]], len(found) > SHOWN


def _hit(found: search.Findable, now: datetime) -> Hit:
    state: Sayable = ""
    if found.kind == "program":
        state = PROGRAM_NAMES[found.state]
    if found.kind == "permit":
        # one that has run out never reads as in force
        over = expired(found.state, utc_moment(found.window_end), now, over=bool(found.over))
        state = NAMES["expired" if over else found.state]
    detail: Sayable = found.detail
    if found.kind == "gear":
        kind, _, place = found.detail.partition(", ")
        # what nobody may use never reads as any other
        state = say(f"gear-state-{found.state}") if found.state else ""
        detail = joined(say(f"gear-kind-{kind.replace('_', '-')}"), place, between=", ")
    return Hit(found.kind, found.key, found.title, joined(state, detail, between=", "))
