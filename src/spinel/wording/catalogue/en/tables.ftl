## core/tables/equipment.py

equipment-a-class-that-has-typical-values-at = a class that has typical values at { N($voltage_v) } V
equipment-one-with-typical-values = one with typical values: { $typicals }

## core/tables/nfpa70e_shock.py

## core/tables/conductors.py

conductors-no-aluminum-conductor-of-this-size-in = no aluminum conductor of this size in the table

## core/tables/nfpa70e_clothing.py

nfpa70e-clothing-hard-hat = hard hat
nfpa70e-clothing-safety-glasses-or-goggles = safety glasses or goggles
nfpa70e-clothing-hearing-protection-ear-canal-inserts = hearing protection (ear canal inserts)
nfpa70e-clothing-below-1-2-cal = below 1.2 cal/cm²
nfpa70e-clothing-below-the-onset-of-a-second-degree = below the onset of a second-degree burn: no arc rating required, nothing that melts
nfpa70e-clothing-over-1-2-to-12-cal = over 1.2 to 12 cal/cm²
nfpa70e-clothing-every-layer-system-rated-at-or-above = every layer system rated at or above the energy
nfpa70e-clothing-above-12-cal = above 12 cal/cm²
nfpa70e-clothing-every-layer-system-rated-at-or-above-2 = every layer system rated at or above the energy; hood required above 12 cal/cm²
nfpa70e-clothing-non-melting-clothing-long-sleeves-and-trousers = non-melting clothing, long sleeves and trousers, closed and buttoned
nfpa70e-clothing-heavy-duty-leather-gloves-or-rubber-insulating = heavy-duty leather gloves, or rubber insulating gloves with { -over_gloves }
nfpa70e-clothing-arc-rated-shirt-and-trousers-or-coverall = arc-rated shirt and trousers, or coverall, or arc flash suit
nfpa70e-clothing-arc-rated-face-shield-with-balaclava-or = arc-rated face shield with balaclava, or arc flash suit hood
nfpa70e-clothing-heavy-duty-leather-or-arc-rated-gloves = heavy-duty leather or arc-rated gloves, or rubber insulating gloves with { -over_gloves }
nfpa70e-clothing-leather-footwear = leather footwear
nfpa70e-clothing-arc-rated-outer-layer-as-needed-nothing = arc-rated outer layer as needed; nothing meltable beneath
nfpa70e-clothing-arc-rated-shirt-and-trousers-or-coverall-2 = arc-rated shirt and trousers, or coverall, with arc flash suit to reach the rating
nfpa70e-clothing-arc-flash-suit-hood-face-shield-and = arc flash suit hood (face shield and balaclava are not enough)
nfpa70e-clothing-arc-rated-gloves-or-rubber-insulating-gloves = arc-rated gloves, or rubber insulating gloves with { -over_gloves }
