"""Emergency plans of the demo's places, all invented; one place has none yet."""

from __future__ import annotations

from spinel.actions import emergency
from spinel.demo.history import Demo

PLANS = {
    "LV switch room": {
        "call": "Harbor control 555 0100, then 911", "switch": "Red button beside the north door, opens 52-A and 52-B",
        "extinguisher": "CO2, both doors", "defibrillator": "Ticket hall, 60 m",
        "rescue": "North door, straight to quay 2",
    },
    "MV room": {
        "call": "Harbor control 555 0100, then the utility 555 0155",
        "switch": "Red button outside the door, opens 52-U", "extinguisher": "CO2, outside the door",
        "defibrillator": "Ticket hall, 90 m", "rescue": "Door opens outward, to the forecourt",
    },
    "Pump gallery": {
        "call": "Harbor control 555 0100, then 911", "switch": "Red handle at the foot of the stair",
        "extinguisher": "CO2, at the stair", "defibrillator": "Linkspan hut", "rescue": "Stair; stretcher by the hatch",
        "note": "No radio below: use the wall telephone",
    },
    "Pump house": {"call": "Harbor control 555 0100, then 911", "switch": "Red button inside the door",
                   "extinguisher": "CO2, inside the door", "defibrillator": "Ticket hall, 120 m"},
}  # fmt: skip


def written(demo: Demo) -> None:
    for hours, (place, says) in enumerate(PLANS.items()):
        emergency.write(demo.act("maren", -24 * 25 + hours), place, says)
