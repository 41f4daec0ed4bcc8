"""Drafts the isolation of a piece of equipment from the network and the state as it is, each step in full.

The draft is a proposal: the rules judge it like any other program. What is already done under the same hold is not
done again, so a successor drafted after a stop goes on from the state as it is.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.able import by_stick, figures, isolated_position, not_fit, passed_over, strong
from spinel.core.isolation.absence import Zone, induced_in, needs_ground, zones
from spinel.core.isolation.points import Isolation, isolation, target_of
from spinel.core.network.document import Element
from spinel.core.network.field import INSTRUMENT_BEFORE, Field
from spinel.core.network.kinds import GROUND_SWITCH, SWITCHING
from spinel.core.network.losing import by_themselves, without_supply
from spinel.core.network.now import SHAFT, DeviceNow
from spinel.core.said import Sayable, say
from spinel.core.switching import load, wording
from spinel.core.switching.meanwhile import covered, duty_at, figures_at
from spinel.core.switching.order import ISOLATION, NOBODY_ELSE, Broken, Crews, Order
from spinel.core.switching.rules import Judged, judge
from spinel.core.switching.step_rules import CANNOT_STAND, crew_behind, dead_here, startable, waits_for_proof
from spinel.core.switching.steps import OPENED, UP, Step, stamped, take


@dataclass(frozen=True)
class Draft:
    """Steps that keep every rule, what they isolate, what loses its supply, what a reader should know beside them."""

    order: Order
    isolation: Isolation
    steps: tuple[Step, ...]
    judged: Judged
    dark: tuple[Element, ...]
    notes: tuple[Sayable, ...]


class Writer:
    """Appends steps, keeping the field as they leave it so that each states what is before and after it."""

    def __init__(self, order: Order, start: Field):
        self.order, self.now, self.steps = order, start, list[Step]()

    def add(self, step: Step) -> None:
        following = take(self.order, self.now, step)
        step = covered(self.order, step, self.now, following)
        self.steps.append(stamped(self.now, following, step, self.order.hold))
        self.now = following

    def look(self, e: Element, position: str) -> None:
        """Its position checked: on the spot, or where nobody may stand there and it is no point of isolation, by the
        indication at its remote control."""
        by_remote = e.remote and e.kind != "transfer_switch" and not stands_at(self.order, self.now, e)
        self.add(wording.check(self.order, e, position, by_remote=by_remote))


def stands_at(order: Order, now: Field, e: Element) -> bool:
    """May somebody stand at it, as things are?"""
    return figures_at(order, e, now).workable or dead_here(order, now, e)


def draft_isolation(
    study: Study, now: Field, element: Element, hold: str, origin: Field | None = None, crews: Crews = NOBODY_ELSE,
    left_alone: Mapping[str, Sayable] | None = None,
) -> Draft:  # fmt: skip
    """The isolation of an element, or a Refusal: a source that nothing cuts, named with its way; or a rule.

    ``origin``: the field at the first drafting under this hold, for a successor. ``left_alone``: devices that are not
    to be used, by id, with why.
    """
    order = Order(
        purpose=ISOLATION, hold=hold, target=target_of(study.network, element), study=study, origin=origin or now,
        crews=crews,
    )  # fmt: skip
    unfit: dict[str, Sayable] = dict(left_alone or {})
    while True:
        made = _attempt(order, now, unfit)
        broken = next(((s, b) for s, b in zip(made.steps, made.judged.steps, strict=True) if b is not None), None)
        if made.judged.first is None:
            return made
        if broken is None or broken[1].rule not in CANNOT_STAND or not _unfit(made, broken[0], unfit, broken[1]):
            raise made.judged.first.refusal()


def _unfit(made: Draft, step: Step, unfit: dict[str, Sayable], broken: Broken) -> bool:
    """A point at which, once others are open, nobody may stand: another is looked for, further upstream."""
    point = step.element_id in {p.id for p in made.isolation.points} and step.element_id not in unfit
    if point:
        unfit[step.element_id] = broken.why
    return point


def _attempt(order: Order, now: Field, unfit: dict[str, Sayable]) -> Draft:
    plan, openers = _plan(order, now, unfit)
    pen = Writer(order, now)
    opened = {e.id for e in plan.points} | {e.id for found in openers.values() for e in found}
    dark = without_supply(order.network, now.devices, opened)
    pen.add(wording.notify(order, affected=dark))
    stopped = [e for e in plan.motors if not now.device(e.id).blocked]
    for e in stopped:
        pen.add(wording.operate(order, e, "stopped"))
    for e in _first_opened(order, plan, openers, pen.now):
        _open_and_check(pen, e)
    for e in sorted(plan.points, key=lambda p: (not strong(p), _highest_v(order, p))):
        _isolate(pen, e)
    for e, what in plan.mechanical:
        # the spring of a switching device is let go once it is open, never while it is closed
        if what == "spring" and e.kind in SWITCHING and not _held(pen.now, e):
            _open_and_check(pen, e)
    for part in order.study.profile.made_safe:
        _MADE_SAFE[part](pen, plan)
    _prove(pen, plan)
    for e, what in plan.mechanical:
        if waits_for_proof(order, now, e, what) and (order.hold, e.id, what) not in pen.now.released:
            if not pen.now.device(e.id).looked_at:
                pen.add(wording.check(order, e, pen.now.device(e.id).position or "open"))
            pen.add(wording.release(order, e, what))
    pen.add(wording.handover(order))
    judged = judge(order, now, pen.steps)
    moving = by_themselves(order.network, now.devices, opened)
    return Draft(order, plan, tuple(pen.steps), judged, tuple(dark), _notes(order, plan, now, moving, stopped))


def _highest_v(order: Order, e: Element) -> float:
    """The low side of a transformer is opened before its high side."""
    return max(order.network.node[end].nominal_voltage_v for end in e.ends)


def _plan(order: Order, now: Field, unfit: dict[str, Sayable]) -> tuple[Isolation, dict[str, list[Element]]]:
    """The isolation, and for every point that cannot break load or make onto a fault what is opened before it.

    A point for which there is no such set is not fit, nor one that would have to move where another crew is behind its
    locks: the way is walked further.
    """
    study = order.study
    while True:
        plan = isolation(study, order.target.element, unfit)
        openers: dict[str, list[Element]] = {}
        lacking: dict[str, Sayable] = {}
        for e in plan.points:
            theirs = None if _held(now, e) else crew_behind(order.hold, order.crews, now, e.ends)
            # what stands otherwise than at drafting may have made it worse to be at
            if why := not_fit(e, figures_at(order, e, now), duty_at(order, e, now)):
                lacking[e.id] = why
            elif theirs:
                lacking[e.id] = say("switching-draft-another-crew-is-behind-it", tag=e.tag, hold=theirs.hold)
            elif not strong(e) and not _held(now, e):
                found = load.companions(study, now, e, plan.region)
                if found is None:
                    lacking[e.id] = say("switching-draft-it-cannot-break-load-and-make-onto", tag=e.tag)
                else:
                    openers[e.id] = found
        if not lacking:
            return plan, openers
        unfit |= lacking


def _held(now: Field, e: Element) -> bool:
    """Known to be open already: nothing needs to be opened for it, and it is not closed again."""
    device = now.device(e.id)
    return device.known and device.position in ("open", "withdrawn")


def _first_opened(order: Order, plan: Isolation, openers: dict[str, list[Element]], now: Field) -> Iterator[Element]:
    """Interrupt load: transfer switches out of automatic, then what opens before the points that cannot."""
    network = order.network
    for e in network.elements:
        inside = e.kind == "transfer_switch" and any(end in plan.region for end in e.ends)
        if inside and now.device(e.id).position == "automatic" and e.load_break and not passed_over(order.study, e):
            yield e
    points = {e.id for e in plan.points}
    for found in openers.values():
        for e in found:
            if e.id not in points and not _held(now, e):
                points.add(e.id)
                yield e


def _open_and_check(pen: Writer, e: Element) -> None:
    pen.add(wording.operate(pen.order, e, "opened", "off" if e.kind == "transfer_switch" else ""))
    pen.look(e, "off" if e.kind == "transfer_switch" else "open")


def _isolate(pen: Writer, e: Element) -> None:
    """Operate, check, lock and tag; out of its cell where it can be withdrawn."""
    wanted = isolated_position(e)
    if pen.now.device(e.id).position not in ("open", "withdrawn"):
        pen.add(wording.operate(pen.order, e, "opened"))
    device = pen.now.device(e.id)
    held = device.locks or device.tags
    if device.position == "open" and wanted == "withdrawn" and not held:
        if not device.checked:
            pen.add(wording.check(pen.order, e, "open"))
        pen.add(wording.operate(pen.order, e, "withdrawn"))
    device = pen.now.device(e.id)
    # what others opened is looked at by those who hang their own lock beside it
    if not device.looked_at or device.moved_by not in ("", pen.order.hold) or _others_lock(pen, device):
        pen.add(wording.check(pen.order, e, device.position or "open"))
    if pen.order.hold not in device.locks or pen.order.hold not in device.tags:
        pen.add(wording.lock(pen.order, e, device.position or "open"))


def _others_lock(pen: Writer, device: DeviceNow) -> bool:
    return any(h != pen.order.hold for h in (*device.locks, *device.tags))


def _hold_still(pen: Writer, plan: Isolation) -> None:
    """Block shafts and weights, release springs and pressure."""
    for e in plan.motors:
        _block(pen, e, SHAFT)
    for e, what in plan.mechanical:
        if what == "gravity":
            _block(pen, e, what)
        elif (pen.order.hold, e.id, what) not in pen.now.released and not waits_for_proof(pen.order, pen.now, e, what):
            pen.add(wording.release(pen.order, e, what))


def _block(pen: Writer, e: Element, what: str) -> None:
    """Blocked for this hold; where another's block is on it, it is looked at and tagged, so that it stays."""
    device = pen.now.device(e.id)
    if what not in device.blocked_for(pen.order.hold):
        pen.add(wording.block(pen.order, e, what, device.holding(what)))


