"""What would be left of an incident energy with an inherent control: each option computed by the study of the network
as it would be then, one at a time. Only what the document knows is offered; nothing is estimated."""

from __future__ import annotations

import copy
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import SpinelError
from spinel.core.hazard import Hazard, Study
from spinel.core.network.check import accept
from spinel.core.profile import Profile
from spinel.core.risk.scales import RUNGS
from spinel.core.said import Sayable, say

#: Working distances that are tried beyond the standard one, mm: arm's length with a tool, and a stick.
FARTHER_MM = (914.0,)


@dataclass(frozen=True, kw_only=True)
class Option:
    """``energy_cal_cm2``: what would be left; None: no figure then, so nothing is known to be won. ``what``: by what;
    ``holds``: what must be so all the while."""

    rung: str
    what: Sayable
    holds: Sayable
    energy_cal_cm2: float | None
    boundary_mm: float | None

    def helps(self, energy_cal_cm2: float) -> bool:
        return self.energy_cal_cm2 is not None and self.energy_cal_cm2 < energy_cal_cm2


@dataclass(frozen=True)
class Options:
    """``energy_cal_cm2``: of the place by the document as it is, None where there is no figure: what each option is to
    be held against. How the field stands is in neither."""

    energy_cal_cm2: float | None
    each: tuple[Option, ...]


def options(
    document: Mapping[str, Any], profile: Profile, ceiling_cal_cm2: float, element_id: str, touches: str
) -> Options:
    """Each option for a place, in the order of the hierarchy and then the least energy first. DocumentError for a
    document that is none, NotFound for a place that is not in it."""
    base = Study(accept(dict(document)), profile, None, ceiling_cal_cm2).hazard(element_id, touches)
    found = [
        *_otherwise_fed(document, profile, ceiling_cal_cm2, element_id, touches),
        *_on_maintenance(document, profile, ceiling_cal_cm2, element_id, touches, base),
        *_farther(document, profile, ceiling_cal_cm2, element_id, touches, base),
    ]
    worst = float("inf")
    return Options(base.energy_cal_cm2, tuple(sorted(found, key=lambda o: (
        RUNGS.index(o.rung), worst if o.energy_cal_cm2 is None else o.energy_cal_cm2
    ))))  # fmt: skip


def _studied(document: Mapping[str, Any], profile: Profile, ceiling: float) -> Study | None:
    try:
        return Study(accept(dict(document)), profile, None, ceiling)
    except SpinelError:
        return None


def _at(study: Study | None, element_id: str, touches: str, distance_mm: float | None = None) -> Hazard | None:
    try:
        return study.hazard(element_id, touches, distance_mm) if study else None
    except SpinelError:
        return None


def _option(rung: str, what: Sayable, holds: Sayable, then: Hazard | None) -> Option:
    known = then is not None and not then.no_figure
    return Option(
        rung=rung, what=what, holds=holds, energy_cal_cm2=then.energy_cal_cm2 if known and then else None,
        boundary_mm=then.boundary_mm if known and then else None,
    )  # fmt: skip


def _otherwise_fed(
    document: Mapping[str, Any], profile: Profile, ceiling: float, element_id: str, touches: str
) -> Iterator[Option]:
    """In one case of the document alone, as long as the site is held there."""
    cases = document.get("cases", ())
    for case in cases if len(cases) > 1 else ():
        alone = {**document, "cases": [case]}
        then = _at(_studied(alone, profile, ceiling), element_id, touches)
        if then is None or then.no_figure:
            continue
        yield _option("substitute", say("risk-option-case", name=case["name"]), say("risk-holds-case"), then)


def _on_maintenance(
    document: Mapping[str, Any], profile: Profile, ceiling: float, element_id: str, touches: str, base: Hazard
) -> Iterator[Option]:
    """With one device on its maintenance setting, in every case."""
    for e in document["elements"]:
        if not e.get("maintenance_curve") or e["id"] == element_id:
            continue
        other = copy.deepcopy(dict(document))
        for record in other["elements"]:
            if record["id"] == e["id"]:
                record["curve"] = record["maintenance_curve"]
        then = _at(_studied(other, profile, ceiling), element_id, touches)
        option = _option("engineer", say("risk-option-maintenance", tag=e["tag"]), say("risk-holds-setting"), then)
        # of all devices that have such a setting only those matter that carry this arc
        if base.energy_cal_cm2 is None or option.helps(base.energy_cal_cm2):
            yield option


def _farther(
    document: Mapping[str, Any], profile: Profile, ceiling: float, element_id: str, touches: str, base: Hazard
) -> Iterator[Option]:
    study = _studied(document, profile, ceiling)
    for distance in (*FARTHER_MM, profile.stick_mm):
        if base.working_distance_mm is None or distance <= base.working_distance_mm:
            continue
        then = _at(study, element_id, touches, distance)
        yield _option("engineer", say("risk-option-distance", distance_mm=distance), say("risk-holds-distance"), then)
