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
from tempfile import TemporaryDirectory

from spinel.actions import anchoring, sealed_backup
from spinel.actions.acting import utc_moment, utc_text
from spinel.actions.site import Site, on_site
from spinel.actions.version import files_of
from spinel.core.errors import InputError, NotFound, NotKept, Refusal
from spinel.core.said import Sayable, say
from spinel.store import attachments, beside, database, files, keys, ledger
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


def backup(path: str | Path, to: str | Path, now: datetime, key: Path | None = None) -> Copied:
    """A whole copy of a site's database, in a file that does not exist yet, readable by its owner alone. What it holds
    is anchored beside the database, and that it was taken is kept there. ``key``: a file; then the copy is one file
    that is encrypted with what it holds."""
    done = _sealed(_there(path), Path(to), key) if key else _copied(_there(path), Path(to), None, None)
    dropped = anchoring.drop_head(path, now, done.count, done.head)
    # the copy is there and whole, whether or not this can be written down
    with suppress(NotKept):
        beside.keep(Path(path), LAST, utc_text(now))
    return replace(done, trouble=done.trouble or dropped.trouble)


@on_site
def last_taken(site: Site) -> datetime | None:
    """When the last backup that was whole was taken."""
    at = beside.kept(site.path, LAST)
    return utc_moment(at) if at else None


def _sealed(source: Path, to: Path, key: Path) -> Copied:
    """Looked at as any other before it is encrypted; nothing of it is left in the clear."""
    if to.exists():
        raise InputError("to", str(to), say("backup-a-file-that-is-not-there-yet"))
    to.parent.mkdir(parents=True, exist_ok=True)
    with TemporaryDirectory(prefix=".sealing-", dir=to.parent) as folder:
        done = _copied(source, Path(folder) / sealed_backup.WITHIN, None, None)
        sealed_backup.seal(Path(folder), to, key)
    return replace(done, path=to)


def restore(
    from_: str | Path, to: str | Path, head: str | None = None, count: int | None = None, key: Path | None = None
) -> Copied:  # fmt: skip
    """A site's database from a backup. ``key``: the file that an encrypted one was made with. ``head``, ``count``: as
    printed on the last paper at hand: what was recorded after the backup is said to be lost; a head that the backup
    ought to hold and does not is refused."""
    source, target = _there(from_), Path(to)
    if not sealed_backup.is_sealed(source):
        return _copied(source, target, head, count)
    target.parent.mkdir(parents=True, exist_ok=True)
    with TemporaryDirectory(prefix=".opening-", dir=target.parent) as folder:
        return _copied(sealed_backup.unseal(source, Path(folder), key), target, head, count)


def _there(path: str | Path) -> Path:
    found = Path(path)
    if not found.is_file():
        raise NotFound("database", str(path))
    return found


def _copied(source: Path, to: Path, head: str | None, count: int | None) -> Copied:
    half = to.with_name(f"{to.name}.half")
    for taken in (*files_of(to), files.folder(to), half):
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
            wanted = sorted(attachments.referred())
        if verdict.broken_at is not None:
            raise _not_whole(source, say("backup-the-ledger-is-broken-at", entry=verdict.broken_at, why=verdict.reason))
        lacking = files.copy(source, to, wanted)
        database.settle(half)
        # with its keys, or nobody could tell later whether an entry was made anew
        if keys.file(source).exists():
            keys.copy(source, to)
        half.rename(to)
    finally:
        for rest in (half, Path(f"{half}-wal"), Path(f"{half}-shm")):
            rest.unlink(missing_ok=True)
    # the record itself is whole: what it refers to is said to be missing, and keeps nobody from having a backup
    trouble = say("backup-a-file-lacks", name=lacking[0][:12], count=len(lacking)) if lacking else ""
    return Copied(to, verdict.count, verdict.head, lost, bool(schema.lacks), trouble)


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
