"""The published network, the field as found, and the figures that follow from both."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, datetime
from functools import cached_property, lru_cache
from zoneinfo import ZoneInfo

from spinel.actions import review
from spinel.actions.acting import BEFORE_ROLLBACK, Act, Unit, work
from spinel.core.canonical import canonical, digest
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.hazard import Hazard, Study
from spinel.core.network.check import accept, parse
from spinel.core.network.circuit import Circuit, at_present
from spinel.core.network.document import SWITCHING, Element, Network, read_network
from spinel.core.network.field import Field, fold_field
from spinel.core.network.liveness import Liveness, liveness
from spinel.core.network.now import (
    FOUND_POSITIONS,
    FOUND_STATES,
    FOUND_THROWS,
    NEVER_SEEN,
    DeviceNow,
)
from spinel.core.network.sides import reached_ends, read_reach
from spinel.core.network.upgrade import upgraded
from spinel.core.profile import Profile, profile
from spinel.core.protection.duty import Duty
from spinel.store import network as store
from spinel.store import programs, settings
from spinel.store.models import Revision


@dataclass(frozen=True)
class Site:
    """The latest revision with the field state folded onto it: what every page and figure starts from."""

    network: Network
    number: int
    hash: str
    published_at: str
    published_by: str
    field: Field
    event_id: int
    ceiling_cal_cm2: float
    liveness: Liveness
    profile: Profile
    walk_down: tuple[str, str] | None

    @cached_property
    def study(self) -> Study:
        """The figures with the field as it stands; made when the first figure is asked for."""
        return _study(self.hash, self.event_id, self.ceiling_cal_cm2)

    @property
    def now(self) -> Mapping[str, DeviceNow]:
        return self.field.devices

    def state_of(self, element: Element) -> str:
        return self.liveness.elements[element.id]

    def device(self, element: Element) -> DeviceNow:
        return self.now.get(element.id, NEVER_SEEN)

    def seen_with(self, field: Field) -> Site:
        """The same site with another field: after a step of a program, or in a practice run."""
        circuit = at_present(self.network, field.devices)
        return replace(self, field=field, liveness=liveness(self.network, circuit, field.devices, field))


@dataclass(frozen=True)
class Card:
    """What the hazard card says of one element. ``sides``: every way of reaching it, the worst first."""

    element: Element
    hazard: Hazard
    sides: tuple[Hazard, ...]
    state: str
    fed_by: tuple[str, ...]
    may_feed: tuple[str, ...]
    inside: tuple[str, ...]
    device: DeviceNow
    duty: Duty | None


def published() -> bool:
    """Is there any network yet?"""
    return store.latest_key() is not None


def site() -> Site:
    """The site as it is now; NotFound before the first network was published. Cached per revision and events."""
    key = store.latest_key()
    if key is None:
        raise NotFound("network", "published yet")
    return _site(*key, store.last_event_id(), float(settings.get("ceiling_cal_cm2")))


@lru_cache(maxsize=4)
def _site(
    revision_hash: str, number: int, published_at: str, published_by: str, last_event: int, ceiling: float
) -> Site:
    network = _network(revision_hash)
    practice = profile(network.site.profile)
    field = _field(revision_hash, last_event)
    circuit = at_present(network, field.devices)
    return Site(
        network, number, revision_hash, published_at, published_by, field, last_event, ceiling,
        liveness(network, circuit, field.devices, field), practice, store.last_walk_down(),
    )  # fmt: skip


@lru_cache(maxsize=16)
def _field(revision_hash: str, last_event: int) -> Field:
    return fold_field(_network(revision_hash), store.events(last_event))


def _study(revision_hash: str, last_event: int, ceiling: float) -> Study:
    """The figures with the field as it was; events that move nothing share them."""
    circuit = at_present(_network(revision_hash), _field(revision_hash, last_event).devices)
    return _study_of(revision_hash, _Stands(circuit), ceiling)


class _Stands:
    """A circuit as the key of a cache: equal where the same devices are closed and the same sources run."""

    def __init__(self, circuit: Circuit):
        self.circuit = circuit
        self._key = (tuple(sorted(circuit.closed.items())), circuit.running, circuit.bypass)

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Stands) and self._key == other._key


@lru_cache(maxsize=16)
def _study_of(revision_hash: str, stands: _Stands, ceiling: float) -> Study:
    shared = _document_study(revision_hash, ceiling)
    return Study(shared.network, shared.profile, stands.circuit, shared.ceiling_cal_cm2, shared)


@lru_cache(maxsize=4)
def _document_study(revision_hash: str, ceiling: float) -> Study:
    """The figures of the document's cases, which no event changes."""
    network = _network(revision_hash)
    practice = profile(network.site.profile)
    return Study(network, practice, None, min(ceiling, practice.ceiling_cal_cm2))


