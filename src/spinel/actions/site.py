"""A site: one open database with what is known of it. Every action takes one, or an act that is on one.

What a site has computed from its rows is kept for rows that are committed, and forgotten with a write that is not.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import date, datetime
from functools import cached_property, wraps
from pathlib import Path
from threading import Lock, local
from typing import Any, ParamSpec, TypeVar
from zoneinfo import ZoneInfo

from spinel.actions.figures import network_of, study_of
from spinel.core.errors import NotFound
from spinel.core.hazard import Study
from spinel.core.network.circuit import at_present
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field, fold_field
from spinel.core.network.liveness import Liveness, liveness
from spinel.core.network.now import NEVER_SEEN, DeviceNow
from spinel.core.profile import Profile, profile
from spinel.store import database, ledger, settings
from spinel.store import network as store
from spinel.store.network import EventKey, RevisionKey

P = ParamSpec("P")
R = TypeVar("R")
#: Computed things that a site keeps at a time, of each kind.
KEPT = 16


@dataclass(frozen=True)
class SiteNow:
    """The latest revision with the field state folded onto it: what every page and figure starts from."""

    site: Site
    network: Network
    number: int
    hash: str
    published_at: str
    published_by: str
    field: Field
    event_id: int
    ceiling_cal_cm2: float
    liveness: Liveness
    profile: Profile
    walk_down: tuple[str, str] | None

    @cached_property
    def study(self) -> Study:
        """The figures with the field as it stands; made when the first figure is asked for."""
        return self._study(self.field)

    def _study(self, field: Field) -> Study:
        return study_of(self.hash, self.network, at_present(self.network, field.devices), self.ceiling_cal_cm2)

    @property
    def now(self) -> Mapping[str, DeviceNow]:
        return self.field.devices

    def state_of(self, element: Element) -> str:
        return self.liveness.elements[element.id]

    def device(self, element: Element) -> DeviceNow:
        return self.now.get(element.id, NEVER_SEEN)

    def seen_with(self, field: Field) -> SiteNow:
        """The same site with another field: after a step of a program, or in a practice run."""
        circuit = at_present(self.network, field.devices)
        return replace(self, field=field, liveness=liveness(self.network, circuit, field.devices, field))

    def field_as_of(self, event_id: int) -> Field:
        """The field after the event with this id, on the network as it is now."""
        return self.site.field_as_of(self.hash, event_id)

    def study_as_of(self, event_id: int) -> Study:
        """The figures with the field as it was after the event with this id.

        A program carries the figures of the equipment live, as it was when it was drafted: what it opens itself must
        not make them smaller, nor leave so little current that no method covers it.
        """
        return self._study(self.field_as_of(event_id))

    def day(self, moment: datetime) -> date:
        """The calendar day at the site: qualifications run out at its end."""
        return moment.astimezone(ZoneInfo(self.network.site.time_zone)).date()


class _Kept:
    """Results by what they were computed from; inside a write they wait until it is committed."""

    def __init__(self) -> None:
        self._committed: dict[object, Any] = {}
        self._pending = local()
        self._lock = Lock()

    def get(self, key: object, make: Callable[[], R]) -> R:
        waiting: dict[object, Any] | None = getattr(self._pending, "found", None)
        found = (waiting or {}).get(key, self._committed.get(key))
        if found is None:
            found = make()
            if waiting is None:
                self._keep({key: found})
            else:
                waiting[key] = found
        result: R = found
        return result

    def _keep(self, found: dict[object, Any]) -> None:
        with self._lock:
            self._committed |= found
            while len(self._committed) > KEPT:
                del self._committed[next(iter(self._committed))]

    @contextmanager
    def until_committed(self) -> Iterator[None]:
        """What is computed meanwhile is kept only when this ends well: a COMMIT that fails leaves nothing."""
        if getattr(self._pending, "found", None) is not None:
            yield
            return
        self._pending.found = {}
        try:
            yield
            self._keep(self._pending.found)
        finally:
            self._pending.found = None


class Site:
    """One open database. Made once a process; connections are one a thread, for the length of an action."""

    def __init__(self, path: str | Path):
        self.path = Path(path)
        self._database = database.opened(self.path)
        self._present, self._fields = _Kept(), _Kept()

    @contextmanager
    def connection(self) -> Iterator[None]:
        """All that is asked meanwhile, in this thread, is asked of this site."""
        with database.using(self._database):
            yield

    @contextmanager
    def transaction(self) -> Iterator[None]:
        """All or nothing, what was computed included."""
        with (
            self.connection(),
            self._present.until_committed(),
            self._fields.until_committed(),
            database.transaction(),
        ):
            yield

    def published(self) -> bool:
        """Is there any network yet?"""
        with self.connection():
            return store.latest_key() is not None

    def as_it_is(self) -> SiteNow:
        """The site as it is now; NotFound before the first network was published."""
        with self.connection():
            stands = store.present()
            revision = stands.revision
            if revision is None:
                raise NotFound("network", "published yet")
            key = (self._file(), stands)
            return self._present.get(key, lambda: self._made(revision, stands.event))

    def _made(self, revision: RevisionKey, last: EventKey) -> SiteNow:
        network = network_of(revision.hash)
        field = self.field_as_of(revision.hash, last.id)
        circuit = at_present(network, field.devices)
        return SiteNow(
            site=self, network=network, number=revision.number, hash=revision.hash,
            published_at=revision.published_at, published_by=revision.published_by, field=field, event_id=last.id,
            ceiling_cal_cm2=float(settings.get("ceiling_cal_cm2")),
            liveness=liveness(network, circuit, field.devices, field),
            profile=profile(network.site.profile), walk_down=ledger.last("walk-down recorded"),
        )  # fmt: skip

    def field_as_of(self, revision_hash: str, event_id: int) -> Field:
        """The field after the event with this id, on the network of a revision."""
        with self.connection():
            key = (self._file(), revision_hash, store.event_key(event_id))
            return self._fields.get(key, lambda: fold_field(network_of(revision_hash), store.events(event_id)))

    def _file(self) -> tuple[int, int]:
        """Which file it is: another one put in its place is another record."""
        stat = self.path.stat()
        return stat.st_dev, stat.st_ino

    def setting(self, key: str) -> Any:
        with self.connection():
            return settings.get(key)


def on_site(do: Callable[P, R]) -> Callable[P, R]:
    """The action runs on the site that its first argument is, or is on, whatever else is open in the process."""

    @wraps(do)
    def bound(*args: P.args, **named: P.kwargs) -> R:
        first: Any = args[0]
        site: Site = first if isinstance(first, Site) else first.site
        with site.connection():
            return do(*args, **named)

    return bound
