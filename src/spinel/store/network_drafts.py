"""Drafts of the network, with every state that they were in."""

from __future__ import annotations

import base64
import zlib
from dataclasses import dataclass

from spinel.core.said import Sayable
from spinel.store.database import rows
from spinel.store.models import DraftStep, NetworkDraft
from spinel.store.numbering import next_number


@dataclass(frozen=True)
class StepKept:
    """Without its document."""

    number: int
    what: Sayable
    by: str
    at: str
    hash: str


def insert(base: str, by_id: int, by: str, at: str, faults: str) -> NetworkDraft:
    number = next_number(NetworkDraft, "ND")
    made: NetworkDraft = NetworkDraft.create(
        number=number, base=base, at_step=0, made_by=by_id, made_at=at, changed_at=at, changed_by=by, faults=faults
    )
    return made


def draft(number: str) -> NetworkDraft | None:
    return next(iter(NetworkDraft.select().where(NetworkDraft.number == number)), None)


def open_ones() -> list[NetworkDraft]:
    """The one that was changed last first."""
    return list(NetworkDraft.select().where(NetworkDraft.state == "open").order_by(NetworkDraft.changed_at.desc()))


def ended() -> list[NetworkDraft]:
    return list(NetworkDraft.select().where(NetworkDraft.state != "open").order_by(NetworkDraft.id.desc()))


def keep_step(draft_id: int, behind: int, step: StepKept, document: str) -> None:
    """A state behind the one that the draft stands at; those that were undone are gone with it."""
    DraftStep.delete().where((DraftStep.draft == draft_id) & (DraftStep.number > behind)).execute()
    DraftStep.insert(
        draft=draft_id, number=step.number, what=step.what, by=step.by, at=step.at, hash=step.hash,
        document=packed(document),
    ).execute()  # fmt: skip


def document(draft_id: int, number: int) -> tuple[str, str] | None:
    """Hash and text of a state, or None where there is no such state."""
    found = rows("SELECT hash, document FROM draft_step WHERE draft_id = ? AND number = ?", draft_id, number)
    return (found[0][0], unpacked(found[0][1])) if found else None


def steps(draft_id: int) -> list[StepKept]:
    """In their order."""
    found = DraftStep.select(DraftStep.number, DraftStep.what, DraftStep.by, DraftStep.at, DraftStep.hash)
    of_it = found.where(DraftStep.draft == draft_id).order_by(DraftStep.number)
    return [StepKept(*row) for row in of_it.tuples()]


def forget_steps(draft_id: int, but: int) -> None:
    """A draft that ended keeps its last state alone."""
    DraftStep.delete().where((DraftStep.draft == draft_id) & (DraftStep.number != but)).execute()


def packed(text: str) -> str:
    return base64.b85encode(zlib.compress(text.encode(), 6)).decode()


def unpacked(text: str) -> str:
    return zlib.decompress(base64.b85decode(text)).decode()
