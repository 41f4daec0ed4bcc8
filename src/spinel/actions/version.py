"""Does a database belong to this version? Asked before anything heavy is loaded; one of another is left as it is."""

from __future__ import annotations

from pathlib import Path
from shutil import rmtree

from spinel.core.errors import WrongVersion
from spinel.core.said import say
from spinel.store import database, files


def check_version(path: str | Path) -> None:
    """WrongVersion for the database of an earlier or a later version; one that is not there yet is fine."""
    if not Path(path).exists():
        return
    with database.using(database.opened(path)):
        need_own(path, database.schema())


def is_marked_demo(path: str | Path) -> bool:
    """Is a file a demo's database? Anything else is somebody's own, and nothing more is asked of it."""
    return database.holds_setting(path, "demo", "true")


#: What lies beside a database: of SQLite, and of our own.
_SQLITE, _OWN = ("-wal", "-shm"), (".keys", ".beside", ".anchors")


def files_of(path: str | Path) -> tuple[Path, ...]:
    """The database file, and whatever may lie beside it and belongs to it."""
    return tuple(Path(f"{path}{end}") for end in ("", *_SQLITE, *_OWN))


def move(source: str | Path, to: str | Path) -> None:
    """A database that nobody has open, to another place with all that belongs to it; the database itself last."""
    for before, after in reversed(list(zip(files_of(source), files_of(to), strict=True))):
        if before.exists():
            before.rename(after)
    if files.folder(source).exists():
        files.folder(source).rename(files.folder(to))


def remove(path: str | Path) -> None:
    """A database that is somebody's own to delete, with all that belongs to it: who was signed in goes with it."""
    for file in files_of(path):
        file.unlink(missing_ok=True)
    rmtree(files.folder(path), ignore_errors=True)


def need_own(path: str | Path, schema: database.Schema) -> None:
    """WrongVersion unless the schema is that of this version, or empty."""
    if schema.unknown:
        raise WrongVersion(say("version-was-written-by-a-later-version-of", path=str(path)))
    if schema.lacks and not schema.empty:
        raise WrongVersion(say("version-is-of-an-earlier-version-of-spinel", path=str(path)))
