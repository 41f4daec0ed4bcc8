"""What each kind of step must keep, tried on the field as the steps before it leave it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence

from spinel.core.isolation.able import can_isolate, figures, isolating_positions
from spinel.core.isolation.absence import Zone, needs_ground, required_pairs, zones
from spinel.core.isolation.points import MECHANICAL, Target, concerns, holding, still_fed
from spinel.core.network.document import Element, Network
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL, Field
from spinel.core.network.kinds import SUPPLIES, SWITCHING
from spinel.core.network.liveness import holds_charge
from spinel.core.network.ways import everything, reach, touching, zone
from spinel.core.quantities import shown_above
from spinel.core.switching import load
from spinel.core.switching.order import Broken, Order
from spinel.core.switching.steps import Step, condition

Rule = Callable[[Order, Field, Sequence[Step], Step, Element], Iterator[Broken]]


def standing(order: Order, now: Field, step: Step, element: Element) -> Iterator[Broken]:
    """May a person stand where the step is done, with the equipment live?"""
    if step.kind in ("notify", "inspect", "handover") or (step.kind == "operate" and step.remote and element.remote):
        return
    here = figures(order.study, element)
    if here.workable:
        return
    if here.none_because:
        why = f"{element.tag} has no figure: {here.none_because}."
    else:
        energy = f"{shown_above(here.energy_cal_cm2 or 0.0, here.ceiling_cal_cm2)} cal/cm²"
        why = f"{element.tag} has {energy}, above the ceiling of {here.ceiling_cal_cm2:g} cal/cm²."
    yield Broken(
        "no step above the ceiling or without a figure",
        why,
        "Isolate further upstream, operate by remote, or have it studied.",
    )


def _operate(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    act, device, network = step.acts[0], now.device(e.id), order.network
    if step.acts[1:]:
        yield Broken("one operation a step", "A step operates once.", "Make a step of each operation.")
    if device.locks or device.tags:
        whose = ", ".join(dict.fromkeys((*device.locks, *device.tags)))
        yield Broken(
            "nothing moves under a lock or tag", f"{e.tag} is held by {whose}.", "Its owner takes it off first."
        )
    if step.remote and not e.remote:
        yield Broken(
            "remote only where it is", f"{e.tag} has no remote operation.", "Operate it by hand, standing aside."
        )
    duty = order.study.duty.get(e.id)
    if duty is not None and not duty.adequate and not (step.remote and e.remote):
        yield Broken(
            "no hand on a device that fails its duty check", f"{e.tag}: {duty.reason}.",
            "Operate it by remote, or isolate upstream of it.",
        )  # fmt: skip
    if act in ("started", "stopped"):
        return
    if e.kind not in SWITCHING:
        yield Broken("only a switching device is operated", f"{e.tag} does not open or close.", "Choose the device.")
    if act in ("withdrawn", "inserted"):
        yield from _racked(e, act, device.position, device.checked)
    elif act == "opened":
        if not e.load_break and load.opens_under_load(network, now, e):
            yield Broken(
                "nothing breaks or makes load that is not built for it", f"{e.tag} would be opened under load.",
                "Open a device that breaks load first, and check it.",
            )  # fmt: skip
    else:
        yield from _close(order, now, step, e)


def _racked(e: Element, act: str, position: str | None, checked: bool) -> Iterator[Broken]:
    if not e.withdrawable:
        yield Broken("only what withdraws is withdrawn", f"{e.tag} cannot be withdrawn.", "Open it instead.")
    expected = "open" if act == "withdrawn" else "withdrawn"
    if position != expected or not checked:
        yield Broken(
            "nothing moves in or out of its place while closed", f"{e.tag} is not known to be {expected}.",
            f"Have it {expected} and checked first.",
        )  # fmt: skip


def _close(order: Order, now: Field, step: Step, e: Element) -> Iterator[Broken]:
    network, position = order.network, step.value or "closed"
    device = now.device(e.id)
    if e.kind != "transfer_switch" and (not device.known or device.position != "open"):
        yield Broken(
            "only what is known to be open is closed", f"{e.tag} is {condition(now, step, order.hold)}.",
            "Check that it is open first.",
        )  # fmt: skip
    node = load.closes_onto_ground(network, now, e, position)
    if node is not None:
        yield Broken(
            "never close onto a ground", f"A ground hangs at {node}, which {e.tag} would join.", "Take it off first."
        )
    joined = load.joins_sources(network, now, e, position)
    if joined is not None:
        yield Broken(
            "two sources are joined only where declared", f"{e.tag} would join {joined[0]} and {joined[1]}.",
            "Open one of them first, or declare in the network that they run in parallel.",
        )  # fmt: skip
    if not e.load_break and load.closes_under_load(network, now, e, position):
        yield Broken(
            "nothing breaks or makes load that is not built for it", f"{e.tag} would be closed under load.",
            "Close it while one side is dead; energize by a device that makes load.",
        )  # fmt: skip
    if not e.fault_make and load.energizes(network, now, e, position, order.target.nodes):
        yield Broken(
            "first energized by a device that makes onto a fault",
            f"{e.tag} would bring voltage to where people worked.",
            "Close it dead; energize by a device that can make onto a fault.",
        )  # fmt: skip


def _lock(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    device = now.device(e.id)
    if "locked" in step.acts or "tagged" in step.acts:
        if not can_isolate(e):
            yield Broken(
                "only what isolates is locked", f"{e.tag} cannot isolate, or cannot take a lock.",
                "Isolate upstream: a tag alone never isolates.",
            )  # fmt: skip
        if device.position not in isolating_positions(e) or not device.checked:
            yield Broken(
                "a lock goes on a checked device only",
                f"{e.tag} is not checked {' or '.join(isolating_positions(e))}.",
                "Operate it, look that it moved and stayed, then lock it.",
            )  # fmt: skip
        return
    yield from _undone(order, now)
    if order.personal_locks:
        yield _personal(order)
    if order.hold not in device.locks and "unlocked" in step.acts:
        yield Broken("a lock is removed by whoever hung it", f"No lock of {order.hold} hangs on {e.tag}.", "Leave it.")


def _undone(order: Order, now: Field) -> Iterator[Broken]:
    """Isolation locks stay until the grounds and blocks behind them are off."""
    ground = next((g for g in now.grounds if g.hold == order.hold), None)
    if ground is not None:
        yield Broken(
            "no isolation lock comes off before the grounds", f"The ground at {ground.node_id} still hangs.",
            "Take the grounds off first, while the isolation locks hold.",
        )  # fmt: skip
    for element_id, device in now.devices.items():
        mine = device.blocks - order.origin.device(element_id).blocks
        if mine and element_id in {s.id for s in _behind(order)}:
            tag = order.network.element[element_id].tag
            yield Broken(
                "blocks come off while the isolation locks hold", f"{tag} is still blocked.", "Unblock it first."
            )


def _behind(order: Order) -> list[Element]:
    return list(touching(order.network, reach(order.network, order.target.nodes, everything)).values())


def _personal(order: Order) -> Broken:
    return Broken(
        "personal locks come off first", f"Still on the box: {', '.join(order.personal_locks)}.",
        "Each takes off their own lock; for somebody absent the recorded procedure.",
    )  # fmt: skip


def _supplies_left(order: Order, now: Field) -> Iterator[Broken]:
    """Sources, not motors or charge, that still reach the target through anything that is not cut."""
    for s in order.target.supplies:
        if s.isolator is None:
            yield Broken(
                "isolated before", f"Nothing isolates {s.supply.name} from {s.supply.source}.", "Find what does."
            )
    for e, way in still_fed(order.network, now, order.target.all_nodes):
        if e.kind in SUPPLIES:
            through = ", ".join(w.tag for w in way if w.id != e.id) or "nothing between"
            yield Broken(
                "isolated: every way from every source is open, checked and locked",
                f"{e.tag} still reaches the target "
                f"by way of {through}.", "Open, check, lock and tag a device that isolates on that way.",
            )  # fmt: skip


def _block(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if "unblocked" in step.acts:
        if order.personal_locks:
            yield _personal(order)
        return
    yield from _supplies_left(order, now)


def _try(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from _supplies_left(order, now)
    yield from _mechanical(order, now)


def _mechanical(order: Order, now: Field) -> Iterator[Broken]:
    nodes, _ = holding(order.network, now, order.target.all_nodes)
    inside = _inside(order.network, nodes)
    for e in inside:
        if e.kind == "motor" and not now.device(e.id).blocked:
            yield Broken(
                "mechanical energy is blocked before proof", f"The shaft of {e.tag} can turn and generate.", "Block it."
            )
    for e in inside:
        for what in e.stored_energy if concerns(order.target, e) else ():
            kept = what in MECHANICAL and what not in now.device(e.id).blocks
            if kept and (order.hold, e.id, what) not in now.released:
                yield Broken(
                    "mechanical energy is blocked before proof",
                    f"{e.tag} holds energy: {what}.",
                    "Block or release it.",
                )


def _inside(network: Network, nodes: frozenset[str]) -> list[Element]:
    """Elements whose every end lies in the nodes."""
    found = {e.id: e for n in nodes if n in network.at_node for e in network.at_node[n]}
    return [e for e in found.values() if all(end in nodes for end in e.ends)]


def startable(network: Network, now: Field, target: Target) -> list[Element]:
    """What is tried after lockout: every motor in the island, else the target itself."""
    nodes, _ = holding(network, now, target.all_nodes)
    motors = [e for e in _inside(network, nodes) if e.kind == "motor"]
    return motors or [target.element]


def _untried(order: Order, now: Field) -> Iterator[Broken]:
    for e in startable(order.network, now, order.target):
        if (order.hold, e.id) not in now.tried:
            yield Broken(
                "the start is tried before proof", f"Nobody tried to start {e.tag}.",
                "Try to start it with the doors closed, then set its control back to off.",
            )  # fmt: skip


def _discharge(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from _supplies_left(order, now)
    yield from _mechanical(order, now)
    yield from _untried(order, now)
    if (order.hold, e.id) not in now.residual:
        yield Broken(
            "two residual readings before bleeding", f"Nobody read whether the voltage of {e.tag} falls.",
            "Wait, read twice: falling is residual charge; steady or rising is a source.",
        )  # fmt: skip


def _test(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from _supplies_left(order, now)
    yield from _mechanical(order, now)
    yield from _untried(order, now)
    if step.value == RESIDUAL:
        return
    yield from _charged(order, now)
    yield from _untagged(order, now)
    if step.value == INSTRUMENT_BEFORE:
        return
    if order.hold not in now.testing:
        yield Broken(
            "the instrument is proved before and after", "The instrument was not proved on a known source.",
            "Prove it on a known source before the test.",
        )  # fmt: skip
    if step.value == INSTRUMENT_AFTER:
        return
    nodes = zone(order.network, now.devices, step.node_id)
    lacking = [p for p in required_pairs(order.network, sorted(nodes)) if p not in step.pairs]
    if lacking:
        yield Broken("every pair is tested", f"Not tested: {', '.join(lacking)}.", "Test every pair of conductors.")


def _charged(order: Order, now: Field) -> Iterator[Broken]:
    nodes, _ = holding(order.network, now, order.target.all_nodes)
    for e in _inside(order.network, nodes):
        if holds_charge(e) and not now.device(e.id).discharged:
            yield Broken(
                "stored energy is released before proof", f"{e.tag} may still be charged.",
                "Wait its discharge time, read twice, bleed it below the limit.",
            )  # fmt: skip


def _untagged(order: Order, now: Field) -> Iterator[Broken]:
    _, around = holding(order.network, now, order.target.all_nodes)
    for e in around:
        if order.hold not in now.device(e.id).tags:
            yield Broken("every lock has its tag", f"{e.tag} carries no tag of {order.hold}.", "Tag it.")


def _ground(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    if "ungrounded" in step.acts:
        if order.personal_locks:
            yield _personal(order)
        yield from _supplies_left(order, now)
        return
    if now.proved(step.node_id) is None:
        yield Broken(
            "never ground what is not proved dead", f"There is no proof in force at {step.node_id}.",
            "Prove absence of voltage there first, instrument check included.",
        )  # fmt: skip


def _handover(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from unproved(order, now)


def unproved(order: Order, now: Field) -> Iterator[Broken]:
    """What a handover lacks: isolation, a proof in every zone of the target, the required grounds."""
    yield from _supplies_left(order, now)
    for z in zones(order.network, now, order.target):
        if now.proved(z.point) is None:
            yield Broken(
                "no handover without proof",
                f"{z.at.tag} at {z.point} is not proved dead.",
                "Test it, instrument check included.",
            )
        elif _must_ground(order, now, z) and now.grounded(z.nodes) is None:
            yield Broken(
                "no handover without the required ground", f"{z.at.tag} at {z.point} is not grounded.",
                "Ground it: above the limit of the profile, or stored or induced energy in the island.",
            )  # fmt: skip


def _must_ground(order: Order, now: Field, z: Zone) -> bool:
    nodes, _ = holding(order.network, now, order.target.all_nodes)
    return needs_ground(order.network, nodes, z, order.study.profile.grounds_above_v)


def _nothing(order: Order, now: Field, done: Sequence[Step], step: Step, e: Element) -> Iterator[Broken]:
    yield from ()


RULES: Mapping[str, Rule] = {
    "notify": _nothing, "operate": _operate, "check": _nothing, "lock": _lock, "block": _block, "discharge": _discharge,
    "try": _try, "test": _test, "ground": _ground, "inspect": _nothing, "handover": _handover,
}  # fmt: skip
