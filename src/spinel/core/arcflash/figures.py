"""Arc-flash figures of places in all circuits of a study: bolted to arcing current, clearing, duration, energy.

Many places at once as arrays (``Figures``), and any one of them with all that made it (``Figures.explain``). A place is
a node of the network with what the task touches there. Where no method covers it the reason is kept, never another
method silently.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError
from spinel.core.fault.impedance import inputs
from spinel.core.fault.nodal import Fault, NodalModel
from spinel.core.network.document import SERIES, Network, Node
from spinel.core.protection.clearing import Clearing, Ends, Places, clear_all
from spinel.core.protection.shown import ArcClearing, show_clearing
from spinel.core.protection.stages import has_stages, stages

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


class _NoFigure(Exception):
    """Why a place has no figure in a case."""


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
        self.asked: list[np.ndarray] = []
        self._boxes = {e.id: i for i, e in enumerate(network.enclosures)}
        self._situations: list[ieee.Situation | str] = [_situation(network, p) for p in places]
        self._run()

    # Many at once ----------------------------------------------------------------------------------------

    def _run(self) -> None:
        runs = []
        for c, clearing in enumerate(self.clearings):
            which = np.array([i for i in range(len(self.places)) if self._covered(c, clearing.model, i)], dtype=np.intp)
            self.asked.append(which)
            runs.append((clearing, self._places(c, clearing, which)))
        for c, ends in enumerate(clear_all([r for r, w in zip(runs, self.asked, strict=True) if len(w)])):
            self.ends[[i for i, w in enumerate(self.asked) if len(w)][c]] = ends
        for c in range(len(self.clearings)):
            if self.ends[c] is not None:
                self._energies(c)

    def _covered(self, c: int, model: NodalModel, i: int) -> bool:
        """Does something sustained feed the place, and does a method cover it? Keeps the reason when not."""
        place = self.places[i]
        node = self.network.node[place.node_id]
        try:
            if node.current == "dc":
                raise _NoFigure(f"no method here covers direct current ({node.nominal_voltage_v:g} V DC)")
            if node.phases != 3:
                raise _NoFigure("no method covers single-phase circuits (IEEE 1584-2018 is three-phase)")
            if _behind_ups(self.network, node.id):
                raise _NoFigure("it is fed through a UPS, whose bypass is not modelled")
            if not model.fault_is_sustained(node.id):
                return False
            situation = self._situations[i]
            if isinstance(situation, str):
                raise _NoFigure(situation)
            bolted = float(model.bolted[model.grid.index[node.id]])
            try:
                self.warnings[i] = tuple(dict.fromkeys((*self.warnings[i], *ieee.check(situation, bolted))))
            except InputError as error:
                raise _NoFigure(f"no method covers it: {error} (case {model.circuit.name})") from None
        except _NoFigure as reason:
            self.why[c, i] = str(reason)
            return False
        self.bolted_ka[c, i] = bolted
        return True

    def _places(self, c: int, clearing: Clearing, which: np.ndarray) -> Places:
        at = np.array([clearing.model.grid.index[self.places[i].node_id] for i in which], dtype=np.intp)
        doubted = np.array([self._boxes.get(self.places[i].doubted or "", -1) for i in which], dtype=np.intp)
        if not len(which):
            return Places(at, doubted, np.zeros((2, 0)))
        bolted = self.bolted_ka[c, which]
        currents = ieee.arc_currents(self._many(which), bolted)
        arcing = np.stack([currents.arcing_current_ka, currents.reduced_arcing_current_ka])
        self.arcing_ka[c][:, which] = arcing
        return Places(at, doubted, arcing / bolted)

    def _many(self, which: np.ndarray) -> ieee.Situation:
        """The situations of some places as one of arrays."""
        some = [s for s in (self._situations[i] for i in which) if isinstance(s, ieee.Situation)]
        boxes = [s.enclosure for s in some]
        sides = [[getattr(b, n, None) for b in boxes] for n in ("height_mm", "width_mm", "depth_mm")]
        height, width, depth = (np.array([np.nan if v is None else v for v in side]) for side in sides)
        return ieee.Situation(
            np.array([s.voltage_v for s in some], dtype=float), np.array([s.electrode_configuration for s in some]),
            np.array([s.gap_mm for s in some], dtype=float),
            np.array([s.working_distance_mm for s in some], dtype=float), ieee.Enclosure(height, width, depth),
        )  # fmt: skip

    def _energies(self, c: int) -> None:
        which, ends = self.asked[c], self.ends[c]
        assert ends is not None
        late = ~(ends.time_s <= self.cap_s)
        escape = np.array([self._escape_clear(int(i)) for i in which])
        refused = (late & ~escape).any(axis=0)
        for k in np.flatnonzero(refused):
            self.why[c, int(which[k])] = self._too_slow(c, int(k), late)
        duration = np.where(late, self.cap_s, ends.time_s)
        staged = has_stages(self.clearings[c], self._at(c), ends.source_s, duration)
        good = np.flatnonzero(~refused)
        if not len(good):
            return
        some, bolted = self._many(which[good]), self.bolted_ka[c, which[good]]
        for row, current in enumerate(CURRENTS):
            found = ieee.energy(some, bolted, duration[row, good] * 1000, reduced=current == "reduced")
            self.duration_s[c, row, which[good]] = duration[row, good]
            self.capped[c, row, which[good]] = late[row, good]
            self.energy_j_cm2[c, row, which[good]] = found.incident_energy_j_cm2
            self.boundary_mm[c, row, which[good]] = found.arc_flash_boundary_mm
            for k in np.flatnonzero(staged[row] & ~refused):
                total, _ = self._staged(c, row, int(k))
                self.energy_j_cm2[c, row, which[k]] = total.incident_energy_j_cm2
                self.boundary_mm[c, row, which[k]] = total.arc_flash_boundary_mm

    def _at(self, c: int) -> np.ndarray:
        index = self.clearings[c].model.grid.index
        return np.array([index[self.places[i].node_id] for i in self.asked[c]], dtype=np.intp)

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
        clearing, ends, i = self.clearings[c], self.ends[c], int(self.asked[c][k])
        situation = self._situations[i]
        assert ends is not None and isinstance(situation, ieee.Situation)
        end = min(float(ends.time_s[row, k]), self.cap_s)
        at = clearing.model.grid.index[self.places[i].node_id]
        energies, shown = [], []
        bolted = float(self.bolted_ka[c, i])
        for stage in stages(clearing, at, ends.source_s[row, :, k], end):
            carried = not _in_range(situation, stage.bolted_fault_current_ka)
            bolted = bolted if carried else stage.bolted_fault_current_ka
            ms = (stage.until_s - stage.from_s) * 1000
            part = ieee.energy(situation, bolted, ms, reduced=CURRENTS[row] == "reduced")
            energies.append(part)
            shown.append(StageEnergy(stage.from_s, stage.until_s, stage.bolted_fault_current_ka, part.arcing_current_ka,
                                     part.incident_energy_j_cm2, stage.then_off, carried))  # fmt: skip
        return ieee.total(situation, energies), tuple(shown)

    def explain(self, c: int, row: int, i: int) -> Figure:
        """The figure of place i in circuit c at the full (0) or reduced (1) current, with its working."""
        clearing, situation = self.clearings[c], self._situations[i]
        model, ends = clearing.model, self.ends[c]
        k = int(np.flatnonzero(self.asked[c] == i)[0])
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
        at = np.array([self.clearings[c].model.grid.index[self.places[i].node_id]], dtype=np.intp)
        doubted = np.array([self._boxes.get(self.places[i].doubted or "", -1)], dtype=np.intp)
        return Places(at, doubted, self.arcing_ka[c][:, [i]] / self.bolted_ka[c, i])


def _in_range(situation: ieee.Situation, bolted_ka: float) -> bool:
    try:
        ieee.check(situation, bolted_ka)
    except InputError:
        return False
    return True


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
