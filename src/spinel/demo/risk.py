"""One assessment of the demo waits for an opinion; what three saw, each alone, is sealed until then."""

from __future__ import annotations

from spinel.actions import assessing, jobs
from spinel.core.risk.opinions import HazardMark
from spinel.demo.history import Demo


def waits_for_an_opinion(demo: Demo) -> None:
    first = demo.act("maren", -2.4)
    number = next(
        line.number for line in jobs.lines(demo.site, "open") if line.outcome == "live_with_permit" and line.element
    )
    asked = assessing.ask(first, number, [demo.person(who) for who in ("sorcha", "wanda", "nils", "jory")])
    for login, hours, more in (
        ("sorcha", -2.2, ()),
        ("wanda", -1.9, (HazardMark(hazard="damp", severity=4, likelihood=4, rungs=("eliminate",),
                              note="Water drips from the duct above when the tide is in"),)),
        ("nils", -1.7, (HazardMark(hazard="noise", severity=2, likelihood=3, rungs=("warn", "rule"),
                             note="Nobody hears the attendant while the horn goes"),)),
    ):  # fmt: skip
        likely = {"sorcha": 2, "wanda": 4, "nils": 3}[login]
        marks = (
            HazardMark(hazard="shock", severity=4, likelihood=likely - 1, rungs=("engineer", "wear"), note=""),
            HazardMark(hazard="arc", severity=3, likelihood=likely, rungs=("engineer", "wear"), note=""),
        )  # fmt: skip
        assessing.seal(demo.act(login, hours), asked, (*marks, *more))
