"""Rows of text in, rows of results out: what the ``calc`` commands share. A refused row says why, without results."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any

from spinel.core.errors import InputError
from spinel.core.quantities import Quantity
from spinel.core.said import say

Row = Mapping[str, Any]


def run(
    rows: Iterable[Row], outputs: Sequence[str], compute: Callable[[Row], dict[str, Any]]
) -> Iterator[dict[str, Any]]:
    """Each row with its results, or with empty results and the reason in ``error``."""
    for row in rows:
        known = {k: v for k, v in row.items() if isinstance(k, str)}
        empty = {**dict.fromkeys(outputs, ""), "error": ""}
        try:
            if None in row:
                raise InputError("row", say("rows-more-values-than-columns"), say("rows-one-value-a-column"))
            yield {**known, **empty, **compute(known)}
        except InputError as error:
            yield {**known, **empty, "error": error.said}


def text(row: Row, column: str) -> str:
    """A column as stripped text, empty where there is none."""
    return (row.get(column) or "").strip()


def number(row: Row, quantity: Quantity, column: str) -> float:
    """A column as a number in range, or InputError."""
    return quantity.parse(row.get(column), column)


def optional(row: Row, quantity: Quantity, column: str) -> float | None:
    """The same; None where the column is empty."""
    return number(row, quantity, column) if text(row, column) else None


def yes(row: Row, column: str) -> bool:
    """Is it answered yes? InputError for anything but true, yes, 1, false, no, 0 or nothing."""
    said = text(row, column).lower()
    if said not in ("", "true", "yes", "1", "false", "no", "0"):
        raise InputError(column, row.get(column), say("true-or-false"))
    return said in ("true", "yes", "1")


def disarmed(value: object) -> object:
    """A cell of a table that goes out: what a spreadsheet would take for a formula is kept as text; a number is none.

    >>> disarmed("=1+1"), disarmed("-5"), disarmed("-cmd"), disarmed(-5)
    ("'=1+1", '-5', "'-cmd", -5)
    """
    if not isinstance(value, str) or value[:1] not in _FORMULAS:
        return value
    try:
        float(value)
    except ValueError:
        return f"'{value}"
    return value


def armed(value: str) -> str:
    """The inverse, for a table that comes back.

    >>> armed(str(disarmed("=1+1")))
    '=1+1'
    """
    return value[1:] if value[:1] == "'" and value[1:2] in _FORMULAS else value


_FORMULAS = ("=", "+", "-", "@", "\t", "\r")
