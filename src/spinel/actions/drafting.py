"""Drafts of the network: begun, changed one act at a time, undone, merged, thrown away (published: draft_publishing).

A draft belongs to the coordinators; nothing in it is so until it is published. Each act keeps the whole document as it
is then. What somebody changes while another changed it too is put together record by record (core/editing/merge).
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any
from uuid import uuid4

from spinel.actions.acting import Act, work
from spinel.actions.draft_rows import (
    Document,
    base_of,
    changing,
    document_of,
    end,
    keep,
    move,
    problems_of,
    row_of,
    stale,
    state_of,
)
from spinel.actions.figures import document_text
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.editing import groups
from spinel.core.editing.merge import MINE, THEIRS, Conflict, merge
from spinel.core.editing.records import Sheet
from spinel.core.errors import InputError, NotFound, Problem, Refusal, Stale
from spinel.core.network.sheets import Fault
from spinel.core.network.upgrade import upgraded
from spinel.core.said import Sayable, say
from spinel.core.stored import parsed
from spinel.store import network as published
from spinel.store import network_drafts as store
from spinel.store.models import NetworkDraft
from spinel.store.network_drafts import StepKept

#: What somebody does to a sheet; given back: what was done, in words.
Change = Callable[[Sheet], Sayable]


@dataclass(frozen=True, kw_only=True)
class NetworkInMaking:
    """As it stands. ``step``: the state's number; ``steps``: how many it can go back and forth between,
    ``first``: there is none before; ``last``: what was done last, ``next``: what was undone last.
    ``behind``: a revision was published since it was begun or brought up to date."""

    number: str
    state: str
    base: str
    step: int
    steps: int
    hash: str
    text: str
    first: bool
    last: Sayable
    next: Sayable
    changed_at: str
    changed_by: str
    answers: Mapping[str, str]
    faults: tuple[Mapping[str, Any], ...]
    behind: bool

    @property
    def document(self) -> Document:
        """A new one each time: whoever changes it changes nobody else's."""
        found: Document = json.loads(self.text)
        return found


class Conflicted(Stale):
    """Two people changed the same field of one record; nothing of the later one is kept until a side is chosen."""

    def __init__(self, number: str, by: str, at: str, conflicts: tuple[Conflict, ...]):
        super().__init__("draft-of-the-network", number, by, at)
        self.conflicts = conflicts


@on_site
def may(act: Act) -> None:
    """NotAllowed for whoever does not publish networks; asked before anything that was typed is looked at."""
    act.actor.needs("coordinator", what=say("act-network-publish-a-network"))


@on_site
def may_walk(act: Act) -> None:
    """What a walk-down sees otherwise comes from coordinators and directors."""
    act.actor.needs("coordinator", "director", what=say("act-network-record-a-walk-down"))


def fresh_id() -> str:
    """Of a record that is new: no revision has it, whatever was taken out before."""
    return str(uuid4())


@on_site
def begin(act: Act, number: int | None = None) -> str:
    """A draft on the network as it is; on an earlier revision's document where its number is given, still compared with
    what is published now. NotFound for a revision that there is not. The draft's number."""
    may(act)
    latest = published.latest_key()
    if latest is None:
        raise NotFound("network", "")
    wanted = latest.hash
    if number is not None:
        wanted = next((r.hash for r in published.revisions() if r.number == number), "")
        if not wanted:
            raise NotFound("network revision", number)
    document = upgraded(json.loads(document_text(wanted)))
    what = say("drafting-begun", number=number or latest.number)
    return _begun(act, document, latest.hash, what)


@on_site
def begin_for_walk(act: Act) -> str:
    """A draft on what is published, for what a walk-down sees otherwise: a director walks too."""
    may_walk(act)
    latest = published.latest_key()
    if latest is None:
        raise NotFound("network", "")
    return _begun(act, upgraded(json.loads(document_text(latest.hash))), latest.hash, say("walking-begun"))


