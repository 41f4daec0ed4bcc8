"""The study of a whole site: every location, case and side, with the worst of full and reduced arcing current.

A location is a piece of equipment that somebody may work at: every element but conductors. Its sides are where the
task touches: a bus on its line side, itself or its feeder side; a device on its line or its feeder side; what has one
end at that end (``bus``). The figures are the card's own, computed together.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from typing import Any

import numpy as np

from spinel.core.arcflash.figures import CURRENTS, Figures, Place
from spinel.core.errors import NotFound, OutOfRange
from spinel.core.hazard import TOUCHES, Study, arc_nodes, doubted, shock_voltage, standard_distance
from spinel.core.network.document import SERIES, Element, Network
from spinel.core.ppe.by_energy import kit
from spinel.core.quantities import CAL_PER_J
from spinel.core.shock.approach import approach, glove_class

METHOD = "ieee1584-2018"
NOT_FED = "no source feeds it in this case"
COLUMNS = (
    "location", "case", "side", "method", "electrode_configuration", "voltage_v", "bolted_fault_current_ka",
    "arcing_current_ka", "device", "clearing_time_s", "incident_energy_cal_cm2", "reduced_incident_energy_cal_cm2",
    "arc_flash_boundary_mm", "working_distance_mm", "limited_fixed_mm", "restricted_mm", "glove_class", "ppe",
    "warning",
)  # fmt: skip


@dataclass(frozen=True)
class Location:
    """A place of work: an element and where it is touched, with the nodes that the arc can be at."""

    element: Element
    side: str
    places: tuple[int, ...]
    no_figure: str = ""


class SiteStudy:
    """All locations of a study. ``figures`` are of all its places; ``rows`` reads them."""

    def __init__(self, study: Study):
        self.study = study
        self.places: list[Place] = []
        self._place: dict[tuple[Any, ...], int] = {}
        self.locations = [self._location(e, side) for e in located(study.network) for side in sides(e)]
        self.figures: Figures = study.figures(self.places)

    def _location(self, e: Element, side: str) -> Location:
        network = self.study.network
        nodes = arc_nodes(network, e, side)
        distance = standard_distance(network, nodes)
        if distance is None:
            return Location(e, side, (), "no working distance is recorded for its enclosure")
        return Location(e, side, tuple(self._number(n.id, doubted(network, n, side, e), distance) for n in nodes))

    def _number(self, *place: Any) -> int:
        """Position of a place, kept once however many locations share it."""
        if place not in self._place:
            self._place[place] = len(self.places)
            self.places.append(Place(*place))
        return self._place[place]

    def rows(self, case: str | None = None) -> Iterator[dict[str, Any]]:
        """One row for each location, case and side, as ``spinel study`` writes them. ``case``: its id or its name.

        NotFound for a case that the document has not.
        """
        read = _Read(self.figures)
        for location in self.locations:
            shock = _shock(self.study, location.element)
            for c in self._circuits(case):
                name = self.study.models[c].circuit.name
                head = {"location": location.element.tag, "case": name, "side": location.side}
                yield {**dict.fromkeys(COLUMNS, ""), **self._row(read, location, c), **head, **shock}

    def worst_rows(self) -> Iterator[dict[str, Any]]:
        """One row for each location and side: its worst case, or, as on a card, the reason why it has no figure."""
        for _, group in groupby(self.rows(), key=lambda r: (r["location"], r["side"])):
            rows = list(group)
            lacking = [r for r in rows if not r["method"] and r["warning"] != NOT_FED]
            with_figure = [r for r in rows if r["method"]]
            if lacking or not with_figure:
                yield (lacking or rows)[0]
                continue
            boundary = max(r["arc_flash_boundary_mm"] for r in with_figure)
            worst = max(with_figure, key=lambda r: r["incident_energy_cal_cm2"])
            yield {**worst, "arc_flash_boundary_mm": boundary}

    def _circuits(self, case: str | None) -> list[int]:
        named = [(c.id, c.name) for c in self.study.network.cases]
        found = [i for i, both in enumerate(named) if case is None or case in both]
        if not found:
            raise NotFound("case", case)
        return found

    def _row(self, read: _Read, location: Location, c: int) -> dict[str, Any]:
        if location.no_figure:
            return {"warning": location.no_figure}
        first = self.places[location.places[0]]
        volts = self.study.network.node[first.node_id].nominal_voltage_v
        distance = {"working_distance_mm": first.working_distance_mm, "voltage_v": volts}
        for i in location.places:
            if (c, i) in self.figures.why:
                return {**distance, "warning": self.figures.why[c, i]}
        worst = max(location.places, key=lambda i: read.worst[c][i])
        if read.worst[c][worst] < 0:
            return {**distance, "warning": NOT_FED}
        boundary = max(read.boundary[c][i] for i in location.places)
        return {**distance, **self._figure(read, c, worst), "arc_flash_boundary_mm": boundary}

    def _figure(self, read: _Read, c: int, i: int) -> dict[str, Any]:
        row, place = read.row[c][i], self.places[i]
        energy = read.worst[c][i] * CAL_PER_J
        node = self.study.network.node[place.node_id]
        box = self.study.network.enclosure[node.enclosure or ""]
        capped = read.capped[c][row][i]
        device = "" if capped else self.figures.clears(c, row, self.figures.asked_at(c, i))
        return {
            "method": METHOD, "electrode_configuration": box.electrode_configuration,
            "voltage_v": node.nominal_voltage_v, "bolted_fault_current_ka": read.bolted[c][i],
            "arcing_current_ka": read.arcing[c][row][i], "device": device,
            "clearing_time_s": read.duration[c][row][i], "incident_energy_cal_cm2": energy,
            "reduced_incident_energy_cal_cm2": read.energy[c][1][i] * CAL_PER_J, "ppe": kit(energy).level,
            "warning": "; ".join(self._warnings(i, row, capped, energy)),
        }  # fmt: skip

    def _warnings(self, i: int, row: int, capped: bool, energy: float) -> list[str]:
        found = list(self.figures.warnings[i])
        if row == CURRENTS.index("reduced"):
            found.append("the reduced arcing current is the worse")
        if capped:
            found.append("slower than 2 s or never: the two-second rule, escape is clear")
        if energy > self.study.ceiling_cal_cm2:
            found.append(f"above the site's ceiling of {self.study.ceiling_cal_cm2:g} cal/cm²: nobody works live")
        return found


class _Read:
    """The arrays of figures as plain lists, many times quicker to read one by one; -1 where there is no energy."""

    def __init__(self, figures: Figures):
        filled = np.nan_to_num(figures.energy_j_cm2, nan=-1.0)
        self.energy, self.worst = filled.tolist(), filled.max(axis=1).tolist()
        self.row = filled.argmax(axis=1).tolist()
        self.boundary = np.nan_to_num(figures.boundary_mm, nan=-1.0).max(axis=1).tolist()
        self.bolted, self.arcing = figures.bolted_ka.tolist(), figures.arcing_ka.tolist()
        self.duration, self.capped = figures.duration_s.tolist(), figures.capped.tolist()


def located(network: Network) -> list[Element]:
    """Every element that is a location."""
    return [e for e in network.elements if e.kind not in SERIES]


def sides(e: Element) -> tuple[str, ...]:
    """Where a task can touch an element."""
    if e.kind == "bus":
        return tuple(TOUCHES)
    return ("bus",) if len(e.ends) == 1 else ("line_side", "feeder")


def _shock(study: Study, e: Element) -> dict[str, Any]:
    voltage, current = shock_voltage(study.network, e)
    found = approach(voltage, current, study.profile.threshold_v)
    shown = {"limited_fixed_mm": found.limited_fixed_mm, "restricted_mm": found.restricted_mm}
    if found.limited_fixed_mm is not None:
        try:
            shown["glove_class"] = glove_class(voltage, current)  # type: ignore[assignment]
        except OutOfRange:
            shown["glove_class"] = None
    return {k: "" if v is None else v for k, v in shown.items()}
