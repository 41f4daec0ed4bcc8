"""The rules of switching: the same when drafting, saving, checking, releasing and confirming.

They judge steps against network, start state, target and profile, never against the draft. Each refusal names its
rule, why, and what would make it acceptable. What each kind of step must keep is in step_rules.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL, Field, apply
from spinel.core.switching.order import ISOLATION, RESTORATION, Broken, Order
from spinel.core.switching.step_rules import RULES, standing
from spinel.core.switching.steps import KINDS, REACHED, Step, condition, events, missing_fields


@dataclass(frozen=True)
class Judged:
    """Verdict on each step, the field before the first and after each, and what the whole program lacks."""

    steps: tuple[Broken | None, ...]
    fields: tuple[Field, ...]
    whole: tuple[Broken, ...]

    @property
    def safe(self) -> bool:
        return not self.whole and all(b is None for b in self.steps)

    @property
    def first(self) -> Broken | None:
        return next((b for b in self.steps if b is not None), self.whole[0] if self.whole else None)


def judge(order: Order, start: Field, steps: Sequence[Step], done: Sequence[Step] = ()) -> Judged:
    """Every step tried on the state that the steps before it leave; then the program as a whole.

    ``done``: steps of the same program that led to the start.
    """
    now, so_far = start, list(done)
    verdicts: list[Broken | None] = []
    fields = [start]
    for step in steps:
        verdicts.append(judge_step(order, now, so_far, step))
        now = take(order, now, step)
        fields.append(now)
        so_far.append(step)
    return Judged(tuple(verdicts), tuple(fields), tuple(_whole(order, now, so_far)))


def first_broken(order: Order, now: Field, done: Sequence[Step], steps: Sequence[Step]) -> Broken | None:
    """The first rule that the steps break, going on from the field after the steps done; None when all are safe."""
    so_far = list(done)
    for step in steps:
        broken = judge_step(order, now, so_far, step)
        if broken is not None:
            return broken
        now = take(order, now, step)
        so_far.append(step)
    return next(_whole(order, now, so_far), None)


def take(order: Order, now: Field, step: Step) -> Field:
    """The field once the step is done, all readings good."""
    if step.element_id not in order.network.element:
        return now
    for event in events(step, order.hold):
        now = apply(order.network, now, event)
    return now


def judge_step(order: Order, now: Field, done: Sequence[Step], step: Step) -> Broken | None:
    """The first rule that the step breaks as things stand after the steps done, or None."""
    return next(_broken(order, now, done, step), None)


def _broken(order: Order, now: Field, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    yield from _well_formed(order, step)
    yield from _in_order(order, done, step)
    element = order.network.element[step.element_id]
    yield from RULES[step.kind](order, now, done, step, element)
    yield from standing(order, now, step, element)
    is_now = condition(now, step, order.hold)
    if step.before != is_now:
        yield Broken(
            "the state before a step is the state expected", f"{step.identity} is {is_now}; the step expects "
            f"{step.before}.", "Draft the step anew from the state as it is.",
        )  # fmt: skip


def _well_formed(order: Order, step: Step) -> Iterator[Broken]:
    lacking = missing_fields(step)
    if lacking or step.element_id not in order.network.element or step.kind not in KINDS:
        what = ", ".join(lacking).replace("_", " ") or "its equipment"
        yield Broken("every step is stated in full", f"Missing: {what}.", "Fill it in; nothing is left to be known.")
    elif not set(step.acts) <= set(KINDS[step.kind]) or (KINDS[step.kind] and not step.acts):
        yield Broken(
            "every step is stated in full", f"A {step.kind} step records nothing of the kind.", "Draft it anew."
        )


_PHASES = {
    ISOLATION: (
        "people are told", "devices are operated, checked, locked and tagged",
        "mechanical energy is blocked or released",
        "the start is tried", "residual voltage is read and bled", "the instrument is proved",
        "absence of voltage is tested", "the instrument is proved again", "grounds are applied", "it is handed over",
    ),
    RESTORATION: (
        "people are told", "the place is inspected", "blocks and grounds come off", "locks come off",
        "devices are closed and checked", "automatic modes are set",
    ),
}  # fmt: skip


def phase(order_purpose: str, step: Step) -> int:
    """Where in the settled order a step belongs."""
    if order_purpose == RESTORATION:
        if step.kind in ("operate", "check"):
            return 5 if step.value == "automatic" else 4
        return {"notify": 0, "inspect": 1, "block": 2, "ground": 2, "lock": 3}.get(step.kind, 4)
    if step.kind == "test":
        return {RESIDUAL: 4, INSTRUMENT_BEFORE: 5, PROOF: 6, INSTRUMENT_AFTER: 7}[step.value]
    return {"notify": 0, "block": 2, "try": 3, "discharge": 4, "ground": 8, "handover": 9}.get(step.kind, 1)


def _in_order(order: Order, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    """Tell people first, and nothing of an earlier part of the settled order once a later part has begun."""
    mine, words = phase(order.purpose, step), _PHASES[order.purpose]
    if step.kind != "notify" and not any(s.kind == "notify" for s in done):
        yield Broken("people are told first", "Nobody affected was told.", "Put the step that tells them first.")
    latest = max((phase(order.purpose, s) for s in done), default=0)
    if latest > mine:
        yield Broken(
            "the settled order",
            f"Here {words[mine]} after {words[latest]}.",
            f"First {words[mine]}, then {words[latest]}.",
        )
    if order.purpose == RESTORATION and mine > 1 and not any(s.kind == "inspect" for s in done):
        yield Broken(
            "inspected before anything is undone", "Nobody looked that tools are out and covers on.",
            "Inspect before blocks, grounds and locks come off.",
        )  # fmt: skip


def _whole(order: Order, now: Field, steps: Sequence[Step]) -> Iterator[Broken]:
    """What only the end shows."""
    for step in steps:
        device = now.device(step.element_id)
        if step.kind == "operate" and step.acts[0] in REACHED and not device.checked:
            yield Broken(
                "no operation without its check", f"{step.identity} is operated and never checked.", "Check it."
            )
    if order.purpose == ISOLATION:
        if not steps or steps[-1].kind != "handover":
            yield Broken("an isolation ends with its handover", "Nobody is handed it.", "End with the handover.")
        return
    yield from differences(order, now)


def differences(order: Order, now: Field) -> Iterator[Broken]:
    """Where the end differs from the field at drafting; what another hold keeps is not this program's to move."""
    rule = "the end is the state at drafting"
    for element_id in dict.fromkeys((*now.devices, *order.origin.devices)):
        e, ends, was = order.network.element.get(element_id), now.device(element_id), order.origin.device(element_id)
        if e is None:
            continue
        if order.hold in ends.locks or order.hold in ends.tags:
            yield Broken(rule, f"A lock or tag of {order.hold} is left on {e.tag}.", "Take it off.")
        if any(h != order.hold for h in (*ends.locks, *ends.tags)):
            continue
        if ends.position != was.position and was.known:
            yield Broken(rule, f"{e.tag} ends {ends.position or 'unknown'}; it was {was.position}.", "Bring it back.")
        if ends.blocks != was.blocks:
            yield Broken(rule, f"{e.tag} ends {'blocked' if ends.blocks else 'unblocked'}.", "Bring it back.")
        if ends.running != was.running:
            yield Broken(rule, f"{e.tag} does not end running or stopped as it was.", "Bring it back.")
    for ground in now.grounds:
        if ground.hold == order.hold:
            yield Broken(rule, f"A ground is left at {ground.node_id}.", "Take it off.")
