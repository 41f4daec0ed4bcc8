"""What is recorded on a permit or a program: signatures, statements, events; each cites the content it was made for."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from spinel.core import stored as shapes
from spinel.store.models import PermitRecord, ProgramRecord


@dataclass(frozen=True)
class Record:
    """A signature, statement or event. ``valid``: made for the content as it is now."""

    kind: str
    person_id: int | None
    name: str
    at: str
    valid: bool
    detail: Mapping[str, Any] = field(default_factory=dict)


def read(kind: str, rows: Iterable[PermitRecord] | Iterable[ProgramRecord], content_hash: str) -> tuple[Record, ...]:
    """The stored rows as records of the content with this hash."""
    return tuple(
        Record(r.kind, r.person_id, r.person_name, r.at, r.content_hash == content_hash, shapes.read(kind, r.detail))
        for r in rows
    )


class Signed:
    """Questions to the records of a permit or a program."""

    records: tuple[Record, ...]

    def valid(self, kind: str) -> list[Record]:
        return [r for r in self.records if r.kind == kind and r.valid]

    def last(self, kind: str) -> Record | None:
        return next(iter(reversed(self.valid(kind))), None)

    def by(self, kind: str, person_id: int | None) -> bool:
        """Was a valid record of the kind made by this person?"""
        return any(r.person_id == person_id for r in self.valid(kind))
