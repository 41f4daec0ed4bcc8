"""Queries about switching programs and what is recorded on them."""

from __future__ import annotations

from collections.abc import Iterable

from spinel.store.models import Program, ProgramRecord


def program(number: str) -> Program | None:
    return Program.get_or_none(Program.number == number)


def programs_in(states: Iterable[str], practice: bool = False) -> list[Program]:
    wanted = (Program.state.in_(list(states))) & (Program.practice == int(practice))
    return list(Program.select().where(wanted).order_by(Program.id))


def programs_of(job_id: int) -> list[Program]:
    return list(Program.select().where(Program.job == job_id).order_by(Program.id))


def of_hold(hold: str) -> list[Program]:
    """The programs under one hold, oldest first: the isolation, its successors, the restoration."""
    return list(Program.select().where(Program.hold == hold).order_by(Program.id))


def everything() -> list[Program]:
    return list(Program.select().order_by(Program.id.desc()))


def records(program_id: int) -> list[ProgramRecord]:
    return list(ProgramRecord.select().where(ProgramRecord.program == program_id).order_by(ProgramRecord.id))


def box_records(hold: str, kinds: Iterable[str]) -> list[ProgramRecord]:
    """What was recorded on the box of a hold, over all its programs."""
    query = ProgramRecord.select(ProgramRecord, Program).join(Program)
    return list(query.where((Program.hold == hold) & (ProgramRecord.kind.in_(list(kinds)))).order_by(ProgramRecord.id))


def warnings() -> list[ProgramRecord]:
    """Every warning to people whose lock hangs on a box, oldest first."""
    query = ProgramRecord.select(ProgramRecord, Program).join(Program).where(ProgramRecord.kind == "warned")
    return list(query.order_by(ProgramRecord.id))


def add_record(
    program_id: int, kind: str, person_id: int | None, name: str, content_hash: str, detail: str, at: str
) -> None:  # fmt: skip
    ProgramRecord.insert(
        program=program_id, kind=kind, person=person_id, person_name=name, content_hash=content_hash, detail=detail,
        at=at,
    ).execute()  # fmt: skip
