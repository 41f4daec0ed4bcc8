"""Where a value of the network document comes from, and since when it is known: a plate, a drawing, or nobody's word.

A record says it under ``basis``, by the name of the field. What it does not say is not known to be right or wrong: it
counts as told by nobody. ``ASSUMED`` is what a default or a guess put there, until somebody confirms it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

ASSUMED = "assumed"
#: In the order in which they are offered.
ORIGINS = ("plate", "drawing", "letter", "maker", "measured", "seen", ASSUMED)


@dataclass(frozen=True)
class Basis:
    """``origin``: one of ``ORIGINS``. ``on``: the day on which it was read off, ISO, where told. ``note``: which
    drawing, which letter."""

    origin: str
    on: str = ""
    note: str = ""


Bases = Mapping[str, Basis]


def read_bases(record: Mapping[str, Any]) -> Bases:
    """The bases of a record's fields, by field.

    >>> read_bases({"rated_kva": 75, "basis": {"rated_kva": {"from": "plate", "on": "2026-11-02"}}})["rated_kva"].on
    '2026-11-02'
    """
    return {
        name: Basis(said["from"], said.get("on", ""), said.get("note", ""))
        for name, said in record.get("basis", {}).items()
    }


def assumed(record: Mapping[str, Any]) -> tuple[str, ...]:
    """Fields of a record, as it stands in a document, that are assumed; in the order in which they stand there."""
    return tuple(name for name, said in record.get("basis", {}).items() if said.get("from") == ASSUMED)
