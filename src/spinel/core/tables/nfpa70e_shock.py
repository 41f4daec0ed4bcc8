"""Shock approach boundaries of NFPA 70E, tables 130.4(E)(a) and (b) (2021 numbering), from memory.

The rows of the printed table
have gaps (121 to 138 kV and on): a voltage in a gap takes the next higher row. Where a voltage stands in two
rows the larger distance is kept, so the DC row "1.1 to 5 kV" ends below 5 kV here.
"""

from __future__ import annotations

from spinel.core.tables.forms import ApproachRow, GloveClass, ShockRules, Threshold

EDITION = "NFPA 70E-2021 tables 130.4(E)(a), (b), from memory; consult the printed standard"
GLOVE_SOURCE = "ASTM D120, 29 CFR 1910.137 table I-4 (DC: ASTM D120 only), from memory"


def _row(upper_v: float, mm: tuple[float, float, float], inches: tuple[float, float, float]) -> ApproachRow:
    """Limited for movable conductors, limited for fixed parts, restricted (0: avoid contact); then in inches."""
    return ApproachRow(
        upper_v=upper_v,
        limited_movable_mm=mm[0],
        limited_fixed_mm=mm[1],
        restricted_mm=mm[2],
        limited_movable_in=inches[0],
        limited_fixed_in=inches[1],
        restricted_in=inches[2],
    )


_AC = (
    _row(150, (3000, 1000, 0), (120, 42, 0)),
    _row(750, (3000, 1000, 300), (120, 42, 12)),
    _row(15_000, (3000, 1500, 700), (120, 60, 26)),
    _row(36_000, (3000, 1800, 800), (120, 72, 33)),
    _row(46_000, (3000, 2500, 800), (120, 96, 33)),
    _row(72_500, (3000, 2500, 1000), (120, 96, 42)),
    _row(121_000, (3300, 2500, 1000), (128, 96, 42)),
    _row(145_000, (3400, 3000, 1200), (132, 120, 46)),
    _row(169_000, (3600, 3600, 1300), (140, 140, 51)),
    _row(242_000, (4000, 4000, 1700), (156, 156, 68)),
    _row(362_000, (4700, 4700, 2800), (184, 184, 110)),
    _row(550_000, (5800, 5800, 3600), (228, 228, 142)),
    _row(800_000, (7200, 7200, 4900), (285, 285, 191)),
)

_DC = (
    _row(300, (3000, 1000, 0), (120, 42, 0)),
    _row(1_000, (3000, 1000, 300), (120, 42, 12)),
    _row(4_999.999, (3000, 1500, 500), (120, 60, 17)),
    _row(15_000, (3000, 1500, 700), (120, 60, 26)),
    _row(45_000, (3000, 2500, 800), (120, 96, 33)),
    _row(75_000, (3000, 2500, 1000), (120, 96, 38)),
    _row(150_000, (3300, 3000, 1200), (128, 120, 48)),
    _row(250_000, (3600, 3600, 1600), (140, 140, 63)),
    _row(500_000, (6000, 6000, 3500), (240, 240, 138)),
    _row(800_000, (8000, 8000, 5000), (312, 312, 197)),
)

RULES = ShockRules(
    threshold=Threshold(ac_v=50, dc_v=50, inclusive=True),
    ac=_AC,
    dc=_DC,
    gloves=(
        GloveClass("00", 500, 750),
        GloveClass("0", 1_000, 1_500),
        GloveClass("1", 7_500, 11_250),
        GloveClass("2", 17_000, 25_500),
        GloveClass("3", 26_500, 39_750),
        GloveClass("4", 36_000, 54_000),
    ),
    source=EDITION,
    glove_source=GLOVE_SOURCE,
)
