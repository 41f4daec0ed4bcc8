"""The demo's studies, what was assigned of their findings, and the labels on its walls."""

from __future__ import annotations

import json
from datetime import timedelta
from functools import cache

from spinel.actions import drafting, labels, study_findings, study_runs
from spinel.actions.acting import SYSTEM, Act
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import profile
from spinel.core.study import SiteStudy
from spinel.core.study_result import study_content
from spinel.demo.history import Demo
from spinel.demo.site import element_id

#: Pieces with a label that was printed here, where it hangs, and whether the last walk-down saw it.
HUNG = (
    ("MC1", "Door of MC1", True), ("MC2", "Door of MC2", True), ("SWB-A", "Front, above 52-A", True),
    ("SWG-1", "Door of the intake", True), ("EDP-1", "Cover", False),
)  # fmt: skip
#: Labels that hung before there were any of ours: what each says, by a method or an edition of then.
FOUND = (
    ("T2", {"energy_cal_cm2": 28.3, "working_distance_mm": 610.0, "boundary_mm": 4100.0, "voltage_v": 480.0,
            "method": "IEEE 1584-2002", "day": "2019-03-12"}),
    ("SWB-B", {"category": 2, "voltage_v": 480.0, "method": "builder's own", "day": ""}),
    ("ATS-1", {"energy_cal_cm2": 40.0, "working_distance_mm": 455.0, "boundary_mm": 5200.0, "voltage_v": 480.0,
               "method": "IEEE 1584-2002", "day": "2019-03-12"}),
)  # fmt: skip


@cache
def _content(document: str, document_hash: str, ceiling_cal_cm2: float) -> str:
    """Every build studies the same documents."""
    network = accept(json.loads(document))
    practice = profile(network.site.profile)
    study = SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))
    return study_content(study, document_hash, ceiling_cal_cm2)


def _done(demo: Demo, hours: float, draft: str = "") -> str:
    number = study_runs.ask(demo.act("maren", hours), draft)
    run = study_runs.run(demo.site, number)
    content = _content(study_runs.document_of(demo.site, number), run.document_hash, run.ceiling_cal_cm2)
    study_runs.keep(Act(demo.site, SYSTEM, demo.act("maren", hours + 0.05).now), number, content)
    return number


def studied(demo: Demo) -> None:
    """The published network, signed; findings given; then a draft, to be compared."""
    number = _done(demo, -24 * 22)
    run = study_runs.run(demo.site, number)
    study_runs.sign(demo.act("tavi", -24 * 21.9), number, run.version, run.result_hash, "PE 40-1187, invented")
    act = demo.act("maren", -24 * 21.5)
    found = study_findings.listed(demo.site, act.at)
    today = (demo.moment - timedelta(days=21)).date()
    by_kind = {f.kind: f for f in reversed(found)}
    for kind, login, days in (("ceiling", "maren", 60), ("order", "nils", 17), ("duty", "nils", 40)):
        if kind in by_kind:
            study_findings.give(
                demo.act("maren", -24 * 21.4), by_kind[kind].name, 0, demo.person(login), today + timedelta(days=days)
            )
    accepted = next(f for f in found if f.kind == "order" and f.name != by_kind["order"].name)
    given = study_findings.give(demo.act("maren", -24 * 21.3), accepted.name, 0, demo.person("maren"), today)
    study_findings.close(
        demo.act("maren", -24 * 21.2), given, 1, "accepted", "Both darken the same section: nothing more is lost."
    )
    # its turn comes first: what the other stories do until then is there
    demo.act("maren", -2.6)
    drafts = drafting.drafts(demo.site)
    if drafts and not drafting.problems(demo.site, drafts[0].number):
        _done(demo, -2.5, drafts[0].number)


def labelled(demo: Demo) -> None:
    """What hangs on the walls: our own, those of others, and one that somebody took."""
    places = [(element_id(tag), "") for tag, _, _ in HUNG]
    numbers = labels.print_(demo.act("maren", -24 * 13.5), places)
    for number, (_, place, _) in zip(numbers, HUNG, strict=True):
        labels.hang(demo.act("sorcha", -24 * 13.2), number, 1, place, b"", False)
    for number, (_, _, seen) in zip(numbers, HUNG, strict=True):
        labels.look(demo.act("ivo", -24 * 4.2), number, 2, seen, "" if seen else "Only its glue is there", b"")
    for tag, told in FOUND:
        labels.found(demo.act("ivo", -24 * 4.1), element_id(tag), "", told, f"Front of {tag}", b"")
    labels.print_(demo.act("maren", -24 * 3), [(element_id("T2"), "")])
