"""The study of a whole site: every location, case and side, with the worst of strengths, moments and arcing currents.

A location is a piece of equipment that somebody may work at: every element but conductors. Its sides are the ways of
reaching it (core/network/sides): the terminals of each end, and for a device all of it. The figures are the card's own,
computed together.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from spinel.core.arcflash.figures import CURRENTS, Figures
from spinel.core.arcflash.places import Place
from spinel.core.errors import NotFound
from spinel.core.hazard import Study, arc_nodes, exposed_voltages, gloves_for, standard_distance, widest
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import SERIES
from spinel.core.network.sides import Reach, exposed, reach_words, reaches
from spinel.core.ppe.by_energy import kit
from spinel.core.quantities import CAL_PER_J
from spinel.core.said import Sayable, joined, say
from spinel.core.shock.approach import shock_of

METHOD = "ieee1584-2018"
NOT_FED = say("study-no-source-feeds-it-in-this-case")
COLUMNS = (
    "location",
    "case",
    "side",
    "method",
    "electrode_configuration",
    "voltage_v",
    "bolted_fault_current_ka",
    "arcing_current_ka",
    "device",
    "clearing_time_s",
    "incident_energy_cal_cm2",
    "reduced_incident_energy_cal_cm2",
    "arc_flash_boundary_mm",
    "working_distance_mm",
    "limited_fixed_mm",
    "restricted_mm",
    "glove_class",
    "ppe",
    "warning",
)


@dataclass(frozen=True)
class Location:
    """A place of work: an element and how it is reached, with the places that the arc can be at."""

    element: Element
    reach: Reach
    side: Sayable
    places: tuple[int, ...]
    shock: dict[str, Any]
    no_figure: Sayable = ""


class SiteStudy:
    """All locations of a study. ``figures`` are of all its places; ``rows`` reads them."""

    def __init__(self, study: Study):
        self.study = study
        site = study.site
        self.figures: Figures = site.figures
        self.places: list[Place] = list(site.place)
        self._place = site.place
        self.locations = [self._location(e, r) for e in located(study.network) for r in reaches(e)]
        #: columns of each case of the document, and of what no case feeds
        self._of: dict[Sayable, list[int]] = {}
        for c, column in enumerate(self.figures.columns):
            self._of.setdefault(self.figures.families[column.family].case, []).append(c)

    def _location(self, e: Element, reach: Reach) -> Location:
        network = self.study.network
        out = exposed(network, e, reach)
        nodes = arc_nodes(network, out, self.study.profile.threshold)
        distance = standard_distance(network, nodes)
        words, shock = reach_words(network, e, reach), _shock(self.study, e, reach)
        if distance is None:
            return Location(e, reach, words, (), shock, say("study-no-working-distance-is-recorded-for-its"))
        return Location(e, reach, words, tuple(self._place[Place(n.id, out.doubted, distance)] for n in nodes), shock)

    def rows(self, case: str | None = None) -> Iterator[dict[str, Any]]:
        """One row for each location, case and side, as ``spinel study`` writes them. ``case``: its id or its name.

        ``case`` of a row names strength and moment too: those of its worst figure. NotFound for a case that the
        document has not.
        """
        read = _Read(self.figures)
        names = self._cases(case)
        for location in self.locations:
            yield from self._rows_of(read, location, names)
            if case is None:
                yield from self._derived(read, location)

    def _rows_of(self, read: _Read, location: Location, names: list[tuple[str, list[int]]]) -> Iterator[dict[str, Any]]:
        for name, columns in names:
            row = self._row(read, location, columns)
            head = {"location": location.element.tag, "case": row.get("case") or name, "side": location.side}
            yield {**dict.fromkeys(COLUMNS, ""), **row, **head, **location.shock}

    def _derived(self, read: _Read, location: Location) -> Iterator[dict[str, Any]]:
        """A row more where no case of the document feeds the location: with what is open on its way closed."""
        known = {c.name for c in self.study.network.cases}
        if not location.places or any(
            self.figures.seen[c, i] for name in known for c in self._of[name] for i in location.places
        ):
            return
        for name, columns in self._of.items():
            if name not in known and any(self.figures.seen[c, i] for c in columns for i in location.places):
                row = self._row(read, location, columns)
                head = {"location": location.element.tag, "case": row.get("case") or name, "side": location.side}
                yield {**dict.fromkeys(COLUMNS, ""), **row, **head, **location.shock}

    def worst_rows(self) -> Iterator[dict[str, Any]]:
        """One row for each location and side: its worst case, or, as on a card, the reason why it has no figure."""
        for _, row in self.worst_of_each():
            yield row

    def worst_of_each(self) -> Iterator[tuple[Location, dict[str, Any]]]:
        """The same, each with its location."""
        read, names = _Read(self.figures), self._cases(None)
        for location in self.locations:
            yield location, _worst([*self._rows_of(read, location, names), *self._derived(read, location)])

    def _cases(self, case: str | None) -> list[tuple[str, list[int]]]:
        found = [c.name for c in self.study.network.cases if case is None or case in (c.id, c.name)]
        if not found:
            raise NotFound("case", case)
        return [(name, self._of[name]) for name in dict.fromkeys(found)]

    def _row(self, read: _Read, location: Location, columns: Sequence[int]) -> dict[str, Any]:
        if location.no_figure:
            return {"warning": location.no_figure}
        first = self.places[location.places[0]]
        volts = self.study.network.node[first.node_id].nominal_voltage_v
        distance = {"working_distance_mm": first.working_distance_mm, "voltage_v": volts}
        for c in columns:
            for i in location.places:
                if (c, i) in self.figures.why:
                    return {**distance, "case": self.figures.case_name(c), "warning": self.figures.why[c, i]}
        c, worst = max(((c, i) for c in columns for i in location.places), key=lambda at: read.worst[at[0]][at[1]])
        if read.worst[c][worst] < 0:
            return {**distance, "warning": NOT_FED}
        boundary = max(read.boundary[c][i] for c in columns for i in location.places)
        return {**distance, **self._figure(read, c, worst), "arc_flash_boundary_mm": boundary}

    def _figure(self, read: _Read, c: int, i: int) -> dict[str, Any]:
        row, place = read.row[c][i], self.places[i]
        energy = read.worst[c][i] * CAL_PER_J
        node = self.study.network.node[place.node_id]
        box = self.study.network.enclosure[node.enclosure or ""]
        capped = read.capped[c][row][i]
        reduced = read.energy[c][1][i]
        return {
            "case": self.figures.case_name(c),
            "method": METHOD,
            "electrode_configuration": box.electrode_configuration,
            "voltage_v": node.nominal_voltage_v,
            "bolted_fault_current_ka": read.bolted[c][row][i],
            "arcing_current_ka": read.arcing[c][row][i],
            "device": "" if capped else self.figures.clears(c, row, i),
            "clearing_time_s": read.duration[c][row][i],
            "incident_energy_cal_cm2": energy,
            "reduced_incident_energy_cal_cm2": reduced * CAL_PER_J if reduced >= 0 else "",
            "ppe": kit(energy, self.study.profile.clothing).level,
            "warning": joined(*self._warnings(i, row, capped, energy, read.duration[c][row][i])),
        }

    def _warnings(self, i: int, row: int, capped: bool, energy: float, seconds: float) -> list[Sayable]:
        found = list(self.figures.of.warnings[i])
        if row == CURRENTS.index("reduced"):
            found.append(say("study-the-reduced-arcing-current-is-the-worse"))
        if seconds < 1 / self.study.network.site.frequency_hz:
            found.append(say("study-cleared-within-one-cycle-check-that-the"))
        if capped:
            found.append(say("study-slower-than-2-s-or-never-the"))
        if energy > self.study.ceiling_cal_cm2:
            found.append(say("study-above-the-sites-ceiling-of-cal-nobody", ceiling_cal_cm2=self.study.ceiling_cal_cm2))
        return found


def _worst(rows: Sequence[dict[str, Any]]) -> dict[str, Any]:
    """Of the rows of one location."""
    lacking = [r for r in rows if not r["method"] and r["warning"] != NOT_FED]
    with_figure = [r for r in rows if r["method"]]
    if lacking or not with_figure:
        return (lacking or list(rows))[0]
    boundary = max(r["arc_flash_boundary_mm"] for r in with_figure)
    return {**max(with_figure, key=lambda r: r["incident_energy_cal_cm2"]), "arc_flash_boundary_mm": boundary}


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


def _shock(study: Study, e: Element, reach: Reach) -> dict[str, Any]:
    rules = study.profile.shock
    volts = exposed_voltages(study.network, e, reach, exposed(study.network, e, reach))
    each = [shock_of(v, c, rules) for v, c in volts]
    found = widest(each)
    shown: dict[str, Any] = {"limited_fixed_mm": found.limited_fixed_mm, "restricted_mm": found.restricted_mm}
    shown["glove_class"] = gloves_for(each, rules)[0]
    return {k: "" if v is None else v for k, v in shown.items()}
