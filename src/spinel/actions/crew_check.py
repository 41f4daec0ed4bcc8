"""Before a job starts: can its permit, or its program, be written, approved, led and done by who is here."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from spinel.actions.positions import of_settings
from spinel.actions.site import Site, SiteNow, on_site
from spinel.actions.standing import shown_by_all, standing
from spinel.core.crew import Able, CrewDuty, could_fill, crew, for_permit, for_program, gaps
from spinel.core.permit.life import APPROVALS
from spinel.core.permit.tasks import SKILLS
from spinel.store.people import Registered


@dataclass(frozen=True, kw_only=True)
class Staffing:
    """``kind``: permit or program. ``duties``: in their order; ``who``: one way to fill them with the fewest people;
    ``gaps``: duties that nobody is left for; ``others``: by duty who lacks only the role, or only the skill, for it."""

    kind: str
    duties: tuple[CrewDuty, ...]
    who: Mapping[str, Registered]
    gaps: tuple[str, ...]
    others: Mapping[str, tuple[tuple[Registered, str], ...]]

    @property
    def people(self) -> int:
        """How many accounts the fewest are."""
        return len({p.id for p in self.who.values()})


@on_site
def crews_for(site: Site, kinds: Sequence[str], task_id: str, on: date) -> tuple[Staffing, Staffing]:
    """For a permit and for a program, by who is here and qualified on that day at each of these classes."""
    here = site.as_it_is()
    people = [p for p in site.register() if p.active]
    able = _able(here, people, kinds, on)
    approvals = APPROVALS[here.settings["approvals"]]
    third = here.settings["checks_by"] == "third_person"
    return (
        _crew("permit", for_permit(task_id, approvals, of_settings(here.settings)), people, able),
        _crew("program", for_program(third=third), people, able),
    )


def _able(here: SiteNow, people: list[Registered], kinds: Sequence[str], on: date) -> list[Able]:
    shown = shown_by_all()
    return [
        Able(p.id, p.roles, frozenset(t for t in SKILLS if standing(here, p, shown, t, kinds, on).may(on)))
        for p in people
    ]


def _crew(kind: str, duties: tuple[CrewDuty, ...], people: list[Registered], able: list[Able]) -> Staffing:
    by_id = {p.id: p for p in people}
    found = crew(duties, able)
    lacking = gaps(duties, able)
    return Staffing(
        kind=kind, duties=duties, gaps=lacking,
        who={name: by_id[person] for name, person in (found or {}).items()},
        others={
            d.name: tuple((by_id[i], what) for i, what in could_fill(d, able)) for d in duties if d.name in lacking
        },
    )  # fmt: skip
