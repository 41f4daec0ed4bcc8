"""Somebody may no longer be at work: whatever they work under, operate or direct just now stands still."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from spinel.actions import permits, stopping
from spinel.actions.acting import Unit
from spinel.core import stored as shapes
from spinel.core.said import Sayable
from spinel.store import permits as store
from spinel.store import programs
from spinel.store.models import Permit


@dataclass(frozen=True)
class Doing:
    """A task on a class of equipment."""

    task_id: str
    equipment_class: str

    def is_on(self, permit: Permit) -> bool:
        content = shapes.content("permit", permit.content)
        return bool(
            content["task"]["skill"] == self.task_id and content["equipment"]["equipment_class"] == self.equipment_class
        )

    @property
    def switches(self) -> bool:
        """A program is stopped whatever class its steps are at."""
        return self.task_id in ("operate", "test")


def taken_off(unit: Unit, person_id: int, reason: Sayable, doing: Doing | None = None) -> Iterator[str]:
    """Permits that are suspended and programs that are stopped for it, by number. ``doing``: only what they do so; else
    also what they lead or watch."""
    for permit in store.permits_in(("issued", "in_force", "suspended")):
        if doing is None or doing.is_on(permit):
            seen = permits.as_view(unit.site, permit, unit.act.now)
            if person_id in (seen.roster if doing else seen.everybody):
                stopping.suspend(unit, permit, reason)
                yield permit.number
    if doing is None or doing.switches:
        for program in programs.programs_in(("executing",)):
            if person_id in (program.operator_id, program.director_id):
                stopping.stop(unit, program, reason)
                yield program.number
