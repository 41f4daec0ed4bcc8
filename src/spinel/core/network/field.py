"""The field as it stands: devices, and what belongs to zones: grounds, proofs of absence of voltage, tests under way.

A fold over field events against the network. A proof exists only once the instrument check afterwards has passed, and
it belongs to its hold. It ends when a lock of its hold or a ground is removed, when any device in or around its region
is operated, when anything is found there, when the document of it has changed since, and for good when its isolation
fails once. Its region is all that the hold's own points do not cut off, so that a device open in series hides nothing.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace

from spinel.core.canonical import digest
from spinel.core.network.cut import region, still_fed
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import GROUND_SWITCH
from spinel.core.network.now import NEVER_SEEN, SHAFT, UNSURE_GROUND, VOLTAGE_PRESENT, DeviceNow, FieldEvent, after
from spinel.core.network.ways import as_stands, auxiliary, island, reach, touching, zone

INSTRUMENT_BEFORE, PROOF, INSTRUMENT_AFTER, RESIDUAL = "instrument_before", "proof", "instrument_after", "residual"
FAILED = "failed"
#: What was tested at a point counts no more: the instrument was not to be trusted.
VOID = "void"
#: Tested, and a steady voltage was read that a parallel line induces: it may be grounded, and is tested again then.
INDUCED = "induced"


@dataclass(frozen=True)
class Ground:
    """A ground at a node. ``sure`` False: somebody says so, the record could not follow; it may or may not hang."""

    node_id: str
    element_id: str
    hold: str
    at: str = ""
    sure: bool = True


@dataclass(frozen=True, kw_only=True)
class Proof:
    """Absence of voltage at the nodes of a zone, tested at ``point`` on every pair named. ``around``: its region.
    ``grounded``: a ground of the hold hung there when it was tested. ``grounding_only``: an induced voltage was read:
    it proves nothing, and may be grounded.
    """

    point: str
    nodes: frozenset[str]
    around: frozenset[str]
    pairs: tuple[str, ...]
    hold: str
    at: str = ""
    by: str = ""
    grounded: bool = False
    grounding_only: bool = False
    #: kind of instrument that it was made with
    instrument: str = ""


@dataclass(frozen=True, kw_only=True)
class Field:
    """``testing``: holds with the kind of instrument that was proved, and what was tested with it since.
    ``tried``, ``released``: by hold.

    ``voltage``: nodes where a test found voltage that the record does not explain, until a proof there.
    """

    devices: Mapping[str, DeviceNow] = field(default_factory=dict)
    grounds: tuple[Ground, ...] = ()
    proofs: tuple[Proof, ...] = ()
    testing: Mapping[tuple[str, str], tuple[Proof, ...]] = field(default_factory=dict)
    tried: frozenset[tuple[str, str]] = frozenset()
    released: frozenset[tuple[str, str, str]] = frozenset()
    residual: frozenset[tuple[str, str]] = frozenset()
    voltage: frozenset[str] = frozenset()

    def device(self, element_id: str) -> DeviceNow:
        return self.devices.get(element_id, NEVER_SEEN)

    def proved(self, node_id: str, hold: str) -> Proof | None:
        """The proof of a hold at a node; another's is none for it."""
        mine = (p for p in reversed(self.proofs) if node_id in p.nodes and p.hold == hold)
        return next((p for p in mine if not p.grounding_only), None)

    def may_be_grounded(self, node_id: str, hold: str) -> bool:
        """Was it proved by the hold, or was nothing but an induced voltage read there?"""
        return any(node_id in p.nodes and p.hold == hold for p in self.proofs)

    def grounded(self, nodes: Iterable[str], hold: str = "", *, maybe: bool = False) -> Ground | None:
        """A ground at one of the nodes; of one hold where it is named. ``maybe``: one that may hang counts too, as it
        does for closing."""
        wanted = set(nodes)
        mine = (g for g in self.grounds if g.node_id in wanted and hold in ("", g.hold))
        return next((g for g in mine if g.sure or maybe), None)


_OPERATED = ("opened", "closed", "withdrawn", "inserted", "started", "found", "corrected")


def fold_field(network: Network, events: Iterable[FieldEvent], start: Field | None = None) -> Field:
    """The field after all events in order."""
    now = start or Field()
    for event in events:
        now = apply(network, now, event)
    return now


def once_seen(network: Network, now: Field, element_id: str) -> Field:
    """The field once somebody has looked at an element."""
    return apply(network, now, FieldEvent(sequence=0, at="", actor="", kind="checked", element_id=element_id))


