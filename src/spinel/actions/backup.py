"""A copy of the record that can be trusted, and the way back from one.

A backup is taken while people work, is looked at before it counts as one, and never takes the place of anything. Nor
does what is restored: somebody moves it into place by hand.
"""

from __future__ import annotations

import os
from contextlib import suppress
from dataclasses import dataclass, replace
from datetime import datetime
from pathlib import Path

from spinel.actions import anchoring
from spinel.actions.acting import utc_moment, utc_text
from spinel.actions.site import Site, on_site
from spinel.actions.version import files_of
from spinel.core.errors import InputError, NotFound, NotKept, Refusal
from spinel.core.said import Sayable, say
from spinel.store import beside, database, keys, ledger
from spinel.store.ledger import Verdict

#: Under this name it is kept when the last backup was taken.
LAST = "backup taken"


@dataclass(frozen=True)
class Copied:
    """``path``: the copy, whole and looked at. ``count``, ``head``: of its ledger. ``lost``: so many entries that the
    printed count has are not in it. ``older``: it is of an earlier version, and is upgraded before it is served.
    ``trouble``: what kept its head from being anchored."""

    path: Path
    count: int
    head: str
    lost: int = 0
    older: bool = False
    trouble: Sayable = ""


def backup(path: str | Path, to: str | Path, now: datetime) -> Copied:
    """A whole copy of a site's database, in a file that does not exist yet, readable by its owner alone. What it holds
    is anchored beside the database, and that it was taken is kept there."""
    done = _copied(_there(path), Path(to), None, None)
    dropped = anchoring.drop_head(path, now, done.count, done.head)
    # the copy is there and whole, whether or not this can be written down
    with suppress(NotKept):
        beside.keep(Path(path), LAST, utc_text(now))
    return replace(done, trouble=dropped.trouble)


@on_site
def last_taken(site: Site) -> datetime | None:
    """When the last backup that was whole was taken."""
    at = beside.kept(site.path, LAST)
    return utc_moment(at) if at else None


def restore(from_: str | Path, to: str | Path, head: str | None = None, count: int | None = None) -> Copied:
    """A site's database from a backup. ``head``, ``count``: as printed on the last paper at hand: what was recorded
    after the backup is said to be lost; a head that the backup ought to hold and does not is refused."""
    return _copied(_there(from_), Path(to), head, count)


def _there(path: str | Path) -> Path:
    found = Path(path)
    if not found.is_file():
        raise NotFound("database", str(path))
    return found


def _copied(source: Path, to: Path, head: str | None, count: int | None) -> Copied:
    half = to.with_name(f"{to.name}.half")
    for taken in (*files_of(to), half):
        if taken.exists():
            raise InputError("to", str(taken), say("backup-a-file-that-is-not-there-yet"))
    to.parent.mkdir(parents=True, exist_ok=True)
    os.close(os.open(half, os.O_CREAT | os.O_EXCL | os.O_RDWR, 0o600))
    try:
        problem = database.copied_whole(source, half)
        if problem:
            raise _not_whole(source, say("backup-sqlite-says", problem=problem))
        site = Site(half)
        with site.connection():
            schema = database.schema()
            if schema.empty or schema.unknown:
                raise _not_whole(source, say("backup-no-site-of-this-or-an-earlier-version"))
            lost, verdict = _against(head, count)
        if verdict.broken_at is not None:
            raise _not_whole(source, say("backup-the-ledger-is-broken-at", entry=verdict.broken_at, why=verdict.reason))
        database.settle(half)
        # with its keys, or nobody could tell later whether an entry was made anew
        if keys.file(source).exists():
            keys.copy(source, to)
        half.rename(to)
    finally:
        for rest in (half, Path(f"{half}-wal"), Path(f"{half}-shm")):
            rest.unlink(missing_ok=True)
    return Copied(to, verdict.count, verdict.head, lost, bool(schema.lacks))


def _against(head: str | None, count: int | None) -> tuple[int, Verdict]:
    """How many of the entries of a printed count are not there, and what walking the ledger says."""
    walk = ledger.verify if database.has_column("ledger", "wrote") else ledger.verify_old
    own = walk()
    if own.broken_at is not None or count is None:
        return 0, own if head is None or own.broken_at is not None else walk(head)
    if count > own.count:
        return count - own.count, own
    return 0, walk(head, count)


def _not_whole(source: Path, why: Sayable) -> Refusal:
    return Refusal(
        say("backup-a-copy-is-whole-or-none"), say("backup-of-is-not", path=str(source), why=why),
        say("backup-take-another"),
    )  # fmt: skip
