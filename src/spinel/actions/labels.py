"""Labels on equipment: printed, put up, seen, taken off; those of others recorded as they were found; and which of all
that hang are wrong by now. A label's figures are the card's own, of the network as published and as it stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from spinel.actions import attachments
from spinel.actions.acting import Act, Unit, utc_moment, work
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.errors import InputError, NotFound, Refusal, Stale
from spinel.core.labels import (
    GRAVITY,
    REVIEW_YEARS,
    LabelSays,
    LabelVerdict,
    label_of,
    lacks,
    read_label,
    verdict,
)
from spinel.core.network.sides import NOT_CHOSEN, reaches, read_reach
from spinel.core.said import say
from spinel.core.stored import parsed
from spinel.core.study import located
from spinel.store import labels as store
from spinel.store.models import LabelEvent, StoredLabel

#: Key of the rule by which a label says danger.
SIGNAL_RULE = "label_signal"
PRINTED, HUNG, REMOVED = "printed", "hung", "removed"
#: Who puts up labels, looks whether they hang, takes them off, and records those of others.
HANG = ("coordinator", "director", "operator", "person_in_charge", "worker")
#: So many are printed at once at most.
MOST_AT_ONCE = 200


@dataclass(frozen=True)
class LabelEventSeen:
    """``picture``: name of the kept picture, or empty."""

    kind: str
    at: str
    by: str
    place: str
    note: str
    picture: str


@dataclass(frozen=True, kw_only=True)
class LabelSeen:
    """``origin``: printed here, or found. ``verdict``: None where the equipment is in the network no more, or needs no
    label: then what hangs is wrong, and why is told. ``missed``: the last who looked did not see it. ``review``: its
    data are older than they may be."""

    number: str
    element_id: str
    touches: str
    origin: str
    state: str
    place: str
    says: LabelSays
    content_hash: str
    replaced_by: str
    version: int
    events: tuple[LabelEventSeen, ...]
    verdict: LabelVerdict | None
    missed: bool
    review: bool

    @property
    def kind(self) -> str:
        """Of the worst that is wrong with it, a code; ``true`` where nothing is."""
        if self.verdict is None:
            return "gone"
        if self.verdict.wrong:
            return self.verdict.state
        return "missing" if self.missed else "review" if self.review else "true"

    @property
    def wrong(self) -> bool:
        return self.kind != "true"

    @property
    def holds(self) -> bool:
        """Is it ours, not taken off, and are its figures right as the network stands?"""
        ours = self.origin == "printed" and self.state != REMOVED
        return ours and self.verdict is not None and not self.verdict.wrong


#: What is wrong with what hangs, the worst first.
KINDS = ("forbids", "too_little", "missing", "unknown", "gone", "other", "too_much", "review", "true")
assert set(GRAVITY) < set(KINDS)


@on_site
def may_print(act: Act) -> None:
    act.actor.needs("coordinator", what=say("act-label-print"))


@on_site
def may_hang(act: Act) -> None:
    act.actor.needs(*HANG, what=say("act-label-hang"))


@on_site
def would_say(site: Site, element_id: str, touches: str, at: str) -> LabelSays:
    """What a new label at a place would say now. Refusal where none is needed; NotFound for equipment that there is
    not. ``at``: UTC, whose day at the site is printed."""
    return _says(site.as_it_is(), element_id, touches, at)


def _says(here: SiteNow, element_id: str, touches: str, at: str) -> LabelSays:
    e = here.network.get(element_id)
    read_reach(e, touches)
    return label_of(
        here.study.hazard(element_id, touches), tag=e.tag, name=e.name, location=e.location, revision=here.number,
        day=here.day(utc_moment(at)).isoformat(), rule=str(here.settings[SIGNAL_RULE]),
    )  # fmt: skip


@on_site
def print_(act: Act, places: Sequence[tuple[str, str]]) -> list[str]:
    """New labels for places, each by its element and way of reaching it, all or none. Refusal where one would lack what
    a label must hold. Their numbers."""
    may_print(act)
    if not 0 < len(places) <= MOST_AT_ONCE:
        raise InputError("places", len(places), say("label-so-many", most=MOST_AT_ONCE))
    here = act.site.as_it_is()
    each = [(element_id, touches, _says(here, element_id, touches, act.at)) for element_id, touches in places]
    for _, _, says in each:
        if missing := lacks(says):
            raise Refusal(say("label-rule"), say("label-lacks", tag=says.tag, fields=missing), say("label-complete"))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2].split(" ")
        made = []
        for element_id, touches, says in each:
            content = canonical(says.data)
            row = store.insert(
                element_id=element_id, touches=touches, origin="printed", state=PRINTED, content=content,
                content_hash=digest(content), created_at=act.at, created_by=act.actor.name,
            )  # fmt: skip
            store.add_event(row.id, "printed", act.at, act.actor.name)
            made.append((row.number, says.tag, digest(content)))
        numbers = [number for number, _, _ in made]
        unit.record("labels printed", f"label:{' '.join(numbers)}", {"labels": [list(m) for m in made]})
    return numbers


@on_site
def hang(act: Act, number: str, version: int, place: str, picture: bytes, old_off: bool) -> None:
    """It was put up: where, seen on which picture (none: empty). What hung there before comes off in the same
    act; without that it is refused, since two labels side by side contradict each other. A label whose figures are
    wrong by now is not put up any more."""
    may_hang(act)
    place = texts.LABEL_PLACE.check(place, "place")
    file = attachments.kept_file(act.site, picture) if picture else ""
    # its figures are known before the record is held: others write meanwhile
    one(act.site, number, act.at)
    with work(act) as unit:
        if unit.done:
            return
        row = _row(number, version)
        if row.state != PRINTED:
            raise Refusal(say("label-life"), say(f"label-is-{row.state}"), say("label-print-anew"))
        seen = _view(act.site.as_it_is(), row, [], act.at)
        if not seen.holds:
            raise Refusal(say("label-life"), say("label-wrong-already"), say("label-print-anew"))
        before = store.hanging_at(row.element_id, row.touches)
        if before and not old_off:
            numbers = tuple(b.number for b in before)
            raise Refusal(say("label-life"), say("label-another-hangs", numbers=numbers), say("label-take-off-first"))
        for old in before:
            store.change(old, state=REMOVED, replaced_by=number)
            store.add_event(old.id, "removed", act.at, act.actor.name, note=number)
        store.change(row, state=HUNG, place=place)
        store.add_event(row.id, "hung", act.at, act.actor.name, place=place, picture=file)
        told = {"place": place, "replaces": [b.number for b in before], "picture": file}
        unit.record("label hung", f"label:{number}", told)
        _pictured(unit, row, file)


@on_site
def look(act: Act, number: str, version: int, there: bool, note: str, picture: bytes) -> None:
    """Somebody looked: it hangs, or it does not."""
    may_hang(act)
    note = texts.REMARK.check(note, "note")
    file = attachments.kept_file(act.site, picture) if picture else ""
    with work(act) as unit:
        if unit.done:
            return
        row = _row(number, version)
        _must_hang(row)
        store.add_event(
            row.id, "seen" if there else "not_seen", act.at, act.actor.name, note=note, picture=file
        )  # fmt: skip
        store.change(row)
        unit.record("label seen" if there else "label not seen", f"label:{number}", {"note": note})
        _pictured(unit, row, file)


@on_site
def take_off(act: Act, number: str, version: int, because: str) -> None:
    """It was taken off, or thrown away before it hung."""
    may_hang(act)
    why = texts.REASON.check(because)
    with work(act) as unit:
        if unit.done:
            return
        row = _row(number, version)
        if row.state == REMOVED:
            _must_hang(row)
        store.change(row, state=REMOVED)
        store.add_event(row.id, "removed", act.at, act.actor.name, note=why)
        unit.record("label removed", f"label:{number}", {"because": why})


@on_site
def found(act: Act, element_id: str, touches: str, told: Mapping[str, Any], place: str, picture: bytes) -> str:
    """A label that hangs and is none of ours, as it was found: ``told`` holds what it says (energy_cal_cm2,
    working_distance_mm, category, boundary_mm, voltage_v, method, day), each None where it says nothing. Its number."""
    may_hang(act)
    place = texts.LABEL_PLACE.check(place, "place")
    file = attachments.kept_file(act.site, picture) if picture else ""
    here = act.site.as_it_is()
    e = here.network.get(element_id)
    reach = read_reach(e, touches)
    side = here.study.hazard(element_id, reach.code).reach if reach.code else ""
    says = LabelSays(
        tag=e.tag, name=e.name, location=e.location, side=side,
        voltage_v=told.get("voltage_v"), current="", signal="", energy_cal_cm2=told.get("energy_cal_cm2"),
        working_distance_mm=told.get("working_distance_mm"), boundary_mm=told.get("boundary_mm"), limited_mm=None,
        restricted_mm=None, glove="", no_figure="", method=texts.LABEL_METHOD.check(told.get("method", ""), "method"),
        revision=0, day=str(told.get("day", "")), category=told.get("category"),
    )  # fmt: skip
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        content = canonical(says.data)
        row = store.insert(
            element_id=element_id, touches=touches, origin="found", state=HUNG, place=place, content=content,
            content_hash=digest(content), created_at=act.at, created_by=act.actor.name,
        )  # fmt: skip
        store.add_event(row.id, "found", act.at, act.actor.name, place=place, picture=file)
        unit.record("label found", f"label:{row.number}", {"tag": e.tag, "says": dict(told), "place": place})
        _pictured(unit, row, file)
    return str(row.number)


def _pictured(unit: Unit, row: StoredLabel, file: str) -> None:
    """The picture belongs to the piece as well."""
    if file:
        attachments.enter(unit, row.element_id, row.number, file)


def _must_hang(row: StoredLabel) -> None:
    if row.state != HUNG:
        raise Refusal(say("label-life"), say(f"label-is-{row.state}"), say("label-print-anew"))


def _row(number: str, version: int | None = None) -> StoredLabel:
    row = store.one(number)
    if row is None:
        raise NotFound("label", number)
    if version is not None and row.version != version:
        raise Stale("label", number, row.created_by, row.created_at)
    return row


@on_site
def listed(site: Site, at: str) -> list[LabelSeen]:
    """All that hang or wait to be put up, what is wrong worst first. ``at``: UTC."""
    here, events = site.as_it_is(), store.events()
    rows = [r for r in store.everything() if r.state != REMOVED]
    found = [_view(here, r, events.get(r.id, []), at) for r in rows]

    def rank(x: LabelSeen) -> tuple[bool, int, float, str]:
        factor = x.verdict.factor if x.verdict is not None else None
        return x.state != HUNG, KINDS.index(x.kind), -(factor or 0.0), x.says.tag

    return sorted(found, key=rank)


@on_site
def one(site: Site, number: str, at: str) -> LabelSeen:
    row = _row(number)
    return _view(site.as_it_is(), row, store.events().get(row.id, []), at)


@on_site
def for_paper(site: Site, numbers: Sequence[str], at: str) -> list[LabelSeen]:
    """Labels to be drawn on paper, each once. Refusal for one of others, one taken off, and one whose figures are wrong
    by now: a fresh print of it would hang where the old one was found out."""
    if len(set(numbers)) > MOST_AT_ONCE:
        raise InputError("numbers", len(set(numbers)), say("label-so-many", most=MOST_AT_ONCE))
    here = site.as_it_is()
    each = [_view(here, _row(n), [], at) for n in dict.fromkeys(numbers)]
    for seen in each:
        if not seen.holds:
            raise Refusal(say("label-life"), say("label-not-on-paper", number=seen.number), say("label-print-anew"))
    return each


@on_site
def without(site: Site, at: str) -> list[LabelSays]:
    """What a label would say on each piece of equipment with an arc-flash figure on which none hangs or waits."""
    here = site.as_it_is()
    has = {r.element_id for r in store.everything() if r.state != REMOVED}
    found = []
    for e in located(here.network):
        if e.id not in has:
            try:
                says = _says(here, e.id, "", at)
            except Refusal:
                continue
            if says.energy_cal_cm2 is not None:
                found.append(says)
    return sorted(found, key=lambda s: -(s.energy_cal_cm2 or 0.0))


def sides(here: SiteNow, element_id: str) -> list[tuple[str, Any]]:
    """Ways of reaching a piece that a label can be for: all of it, and each."""
    e = here.network.get(element_id)
    return [(r.code, here.study.hazard(element_id, r.code).reach) for r in (NOT_CHOSEN, *reaches(e))]


def _view(here: SiteNow, row: StoredLabel, events: Sequence[LabelEvent], at: str) -> LabelSeen:
    says = read_label(parsed(row.content))
    held = None
    try:
        now = _says(here, row.element_id, row.touches, at)
    except (NotFound, Refusal, InputError):
        # gone from the network, or nothing to warn of any more: what hangs is wrong all the same
        pass
    else:
        held = verdict(says, now, here.profile.clothing, min(here.ceiling_cal_cm2, here.profile.ceiling_cal_cm2))
    looked = [e.kind for e in events if e.kind in ("hung", "found", "seen", "not_seen")]
    shown = tuple(LabelEventSeen(e.kind, e.at, e.by, e.place, e.note, e.picture) for e in events)
    return LabelSeen(
        number=row.number, element_id=row.element_id, touches=row.touches, origin=row.origin, state=row.state,
        place=row.place, says=says, content_hash=row.content_hash, replaced_by=row.replaced_by, version=row.version,
        events=shown, verdict=held, missed=bool(looked) and looked[-1] == "not_seen",
        review=_old(says.day, here.day(utc_moment(at))),
    )  # fmt: skip


def _old(day: str, today: date) -> bool:
    """Are a label's data of a day more than five years ago, or of nobody knows when?"""
    try:
        then = date.fromisoformat(day)
    except ValueError:
        return True
    return (today.year - then.year, today.month, today.day) > (REVIEW_YEARS, then.month, then.day)