def field_as_of(event_id: int) -> Field:
    """The field after the event with this id, on the network as it is now."""
    return _field(site().hash, event_id)


def study_as_of(event_id: int) -> Study:
    """The figures with the field as it was after the event with this id.

    A program carries the figures of the equipment live, as it was when it was drafted: what it opens itself must not
    make them smaller, nor leave so little current that no method covers it.
    """
    return _study(site().hash, event_id, float(settings.get("ceiling_cal_cm2")))


def last_event_id() -> int:
    return store.last_event_id()


BEFORE_ROLLBACK += [_site.cache_clear, _field.cache_clear, _study_of.cache_clear]


@lru_cache(maxsize=4)
def _network(revision_hash: str) -> Network:
    text = store.document_of(revision_hash)
    if text is None:
        raise NotFound("network revision", revision_hash)
    return read_network(json.loads(text))


def document_text(revision_hash: str) -> str:
    """The stored canonical JSON of a revision, or NotFound."""
    text = store.document_of(revision_hash)
    if text is None:
        raise NotFound("network revision", revision_hash)
    return text


def card(element_id: str, touches: str = "", working_distance_mm: float | None = None) -> Card:
    """The hazard card of an element; where nothing is chosen, the worst over all its sides."""
    here = site()
    element = here.network.get(element_id)
    hazard = here.study.hazard(element_id, touches, working_distance_mm)
    fed_by, may_feed = here.liveness.sources_of(element)
    return Card(
        element, hazard, tuple(here.study.sides(element_id, working_distance_mm)), here.state_of(element), fed_by,
        may_feed, also_inside(here.network, element), here.device(element), here.study.duty.get(element.id),
    )  # fmt: skip


def also_inside(network: Network, element: Element) -> tuple[str, ...]:
    """Other supplies in the enclosures of an element, in words: they stay live when it is off."""
    return tuple(
        f"{s.voltage_v:g} V {s.current.upper()} {s.name[:1].lower()}{s.name[1:]} from {s.source} in {box.name}"
        for box in network.enclosures_of(element)
        for s in box.auxiliary_supplies
    )


def equipment_class(network: Network, element: Element, touches: str) -> str:
    """Class of the enclosure that is opened; qualifications are held per class."""
    node = network.node[reached_ends(element, read_reach(element, touches))[-1]]
    box = network.enclosure.get(node.enclosure or "")
    return box.equipment_class if box else "control panel"


def publish(act: Act, text: str) -> tuple[int, list[str]]:
    """Publish a document as the next revision; permits whose figures it makes worse are suspended.

    Returns the revision's number and the permits touched. DocumentError with all problems, nothing saved.
    """
    act.actor.needs("coordinator", what="publish a network")
    data = parse(text)
    new = accept(data)
    # what is published is of the present version; earlier revisions stay as they were stored
    stored = canonical(upgraded(data))
    name = digest(stored)
    with work(act) as unit:
        latest = store.latest()
        if latest and latest.hash == name:
            raise Refusal("revisions differ", f"This is revision {latest.number} as published.", "Nothing to publish.")
        if Revision.get_or_none(Revision.hash == name):
            raise Refusal(
                "revisions differ", "An earlier revision is word for word the same.",
                "Publish it with a change that says why it returns, for instance in the site's name.",
            )  # fmt: skip
        if latest:
            _nothing_hangs_on_what_goes(new)
        number = (latest.number if latest else 0) + 1
        Revision.insert(
            hash=name, number=number, document=stored, published_at=act.at, published_by=act.actor.name
        ).execute()
        unit.record("network published", f"network:{number}", {"hash": name})
        touched = review.after_change(unit, site(), f"network revision {number}")
    return number, touched


