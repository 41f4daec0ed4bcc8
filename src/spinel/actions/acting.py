"""Who acts, when, and on which request; and the transaction in which an act and its ledger entry stand or fall."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from spinel.actions.site import Site, on_site
from spinel.core.errors import NotAllowed
from spinel.core.people import any_of
from spinel.core.said import Sayable, say
from spinel.store import ledger, seals

UTC_FORMAT = "%Y-%m-%dT%H:%M:%SZ"


@dataclass(frozen=True)
class Actor:
    """A person signed in, a shared tablet at which nobody is, or the system itself (neither has an id).
    ``must_change``: the password was set by somebody else, and is changed before anything else. ``short``: signed in
    with a short code, or not at all, and so for what SHORT_MAY names."""

    id: int | None
    login: str
    name: str
    roles: frozenset[str] = frozenset()
    must_change: bool = False
    short: bool = False

    def needs(self, *roles: str, what: Sayable) -> None:
        """NotAllowed unless the actor holds one of the roles."""
        if not self.roles & set(roles):
            raise NotAllowed(
                say("acting-who-may"),
                say("acting-only-may", any_of=any_of(roles), what=what),
                say("acting-ask-somebody-with-that-role"),
            )


#: An entry earlier than the one before, by more than two acts that wait for each other may differ: the clock moved.
WENT_BACK, APART = "clock went back", timedelta(minutes=2)

SYSTEM = Actor(None, "system", "system")


#: What a short code signs: one's own statements and own lock, and whatever stops something. A shared tablet at which
#: nobody is signed in stops.
SHORT_MAY = frozenset((
    "signed in", "permit stated", "permit attended", "personal lock hung", "personal lock removed", "exchange signed",
    "gear barred", "gear inspected", "opinion given", "job not as planned", "found", "opened in an emergency",
    "permit suspended", "program stopped", "practice stopped",
))  # fmt: skip


@dataclass(frozen=True)
class Act:
    """One intention: the site, the actor, the moment (UTC), and the request id that makes a repeat harmless."""

    site: Site
    actor: Actor
    now: datetime
    request_id: str | None = None

    @property
    def at(self) -> str:
        return utc_text(self.now)


@dataclass
class Unit:
    """An open transaction. ``done``: subject of the earlier act with the same request id, or None."""

    act: Act
    done: str | None
    _after: ledger.Head
    _entries: list[tuple[str, str, str, dict[str, Any], str | None]] = field(default_factory=list)

    @property
    def site(self) -> Site:
        return self.act.site

    def record(self, what: str, subject: str, payload: dict[str, Any]) -> None:
        """One ledger entry. The first entry of a unit carries the request id. NotAllowed for what a short code does not
        sign, whatever asks for it: nothing of the act stands then."""
        if self.act.actor.short and what not in SHORT_MAY:
            raise NotAllowed(say("acting-a-short-code"), say("acting-it-signs-ones-own"), say("acting-sign-in-in-full"))
        request_id = None if self._entries else self.act.request_id
        self._entries.append((self.act.actor.name, what, subject, payload, request_id))

    def record_by_system(self, what: str, subject: str, payload: dict[str, Any]) -> None:
        self._entries.append((SYSTEM.name, what, subject, payload, None))

    def note(self, what: str, subject: str, payload: dict[str, Any]) -> None:
        """What the system has to say before the act begins. What was written outside of acts is never taken for
        written by this one: entering it closes the notes of it."""
        self._after = ledger.append(self._after, self.act.at, SYSTEM.name, what, subject, payload, None, {})

    def close(self) -> None:
        """The entries, in their order; the last one says which rows all of this wrote. An act that wrote rows and
        recorded nothing is a mistake in the code, and writes nothing."""
        wrote = seals.written()
        if not self._entries:
            if wrote:
                raise RuntimeError(f"written without an entry: {', '.join(wrote)}")
            seals.forget()
        last = len(self._entries) - 1
        for i, (actor, what, subject, payload, request_id) in enumerate(self._entries):
            digests = wrote if i == last else {}
            self._after = ledger.append(
                self._after, self.act.at, actor, what, subject, payload, request_id, digests
            )  # fmt: skip


@contextmanager
def work(act: Act, patience_ms: int | None = None) -> Iterator[Unit]:
    """The transaction of one act. Leave at once when ``unit.done``: the same request was answered before. NotKept when
    nothing can be recorded, after waiting for another act to end, so long or as ever."""
    with act.site.transaction(patience_ms):
        stands = ledger.stands(act.request_id, act.actor.name)
        unit = Unit(act, stands.answered, stands.head)
        if stands.noted:
            unit.note("rows changed outside", "record:rows", {"rows": seals.left()})
        if stands.at and runs_back(stands.at, act.now):
            unit.note(WENT_BACK, "record:clock", {"last": stands.at})
        yield unit
        unit.close()


@on_site
def repeated(act: Act) -> bool:
    """Was this very request answered before? Asked where something is checked ahead of the transaction."""
    return ledger.stands(act.request_id, act.actor.name).answered is not None


def runs_back(last: str, now: datetime) -> bool:
    """Is a moment before the last entry's?"""
    return now < utc_moment(last) - APART


def utc_text(moment: datetime) -> str:
    """Stored form of a moment: UTC, whole seconds, ``2026-11-24T22:32:08Z``."""
    return moment.astimezone(UTC).strftime(UTC_FORMAT)


def utc_moment(text: str) -> datetime:
    return datetime.strptime(text, UTC_FORMAT).replace(tzinfo=UTC)
