"""Total clearing times of devices (protection/bands): one device at one current after the other."""

from __future__ import annotations

import numpy as np

from spinel.core.compiled import compiled
from spinel.core.compiled.tables import BandTable

#: As in protection/bands: the relay of a zone among the elements; when a band applies.
ZONE, ALWAYS, HELD = 3, 0, 1


@compiled
def band_s(t: BandTable, r: int, amps: float) -> float:
    """Seconds that one band takes at a current."""
    found = t.b[r]
    if t.a[r] > 0:
        x = min(amps / t.ref[r], t.cap[r])
        found += t.a[r] / max(x ** t.p[r] - t.q[r], 1e-300)
    return float(max(found, t.floor[r]))


@compiled
def device_s(
    t: BandTable, device: int, timed: float, least: float, box: int, held: bool, times: np.ndarray, bands: np.ndarray
) -> None:
    """Times of the elements of a device at ``timed`` A, and which band gives each (from 1; 0: none); picked up is what
    ``least`` A reaches. No element of a lower priority is quicker than one above it that has picked up."""
    times[:] = np.inf
    bands[:] = 0
    sooner = 0.0
    zone = t.zone_row[device]
    for r in range(t.start[device], t.start[device] + t.count[device]):
        element, when = t.element[r], t.when[r]
        if least < t.pickup[r] or (when != ALWAYS and (when == HELD) != held):
            continue
        if element == ZONE and not (zone >= 0 and t.zoned[zone, box + 1]):
            continue
        time = band_s(t, r, timed)
        if element != ZONE:
            time = sooner = max(time, sooner)
        # the first band of an element that applies is its time
        if np.isinf(times[element]):
            times[element], bands[element] = time, r + 1


@compiled
def many_s(
    t: BandTable, device: np.ndarray, timed: np.ndarray, least: np.ndarray, box: np.ndarray, held: np.ndarray
) -> tuple[np.ndarray, np.ndarray]:
    """The same of many (elements, entries); ``device`` -1: none."""
    times, bands = np.full((ZONE + 1, len(device)), np.inf), np.zeros((ZONE + 1, len(device)), dtype=np.int64)
    own_s, own_band = np.empty(ZONE + 1), np.empty(ZONE + 1, dtype=np.int64)
    for i in range(len(device)):
        if device[i] >= 0:
            device_s(t, device[i], timed[i], least[i], box[i], held[i], own_s, own_band)
            times[:, i], bands[:, i] = own_s, own_band
    return times, bands
