"""Who else works on the site: people of other holds behind their locks, and the holds that were given back."""

from __future__ import annotations

from collections.abc import Mapping

from spinel.actions import locks
from spinel.actions.locks import BoxState
from spinel.actions.site import SiteNow
from spinel.core.isolation.points import target_of
from spinel.core.network.cut import region
from spinel.core.switching.order import Crew, Crews
from spinel.store import programs as store


def crews(here: SiteNow, states: Mapping[str, BoxState] | None = None, own: str = "") -> Crews:
    """Every hold that is handed over and not restored, as its box stands. ``own``: the hold that asks."""
    states = locks.states() if states is None else states
    working = []
    for hold, state in states.items():
        equipment = here.network.element.get(state.equipment_id)
        if state.locks and equipment is not None:
            nodes = region(here.network, here.field.devices, target_of(here.network, equipment).all_nodes, hold)
            working.append(Crew(hold, nodes, tuple(lock.name for lock in state.locks)))
    given_back = frozenset(hold for hold, state in states.items() if state.complete)
    moved = {d.moved_by for d in here.field.devices.values() if d.moved_by and d.position != d.was}
    others = moved - states.keys() - {own}
    over = frozenset(store.restored(others)) if others else frozenset[str]()
    return Crews(tuple(working), given_back, over)
