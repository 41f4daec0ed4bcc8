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
    ("temi", "Temi Rusk", "555 0152", ("worker",)),
    ("dag", "Dag Hollis", "555 0190", ("worker",)),
    ("noor", "Noor Ferrand", "555 0191", ("reader",)),
)
#: One short code for all at a shared tablet, shown beside the password.
CODE = "407193"
#: login, employer, company, trade, languages
ABOUT = (
    ("maren", "own", "", "electrical engineer", "English, Yoruba"),
    ("tavi", "own", "", "electrician", "English, Finnish"),
    ("sorcha", "own", "", "electrician", "English, Irish"),
    ("ivo", "own", "", "switching engineer", "English, Japanese"),
    ("bram", "own", "", "electrician", "English, Dutch"),
    ("nils", "own", "", "electrician", "English"),
    ("wanda", "own", "", "electrician", "English, Polish"),
    ("eero", "own", "", "electrician", "English, Finnish"),
    ("dagny", "own", "", "electrician", "English, Norwegian"),
    ("temi", "own", "", "apprentice electrician", "English"),
    ("dag", "contractor", "Tidewick Switch Works", "electrician", "English, Portuguese"),
    ("noor", "visitor", "Carrow Relay Bureau", "protection engineer", "English, French"),
)
#: login, courses, days before the demo's moment on which they were taught
TAUGHT = (
    *((login, ("release", "lockout", "site"), 120) for login in ("ivo", "bram", "eero", "dagny", "jory", "tavi")),
    ("nils", ("release",), 290), ("nils", ("lockout",), 900), ("nils", ("first_aid", "cpr"), 60),
    ("wanda", ("release",), 340), ("wanda", ("lockout",), 400), ("wanda", ("first_aid",), 375),
    ("sorcha", ("release", "first_aid", "cpr"), 316), ("sorcha", ("lockout",), 700),
    ("dag", ("release", "lockout"), 45), ("temi", ("release", "lockout", "site"), 30),
    ("jory", ("first_aid", "cpr"), 35),
)  # fmt: skip
#: login, task, equipment class, how, days before the demo's moment, who taught or saw it
SHOWN = (
    ("temi", "retorque", "motor control center", "trained", 28, "Sorcha Maddern"),
    ("temi", "retorque", "motor control center", "supervised", 20, "Nils Abara"),
    ("temi", "retorque", "motor control center", "supervised", 13, "Nils Abara"),
    ("temi", "retorque", "motor control center", "supervised", 6, "Sorcha Maddern"),
    ("nils", "retorque", "motor control center", "trained", 520, "Sorcha Maddern"),
    ("bram", "retorque", "motor control center", "trained", 1100, "Sorcha Maddern"),
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
    ("dag", ("retorque", "replace", "test"), ("motor control center", "panelboard"), 75),
)
