"""Arc-flash clothing of NFPA 70E table 130.5(G) (2021 numbering), in our own words, from memory.

What is worn depends on the energy only, never on how likely the event is.
"""

from __future__ import annotations

from spinel.core.said import say
from spinel.core.tables.forms import Clothing, Level

ALWAYS = (
    say("nfpa70e-clothing-hard-hat"),
    say("nfpa70e-clothing-safety-glasses-or-goggles"),
    say("nfpa70e-clothing-hearing-protection-ear-canal-inserts"),
)

CLOTHING = Clothing(
    levels=(
        Level(
            upper_cal_cm2=1.2,
            inclusive=False,
            arc_rated=False,
            name=say("nfpa70e-clothing-below-1-2-cal"),
            items=(
                say("nfpa70e-clothing-non-melting-clothing-long-sleeves-and-trousers"),
                say("nfpa70e-clothing-heavy-duty-leather-gloves-or-rubber-insulating"),
                *ALWAYS,
            ),
            reason=say("nfpa70e-clothing-below-the-onset-of-a-second-degree"),
        ),
        Level(
            upper_cal_cm2=12,
            inclusive=True,
            arc_rated=True,
            name=say("nfpa70e-clothing-over-1-2-to-12-cal"),
            items=(
                say("nfpa70e-clothing-arc-rated-shirt-and-trousers-or-coverall"),
                say("nfpa70e-clothing-arc-rated-face-shield-with-balaclava-or"),
                say("nfpa70e-clothing-heavy-duty-leather-or-arc-rated-gloves"),
                *ALWAYS,
                say("nfpa70e-clothing-leather-footwear"),
                say("nfpa70e-clothing-arc-rated-outer-layer-as-needed-nothing"),
            ),
            reason=say("nfpa70e-clothing-every-layer-system-rated-at-or-above"),
        ),
        Level(
            upper_cal_cm2=None,
            inclusive=True,
            arc_rated=True,
            name=say("nfpa70e-clothing-above-12-cal"),
            items=(
                say("nfpa70e-clothing-arc-rated-shirt-and-trousers-or-coverall-2"),
                say("nfpa70e-clothing-arc-flash-suit-hood-face-shield-and"),
                say("nfpa70e-clothing-arc-rated-gloves-or-rubber-insulating-gloves"),
                *ALWAYS,
                say("nfpa70e-clothing-leather-footwear"),
                say("nfpa70e-clothing-arc-rated-outer-layer-as-needed-nothing"),
            ),
            reason=say("nfpa70e-clothing-every-layer-system-rated-at-or-above-2"),
        ),
    ),
    source="NFPA 70E-2021 table 130.5(G), own wording, from memory",
)