def _try(pen: Writer, plan: Isolation) -> None:
    for e in startable(pen.order, pen.now):
        if (pen.order.hold, e.id) not in pen.now.tried:
            pen.add(wording.try_start(pen.order, e))


def _bleed(pen: Writer, plan: Isolation) -> None:
    for e in plan.charged:
        if not pen.now.device(e.id).discharged:
            _reach_in(pen)
            if (pen.order.hold, e.id) not in pen.now.residual:
                read = wording.residual(pen.order, e)
                if not any(s.value == INSTRUMENT_BEFORE and s.instrument == read.instrument for s in pen.steps):
                    pen.add(wording.prove_instrument(pen.order, read.instrument))
                pen.add(read)
            pen.add(wording.discharge(pen.order, e))


def _reach_in(pen: Writer) -> None:
    """Others are kept out and the door or cover is opened, once, before anybody works inside."""
    if any(s.kind == "access" for s in pen.steps):
        return
    pen.add(wording.barricade(pen.order, UP))
    pen.add(wording.access(pen.order, OPENED))


#: What lies between locking and proof, in the order of the practice.
_MADE_SAFE: Mapping[str, Callable[[Writer, Isolation], None]] = {"hold": _hold_still, "try": _try, "bleed": _bleed}


def _prove(pen: Writer, plan: Isolation) -> None:
    """Instrument, every zone on every pair, instrument; then the grounds that are required."""
    network = pen.order.network
    places = [_tested_from(pen, z) for z in zones(network, pen.now, plan.target, pen.order.study.profile)]
    kinds = sorted({z.instrument for z in places})
    tests = [wording.test(pen.order, z) for z in places]
    closed = [t for t in tests if t.stick]
    if closed:
        pen.add(wording.barricade(pen.order, UP))
    else:
        _reach_in(pen)
    for kind in kinds:
        pen.add(wording.prove_instrument(pen.order, kind))
    for test in closed:
        pen.add(test)
    if closed and len(closed) < len(tests):
        pen.add(wording.access(pen.order, OPENED))
    for test in tests:
        if not test.stick:
            pen.add(test)
    for kind in kinds:
        pen.add(wording.prove_instrument(pen.order, kind, again=True))
    if len(closed) == len(tests):
        # proved with everything closed: now it may be opened
        pen.add(wording.access(pen.order, OPENED))
    _ground(pen, plan, places)
    if induced_in(network, plan.region):
        _prove_grounded(pen, kinds, tests)


