"""Queries about assessments of risk and the opinions given for them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from spinel.core.canonical import canonical
from spinel.store.database import rows
from spinel.store.models import Assessment, GivenOpinion


def latest(job_id: int, subject: str) -> Assessment | None:
    """Of a job: of its work, or of putting the voltage back."""
    query = """SELECT * FROM assessment WHERE job_id = ? AND coalesce(json_extract(content, '$.subject'), 'work') = ?
        ORDER BY id DESC LIMIT 1"""
    return next(iter(Assessment.raw(query, job_id, subject)), None)


def agreed(job_id: int, subject: str) -> Assessment | None:
    """The last one that was agreed on whole and is not left; one that is asked anew takes nothing of it back."""
    query = """SELECT * FROM assessment WHERE job_id = ? AND coalesce(json_extract(content, '$.subject'), 'work') = ?
        AND state = 'agreed' ORDER BY id DESC LIMIT 1"""
    return next(iter(Assessment.raw(query, job_id, subject)), None)


def one(number: str) -> Assessment | None:
    return next(iter(Assessment.raw("SELECT * FROM assessment WHERE number = ?", number)), None)


def waiting_for(person_id: int) -> list[tuple[str, str]]:
    """Number and job of each open assessment that somebody is asked for and has not answered."""
    query = """SELECT a.number, j.number FROM assessment a JOIN job j ON j.id = a.job_id
        WHERE a.state = 'open' AND ? IN (SELECT value FROM json_each(a.asked))
        AND NOT EXISTS (SELECT 1 FROM opinion o WHERE o.assessment_id = a.id AND o.person_id = ?) ORDER BY a.id"""
    return [(number, job) for number, job in rows(query, person_id, person_id)]


def insert(
    number: str, job_id: int, content: str, content_hash: str, asked: Sequence[int], requested_by: int | None, at: str,
    by: str,
) -> None:  # fmt: skip
    Assessment.insert(
        number=number, job=job_id, content=content, content_hash=content_hash, asked=canonical(list(asked)),
        requested_by=requested_by, changed_at=at, changed_by=by,
    ).execute()  # fmt: skip


def change(row: Assessment, at: str, by: str, **values: Any) -> None:
    Assessment.update(**values, changed_at=at, changed_by=by, version=Assessment.version + 1).where(
        Assessment.id == row.id
    ).execute()


def leave(job_id: int, at: str, by: str) -> None:
    """Whatever was asked about a job and is not left yet: it is about another job now."""
    Assessment.update(state="left", changed_at=at, changed_by=by, version=Assessment.version + 1).where(
        (Assessment.job == job_id) & (Assessment.state != "left")
    ).execute()


def opinions(assessment_id: int) -> list[GivenOpinion]:
    """In the order in which they were given."""
    return list(GivenOpinion.raw("SELECT * FROM opinion WHERE assessment_id = ? ORDER BY id", assessment_id))


def add_opinion(assessment_id: int, person_id: int, name: str, marks: str, at: str) -> None:
    GivenOpinion.insert(assessment=assessment_id, person=person_id, person_name=name, marks=marks, at=at).execute()
