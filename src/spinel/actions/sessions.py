"""Sessions: begun by signing in, ended by signing out, by their owner, by a coordinator, by leaving, and by time."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from spinel.actions.acting import Act, Actor, utc_moment, utc_text
from spinel.actions.site import Site, on_site
from spinel.actions.site_settings import NUMBERS
from spinel.core.errors import NotAllowed
from spinel.core.people import Kept
from spinel.core.said import say
from spinel.store import programs
from spinel.store import sessions as store

#: With a short code at a shared tablet: our choice. Without any sign of life, and in all.
SHORT_IDLE, SHORT_WHOLE = timedelta(minutes=3), timedelta(minutes=30)
#: The least that a site may set for others.
LEAST_IDLE, LEAST_WHOLE = (timedelta(hours=NUMBERS[key].low) for key in ("session_idle_h", "session_whole_h"))
#: How often the last sign of life is written down.
WRITTEN, SHORT_WRITTEN = timedelta(minutes=1), timedelta(seconds=20)
#: How much is kept of what a browser says it is.
_DEVICE = 120


@on_site
def begin(
    site: Site, who: Actor, device: str, now: datetime, *, short: bool = False, tablet_id: int | None = None
) -> str:  # fmt: skip
    """The token of a new session, for the browser to hold. ``short``: with a short code."""
    token = secrets.token_urlsafe(32)
    assert who.id is not None
    plain = "".join(sign for sign in device[:_DEVICE] if sign.isprintable())
    store.begin(site.path, token, who.id, plain, utc_text(now), short=short, tablet_id=tablet_id)
    return token


@on_site
def of_token(site: Site, token: str, now: datetime, *, by_itself: bool = False) -> Kept | None:
    """The session that a token stands for, while it lasts. ``by_itself``: a page asked, and nobody touched it: no sign
    of life of somebody at a shared tablet."""
    found = store.kept(site.path, token) if token else None
    if found is None or not lasts(site, found, now):
        return None
    if not (found.short and by_itself) and now - utc_moment(found.seen_at) >= (
        SHORT_WRITTEN if found.short else WRITTEN
    ):
        store.seen(site.path, found.id, utc_text(now))
    return found


@on_site
def lasts(site: Site, found: Kept, now: datetime) -> bool:
    """Neither idle nor open for too long, by the site's own limits, which are twice as long for who directs a program
    under way: no step is lost to a time-out. A clock set back makes no session older than it was."""
    quiet, open_for = now - utc_moment(found.seen_at), now - utc_moment(found.made_at)
    if found.short:
        return quiet < SHORT_IDLE and open_for < SHORT_WHOLE
    if quiet < LEAST_IDLE and open_for < LEAST_WHOLE:
        # no site sets less: nothing has to be asked
        return True
    limits = site.settings_now()
    longer = 2 if programs.directed_by(found.person_id) else 1
    idle, whole = (longer * timedelta(hours=limits[key]) for key in ("session_idle_h", "session_whole_h"))
    return quiet < idle and open_for < whole


@on_site
def of_person(site: Site, person_id: int, now: datetime) -> list[Kept]:
    """Where somebody is signed in, the last one used first."""
    return [s for s in store.of_person(site.path, person_id) if lasts(site, s, now)]


@on_site
def end_on(act: Act, tablet_id: int) -> None:
    """Nobody is signed in at a shared tablet any more."""
    store.end_on(act.site.path, tablet_id, act.at)


@on_site
def end(act: Act, person_id: int, session_id: int | None = None, but: int | None = None) -> int:
    """End sessions of one's own, or, as a coordinator, of anybody."""
    if act.actor.id != person_id and "coordinator" not in act.actor.roles:
        raise NotAllowed(
            say("acting-who-may"), say("sessions-each-ends-their-own"), say("sessions-ask-them-or-a-coordinator")
        )
    return store.end(act.site.path, person_id, act.at, session_id, but)