def _prove_grounded(pen: Writer, kinds: Sequence[str], tests: Sequence[Step]) -> None:
    """What a parallel line induces is gone only once it is grounded: all of it is tested again."""
    for kind in kinds:
        pen.add(wording.prove_instrument(pen.order, kind))
    for test in tests:
        pen.add(test)
    for kind in kinds:
        pen.add(wording.prove_instrument(pen.order, kind, again=True))


def _ground(pen: Writer, plan: Isolation, places: Sequence[Zone]) -> None:
    """The grounds that are required; a ground switch is looked at and locked closed."""
    network = pen.order.network
    for z in places:
        required = needs_ground(network, plan.region, z, pen.order.study.profile.grounds_above_v)
        if required and pen.now.grounded(z.nodes, pen.order.hold) is None:
            others = pen.now.grounded(z.nodes)
            if others is not None:
                at = network.element[others.element_id]
                pen.add(wording.ground(pen.order, at, others.node_id, z, whose=others.hold))
                _lock_closed(pen, at)
                continue
            switch = next((e for e in network.elements if e.kind == GROUND_SWITCH and e.ends[0] in z.nodes), None)
            node = switch.ends[0] if switch else z.point
            pen.add(wording.ground(pen.order, switch or z.at, node, z))
            _lock_closed(pen, switch or z.at)


