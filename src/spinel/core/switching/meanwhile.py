"""What a program passes through on its way: the figures and the duty of a step in the states before and after it.

The figures of a study are worst over the document's cases and the state at drafting. A program, or somebody else
meanwhile, may leave a state that is none of these: two transformers side by side, one of two feeders open. Where that
changes what feeds a step's equipment, or adds to it, the step is looked at in that state too, and the worst holds.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from spinel.core.hazard import Study
from spinel.core.isolation.able import Figures, figures
from spinel.core.network.circuit import Circuit, at_present, in_case
from spinel.core.network.document import Element, Network
from spinel.core.network.field import Field
from spinel.core.network.kinds import FEEDS
from spinel.core.ppe.by_energy import kit
from spinel.core.protection.duty import Duty
from spinel.core.said import Said, Sayable
from spinel.core.switching.order import Order
from spinel.core.switching.steps import Step, take

#: Studies of passing states that are kept at a time; what was found in them is kept as long as theirs.
_STUDIES = 8
#: So many states, and figures in them, before it begins anew.
_STATES = 2000


def figures_at(order: Order, e: Element, *states: Field) -> Figures:
    """The figures of standing at an element, worst over the study and the states."""
    found = figures(order.study, e)
    for there in _otherwise(order, e, states):
        found = _worse(found, there.figures)
    return found


def around(order: Order, now: Field, step: Step) -> tuple[Field, ...]:
    """The states that a step is done in: before it, and after it where it moves or looks at something."""
    return (now, take(order, now, step)) if step.kind in ("operate", "check") else (now,)


def duty_at(order: Order, e: Element, *states: Field) -> Duty | None:
    """Its duty, inadequate where it is so in the study or in one of the states; None where nothing asks for one."""
    known = order.study.duty.get(e.id)
    others = [there.duty for there in _otherwise(order, e, states)]
    return next((d for d in (known, *others) if d is not None and not d.adequate), known)


def covered(order: Order, step: Step, *states: Field) -> Step:
    """The step with the figures that hold in the states around it."""
    e = order.network.element.get(step.element_id)
    if e is None or step.figures is None or not step.at_equipment or step.stick:
        return step
    return replace(step, figures=figures_at(order, e, *states))


def _too_little(why: Sayable) -> bool:
    """Is there no figure only because the current is below what the method covers?"""
    error = why.values.get("error") if isinstance(why, Said) else None
    if not isinstance(error, Said) or error.values.get("field") != "bolted_fault_current_ka":
        return False
    allowed, value = error.values.get("allowed"), error.values.get("value")
    least = allowed.values.get("low") if isinstance(allowed, Said) else None
    return isinstance(least, int | float) and float(str(value)) < least


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
class _There:
    """Figures and duty in a state that feeds an element otherwise than any that its study knows."""

    figures: Figures
    duty: Duty | None


@dataclass(frozen=True)
class _Around:
    """What lies between an element and the sources that feed it; ``gives``: and all else that gives current to a fault,
    motors and what stands by."""

    ways: frozenset[str]
    gives: frozenset[str]
    fed: bool


def _otherwise(order: Order, e: Element, states: Iterable[Field]) -> list[_There]:
    """How it is at the element in those states that feed it otherwise than any state that its study knows."""
    kept: dict[object, object] = order.study.kept.setdefault("meanwhile", {})
    found: dict[object, _There] = {}
    for state in states:
        for key, circuit in _circuits(order, state).items():
            there = kept.get((key, e.id), _UNASKED)
            if there is _UNASKED:
                _bounded(kept)
                kept[key, e.id] = there = _there(order, e, key, circuit)
            if isinstance(there, _There):
                found[key] = there
    return list(found.values())


#: Nothing was asked yet; None says that the study knows the state.
_UNASKED = object()


def _bounded(kept: dict[Any, Any]) -> None:
    """A study lives as long as its site is asked for; states come and go with every event. Several threads ask one:
    each goes on with what it found itself.
    """
    if len(kept) >= _STATES:
        kept.clear()


def _circuits(order: Order, state: Field) -> dict[object, Circuit]:
    """A state as circuits without anything uncertain."""
    known: dict[object, dict[object, Circuit]] = order.study.kept.setdefault("meanwhile circuits", {})
    stands = frozenset((i, d.position, d.known, d.running) for i, d in state.devices.items())
    found = known.get(stands)
    if found is None:
        _bounded(known)
        both = _both(at_present(order.network, state.devices))
        known[stands] = found = {(tuple(sorted(c.closed.items())), c.running): c for c in both}
    return found


def _there(order: Order, e: Element, key: object, circuit: Circuit) -> _There | None:
    kept = order.study.kept.setdefault("meanwhile known", {})
    if e.id not in kept:
        kept[e.id] = [_feeding(order.network, c, e) for c in _known(order)]
    here = _feeding(order.network, circuit, e)
    # what nothing feeds is no worse than where something does
    if not here.fed or any(here.ways == k.ways and here.gives <= k.gives for k in kept[e.id]):
        return None
    study = _study(order, key, circuit)
    there = figures(study, e)
    if _too_little(there.none_because):
        there = _without_the_weak(order, study, e, there)
    return _There(there, study.duty.get(e.id))


def _without_the_weak(order: Order, study: Study, e: Element, there: Figures) -> Figures:
    """Where an end is left with so little that no method covers it, the figure with everything on holds for that end;
    and whatever the other places have in this state, if that is more."""
    known = figures(order.study, e)
    each = study.places_now(e.id)
    if any(why and not _too_little(why) for why, _, _ in each):
        return there
    energy = max((cal for why, cal, _ in each if not why), default=0.0)
    boundary = max((mm for why, _, mm in each if not why), default=0.0)
    if known.none_because or known.below:
        return known
    more = known
    if energy > (known.energy_cal_cm2 or 0.0):
        wear = kit(energy, study.profile.clothing)
        more = replace(
            more, energy_cal_cm2=energy, arc_rating_cal_cm2=wear.arc_rating_cal_cm2, ppe_level=wear.level,
            beyond=energy > study.ceiling_cal_cm2, case=there.case,
        )  # fmt: skip
    if boundary > (known.boundary_mm or 0.0):
        inches = math.ceil(boundary / 25.4 - 1e-6)
        more = replace(more, boundary_mm=boundary, boundary_in=max(inches, known.boundary_in or 0.0))
    return more


def _study(order: Order, key: object, circuit: Circuit) -> Study:
    """The study of one such state, for all steps that meet it one after the other."""
    kept: dict[object, Study] = order.study.kept.setdefault("meanwhile studies", {})
    found = kept.get(key)
    if found is None:
        of = order.study
        if len(kept) >= _STUDIES:
            kept.clear()
        kept[key] = found = Study(of.network, of.profile, circuit, of.ceiling_cal_cm2, of)
    return found


def _both(circuit: Circuit) -> list[Circuit]:
    """What is uncertain, all closed and all open."""
    if not circuit.uncertain:
        return [circuit]
    opened = {i: () if i in circuit.uncertain else pairs for i, pairs in circuit.closed.items()}
    return [replace(circuit, uncertain=frozenset()), replace(circuit, uncertain=frozenset(), closed=opened)]


def _known(order: Order) -> list[Circuit]:
    """States that the figures of the study are worst over."""
    study, network = order.study, order.network
    cases = [in_case(network, c) for c in network.cases if not (c.pinned or c.settings)]
    return [*cases, *(_both(study.present) if study.present is not None else ())]


def _feeding(network: Network, circuit: Circuit, e: Element) -> _Around:
    """What feeds an element, in a circuit without anything uncertain."""
    joins = _joins(network, circuit)
    ends = [n for n in e.ends if n in joins]
    nodes, queue = set(ends), list(ends)
    while queue:
        for _, other in joins[queue.pop()]:
            if other not in nodes:
                nodes.add(other)
                queue.append(other)
    feeding, giving = set[str](), set[str]()
    at: dict[str, list[str]] = {}
    for x in network.elements:
        runs = x.row.supplies == FEEDS or x.id in circuit.running
        if not nodes.isdisjoint(x.ends) and ((x.row.supplies and runs) or x.row.fault_source):
            at.update({n: [*at.get(n, ()), x.id] for n in x.ends if n in nodes})
            (feeding if x.row.supplies and runs else giving).update(n for n in x.ends if n in nodes)
    within = {n: set(joins[n]) for n in nodes}
    return _Around(
        _ways(within, at, {*feeding, *ends}), _ways(within, at, {*feeding, *giving, *ends}), fed=bool(feeding)
    )


def _ways(joins: Mapping[str, set[tuple[str, str]]], at: Mapping[str, list[str]], ends: set[str]) -> frozenset[str]:
    """What lies between the ends: everything that is no dead end, and what gives current at them."""
    kept = {n: set(found) for n, found in joins.items()}
    loose = [n for n in kept if len(kept[n]) < 2 and n not in ends]
    while loose:
        n = loose.pop()
        for i, other in kept.pop(n, set()):
            if other in kept:
                kept[other].discard((i, n))
                if len(kept[other]) < 2 and other not in ends:
                    loose.append(other)
    return frozenset({i for pairs in kept.values() for i, _ in pairs} | {i for n in ends for i in at.get(n, ())})


def _joins(network: Network, circuit: Circuit) -> Mapping[str, list[tuple[str, str]]]:
    """By node: each element that joins it, with the node at its other end."""
    found: dict[str, list[tuple[str, str]]] = {n: [] for n in network.node}
    for element_id, pairs in circuit.closed.items():
        for a, b in pairs:
            found[a].append((element_id, b))
            found[b].append((element_id, a))
    return found
