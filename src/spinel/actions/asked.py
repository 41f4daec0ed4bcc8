"""What a step asks for besides readings: who takes over, who was told, which lock hangs."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from spinel.actions import people
from spinel.actions.locks import lock_numbers
from spinel.actions.program_view import ProgramView
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.core.switching.steps import Step


@on_site
def asked(site: Site, seen: ProgramView, step: Step, said_of_it: Mapping[str, str]) -> dict[str, Any]:
    """What was typed for it, to be recorded with the step; InputError beside the field."""
    if step.kind == "handover":
        return {"in_charge": _person_in_charge(site, seen, said_of_it)}
    if step.kind == "notify":
        return _told(step, said_of_it)
    said = {"said_by": texts.NAME.check(said_of_it.get("said_by", ""), "said_by")} if step.others else {}
    if "locked" in step.acts and seen.order.says_access:
        number = texts.LOCK.check(said_of_it.get("lock", ""))
        if not step.others and number in lock_numbers(seen.hold, seen.practice):
            raise InputError("lock", number, say("console-a-lock-that-hangs-nowhere-else"))
        return {**said, "lock": number}
    return dict(said)


def _told(step: Step, said_of_it: Mapping[str, str]) -> dict[str, Any]:
    """Who answered for each who is told by name, and what stands in for what may not be without supply."""
    answered = {
        name: texts.ANSWERED.check(said_of_it.get(f"told_{i}", ""), f"told_{i}") for i, name in enumerate(step.names)
    }
    watched = {
        tag: texts.WATCH.check(said_of_it.get(f"watch_{i}", ""), f"watch_{i}") for i, tag in enumerate(step.critical)
    }
    found = {"answered": answered, "watched": watched}
    return {name: value for name, value in found.items() if value}


def _person_in_charge(site: Site, seen: ProgramView, said_of_it: Mapping[str, str]) -> int:
    raw = said_of_it.get("in_charge", "")
    chosen = next((p for p in people.everybody(site) if str(p.id) == raw and "person_in_charge" in p.roles), None)
    if chosen is None:
        raise InputError("in_charge", raw, say("console-a-person-in-charge-who-takes-the"))
    if any(r.person_id == chosen.id for r in seen.valid("released")):
        raise InputError("in_charge", chosen.name, say("console-somebody-who-did-not-release-this-program"))
    return chosen.id
