"""What a case of a site means: what it changes, in words, and what feeds what in it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Case, Element, Network
from spinel.core.network.topology import topology
from spinel.core.said import Said, say


def means(network: Network, case: Case) -> list[Said]:
    """What a case sets otherwise than in normal service, a sentence each; one that says so where it sets nothing."""
    return list(_means(network, case)) or [say("case-means-normal")]


def _means(network: Network, case: Case) -> Iterator[Said]:
    for tag, position in case.positions.items():
        e = network.by_tag[tag]
        usual = e.normal_position
        code = "case-means-transfer" if e.kind == "transfer_switch" else "case-means-position"
        code = "case-means-as-normal" if position == usual else code
        yield say(code, tag=tag, position=say(f"position-{position}"), normal=say(f"position-{usual}"))
    for tag, said in case.sources.items():
        for key, value in said.items():
            yield say(f"case-means-{key}-{value}", tag=tag)
    if case.settings:
        yield say("case-means-maintenance", tags=tuple(case.settings))
    if case.impedances:
        yield say(f"case-means-impedances-{case.impedances}")


@dataclass(frozen=True)
class FedSo:
    """Buses, by tag, that the same supplies feed in a case; ``supplies`` empty: nothing does."""

    supplies: tuple[str, ...]
    buses: tuple[str, ...]


def fed_so(network: Network, case: Case) -> list[FedSo]:
    """Every bus of a case under what feeds it: where more than one supply is named, they feed in parallel."""
    joints, circuit = topology(network), in_case(network, case)
    part = joints.components(joints.masks(circuit)[0])
    place = network.node_place
    of_part: dict[int, dict[str, None]] = {}
    stored: dict[int, dict[str, None]] = {}
    for e in network.may_supply:
        if feeds_in(e, circuit):
            # what keeps energy feeds only what nothing else does: its own supply comes through it
            kept = stored if e.kind in ("ups", "battery") else of_part
            ends = e.ends[-1:] if e.kind == "ups" else e.ends
            for n in ends:
                kept.setdefault(int(part[place[n]]), {})[e.tag] = None
    found: dict[tuple[str, ...], list[str]] = {}
    for e in network.elements:
        if e.kind == "bus":
            at = int(part[place[e.ends[0]]])
            found.setdefault(tuple(of_part.get(at) or stored.get(at) or ()), []).append(e.tag)
    return [FedSo(s, tuple(b)) for s, b in sorted(found.items(), key=lambda pair: (not pair[0], -len(pair[1])))]


def feeds_in(e: Element, circuit: Circuit) -> bool:
    """Does an element supply energy in a circuit? Motors, capacitors and what only may feed are none."""
    if e.kind == "ups":
        return e.id not in circuit.bypass
    return bool(e.row.supplies) and (e.kind in ("source", "battery") or e.id in circuit.running)


# What no case covers -----------------------------------------------------------------------------------------

#: In the order of their gravity.
GAPS = ("normal", "tie", "transfer", "runs")


@dataclass(frozen=True)
class CaseGap:
    """A state of the plant that no case of the document is, so that no figure of a study is of it. ``element`` None:
    it is of the whole site. ``positions``, ``sources``: of a case that would be it."""

    kind: str
    element: Element | None
    positions: tuple[tuple[str, str], ...] = ()
    sources: tuple[tuple[str, str], ...] = ()

    @property
    def says(self) -> Said:
        return say(f"case-gap-{self.kind}", tag=self.element.tag if self.element else "")

    @property
    def key(self) -> str:
        """What names it on a form."""
        where = "".join(f" {position}" for _, position in self.positions[:1]) if self.kind == "transfer" else ""
        return f"{self.kind} {self.element.id if self.element else ''}{where}".strip()


def case_gaps(network: Network) -> list[CaseGap]:
    """The gravest kind first. A case that pins a strength or impedances, or has a device at its maintenance setting,
    covers nothing: its state with the whole range and the usual settings may be worse."""
    kept = network.__dict__
    if "_case_gaps" not in kept:
        whole = [c for c in network.cases if not c.pinned and not c.settings]
        found = [*_normal(network, whole), *_ties(network, whole), *_transfers(network, whole),
                 *_stand_by(network, whole)]  # fmt: skip
        kept["_case_gaps"] = sorted(found, key=lambda g: GAPS.index(g.kind))
    gaps: list[CaseGap] = kept["_case_gaps"]
    return list(gaps)


def _normal(network: Network, whole: Sequence[Case]) -> Iterator[CaseGap]:
    def is_normal(case: Case) -> bool:
        moved = any(network.by_tag[t].normal_position != p for t, p in case.positions.items())
        return not moved and not case.sources

    if not any(map(is_normal, whole)):
        yield CaseGap("normal", None)


def _ties(network: Network, whole: Sequence[Case]) -> Iterator[CaseGap]:
    """Devices that are open in normal service between two parts of the site that are each fed without them."""
    joints, place = topology(network), network.node_place
    open_ones = [e for e in network.switches if e.kind != "transfer_switch" and e.normal_position == "open"]
    closed = {tag for c in whole for tag, p in c.positions.items() if p == "closed"}
    every = np.ones(len(joints.a), dtype=bool)
    for e in open_ones:
        if e.tag in closed:
            continue
        without = every.copy()
        at = joints.place[e.id]
        without[joints.start[at] : joints.start[at + 1]] = False
        part = joints.components(without)
        fed = {int(part[place[n]]) for s in network.may_supply if s.row.supplies for n in s.ends}
        if all(int(part[place[n]]) in fed for n in e.ends):
            yield CaseGap("tie", e, ((e.tag, "closed"),))


def _transfers(network: Network, whole: Sequence[Case]) -> Iterator[CaseGap]:
    """Transfer switches that never stand on one of their sides, with what stands by at that side running."""
    for e in network.switches:
        if e.kind != "transfer_switch":
            continue
        stood = {c.positions.get(e.tag, e.normal_position) for c in whole}
        for position, end in (("normal", e.ends[0]), ("emergency", e.ends[1])):
            if position not in stood:
                runs = tuple((s.tag, "running") for s in _standing_by(network, e, end))
                yield CaseGap("transfer", e, ((e.tag, position),), runs)


def _standing_by(network: Network, switch: Element, end: str) -> list[Element]:
    """What stands by at one side of a transfer switch, and nowhere else."""
    joints, place = topology(network), network.node_place
    without = np.ones(len(joints.a), dtype=bool)
    for e in network.switches:
        if e.kind == "transfer_switch":
            at = joints.place[e.id]
            without[joints.start[at] : joints.start[at + 1]] = False
    part = joints.components(without)
    others = {int(part[place[n]]) for n in switch.ends if n != end}
    here = int(part[place[end]])
    return [
        s for s in network.may_supply
        if s.row.may_turn and s.row.supplies and s.normal_state == "stopped" and here not in others
        and any(int(part[place[n]]) == here for n in s.ends)
    ]  # fmt: skip


def _stand_by(network: Network, whole: Sequence[Case]) -> Iterator[CaseGap]:
    """What stands by in normal service and never runs."""
    for e in network.may_supply:
        if e.row.supplies and e.row.may_turn and e.normal_state == "stopped":
            said = [c.sources.get(e.tag, {}).get("state") for c in whole]
            if "running" not in said:
                yield CaseGap("runs", e, (), ((e.tag, "running"),))