@on_site
def begin_empty(act: Act, site: Mapping[str, Any], supply: Mapping[str, Any], origin: Mapping[str, str]) -> str:
    """A draft of a site of which nothing is known but its supply: ``site`` name, time_zone, practice, frequency_hz;
    ``supply`` as ``groups.begin`` takes it. Refusal where a network is published. The draft's number."""
    may(act)
    if published.latest_key() is not None:
        raise Refusal(
            say("drafting-one-network-a-site"), say("drafting-a-network-is-published"), say("drafting-begin-on-it")
        )
    document = groups.empty(
        texts.NAME.check(site["name"], "name"), site["time_zone"], site["practice"], site["frequency_hz"]
    )
    sheet = groups.begin(document, fresh_id, supply, origin)
    _known_zone(sheet.document)
    return _begun(act, sheet.document, "", say("drafting-begun-with-its-supply"))


def _known_zone(document: Document) -> None:
    """InputError for a time zone that there is not: of all that the check of a document would say, this was typed."""
    for problem in problems_of(document):
        if problem.field == "time_zone":
            raise InputError("time_zone", problem.value, problem.allowed)


@on_site
def begin_with(act: Act, document: Mapping[str, Any], what: Sayable, faults: Sequence[Fault] = ()) -> str:
    """A draft of a document that somebody brings, whole or not: what is wrong with it is named, and mended here.
    ``faults``: what could not be read, and so is not in it."""
    may(act)
    latest = published.latest_key()
    return _begun(act, dict(document), latest.hash if latest else "", what, faults)


def _begun(act: Act, document: Document, base: str, what: Sayable, faults: Sequence[Fault] = ()) -> str:
    text = canonical(document)
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        kept = canonical([asdict(f) for f in faults])
        made = store.insert(base, int(act.actor.id or 0), act.actor.name, act.at, kept)
        store.keep_step(made.id, -1, StepKept(0, what, act.actor.name, act.at, digest(text)), text)
        unit.record("network draft begun", f"draft:{made.number}", {"hash": digest(text), "what": what})
    return str(made.number)


@on_site
def draft(site: Site, number: str) -> NetworkInMaking:
    """NotFound for one that there is not."""
    return _draft(row_of(number))


@on_site
def drafts(site: Site) -> list[NetworkInMaking]:
    """Those that are open, the one changed last first."""
    return [_draft(row) for row in store.open_ones()]


@on_site
def steps(site: Site, number: str) -> list[StepKept]:
    """Every state that it can be brought back to."""
    return store.steps(row_of(number).id)


def _draft(row: NetworkDraft) -> NetworkInMaking:
    kept = store.steps(row.id)
    hash_, text = state_of(row, row.at_step)
    latest = published.latest_key()
    return NetworkInMaking(
        number=row.number, state=row.state, base=row.base, step=row.at_step, steps=len(kept), hash=hash_, text=text,
        last=_what(kept, row.at_step), first=kept[0].number == row.at_step,
        next=_what(kept, _beside_it(kept, row.at_step, 1)), changed_at=row.changed_at,
        changed_by=row.changed_by, answers=json.loads(row.answers), faults=tuple(parsed(row.faults)),
        behind=row.state == "open" and row.base != (latest.hash if latest else ""),
    )  # fmt: skip


def _what(kept: list[StepKept], number: int | None) -> Sayable:
    return next((s.what for s in kept if s.number == number), "")


def _beside_it(kept: list[StepKept], number: int, by: int) -> int | None:
    """The number of the state before, or behind where ``by`` is 1."""
    numbers = [s.number for s in kept]
    at = numbers.index(number) + (1 if by > 0 else -1)
    return numbers[at] if 0 <= at < len(numbers) else None


@on_site
def edit(
    act: Act, number: str, seen: int, change: Change, chosen: Mapping[str, str] | None = None, *, walking: bool = False
) -> int:
    """Do something to a draft. ``seen``: the state that the one who does it saw; ``chosen``: the side that stands where
    somebody else changed the same since. The number of the state that comes of it; Conflicted where a side must be
    chosen first, Stale where what was seen is undone. ``walking``: by whoever walks down, too."""
    (may_walk if walking else may)(act)
    with changing(act, number) as (unit, row):
        if unit.done:
            return int(row.at_step)
        now = document_of(row)
        if seen == row.at_step:
            sheet = Sheet(now, fresh_id)
            what = change(sheet)
            document = sheet.document
        else:
            document, what = _beside(row, seen, now, change, chosen or {})
        if document == now:
            return int(row.at_step)
        return keep(unit, row, document, what, "network draft changed")


