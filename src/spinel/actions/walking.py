"""A walk-down place by place: what the eye saw of each piece, recorded once however often it is sent.

A position becomes a find, which counts as looked at, and stops what it stops. What the record of the network says
otherwise becomes a draft with the differences: a plate, a piece that is not here, one that is on no drawing. Nothing of
the network is changed by it before somebody publishes that.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from spinel.actions import attachments, drafting, reviews
from spinel.actions.acting import Act, utc_moment, work
from spinel.actions.draft_rows import WALKED
from spinel.actions.equipment import check_found, findable, stands_otherwise
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.editing import acts
from spinel.core.editing.records import Sheet
from spinel.core.errors import InputError
from spinel.core.network.document import Element
from spinel.core.network.now import position_words
from spinel.core.network.sheets import Fault
from spinel.core.said import say
from spinel.core.upkeep import LOOK, RESULTS, Upkept
from spinel.store import network as store
from spinel.store import network_drafts


@dataclass(frozen=True, kw_only=True)
class SeenThere:
    """What was seen of one piece. ``position``: empty where it could not be seen. ``lock``: its number, empty for none,
    None where nobody looked. ``plate``: values otherwise than recorded, by field. ``absent``: it is not here.
    ``age_s``: how long ago it was seen, s; ``sure``: whether that was measured by a clock that nobody sets."""

    position: str = ""
    lock: str | None = None
    plate: Mapping[str, Any]
    condition: str = ""
    note: str = ""
    absent: bool = False
    age_s: float = 0.0
    sure: bool = True


#: What was seen may have been seen so much earlier than it is said to be, s.
SLACK_S = 60.0


@dataclass(frozen=True)
class Stand:
    """A piece as it stands in its place. ``findable``: positions that it could be found in."""

    element: Element
    findable: tuple[str, ...]
    recorded: str | None
    locks: tuple[str, ...]


@on_site
def may(act: Act) -> None:
    """NotAllowed for whoever records no walk-down; asked before anything that was typed is looked at."""
    act.actor.needs("coordinator", "director", what=say("act-network-record-a-walk-down"))


@on_site
def places(site: Site) -> list[tuple[str, int]]:
    """Places by name, each with how many pieces stand in it; conductors are walked along, not stood at."""
    found: dict[str, int] = {}
    for e in site.as_it_is().network.elements:
        if not e.row.conductor:
            found[e.location] = found.get(e.location, 0) + 1
    return sorted(found.items())


@on_site
def at_place(site: Site, place: str) -> list[Stand]:
    """What stands in a place, enclosure by enclosure, in the order of the document."""
    here = site.as_it_is()
    box = {e.id: i for i, e in enumerate(here.network.enclosures)}
    inside = [e for e in here.network.elements if e.location == place and not e.row.conductor]

    def stands_in(e: Element) -> int:
        return min((box[b.id] for b in here.network.enclosures_of(e)), default=len(box))

    return [_stand(here, e) for e in sorted(inside, key=stands_in)]


def _stand(here: SiteNow, e: Element) -> Stand:
    device = here.device(e)
    recorded = device.position if e.row.switches else _running(device.running)
    return Stand(e, findable(e), recorded, device.locks)


def _running(running: bool | None) -> str | None:
    return None if running is None else "running" if running else "stopped"


@on_site
def would_stop(site: Site, element_id: str, position: str) -> bool:
    """Is this another position than the record's, so that recording it stops what is around?"""
    here = site.as_it_is()
    element = here.network.get(element_id)
    check_found(element, position)
    return stands_otherwise(here.device(element), position)


@on_site
def keep(act: Act, element_id: str, seen: SeenThere) -> list[str]:
    """Record what was seen of a piece. Numbers of the permits and programs that it stops. InputError beside its field
    for what cannot be; a repeat of the same request records nothing."""
    may(act)
    element = act.site.as_it_is().network.get(element_id)
    if seen.position:
        check_found(element, seen.position)
    if seen.condition and seen.condition not in RESULTS:
        raise InputError("condition", seen.condition, say("one-of", options=RESULTS))
    note = texts.STATEMENT.check(seen.note, "note")
    if seen.lock:
        texts.TAG.check(seen.lock, "lock")
    touched: list[str] = []
    if seen.position:
        touched = _found(act, element, seen, note)
    # each part is an act of its own, and answers to its own repeat
    if seen.condition:
        day = act.site.as_it_is().day(act.now).isoformat()
        done = Upkept(day=day, what=LOOK, done_by=act.actor.name, result=seen.condition, note=note)
        attachments.record_upkeep(_part(act, "condition"), element_id, done)
    _differences(_part(act, "record"), element, seen)
    return touched


