"""Drafts of the network: begun, changed one act at a time, undone, merged, published, thrown away.

A draft belongs to the coordinators; nothing in it is so until it is published. Each act keeps the whole document as it
is then. What somebody changes while another changed it too is put together record by record (core/editing/merge).
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any
from uuid import uuid4

from spinel.actions import network
from spinel.actions.acting import Act, Unit, repeated, work
from spinel.actions.figures import document_text
from spinel.actions.people import confirm_identity
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.editing import groups
from spinel.core.editing.merge import MINE, THEIRS, Conflict, chosen_part, merge
from spinel.core.editing.records import Sheet
from spinel.core.errors import DocumentError, InputError, NotFound, Problem, Refusal, Stale
from spinel.core.network.check import accept
from spinel.core.network.differences import Difference, belonging, differences
from spinel.core.network.sheets import Fault
from spinel.core.network.upgrade import upgraded
from spinel.core.said import Sayable, say
from spinel.core.stored import parsed
from spinel.store import network as published
from spinel.store import network_drafts as store
from spinel.store.models import NetworkDraft
from spinel.store.network_drafts import StepKept

Document = dict[str, Any]
#: What somebody does to a sheet; given back: what was done, in words.
Change = Callable[[Sheet], Sayable]
#: Is a difference so on site already?
SO, NOT_YET = "so", "not-yet"


@dataclass(frozen=True, kw_only=True)
class NetworkInMaking:
    """As it stands. ``steps``: how many states it can go back and forth between, ``last``: what was done last.
    ``behind``: a revision was published since it was begun or brought up to date."""

    number: str
    state: str
    base: str
    step: int
    steps: int
    hash: str
    text: str
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
    for problem in _problems(document):
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
        store.keep_step(made.id, StepKept(0, what, act.actor.name, act.at, digest(text)), text)
        unit.record("network draft begun", f"draft:{made.number}", {"hash": digest(text), "what": what})
    return str(made.number)


@on_site
def draft(site: Site, number: str) -> NetworkInMaking:
    """NotFound for one that there is not."""
    return _draft(_row(number))


@on_site
def drafts(site: Site) -> list[NetworkInMaking]:
    """Those that are open, the one changed last first."""
    return [_draft(row) for row in store.open_ones()]


@on_site
def steps(site: Site, number: str) -> list[StepKept]:
    """Every state that it can be brought back to."""
    return store.steps(_row(number).id)


@on_site
def base_of(site: Site, number: str) -> Document:
    """The document that it is compared with; an empty one where nothing was published."""
    return _base(_row(number))


def _row(number: str) -> NetworkDraft:
    found = store.draft(number)
    if found is None:
        raise NotFound("draft of the network", number)
    return found


def _draft(row: NetworkDraft) -> NetworkInMaking:
    kept = store.steps(row.id)
    hash_, text = _state(row, row.at_step)
    latest = published.latest_key()
    return NetworkInMaking(
        number=row.number, state=row.state, base=row.base, step=row.at_step, steps=len(kept), hash=hash_, text=text,
        last=_what(kept, row.at_step), next=_what(kept, row.at_step + 1), changed_at=row.changed_at,
        changed_by=row.changed_by, answers=json.loads(row.answers), faults=tuple(parsed(row.faults)),
        behind=row.state == "open" and row.base != (latest.hash if latest else ""),
    )  # fmt: skip


def _what(kept: list[StepKept], number: int) -> Sayable:
    return next((s.what for s in kept if s.number == number), "")


def _state(row: NetworkDraft, number: int) -> tuple[str, str]:
    found = store.document(row.id, number)
    if found is None or digest(found[1]) != found[0]:
        raise NotFound("draft of the network", f"{row.number} {number}")
    return found


def _base(row: NetworkDraft) -> Document:
    return upgraded(json.loads(document_text(row.base))) if row.base else _nothing(json.loads(_state(row, 0)[1]))


def _nothing(document: Document) -> Document:
    """What there is where nothing was published: the same site, and nothing in it."""
    return {**document, "site": {}, "nodes": [], "enclosures": [], "elements": [], "cases": []}


@on_site
def edit(
    act: Act, number: str, seen: int, change: Change, chosen: Mapping[str, str] | None = None, *, walking: bool = False
) -> int:
    """Do something to a draft. ``seen``: the state that the one who does it saw; ``chosen``: the side that stands where
    somebody else changed the same since. The number of the state that comes of it; Conflicted where a side must be
    chosen first, Stale where what was seen is undone. ``walking``: by whoever walks down, too."""
    (may_walk if walking else may)(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return int(row.at_step)
        _is_open(row)
        now = json.loads(_state(row, row.at_step)[1])
        if seen == row.at_step:
            sheet = Sheet(now, fresh_id)
            what = change(sheet)
            document = sheet.document
        else:
            document, what = _beside(row, seen, now, change, chosen or {})
        if document == now:
            return int(row.at_step)
        return _keep(unit, row, document, what, "network draft changed")


def _beside(
    row: NetworkDraft, seen: int, now: Document, change: Change, chosen: Mapping[str, str]
) -> tuple[Document, Sayable]:  # fmt: skip
    """What was done to an earlier state, put together with what others did to it since."""
    found = store.document(row.id, seen) if seen < row.at_step else None
    if found is None:
        raise Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)
    base = json.loads(found[1])
    sheet = Sheet(base, fresh_id)
    what = change(sheet)
    merged = merge(base, sheet.document, now, chosen)
    if any(c.key not in chosen for c in merged.conflicts):
        raise Conflicted(row.number, row.changed_by, row.changed_at, merged.conflicts)
    return merged.document, what


def _is_open(row: NetworkDraft) -> None:
    if row.state != "open":
        raise Refusal(
            say("drafting-only-an-open-draft-is-changed"),
            say("drafting-it-ended", number=row.number, state=say(f"draft-state-{row.state}")),
            say("drafting-begin-another"),
        )


def _keep(unit: Unit, row: NetworkDraft, document: Document, what: Sayable, act_name: str) -> int:
    text = canonical(document)
    step = int(row.at_step) + 1
    store.keep_step(row.id, StepKept(step, what, unit.act.actor.name, unit.act.at, digest(text)), text)
    _move(unit, row, at_step=step)
    unit.record(act_name, f"draft:{row.number}", {"step": step, "hash": digest(text), "what": what})
    return step


def _move(unit: Unit, row: NetworkDraft, **changes: Any) -> None:
    for name, value in {**changes, "changed_at": unit.act.at, "changed_by": unit.act.actor.name}.items():
        setattr(row, name, value)
    row.version += 1
    row.save()


@on_site
def undo(act: Act, number: str, seen: int, by: int = -1) -> int:
    """Back by one state, or forward where ``by`` is 1; the number of the state that it stands at then. Nothing where
    there is no further state; Stale where somebody else changed it since."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return int(row.at_step)
        _is_open(row)
        if seen != row.at_step:
            raise Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)
        to = int(row.at_step) + (1 if by > 0 else -1)
        if store.document(row.id, to) is None:
            return int(row.at_step)
        hash_ = _state(row, to)[0]
        _move(unit, row, at_step=to)
        what = "network draft redone" if by > 0 else "network draft undone"
        unit.record(what, f"draft:{number}", {"step": to, "hash": hash_})
        return to


