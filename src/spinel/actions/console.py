"""Executing a program: one step confirmed at a time, on the director's device, each once.

A confirmation names the step and the version that it was made for. When the state has moved meanwhile it is refused as
a step; what it says was done is kept as found, the program stops, and what it touched is no longer known.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from spinel.actions import box, locks, people, reviews, standing
from spinel.actions.acting import Act, Unit, work
from spinel.actions.as_found import Moved, keep_as_found
from spinel.actions.asked import asked
from spinel.actions.equipment import check_found, equipment_class
from spinel.actions.in_the_way import met_by_next, need_nobody
from spinel.actions.keeping import keep, save
from spinel.actions.network import record_found
from spinel.actions.practice import detector, met_here, missed
from spinel.actions.program_moves import need_qualified_for, need_safe, still_covered
from spinel.actions.program_view import ProgramView, as_view, field_of, stored, word, write
from spinel.actions.programs import succeed
from spinel.actions.readings import fail, tested
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.network.cut import region
from spinel.core.network.field import INDUCED, PROOF, island_digest
from spinel.core.network.now import FieldEvent
from spinel.core.network.ways import island
from spinel.core.said import Sayable, say
from spinel.core.switching.life import NAMES, check_move
from spinel.core.switching.order import RESTORATION
from spinel.core.switching.rules import first_broken
from spinel.core.switching.steps import PHASING, Step, events
from spinel.store import programs
from spinel.store.models import Program


@on_site
def start(act: Act, number: str, version: int, operator_id: int) -> None:
    """The director begins with a named operator; the program is judged once more on the field as it is."""
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        move = check_move("start", program.state, act.actor.roles, seen.parts_of(act.actor.id))
        _check_operator(act, seen, operator_id)
        need_safe(seen)
        if not program.practice:
            _alone(program)
            still_covered(seen)
            need_nobody(unit.site.as_it_is(), seen)
            if program.purpose == RESTORATION:
                box.may_restore(program.hold)
        changes: dict[str, object] = {} if program.practice else {"base_event": unit.site.as_it_is().event_id}
        save(act, program, version, state=move.target, director_id=act.actor.id, operator_id=operator_id, **changes)
        detail = {"operator": _name(unit.site, operator_id)}
        keep(unit, program, "started", detail)
        unit.record(word(program, "started"), f"program:{number}", detail)


def _alone(program: Program) -> None:
    """Refusal while another program of the same hold is under way: two directors on one isolation are none."""
    under_way = programs.programs_in(("executing", "stopped"))
    other = next((p for p in under_way if p.hold == program.hold and p.id != program.id), None)
    if other is not None:
        raise Refusal(
            say("console-one-program-at-a-time-under-a"),
            say("console-is-2", number=other.number, state=NAMES[other.state]),
            say("console-execute-or-abandon-it-first"),
        )


def _name(site: Site, person_id: int) -> str:
    return people.actor(site, person_id).name


def _check_operator(act: Act, seen: ProgramView, operator_id: int) -> None:
    operator = people.actor(act.site, operator_id)
    if "operator" not in operator.roles:
        raise InputError("operator", operator.name, say("console-a-switching-operator"))
    if operator_id == act.actor.id:
        raise Refusal(
            say("console-separation-of-duties"),
            say("console-the-director-reads-and-verifies-somebody-else"),
            say("console-name-another-operator"),
            "operator",
        )
    if any(r.person_id == operator_id for r in seen.valid("released")):
        raise Refusal(
            say("console-separation-of-duties"),
            say("console-released-this-program", name=operator.name),
            say("console-name-another-operator"),
            "operator",
        )
    need_qualified_for(act, seen, operator_id, operator.name, "operate", ("operate", "lock"))
    need_qualified_for(act, seen, operator_id, operator.name, "test", ("test", "ground", "discharge"))


@on_site
def change_operator(act: Act, number: str, version: int, operator_id: int) -> None:
    """Another operator from here on; isolation locks stay with whoever hung them, as the record says."""
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        check_move("operator", program.state, act.actor.roles, ())
        _check_operator(act, seen, operator_id)
        save(act, program, version, operator_id=operator_id)
        detail = {"operator": _name(unit.site, operator_id), "from_step": program.step + 1}
        keep(unit, program, "operator changed", detail)
        unit.record(word(program, "operator changed"), f"program:{number}", detail)


class Barred(Refusal):
    """The instrument failed its check: it is out of use from now on, and the step waits for another."""

    recorded = True


class ReadAgain(Refusal):
    """A voltage was read and recorded; it is read once more with an instrument of low impedance, or it stands."""

    recorded = True


@on_site
def confirm(act: Act, number: str, step: int, version: int, said_of_it: Mapping[str, str]) -> str:
    """One step (counted from 1) was done, for the state that ``version`` names. Returns what was recorded.

    Refusal when it may not be confirmed; Moved when the state is no longer that one: then the program is stopped and
    what was said to be done is recorded as found. A repeat of the same request changes nothing.
    """
    moved: Moved | None = None
    _foresee(act, number, step)
    with work(act) as unit:
        if unit.done:
            return "already"
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        _may_confirm(act, seen, step)
        why = _why_moved(unit.site.as_it_is(), program, seen, step, version)
        if why:
            moved = keep_as_found(unit, program, seen, step, why)
        else:
            result = _done(unit, program, seen, seen.steps[step - 1], said_of_it)
    if moved is not None:
        raise moved
    if result == "read_again":
        raise ReadAgain(
            say("readings-a-voltage-is-read-once-more-or-stands"),
            say("readings-it-is-recorded-and-may-be-coupled"),
            say("readings-read-again-with-low-impedance-or-let-it-stand"),
            "low_instrument",
        )
    if result == "another":
        raise Barred(
            say("readings-the-instrument-is-proved-before-and-after"),
            say("readings-is-barred-now", name=said_of_it.get("instrument", "")),
            say("readings-take-another"),
            "instrument",
        )
    return result


def _foresee(act: Act, number: str, step: int) -> None:
    """What the reviews after this step will ask, computed before the transaction."""
    program = stored(number)
    steps = shapes.content("program", program.content)["steps"]
    if program.practice or program.state != "executing" or not 0 < step <= len(steps):
        return
    if steps[step - 1]["kind"] in ("operate", "check"):
        seen = as_view(program, act.site.as_it_is())
        reviews.foresee(act.site, *events(seen.steps[step - 1], program.hold))


def _may_confirm(act: Act, seen: ProgramView, step: int) -> None:
    if not 1 <= step <= len(seen.steps):
        raise InputError("step", step, say("console-a-step-from-1-to", count=len(seen.steps)))
    kind = seen.steps[step - 1].kind
    third = kind == "check" and third_person_checks(act.site)
    if third:
        if act.actor.id in (seen.director_id, seen.operator_id):
            raise NotAllowed(
                say("console-a-third-person-checks"),
                say("console-here-somebody-else-than-director-and-operator"),
                say("console-a-third-person-signs-in-on-another"),
            )
        _qualified_to_look(act, seen.steps[step - 1])
        return
    check_move("confirm", "executing", act.actor.roles, seen.parts_of(act.actor.id))
    if seen.state == "executing" and not any(p.id == seen.operator_id and p.active for p in act.site.register()):
        raise Refusal(
            say("standing-who-is-here"),
            say("standing-has-left", name=seen.operator),
            say("console-name-another-operator"),
        )
    if act.actor.id != seen.director_id and seen.state in ("executing", "stopped"):
        raise NotAllowed(
            say("console-the-directors-device-records"),
            say("console-directs-this-program", director=seen.director),
            say("console-its-director-confirms-its-steps"),
        )


def _qualified_to_look(act: Act, step: Step) -> None:
    """Whoever looks as third person is qualified for the equipment; what others look at is asked by telephone."""
    here = act.site.as_it_is()
    e = here.network.element.get(step.element_id)
    if act.actor.id is None or e is None or step.others:
        return
    kind = equipment_class(here.network, e, "")
    standing.need(here, act.actor.id, act.actor.name, "operate", kind, here.day(act.now))


def _why_moved(here: SiteNow, program: Program, seen: ProgramView, step: int, version: int) -> Sayable:
    """Why the state is not the one that the confirmation was made for; empty when it is."""
    if program.state != "executing":
        return say("console-is", number=program.number, state=NAMES[program.state])
    if step != program.step + 1:
        return say("console-step-is-the-next-one", step=program.step + 1)
    if version != program.version:
        return say("console-something-was-recorded-on-the-program")
    met = met_by_next(here, seen)
    return say("console-broken", why=met.why, rule=met.rule) if met else ""


def _done(unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str]) -> str:
    detail: dict[str, Any] = {}
    if program.practice:
        detail = {name: v for name, v in (("shown", detector(seen)), ("scene", met_here(seen))) if v}
        if "scene" in detail:
            return fail(unit, program, say("practice-not-heeded", scene=detail["scene"]), detail)
    if "unlocked" in step.acts and not program.practice:
        _own_lock(program, step)
    if step.kind == "test" or step.value == PHASING:
        outcome = tested(unit, program, seen, step, said_of_it, detail)
        if outcome:
            return outcome
    detail |= asked(unit.site, seen, step, said_of_it)
    more = {**detail, **(_as_the_document_has_it(unit, program, step) if step.value == PROOF else {})}
    done = [replace(e, value=INDUCED) if detail.get("induced") else e for e in events(step, program.hold)]
    of_step = say("console-step-of", number=program.number, step=program.step + 1)
    write(unit, program, of_step, *((event, more) for event in done))
    locks.after_step(unit, program, step, seen.operator, detail.get("lock", ""))
    last = program.step + 1 == len(seen.steps)
    if last and program.practice and (why := missed(seen)):
        return fail(unit, program, why, detail)
    changes: dict[str, object] = {"state": "done"} if last else {}
    if step.kind == "handover":
        changes["in_charge_id"] = detail["in_charge"]
        detail["in_charge"] = _name(unit.site, detail["in_charge"])
    save(unit.act, program, program.version, step=program.step + 1, **changes)
    payload = {
        "step": program.step + 1,
        "acts": list(step.acts),
        "identity": step.identity,
        "action": step.action,
        "operator": seen.operator,
        "operator_id": seen.operator_id,
        **detail,
    }
    keep(unit, program, "confirmed", payload)
    unit.record(word(program, "step confirmed"), f"program:{program.number}", payload)
    if last:
        unit.record(word(program, "done"), f"program:{program.number}", {"hold": program.hold})
    if step.kind in ("operate", "check") and not program.practice:
        # the figures of others may have moved with it
        reviews.after_change(unit, of_step)
    return "done" if last else "confirmed"


def _as_the_document_has_it(unit: Unit, program: Program, step: Step) -> dict[str, Any]:
    """What a proof depends on: its pairs, and names for the island and the region as they are in the document now."""
    here = unit.site.as_it_is()
    devices = field_of(program, here).devices
    near = island(here.network, devices, step.node_id)
    around = region(here.network, devices, [step.node_id], program.hold)
    digests = {"digest": island_digest(here.network, near), "region": island_digest(here.network, around)}
    return {"pairs": list(step.pairs), **digests}


def _own_lock(program: Program, step: Step) -> None:
    """An isolation lock is taken off by the operator who hung it."""
    here = (row for row in locks.isolation_locks(program.hold) if row.element_id == step.element_id)
    hung = next((row for row in here if row.person_id != program.operator_id and not row.freed), None)
    if hung is not None:
        raise Refusal(
            say("console-a-lock-is-removed-by-whoever-hung"),
            say("console-hung-the-lock-on", name=hung.owner, identity=step.identity),
            say("console-name-as-operator-from-here-on-for", name=hung.owner),
        )


@on_site
def stop(act: Act, number: str, reason: Sayable) -> None:
    """Anyone signed in may stop a program, with a reason."""
    text = texts.REASON.check(reason) if isinstance(reason, str) else reason
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        check_move("stop", program.state, act.actor.roles, ())
        save(act, program, program.version, state="stopped", stopped_because=text)
        keep(unit, program, "stopped", {"because": text})
        unit.record(word(program, "stopped"), f"program:{number}", {"because": text, "step": program.step + 1})


@on_site
def resume(act: Act, number: str, version: int, cause: str) -> None:
    """Go on at the same step, when nothing deviated: every step to come is judged on the field as it is."""
    text = texts.REASON.check(cause, "cause")
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        move = check_move("resume", program.state, act.actor.roles, seen.parts_of(act.actor.id))
        _still_qualified(act, seen)
        broken = first_broken(seen.order, seen.now, seen.steps[: program.step], seen.steps[program.step :])
        if broken is not None:
            raise Refusal(
                broken.rule,
                say("console-it-cant-go-on-as-written", why=broken.why),
                say("console-record-what-is-not-as-written-a"),
            )
        save(act, program, version, state=move.target, stopped_because="", director_id=act.actor.id)
        keep(unit, program, "resumed", {"because": text, "step": program.step + 1})
        unit.record(word(program, "resumed"), f"program:{number}", {"because": text, "step": program.step + 1})


def _still_qualified(act: Act, seen: ProgramView) -> None:
    """What stopped it may have been that somebody is not, and days may have passed."""
    if act.actor.id is not None:
        need_qualified_for(act, seen, act.actor.id, act.actor.name, "operate", ("operate", "lock"))
    if seen.operator_id is not None:
        _check_operator(act, seen, seen.operator_id)


@on_site
def deviate(act: Act, number: str, version: int, tag: str, value: str, note: str) -> tuple[str, Sayable]:
    """Not as written: what was found is recorded, the program ends, a successor is drafted from the state as it is.

    ``value`` empty: nothing was operated. Returns the successor's number, and why there is none.
    """
    text = texts.REASON.check(note, "note")
    with work(act) as unit:
        if unit.done:
            return "", ""
        program = stored(number)
        check_move("deviate", program.state, act.actor.roles, ())
        if value:
            _found(unit, program, tag, value, text)
        fresh = stored(number)
        if fresh.version not in (version, version + 1):
            save(act, fresh, version)  # stale: says who changed it
        save(act, fresh, fresh.version, state="abandoned", stopped_because="")
        detail = {"because": text, "step": program.step + 1, "found": f"{tag} {value}".strip()}
        keep(unit, program, "deviation", detail)
        unit.record(word(program, "ended by a deviation"), f"program:{number}", detail)
        if program.practice:
            return "", say("console-a-practice-run-has-no-successor")
        return succeed(unit, stored(number))


def _found(unit: Unit, program: Program, tag: str, value: str, note: str) -> None:
    element = unit.site.as_it_is().network.by_tag.get(tag)
    if element is None:
        raise InputError("tag", tag, say("console-the-tag-of-equipment-in-the-network"))
    check_found(element, value)
    if program.practice:
        found = FieldEvent(sequence=0, at="", actor="", kind="found", element_id=element.id, value=value)
        write(unit, program, note, (found, {}))
        return
    record_found(unit, element, value, note)


def third_person_checks(site: Site) -> bool:
    """Does the site want somebody else than director and operator to confirm the checks?"""
    return str(site.as_it_is().settings["checks_by"]) == "third_person"
