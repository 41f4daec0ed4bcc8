"""What compiled loops read: arrays by name. Positions are those of ``fault/topology`` and ``protection/opening``.

An array that is taken out of a table counts as one reference more: loops take what they need before they begin.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np


class NetTable(NamedTuple):
    """The states of a network (fault/states): of nodes what lies between each and its parent; then by state."""

    z_child: np.ndarray
    y_below: np.ndarray
    seen_from_parent: np.ndarray
    #: what each port (core nodes, then joints) does to each
    between: np.ndarray
    #: amperes of each joint for one per unit that a core node draws, where nothing is changed (states, nodes, joints)
    alone_a: np.ndarray
    source_y: np.ndarray
    #: of nodes: how the parent's voltage is seen; base current, A
    seen: np.ndarray
    base_a: np.ndarray
    #: core node of each lasting source; base current of each joint, A
    source_core: np.ndarray
    joint_base_a: np.ndarray
    #: neighbours of core nodes one after the other, each node's from ``first`` on, and by which joint (-1: a line)
    first: np.ndarray
    neighbour: np.ndarray
    by_joint: np.ndarray


class PhaseTable(NamedTuple):
    """Which state holds when (fault/stacks), by phase; what changes, by phase and component."""

    high: np.ndarray
    low: np.ndarray
    differ: np.ndarray
    after: np.ndarray
    starts: np.ndarray
    even: np.ndarray
    alive: np.ndarray


class PlaceTable(NamedTuple):
    """Places of arcs and the devices that clear them. The first three: (places, steps of the lateral)."""

    node: np.ndarray
    branch: np.ndarray
    device: np.ndarray
    depth: np.ndarray
    root: np.ndarray
    component: np.ndarray
    box: np.ndarray
    #: devices of the core: joint, branch, least current at which each does anything; the device believed by doubt
    trunk_joint: np.ndarray
    trunk_branch: np.ndarray
    trunk_lowest: np.ndarray
    trunk_device: np.ndarray
    trunk_quickest: float
    doubt: np.ndarray
    #: a device (-1: none) in whose stead each place has another, by its setting
    swapped: int
    setting: np.ndarray
    swapped_for: np.ndarray
    #: row of each branch in ``held`` (-1: none), which says of corners, rows of it, currents and places who stands held
    held_row: np.ndarray
    held: np.ndarray


class ArcTable(NamedTuple):
    """IEEE 1584-2018 at each place (arcflash/ieee1584_2018/prepared). Coefficients: (places, model voltages, each)."""

    high: np.ndarray
    kv: np.ndarray
    base_ka: np.ndarray
    log_gap: np.ndarray
    log_distance: np.ndarray
    log_factor: np.ndarray
    fraction: np.ndarray
    least_ka: np.ndarray
    most_ka: np.ndarray
    current: np.ndarray
    energy: np.ndarray


class BandTable(NamedTuple):
    """Curves (protection/bands): rows of ``BAND``, of each device (``DEVICE``) from ``start`` on; rows of ``zoned`` say
    in which enclosures the relay of a zone looks."""

    rows: np.ndarray
    devices: np.ndarray
    zoned: np.ndarray


#: What makes the time of a band; a device, with its row in ``zoned`` (-1: has no relay of a zone).
BAND = np.dtype([(n, float) for n in ("pickup", "a", "b", "p", "q", "ref", "floor", "cap")]
                + [("element", np.int64), ("when", np.int64)])  # fmt: skip
DEVICE = np.dtype([("start", np.int64), ("count", np.int64), ("lowest", float), ("zone_row", np.int64)])


class WayTable(NamedTuple):
    """Ways from a corner to others (arcflash/between): by way and source, logarithms of what admittances fall by."""

    log_ratio: np.ndarray
    further: np.ndarray
