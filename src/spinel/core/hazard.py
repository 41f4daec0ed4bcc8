"""The hazard of working at a piece of equipment: shock and arc flash, worst over all that may be the case.

A figure is the worst over the document's cases and the present state, over the strengths of supply and the moments of
decay, over the full and the reduced arcing current, and over the places that an arc can reach from where hands and
tools are. Energy and boundary are each the worst on their own. Where any situation has no figure, there is none: the
reason is given, never another method silently.
"""

from __future__ import annotations

import copy
import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from functools import cached_property
from threading import RLock
from typing import Any

from spinel.core.arcflash.explained import Figure, explain
from spinel.core.arcflash.figures import Figures
from spinel.core.arcflash.places import Place
from spinel.core.curves.shapes import Curve
from spinel.core.errors import OutOfRange
from spinel.core.fault.grid import Grid
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.circuit import Circuit, in_case
from spinel.core.network.document import Element, Enclosure, Network, Node
from spinel.core.network.kinds import SERIES
from spinel.core.network.sides import (
    NOT_CHOSEN,
    Exposed,
    Reach,
    end_words,
    exposed,
    opened_boxes,
    reach_words,
    reaches,
    read_reach,
)
from spinel.core.ppe.by_energy import Kit, kit
from spinel.core.profile import Profile
from spinel.core.protection.duty import Duty, duty_checks
from spinel.core.protection.trusted import Trusted
from spinel.core.quantities import CAL_PER_J, WORKING_DISTANCE_MM
from spinel.core.said import Sayable, say
from spinel.core.shock.approach import Approach, Shock, glove_class, shock_of
from spinel.core.stored import immutable
from spinel.core.tables.forms import ShockRules, Threshold

#: So many questions are answered each by itself before the whole site is computed; a larger site never is for cards.
FEW_ASKED, MOST_TOGETHER = 2, 500
NOT_FED = say("hazard-no-source-feeds-it-in-any-recorded")


@dataclass(frozen=True, kw_only=True)
class Hazard:
    """What a hazard card and a permit say of one reach. ``no_figure``: why there is no arc-flash figure, else empty;
    ``unfed``: is that because nothing feeds it?

    ``touches``: code of the reach, and ``reach`` its words. ``voltages``: all that the opened compartments hold.
    ``needs``: what has to be true for a figure that leans on recorded barriers. ``seen_in``: names of the cases that
    feed it, ``not_in`` those that do not.
    """

    element_id: str
    touches: str
    reach: Sayable
    voltage_v: float
    current: str
    below_threshold: bool
    approach: Approach
    voltages: tuple[Shock, ...]
    glove: Sayable | None
    glove_problem: Sayable
    working_distance_mm: float | None
    standard_distance_mm: float | None
    no_figure: Sayable
    unfed: bool
    energy: Figure | None
    boundary: Figure | None
    kit: Kit | None
    beyond_ceiling: bool
    ceiling_cal_cm2: float
    seen_in: tuple[Sayable, ...]
    not_in: tuple[Sayable, ...]
    needs: tuple[Sayable, ...] = ()
    warnings: tuple[Sayable, ...] = ()
    fault_currents_ka: Mapping[str, float] = field(default_factory=dict)

    @property
    def energy_cal_cm2(self) -> float | None:
        return self.energy.energy.incident_energy_cal_cm2 if self.energy else None

    @property
    def boundary_mm(self) -> float | None:
        return self.boundary.energy.arc_flash_boundary_mm if self.boundary else None

    @property
    def inside_restricted(self) -> bool:
        """Does whoever stands at the working distance stand inside the restricted approach boundary?"""
        restricted = self.approach.restricted_mm
        return None not in (restricted, self.working_distance_mm) and self.working_distance_mm < restricted  # type: ignore[operator]

    @property
    def barricade_mm(self) -> float | None:
        """The larger of limited approach (fixed) and arc-flash boundary; None when neither exists."""
        known = [d for d in (self.approach.limited_fixed_mm, self.boundary_mm) if d is not None]
        return max(known) if known else None

    @property
    def barricade_in(self) -> float | None:
        """The same in whole inches. The table's inch column is not converted from its metric one: larger wins."""
        boundary = math.ceil(self.boundary_mm / 25.4 - 1e-6) if self.boundary_mm is not None else None
        known = [d for d in (self.approach.limited_fixed_in, boundary) if d is not None]
        return max(known) if known else None

    @cached_property
    def data(self) -> Mapping[str, Any]:
        """It as plain JSON data, as a permit keeps it, with the derived figures beside their working."""
        data = asdict(self)
        for key in ("energy", "boundary"):
            if data[key]:
                for part in (data[key]["currents"]["intermediate_ka"], data[key]["energy"]["intermediate_j_cm2"]):
                    for voltage in list(part):
                        part[str(voltage)] = part.pop(voltage)
        derived = ("energy_cal_cm2", "boundary_mm", "barricade_mm", "barricade_in", "inside_restricted")
        found: Mapping[str, Any] = immutable({**data, **{name: getattr(self, name) for name in derived}})
        return found


