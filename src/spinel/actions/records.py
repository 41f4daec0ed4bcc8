"""The ledger as readers see it, its verification, and a search over tags, numbers and names."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions.site import Site, on_site
from spinel.store import ledger, search
from spinel.store.ledger import Entry, Verdict

__all__ = ["Entry", "Hit", "Verdict", "count", "entries", "filters", "find", "head", "since", "verify"]


@dataclass(frozen=True)
class Hit:
    """``kind``: equipment, job, permit or program; ``key`` identifies it."""

    kind: str
    key: str
    title: str
    detail: str


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
    return ledger.verify(head_hash, count)


@on_site
def exact(site: Site, text: str) -> Hit | None:
    """The one thing that bears exactly this tag or number, whatever its letters' case; nothing where two do."""
    wanted = text.strip().casefold()
    same = [h for h in find(site, text) if h.title.casefold() == wanted]
    return same[0] if len(same) == 1 else None


@on_site
def find(site: Site, text: str) -> list[Hit]:
    """Equipment, jobs and permits whose tag, number, name or title holds the text; at most 12."""
    wanted = text.strip().casefold()
    if not wanted:
        return []
    hits = []
    for e in site.as_it_is().network.elements:
        if wanted in e.tag.casefold() or wanted in e.name.casefold():
            hits.append(Hit("equipment", e.id, e.tag, f"{e.name}, {e.location}"))
    hits.sort(key=lambda h: (not h.title.casefold().startswith(wanted), len(h.title)))
    hits += [Hit(f.kind, f.number, f.number, f.detail.replace("_", " ")) for f in search.numbered(wanted)]
    return hits[:12]