def _nothing_hangs_on_what_goes(new: Network) -> None:
    """Refusal when the new revision lacks equipment that is locked or grounded, or that a program is about."""
    here = site()
    gone = {e.id: e.tag for e in here.network.elements if e.id not in new.element}
    why = {i: f"a lock of {d.locks[0]} hangs on it" for i, d in here.now.items() if i in gone and d.locks}
    why |= {g.element_id: f"a ground of {g.hold} hangs there" for g in here.field.grounds if g.element_id in gone}
    for p in programs.programs_in(("draft", "checked", "released", "executing", "stopped")):
        content = json.loads(p.content)
        for i in {content["equipment"]["id"], *(s["element_id"] for s in content["steps"])} & set(gone):
            why[i] = f"{p.number} is {p.state} and works on it"
    if why:
        i, because = next(iter(why.items()))
        raise Refusal(
            "nothing is taken out of the network while it is held", f"This document has no {gone[i]}, but {because}.",
            "Restore or abandon first, then publish.",
        )  # fmt: skip


def walk_down(act: Act, positions: dict[str, str]) -> None:
    """Record all positions and running states at once as found. Keys are tags; every switching device is named."""
    act.actor.needs("coordinator", "director", what="record a walk-down")
    network = site().network
    missing = [e.tag for e in network.elements if e.kind in SWITCHING and e.tag not in positions]
    if missing:
        raise InputError("positions", ", ".join(missing), "every switching device is found in some position")
    with work(act) as unit:
        for tag, value in positions.items():
            element = network.by_tag.get(tag)
            if element is None:
                raise NotFound("equipment", tag)
            _check_found(element, value)
            store.add_event(act.at, act.actor.name, "found", element.id, value, "walk-down")
        unit.record("walk-down recorded", "network:field", {"positions": positions})
        review.after_change(unit, site(), "the walk-down")


def report_found(act: Act, element_id: str, value: str, note: str) -> list[str]:
    """Anyone signed in: a state seen that the record did not expect. Suspends permits in the island around it."""
    element = site().network.get(element_id)
    _check_found(element, value)
    if not 4 <= len(note.strip()) <= 500:
        raise InputError("note", note, "what you saw, in 4 to 500 characters")
    with work(act) as unit:
        return [] if unit.done else record_found(unit, element, value, note.strip())


def record_found(unit: Unit, element: Element, value: str, note: str) -> list[str]:
    """What was found, and everything that it stops: numbers of the permits and programs touched."""
    around_before = review.island_of(site(), element)
    store.add_event(unit.act.at, unit.act.actor.name, "found", element.id, value, note)
    unit.record("found", f"equipment:{element.tag}", {"value": value, "note": note})
    after = site()
    touched = review.after_found(unit, after, element, value, around_before)
    return touched + review.after_change(unit, after, f"{element.tag} found {value}")


def correct(act: Act, element_id: str, value: str, reason: str) -> list[str]:
    """Mend a wrong entry: a second person, with a reason. It never makes anything checked, locked, proved or grounded.

    Returns numbers of the permits and programs that it stops, as something found would.
    """
    act.actor.needs("director", "coordinator", what="correct an entry")
    element = site().network.get(element_id)
    _check_found(element, value)
    if not 4 <= len(reason.strip()) <= 500:
        raise InputError("reason", reason, "why the entry is wrong, in 4 to 500 characters")
    with work(act) as unit:
        if unit.done:
            return []
        last = store.last_actor(element.id)
        if last is None:
            raise Refusal(
                "only an entry is corrected", f"Nothing is recorded on {element.tag}.", "Report what you found."
            )
        if last == act.actor.name:
            raise NotAllowed("a second person corrects", "You recorded this entry.", "Somebody else corrects it.")
        around_before = review.island_of(site(), element)
        store.add_event(act.at, act.actor.name, "corrected", element.id, value, reason.strip())
        unit.record("corrected", f"equipment:{element.tag}", {"value": value, "reason": reason.strip()})
        after = site()
        touched = review.after_found(unit, after, element, value, around_before)
        return touched + review.after_change(unit, after, f"{element.tag} corrected to {value}")


def findable(element: Element) -> tuple[str, ...]:
    """What can be found on this element."""
    if element.kind == "transfer_switch":
        return FOUND_THROWS
    if element.kind in SWITCHING:
        return FOUND_POSITIONS if element.withdrawable else FOUND_POSITIONS[:2]
    return FOUND_STATES if element.kind in ("generator", "inverter", "shore_connection", "motor") else ()


def _check_found(element: Element, value: str) -> None:
    choices = findable(element)
    if value not in choices:
        allowed = "one of " + ", ".join(choices) if choices else f"nothing: a {element.kind_name.lower()} has no state"
        raise InputError("value", value, allowed)


def site_day(moment: datetime) -> date:
    """The calendar day at the site: qualifications run out at its end."""
    return moment.astimezone(ZoneInfo(site().network.site.time_zone)).date()
