"""What one person sees alone, and what several saw, side by side: the spread, and what only one of them saw."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError
from spinel.core.risk.scales import ARC, HAZARDS, RUNGS, SHOCK, arc_severity
from spinel.core.said import say

#: Hazards that everybody answers; further ones are seen or not.
ALWAYS = (SHOCK, ARC)


@dataclass(frozen=True, kw_only=True)
class HazardMark:
    """One hazard as one person sees it. ``severity``, ``likelihood``: before anything is done about it; ``rungs``: what
    would help, of the hierarchy; ``note``: what it is, in their words."""

    hazard: str
    severity: int
    likelihood: int
    rungs: tuple[str, ...] = ()
    note: str = ""


@dataclass(frozen=True)
class Opinion:
    """``marks``: in the order in which they were made; the same hazard may be seen in several places."""

    person_id: int
    name: str
    marks: tuple[HazardMark, ...]


def checked(marks: Sequence[HazardMark]) -> tuple[HazardMark, ...]:
    """An opinion that may be given: shock and arc flash answered, each hazard known, no rung but the
    hierarchy's. InputError beside what is not so."""
    seen = [m.hazard for m in marks]
    for always in ALWAYS:
        if seen.count(always) != 1:
            raise InputError(always, seen.count(always), say("risk-shock-and-arc-are-answered"))
    for m in marks:
        if m.hazard not in HAZARDS:
            raise InputError("hazard", m.hazard, say("one-of", options=HAZARDS))
        if unknown := set(m.rungs) - set(RUNGS):
            raise InputError("rungs", ", ".join(sorted(unknown)), say("one-of", options=RUNGS))
        if m.hazard not in ALWAYS and not m.note.strip():
            raise InputError("note", m.note, say("risk-say-what-it-is"))
    return tuple(marks)


@dataclass(frozen=True, kw_only=True)
class SideBySide:
    """A hazard as several saw it. ``seen``: names; ``severity``, ``likelihood``: steps by name. Of an arc flash the
    severity is ``pinned`` to its figure, whatever anybody said."""

    hazard: str
    seen: tuple[str, ...]
    unseen: tuple[str, ...]
    severity: Mapping[str, int]
    likelihood: Mapping[str, int]
    rungs: tuple[str, ...]
    notes: tuple[tuple[str, str], ...]
    pinned: int | None = None

    @property
    def worst_severity(self) -> int:
        return max((self.pinned or 0, *self.severity.values()))

    @property
    def worst_likelihood(self) -> int:
        return max(self.likelihood.values())

    @property
    def spread(self) -> int:
        """By how many steps they differ, at most."""
        each = (self.severity, self.likelihood) if self.pinned is None else (self.likelihood,)
        return max(max(scores.values()) - min(scores.values()) for scores in each)

    @property
    def alone(self) -> str:
        """Who alone saw it, where others looked too; else empty."""
        return self.seen[0] if len(self.seen) == 1 and self.unseen else ""


def side_by_side(opinions: Sequence[Opinion], energy_cal_cm2: float | None) -> tuple[SideBySide, ...]:
    """Every hazard that anybody saw, shock and arc first, then in the order of the list. Of several marks of one person
    on one hazard the worst counts."""
    rows = []
    for hazard in HAZARDS:
        marks = [(o.name, m) for o in opinions for m in o.marks if m.hazard == hazard]
        if not marks:
            continue
        severity: dict[str, int] = {}
        likelihood: dict[str, int] = {}
        for name, m in marks:
            severity[name] = max(severity.get(name, 0), m.severity)
            likelihood[name] = max(likelihood.get(name, 0), m.likelihood)
        rungs = {r for _, m in marks for r in m.rungs}
        rows.append(SideBySide(
            hazard=hazard, seen=tuple(severity), unseen=tuple(o.name for o in opinions if o.name not in severity),
            severity=severity, likelihood=likelihood, rungs=tuple(r for r in RUNGS if r in rungs),
            notes=tuple((name, m.note) for name, m in marks if m.note.strip()),
            pinned=arc_severity(energy_cal_cm2) if hazard == ARC else None,
        ))  # fmt: skip
    return tuple(rows)


@dataclass(frozen=True, kw_only=True)
class Agreed:
    """What they agree of a hazard, after controls. ``controls``: by rung. ``agreed`` False: it is not, ``note`` says
    why."""

    hazard: str
    severity: int
    likelihood: int
    controls: Mapping[str, str]
    agreed: bool
    note: str = ""


def check_agreed(rows: Sequence[SideBySide], agreed: Sequence[Agreed], energy_after_cal_cm2: float | None) -> None:
    """InputError where a hazard has no answer, or where severity falls without an inherent control: what somebody must
    do or wear makes it less likely, or hurts less, but it lowers nothing at the source. An arc flash is as bad as its
    figure after inherent controls says."""
    by_hazard = {a.hazard: a for a in agreed}
    for row in rows:
        a = by_hazard.get(row.hazard)
        if a is None:
            raise InputError(row.hazard, "", say("risk-each-hazard-is-agreed-or-not"))
        if not a.agreed:
            if not a.note.strip():
                raise InputError(f"note_{row.hazard}", "", say("risk-say-what-is-not-agreed"))
            continue
        if row.hazard == ARC:
            if a.severity != arc_severity(energy_after_cal_cm2):
                raise InputError(f"severity_{ARC}", a.severity, say("risk-arc-severity-follows-its-figure"))
        elif a.severity < row.worst_severity and not any(a.controls.get(r, "").strip() for r in RUNGS[:3]):
            raise InputError(f"severity_{row.hazard}", a.severity, say("risk-only-inherent-controls-lower-severity"))
        if a.likelihood < row.worst_likelihood and not any(v.strip() for v in a.controls.values()):
            raise InputError(f"likelihood_{row.hazard}", a.likelihood, say("risk-a-control-lowers-likelihood"))


def as_data(marks: Sequence[HazardMark]) -> list[dict[str, Any]]:
    return [
        {"hazard": m.hazard, "severity": m.severity, "likelihood": m.likelihood, "rungs": list(m.rungs), "note": m.note}
        for m in marks
    ]  # fmt: skip


def of_data(found: Sequence[Mapping[str, Any]]) -> tuple[HazardMark, ...]:
    return tuple(
        HazardMark(hazard=m["hazard"], severity=m["severity"], likelihood=m["likelihood"], rungs=tuple(m["rungs"]),
             note=m["note"])
        for m in found
    )  # fmt: skip
