"""Queries about switching programs and what is recorded on them. Each comes with its job."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from peewee import ModelSelect

from spinel.core.switching.life import ENDED
from spinel.store.database import marks, rows
from spinel.store.models import Job, Program, ProgramRecord


def _all() -> ModelSelect:
    return Program.select(Program, Job).join(Job)


def program(number: str) -> Program | None:
    found: Program | None = _all().where(Program.number == number).first()
    return found


def version_of(number: str) -> int | None:
    """The version alone, for a page that asks whether it is still the present one."""
    row = Program.select(Program.version).where(Program.number == number).tuples().first()
    return int(row[0]) if row else None


def programs_in(states: Iterable[str], practice: bool = False) -> list[Program]:
    wanted = (Program.state.in_(list(states))) & (Program.practice == int(practice))
    return list(_all().where(wanted).order_by(Program.id))


def programs_of(job_id: int) -> list[Program]:
    return list(_all().where(Program.job == job_id).order_by(Program.id))


def of_hold(hold: str) -> list[Program]:
    """The programs under one hold, oldest first: the isolation, its successors, the restoration."""
    return list(_all().where(Program.hold == hold).order_by(Program.id))


def latest(hold: str, purpose: str) -> Program | None:
    """The last program of a purpose under a hold; practice runs are none of them."""
    wanted = (Program.hold == hold) & (Program.purpose == purpose) & (Program.practice == 0)
    found: Program | None = _all().where(wanted).order_by(Program.id.desc()).first()
    return found


def linked(hold: str, number: str) -> list[Program]:
    """The programs under a hold, and the practice runs of one program, oldest first."""
    practised = (Program.practice == 1) & (Program.follows == number)
    return list(_all().where((Program.hold == hold) | practised).order_by(Program.id))


def _that(ended: bool | None) -> ModelSelect:
    """All programs, or those that have ended, or those that have not."""
    if ended is None:
        return _all()
    return _all().where(Program.state.in_(ENDED) if ended else Program.state.not_in(ENDED))


def count(ended: bool | None = None) -> int:
    return int(_that(ended).count())


def everything(ended: bool | None = None, first: int = 0, at_most: int | None = None) -> list[Program]:
    """Newest first, from one of them on, so many."""
    return list(_that(ended).order_by(Program.id.desc()).limit(at_most).offset(first))


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


def box_records(hold: str, kinds: Iterable[str]) -> list[ProgramRecord]:
    """What was recorded on the box of a hold, over all its programs."""
    wanted = tuple(kinds)
    query = f"""SELECT r.* FROM program_record r JOIN program p ON p.id = r.program_id
        WHERE p.hold = ? AND r.kind IN ({marks(wanted)}) ORDER BY r.id"""
    return list(ProgramRecord.raw(query, hold, *wanted))


def warnings() -> list[tuple[str, str, str]]:
    """Every warning to people whose lock hangs on a box, oldest first: hold, detail, moment."""
    found = rows(
        """SELECT p.hold, r.detail, r.at FROM program_record r JOIN program p ON p.id = r.program_id
        WHERE r.kind = 'warned' ORDER BY r.id"""
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
