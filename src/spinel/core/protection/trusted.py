"""The models of all situations of a network, which devices may be counted on in each, and arcs followed through them.

Made once for a study; models, cores and the curves of devices are shared by everything that is asked of it.
"""

from __future__ import annotations

import copy
from collections.abc import Mapping, Sequence
from dataclasses import replace
from functools import cached_property

import numpy as np

from spinel.core.curves.shapes import Curve
from spinel.core.fault.grid import Grid
from spinel.core.fault.impedance import ceases_s
from spinel.core.fault.ladder import Ladder
from spinel.core.fault.nodal import BLOCK, NodalModel
from spinel.core.fault.scenes import Family, families
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import PROTECTIVE
from spinel.core.protection.bands import Bands
from spinel.core.protection.believed import Believed, Device, believed
from spinel.core.protection.duty import Duty, duty_checks
from spinel.core.protection.opening import Arcing, Opening, Sites


class Trusted:
    """``families`` of the document, or of the present state; ``duty`` of the devices that are counted on in them."""

    def __init__(self, network: Network, until_s: float, present: Circuit | None = None, grid: Grid | None = None):
        self.network, self.grid, self.until_s = network, grid or Grid(network), until_s
        self.families: tuple[Family, ...] = families(network, present, self.grid)
        self._models: dict[tuple[int, int], NodalModel] = {}
        self._ladders: dict[int, Ladder] = {}
        self._known: dict[tuple[str, bool], Device] = {}
        self._believed: dict[int, Believed] = {}
        #: curves that devices have other than the document's, by element
        self._curves: Mapping[str, Curve] = {}
        self._base: Trusted | None = None
        #: a device and the curves that it is tried with, each at places of its own
        self._settings: tuple[str, tuple[Curve, ...]] | None = None

    def with_curves(self, curves: Mapping[str, Curve]) -> Trusted:
        """The same situations with some devices set otherwise; a case in which one stands at its maintenance setting
        keeps that. Currents stay as they are,
        so models, and what was solved of them, are shared; whoever asks both does so one at a time."""
        other = copy.copy(self)
        for derived in ("bands", "_keep"):
            other.__dict__.pop(derived, None)
        other._ladders, other._known, other._believed = {}, {}, {}
        other._curves, other._base = {**self._curves, **curves}, self
        return other

    def with_settings(self, element_id: str, curves: Sequence[Curve]) -> Trusted:
        """The same situations with one device tried at several settings at once: places say at which (Sites.setting).
        Not for a device that holds others back, whose setting moves more than its own times; a case in which it stands
        at its maintenance setting keeps that."""
        if self.holds_back(element_id):
            raise ValueError("its settings move other devices too")
        other = self.with_curves({})
        other._settings = (element_id, tuple(curves))
        return other

    def holds_back(self, element_id: str) -> bool:
        """Does any other device wait for this one, by a zone interlock?"""
        tag = self.network.get(element_id).tag
        return any(tag in e.restrained_by for e in self.network.elements)

    def _curve_of(self, e: Element, maintained: bool) -> Curve | None:
        return e.maintenance_curve if maintained else self._curves.get(e.id) or e.curve

    def model(self, family: int, corner: int) -> NodalModel:
        """The model of one corner of a family."""
        key = (family, corner)
        if key not in self._models:
            self._models[key] = NodalModel(self.network, self.families[family].corners[corner], self.grid)
        return self._models[key]

    @cached_property
    def strongest(self) -> list[NodalModel]:
        """The strongest corner of each family, decayed generators left out: what duty is judged on."""
        return [self.model(f, 0) for f, family in enumerate(self.families) if family.after is None]

    @cached_property
    def duty(self) -> Mapping[str, Duty]:
        return duty_checks(self.network, self.strongest)

    def ladder(self, family: int, corner: int) -> Ladder:
        return self.ladder_of(self.model(family, corner))

    def ladder_of(self, model: NodalModel) -> Ladder:
        if id(model) not in self._ladders:
            self._ladders[id(model)] = self._base.ladder_of(model).anew() if self._base else Ladder(model)
        return self._ladders[id(model)]

    @cached_property
    def bands(self) -> tuple[Bands, dict[int, int]]:
        """The curves of every device in either setting, and the number of each there by its identity."""
        boxes = {e.id: i for i, e in enumerate(self.network.enclosures)}
        for e in self.network.elements:
            if e.kind not in PROTECTIVE or not self.duty[e.id].adequate:
                continue
            for maintained in (False, True):
                curve = self._curve_of(e, maintained)
                if curve is not None or e.zone_curve is not None:
                    self._known[e.id, maintained] = Device(e, curve, e.zone_curve, frozenset(boxes[z] for z in e.zone))
        devices = list(self._known.values())
        numbers = {id(d): i for i, d in enumerate(devices)}
        instead: dict[int, list[int]] = {}
        if self._settings is not None and (own := self._known.get((self._settings[0], False))) is not None:
            tried = [replace(own, curve=c) for c in self._settings[1]]
            instead[numbers[id(own)]] = list(range(len(devices), len(devices) + len(tried)))
            devices += tried
        return Bands(devices, len(boxes), instead), numbers

    def believed(self, model: NodalModel) -> Believed:
        if id(model) not in self._believed:
            _ = self.bands
            self._believed[id(model)] = believed(model, self.duty, self._known, self._curves)
        return self._believed[id(model)]

    def opening(self, family: int, corner: int, sites: Sites, arcing: Arcing) -> Opening:
        """Arcs at some places in one corner of a family."""
        return self._opening(self.model(family, corner), sites, arcing)

    def special(self, circuit: Circuit, sites: Sites, arcing: Arcing) -> tuple[NodalModel, Opening]:
        """A circuit of its own, as for one strength between the corners."""
        model = NodalModel(self.network, circuit, self.grid)
        self._keep.append(model)
        return model, self._opening(model, sites, arcing)

    @cached_property
    def _keep(self) -> list[NodalModel]:
        """Models are known by their identity, which must not be used again while one is remembered."""
        return []

    def _opening(self, model: NodalModel, sites: Sites, arcing: Arcing) -> Opening:
        bands, numbers = self.bands
        ladder, trusted = self.ladder_of(model), self.believed(model)
        ceases = np.array([ceases_s(model.injections[i].element) for i in ladder.sources], dtype=float)
        found = Opening(ladder, trusted, bands, numbers, sites, ceases, self.until_s)
        for branch, device in trusted.devices.items():
            if device.interlocked and device.element.restrained_by:
                found.held[branch] = self._held(found, device, arcing)
        return found

    def _held(self, opening: Opening, device: Device, arcing: Arcing) -> np.ndarray:
        """Is an interlocked device held at the start, by current and place (2, places)? Where nothing feeds, yes."""
        model, at = opening.model, opening.sites.at
        held = np.ones((2, len(at)), dtype=bool)
        asked = np.flatnonzero(model.sustained[at] & opening.sites.covered)
        elements = model.grid.elements
        branches = [i for t in device.element.restrained_by for i, k in enumerate(model.branches)
                    if elements[k] is self.network.by_tag[t]]  # fmt: skip
        for start in range(0, len(asked), BLOCK):
            some = asked[start : start + BLOCK]
            drops = model.solution.drops(at[some])
            amps, _ = model.solution.branch_currents(drops, np.array(branches, dtype=np.intp))
            amps = np.abs(amps) * model.grid.base_ka[model.solution.passive.a[branches]][:, None] * 1000
            least = [max(d.restrains_from_a() if (d := opening_device(self, model, b)) else 0.0, 1.0) for b in branches]
            for row in (0, 1):
                part = arcing(some, np.full(len(some), row), model.bolted[at[some]])
                held[row, some] = (amps * part >= np.array(least)[:, None]).any(axis=0)
        return held


def opening_device(trusted: Trusted, model: NodalModel, branch: int) -> Device | None:
    """The believed device at a branch of a model, if any."""
    return trusted.believed(model).devices.get(branch)
