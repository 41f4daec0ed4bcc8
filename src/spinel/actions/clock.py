"""The clock of the server, as far as the record can judge it. A clock in doubt lets nobody begin what depends on time.

Entries of the ledger are in the order of time. One that would be earlier than the last is entered all the same, for
whoever stops work or reports something must be heard; but the ledger says that the clock went back, and nothing is
approved, issued, accepted, resumed, released or started until a coordinator has looked at the clock and said so.
"""

from __future__ import annotations

from datetime import datetime

from spinel.actions.acting import SYSTEM, WENT_BACK, Act, runs_back, utc_moment, work
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.said import Said, say
from spinel.store import beside, ledger

#: Moves of a permit that depend on what time it is. None of them makes anything safer.
TIMED = frozenset({"approve", "issue", "accept", "resume"})
JUMPED, ACKNOWLEDGED = "clock jumped", "clock acknowledged"


@on_site
def doubt(site: Site, now: datetime) -> Said | None:
    """Why the clock cannot be trusted, or None."""
    stands = ledger.since_last((WENT_BACK, JUMPED), ACKNOWLEDGED)
    if stands.at and runs_back(stands.at, now):
        return say("clock-is-behind", minutes=int((utc_moment(stands.at) - now).total_seconds() // 60))
    return say("clock-was-moved") if stands.found else None


@on_site
def need_sure(act: Act, what: str) -> None:
    """Refusal of a move that depends on time, while the clock is in doubt."""
    if what in TIMED and (why := doubt(act.site, act.now)) is not None:
        raise Refusal(say("clock-rule"), why, say("clock-a-coordinator-looks"))


@on_site
def jumped(site: Site, now: datetime, minutes: int) -> None:
    """The clock moved by so many minutes, and the machine did not run that long."""
    with work(Act(site, SYSTEM, now)) as unit:
        unit.record(JUMPED, "record:clock", {"minutes": minutes})


@on_site
def acknowledge(act: Act, reason: str) -> None:
    """A coordinator has compared the clock with another one, and it is right now."""
    act.actor.needs("coordinator", what=say("clock-acknowledge"))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        if doubt(act.site, act.now) is None:
            raise InputError("reason", text, say("clock-nothing-to-acknowledge"))
        unit.record(ACKNOWLEDGED, "record:clock", {"because": text})


@on_site
def kept(site: Site, name: str) -> str | None:
    """What a server last noted of its clock."""
    return beside.kept(site.path, name)


@on_site
def keep(site: Site, name: str, value: str) -> None:
    beside.keep(site.path, name, value)
