"""Hazards exchanged with a contractor or a visiting engineer: the host tells what lies here, the guest what they bring
along, and each side signs its own. Until both have, nobody of theirs is put to work; where two rules differ the
stricter holds.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from spinel.actions.acting import Act, Actor, work
from spinel.actions.keeping import save
from spinel.actions.site import Site, on_site
from spinel.actions.taking_off import taken_off
from spinel.core import texts
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.people import OWN, months_after
from spinel.core.said import say
from spinel.store import exchanges as store
from spinel.store import jobs
from spinel.store.models import Exchange
from spinel.store.people import Registered


@dataclass(frozen=True, kw_only=True)
class Told:
    """What the host writes: ``work`` that somebody comes for, hazards ``told``, what else to ``bring``, and the days
    from which to which it holds. ``job``: its number, where there is one."""

    guest: str
    work: str
    told: str
    from_day: date
    until: date
    job: str = ""
    bring: str = ""


@dataclass(frozen=True, kw_only=True)
class Exchanged:
    """``host``, ``guest``: names. ``state``: offered, signed, ended, or over once its days are."""

    number: str
    company: str
    work: str
    job: str
    told: str
    heard: str
    bring: str
    from_day: date
    until: date
    host: str
    guest: str
    guest_id: int
    state: str
    signed_at: str | None
    version: int
    changed_at: str


@on_site
def offer(act: Act, told: Told) -> str:
    """The host's half, signed by writing it. Returns its number."""
    act.actor.needs("coordinator", "person_in_charge", what=say("exchanges-tell-hazards"))
    text, what = texts.HAZARDS.check(told.told), texts.COMES_FOR.check(told.work, "work")
    bring = texts.PLAN.check(told.bring, "bring")
    today = act.site.as_it_is().day(act.now)
    if not today <= told.from_day:
        raise InputError("from_day", told.from_day.isoformat(), say("exchanges-not-before-today"))
    longest = act.site.as_it_is().profile.training.months["site"]
    if not told.from_day <= told.until <= months_after(told.from_day, longest):
        raise InputError("until", told.until.isoformat(), say("exchanges-months-at-most", months=longest))
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        guest = _guest(act.site, told.guest)
        if told.job and jobs.job(told.job) is None:
            raise InputError("job", told.job, say("exchanges-a-job-there-is"))
        assert act.actor.id is not None
        if guest.id == act.actor.id:
            raise InputError("guest", told.guest, say("qualifying-somebody-else"))
        number = store.insert(
            act.actor.id, guest.id, act.at, act.actor.name, company=guest.company, work=what, job=told.job, told=text,
            bring=bring, from_day=told.from_day.isoformat(), until=told.until.isoformat(),
        )  # fmt: skip
        unit.record("hazards told", f"exchange:{number}", {
            "guest": guest.name, "company": guest.company, "work": what, "told": text, "bring": bring,
            "from": told.from_day.isoformat(), "until": told.until.isoformat(), "job": told.job,
        })  # fmt: skip
    return number


def _guest(site: Site, login: str) -> Registered:
    found = next((p for p in site.register() if p.active and p.login == login.strip().lower()), None)
    if found is None or found.employer == OWN:
        raise InputError("guest", login, say("exchanges-somebody-from-elsewhere"))
    return found


@on_site
def sign(act: Act, number: str, version: int, heard: str) -> None:
    """The guest's half: what they bring along, and that they understood what was told. Nobody signs it for them."""
    text = texts.HEARD.check(heard)
    with work(act) as unit:
        if unit.done:
            return
        found = _stored(number)
        if found.guest_id != act.actor.id:
            raise NotAllowed(
                say("exchanges-each-signs-their-own"), say("exchanges-is-for", name=found.guest.name),
                say("exchanges-they-sign-it"),
            )  # fmt: skip
        if found.state != "offered":
            raise Refusal(
                say("exchanges-signed-once"), say("exchanges-is-state", state=say(f"exchange-is-{found.state}")),
                say("exchanges-tell-anew"),
            )  # fmt: skip
        save(act, found, version, state="signed", heard=text, signed_at=act.at)
        unit.record("exchange signed", f"exchange:{number}", {"heard": text})


@on_site
def end(act: Act, number: str, version: int, reason: str) -> list[str]:
    """It holds no longer: something has changed, or they have left. What the guest works under stands still."""
    act.actor.needs("coordinator", "person_in_charge", what=say("exchanges-tell-hazards"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return []
        found = _stored(number)
        if found.state == "ended":
            raise Refusal(
                say("exchanges-signed-once"), say("exchanges-is-state", state=say("exchange-is-ended")),
                say("exchanges-tell-anew"),
            )  # fmt: skip
        save(act, found, version, state="ended")
        unit.record("exchange ended", f"exchange:{number}", {"because": text})
        if _still_exchanged(act, found.guest_id):
            return []
        return list(taken_off(unit, found.guest_id, say("exchanges-no-longer-exchanged", name=found.guest.name)))


def _still_exchanged(act: Act, guest_id: int) -> bool:
    today = act.site.as_it_is().day(act.now)
    return any(start <= today <= end for start, end in store.signed().get(guest_id, ()))


def _stored(number: str) -> Exchange:
    found = store.exchange(number)
    if found is None:
        raise NotFound("exchange", number)
    return found


@on_site
def everything(site: Site, today: date) -> list[Exchanged]:
    """The latest first."""
    return [_seen(e, today) for e in store.everything()]


@on_site
def view(site: Site, number: str, today: date) -> Exchanged:
    return _seen(_stored(number), today)


def waits_for(found: list[Exchanged], actor: Actor) -> list[Exchanged]:
    """What one has to sign oneself."""
    return [e for e in found if e.state == "offered" and e.guest_id == actor.id]


def _seen(e: Exchange, today: date) -> Exchanged:
    until = date.fromisoformat(e.until)
    return Exchanged(
        number=e.number, company=e.company, work=e.work, job=e.job, told=e.told, heard=e.heard, bring=e.bring,
        from_day=date.fromisoformat(e.from_day), until=until, host=e.host.name, guest=e.guest.name,
        guest_id=e.guest_id, state="over" if e.state != "ended" and until < today else e.state, signed_at=e.signed_at,
        version=e.version, changed_at=e.changed_at,
    )  # fmt: skip
