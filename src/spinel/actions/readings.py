"""Readings typed on the console: what makes a test good, and what is recorded when it is not."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from spinel.actions import gear, instruments, reviews
from spinel.actions.acting import Unit
from spinel.actions.gear import bar_in
from spinel.actions.keeping import keep, save
from spinel.actions.practice import false_reading
from spinel.actions.program_view import ProgramView, stored, word, write
from spinel.actions.read_again import may_read_again, second
from spinel.core import texts
from spinel.core.errors import InputError, NotFound
from spinel.core.gear.items import why_not
from spinel.core.gear.kinds import WITH_INSTRUMENTS
from spinel.core.isolation import absence
from spinel.core.isolation.instruments import DETECTOR, Instrument, shows
from spinel.core.network.field import FAILED, INSTRUMENT_AFTER, INSTRUMENT_BEFORE, RESIDUAL
from spinel.core.network.now import VOLTAGE_PRESENT, FieldEvent
from spinel.core.said import Sayable, say
from spinel.core.switching.steps import PHASING, Step, events
from spinel.store.models import Program


def tested(
    unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> str:
    """Read what was typed. Empty when the test is good; otherwise what was recorded instead of the step."""
    if step.value == PHASING:
        return _phased(unit, program, step, said_of_it, detail)
    if step.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        return _instrument(unit, program, seen, step, said_of_it, detail)
    if step.instrument == DETECTOR:
        typed, why = _indications(step, said_of_it, detail)
    else:
        typed, why = _volts(seen, step, said_of_it, detail)
    if program.practice and (false := false_reading(seen, typed)):
        return fail(unit, program, false, detail)
    if why and step.instrument != DETECTOR and may_read_again(unit, program, seen, step):
        practice = seen.order.study.profile.instruments
        high = absence.present({p: float(v) for p, v in typed.items()}, practice.absent_v)
        again = second(unit, program, seen, step, high, said_of_it, detail)
        if again is None:
            return "read_again"
        why = "" if again and _only_induced(seen, step, high, detail) else again
    if not why:
        return ""
    _voltage(unit, program, step, why, detail)
    return "stopped"


def _only_induced(seen: ProgramView, step: Step, high: Mapping[str, float], detail: dict[str, Any]) -> bool:
    """Is what was read twice no more than a parallel line induces there? Then it may be grounded, which is recorded."""
    order, low = seen.order, detail.get("low", {})
    if not order.tests_grounded or low.get("failed") or not low.get("readings_v"):
        return False
    if not absence.may_be_induced(order.network, seen.now, step.node_id, order.hold):
        return False
    nominal_v = order.network.node[step.node_id].nominal_voltage_v
    found = absence.only_induced(high, low["readings_v"], nominal_v, order.study.profile.instruments)
    if found:
        detail["induced"] = True
    return found


#: Are conductors joined as they were? The last means that somebody has to find out why.
AS_BEFORE, NOT_TAKEN_APART, OTHERWISE = "as_before", "not_taken_apart", "otherwise"


def _phased(
    unit: Unit, program: Program, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> str:  # fmt: skip
    """Phasing and rotation before the first closing. Not as they were: the program stops."""
    found = said_of_it.get("phased", "")
    if found not in (AS_BEFORE, NOT_TAKEN_APART, OTHERWISE):
        raise InputError("phased", found, say("readings-as-before-or-not"))
    detail |= {"phased": found, "phased_how": texts.PHASED.check(said_of_it.get("phased_how", ""))}
    if found != OTHERWISE:
        return ""
    why = say("readings-phases-are-not-as-they-were", identity=step.identity, how=detail["phased_how"])
    if program.practice:
        return fail(unit, program, why, detail)
    _halt(unit, program, why, detail)
    return "stopped"


def _volts(
    seen: ProgramView, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> tuple[Mapping[str, float | str], Sayable]:
    """The readings typed, and what they say is wrong; empty when nothing is."""
    practice = seen.order.study.profile.instruments
    readings = absence.check_readings(step.pairs, _by_pair(said_of_it, step.pairs))
    detail["readings_v"] = readings
    if step.value == RESIDUAL:
        first, second = readings["first"], readings["second"]
        falls = absence.residual_falls(first, second, practice, *_charged(seen, step))
        code = "readings-residual-voltage-of-went-from-v-to"
        return readings, "" if falls else say(code, identity=step.identity, first=first, second=second)
    high = absence.present(readings, practice.absent_v)
    shown = tuple(say("readings-v", pair=pair, volts=volts) for pair, volts in high.items())
    return readings, say("readings-voltage-is-present-at", identity=step.identity, shown=shown) if high else ""


def _charged(seen: ProgramView, step: Step) -> tuple[float, float | None]:
    """The nominal voltage of what a residual is read of, V, and its discharge time, min."""
    e = seen.order.network.element[step.element_id]
    return max(seen.order.network.node[n].nominal_voltage_v for n in e.ends), e.discharge_min


def _indications(
    step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> tuple[Mapping[str, float | str], Sayable]:
    """What a detector indicated, and what is wrong. After the discharge time it still indicates: that is a source."""
    said = absence.check_indications(step.pairs, _by_pair(said_of_it, step.pairs))
    detail["indications"] = said
    decisive = step.pairs[-1:] if step.value == RESIDUAL else step.pairs
    on = tuple(say("readings-indicates", pair=pair) for pair in decisive if said[pair] == absence.INDICATES)
    return said, say("readings-voltage-is-present-at", identity=step.identity, shown=on) if on else ""


def fail(unit: Unit, program: Program, why: Sayable, detail: Mapping[str, Any] | None = None) -> str:
    """A practice run ends here, failed, with the moment named. ``detail``: what was shown and what was recorded."""
    fresh = stored(program.number)
    because = say("practice-failed-at-step", step=program.step + 1, why=why)
    save(unit.act, fresh, fresh.version, state="abandoned", stopped_because=because)
    keep(unit, fresh, "failed", {**(detail or {}), "step": program.step + 1, "because": because})
    unit.record(word(program, "failed"), f"program:{program.number}", {"because": because})
    return "failed"


def _by_pair(said_of_it: Mapping[str, str], pairs: tuple[str, ...]) -> dict[str, str]:
    """The form's fields reading_0, reading_1 ... by pair."""
    return {pair: said_of_it.get(f"reading_{i}", "") for i, pair in enumerate(pairs)}


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
    write(unit, program, why, (event, detail))
    shown = {**detail, "step": program.step + 1} if program.practice else {}
    _halt(unit, program, say("readings-stop-find-what-feeds-it-do-not", why=why), shown)
    if not program.practice:
        element = unit.site.as_it_is().network.element[step.element_id]
        reviews.after_found(unit, element, say("readings-with-voltage-present"))


