"""Arc-flash PPE chosen by calculated incident energy.

Source: NFPA 70E-2021 table 130.5(G), in our own words, from memory.
PPE never depends on how likely the event is, only on the energy.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.quantities import BOUNDARY_ENERGY_CAL_CM2, Quantity

SOURCE = "NFPA 70E-2021 table 130.5(G), own wording, from memory"
ENERGY_CAL_CM2 = Quantity("incident_energy_cal_cm2", "Incident energy", "cal/cm²", 0, 1e6)

ALWAYS = ("hard hat", "safety glasses or goggles", "hearing protection (ear canal inserts)")


@dataclass(frozen=True)
class Kit:
    """What to wear. ``arc_rating_cal_cm2`` is the least rating of every arc-rated layer system, or None."""

    level: str
    arc_rating_cal_cm2: float | None
    items: tuple[str, ...]
    reason: str
    source: str = SOURCE


def kit(incident_energy_cal_cm2: float) -> Kit:
    """The kit for an incident energy at the working distance, cal/cm². InputError for NaN or negative.

    >>> kit(5.4).level
    'over 1.2 to 12 cal/cm²'
    """
    energy = ENERGY_CAL_CM2.check(incident_energy_cal_cm2)
    if energy < BOUNDARY_ENERGY_CAL_CM2:
        return Kit(
            "below 1.2 cal/cm²",
            None,
            ("non-melting clothing, long sleeves and trousers, closed and buttoned",
             "heavy-duty leather gloves, or rubber insulating gloves with leather protectors", *ALWAYS),
            "below the onset of a second-degree burn: no arc rating required, nothing that melts",
        )  # fmt: skip
    if energy <= 12:
        return Kit(
            "over 1.2 to 12 cal/cm²",
            energy,
            ("arc-rated shirt and trousers, or coverall, or arc flash suit",
             "arc-rated face shield with balaclava, or arc flash suit hood",
             "heavy-duty leather or arc-rated gloves, or rubber insulating gloves with leather protectors",
             *ALWAYS, "leather footwear", "arc-rated outer layer as needed; nothing meltable beneath"),
            "every layer system rated at or above the energy",
        )  # fmt: skip
    return Kit(
        "above 12 cal/cm²",
        energy,
        ("arc-rated shirt and trousers, or coverall, with arc flash suit to reach the rating",
         "arc flash suit hood (face shield and balaclava are not enough)",
         "arc-rated gloves, or rubber insulating gloves with leather protectors",
         *ALWAYS, "leather footwear", "arc-rated outer layer as needed; nothing meltable beneath"),
        "every layer system rated at or above the energy; hood required above 12 cal/cm²",
    )  # fmt: skip