def _lock_closed(pen: Writer, e: Element) -> None:
    """A ground switch is looked at and locked by whoever relies on it, beside the locks of others."""
    if e.kind == GROUND_SWITCH:
        pen.add(wording.check(pen.order, e, "closed"))
        pen.add(wording.lock(pen.order, e, "closed"))


def _tested_from(pen: Writer, z: Zone) -> Zone:
    """Where nobody may stand before it is proved, at points built in elsewhere in the same zone."""
    if z.point.startswith("aux:") or stands_at(pen.order, pen.now, z.at) or by_stick(pen.order.study, z.at):
        return z
    for e in pen.order.network.elements:
        end = next((n for n in e.ends if n in z.nodes), None)
        if end is not None and e.built_in_tester and by_stick(pen.order.study, e):
            return replace(z, at=e, point=end)
    return z


def _notes(
    order: Order, plan: Isolation, now: Field, moving: Sequence[Element], stopped: Sequence[Element]
) -> tuple[Sayable, ...]:  # fmt: skip
    notes = [say("switching-draft-passed-over", why=why) for why in plan.passed]
    notes += [say("switching-draft-moves-by-itself", tag=e.tag) for e in moving]
    notes += [say("switching-draft-is-stopped-and-not-started-again", tag=e.tag) for e in stopped]
    for e in plan.points:
        others = [h for h in now.device(e.id).locks if h != order.hold]
        if others:
            notes.append(say("switching-draft-is-also-held-by-it-stays-open", tag=e.tag, others=tuple(others)))
    for e in (plan.target.element, *plan.points):
        if figures(order.study, e).energy_cal_cm2 is None and not figures(order.study, e).below:
            notes.append(
                say(
                    "switching-draft-has-no-arc-flash-figure",
                    tag=e.tag,
                    none_because=figures(order.study, e).none_because,
                )
            )
    return tuple(dict.fromkeys(notes))


def refused(study: Study, now: Field, element: Element) -> Refusal | None:
    """Why an element cannot be isolated as things are; None when it can."""
    try:
        draft_isolation(study, now, element, "?")
    except Refusal as why:
        return why
    return None
