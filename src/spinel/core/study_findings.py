"""What a study finds that somebody has to see to: the gravest first, each with what it rests on and what to do."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from spinel.core.network.basis import ASSUMED
from spinel.core.said import Sayable, say
from spinel.core.study import NOT_FED, Location, SiteStudy

#: In the order of their gravity: what fails under its fault current, what nobody may stand at, what nobody knows, what
#: is not cleared in time, what rests on values that nobody confirmed.
KINDS = ("duty", "ceiling", "no_figure", "slow", "order", "assumed")
COLUMNS = ("finding", "location", "side", "incident_energy_cal_cm2", "says", "to_do")


@dataclass(frozen=True, kw_only=True)
class Finding:
    """``energy_cal_cm2``: the worst at the place, None without a figure. ``side``: of the location, empty for all;
    ``touches``: its code, or what else tells two findings of one piece apart."""

    kind: str
    element_id: str
    tag: str
    says: Sayable
    side: Sayable = ""
    touches: str = ""
    energy_cal_cm2: float | None = None

    @property
    def to_do(self) -> Sayable:
        return say(f"finding-do-{self.kind.replace('_', '-')}")


def findings(study: SiteStudy) -> list[Finding]:
    """The gravest kind first, of a kind the highest energy first; what has no figure before all that has."""
    rows = list(study.worst_of_each())
    worst: dict[str, float | None] = {}
    for location, row in rows:
        tag, energy = location.element.tag, _energy(row)
        known = worst.setdefault(tag, energy)
        worst[tag] = None if energy is None or known is None else max(known, energy)
    found = [*_of_duty(study, worst), *_of_rows(study, rows), *_of_values(study, worst)]

    def rank(f: Finding) -> tuple[int, bool, float, str]:
        energy = f.energy_cal_cm2
        return KINDS.index(f.kind), energy is not None, -(energy or 0.0), f.tag

    return sorted(found, key=rank)


def _energy(row: dict[str, Any]) -> float | None:
    return float(row["incident_energy_cal_cm2"]) if row.get("method") else None


def _of_duty(study: SiteStudy, worst: dict[str, float | None]) -> Iterator[Finding]:
    for element_id, duty in study.study.duty.items():
        if not duty.adequate:
            tag = study.study.network.get(element_id).tag
            yield Finding(kind="duty", element_id=element_id, tag=tag, says=duty.reason, energy_cal_cm2=worst.get(tag))


def _of_rows(study: SiteStudy, rows: list[tuple[Location, dict[str, Any]]]) -> Iterator[Finding]:
    ceiling = study.study.ceiling_cal_cm2
    for location, row in rows:
        energy = _energy(row)
        at: dict[str, Any] = {"element_id": location.element.id, "tag": location.element.tag, "side": location.side,
                              "touches": location.reach.code}  # fmt: skip
        if energy is None:
            # what no recorded case feeds is dead as far as the document knows: not a gap of the study
            if row["warning"] != NOT_FED:
                yield Finding(kind="no_figure", **at, says=row["warning"])
            continue
        if energy > ceiling:
            above = say("finding-above-ceiling", energy_cal_cm2=energy, ceiling_cal_cm2=ceiling)
            yield Finding(kind="ceiling", **at, says=above, energy_cal_cm2=energy)
        if not row["device"]:
            slow = say("finding-not-cleared", seconds=float(row["clearing_time_s"]))
            yield Finding(kind="slow", **at, says=slow, energy_cal_cm2=energy)


def _of_values(study: SiteStudy, worst: dict[str, float | None]) -> Iterator[Finding]:
    network = study.study.network
    named = [*((e.id, e.tag, e.basis) for e in network.elements),
             *((b.id, b.name, b.basis) for b in network.enclosure.values())]  # fmt: skip
    for element_id, tag, basis in named:
        fields = tuple(sorted(name for name, told in basis.items() if told.origin == ASSUMED))
        if fields:
            yield Finding(
                kind="assumed", element_id=element_id, tag=tag, says=say("finding-rests-on", fields=fields),
                energy_cal_cm2=worst.get(tag),
            )  # fmt: skip


def as_rows(found: list[Finding]) -> Iterator[dict[str, Any]]:
    """As a table, in the order of COLUMNS."""
    for f in found:
        yield {
            "finding": say(f"finding-{f.kind.replace('_', '-')}"), "location": f.tag, "side": f.side,
            "incident_energy_cal_cm2": "" if f.energy_cal_cm2 is None else f.energy_cal_cm2, "says": f.says,
            "to_do": f.to_do,
        }  # fmt: skip
