"""What of a document is assumed or missing, and how far each could move a figure: computed, not judged.

For every value that somebody assumed the whole study is made again with it at either end of its range
(``editing/usual``; where that has none, a fifth less and a quarter more), and the greatest change of any worst figure
is its reach. Together they may move a figure further than each alone.
"""

from __future__ import annotations

import copy
import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.curves.library import fits, instead
from spinel.core.editing import usual
from spinel.core.errors import SpinelError
from spinel.core.hazard import Study
from spinel.core.network.basis import assumed
from spinel.core.network.check import accept
from spinel.core.network.kinds import KIND
from spinel.core.profile import profile
from spinel.core.study import SiteStudy

Record = Mapping[str, Any]
ASSUMED, MISSING = "assumed", "missing"
#: Where no range is known: common practice has nothing to say of it.
LESS, MORE = 0.8, 1.25
#: An interrupting rating that is enough nearly everywhere, kA.
ENOUGH_KA = 200.0
#: Of an enclosure, without which no arc in it has a figure.
_BOX = ("electrode_configuration", "gap_mm", "height_mm", "width_mm", "depth_mm", "working_distance_mm")
#: Fields from which no incident energy follows, whatever they are.
NO_FIGURE = (
    "name", "location", "rated_voltage_v", "short_circuit_ka", "construction", "test_x_r",
    "isolating", "load_break", "fault_make", "lockable", "withdrawable", "remote", "visible_break", "built_in_tester",
    "operated_by", "serves", "notify", "critical", "tolerates_min", "discharge_min", "stored_energy", "size",
    "equipment_class", "neutral", "induced_voltage",
    # found on the walk-down, and each way of it a case
    "normal_position", "normal_state",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """A value that nobody has confirmed, or that is not there. ``others``: what it may be instead."""

    group: str
    id: str
    name: str
    field: str
    value: Any
    why: str
    others: tuple[Any, ...]

    @property
    def key(self) -> str:
        return f"{self.group}/{self.id}/{self.field}"


@dataclass(frozen=True, kw_only=True)
class HowFar:
    """``rise``, ``fall``: greatest parts by which it moves any worst figure up and down, 0.05 a twentieth; infinite
    where there is a figure only with it, or only without it. ``tag``, ``was``, ``would``: where it rises most (falls,
    where it rises nowhere), and from what to what, cal/cm². ``site``: by what the worst figure of the site moves."""

    doubt: Doubt
    rise: float
    fall: float
    tag: str
    was: float | None
    would: float | None
    site: float

    @property
    def most(self) -> float:
        return max(self.rise, self.fall)


def doubts(document: Record) -> list[Doubt]:
    """In the order of the document; what no figure follows from is left out."""
    return [*_of_elements(document), *_of_enclosures(document)]


def _of_elements(document: Record) -> Iterator[Doubt]:
    volts = {n["id"]: float(n["nominal_voltage_v"]) for n in document["nodes"]}
    for e in document["elements"]:
        high = max((volts.get(n, 0.0) for n in e["ends"]), default=0.0)
        for field in assumed(e):
            if field not in NO_FIGURE:
                yield _assumed("elements", e, e["tag"], field, _others(e, field, high))
        if KIND[e["kind"]].interrupts and e["kind"] != "contactor":
            # neither alone lets it be counted on to clear
            some = {"curve": fits(e["kind"])[0].at(float(e.get("rated_a") or 400)), "interrupting_ka": ENOUGH_KA}
            for field, value in some.items():
                if field not in e:
                    yield Doubt(group="elements", id=e["id"], name=e["tag"], field=field, value=None, why=MISSING,
                                others=(value,))  # fmt: skip


def _others(e: Record, field: str, volts: float) -> tuple[Any, ...] | None:
    if field in ("curve", "maintenance_curve"):
        return instead(e["kind"], volts, float(e.get("rated_a") or 400))
    rule = usual.of_element(e["kind"], field, e, volts)
    return rule.others if rule else None


def _of_enclosures(document: Record) -> Iterator[Doubt]:
    high: dict[str, float] = {}
    for n in document["nodes"]:
        if n.get("enclosure") is not None and n.get("current") == "ac":
            high[n["enclosure"]] = max(high.get(n["enclosure"], 0.0), float(n["nominal_voltage_v"]))
    for box in document["enclosures"]:
        if box["id"] not in high:
            continue
        for field in assumed(box):
            if field not in NO_FIGURE:
                found = usual.of_enclosure(box["equipment_class"], field, high[box["id"]])
                yield _assumed("enclosures", box, box["name"], field, found.others if found else None)
        for field in _BOX:
            found = usual.of_enclosure(box["equipment_class"], field, high[box["id"]])
            if field not in box and not _open_air(box, field):
                yield Doubt(group="enclosures", id=box["id"], name=box["name"], field=field, value=None, why=MISSING,
                            others=(found.value,) if found else ())  # fmt: skip


def _open_air(box: Record, field: str) -> bool:
    """In open air there is no box."""
    return box.get("electrode_configuration") in ("VOA", "HOA") and field in ("height_mm", "width_mm", "depth_mm")


def _assumed(group: str, record: Record, name: str, field: str, others: tuple[Any, ...] | None) -> Doubt:
    value = record[field]
    if others is None:
        numeric = isinstance(value, int | float) and not isinstance(value, bool)
        others = (value * LESS, value * MORE) if numeric else ()
    kept = tuple(o for o in others if o != value)
    return Doubt(group=group, id=record["id"], name=name, field=field, value=value, why=ASSUMED, others=kept)


Figures = dict[tuple[str, str], float]
#: Told how much is done, of how much.
Tell = Callable[[int, int], object]


@dataclass(frozen=True)
class _Studied:
    """Worst incident energy by location and side; tags by element; the enclosures that the arcs of each are in."""

    energy: Figures
    tag: Mapping[str, str]
    boxes: Mapping[tuple[str, str], frozenset[str]]


def reach(document: Record, ceiling_cal_cm2: float, tell: Tell = lambda done, of: None) -> list[HowFar]:
    """Every doubt of an acceptable document with its reach, the furthest first. DocumentError for another document.

    Values of enclosures are changed in all enclosures at once: a figure follows from its own enclosure alone.
    """
    base = _studied(document, ceiling_cal_cm2)
    found = doubts(document)
    own = [d for d in found if d.group == "elements"]
    fields = list(dict.fromkeys(d.field for d in found if d.group == "enclosures"))
    total = sum(len(d.others) for d in own) + 2 * len(fields)
    done = 0
    moves: dict[str, list[tuple[Figures | None, set[tuple[str, str]] | None]]] = {d.key: [] for d in found}
    for d in own:
        for other in d.others:
            moves[d.key].append((_figures(_with(document, [(d, other)]), ceiling_cal_cm2), None))
            done += 1
            tell(done, total)
    for field in fields:
        alike = [d for d in found if d.group == "enclosures" and d.field == field]
        for i in range(2):
            changed = [(d, d.others[i]) for d in alike if i < len(d.others)]
            figures = _figures(_with(document, changed), ceiling_cal_cm2) if changed else {}
            for d, _ in changed:
                moves[d.key].append((figures, {k for k, boxes in base.boxes.items() if d.id in boxes}))
            done += 1
            tell(done, total)
    ranked = [_ranked(d, base, moves[d.key]) for d in found]
    return sorted(ranked, key=lambda r: (-r.most, -r.site, r.doubt.name, r.doubt.field))


def _with(document: Record, changed: Sequence[tuple[Doubt, Any]]) -> dict[str, Any]:
    found = copy.deepcopy(dict(document))
    records = {(g, r["id"]): r for g in ("elements", "enclosures") for r in found[g]}
    for d, value in changed:
        records[d.group, d.id][d.field] = value
    return found


def _studied(document: Record, ceiling_cal_cm2: float) -> _Studied:
    study = _study(document, ceiling_cal_cm2)
    energy, boxes = {}, {}
    node = study.study.network.node
    for location, row in study.worst_of_each():
        key = (location.element.id, location.reach.code)
        boxes[key] = frozenset(node[study.places[i].node_id].enclosure or "" for i in location.places)
        if row.get("method"):
            energy[key] = row["incident_energy_cal_cm2"]
    return _Studied(energy, {e.id: e.tag for e in study.study.network.elements}, boxes)


def _figures(document: Record, ceiling_cal_cm2: float) -> Figures | None:
    """None where the document with the other value cannot be: the value is not taken for possible then."""
    try:
        return _studied(document, ceiling_cal_cm2).energy
    except SpinelError:
        return None


def _study(document: Record, ceiling_cal_cm2: float) -> SiteStudy:
    network = accept(dict(document))
    practice = profile(network.site.profile)
    return SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))