def _halt(
    unit: Unit, program: Program, reason: Sayable, detail: Mapping[str, Any] | None = None, **changes: object
) -> None:  # fmt: skip
    fresh = stored(program.number)
    save(unit.act, fresh, fresh.version, state="stopped", stopped_because=reason, **changes)
    keep(unit, fresh, "stopped", {**(detail or {}), "because": reason})
    unit.record(word(program, "stopped"), f"program:{program.number}", {"because": reason})


def _instrument(
    unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str], detail: dict[str, Any]
) -> str:
    """The instrument on a known source. Wrong before: take another. Wrong after: every test since is void. Either way
    nobody uses it again before somebody has cleared it."""
    one = _chosen(unit, program, seen, step, said_of_it)
    detail["instrument"] = one.number
    if step.value == INSTRUMENT_AFTER:
        # somebody took it, or what it was used with, out of use meanwhile: what it showed counts no more
        used = [(one.number, one.barred), *_barred_with(unit, seen, step)]
        if barred := next(((number, why) for number, why in used if why), None):
            return _void(unit, program, seen, step, say("instruments-barred", number=barred[0], why=barred[1]), detail)
    if beside := _used_with(unit, seen, step, said_of_it):
        detail["with"] = beside
    typed = _on_a_detector(said_of_it) if step.instrument == DETECTOR else _on_a_source(seen, one, said_of_it)
    detail |= typed
    if program.practice and (false := false_reading(seen, typed)):
        return fail(unit, program, false, detail)
    if _works(seen, typed):
        return ""
    shown = _shown(one.number, typed)
    if not program.practice:
        bar_in(unit, one.number, say("readings-barred-by", number=program.number, step=program.step + 1, why=shown))
    if step.value == INSTRUMENT_BEFORE:
        keep(unit, program, "instrument failed", {**detail, "because": shown})
        unit.record(word(program, "instrument failed"), f"program:{program.number}", {**detail, "because": shown})
        return "another"
    return _void(unit, program, seen, step, shown, detail)


