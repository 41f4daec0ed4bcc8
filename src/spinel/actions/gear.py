"""Gear: the register, and what happens to an item: tested, out of use, cleared, issued, given back, retired.

What may be used for what: core/gear. Whom an item out of use touches: gear_reach. The look before use:
gear_inspection.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict, dataclass
from datetime import date, timedelta
from typing import Any

from spinel.actions import gear_reach, people
from spinel.actions.acting import Act, Unit, utc_moment, work
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.gear.items import OUT, OVERDUE, SOON, UNTESTED, Item, Rating, due, interval, state, why_not
from spinel.core.gear.kinds import CATEGORY, CLASS, CURRENTS, KINDS, NUMBERS, GearKind, kind
from spinel.core.isolation.instruments import CATEGORIES
from spinel.core.network.document import Element
from spinel.core.profile import NORTH_AMERICAN, Profile
from spinel.core.said import Sayable, say
from spinel.core.tables.forms import Interval
from spinel.store import gear as store
from spinel.store import jobs, permits, programs
from spinel.store.models import Gear, GearEvent

#: Key of the site's own intervals, by kind.
MONTHS = "gear_months"


@dataclass(frozen=True, kw_only=True)
class NewItem:
    """What somebody says of a new item: texts as typed. ``owner``: a sign-in name, empty for the pool. ``tag``: of the
    equipment that a built-in tester is part of."""

    number: str
    kind_id: str
    ratings: Mapping[str, str]
    currents: tuple[str, ...] = ()
    size: str = ""
    place: str = ""
    owner: str = ""
    tag: str = ""
    bought: date | None = None
    in_service: date | None = None
    tested: date | None = None
    certificate: str = ""


@on_site
def today(site: Site, act_at: str) -> date:
    """The day at the site of a moment; where there is no network yet, in UTC."""
    moment = utc_moment(act_at)
    return site.as_it_is().day(moment) if site.published() else moment.date()


@on_site
def everything(site: Site) -> list[Item]:
    """All items by number, those that were retired too."""
    names, often = site.names(), how_often(site)
    return [_read(row, names, often) for row in store.everything()]


@on_site
def one(site: Site, number: str) -> Item:
    """The item of a number, or NotFound."""
    return _read(row_of(number), site.names(), how_often(site))


@on_site
def history(site: Site, number: str) -> list[GearEvent]:
    """What happened to it, the latest first."""
    return store.events(row_of(number).id)


def row_of(number: str) -> Gear:
    found = store.one(number.strip())
    if found is None:
        raise NotFound("gear", number)
    return found


def _read(row: Gear, names: Mapping[int, str], often: Mapping[str, Interval]) -> Item:
    rating = Rating(
        low_v=row.low_v, high_v=row.high_v, category=row.category, ac=bool(row.ac), dc=bool(row.dc),
        glove_class=row.glove_class, arc_rating_cal_cm2=row.arc_rating_cal_cm2, withstand_ka=row.withstand_ka,
        withstand_s=row.withstand_s,
    )  # fmt: skip
    return Item(
        number=row.number, kind_id=row.kind, rating=rating, size=row.size, place=row.place,
        owner=names.get(row.owner_id or 0, ""), bought=_day(row.bought), in_service=_day(row.in_service),
        tested=_day(row.tested), certificate=row.certificate, holder=names.get(row.holder_id or 0, ""),
        owner_id=row.owner_id, holder_id=row.holder_id,
        held_since=row.held_since, held_for=row.held_for, element_id=row.element_id, barred=row.barred,
        retired=bool(row.retired), interval=often.get(row.kind),
    )  # fmt: skip


def _day(text: str) -> date | None:
    return date.fromisoformat(text) if text else None


@on_site
def may(act: Act) -> None:
    """NotAllowed for whoever does not keep the register."""
    act.actor.needs("coordinator", what=say("act-gear-keep-the-register"))


@on_site
def built_into(site: Site, item: Item) -> Element | None:
    """The equipment that a built-in tester is part of, as the network is now."""
    return site.as_it_is().network.element.get(item.element_id) if item.element_id and site.published() else None


@on_site
def how_often(site: Site) -> dict[str, Interval]:
    """How often each kind is tested here."""
    own, practice = site.settings_now()[MONTHS], _practice(site).gear
    return {k: found for k in KINDS if (found := interval(k, practice, own)) is not None}


@on_site
def by_practice(site: Site) -> Mapping[str, Interval]:
    """The same without what the site shortened."""
    return _practice(site).gear


def _practice(site: Site) -> Profile:
    return site.as_it_is().profile if site.published() else NORTH_AMERICAN


@on_site
def add(act: Act, told: NewItem) -> str:
    """A further item, as its plate and papers say. InputError beside the field; its number."""
    may(act)
    made = _made(act, told)
    owner = people.registered(told.owner).id if told.owner else None
    with work(act) as unit:
        if unit.done:
            return made.number
        if store.one(made.number) is not None:
            raise InputError("number", made.number, say("instruments-a-number-that-no-other-has"))
        row = store.insert(made, owner, act.at, act.actor.name)
        store.add_event(row, "added", act.at, act.actor.name)
        known = {"kind": made.kind_id, "ratings": dict(told.ratings), "currents": sorted(told.currents)}
        unit.record("gear added", f"gear:{made.number}", known)
    return made.number


def _made(act: Act, told: NewItem) -> Item:
    number = texts.GEAR.check(told.number, "number")
    if not number.isascii():
        # a dash of another alphabet would be another item that looks the same
        raise InputError("number", told.number, say("gear-plain-letters"))
    if told.kind_id not in KINDS:
        raise InputError("kind", told.kind_id, say("one-of", options=tuple(KINDS)))
    of, now = kind(told.kind_id), today(act.site, act.at)
    for field in ("bought", "in_service", "tested"):
        if (day := getattr(told, field)) is not None and day > now:
            raise InputError(field, day.isoformat(), say("attachments-a-day-that-has-been"))
    return Item(
        number=number, kind_id=of.id, rating=_rating(act.site, of, told), size=texts.GEAR_SIZE.check(told.size, "size"),
        place=texts.PLATE.check(told.place, "place"), bought=told.bought, in_service=told.in_service,
        tested=told.tested, certificate=texts.CERTIFICATE.check(told.certificate, "certificate"),
        element_id=_element(act.site, of, told.tag),     )  # fmt: skip


def _element(site: Site, of: GearKind, tag: str) -> str:
    if of.id != "fixed_tester":
        return ""
    found = site.as_it_is().network.by_tag.get(tag.strip()) if site.published() else None
    if found is None:
        raise InputError("tag", tag, say("practice-the-tag-of-equipment-in-the-network"))
    return found.id


def _rating(site: Site, of: GearKind, told: NewItem) -> Rating:
    known: dict[str, Any] = {}
    for field in of.ratings:
        typed = told.ratings.get(field, "").strip()
        if field in NUMBERS:
            known[field] = NUMBERS[field].parse(typed, field)
        elif field == CATEGORY:
            if typed not in map(str, CATEGORIES):
                raise InputError(CATEGORY, typed, say("one-of", options=("II", "III", "IV")))
            known[CATEGORY] = int(typed)
        elif field == CLASS:
            if typed not in (options := classes(site)):
                raise InputError(CLASS, typed, say("one-of", options=options))
            known[CLASS] = typed
        elif field == CURRENTS:
            both = set(told.currents) & {"ac", "dc"}
            if not both:
                raise InputError(CURRENTS, "", say("instruments-ac-dc-or-both"))
            known |= {"ac": "ac" in both, "dc": "dc" in both}
    if (low := known.get("low_v")) is not None and known["high_v"] < low:
        raise InputError("high_v", known["high_v"], say("instruments-highest-not-below-the-lowest"))
    return Rating(**known)


@on_site
def classes(site: Site) -> tuple[str, ...]:
    """Classes of rubber goods by the practice of the site, the lightest first."""
    return tuple(g.name for g in _practice(site).shock.gloves)


@on_site
def test(act: Act, number: str, day: date, certificate: str, done_by: str, *, good: bool, note: str = "") -> None:
    """The result of a test. Passed, it clears what was out of use; failed, the item is out of use at once. An earlier
    test than the one recorded says nothing new; a retired item is tested no more."""
    may(act)
    if day > today(act.site, act.at):
        raise InputError("day", day.isoformat(), say("attachments-a-day-that-has-been"))
    paper, by = texts.CERTIFICATE.check(certificate, "certificate"), texts.NAME.check(done_by, "done_by")
    text = texts.STATEMENT.check(note, "note")
    with work(act) as unit:
        if unit.done:
            return
        row = _in_use(number)
        if row.tested and day.isoformat() < row.tested:
            raise InputError("day", day.isoformat(), say("gear-not-before-the-last-test", day=row.tested))
        said: dict[str, Any] = {"day": day.isoformat(), "certificate": paper, "done_by": by, "good": good}
        if good and row.barred:
            _tested_since_barred(row, day)
        # nobody says at which hour of the day, nor in which zone: what was done that day counts as done since
        begins = f"{(day - timedelta(days=1)).isoformat()}T00:00:00Z"
        told = {**said, "records": programs.last_record(begins)}
        store.add_event(row.id, "tested", act.at, act.actor.name, day=said["day"], good=good, note=text, detail=told)
        unit.record("gear tested", f"gear:{row.number}", said)
        if good:
            store.change(row, act.at, act.actor.name, tested=said["day"], certificate=paper, barred="")
        else:
            bar_in(unit, row.number, say("gear-failed-its-test", day=said["day"], by=by))


def _tested_since_barred(row: Gear, day: date) -> None:
    """A test from before somebody saw something wrong says nothing of it."""
    last = next((e for e in store.events(row.id) if e.kind == "barred"), None)
    if last is not None and day.isoformat() < last.at[:10]:
        raise InputError("day", day.isoformat(), say("gear-a-test-since-it-went-out-of-use", day=last.at[:10]))


def _in_use(number: str) -> Gear:
    row = row_of(number)
    if row.retired:
        raise Refusal(
            say("gear-what-is-retired-stays-so"), say("gear-is-retired", number=row.number), say("gear-add-another")
        )
    return row


@on_site
def bar(act: Act, number: str, reason: Sayable) -> gear_reach.Touched:
    """Out of use from now on, for everybody: by anybody who sees something wrong with it. Whom that touches."""
    why = texts.REASON.check(reason) if isinstance(reason, str) else reason
    with work(act) as unit:
        if unit.done:
            return gear_reach.Touched()
        return bar_in(unit, number, why)


def bar_in(unit: Unit, number: str, why: Sayable) -> gear_reach.Touched:
    """The same inside another act: it failed a check. Proofs made with it since its last good look are over."""
    row = row_of(number)
    since, after = store.last_good(row.id)
    store.change(row, unit.act.at, unit.act.actor.name, barred=why)
    unit.record("gear barred", f"gear:{row.number}", {"because": why})
    touched = gear_reach.taken_out(unit, row.number, after, why)
    detail = {"since": since, **{name: value for name, value in asdict(touched).items() if value}}
    store.add_event(row.id, "barred", unit.act.at, unit.act.actor.name, note=why, detail=detail)
    return touched


@on_site
def clear(act: Act, number: str, what_was_done: str) -> None:
    """Back in use, where its kind has no test: the coordinator, with what was found and done. What is tested at
    intervals is cleared by a test alone."""
    may(act)
    text = texts.CAUSE.check(what_was_done, "cause")
    with work(act) as unit:
        if unit.done:
            return
        row = _in_use(number)
        if not row.barred:
            raise Refusal(
                say("instruments-only-what-is-out-of-use"), say("instruments-is-in-use", number=row.number),
                say("instruments-nothing-to-do"),
            )  # fmt: skip
        if row.kind in how_often(act.site):
            raise Refusal(
                say("gear-only-a-test-clears-it"), say("instruments-barred", number=row.number, why=row.barred),
                say("gear-record-its-test"),
            )  # fmt: skip
        store.change(row, act.at, act.actor.name, barred="")
        store.add_event(row.id, "cleared", act.at, act.actor.name, note=text)
        unit.record("gear cleared", f"gear:{row.number}", {"because": text, "was": row.barred})


@on_site
def issue(act: Act, number: str, login: str, held_for: str = "", why: str = "") -> None:
    """Somebody has it from now on: given by a coordinator or a person in charge, or taken by themselves. Refusal for
    what nobody may use, what another has, and what is somebody's own. Its first issue begins its interval.
    ``why``: this one, where a lighter one would do."""
    if login.strip().lower() != act.actor.login:
        act.actor.needs("coordinator", "person_in_charge", what=say("act-gear-issue-to-others"))
    person, what = people.registered(login), _for_what(held_for)
    if not person.active:
        raise InputError("person", login, say("gear-somebody-who-is-here"))
    with work(act) as unit:
        if unit.done:
            return
        row, item = _in_use(number), one(act.site, number)
        if barred := why_not(item, today(act.site, act.at)):
            raise Refusal(say("gear-only-what-may-be-used-is-issued"), barred, say("gear-take-another"))
        if row.holder_id is not None or (row.owner_id is not None and row.owner_id != person.id):
            raise Refusal(
                say("gear-one-person-has-it"), say("gear-has-it", name=item.holder or item.owner, number=row.number),
                say("gear-take-another"),
            )  # fmt: skip
        begins = {} if row.in_service else {"in_service": today(act.site, act.at).isoformat()}
        store.change(row, act.at, act.actor.name, holder=person.id, held_since=act.at, held_for=what, **begins)
        store.add_event(row.id, "issued", act.at, act.actor.name, detail={"to": person.name, "for": what}, note=why)
        unit.record("gear issued", f"gear:{row.number}", {"to": person.name, "for": what, "because": why})


def _for_what(typed: str) -> str:
    """The number of a job, permit or program, as it is written; InputError for one that there is not: what goes out of
    use must find whom it was issued for."""
    number = texts.JOB.check(typed, "job").upper()
    if number and not (jobs.job(number) or permits.permit(number) or programs.program(number)):
        raise InputError("job", typed, say("gear-a-number-that-there-is"))
    return number


@on_site
def give_back(act: Act, number: str, place: str) -> None:
    """It is back, at its place or another: by whoever has it, or a coordinator or person in charge."""
    where = texts.PLATE.check(place, "place")
    with work(act) as unit:
        if unit.done:
            return
        row, item = row_of(number), one(act.site, number)
        if row.holder_id is None:
            raise Refusal(
                say("gear-only-what-somebody-has-comes-back"), say("gear-nobody-has-it", number=row.number),
                say("instruments-nothing-to-do"),
            )  # fmt: skip
        if row.holder_id != act.actor.id:
            act.actor.needs("coordinator", "person_in_charge", what=say("act-gear-take-back-from-others"))
        changes: dict[str, Any] = {"place": where} if where else {}
        store.change(row, act.at, act.actor.name, holder=None, held_since="", held_for="", **changes)
        store.add_event(row.id, "returned", act.at, act.actor.name, detail={"from": item.holder, "place": where})
        unit.record("gear returned", f"gear:{row.number}", {"from": item.holder, "place": where})


@on_site
def retire(act: Act, number: str, reason: str) -> None:
    """It is gone for good; its history stays. Whom it touches hears of it as of what is out of use: nothing that was
    found wanting is hidden by being retired. Refusal while somebody has it."""
    may(act)
    why = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        row = _in_use(number)
        if row.holder_id is not None:
            name = act.site.names()[row.holder_id]
            raise Refusal(
                say("gear-what-somebody-has-comes-back-first"), say("gear-has-it", name=name, number=row.number),
                say("gear-give-it-back-first"),
            )  # fmt: skip
        if not row.barred:
            bar_in(unit, row.number, why)
        store.change(row, act.at, act.actor.name, retired=1)
        store.add_event(row.id, "retired", act.at, act.actor.name, note=why)
        unit.record("gear retired", f"gear:{row.number}", {"because": why})


@on_site
def given_for(site: Site, number: str) -> list[Item]:
    """What somebody has just now for a job, a permit or a program, by its number."""
    return [i for i in everything(site) if i.held_for == number and i.holder and not i.retired]


@dataclass(frozen=True)
class GearDue:
    item: Item
    on: date


@on_site
def falling_due(site: Site, day: date, within: int) -> list[GearDue]:
    """What is overdue or falls due within so many days, the first to fall due first. What is out of use or retired is
    not waited for."""
    found = [GearDue(i, end) for i in everything(site) if not i.retired and not i.barred and (end := due(i))]
    return sorted((d for d in found if (d.on - day).days <= within), key=lambda d: (d.on, d.item.number))


@on_site
def of_the_board(site: Site, day: date) -> list[tuple[Item, str]]:
    """What somebody has that nobody may use, then what is overdue, then what falls due soon, with the state of each."""
    order = {OUT: 0, OVERDUE: 1, UNTESTED: 2, SOON: 3}
    found = [(i, state(i, day)) for i in everything(site)]
    shown = [(i, s) for i, s in found if s in order and (s != OUT or i.holder)]
    return sorted(shown, key=lambda pair: (order[pair[1]], due(pair[0]) or day, pair[0].number))


@on_site
def others(site: Site, item: Item, day: date) -> list[Item]:
    """What could be used in its place: the same kind, in use and in date, rated at least alike; those that nobody has
    first."""
    found = [i for i in everything(site) if i.kind_id == item.kind_id and i.number != item.number]
    fit = [i for i in found if not why_not(i, day) and _at_least(i.rating, item.rating, classes(site))]
    return sorted(fit, key=lambda i: (bool(i.holder), i.size != item.size, i.number))


def _at_least(has: Rating, wanted: Rating, order: Iterable[str]) -> bool:
    rank = {name: n for n, name in enumerate(order)}
    if (has.low_v or 0) > (wanted.low_v or 0) or (wanted.ac and not has.ac) or (wanted.dc and not has.dc):
        return False
    if rank.get(has.glove_class, -1) < rank.get(wanted.glove_class, -1):
        return False
    numbers = ("high_v", "category", "arc_rating_cal_cm2", "withstand_ka", "withstand_s")
    return all((getattr(has, n) or 0) >= (getattr(wanted, n) or 0) for n in numbers)