@dataclass(frozen=True)
class _Found:
    """The figures of some places, worst of energy and of boundary, or why there is none."""

    energy: Figure | None = None
    boundary: Figure | None = None
    no_figure: Sayable = ""
    unfed: bool = False
    seen_in: tuple[Sayable, ...] = ()
    warnings: tuple[Sayable, ...] = ()


class Study:
    """All situations of a network solved once: the document's cases and, when given, the present state.

    ``shared``: a study of the same network without a present state, whose figures this one goes on using as long as the
    present leaves every device adequate for its duty that is so there.
    """

    def __init__(
        self,
        network: Network,
        profile: Profile,
        present: Circuit | None,
        ceiling_cal_cm2: float,
        shared: Study | None = None,
    ):
        self.network, self.profile, self.ceiling_cal_cm2 = network, profile, ceiling_cal_cm2
        self.present = present
        #: Ladders, columns and openings grow while they are asked, and studies of one document share them: one thread
        #: at a time, lest another reads what is half there.
        self._turn: Any = shared._turn if shared is not None else RLock()
        with self._turn:
            self._begin(present, shared)

    def _begin(self, present: Circuit | None, shared: Study | None) -> None:
        network, cap = self.network, self.profile.clearing_cap_s
        document = shared.parts[0] if shared is not None else Trusted(network, cap)
        self.parts: list[Trusted] = [document]
        if present is not None and not _known_case(network, present):
            now = Trusted(network, cap, present, document.grid)
            duty = duty_checks(network, [*document.strongest, *now.strongest])
            if any(document.duty[i].adequate != d.adequate for i, d in duty.items()):
                document, shared = Trusted(network, cap, grid=document.grid), None
            now.duty = duty
            if shared is None:
                document.duty = duty
            self.parts = [document, now]
        self._site: SiteFigures | None = shared.site if shared is not None else None
        #: figures of the present state asked for before, by place
        self._now: dict[Place, tuple[Figures, int]] = {}
        #: hazards asked for before: a study never changes, and pages ask for the same places again and again
        self._known: dict[tuple[str, str, float | None], Hazard] = {}
        #: what others derive from it once, by name
        self.kept: dict[str, Any] = {}

    def with_curves(self, curves: Mapping[str, Curve]) -> Study:
        """The study with some devices set otherwise, by element id: the figures of the document so changed, without
        solving its currents again. Not for a present state, whose duty it would have to judge anew."""
        if self.present is not None:
            raise ValueError("a study of the document's cases")
        other = copy.copy(self)
        other.parts = [part.with_curves(curves) for part in self.parts]
        other._site, other._now, other._known, other.kept = None, {}, {}, {}
        return other

    @property
    def site(self) -> SiteFigures:
        """The figures of every location by the document, computed together when first asked."""
        with self._turn:
            if self._site is None:
                self._site = SiteFigures(self, self.parts[0])
            return self._site

    @property
    def grid(self) -> Grid:
        return self.parts[0].grid

    @property
    def duty(self) -> Mapping[str, Duty]:
        with self._turn:
            return self.parts[-1].duty

    @property
    def models(self) -> list[NodalModel]:
        """The strongest corner of every case."""
        with self._turn:
            return [m for part in self.parts for m in part.strongest]

    def bolted_ka(self, node_id: str) -> float | None:
        """Highest bolted fault current at an AC node over all situations, kA."""
        with self._turn:
            found = [m.bolted_ka(node_id) for m in self.models if m.energised(node_id)]
        return max(found) if found else None

    def hazard(self, element_id: str, touches: str = "", working_distance_mm: float | None = None) -> Hazard:
        """The hazard at an element where hands and tools reach it (a code of sides.Reach), at a working distance in mm.

        Without a reach, the worst of each quantity over all sides; without a distance, the enclosure's standard one.
        InputError for an unusable distance or reach, NotFound for an unknown element.
        """
        reach = read_reach(self.network.get(element_id), touches)
        key = (element_id, reach.code, working_distance_mm)
        known = self._known.get(key)
        if known is not None:
            return known
        with self._turn:
            if len(self._known) > 5000:
                self._known.clear()
            found = self._known.get(key) or self._hazard(element_id, reach, working_distance_mm)
            self._known[key] = found
        return found

    def sides(self, element_id: str, working_distance_mm: float | None = None) -> list[Hazard]:
        """Every reach of an element, the worst first: no figure, then by energy."""
        found = [self.hazard(element_id, r.code, working_distance_mm) for r in reaches(self.network.get(element_id))]
        return sorted(found, key=_badness, reverse=True)

    def places_now(self, element_id: str) -> list[tuple[Sayable, float, float]]:
        """Every place alone where an arc at an element can be, as the field stands: why it has no figure, else empty;
        energy in cal/cm² at its standard distance; boundary in mm. What nothing feeds has neither."""
        element, found = self.network.get(element_id), []
        for option in reaches(element):
            out = exposed(self.network, element, option)
            nodes = arc_nodes(self.network, out, self.profile.threshold)
            distance = standard_distance(self.network, nodes)
            for n in nodes if distance is not None else ():
                with self._turn:
                    figures, which = self._present([Place(n.id, out.doubted, distance or 0.0)])
                energy, wide = figures.worst(which, figures.energy_j_cm2), figures.worst(which, figures.boundary_mm)
                joule, reach = (energy[0].value if energy else 0.0), (wide[0].value if wide else 0.0)
                found.append((figures.why_not(which), joule * CAL_PER_J, reach))
        return found

    def _hazard(self, element_id: str, reach: Reach, working_distance_mm: float | None) -> Hazard:
        element = self.network.get(element_id)
        if working_distance_mm is not None:
            WORKING_DISTANCE_MM.check(working_distance_mm)
        options = reaches(element) if reach == NOT_CHOSEN else (reach,)
        found = [(option, exposed(self.network, element, option)) for option in options]
        return self._summary(element, reach, found, working_distance_mm)

    def _figures_of(self, element: Element, out: Exposed, distance: float | None) -> _Found:
        nodes = arc_nodes(self.network, out, self.profile.threshold)
        if distance is None:
            return _Found(no_figure=say("hazard-no-working-distance-is-recorded-for-its"))
        standard = standard_distance(self.network, nodes)
        return self._worst([Place(n.id, out.doubted, standard or distance) for n in nodes], distance)

    def _worst(self, places: Sequence[Place], distance_mm: float) -> _Found:
        """The figures of highest energy and of largest boundary, or why there is none; cases seen and warnings.

        Energy falls with distance alike in every situation up to rounding between voltage classes, so at another
        distance than the standard one the few worst are computed anew.
        """
        asked = [self.site.find(places), *([self._present(places)] if len(self.parts) > 1 else [])]
        seen = tuple(dict.fromkeys(name for figures, which in asked for name in figures.seen_in(which)))
        for figures, which in asked:
            if why := figures.why_not(which):
                return _Found(no_figure=why, seen_in=seen)
        worst = sorted(
            ((f, at) for f, which in asked for at in f.worst(which, f.energy_j_cm2)), key=lambda w: -w[1].value
        )[: 4 if places[0].working_distance_mm != distance_mm else 1]
        if not worst:
            return _Found(no_figure=NOT_FED, unfed=True)
        found = [explain(f, at.column, at.row, at.place, distance_mm=distance_mm) for f, at in worst]
        most = max(range(len(found)), key=lambda n: found[n].energy.incident_energy_j_cm2)
        energy = found[most]
        f, wide = max(((f, at) for f, which in asked for at in f.worst(which, f.boundary_mm)), key=lambda w: w[1].value)
        where = (wide.column, wide.row, wide.place)
        of, tall = worst[most]
        same = f is of and where == (tall.column, tall.row, tall.place) and f.same_point(*where)
        boundary = energy if same else explain(f, *where, boundary=True, distance_mm=distance_mm)
        said = (w for figures, which in asked for k in which for w in figures.of.warnings[k])
        return _Found(energy, boundary, "", False, seen, tuple(dict.fromkeys((*said, *energy.warnings))))

    def _present(self, places: Sequence[Place]) -> tuple[Figures, list[int]]:
        """Figures of places as the field stands."""
        if any(p not in self._now for p in places):
            found = self.figures(places, self.parts[-1])
            self._now |= {p: (found, i) for i, p in enumerate(places)}
            return found, list(range(len(places)))
        known = [self._now[p] for p in places]
        if all(f is known[0][0] for f, _ in known):
            return known[0][0], [i for _, i in known]
        found = self.figures(places, self.parts[-1])
        return found, list(range(len(places)))

    def figures(self, places: Sequence[Place], part: Trusted) -> Figures:
        """Figures of places in every situation of a part of the study."""
        return Figures(self.network, part, self.profile.clearing_cap_s, places)

    def _summary(
        self, element: Element, reach: Reach, options: Sequence[tuple[Reach, Exposed]], distance_mm: float | None
    ) -> Hazard:
        network, threshold = self.network, self.profile.threshold
        standard = {r.code: standard_distance(network, arc_nodes(network, out, threshold)) for r, out in options}
        asked = {r.code: standard[r.code] if distance_mm is None else distance_mm for r, _ in options}
        found = {r.code: self._figures_of(element, out, asked[r.code]) for r, out in options}
        volts = {r.code: exposed_voltages(network, element, r, out) for r, out in options}
        each = tuple(shock_of(v, c, self.profile.shock) for v, c in sorted(set().union(*volts.values()), reverse=True))
        # an end below the threshold is no reason to lack a figure
        high = [c for c, v in volts.items() if any(x >= threshold.lowest_v for x, _ in v)] or list(volts)
        worst = _merged([found[c] for c in high])
        # where both kinds of current meet, the higher of two numbers may be the one that is no hazard
        voltage, current = max((v for code in high for v in volts[code]), key=lambda v: (threshold.reached(*v), v))
        known = [d for c in high if (d := asked[c]) is not None]
        typical = [d for c in high if (d := standard[c]) is not None]
        energy = worst.energy.energy.incident_energy_cal_cm2 if worst.energy else None
        ends = dict.fromkeys(n for _, out in options for n in (*out.nodes, *element.ends) if n in element.ends)
        faults = {n: ka for n in ends if (ka := self.bolted_ka(n)) is not None}
        document = tuple(c.name for c in network.cases)
        missed = tuple(c for c in document if c not in worst.seen_in)
        glove, problem = gloves_for(each, self.profile.shock)
        return Hazard(
            element_id=element.id,
            touches=reach.code,
            reach=reach_words(network, element, reach),
            voltage_v=voltage,
            current=current,
            below_threshold=not any(threshold.reached(s.voltage_v, s.current) for s in each),
            approach=widest(each),
            voltages=each,
            glove=glove,
            glove_problem=problem,
            working_distance_mm=min(known, default=None),
            standard_distance_mm=min(typical, default=None),
            no_figure=worst.no_figure,
            unfed=worst.unfed,
            energy=worst.energy,
            boundary=worst.boundary,
            kit=kit(energy, self.profile.clothing) if energy is not None else None,
            beyond_ceiling=energy is not None and energy > self.ceiling_cal_cm2,
            ceiling_cal_cm2=self.ceiling_cal_cm2,
            seen_in=worst.seen_in,
            not_in=missed if worst.seen_in else document,
            needs=_needs(network, element, options) if reach != NOT_CHOSEN else (),
            warnings=worst.warnings,
            fault_currents_ka=faults,
        )