@on_site
def add_faults(act: Act, number: str, faults: Sequence[Fault]) -> None:
    """Something to be seen to that is in no record of the document."""
    may_walk(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        _is_open(row)
        kept = parsed(row.faults)
        new = [f for f in map(asdict, faults) if canonical(f) not in {canonical(k) for k in kept}]
        _move(unit, row, faults=canonical([*kept, *new]))
        unit.record("network draft changed", f"draft:{number}", {"to see to": len(new)})


@on_site
def mended(act: Act, number: str, which: Mapping[str, str]) -> None:
    """A cell that could not be read was seen to: ``which`` sheet, row, column."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        _is_open(row)
        left = [f for f in parsed(row.faults) if {k: str(f[k]) for k in ("sheet", "row", "column")} != dict(which)]
        _move(unit, row, faults=canonical(left))
        unit.record("network draft changed", f"draft:{number}", {"mended": dict(which)})


@on_site
def differs(site: Site, number: str) -> tuple[Difference, ...]:
    """From the revision that it is compared with."""
    row = _row(number)
    return differences(_base(row), json.loads(_state(row, row.at_step)[1]))


@on_site
def problems(site: Site, number: str) -> list[Problem]:
    """Why it could not be published as it is: what its document lacks or contradicts."""
    row = _row(number)
    return _problems(json.loads(_state(row, row.at_step)[1]))


def _problems(document: Document) -> list[Problem]:
    try:
        accept(document)
    except DocumentError as error:
        return error.problems
    return []


def key_of(difference: Difference, document: Document) -> str:
    """By what the answer to a difference is kept: it holds for just this difference of just this record. What is
    changed again is asked again."""
    records = [document["site"]] if difference.group == "site" else document.get(difference.group, [])
    record = next((r for r in records if difference.group == "site" or r.get("id") == difference.id), None)
    return f"{difference.group}/{difference.id}/{digest(canonical([asdict(difference), record]))[:16]}"


@on_site
def answer(act: Act, number: str, answers: Mapping[str, str]) -> None:
    """Is each of these differences so on site already? By ``key_of``."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        _is_open(row)
        for key, said in answers.items():
            if said not in (SO, NOT_YET):
                raise InputError(key, said, say("one-of", options=(SO, NOT_YET)))
        kept = {**json.loads(row.answers), **answers}
        _move(unit, row, answers=canonical(kept))
        unit.record("network draft answered", f"draft:{number}", {"answers": dict(answers)})


@dataclass(frozen=True, kw_only=True)
class Piece:
    """Differences that are answered together: a piece of equipment with its nodes and enclosures, or one record.
    ``key``: changes with any of them; ``keys``: of each; ``answer``: empty while none is given."""

    key: str
    keys: tuple[str, ...]
    name: str
    differences: tuple[Difference, ...]
    answer: str


@on_site
def pieces(site: Site, number: str) -> tuple[Piece, ...]:
    """What differs, by what stands on site as one."""
    return _pieces(_row(number))


def _pieces(row: NetworkDraft) -> tuple[Piece, ...]:
    base, whole, said = _base(row), json.loads(_state(row, row.at_step)[1]), json.loads(row.answers)
    found = []
    for together in belonging(differences(base, whole), base, whole):
        keys = tuple(key_of(d, whole) for d in together)
        answers = {said.get(k, "") for k in keys}
        found.append(Piece(
            key=f"{together[0].group}/{together[0].id}/{digest(canonical(keys))[:16]}", keys=keys,
            name=together[0].name, differences=tuple(together), answer=answers.pop() if len(answers) == 1 else "",
        ))  # fmt: skip
    return tuple(found)


@on_site
def answer_pieces(act: Act, number: str, said: Mapping[str, str]) -> None:
    """The same for pieces, each with what belongs to it. Stale where one of them is no longer what was answered."""
    row, there = _row(number), {p.key: p for p in pieces(act.site, number)}
    if not said.keys() <= there.keys():
        raise Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)
    answer(act, number, {key: value for of, value in said.items() for key in there[of].keys})


