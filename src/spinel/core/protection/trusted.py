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
from spinel.core.fault.decay import DEAD
from spinel.core.fault.grid import Grid
from spinel.core.fault.nodal import BLOCK, NodalModel
from spinel.core.fault.scenes import Family, families
from spinel.core.fault.stacks import Stacks
from spinel.core.fault.topology import ClosedBranches
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import PROTECTIVE
from spinel.core.protection.bands import Bands
from spinel.core.protection.believed import Believed, Device, believed
from spinel.core.protection.duty import Duty, duty_checks
from spinel.core.protection.opening import ArcModel, Opening, Sites
from spinel.core.said import Sayable


class Trusted:
    """``families`` of the document, or of the present state; ``duty`` of the devices that are counted on in them."""

    def __init__(self, network: Network, until_s: float, present: Circuit | None = None, grid: Grid | None = None):
        self.network, self.grid, self.until_s = network, grid or Grid(network), until_s
        self.families: tuple[Family, ...] = families(network, present, self.grid)
        self._models: dict[tuple[int, int], NodalModel] = {}
        self._topologies: list[ClosedBranches] = []
        self._stacks: dict[int, Stacks] = {}
        self._known: dict[tuple[str, bool], Device] = {}
        self._believed: dict[int, Believed] = {}
        #: curves that devices have other than the document's, by element
        self._curves: Mapping[str, Curve] = {}
        #: a device and the curves that it is tried with, each at places of its own
        self._settings: tuple[str, tuple[Curve, ...]] | None = None

    def with_curves(self, curves: Mapping[str, Curve]) -> Trusted:
        """The same situations with some devices set otherwise; a case in which one stands at its maintenance setting
        keeps that. Currents stay as they are,
        so models, and what was solved of them, are shared; whoever asks both does so one at a time."""
        other = copy.copy(self)
        other.__dict__.pop("bands", None)
        other._known, other._believed = {}, {}
        other._curves = {**self._curves, **curves}
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
        return [self.model(f, 0) for f in range(len(self.families))]

    @cached_property
    def duty(self) -> Mapping[str, Duty]:
        return duty_checks(self.network, self.strongest)

    def stacks(self, family: int) -> Stacks:
        """The states of all corners of a family."""
        if family not in self._stacks:
            of = self.families[family]
            models = [self.model(family, c) for c in range(len(of.corners))]
            topology = next((t for t in self._topologies if t.same_branches(models[0])), None)
            if topology is None:
                topology = ClosedBranches(models[0])
                self._topologies.append(topology)
            self._stacks[family] = Stacks(topology, models, of.decay)
        return self._stacks[family]

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

    def opening(self, family: int, sites: Sites, arcs: ArcModel) -> Opening:
        """Arcs at some places in all corners of a family."""
        bands, numbers = self.bands
        trusted = self.believed(self.model(family, 0))

        def held(opening: Opening, corner: int) -> dict[int, np.ndarray]:
            model = self.model(family, corner)
            return {
                branch: self._held(opening, model, device, arcs)
                for branch, device in trusted.devices.items()
                if device.interlocked and device.element.restrained_by
            }

        return Opening(self.stacks(family), trusted, bands, numbers, sites, self.until_s, held, arcs)

    def between(self, family: int, corner: int, factors: Mapping[str, complex], name: Sayable) -> NodalModel:
        """The circuit of one strength between corners, to be shown. ``factors``: by what the impedance of each source
        is multiplied there."""
        circuit = replace(self.families[family].corners[corner], name=name, scaled=factors)
        return NodalModel(self.network, circuit, self.grid)

    def _held(self, opening: Opening, model: NodalModel, device: Device, arcs: ArcModel) -> np.ndarray:
        """Is an interlocked device held at the start, by current and place (2, places)? Where nothing feeds, yes."""
        at = opening.sites.at
        held = np.ones((2, len(at)), dtype=bool)
        asked = np.flatnonzero(model.sustained[at] & opening.sites.covered)
        elements = model.grid.elements
        branches = np.array([i for t in device.element.restrained_by for i, k in enumerate(model.branches)
                             if elements[k] is self.network.by_tag[t]], dtype=np.intp)  # fmt: skip
        least = [max(d.restrains_from_a() if (d := opening_device(self, model, b)) else 0.0, 1.0) for b in branches]
        motors = {i.element.id: complex(DEAD) for i in model.injections if not i.sustained}
        # where their share keeps a device below holding, it holds once they are gone
        without = NodalModel(self.network, replace(model.circuit, scaled={**model.circuit.scaled, **motors}), self.grid)
        base = model.grid.base_ka[model.solution.passive.a[branches]][:, None] * 1000
        for start in range(0, len(asked), BLOCK):
            some = asked[start : start + BLOCK]
            for row in (0, 1):
                holds = np.zeros(len(some), dtype=bool)
                for state in (model, without) if motors else (model,):
                    amps, _ = state.solution.branch_currents(state.solution.drops(at[some]), branches)
                    part = arcs.part(some, np.full(len(some), row), state.bolted[at[some]])
                    holds |= (np.abs(amps) * base * part >= np.array(least)[:, None]).any(axis=0)
                held[row, some] = holds
        return held


def opening_device(trusted: Trusted, model: NodalModel, branch: int) -> Device | None:
    """The believed device at a branch of a model, if any."""
    return trusted.believed(model).devices.get(branch)