def _used_with(unit: Unit, seen: ProgramView, step: Step, said_of_it: Mapping[str, str]) -> list[str]:
    """Numbers of leads and of a proving unit that it was used with, as far as somebody typed them. InputError for what
    is none, and for one that nobody may use."""
    found = []
    for typed in re.split(r"[,;\s]+", said_of_it.get("with_it", "").strip()):
        if not typed:
            continue
        number = texts.INSTRUMENT.check(typed, "with_it")
        try:
            item = gear.one(unit.site, number)
        except NotFound:
            raise InputError("with_it", typed, say("readings-leads-or-a-proving-unit")) from None
        if item.kind_id not in WITH_INSTRUMENTS:
            raise InputError("with_it", typed, say("readings-leads-or-a-proving-unit"))
        if why := why_not(item, gear.today(unit.site, unit.act.at)) or instruments.fits_beside(seen, step, item):
            raise InputError("with_it", typed, say("readings-an-instrument-that-fits", why=why))
        found.append(item.number)
    return found


def _barred_with(unit: Unit, seen: ProgramView, step: Step) -> list[tuple[str, Sayable]]:
    """What any check before, that this one closes, was made with, and why nobody uses it by now."""
    known = (r for r in seen.valid("confirmed") if "with" in r.detail and _was(seen, r.detail) == step)
    numbers = dict.fromkeys(n for r in known for n in r.detail["with"])
    return [(n, gear.one(unit.site, n).barred) for n in numbers]


def _void(
    unit: Unit, program: Program, seen: ProgramView, step: Step, why: Sayable, detail: Mapping[str, Any]
) -> str:  # fmt: skip
    """Every test since the instrument was proved is void: the program goes back there, with another."""
    failed = replace(events(step, program.hold)[0], value=FAILED)
    write(unit, program, "instrument failed its check", (failed, detail))
    before = (i for i in range(program.step, -1, -1) if seen.steps[i].value == INSTRUMENT_BEFORE)
    first = next(i for i in before if seen.steps[i].instrument == step.instrument)
    _halt(unit, program, say("readings-failed-afterwards", why=why), step=first)
    return "repeat"


def _chosen(
    unit: Unit, program: Program, seen: ProgramView, step: Step, said_of_it: Mapping[str, str]
) -> Instrument:  # fmt: skip
    """The instrument named, which must fit all that is tested with it; afterwards the same as before."""
    number = texts.INSTRUMENT.check(said_of_it.get("instrument", ""))
    try:
        one = instruments.one(unit.site, number, gear.today(unit.site, unit.act.at))
    except NotFound:
        raise InputError("instrument", number, say("readings-an-instrument-of-the-list")) from None
    if step.value == INSTRUMENT_AFTER:
        known = (
            r for r in reversed(seen.valid("confirmed")) if "instrument" in r.detail and _was(seen, r.detail) == step
        )
        before = next((r.detail["instrument"] for r in known), one.number)
        if one.number != before:
            raise InputError("instrument", number, say("readings-the-instrument-of-the-tests", instrument=before))
        return one
    why = instruments.fits(seen, step, one)
    if why:
        raise InputError("instrument", number, say("readings-an-instrument-that-fits", why=why))
    return one


def _was(seen: ProgramView, detail: Mapping[str, Any]) -> Step | None:
    """The check afterwards that belongs to a check before."""
    before = seen.steps[detail["step"] - 1]
    same = (s for s in seen.steps[detail["step"] :] if s.value == INSTRUMENT_AFTER)
    return next((s for s in same if s.instrument == before.instrument), None)


def _on_a_detector(said_of_it: Mapping[str, str]) -> dict[str, Any]:
    said = said_of_it.get("indicates", "")
    if said not in (absence.INDICATES, absence.DOES_NOT):
        raise InputError("indicates", said, say("absence-indicates-or-does-not"))
    return {"indicates": said}


def _on_a_source(seen: ProgramView, one: Instrument, said_of_it: Mapping[str, str]) -> dict[str, Any]:
    source = absence.READING_V.parse(said_of_it.get("source_v", ""), "source_v")
    least = seen.order.study.profile.instruments.least_source_v
    if not source >= least:
        raise InputError("source_v", source, say("readings-a-known-source-of", least_v=least))
    if not shows(one, source):
        code = "readings-a-source-of-its-own-range"
        raise InputError("source_v", source, say(code, number=one.number, low_v=one.low_v, high_v=one.high_v))
    return {"source_v": source, "reading_v": absence.READING_V.parse(said_of_it.get("reading_v", ""), "reading_v")}


def _works(seen: ProgramView, typed: Mapping[str, Any]) -> bool:
    if "indicates" in typed:
        return bool(typed["indicates"] == absence.INDICATES)
    return absence.instrument_works(typed["reading_v"], typed["source_v"], seen.order.study.profile.instruments)


def _shown(number: str, typed: Mapping[str, Any]) -> Sayable:
    if "indicates" in typed:
        return say("readings-did-not-indicate", name=number)
    return say("readings-reads-v-on-its-source", name=number, reading=typed["reading_v"], source=typed["source_v"])
