"""A voltage that a contact instrument shows may be coupled, not fed: read once more with one of low impedance.

Both readings are recorded. The second instrument is proved before and after on a known source, like any. What it still
shows is a voltage, and stops the program; nobody has to read again.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from spinel.actions import gear, instruments
from spinel.actions.acting import Unit
from spinel.actions.gear import bar_in
from spinel.actions.keeping import keep
from spinel.actions.program_view import ProgramView, word
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound
from spinel.core.isolation import absence
from spinel.core.isolation.instruments import LOW_IMPEDANCE, Instrument, shows
from spinel.core.network.field import PROOF
from spinel.core.said import Sayable, say
from spinel.core.switching.steps import Step
from spinel.store.models import Program

#: What was typed where nobody reads again: the voltage stands.
STANDS = "stands"
READ_HIGH = "read high"


def may_read_again(unit: Unit, program: Program, seen: ProgramView, step: Step) -> bool:
    """Only a test for absence of voltage, made with an instrument that hardly loads what it reads."""
    used = next((r.detail["instrument"] for r in reversed(seen.valid("confirmed")) if "instrument" in r.detail), "")
    try:
        light = bool(used) and gear.one(unit.site, used).kind_id != LOW_IMPEDANCE
    except NotFound:
        light = False
    return step.value == PROOF and light and not program.practice


@on_site
def asked_again(site: Site, seen: ProgramView, day: date) -> tuple[tuple[str, ...], tuple[Instrument, ...]]:
    """The pairs of the present step that read high when they were read last, and with what they can be read again."""
    last = next((r for r in reversed(seen.records) if r.kind == READ_HIGH), None)
    if seen.current is None or last is None or last.detail["step"] != seen.done + 1:
        return (), ()
    limit_v = seen.order.study.profile.instruments.absent_v
    fit = [one for one, why in instruments.to_choose(site, seen, seen.current, day) if not why]
    high = tuple(absence.present({p: float(v) for p, v in last.detail["readings_v"].items()}, limit_v))
    return high, tuple(one for one in fit if one.kind == LOW_IMPEDANCE)


def second(
    unit: Unit, program: Program, seen: ProgramView, step: Step, high: Mapping[str, float],
    said_of_it: Mapping[str, str], detail: dict[str, Any],
) -> Sayable | None:  # fmt: skip
    """What the second reading says is wrong, empty when nothing is; None where there is none yet: the first is kept."""
    if said_of_it.get("low") == STANDS:
        return _shown(step, high)
    if not said_of_it.get("low_instrument", "").strip():
        known = {**detail, "step": program.step + 1, "because": _shown(step, high)}
        keep(unit, program, READ_HIGH, known)
        unit.record(word(program, READ_HIGH), f"program:{program.number}", known)
        return None
    one = _chosen(unit, seen, step, said_of_it["low_instrument"])
    source = absence.READING_V.parse(said_of_it.get("low_source_v", ""), "low_source_v")
    practice = seen.order.study.profile.instruments
    if not source >= practice.least_source_v or not shows(one, source):
        code = "readings-a-source-of-its-own-range"
        raise InputError("low_source_v", source, say(code, number=one.number, low_v=one.low_v, high_v=one.high_v))
    checks = {n: absence.READING_V.parse(said_of_it.get(n, ""), n) for n in ("low_before_v", "low_after_v")}
    fields = {pair: f"low_{step.pairs.index(pair)}" for pair in high}
    readings = {pair: absence.READING_V.parse(said_of_it.get(name, ""), name) for pair, name in fields.items()}
    detail["low"] = {"instrument": one.number, "source_v": source, **checks, "readings_v": readings}
    for shown in checks.values():
        if not absence.instrument_works(shown, source, practice):
            why = say("readings-reads-v-on-its-source", name=one.number, reading=shown, source=source)
            bar_in(unit, one.number, say("readings-barred-by", number=program.number, step=program.step + 1, why=why))
            detail["low"]["failed"] = True
            return _shown(step, high)
    still = absence.present(readings, practice.absent_v)
    return _shown(step, still) if still else ""


def _shown(step: Step, high: Mapping[str, float]) -> Sayable:
    shown = tuple(say("readings-v", pair=pair, volts=volts) for pair, volts in high.items())
    return say("readings-voltage-is-present-at", identity=step.identity, shown=shown)


def _chosen(unit: Unit, seen: ProgramView, step: Step, typed: str) -> Instrument:
    number = texts.INSTRUMENT.check(typed, "low_instrument")
    try:
        one = instruments.one(unit.site, number, gear.today(unit.site, unit.act.at))
    except NotFound:
        raise InputError("low_instrument", number, say("readings-an-instrument-of-the-list")) from None
    if one.kind != LOW_IMPEDANCE:
        raise InputError("low_instrument", number, say("readings-one-of-low-impedance"))
    why = instruments.fits(seen, step, one)
    if why:
        raise InputError("low_instrument", number, say("readings-an-instrument-that-fits", why=why))
    return one
