"""How this site goes about a class of equipment, and the checklist of one piece: what isolates it and where it is
tested, each with its picture, and what the site says of it. Who isolates a piece by its checklist for the first time is
told so: nobody has shown yet that it is right."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass

from spinel.actions import attachments
from spinel.actions.acting import Act, work
from spinel.actions.equipment import equipment_classes
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.canonical import canonical
from spinel.core.errors import InputError, Refusal
from spinel.core.isolation.points import isolation
from spinel.core.network.document import Element
from spinel.core.said import Sayable, say
from spinel.store import procedures as store
from spinel.store.attachments import Attached

MOST_LINES = 40


@dataclass(frozen=True)
class SiteLines:
    """``lines``: empty where nobody wrote any."""

    subject: str
    lines: tuple[str, ...]
    at: str = ""
    by: str = ""
    because: str = ""


@dataclass(frozen=True)
class Place:
    """A device that isolates, or where absence of voltage is tested, with its pictures."""

    element: Element
    pictures: tuple[Attached, ...]


@dataclass(frozen=True, kw_only=True)
class Checklist:
    """``devices``: what isolates it; ``tested``: where it is tested; ``own``: what the site says of this piece;
    ``by_class``: of each class that is opened there. ``first_time``: nobody has isolated it since ``own`` was written;
    ``why_not``: why nothing isolates it."""

    element: Element
    devices: tuple[Place, ...]
    tested: tuple[Place, ...]
    own: SiteLines
    by_class: tuple[SiteLines, ...]
    first_time: bool
    why_not: Sayable = ""

    @property
    def without_picture(self) -> tuple[str, ...]:
        return tuple(p.element.tag for p in (*self.devices, *self.tested) if not p.pictures)


@on_site
def checklist(site: Site, element_id: str) -> Checklist:
    """Of a piece of equipment, or NotFound."""
    here = site.as_it_is()
    element = here.network.get(element_id)
    why: Sayable = ""
    try:
        points = isolation(here.study, element).points
    except Refusal as refusal:
        points, why = (), refusal.why
    own = _read(_piece(element_id))
    return Checklist(
        element=element, devices=tuple(_place(site, p) for p in points), tested=(_place(site, element),), own=own,
        by_class=tuple(_read(_class(c)) for c in equipment_classes(here.network, element)),
        first_time=not store.isolated_since(element_id, own.at), why_not=why,
    )  # fmt: skip


@on_site
def first_time(site: Site, element_id: str) -> bool:
    """Has nobody isolated it since its checklist was written, or ever?"""
    return not store.isolated_since(element_id, _read(_piece(element_id)).at)


@on_site
def pictures(site: Site, element_id: str) -> tuple[Attached, ...]:
    """Of a device, the latest first: what an operator compares with what they stand at."""
    return tuple(a for a in attachments.of(site, element_id) if a.file.endswith(".jpg"))


def _place(site: Site, element: Element) -> Place:
    return Place(element, pictures(site, element.id))


def _piece(element_id: str) -> str:
    return f"equipment:{element_id}"


def _class(equipment_class: str) -> str:
    return f"class:{equipment_class}"


def _read(subject: str) -> SiteLines:
    row = store.latest(subject)
    if row is None:
        return SiteLines(subject, ())
    return SiteLines(subject, tuple(json.loads(row.content)["lines"]), row.at, row.by, row.because)


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", "person_in_charge", what=say("act-procedures-write"))


@on_site
def write(act: Act, element_id: str, equipment_class: str, lines: Sequence[str], because: str) -> None:
    """The checklist of a piece; with ``equipment_class`` what is done at every piece of that class. No lines: nothing
    is said of it any more. InputError for a class that is not opened there, and for too many or too long lines."""
    may(act)
    network = act.site.as_it_is().network
    element = network.get(element_id)
    if equipment_class and equipment_class not in equipment_classes(network, element):
        raise InputError("class", equipment_class, say("procedure-a-class-that-is-opened-there"))
    why = texts.REASON.check(because, "because")
    kept = [texts.LINE.check(line, "lines") for line in lines if line.strip()]
    if len(kept) > MOST_LINES:
        raise InputError("lines", len(kept), say("procedure-at-most-lines", most=MOST_LINES))
    subject = _class(equipment_class) if equipment_class else _piece(element_id)
    with work(act) as unit:
        if unit.done:
            return
        store.insert(subject, canonical({"lines": kept}), act.at, act.actor.name, why)
        named = equipment_class or element.tag
        unit.record("procedure written", f"equipment:{element.tag}", {"of": named, "lines": kept, "because": why})
