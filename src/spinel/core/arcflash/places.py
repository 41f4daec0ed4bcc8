"""Places of arcs as arrays: what the arc-flash model needs to know of each, and why it may not cover it at all."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.errors import InputError
from spinel.core.fault.grid import Grid
from spinel.core.network.document import Network, Node
from spinel.core.protection.opening import Sites, doubt_keys
from spinel.core.said import Said, Sayable, say


@dataclass(frozen=True)
class Place:
    """Where an arc is: a node, ids of the devices that it puts out of action, a working distance in mm."""

    node_id: str
    doubted: frozenset[str]
    working_distance_mm: float


class Places:
    """``never``: why no method covers a place whatever feeds it; ``free``: where one may; ``warnings`` of the model."""

    def __init__(self, network: Network, grid: Grid, places: Sequence[Place], setting: np.ndarray | None = None):
        self.network, self.grid, self.places, self.setting = network, grid, places, setting
        self.situations: list[ieee.Situation | Said] = [situation_of(network, p) for p in places]
        self.warnings: list[tuple[Sayable, ...]] = [()] * len(places)
        self.never = [self._never_covered(i) for i in range(len(places))]
        self.free = np.array([w is None for w in self.never], dtype=bool)

    @cached_property
    def prepared(self) -> ieee.Prepared:
        return ieee.Prepared(self.situation_columns, self.grid.base_ka[self.nodes], self.least, self.most)

    def used(self, k: np.ndarray, bolted: np.ndarray) -> np.ndarray:
        """The bolted current to use in each stage: its own; where less is left than the method covers, its least."""
        given: np.ndarray = np.clip(bolted, self.least[k], self.most[k])
        return given

    def _never_covered(self, i: int) -> Sayable | None:
        """Why no method covers the place whatever feeds it; None when one may. Keeps its warnings."""
        node, situation = self.network.node[self.places[i].node_id], self.situations[i]
        if node.current == "dc":
            return say(
                "arcflash-places-no-method-here-covers-direct-current-v", nominal_voltage_v=node.nominal_voltage_v
            )
        if node.phases != 3:
            return say("arcflash-places-no-method-covers-single-phase-circuits-ieee")
        if isinstance(situation, Said):
            return situation
        try:
            # 10 kA is inside the range at any voltage: what remains to be seen is the place alone
            self.warnings[i] = tuple(ieee.check(situation, 10.0))
        except InputError as error:
            return say("arcflash-places-no-method-covers-it", error=error)
        return None

    @cached_property
    def nodes(self) -> np.ndarray:
        """Position of each place's node in the grid, which all circuits share; 0 where it is no AC node."""
        index = self.grid.index
        return np.array([index.get(p.node_id, 0) for p in self.places], dtype=np.intp)

    @cached_property
    def sites(self) -> Sites:
        """The places for following arcs: doubted devices as branches of the grid."""
        sets: dict[frozenset[str], int] = {}
        number = [sets.setdefault(p.doubted, len(sets)) for p in self.places]
        branches: dict[str, list[int]] = {}
        for j, e in enumerate(self.grid.elements):
            branches.setdefault(e.id, []).append(j)
        doubts = [np.array([j for i in s for j in branches.get(i, ())], dtype=np.intp) for s in sets]
        size = max(len(self.grid.elements), 1)
        return Sites(self.nodes, np.array(number, dtype=np.intp), doubt_keys(doubts, size), size, self.free,
                     self.setting)  # fmt: skip

    @cached_property
    def low(self) -> np.ndarray:
        return np.array([self.network.node[p.node_id].nominal_voltage_v <= 600 for p in self.places], dtype=bool)

    @cached_property
    def least(self) -> np.ndarray:
        return np.where(self.low, *(ieee.LEAST_KA[v] for v in (True, False)))

    @cached_property
    def most(self) -> np.ndarray:
        return np.where(self.low, *(ieee.MOST_KA[v] for v in (True, False)))

    @cached_property
    def escape(self) -> np.ndarray:
        return np.array([self._escape_clear(i) for i in range(len(self.places))], dtype=bool)

    def _escape_clear(self, i: int) -> bool:
        box = self.network.enclosure.get(self.network.node[self.places[i].node_id].enclosure or "")
        return box is not None and box.escape_clear

    def many(self, which: np.ndarray) -> ieee.Situation:
        """The situations of some places as one of arrays."""
        volts, kind, gap, distance, *sides = (c[which] for c in self.situation_columns)
        return ieee.Situation(volts, kind, gap, distance, ieee.Enclosure(*sides))

    @cached_property
    def situation_columns(self) -> list[np.ndarray]:
        """Voltage, configuration, gap, distance, height, width, depth of all places; NaN where there is none."""
        rows = [_row(s) for s in self.situations]
        return [np.array(column) for column in zip(*rows, strict=True)]


def _row(s: ieee.Situation | Said) -> tuple[Any, ...]:
    if isinstance(s, Said):
        return math.nan, "", math.nan, math.nan, math.nan, math.nan, math.nan
    box = s.enclosure
    sides = (math.nan,) * 3 if box is None else (box.height_mm, box.width_mm, box.depth_mm)
    return (
        s.voltage_v,
        s.electrode_configuration,
        s.gap_mm,
        s.working_distance_mm,
        *(math.nan if side is None else side for side in sides),
    )


def situation_of(network: Network, place: Place) -> ieee.Situation | Said:
    """What the model needs to know of a place, or why it is not known."""
    node: Node = network.node[place.node_id]
    box = network.enclosure.get(node.enclosure or "")
    if box is None or box.electrode_configuration is None or box.gap_mm is None:
        return say("arcflash-places-gap-and-electrode-configuration-of-its")
    size = None
    if box.height_mm is not None and box.width_mm is not None:
        size = ieee.Enclosure(box.height_mm, box.width_mm, box.depth_mm)
    distance = place.working_distance_mm
    return ieee.Situation(node.nominal_voltage_v, box.electrode_configuration, box.gap_mm, distance, size)
