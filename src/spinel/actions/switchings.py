"""Switching from the state as it is to another one: drafted from a job, compared, and brought back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from spinel.actions import jobs
from spinel.actions.acting import Act, work
from spinel.actions.crews import crews
from spinel.actions.program_view import ProgramView, as_view, stored
from spinel.actions.programs import insert_switching
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.errors import NotFound, Refusal
from spinel.core.isolation.points import isolation
from spinel.core.network.circuit import in_case, joined
from spinel.core.network.document import Case, Element
from spinel.core.network.kinds import SWITCHING
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.goal import choices, stands
from spinel.core.switching.life import ENDED, NAMES, check_move
from spinel.core.switching.order import ISOLATION, SWITCHED
from spinel.core.switching.transfers import Transfer, transfers
from spinel.store import programs as store


@dataclass(frozen=True)
class Choice:
    """A device or machine that can be asked for a position; ``stands``: where it is, None where nobody knows."""

    element: Element
    stands: str | None
    sure: bool
    positions: tuple[str, ...]


@on_site
def asked_of(site: Site) -> list[Choice]:
    """Everything that a switching can be asked to move, by place and tag."""
    here = site.as_it_is()
    found = []
    for e in here.network.elements:
        if choices(e):
            sure = e.kind not in SWITCHING or here.device(e).known_or_automatic
            found.append(Choice(e, stands(here.field, e), sure, choices(e)))
    return sorted(found, key=lambda c: (str(c.element.location or "~"), c.element.tag))


@on_site
def in_the_document(site: Site) -> list[tuple[Case, dict[str, str]]]:
    """The cases of the document, each with what would have to move from where it stands."""
    here = site.as_it_is()
    return [(case, goal) for case in here.network.cases if (goal := _to_case(here, case))]


def _to_case(here: SiteNow, case: Case) -> dict[str, str]:
    """Only what tells the cases apart: what else is open or locked is none of their business."""
    circuit, goal = in_case(here.network, case), dict[str, str]()
    named = {tag for c in here.network.cases for tag in (*c.positions, *c.sources)}
    for e in (e for e in here.network.elements if e.tag in named):
        is_now = stands(here.field, e)
        wanted: str | None = None
        if e.kind in SWITCHING:
            wanted = case.positions.get(e.tag, e.normal_position)
            same = is_now is not None and joined(e, is_now) == circuit.closed[e.id] and is_now != "automatic"
            wanted = None if same else wanted
        elif choices(e):
            wanted = case.sources.get(e.tag, {}).get("state", e.normal_state)
        if wanted is not None and wanted in choices(e) and wanted != is_now:
            goal[e.id] = wanted
    return goal


@on_site
def draft(act: Act, job_number: str, goal: Mapping[str, str]) -> str:
    """A switching to a goal (position by element id) for a job, from the state as it is. Returns its number.

    InputError for what cannot be asked; Refusal naming the rule that no order of the moves keeps.
    """
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        job = jobs.open_job(job_number)
        running = [p for p in store.programs_of(job.id) if p.purpose == SWITCHED and p.state not in ENDED]
        running = [p for p in running if not p.practice]
        if running:
            raise Refusal(
                say("act-switchings-one-at-a-time"),
                say("act-jobs-is", number=running[0].number, state=NAMES[running[0].state]),
                say("act-programs-continue-with-it"),
                "goal",
            )
        return insert_switching(unit, job, unit.site.as_it_is().network.get(job.element_id), goal)


@on_site
def way_back(act: Act, number: str) -> str:
    """What a switching that is over has moved, brought back to where it was. Returns the number of the new one."""
    check_move("edit", "draft", act.actor.roles, ())
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        program = stored(number)
        if program.purpose != SWITCHED or program.practice or program.state not in ENDED:
            raise Refusal(
                say("act-switchings-the-way-back-follows-what-is-over"),
                say("act-programs-is", number=number, state=NAMES[program.state]),
                say("act-programs-go-on-with-it"),
            )
        going = [p for p in store.of_hold(program.hold) if p.state not in ENDED and not p.practice]
        if going:
            raise Refusal(
                say("act-switchings-one-at-a-time"),
                say("act-jobs-is", number=going[0].number, state=NAMES[going[0].state]),
                say("act-programs-continue-with-it"),
            )
        here = unit.site.as_it_is()
        goal = _as_it_was(here, [as_view(p, here) for p in store.of_hold(program.hold) if not p.practice])
        if not goal:
            raise Refusal(
                say("act-switchings-there-is-something-to-bring-back"),
                say("act-switchings-nothing-stands-as-it-left-it", number=number),
                say("act-switchings-ask-for-the-state-wanted"),
            )
        return insert_switching(unit, program.job, as_view(program, here).order.target.element, goal, program)


def _as_it_was(here: SiteNow, under: Sequence[ProgramView]) -> dict[str, str]:
    """Where the programs of a hold found what they moved, as far as it stands as they left it."""
    start, left = under[0].fields[0], dict[str, str | None]()
    for seen in under:
        ends = seen.fields[seen.done]
        for step in seen.steps[: seen.done]:
            if step.kind == "operate" and step.element_id in here.network.element:
                left[step.element_id] = stands(ends, here.network.element[step.element_id])
    goal: dict[str, str] = {}
    for element_id, as_left in left.items():
        e = here.network.element[element_id]
        was, is_now = stands(start, e), stands(here.field, e)
        if e.kind != "motor" and was is not None and is_now == as_left and is_now != was:
            goal[element_id] = was
    return goal


@on_site
def keeping_on(site: Site, number: str) -> tuple[list[Transfer], Sayable]:
    """Transfers that would keep more on during the isolation that a program drafts, and what to know beside them."""
    here, program = site.as_it_is(), stored(number)
    if program.purpose != ISOLATION:
        raise NotFound("isolation", number)
    seen = as_view(program, here)
    element = here.network.get(seen.order.target.element.id)
    points = [here.network.by_tag[p["tag"]] for p in seen.content["points"] if p["tag"] in here.network.by_tag]
    try:
        region = isolation(here.study, element).region
    except Refusal as why:
        return [], say("sentence", what=why.why)
    return transfers(here.study, here.field, element, points, region, crews(here)), ""


def goal_words(here: SiteNow, goal: Mapping[str, str]) -> tuple[Said, ...]:
    """A goal as it is read: each device with the position that it shall have."""
    return tuple(
        say("goal-of", tag=here.network.element[i].tag, to=say(f"position-{to}"))
        for i, to in goal.items() if i in here.network.element
    )  # fmt: skip