def _part(act: Act, name: str) -> Act:
    request = f"{act.request_id}-{name}" if act.request_id else None
    return Act(act.site, act.actor, act.now, request)


def _found(act: Act, element: Element, seen: SeenThere, note: str) -> list[str]:
    """What was seen a while ago counts as looked at only where its age is sure; and not at all where something was
    recorded on the piece since: then somebody looks again."""
    position = seen.position
    walked = shapes.write("field event", {"walked": True}).text if seen.sure else "{}"
    reviews.foresee(act.site, reviews.foreseen("found", element.id, position))
    with work(act) as unit:
        if unit.done:
            return []
        _nothing_since(act, element, seen)
        here = unit.site.as_it_is()
        otherwise = stands_otherwise(here.device(element), position)
        island = reviews.island_of(here, element)
        store.add_event(act.at, act.actor.name, "found", element.id, position, note or "walk-down", detail=walked)
        unit.record("found", f"equipment:{element.tag}", {"value": position, "note": note, "walked": seen.sure})
        touched = reviews.after_found(unit, element, position_words(position), island) if otherwise else []
        cause = say("act-network-found", tag=element.tag, value=position_words(position))
        return touched + reviews.after_change(unit, cause)


def _nothing_since(act: Act, element: Element, seen: SeenThere) -> None:
    last = store.last_at(element.id)
    if seen.age_s > 0 and last and utc_moment(last) > act.now - timedelta(seconds=seen.age_s + SLACK_S):
        raise InputError("position", seen.position, say("walking-recorded-since", tag=element.tag))


def _differences(act: Act, element: Element, seen: SeenThere) -> None:
    """What the drawing and the plates say otherwise, into the draft of the walk-down."""
    notes = []
    device = act.site.as_it_is().device(element)
    if seen.lock is not None and bool(seen.lock) != bool(device.locks):
        said = say("walking-a-lock-seen", lock=seen.lock) if seen.lock else say("walking-no-lock-seen")
        notes.append(Fault(WALKED, 0, element.tag, said, say("walking-lock-otherwise")))
    if seen.note and not seen.position and not seen.condition:
        # nobody said how it is: no find and no condition is made of a note
        notes.append(Fault(WALKED, 0, element.tag, seen.note, say("walking-noted")))
    if seen.plate or seen.absent:
        number = _draft(act)
        draft = drafting.draft(act.site, number)

        def change(sheet: Sheet) -> Any:
            if not any(e["id"] == element.id for e in sheet.document["elements"]):
                return say("walking-seen", tag=element.tag)
            if seen.absent:
                acts.remove(sheet, [element.id])
                return say("walking-not-here", tag=element.tag)
            acts.change(sheet, "elements", element.id, seen.plate, {"from": "seen", "on": act.at[:10]})
            return say("walking-plate", tag=element.tag)

        drafting.edit(act, number, draft.step, change, walking=True)
    if notes:
        drafting.add_faults(_part(act, "notes"), _draft(act), notes)


@on_site
def not_on_the_drawing(act: Act, place: str, tag: str, what: str) -> str:
    """Something stands there that no drawing has: a note in the draft, to be hung where it belongs; its number."""
    may(act)
    tag, what = texts.TAG.check(tag), texts.FOUND.check(what)
    fault = Fault(WALKED, 0, tag, what, say("walking-hang-it", place=place))
    number = _draft(act)
    drafting.add_faults(_part(act, "notes"), number, [fault])
    return number


def _draft(act: Act) -> str:
    """The open draft that walk-downs add to; begun with the first thing that differs."""
    with act.site.connection():
        for row in network_drafts.open_ones():
            kept = network_drafts.steps(row.id)
            if kept and getattr(kept[0].what, "code", "") == "walking-begun":
                return str(row.number)
    return drafting.begin_for_walk(_part(act, "draft"))
