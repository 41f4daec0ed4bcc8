"""Shock cases as rows of text, as ``spinel calc shock`` reads and writes them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from spinel.core import rows
from spinel.core.errors import InputError, NotFound, OutOfRange
from spinel.core.profile import NORTH_AMERICAN, profile
from spinel.core.quantities import NOMINAL_VOLTAGE_V
from spinel.core.rows import Row, number, text
from spinel.core.said import say
from spinel.core.shock.approach import approach, glove_class

OUTPUT = ("limited_movable_mm", "limited_fixed_mm", "restricted_mm", "avoid_contact", "glove_class", "error")


def run_rows(cases: Iterable[Row]) -> Iterator[dict[str, Any]]:
    """Each row with its boundaries and gloves. Below the profile's threshold: empty, no error."""
    return rows.run(cases, OUTPUT, _run)


def _run(row: Row) -> dict[str, Any]:
    voltage = number(row, NOMINAL_VOLTAGE_V, "voltage_v")
    current = text(row, "current").lower()
    try:
        rules = profile(text(row, "profile") or NORTH_AMERICAN.id).shock
    except NotFound:
        raise InputError("profile", row.get("profile"), say("shock-cases-empty-or", id=NORTH_AMERICAN.id)) from None
    found = approach(voltage, current, rules)
    given = {n: getattr(found, n) for n in ("limited_movable_mm", "limited_fixed_mm", "restricted_mm")}
    answer: dict[str, Any] = {n: "" if v is None else v for n, v in given.items()}
    answer["avoid_contact"] = "true" if found.avoid_contact else "false"
    if found.limited_fixed_mm is not None:
        try:
            answer["glove_class"] = glove_class(voltage, current, rules).name
        except OutOfRange as error:
            # the distances stand; only the gloves are beyond their classes
            answer["error"] = say("shock-cases-glove-class", error=error)
    return answer
