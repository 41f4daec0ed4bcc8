"""What a draft of the network differs in, what of it is so on site already, and publishing that.

What is so cannot wait: it would keep a permit alive on a false figure. What is not built may.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass

from spinel.actions import network
from spinel.actions.acting import Act, Unit, repeated
from spinel.actions.draft_rows import (
    WALKED,
    Document,
    base_of,
    changing,
    document_of,
    end,
    move,
    must_be_open,
    problems_of,
    row_of,
    stale,
    state_of,
)
from spinel.actions.drafting import may
from spinel.actions.people import confirm_identity
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.editing.merge import chosen_part
from spinel.core.errors import InputError, Refusal
from spinel.core.network.differences import Difference, belonging, differences
from spinel.core.said import say
from spinel.core.stored import parsed
from spinel.store.models import NetworkDraft

#: Is a difference so on site already?
SO, NOT_YET = "so", "not-yet"


@on_site
def differs(site: Site, number: str) -> tuple[Difference, ...]:
    """From the revision that it is compared with."""
    row = row_of(number)
    return differences(base_of(row), document_of(row))


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
    with changing(act, number) as (unit, row):
        if unit.done:
            return
        for key, said in answers.items():
            if said not in (SO, NOT_YET):
                raise InputError(key, said, say("one-of", options=(SO, NOT_YET)))
        kept = {**json.loads(row.answers), **answers}
        move(unit, row, answers=canonical(kept))
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
    return _pieces(row_of(number))


def _pieces(row: NetworkDraft) -> tuple[Piece, ...]:
    base, whole, said = base_of(row), document_of(row), json.loads(row.answers)
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
    row, there = row_of(number), {p.key: p for p in pieces(act.site, number)}
    if not said.keys() <= there.keys():
        raise stale(row)
    answer(act, number, {key: value for of, value in said.items() for key in there[of].keys})


@on_site
def text_to_publish(site: Site, number: str) -> str:
    """The document that would be published: all of it, or the part that is so. Refusal where a difference has no answer
    yet, where what is not built is needed by what is so, or where a cell of its workbook was not seen to."""
    return _to_publish(row_of(number))[0]


def _to_publish(row: NetworkDraft) -> tuple[str, bool]:
    """The text, and whether it is the whole draft."""
    unread = [f for f in parsed(row.faults) if f["sheet"] != WALKED]
    if unread:
        raise Refusal(
            say("drafting-what-was-brought-is-read-whole"),
            say("drafting-not-seen-to", count=len(unread), first=f"{unread[0]['sheet']} {unread[0]['row']}"),
            say("drafting-see-to-each"),
        )
    part = _part(row)
    return (canonical(part), False) if part is not None else (state_of(row, row.at_step)[1], True)


def _part(row: NetworkDraft) -> Document | None:
    """What is so already without what is not built; None where no part of it waits."""
    base, whole, said = base_of(row), document_of(row), json.loads(row.answers)
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
    wrong = problems_of(part)
    if wrong:
        raise Refusal(
            say("drafting-a-split-is-honest"), say("drafting-the-part-does-not-stand-alone", problem=wrong[0].said),
            say("drafting-what-belongs-together-is-answered-alike"),
        )  # fmt: skip
    return part


@on_site
def publish(act: Act, number: str, seen: str, password: str, note: str, against: str) -> tuple[int, list[str]]:
    """Publish what of a draft is so on site; what is not built, and what a walk-down noted, stays in it, compared with
    the new revision. ``seen``, ``against``: hash of what would be published, and of the revision, as the signer saw
    them. The revision's number, and what it stopped. Refusal, DocumentError, Stale: nothing is published."""
    may(act)
    if repeated(act):
        return act.site.as_it_is().number, []
    row, said = row_of(number), texts.REASON.check(note, "note")
    must_be_open(row)
    text, whole = _to_publish(row)
    if seen != digest(text):
        raise stale(row)
    confirm_identity(act, password)
    version = row.version

    def along(unit: Unit, revision_hash: str) -> None:
        mine = row_of(number)
        if mine.version != version:
            raise stale(mine)
        # what a walk-down noted and nobody has seen to yet is not lost with it
        if whole and not parsed(mine.faults):
            end(unit, mine, "published")
        else:
            move(unit, mine, base=revision_hash, answers="{}")
        unit.record("network draft published", f"draft:{number}", {"hash": revision_hash, "whole": whole})

    return network.publish(act, text, said, against, along)
