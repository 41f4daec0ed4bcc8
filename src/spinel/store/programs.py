"""Queries about switching programs and what is recorded on them. Each comes with its job."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass

from spinel.core.switching.life import ENDED
from spinel.store.database import marks, rows
from spinel.store.jobs import with_jobs
from spinel.store.models import Program, ProgramRecord


def _those(where: str, *values: object) -> list[Program]:
    return with_jobs(Program, where, *values)


def program(number: str) -> Program | None:
    return next(iter(_those("r.number = ?", number)), None)


def version_of(number: str) -> tuple[int, str] | None:
    """The version, and a mark of everything that was done in the field, on a permit or on a box: what a page asks again
    and again to know whether it still shows the present."""
    query = """SELECT version, (SELECT coalesce(max(id), 0) FROM field_event) || '.' ||
        (SELECT coalesce(max(id), 0) FROM permit_record) || '.' || (SELECT coalesce(max(id), 0) FROM program_record)
        FROM program WHERE number = ?"""
    found = rows(query, number)
    return (int(found[0][0]), found[0][1]) if found else None


def programs_in(states: Iterable[str], practice: bool = False) -> list[Program]:
    wanted = tuple(states)
    return _those(f"r.state IN ({marks(wanted)}) AND r.practice = ? ORDER BY r.id", *wanted, int(practice))


def begun() -> dict[str, str]:
    """When each program under way was started."""
    query = """SELECT p.number, min(r.at) FROM program p JOIN program_record r ON r.program_id = p.id
        WHERE r.kind = 'started' AND p.state IN ('executing', 'stopped') GROUP BY p.id"""
    return dict(rows(query))


def directed_by(person_id: int) -> bool:
    """Does somebody direct a program under way?"""
    query = "SELECT 1 FROM program WHERE director_id = ? AND state IN ('executing', 'stopped') LIMIT 1"
    return bool(rows(query, person_id))


def last_record(before: str | None = None) -> int:
    """The id of the last record on any program (before a moment, where one is given): what is recorded later has a
    higher one, whatever the clock says."""
    query = "SELECT coalesce(max(id), 0) FROM program_record WHERE ? IS NULL OR at < ?"
    return int(rows(query, before, before)[0][0])


def used(instrument: str, after: int) -> list[tuple[str, str]]:
    """Number and hold of programs in which an instrument, its leads or its proving unit were used after a record,
    practice left out."""
    query = """SELECT p.number, p.hold FROM program p JOIN program_record r ON r.program_id = p.id
        WHERE p.practice = 0 AND r.kind = 'confirmed' AND r.id > ? AND ? COLLATE NOCASE IN
        (SELECT json_extract(r.detail, '$.instrument') UNION ALL SELECT json_extract(r.detail, '$.low.instrument')
        UNION ALL SELECT value FROM json_each(r.detail, '$.with'))
        GROUP BY p.id ORDER BY p.id"""
    return [(number, hold) for number, hold in rows(query, after, instrument)]


def programs_of(job_id: int) -> list[Program]:
    return _those("r.job_id = ? ORDER BY r.id", job_id)


def of_hold(hold: str) -> list[Program]:
    """The programs under one hold, oldest first: the isolation, its successors, the restoration."""
    return _those("r.hold = ? ORDER BY r.id", hold)


def latest(hold: str, purpose: str) -> Program | None:
    """The last program of a purpose under a hold; practice runs are none of them."""
    where = "r.hold = ? AND r.purpose = ? AND r.practice = 0 ORDER BY r.id DESC LIMIT 1"
    return next(iter(_those(where, hold, purpose)), None)


def linked(hold: str, number: str) -> list[Program]:
    """The programs under a hold, and the practice runs of one program, oldest first."""
    return _those("r.hold = ? OR (r.practice = 1 AND r.follows = ?) ORDER BY r.id", hold, number)


#: All programs, those that have ended, or those that have not.
_ENDED = {None: "1", True: f"r.state IN ({marks(ENDED)})", False: f"r.state NOT IN ({marks(ENDED)})"}


def _values(ended: bool | None) -> tuple[str, ...]:
    return () if ended is None else tuple(ENDED)


def count(ended: bool | None = None) -> int:
    return int(rows(f"SELECT count(*) FROM program r WHERE {_ENDED[ended]}", *_values(ended))[0][0])


def everything(ended: bool | None = None, first: int = 0, at_most: int | None = None) -> list[Program]:
    """Newest first, from one of them on, so many."""
    limit = -1 if at_most is None else at_most
    return _those(f"{_ENDED[ended]} ORDER BY r.id DESC LIMIT ? OFFSET ?", *_values(ended), limit, first)


def insert(
    number: str, job_id: int, purpose: str, hold: str, follows: str, state: str, content: str, content_hash: str, *,
    practice: bool, origin_event: int, base_event: int, requested_by: int | None, at: str, name: str,
) -> int:  # fmt: skip
    """The id of the new program."""
    return int(
        Program.insert(
            number=number, job=job_id, purpose=purpose, hold=hold, practice=int(practice), follows=follows, state=state,
            content=content, content_hash=content_hash, origin_event=origin_event, base_event=base_event,
            requested_by=requested_by, created_at=at, changed_at=at, changed_by=name,
        ).execute()
    )  # fmt: skip


def records(program_id: int) -> list[ProgramRecord]:
    return list(ProgramRecord.raw("SELECT * FROM program_record WHERE program_id = ? ORDER BY id", program_id))


def restored(holds: Collection[str]) -> set[str]:
    """Those of the holds whose restoration was executed to its end."""
    query = f"""SELECT DISTINCT hold FROM program WHERE purpose = 'restoration' AND state = 'done' AND practice = 0
        AND hold IN ({marks(holds)})"""
    return {hold for (hold,) in rows(query, *holds)}


def warnings_to(person_id: int) -> list[tuple[str, str, str]]:
    """Every warning since this person's lock hangs on a box, oldest first: hold, detail, moment."""
    found = rows(
        """SELECT p.hold, r.detail, r.at FROM hung h JOIN program p ON p.hold = h.hold
        JOIN program_record r ON r.program_id = p.id AND r.kind = 'warned' AND r.at >= h.since
        WHERE h.person_id = ? AND h.kind = 'personal' AND h.gone_at IS NULL ORDER BY r.id""",
        person_id,
    )
    return [(hold, detail, at) for hold, detail, at in found]


@dataclass(frozen=True)
class Place:
    """Where a program stands, without its content. ``step``: steps done, of ``steps``."""

    number: str
    state: str
    step: int
    steps: int


def places(states: Iterable[str]) -> list[Place]:
    wanted = tuple(states)
    query = f"""SELECT number, state, step, json_array_length(content, '$.steps') FROM program
        WHERE state IN ({marks(wanted)}) AND practice = 0 ORDER BY id"""
    return [Place(*row) for row in rows(query, *wanted)]


def add_record(
    program_id: int, kind: str, person_id: int | None, name: str, content_hash: str, detail: str, at: str
) -> None:  # fmt: skip
    ProgramRecord.insert(
        program=program_id, kind=kind, person=person_id, person_name=name, content_hash=content_hash, detail=detail,
        at=at,
    ).execute()  # fmt: skip
