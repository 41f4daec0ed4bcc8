"""The ledger as readers see it, its verification, and a search over tags, numbers and names."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions import network
from spinel.store import ledger
from spinel.store.ledger import Entry, Verdict
from spinel.store.models import Job, Permit, Program

__all__ = ["Entry", "Hit", "Verdict", "entries", "filters", "find", "head", "since", "verify"]


@dataclass(frozen=True)
class Hit:
    """``kind``: equipment, job, permit or program; ``key`` identifies it."""

    kind: str
    key: str
    title: str
    detail: str


def entries(subject: str = "", actor: str = "", act: str = "", before: int | None = None) -> list[Entry]:
    """Ledger rows, newest first, at most 100."""
    return ledger.search(subject, actor, act, before)


def filters() -> tuple[list[str], list[str]]:
    """Actors and acts that occur."""
    return ledger.distinct("actor"), ledger.distinct("act")


def head() -> tuple[int, str]:
    """Count and head hash, as printed on papers."""
    return ledger.head()


def since(seq: int) -> list[Entry]:
    """What was done after this ledger sequence, newest first, at most 100. A sign-in changes no page: left out."""
    return ledger.after(seq, passing_over="signed in")


def verify(head_hash: str | None = None, count: int | None = None) -> Verdict:
    """Walk the whole chain."""
    return ledger.verify(head_hash, count)


def find(text: str) -> list[Hit]:
    """Equipment, jobs and permits whose tag, number, name or title holds the text; at most 12."""
    wanted = text.strip().casefold()
    if not wanted:
        return []
    hits = []
    for e in network.site().network.elements:
        if wanted in e.tag.casefold() or wanted in e.name.casefold():
            hits.append(Hit("equipment", e.id, e.tag, f"{e.name}, {e.location}"))
    hits.sort(key=lambda h: (not h.title.casefold().startswith(wanted), len(h.title)))
    for job in Job.select().order_by(Job.id.desc()):
        if wanted in job.number.casefold() or wanted in job.title.casefold():
            hits.append(Hit("job", job.number, job.number, job.title))
    for permit in Permit.select().order_by(Permit.id.desc()):
        if wanted in permit.number.casefold():
            hits.append(Hit("permit", permit.number, permit.number, permit.state.replace("_", " ")))
    for program in Program.select(Program.number, Program.state).order_by(Program.id.desc()):
        if wanted in program.number.casefold():
            hits.append(Hit("program", program.number, program.number, program.state))
    return hits[:12]
