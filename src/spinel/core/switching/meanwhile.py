"""What a program passes through on its way: the figures and the duty of a step in the states before and after it.

The figures of a study are worst over the document's cases and the state at drafting. A program, or somebody else
meanwhile, may leave a state that is none of these: two transformers side by side, one of two feeders open. Where that
changes what feeds a step's equipment, or adds to it, the step is looked at in that state too, and the worst holds.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from spinel.core.hazard import Study
from spinel.core.isolation.able import Figures, figures
from spinel.core.network.circuit import Circuit, at_present, in_case
from spinel.core.network.document import Case, Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import FEEDS
from spinel.core.protection.duty import Duty
from spinel.core.switching.order import Order
from spinel.core.switching.steps import Step


def figures_at(order: Order, e: Element, *states: Field) -> Figures:
    """The figures of standing at an element, worst over the study and the states."""
    found = figures(order.study, e)
    for study, added in _studies(order, e, states):
        there = figures(study, e)
        # what only lacks a source may leave too little current for any method: the figure with all of them holds
        if added or not there.none_because:
            found = _worse(found, there)
    return found


def duty_at(order: Order, e: Element, *states: Field) -> Duty | None:
    """Its duty, inadequate where it is so in the study or in one of the states; None where nothing asks for one."""
    known = order.study.duty.get(e.id)
    others = [study.duty.get(e.id) for study, _ in _studies(order, e, states)]
    return next((d for d in (known, *others) if d is not None and not d.adequate), known)


def covered(order: Order, step: Step, *states: Field) -> Step:
    """The step with the figures that hold in the states around it."""
    e = order.network.element.get(step.element_id)
    if e is None or step.figures is None or not step.at_equipment or step.stick:
        return step
    return replace(step, figures=figures_at(order, e, *states))


def _worse(a: Figures, b: Figures) -> Figures:
    """The one that asks for more; distances the larger of both."""
    lacking = [f for f in (a, b) if f.none_because and not f.below]
    worst = lacking[0] if lacking else max((a, b), key=lambda f: (f.beyond, f.energy_cal_cm2 or 0.0))
    return replace(
        worst,
        boundary_mm=_most(a.boundary_mm, b.boundary_mm),
        boundary_in=_most(a.boundary_in, b.boundary_in),
        limited_mm=_most(a.limited_mm, b.limited_mm),
        restricted_mm=_most(a.restricted_mm, b.restricted_mm),
        below=a.below and b.below,
    )


def _most(a: float | None, b: float | None) -> float | None:
    return max((v for v in (a, b) if v is not None), default=None)


@dataclass(frozen=True)
class _Around:
    """What hangs together with an element: everything, and of it what lies between it and what gives current."""

    all: frozenset[str]
    ways: frozenset[str]


def _studies(order: Order, e: Element, states: Iterable[Field]) -> list[tuple[Study, bool]]:
    """Studies of those states that feed the element otherwise than any state that its figures know; each with whether
    anything feeds it there, or hangs on it, that does in none of them."""
    found: dict[object, tuple[Study, bool]] = {}
    for state in states:
        key, kept = _difference(order, state), order.study.kept.setdefault("meanwhile", {})
        if not key:
            continue
        if (key, e.id) not in kept:
            circuit = at_present(order.network, state.devices)
            same, less = _compared(order, e, circuit)
            kept[key, e.id] = None if same else (_study(order, key, circuit), not less)
        if kept[key, e.id] is not None:
            found[key] = kept[key, e.id]
    return list(found.values())


def _study(order: Order, key: object, circuit: Circuit) -> Study:
    """The study of one such state, made once for all steps that meet it."""
    kept = order.study.kept.setdefault("meanwhile studies", {})
    if key not in kept:
        of = order.study
        kept[key] = Study(of.network, of.profile, circuit, of.ceiling_cal_cm2, of)
    study: Study = kept[key]
    return study


def _difference(order: Order, state: Field) -> frozenset[tuple[object, ...]]:
    """What stands otherwise than at drafting."""
    return frozenset(
        (i, d.position, d.known, d.running)
        for i, d in state.devices.items()
        if (was := order.origin.device(i)) is not d
        and (d.position, d.known, d.running) != (was.position, was.known, was.running)
    )


def _both(circuit: Circuit) -> list[Circuit]:
    """What is uncertain, all closed and all open."""
    if not circuit.uncertain:
        return [circuit]
    opened = {i: () if i in circuit.uncertain else pairs for i, pairs in circuit.closed.items()}
    return [replace(circuit, uncertain=frozenset()), replace(circuit, uncertain=frozenset(), closed=opened)]


def _compared(order: Order, e: Element, circuit: Circuit) -> tuple[bool, bool]:
    """Does one of the document's cases, or the state at drafting, feed the element the same way with no less on it; and
    does one feed it by all that does here, and more?"""
    kept = order.study.kept.setdefault("meanwhile known", {})
    if e.id not in kept:
        kept[e.id] = [_feeding(order.network, c, e) for c in _known(order)]
    here = [_feeding(order.network, c, e) for c in _both(circuit)]
    same = all(any(h.ways == k.ways and h.all <= k.all for k in kept[e.id]) for h in here)
    return same, all(any(h.ways <= k.ways and h.all <= k.all for k in kept[e.id]) for h in here)


def _known(order: Order) -> list[Circuit]:
    """States that the figures of the study are worst over."""
    study, network = order.study, order.network
    cases = [in_case(network, c) for c in network.cases if not _pinned(c)]
    return [*cases, *(_both(study.present) if study.present is not None else ())]


def _pinned(case: Case) -> bool:
    return bool(case.impedances or case.settings or any(len(s) > ("state" in s) for s in case.sources.values()))


def _feeding(network: Network, circuit: Circuit, e: Element) -> _Around:
    """Everything joined to an element, sources that run among it, and what of it is no dead end."""
    joins = _joins(network, circuit)
    ends = [n for n in e.ends if n in joins]
    nodes, queue = set(ends), list(ends)
    while queue:
        for _, other in joins[queue.pop()]:
            if other not in nodes:
                nodes.add(other)
                queue.append(other)
    giving: dict[str, list[str]] = {}
    for x in network.elements:
        if x.row.supplies and (x.row.supplies == FEEDS or x.id in circuit.running):
            for n in x.ends:
                if n in nodes:
                    giving.setdefault(n, []).append(x.id)
    all_of = {i for n in nodes for i, _ in joins[n]} | {i for found in giving.values() for i in found}
    all_of |= {x.id for n in nodes for x in network.at_node[n] if len(x.ends) == 1}
    kept = {n: set(joins[n]) for n in nodes}
    # what ends nowhere, with nothing that gives current at it, is on no way
    loose = [n for n in nodes if len(kept[n]) < 2 and n not in giving and n not in ends]
    while loose:
        n = loose.pop()
        for i, other in kept.pop(n, set()):
            if other in kept:
                kept[other].discard((i, n))
                if len(kept[other]) < 2 and other not in giving and other not in ends:
                    loose.append(other)
    ways = {i for pairs in kept.values() for i, _ in pairs} | {i for found in giving.values() for i in found}
    return _Around(frozenset(all_of), frozenset(ways))


def _joins(network: Network, circuit: Circuit) -> Mapping[str, list[tuple[str, str]]]:
    """By node: each element that joins it, with the node at its other end."""
    found: dict[str, list[tuple[str, str]]] = {n: [] for n in network.node}
    for element_id, pairs in circuit.closed.items():
        for a, b in pairs:
            found[a].append((element_id, b))
            found[b].append((element_id, a))
    return found
