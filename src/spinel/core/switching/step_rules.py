"""What each kind of step must keep, tried on the field as the steps before it leave it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from itertools import takewhile

from spinel.core.isolation.able import by_stick
from spinel.core.isolation.absence import Zone, induced_in, needs_ground, required_pairs, zones
from spinel.core.isolation.instruments import kind_for
from spinel.core.isolation.points import MECHANICAL, concerns, target_of
from spinel.core.network.cut import can_isolate, cutting, holds_charge, isolating_positions, region, still_fed
from spinel.core.network.document import Element, Network
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL, Field, Ground
from spinel.core.network.kinds import GROUND_SWITCH, SUPPLIES, SWITCHING
from spinel.core.network.now import SHAFT, DeviceNow, position_words
from spinel.core.network.ways import auxiliary, everything, reach, touching, zone
from spinel.core.quantities import volts
from spinel.core.said import say
from spinel.core.switching import load
from spinel.core.switching.meanwhile import around, duty_at, figures_at
from spinel.core.switching.order import RESTORATION, SWITCHED, Broken, Crew, Crews, Order
from spinel.core.switching.steps import OPENED, PHASING, SHUT, UP, Step, condition

Rule = Callable[[Order, Field, Sequence[Step], Step, Element], Iterator[Broken]]


CEILING = say("step-rules-no-step-above-the-ceiling-or-without")
DUTY = say("step-rules-no-hand-on-a-device-that-fails")
#: Rules by which nobody may be at a device, or move it by hand.
CANNOT_STAND = (CEILING, DUTY)


def standing(order: Order, now: Field, step: Step, element: Element) -> Iterator[Broken]:
    """May a person stand where the step is done, with the equipment live?"""
    elsewhere = step.remote and element.remote and step.kind in ("operate", "check")
    if not step.at_equipment or elsewhere:
        return
    here = figures_at(order, element, *around(order, now, step))
    if here.workable or dead_here(order, now, element):
        return
    if step.value == SHUT and not any(_supplies_left(order, now)):
        # what was opened proved dead is closed while the same locks hold
        return
    if step.stick and step.kind == "test" and by_stick(order.study, element) is not None:
        return
    if here.none_because:
        why = say("step-rules-has-no-figure", tag=element.tag, none_because=here.none_because)
    else:
        why = say(
            "step-rules-has-above-the-ceiling-of-cal",
            tag=element.tag,
            energy_cal_cm2=here.energy_cal_cm2,
            ceiling_cal_cm2=here.ceiling_cal_cm2,
        )
    yield Broken(
        CEILING,
        why,
        say("step-rules-isolate-further-upstream-operate-by-remote-or"),
    )


def dead_here(order: Order, now: Field, e: Element) -> bool:
    """Is every end of it, and all else in the enclosures that it is in, proved dead in this hold? Then there is nothing
    there that could hurt."""
    return all(now.proved(n, order.hold) is not None for n in target_of(order.network, e).all_nodes)


def _no_fault(order: Order, now: Field, e: Element, act: str) -> bool:
    """Can it meet no fault? It is opened with every source cut off from both its ends and locked in this hold, or
    closed with none at either, to be energized by another."""
    if act == "opened":
        return not any(s.kind in SUPPLIES for s, _ in still_fed(order.network, now.devices, e.ends, order.hold))
    ends = (load.side(order.network, now.devices, e, end) for end in e.ends)
    return act == "closed" and not any(side.supplied for side in ends)


def _held(device: DeviceNow, e: Element, act: str) -> Iterator[Broken]:
    """Nothing moves under a lock or tag, nothing starts under a block, whoever hung it."""
    if device.locks or device.tags:
        whose = ", ".join(dict.fromkeys((*device.locks, *device.tags)))
        yield Broken(
            say("step-rules-nothing-moves-under-a-lock-or-tag"),
            say("step-rules-is-held-by", tag=e.tag, whose=whose),
            say("step-rules-its-owner-takes-it-off-first"),
        )
    if act == "started" and device.blocked:
        yield Broken(
            say("step-rules-nothing-starts-under-a-block"),
            say("step-rules-its-shaft-is-blocked-for", tag=e.tag, holds=device.holding(SHAFT)),
            say("step-rules-its-owner-takes-it-off-first"),
        )


def _operate(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    act, device, network = step.acts[0], now.device(e.id), order.network
    if step.acts[1:]:
        yield Broken(
            say("step-rules-one-operation-a-step"),
            say("step-rules-a-step-operates-once"),
            say("step-rules-make-a-step-of-each-operation"),
        )
    yield from _held(device, e, act)
    yield from _others_behind(order, now, {*e.ends}, e)
    if order.purpose == RESTORATION and act not in ("started", "stopped") and not _own(order, done, device, e):
        yield Broken(
            say("step-rules-a-restoration-undoes-what-its-own-hold-did"),
            say("step-rules-was-not-operated-by-this-hold", tag=e.tag, hold=order.hold),
            say("step-rules-leave-it-as-it-is"),
        )
    if step.remote and not e.remote:
        yield Broken(
            say("step-rules-remote-only-where-it-is"),
            say("step-rules-has-no-remote-operation", tag=e.tag),
            say("step-rules-operate-it-by-hand-standing-aside"),
        )
    duty = duty_at(order, e, *around(order, now, step))
    safe = (
        bool(e.operated_by) or (step.remote and e.remote) or dead_here(order, now, e) or _no_fault(order, now, e, act)
    )
    if duty is not None and not duty.adequate and not safe:
        yield Broken(
            DUTY,
            say("step-rules-duty", tag=e.tag, reason=duty.reason),
            say("step-rules-operate-it-by-remote-or-isolate-upstream"),
        )
    if device.tripped and act in ("closed", "inserted", "started"):
        yield Broken(
            say("step-rules-what-tripped-stays-open-until-its-cause-is-known"),
            say("step-rules-was-found-tripped", tag=e.tag),
            say("step-rules-inspect-it-and-record-the-cause"),
        )
    if act in ("started", "stopped"):
        return
    if e.kind not in SWITCHING:
        yield Broken(
            say("step-rules-only-a-switching-device-is-operated"),
            say("step-rules-does-not-open-or-close", tag=e.tag),
            say("step-rules-choose-the-device"),
        )
    if act in ("withdrawn", "inserted"):
        yield from _racked(e, act, device.position, device.checked)
    elif act == "opened":
        if not e.load_break and load.opens_under_load(network, now, e):
            yield Broken(
                say("step-rules-nothing-breaks-or-makes-load-that-is"),
                say("step-rules-would-be-opened-under-load", tag=e.tag),
                say("step-rules-open-a-device-that-breaks-load-first"),
            )
    else:
        yield from _phased(order, done)
        yield from _close(order, now, step, e)


def _own(order: Order, done: Sequence[Step], device: DeviceNow, e: Element) -> bool:
    """Did the hold operate it, or one that is over and had to leave it to this one, which locked it?"""
    unlocked = any(s.element_id == e.id and "unlocked" in s.acts for s in done)
    return device.moved_by == order.hold or (unlocked and device.moved_by in order.crews.over)


def _others_behind(order: Order, now: Field, nodes: set[str], e: Element) -> Iterator[Broken]:
    """Nothing moves in an island that another hold has proved or in which people of another hold are."""
    theirs = crew_behind(order.hold, order.crews, now, nodes)
    if theirs is not None:
        code = "step-rules-locks-of-on-the-box-of" if theirs.names else "step-rules-proved-dead-for"
        yield Broken(
            say("step-rules-nothing-moves-where-another-crew-is-behind-its-locks"),
            say(code, tag=e.tag, hold=theirs.hold, **({"names": theirs.names} if theirs.names else {})),
            say("step-rules-their-person-in-charge-gives-it-back-first"),
        )


def crew_behind(hold: str, crews: Crews, now: Field, nodes: Collection[str]) -> Crew | None:
    """The other hold whose island has one of the nodes, first with people on its box, then by its proof alone."""
    proved = (Crew(p.hold, p.around, ()) for p in now.proofs if p.hold not in crews.given_back)
    near = (c for c in (*crews.working, *proved) if c.hold != hold and not c.nodes.isdisjoint(nodes))
    return next(near, None)


def _racked(e: Element, act: str, position: str | None, checked: bool) -> Iterator[Broken]:
    if not e.withdrawable:
        yield Broken(
            say("step-rules-only-what-withdraws-is-withdrawn"),
            say("step-rules-cannot-be-withdrawn", tag=e.tag),
            say("step-rules-open-it-instead"),
        )
    expected = "open" if act == "withdrawn" else "withdrawn"
    if position != expected or not checked:
        yield Broken(
            say("step-rules-nothing-moves-in-or-out-of-its"),
            say("step-rules-is-not-known-to-be", tag=e.tag, expected=position_words(expected)),
            say("step-rules-have-it-and-checked-first", expected=position_words(expected)),
        )


def _close(order: Order, now: Field, step: Step, e: Element) -> Iterator[Broken]:
    network, position = order.network, step.value or "closed"
    device = now.device(e.id)
    if e.kind != "transfer_switch" and (not device.known or device.position != "open"):
        yield Broken(
            say("step-rules-only-what-is-known-to-be-open"),
            say("step-rules-is", tag=e.tag, condition=condition(now, step, order.hold)),
            say("step-rules-check-that-it-is-open-first"),
        )
    node = load.closes_onto_ground(network, now, e, position)
    if node is not None:
        yield Broken(
            say("step-rules-never-close-onto-a-ground"),
            say("step-rules-a-ground-hangs-at-which-would-join", node=node, tag=e.tag),
            say("step-rules-take-it-off-first"),
        )
    joined = load.joins_sources(network, now, e, position)
    if joined is not None:
        yield Broken(
            say("step-rules-two-sources-are-joined-only-where-declared"),
            say("step-rules-would-join-and", tag=e.tag, joined=joined[0], joined_2=joined[1]),
            say("step-rules-open-one-of-them-first-or-declare"),
        )
    if not e.load_break and load.closes_under_load(network, now, e, position):
        yield Broken(
            say("step-rules-nothing-breaks-or-makes-load-that-is"),
            say("step-rules-would-be-closed-under-load", tag=e.tag),
            say("step-rules-close-it-while-one-side-is-dead"),
        )
    # where nobody worked a transfer switch may: it is made to close onto what is dead
    general = order.purpose == SWITCHED
    nodes = () if general and e.kind == "transfer_switch" else network.node if general else order.target.nodes
    if not e.fault_make and load.energizes(network, now, e, position, nodes):
        yield Broken(
            say("step-rules-first-energized-by-a-device-that-makes"),
            say("step-rules-would-bring-voltage-to-what-is-dead", tag=e.tag)
            if general
            else say("step-rules-would-bring-voltage-to-where-people-worked", tag=e.tag),
            say("step-rules-close-it-dead-energize-by-a-device"),
        )


def _phased(order: Order, done: Sequence[Step]) -> Iterator[Broken]:
    """After work on what may be joined otherwise than it was, somebody looks before the first closing."""
    worked = order.purpose == RESTORATION and order.target.element.row.phased and order.says_phasing
    if worked and not any(s.value == PHASING for s in done):
        yield Broken(
            say("step-rules-phasing-is-checked-before-it-is-closed"),
            say("step-rules-nobody-checked-the-phasing-of", tag=order.target.element.tag),
            say("step-rules-check-marks-phasing-and-rotation"),
        )


def _lock(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    device = now.device(e.id)
    if e.kind == GROUND_SWITCH:
        yield from _lock_on_ground(order, now, step, e)
        return
    if "locked" in step.acts or "tagged" in step.acts:
        if not can_isolate(e):
            yield Broken(
                say("step-rules-only-what-isolates-is-locked"),
                say("step-rules-cannot-isolate-or-cannot-take-a-lock", tag=e.tag),
                say("step-rules-isolate-upstream-a-tag-alone-never-isolates"),
            )
        if device.position not in isolating_positions(e) or not device.looked_at:
            yield Broken(
                say("step-rules-a-lock-goes-on-a-checked-device"),
                say(
                    "step-rules-is-not-checked",
                    tag=e.tag,
                    positions=tuple(position_words(p) for p in isolating_positions(e)),
                ),
                say("step-rules-operate-it-look-that-it-moved-and"),
            )
        return
    yield from _undone(order, now)
    yield from _open_still(order, done)
    if order.personal_locks:
        yield _personal(order)
    if order.hold not in device.locks and "unlocked" in step.acts:
        yield Broken(
            say("step-rules-a-lock-is-removed-by-whoever-hung"),
            say("step-rules-no-lock-of-hangs-on", hold=order.hold, tag=e.tag),
            say("step-rules-leave-it"),
        )


def _lock_on_ground(order: Order, now: Field, step: Step, e: Element) -> Iterator[Broken]:
    """A ground switch is locked closed once it was looked at, and unlocked while the isolation locks still hold."""
    device = now.device(e.id)
    if {"locked", "tagged"} & {*step.acts}:
        if not device.looked_at or device.position != "closed":
            yield Broken(
                say("step-rules-a-lock-goes-on-a-checked-device"),
                say("step-rules-is-not-checked", tag=e.tag, positions=(position_words("closed"),)),
                say("step-rules-operate-it-look-that-it-moved-and"),
            )
        return
    if order.personal_locks:
        yield _personal(order)
    yield from _supplies_left(order, now)
    if order.hold not in device.locks and "unlocked" in step.acts:
        yield _not_own(order, e)


def _undone(order: Order, now: Field) -> Iterator[Broken]:
    """Isolation locks stay until the grounds and blocks behind them are off."""
    ground = next((g for g in now.grounds if g.hold == order.hold), None)
    if ground is not None:
        yield Broken(
            say("step-rules-no-isolation-lock-comes-off-before-the"),
            say("step-rules-the-ground-at-still-hangs", node_id=ground.node_id),
            say("step-rules-take-the-grounds-off-first-while-the"),
        )
    behind = {s.id for s in _behind(order)}
    for element_id, device in now.devices.items():
        if element_id in behind and device.blocked_for(order.hold):
            tag = order.network.element[element_id].tag
            yield Broken(
                say("step-rules-blocks-come-off-while-the-isolation-locks"),
                say("step-rules-is-still-blocked", tag=tag),
                say("step-rules-unblock-it-first"),
            )


def _open_still(order: Order, done: Sequence[Step]) -> Iterator[Broken]:
    """Looked at once more and closed, after the last ground or block came off."""
    undone = max((i for i, s in enumerate(done) if {"unblocked", "ungrounded"} & {*s.acts}), default=-1)
    if order.says_access and not any(s.kind == "access" and s.value == SHUT for s in done[undone + 1 :]):
        yield Broken(
            say("step-rules-closed-before-the-locks-come-off"),
            say("step-rules-nobody-looked-once-more-and-closed", tag=order.target.element.tag),
            say("step-rules-look-and-close-it-after-the-grounds"),
        )


def _reached_in(order: Order, done: Sequence[Step], step: Step) -> Iterator[Broken]:
    """Nothing inside before others are kept out and the door is opened, by somebody in the clothing for it."""
    if order.says_access and not step.stick and not any(s.kind == "access" and s.value == OPENED for s in done):
        yield Broken(
            say("step-rules-opened-before-anything-inside"),
            say("step-rules-no-step-opens-it", tag=order.target.element.tag),
            say("step-rules-barricade-then-open-it-from-the-side"),
        )


def _access(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if step.value != OPENED:
        return
    # with doors closed: all that the practice does before charge is bled
    yield from _before(order, now, "bleed")
    if not any(s.kind == "barricade" and s.value == UP for s in done):
        yield Broken(
            say("step-rules-others-are-kept-out-first"),
            say("step-rules-no-barricade-stands-around-it", tag=e.tag),
            say("step-rules-set-the-barricade"),
        )


def _behind(order: Order) -> list[Element]:
    return list(touching(order.network, reach(order.network, order.target.nodes, everything)).values())


def _personal(order: Order) -> Broken:
    return Broken(
        say("step-rules-personal-locks-come-off-first"),
        say("step-rules-still-on-the-box", personal_locks=tuple(order.personal_locks)),
        say("step-rules-each-takes-off-their-own-lock-for"),
    )


def _not_own(order: Order, e: Element) -> Broken:
    return Broken(
        say("step-rules-a-hold-takes-off-only-its-own"),
        say("step-rules-nothing-of-hangs-there", hold=order.hold, tag=e.tag),
        say("step-rules-leave-it"),
    )


def _supplies_left(order: Order, now: Field) -> Iterator[Broken]:
    """Sources, not motors or charge, that still reach the target through anything that is not cut."""
    for s in order.target.supplies:
        if s.isolator is None:
            yield Broken(
                say("step-rules-isolated-before"),
                say("step-rules-nothing-isolates-from", name=s.supply.name, source=s.supply.source),
                say("step-rules-find-what-does"),
            )
    for e, way in still_fed(order.network, now.devices, order.target.all_nodes, order.hold):
        if e.kind in SUPPLIES:
            through = ", ".join(w.tag for w in way if w.id != e.id) or say("step-rules-nothing-between")
            yield Broken(
                say("step-rules-isolated-every-way-from-every-source-is"),
                say("step-rules-still-reaches-the-target-by-way-of", tag=e.tag, through=through),
                say("step-rules-open-check-lock-and-tag-a-device"),
            )


def _block(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if "unblocked" in step.acts:
        if order.personal_locks:
            yield _personal(order)
        what, device = step.value or SHAFT, now.device(e.id)
        if what not in device.blocked_for(order.hold):
            yield _not_own(order, e)
        if device.holding(what) == (order.hold,):
            yield from _others_behind(order, now, {*e.ends}, e)
        return
    yield from _before(order, now, "hold")
    device = now.device(e.id)
    # a report, or what was seen under an earlier program, is no look at it now; another's block holds it still
    stopped = device.running is False and any("stopped" in s.acts and s.element_id == e.id for s in done)
    turns = order.says_access and "blocked" in step.acts and e.kind == "motor" and not device.blocked
    if turns and not stopped:
        yield Broken(
            say("step-rules-a-shaft-is-blocked-once-it-stands-still"),
            say("step-rules-nobody-saw-stand-still", tag=e.tag),
            say("step-rules-stop-it-at-its-control"),
        )
    if step.value == "spring" and e.kind in SWITCHING and not (device.looked_at and device.position in CANNOT_MOVE):
        yield Broken(
            say("step-rules-the-spring-of-an-open-device-only"),
            say("step-rules-is-not-known-to-be", tag=e.tag, expected=position_words("open")),
            say("step-rules-open-it-and-have-it-checked-first"),
        )


#: Positions in which letting a spring go moves nothing that carries current.
CANNOT_MOVE = ("open", "withdrawn")


def _try(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from _before(order, now, "try")


def waits_for_proof(order: Order, now: Field, e: Element, what: str) -> bool:
    """The spring of a device that operates by remote, at which nobody may stand before it is proved dead: it is let go
    after that, before anybody is handed anything."""
    return what == "spring" and e.kind in SWITCHING and e.remote and not figures_at(order, e, now).workable


def springs_left(order: Order, now: Field) -> Iterator[Broken]:
    """Those that nobody let go after the proof."""
    for e in _behind_own_locks(order, now):
        held = "spring" in e.stored_energy and concerns(order.target, e) and e.kind in SWITCHING
        if held and (order.hold, e.id, "spring") not in now.released:
            yield Broken(
                say("step-rules-mechanical-energy-is-blocked-before-handover"),
                say("step-rules-holds-energy", tag=e.tag, what=say("energy-spring")),
                say("step-rules-block-or-release-it"),
            )


def _mechanical(order: Order, now: Field) -> Iterator[Broken]:
    inside = _behind_own_locks(order, now)
    for e in inside:
        if e.kind == "motor" and SHAFT not in now.device(e.id).blocked_for(order.hold):
            yield Broken(
                say("step-rules-mechanical-energy-is-blocked-before-proof"),
                say("step-rules-the-shaft-of-can-turn-and-generate", tag=e.tag),
                say("step-rules-block-it"),
            )
    for e in inside:
        for what in e.stored_energy if concerns(order.target, e) else ():
            kept = what in MECHANICAL and what not in now.device(e.id).blocked_for(order.hold)
            if kept and (order.hold, e.id, what) not in now.released and not waits_for_proof(order, now, e, what):
                yield Broken(
                    say("step-rules-mechanical-energy-is-blocked-before-proof"),
                    say("step-rules-holds-energy", tag=e.tag, what=say(f"energy-{what}")),
                    say("step-rules-block-or-release-it"),
                )


def _inside(network: Network, nodes: frozenset[str]) -> list[Element]:
    """Elements whose every end lies in the nodes."""
    found = {e.id: e for n in nodes if n in network.at_node for e in network.at_node[n]}
    return [e for e in found.values() if all(end in nodes for end in e.ends)]


def _behind_own_locks(order: Order, now: Field) -> list[Element]:
    """Everything in the region that the hold's own points leave to the target."""
    return _inside(order.network, region(order.network, now.devices, order.target.all_nodes, order.hold))


