"""Energized work permits: the sheet with its nine cells, its form, and every move of its life."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from flask import Blueprint, g, render_template, request, url_for

from spinel.actions import gear, people, permit_approval, permit_moves, permits, positions, rosters
from spinel.actions.acting import Act
from spinel.core.errors import InputError, NotAllowed
from spinel.core.permit.life import ENDED, MOVES, check_move
from spinel.core.permit.place import OF_THE_TASK, PLACE
from spinel.core.permit.positions import Position
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.said import Sayable, say
from spinel.web import forms, showing, verdicts
from spinel.web.here import here, site
from spinel.web.session import act, actor
from spinel.web.showing_emergency import emergency_of
from spinel.wording.words import words_when_signed
from spinel.wording.working import working

pages = Blueprint("permits", __name__)


@pages.get("/permits/<number>")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None):
    seen = showing.permit(permits.view(site(), number, g.now))
    lacking = permit_moves.waiting_for(seen) if seen.state in ("issued", "in_force", "suspended") else []
    minutes = int((seen.window_end - g.now).total_seconds() // 60)
    first = not seen.valid("briefed")
    unsigned = positions.lacking(site(), seen)
    answer = verdicts.permit(seen, minutes, lacking, permit_approval.approvals_lacking(site(), seen), unsigned)
    return render_template(
        "permits/permit.html", permit=seen, c=seen.content, failed=failed, lacking=lacking, MOVES=MOVES, place=PLACE,
        **emergency_of(seen.content["equipment"]["location"], seen.content["equipment"]["voltage_v"]),
        why_not=_why_not(seen, unsigned), waited=positions.waited_for(site(), seen), answer=answer,
        given=gear.given_for(site(), number),
        first_briefing=first, briefable=_briefable(seen), expected=seen.everybody if first else (), twice=_twice(seen),
        everybody=[(p.id, p.name) for p in people.everybody(site()) if p.active],
    )  # fmt: skip


def _briefable(seen: permits.PermitView) -> list[tuple[int, Sayable]]:
    """Who may be briefed, those on the roster marked."""
    roles = {"worker", "attendant", "person_in_charge"}
    found = [p for p in people.everybody(site()) if p.id in seen.roster or roles & set(p.roles)]
    return [(p.id, say("briefing-planned", name=p.name) if p.id in seen.roster else p.name) for p in found]


def _twice(seen: permits.PermitView) -> list[tuple[str, rosters.OnRoster]]:
    """Who of the plan is on something else in its window: warned of, and not refused."""
    if seen.state in ENDED or seen.state == "handed_back":
        return []
    found = rosters.elsewhere(site(), seen.number, seen.everybody, (seen.window_start, seen.window_end), g.now)
    return [(site().names()[person_id], duty) for person_id, duty in found.items()]


def _why_not(seen: permits.PermitView, unsigned: Sequence[Position]) -> dict[str, Sayable]:
    """For every move that fits the state: why this person may not do it. A button never hides without its reason."""
    me = actor()
    assert me is not None
    reasons = {}
    for name, move in MOVES.items():
        if seen.state in move.source:
            try:
                check_move(name, seen.state, me.roles, seen.parts_of(me.id))
            except NotAllowed as refusal:
                reasons[name.replace("_", "-")] = refusal.why
    if unsigned:
        reasons.setdefault("approve", say("permit-approval-has-not-signed", title=unsigned[0].title))
        if me.id not in unsigned[0].people:
            reasons.setdefault("sign", positions.not_theirs(site(), unsigned[0]).why)
    return reasons


@pages.get("/permits/<number>/working")
def working_page(number: str):
    """Every figure of the permit traced to its inputs, as frozen."""
    seen = showing.permit(permits.view(site(), number, g.now))
    hazard = seen.content["hazard"]
    energy = working(hazard["energy"]) if hazard["energy"] else []
    boundary = working(hazard["boundary"]) if hazard["boundary"] else []
    return render_template("permits/working.html", permit=seen, c=seen.content, energy=energy, boundary=boundary)


@pages.get("/permits/<number>/edit")
def edit(number: str):
    who, seen = actor(), permits.view(site(), number, g.now)
    assert who is not None
    check_move("edit", seen.state, who.roles, ())
    return _edit(number)


def _edit(number: str, failed: forms.Failed | None = None):
    seen = showing.permit(permits.view(site(), number, g.now))
    return render_template(
        "permits/edit.html", permit=seen, c=seen.content, plan=permits.plan_of(seen), failed=failed,
        people=_choices(),
    )  # fmt: skip


def _choices() -> dict[str, list[tuple[int, str]]]:
    """Who may be put on a permit, by what they would be."""
    may = {
        "leaders": {"person_in_charge"},
        "workers": {"worker"},
        "attendants": {"attendant", "worker"},
    }
    everybody = people.everybody(site())
    return {name: [(p.id, p.name) for p in everybody if roles & set(p.roles)] for name, roles in may.items()}


@pages.post("/permits/<number>/edit")
def save(number: str):
    def do() -> bool:
        return permits.edit(act(), number, forms.whole("version"), _read_plan(number))

    def then(voided: bool) -> str:
        forms.said(say("permits-saved-the-content-changed-so-its-signatures") if voided else say("permits-saved"))
        return url_for("permits.page", number=number)

    return forms.attempt("edit", do, then, lambda f: _edit(number, f))


def _read_plan(number: str) -> permits.Plan:
    zone, seen = here().network.site.time_zone, permits.view(site(), number, g.now)
    before, shown_in = permits.plan_of(seen), words_when_signed(seen.content)

    def lines(name: str, shown: tuple[Sayable, ...]) -> tuple[Sayable, ...]:
        return tuple(forms.unsaid(line, shown, shown_in) for line in forms.lines(name))

    typed = forms.text("working_distance_mm")
    in_charge = forms.people_ids("in_charge")
    return permits.Plan(
        steps=lines("steps", before.steps), practices=lines("practices", before.practices),
        workers=forms.people_ids("workers"), in_charge=in_charge[0] if in_charge else None,
        attendants=forms.people_ids("attendants"),
        keep_out=forms.unsaid(forms.text("keep_out"), [before.keep_out], shown_in), special=forms.text("special"),
        window_start=forms.moment("window_start", zone), window_end=forms.moment("window_end", zone),
        working_distance_mm=WORKING_DISTANCE_MM.parse(typed) if typed else None,
        distance_reason=forms.text("distance_reason"),
    )  # fmt: skip


@pages.get("/permits/<number>/distance")
def distance(number: str):
    """Energy and PPE at another working distance, for htmx; nothing is saved."""
    try:
        mm = WORKING_DISTANCE_MM.parse(request.args.get("working_distance_mm", ""))
        hazard, problem = permits.preview(site(), number, mm).data, ""
    except InputError as error:
        return render_template(
            "permits/_distance.html", hazard=None, problem=say("forms-not-accepted", allowed=error.allowed)
        )
    return render_template("permits/_distance.html", hazard=hazard, problem=problem)


def _submit(a: Act, number: str, version: int) -> None:
    permit_approval.submit(a, number, version)


def _approve(a: Act, number: str, version: int) -> None:
    permit_approval.approve(a, number, version, forms.text("content_hash"), *_confirmed())


def _sign(a: Act, number: str, version: int) -> None:
    permit_approval.sign(a, number, version, forms.text("content_hash"), *_confirmed())


def _refuse(a: Act, number: str, version: int) -> None:
    permit_approval.refuse(a, number, version, forms.text("reason"))


def _issue(a: Act, number: str, version: int) -> None:
    zone = here().network.site.time_zone
    start, end = forms.moment("window_start", zone), forms.moment("window_end", zone)
    password, code = _confirmed()
    permit_approval.issue(a, number, version, forms.text("content_hash"), password, start, end, code)


def _confirmed() -> tuple[str, str]:
    """The password again, and a one-time code where the form asked for one."""
    return request.form.get("password", ""), forms.text("otp")


def _brief(a: Act, number: str, version: int) -> None:
    covered, attended = request.form.getlist("covered"), forms.people_ids("attended")
    permit_moves.brief(a, number, version, covered, attended, forms.text("special"))


def _state(a: Act, number: str, version: int) -> None:
    permit_moves.state(a, number, version, request.form.getlist("statements"))


def _attend(a: Act, number: str, version: int) -> None:
    permit_moves.attend(a, number, version)


def _vouch(a: Act, number: str, version: int) -> None:
    permit_moves.vouch(a, number, version)


def _accept(a: Act, number: str, version: int) -> None:
    place = {key: forms.text(f"place_{key}") for key in (*PLACE, OF_THE_TASK)}
    permit_moves.accept(a, number, version, forms.text("content_hash"), place, forms.text("tools_in"))


def _set(a: Act, number: str, version: int) -> None:
    permit_moves.set_device(a, number, version, *_at_device())


def _put_back(a: Act, number: str, version: int) -> None:
    permit_moves.put_back(a, number, version, *_at_device())


def _at_device() -> tuple[str, int | None, str]:
    seen_by = forms.people_ids("seen_by")
    return forms.text("tag"), seen_by[0] if seen_by else None, forms.text("how")


def _suspend(a: Act, number: str, version: int) -> None:
    permit_moves.suspend(a, number, version, forms.text("reason"))


def _clear(a: Act, number: str, version: int) -> None:
    chosen = forms.people_ids("seen_by")
    permit_moves.clear(a, number, version, forms.text("left"), chosen[0] if chosen else None)


def _resume(a: Act, number: str, version: int) -> None:
    permit_moves.resume(a, number, version, forms.text("cause"))


def _hand_back(a: Act, number: str, version: int) -> None:
    left, tools_out = forms.text("left"), forms.text("tools_out")
    permit_moves.hand_back(a, number, version, left, tools_out, forms.text("tools_why"))


def _close(a: Act, number: str, version: int) -> None:
    permit_moves.close(a, number, version, forms.text("circuit_changed"), forms.text("learnt"))


def _cancel(a: Act, number: str, version: int) -> None:
    permit_moves.cancel(a, number, version, forms.text("reason"))


def _copy(a: Act, number: str, version: int) -> Any:
    return permits.copy(a, number)


#: What can be posted to a permit, and what is said when it was recorded.
POSTS: dict[str, tuple[Callable[[Act, str, int], Any], Sayable]] = {
    "submit": (_submit, say("permits-submitted-for-approval")),
    "approve": (_approve, say("permits-approved-and-signed")),
    "sign": (_sign, say("permits-signed-for-the-position")),
    "refuse": (_refuse, say("permits-refused-with-the-reason")),
    "issue": (_issue, say("permits-issued-it-is-in-force-once-the")),
    "brief": (_brief, say("permits-briefing-recorded")),
    "state": (_state, say("permits-your-three-statements-are-recorded")),
    "attend": (_attend, say("permits-you-signed-the-briefing")),
    "vouch": (_vouch, say("permits-signed-the-workers-are-qualified-and-briefed")),
    "set": (_set, say("permits-it-is-set")),
    "put-back": (_put_back, say("permits-it-is-put-back")),
    "accept": (_accept, say("permits-accepted-the-permit-is-in-force")),
    "suspend": (_suspend, say("permits-suspended-stop-the-work-and-make-it")),
    "clear": (_clear, say("permits-the-place-is-empty")),
    "resume": (_resume, say("permits-cause-recorded-the-person-in-charge-must")),
    "hand-back": (_hand_back, say("permits-handed-back")),
    "close": (_close, say("permits-closed")),
    "cancel": (_cancel, say("permits-cancelled")),
    "copy": (_copy, say("permits-copied-into-a-new-draft")),
}


@pages.post("/permits/<number>/<any(" + ", ".join(f"'{p}'" for p in POSTS) + "):move>")
def move(number: str, move: str):
    do, done = POSTS[move]

    def then(result: Any) -> str:
        forms.said(done)
        if move == "copy":
            return url_for("permits.edit", number=result)
        return url_for("permits.page", number=number)

    return forms.attempt(
        move, lambda: do(act(), number, forms.whole("version")), then, lambda failed: _page(number, failed)
    )
