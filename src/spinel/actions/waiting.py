"""What waits for one person: the next act on a permit or a program that is theirs to do, the most urgent first.

As far as roles, duties and being qualified to operate anything tell; the act itself asks for every class of equipment.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from functools import cache

from spinel.actions import assessing, improvements, study_findings
from spinel.actions.acting import Actor
from spinel.actions.board import Board
from spinel.actions.permit_moves import vouched_for, waiting_for
from spinel.actions.permits import PermitView
from spinel.actions.positions import of_settings
from spinel.actions.site import Site, on_site
from spinel.core.errors import NotAllowed, Refusal
from spinel.core.permit.life import check_move
from spinel.core.permit.positions import Position, unsigned
from spinel.core.switching.life import MOVES as PROGRAM_MOVES
from spinel.store import people, programs

#: What comes next with a program, by its state.
_NEXT = {"stopped": "resume", "released": "start", "checked": "release", "draft": "check"}


@dataclass(frozen=True)
class Waits:
    """``kind``: permit, program, or opinion (its number is the job's). ``what``: the move that waits. ``late``: it is
    overdue."""

    kind: str
    number: str
    what: str
    late: bool = False


@dataclass(frozen=True)
class _Me:
    actor: Actor
    id: int
    positions: tuple[Position, ...]


@on_site
def for_person(site: Site, actor: Actor, now: Board, today: date) -> list[Waits]:
    """Everything on the board that only waits for this person, or for somebody who may do what they may. ``today``: at
    the site."""
    if actor.id is None:
        return []
    me = _Me(actor, actor.id, of_settings(site.as_it_is().settings))
    found = [w for seen in (*(d.permit for d in now.due), *now.waiting) for w in _of_permit(seen, me)]
    order = {"hand_back": 0, "resume": 1}
    found.sort(key=lambda w: (not w.late, order.get(w.what, 2)))
    opinions = [Waits("opinion", job, "opine") for _, job in assessing.waits_for(site, me.id)]
    better = [Waits("improvement", b.number, "improve", b.late(today)) for b in improvements.owned(site, me.id)]
    mine = [Waits("finding", number, "see_to", due < today) for number, due in study_findings.owned(site, me.id)]
    return [*found, *opinions, *_of_programs(me, today), *better, *mine]


def _of_permit(seen: PermitView, me: _Me) -> Iterator[Waits]:
    late = seen.shown_state == "expired"
    for what in _next_of(seen, me, late):
        if _may(what, seen, me):
            yield Waits("permit", seen.number, what, late)


def _next_of(seen: PermitView, me: _Me, late: bool) -> Iterator[str]:
    in_charge = (seen.content["people"]["in_charge"] or {}).get("id") == me.id
    if late or seen.state == "in_force":
        # nothing but an end waits of what runs, and of what has run out
        if late and in_charge and seen.state in ("in_force", "suspended"):
            yield "hand_back"
    elif seen.state == "issued":
        yield from _before_acceptance(seen, me, in_charge)
    elif seen.state == "submitted" and (lacking := unsigned(me.positions, seen.positions_signed)):
        if me.id in lacking[0].people:
            yield "sign"
    else:
        yield {"submitted": "approve", "approved": "issue", "suspended": "resume", "handed_back": "close"}[seen.state]


def _before_acceptance(seen: PermitView, me: _Me, in_charge: bool) -> Iterator[str]:
    briefed = seen.valid("briefed")
    if in_charge and not briefed:
        yield "brief"
    if me.id in seen.roster and me.id in seen.briefed() and not seen.stated(me.id):
        yield "state"
    if me.id in seen.owes_attendance() and me.id in seen.briefed():
        yield "attend"
    if briefed and not vouched_for(seen):
        yield "vouch"
    if in_charge and not waiting_for(seen):
        yield "accept"


def _may(what: str, seen: PermitView, me: _Me) -> bool:
    try:
        check_move(what, seen.state, me.actor.roles, seen.parts_of(me.id))
    except (NotAllowed, Refusal):
        return False
    return True


def _of_programs(me: _Me, today: date) -> Iterator[Waits]:
    operates = cache(lambda: any(q.task_id == "operate" and q.until >= today for q in people.held_by(me.id)))
    found = sorted(programs.programs_in(tuple(_NEXT)), key=lambda p: list(_NEXT).index(p.state))
    for program in found:
        what = _NEXT[program.state]
        own = program.requested_by_id == me.id
        if not me.actor.roles & set(PROGRAM_MOVES[what].roles) or (what == "check" and own):
            continue
        if what == "check" and not operates():
            continue
        if what == "resume" and program.director_id != me.id:
            continue
        yield Waits("program", program.number, what, program.state == "stopped")
