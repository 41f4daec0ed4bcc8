"""Each text that a person types once: its field, how long it may be, and how that is said.

Forms, actions and the document's schema read these; a test compares them with the tables.
"""

from __future__ import annotations

from dataclasses import dataclass
from unicodedata import bidirectional, category, normalize

from spinel.core.errors import InputError
from spinel.core.said import Said, say

_TURNING = ("LRE", "RLE", "LRO", "RLO", "PDF", "LRI", "RLI", "FSI", "PDI")


@dataclass(frozen=True)
class Text:
    """``name``: the field. ``least``, ``most``: characters, without space around. ``one_line``: space within it counts
    as one blank, line breaks too. ``code``: what is asked for, with ``least`` and ``most``. ``plain``: holds no
    sign that is not seen at all, not even one that only joins or parts others: names are told apart by looking.
    """

    name: str
    least: int
    most: int
    code: str = "text-at-most"
    one_line: bool = False
    plain: bool = False

    @property
    def allowed(self) -> Said:
        return say(self.code, least=self.least, most=self.most)

    def check(self, typed: str, field: str | None = None) -> str:
        """The text to keep, or InputError beside its field. Never cut: what somebody wrote is kept whole or refused.

        >>> TITLE.check("  Tighten  the\\nlugs ")
        'Tighten the lugs'
        """
        typed = normalize("NFC", typed)
        text = " ".join(typed.split()) if self.one_line else typed.replace("\r\n", "\n").strip()
        if any(map(_hidden, text)) or (self.plain and any(category(sign) == "Cf" for sign in text)):
            raise InputError(field or self.name, typed, say("text-seen"))
        if not self.least <= len(text) <= self.most:
            raise InputError(field or self.name, typed, self.allowed)
        return text


def _hidden(sign: str) -> bool:
    """Nothing that is not seen, or turns the order of what is: a 12 must not read as 21."""
    return sign not in "\n\t" and (category(sign) in ("Cc", "Cs", "Co", "Cn") or bidirectional(sign) in _TURNING)


#: Why something is done or not done, on a permit, a program or a job.
REASON = Text("reason", 4, 1000, "text-say-it")
TITLE = Text("title", 4, 120, "text-title", one_line=True)
STATEMENT = Text("statement", 0, 2000)
LEARNT = Text("learnt", 0, 2000)
#: The answer to a question of a justification.
ANSWER = Text("answer", 0, 500)
#: What is kept apart, what is special, why a distance is another: lines of a permit.
PLAN = Text("special", 0, 1000)
SPECIAL = Text("special", 4, 1000, "text-special")
FOUND = Text("note", 4, 500, "text-found")
#: What was found wrong after a trip, and what was done about it.
CAUSE = Text("cause", 10, 500, "text-cause")
CORRECTION = Text("reason", 4, 500, "text-correction")
ABSENT = Text("reason", 10, 500, "text-absent")
#: Who of those told by name answered, and what stands in for what may not be without supply.
ANSWERED = Text("told", 2, 80, "text-answered", one_line=True)
TOLD = Text("informed", 2, 160, "text-answered", one_line=True)
WATCH = Text("watch", 4, 160, "text-watch", one_line=True)
#: How phasing and rotation were checked.
PHASED = Text("phased_how", 4, 160, "text-phased", one_line=True)
#: From which a practice scenario is drawn.
SEED = Text("seed", 1, 20, "text-between", one_line=True)
LOCK = Text("lock", 1, 20, "text-lock", one_line=True)
INSTRUMENT = Text("instrument", 2, 40, "text-instrument", one_line=True)
#: The number on an item of gear, its size, and the paper of its test.
GEAR = Text("number", 2, 40, "text-instrument", one_line=True, plain=True)
GEAR_SIZE = Text("size", 0, 20, one_line=True)
CERTIFICATE = Text("certificate", 0, 60, one_line=True)
#: Where a label hangs, by which method a foreign one says it was computed, and the licence of whoever signs a study.
LABEL_PLACE = Text("place", 2, 80, "text-between", one_line=True)
LABEL_METHOD = Text("method", 0, 60, one_line=True)
LICENCE = Text("licence", 2, 60, "text-between", one_line=True, plain=True)
#: A line of an emergency plan.
EMERGENCY = Text("call", 0, 160, one_line=True)
#: A step of a scale of risk.
COST = Text("cost", 2, 160, one_line=True)
SCALE_STEP = Text("step", 2, 30, "text-between", one_line=True)
#: What somebody adds to a step: shown apart from its words, which come from the network.
REMARK = Text("remark", 0, 160, one_line=True)
LOGIN = Text("login", 2, 40, "text-login", one_line=True)
NAME = Text("name", 2, 80, "text-between", one_line=True, plain=True)
PHONE = Text("phone", 0, 40, one_line=True)
PASSWORD = Text("password", 12, 200, "text-between")
SHORT_CODE = Text("code", 6, 6, "text-short-code")
ONE_TIME_CODE = Text("otp", 6, 8, "text-short-code")
#: What a position that signs is called, and where the site is.
POSITION = Text("positions", 2, 60, "text-between", one_line=True, plain=True)
SITE_NAME = Text("site_name", 0, 80, one_line=True, plain=True)
SITE_ADDRESS = Text("site_address", 0, 160, one_line=True, plain=True)
#: Whose somebody is, their trade and the languages they speak.
COMPANY = Text("company", 0, 80, one_line=True, plain=True)
TRADE = Text("trade", 0, 60, one_line=True)
LANGUAGES = Text("languages", 0, 80, one_line=True)
#: What is told and heard of hazards, and what somebody comes for.
HAZARDS = Text("told", 20, 3000, "text-hazards")
HEARD = Text("heard", 4, 3000, "text-hazards-brought")
COMES_FOR = Text("work", 4, 200, "text-title", one_line=True)
JOB = Text("job", 0, 20, one_line=True)
#: Steps, practices and tools of a permit: one a line.
LINE = Text("line", 1, 300, one_line=True)
MOST_LINES = 30
#: A tag, as the document has it, and other texts of the document.
TAG = Text("tag", 1, 16, one_line=True)
PLATE = Text("name", 0, 80, one_line=True)
#: A number as it is typed, and points of a curve, a line each.
FIGURE = Text("figure", 0, 24, one_line=True)
POINTS = Text("points", 0, 6000)
#: An address of a document that is kept elsewhere.
PLACE_OF_DOCUMENT = Text("link", 8, 400, one_line=True, plain=True)
#: What is typed into the search, and into the filter of the ledger.
SEARCHED = Text("q", 0, 60, one_line=True)
FILTERED = Text("subject", 0, 100, one_line=True)

ALL: dict[str, Text] = {name: text for name, text in globals().items() if isinstance(text, Text)}
