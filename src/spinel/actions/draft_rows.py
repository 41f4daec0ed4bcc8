"""A draft of the network as it is kept: its row, its states, and how both are moved on; for the actions on drafts."""

from __future__ import annotations

import json
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from spinel.actions.acting import Act, Unit, work
from spinel.actions.figures import document_text
from spinel.core.canonical import canonical, digest
from spinel.core.errors import DocumentError, NotFound, Problem, Refusal, Stale
from spinel.core.network.check import accept
from spinel.core.network.upgrade import upgraded
from spinel.core.said import Sayable, say
from spinel.store import network_drafts as store
from spinel.store.models import NetworkDraft
from spinel.store.network_drafts import StepKept

Document = dict[str, Any]
#: What a walk-down calls the place of a note that is in no record of the document.
WALKED = "walk-down"


def row_of(number: str) -> NetworkDraft:
    """NotFound for a draft that there is not."""
    found = store.draft(number)
    if found is None:
        raise NotFound("draft of the network", number)
    return found


@contextmanager
def changing(act: Act, number: str) -> Iterator[tuple[Unit, NetworkDraft]]:
    """A transaction on an open draft; Refusal for one that ended, unless the same request was done before."""
    with work(act) as unit:
        row = row_of(number)
        if not unit.done:
            must_be_open(row)
        yield unit, row


def must_be_open(row: NetworkDraft) -> None:
    if row.state != "open":
        raise Refusal(
            say("drafting-only-an-open-draft-is-changed"),
            say("drafting-it-ended", number=row.number, state=say(f"draft-state-{row.state}")),
            say("drafting-begin-another"),
        )


def stale(row: NetworkDraft) -> Stale:
    """Somebody else changed it since it was looked at."""
    return Stale("draft-of-the-network", row.number, row.changed_by, row.changed_at)


def state_of(row: NetworkDraft, number: int) -> tuple[str, str]:
    """Hash and text of a state."""
    found = store.document(row.id, number)
    if found is None or digest(found[1]) != found[0]:
        raise NotFound("draft of the network", f"{row.number} {number}")
    return found


def document_of(row: NetworkDraft) -> Document:
    """As it stands."""
    found: Document = json.loads(state_of(row, row.at_step)[1])
    return found


def base_of(row: NetworkDraft) -> Document:
    """What it is compared with; the same site with nothing in it where nothing was published."""
    if row.base:
        return upgraded(json.loads(document_text(row.base)))
    first = store.steps(row.id)[0].number
    begun: Document = json.loads(state_of(row, first)[1])
    return {**begun, "site": {}, "nodes": [], "enclosures": [], "elements": [], "cases": []}


def keep(unit: Unit, row: NetworkDraft, document: Document, what: Sayable, act_name: str) -> int:
    """Its next state, by its number: one that no state of this draft ever had, so that nobody takes it for another that
    was undone."""
    text = canonical(document)
    step = int(row.version)
    made = StepKept(step, what, unit.act.actor.name, unit.act.at, digest(text))
    store.keep_step(row.id, int(row.at_step), made, text)
    move(unit, row, at_step=step)
    unit.record(act_name, f"draft:{row.number}", {"step": step, "hash": digest(text), "what": what})
    return step


def move(unit: Unit, row: NetworkDraft, **changes: Any) -> None:
    for name, value in {**changes, "changed_at": unit.act.at, "changed_by": unit.act.actor.name}.items():
        setattr(row, name, value)
    row.version += 1
    row.save()


def end(unit: Unit, row: NetworkDraft, state: str) -> None:
    """Its last state stays in the record."""
    store.forget_steps(row.id, row.at_step)
    move(unit, row, state=state)


def problems_of(document: Document) -> list[Problem]:
    try:
        accept(document)
    except DocumentError as error:
        return error.problems
    return []
