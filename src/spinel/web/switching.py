"""Switching: the list, the program with its checks and the one-line after each step, its moves and its box."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from flask import Blueprint, render_template, request, url_for

from spinel.actions import box, console, people, practice, procedures, program_moves, program_view, programs, relief
from spinel.actions.acting import Act
from spinel.core.errors import InputError
from spinel.core.isolation.reenergizing import Reenergizing, reenergizing
from spinel.core.said import Said, Sayable, joined, say
from spinel.core.switching.edit import ADDABLE
from spinel.core.switching.life import ENDED
from spinel.core.switching.order import ISOLATION, RESTORATION
from spinel.core.switching.plant import EVERYTHING, FAULTS
from spinel.web import forms, showing, verdicts
from spinel.web.drawing import one_line
from spinel.web.here import here, site
from spinel.web.paging import ROWS, paging
from spinel.web.session import act, actor

pages = Blueprint("switching", __name__)


@pages.get("/switching")
def page():
    shown = request.args.get("state", "open")
    ended = None if shown == "all" else shown == "ended"
    part = paging(programs.count(site(), ended))
    rows = programs.lines(site(), ended, part.first, ROWS)
    # those on other pages count too
    stopped = programs.stopped(site()) if not ended else 0
    total = programs.count(site())
    return render_template(
        "switching/switching.html", programs=rows, part=part, state=shown, total=total, stopped=stopped
    )  # fmt: skip


@pages.post("/jobs/<number>/isolation")
def draft(number: str):
    from spinel.web.jobs import _folder

    return forms.attempt(
        "isolation",
        lambda: programs.draft(act(), number, forms.text("choice") == "fewest"),
        lambda made: url_for("switching.program", number=made),
        lambda failed: _folder(number, failed),
    )


@pages.get("/switching/<number>")
def program(number: str):
    return _program(number)


def _program(number: str, failed: forms.Failed | None = None):
    who, seen = actor(), showing.program(program_view.view(site(), number))
    assert who is not None
    step, held = _step(seen), box.view(site(), seen.hold)
    return render_template(
        "switching/program.html", program=seen, c=seen.content, failed=failed, me=who, step=step, box=held,
        linked=_linked(seen), operators_locks=box.operators_locks(site(), seen.hold), ADDABLE=ADDABLE,
        why_not=program_moves.why_not(who, seen), answer=verdicts.program(seen, held), operators=_operators(who.id),
        FAULTS=FAULTS, told=EVERYTHING, debrief=practice.debrief(seen), shelf=_shelf(seen),
        again=_again(seen), first_time=_first_time(seen), **_relief_of(seen, who.id), **_after(seen, step),
    )  # fmt: skip


def _first_time(seen: program_view.ProgramView) -> bool:
    """Of an isolation that is not over: does nobody have gone by the checklist of its equipment yet?"""
    element_id = seen.content["equipment"]["id"]
    wanted = seen.purpose == ISOLATION and seen.state not in ENDED and element_id in here().network.element
    return wanted and procedures.first_time(site(), element_id)


def _again(seen: program_view.ProgramView) -> Reenergizing | None:
    """Of a restoration: what is closed again, and how bad that can be."""
    element = here().network.element.get(seen.content["equipment"]["id"])
    wanted = element is not None and seen.content["purpose"] == RESTORATION and seen.state not in ENDED
    if not wanted or element is None:
        return None
    closed = dict.fromkeys(s.element_id for s in seen.steps if "closed" in s.acts)
    known = here().network.element
    return reenergizing(here().study, element, [known[i] for i in closed if i in known])


def _relief_of(seen: program_view.ProgramView, me: int | None) -> dict[str, Any]:
    """A half that waits for the other, what I hold and could hand over, and to whom."""
    only = relief.locks_only(site(), seen, me)
    mine: list[tuple[str, Said]] = [
        (part, say("relief-part-locks" if part == relief.OPERATOR and only else f"relief-part-{part}"))
        for part in relief.parts_of(site(), seen, me or 0)
    ]
    others = [(p.id, p.name) for p in people.everybody(site()) if p.id != me]
    return {"relief": relief.waiting(site(), seen), "my_parts": mine, "others": others}


def _shelf(seen: program_view.ProgramView) -> list[Sayable]:
    """The kinds of scenario that can be met in a practice run, each once."""
    if not seen.practice or seen.done:
        return []
    return [EVERYTHING[kind] for kind in sorted({s["kind"] for s in practice.shelf(seen)})]


def _operators(me: int | None) -> list[tuple[int, str]]:
    """Who may operate for me."""
    return [(p.id, p.name) for p in people.everybody(site()) if "operator" in p.roles and p.id != me]


def _linked(seen: program_view.ProgramView) -> list[Any]:
    """The other programs of its hold, and its practice runs."""
    of = seen.content.get("of_hold", seen.hold)
    return [p for p in programs.linked(site(), of, seen.number) if p.number != seen.number]


def _step(seen: program_view.ProgramView) -> int:
    """Which step's outcome is shown: the one asked for or just worked on, else the last done."""
    raw = request.values.get("step", "")
    known = raw.isascii() and raw.isdigit() and len(raw) < 5 and int(raw) <= len(seen.steps)
    if raw and not known and request.method == "GET":
        raise InputError("step", raw, say("switching-a-step-from-0-to", count=len(seen.steps)))
    return int(raw) if known else seen.done


