"""The answer at the top of each screen, as something to say: which sentence, with which numbers.

The sentences are in the catalogue; ``[b]``, ``[live]``, ``[unk]`` and ``[late]`` there mark what stands out, and the
filter ``rich`` turns them into markup after everything else was escaped.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Any

from spinel.actions.asking import Chain
from spinel.actions.assessing import Assessing
from spinel.actions.board import Board
from spinel.actions.box import Box
from spinel.actions.crew_check import Staffing
from spinel.actions.emergency import EmergencyAt
from spinel.actions.falling_due import STAGES, FallsDue
from spinel.actions.improvements import Better
from spinel.actions.job_week import Day
from spinel.actions.kit import Wearer
from spinel.actions.may_do import WhoMay
from spinel.actions.permits import PermitView
from spinel.actions.procedures import Checklist
from spinel.actions.program_view import ProgramView
from spinel.actions.register import OnePerson
from spinel.actions.revisions import Effects
from spinel.actions.site import SiteNow
from spinel.actions.source_ways import Sources
from spinel.actions.story import Story
from spinel.actions.study_runs import StudyAsked
from spinel.actions.task_library import TaskKept
from spinel.core.errors import Problem
from spinel.core.gear import items
from spinel.core.network.differences import Difference
from spinel.core.network.document import Element
from spinel.core.permit.life import NAMES
from spinel.core.permit.positions import Position
from spinel.core.said import Said, Sayable, joined, say
from spinel.core.study_result import StudyResult
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.core.switching.order import ISOLATION
from spinel.core.tables.forms import Threshold
from spinel.web.filters import clock
from spinel.wording import formats


def board(now: Board) -> Said:
    """What is dangerous or late now."""
    late = [d for d in now.due if d.late]
    force = [d for d in now.due if not d.late and d.permit.state == "in_force"]
    held = [d for d in now.due if not d.late and d.permit.state == "suspended"]
    found = []
    if late:
        on_it = len(late[0].permit.roster)
        found.append(say("verdict-ran-out", count=len(late), minutes=late[0].minutes, people=on_it))
    if force:
        found.append(say("verdict-in-force", count=len(force), minutes=force[0].minutes))
    if held:
        found.append(say("verdict-suspended", count=len(held)))
    first = next((s for s in now.switching if s.late), None)
    if first is not None:
        code = "verdict-stopped" if first.state == "stopped" else "verdict-no-longer-stands"
        found.append(say(code, number=first.number))
    going = sum(s.state == "executing" for s in now.switching)
    if going:
        found.append(say("verdict-executing", count=going))
    if not now.due and not now.switching:
        found.append(say("verdict-nothing"))
    return joined(*found, between=" ")


def believed(story: Story, now: datetime) -> Said:
    """Whether a story can be believed: what the last comparison with the ledger found."""
    if story.astray:
        return say("story-astray", astray=story.astray)
    if story.verified is None:
        return say("story-not-compared")
    return say("story-whole", hours=max(0, int((now - story.verified).total_seconds() // 3600)))


def witnessed(story: Story) -> Said:
    """How far something outside the database holds the ledger."""
    if not story.anchored:
        return say("story-not-witnessed")
    if story.anchored >= story.count:
        return say("story-witnessed-all", count=story.count)
    return say("story-witnessed", anchored=story.anchored, count=story.count)


def network(site: SiteNow, counts: Mapping[str, int]) -> Said:
    """What is alive."""
    more = [
        say(f"verdict-{state}", count=counts[state])
        for state in ("unknown", "dead", "proved", "grounded")
        if counts.get(state)
    ]
    elements = len(site.network.elements)
    answer = say("verdict-live", live=counts.get("live", 0), count=elements, more=joined(*more, between=""))
    alarm = site.liveness.alarm
    return joined(answer, say("verdict-alarm", tags=tuple(alarm)), between=" ") if alarm else answer


def card(element: Element, h: Mapping[str, Any], threshold: Threshold) -> Said:
    """May I work here live?"""
    if h["below_threshold"]:
        return say("verdict-below", voltage_v=h["voltage_v"], current=h["current"], limit=threshold.said(h["current"]))
    if h["no_figure"]:
        return say("verdict-no-figure-battery" if element.kind == "battery" else "verdict-no-figure")
    if h["beyond_ceiling"]:
        return say(
            "verdict-beyond", energy_cal_cm2=h["energy_cal_cm2"], ceiling_cal_cm2=h["ceiling_cal_cm2"],
            distance_mm=h["working_distance_mm"],
        )  # fmt: skip
    return say("verdict-energy", energy_cal_cm2=h["energy_cal_cm2"], distance_mm=h["working_distance_mm"])


def permit(
    seen: PermitView, minutes_left: int, lacking: Sequence[Said], approvals: int = 0, positions: Sequence[Position] = ()
) -> Said:
    """May the work go on? ``approvals``: how many more it waits for; ``positions``: those that have not signed."""
    shown = seen.shown_state
    if shown == "submitted" and positions:
        return say("verdict-permit-position", title=positions[0].title)
    if shown == "submitted" and approvals > 1:
        return say("verdict-permit-approvals", count=approvals)
    if shown == "submitted" and seen.valid("approved"):
        return say("verdict-permit-one-more")
    if shown == "expired":
        return say("verdict-permit-expired", minutes=-minutes_left)
    if shown == "in_force":
        return say("verdict-permit-in-force", minutes=minutes_left, until=clock(seen.window_end))
    if shown == "suspended":
        return say("verdict-permit-suspended", because=seen.suspended_because)
    if shown == "issued" and lacking:
        return say("verdict-permit-lacking", count=len(lacking))
    if shown == "issued":
        return say("verdict-permit-ready", name=seen.content["people"]["in_charge"]["name"])
    if shown in ("approved", "submitted", "draft", "handed_back", "closed"):
        return say(f"verdict-permit-{shown}")
    return say("verdict-permit-was", state=NAMES[shown])


def compared(found: Sequence[Difference], figures: Sequence[Mapping[str, Any]] | None, effects: Effects | None) -> Said:
    """What differs, where figures rise, and whom publishing it would stop."""
    told: list[Said] = [say("verdict-compared", count=len(found))]
    worse = [f for f in figures or () if f["worse"]]
    if figures is not None and found:
        told.append(say("verdict-compared-rises", count=len(worse)))
    if effects is not None:
        held = sum(s.held for s in (*effects.permits, *effects.programs))
        void = len(effects.permits) + len(effects.programs) - held
        if held or void:
            told.append(say("verdict-compared-stops", held=held, void=void))
    return joined(*told, between=" ")


def program(seen: ProgramView, box: Box | None) -> Said:
    """Is it safe as written, and how far is it?"""
    step, steps, broken = seen.done + 1, len(seen.steps), seen.first_broken
    if seen.state == "stopped":
        return say("verdict-program-stopped", step=step, steps=steps, because=seen.stopped_because)
    if seen.state == "executing" and seen.current is not None:
        tag, action = seen.current.identity, seen.current.action
        return say("verdict-program-executing", step=step, steps=steps, tag=tag, action=action)
    if seen.state == "done":
        return joined(say("verdict-program-done", steps=steps), _what_stands(seen, box), between=" ")
    if seen.state == "abandoned" and seen.practice and seen.stopped_because:
        return say("sentence", what=seen.stopped_because)
    if seen.state == "abandoned":
        return say("verdict-program-abandoned", step=seen.done, steps=steps)
    if broken is not None:
        return say("verdict-program-broken", why=broken.why, remedy=broken.remedy)
    who = {"checked": "checked", "released": "released"}.get(seen.state)
    record = seen.last(who) if who else None
    return say(f"verdict-program-{seen.state}", steps=steps, name=record.name if record else "")


def _what_stands(seen: ProgramView, box: Box | None) -> Said | str:
    """What a finished isolation is doing for whoever works behind it."""
    if seen.purpose != ISOLATION or seen.practice:
        return ""
    if box is not None and box.unsound and not box.complete:
        return say("verdict-box-unsound", why=box.unsound[0].why)
    if box is not None and box.complete:
        return say("verdict-box-complete")
    if box is not None and box.taken_by:
        return say("verdict-box-taken", name=box.taken_by, count=len(box.locks))
    return say("verdict-box-waits", name=seen.in_charge)


def worst_side(job: Any) -> bool:
    """Is the figure of a job better than that of another side, so that the worst is shown beside it?"""
    if job.worst is None or job.hazard is None or job.hazard.below_threshold:
        return False
    return bool(job.worst.energy_cal_cm2 != job.hazard.energy_cal_cm2)


def console(seen: ProgramView) -> Said:
    """What the page is about, for those who do not see it."""
    if seen.current is not None and seen.state in ("executing", "stopped"):
        code = "verdict-console-stopped" if seen.state == "stopped" else "verdict-console-step"
        return say(code, number=seen.number, step=seen.done + 1, steps=len(seen.steps))
    return say("verdict-console-state", number=seen.number, state=PROGRAM_NAMES[seen.state])


def who_may(found: WhoMay, task: Sayable, tag: str, now: datetime | None) -> Said:
    """How many may do it, how many of them are free, and who ran out of it lately. ``now``: None where another day is
    asked for, of which nobody knows who is free."""
    parts = [say("verdict-who-may", count=len(found.may), task=task, tag=tag)]
    if found.may and now is not None:
        parts.append(say("verdict-who-is-free", free=sum(x.busy(now) is None for x in found.may)))
    lately = next((x for x in found.may_not if x.in_the_way and x.in_the_way.code == "may-not-ran-out"), None)
    if lately is not None and lately.in_the_way is not None:
        parts.append(say("verdict-who-ran-out", name=lately.person.name, days=lately.in_the_way.values["days"]))
    return joined(*parts, between=" ")


def person(one: OnePerson) -> Said:
    """Who somebody is here, how much they are qualified for, and what hangs in their name."""
    p = one.person
    if not p.active:
        return say("verdict-person-left", name=p.name, holds=len(one.holds), rosters=len(one.rosters))
    parts = [say("verdict-person", name=p.name, count=one.in_date)]
    if one.holds:
        parts.append(say("verdict-person-holds", count=len(one.holds)))
    if one.twice:
        a, b = one.twice[0]
        parts.append(say("verdict-person-twice", a=a.number, b=b.number))
    return joined(*parts, between=" ")


def due(found: Sequence[FallsDue], today: date) -> Said:
    gone = sum(d.stage(today) == 0 for d in found)
    near = sum(0 < d.stage(today) <= STAGES[0] for d in found)
    return say("verdict-due", gone=gone, near=near)


def crew(found: tuple[Staffing, Staffing]) -> Said:
    """How many people the permit and the program need at least, or that they cannot be staffed."""
    return joined(
        *(
            say("verdict-crew-lacks", kind=say(f"crew-{c.kind}"), count=len(c.gaps)) if c.gaps
            else say("verdict-crew", kind=say(f"crew-{c.kind}"), count=c.people)
            for c in found
        ), between=" ",
    )  # fmt: skip


def draft(found: Sequence[Difference], problems: Sequence[Problem], assumed: int) -> Said:
    """What a draft differs in, what is wrong with it, and how much of it nobody has confirmed."""
    parts = [say("verdict-draft", count=sum(d.group == "elements" for d in found))]
    if problems:
        parts.append(say("verdict-draft-problems", count=len(problems)))
    parts.append(say("verdict-draft-assumed", count=assumed))
    return joined(*parts, between=" ")


def doubts(rows: Sequence[Mapping[str, Any]] | None) -> Said:
    """How many values could move a figure by more than a twentieth."""
    if rows is None:
        return say("verdict-doubts-computing")
    far = [r for r in rows if r["no_figure"] or max(r["rise"] or 0, r["fall"] or 0) > FAR]
    return say("verdict-doubts", count=len(rows), far=len(far))


#: A value that moves no figure by more than this part of it can wait.
FAR = 0.05


def sources(asked: Sources) -> Said:
    """By how many ways it is live, may be, and whether one device would cut them."""
    ways = asked.found.ways
    live, may = sum(w.state == "live" for w in ways), sum(w.state == "may" for w in ways)
    parts = [say("verdict-sources", tag=asked.element.tag, live=live, may=may)]
    if asked.found.inside or asked.found.unrecorded:
        parts.append(say("verdict-sources-inside", count=len(asked.found.inside) + len(asked.found.unrecorded)))
    elif asked.found.singles:
        parts.append(say("verdict-sources-single", tags=tuple(e.tag for e in asked.found.singles)))
    elif asked.found.smallest:
        parts.append(say("verdict-sources-set", count=len(asked.found.smallest.devices)))
    return joined(*parts, between=" ")


def trial(chain: Chain) -> Said:
    """What a chain of acts would do, and what the chosen place would be then."""
    if not chain.acts:
        return say("verdict-trial-nothing")
    last = chain.acts[-1]
    parts = [say("verdict-trial", count=len(chain.acts), lost=sum(len(t.lost) for t in chain.acts))]
    if any(t.refused for t in chain.acts):
        parts.append(say("verdict-trial-refused", count=sum(t.refused is not None for t in chain.acts)))
    if chain.chosen is not None:
        parts.append(say(f"verdict-trial-{last.chosen}", tag=chain.chosen.tag))
    return joined(*parts, between=" ")


def gear(states: Sequence[str]) -> Said:
    """How many items there are, and how many nobody may use or soon may not."""
    counted = Counter(states)
    out = counted[items.OUT] + counted[items.OVERDUE] + counted[items.UNTESTED]
    count = len(states) - counted[items.RETIRED]
    return say("verdict-gear", count=count, out=out, soon=counted[items.SOON])


def item(one: items.Item, today: date) -> Said:
    """May somebody use it today, and until when?"""
    kind, end = say(f"gear-kind-{one.kind_id.replace('_', '-')}"), items.due(one)
    if why := items.why_not(one, today):
        return say("verdict-item-not", number=one.number, kind=kind, why=why)
    if end is None:
        return say("verdict-item", number=one.number, kind=kind)
    first = one.in_service is None and one.interval is not None and one.interval.shelf_months is not None
    code = "verdict-item-shelf" if first else "verdict-item-until"
    return say(code, number=one.number, kind=kind, due=end.isoformat(), days=(end - today).days)


def tasks(found: Sequence[TaskKept]) -> Said:
    """How many tasks there are, and how many of them may be done live here."""
    live = sum(k.live and k.task.electrical for k in found)
    return say("verdict-tasks", count=len(found), live=live)


def one_task(kept: TaskKept) -> Said:
    if not kept.task.electrical:
        return say("verdict-task-never-live")
    return say("verdict-task-live" if kept.live else "verdict-task-not-live", version=kept.version)


def risk(found: Assessing | None, me: str) -> Said:
    """How far it is: nobody asked, who has not answered, what is not agreed."""
    if found is None:
        return say("verdict-risk-nobody")
    if found.state == "open":
        return say("verdict-risk-waits", names=found.waiting, given=len(found.given), asked=len(found.asked))
    if found.worse:
        return say("verdict-risk-worse")
    if not found.agreed:
        lone = [r for r in found.rows or () if r.alone]
        alone = (
            say("verdict-risk-alone", name=lone[0].alone, hazard=say(f"hazard-kind-{lone[0].hazard}")) if lone else ""
        )
        return say("verdict-risk-opened", count=len(found.rows or ()), alone=alone)
    if found.open_points:
        names = tuple(say(f"hazard-kind-{h}") for h in found.open_points)
        return say("verdict-risk-not-agreed", hazards=names)
    return say("verdict-risk-agreed", by=found.agreed_by)


def risk_line(found: Assessing | None) -> Said:
    """The same in a few words, for the folder of the job: it tells nobody what others saw."""
    if found is None:
        return say("risk-line-nobody")
    code = "worse" if found.worse else found.state
    return say(f"risk-line-{code}", given=len(found.given), asked=len(found.asked))


def kit(energy_cal_cm2: float, wearers: Sequence[Wearer]) -> Said:
    """Can everybody who works be dressed of what the site owns?"""
    energy = formats.energy(energy_cal_cm2)
    if not wearers:
        return say("verdict-kit-nobody", energy=energy)
    missing = tuple(w.name for w in wearers if w.missing)
    if missing:
        return say("verdict-kit-missing", energy=energy, names=missing)
    return say("verdict-kit-dressed", energy=energy, count=len(wearers))


def improvements(listed: Sequence[Better], today: date) -> Said:
    """How many are open, and how many of them are late."""
    open_ = [b for b in listed if b.state in ("proposed", "accepted")]
    return say("verdict-improvements", count=len(open_), late=sum(b.late(today) for b in open_))


def checklist(found: Checklist) -> Said:
    """Has anybody gone by it, and what does it lack?"""
    return say("verdict-checklist", first="yes" if found.first_time else "no", without=len(found.without_picture))


def week(days: Sequence[Day], today: date) -> Said:
    """What there is to do, who is on two things at once, and on how many days the store is too small."""
    each = {s.number: s for d in days for s in d.stretches}
    twice = {name for s in each.values() for name in s.twice}
    return say(
        "verdict-week", count=len(each), twice=len(twice), short=sum(bool(d.short) for d in days if d.on >= today)
    )


def emergency(plans: Sequence[EmergencyAt]) -> Said:
    """How many places have no plan."""
    return say("verdict-emergency", count=len(plans), without=sum(not p.says for p in plans))


def study(result: StudyResult, chosen: StudyAsked, ceiling_cal_cm2: float) -> Said:
    """Where it is worst, and whether the study still speaks of the network as it is."""
    above = sum(e > ceiling_cal_cm2 for e in result.energies)
    worst = max(result.energies, default=0.0)
    state = "outdated" if chosen.outdated else "current"
    return say(
        f"verdict-study-{state}", above=above, places=len(result.rows), worst=worst, ceiling=ceiling_cal_cm2,
        none=result.without_figure, number=chosen.number,
    )  # fmt: skip
