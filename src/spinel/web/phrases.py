"""What pages say of one thing: a program on the board, a side of a device, a record. Registered as filters."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

from spinel.actions.board import Due, Switching
from spinel.actions.program_view import ProgramView
from spinel.actions.signed import Record
from spinel.core.hazard import Hazard
from spinel.core.isolation.able import Figures
from spinel.core.isolation.instruments import DETECTOR
from spinel.core.network.field import INSTRUMENT_AFTER, INSTRUMENT_BEFORE
from spinel.core.said import Said, Sayable, joined, say, verbatim
from spinel.core.stored import parsed
from spinel.core.switching.steps import Step
from spinel.web.filters import equipment_class, words
from spinel.web.here import here
from spinel.wording import formats


def stands(s: Switching) -> Said:
    """How a program on the board stands."""
    if s.late:
        first = say("stands-late", what=s.state, says=s.says)
    else:
        first = say("stands-at-step", step=s.step, says=s.says, executing=s.state == "executing")
    reads = say("stands-reads", name=s.director) if s.director and s.state != "done" else ""
    return joined(first, reads, between=" ")


def due(d: Due) -> Said:
    """What a permit with a running window asks for."""
    p, on_it = d.permit, d.permit.roster
    if d.late:
        return say("due-late", count=len(on_it), names=tuple(on_it.values()))
    if p.state == "suspended":
        return say("due-suspended", because=p.suspended_because)
    name = p.content["people"]["in_charge"]["name"]
    if p.state == "issued":
        return say("due-issued", name=name, title=p.content["title"])
    return say("due-in-force", name=name, title=p.content["title"], count=len(on_it))


def hours_minutes(minutes: int) -> str:
    return str(minutes) if minutes < 100 else f"{minutes // 60}:{minutes % 60:02d}"


def contributions(fault: Mapping[str, Any]) -> Said:
    """Who feeds a fault, the first three of them."""
    first = list(fault["contributions_ka"].items())[:3]
    return say("fact-worst-case", feeders=tuple(say("fact-feeder", tag=tag, ka=ka) for tag, ka in first))


def _rated(arc_rating_cal_cm2: float | None) -> Said:
    if not arc_rating_cal_cm2:
        return say("none-required")
    return say("at-least", energy_cal_cm2=arc_rating_cal_cm2)


def rating(kit: Mapping[str, Any]) -> Said:
    return _rated(kit["arc_rating_cal_cm2"])


def _gloves(glove: Sayable | None) -> Said:
    return say("class-of", glove=glove) if glove else say("none-made")


def step_gear(f: Figures) -> Said:
    """What stands behind the energy of a step: distance, boundary, clothing, gloves."""
    rated = f.arc_rating_cal_cm2
    return say(
        "step-gear", distance_mm=f.working_distance_mm, boundary_mm=f.boundary_mm,
        rating=say("step-rating", energy_cal_cm2=rated) if rated else say("step-no-rating"), gloves=_gloves(f.glove),
    )  # fmt: skip


def shock_of_voltage(v: Mapping[str, Any]) -> Said:
    """Gloves and restricted boundary of one voltage."""
    a = v["approach"]
    nearest: Said = say("avoid-contact") if a["avoid_contact"] else say("none")
    if a["restricted_mm"]:
        nearest = say("shock-mm", mm=a["restricted_mm"])
    boundary_ = say("shock-restricted", what=nearest)
    return joined(say("shock-gloves", glove=v["glove"]) if v["glove"] else "", boundary_, between=", ")


def boundary(a: Mapping[str, Any], name: str) -> Said:
    """A boundary as both columns of the table have it."""
    mm, inches = a[f"{name}_mm"], a[f"{name}_in"]
    if not mm:
        return say("avoid-contact") if name == "restricted" else say("none")
    return say("shock-both", mm=mm, feet=formats.feet_inches(inches) if inches else "")


def gear(h: Hazard) -> Said:
    """What is worn for a task that needs no permit."""
    kit = h.kit
    assert kit is not None
    items = joined(*kit.items, between="; ")
    return say(
        "job-gear", level=kit.level, rating=_rated(kit.arc_rating_cal_cm2), glove=_gloves(h.glove),
        over=say("over-gloves"), items=items,
    )  # fmt: skip


def side(h: Hazard) -> Said:
    """The figures of one side, for who chooses."""
    needs = say("side-only-while", needs=tuple(h.needs)) if h.needs else ""
    if h.no_figure and not h.below_threshold:
        return say("side-no-figure", why=h.no_figure, needs=needs)
    if h.energy is None:
        return say("side-volts", voltage_v=h.voltage_v, current=h.current, needs=needs)
    device = h.energy.clearing.device
    return say(
        "side-energy", energy_cal_cm2=h.energy_cal_cm2, boundary_mm=h.boundary_mm,
        device=device.tag if device else "none", needs=needs,
    )  # fmt: skip


def worst_side(w: Mapping[str, Any]) -> Said:
    """Of a permit for a better side: what the worst would be, and what the better one rests on."""
    energy, mm = w["energy_cal_cm2"], w["boundary_mm"]
    return say(
        "worst-side-of-permit", energy=say("energy-amount", energy_cal_cm2=energy) if energy else say("no-figure"),
        boundary=say("job-worst-boundary", boundary_mm=mm) if mm else "", needs=tuple(w["needs"]),
    )  # fmt: skip


def at_distance(h: Mapping[str, Any]) -> Said:
    """Energy and clothing at a distance that is being tried."""
    energy, mm, wide = h["energy_cal_cm2"], h["working_distance_mm"], h["boundary_mm"]
    if h["beyond_ceiling"]:
        ceiling = h["ceiling_cal_cm2"]
        return say("distance-beyond", energy_cal_cm2=energy, distance_mm=mm, ceiling_cal_cm2=ceiling, boundary_mm=wide)
    return say("distance-energy", energy_cal_cm2=energy, distance_mm=mm, rating=rating(h["kit"]), boundary_mm=wide)


def figures_of(job: Any, show_worst: bool) -> Iterator[Said]:
    """The figures of a job, line by line."""
    h: Hazard = job.hazard
    if len(h.voltages) > 1:
        volts = tuple(say("voltage-and-kind", voltage_v=v.voltage_v, current=v.current) for v in h.voltages)
        yield say("job-voltages", volts=volts)
    if h.below_threshold:
        yield say("job-highest", voltage_v=h.voltage_v, current=h.current)
    elif h.no_figure or h.energy is None:
        yield say("job-no-figure", why=h.no_figure)
    else:
        device = h.energy.clearing.device
        yield say(
            "job-energy", energy_cal_cm2=h.energy_cal_cm2, distance_mm=h.working_distance_mm,
            boundary_mm=h.boundary_mm, case=h.energy.case, device=device.tag if device else "none",
        )  # fmt: skip
    if show_worst:
        energy, mm = job.worst.energy_cal_cm2, job.worst.boundary_mm
        yield say(
            "job-worst-side", energy=say("energy-amount", energy_cal_cm2=energy) if energy else say("no-figure"),
            boundary=say("job-worst-boundary", boundary_mm=mm) if mm else "", needs=tuple(h.needs),
        )  # fmt: skip
    if h.inside_restricted:
        yield say("job-inside-restricted")
    if not h.below_threshold:
        a = h.approach
        nearest = say("shock-metres", mm=a.restricted_mm) if a.restricted_mm else say("avoid-contact")
        yield say("job-shock", limited_mm=a.limited_fixed_mm, restricted=nearest, glove=_gloves(h.glove))
    if job.duty:
        verdict = say("duty-passes") if job.duty.adequate else say("duty-fails")
        yield say("job-duty", verdict=verdict, reason=job.duty.reason)


def happened(r: Record, may_be_void: tuple[str, ...], only_these: bool) -> Said:
    """What a record is, and whether it no longer counts; ``may_be_void``: the kinds of which that is said, or not."""
    void = not r.valid and ((r.kind in may_be_void) is only_these)
    step = r.detail.get("step")
    code = f"record-{r.kind.replace(' ', '-')}"
    kind = say(code) if words().knows(code) else verbatim(r.kind)
    return say("record", kind=kind, void=void, step=say("record-step", step=step) if step and only_these else "")


def particulars(r: Record) -> Said:
    """Everything that a record of a program holds besides its kind, in one line."""
    d = r.detail
    found: list[Sayable] = []
    if d.get("because"):
        found.append(say("record-because", because=d["because"]))
    if d.get("action"):
        found.append(say("record-action", tag=d["identity"], action=d["action"], operator=d["operator"]))
    if d.get("readings_v"):
        pairs = tuple(say("record-reading", pair=p, volts=float(v)) for p, v in d["readings_v"].items())
        found.append(say("record-readings", readings=pairs))
    if d.get("indications"):
        said = tuple(say("record-indication", pair=p, said=say(f"detector-{v}")) for p, v in d["indications"].items())
        found.append(say("record-readings", readings=said))
    if d.get("instrument") and d.get("indicates"):
        shown = say(f"detector-{d['indicates']}")
        found.append(say("record-detector", instrument=d["instrument"], said=shown))
    elif d.get("instrument"):
        reads, source = float(d["reading_v"]), float(d["source_v"])
        found.append(say("record-instrument", instrument=d["instrument"], reading_v=reads, source_v=source))
    if d.get("with"):
        found.append(say("record-with", numbers=tuple(d["with"])))
    if d.get("people"):
        found.append(say("record-people", people=tuple(d["people"])))
    for name, who in d.get("answered", {}).items():
        found.append(say("record-answered", name=name, who=who))
    for tag, watch in d.get("watched", {}).items():
        found.append(say("record-watched", tag=tag, watch=watch))
    found += _looked_at_twice(d)
    found += [say(f"record-{name.replace('_', '-')}", **{arg: d[name]}) for name, arg in _LAST if d.get(name)]
    return joined(*found, between="")


#: What others said, and the number of a lock, or of their paper.
_LAST = (("said_by", "who"), ("lock", "lock"))


def _looked_at_twice(d: Mapping[str, Any]) -> list[Sayable]:
    """A voltage read once more; phases compared with what they were."""
    found: list[Sayable] = []
    if d.get("low"):
        low = d["low"]
        pairs = tuple(say("record-reading", pair=p, volts=float(v)) for p, v in low["readings_v"].items())
        found.append(say("record-low", instrument=low["instrument"], readings=pairs))
    if d.get("induced"):
        found.append(say("record-induced"))
    if d.get("phased"):
        found.append(say("record-phased", said=say(f"phased-{d['phased']}"), how=d["phased_how"]))
    return found


def dark(d: Mapping[str, Any]) -> Said:
    """What loses its supply with a program: what it serves, whom to tell, how long it may be off."""
    found: list[Sayable] = [verbatim(d["what"])] if d["what"] else []
    if d["notify"]:
        found.append(say("dark-tell", notify=d["notify"]))
    if d["critical"]:
        found.append(say("dark-critical"))
    if d["tolerates_min"] is not None:
        found.append(say("dark-at-most", minutes=d["tolerates_min"]))
    if "from_step" in d:
        found.append(_between(d["from_step"], d["until_step"]))
    return joined(*found, between=", ")


def off_between(o: Any) -> Said:
    """What it serves, and between which steps of a switching it is off."""
    return joined(verbatim(o.element.serves or o.element.name), _between(o.from_step, o.until_step), between=", ")


def _between(first: int, last: int | None) -> Said:
    """From which step on something is off, until which, and how long that may take by estimate."""
    if last is None:
        return say("off-from-step", step=first)
    return say("off-between", step=first, until=last, minutes=here().minutes_for(last - first))


def last_phase(s: Step) -> Said:
    """What the third press of a step says."""
    if s.kind == "lock":
        return say("phase-locked" if "locked" in s.acts else "phase-off")
    return say(f"phase-{s.kind}" if s.kind in ("operate", "check", "test") else "phase-done")


def blanks(s: Step, r: Record | None) -> list[Said]:
    """What is written on the paper of a step: as it was read, or a line to write on."""
    d = r.detail if r else {}
    readings = d.get("readings_v") or {}

    def amount(value: Any) -> Sayable:
        return say("paper-volts", volts=float(value)) if value is not None else "______"

    said = d.get("indications") or {}

    def indication(value: Any) -> Sayable:
        return say(f"detector-{value}") if value else say("paper-indicates-or-not")

    if s.instrument == DETECTOR:
        found = [say("paper-pair", pair=pair, volts=indication(said.get(pair))) for pair in s.pairs]
    else:
        found = [say("paper-pair", pair=pair, volts=amount(readings.get(pair))) for pair in s.pairs]
    if s.others:
        found.append(say("paper-said-by", who=d.get("said_by") or "____________"))
    if "locked" in s.acts:
        found.append(say("paper-lock", lock=d.get("lock") or "______"))
    found += [say("paper-answered", name=n, who=d.get("answered", {}).get(n) or "____________") for n in s.names]
    found += [say("paper-watched", tag=n, watch=d.get("watched", {}).get(n) or "____________") for n in s.critical]
    if s.kind == "handover":
        found.append(say("paper-handover", name=d.get("in_charge") or "________________"))
    if s.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        found.append(say("paper-instrument", instrument=d.get("instrument") or "______"))
    if s.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER) and s.instrument == DETECTOR:
        found.append(say("paper-on-its-unit", said=indication(d.get("indicates"))))
    elif s.value in (INSTRUMENT_BEFORE, INSTRUMENT_AFTER):
        found += [
            say("paper-source", volts=amount(d.get("source_v"))),
            say("paper-reads", volts=amount(d.get("reading_v"))),
        ]
    return found


def act(name: str) -> Said:
    """An act of the ledger as it is read; one that the catalogue does not know as it was recorded."""
    code = name.replace(" ", "-")
    of, _, kind = code.partition("-")
    if of in ("permit", "program", "practice", "job") and words().knows(f"record-{kind}"):
        return say(f"act-of-{of}", what=say(f"record-{kind}"))
    return say(f"act-{code}") if words().knows(f"act-{code}") else verbatim(name)


def subject(name: str) -> str:
    """What an act was on: the number, the tag or the name alone says it."""
    return name.partition(":")[2] or name


def payload(text: str) -> str:
    """What an act recorded, in a line: everything said in words, names of the data before their values."""

    def named(key: str, value: Any) -> Any:
        return equipment_class(value) if key == "equipment_class" else value

    def plain(value: Any) -> str:
        if isinstance(value, Said | str):
            return words().say(value)
        if isinstance(value, Mapping):
            return ", ".join(f"{k} {plain(named(k, v))}" for k, v in value.items() if v not in ("", [], {}, None))
        if isinstance(value, list | tuple):
            return ", ".join(plain(v) for v in value)
        return str(value)

    data = parsed(text)
    found = plain({k: v for k, v in data.items() if k != "shape"} if isinstance(data, dict) else data)
    return found or words().say(say("records-nothing-more"))


def step_classes(seen: ProgramView, number: int, chosen: int) -> str:
    """How the row of a step looks: done, the next to do, chosen, refused by a rule."""
    marks = {
        "done": number <= seen.done,
        "here": number == seen.done + 1 and seen.state in ("executing", "stopped"),
        "sel": number == chosen,
        "bad": seen.verdicts[number - 1] is not None,
    }
    return " ".join(mark for mark, on in marks.items() if on)


def study_cell(row: Mapping[str, Any], column: str) -> Any:
    """A value of a study's row as its table writes it, with its unit."""
    value = row[column]
    if value == "" or value is None:
        return ""
    if column in ("arc_flash_boundary_mm", "limited_fixed_mm", "restricted_mm"):
        return f"{formats.metres(value)} m"
    if column == "clearing_time_s":
        return f"{formats.seconds(value)} s"
    units = {
        "bolted_fault_current_ka": ("1f", "kA"), "arcing_current_ka": ("1f", "kA"),
        "working_distance_mm": ("0f", "mm"), "voltage_v": ("6g", "V"),
    }  # fmt: skip
    if column in units:
        form, unit = units[column]
        return f"{value:.{form}} {unit}"
    return value


FILTERS: dict[str, Callable[..., Any]] = {
    f.__name__: f
    for f in (
        stands,
        due,
        hours_minutes,
        contributions,
        rating,
        step_gear,
        shock_of_voltage,
        boundary,
        gear,
        side,
        worst_side,
        at_distance,
        happened,
        particulars,
        last_phase,
        dark,
        off_between,
        blanks,
        act,
        subject,
        payload,
        step_classes,
        study_cell,
    )
}