def as_recorded(now: Field) -> Field:
    """The field with every position taken as it was recorded, looked at or not: for who loses supply by an operation,
    never for what is safe."""
    devices = {i: d if d.known else replace(d, checked=d.position is not None) for i, d in now.devices.items()}
    return replace(now, devices=devices)


def apply(network: Network, now: Field, event: FieldEvent) -> Field:
    """The field once one more event has happened. Events of equipment that is no longer there change nothing else."""
    devices = {**now.devices, event.element_id: after(now.device(event.element_id), event)}
    if event.kind == "checked" and devices[event.element_id] == now.device(event.element_id):
        return now
    changed = replace(now, devices=devices)
    if event.kind == "tested":
        return _tested(network, changed, event)
    if event.kind in ("grounded", "ungrounded"):
        return _ground(network, changed, event)
    if event.kind == "tried":
        return replace(changed, tried=changed.tried | {(event.hold, event.element_id)})
    if event.kind == "released":
        return replace(changed, released=changed.released | {(event.hold, event.element_id, event.value)})
    if event.kind in _OPERATED:
        changed = _end_proofs(network, changed, event.element_id)
    if event.kind == "unlocked":
        changed = _end_proofs(network, changed, event.element_id, hold=event.hold)
    if event.kind == "unblocked":
        left = devices[event.element_id].holding(event.value or SHAFT)
        changed = _end_proofs(network, changed, event.element_id, hold=event.hold if left else "")
    if event.kind == "found":
        changed = _found(network, changed, event)
    if event.kind in ("closed", "inserted", "found", "corrected", "started"):
        changed = _charged_again(network, changed, event.element_id)
    return _isolation_judged_anew(network, changed)


def _isolation_judged_anew(network: Network, now: Field) -> Field:
    """A proof whose isolation fails is over, and does not come back with a new lock."""
    if not now.proofs:
        return now
    kept = tuple(p for p in now.proofs if not still_fed(network, now.devices, p.nodes, p.hold))
    return now if len(kept) == len(now.proofs) else replace(now, proofs=kept)


def _tested(network: Network, now: Field, event: FieldEvent) -> Field:
    """Instrument proved: begin. Tested: keep. Instrument proved again: what was kept is now proof."""
    if event.value == VOID:
        return replace(now, proofs=tuple(p for p in now.proofs if (p.point, p.hold) != (event.node_id, event.hold)))
    kept, own = dict(now.testing), (event.hold, event.instrument)
    if event.value == INSTRUMENT_BEFORE:
        return replace(now, testing={**kept, own: ()})
    if event.value == RESIDUAL:
        return replace(now, residual=now.residual | {(event.hold, event.element_id)})
    if event.value in (PROOF, INDUCED) and own in kept:
        around = region(network, now.devices, [event.node_id], event.hold) if _there(network, event.node_id) else None
        if around and _as_tested(network, now, event, around):
            nodes = zone(network, now.devices, event.node_id)
            proof = Proof(
                point=event.node_id, nodes=nodes, around=around, pairs=event.pairs, hold=event.hold, at=event.at,
                by=event.actor, grounded=now.grounded(nodes, event.hold) is not None,
                grounding_only=event.value == INDUCED, instrument=event.instrument,
            )  # fmt: skip
            kept[own] = (*kept[own], proof)
        return replace(now, testing=kept)
    made = kept.pop(own, ())
    if event.value == INSTRUMENT_AFTER:
        dead = frozenset(n for proof in made if not proof.grounding_only for n in proof.nodes)
        proved = replace(now, testing=kept, proofs=(*now.proofs, *made), voltage=now.voltage - dead)
        return _isolation_judged_anew(network, proved)
    return replace(now, testing=kept)


def _as_tested(network: Network, now: Field, event: FieldEvent, around: frozenset[str]) -> bool:
    """Is the document of the place still what it was when it was tested? (Version 0.5 kept the island alone.)"""
    near = island(network, now.devices, event.node_id)
    same_island = not event.digest or event.digest == island_digest(network, near)
    return same_island and (not event.region or event.region == island_digest(network, around))


def _there(network: Network, node_id: str) -> bool:
    return node_id in network.node or node_id.startswith("aux:")


def island_digest(network: Network, nodes: Iterable[str]) -> str:
    """A name for the island as the document has it: a revision that touches it changes the name."""
    inside = sorted(nodes)
    parts = [repr(network.node.get(n)) for n in inside]
    parts += sorted(repr(e) + _added(e) for e in touching(network, inside).values())
    boxes = {network.node[n].enclosure for n in inside if n in network.node}
    parts += sorted(repr(network.enclosure[b]) for b in boxes if b is not None)
    return digest("\n".join(parts))


