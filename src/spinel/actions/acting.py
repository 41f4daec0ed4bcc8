"""Who acts, when, and on which request; and the transaction in which an act and its ledger entry stand or fall."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from spinel.actions.site import Site, on_site
from spinel.core.errors import NotAllowed
from spinel.core.people import any_of
from spinel.core.said import Sayable, say
from spinel.store import ledger

UTC_FORMAT = "%Y-%m-%dT%H:%M:%SZ"


@dataclass(frozen=True)
class Actor:
    """A person signed in, or the system itself (no id, no roles). ``must_change``: the password was set by somebody
    else, and is changed before anything else."""

    id: int | None
    login: str
    name: str
    roles: frozenset[str] = frozenset()
    must_change: bool = False

    def needs(self, *roles: str, what: Sayable) -> None:
        """NotAllowed unless the actor holds one of the roles."""
        if not self.roles & set(roles):
            raise NotAllowed(
                say("acting-who-may"),
                say("acting-only-may", any_of=any_of(roles), what=what),
                say("acting-ask-somebody-with-that-role"),
            )


SYSTEM = Actor(None, "system", "system")


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
    _recorded: int = field(default=0)

    @property
    def site(self) -> Site:
        return self.act.site

    def record(self, what: str, subject: str, payload: dict[str, Any]) -> None:
        """One ledger entry. The first entry of a unit carries the request id."""
        request_id = self.act.request_id if self._recorded == 0 else None
        ledger.append(self.act.at, self.act.actor.name, what, subject, payload, request_id)
        self._recorded += 1

    def record_by_system(self, what: str, subject: str, payload: dict[str, Any]) -> None:
        ledger.append(self.act.at, SYSTEM.name, what, subject, payload, None)


@contextmanager
def work(act: Act) -> Iterator[Unit]:
    """The transaction of one act. Leave at once when ``unit.done``: the same request was answered before."""
    with act.site.transaction():
        yield Unit(act, ledger.answered(act.request_id, act.actor.name))


@on_site
def repeated(act: Act) -> bool:
    """Was this very request answered before? Asked where something is checked ahead of the transaction."""
    return ledger.answered(act.request_id, act.actor.name) is not None


def utc_text(moment: datetime) -> str:
    """Stored form of a moment: UTC, whole seconds, ``2026-11-24T22:32:08Z``."""
    return moment.astimezone(UTC).strftime(UTC_FORMAT)


def utc_moment(text: str) -> datetime:
    return datetime.strptime(text, UTC_FORMAT).replace(tzinfo=UTC)
