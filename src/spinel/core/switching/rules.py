"""The rules of switching: the same when drafting, saving, checking, releasing and confirming.

They judge steps against network, start state, target and profile, never against the draft. Each refusal names its
rule, why, and what would make it acceptable. What each kind of step must keep is in step_rules.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain

from spinel.core.isolation.able import exceeds, figures
from spinel.core.network.document import Element
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, RESIDUAL, Field, as_recorded
from spinel.core.network.kinds import GROUND_SWITCH, SWITCHING
from spinel.core.network.losing import fed, lost, told
from spinel.core.network.now import position_words
from spinel.core.said import Sayable, say
from spinel.core.switching.goal import reached
from spinel.core.switching.meanwhile import around, figures_at
from spinel.core.switching.order import ISOLATION, RESTORATION, SWITCHED, Broken, Order
from spinel.core.switching.step_rules import RULES, standing
from spinel.core.switching.steps import (
    ASKED_OF_OTHERS,
    DOWN,
    KINDS,
    LIVE,
    OPENED,
    PHASING,
    REACHED,
    UP,
    Step,
    condition,
    missing_fields,
    take,
)
from spinel.core.switching.wording import place_of, spoken_voltage

#: The rule that a step breaks when its equipment is called, placed or fed otherwise than when it was drafted.
SAYS_WHAT_THE_NETWORK_SAYS = say("switching-rules-a-step-says-what-the-network-says")

#: The rule that a step breaks when more can come to who does it than it says.
FIGURES_COVER = say("switching-rules-figures-cover-the-state-a-step-is-done-in")


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


def judge_step(order: Order, now: Field, done: Sequence[Step], step: Step) -> Broken | None:
    """The first rule that the step breaks as things stand after the steps done, or None."""
    return next(_broken(order, now, done, step), None)


def judge_operation(order: Order, now: Field, step: Step) -> Broken | None:
    """The first rule that one operation outside a program breaks, or None: those of moving and of standing there."""
    e = order.network.element[step.element_id]
    return next(chain(RULES["operate"](order, now, (), step, e), standing(order, now, step, e)), None)


def _broken(order: Order, now: Field, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    yield from _well_formed(order, step)
    yield from _in_order(order, done, step)
    yield from _told_by_name(order, now, done, step)
    element = order.network.element[step.element_id]
    yield from RULES[step.kind](order, now, done, step, element)
    yield from standing(order, now, step, element)
    yield from _covered(order, now, step, element)
    is_now = condition(now, step, order.hold)
    if step.before != is_now and not _before_version_6(step, is_now):
        yield Broken(
            say("switching-rules-the-state-before-a-step-is-the"),
            say("switching-rules-is-the-step-expects", identity=step.identity, is_now=is_now, before=step.before),
            say("switching-rules-draft-the-step-anew-from-the-state"),
        )


def _covered(order: Order, now: Field, step: Step, e: Element) -> Iterator[Broken]:
    """What it says of energy and boundary holds in the states around it, whoever brought them about."""
    if step.figures is None or not step.at_equipment or step.stick or (step.remote and e.remote):
        return
    there = figures_at(order, e, *around(order, now, step))
    if there is not figures(order.study, e) and exceeds(there, step.figures):
        yield Broken(
            FIGURES_COVER,
            say("switching-rules-fed-otherwise-by-then", identity=step.identity, energy_cal_cm2=there.energy_cal_cm2)
            if there.energy_cal_cm2
            else say("switching-rules-no-figure-by-then", identity=step.identity),
            say("switching-rules-draft-it-anew"),
        )


def _before_version_6(step: Step, is_now: Sayable) -> bool:
    """Programs drafted before 0.6 expect a device that was just closed as "closed" where it is checked."""
    closed = position_words("closed")
    unchecked = say("switching-steps-not-checked", position=closed)
    return step.kind == "check" and step.before == closed and is_now == unchecked


def _well_formed(order: Order, step: Step) -> Iterator[Broken]:
    lacking = missing_fields(step)
    if lacking or step.element_id not in order.network.element or step.kind not in KINDS:
        what = ", ".join(lacking).replace("_", " ") or say("switching-rules-its-equipment")
        yield Broken(
            say("switching-rules-every-step-is-stated-in-full"),
            say("switching-rules-missing", what=what),
            say("switching-rules-fill-it-in-nothing-is-left-to"),
        )
    elif not set(step.acts) <= set(KINDS[step.kind]) or (KINDS[step.kind] and not step.acts):
        yield Broken(
            say("switching-rules-every-step-is-stated-in-full"),
            say("switching-rules-a-step-records-nothing-of-the-kind", kind=step.kind),
            say("switching-rules-draft-it-anew"),
        )
    else:
        yield from _as_in_the_network(order, step)


def _as_in_the_network(order: Order, step: Step) -> Iterator[Broken]:
    """What is read out names the element that the step is about, as the network has it now."""
    e = order.network.element[step.element_id]
    if isinstance(step.voltage, str):
        # before 0.4 every word of a step was a text: nothing tells what was typed from what was drafted
        yield Broken(
            SAYS_WHAT_THE_NETWORK_SAYS,
            say("switching-rules-drafted-before-words-were-codes", identity=step.identity),
            say("switching-rules-draft-it-anew"),
        )
        return
    for said, known in (
        (step.identity, e.tag),
        (step.location, place_of(order, e)),
        (step.equipment_type, e.kind_name),
        (step.voltage, spoken_voltage(order, step)),
    ):
        if said != known:
            yield Broken(
                SAYS_WHAT_THE_NETWORK_SAYS,
                say("switching-rules-the-step-says-the-network", identity=step.identity, says=said, known=known),
                say("switching-rules-draft-it-anew"),
            )
    if isinstance(step.action, str) or isinstance(step.stand, str):
        yield Broken(
            SAYS_WHAT_THE_NETWORK_SAYS,
            say("switching-rules-its-words-were-typed", identity=step.identity),
            say("switching-rules-draft-it-anew"),
        )
    if step.others != (e.operated_by if step.kind in ASKED_OF_OTHERS else ""):
        yield Broken(
            SAYS_WHAT_THE_NETWORK_SAYS,
            say("switching-rules-others-move-it", identity=step.identity, others=e.operated_by or "none"),
            say("switching-rules-draft-it-anew"),
        )
    if step.node_id and not _touches(order, e, step.node_id):
        yield Broken(
            SAYS_WHAT_THE_NETWORK_SAYS,
            say("switching-rules-its-point-is-elsewhere", identity=step.identity, node_id=step.node_id),
            say("switching-rules-draft-it-anew"),
        )


def _touches(order: Order, e: Element, node_id: str) -> bool:
    """Can a test or a ground at a point be made at the terminals of the element, or in the enclosure that is opened?"""
    if node_id.startswith("aux:"):
        return any(s.id == node_id for s in order.target.supplies)
    node = order.network.node.get(node_id)
    boxes = {order.network.node[end].enclosure for end in e.ends} - {None}
    return node is not None and (node_id in e.ends or node.enclosure in boxes or node_id in order.target.nodes)


#: Parts of an isolation around those whose order is the practice's, and of a restoration.
_FIRST, _LAST = ("tell", "cut"), ("instrument", "prove", "again", "ground", "handover")
_MOVED = ("tell", "move", "told")
_RESTORED = ("tell", "inspect", "undo", "shut", "unlock", "close", "automatic", "free", "told")
_PART_WORDS = {
    "tell": say("switching-rules-people-are-told"),
    "cut": say("switching-rules-devices-are-operated-checked-locked-and-tagged"),
    "hold": say("switching-rules-mechanical-energy-is-blocked-or-released"),
    "try": say("switching-rules-the-start-is-tried"),
    "bleed": say("switching-rules-residual-voltage-is-read-and-bled"),
    "instrument": say("switching-rules-the-instrument-is-proved"),
    "prove": say("switching-rules-absence-of-voltage-is-tested"),
    "again": say("switching-rules-the-instrument-is-proved-again"),
    "ground": say("switching-rules-grounds-are-applied"),
    "handover": say("switching-rules-it-is-handed-over"),
    "inspect": say("switching-rules-the-place-is-inspected"),
    "undo": say("switching-rules-blocks-and-grounds-come-off"),
    "shut": say("switching-rules-covers-are-closed"),
    "unlock": say("switching-rules-locks-come-off"),
    "close": say("switching-rules-devices-are-closed-and-checked"),
    "automatic": say("switching-rules-automatic-modes-are-set"),
    "move": say("switching-rules-devices-are-operated-and-checked"),
    "free": say("switching-rules-the-barricade-comes-down"),
    "told": say("switching-rules-people-are-told-that-it-is-live"),
}
_TESTS = {RESIDUAL: "bleed", INSTRUMENT_BEFORE: "instrument", PROOF: "prove", INSTRUMENT_AFTER: "again"}
_ISOLATING = {
    "notify": "tell", "block": "hold", "try": "try", "discharge": "bleed", "ground": "ground", "handover": "handover",
}  # fmt: skip
_RESTORING = {
    "notify": "tell", "inspect": "inspect", "block": "undo", "ground": "undo", "access": "shut", "lock": "unlock",
    "barricade": "free",
}  # fmt: skip


def parts(order: Order) -> tuple[str, ...]:
    """The settled order of a program, part by part."""
    if order.purpose == SWITCHED:
        return _MOVED
    return _RESTORED if order.purpose == RESTORATION else (*_FIRST, *order.study.profile.made_safe, *_LAST)


def part_of(order: Order, step: Step) -> str:
    """The part that a step belongs to."""
    if order.purpose in (RESTORATION, SWITCHED) and step.value == LIVE:
        return "told"
    if order.purpose == SWITCHED:
        return "tell" if step.kind == "notify" else "move"
    on_ground = step.kind == "lock" and _is_ground_switch(order, step)
    if on_ground:
        return "undo" if order.purpose == RESTORATION else "ground"
    if order.purpose == RESTORATION:
        closes = "automatic" if step.kind in ("operate", "check") and step.value == "automatic" else "close"
        return _RESTORING.get(step.kind, closes)
    return _TESTS[step.value] if step.kind == "test" else _ISOLATING.get(step.kind, "cut")


def _is_ground_switch(order: Order, step: Step) -> bool:
    e = order.network.element.get(step.element_id)
    return e is not None and e.kind == GROUND_SWITCH


def _again(done: Collection[object], step: Step) -> bool:
    """Never refused for the order: checking a device, and telling, inspecting, testing or locking once more. ``done``:
    the keys of the steps before it."""
    if step.kind == "check" or _anywhere(step):
        return True
    repeats = step.kind in ("notify", "inspect", "test") or "locked" in step.acts
    return repeats and step.key in done


def _first_times(done: Sequence[Step]) -> Iterator[Step]:
    """The steps that were no repeats of one before."""
    keys = set[object]()
    for step in done:
        if not _again(keys, step):
            yield step
        keys.add(step.key)


def _let_go_after_proof(order: Order, done: Sequence[Step], step: Step) -> bool:
    """The spring of a device at which nobody may stand before: the rule on where people may be keeps it from coming
    earlier, the one on handing over from being left out."""
    spring = "released" in step.acts and step.value == "spring"
    proved = any(s.value == INSTRUMENT_AFTER for s in done)
    return spring and proved and order.network.element[step.element_id].kind in SWITCHING


def _anywhere(step: Step) -> bool:
    """Bound by what it needs and what needs it, not by a part: the instrument is proved before whatever it reads, what
    keeps others out stands before anything is opened."""
    return step.value == INSTRUMENT_BEFORE or (step.kind, step.value) in (("barricade", UP), ("access", OPENED))


def _in_order(order: Order, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    """Tell people first, and nothing of an earlier part of the settled order once a later part has begun."""
    if step.kind not in ("notify", "check") and not any(s.kind == "notify" and s.value != LIVE for s in done):
        yield Broken(
            say("switching-rules-people-are-told-first"),
            say("switching-rules-nobody-affected-was-told"),
            say("switching-rules-put-the-step-that-tells-them-first"),
        )
    if order.purpose == SWITCHED and step.kind not in _SWITCHES:
        yield Broken(
            say("switching-rules-a-switching-moves-and-checks"),
            say("switching-rules-this-step-does-something-else", identity=step.identity),
            say("switching-rules-an-isolation-does-it"),
        )
    if _again({s.key for s in done}, step) or _let_go_after_proof(order, done, step):
        return
    settled = parts(order)
    place = {part: i for i, part in enumerate(settled)}
    mine = place[part_of(order, step)]
    latest = max([place[part] for part in {part_of(order, s) for s in _first_times(done)}], default=0)
    if latest > mine:
        here, after = _PART_WORDS[settled[mine]], _PART_WORDS[settled[latest]]
        yield Broken(
            say("switching-rules-the-settled-order"),
            say("switching-rules-here-after", mine=here, latest=after),
            say("switching-rules-first-then", mine=here, latest=after),
        )
    if order.purpose == RESTORATION and mine > 1 and not any(_looks(s) for s in done):
        yield Broken(
            say("switching-rules-inspected-before-anything-is-undone"),
            say("switching-rules-nobody-looked-that-tools-are-out-and"),
            say("switching-rules-inspect-before-blocks-grounds-and-locks-come"),
        )


#: Kinds of step in a switching from one state to another.
_SWITCHES = ("notify", "inspect", "operate", "check")


def _told_by_name(order: Order, now: Field, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    """Whoever is recorded for what an operation leaves without supply was told by name, and a watch is asked for.
    Nobody waits for the look at it: supply is lost with the operation."""
    if step.kind != "operate" or order.purpose == RESTORATION or not order.tells_by_name:
        return
    network = order.network
    was, then = (fed(network, as_recorded(f).devices) for f in (now, take(order, now, step)))
    dark = lost(network, was, then)
    # what gets its supply back may start by itself
    live = lost(network, then, was) if order.purpose == SWITCHED else []
    said = [s for s in done if s.kind == "notify"]
    names = [name for name in told([*dark, *live]) if not any(name in s.names for s in said)]
    critical = [e.tag for e in dark if e.critical and not any(e.tag in s.critical for s in said)]
    tags = tuple(e.tag for e in [*dark, *live])
    if names or critical:
        yield Broken(
            say("switching-rules-people-are-told-first"),
            say("switching-rules-loses-supply-and-is-not-told", identity=step.identity, whom=tuple(names), tags=tags)
            if names
            else say(
                "switching-rules-loses-supply-and-is-not-watched",
                identity=step.identity,
                whom=tuple(critical),
                tags=tags,
            ),
            say("switching-rules-draft-it-anew"),
        )


def _looks(step: Step) -> bool:
    """Does it look at the place? At phasing alone it does not."""
    return step.kind == "inspect" and step.value != PHASING


def _whole(order: Order, now: Field, steps: Sequence[Step]) -> Iterator[Broken]:
    """What only the end shows."""
    for step in steps:
        device = now.device(step.element_id)
        if step.kind == "operate" and step.acts[0] in REACHED and not device.checked:
            yield Broken(
                say("switching-rules-no-operation-without-its-check"),
                say("switching-rules-is-operated-and-never-checked", identity=step.identity),
                say("switching-rules-check-it"),
            )
    if order.purpose == ISOLATION:
        if not steps or steps[-1].kind != "handover":
            yield Broken(
                say("switching-rules-an-isolation-ends-with-its-handover"),
                say("switching-rules-nobody-is-handed-it"),
                say("switching-rules-end-with-the-handover"),
            )
        return
    if order.purpose == SWITCHED:
        yield from _said_at_the_end(steps)
        yield from reached(order, now)
        return
    if order.says_access:
        yield from _free_and_told(steps)
    yield from differences(order, now)


def _free_and_told(steps: Sequence[Step]) -> Iterator[Broken]:
    """A restoration ends with the barricade down, and with people told that it is live."""
    if not any(s.kind == "barricade" and s.value == DOWN for s in steps):
        yield Broken(
            say("switching-rules-the-barricade-comes-down"),
            say("switching-rules-the-barricade-is-left"),
            say("switching-rules-take-it-down"),
        )
    yield from _said_at_the_end(steps)


def _said_at_the_end(steps: Sequence[Step]) -> Iterator[Broken]:
    if not any(s.kind == "notify" and s.value == LIVE for s in steps):
        yield Broken(
            say("switching-rules-people-are-told-that-it-is-live"),
            say("switching-rules-nobody-is-told-at-the-end"),
            say("switching-rules-end-with-telling-them"),
        )


def differences(order: Order, now: Field) -> Iterator[Broken]:
    """What the hold did and its restoration leaves undone; what another keeps, or found, is not its to move."""
    rule = say("switching-rules-the-end-is-the-state-at-drafting")
    for element_id in dict.fromkeys((*now.devices, *order.origin.devices)):
        e, ends = order.network.element.get(element_id), now.device(element_id)
        if e is None:
            continue
        if order.hold in ends.locks or order.hold in ends.tags:
            yield Broken(
                rule,
                say("switching-rules-a-lock-or-tag-of-is-left", hold=order.hold, tag=e.tag),
                say("switching-rules-take-it-off"),
            )
        if any(h != order.hold for h in (*ends.locks, *ends.tags)):
            continue
        if ends.moved_by == order.hold and ends.was is not None and ends.position != ends.was:
            yield Broken(
                rule,
                say(
                    "switching-rules-ends-it-was",
                    tag=e.tag,
                    position=position_words(ends.position),
                    was=position_words(ends.was),
                ),
                say("switching-rules-bring-it-back"),
            )
        if ends.blocked_for(order.hold):
            yield Broken(
                rule,
                say("switching-rules-ends", tag=e.tag, what=say("switching-rules-blocked")),
                say("switching-rules-bring-it-back"),
            )
        # a machine is started again by those who run it, not by a restoration
        if e.kind != "motor" and ends.run_by == order.hold and ends.running != order.origin.device(element_id).running:
            yield Broken(
                rule,
                say("switching-rules-does-not-end-running-or-stopped-as", tag=e.tag),
                say("switching-rules-bring-it-back"),
            )
    for ground in now.grounds:
        if ground.hold == order.hold:
            yield Broken(
                rule,
                say("switching-rules-a-ground-is-left-at", node_id=ground.node_id),
                say("switching-rules-take-it-off"),
            )