class SiteFigures:
    """Figures of every location of a site by its document, each reach at its standard distance."""

    def __init__(self, study: Study, part: Trusted):
        self.study, self.part = study, part
        self._asked = 0
        self._alone: dict[tuple[Place, ...], Figures] = {}
        self.place: dict[Place, int] = {}
        for e in study.network.elements:
            for reach in reaches(e) if e.kind not in SERIES else ():
                out = exposed(study.network, e, reach)
                nodes = arc_nodes(study.network, out, study.profile.threshold)
                distance = standard_distance(study.network, nodes)
                if distance is not None:
                    for n in nodes:
                        self.place.setdefault(Place(n.id, out.doubted, distance), len(self.place))

    @cached_property
    def figures(self) -> Figures:
        return self.study.figures(list(self.place), self.part)

    def find(self, places: Sequence[Place]) -> tuple[Figures, list[int]]:
        """The figures that hold these places, and their numbers there."""
        self._asked += 1
        # whoever asks for one place or two need not wait for the whole site, and nobody waits for a large one
        whole = "figures" in self.__dict__ or (self._asked > FEW_ASKED and len(self.place) <= MOST_TOGETHER)
        if whole and all(p in self.place for p in places):
            return self.figures, [self.place[p] for p in places]
        key = tuple(places)
        if key not in self._alone:
            self._alone[key] = self.study.figures(places, self.part)
        return self._alone[key], list(range(len(places)))


