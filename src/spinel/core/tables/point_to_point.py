"""C values of the point-to-point method: A per V for 1 ft of one conductor, three single conductors of 600 V class.

From memory, medium to high confidence; other published tables differ by some percent. Size: in steel conduit, in
nonmagnetic conduit.
"""

SOURCE = "point-to-point C values, from memory, medium to high confidence"

C_VALUES: dict[str, dict[str, tuple[int, int]]] = {
    "copper": {
        "14": (389, 389), "12": (617, 617), "10": (981, 982), "8": (1557, 1559), "6": (2425, 2430), "4": (3806, 3826),
        "3": (4774, 4811), "2": (5907, 6044), "1": (7293, 7493), "1/0": (8925, 9317), "2/0": (10755, 11424),
        "3/0": (12844, 13923), "4/0": (15082, 16673), "250": (16483, 18594), "300": (18177, 20868),
        "350": (19704, 22737), "400": (20566, 24297), "500": (22185, 26706), "600": (22965, 28033),
        "750": (24137, 29735), "1000": (25278, 31491),
    },
    "aluminum": {
        "4": (2346, 2350), "2": (3713, 3730), "1/0": (5777, 5838), "2/0": (7187, 7301), "3/0": (8826, 9110),
        "4/0": (10741, 11174), "250": (12122, 12862), "350": (15484, 16813), "500": (18756, 21391),
        "750": (21766, 25976),
    },
}  # fmt: skip
