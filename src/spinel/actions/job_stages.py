"""The stages of a job, all at once: done, open, waiting, and the first cause where one is blocked."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.actions import box
from spinel.actions.site import SiteNow
from spinel.core.network.document import Element
from spinel.core.permit.decision import Decision, never_dead
from spinel.core.permit.life import ENDED
from spinel.core.permit.tasks import task
from spinel.core.switching.life import ENDED as PROGRAM_ENDED
from spinel.core.switching.order import ISOLATION, RESTORATION
from spinel.store.models import Job, Permit, Program


@dataclass(frozen=True)
class Stage:
    """``state``: done, open, waiting (its turn has not come), blocked (the first cause) or skipped."""

    name: str
    state: str
    says: str


def stages_of(
    here: SiteNow, job: Job, element: Element | None, decision: Decision | None, permits: list[Permit],
    own: list[Program],
) -> tuple[Stage, ...]:  # fmt: skip
    """All stages at once: what is done, what is open, what waits, and the first cause where one is blocked."""
    stages = [Stage("Scope", "done", f"{task(job.task_id).name}")]
    if decision is None:
        stages.append(Stage("Decision", "blocked", "The equipment is no longer in the network"))
    elif decision.outcome == "facts_missing":
        stages.append(Stage("Decision", "open", f"{len(decision.missing)} questions not answered"))
    else:
        stages.append(Stage("Decision", "done", decision.title))
    stages += _program_stages(here, own) if own and not permits else _permit_stages(decision, permits, element)
    ended = all(p.state in ENDED for p in permits) and all(p.state in PROGRAM_ENDED for p in own)
    if job.state != "open":
        stages.append(Stage("Close", "done", job.state.capitalize()))
    elif ended and decision and decision.outcome not in ("facts_missing",):
        stages.append(Stage("Close", "open", "Was the circuit changed? What was learnt?"))
    else:
        stages.append(Stage("Close", "waiting", "When every permit and program has ended"))
    return tuple(stages)


def _program_stages(here: SiteNow, own: list[Program]) -> list[Stage]:
    isolation = next(p for p in reversed(own) if p.purpose == ISOLATION)
    restoration = next((p for p in reversed(own) if p.purpose == RESTORATION), None)
    says = {"stopped": f"stopped at step {isolation.step + 1}", "executing": f"at step {isolation.step + 1}"}
    words = f"{isolation.number} {says.get(isolation.state, isolation.state)}"
    held = box.box_of(here, isolation.hold)
    if held is None:
        state = "blocked" if isolation.state == "stopped" else "open"
        first = Stage("Isolation", state if isolation.state != "abandoned" else "blocked", words)
        work = Stage("Work", "waiting", "After the handover")
    elif held.unsound and not held.complete:
        first = Stage("Isolation", "done", words)
        work = Stage("Work", "blocked", held.unsound[0].why)
    else:
        first = Stage("Isolation", "done", words)
        people = f"{len(held.locks)} on the box" if held.locks else "Nobody's lock on the box"
        work = Stage("Work", "done", "Complete") if held.complete else Stage("Work", "open", people)
    if restoration is None:
        last = Stage("Restoration", "waiting", "Not drafted yet")
    elif restoration.state == "done":
        last = Stage("Restoration", "done", restoration.number)
    else:
        ready = held is None or held.complete
        last = Stage("Restoration", "open" if ready and isolation.state in PROGRAM_ENDED else "waiting",
                     f"{restoration.number} {restoration.state}")  # fmt: skip
    return [first, work, last]


def _permit_stages(decision: Decision | None, permits: list[Permit], element: Element | None) -> list[Stage]:
    current = next((p for p in reversed(permits) if p.state != "cancelled"), None)
    if current is None:
        if decision and decision.permit:
            return [Stage("Permit", "open", "Prepare it"), Stage("Work", "waiting", "After the permit is in force")]
        if decision and decision.live:
            how = "With its practices and all PPE" if decision.outcome == "exempt" else "As decided"
            return [Stage("Permit", "skipped", "Not needed"), Stage("Work", "open", how)]
        if decision is None or decision.outcome == "facts_missing":
            return [Stage("Permit", "waiting", "After the decision"), Stage("Work", "waiting", "After the decision")]
        if element is not None and never_dead(element):
            return [
                Stage("Permit", "blocked", "It cannot be switched off, and has no figures or justification yet"),
                Stage("Work", "waiting", "Needs a permit"),
            ]
        return [
            Stage("Isolation", "open", "Draft the switching program"),
            Stage("Work", "waiting", "Behind the isolation, each with a lock on its box"),
            Stage("Restoration", "waiting", "When the work is complete and all locks are off"),
        ]
    state = current.state
    if state == "refused":
        return [Stage("Permit", "blocked", f"{current.number} was refused"), Stage("Work", "waiting", "Needs a permit")]
    if state in ("draft", "submitted", "approved", "issued"):
        return [
            Stage("Permit", "open", f"{current.number} {state}"),
            Stage("Work", "waiting", "After briefing and acceptance"),
        ]
    if state == "suspended":
        return [Stage("Permit", "done", current.number), Stage("Work", "blocked", current.suspended_because)]
    if state == "in_force":
        return [Stage("Permit", "done", current.number), Stage("Work", "open", "In force")]
    return [Stage("Permit", "done", current.number), Stage("Work", "done", state.replace("_", " ").capitalize())]
