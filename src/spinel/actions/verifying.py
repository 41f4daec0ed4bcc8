"""Is the record what was recorded? Every row of every table against the ledger, and that against its keys and anchors.

Looked at is a copy, of one moment: nothing is made, migrated or written, whatever state the database is in.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from stat import S_IMODE
from tempfile import TemporaryDirectory

from spinel.actions.site import Site
from spinel.core.errors import NotFound
from spinel.core.said import Sayable, say
from spinel.store import anchors, attachments, beside, database, files, keys, ledger, seals, search
from spinel.store.database import DatabaseError
from spinel.store.keys import Keys

#: The one act after which every row is what it is, whatever it was before: its tables were changed.
UPGRADED = "database upgraded"
#: What is said of a file that something refers to and that is not whole.
LOST_FILE = "verify-evidence"


@dataclass(frozen=True)
class Report:
    """``found``: what is not as it was recorded, each by its name. ``unknown``: what this cannot tell."""

    count: int
    head: str
    found: tuple[Sayable, ...]
    unknown: tuple[Sayable, ...]


def verify(path: str | Path, head: str | None = None, count: int | None = None, anchored: Path | None = None) -> Report:
    """Look at a database file. ``head``, ``count``: as printed on a paper. ``anchored``: a file of anchors kept apart,
    beside those that lie with the database."""
    path = Path(path)
    if not path.is_file():
        raise NotFound("database", str(path))
    with TemporaryDirectory(prefix="spinel-verify-") as folder:
        copy = Path(folder) / "copy.sqlite3"
        problem = database.copied_whole(path, copy)
        found: list[Sayable] = [say("backup-sqlite-says", problem=problem)] if problem else []
        site = Site(copy)
        try:
            with site.connection():
                return _looked_at(path, Path(folder), found, head, count, anchored)
        except DatabaseError as error:
            return Report(0, "", (*found, say("backup-sqlite-says", problem=str(error))), ())


def _looked_at(
    path: Path, folder: Path, found: list[Sayable], head: str | None, count: int | None, anchored: Path | None
) -> Report:
    schema = database.schema()
    if schema.empty or schema.unknown:
        return Report(0, "", (say("backup-no-site-of-this-or-an-earlier-version"),), ())
    found += _files(path)
    unknown: list[Sayable] = []
    known = _keys(path, found)
    sealed = database.has_column("ledger", "wrote")
    chain = ledger.verify(head, count, known) if sealed else ledger.verify_old(head, count)
    if chain.broken_at is not None:
        found.append(say("verify-chain", entry=chain.broken_at, why=chain.reason))
    if schema.lacks:
        unknown.append(say("verify-rows-of-an-earlier-version"))
    else:
        found += [*rows_astray(), *_schema(folder), *(say("verify-index", what=what) for what in search.astray())]
        unknown += _keyed(known)
        lacking = (name for name in sorted(attachments.referred()) if not files.is_whole(path, name))
        found += (say(LOST_FILE, name=name[:12]) for name in lacking)
    lines = _anchors(path, anchored, found)
    found += _against(lines, chain.count)
    if not lines and count is None:
        unknown.append(say("verify-no-anchor"))
    return Report(chain.count, chain.head, tuple(found), tuple(unknown))


def _files(path: Path) -> Iterator[Sayable]:
    """Files that others than their owner may read or write."""
    for file in (path, *(Path(f"{path}{end}") for end in ("-wal", "-shm")), keys.file(path), beside.file(path),
                 anchors.file(path)):  # fmt: skip
        if file.exists() and S_IMODE(file.stat().st_mode) & 0o077:
            yield say("verify-file-is-open", file=str(file), mode=f"{S_IMODE(file.stat().st_mode):04o}")


def _keys(path: Path, found: list[Sayable]) -> Keys | None:
    try:
        return keys.of(path)
    except ValueError:
        found.append(say("verify-keys-unreadable", file=str(keys.file(path))))
        return None


def rows_astray() -> Iterator[Sayable]:
    """Each row of which the chain through the ledger breaks, and each that is not as its last entry left it."""
    last: dict[str, str] = {}
    for seq, act, wrote in ledger.writings():
        if act == UPGRADED:
            last = {row: after for row, (_, after) in wrote.items() if after is not None}
            continue
        for row, (before, after) in wrote.items():
            if last.pop(row, None) != before:
                yield say("verify-row-found-otherwise", row=row, entry=seq)
            if after is not None:
                last[row] = after
    for row, now in seals.everything():
        then = last.pop(row, None)
        if then is None:
            yield say("verify-row-put-in", row=row)
        elif then != now:
            yield say("verify-row-changed", row=row)
    for row in last:
        yield say("verify-row-gone", row=row)
    for row in seals.left():
        yield say("verify-row-noted", row=row)


def _schema(folder: Path) -> Iterator[Sayable]:
    """Tables, triggers and indexes that are not those of this version."""
    own = database.schema_texts()
    fresh = Site(folder / "fresh.sqlite3")
    with fresh.connection():
        database.migrate()
        expected = database.schema_texts()
    for name in sorted(own.keys() | expected.keys()):
        if own.get(name) != expected.get(name):
            yield say("verify-schema", name=name)


def _keyed(known: Keys | None) -> Iterator[Sayable]:
    """Entries whose keyed code nobody can check here."""
    for name, first, last in ledger.keys_used():
        if not name:
            yield say("verify-not-keyed", first=first, last=last)
        elif known is None or name != known.name:
            yield say("verify-keyed-elsewhere", first=first, last=last, name=name)


def _anchors(path: Path, anchored: Path | None, found: list[Sayable]) -> list[anchors.Anchor]:
    if anchored is not None and not anchored.is_file():
        raise NotFound("file of anchors", str(anchored))
    lines = []
    for file in filter(None, (anchors.file(path), anchored)):
        try:
            lines += anchors.read(file)
        except ValueError as error:
            found.append(say("verify-anchors-unreadable", line=str(error)))
    return lines


def _against(lines: list[anchors.Anchor], count: int) -> Iterator[Sayable]:
    """Anchors that the ledger does not hold: an old copy was put in place, or another record."""
    hashes = ledger.hashes()
    for anchor in lines:
        if anchor.count and hashes.get(anchor.count) != anchor.head:
            code = "verify-anchor-cut" if anchor.count > count else "verify-anchor-other"
            yield say(code, at=anchor.at, anchored=anchor.count, count=count)
