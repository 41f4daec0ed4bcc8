"""What would be left of an incident energy with an inherent control: each option computed by the study of the network
as it would be then, one at a time and the best of them together. What is offered is what the document knows, and what
is commonly tried on the device that clears; nothing is estimated."""

from __future__ import annotations

import copy
import uuid
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Any

from spinel.core.curves.library import generic
from spinel.core.editing.acts import insert
from spinel.core.editing.records import GENERIC, Sheet
from spinel.core.errors import SpinelError
from spinel.core.hazard import Hazard, Study
from spinel.core.network.check import accept
from spinel.core.profile import Profile
from spinel.core.quantities import BOUNDARY_ENERGY_CAL_CM2
from spinel.core.risk.scales import RUNGS
from spinel.core.said import Said, Sayable, say

#: Working distances that are tried beyond the standard one, mm: arm's length with a tool, and a stick.
FARTHER_MM = (914.0,)
#: A short-time delay that trips commonly go down to, s; and by how much a relay is turned down. Common practice,
#: without source: what is tried, not what is advised.
SHORT_DELAY_S, TURNED_DOWN = 0.1, 0.5
#: Interrupting rating that current-limiting fuses commonly have, kA. Common practice, from memory.
FUSE_KA = 200
#: So many devices in a row are tried faster: each time the one that clears then.
IN_A_ROW = 3
#: What lowers a figure by less than this part of it hardly helps, and is not tried together with others.
HARDLY = 0.05

Record = dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class Option:
    """``energy_cal_cm2``: what would be left; None: no figure then, so nothing is known to be won. ``what``: by what;
    ``holds``: what must be so all the while. ``sets``: is something set on a device for the work, and put back?
    ``lasting``: is it a change of the plant, so a proposal and nothing for tomorrow's permit?"""

    rung: str
    what: Sayable
    holds: tuple[Sayable, ...]
    energy_cal_cm2: float | None
    boundary_mm: float | None
    sets: tuple[str, ...] = ()
    lasting: bool = False

    def helps(self, energy_cal_cm2: float) -> bool:
        return self.energy_cal_cm2 is not None and self.energy_cal_cm2 < energy_cal_cm2


@dataclass(frozen=True)
class Options:
    """``energy_cal_cm2``: of the place by the document as it is, None where there is no figure: what each option is to
    be held against. How the field stands is in neither."""

    energy_cal_cm2: float | None
    each: tuple[Option, ...]


@dataclass(frozen=True, kw_only=True)
class _Way:
    """One thing that would be otherwise; ``change``: makes a document so. ``family``: of which one at a time holds."""

    family: str
    rung: str
    what: Sayable
    holds: Sayable
    change: Callable[[Record], None] = lambda _: None
    distance_mm: float | None = None
    sets: str = ""
    lasting: bool = False


def options(
    document: Mapping[str, Any],
    profile: Profile,
    ceiling_cal_cm2: float,
    element_id: str,
    touches: str,
    *,
    operates: bool = False,
) -> Options:
    """Each option for a place, and the best of each kind together, in the order of the hierarchy and then the least
    energy first. ``operates``: the task moves a device, so that it may be done from afar. DocumentError for a document
    that is none, NotFound for a place that is not in it."""
    there = _Place(document, profile, ceiling_cal_cm2, element_id, touches)
    base = there.hazard(())
    if base is None:
        # the same questions, so that whatever is wrong with it is said as it is
        Study(accept(dict(document)), profile, None, ceiling_cal_cm2).hazard(element_id, touches)
        return Options(None, ())
    tried = [(way, there.hazard((way,))) for way in _ways(document, profile, element_id, base)]
    tried += list(_faster(there, document, base))
    found = [_option((way,), then) for way, then in tried if _wanted(way, then, base)]
    found += [_option(ways, then) for ways, then in _together(there, tried, base)]
    if operates and base.boundary_mm is not None and base.energy_cal_cm2 is not None:
        found.append(_from_afar(base.boundary_mm, base.energy_cal_cm2))
    worst = float("inf")
    return Options(base.energy_cal_cm2, tuple(sorted(found, key=lambda o: (
        RUNGS.index(o.rung), worst if o.energy_cal_cm2 is None else o.energy_cal_cm2
    ))))  # fmt: skip


