"""One operation outside a program, and looking at a device: the rules in full, each recorded at once.

A director orders it and a named operator does it. What is locked, tripped, in another crew's island or in a permit's
way is not moved so; what takes more than one operation is a program.
"""

from __future__ import annotations

from spinel.actions import people, reviews, standing
from spinel.actions.acting import Act, Unit, work
from spinel.actions.crews import crews
from spinel.actions.equipment import check_found, equipment_class
from spinel.actions.in_the_way import nobody_in_the_way
from spinel.actions.network import record_found
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.isolation.points import target_of
from spinel.core.network.document import Element
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.losing import told, without_supply
from spinel.core.network.now import position_words
from spinel.core.said import say
from spinel.core.switching import wording
from spinel.core.switching.order import OPERATION, Order
from spinel.core.switching.rules import judge_operation
from spinel.core.switching.steps import Step
from spinel.store import network as store
from spinel.store import programs

#: What can be ordered, and the act that it is.
ORDERS = {"open": "opened", "closed": "closed", "withdrawn": "withdrawn", "inserted": "inserted"}
THROWS = ("normal", "emergency", "off", "automatic")


def choices(e: Element) -> tuple[str, ...]:
    """What can be ordered of an element outside a program; what others move is asked of them step by step."""
    if e.operated_by:
        return ()
    if e.kind == "transfer_switch":
        return THROWS
    if e.kind not in SWITCHING:
        return ()
    return tuple(ORDERS) if e.withdrawable else ("open", "closed")


def goes_dark(here: SiteNow, e: Element) -> list[Element]:
    """What loses its supply when the element is opened now."""
    return without_supply(here.network, here.now, {e.id})


@on_site
def operate(act: Act, element_id: str, to: str, operator_id: int, informed: str) -> list[str]:
    """One device moved once. ``informed``: who of those affected was told. Its position is unknown until it is looked
    at. Numbers of what was stopped because of it. Refusal naming the rule that it would break."""
    act.actor.needs("director", what=say("operation-order-one"))
    here = act.site.as_it_is()
    e = here.network.get(element_id)
    if to not in choices(e):
        raise InputError("to", to, say("one-of", options=tuple(position_words(c) for c in choices(e))))
    operator = _operator(act, here, e, operator_id)
    with work(act) as unit:
        if unit.done:
            return []
        here = unit.site.as_it_is()
        step = _step(here, e, to)
        dark = goes_dark(here, e) if step.acts[0] in ("opened", "withdrawn") or step.value == "off" else []
        answered = texts.TOLD.check(informed, "informed") if dark or informed.strip() else ""
        _may(here, e, step)
        store.add_event(
            act.at, act.actor.name, step.acts[0], e.id, step.value, say("operation-note", operator=operator),
            detail=shapes.write("field event", {"operator": operator_id}).text,
        )  # fmt: skip
        known = {"to": to, "operator": operator, "told": answered, "lost": [d.tag for d in dark],
                 "names": list(told(dark))}  # fmt: skip
        unit.record("operated once", f"equipment:{e.tag}", known)
        return reviews.after_change(unit, say("operation-of", tag=e.tag, to=position_words(to)))


def _may(here: SiteNow, e: Element, step: Step) -> None:
    order = _order(here, e)
    broken = judge_operation(order, here.field, step)
    if broken is not None:
        raise broken.refusal("to")
    nobody_in_the_way(here, order, step)
    _not_a_programs(e)


@on_site
def asked(site: Site, element_id: str) -> list[tuple[str, Refusal | None]]:
    """Everything that could be ordered of an element now, each with the rule that forbids it, or None: what a director
    sees before anything is read out."""
    here = site.as_it_is()
    e = here.network.get(element_id)
    found: list[tuple[str, Refusal | None]] = []
    for to in choices(e):
        if to == here.device(e).position:
            continue
        try:
            _may(here, e, _step(here, e, to))
            found.append((to, None))
        except Refusal as why:
            found.append((to, why))
    return found


def refused(here: SiteNow, e: Element, to: str) -> Refusal | None:
    """The rule that an operation would break on a site as it is given: the present one, or one that is only thought."""
    try:
        _may(here, e, _step(here, e, to))
    except Refusal as why:
        return why
    return None


def _not_a_programs(e: Element) -> None:
    """What a program that is under way is about to move is its own."""
    for p in programs.programs_in(("executing", "stopped")):
        steps = shapes.content("program", p.content)["steps"][p.step :]
        if any(s["element_id"] == e.id and s["kind"] in ("operate", "check", "lock") for s in steps):
            raise Refusal(
                say("operation-one-program-at-a-time-moves-a-device"),
                say("operation-program-is-about-to-move-it", number=p.number, tag=e.tag),
                say("operation-leave-it-to-the-program"),
                "to",
            )


def _operator(act: Act, here: SiteNow, e: Element, operator_id: int) -> str:
    """Director and operator are two, both qualified for the equipment."""
    who = next((p for p in people.everybody(act.site) if p.id == operator_id and "operator" in p.roles), None)
    if who is None or who.id == act.actor.id:
        raise InputError("operator", operator_id, say("operation-another-person-who-operates"))
    for number, name in ((act.actor.id, act.actor.name), (who.id, who.name)):
        if number is not None:
            standing.need(here, number, name, "operate", equipment_class(here.network, e, ""), here.day(act.now))
    return who.name


def _step(here: SiteNow, e: Element, to: str) -> Step:
    throw = to if e.kind == "transfer_switch" else ""
    act = ORDERS.get(to, "opened" if to == "off" else "closed")
    return wording.operate(_order(here, e), e, act, throw)


def _order(here: SiteNow, e: Element) -> Order:
    return Order(
        purpose=OPERATION, hold="", target=target_of(here.network, e), study=here.study, origin=here.field,
        crews=crews(here),
    )  # fmt: skip


@on_site
def look(act: Act, element_id: str, seen: str) -> list[str]:
    """Somebody qualified looked at a device: where the record says so, its position is known; else it was found
    otherwise, with all that this stops."""
    act.actor.needs("director", "coordinator", what=say("operation-look-at-a-device"))
    here = act.site.as_it_is()
    e = here.network.get(element_id)
    check_found(e, seen)
    if act.actor.id is not None:
        kind = equipment_class(here.network, e, "")
        standing.need(here, act.actor.id, act.actor.name, "operate", kind, here.day(act.now))
    with work(act) as unit:
        return [] if unit.done else _looked(unit, e, seen)


def _looked(unit: Unit, e: Element, seen: str) -> list[str]:
    device = unit.site.as_it_is().device(e)
    if device.tripped:
        raise Refusal(
            say("step-rules-what-tripped-stays-open-until-its-cause-is-known"),
            say("step-rules-was-found-tripped", tag=e.tag),
            say("step-rules-inspect-it-and-record-the-cause"),
            "seen",
        )
    if device.position != seen:
        return record_found(unit, e, seen, say("operation-looked-otherwise"))
    if device.checked:
        return []
    # a program that is about to look at it records that itself
    _not_a_programs(e)
    store.add_event(unit.act.at, unit.act.actor.name, "checked", e.id, "", say("operation-looked"))
    unit.record("looked at", f"equipment:{e.tag}", {"seen": seen})
    return reviews.after_change(unit, say("operation-of", tag=e.tag, to=position_words(seen)))
