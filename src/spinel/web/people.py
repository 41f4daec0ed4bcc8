"""People: who may do a task today and until when, the register, and each person with what was shown."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from flask import Blueprint, Response, g, render_template, request, send_file, url_for

from spinel.actions import (
    codes,
    crew_check,
    evidence,
    falling_due,
    invitations,
    may_do,
    people,
    people_csv,
    positions,
    qualifying,
    register,
    sessions,
    site_settings,
)
from spinel.actions.equipment import equipment_classes
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.network.document import Element
from spinel.core.network.schema import EQUIPMENT_CLASSES
from spinel.core.people import COURSES, EMPLOYERS, HOW, ROLES, TASK, role_name
from spinel.core.permit.tasks import SKILLS, Task
from spinel.core.said import Sayable, say
from spinel.web import forms, lanes, verdicts
from spinel.web.addresses import outside
from spinel.web.here import here, published, site
from spinel.web.session import act

pages = Blueprint("people", __name__)


@pages.get("/people")
def page():
    """Who may do it; a site without a network has nothing to be done yet."""
    return _who_may() if published() else _listing()


def _who_may():
    now = here()
    asked = _asked()
    today = now.day(g.now)
    day, wrong_day = _day_asked(today)
    found = may_do.who_may(site(), asked.task.id, asked.kinds, day, g.now)
    scale = lanes.Scale(day, now.network.site.time_zone, g.now if day == today else None)
    soon = today + timedelta(days=falling_due.STAGES[0])
    hours, days = lanes.marks(scale)
    due = falling_due.listed(site(), today)
    return render_template(
        "people/people.html", found=found, scale=scale, hours=hours, days=days, problem=asked.unknown,
        wrong_day=wrong_day, day=day, today=today,
        lanes={x.person.id: lanes.drawn(x, scale, soon) for x in (*found.may, *found.may_not)}, asked=asked,
        tasks=[(t.id, t.name) for t in SKILLS.values()],
        answer=verdicts.who_may(found, asked.task.name, asked.element.tag, scale.now),
        due=[(stage, sum(0 < d.stage(today) <= stage for d in due)) for stage in falling_due.STAGES],
        gone=sum(d.stage(today) == 0 for d in due), span=(lanes.TODAY, lanes.DAYS),
    )  # fmt: skip


@dataclass(frozen=True)
class _Asked:
    """``kinds``: the class that was chosen, or ``every`` one that may be opened: whoever may at one end may not at the
    other. ``unknown``: a tag that is not on the one-line; then another is asked about."""

    task: Task
    element: Element
    kinds: tuple[str, ...]
    every: tuple[str, ...]
    unknown: str


def _asked() -> _Asked:
    network, (first_task, first_tag, first_kind) = here().network, may_do.asked_first(site())
    task_id, tag = request.args.get("task", first_task), request.args.get("on", first_tag).strip()
    known = tag in network.by_tag
    element = network.by_tag[tag if known else first_tag]
    every = equipment_classes(network, element)
    kind = request.args.get("kind", first_kind if element.tag == first_tag else "")
    return _Asked(
        SKILLS.get(task_id, SKILLS[first_task]),
        element,
        (kind,) if kind in every else every,
        every,
        "" if known else tag,
    )


@pages.get("/people/crew")
def crew():
    """Whether it could be staffed, before there is a job."""
    asked = _asked()
    crews = crew_check.crews_for(site(), asked.kinds, asked.task.id, here().day(g.now))
    return render_template(
        "jobs/crew.html", job=None, element=asked.element, task=asked.task, crews=crews, answer=verdicts.crew(crews)
    )


def _day_asked(today: date) -> tuple[date, str]:
    """The day that was asked for; today where none was, or one that cannot be drawn, and that is then said."""
    typed = request.args.get("day", "")
    try:
        day = date.fromisoformat(typed) if typed else today
    except ValueError:
        return today, typed
    return (day, "") if today <= day <= today + timedelta(days=365) else (today, typed)


@pages.get("/people/register")
def listing():
    return _listing()


def _listing(failed: forms.Failed | None = None, report: list[people_csv.Row] | None = None):
    found = register.listed(site(), register.moment_of(g.now, site()), g.now)
    there = [one for one in found if one.person.active]
    return render_template(
        "people/register.html", listed=found, here=len(there), failed=failed, report=report,
        soon=sum(one.ends is not None for one in there), roles=_roles(), employers=_employers(),
        tables=[(kind, say(f"csv-{kind}")) for kind in people_csv.COLUMNS],
    )  # fmt: skip


def _roles() -> list[tuple[str, Sayable]]:
    return [(role, role_name(role)) for role in ROLES]


def _employers() -> list[tuple[str, Sayable]]:
    return [(e, say(f"employer-{e}")) for e in EMPLOYERS]


@pages.post("/people")
def add():
    """With a password of the coordinator's making, or with none: then the link is for them to set it."""
    return _post(
        "add", "people-added",
        lambda: register.enter(
            act(), forms.text("login"), forms.text("name"), request.form.get("password", ""),
            request.form.getlist("roles"), _about(),
        ),
        _listing, lambda: url_for("people.person", login=forms.text("login").lower()),
    )  # fmt: skip


