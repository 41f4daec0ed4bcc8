"""Relay cases as rows of text, as ``spinel calc relay`` reads and writes them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from spinel.core import rows
from spinel.core.curves.relays import relay_time_s
from spinel.core.quantities import MULTIPLE, Quantity
from spinel.core.rows import Row, number, text
from spinel.core.said import say

OUTPUT = ("time_s", "error")
#: Any multiple is read here; the equation says that it must be above 1.
_OF_PICKUP = Quantity("multiple", say("curves-cases-times-pickup"), 0, 1e6)


def run_rows(cases: Iterable[Row]) -> Iterator[dict[str, Any]]:
    """Each row with the operating time of its relay, by the equation alone: no breaker, no tolerance, no flat part."""
    return rows.run(cases, OUTPUT, _run)


def _run(row: Row) -> dict[str, Any]:
    multiple, dial = number(row, _OF_PICKUP, "multiple"), number(row, MULTIPLE, "dial")
    return {"time_s": relay_time_s(text(row, "curve"), multiple, dial, text(row, "standard") or "ieee")}
