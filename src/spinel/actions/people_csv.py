"""The register as tables that go out and come back: people, qualifications, and what was shown.

Each row that comes back is an act of its own: one that is refused says why, and keeps none of the others.
"""

from __future__ import annotations

import csv
import io
import secrets
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

from spinel.actions import people, qualifying, register
from spinel.actions.acting import Act
from spinel.actions.site import Site, on_site
from spinel.core.errors import InputError, Refusal, SpinelError
from spinel.core.people import ROLES, TASK, Course
from spinel.core.rows import armed, disarmed
from spinel.core.said import Sayable, say
from spinel.store import people as store
from spinel.store import training

COLUMNS: Mapping[str, Sequence[str]] = {
    "people": ("login", "name", "employer", "company", "trade", "languages", "phone", "roles", "here"),
    "qualifications": ("login", "task", "equipment_class", "since", "until"),
    "training": (
        "login", "course", "task", "equipment_class", "how", "day", "until", "seen_by", "note"
    ),
}  # fmt: skip
#: More rows than any site has people and tasks: our choice.
MOST_ROWS = 5000


@on_site
def exported(site: Site, kind: str) -> str:
    """A table with its heads; roles are parted by semicolons."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS[kind])
    for row in {"people": _people, "qualifications": _qualifications, "training": _training}[kind](site):
        writer.writerow([disarmed(cell) for cell in row])
    return out.getvalue()


def _people(site: Site) -> Iterator[Sequence[str]]:
    for p in site.register():
        here = "yes" if p.active else "no"
        yield p.login, p.name, p.employer, p.company, p.trade, p.languages, p.phone, ";".join(sorted(p.roles)), here


def _qualifications(site: Site) -> Iterator[Sequence[str]]:
    held = store.qualifications()
    for p in site.register():
        for q in held.get(p.id, ()):
            since = q.since.isoformat() if q.since else ""
            yield p.login, q.task_id, q.equipment_class, since, q.until.isoformat()


def _training(site: Site) -> Iterator[Sequence[str]]:
    shown = training.by_person()
    for p in site.register():
        for c in reversed(shown.get(p.id, [])):
            until = c.until.isoformat() if c.until else ""
            yield (
                p.login, c.course, c.task_id, c.equipment_class, c.how, c.day.isoformat(), until, c.seen_by, c.note
            )  # fmt: skip


@dataclass(frozen=True)
class Row:
    """What became of a row, counted from 1 without the heads. ``wrong``: why it was refused, or None."""

    number: int
    what: str
    done: Sayable
    wrong: Sayable | None


@on_site
def import_(act: Act, kind: str, text: str) -> list[Row]:
    """Rows of a table, one after the other. InputError for a table that is none: nothing of it is looked at."""
    act.actor.needs("coordinator", what=say("register-change-the-register"))
    rows = _read(kind, text)
    do = {"people": _person_in, "qualifications": _qualification_in, "training": _training_in}[kind]
    return [_one(act, do, i, row) for i, row in enumerate(rows, 1)]


def _read(kind: str, text: str) -> list[dict[str, str]]:
    found = csv.DictReader(io.StringIO(text.lstrip("\ufeff")))
    heads = [h.strip() for h in found.fieldnames or ()]
    needed = [c for c in COLUMNS[kind] if c not in _MAY_LACK]
    if lacking := [c for c in needed if c not in heads]:
        raise InputError("table", ", ".join(heads), say("csv-a-table-with-heads", heads=tuple(lacking)))
    rows: list[dict[str, str]] = []
    for row in found:
        if len(rows) == MOST_ROWS:
            raise InputError("table", MOST_ROWS + 1, say("csv-rows-at-most", most=MOST_ROWS))
        rows.append({str(k).strip(): armed((v or "").strip()) for k, v in row.items() if isinstance(v, str)})
    return rows


#: What a table may leave out.
_MAY_LACK = ("company", "trade", "languages", "phone", "here", "since", "until", "note", "employer")


def _one(act: Act, do: Callable[[Act, Mapping[str, str]], Sayable], number: int, row: Mapping[str, str]) -> Row:
    own = replace(act, request_id=f"{act.request_id}-{number}" if act.request_id else None)
    what = " ".join(v for v in list(row.values())[:3] if v)[:120]
    try:
        return Row(number, what, do(own, row), None)
    except InputError as error:
        return Row(number, what, "", say("csv-wrong", field=error.field, allowed=error.allowed))
    except Refusal as error:
        return Row(number, what, "", say("forms-refused", why=error.why, remedy=error.remedy))
    except SpinelError as error:
        return Row(number, what, "", error.said)


def _person_in(act: Act, row: Mapping[str, str]) -> Sayable:
    """Somebody new, who is invited afterwards; of somebody known what they are is put down, never their roles."""
    login = row["login"].lower()
    known = next((p for p in act.site.register() if p.login == login), None)
    about = {k: row.get(k, "") for k in ("company", "trade", "languages", "phone")}
    about["employer"] = row.get("employer", "") or "own"
    if known is None:
        roles = [r.strip() for r in row["roles"].split(";") if r.strip()]
        if unknown := set(roles) - set(ROLES):
            raise InputError("roles", ", ".join(sorted(unknown)), say("one-of", options=tuple(ROLES)))
        # nobody knows it: whoever it is for is invited
        people.add_person(
            act, login, row["name"], secrets.token_urlsafe(24), roles, about["phone"], must_change=True,
            about=register.check_about(about),
        )  # fmt: skip
        return say("csv-added")
    if known.name != row["name"]:
        raise InputError("name", row["name"], say("csv-the-name-that-it-has", name=known.name))
    if {k: getattr(known, k) for k in about} == about:
        return say("csv-as-it-is")
    register.describe(act, login, about)
    return say("csv-described")


def _qualification_in(act: Act, row: Mapping[str, str]) -> Sayable:
    """As it stands elsewhere; never shorter than what is held here."""
    until, since = _day(row, "until"), _day(row, "since") if row.get("since") else None
    if since is not None and since > until:
        raise InputError("since", since.isoformat(), say("qualifying-not-before-it-was-shown"))
    person = people.registered(row["login"])
    held = next(
        (
            q for q in store.held_by(person.id)
            if (q.task_id, q.equipment_class) == (row["task"], row["equipment_class"])
        ), None,
    )  # fmt: skip
    if held is not None and held.until >= until:
        return say("csv-as-it-is")
    qualifying.from_elsewhere(act, person.login, [(row["task"], row["equipment_class"])], until, since)
    return say("csv-qualified", until=until.isoformat())


def _training_in(act: Act, row: Mapping[str, str]) -> Sayable:
    until = _day(row, "until") if row.get("until") else None
    classes = tuple(k.strip() for k in row["equipment_class"].split(";") if k.strip())
    learnt = qualifying.Learnt(
        course=row["course"] or TASK, how=row["how"], day=_day(row, "day"), seen_by=row["seen_by"],
        task_id=row["task"], classes=classes, until=until, note=row.get("note", ""),
    )  # fmt: skip
    person = people.registered(row["login"])
    if any(_same(c, learnt) for c in training.of_person(person.id)):
        return say("csv-as-it-is")
    counts = qualifying.record(act, row["login"], learnt)
    return say("csv-counts-until", until=counts.isoformat()) if counts else say("csv-recorded")


def _same(kept: Course, learnt: qualifying.Learnt) -> bool:
    names = ("course", "how", "day", "seen_by", "task_id")
    same = all(getattr(kept, name) == getattr(learnt, name) for name in names)
    return same and kept.equipment_class in (learnt.classes or ("",))


def _day(row: Mapping[str, str], column: str) -> date:
    try:
        return date.fromisoformat(row.get(column, ""))
    except ValueError:
        raise InputError(column, row.get(column, ""), say("csv-a-day")) from None
