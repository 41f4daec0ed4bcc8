"""Total clearing times of devices (protection/bands): one device at one current after the other."""

from __future__ import annotations

import numpy as np

from spinel.core.compiled import compiled, inlined
from spinel.core.compiled.tables import BandTable

#: As in protection/bands: the relay of a zone among the elements; when a band applies.
ZONE, ALWAYS, HELD = 3, 0, 1


@inlined
def band_s(rows: np.ndarray, r: int, amps: float) -> float:
    """Seconds that one band takes at a current."""
    found = rows[r].b
    if rows[r].a > 0:
        x = min(amps / rows[r].ref, rows[r].cap)
        p = rows[r].p
        # most curves fall with the square: a multiplication, where a power takes many times as long
        power = x * x if p == 2.0 else x**p
        found += rows[r].a / max(power - rows[r].q, 1e-300)
    slow: float = max(found, rows[r].floor)
    return slow


@inlined
def device_s(
    rows: np.ndarray, devices: np.ndarray, zoned: np.ndarray, device: int, timed: float, least: float, box: int,
    held: bool, times: np.ndarray, bands: np.ndarray,
) -> None:  # fmt: skip
    """Times of the elements of a device at ``timed`` A, and which band gives each (from 1; 0: none); picked up is what
    ``least`` A reaches. No element of a lower priority is quicker than one above it that has picked up."""
    for e in range(ZONE + 1):
        times[e], bands[e] = np.inf, 0
    sooner = 0.0
    zone = devices[device].zone_row
    for r in range(devices[device].start, devices[device].start + devices[device].count):
        element, when = rows[r].element, rows[r].when
        if (
            least >= rows[r].pickup
            and (when == ALWAYS or (when == HELD) == held)
            and (element != ZONE or (zone >= 0 and zoned[zone, box + 1]))
        ):
            time = band_s(rows, r, timed)
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
    rows, devices, zoned = t.rows, t.devices, t.zoned
    for i in range(len(device)):
        if device[i] >= 0:
            device_s(rows, devices, zoned, device[i], timed[i], least[i], box[i], held[i], own_s, own_band)
            times[:, i], bands[:, i] = own_s, own_band
    return times, bands