@on_site
def text_to_publish(site: Site, number: str) -> str:
    """The document that would be published: all of it, or the part that is so. Refusal where a difference has no answer
    yet, or what is not built is needed by what is so."""
    row = _row(number)
    part = _part(row)
    return canonical(part) if part is not None else _state(row, row.at_step)[1]


def _part(row: NetworkDraft) -> Document | None:
    """What is so already without what is not built; None where no part of it waits."""
    base, whole, said = _base(row), json.loads(_state(row, row.at_step)[1]), json.loads(row.answers)
    found = differences(base, whole)
    open_ = [each[0] for each in belonging(found, base, whole) if any(key_of(d, whole) not in said for d in each)]
    if open_ and (row.base or any(said.get(key_of(d, whole)) == NOT_YET for d in found)):
        raise Refusal(
            say("drafting-a-split-is-honest"),
            say("drafting-not-answered", names=tuple(dict.fromkeys(d.name for d in open_))),
            say("drafting-answer-each"),
        )
    if not any(said.get(key_of(d, whole)) == NOT_YET for d in found):
        return None
    part = chosen_part(base, whole, {(d.group, d.id) for d in found if said.get(key_of(d, whole)) == SO})
    wrong = _problems(part)
    if wrong:
        raise Refusal(
            say("drafting-a-split-is-honest"), say("drafting-the-part-does-not-stand-alone", problem=wrong[0].said),
            say("drafting-what-belongs-together-is-answered-alike"),
        )  # fmt: skip
    return part