STARTS = ("motor", "generator")


def startable(order: Order, now: Field) -> list[Element]:
    """What is tried after lockout: every machine in the region that can start."""
    return [e for e in _behind_own_locks(order, now) if e.kind in STARTS]


def _untried(order: Order, now: Field) -> Iterator[Broken]:
    for e in startable(order, now):
        if (order.hold, e.id) not in now.tried:
            yield Broken(
                say("step-rules-the-start-is-tried-before-proof"),
                say("step-rules-nobody-tried-to-start", tag=e.tag),
                say("step-rules-try-to-start-it-with-the-doors"),
            )


def _discharge(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from _before(order, now, "bleed")
    yield from _reached_in(order, done, step)
    if (order.hold, e.id) not in now.residual:
        yield Broken(
            say("step-rules-two-residual-readings-before-bleeding"),
            say("step-rules-nobody-read-whether-the-voltage-of-falls", tag=e.tag),
            say("step-rules-wait-read-twice-falling-is-residual-charge"),
        )


def _test(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if step.value == INSTRUMENT_BEFORE:
        return
    yield from _before(order, now, "bleed" if step.value == RESIDUAL else "proof")
    if step.value != RESIDUAL:
        yield from _untagged(order, now)
    if step.value != INSTRUMENT_AFTER:
        yield from _reached_in(order, done, step)
    proved = any(s.value == INSTRUMENT_BEFORE and s.instrument == step.instrument for s in done)
    # what another program of the hold proved, and did not end, is no check of the instrument in hand
    if not proved or (order.hold, step.instrument) not in now.testing:
        yield Broken(
            say("step-rules-the-instrument-is-proved-before-and-after"),
            say("step-rules-the-instrument-was-not-proved-on-a"),
            say("step-rules-prove-it-on-a-known-source-before"),
        )
    if step.value == INSTRUMENT_AFTER:
        return
    yield from _right_instrument(order, step)
    if step.value == RESIDUAL:
        return
    nodes = zone(order.network, now.devices, step.node_id)
    lacking = [p for p in required_pairs(order.network, sorted(nodes), order.study.profile) if p not in step.pairs]
    if lacking:
        yield Broken(
            say("step-rules-every-pair-is-tested"),
            say("step-rules-not-tested", lackings=tuple(lacking)),
            say("step-rules-test-every-pair-of-conductors"),
        )


def _right_instrument(order: Order, step: Step) -> Iterator[Broken]:
    """Each voltage is tested with the kind of instrument that is made for it."""
    supply = auxiliary(order.network, step.node_id)
    node = order.network.node.get(step.node_id)
    at = supply.supply if supply else None
    voltage_v = at.voltage_v if at else node.nominal_voltage_v if node else 0.0
    current = at.current if at else node.current if node else "ac"
    wanted = kind_for(voltage_v, current, order.study.profile)
    if step.instrument != wanted:
        yield Broken(
            say("step-rules-each-voltage-by-an-instrument-made-for-it"),
            say("step-rules-is-tested-with", at=volts(voltage_v, current), kind=say(f"instrument-{wanted}")),
            say("switching-rules-draft-it-anew"),
        )


def _charged(order: Order, now: Field) -> Iterator[Broken]:
    for e in _behind_own_locks(order, now):
        if holds_charge(e) and not now.device(e.id).discharged:
            yield Broken(
                say("step-rules-stored-energy-is-released-before-proof"),
                say("step-rules-may-still-be-charged", tag=e.tag),
                say("step-rules-wait-its-discharge-time-read-twice-bleed"),
            )


def _untagged(order: Order, now: Field) -> Iterator[Broken]:
    for e in cutting(order.network, now.devices, order.target.all_nodes, order.hold):
        if order.hold not in now.device(e.id).tags:
            yield Broken(
                say("step-rules-every-lock-has-its-tag"),
                say("step-rules-carries-no-tag-of", tag=e.tag, hold=order.hold),
                say("step-rules-tag-it"),
            )


#: What each part of making safe leaves undone.
_LEFT: Mapping[str, Callable[[Order, Field], Iterator[Broken]]] = {
    "hold": _mechanical,
    "try": _untried,
    "bleed": _charged,
}


def _before(order: Order, now: Field, part: str) -> Iterator[Broken]:
    """What must be done before a part: every source cut, and what the practice places before it; before proof, all."""
    yield from _supplies_left(order, now)
    for earlier in takewhile(lambda p: p != part, order.study.profile.made_safe):
        yield from _LEFT[earlier](order, now)


def _ground(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if "ungrounded" in step.acts:
        if order.personal_locks:
            yield _personal(order)
        yield from _supplies_left(order, now)
        hung = [g.hold for g in now.grounds if g.node_id == step.node_id]
        if order.hold not in hung:
            yield _not_own(order, e)
        if hung == [order.hold]:
            if e.kind == GROUND_SWITCH:
                # with the last one it moves
                yield from _held(now.device(e.id), e, "ungrounded")
            yield from _others_behind(order, now, {step.node_id}, e)
        return
    yield from _reached_in(order, done, step)
    if not now.may_be_grounded(step.node_id, order.hold):
        yield Broken(
            say("step-rules-never-ground-what-is-not-proved-dead"),
            say("step-rules-there-is-no-proof-in-force-at", node_id=step.node_id),
            say("step-rules-prove-absence-of-voltage-there-first"),
        )


def _handover(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from springs_left(order, now)
    yield from unproved(order, now)


def unproved(order: Order, now: Field) -> Iterator[Broken]:
    """What a handover lacks: isolation, a proof in every zone of the target, the required grounds."""
    yield from _supplies_left(order, now)
    for z in zones(order.network, now, order.target, order.study.profile):
        if any(now.proved(n, order.hold) is None for n in z.nodes):
            yield Broken(
                say("step-rules-no-handover-without-proof"),
                say("step-rules-at-is-not-proved-dead", tag=z.at.tag, point=z.point),
                say("step-rules-test-it-instrument-check-included"),
            )
        elif _must_ground(order, now, z) and (ground := now.grounded(z.nodes, order.hold)) is not None:
            yield from _locked_closed(order, now, ground)
            yield from _tested_grounded(order, now, z)
        elif _must_ground(order, now, z):
            yield Broken(
                say("step-rules-no-handover-without-the-required-ground"),
                say("step-rules-at-is-not-grounded", tag=z.at.tag, point=z.point),
                say("step-rules-ground-it-above-the-limit-of-the"),
            )


def _tested_grounded(order: Order, now: Field, z: Zone) -> Iterator[Broken]:
    """What a parallel line may induce is gone only once it is grounded: absence is tested again then."""
    nodes = region(order.network, now.devices, order.target.all_nodes, order.hold)
    asked = order.tests_grounded and induced_in(order.network, nodes)
    proofs = [now.proved(n, order.hold) for n in z.nodes]
    if asked and not all(p is not None and p.grounded for p in proofs):
        yield Broken(
            say("step-rules-what-is-induced-is-tested-again-once-grounded"),
            say("step-rules-nobody-tested-it-grounded", tag=z.at.tag, point=z.point),
            say("step-rules-test-it-instrument-check-included"),
        )


def _locked_closed(order: Order, now: Field, ground: Ground) -> Iterator[Broken]:
    """A ground switch that grounds is looked at and locked, like any device that people rely on."""
    e, device = order.network.element.get(ground.element_id), now.device(ground.element_id)
    if e is None or e.kind != GROUND_SWITCH or not order.says_phasing:
        return
    if not device.looked_at or order.hold not in device.locks:
        yield Broken(
            say("step-rules-a-ground-switch-is-checked-and-locked-closed"),
            say("step-rules-nobody-locked-it-closed", tag=e.tag),
            say("step-rules-check-it-and-lock-it-closed"),
        )


def _must_ground(order: Order, now: Field, z: Zone) -> bool:
    nodes = region(order.network, now.devices, order.target.all_nodes, order.hold)
    return needs_ground(order.network, nodes, z, order.study.profile.grounds_above_v)


def _nothing(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from ()


RULES: Mapping[str, Rule] = {
    "notify": _nothing,
    "operate": _operate,
    "check": _nothing,
    "lock": _lock,
    "block": _block,
    "discharge": _discharge,
    "try": _try,
    "test": _test,
    "ground": _ground,
    "inspect": _nothing,
    "barricade": _nothing,
    "access": _access,
    "handover": _handover,
}
