"""Drafts a switching from the state as it is to another one: routine, a transfer of supply, closing again after a trip.

Of all orders in which the moves keep the rules, the one is taken that leaves least without supply, and for the fewest
operations: sources are joined first where they may be, else one is cut before the other comes.
"""

from __future__ import annotations

import heapq
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import count

from spinel.core.errors import InputError, Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.able import strong
from spinel.core.isolation.points import target_of
from spinel.core.network.document import Element
from spinel.core.network.field import Field, as_recorded, once_seen
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.losing import coming_back, fed, lost
from spinel.core.said import say
from spinel.core.switching import load, wording
from spinel.core.switching.draft import Writer
from spinel.core.switching.goal import choices, stands, wanted_of
from spinel.core.switching.order import NOBODY_ELSE, SWITCHED, Broken, Crews, Order
from spinel.core.switching.rules import Judged, judge, judge_operation
from spinel.core.switching.step_rules import standing
from spinel.core.switching.steps import Step, condition, take

#: More moves than this at once are several switchings: nobody overlooks them, and the best order takes too long.
MOST_MOVES = 12
_MOST_STATES = 200


@dataclass(frozen=True)
class Off:
    """What is without supply on the way: from which step on, and at which it has one again (both count from 1); None:
    it stays off."""

    element: Element
    from_step: int
    until_step: int | None


@dataclass(frozen=True)
class Switched:
    """Steps that keep every rule, and what they leave without supply."""

    order: Order
    steps: tuple[Step, ...]
    judged: Judged
    off: tuple[Off, ...]


@dataclass(frozen=True)
class _Move:
    """One operation of an element. ``value``: a throw of a transfer switch."""

    act: str
    value: str = ""


def draft_switching(
    study: Study,
    now: Field,
    element: Element,
    hold: str,
    goal: Mapping[str, str],
    origin: Field | None = None,
    crews: Crews = NOBODY_ELSE,
) -> Switched:
    """The steps to a goal (position wanted by element id), or a Refusal: the rule that every order of them breaks.

    InputError for what cannot be asked. ``element``: what it is about. ``origin``: the field at the first drafting.
    """
    _can_be_asked(study, goal)
    order = Order(
        purpose=SWITCHED, hold=hold, target=target_of(study.network, element), study=study, origin=origin or now,
        crews=crews, goal=dict(goal),
    )  # fmt: skip
    looked = _looked_at(order, now)
    sequences = _sequences(order, looked)
    if not sequences and looked == now:
        raise InputError("goal", "", say("switching-between-at-least-one-that-stands-otherwise"))
    path = _best(order, looked, sequences)
    if path is None:
        path = _best(order, looked, sequences | _helped(order, looked, sequences))
    if path is None:
        raise _why_not(order, looked, sequences).refusal("goal")
    return _written(order, now, path)


def _can_be_asked(study: Study, goal: Mapping[str, str]) -> None:
    if not goal:
        raise InputError("goal", "", say("switching-between-at-least-one"))
    if len(goal) > MOST_MOVES:
        raise InputError("goal", len(goal), say("switching-between-at-most", most=MOST_MOVES))
    for element_id, wanted in goal.items():
        if wanted not in choices(study.network.get(element_id)):
            raise InputError("goal", wanted, say("switching-between-a-position-that-it-has"))


def _looked_at(order: Order, now: Field) -> Field:
    """The field once what was moved and not checked has been looked at; a position that nobody knows is not assumed."""
    for e, _ in wanted_of(order):
        if e.kind in SWITCHING and now.device(e.id).position is None:
            raise Refusal(
                say("switching-between-from-a-known-state"),
                say("switching-between-nobody-knows", tag=e.tag),
                say("switching-between-look-at-it-first"),
                "goal",
            )
        if e.kind in SWITCHING and not now.device(e.id).known_or_automatic:
            now = once_seen(order.network, now, e.id)
    return now


_TO_OPEN = {"closed": (_Move("opened"),), "withdrawn": (_Move("inserted"),), "open": ()}
_FROM_OPEN = {"closed": (_Move("closed"),), "withdrawn": (_Move("withdrawn"),), "open": ()}


def _moves(e: Element, is_now: str | None, wanted: str) -> tuple[_Move, ...]:
    """What brings it from one position to another; empty where it is there."""
    if is_now == wanted:
        return ()
    if e.kind not in SWITCHING:
        return (_Move("started" if wanted == "running" else "stopped"),)
    if e.kind == "transfer_switch":
        last = _Move("opened" if wanted == "off" else "closed", wanted)
        # to automatic only from one of its sides
        return (_Move("closed", "normal"), last) if wanted == "automatic" and is_now == "off" else (last,)
    return (*_TO_OPEN[is_now or "open"], *_FROM_OPEN[wanted])


Sequences = dict[str, tuple[_Move, ...]]


def _sequences(order: Order, now: Field) -> Sequences:
    found = {e.id: _moves(e, stands(now, e), wanted) for e, wanted in wanted_of(order)}
    return {i: moves for i, moves in found.items() if moves}


def _helped(order: Order, now: Field, sequences: Sequences) -> Sequences:
    """What is opened before, and closed again after, a device that can neither break load nor make onto a fault."""
    found: Sequences = {}
    for element_id in sequences:
        e = order.network.get(element_id)
        if e.kind not in SWITCHING or strong(e):
            continue
        for one in e.ends:
            near = load.companions(order.study, now, e, frozenset(n for n in e.ends if n != one))
            for c in near or ():
                if c.id not in order.goal and now.device(c.id).position == "closed":
                    found[c.id] = (_Move("opened"), _Move("closed"))
    return found


@dataclass(frozen=True)
class _Path:
    """Moves in their order, and the field after each."""

    moves: tuple[tuple[Element, _Move], ...]
    fields: tuple[Field, ...]


