"""Publishing a network, and what somebody says of the field: a walk-down, a find, a correction."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime

from spinel.actions import reviews, standing
from spinel.actions.acting import Act, Unit, utc_text, work
from spinel.actions.equipment import check_found, equipment_class, stands_otherwise
from spinel.actions.site import SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.network.check import accept, parse
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.losing import without_supply
from spinel.core.network.now import INSPECTED, position_words
from spinel.core.network.upgrade import upgraded
from spinel.core.said import Sayable, say
from spinel.core.switching.life import NAMES
from spinel.store import network as store
from spinel.store import programs


@on_site
def publish(
    act: Act,
    text: str,
    note: str = "",
    against: str | None = None,
    along: Callable[[Unit, str], None] = lambda unit, revision_hash: None,
) -> tuple[int, list[str]]:
    """Publish a document as the next revision; permits whose figures it makes worse are suspended. ``note``: what its
    publisher says of it. ``against``: hash of the revision that it was compared with, empty where there was none: a
    Refusal when another is the latest by now, which it would undo unseen. ``along``: what is done in the same
    transaction, given the revision's hash.

    Returns the revision's number and the permits touched. DocumentError with all problems, nothing saved.
    """
    act.actor.needs("coordinator", what=say("act-network-publish-a-network"))
    note = texts.REASON.check(note, "note") if note else ""
    data = parse(text)
    new = accept(data)
    # what is published is of the present version; earlier revisions stay as they were stored
    stored = canonical(upgraded(data))
    name = digest(stored)
    with work(act) as unit:
        latest = store.latest_key()
        if against is not None and against != (latest.hash if latest else ""):
            raise Refusal(
                say("act-network-what-is-published-was-compared"),
                say("act-network-another-revision-meanwhile", by=latest.published_by if latest else ""),
                say("act-network-look-at-what-differs-now"),
            )
        if latest and latest.hash == name:
            raise Refusal(
                say("act-network-revisions-differ"),
                say("act-network-this-is-revision-as-published", number=latest.number),
                say("act-network-nothing-to-publish"),
            )
        if store.exists(name):
            raise Refusal(
                say("act-network-revisions-differ"),
                say("act-network-an-earlier-revision-is-word-for-word"),
                say("act-network-publish-it-with-a-change-that-says"),
            )
        if latest:
            nothing_hangs_on_what_goes(unit.site.as_it_is(), new)
        number = (latest.number if latest else 0) + 1
        store.insert(name, number, stored, act.at, act.actor.name)
        said = {"note": note} if note else {}
        unit.record("network published", f"network:{number}", {"hash": name, **said})
        along(unit, name)
        touched = reviews.after_change(unit, say("act-network-network-revision", number=number))
    return number, touched


def nothing_hangs_on_what_goes(here: SiteNow, new: Network) -> None:
    """Refusal when the new revision lacks equipment that is locked or grounded, or that a program is about."""
    gone = {e.id: e.tag for e in here.network.elements if e.id not in new.element}
    why = {
        i: say("act-network-a-lock-of-hangs-on-it", locks=d.locks[0])
        for i, d in here.now.items()
        if i in gone and d.locks
    }
    why |= {
        g.element_id: say("act-network-a-ground-of-hangs-there", hold=g.hold)
        for g in here.field.grounds
        if g.element_id in gone
    }
    for p in programs.programs_in(("draft", "checked", "released", "executing", "stopped")):
        content = shapes.content("program", p.content)
        for i in {content["equipment"]["id"], *(s["element_id"] for s in content["steps"])} & set(gone):
            why[i] = say("act-network-is-and-works-on-it", number=p.number, state=NAMES[p.state])
    if why:
        i, because = next(iter(why.items()))
        raise Refusal(
            say("act-network-nothing-is-taken-out-of-the-network"),
            say("act-network-this-document-has-no-but", i=gone[i], because=because),
            say("act-network-restore-or-abandon-first-then-publish"),
        )


@on_site
def walk_down(act: Act, positions: dict[str, str]) -> None:
    """Record all positions and running states at once as found. Keys are tags; every switching device is named.

    What stands otherwise than the record said stops and warns as anything found does.
    """
    act.actor.needs("coordinator", "director", what=say("act-network-record-a-walk-down"))
    network = act.site.as_it_is().network
    missing = [e.tag for e in network.elements if e.kind in SWITCHING and e.tag not in positions]
    if missing:
        raise InputError("positions", ", ".join(missing), say("act-network-every-switching-device-is-found-in-some"))
    walked = shapes.write("field event", {"walked": True}).text
    known = [(network.by_tag[tag].id, value) for tag, value in positions.items() if tag in network.by_tag]
    seen = [replace(reviews.foreseen("found", i, value), walked=True) for i, value in known]
    reviews.foresee(act.site, *seen)
    with work(act) as unit:
        before, otherwise = unit.site.as_it_is(), []
        for tag, value in positions.items():
            element = network.by_tag.get(tag)
            if element is None:
                raise NotFound("equipment", tag)
            check_found(element, value)
            store.add_event(act.at, act.actor.name, "found", element.id, value, "walk-down", detail=walked)
            if stands_otherwise(before.device(element), value):
                otherwise.append((element, value, reviews.island_of(before, element)))
        unit.record("walk-down recorded", "network:field", {"positions": positions})
        for element, value, island in otherwise:
            reviews.after_found(unit, element, position_words(value), island)
        reviews.after_change(unit, say("act-network-the-walk-down"))


@on_site
def report_found(act: Act, element_id: str, value: str, note: str) -> list[str]:
    """Anyone signed in: a state seen that the record did not expect. Suspends permits in the island around it."""
    element = act.site.as_it_is().network.get(element_id)
    check_found(element, value)
    note = texts.FOUND.check(note)
    reviews.foresee(act.site, reviews.foreseen("found", element_id, value))
    with work(act) as unit:
        return [] if unit.done else record_found(unit, element, value, note)


def record_found(unit: Unit, element: Element, value: str, note: Sayable) -> list[str]:
    """What was found, and everything that it stops: numbers of the permits and programs touched."""
    around_before = reviews.island_of(unit.site.as_it_is(), element)
    store.add_event(unit.act.at, unit.act.actor.name, "found", element.id, value, note)
    unit.record("found", f"equipment:{element.tag}", {"value": value, "note": note})
    touched = reviews.after_found(unit, element, position_words(value), around_before)
    return touched + reviews.after_change(unit, say("act-network-found", tag=element.tag, value=position_words(value)))


@on_site
def opened_in_emergency(act: Act, element_id: str, by: str, when: datetime, note: str) -> tuple[list[str], list[str]]:
    """Somebody opened a device because somebody or something was in danger: never refused, recorded afterwards.

    Anyone signed in records it: by whom, when, why. Its position is unknown until it is checked; everything around it
    is reviewed. Returns the tags that lost their supply, and the numbers of what was stopped.
    """
    element = act.site.as_it_is().network.get(element_id)
    who, text = texts.NAME.check(by, "by"), texts.FOUND.check(note)
    if element.kind not in SWITCHING:
        raise InputError("element", element.tag, say("act-network-a-device-that-opens"))
    if when > act.now:
        raise InputError("when", utc_text(when), say("act-network-a-moment-that-has-been"))
    with work(act) as unit:
        if unit.done:
            return [], []
        here = unit.site.as_it_is()
        before = reviews.island_of(here, element)
        dark = [e.tag for e in without_supply(here.network, here.now, {element.id})]
        position = "off" if element.kind == "transfer_switch" else "open"
        store.add_event(act.at, act.actor.name, "opened", element.id, position, text)
        known = {"by": who, "at": utc_text(when), "note": text, "lost": dark}
        unit.record("opened in an emergency", f"equipment:{element.tag}", known)
        touched = reviews.after_found(unit, element, say("act-network-opened-in-an-emergency", by=who), before)
        touched += reviews.after_change(unit, say("act-network-was-opened-in-an-emergency", tag=element.tag))
    return dark, touched


@on_site
def inspected(act: Act, element_id: str, cause: str, inspected_by: int) -> None:
    """What tripped was inspected by a qualified person, who is named, and its cause is known: it may be closed again.

    Its position stays unknown until somebody checks it.
    """
    act.actor.needs("director", "coordinator", what=say("act-network-record-the-inspection-after-a-trip"))
    here = act.site.as_it_is()
    element = here.network.get(element_id)
    text = texts.CAUSE.check(cause)
    name = act.site.names().get(inspected_by)
    if name is None:
        raise InputError("inspected_by", "", say("act-network-the-qualified-person-who-inspected-it"))
    with work(act) as unit:
        if unit.done:
            return
        if not unit.site.as_it_is().device(element).tripped:
            raise Refusal(
                say("act-network-an-inspection-follows-a-trip"),
                say("act-network-was-not-found-tripped", tag=element.tag),
                say("act-network-report-what-you-found"),
            )
        kind = equipment_class(here.network, element, "")
        standing.need(here, inspected_by, name, "inspect", kind, here.day(act.now))
        store.add_event(act.at, act.actor.name, "checked", element.id, INSPECTED, text)
        detail = {"cause": text, "inspected_by": name}
        unit.record("inspected after a trip", f"equipment:{element.tag}", detail)


@on_site
def correct(act: Act, element_id: str, value: str, reason: str) -> list[str]:
    """Mend a wrong entry: a second person, with a reason. It never makes anything checked, locked, proved or grounded.

    Returns numbers of the permits and programs that it stops, as something found would.
    """
    act.actor.needs("director", "coordinator", what=say("act-network-correct-an-entry"))
    element = act.site.as_it_is().network.get(element_id)
    check_found(element, value)
    reason = texts.CORRECTION.check(reason)
    reviews.foresee(act.site, reviews.foreseen("corrected", element_id, value))
    with work(act) as unit:
        if unit.done:
            return []
        last = store.last_actor(element.id)
        if last is None:
            raise Refusal(
                say("act-network-only-an-entry-is-corrected"),
                say("act-network-nothing-is-recorded-on", tag=element.tag),
                say("act-network-report-what-you-found"),
            )
        if last == act.actor.name:
            raise NotAllowed(
                say("act-network-a-second-person-corrects"),
                say("act-network-you-recorded-this-entry"),
                say("act-network-somebody-else-corrects-it"),
            )
        around_before = reviews.island_of(unit.site.as_it_is(), element)
        store.add_event(act.at, act.actor.name, "corrected", element.id, value, reason.strip())
        unit.record("corrected", f"equipment:{element.tag}", {"value": value, "reason": reason.strip()})
        touched = reviews.after_found(unit, element, position_words(value), around_before)
        return touched + reviews.after_change(
            unit, say("act-network-corrected-to", tag=element.tag, value=position_words(value))
        )