class _Place:
    """A place of a document, asked again and again with some things otherwise."""

    def __init__(
        self, document: Mapping[str, Any], profile: Profile, ceiling: float, element_id: str, touches: str
    ):  # fmt: skip
        self._document, self._profile, self._ceiling = document, profile, ceiling
        self._at = element_id, touches

    def hazard(self, ways: Iterable[_Way]) -> Hazard | None:
        """None where the document would be none any more, or has no such place."""
        each = tuple(ways)
        other = copy.deepcopy(dict(self._document))
        distance = max((w.distance_mm for w in each if w.distance_mm is not None), default=None)
        try:
            for way in each:
                way.change(other)
            return Study(accept(other), self._profile, None, self._ceiling).hazard(*self._at, distance)
        except SpinelError:
            return None


def _option(ways: tuple[_Way, ...], then: Hazard | None) -> Option:
    known = then is not None and not then.no_figure
    first = min(ways, key=lambda w: RUNGS.index(w.rung))
    return Option(
        rung=first.rung, what=ways[0].what if len(ways) == 1 else say("risk-option-together", whats=tuple(
            w.what for w in ways)),
        holds=tuple(w.holds for w in ways), energy_cal_cm2=then.energy_cal_cm2 if known and then else None,
        boundary_mm=then.boundary_mm if known and then else None,
        sets=tuple(t for w in ways for t in w.sets.split(", ") if t),
        lasting=any(w.lasting for w in ways),
    )  # fmt: skip


def _wanted(way: _Way, then: Hazard | None, base: Hazard) -> bool:
    """Of all devices that could be set otherwise only those matter that carry this arc; a case without a figure wins
    nothing that is known."""
    if way.family == "case":
        return then is not None and not then.no_figure
    if way.family == "distance":
        return True
    if base.energy_cal_cm2 is None:
        return way.family == "maintenance"
    return then is not None and not then.no_figure and _below(then, base)


def _below(then: Hazard, base: Hazard) -> bool:
    return (
        then.energy_cal_cm2 is not None
        and base.energy_cal_cm2 is not None
        and then.energy_cal_cm2 < base.energy_cal_cm2
    )


def _ways(document: Mapping[str, Any], profile: Profile, element_id: str, base: Hazard) -> Iterator[_Way]:
    cases = document.get("cases", ())
    for case in cases if len(cases) > 1 else ():
        yield _Way(
            family="case", rung="substitute", what=say("risk-option-case", name=case["name"]),
            holds=say("risk-holds-case"), change=lambda d, case=case: d.update(cases=[case]),  # type: ignore[misc]
        )  # fmt: skip
    for e in document["elements"]:
        if e.get("maintenance_curve") and e["id"] != element_id:
            yield _Way(
                family="maintenance", rung="engineer", what=say("risk-option-maintenance", tag=e["tag"]),
                holds=say("risk-holds-setting"), change=_with_curve(e["id"], e["maintenance_curve"]), sets=e["tag"],
            )  # fmt: skip
    for distance in (*FARTHER_MM, profile.stick_mm):
        if base.working_distance_mm is not None and distance > base.working_distance_mm:
            yield _Way(
                family="distance", rung="engineer", what=say("risk-option-distance", distance_mm=distance),
                holds=say("risk-holds-distance"), distance_mm=distance,
            )  # fmt: skip


def _with_curve(element_id: str, curve: Mapping[str, Any]) -> Callable[[Record], None]:
    def change(document: Record) -> None:
        for record in document["elements"]:
            if record["id"] == element_id:
                record["curve"] = curve

    return change


def _clears(hazard: Hazard, by_tag: Mapping[str, Any]) -> Any:
    """The record of the last device that opens in the worst arc; a source that ceases after it is none."""
    if hazard.energy is None or hazard.energy.clearing.device is None:
        return None
    tags = [hazard.energy.clearing.device.tag, *(t for s in reversed(hazard.energy.stages) for t in s.then_off)]
    return next((by_tag[t] for t in tags if t in by_tag and by_tag[t].get("curve")), None)


def _faster(there: _Place, document: Mapping[str, Any], base: Hazard) -> Iterator[tuple[_Way, Hazard | None]]:
    """The device that clears set faster, or a limiting fuse in series with it; then, with the faster one, the device
    that clears then. What is faster may trip before what lies below it: that is another study's question."""
    now, so_far = base, list[_Way]()
    by_tag = {e["tag"]: e for e in document["elements"]}
    for _ in range(IN_A_ROW):
        record = _clears(now, by_tag)
        if record is None:
            return
        if not so_far and (fused := _fused(record)) is not None:
            yield fused, there.hazard((fused,))
        curve = _turned_down(record.get("curve") or {})
        if curve is None or any(w.sets == record["tag"] for w in so_far):
            return
        so_far.append(_Way(
            family="faster", rung="engineer", what=_set_to(record["tag"], curve), holds=say("risk-holds-faster"),
            change=_with_curve(record["id"], curve), sets=record["tag"],
        ))  # fmt: skip
        then = there.hazard(so_far)
        if then is None or then.no_figure:
            return
        yield _joined(so_far), then
        now = then