def _about() -> dict[str, str]:
    return {k: forms.text(k) for k in ("employer", "company", "phone", "trade", "languages")}


@pages.get("/people/<login>/card")
def person(login: str):
    return _person(login)


def _person(login: str, failed: forms.Failed | None = None, made: Sayable = "", link: str = ""):
    found = register.one(site(), login, register.moment_of(g.now, site()), g.now)
    practice = here().profile.training if published() else None
    which = [
        (f"{q.task_id}|{q.equipment_class}", say("person-pair", task=SKILLS[q.task_id].name, kind=q.equipment_class))
        for q in found.held if q.task_id in SKILLS
    ]  # fmt: skip
    return render_template(
        "people/person.html", one=found, p=found.person, failed=failed, made=made, link=link, roles=_roles(),
        employers=_employers(), tasks=[(t.id, t.name) for t in SKILLS.values()], practice=practice,
        courses=[(c, say(f"course-{c.replace('_', '-')}")) for c in COURSES], today=register.moment_of(g.now, site()),
        hows=[(h, say(f"how-shown-{h}")) for h in HOW], kinds=[(k, k) for k in EQUIPMENT_CLASSES],
        task_names={t.id: t.name for t in SKILLS.values()}, answer=verdicts.person(found), which=which,
    )  # fmt: skip


@pages.post("/people/<login>/about")
def describe(login: str):
    return _of_person(login, "about", "people-described", lambda: register.describe(act(), login, _about()))


@pages.post("/people/<login>/training")
def shown(login: str):
    def do() -> None:
        # a course, or a task: the form asks for one of them
        chosen = forms.text("what")
        task_id = chosen.removeprefix("task:") if chosen.startswith("task:") else ""
        until = forms.day("until") if forms.text("until") else None
        handed_in = request.files.get("evidence")
        # kept first: a file that nothing refers to harms nothing
        name = evidence.keep(act(), handed_in.read() if handed_in else b"")
        qualifying.record(act(), login, qualifying.Learnt(
            course=TASK if task_id else chosen, how=forms.text("how"), day=forms.day("day"),
            seen_by=forms.text("seen_by"), task_id=task_id,
            classes=tuple(request.form.getlist("classes")) if task_id else (), until=until, note=forms.text("note"),
            evidence=name,
        ))  # fmt: skip

    return _of_person(login, "training", "people-training-recorded", do)


@pages.get("/evidence/<name>")
def file(name: str):
    """As a file to be kept, whatever is in it: never shown as a page of this site."""
    answer = send_file(evidence.file(site(), name), as_attachment=True, download_name=name, max_age=0)
    answer.headers["Content-Security-Policy"] = "sandbox; default-src 'none'"
    return answer


@pages.post("/people/<login>/withdraw")
def withdraw(login: str):
    def do() -> list[str]:
        task_id, _, kind = forms.text("which").partition("|")
        return qualifying.withdraw(act(), login, task_id, kind, forms.text("reason"))

    return _of_person(login, "withdraw", "people-withdrawn", do)


@pages.post("/people/<login>/roles")
def roles(login: str):
    wanted = request.form.getlist("roles")
    return _of_person(login, "roles", "people-roles-changed", lambda: register.change_roles(act(), login, wanted))


@pages.post("/people/<login>/leave")
def leave(login: str):
    return _of_person(login, "leave", "people-left", lambda: register.leave(act(), login, forms.text("reason")))


@pages.post("/people/<login>/return")
def come_back(login: str):
    reason = forms.text("reason")
    return _of_person(login, "return", "people-returned", lambda: register.come_back(act(), login, reason))


@pages.post("/people/<login>/password")
def reset(login: str):
    """Shown on the answer itself and nowhere else: what goes on to another page goes by way of the browser's cookie."""
    return _told_once(login, "password", lambda: register.reset_password(act(), login), _said_password)


def _said_password(login: str, password: str) -> dict[str, Any]:
    return {"made": say("people-password-is", login=login, password=password)}