def _known_case(network: Network, present: Circuit) -> bool:
    """Is the present, as far as currents go, what a case of the document already says, with nothing pinned?"""
    for case in network.cases:
        circuit = in_case(network, case)
        same = (circuit.closed, circuit.running, circuit.maintenance, circuit.bypass)
        if (
            not case.pinned
            and not present.uncertain
            and same == (present.closed, present.running, present.maintenance, present.bypass)
        ):
            return True
    return False


def _badness(hazard: Hazard) -> tuple[bool, float]:
    lacking = bool(hazard.no_figure) and not hazard.below_threshold and not hazard.unfed
    return lacking, hazard.energy_cal_cm2 or 0.0


def _merged(found: Sequence[_Found]) -> _Found:
    """The worst of each over several sides; a side without a figure leaves none, unless nothing feeds it."""
    fed = [f for f in found if not f.unfed] or list(found)
    seen = tuple(dict.fromkeys(name for f in fed for name in f.seen_in))
    lacking = next((f for f in fed if f.no_figure), None)
    if lacking is not None:
        return _Found(no_figure=lacking.no_figure, unfed=lacking.unfed, seen_in=seen)
    energy = max((f.energy for f in fed if f.energy), key=lambda f: f.energy.incident_energy_j_cm2)
    boundary = max((f.boundary for f in fed if f.boundary), key=lambda f: f.energy.arc_flash_boundary_mm)
    return _Found(energy, boundary, "", False, seen, tuple(dict.fromkeys(w for f in fed for w in f.warnings)))


