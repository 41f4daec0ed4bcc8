"""The stages of a job, all at once: done, open, waiting, and the first cause where one is blocked."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions import box, task_library
from spinel.actions.site import SiteNow
from spinel.core.network.document import Element
from spinel.core.permit.decision import Decision, never_dead
from spinel.core.permit.life import ENDED, NAMES
from spinel.core.said import Said, Sayable, say
from spinel.core.switching.life import ENDED as PROGRAM_ENDED
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.core.switching.order import ISOLATION, RESTORATION, SWITCHED
from spinel.store.models import Job, Permit, Program


@dataclass(frozen=True)
class Stage:
    """``id``: scope, decision, permit, switching, isolation, work, restoration or close. ``state``: done, open, waiting
    (its turn has not come), blocked (the first cause) or skipped."""

    id: str
    state: str
    says: Sayable

    @property
    def name(self) -> Said:
        return say(f"stage-{self.id}")


def stages_of(
    here: SiteNow,
    job: Job,
    element: Element | None,
    decision: Decision | None,
    permits: list[Permit],
    own: list[Program],
) -> tuple[Stage, ...]:
    """All stages at once: what is done, what is open, what waits, and the first cause where one is blocked."""
    stages = [Stage("scope", "done", task_library.of(here.site, job.task_id, job.task_version).name)]
    if decision is None:
        stages.append(Stage("decision", "blocked", say("job-stages-the-equipment-is-no-longer-in-the")))
    elif decision.outcome == "facts_missing":
        stages.append(Stage("decision", "open", say("job-stages-questions-not-answered", count=len(decision.missing))))
    else:
        stages.append(Stage("decision", "done", decision.title))
    switched = [p for p in own if p.purpose == SWITCHED]
    isolating = [p for p in own if p.purpose != SWITCHED]
    if switched:
        stages.append(_switching_stage(switched[-1]))
    if isolating and not permits:
        stages += _program_stages(here, isolating)
    elif permits or not switched:
        stages += _permit_stages(decision, permits, element)
    ended = all(p.state in ENDED for p in permits) and all(p.state in PROGRAM_ENDED for p in own)
    if job.state != "open":
        stages.append(Stage("close", "done", say(f"job-state-{job.state}")))
    elif ended and decision and decision.outcome not in ("facts_missing",):
        stages.append(Stage("close", "open", say("job-stages-was-the-circuit-changed-what-was-learnt")))
    else:
        stages.append(Stage("close", "waiting", say("job-stages-when-every-permit-and-program-has-ended")))
    return tuple(stages)


def _switching_stage(program: Program) -> Stage:
    state = {"stopped": "blocked", "abandoned": "blocked", "done": "done"}.get(program.state, "open")
    what = PROGRAM_NAMES[program.state]
    if program.state in ("executing", "stopped"):
        what = say("job-stages-stopped-at-step" if state == "blocked" else "job-stages-at-step", step=program.step + 1)
    return Stage("switching", state, say("job-stages-number-and", number=program.number, what=what))


def _program_stages(here: SiteNow, own: list[Program]) -> list[Stage]:
    isolation = next(p for p in reversed(own) if p.purpose == ISOLATION)
    restoration = next((p for p in reversed(own) if p.purpose == RESTORATION), None)
    says = {
        "stopped": say("job-stages-stopped-at-step", step=isolation.step + 1),
        "executing": say("job-stages-at-step", step=isolation.step + 1),
    }
    words = say(
        "job-stages-number-and", number=isolation.number, what=says.get(isolation.state, PROGRAM_NAMES[isolation.state])
    )
    held = box.box_of(here, isolation.hold)
    if held is None:
        state = "blocked" if isolation.state == "stopped" else "open"
        first = Stage("isolation", state if isolation.state != "abandoned" else "blocked", words)
        work = Stage("work", "waiting", say("job-stages-after-the-handover"))
    elif held.unsound and not held.complete:
        first = Stage("isolation", "done", words)
        work = Stage("work", "blocked", held.unsound[0].why)
    else:
        first = Stage("isolation", "done", words)
        people = (
            say("job-stages-on-the-box", count=len(held.locks))
            if held.locks
            else say("job-stages-nobodys-lock-on-the-box")
        )
        work = Stage("work", "done", say("job-stages-complete")) if held.complete else Stage("work", "open", people)
    if restoration is None:
        last = Stage("restoration", "waiting", say("job-stages-not-drafted-yet"))
    elif restoration.state == "done":
        last = Stage("restoration", "done", restoration.number)
    else:
        ready = held is None or held.complete
        last = Stage(
            "restoration",
            "open" if ready and isolation.state in PROGRAM_ENDED else "waiting",
            say("job-stages-number-and", number=restoration.number, what=PROGRAM_NAMES[restoration.state]),
        )
    return [first, work, last]


def _permit_stages(decision: Decision | None, permits: list[Permit], element: Element | None) -> list[Stage]:
    current = next((p for p in reversed(permits) if p.state != "cancelled"), None)
    if current is None:
        if decision and decision.permit:
            return [
                Stage("permit", "open", say("job-stages-prepare-it")),
                Stage("work", "waiting", say("job-stages-after-the-permit-is-in-force")),
            ]
        if decision and decision.live:
            how = (
                say("job-stages-with-its-practices-and-all-ppe")
                if decision.outcome == "exempt"
                else say("job-stages-as-decided")
            )
            return [Stage("permit", "skipped", say("job-stages-not-needed")), Stage("work", "open", how)]
        if decision is None or decision.outcome == "facts_missing":
            return [
                Stage("permit", "waiting", say("job-stages-after-the-decision")),
                Stage("work", "waiting", say("job-stages-after-the-decision")),
            ]
        if element is not None and never_dead(element):
            return [
                Stage("permit", "blocked", say("job-stages-it-cannot-be-switched-off-and-has")),
                Stage("work", "waiting", say("job-stages-needs-a-permit")),
            ]
        return [
            Stage("isolation", "open", say("job-stages-draft-the-switching-program")),
            Stage("work", "waiting", say("job-stages-behind-the-isolation-each-with-a-lock")),
            Stage("restoration", "waiting", say("job-stages-when-the-work-is-complete-and-all")),
        ]
    state = current.state
    if state == "refused":
        return [
            Stage("permit", "blocked", say("job-stages-was-refused", number=current.number)),
            Stage("work", "waiting", say("job-stages-needs-a-permit")),
        ]
    if state in ("draft", "submitted", "approved", "issued"):
        return [
            Stage("permit", "open", say("job-stages-number-and", number=current.number, what=NAMES[state])),
            Stage("work", "waiting", say("job-stages-after-briefing-and-acceptance")),
        ]
    if state == "suspended":
        return [Stage("permit", "done", current.number), Stage("work", "blocked", current.suspended_because)]
    if state == "in_force":
        return [Stage("permit", "done", current.number), Stage("work", "open", say("job-stages-in-force"))]
    return [Stage("permit", "done", current.number), Stage("work", "done", NAMES[state])]
