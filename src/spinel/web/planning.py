"""When jobs are done and by whom: the plan of one, and the week of all."""

from __future__ import annotations

from datetime import date, timedelta
from zoneinfo import ZoneInfo

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import job_plan, job_week, jobs, people, rosters
from spinel.core.said import say
from spinel.web import forms, verdicts
from spinel.web.here import here, site
from spinel.web.session import act, actor

pages = Blueprint("planning", __name__)


@pages.get("/jobs/week")
def week():
    """Seven days, from a Monday on; another week by its first day."""
    today = here().day(g.now)
    first = _first(request.args.get("from", ""), today)
    days = job_week.week(site(), first, g.now)
    return render_template(
        "jobs/week.html", days=days, today=today, answer=verdicts.week(days, today), first=first,
        before=(first - timedelta(days=7)).isoformat(), after=(first + timedelta(days=7)).isoformat(),
        zone=ZoneInfo(here().network.site.time_zone),
    )  # fmt: skip


def _first(asked: str, today: date) -> date:
    """The Monday of the week of a day; what is none, or far off, is this week."""
    try:
        day = date.fromisoformat(asked)
    except ValueError:
        day = today
    day = day if 2000 <= day.year <= 2200 else today
    return day - timedelta(days=day.weekday())


@pages.get("/jobs/<number>/plan")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None):
    job, planned, who = jobs.view(site(), number), job_plan.of_job(site(), number), actor()
    everybody = [p for p in people.everybody(site()) if p.active]
    names = site().names()
    twice = {}
    if planned.start and planned.end:
        window = planned.start, planned.end
        own = {number, *(n for n, _ in job.permits), *(n for n, *_ in job.programs)}
        found = rosters.elsewhere(site(), number, planned.everybody, window, g.now)
        twice = {names[i]: duty for i, duty in found.items() if duty.number not in own}
    return render_template(
        "jobs/plan.html", job=job, planned=planned, failed=failed, twice=twice, names=names,
        unfit=tuple(job_plan.unfit(site(), number)), together=job_plan.together(site(), number),
        why_not=jobs.why_not(who) if who else {}, now=g.now, later=g.now + timedelta(hours=2),
        leaders=[(p.id, p.name) for p in everybody if "person_in_charge" in p.roles],
        workers=[(p.id, p.name) for p in everybody if "worker" in p.roles],
        others=[(p.id, p.name) for p in everybody if {"attendant", "worker"} & set(p.roles)],
    )  # fmt: skip


@pages.post("/jobs/<number>/plan")
def save(number: str):
    def do() -> None:
        job_plan.may(act())
        zone, in_charge = here().network.site.time_zone, forms.people_ids("in_charge")
        planned = job_plan.Planned(
            start=forms.moment("start", zone), end=forms.moment("end", zone), workers=forms.people_ids("workers"),
            in_charge=in_charge[0] if in_charge else None, attendants=forms.people_ids("attendants"),
            remarks=forms.text("remarks"),
        )  # fmt: skip
        job_plan.plan(act(), number, forms.whole("version"), planned)
        forms.said(say("plan-saved"))

    return forms.attempt(
        "plan", do, lambda _: url_for("planning.page", number=number), lambda f: _page(number, f)
    )  # fmt: skip
