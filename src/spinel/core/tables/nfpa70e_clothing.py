"""Arc-flash clothing of NFPA 70E table 130.5(G) (2021 numbering), in our own words, from memory.

What is worn depends on the energy only, never on how likely the event is.
"""

from __future__ import annotations

from spinel.core.tables.forms import Clothing, Level

ALWAYS = ("hard hat", "safety glasses or goggles", "hearing protection (ear canal inserts)")

CLOTHING = Clothing(
    levels=(
        Level(
            upper_cal_cm2=1.2, inclusive=False, arc_rated=False, name="below 1.2 cal/cm²",
            items=("non-melting clothing, long sleeves and trousers, closed and buttoned",
                   "heavy-duty leather gloves, or rubber insulating gloves with leather protectors", *ALWAYS),
            reason="below the onset of a second-degree burn: no arc rating required, nothing that melts",
        ),
        Level(
            upper_cal_cm2=12, inclusive=True, arc_rated=True, name="over 1.2 to 12 cal/cm²",
            items=("arc-rated shirt and trousers, or coverall, or arc flash suit",
                   "arc-rated face shield with balaclava, or arc flash suit hood",
                   "heavy-duty leather or arc-rated gloves, or rubber insulating gloves with leather protectors",
                   *ALWAYS, "leather footwear", "arc-rated outer layer as needed; nothing meltable beneath"),
            reason="every layer system rated at or above the energy",
        ),
        Level(
            upper_cal_cm2=None, inclusive=True, arc_rated=True, name="above 12 cal/cm²",
            items=("arc-rated shirt and trousers, or coverall, with arc flash suit to reach the rating",
                   "arc flash suit hood (face shield and balaclava are not enough)",
                   "arc-rated gloves, or rubber insulating gloves with leather protectors",
                   *ALWAYS, "leather footwear", "arc-rated outer layer as needed; nothing meltable beneath"),
            reason="every layer system rated at or above the energy; hood required above 12 cal/cm²",
        ),
    ),
    source="NFPA 70E-2021 table 130.5(G), own wording, from memory",
)  # fmt: skip
