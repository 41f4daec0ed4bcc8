"""The time-current curves of a place: every device that carries its worst arc, and what cables and transformers on the
way withstand, all in amperes of the arc itself. A curve crosses the arcing current at its own time."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash.explained import Figure
from spinel.core.curves.shapes import Curve
from spinel.core.curves.times import clearing, times_s
from spinel.core.network.document import Element, Network
from spinel.core.protection.shown import DeviceTime
from spinel.core.protection.withstand import Withstand, withstand
from spinel.core.quantities import CAL_PER_J


@dataclass(frozen=True, kw_only=True)
class CurveSeen:
    """``factor``: amperes of the arc for one of the device's own. ``opens_s``: total clearing time at its share of the
    arc as it begins, None: never."""

    element: Element
    curve: Curve
    factor: float
    opens_s: float | None


@dataclass(frozen=True, kw_only=True)
class WithstandSeen:
    """``points``: amperes of the arc, s. ``of``: the curve, with its source, or why there is none."""

    of: Withstand
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True)
class CurvesSeen:
    """Amperes. ``arcing_a``: of the current (full or reduced) that the worst figure is at; ``other_a``: the other."""

    curves: tuple[CurveSeen, ...]
    withstands: tuple[WithstandSeen, ...]
    bolted_a: float
    arcing_a: float
    other_a: float


def seen_from(network: Network, figure: Figure) -> CurvesSeen:
    """Of the worst figure of a place. A device that never trips at its share is left out: its curve lies elsewhere."""
    both = (figure.currents.arcing_current_ka * 1000, figure.currents.reduced_arcing_current_ka * 1000)
    arcing, other = both if figure.current == "full" else both[::-1]
    curves = []
    for device in figure.clearing.devices:
        element = network.element.get(device.element_id)
        curve = _curve_of(element, device) if element is not None else None
        if element is not None and curve is not None and device.share_a > 0 and device.time_s is not None:
            curves.append(CurveSeen(
                element=element, curve=curve, factor=arcing / device.share_a, opens_s=device.time_s
            ))  # fmt: skip
    return CurvesSeen(
        curves=tuple(curves), withstands=tuple(_withstands(network, figure)),
        bolted_a=figure.fault["bolted_fault_current_ka"] * 1000, arcing_a=arcing, other_a=other,
    )  # fmt: skip


def _curve_of(e: Element, seen: DeviceTime) -> Curve | None:
    """The curve that the device is set to in this case: the one that gives the time that it took."""
    each = [c for c in (e.curve, e.maintenance_curve, e.zone_curve) if c is not None]
    for curve in each:
        for held in (True, False):
            time = clearing(curve, seen.share_a, restrained=held).time_s
            if time == seen.time_s or (time and seen.time_s and abs(time - seen.time_s) < 1e-9 * seen.time_s):
                return curve
    return each[0] if each else None


def _withstands(network: Network, figure: Figure) -> Iterator[WithstandSeen]:
    bolted = figure.fault["bolted_fault_current_ka"]
    for step in figure.fault["path"]:
        element = network.by_tag.get(step["tag"])
        if element is None or not step["share_ka"]:
            continue
        volts = {n: network.node[n].nominal_voltage_v for n in element.ends}
        found = withstand(element, volts)
        if found is not None:
            factor = volts[found.at_node] / step["at_voltage_v"] * bolted / step["share_ka"]
            yield WithstandSeen(of=found, points=tuple((a * factor, s) for a, s in found.points))


def drawn_s(seen: CurveSeen, amps: Sequence[float], edge: str) -> list[float]:
    """Times of a device at currents of the arc, s; infinite where it does not trip."""
    found: list[float] = times_s(seen.curve, np.asarray(amps) / seen.factor, edge=edge).tolist()
    return found


def energy_over_distance(figure: Figure, distances_mm: Sequence[float]) -> list[float]:
    """Incident energy of a figure at other working distances, all its stages, cal/cm². Distances of the method's range
    (305 mm and more)."""
    found = []
    for distance in distances_mm:
        there = replace(figure.situation, working_distance_mm=float(distance))
        joule = sum(
            float(ieee.energy(
                there, max(s.bolted_fault_current_ka, _least(there)), (s.until_s - s.from_s) * 1000,
                reduced=figure.current == "reduced",
            ).incident_energy_j_cm2)
            for s in figure.stages
        )  # fmt: skip
        found.append(joule * CAL_PER_J)
    return found


def _least(situation: ieee.Situation) -> float:
    return 0.5 if situation.voltage_v <= 600 else 0.2
