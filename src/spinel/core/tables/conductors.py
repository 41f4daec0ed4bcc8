"""NEC chapter 9 table 9 (copper, 75 °C, 60 Hz, single conductors in steel conduit), from memory.

Ohm to neutral per 1000 ft: size -> (resistance, reactance). Used by the demo's cables; a document gives ohms.
"""

SOURCE = "NEC chapter 9 table 9, copper in steel conduit, from memory"
FEET_PER_M = 3.280839895

COPPER_STEEL = {
    "8": (0.78, 0.065), "6": (0.49, 0.064), "4": (0.31, 0.060), "2": (0.20, 0.057), "1/0": (0.12, 0.055),
    "2/0": (0.10, 0.054), "3/0": (0.079, 0.052), "4/0": (0.063, 0.051), "250": (0.054, 0.052),
    "350": (0.039, 0.050), "500": (0.029, 0.048), "600": (0.025, 0.048), "750": (0.021, 0.048),
}  # fmt: skip
