"""Shock approach boundaries of NFPA 70E, tables 130.4(E)(a) and (b) (2021 numbering), from memory.

Rows: upper voltage (inclusive), limited movable mm, limited fixed mm, restricted mm (0: avoid contact), then
the inch column of the same three. Neither column is converted from the other. The rows of the printed table
have gaps (121 to 138 kV and on): a voltage in a gap takes the next higher row. Where a voltage stands in two
rows the larger distance is kept, so the DC row "1.1 to 5 kV" ends below 5 kV here.
"""

EDITION = "NFPA 70E-2021 tables 130.4(E)(a), (b), from memory; consult the printed standard"

Row = tuple[float, float, float, float, float, float, float]

AC: tuple[Row, ...] = (
    (150, 3000, 1000, 0, 120, 42, 0),
    (750, 3000, 1000, 300, 120, 42, 12),
    (15_000, 3000, 1500, 700, 120, 60, 26),
    (36_000, 3000, 1800, 800, 120, 72, 33),
    (46_000, 3000, 2500, 800, 120, 96, 33),
    (72_500, 3000, 2500, 1000, 120, 96, 42),
    (121_000, 3300, 2500, 1000, 128, 96, 42),
    (145_000, 3400, 3000, 1200, 132, 120, 46),
    (169_000, 3600, 3600, 1300, 140, 140, 51),
    (242_000, 4000, 4000, 1700, 156, 156, 68),
    (362_000, 4700, 4700, 2800, 184, 184, 110),
    (550_000, 5800, 5800, 3600, 228, 228, 142),
    (800_000, 7200, 7200, 4900, 285, 285, 191),
)

DC: tuple[Row, ...] = (
    (300, 3000, 1000, 0, 120, 42, 0),
    (1_000, 3000, 1000, 300, 120, 42, 12),
    (4_999.999, 3000, 1500, 500, 120, 60, 17),
    (15_000, 3000, 1500, 700, 120, 60, 26),
    (45_000, 3000, 2500, 800, 120, 96, 33),
    (75_000, 3000, 2500, 1000, 120, 96, 38),
    (150_000, 3300, 3000, 1200, 128, 120, 48),
    (250_000, 3600, 3600, 1600, 140, 140, 63),
    (500_000, 6000, 6000, 3500, 240, 240, 138),
    (800_000, 8000, 8000, 5000, 312, 312, 197),
)