def _needs(network: Network, element: Element, options: Sequence[tuple[Reach, Exposed]]) -> tuple[Sayable, ...]:
    """What has to be true on site for a better figure: the barriers that it leans on."""
    behind = dict.fromkeys((end, n) for r, out in options for end in r.ends for n in out.behind)
    return tuple(
        say(
            "hazard-the-barrier-between-and-of-is-in",
            end_words=end_words(network, element, end),
            end_words_2=end_words(network, element, n),
            tag=element.tag,
        )
        for end, n in behind
    )


def arc_nodes(network: Network, out: Exposed, threshold: Threshold) -> list[Node]:
    """Nodes at which an arc is assessed: those reached, without any below the threshold beside one above it."""
    nodes = [network.node[n] for n in out.nodes]
    return [n for n in nodes if n.nominal_voltage_v >= threshold.lowest_v] or nodes


def standard_distance(network: Network, places: Sequence[Node]) -> float | None:
    """The shortest standard working distance among the enclosures; None where one has none recorded."""
    boxes: list[Enclosure] = [network.enclosure[n.enclosure] for n in places if n.enclosure]
    known = [b.working_distance_mm for b in boxes if b.working_distance_mm is not None]
    return min(known) if known else None


def opened_nodes(network: Network, element: Element) -> list[Node]:
    """Every node that is exposed when the element's enclosures are opened, and its own ends."""
    found = {n: network.node[n] for n in element.ends}
    found |= {n.id: n for box in network.enclosures_of(element) for n in network.in_enclosure[box.id]}
    return sorted(found.values(), key=lambda n: network.node_place[n.id])


