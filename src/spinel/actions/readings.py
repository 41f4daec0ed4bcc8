"""Readings typed on the console: what makes a test good, and what is recorded when it is not."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from spinel.actions import reviews
from spinel.actions.acting import Unit
from spinel.actions.keeping import keep, save
from spinel.actions.practice import false_reading
from spinel.actions.program_view import ProgramView, stored, word, write
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.isolation import absence
from spinel.core.network.field import FAILED, INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from spinel.core.network.now import VOLTAGE_PRESENT, FieldEvent
from spinel.core.said import Sayable, say
from spinel.core.switching.steps import Step, events
from spinel.store.models import Program


def tested(
    unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> str:
    """Read what was typed. Empty when the test is good; otherwise what was recorded instead of the step."""
    practice = seen.order.study.profile.instruments
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return _instrument(unit, program, seen, step, said_of_it, detail)
    readings = absence.check_readings(step.pairs, _by_pair(said_of_it, len(step.pairs), step.pairs))
    detail["readings_v"] = readings
    if program.practice and (false := false_reading(seen, readings)):
        return fail(unit, program, false)
    if step.value == RESIDUAL:
        first, second = readings["first"], readings["second"]
        if absence.residual_falls(first, second, practice):
            return ""
        why = say("readings-residual-voltage-of-went-from-v-to", identity=step.identity, first=first, second=second)
    else:
        high = absence.present(readings, practice.absent_v)
        if not high:
            return ""
        shown = tuple(say("readings-v", pair=pair, volts=volts) for pair, volts in high.items())
        why = say("readings-voltage-is-present-at", identity=step.identity, shown=shown)
    _voltage(unit, program, step, why, detail)
    return "stopped"


def fail(unit: Unit, program: Program, why: Sayable) -> str:
    """A practice run ends here, failed, with the moment named."""
    fresh = stored(program.number)
    because = say("practice-failed-at-step", step=program.step + 1, why=why)
    save(unit.act, fresh, fresh.version, state="abandoned", stopped_because=because)
    keep(unit, fresh, "failed", {"because": because})
    unit.record(word(program, "failed"), f"program:{program.number}", {"because": because})
    return "failed"


def _by_pair(said_of_it: Mapping[str, str], count: int, pairs: tuple[str, ...]) -> dict[str, str]:
    """The form's fields reading_0, reading_1 ... by pair."""
    return {pairs[i]: said_of_it.get(f"reading_{i}", "") for i in range(count)}


def _voltage(unit: Unit, program: Program, step: Step, why: Sayable, detail: Mapping[str, Any]) -> None:
    event = FieldEvent(
        sequence=0,
        at="",
        actor="",
        kind="found",
        element_id=step.element_id,
        value=VOLTAGE_PRESENT,
        hold=program.hold,
        node_id=step.node_id,
    )
    write(unit, program, event, why, detail)
    _halt(unit, program, say("readings-stop-find-what-feeds-it-do-not", why=why))
    if not program.practice:
        element = unit.site.as_it_is().network.element[step.element_id]
        reviews.after_found(unit, element, say("readings-with-voltage-present"))


def _halt(unit: Unit, program: Program, reason: Sayable, **changes: object) -> None:
    fresh = stored(program.number)
    save(unit.act, fresh, fresh.version, state="stopped", stopped_because=reason, **changes)
    keep(unit, fresh, "stopped", {"because": reason})
    unit.record(word(program, "stopped"), f"program:{program.number}", {"because": reason})


def _instrument(
    unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> str:
    """The instrument on a known source. Wrong before: take another. Wrong after: every test since is void."""
    name = texts.INSTRUMENT.check(said_of_it.get("instrument", ""))
    source = absence.READING_V.parse(said_of_it.get("source_v", ""), "source_v")
    practice = seen.order.study.profile.instruments
    if not source >= practice.least_source_v:
        raise InputError("source_v", source, say("readings-a-known-source-of", least_v=practice.least_source_v))
    reading = absence.READING_V.parse(said_of_it.get("reading_v", ""), "reading_v")
    detail |= {"instrument": name, "source_v": source, "reading_v": reading}
    if program.practice and (false := false_reading(seen, {"source_v": source, "reading_v": reading})):
        return fail(unit, program, false)
    good = absence.instrument_works(reading, source, practice)
    if step.value == INSTRUMENT_BEFORE:
        if not good:
            raise Refusal(
                say("readings-the-instrument-is-proved-before-and-after"),
                say("readings-reads-v-on-a-source-of-v-2", name=name, reading=reading, source=source),
                say("readings-take-it-out-of-service-and-prove"),
                "reading_v",
            )
        return ""
    before = next(r for r in reversed(seen.valid("confirmed")) if "instrument" in r.detail)
    if name != before.detail["instrument"]:
        raise InputError(
            "instrument", name, say("readings-the-instrument-of-the-tests", instrument=before.detail["instrument"])
        )
    if good:
        return ""
    write(unit, program, replace(events(step, program.hold)[0], value=FAILED), "instrument failed its check", detail)
    first = next(i for i in range(program.step, -1, -1) if seen.steps[i].value == INSTRUMENT_BEFORE)
    _halt(
        unit, program, say("readings-reads-v-on-a-source-of-v", name=name, reading=reading, source=source), step=first
    )
    return "repeat"
