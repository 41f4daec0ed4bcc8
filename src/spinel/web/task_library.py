"""The task library: what each task does and asks, in the site's words, and which may be done live here."""

from __future__ import annotations

from itertools import groupby

from flask import Blueprint, render_template, request, url_for

from spinel.actions import task_library
from spinel.actions.task_library import LISTS, TaskKept, Wording
from spinel.core.permit.library import GROUPS
from spinel.core.permit.tasks import FACTS, Task
from spinel.core.said import Sayable, say
from spinel.web import forms, verdicts
from spinel.web.filters import words
from spinel.web.here import site
from spinel.web.session import act

pages = Blueprint("task_library", __name__)


def by_group(found: list[TaskKept]) -> list[tuple[str, list[TaskKept]]]:
    """In the order of the library."""
    order = {name: i for i, name in enumerate(GROUPS)}
    lined = sorted(found, key=lambda k: order[k.task.group])
    return [(name, list(each)) for name, each in groupby(lined, key=lambda k: k.task.group)]


@pages.get("/jobs/tasks")
def page():
    found = task_library.every(site())
    return render_template("jobs/tasks.html", groups=by_group(found), kinds_of=_kinds_of, answer=verdicts.tasks(found))


@pages.get("/jobs/tasks/<task_id>")
def one(task_id: str):
    return _one(task_id)


def _one(task_id: str, failed: forms.Failed | None = None):
    kept = task_library.kept(site(), task_id)
    return render_template(
        "jobs/task.html", kept=kept, task=kept.task, lists=LISTS, failed=failed, FACTS=FACTS,
        history=task_library.history(site(), task_id), text=_text, answer=verdicts.one_task(kept),
    )  # fmt: skip


def _kinds_of(one_task: Task) -> str:
    """Kinds of equipment that it is for, in words."""
    return ", ".join(words().say(say(f"kind-{k}")) for k in one_task.kinds)


def _text(lines: tuple[Sayable, ...]) -> str:
    return "\n".join(words().say(line) for line in lines)


@pages.post("/jobs/tasks/<task_id>/words")
def change(task_id: str):
    def do() -> int:
        task_library.may(act())
        shown = task_library.kept(site(), task_id).task
        lists = {
            name: tuple(forms.unsaid(line, getattr(shown, name), words()) for line in forms.lines(name))
            for name in LISTS
        }  # fmt: skip
        name = forms.unsaid(forms.text("name"), (shown.name,), words())
        told = Wording(name=name, people=forms.whole("people"), lists=lists)
        return task_library.change(act(), task_id, forms.whole("version"), told, forms.text("reason"))

    return forms.attempt("words", do, lambda _: _back(task_id), lambda failed: _one(task_id, failed))


@pages.post("/jobs/tasks/<task_id>/live")
def set_live(task_id: str):
    def do() -> list[str]:
        task_library.may(act())
        return task_library.set_live(act(), task_id, forms.text("reason"), live=request.form.get("live") == "yes")

    return forms.attempt("live", do, lambda _: _back(task_id), lambda failed: _one(task_id, failed))


@pages.post("/jobs/tasks/<task_id>/like")
def add(task_id: str):
    def do() -> str:
        task_library.may(act())
        return task_library.add(act(), task_id, forms.text("name"), forms.text("reason"))

    return forms.attempt("like", do, _back, lambda failed: _one(task_id, failed))


def _back(task_id: str) -> str:
    return url_for("task_library.one", task_id=task_id)
