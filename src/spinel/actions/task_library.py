"""The task library of a site: what ships, in the site's own words, tasks of its own, and which may be done live.

What a task does, what is asked of it and what it reaches come with the shipped task that it is or is made like, and are
nobody's to edit. Each change is a version; a job keeps the one that it was started with. Which tasks may be done live
is asked of the latest alone: what is taken off the list stops whatever is under way with it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields
from typing import Any

from spinel.actions import stopping
from spinel.actions.acting import Act, Unit, work
from spinel.actions.site import Site, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, NotFound
from spinel.core.permit.library import EDITABLE, TASKS, task, with_words
from spinel.core.permit.life import SIGNED, WITH_WINDOW
from spinel.core.permit.tasks import Task
from spinel.core.said import Sayable, say
from spinel.store import permits as permits_store
from spinel.store import site_tasks as store
from spinel.store.models import TaskVersion

#: Fields of a task that are lists of sentences, in the order of the page.
LISTS = ("steps", "practices", "instruments", "tools", "wear", "place", "hazards")
_MOST_PEOPLE = 12


@dataclass(frozen=True, kw_only=True)
class TaskKept:
    """A task as it stands. ``version``: 0 as it ships; ``by``, ``at``, ``because``: of the last change. ``like``: the
    shipped task that its rules come from."""

    task: Task
    version: int
    live: bool
    like: str
    by: str = ""
    at: str = ""
    because: str = ""

    @property
    def own(self) -> bool:
        return self.task.id != self.like


@dataclass(frozen=True, kw_only=True)
class Wording:
    """What a coordinator says of a task. ``lists``: by field, a sentence each."""

    name: Sayable
    people: int
    lists: Mapping[str, Sequence[Sayable]]


@on_site
def of(site: Site, task_id: str, version: int) -> Task:
    """A task in one of its versions, or NotFound."""
    if version == 0:
        return task(task_id)
    row = store.version(task_id, version)
    if row is None:
        raise NotFound("task", f"{task_id} {version}")
    return _read(row)


def _read(row: TaskVersion) -> Task:
    found = shapes.read("task", row.content)
    known = {k: tuple(v) if isinstance(v, list) else v for k, v in found.items() if k in EDITABLE}
    shipped = task(row.like)
    own = {f.name: getattr(shipped, f.name) for f in fields(shipped)} | {"id": row.task_id}
    return with_words(Task(**own), {**known, "live": bool(row.live)})


@on_site
def kept(site: Site, task_id: str) -> TaskKept:
    """A task as it stands now, or NotFound."""
    return _kept(task_id, store.latest_of(task_id))


def _kept(task_id: str, row: TaskVersion | None) -> TaskKept:
    if row is None:
        shipped = task(task_id)
        return TaskKept(task=shipped, version=0, live=shipped.live, like=task_id)
    return TaskKept(
        task=_read(row), version=row.number, live=bool(row.live), like=row.like, by=row.by, at=row.at,
        because=row.because,
    )  # fmt: skip


@on_site
def every(site: Site) -> list[TaskKept]:
    """All tasks as they stand: what ships in its order, then the site's own."""
    changed = {row.task_id: row for row in store.latest()}
    own = [row for row in changed.values() if row.task_id not in TASKS]
    return [*(_kept(i, changed.get(i)) for i in TASKS), *(_kept(row.task_id, row) for row in own)]


@on_site
def history(site: Site, task_id: str) -> list[TaskVersion]:
    """Every version, the latest first; none where it is as it ships."""
    return store.versions(task_id)


@on_site
def who_may_add(site: Site, task_id: str) -> tuple[str, ...] | None:
    """None where a task is on the site's list of live tasks; else the names of those who may put it there."""
    if kept(site, task_id).live:
        return None
    return tuple(p.name for p in site.register() if p.active and "coordinator" in p.roles)


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", what=say("act-tasks-keep-the-library"))


@on_site
def change(act: Act, task_id: str, seen: int, wording: Wording, because: str) -> int:
    """A new version in other words. ``seen``: the version that it was written on. The number of the version."""
    may(act)
    content, why = _checked(wording), texts.REASON.check(because)
    with work(act) as unit:
        now = kept(act.site, task_id)
        if unit.done:
            return now.version
        _need_seen(now, seen)
        return _put(unit, now, content, why, live=now.live)


@on_site
def set_live(act: Act, task_id: str, because: str, *, live: bool) -> list[str]:
    """Put a task on the site's list of live tasks, or take it off. Off: issued permits of it are suspended, signed ones
    go back to draft. Numbers of those."""
    may(act)
    why = texts.REASON.check(because)
    with work(act) as unit:
        now = kept(act.site, task_id)
        if unit.done or now.live is live:
            return []
        _put(unit, now, _content(now.task), why, live=live)
        return [] if live else _stop(unit, task_id, say("tasks-no-longer-live", name=now.task.name, why=why))


@on_site
def add(act: Act, like: str, name: str, because: str) -> str:
    """A task of the site's own, made like another: it does, asks and reaches the same. Not on the list of live tasks
    before somebody puts it there. Its id."""
    may(act)
    model, title, why = kept(act.site, like), texts.TITLE.check(name, "name"), texts.REASON.check(because)
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        task_id = f"own-{store.own() + 1}"
        content = {**_content(model.task), "name": title}
        text = shapes.write("task", content).text
        store.insert(task_id, 1, model.like, text, False, act.at, act.actor.name, why)
        unit.record("task added", f"task:{task_id}", {"like": model.like, "name": title, "because": why})
    return task_id


def _need_seen(now: TaskKept, seen: int) -> None:
    if now.version != seen:
        raise InputError("version", seen, say("tasks-changed-meanwhile", name=now.by))


def _put(unit: Unit, now: TaskKept, content: Mapping[str, Any], why: str, *, live: bool) -> int:
    number = now.version + 1
    text = shapes.write("task", content).text
    store.insert(now.task.id, number, now.like, text, live, unit.act.at, unit.act.actor.name, why)
    known = {"version": number, "live": live, "because": why}
    unit.record("task changed", f"task:{now.task.id}", known)
    return number


def _content(of_task: Task) -> dict[str, Any]:
    lists = {name: list(getattr(of_task, name)) for name in LISTS}
    return {"name": of_task.name, "people": of_task.people, **lists}


def _checked(wording: Wording) -> dict[str, Any]:
    name = texts.TITLE.check(wording.name, "name") if isinstance(wording.name, str) else wording.name
    if not 1 <= wording.people <= _MOST_PEOPLE:
        raise InputError("people", wording.people, say("tasks-people-from-one", most=_MOST_PEOPLE))
    lists: dict[str, list[Sayable]] = {}
    for field in LISTS:
        lines = wording.lists.get(field, ())
        if len(lines) > texts.MOST_LINES:
            raise InputError(field, len(lines), say("forms-at-most-lines", most=texts.MOST_LINES))
        lists[field] = [texts.LINE.check(line, field) if isinstance(line, str) else line for line in lines]
    if not lists["steps"]:
        raise InputError("steps", "", say("act-permits-at-least-one-step-one-a-line"))
    return {"name": name, "people": wording.people, **lists}


def _stop(unit: Unit, task_id: str, reason: Sayable) -> list[str]:
    touched = []
    for permit in permits_store.permits_in((*SIGNED, *WITH_WINDOW)):
        content = shapes.content("permit", permit.content)
        if content["task"]["id"] != task_id:
            continue
        if permit.state in SIGNED:
            stopping.back_to_draft(unit, permit, content, reason)
        else:
            stopping.suspend(unit, permit, reason)
        touched.append(permit.number)
    return touched