def _best(order: Order, start: Field, sequences: Sequences) -> _Path | None:
    """The way through all moves that keeps every rule and leaves least off that is on again in the end, for the fewest
    operations; more so where it is critical. None when there is none.

    Cheapest first, and of equally cheap ones the furthest; a move is judged only when its turn comes, since that is
    what takes time.
    """
    network, was = order.network, fed(order.network, start.devices)
    ids = tuple(sequences)
    done = tuple(len(sequences[i]) for i in ids)
    stays_off = {e.id for e in lost(network, was, fed(network, _end(order, start, sequences).devices))}
    ties = count()
    queue: list[_Turn] = [(0.0, 0, next(ties), (0,) * len(ids), _Path((), (start,)), None)]
    settled: set[tuple[int, ...]] = set()
    while queue and len(settled) <= _MOST_STATES:
        cost, depth, _, at, path, last = heapq.heappop(queue)
        if at in settled or (last is not None and _broken(order, path.fields[-2], *last) is not None):
            continue
        settled.add(at)
        if at == done:
            return path
        for i, element_id in enumerate(ids):
            if at[i] == done[i]:
                continue
            e, move = network.get(element_id), sequences[element_id][at[i]]
            then = _moved(order, path.fields[-1], e, move)
            following = (*at[:i], at[i] + 1, *at[i + 1 :])
            onward = _Path((*path.moves, (e, move)), (*path.fields, then))
            off = [x for x in lost(network, was, fed(network, then.devices)) if x.id not in stays_off]
            weight = sum(10 if x.critical else 1 for x in off) + _early(move, sum(done) - sum(at) - 1)
            heapq.heappush(queue, (cost + weight, depth - 1, next(ties), following, onward, (e, move)))
    return None


#: Cost, how far (less is further), a tie, where each sequence stands, the way there, the move that led there.
_Turn = tuple[float, int, int, tuple[int, ...], _Path, tuple[Element, _Move] | None]


def _early(move: _Move, left: int) -> float:
    """Automatic modes come last, and machines stop last: a little dearer for each move that is left after them."""
    return 1e-3 * left if move.value == "automatic" or move.act == "stopped" else 0.0


def _end(order: Order, start: Field, sequences: Sequences) -> Field:
    """The field once everything has moved, whatever the rules say of the way."""
    now = start
    for element_id, moves in sequences.items():
        for move in moves:
            now = _moved(order, now, order.network.get(element_id), move)
    return now


def _step(order: Order, now: Field, e: Element, move: _Move) -> Step:
    step = wording.operate(order, e, move.act, move.value)
    return replace(step, before=condition(now, step, order.hold))


def _broken(order: Order, now: Field, e: Element, move: _Move) -> Broken | None:
    """The rule that operating it, or looking at it afterwards, would break."""
    broken = judge_operation(order, now, _step(order, now, e, move))
    if broken is not None or e.kind not in SWITCHING or (e.remote and e.kind != "transfer_switch"):
        return broken
    then = take(order, now, _step(order, now, e, move))
    return next(standing(order, then, wording.check(order, e, then.device(e.id).position or "open"), e), None)


def _moved(order: Order, now: Field, e: Element, move: _Move) -> Field:
    """The field once it is moved and checked."""
    then = take(order, now, _step(order, now, e, move))
    return once_seen(order.network, then, e.id) if e.kind in SWITCHING else then


def _why_not(order: Order, now: Field, sequences: Sequences) -> Broken:
    """The rule in the way: of the first move that no order allows, as things stand."""
    for element_id, moves in sequences.items():
        broken = _broken(order, now, order.network.get(element_id), moves[0])
        if broken is not None:
            return broken
    return Broken(
        say("switching-between-an-order-that-keeps-every-rule"),
        say("switching-between-no-order-of-these-moves-does"),
        say("switching-between-ask-for-less-at-once"),
    )


def _written(order: Order, now: Field, path: _Path) -> Switched:
    was = fed(order.network, now.devices)
    affected = [e for f in path.fields for e in lost(order.network, was, fed(order.network, f.devices))]
    affected += coming_back(order.network, now.devices, path.fields[-1].devices)
    affected = list({e.id: e for e in affected}.values())
    pen = Writer(order, now)
    pen.add(wording.notify(order, affected=affected))
    for e, _ in wanted_of(order):
        device = now.device(e.id)
        if e.kind in SWITCHING and not device.known_or_automatic:
            pen.look(e, device.position or "open")
    for e, move in path.moves:
        pen.add(wording.operate(order, e, move.act, move.value))
        if e.kind in SWITCHING:
            pen.look(e, pen.now.device(e.id).position or "open")
    pen.add(wording.notify(order, affected=affected, is_live=True))
    judged = judge(order, now, pen.steps)
    if judged.first is not None:
        raise judged.first.refusal("goal")
    return Switched(order, tuple(pen.steps), judged, off_on_the_way(order, now, pen.steps))


def off_on_the_way(order: Order, start: Field, steps: Sequence[Step]) -> tuple[Off, ...]:
    """What loses its supply on the way: it does so where a step operates, not only where somebody looks."""
    now, known = start, [fed(order.network, as_recorded(start).devices)]
    for step in steps:
        now = take(order, now, step)
        known.append(fed(order.network, as_recorded(now).devices))
    dark = [{e.id: e for e in lost(order.network, known[0], k)} for k in known]
    found = []
    for element_id in dict.fromkeys(i for d in dark for i in d):
        off = [n for n, d in enumerate(dark) if element_id in d]
        found.append(Off(dark[off[0]][element_id], off[0], None if off[-1] == len(dark) - 1 else off[-1] + 1))
    return tuple(found)
