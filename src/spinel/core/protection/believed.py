"""Which protective devices of a circuit may be counted on, by which curve, and why others may not."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from spinel.core.curves.shapes import Curve, TripCurve
from spinel.core.curves.times import times_s
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.document import Element
from spinel.core.network.kinds import PROTECTIVE
from spinel.core.protection.duty import Duty
from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class Device:
    """A believed device: its curve in this circuit, and a relay of its own zone (indices of enclosures)."""

    element: Element
    curve: Curve | None
    zone_curve: Curve | None
    zone: frozenset[int] = field(default_factory=frozenset)

    def times_s(self, amps: np.ndarray, boxes: np.ndarray, restrained: np.ndarray) -> np.ndarray:
        """Total clearing times at these currents for arcs in these enclosures; infinite where it never trips."""
        found = np.full(amps.shape, np.inf)
        if self.curve is not None:
            held = restrained if isinstance(self.curve, TripCurve) and self.curve.interlock_delay_s else True
            found = times_s(self.curve, amps, restrained=held)
        if self.zone_curve is not None:
            inside = np.isin(boxes, list(self.zone))
            found = np.where(inside, np.minimum(found, times_s(self.zone_curve, amps)), found)
        return found

    @property
    def interlocked(self) -> bool:
        """Is it held back by named devices downstream?"""
        return isinstance(self.curve, TripCurve) and self.curve.interlock_delay_s is not None

    def restrains_from_a(self) -> float:
        """Current from which it holds back the devices upstream: its short pickup on the fast edge, else any."""
        c = self.curve
        if isinstance(c, TripCurve) and c.short_pickup_a is not None:
            return c.short_pickup_a * (1 - c.tolerance_pct / 100)
        return 0.0


@dataclass(frozen=True)
class Believed:
    """Of a model's branches, by position: the devices that count, and reasons for those that do not."""

    devices: Mapping[int, Device]
    reasons: Mapping[int, Sayable]
    mask: np.ndarray


def believed(
    model: NodalModel, duty: Mapping[str, Duty], known: dict[tuple[str, bool], Device], otherwise: Mapping[str, Curve]
) -> Believed:
    """The believed devices of one circuit. ``known``: devices made before, by element and maintenance setting;
    ``otherwise``: curves other than the document's, by element."""
    devices, reasons = {}, {}
    elements, boxes = model.grid.elements, {e.id: i for i, e in enumerate(model.network.enclosures)}
    for position, branch in enumerate(model.branches):
        e = elements[branch]
        if e.kind not in PROTECTIVE:
            continue
        maintained = e.id in model.circuit.maintenance
        curve = e.maintenance_curve if maintained else otherwise.get(e.id) or e.curve
        if not duty[e.id].adequate:
            reasons[position] = duty[e.id].reason
        elif curve is None and e.zone_curve is None:
            reasons[position] = say("believed-no-curve-recorded")
        else:
            key = (e.id, maintained)
            if key not in known:
                known[key] = Device(e, curve, e.zone_curve, frozenset(boxes[z] for z in e.zone))
            devices[position] = known[key]
    mask = np.zeros(len(model.branches), dtype=bool)
    mask[list(devices)] = True
    return Believed(devices, reasons, mask)
