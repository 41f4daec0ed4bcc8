"""Opening and preparing a database: for the web application, the command line and the demo alike."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from spinel.actions.acting import SYSTEM, Act, work
from spinel.actions.site import Site, on_site
from spinel.actions.version import need_own
from spinel.core.errors import NotFound, WrongVersion
from spinel.core.said import say
from spinel.store import database, keys, ledger, seals, settings


def open_site(path: str | Path) -> Site:
    """The site in a database file, made when there is none. WrongVersion for one of another version, left as it is."""
    site = Site(path)
    with site.connection():
        schema = database.schema()
        need_own(path, schema)
        if schema.empty:
            database.migrate()
        _need_keys(site.path)
    return site


def read_site(path: str | Path) -> Site:
    """The site in a database file, of whose record nothing is made or changed. WrongVersion for one of another version,
    NotFound for a file that holds no site."""
    if not Path(path).stat().st_size:
        # opening it would make a database of it
        raise NotFound("database", str(path))
    site = Site(path)
    try:
        with site.connection():
            schema = database.schema()
            need_own(path, schema)
            if schema.empty:
                raise NotFound("database", str(path))
    except database.DatabaseError:
        raise NotFound("database", str(path)) from None
    return site


def _need_keys(path: Path) -> None:
    """Keys where there are none: for a new site, and for one that came without its own. Each entry says with which keys
    it was made."""
    if keys.of(path) is None:
        with suppress(FileExistsError):
            keys.make(path, ledger.head()[0])


@dataclass(frozen=True)
class Upgraded:
    """``copy``: where the database lies as it was, None when nothing had to be done. ``ran``: names of the steps."""

    copy: Path | None
    ran: tuple[str, ...]


def upgrade(path: str | Path, now: datetime) -> Upgraded:
    """Bring a database of an earlier version up to date, after a whole copy of it beside it. Says what it did."""
    path = Path(path)
    if not path.exists():
        raise NotFound("database", str(path))
    site = Site(path)
    with site.connection():
        schema = database.schema()
        if schema.empty or schema.unknown:
            raise WrongVersion(say("setup-is-no-database-of-an-earlier-version", path=str(path)))
        if not schema.lacks:
            return Upgraded(None, ())
        # earlier versions left it to the machine who may read it
        path.chmod(0o600)
        copy = path.with_name(f"{path.name}.before-{now.astimezone(UTC):%Y%m%dT%H%M%SZ}")
        database.copy_to(copy)
        ran = tuple(database.migrate())
        _need_keys(path)
        with work(Act(site, SYSTEM, now)) as unit:
            # every row as the migrations left it is what the entries from here on are held against
            seals.forget()
            seals.touch_all()
            unit.record("database upgraded", "setting:schema", {"ran": list(ran)})
    return Upgraded(copy, ran)


def session_key(site: Site) -> str:
    known = keys.of(site.path)
    assert known is not None
    return known.session


def is_demo(site: Site) -> bool:
    return bool(site.setting("demo"))


@on_site
def mark_demo(act: Act) -> None:
    """From now on the sign-in page lists the demo people."""
    with work(act) as unit:
        settings.put("demo", True)
        unit.record("setting changed", "setting:demo", {"value": True})
