"""One assessment of the demo waits for an opinion; what three saw, each alone, is sealed until then."""

from __future__ import annotations

from datetime import timedelta

from spinel.actions import assessing, improvements, jobs
from spinel.core.risk.opinions import HazardMark
from spinel.core.said import say
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


def proposes_an_improvement(demo: Demo) -> None:
    """What a longer tool would leave of the energy at the place of one job, by the study of the published network."""
    first = demo.act("maren", -1.1)
    here, job = demo.site.as_it_is(), jobs.view(demo.site, "J-0015")
    assert job.element is not None and job.hazard is not None
    far = 914.0
    after = here.study.hazard(job.element.id, job.touches, far).energy_cal_cm2
    improvements.propose(
        first, job.number, say("risk-option-distance", distance_mm=far), [say("risk-holds-distance")],
        job.hazard.energy_cal_cm2, after, "Two long tools, about a day's wage", demo.person("ruth"),
        here.day(demo.moment) + timedelta(days=40),
    )  # fmt: skip
