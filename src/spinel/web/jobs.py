"""Jobs: the list, starting one, and the folder with stages, questions and the decision in words."""

from __future__ import annotations

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import assessing, crew_check, equipment, job_plan, jobs, permits, task_library
from spinel.actions.task_library import TaskKept
from spinel.core.errors import NotFound
from spinel.core.isolation.reenergizing import reenergizing
from spinel.core.permit.justification import QUESTIONS
from spinel.core.permit.tasks import FACTS, fits
from spinel.core.said import Sayable
from spinel.web import forms, phrases, verdicts
from spinel.web.here import here, site
from spinel.web.paging import ROWS, paging
from spinel.web.session import act, actor
from spinel.web.task_library import by_group

pages = Blueprint("jobs", __name__)


@pages.get("/jobs")
def page():
    state = request.args.get("state", "open")
    shown = state if state in ("open", "closed", "cancelled") else None
    part = paging(jobs.count(site(), shown))
    lines = jobs.lines(site(), shown, part.first, ROWS)
    return render_template("jobs/jobs.html", jobs=lines, part=part, state=shown or "all", why_not=_why_not())


@pages.get("/jobs/new")
def new():
    return _new()


def _new(failed: forms.Failed | None = None):
    typed = failed.typed if failed else request.args
    elements = sorted(here().network.elements, key=lambda e: e.tag)
    # a form that was refused for one piece of equipment is not what somebody comes back to for another
    came_for = request.args.get("element", typed.get("element", ""))
    return render_template(
        "jobs/new.html", elements=elements, groups=_tasks_for(typed.get("element", "")), typed=typed, failed=failed,
        why_not=_why_not(), came_for=came_for, open_group=_group_of(typed.get("task", "")),
        part_of=typed.get("part_of", ""), earlier=_earlier(typed.get("element", ""), typed.get("task", "")),
    )  # fmt: skip


def _tasks_for(element_id: str) -> list[tuple[str, list[TaskKept]]]:
    """What is done to a piece of equipment, by group; nothing where none is chosen yet."""
    element = here().network.element.get(element_id)
    if element is None:
        return []
    classes = equipment.equipment_classes(here().network, element)
    return by_group([k for k in task_library.every(site()) if fits(k.task, element, classes)])


@pages.get("/jobs/new/earlier")
def earlier():
    """Jobs that one with this task at this equipment may be begun like, once a task is chosen."""
    known = _earlier(request.args.get("element", ""), request.args.get("task", ""))
    return render_template("jobs/_earlier.html", earlier=known, typed=request.args, failed=None)


def _earlier(element_id: str, task_id: str) -> list[job_plan.Earlier]:
    known = here().network.element.get(element_id) is not None and bool(_group_of(task_id))
    return job_plan.earlier(site(), element_id, task_id) if known else []


def _group_of(task_id: str) -> str:
    return next((k.task.group for k in task_library.every(site()) if k.task.id == task_id), "")


@pages.post("/jobs/<number>/otherwise")
def not_as_planned(number: str):
    return forms.attempt(
        "otherwise", lambda: jobs.not_as_planned(act(), number, forms.text("found")),
        lambda _: url_for("jobs.folder", number=number), lambda f: _folder(number, f),
    )  # fmt: skip


@pages.post("/jobs/<number>/task")
def renew_task(number: str):
    return forms.attempt(
        "renew", lambda: jobs.renew_task(act(), number, forms.whole("version")),
        lambda _: url_for("jobs.folder", number=number), lambda f: _folder(number, f),
    )  # fmt: skip


def _why_not() -> dict[str, Sayable]:
    who = actor()
    return jobs.why_not(who) if who else {}


@pages.post("/jobs/new")
def start():
    return forms.attempt(
        "new",
        lambda: job_plan.start(
            act(),
            forms.text("element"),
            forms.text("task"),
            forms.text("title"),
            forms.text("touches"),
            part_of=forms.text("part_of"),
            as_in=forms.text("as_in"),
        ),
        lambda number: url_for("jobs.folder", number=number),
        _new,
    )


@pages.get("/jobs/<number>")
def folder(number: str):
    return _folder(number)


def _folder(number: str, failed: forms.Failed | None = None):
    job = jobs.view(site(), number)
    return render_template(
        "jobs/job.html",
        job=job,
        figures=list(phrases.figures_of(job, verdicts.worst_side(job))) if job.hazard else [],
        failed=failed,
        FACTS=FACTS,
        QUESTIONS=QUESTIONS,
        risk=verdicts.risk_line(assessing.of_job(site(), number, actor())),
        again=reenergizing(here().study, job.element) if job.element and job.isolable else None,
        risk_again=verdicts.risk_line(assessing.of_job(site(), number, actor(), assessing.BACK)),
        justifications=here().profile.claims.values(),
        why_not=_why_not(),
        planned=job_plan.of_job(site(), number),
        together=job_plan.together(site(), number),
        since=tuple(job_plan.since(site(), number)),
    )


@pages.get("/jobs/<number>/crew")
def crew(number: str):
    """Whether who is here can write, approve, lead and do it under the separation of duties."""
    job = jobs.view(site(), number)
    if job.element is None:
        raise NotFound("equipment", number)
    kinds = equipment.equipment_classes(here().network, job.element, job.reach.code if job.reach else "")
    crews = crew_check.crews_for(site(), kinds, job.task.skill, here().day(g.now))
    return render_template(
        "jobs/crew.html", job=job, element=job.element, task=job.task, crews=crews, answer=verdicts.crew(crews)
    )


@pages.post("/jobs/<number>/answers")
def answer(number: str):
    facts = {key.removeprefix("fact_"): value for key, value in request.form.items() if key.startswith("fact_")}

    def do():
        return jobs.answer(
            act(), number, forms.whole("version"), facts, forms.text("justification"), forms.text("statement"),
            forms.text("touches"),
        )  # fmt: skip

    return forms.attempt("answers", do, lambda _: url_for("jobs.folder", number=number), lambda f: _folder(number, f))


@pages.post("/jobs/<number>/permit")
def draft(number: str):
    return forms.attempt(
        "permit",
        lambda: permits.draft(act(), number),
        lambda permit: url_for("permits.edit", number=permit),
        lambda f: _folder(number, f),
    )


@pages.post("/jobs/<number>/close")
def close(number: str):
    return forms.attempt(
        "close",
        lambda: jobs.close(act(), number, forms.whole("version"), forms.text("circuit_changed"), forms.text("learnt")),
        lambda _: url_for("jobs.folder", number=number),
        lambda f: _folder(number, f),
    )


@pages.post("/jobs/<number>/cancel")
def cancel(number: str):
    return forms.attempt(
        "cancel",
        lambda: jobs.cancel(act(), number, forms.whole("version"), forms.text("reason")),
        lambda _: url_for("jobs.folder", number=number),
        lambda f: _folder(number, f),
    )