#: What elements learnt with 0.7: names of islands that were taken before stay the same while none of it is recorded.
#: Whom to tell when something goes dark is nothing that a proof depends on.
_LEARNT = ("visible_break", "discharge_min", "operated_by")


def _added(e: Element) -> str:
    told = {name: getattr(e, name) for name in _LEARNT if getattr(e, name)}
    return repr(told) if told else ""


def _ground(network: Network, now: Field, event: FieldEvent) -> Field:
    ground = Ground(event.node_id, event.element_id, event.hold, event.at)
    now = _ground_switch_moved(network, now, event)
    others = tuple(g for g in now.grounds if (g.node_id, g.hold) != (ground.node_id, ground.hold))
    if event.kind == "grounded":
        return replace(now, grounds=(*others, ground))
    # where another hold's tag hangs on it, it is still there
    left = any(g.node_id == ground.node_id for g in others)
    ends = _end_proofs(
        network, replace(now, grounds=others), event.element_id, event.node_id, hold=event.hold if left else ""
    )
    return _isolation_judged_anew(network, ends)


def _ground_switch_moved(network: Network, now: Field, event: FieldEvent) -> Field:
    """Where the ground is a switch it has moved, and nobody has looked yet."""
    e = network.element.get(event.element_id)
    if e is None or e.kind != GROUND_SWITCH:
        return now
    device = now.device(event.element_id)
    # another hold's tag on a ground that hangs, or one of several coming off, moves nothing
    others = any(g.element_id == event.element_id and g.hold != event.hold for g in now.grounds)
    if others:
        return now
    position = {"grounded": "closed", "ungrounded": "open"}.get(event.kind)
    return replace(now, devices={**now.devices, e.id: replace(device, position=position, checked=False)})


def _found(network: Network, now: Field, event: FieldEvent) -> Field:
    """Whatever a test under way or a try relied on is asked for again."""
    now = replace(now, testing={}, tried=frozenset(), released=frozenset(), residual=frozenset())
    if event.value == VOLTAGE_PRESENT:
        now = replace(now, voltage=now.voltage | {event.node_id})
    if event.value == UNSURE_GROUND:
        now = _ground_switch_moved(network, now, event)
        unsure = Ground(event.node_id, event.element_id, event.hold, event.at, sure=False)
        others = tuple(g for g in now.grounds if (g.node_id, g.hold) != (unsure.node_id, unsure.hold))
        now = _end_proofs(network, replace(now, grounds=(*others, unsure)), event.element_id, event.node_id)
    return now


def _end_proofs(network: Network, now: Field, element_id: str, node_id: str = "", hold: str = "") -> Field:
    """End what was proved or tested around an element or a node, of one hold or of all."""
    if not now.proofs and not now.testing:
        return now
    element = network.element.get(element_id)
    here = {*(element.ends if element else ()), node_id}

    def stands(proof: Proof) -> bool:
        if hold and proof.hold != hold:
            return True
        return not (here & proof.around) and not _supplied_by(network, proof, element_id)

    return replace(
        now, proofs=tuple(p for p in now.proofs if stands(p)),
        testing={h: tests for h, tests in now.testing.items() if all(stands(p) for p in tests)},
    )  # fmt: skip


def _supplied_by(network: Network, proof: Proof, element_id: str) -> bool:
    """Is the element what isolates an auxiliary supply that the proof is about?"""
    supply = auxiliary(network, proof.point)
    return supply is not None and supply.isolator is not None and supply.isolator.id == element_id


def _charged_again(network: Network, now: Field, element_id: str) -> Field:
    """What was discharged may be charged again wherever this operation reaches; and a motor that was stopped may run:
    it is started by its own control, which records nothing."""
    element = network.element.get(element_id)
    stale = {k for k, d in now.devices.items() if d.discharged or (d.running is False and _is_motor(network, k))}
    if element is None or not stale:
        return now
    near = touching(network, reach(network, element.ends, as_stands(now.devices)))
    devices = {k: _as_new(network, k, d) if k in stale and k in near else d for k, d in now.devices.items()}
    return replace(now, devices=devices)


def _as_new(network: Network, element_id: str, device: DeviceNow) -> DeviceNow:
    running = None if _is_motor(network, element_id) else device.running
    return replace(device, discharged=False, running=running)


def _is_motor(network: Network, element_id: str) -> bool:
    e = network.element.get(element_id)
    return e is not None and e.kind == "motor"
