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

#: So many bytes of states are solved together, and so many kept, before others are forgotten for them.
TOGETHER_BYTES, KEPT_BYTES = 64_000_000, 64_000_000


@dataclass(frozen=True)
class Stack:
    """States of some corners that follow one another, and which of them holds when."""

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
        each = len({r.tobytes() for r in (*self._high, *self._low)})
        size = len(topology.core) + len(topology.joints)
        self._bytes = each * 16 * (size**2 + 4 * topology.size)
        together = max(1, TOGETHER_BYTES // max(self._bytes, 1))
        self.bundle_of = np.arange(len(models)) // together
        self._known: dict[int, Stack] = {}

    def at(self, bundle: int) -> Stack:
        """The states of a bundle of corners."""
        if bundle not in self._known:
            if self._bytes * len(self.models) > KEPT_BYTES:
                self._known.clear()
            self._known[bundle] = self._solved(bundle)
        return self._known[bundle]

    def _solved(self, bundle: int) -> Stack:
        corners = np.flatnonzero(self.bundle_of == bundle)
        z, shunt, source_y = list[np.ndarray](), list[np.ndarray](), list[np.ndarray]()
        high = np.zeros((len(corners), len(self.phases)), dtype=np.intp)
        low = high.copy()
        for c, corner in enumerate(corners.tolist()):
            model = self.models[corner]
            branches = model.grid.z_pu(model.circuit)[model.branches]
            own = np.array([i.z_pu for i in model.injections], dtype=complex)
            known: dict[bytes, int] = {}
            for table, factors in ((high, self._high), (low, self._low)):
                for p, row in enumerate(factors):
                    key = row.tobytes()
                    if key not in known:
                        known[key] = len(z)
                        y = np.zeros(self.topology.size, dtype=complex)
                        np.add.at(y, self.injected, 1 / (own * row))
                        z.append(branches)
                        shunt.append(y)
                        source_y.append(1 / (own * row)[self.topology.sources])
                    table[c, p] = known[key]
        return Stack(
            States(self.topology, np.array(z), np.array(shunt), np.array(source_y)),
            self._table(int(corners[0]), high, low),
        )

    def _table(self, corner: int, high: np.ndarray, low: np.ndarray) -> PhaseTable:
        from spinel.core.compiled.tables import PhaseTable

        return PhaseTable(
            corner=corner, high=high.astype(np.int64), low=low.astype(np.int64), differ=self.differ,
            after=self.after.astype(np.int64), starts=self.starts, even=self.even, alive=self.alive,
        )  # fmt: skip


def _any(of: np.ndarray, which: np.ndarray, many: int) -> np.ndarray:
    found = np.zeros(many, dtype=bool)
    found[of[which]] = True
    return found
