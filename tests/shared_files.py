"""A file that costs seconds to make is made once, whichever worker of the suite asks first."""

from __future__ import annotations

import fcntl
import os
import shutil
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

import pytest

from spinel.actions.version import files_of, move


def once_for_all_workers(factory: pytest.TempPathFactory, name: str, make: Callable[[Path], None]) -> Path:
    """The file of this name, made by the first who asks; the others wait for it."""
    folder = factory.getbasetemp()
    if "PYTEST_XDIST_WORKER" in os.environ:
        folder = folder.parent
    path = folder / name
    with (folder / f"{name}.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not path.exists():
            making = path.with_suffix(".making")
            make(making)
            move(making, path)
    return path


def copied(source: Path, to: Path) -> Path:
    """A database that nobody works on, with what belongs to it."""
    for before, after in zip(files_of(source), files_of(to), strict=True):
        # what SQLite keeps beside it goes when somebody who looked closes it
        with suppress(FileNotFoundError):
            shutil.copy(before, after)
    return to


def put_in_place(old: Path, of: Path) -> None:
    """As somebody with the file would: an earlier copy of the database, with the keys and anchors beside it as they are."""
    for before, after in zip(files_of(old)[:3], files_of(of)[:3], strict=True):
        after.unlink(missing_ok=True)
        if before.exists():
            shutil.copy(before, after)
    of.chmod(0o600)
