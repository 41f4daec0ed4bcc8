"""A site: one open database with what is known of it. Every action takes one, or an act that is on one.

What a site has computed from its rows is kept for rows that are committed, and forgotten with a write that is not.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, replace
from dataclasses import field as dataclass_field
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
from spinel.core.network.now import FieldEvent as Event
from spinel.core.profile import Profile, profile
from spinel.store import database, ledger, people, settings
from spinel.store import network as store
from spinel.store.network import EventKey, Present, RevisionKey
from spinel.store.people import Registered

P = ParamSpec("P")
R = TypeVar("R")
#: Computed things that a site keeps at a time, of each kind.
KEPT = 16


@dataclass(frozen=True, kw_only=True)
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
    settings: Mapping[str, Any]
    liveness: Liveness
    profile: Profile
    #: Fields after earlier events, by event, as far as somebody asked for them.
    past: dict[int, Field] = dataclass_field(default_factory=dict, compare=False)
    #: What was judged of it, by all that it was judged from.
    judged: dict[object, Any] = dataclass_field(default_factory=dict, compare=False, init=False)

    @cached_property
    def walk_down(self) -> tuple[str, str] | None:
        """When, and by whom, all positions were last recorded at once."""
        with self.site.connection():
            return ledger.last("walk-down recorded")

    @cached_property
    def study(self) -> Study:
        """The figures with the field as it stands; made when the first figure is asked for."""
        return self._study(self.field)

    def _study(self, field: Field) -> Study:
        return study_of(self.hash, self.network, at_present(self.network, field.devices), self.ceiling_cal_cm2)

    @property
    def name(self) -> str:
        """As it is printed: the site's own word for itself, or the document's."""
        return str(self.settings["site_name"]) or self.network.site.name

    @property
    def ceiling_cal_cm2(self) -> float:
        """The site's own ceiling; the lower of it and the practice's holds."""
        return float(self.settings["ceiling_cal_cm2"])

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
        if event_id > self.event_id:
            raise NotFound("field event by now", event_id)
        if event_id not in self.past:
            self.past[event_id] = self.site.folded(self.hash, event_id)
        return self.past[event_id]

    def study_as_of(self, event_id: int) -> Study:
        """The figures with the field as it was after the event with this id.

        A program carries the figures of the equipment live, as it was when it was drafted: what it opens itself must
        not make them smaller, nor leave so little current that no method covers it.
        """
        return self._study(self.field_as_of(event_id))

    def minutes_for(self, steps: int) -> float:
        """How long so many steps take, by the site's own estimate, min."""
        return steps * float(self.settings["step_min"])

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

    def known(self) -> list[tuple[Any, Any]]:
        """Everything kept that this thread may see."""
        with self._lock:
            committed = list(self._committed.items())
        return committed + list((getattr(self._pending, "found", None) or {}).items())

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
        self._present = _Kept()
        #: Of this thread: whether a page is read, and what was seen since the last write of one's own.
        self._scope = local()

    @contextmanager
    def connection(self) -> Iterator[None]:
        """All that is asked meanwhile, in this thread, is asked of this site."""
        with database.using(self._database):
            yield

    @contextmanager
    def transaction(self, patience_ms: int | None = None) -> Iterator[None]:
        """All or nothing, what was computed included. ``patience_ms``: how long it waits for another act to end, where
        not as ever."""
        if getattr(self._scope, "reading", False):
            raise RuntimeError("nothing is written while a page is read")
        with (
            self.connection(),
            self._alone(),
            self._present.until_committed(),
            database.transaction(patience_ms),
            self._remembering(),
        ):
            yield

    def can_write(self) -> bool:
        """Within a transaction: would this connection take an entry?"""
        return database.takes_entries()

    @contextmanager
    def _alone(self) -> Iterator[None]:
        """An act is whole: none begins within another."""
        if database.in_transaction():
            raise RuntimeError("an act begins within another")
        yield

    @contextmanager
    def snapshot(self) -> Iterator[None]:
        """Everything read meanwhile is of one moment, for a page that must not contradict itself."""
        with self.connection(), database.snapshot(), self._remembering():
            self._scope.reading = True
            try:
                yield
            finally:
                self._scope.reading = False

    @contextmanager
    def _remembering(self) -> Iterator[None]:
        """Nobody else can change what is seen meanwhile: the present is asked for once, and after each own write."""
        self._scope.seen = {}
        try:
            yield
        finally:
            self._scope.seen = None

    def published(self) -> bool:
        """Is there any network yet? NotAsPublished when there is one that cannot be trusted."""
        try:
            self.as_it_is()
        except NotFound:
            return False
        return True

    def as_it_is(self) -> SiteNow:
        """The site as it is now; NotFound before the first network was published."""
        with self.connection():
            return self._once("present", self._asked)

    def register(self) -> tuple[Registered, ...]:
        """Everybody who ever was registered, by name."""
        with self.connection():
            return self._once("register", people.register)

    def names(self) -> dict[int, str]:
        """The name of everybody who ever was registered, by id."""
        return {p.id: p.name for p in self.register()}

    def _once(self, what: str, ask: Callable[[], R]) -> R:
        """Asked once while nobody else can change what is seen, and once more after each own write."""
        seen: dict[tuple[str, int], Any] | None = getattr(self._scope, "seen", None)
        if seen is None:
            return ask()
        key = (what, database.changes())
        if key not in seen:
            seen[key] = ask()
        found: R = seen[key]
        return found

    def _asked(self) -> SiteNow:
        stands = store.present()
        revision = stands.revision
        if revision is None:
            raise NotFound("network", "published yet")
        return self._present.get((self._file(), stands), lambda: self._made(revision, stands))

    def _made(self, revision: RevisionKey, stands: Present) -> SiteNow:
        """Folded on from the latest state that is known, if the record up to there is still the same."""
        network, last = network_of(revision.hash), stands.event
        before, events = self._latest(revision.hash, last)
        past = dict(before.past) if before else {}
        field = fold_field(network, events, before.field if before else None)
        past[last.id] = field
        circuit = at_present(network, field.devices)
        return SiteNow(
            site=self, network=network, number=revision.number, hash=revision.hash,
            published_at=revision.published_at, published_by=revision.published_by, field=field, event_id=last.id,
            settings=settings.read(stands.settings), liveness=liveness(network, circuit, field.devices, field),
            profile=profile(network.site.profile), past=past,
        )  # fmt: skip

    def _latest(self, revision_hash: str, last: EventKey) -> tuple[SiteNow | None, list[Event]]:
        """The latest state kept of this revision whose last event is still the one that the record holds, and what
        happened since; all that ever happened, where there is none."""
        found: SiteNow | None = None
        known: EventKey | None = None
        for (file, stands), now in self._present.known():
            event = stands.event
            newer = found is None or event.id > found.event_id
            if file == self._file() and now.hash == revision_hash and event.id <= last.id and newer:
                found, known = now, event
        since = store.events_since(known, last.id) if known is not None else None
        return (None, store.events(0, last.id)) if since is None else (found, since)

    def folded(self, revision_hash: str, event_id: int) -> Field:
        """The field after the event with this id, on the network of a revision."""
        with self.connection():
            return fold_field(network_of(revision_hash), store.events(0, event_id))

    def _file(self) -> tuple[int, int]:
        """Which file it is: another one put in its place is another record."""
        stat = self.path.stat()
        return stat.st_dev, stat.st_ino

    def settings_now(self) -> Mapping[str, Any]:
        """All settings, asked once a page."""
        with self.connection():
            return self._once("settings", settings.everything)

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