def exposed_voltages(network: Network, element: Element, reach: Reach, out: Exposed) -> set[tuple[float, str]]:
    """Every voltage and kind of current in the opened compartments and at reached ends, auxiliary supplies too."""
    nodes = dict.fromkeys((*out.opened, *out.nodes))
    found = {(network.node[n].nominal_voltage_v, network.node[n].current) for n in nodes}
    for box in opened_boxes(network, element, reach):
        found |= {(s.voltage_v, s.current) for s in box.auxiliary_supplies}
    return found


def widest(each: Sequence[Shock]) -> Approach:
    """The largest of each boundary over all voltages and kinds of current; each looked up on its own."""
    rows = [s.approach for s in each]
    first = max(rows, key=lambda a: (a.limited_fixed_mm or 0.0, a.restricted_mm or 0.0))

    def most(name: str) -> float | None:
        return max((v for a in rows if (v := getattr(a, name)) is not None), default=None)

    restricted = most("restricted_mm")
    return Approach(
        voltage_v=first.voltage_v,
        current=first.current,
        limited_movable_mm=most("limited_movable_mm"),
        limited_fixed_mm=most("limited_fixed_mm"),
        restricted_mm=restricted,
        limited_movable_in=most("limited_movable_in"),
        limited_fixed_in=most("limited_fixed_in"),
        restricted_in=most("restricted_in"),
        avoid_contact=restricted is None and any(a.avoid_contact for a in rows),
        source=rows[0].source,
    )


def gloves_for(each: Sequence[Shock], rules: ShockRules) -> tuple[Sayable | None, Sayable]:
    """The class that all voltages need, or which of them no class covers."""
    needed: list[int] = []
    for s in each:
        if not rules.threshold.reached(s.voltage_v, s.current):
            continue
        try:
            needed.append(rules.gloves.index(glove_class(s.voltage_v, s.current, rules)))
        except OutOfRange as error:
            return None, error.allowed
    return (rules.gloves[max(needed)].name if needed else None), ""
