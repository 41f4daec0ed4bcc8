"""Heads of the ledger that were written down outside of it, one a line: when, how many entries, hash of the last.

Whoever puts an old copy in place of the database, or makes all of its entries anew, has to find every such place too.
"""

from __future__ import annotations

import os
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Anchor:
    at: str
    count: int
    head: str

    @property
    def line(self) -> str:
        return f"{self.at} {self.count} {self.head}"


def file(beside: str | Path) -> Path:
    return Path(f"{beside}.anchors")


def drop(to: Path, anchor: Anchor) -> None:
    """Add a line, and have it on the disk."""
    descriptor = os.open(to, os.O_CREAT | os.O_APPEND | os.O_WRONLY, 0o600)
    try:
        os.write(descriptor, f"{anchor.line}\n".encode())
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def read(path: Path) -> list[Anchor]:
    """The anchors of a file, none where it is not there. ValueError for a line that is no anchor."""
    if not path.exists():
        return []
    found = []
    for line in path.read_text("ascii", "replace").splitlines():
        at, count, head = (*line.split(), "", "", "")[:3]
        if not (count.isascii() and count.isdigit() and len(head) == 64):
            raise ValueError(f"{path}: {line[:80]}")
        found.append(Anchor(at, int(count), head))
    return found
