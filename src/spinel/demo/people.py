"""The demo's people, all invented, with their roles and qualifications."""

from __future__ import annotations

#: One password for all, shown on the demo's sign-in page and nowhere else.
PASSWORD = "tidal-lantern-42"

#: login, name, phone, roles
PEOPLE = (
    ("maren", "Maren Oduya", "555 0110", ("coordinator",)),
    ("tavi", "Tavi Lindgren", "555 0111", ("coordinator", "director")),
    ("ruth", "Ruth Calloway", "555 0120", ("authoriser",)),
    ("piet", "Piet Osei", "555 0121", ("authoriser",)),
    ("sorcha", "Sorcha Maddern", "555 0130", ("person_in_charge", "worker")),
    ("ivo", "Ivo Tanaka", "555 0140", ("director",)),
    ("bram", "Bram Castel", "555 0141", ("operator", "worker")),
    ("nils", "Nils Abara", "555 0150", ("worker",)),
    ("wanda", "Wanda Keogh", "555 0151", ("worker",)),
    ("jory", "Jory Pell", "555 0160", ("attendant",)),
    ("edda", "Edda Quist", "555 0170", ("reader",)),
    ("eero", "Eero Vance", "555 0142", ("operator", "worker")),
    ("dagny", "Dagny Holt", "555 0131", ("person_in_charge", "worker")),
)

_ALL = (
    "medium-voltage switchgear", "low-voltage switchgear", "switchboard", "panelboard", "motor control center",
    "transformer", "cable junction box", "generator terminal box", "converter", "control panel", "outdoor terminal",
)  # fmt: skip
_LOW = ("motor control center", "panelboard", "low-voltage switchgear", "switchboard", "converter")

#: login, tasks, equipment classes, days from the demo's moment until it lapses
QUALIFIED = (
    ("nils", ("test", "retorque", "replace", "insert"), _LOW, 210),
    ("wanda", ("test", "inspect", "retorque", "replace"), _LOW, 95),
    ("bram", ("operate", "test"), _ALL, 160),
    ("bram", ("insert",), _LOW, 160),
    ("ivo", ("operate", "test"), _ALL, 400),
    ("tavi", ("operate",), _ALL, 250),
    ("bram", ("retorque",), ("motor control center",), -3),
    ("sorcha", ("test", "retorque", "replace", "inspect"), _LOW, 300),
    ("nils", ("inspect", "retorque", "replace"), ("transformer", "cable junction box"), 120),
    ("wanda", ("retorque", "replace"), ("cable junction box",), 95),
    ("eero", ("operate", "test"), _ALL, 220),
    ("dagny", ("test", "inspect"), _LOW, 180),
)
