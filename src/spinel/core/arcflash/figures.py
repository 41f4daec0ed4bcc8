"""Arc-flash figures of places in all circuits of a study: bolted to arcing current, clearing, duration, energy.

Many places at once as arrays (``Figures``), and any one of them with all that made it (``Figures.explain``). A place is
a node of the network with what the task touches there. Where no method covers it the reason is kept, never another
method silently.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError
from spinel.core.fault.impedance import inputs
from spinel.core.fault.nodal import Fault, NodalModel
from spinel.core.network.document import SERIES, Network, Node
from spinel.core.protection.clearing import Clearing, Ends, Places, clear_all
from spinel.core.protection.shown import ArcClearing, show_clearing
from spinel.core.protection.stages import Stage, Staging

CURRENTS = ("full", "reduced")


@dataclass(frozen=True)
class Place:
    """Where an arc is: a node, the enclosure whose devices are not believed (none: all are), a distance in mm."""

    node_id: str
    doubted: str | None
    working_distance_mm: float


@dataclass(frozen=True)
class StageEnergy:
    """A stage of the arc with its energy at the working distance. ``carried``: at the rate of the one before."""

    from_s: float
    until_s: float
    bolted_fault_current_ka: float
    arcing_current_ka: float
    incident_energy_j_cm2: float
    then_off: tuple[str, ...]
    carried: bool = False


@dataclass(frozen=True)
class Figure:
    """Energy and boundary at one place, in one case, at the full or reduced arcing current, with its working.

    ``energy`` is the sum of ``stages``; a single one where nothing drops off before the end.
    """

    case: str
    node: str
    current: str
    fault: Mapping[str, Any]
    situation: ieee.Situation
    currents: ieee.ArcCurrents
    correction: ieee.Correction
    clearing: ArcClearing
    duration_s: float
    capped: bool
    energy: ieee.Energy
    stages: tuple[StageEnergy, ...]
    warnings: tuple[str, ...] = ()


class Figures:
    """Figures of places in circuits. Arrays are (circuits, currents, places), NaN where there is no figure.

    ``why``: (circuit, place) to the reason; a place that nothing sustained feeds there is in neither.
    """

    def __init__(self, network: Network, clearings: Sequence[Clearing], cap_s: float, places: Sequence[Place]):
        self.network, self.clearings, self.cap_s, self.places = network, clearings, cap_s, places
        shape = (len(clearings), len(CURRENTS), len(places))
        self.energy_j_cm2, self.boundary_mm = np.full(shape, np.nan), np.full(shape, np.nan)
        self.duration_s, self.arcing_ka = np.full(shape, np.nan), np.full(shape, np.nan)
        self.bolted_ka = np.full((len(clearings), len(places)), np.nan)
        self.capped = np.zeros(shape, dtype=bool)
        self.why: dict[tuple[int, int], str] = {}
        self.warnings: list[tuple[str, ...]] = [()] * len(places)
        self.ends: list[Ends | None] = [None] * len(clearings)
        self.staging: list[Staging | None] = [None] * len(clearings)
        self.asked: list[np.ndarray] = []
        self._boxes = {e.id: i for i, e in enumerate(network.enclosures)}
        self._situations: list[ieee.Situation | str] = [_situation(network, p) for p in places]
        self._run()

    # Many at once ----------------------------------------------------------------------------------------

    def _run(self) -> None:
        why = [self._never_covered(i) for i in range(len(self.places))]
        free = np.array([w is None for w in why], dtype=bool)
        for c, clearing in enumerate(self.clearings):
            self.why |= {(c, i): w for i, w in enumerate(why) if w is not None and self._speaks(clearing, i)}
            self.asked.append(self._in_range(c, clearing.model, free))
        some = [c for c, which in enumerate(self.asked) if len(which)]
        if not some:
            return
        self._arcing(some)
        for c, ends in zip(some, clear_all([(self.clearings[c], self._places(c)) for c in some]), strict=True):
            self.ends[c] = ends
            self.staging[c] = Staging(self.clearings[c], self._nodes[self.asked[c]], ends, self.cap_s)
            self._durations(c)
        for row in range(len(CURRENTS)):
            self._energies(row, some)

    def _speaks(self, clearing: Clearing, i: int) -> bool:
        """Kinds of circuit that no method covers are said always; what is wrong with a place, only where it is fed."""
        node = self.network.node[self.places[i].node_id]
        other = node.current == "dc" or node.phases != 3 or _behind_ups(self.network, node.id)
        return other or clearing.model.fault_is_sustained(node.id)

    def _never_covered(self, i: int) -> str | None:
        """Why no method covers the place whatever feeds it; None when one may. Keeps its warnings."""
        node, situation = self.network.node[self.places[i].node_id], self._situations[i]
        if node.current == "dc":
            return f"no method here covers direct current ({node.nominal_voltage_v:g} V DC)"
        if node.phases != 3:
            return "no method covers single-phase circuits (IEEE 1584-2018 is three-phase)"
        if _behind_ups(self.network, node.id):
            return "it is fed through a UPS, whose bypass is not modelled"
        if isinstance(situation, str):
            return situation
        try:
            # 10 kA is inside the range at any voltage: what remains to be seen is the place alone
            self.warnings[i] = tuple(ieee.check(situation, 10.0))
        except InputError as error:
            return f"no method covers it: {error}"
        return None

    def _in_range(self, c: int, model: NodalModel, free: np.ndarray) -> np.ndarray:
        """Places that something sustained feeds with a current that the method covers; keeps the reason when not."""
        candidates = np.flatnonzero(free)
        at = self._nodes[candidates]
        sustained = model.sustained[at]
        candidates, at = candidates[sustained], at[sustained]
        bolted = model.bolted[at]
        low = model.grid.volts[at] <= 600
        good = (bolted >= np.where(low, 0.5, 0.2)) & (bolted <= np.where(low, 106, 65))
        for i, ka in zip(candidates[~good], bolted[~good], strict=True):
            try:
                ieee.check(self._situations[int(i)], float(ka))  # type: ignore[arg-type]
            except InputError as error:
                self.why[c, int(i)] = f"no method covers it: {error} (case {model.circuit.name})"
        self.bolted_ka[c, candidates[good]] = bolted[good]
        return candidates[good]

    @cached_property
    def _nodes(self) -> np.ndarray:
        """Position of each place's node in the grid, which all circuits share; -1 where it is no AC node."""
        index = self.clearings[0].model.grid.index if self.clearings else {}
        return np.array([index.get(p.node_id, -1) for p in self.places], dtype=np.intp)

    @cached_property
    def _doubted(self) -> np.ndarray:
        """Position of each place's doubted enclosure; -1 for none."""
        return np.array([self._boxes.get(p.doubted or "", -1) for p in self.places], dtype=np.intp)

    def _arcing(self, some: Sequence[int]) -> None:
        """Arcing currents of all places in all circuits, computed together."""
        which = np.concatenate([self.asked[c] for c in some])
        circuit = np.concatenate([np.full(len(self.asked[c]), c) for c in some])
        found = ieee.arc_currents(self._many(which), self.bolted_ka[circuit, which])
        self.arcing_ka[circuit, 0, which] = found.arcing_current_ka
        self.arcing_ka[circuit, 1, which] = found.reduced_arcing_current_ka

    def _places(self, c: int) -> Places:
        which = self.asked[c]
        part = self.arcing_ka[c][:, which] / self.bolted_ka[c, which]
        return Places(self._nodes[which], self._doubted[which], part)

    def _many(self, which: np.ndarray) -> ieee.Situation:
        """The situations of some places as one of arrays."""
        volts, kind, gap, distance, *sides = (c[which] for c in self._columns)
        return ieee.Situation(volts, kind, gap, distance, ieee.Enclosure(*sides))

    @cached_property
    def _columns(self) -> list[np.ndarray]:
        """Voltage, configuration, gap, distance, height, width, depth of all places; NaN where there is none."""
        rows = [_row(s) for s in self._situations]
        return [np.array(column) for column in zip(*rows, strict=True)]

    def _durations(self, c: int) -> None:
        """How long the arc lasts at each place of a circuit, or why there is no figure."""
        which, ends, staging = self.asked[c], self.ends[c], self.staging[c]
        assert ends is not None and staging is not None
        late = ~(ends.time_s <= self.cap_s)
        escape = np.array([self._escape_clear(int(i)) for i in which])
        refused = (late & ~escape).any(axis=0)
        for k in np.flatnonzero(refused):
            self.why[c, int(which[k])] = self._too_slow(c, int(k), late)
        self.capped[c][:, which] = late & ~refused
        self.duration_s[c][:, which] = np.where(refused, np.nan, staging.until_s)

    def _energies(self, row: int, some: Sequence[int]) -> None:
        """Energy and boundary of all places in all circuits at one current: the stages of all, computed together."""
        entries, parts_of = [], []
        first = 0
        for c in some:
            which = self.asked[c]
            timed = np.flatnonzero(~np.isnan(self.duration_s[c, row, which]))
            entries.append((np.full(len(timed), c), which[timed]))
            parts_of.append(self._parts(c, row, timed, first))
            first += len(timed)
        if not first:
            return
        at, of = (np.concatenate(column) for column in zip(*entries, strict=True))
        owner, bolted, ms = (np.concatenate(column) for column in zip(*parts_of, strict=True))
        parts = ieee.energy(self._many(of[owner]), bolted, ms, reduced=row == 1)
        sums = {v: np.bincount(owner, weights=e) for v, e in parts.intermediate_j_cm2.items()}
        self.energy_j_cm2[at, row, of] = np.bincount(owner, weights=parts.incident_energy_j_cm2)
        self.boundary_mm[at, row, of] = ieee.boundary_mm(self._many(of), sums)

    def _parts(self, c: int, row: int, timed: np.ndarray, first: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Owner, bolted current in kA and duration in ms of every stage of the timed places of a circuit.

        A place owns a single stage where nothing drops off; owners are numbered from ``first``.
        """
        staging, which = self.staging[c], self.asked[c]
        assert staging is not None
        several = staging.staged[row, timed]
        plain = timed[~several]
        owner, bolted = [first + np.flatnonzero(~several)], [self.bolted_ka[c, which[plain]]]
        ms = [self.duration_s[c, row, which[plain]] * 1000]
        staged = np.flatnonzero(several)
        for n, found in zip(staged, staging.stages([(row, int(timed[n])) for n in staged]), strict=True):
            owner.append(np.full(len(found), first + n))
            bolted.append(np.array(self._covered(c, int(which[timed[n]]), found)))
            ms.append(np.array([(s.until_s - s.from_s) * 1000 for s in found]))
        return np.concatenate(owner), np.concatenate(bolted), np.concatenate(ms)

    def _covered(self, c: int, i: int, found: Sequence[Stage]) -> list[float]:
        """The bolted current to use in each stage: its own, or that of the stage before where it is below the range."""
        least = 0.5 if self.clearings[c].model.grid.volts[self._nodes[i]] <= 600 else 0.2
        used, last = [], float(self.bolted_ka[c, i])
        for stage in found:
            last = last if stage.bolted_fault_current_ka < least else stage.bolted_fault_current_ka
            used.append(last)
        return used

    def _escape_clear(self, i: int) -> bool:
        box = self.network.enclosure.get(self.network.node[self.places[i].node_id].enclosure or "")
        return box is not None and box.escape_clear

    def _too_slow(self, c: int, k: int, late: np.ndarray) -> str:
        """The reason, from the first current that is too slow."""
        ends, model = self.ends[c], self.clearings[c].model
        assert ends is not None
        row = int(late[:, k].argmax())
        if math.isinf(ends.time_s[row, k]):
            what = f"nothing clears {', '.join(self._never(c, row, k))}"
        else:
            what = f"{self.clears(c, row, k) or 'it'} clears only after {ends.time_s[row, k]:.1f} s"
        allowed = f"and no clear way of escape is recorded that would allow {self.cap_s:g} s"
        return f"{what} (case {model.circuit.name}), {allowed}"

    def _never(self, c: int, row: int, k: int) -> list[str]:
        ends, clearing = self.ends[c], self.clearings[c]
        assert ends is not None
        endless = np.flatnonzero(np.isinf(ends.source_s[row, :, k]))
        return sorted(clearing.model.injections[clearing.sources[i]].element.tag for i in endless)

    def asked_at(self, c: int, i: int) -> int:
        """The position of place i among those asked of circuit c."""
        return int(np.searchsorted(self.asked[c], i))

    def clears(self, c: int, row: int, k: int) -> str:
        """Tag of what ends the arc: place k of those asked of circuit c. Empty when nothing does."""
        ends, clearing = self.ends[c], self.clearings[c]
        assert ends is not None
        by = int(ends.by[row, k])
        if by >= 0:
            return clearing.model.grid.elements[clearing.model.branches[by]].tag
        return "" if by == -1 else clearing.model.injections[clearing.sources[-2 - by]].element.tag

    # One, with its working -------------------------------------------------------------------------------

    def _staged(self, c: int, row: int, k: int) -> tuple[ieee.Energy, tuple[StageEnergy, ...]]:
        """Energies of the stages of place k of those asked of circuit c, and their sum."""
        staging, i = self.staging[c], int(self.asked[c][k])
        situation = self._situations[i]
        assert staging is not None and isinstance(situation, ieee.Situation)
        (found,) = staging.stages([(row, k)])
        energies, shown = [], []
        for bolted, s in zip(self._covered(c, i, found), found, strict=True):
            part = ieee.energy(situation, bolted, (s.until_s - s.from_s) * 1000, reduced=CURRENTS[row] == "reduced")
            energies.append(part)
            shown.append(StageEnergy(s.from_s, s.until_s, s.bolted_fault_current_ka, part.arcing_current_ka,
                                     part.incident_energy_j_cm2, s.then_off, bolted != s.bolted_fault_current_ka)
                         )  # fmt: skip
        return ieee.total(situation, energies), tuple(shown)

    def explain(self, c: int, row: int, i: int) -> Figure:
        """The figure of place i in circuit c at the full (0) or reduced (1) current, with its working."""
        clearing, situation = self.clearings[c], self._situations[i]
        model, ends = clearing.model, self.ends[c]
        k = self.asked_at(c, i)
        assert isinstance(situation, ieee.Situation) and ends is not None
        fault = model.fault(self.places[i].node_id)
        total, parts = self._staged(c, row, k)
        currents = ieee.arc_currents(situation, float(self.bolted_ka[c, i]))
        shown = show_clearing(
            clearing, self._one(c, i), fault, row, float(ends.time_s[row, k]), self.clears(c, row, k),
            tuple(self._never(c, row, k)),
        )  # fmt: skip
        return Figure(
            model.circuit.name, self.places[i].node_id, CURRENTS[row], fault_working(model, fault), situation, currents,
            ieee.correction(situation), shown, float(self.duration_s[c, row, i]), bool(self.capped[c, row, i]), total,
            parts, self.warnings[i],
        )  # fmt: skip

    def _one(self, c: int, i: int) -> Places:
        return Places(self._nodes[[i]], self._doubted[[i]], self.arcing_ka[c][:, [i]] / self.bolted_ka[c, i])


def _row(s: ieee.Situation | str) -> tuple[Any, ...]:
    if isinstance(s, str):
        return math.nan, "", math.nan, math.nan, math.nan, math.nan, math.nan
    box = s.enclosure
    sides = (math.nan,) * 3 if box is None else (box.height_mm, box.width_mm, box.depth_mm)
    return (s.voltage_v, s.electrode_configuration, s.gap_mm, s.working_distance_mm,
            *(math.nan if side is None else side for side in sides))  # fmt: skip


def _situation(network: Network, place: Place) -> ieee.Situation | str:
    """What the model needs to know of a place, or why it is not known."""
    node: Node = network.node[place.node_id]
    box = network.enclosure.get(node.enclosure or "")
    if box is None or box.electrode_configuration is None or box.gap_mm is None:
        return "gap and electrode configuration of its enclosure are not recorded"
    size = None
    if box.height_mm is not None and box.width_mm is not None:
        size = ieee.Enclosure(box.height_mm, box.width_mm, box.depth_mm)
    distance = place.working_distance_mm
    return ieee.Situation(node.nominal_voltage_v, box.electrode_configuration, box.gap_mm, distance, size)


def _behind_ups(network: Network, node_id: str) -> bool:
    return any(e.kind == "ups" and e.ends[-1] == node_id for e in network.at_node[node_id])


def fault_working(model: NodalModel, fault: Fault) -> dict[str, Any]:
    """What the working shows of the fault: impedance, X/R, who contributes and on which way, with their data."""
    shown = sorted(((e.tag, ka) for e, ka in fault.contributions), key=lambda c: -c[1])
    fed = {e.tag: e for e, _ in fault.contributions}
    network, circuit = model.network, model.circuit
    return {
        "bolted_fault_current_ka": fault.bolted_fault_current_ka,
        "voltage_v": fault.node.nominal_voltage_v,
        "resistance_pu": fault.z_pu.real,
        "reactance_pu": fault.z_pu.imag,
        "x_r": fault.x_r if math.isfinite(fault.x_r) else None,
        "contributions_ka": {tag: ka for tag, ka in shown if ka > 1e-6},
        "source_data": {tag: inputs(network, fed[tag], circuit) for tag, ka in shown if ka > 1e-6},
        "path": [
            {
                "tag": s.element.tag,
                "share_ka": s.current_ka,
                "at_voltage_v": s.at_voltage_v,
                "data": inputs(network, s.element, circuit) if s.element.kind in ("transformer", *SERIES) else {},
            }
            for s in sorted(fault.shares.values(), key=lambda s: -s.current_ka * s.at_voltage_v)
            if s.current_ka * s.at_voltage_v > 0.02 * fault.bolted_fault_current_ka * fault.node.nominal_voltage_v
        ],
    }