@on_site
def bring_up(act: Act, number: str, seen: int, chosen: Mapping[str, str]) -> tuple[Conflict, ...]:
    """Put what was published since into the draft. Conflicts where a side must be chosen first, and nothing is changed;
    empty once it is compared with the latest revision."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        latest = published.latest_key()
        if unit.done or latest is None or row.base == latest.hash:
            return ()
        _is_open(row)
        if seen != row.at_step:
            raise Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)
        mine, theirs = json.loads(_state(row, row.at_step)[1]), upgraded(json.loads(document_text(latest.hash)))
        merged = merge(_base(row), mine, theirs, chosen)
        if any(chosen.get(c.key) not in (MINE, THEIRS) for c in merged.conflicts):
            return merged.conflicts
        row.base = latest.hash
        _keep(unit, row, merged.document, say("drafting-brought-up", number=latest.number), "network draft changed")
        return ()


@on_site
def throw_away(act: Act, number: str) -> None:
    """It ends; its last state stays in the record."""
    may(act)
    with work(act) as unit:
        row = _row(number)
        if unit.done:
            return
        _is_open(row)
        _end(unit, row, "discarded")
        unit.record("network draft discarded", f"draft:{number}", {"step": row.at_step})


def _end(unit: Unit, row: NetworkDraft, state: str) -> None:
    store.forget_steps(row.id, row.at_step)
    _move(unit, row, state=state)


@on_site
def publish(act: Act, number: str, seen: str, password: str, note: str, against: str) -> tuple[int, list[str]]:
    """Publish what of a draft is so on site; what is not built stays in it, compared with the new revision. ``seen``,
    ``against``: hash of what would be published, and of the revision, as the signer saw them. The revision's
    number, and what it stopped. Refusal, DocumentError, Stale: nothing is published."""
    may(act)
    if repeated(act):
        return act.site.as_it_is().number, []
    row, said = _row(number), texts.REASON.check(note, "note")
    _is_open(row)
    part, text = _part(row), text_to_publish(act.site, number)
    if seen != digest(text):
        raise Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)
    confirm_identity(act, password)
    version = row.version

    def along(unit: Unit, revision_hash: str) -> None:
        mine = _row(number)
        if mine.version != version:
            raise Stale("draft-of-the-network", mine.number, mine.changed_by, mine.changed_at)
        if part is None:
            _end(unit, mine, "published")
        else:
            _move(unit, mine, base=revision_hash, answers="{}")
        unit.record("network draft published", f"draft:{number}", {"hash": revision_hash, "whole": part is None})

    return network.publish(act, text, said, against, along)
