"""One subject's whole story, as the ledger tells it: what happened in which order, who did it, and whether two acts
that one person may never do both were done by different people."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from spinel.actions import anchoring, upkeep
from spinel.actions.acting import utc_moment
from spinel.actions.site import Site, on_site
from spinel.core import stored as shapes
from spinel.core.errors import NotFound
from spinel.store import anchors, ledger, permits, programs
from spinel.store.ledger import Entry

#: What an act is part of, in the order of a story.
PARTS: Mapping[str, tuple[str, ...]] = {
    "asked": ("job started", "job decided", "permit drafted", "permit edited", "permit submitted", "program drafted",
              "program edited", "program drafted anew", "practice drafted"),
    "allowed": ("permit signed", "permit approved", "permit refused", "permit issued", "program checked",
                "program released"),
    "told": ("permit briefed", "permit stated", "permit attended", "permit vouched"),
    "worked": ("permit accepted", "permit suspended", "permit resumed", "program started", "box taken"),
    "over": ("permit handed back", "permit closed", "permit cancelled", "work complete", "program done", "job closed"),
}  # fmt: skip
_PART_OF = {act: part for part, acts in PARTS.items() for act in acts}
#: Acts of which one person never does both on the same permit or program, as the rules have them.
APART = (
    ("permit drafted", "permit signed"), ("permit edited", "permit signed"), ("permit signed", "permit approved"),
    ("permit stated", "permit signed"), ("permit drafted", "permit approved"), ("permit edited", "permit approved"),
    ("permit approved", "permit issued"),
    ("permit issued", "permit accepted"), ("permit issued", "permit handed back"), ("permit stated", "permit approved"),
    ("permit stated", "permit issued"), ("permit stated", "permit vouched"), ("program drafted", "program checked"),
    ("program edited", "program checked"), ("program checked", "program released"),
)  # fmt: skip


@dataclass(frozen=True)
class Line:
    """``part``: of the story, where it begins with this line. ``data``: what was recorded, in the present shape."""

    entry: Entry
    part: str
    data: Mapping[str, Any]


@dataclass(frozen=True)
class Apart:
    """Two acts that different people do. ``who``: everybody who did the one, and the other. ``both``: who did both."""

    acts: tuple[str, str]
    who: tuple[tuple[str, ...], tuple[str, ...]]
    both: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class Story:
    """``anchored``: entries up to this one are held by an anchor outside the database, from when it was dropped;
    ``verified``: when everything was last compared, and ``astray`` how much was not as recorded, if ever."""

    subject: str
    lines: tuple[Line, ...]
    apart: tuple[Apart, ...]
    count: int
    anchored: int
    anchored_at: datetime | None
    verified: datetime | None
    astray: int


@on_site
def of(site: Site, subject: str) -> Story:
    """The story of a subject as the ledger names it; of a permit or a program with its job's. NotFound for none."""
    entries = ledger.of_subjects([subject, *_with_its(subject)])
    if not any(e.subject == subject for e in entries):
        raise NotFound("story", subject.partition(":")[2])
    lines, part = [], ""
    for entry in entries:
        now = _PART_OF.get(entry.act, part)
        lines.append(Line(entry, now if now != part else "", shapes.read("act", entry.payload)))
        part = now
    # an anchor that the ledger does not hold witnesses against it, and for none of its entries
    last = max((a for a in _anchors(site) if ledger.hash_of(a.count) == a.head), key=lambda a: a.count, default=None)
    kept = upkeep.last_kept(site.path)
    astray = kept.count if kept else 0
    return Story(
        subject=subject, lines=tuple(lines), apart=tuple(_apart([e for e in entries if e.subject == subject])),
        count=ledger.head()[0], anchored=last.count if last else 0, anchored_at=utc_moment(last.at) if last else None,
        verified=kept.at if kept else None,
        astray=astray or int(anchoring.astray(site) is not None),
    )  # fmt: skip


def _with_its(subject: str) -> list[str]:
    kind, _, number = subject.partition(":")
    record = permits.permit(number) if kind == "permit" else programs.program(number) if kind == "program" else None
    return [f"job:{record.job.number}"] if record is not None else []


def _anchors(site: Site) -> list[anchors.Anchor]:
    try:
        return anchors.read(anchors.file(site.path))
    except ValueError:
        # `spinel verify` and the board name it
        return []


def _apart(entries: list[Entry]) -> list[Apart]:
    by = {act: tuple(dict.fromkeys(e.actor for e in entries if e.act == act)) for act in {e.act for e in entries}}
    found = []
    for one, other in APART:
        if one in by and other in by:
            both = tuple(name for name in by[one] if name in by[other])
            found.append(Apart((one, other), (by[one], by[other]), both))
    return found