def _after(seen: program_view.ProgramView, step: int) -> dict[str, Any]:
    then = here().seen_with(seen.fields[step])
    shown = seen.steps[step - 1] if step else None
    return {"after": one_line(then), "shown": shown, "preview": step != seen.done or seen.state in ENDED}


@pages.get("/switching/<number>/after/<int:step>")
def after(number: str, step: int):
    """The one-line after a step, alone, for htmx."""
    seen = showing.program(program_view.view(site(), number))
    if step > len(seen.steps):
        raise InputError("step", step, say("switching-a-step-from-0-to", count=len(seen.steps)))
    return render_template("switching/_after.html", program=seen, c=seen.content, step=step, **_after(seen, step))


def _check(a: Act, number: str, version: int) -> None:
    program_moves.check(a, number, version, forms.text("content_hash"))


def _release(a: Act, number: str, version: int) -> None:
    program_moves.release(a, number, version, forms.text("content_hash"))


def _abandon(a: Act, number: str, version: int) -> None:
    program_moves.abandon(a, number, version, forms.text("reason"))


def _redraft(a: Act, number: str, version: int) -> None:
    program_moves.redraft(a, number, version)


def _move_step(a: Act, number: str, version: int) -> None:
    program_moves.move_step(a, number, version, forms.whole("step"), forms.whole("to"))


def _remove_step(a: Act, number: str, version: int) -> None:
    program_moves.remove_step(a, number, version, forms.whole("step"))


def _remark_step(a: Act, number: str, version: int) -> None:
    program_moves.remark_step(a, number, version, forms.whole("step"), forms.text("remark"))


def _add_step(a: Act, number: str, version: int) -> None:
    program_moves.add_step(a, number, version, forms.whole("at"), forms.text("what"), forms.text("tag"))


def _start(a: Act, number: str, version: int) -> None:
    console.start(a, number, version, _one_person("operator"))


def _one_person(name: str) -> int:
    chosen = forms.people_ids(name)
    if not chosen:
        raise InputError(name, "", say("switching-choose-somebody"))
    return chosen[0]


def _operator(a: Act, number: str, version: int) -> None:
    console.change_operator(a, number, version, _one_person("operator"))


def _relief(a: Act, number: str, version: int) -> None:
    relief.offer(a, number, forms.text("part"), _one_person("to"))


def _take_over(a: Act, number: str, version: int) -> None:
    relief.take_over(a, number, version, request.form)


def _withdraw(a: Act, number: str, version: int) -> None:
    relief.withdraw(a, number)


def _stop(a: Act, number: str, version: int) -> None:
    console.stop(a, number, forms.text("reason"))


def _resume(a: Act, number: str, version: int) -> None:
    console.resume(a, number, version, forms.text("cause"))


def _deviate(a: Act, number: str, version: int) -> Any:
    return console.deviate(a, number, version, forms.text("tag"), forms.text("value"), forms.text("note"))


def _succeed(a: Act, number: str, version: int) -> Any:
    return programs.draft_successor(a, number)


def _practise(a: Act, number: str, version: int) -> Any:
    return practice.practise(a, number)


