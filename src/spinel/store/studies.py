"""Queries about studies that were run, and their results."""

from __future__ import annotations

from typing import Any

from spinel.store.database import rows
from spinel.store.models import StoredStudy, StudyRun
from spinel.store.numbering import next_number

#: Without the document of a draft, which nobody lists.
_LISTED = [f for f in StudyRun._meta.sorted_fields if f.name != "document"]


def ask(**values: Any) -> str:
    number = next_number(StudyRun, "S")
    StudyRun.insert(number=number, **values).execute()
    return number


def one(number: str) -> StudyRun | None:
    return next(iter(StudyRun.select().where(StudyRun.number == number)), None)


def everything() -> list[StudyRun]:
    """The latest first."""
    return list(StudyRun.select(*_LISTED).order_by(StudyRun.id.desc()))


def asked() -> list[StudyRun]:
    """What is waited for, in the order in which it was asked."""
    return list(StudyRun.select(*_LISTED).where(StudyRun.state == "asked").order_by(StudyRun.id))


def last_published() -> list[StudyRun]:
    """Studies of published revisions that are done, the latest first."""
    done = (StudyRun.state == "done") & (StudyRun.draft == "")
    return list(StudyRun.select(*_LISTED).where(done).order_by(StudyRun.id.desc()).limit(50))


def result(hash_: str) -> str | None:
    found = rows("SELECT content FROM study_result WHERE hash = ?", hash_)
    return found[0][0] if found else None


def keep_result(hash_: str, content: str) -> None:
    if not rows("SELECT 1 FROM study_result WHERE hash = ?", hash_):
        StoredStudy.insert(hash=hash_, content=content).execute()


def change(run: StudyRun, **values: Any) -> None:
    StudyRun.update(**values, version=StudyRun.version + 1).where(StudyRun.id == run.id).execute()
