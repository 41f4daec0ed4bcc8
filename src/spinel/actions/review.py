"""What a change of the network or the field does to open permits: nothing silently, nothing less safe.

A permit whose energy, boundary or voltage is now exceeded is suspended when it was issued, and falls back to
draft, its signatures void, when it was only signed on. Something found in its island suspends it in any case.
"""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any

from spinel.actions.acting import Unit
from spinel.core.canonical import canonical, content_hash
from spinel.core.errors import InputError, NotFound
from spinel.core.hazard import frozen
from spinel.core.network.circuit import at_present
from spinel.core.network.document import Element
from spinel.core.network.liveness import around
from spinel.core.permit.life import SIGNED, WITH_WINDOW, exceeds
from spinel.store import permits, programs
from spinel.store.models import Permit, PermitRecord, Program

if TYPE_CHECKING:
    from spinel.actions.network import Site

FIGURES = ("energy_cal_cm2", "boundary_mm", "voltage_v")


def figures_now(site: Site, content: dict[str, Any]) -> dict[str, float | None]:
    """Energy, boundary and voltage at a permit's place and distance as they are now; empty when it is gone."""
    equipment, hazard = content["equipment"], content["hazard"]
    try:
        now = site.study.hazard(equipment["id"], content["touches"], hazard["working_distance_mm"])
    except (NotFound, InputError):
        # the equipment or the side that it was issued for is no longer there
        return {}
    data = frozen(now)
    return {key: data[key] for key in FIGURES}


def worse(site: Site, content: dict[str, Any]) -> list[str]:
    """What is now exceeded, in words; empty when the frozen figures still cover the present."""
    now = figures_now(site, content)
    if not now:
        return [f"{content['equipment']['tag']}, as it was reached, is no longer in the network"]
    return exceeds({key: content["hazard"][key] for key in FIGURES}, now)


def after_change(unit: Unit, site: Site, cause: str) -> list[str]:
    """Check every signed or issued permit against the figures as they are now. Numbers of those touched."""
    touched = []
    for permit in permits.permits_in((*SIGNED, *WITH_WINDOW)):
        content = json.loads(permit.content)
        found = worse(site, content)
        if not found:
            continue
        reason = f"{cause}: " + "; ".join(found)
        if permit.state in SIGNED:
            _back_to_draft(unit, permit, content, reason)
        else:
            _suspend(unit, permit, reason)
        touched.append(permit.number)
    return touched + _programs_after_change(unit, cause)


def _programs_after_change(unit: Unit, cause: str) -> list[str]:
    """A program whose figures no longer cover the present, or whose equipment has gone: stopped, or its check void."""
    from spinel.actions import program_moves
    from spinel.actions.programs import as_view

    touched = []
    for program in programs.programs_in(("checked", "released", "executing")):
        try:
            found = program_moves.worse(as_view(program))
        except NotFound as gone:
            found = [str(gone)]
        if not found:
            continue
        reason = f"{cause}: {found[0]}"
        if program.state == "executing":
            change: dict[str, object] = {"state": "stopped", "stopped_because": reason}
        else:
            change = {"state": "draft"}
        kind = "stopped" if program.state == "executing" else "check void"
        permits.save(program, program.version, changed_at=unit.act.at, changed_by="system", **change)
        _keep_on_program(unit, program, kind, {"because": reason})
        unit.record_by_system(f"program {kind}", f"program:{program.number}", {"because": reason})
        touched.append(program.number)
    return touched


def island_of(site: Site, element: Element) -> frozenset[str]:
    """Ids of everything in the island around an element, as it stands."""
    return around(site.network, at_present(site.network, site.now), element)


def after_found(
    unit: Unit, site: Site, element: Element, value: str, island_before: frozenset[str] = frozenset()
) -> list[str]:
    """Something was found: suspend every issued permit and stop every program in the island around the element.

    Whoever has a lock on a box there is named in the record, so that the board can warn them.
    """
    island = island_of(site, element) | island_before
    reason = f"{element.tag} was found {value}, reported by {unit.act.actor.name}"
    touched = _stop_programs(unit, element, island, reason)
    for permit in permits.permits_in(("issued", "in_force")):
        content = json.loads(permit.content)
        if content["equipment"]["id"] in island:
            _suspend(unit, permit, reason)
            touched.append(permit.number)
    return touched


def _stop_programs(unit: Unit, element: Element, island: frozenset[str], reason: str) -> list[str]:
    from spinel.actions import box

    touched = []
    for program in programs.programs_in(("executing", "done")):
        content = json.loads(program.content)
        near = {content["equipment"]["id"], *(s["element_id"] for s in content["steps"])}
        if element.id not in near and content["equipment"]["id"] not in island:
            continue
        if program.state == "executing":
            permits.save(program, program.version, state="stopped", stopped_because=reason, changed_at=unit.act.at,
                         changed_by="system")  # fmt: skip
            _keep_on_program(unit, program, "stopped", {"because": reason})
            unit.record_by_system("program stopped", f"program:{program.number}", {"because": reason})
            touched.append(program.number)
        elif locks := box.locks_on(program.hold):
            names = [lock.name for lock in locks]
            _keep_on_program(unit, program, "warned", {"because": reason, "people": names})
            unit.record_by_system("people warned", f"program:{program.number}", {"because": reason, "people": names})
    return touched


def _keep_on_program(unit: Unit, program: Program, kind: str, detail: dict[str, Any]) -> None:
    programs.add_record(program.id, kind, None, "system", program.content_hash, canonical(detail), unit.act.at)


def _suspend(unit: Unit, permit: Permit, reason: str) -> None:
    because = f"{permit.suspended_because}; {reason}" if permit.state == "suspended" else reason
    _change(permit, unit, state="suspended", suspended_because=because)
    _keep(unit, permit, "suspended", reason)
    unit.record_by_system("permit suspended", f"permit:{permit.number}", {"because": reason})


def _back_to_draft(unit: Unit, permit: Permit, content: dict[str, Any], reason: str) -> None:
    content["draft"] = permit.draft + 1
    _change(
        permit, unit, state="draft", draft=permit.draft + 1, content=canonical(content),
        content_hash=content_hash(content),
    )  # fmt: skip
    _keep(unit, permit, "voided", reason)
    unit.record_by_system("signatures voided", f"permit:{permit.number}", {"because": reason})


def _change(permit: Permit, unit: Unit, **changes: object) -> None:
    permits.save(permit, permit.version, changed_at=unit.act.at, changed_by="system", **changes)


def _keep(unit: Unit, permit: Permit, kind: str, reason: str) -> None:
    PermitRecord.insert(
        permit=permit.id, kind=kind, person=None, person_name="system", content_hash=permit.content_hash,
        detail=canonical({"because": reason}), at=unit.act.at,
    ).execute()  # fmt: skip