def _draw(a: Act, number: str, version: int) -> None:
    practice.draw(a, number, forms.text("seed"))


def _fault(a: Act, number: str, version: int) -> None:
    practice.put_fault(a, number, forms.text("kind"), forms.text("tag"))


#: What can be posted to a program, and what is said when it was recorded.
POSTS: dict[str, tuple[Callable[[Act, str, int], Any], Sayable]] = {
    "check": (_check, say("switching-checked-and-signed")),
    "release": (_release, say("switching-released-it-may-be-executed-once")),
    "abandon": (_abandon, say("switching-abandoned")),
    "redraft": (_redraft, say("switching-drafted-anew-from-the-state-as-it")),
    "move-step": (_move_step, say("switching-moved-every-step-was-judged-again")),
    "remove-step": (_remove_step, say("switching-taken-out-every-step-was-judged-again")),
    "remark-step": (_remark_step, say("switching-remarked")),
    "add-step": (_add_step, say("switching-added-every-step-was-judged-again")),
    "start": (_start, say("switching-started")),
    "operator": (_operator, say("switching-operator-changed")),
    "relief": (_relief, say("switching-your-half-of-the-relief-is-signed")),
    "take-over": (_take_over, say("switching-you-have-taken-over")),
    "withdraw": (_withdraw, say("switching-the-relief-is-taken-back")),
    "stop": (_stop, say("switching-stopped-nobody-operates-anything-until-it-is")),
    "resume": (_resume, say("switching-resumed-at-the-same-step")),
    "deviate": (_deviate, say("switching-recorded-the-program-has-ended")),
    "succeed": (_succeed, say("switching-drafted")),
    "practise": (_practise, say("switching-a-practice-run-nothing-of-it-is")),
    "draw": (_draw, say("switching-a-scenario-is-drawn")),
    "fault": (_fault, say("switching-the-simulated-plant-was-changed")),
}


@pages.post("/switching/<number>/<any(" + ", ".join(f"'{p}'" for p in POSTS) + "):move>")
def move(number: str, move: str):
    do, done = POSTS[move]

    def then(result: Any) -> str:
        if move in ("deviate", "succeed"):
            successor, why = result
            more = say("switching-its-successor-is", successor=successor) if successor else why
            forms.said(joined(done, more, between=" "))
            return url_for("switching.program", number=successor or number)
        if move == "practise":
            number_ = str(result)
            forms.said(joined(number_, done, between=": "))
            return url_for("switching.program", number=number_)
        forms.said(done)
        if move in ("remark-step", "move-step", "add-step"):
            at = {"move-step": "to", "add-step": "at"}.get(move, "step")
            return url_for("switching.program", number=number, step=forms.whole(at))
        to = "console.page" if move in ("start", "resume") else "switching.program"
        if request.form.get("from") == "console" and move in ("stop", "operator", "fault"):
            to = "console.page"
        return url_for(to, number=number)

    return forms.attempt(
        move, lambda: do(act(), number, forms.whole("version")), then, lambda failed: _program(number, failed)
    )


#: What can be done with the box of an isolation.
BOX: dict[str, tuple[Callable[[str], Any], Sayable]] = {
    "take": (lambda hold: box.take(act(), hold), say("switching-you-have-taken-over-the-isolation-and")),
    "hang": (lambda hold: box.hang(act(), hold, forms.text("lock")), say("switching-your-lock-hangs-on-the-box")),
    "remove": (lambda hold: box.remove(act(), hold), say("switching-your-lock-is-off-the-box")),
    "absent": (lambda hold: box.absent(act(), hold, _one_person("owner"), forms.text("reason")), ""),
    "complete": (lambda hold: box.complete(act(), hold), say("switching-work-is-declared-complete")),
}


@pages.post("/switching/<number>/box/<any(" + ", ".join(f"'{p}'" for p in BOX) + "):move>")
def box_move(number: str, move: str):
    do, done = BOX[move]
    hold = program_view.view(site(), number).hold

    def then(result: Any) -> str:
        halves = (
            say("switching-the-lock-is-off-by-both-of")
            if result
            else say("switching-your-half-is-recorded-the-other-half")
        )
        forms.said(done or halves)
        return url_for("switching.program", number=number)

    return forms.attempt("box-" + move, lambda: do(hold), then, lambda failed: _program(number, failed))
