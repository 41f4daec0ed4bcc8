"""Can a crew be put together at all under the separation of duties, with how many people at least, and where not, which
duties nobody is left for.

What may not fall on one person is read from the same tables that refuse it later.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import chain, combinations

from spinel.core.permit import life as permit_life
from spinel.core.permit.positions import Position
from spinel.core.switching import life as program_life


@dataclass(frozen=True)
class CrewDuty:
    """One part on a permit or a program. ``roles``: any of them may; ``skill``: the task that one must be qualified
    for, empty where none; ``apart``: duties that may not be the same person's. ``holders``: of a position of the site,
    whose title follows ``POSITION`` in the name; None where the role tells who may."""

    name: str
    roles: tuple[str, ...]
    skill: str
    apart: frozenset[str]
    holders: frozenset[int] | None = None


@dataclass(frozen=True)
class Able:
    """Somebody who is here: what they may do, and the tasks that they are qualified for at this equipment."""

    id: int
    roles: frozenset[str]
    skills: frozenset[str]

    def fills(self, duty: CrewDuty) -> bool:
        held = duty.holders is None or self.id in duty.holders
        return held and bool(self.roles & set(duty.roles)) and (not duty.skill or duty.skill in self.skills)


#: The part that a duty makes of somebody, as the lives of permits and programs know it.
_PART = {"requester": "writes", "approver": "approves", "issuer": "issues", "worker": "works"}
#: Whoever signs for a position: there may be several, or none. How the names of their duties begin.
_SIGNS, POSITION = "signatory", "position:"
_PROGRAM_PART = {"writer": "writes", "checker": "checks", "operator": "operates"}


def for_permit(task_id: str, approvals: int = 1, positions: Sequence[Position] = ()) -> tuple[CrewDuty, ...]:
    """The duties on a permit, whose worker is qualified for the task, signed by these positions and approved by so
    many. At least two people are there: somebody watches who does not work."""
    moves, apart = permit_life.MOVES, permit_life.DUTIES_APART
    titles = [POSITION + p.title for p in positions]

    def duty(name: str, act: str, *more: str, skill: str = "") -> CrewDuty:
        parts = apart.get(act, ())
        never = {_PART[part] for part in parts if part != _SIGNS} | set(more)
        if _SIGNS in parts:
            never |= set(titles)
        return CrewDuty(name, moves[act].roles, skill, frozenset(never - {name}))

    approve = ("approves", "approves_2", "approves_3")[:approvals]
    # what the first who approves may not be, none of them may
    others = [duty(name, "approve", "issues", *approve) for name in approve[1:]]
    signing = [replace(duty(POSITION + p.title, "sign", *approve), holders=frozenset(p.people)) for p in positions]
    return _both_ways((
        duty("writes", "edit"), *signing, duty("approves", "approve"), *others, duty("issues", "issue"),
        duty("works", "state", skill=task_id), duty("vouches", "vouch"), duty("leads", "accept"),
        CrewDuty("watches", ("attendant", "worker", "person_in_charge"), "", frozenset(("works",))),
    ))  # fmt: skip


def for_program(*, third: bool) -> tuple[CrewDuty, ...]:
    """The duties on a switching program. ``third``: a third person confirms its checks."""
    moves, apart = program_life.MOVES, program_life.DUTIES_APART

    def duty(name: str, act: str, *more: str, skill: str = "") -> CrewDuty:
        never = frozenset(_PROGRAM_PART[part] for part in apart.get(act, ()))
        return CrewDuty(name, moves[act].roles, skill, never | set(more))

    found = [
        duty("writes", "edit"), duty("checks", "check", skill="operate"), duty("releases", "release"),
        duty("directs", "start", "operates", skill="operate"),
        CrewDuty("operates", ("operator",), "operate", frozenset(("directs", "releases"))),
        CrewDuty("leads", permit_life.MOVES["accept"].roles, "", frozenset(("releases",))),
    ]  # fmt: skip
    if third:
        everybody = permit_life.MOVES["suspend"].roles
        found.append(CrewDuty("looks", everybody, "operate", frozenset(("directs", "operates"))))
    return _both_ways(found)


def _both_ways(duties: Sequence[CrewDuty]) -> tuple[CrewDuty, ...]:
    """What is apart from another, that is apart from it."""
    return tuple(replace(d, apart=d.apart | {other.name for other in duties if d.name in other.apart}) for d in duties)


def crew(duties: Sequence[CrewDuty], people: Sequence[Able]) -> Mapping[str, int] | None:
    """Who takes which duty, with as few people as possible; None where it cannot be done.

    Tried out, the duty with the fewest people first. Of people who may do the same no more are tried than could ever be
    needed: one more than the most duties that any duty is apart from.
    """
    few = _few_alike(duties, people)
    if next(_crews(duties, few, limit=0), None) is None:
        return None
    return (
        {} if not duties else next(found for limit in range(1, len(duties) + 1) for found in _crews(duties, few, limit))
    )


def _few_alike(duties: Sequence[CrewDuty], people: Sequence[Able]) -> list[Able]:
    most = 1 + max((len(d.apart) for d in duties), default=0)
    alike: dict[tuple[bool, ...], list[Able]] = {}
    for one in people:
        alike.setdefault(tuple(one.fills(d) for d in duties), []).append(one)
    return [one for fills, same in alike.items() if any(fills) for one in same[:most]]


def _crews(duties: Sequence[CrewDuty], people: Sequence[Able], limit: int) -> Iterator[dict[str, int]]:
    """``limit``: at most so many people, 0 for any number."""
    may = {d.name: [p.id for p in people if p.fills(d)] for d in duties}
    order = sorted(duties, key=lambda d: len(may[d.name]))

    def put(at: int, taken: dict[str, int]) -> Iterator[dict[str, int]]:
        if at == len(order):
            yield dict(taken)
            return
        duty = order[at]
        for person in may[duty.name]:
            if any(taken.get(other) == person for other in duty.apart):
                continue
            if limit and len({*taken.values(), person}) > limit:
                continue
            taken[duty.name] = person
            yield from put(at + 1, taken)
            del taken[duty.name]

    yield from put(0, {})


def gaps(duties: Sequence[CrewDuty], people: Sequence[Able]) -> tuple[str, ...]:
    """Duties that nobody is left for: those nobody may take, and the fewest others that, left out, let the rest be
    filled. Empty where a crew can be put together."""
    alone = [d for d in duties if not any(p.fills(d) for p in people)]
    rest = [d for d in duties if d not in alone]
    for left_out in chain.from_iterable(combinations(rest, n) for n in range(len(rest) + 1)):
        if crew([d for d in rest if d not in left_out], people) is not None:
            return tuple(d.name for d in duties if d in alone or d in left_out)
    raise AssertionError("nobody has nothing to do")


def could_fill(duty: CrewDuty, people: Sequence[Able]) -> tuple[tuple[int, str], ...]:
    """Who lacks one thing alone for a duty: (person, "role") with the skill, or (person, "skill") with the role."""
    found = []
    for p in people:
        if duty.holders is not None and p.id not in duty.holders:
            continue
        role, skill = bool(p.roles & set(duty.roles)), not duty.skill or duty.skill in p.skills
        if role != skill:
            found.append((p.id, "skill" if role else "role"))
    return tuple(found)
