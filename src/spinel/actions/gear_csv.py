"""The register of gear as a table that goes out and comes back. Each row that comes back is an act of its own: one that
is refused says why, and keeps none of the others. What is there already is never changed by a table."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from dataclasses import replace
from datetime import date

from spinel.actions import gear
from spinel.actions.acting import Act
from spinel.actions.people_csv import MOST_ROWS, Row
from spinel.actions.site import Site, on_site
from spinel.core.errors import InputError, SpinelError
from spinel.core.gear.items import Item
from spinel.core.gear.kinds import CATEGORY, CLASS, NUMBERS
from spinel.core.rows import armed, disarmed
from spinel.core.said import Sayable, say
from spinel.store import gear as store

_DAYS = ("bought", "in_service", "tested")
COLUMNS = (
    "number", "kind", *NUMBERS, CATEGORY, "ac", "dc", CLASS, "size", "place", "owner", *_DAYS, "certificate", "tag",
    "holder", "out_of_use",
)  # fmt: skip
#: What a table may leave out, and what is told on the way out alone.
_NEEDED = ("number", "kind")


@on_site
def exported(site: Site) -> str:
    """All items that are not retired, with their heads."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    logins = {p.name: p.login for p in site.register()}
    for item in gear.everything(site):
        if not item.retired:
            writer.writerow([disarmed(cell) for cell in _row(item, logins, site)])
    return out.getvalue()


def _row(item: Item, logins: Mapping[str, str], site: Site) -> list[str]:
    r = item.rating
    numbers = ["" if (v := getattr(r, name)) is None else format(v, ".12g") for name in NUMBERS]
    days = [d.isoformat() if (d := getattr(item, name)) else "" for name in _DAYS]
    element = gear.built_into(site, item)
    return [
        item.number, item.kind_id, *numbers, str(r.category or ""), "yes" if r.ac else "", "yes" if r.dc else "",
        r.glove_class, item.size, item.place, logins.get(item.owner, ""), *days, item.certificate,
        element.tag if element else "", logins.get(item.holder, ""), "yes" if item.barred else "",
    ]  # fmt: skip


@on_site
def import_(act: Act, text: str) -> list[Row]:
    """Rows of a table, one after the other. InputError for a table that is none: nothing of it is looked at."""
    gear.may(act)
    found = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    heads = [h.strip() for h in found.fieldnames or ()]
    if lacking := [c for c in _NEEDED if c not in heads]:
        raise InputError("table", ", ".join(heads), say("csv-a-table-with-heads", heads=tuple(lacking)))
    report: list[Row] = []
    for row in found:
        if len(report) == MOST_ROWS:
            raise InputError("table", MOST_ROWS + 1, say("csv-rows-at-most", most=MOST_ROWS))
        cells = {str(k).strip(): armed((v or "").strip()) for k, v in row.items() if isinstance(v, str)}
        report.append(_one(act, len(report) + 1, cells))
    return report


def _one(act: Act, number: int, row: Mapping[str, str]) -> Row:
    own = replace(act, request_id=f"{act.request_id}-{number}" if act.request_id else None)
    what = f"{row.get('number', '')} {row.get('kind', '')}".strip()[:120]
    try:
        return Row(number, what, _in(own, row), None)
    except InputError as error:
        return Row(number, what, "", say("csv-wrong", field=error.field, allowed=error.allowed))
    except SpinelError as error:
        return Row(number, what, "", error.said)


def _in(act: Act, row: Mapping[str, str]) -> Sayable:
    if store.one(row["number"]) is not None:
        return say("csv-as-it-is")
    currents = tuple(c for c in ("ac", "dc") if row.get(c, "").casefold() in ("yes", "1", "true"))
    told = gear.NewItem(
        number=row["number"], kind_id=row["kind"], currents=currents,
        ratings={name: row.get(name, "") for name in (*NUMBERS, CATEGORY, CLASS)}, size=row.get("size", ""),
        place=row.get("place", ""), owner=row.get("owner", ""), tag=row.get("tag", ""),
        bought=_day(row, "bought"), in_service=_day(row, "in_service"), tested=_day(row, "tested"),
        certificate=row.get("certificate", ""),
    )  # fmt: skip
    gear.add(act, told)
    if row.get("out_of_use", "").casefold() == "yes":
        # two acts: the second may fail, and then the item is in use; it says so
        gear.bar(replace(act, request_id=None), told.number, say("gear-out-of-use-elsewhere"))
    return say("csv-added")


def _day(row: Mapping[str, str], column: str) -> date | None:
    if not row.get(column):
        return None
    try:
        return date.fromisoformat(row[column])
    except ValueError:
        raise InputError(column, row[column], say("csv-a-day")) from None