@pages.post("/people/<login>/invite")
def invite(login: str):
    def link(_: str, token: str) -> dict[str, Any]:
        return {"link": outside(url_for("accounts.welcome", token=token))}

    return _told_once(login, "invite", lambda: invitations.invite(act(), login), link)


def _told_once(login: str, form: str, do: Callable[[], str], told: Callable[[str, str], dict[str, Any]]):
    try:
        made = do()
    except NotAllowed:
        raise
    except (InputError, Refusal) as error:
        return _person(login, forms.Failed(form, error, request.form)), 422
    return _person(login, **(told(login, made) if made else {}))


@pages.post("/people/<login>/one-time")
def take_otp(login: str):
    reason = forms.text("reason")
    return _of_person(login, "otp", "people-otp-taken", lambda: codes.take_secret(act(), login, reason))


@pages.post("/people/<login>/sessions")
def end_sessions(login: str):
    def do() -> int:
        return sessions.end(act(), register.one_id(site(), login))

    return _of_person(login, "sessions", "people-sessions-ended", do)


@pages.get("/people/due")
def due():
    today = here().day(g.now)
    found = falling_due.listed(site(), today)
    stages = [(stage, [d for d in found if d.stage(today) == stage]) for stage in (0, *falling_due.STAGES)]
    return render_template(
        "people/due.html", stages=stages, today=today, answer=verdicts.due(found, today),
        task_names={t.id: t.name for t in SKILLS.values()},
    )  # fmt: skip


@pages.get("/people/<any(people, qualifications, training):kind>.csv")
def export(kind: str):
    answer = Response(people_csv.exported(site(), kind), mimetype="text/csv")
    answer.headers["Content-Disposition"] = f'attachment; filename="{kind}.csv"'
    return answer


@pages.post("/people/import")
def import_():
    """The answer is the report itself: what became of each row."""
    kind, file = forms.text("kind"), request.files.get("table")
    try:
        if kind not in people_csv.COLUMNS:
            raise InputError("kind", kind, say("one-of", options=tuple(people_csv.COLUMNS)))
        report = people_csv.import_(act(), kind, _text_of(file.read() if file else b""))
    except InputError as error:
        return _listing(forms.Failed("import", error, request.form)), 422
    return _listing(report=report)


def _text_of(raw: bytes) -> str:
    try:
        return raw.decode("utf-8")
    except UnicodeDecodeError:
        raise InputError("table", "", say("csv-a-text-in-utf-8")) from None


@pages.get("/settings")
def settings():
    return _settings()


def _settings(failed: forms.Failed | None = None):
    found = site_settings.every(site())
    names = {
        one.key: {
            "name": say(f"setting-{one.key.replace('_', '-')}"), "why": say(f"why-{one.key.replace('_', '-')}"),
            "options": {o: say(f"setting-is-{o.replace('_', '-')}") for o in one.options},
        }
        for one in found
    }  # fmt: skip
    return render_template(
        "people/settings.html", settings=found, names=names, failed=failed, most=positions.MOST,
        positions=positions.of_site(site()), decided=site_settings.one(site(), positions.KEY),
        everybody=[(p.id, p.name) for p in people.everybody(site())], known=site().names(),
    )  # fmt: skip


@pages.post("/settings/positions")
def change_positions():
    """Rows without a title and without anybody are none; the others sign in the order of their numbers."""

    def do() -> None:
        rows = []
        for i in range(positions.MOST):
            title, held = forms.text(f"title_{i}"), forms.people_ids(f"holders_{i}")
            if title or held:
                rows.append((forms.whole(f"order_{i}"), i, title, held))
        positions.change(act(), [(title, held) for _, _, title, held in sorted(rows)], forms.text("reason"))

    return _post(positions.KEY, "settings-changed", do, _settings, lambda: url_for("people.settings"))


@pages.post("/settings/<key>")
def change_setting(key: str):
    def do() -> None:
        site_settings.change(act(), key, request.form.get(key, ""), forms.text("reason"))

    return _post(key, "settings-changed", do, _settings, lambda: url_for("people.settings"))


def _of_person(login: str, form: str, done: str, do: Callable[[], Any]):
    def again(failed: forms.Failed):
        return _person(login, failed)

    return _post(form, done, do, again, lambda: url_for("people.person", login=login))


def _post(
    form: str, done: str, do: Callable[[], Any], again: Callable[[forms.Failed], Any], to: Callable[[], str]
):  # fmt: skip
    """Back on the page, with what was done or what was wrong."""

    def then(_: Any) -> str:
        forms.said(say(done))
        return to()

    return forms.attempt(form, do, then, again)
