"""Numbers of a series, and the write that only the first of two people gets."""

from __future__ import annotations

from spinel.store.models import (
    AssignedFinding,
    Exchange,
    Improvement,
    Job,
    NetworkDraft,
    Permit,
    Program,
    StoredLabel,
    StudyRun,
)

Numbered = Job | Permit | Program | Exchange | NetworkDraft | Improvement | StudyRun | AssignedFinding | StoredLabel


def next_number(model: type[Numbered], prefix: str) -> str:
    """The next number of the series; called inside the write transaction, so no two are the same."""
    last = model.select(model.id).order_by(model.id.desc()).first()
    return f"{prefix}-{(last.id if last else 0) + 1:04d}"


def save(record: Numbered, version: int, **changes: object) -> bool:
    """Write the changes if the record still has this version; False when somebody was faster."""
    model = type(record)
    count = (
        model.update(version=version + 1, **changes)
        .where((model.id == record.id) & (model.version == version))
        .execute()
    )
    return bool(count == 1)
