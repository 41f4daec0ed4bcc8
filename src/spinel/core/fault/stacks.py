"""The states of one case, all corners and phases of it, on the topology that they share.

States that come out alike are one. Of a large site only the corners that are asked together are kept: a core of some
hundred nodes takes megabytes a state.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from spinel.core.fault.decay import Decay
from spinel.core.fault.nodal import NodalModel
from spinel.core.fault.states import States
from spinel.core.fault.topology import ClosedBranches

if TYPE_CHECKING:
    from spinel.core.compiled.tables import PhaseTable

#: States that take more bytes are let go of once a case is done.
KEPT_BYTES = 64_000_000


@dataclass(frozen=True)
class Stack:
    """States of a corner, and which of them holds when."""

    states: States
    phases: PhaseTable


class Stacks:
    """``models``: one a corner. ``starts`` of the phases, and infinity; ``after``: by phase and component, the next
    that changes anything there; ``differ``: likewise, do its high and its low state?; ``alive``: by phase, which
    lasting sources have not ceased."""

    def __init__(self, topology: ClosedBranches, models: Sequence[NodalModel], decay: Decay):
        self.topology, self.models, self.phases = topology, models, decay.phases
        first = models[0]
        ids = [i.element.id for i in first.injections]
        self.injected = first.injected
        #: of each node, which part of the network it is in
        self.component = np.unique(first.part, return_inverse=True)[1].ravel()
        self._high = np.array([[p.high.get(i, 1.0) for i in ids] for p in self.phases]).reshape(-1, len(ids))
        self._low = np.array([[p.low.get(i, 1.0) for i in ids] for p in self.phases]).reshape(-1, len(ids))
        of = [first.injections[i].element for i in topology.sources]
        #: lasting sources, each with when it ceases of itself
        self.lasting = [(e, next((p.from_s for p in self.phases if e.id in p.ended), np.inf)) for e in of]
        self.even = np.array([p.even for p in self.phases])
        self.alive = np.array([[ids[n] not in p.ended for n in topology.sources] for p in self.phases], dtype=bool)
        self.alive = self.alive.reshape(len(self.phases), len(topology.sources))
        self.alive = np.concatenate([self.alive, self.alive[-1:]])
        own, many = self.component[self.injected], int(self.component.max(initial=-1)) + 1
        self.differ = np.array([_any(own, h != low, many) for h, low in zip(self._high, self._low, strict=True)])
        self.starts = np.array([*(p.from_s for p in self.phases), np.inf])
        self.after = np.full((len(self.phases), many), len(self.phases), dtype=np.intp)
        for p in range(len(self.phases) - 2, -1, -1):
            moves = (self._high[p] != self._high[p + 1]) | (self._low[p] != self._low[p + 1])
            self.after[p] = np.where(_any(own, moves, many), p + 1, self.after[p + 1])
        self._based()
        self._known: dict[int, Stack] = {}

    def _based(self) -> None:
        """Corners between which nothing but the strength of lasting sources differs are one: the first of them, with
        that by which the admittance of each source is multiplied."""
        lasting = np.zeros(len(self.injected), dtype=bool)
        lasting[self.topology.sources] = True
        self.base_of = np.arange(len(self.models))
        self.strength = np.ones((len(self.models), len(self.topology.sources)), dtype=complex)
        known: dict[tuple[str, bytes], int] = {}
        own = [np.array([i.z_pu for i in m.injections], dtype=complex) for m in self.models]
        for corner, (model, z) in enumerate(zip(self.models, own, strict=True)):
            base = known.setdefault((model.circuit.level, z[~lasting].tobytes()), corner)
            self.base_of[corner] = base
            self.strength[corner] = (own[base] / z)[lasting]

    def strength_of(self, corner: int) -> np.ndarray:
        """By what each source's admittance is multiplied in a corner; empty where it is its own base."""
        whole = self.base_of[corner] == corner
        return np.zeros(0, dtype=complex) if whole else self.strength[corner]

    def at(self, corner: int) -> Stack:
        """The states of a corner's base."""
        base = int(self.base_of[corner])
        if base not in self._known:
            self._known[base] = self._solved(self.models[base])
        return self._known[base]

    def forget(self) -> None:
        """Let go of what takes much room."""
        if sum(s.states.between.nbytes for s in self._known.values()) > KEPT_BYTES:
            self._known.clear()

    def _solved(self, model: NodalModel) -> Stack:
        shunt, source_y = list[np.ndarray](), list[np.ndarray]()
        high = np.zeros(len(self.phases), dtype=np.int64)
        low = high.copy()
        branches = model.grid.z_pu(model.circuit)[model.branches]
        own = np.array([i.z_pu for i in model.injections], dtype=complex)
        known: dict[bytes, int] = {}
        for table, factors in ((high, self._high), (low, self._low)):
            for p, row in enumerate(factors):
                key = row.tobytes()
                if key not in known:
                    known[key] = len(shunt)
                    y = np.zeros(self.topology.size, dtype=complex)
                    np.add.at(y, self.injected, 1 / (own * row))
                    shunt.append(y)
                    source_y.append(1 / (own * row)[self.topology.sources])
                table[p] = known[key]
        return Stack(States(self.topology, branches, np.array(shunt), np.array(source_y)), self._table(high, low))

    def _table(self, high: np.ndarray, low: np.ndarray) -> PhaseTable:
        from spinel.core.compiled.tables import PhaseTable

        return PhaseTable(
            high=high, low=low, differ=self.differ, after=self.after.astype(np.int64), starts=self.starts,
            even=self.even, alive=self.alive,
        )  # fmt: skip


def _any(of: np.ndarray, which: np.ndarray, many: int) -> np.ndarray:
    found = np.zeros(many, dtype=bool)
    found[of[which]] = True
    return found