def _joined(ways: Sequence[_Way]) -> _Way:
    """Several devices set faster, as one thing to do."""
    if len(ways) == 1:
        return ways[0]

    def change(document: Record) -> None:
        for way in ways:
            way.change(document)

    return replace(
        ways[0], what=say("risk-option-together", whats=tuple(w.what for w in ways)), change=change,
        sets=", ".join(w.sets for w in ways),
    )  # fmt: skip


def _turned_down(curve: Mapping[str, Any]) -> Record | None:
    """The same curve with a shorter delay; None where nothing of it can be shortened so."""
    if curve.get("type") == "trip" and (curve.get("short_delay_s") or 0) > SHORT_DELAY_S:
        return {**curve, "short_delay_s": SHORT_DELAY_S}
    if curve.get("type") == "relay" and curve.get("dial"):
        return {**curve, "dial": curve["dial"] * TURNED_DOWN}
    return None


def _set_to(tag: str, curve: Mapping[str, Any]) -> Said:
    if curve["type"] == "trip":
        return say("risk-option-short-delay", tag=tag, seconds=float(curve["short_delay_s"]))
    return say("risk-option-dial", tag=tag, dial=float(curve["dial"]))


def _fused(record: Record) -> _Way | None:
    """A fuse that melts fast in series with a device of known rating, by a generic curve: the maker's decides."""
    rated = record.get("rated_a")
    if record["kind"] != "breaker" or not rated:
        return None

    def change(document: Record) -> None:
        ids = [str(uuid.uuid5(uuid.NAMESPACE_OID, f"{record['id']} {n}")) for n in range(4)]
        fresh = iter(ids)
        sheet = Sheet(document, lambda: next(fresh))
        given = {
            "rated_a": rated, "interrupting_ka": FUSE_KA, "curve": dict(generic("fuse-fast", rated)),
            "normal_position": "closed",
        }  # fmt: skip
        insert(sheet, record["id"], 0, "fuse", f"FUSE-{ids[0][:8]}", given, GENERIC)
        document.clear()
        document.update(sheet.document)

    return _Way(
        family="faster", rung="engineer", what=say("risk-option-fuse", tag=record["tag"], rated_a=float(rated)),
        holds=say("risk-holds-fuse"), change=change, lasting=True,
    )  # fmt: skip


def _together(
    there: _Place, tried: Sequence[tuple[_Way, Hazard | None]], base: Hazard
) -> Iterator[tuple[tuple[_Way, ...], Hazard]]:
    """The best of each family with the best of each other, and all of them at once, where that is better than each."""
    best: dict[str, tuple[_Way, float]] = {}
    for way, then in tried:
        if way.lasting or then is None or then.no_figure or then.energy_cal_cm2 is None or base.energy_cal_cm2 is None:
            continue
        if not then.energy_cal_cm2 < base.energy_cal_cm2 * (1 - HARDLY):
            continue
        if way.family not in best or then.energy_cal_cm2 < best[way.family][1]:
            best[way.family] = (way, then.energy_cal_cm2)
    ways = [way for way, _ in best.values()]
    sets = [pair for pair in combinations(ways, 2)] + ([tuple(ways)] if len(ways) > 2 else [])
    for several in sets:
        then = there.hazard(several)
        least = min(best[w.family][1] for w in several)
        if then is not None and not then.no_figure and then.energy_cal_cm2 is not None and then.energy_cal_cm2 < least:
            yield several, then


def _from_afar(boundary_mm: float, energy_cal_cm2: float) -> Option:
    """Operated by somebody who stands at the arc-flash boundary, where the energy is 1.2 cal/cm² by its definition."""
    return Option(
        rung="engineer", what=say("risk-option-remote", boundary_mm=boundary_mm), holds=(say("risk-holds-remote"),),
        energy_cal_cm2=min(energy_cal_cm2, BOUNDARY_ENERGY_CAL_CM2), boundary_mm=boundary_mm,
    )  # fmt: skip
