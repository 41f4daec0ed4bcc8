"""The instruments of a site: which there are, which one fits what, which one nobody may use."""

from __future__ import annotations

from collections.abc import Iterable

from spinel.actions.acting import Act, Unit, work
from spinel.actions.program_view import ProgramView
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.isolation.instruments import (
    CATEGORIES,
    CONTACT,
    DETECTOR,
    KINDS,
    LOW_IMPEDANCE,
    Instrument,
    Place,
    place_at,
    unfit,
)
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE
from spinel.core.network.ways import auxiliary, zone
from spinel.core.quantities import NOMINAL_VOLTAGE_V
from spinel.core.said import Sayable, say
from spinel.core.switching.steps import Step
from spinel.store import instruments as store
from spinel.store.models import Instrument as Row


def _read(row: Row) -> Instrument:
    return Instrument(
        number=row.number, kind=row.kind, low_v=row.low_v, high_v=row.high_v, category=row.category,
        ac=bool(row.ac), dc=bool(row.dc), barred=row.barred,
    )  # fmt: skip


@on_site
def everything(site: Site) -> list[Instrument]:
    """All of them by number, those out of use too."""
    return [_read(row) for row in store.everything()]


@on_site
def one(site: Site, number: str) -> Instrument:
    """The instrument of a number, or NotFound."""
    found = store.one(number.strip())
    if found is None:
        raise NotFound("instrument", number)
    return _read(found)


@on_site
def add(act: Act, number: str, kind: str, low_v: str, high_v: str, category: str, currents: Iterable[str]) -> str:
    """A further instrument, as its plate says; V from the lowest to the highest nominal voltage it is made for."""
    act.actor.needs("coordinator", what=say("instruments-add-one"))
    name = texts.INSTRUMENT.check(number, "number")
    if kind not in KINDS:
        raise InputError("kind", kind, say("one-of", options=tuple(KINDS)))
    low = NOMINAL_VOLTAGE_V.parse(low_v, "low_v")
    high = NOMINAL_VOLTAGE_V.parse(high_v, "high_v")
    if high < low:
        raise InputError("high_v", high_v, say("instruments-highest-not-below-the-lowest"))
    if category not in map(str, CATEGORIES):
        raise InputError("category", category, say("one-of", options=("II", "III", "IV")))
    both = set(currents) & {"ac", "dc"}
    if not both:
        raise InputError("currents", "", say("instruments-ac-dc-or-both"))
    made = Instrument(
        number=name, kind=kind, low_v=low, high_v=high, category=int(category), ac="ac" in both, dc="dc" in both
    )
    with work(act) as unit:
        if unit.done:
            return name
        if store.one(name) is not None:
            raise InputError("number", name, say("instruments-a-number-that-no-other-has"))
        store.insert(made, act.at, act.actor.name)
        known = {"kind": kind, "low_v": low, "high_v": high, "category": made.category, "currents": sorted(both)}
        unit.record("instrument added", f"instrument:{name}", known)
    return name


@on_site
def bar(act: Act, number: str, reason: str) -> None:
    """Out of use from now on: anybody who sees something wrong with it."""
    why = texts.REASON.check(reason)
    with work(act) as unit:
        if not unit.done:
            bar_in(unit, number, why)


def bar_in(unit: Unit, number: str, why: Sayable) -> None:
    """The same inside another act: it failed a check."""
    found = store.one(number)
    if found is None:
        raise NotFound("instrument", number)
    store.set_barred(found.number, why, unit.act.at, unit.act.actor.name)
    unit.record("instrument barred", f"instrument:{found.number}", {"because": why})


@on_site
def clear(act: Act, number: str, what_was_done: str) -> None:
    """Back in use: the coordinator, with what was found and done about it."""
    act.actor.needs("coordinator", what=say("instruments-clear-one"))
    text = texts.CAUSE.check(what_was_done, "cause")
    with work(act) as unit:
        if unit.done:
            return
        found = store.one(number)
        if found is None:
            raise NotFound("instrument", number)
        if not found.barred:
            raise Refusal(
                say("instruments-only-what-is-out-of-use"),
                say("instruments-is-in-use", number=found.number),
                say("instruments-nothing-to-do"),
            )
        store.set_barred(found.number, "", act.at, act.actor.name)
        unit.record("instrument cleared", f"instrument:{found.number}", {"because": text, "was": found.barred})


def fits(seen: ProgramView, step: Step, one: Instrument) -> Sayable:
    """Why an instrument does not do for everything that is tested with its kind after a check; empty when it does."""
    wanted = (DETECTOR,) if step.instrument == DETECTOR else (CONTACT, LOW_IMPEDANCE)
    if one.kind not in wanted:
        return say("instruments-not-the-kind", number=one.number, kind=say(f"instrument-{step.instrument}"))
    practice = seen.order.study.profile
    return next((why for p in _places(seen, step) if (why := unfit(one, p, practice))), one.barred)


def _places(seen: ProgramView, step: Step) -> list[Place]:
    """Where the steps of a program test with the kind of instrument that this one proves."""
    network, devices = seen.order.network, seen.now.devices
    found = []
    for s in seen.steps:
        if s.kind != "test" or s.instrument != step.instrument or s.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
            continue
        supply = auxiliary(network, s.node_id)
        if supply is not None:
            found.append(Place(supply.supply.voltage_v, supply.supply.current, 3))
        elif s.node_id in network.node:
            node, nodes = network.node[s.node_id], zone(network, devices, s.node_id)
            # where a converter joins it, AC and DC are both looked for
            both = [c for c in ("ac", "dc") if any(p.endswith(f" {c.upper()}") for p in s.pairs)]
            found += [place_at(network, nodes, node.nominal_voltage_v, c) for c in both or [node.current]]
    return found


@on_site
def to_choose(site: Site, seen: ProgramView, step: Step) -> list[tuple[Instrument, Sayable]]:
    """Every instrument of a kind that could be meant, with why it does not do; those that do come first."""
    known = [(one, fits(seen, step, one)) for one in everything(site)]
    of_kind = [(one, why) for one, why in known if (one.kind == DETECTOR) == (step.instrument == DETECTOR)]
    return sorted(of_kind, key=lambda pair: (bool(pair[1]), pair[0].number))
