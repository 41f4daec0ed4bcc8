"""Changes to the steps of a program: each gives a new list whose steps state anew what is before and after them.

A change after which some step breaks a rule is refused, and names it; what only the end shows is marked instead, so
that an operation can be added before its check is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from spinel.core.errors import InputError, Refusal
from spinel.core.network.document import Element
from spinel.core.network.field import Field
from spinel.core.said import Sayable, say
from spinel.core.switching import wording
from spinel.core.switching.meanwhile import covered
from spinel.core.switching.order import Order
from spinel.core.switching.rules import Judged, judge
from spinel.core.switching.steps import Step, stamped, take
from spinel.core.texts import REMARK

#: What can be added by hand, and how it is said.
ADDABLE = {
    "opened": say("switching-edit-open-it"),
    "withdrawn": say("switching-edit-withdraw-it"),
    "inserted": say("switching-edit-insert-it"),
    "closed": say("switching-edit-close-it"),
    "checked": say("switching-edit-check-its-position"),
    "locked": say("switching-edit-lock-and-tag-it"),
    "unlocked": say("switching-edit-take-off-lock-and-tag"),
    "stopped": say("switching-edit-stop-it-at-its-control"),
    "blocked": say("switching-edit-block-its-shaft"),
    "unblocked": say("switching-edit-take-the-block-off-its-shaft"),
    "tried": say("switching-edit-try-to-start-it"),
    "notified": say("switching-edit-tell-those-affected-by-it"),
}


def moved(steps: Sequence[Step], at: int, to: int) -> list[Step]:
    """The step at an index brought to another; both count from 0."""
    rest = [s for i, s in enumerate(steps) if i != _there(steps, at)]
    rest.insert(_there(steps, to), steps[at])
    return rest


def removed(steps: Sequence[Step], at: int) -> list[Step]:
    return [s for i, s in enumerate(steps) if i != _there(steps, at)]


def remarked(steps: Sequence[Step], at: int, remark: str) -> list[Step]:
    """A remark on a step, in place of the one before; its own words come from the network and are nobody's to edit."""
    text = REMARK.check(remark)
    return [replace(s, remark=text) if i == _there(steps, at) else s for i, s in enumerate(steps)]


def added(order: Order, before: Field, steps: Sequence[Step], at: int, act: str, e: Element) -> list[Step]:
    """A step put in at an index, worded like a drafted one. ``before``: the field at that point."""
    if act not in ADDABLE:
        raise InputError("act", act, say("one-of", options=tuple(ADDABLE)))
    if not 0 <= at <= len(steps):
        raise InputError("at", at, say("switching-edit-a-place-from-1-to", count=len(steps) + 1))
    position = before.device(e.id).position or "open"
    made = {
        "checked": lambda: wording.check(order, e, position),
        "locked": lambda: wording.lock(order, e, position),
        "unlocked": lambda: wording.unlock(order, e, position),
        "blocked": lambda: wording.block(order, e, "shaft"),
        "unblocked": lambda: wording.unblock(order, e, "shaft"),
        "tried": lambda: wording.try_start(order, e),
        "notified": lambda: wording.notify(order, e),
    }
    step = made[act]() if act in made else wording.operate(order, e, act)
    return [*steps[:at], step, *steps[at:]]


def restated(order: Order, start: Field, steps: Sequence[Step]) -> list[Step]:
    """The steps with the states before and after each as this order of them leaves them."""
    now, found = start, []
    for step in steps:
        following = take(order, now, step)
        step = covered(order, step, now, following)
        found.append(stamped(now, following, step, order.hold))
        now = following
    return found


def accepted(
    order: Order, start: Field, steps: Sequence[Step], done: Sequence[Step] = (), was: Sequence[Step] = ()
) -> tuple[list[Step], Judged]:
    """The steps restated and judged; a Refusal naming rule and step when one breaks a rule that was not broken before.

    ``was``: the steps before the change. What is broken already is mended one change at a time; nobody checks or
    releases it before.
    """
    if not steps:
        raise InputError("steps", "", say("switching-edit-at-least-one-step"))
    new = restated(order, start, steps)
    judged = judge(order, start, new, done)
    known = _broken_already(order, start, was, done)
    for i, broken in enumerate(judged.steps):
        if broken is not None and (new[i].key, broken.rule) not in known:
            raise Refusal(
                broken.rule,
                say("switching-edit-step", i=i + 1, identity=new[i].identity, why=broken.why),
                broken.remedy,
                "steps",
            )
    return new, judged


def _broken_already(
    order: Order, start: Field, was: Sequence[Step], done: Sequence[Step]
) -> set[tuple[tuple[str, ...], Sayable]]:
    judged = judge(order, start, restated(order, start, was), done).steps if was else ()
    return {(step.key, broken.rule) for step, broken in zip(was, judged, strict=False) if broken is not None}


def _there(steps: Sequence[Step], at: int) -> int:
    if not 0 <= at < len(steps):
        raise InputError("step", at + 1, say("switching-edit-a-step-from-1-to", count=len(steps)))
    return at
