"""Sessions: begun by signing in, ended by signing out, by their owner, by a coordinator, by leaving, and by time."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from spinel.actions.acting import Act, Actor, utc_moment, utc_text
from spinel.actions.site import Site, on_site
from spinel.core.errors import NotAllowed
from spinel.core.people import Kept
from spinel.core.said import say
from spinel.store import sessions as store

#: A shift without any sign of life, and two shifts in all: our choice. A console asks every ten seconds, and lives on.
IDLE, WHOLE = timedelta(hours=8), timedelta(hours=24)
#: How often the last sign of life is written down.
WRITTEN = timedelta(minutes=1)
#: How much is kept of what a browser says it is.
_DEVICE = 120


@on_site
def begin(site: Site, who: Actor, device: str, now: datetime) -> str:
    """The token of a new session, for the browser to hold."""
    token = secrets.token_urlsafe(32)
    assert who.id is not None
    plain = "".join(sign for sign in device[:_DEVICE] if sign.isprintable())
    store.begin(site.path, token, who.id, plain, utc_text(now))
    return token


@on_site
def of_token(site: Site, token: str, now: datetime) -> Kept | None:
    """The session that a token stands for, while it lasts."""
    found = store.kept(site.path, token) if token else None
    if found is None or not lasts(found, now):
        return None
    if now - utc_moment(found.seen_at) >= WRITTEN:
        store.seen(site.path, found.id, utc_text(now))
    return found


def lasts(found: Kept, now: datetime) -> bool:
    """Neither idle nor open for too long. A clock set back makes no session older than it was."""
    return now - utc_moment(found.seen_at) < IDLE and now - utc_moment(found.made_at) < WHOLE


@on_site
def of_person(site: Site, person_id: int, now: datetime) -> list[Kept]:
    """Where somebody is signed in, the last one used first."""
    return [s for s in store.of_person(site.path, person_id) if lasts(s, now)]


@on_site
def end(act: Act, person_id: int, session_id: int | None = None, but: int | None = None) -> int:
    """End sessions of one's own, or, as a coordinator, of anybody."""
    if act.actor.id != person_id and "coordinator" not in act.actor.roles:
        raise NotAllowed(
            say("acting-who-may"), say("sessions-each-ends-their-own"), say("sessions-ask-them-or-a-coordinator")
        )
    return store.end(act.site.path, person_id, act.at, session_id, but)
