"""What the system does when the world has moved: a permit suspended, signatures void, a program stopped.

Each is one state, one record and one ledger entry, whoever calls for it.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Any

from spinel.actions.acting import SYSTEM, Unit
from spinel.actions.keeping import keep, save_by_system
from spinel.core import stored as shapes
from spinel.core.said import Sayable, joined
from spinel.store.models import Permit, Program


def suspend(unit: Unit, permit: Permit, reason: Sayable) -> None:
    """An issued permit: nobody works on it until the cause is known."""
    because = joined(permit.suspended_because, reason) if permit.state == "suspended" else reason
    save_by_system(unit.act, permit, state="suspended", suspended_because=because)
    keep(unit, permit, "suspended", {"because": reason}, by=SYSTEM)
    unit.record_by_system("permit suspended", f"permit:{permit.number}", {"because": reason})


def back_to_draft(unit: Unit, permit: Permit, content: Mapping[str, Any], reason: Sayable) -> None:
    """A permit that was only signed on: its signatures are void."""
    kept = shapes.write("permit", {**content, "draft": permit.draft + 1})
    save_by_system(
        unit.act, permit, state="draft", draft=permit.draft + 1, content=kept.text,
        content_hash=kept.hash,
    )  # fmt: skip
    keep(unit, permit, "voided", {"because": reason}, by=SYSTEM)
    unit.record_by_system("signatures voided", f"permit:{permit.number}", {"because": reason})


def cancel(unit: Unit, permit: Permit, reason: Sayable) -> None:
    """A permit that nobody ever accepted and that can no longer be used."""
    save_by_system(unit.act, permit, state="cancelled", suspended_because="")
    keep(unit, permit, "cancelled", {"because": reason}, by=SYSTEM)
    unit.record("permit cancelled", f"permit:{permit.number}", {"because": reason})


def stop(unit: Unit, program: Program, reason: Sayable) -> None:
    """A program under way: nobody operates anything until it is resumed."""
    save_by_system(unit.act, program, state="stopped", stopped_because=reason)
    _say(unit, program, "stopped", reason)


def void_check(unit: Unit, program: Program, reason: Sayable) -> None:
    """A program that was checked or released falls back to draft."""
    save_by_system(unit.act, program, state="draft")
    _say(unit, program, "check void", reason)


def _say(unit: Unit, program: Program, kind: str, reason: Sayable) -> None:
    keep(unit, program, kind, {"because": reason}, by=SYSTEM)
    unit.record_by_system(f"program {kind}", f"program:{program.number}", {"because": reason})


def warn(unit: Unit, program: Program, reason: Sayable, people: Collection[str]) -> None:
    """Those whose locks hang on the box of a program."""
    detail = {"because": reason, "people": list(people)}
    keep(unit, program, "warned", detail, by=SYSTEM)
    unit.record_by_system("people warned", f"program:{program.number}", detail)