def _ranked(
    d: Doubt, base: _Studied, moves: Sequence[tuple[Figures | None, set[tuple[str, str]] | None]]
) -> HowFar:  # fmt: skip
    up, down, site = _Carried(), _Carried(), 0.0
    worst = max(base.energy.values(), default=0.0)
    for figures, only in moves:
        if figures is None:
            continue
        for key in only if only is not None else {*base.energy, *figures}:
            was, now = base.energy.get(key), figures.get(key)
            # a figure that goes is a place of which nobody knows how bad it is
            if now is None or now > (was or 0.0):
                up = up.or_(key, was, now)
            else:
                down = down.or_(key, was, now)
        rest = [e for k, e in base.energy.items() if only is not None and k not in only]
        then = max([*rest, *(e for k, e in figures.items() if only is None or k in only)], default=0.0)
        site = max(site, _part(worst or None, then or None))
    shown = up if up.part else down
    return HowFar(
        doubt=d, rise=up.part, fall=down.part, tag=base.tag[shown.at[0]] if shown.at and shown.part else "",
        was=shown.was, would=shown.now, site=site,
    )  # fmt: skip


@dataclass(frozen=True)
class _Carried:
    """The greatest so far."""

    part: float = 0.0
    at: tuple[str, str] | None = None
    was: float | None = None
    now: float | None = None

    def or_(self, at: tuple[str, str], was: float | None, now: float | None) -> _Carried:
        part = _part(was, now)
        return _Carried(part, at, was, now) if part > self.part else self


def _part(was: float | None, now: float | None) -> float:
    if was is None or now is None:
        return 0.0 if was is now else math.inf
    return abs(now / was - 1)
