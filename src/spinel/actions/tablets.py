"""Shared tablets: registered by a coordinator, so that people sign at them with a short code, and anybody stops work.

A stop there is recorded as said at that tablet: it is never hindered, whoever presses it. What goes on again is signed.
"""

from __future__ import annotations

import secrets
from dataclasses import dataclass, replace
from datetime import datetime

from spinel.actions import console, permit_moves, sessions
from spinel.actions.acting import Act, Actor, work
from spinel.actions.people import need_free_name
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Stale
from spinel.core.said import Sayable, say
from spinel.store import permits, programs
from spinel.store import tablets as store
from spinel.store.tablets import SharedTablet as SharedTablet


@on_site
def register(act: Act, name: str) -> str:
    """What the tablet's browser is to hold; nobody can read it again."""
    act.actor.needs("coordinator", what=say("tablets-register-one"))
    name = texts.NAME.check(name)
    token = secrets.token_urlsafe(32)
    with work(act) as unit:
        if unit.done:
            raise InputError("name", name, say("act-people-a-name-that-nobody-has"))
        need_free_name(name)
        store.add(name, token, act.at)
        unit.record("tablet registered", f"tablet:{name}", {})
    return token


@on_site
def take_out(act: Act, tablet_id: int, reason: str) -> None:
    """Nobody signs or stops anything at it any more; who was signed in there is not."""
    act.actor.needs("coordinator", what=say("tablets-register-one"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        found = next((t for t in store.everything() if t.id == tablet_id and t.ended_at is None), None)
        if found is None:
            raise NotFound("tablet", tablet_id)
        sessions.end_on(act, tablet_id)
        store.end(tablet_id, act.at)
        unit.record("tablet taken out of use", f"tablet:{found.name}", {"because": text})


@on_site
def of_token(site: Site, token: str) -> SharedTablet | None:
    return store.of_token(token) if token else None


@on_site
def everything(site: Site) -> list[SharedTablet]:
    return store.everything()


@dataclass(frozen=True)
class Stoppable:
    """Something under way that anybody may stop. ``kind``: permit or program."""

    kind: str
    number: str
    title: str


@on_site
def stoppable(site: Site) -> list[Stoppable]:
    """Whatever somebody works under or switches by just now."""
    found = [Stoppable("permit", p.number, p.job.title) for p in permits.permits_in(("issued", "in_force"))]
    return [*(Stoppable("program", p.number, p.job.title) for p in programs.programs_in(("executing",))), *found]


#: How often a stop is tried again because somebody else wrote at the same moment.
_TRIES = 5


@on_site
def stop(site: Site, tablet: SharedTablet, number: str, reason: str, now: datetime, request_id: str | None) -> bool:
    """Stop one thing under way, said at the tablet; False where it was no longer under way: nothing goes on anyway.
    A reason that cannot be kept keeps nobody from stopping."""
    act = Act(site, Actor(None, "", tablet.name, frozenset(("reader",)), short=True), now, request_id)
    text: Sayable
    try:
        text = texts.REASON.check(reason)
    except InputError:
        text = say("tablets-no-reason-was-given")
    for left in reversed(range(_TRIES)):
        one = next((s for s in stoppable(site) if s.number == number), None)
        if one is None:
            return False
        try:
            _stop(act, one, text)
        except Stale:
            if not left:
                raise
            continue
        # said to be stopped only when it is: a repeat answers for another request at most
        if one not in stoppable(site):
            return True
        act = replace(act, request_id=None)
    raise RuntimeError(f"{number} could not be stopped")


def _stop(act: Act, one: Stoppable, reason: Sayable) -> None:
    if one.kind == "program":
        console.stop(act, one.number, reason)
    elif (permit := permits.permit(one.number)) is not None:
        permit_moves.suspend(act, one.number, permit.version, reason)