def _beside(
    row: NetworkDraft, seen: int, now: Document, change: Change, chosen: Mapping[str, str]
) -> tuple[Document, Sayable]:  # fmt: skip
    """What was done to an earlier state, put together with what others did to it since."""
    found = store.document(row.id, seen) if seen < row.at_step else None
    if found is None:
        raise stale(row)
    base = json.loads(found[1])
    sheet = Sheet(base, fresh_id)
    what = change(sheet)
    merged = merge(base, sheet.document, now, chosen)
    if any(c.key not in chosen for c in merged.conflicts):
        raise Conflicted(row.number, row.changed_by, row.changed_at, merged.conflicts)
    return merged.document, what


@on_site
def undo(act: Act, number: str, seen: int, by: int = -1) -> int:
    """Back by one state, or forward where ``by`` is 1; the number of the state that it stands at then. Nothing where
    there is no further state; Stale where somebody else changed it since."""
    may(act)
    with changing(act, number) as (unit, row):
        if unit.done:
            return int(row.at_step)
        if seen != row.at_step:
            raise stale(row)
        to = _beside_it(store.steps(row.id), int(row.at_step), by)
        if to is None:
            return int(row.at_step)
        hash_ = state_of(row, to)[0]
        move(unit, row, at_step=to)
        what = "network draft redone" if by > 0 else "network draft undone"
        unit.record(what, f"draft:{number}", {"step": to, "hash": hash_})
        return to


@on_site
def add_faults(act: Act, number: str, faults: Sequence[Fault]) -> None:
    """Something to be seen to that is in no record of the document."""
    may_walk(act)
    with changing(act, number) as (unit, row):
        if unit.done:
            return
        kept = parsed(row.faults)
        new = [f for f in map(asdict, faults) if canonical(f) not in {canonical(k) for k in kept}]
        move(unit, row, faults=canonical([*kept, *new]))
        unit.record("network draft changed", f"draft:{number}", {"to see to": len(new)})


@on_site
def mended(act: Act, number: str, which: Mapping[str, str]) -> None:
    """A cell that could not be read was seen to: ``which`` sheet, row, column."""
    may(act)
    with changing(act, number) as (unit, row):
        if unit.done:
            return
        left = [f for f in parsed(row.faults) if {k: str(f[k]) for k in ("sheet", "row", "column")} != dict(which)]
        move(unit, row, faults=canonical(left))
        unit.record("network draft changed", f"draft:{number}", {"mended": dict(which)})


@on_site
def problems(site: Site, number: str) -> list[Problem]:
    """Why it could not be published as it is: what its document lacks or contradicts."""
    return problems_of(document_of(row_of(number)))


@on_site
def bring_up(act: Act, number: str, seen: int, chosen: Mapping[str, str]) -> tuple[Conflict, ...]:
    """Put what was published since into the draft. Conflicts where a side must be chosen first, and nothing is changed;
    empty once it is compared with the latest revision."""
    may(act)
    with changing(act, number) as (unit, row):
        latest = published.latest_key()
        if unit.done or latest is None or row.base == latest.hash:
            return ()
        if seen != row.at_step:
            raise stale(row)
        mine, theirs = document_of(row), upgraded(json.loads(document_text(latest.hash)))
        merged = merge(base_of(row), mine, theirs, chosen)
        if any(chosen.get(c.key) not in (MINE, THEIRS) for c in merged.conflicts):
            return merged.conflicts
        row.base = latest.hash
        keep(unit, row, merged.document, say("drafting-brought-up", number=latest.number), "network draft changed")
        return ()


@on_site
def throw_away(act: Act, number: str) -> None:
    """It ends; its last state stays in the record."""
    may(act)
    with changing(act, number) as (unit, row):
        if unit.done:
            return
        end(unit, row, "discarded")
        unit.record("network draft discarded", f"draft:{number}", {"step": row.at_step})
