"""What is done in an emergency at a place: who is called, where the switch and the things that help are, the way of
rescue, and who here is trained for it today."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from spinel.actions.acting import Act, work
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical
from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.store import emergency as store
from spinel.store import training

#: What a plan says, in the order in which it is needed. Who is called may not be left out.
FIELDS = ("call", "switch", "extinguisher", "defibrillator", "rescue", "note")
#: What somebody must have been taught to free a victim, and to keep them alive.
RELEASE, AID = "release", ("first_aid", "cpr")


@dataclass(frozen=True)
class EmergencyAt:
    """``says``: by field, those that were filled in; empty where nobody wrote a plan for the place."""

    location: str
    says: Mapping[str, str]
    at: str = ""
    by: str = ""


@on_site
def of_place(site: Site, location: str) -> EmergencyAt:
    """The plan of a place, or one that says nothing."""
    return _read(location)


def _read(location: str) -> EmergencyAt:
    row = store.latest().get(location)
    if row is None:
        return EmergencyAt(location, {})
    told = json.loads(row.content)
    return EmergencyAt(location, {f: told[f] for f in FIELDS if f in told}, row.at, row.by)


@on_site
def everywhere(site: Site) -> list[EmergencyAt]:
    """Every place of the network, those without a plan first."""
    known, places = store.latest(), sorted({e.location for e in site.as_it_is().network.elements if e.location})
    found = [_read(p) for p in places]
    return sorted(found, key=lambda plan: (plan.location in known, plan.location))


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", what=say("act-emergency-write-a-plan"))


@on_site
def write(act: Act, location: str, says: Mapping[str, str]) -> None:
    """What is done there from now on. InputError for a place that is not in the network, and without who is called."""
    may(act)
    if location not in {e.location for e in act.site.as_it_is().network.elements}:
        raise InputError("location", location, say("emergency-a-place-of-the-network"))
    kept = {f: texts.EMERGENCY.check(says.get(f, ""), f) for f in FIELDS}
    if not kept["call"]:
        raise InputError("call", "", say("emergency-who-is-called"))
    content = canonical({f: text for f, text in kept.items() if text})
    with work(act) as unit:
        if unit.done:
            return
        store.insert(location, content, act.at, act.actor.name)
        unit.record("emergency plan written", f"place:{location}", {"says": json.loads(content)})


@on_site
def trained(site: Site, today: date) -> list[tuple[str, str]]:
    """Name and telephone of everybody here who was taught both to free and to revive, in date on a day."""
    courses, found = training.by_person(), []
    for person in site.register():
        held = {c.course for c in courses.get(person.id, ()) if c.until is not None and c.day <= today <= c.until}
        if person.active and RELEASE in held and held & set(AID):
            found.append((person.name, person.phone))
    return found
