"""Files that the record refers to: kept beside the database under the hash of what they hold, readable by its owner
alone, and never changed."""

from __future__ import annotations

import os
import re
import secrets
import shutil
from collections.abc import Iterable
from hashlib import sha256
from pathlib import Path

from spinel.core.errors import NotKept

#: Names of kept files: hash and kind.
NAME = re.compile(r"[0-9a-f]{64}\.(?:pdf|png|jpg)")


def folder(beside: str | Path) -> Path:
    return Path(f"{beside}.files")


def keep(beside: Path, content: bytes, kind: str) -> str:
    """The name under which it is kept from now on, whole or not at all; the same content twice is kept once."""
    name = f"{sha256(content).hexdigest()}.{kind}"
    try:
        folder(beside).mkdir(mode=0o700, exist_ok=True)
        path = folder(beside) / name
        if not path.exists():
            half = path.with_name(f"{name}.{secrets.token_hex(4)}")
            with os.fdopen(os.open(half, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb") as out:
                out.write(content)
                out.flush()
                os.fsync(out.fileno())
            half.replace(path)
    except OSError as error:
        raise NotKept(str(error)) from error
    return name


def path_of(beside: Path, name: str) -> Path | None:
    """Where a kept file lies, or None for a name that is none, or a file that is not there."""
    path = folder(beside) / name
    return path if NAME.fullmatch(name) and path.is_file() else None


def is_whole(beside: Path, name: str) -> bool:
    """Does a kept file hold what its name says?"""
    path = path_of(beside, name)
    return path is not None and sha256(path.read_bytes()).hexdigest() == name.partition(".")[0]


def copy(beside: Path, to: Path, names: Iterable[str]) -> list[str]:
    """Copy kept files for a copy of the database; names of those that are not whole."""
    lacking = []
    for name in names:
        if not is_whole(beside, name):
            lacking.append(name)
            continue
        folder(to).mkdir(mode=0o700, exist_ok=True)
        target = folder(to) / name
        if not target.exists():
            shutil.copyfile(folder(beside) / name, target)
            target.chmod(0o600)
    return lacking
