"""Long lists, a page at a time."""

from __future__ import annotations

from dataclasses import dataclass

from flask import request

#: Rows on one page of a list.
ROWS = 50


@dataclass(frozen=True)
class Paging:
    """Which rows of how many are shown. ``newer``, ``older``: where the pages beside it begin, or None."""

    first: int
    total: int

    @property
    def last(self) -> int:
        return min(self.first + ROWS, self.total)

    @property
    def newer(self) -> int | None:
        return max(self.first - ROWS, 0) if self.first else None

    @property
    def older(self) -> int | None:
        return self.first + ROWS if self.first + ROWS < self.total else None


def paging(total: int) -> Paging:
    """As the address asks with ``first``; what makes no sense is the first page."""
    raw = request.args.get("first", "")
    first = int(raw) if raw.isascii() and raw.isdigit() and len(raw) < 9 else 0
    return Paging(first - first % ROWS if first < total else 0, total)
